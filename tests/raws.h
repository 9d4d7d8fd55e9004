// SPDX-License-Identifier: GPL-3.0-or-later
// Raw files of a made-up camera, written byte by byte: nothing of the stand-in's is in them.
#pragma once

#include <cmath>
#include <functional>

#include "image/pixels.h"
#include "support.h"

namespace askcount::test {

/// How the made-up camera sees and writes.
struct RawMake {
  image::Size size{240, 160};
  std::array<int, 4> pattern{0, 1, 1, 2};        ///< red, green, blue in reading order
  std::array<int, 4> black{256, 260, 250, 255};  ///< of those places
  int white = 4095;
  std::array<double, 3> neutral{0.4058, 1, 0.7127};  ///< what the sensor sees of the light that is white
  int orientation = 1;
  std::string when = "2026:09:14 17:20:03";
  double shutter_s = 0.01;
};

/// From XYZ to its colours; what it sees of D65 is `neutral` above.
inline constexpr double kRawMatrix[3][3] = {
    {0.7188, -0.1641, -0.0781}, {-0.4922, 1.2734, 0.2422}, {-0.1094, 0.2109, 0.6016}};

/// What the sensor sees of linear BT.709 light, in shares of its white for white in green.
inline std::array<double, 3> seen_by_sensor(const std::array<double, 3>& rgb, const RawMake& make) {
  constexpr double xyz[3][3] = {{0.4124564, 0.3575761, 0.1804375},
                                {0.2126729, 0.7151522, 0.0721750},
                                {0.0193339, 0.1191920, 0.9503041}};
  std::array<double, 3> out{};
  for (size_t c = 0; c < 3; ++c) {
    double white = 0;
    for (size_t k = 0; k < 3; ++k)
      for (size_t j = 0; j < 3; ++j) {
        out[c] += kRawMatrix[c][k] * xyz[k][j] * rgb[j];
        white += kRawMatrix[c][k] * xyz[k][j];
      }
    out[c] *= make.neutral[c] / white;  // another light than daylight: by each colour for itself
  }
  return out;
}

/// Writes a DNG of what `light` (linear BT.709, by pixel) is to the sensor.
inline void write_raw(const fs::path& file, const RawMake& make,
                      const std::function<std::array<double, 3>(int, int)>& light) {
  struct Entry {
    std::uint16_t tag, type;
    std::uint32_t count;
    std::string data;
  };
  const auto number = [](std::uint64_t v, int bytes) {
    std::string s;
    for (int i = 0; i < bytes; ++i) s += static_cast<char>(v >> (8 * i) & 255);
    return s;
  };
  const auto shorts = [&](std::initializer_list<int> values) {
    std::string s;
    for (const int v : values) s += number(static_cast<std::uint64_t>(v), 2);
    return s;
  };
  const auto rational = [&](double v) {
    return number(static_cast<std::uint32_t>(static_cast<std::int32_t>(std::lround(v * 10000))), 4) +
           number(10000, 4);
  };
  const int w = make.size.width, h = make.size.height;
  std::string blacks, matrix, neutral, pattern;
  for (const int b : make.black) blacks += rational(b);
  for (const auto& row : kRawMatrix)
    for (const double v : row) matrix += rational(v);
  for (const double v : make.neutral) neutral += rational(v);
  for (const int c : make.pattern) pattern += static_cast<char>(c);
  std::string data;
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      const auto place = static_cast<size_t>(2 * (y % 2) + x % 2);
      const double seen = seen_by_sensor(light(x, y), make)[static_cast<size_t>(make.pattern[place])];
      const double value = seen * (make.white - make.black[place]) + make.black[place];
      data += number(
          static_cast<std::uint64_t>(std::clamp(std::lround(value), 0L, static_cast<long>(make.white))), 2);
    }
  std::vector<Entry> first = {{254, 4, 1, number(0, 4)},
                              {256, 4, 1, number(static_cast<std::uint64_t>(w), 4)},
                              {257, 4, 1, number(static_cast<std::uint64_t>(h), 4)},
                              {258, 3, 1, shorts({16})},
                              {259, 3, 1, shorts({1})},
                              {262, 3, 1, shorts({32803})},
                              {271, 2, 9, std::string("Workshop\0", 9)},
                              {272, 2, 8, std::string("Model A\0", 8)},
                              {273, 4, 1, number(0, 4)},  // where the values begin: known at the end
                              {274, 3, 1, shorts({make.orientation})},
                              {277, 3, 1, shorts({1})},
                              {278, 4, 1, number(static_cast<std::uint64_t>(h), 4)},
                              {279, 4, 1, number(data.size(), 4)},
                              {284, 3, 1, shorts({1})},
                              {306, 2, 20, make.when + std::string(1, '\0')},
                              {33421, 3, 2, shorts({2, 2})},
                              {33422, 1, 4, pattern},
                              {34665, 4, 1, number(0, 4)},  // and the exposure
                              {50706, 1, 4, std::string("\1\4\0\0", 4)},
                              {50707, 1, 4, std::string("\1\1\0\0", 4)},
                              {50708, 2, 8, std::string("Model A\0", 8)},
                              {50713, 3, 2, shorts({2, 2})},
                              {50714, 5, 4, blacks},
                              {50717, 4, 1, number(static_cast<std::uint64_t>(make.white), 4)},
                              {50721, 10, 9, matrix},
                              {50728, 5, 3, neutral},
                              {50778, 3, 1, shorts({21})}};
  const std::vector<Entry> exposure = {{33434, 5, 1, rational(make.shutter_s)},
                                       {33437, 5, 1, rational(8)},
                                       {34855, 3, 1, shorts({100})},
                                       {36867, 2, 20, make.when + std::string(1, '\0')}};
  const auto directory = [&](const std::vector<Entry>& entries, size_t at) {
    std::string body = number(entries.size(), 2), rest;
    const size_t after = at + 2 + 12 * entries.size() + 4;
    for (const Entry& e : entries) {
      body += number(e.tag, 2) + number(e.type, 2) + number(e.count, 4);
      if (e.data.size() <= 4) {
        body += e.data + std::string(4 - e.data.size(), '\0');
      } else {
        if (rest.size() % 2 == 1) rest += '\0';
        body += number(after + rest.size(), 4);
        rest += e.data;
      }
    }
    rest.resize((rest.size() + 1) / 2 * 2);
    return body + number(0, 4) + rest;
  };
  const size_t second = 8 + directory(first, 8).size();
  const std::string shot = directory(exposure, second);
  for (Entry& e : first) {
    if (e.tag == 273) e.data = number(second + shot.size(), 4);
    if (e.tag == 34665) e.data = number(second, 4);
  }
  write(file, "II*" + std::string(1, '\0') + number(8, 4) + directory(first, 8) + shot + data);
}

}  // namespace askcount::test
