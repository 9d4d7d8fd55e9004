// SPDX-License-Identifier: GPL-3.0-or-later
#include "look/cube.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <sstream>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount::look {
namespace {

constexpr int kLargest = 129, kLargest1D = 65536;
constexpr int kOf1D = 33;  // a table of curves becomes a cube of this size

/// A file while it is read.
struct Reading {
  std::string file;
  int line = 0;
  [[noreturn]] void fail(const std::string& what,
                         const std::string& advice = say("Export it again as a .cube table.")) const {
    throw bad_input(say("{}, line {}: {}", file, line, what), advice);
  }
  /// Three numbers of a line.
  std::array<float, 3> three(std::string_view text) const {
    std::array<float, 3> out{};
    for (float& v : out) {
      text.remove_prefix(std::min(text.find_first_not_of(" \t"), text.size()));
      const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), v);
      if (error != std::errc() || !std::isfinite(v)) fail(say("three numbers are wanted here."));
      text.remove_prefix(static_cast<size_t>(end - text.data()));
    }
    if (text.find_first_not_of(" \t\r") != std::string_view::npos)
      fail(say("there is more here than three numbers."));
    return out;
  }
};

/// Three curves as a cube.
std::vector<float> of_curves(const std::vector<float>& curves, int entries) {
  std::vector<float> out;
  out.reserve(static_cast<size_t>(kOf1D) * kOf1D * kOf1D * 3);
  const auto at = [&](int i, size_t colour) {
    const double place = static_cast<double>(i) / (kOf1D - 1) * (entries - 1);
    const int low = std::min(static_cast<int>(place), entries - 2);
    const auto part = static_cast<float>(place - low);
    const float* v = curves.data() + static_cast<size_t>(low) * 3 + colour;
    return v[0] * (1 - part) + v[3] * part;
  };
  for (int b = 0; b < kOf1D; ++b)
    for (int g = 0; g < kOf1D; ++g)
      for (int r = 0; r < kOf1D; ++r) out.insert(out.end(), {at(r, 0), at(g, 1), at(b, 2)});
  return out;
}

}  // namespace

void Cube::apply(float* red, float* green, float* blue, int n) const {
  const float scale = static_cast<float>(size - 1) / 255.0F;
  const int row = 3 * size, layer = row * size;
  const auto top = static_cast<float>(size - 1);
  for (int x = 0; x < n; ++x) {
    const float r = std::clamp(red[x] * scale, 0.0F, top), g = std::clamp(green[x] * scale, 0.0F, top),
                b = std::clamp(blue[x] * scale, 0.0F, top);
    const int ri = std::min(static_cast<int>(r), size - 2), gi = std::min(static_cast<int>(g), size - 2),
              bi = std::min(static_cast<int>(b), size - 2);
    const float fr = r - static_cast<float>(ri), fg = g - static_cast<float>(gi),
                fb = b - static_cast<float>(bi);
    const float* at = rgb.data() + 3 * ri + row * gi + layer * bi;
    // From the near corner to the far one by the steps of the largest part first: one of six tetrahedra.
    struct Step {
      float part;
      int offset;
    };
    std::array<Step, 3> s = {{{fr, 3}, {fg, row}, {fb, layer}}};
    if (s[0].part < s[1].part) std::swap(s[0], s[1]);
    if (s[1].part < s[2].part) std::swap(s[1], s[2]);
    if (s[0].part < s[1].part) std::swap(s[0], s[1]);
    const float* one = at + s[0].offset;
    const float* two = one + s[1].offset;
    const float* far = two + s[2].offset;
    const float w0 = 1 - s[0].part, w1 = s[0].part - s[1].part, w2 = s[1].part - s[2].part, w3 = s[2].part;
    const auto mixed = [&](int c) {
      return std::clamp(255.0F * (at[c] * w0 + one[c] * w1 + two[c] * w2 + far[c] * w3), 0.0F, 255.0F);
    };
    red[x] = mixed(0);
    green[x] = mixed(1);
    blue[x] = mixed(2);
  }
}

Cube load_cube(const std::filesystem::path& file) {
  std::istringstream text(read_file(file));
  Reading at{file.string()};
  Cube cube;
  cube.name = file.stem().string();
  int size_1d = 0;
  std::vector<float> values;
  for (std::string line; std::getline(text, line);) {
    ++at.line;
    const size_t first = line.find_first_not_of(" \t\r");
    if (first == std::string::npos || line[first] == '#') continue;
    const std::string_view rest = std::string_view(line).substr(first);
    if (std::isalpha(static_cast<unsigned char>(rest.front())) == 0) {
      const auto three = at.three(rest);
      values.insert(values.end(), three.begin(), three.end());
      const size_t wanted = cube.size > 0 ? static_cast<size_t>(cube.size) * cube.size * cube.size * 3
                                          : static_cast<size_t>(size_1d) * 3;
      if (wanted == 0) at.fail(say("values come before LUT_3D_SIZE."));
      if (values.size() > wanted) at.fail(say("there are more than the {} values of its size.", wanted / 3));
      continue;
    }
    const size_t end = rest.find_first_of(" \t");
    const std::string_view word = rest.substr(0, end);
    const std::string_view value = end == std::string_view::npos ? std::string_view() : rest.substr(end);
    if (word == "TITLE") {
      const size_t from = value.find('"'), to = value.rfind('"');
      if (from != std::string_view::npos && to > from + 1) cube.name = value.substr(from + 1, to - from - 1);
    } else if (word == "LUT_3D_SIZE" || word == "LUT_1D_SIZE") {
      const bool three = word == "LUT_3D_SIZE";
      int n = 0;
      const size_t from = std::min(value.find_first_not_of(" \t"), value.size());
      std::from_chars(value.data() + from, value.data() + value.size(), n);
      const int most = three ? kLargest : kLargest1D;
      if (n < 2 || n > most) at.fail(say("its size must be from 2 to {}.", most));
      (three ? cube.size : size_1d) = n;
    } else if (word == "DOMAIN_MIN" || word == "DOMAIN_MAX") {
      const float wanted = word == "DOMAIN_MIN" ? 0 : 1;
      for (const float v : at.three(value))
        if (v != wanted)
          at.fail(say("{} is {}; only codes from 0 to 1 are known.", word, v),
                  say("Export it for sRGB or BT.709 codes from 0 to 1."));
    } else if (word != "LUT_3D_INPUT_RANGE" && word != "LUT_1D_INPUT_RANGE") {
      at.fail(say("\"{}\" is not known.", word));
    }
  }
  const int entries = cube.size > 0 ? cube.size * cube.size * cube.size : size_1d;
  if (entries == 0)
    throw bad_input(file.string() + say(" says no LUT_3D_SIZE."), say("Export it again as a .cube table."));
  if (values.size() != static_cast<size_t>(entries) * 3)
    throw bad_input(say("{} has {} of {} values: it has holes, or was cut short.", file.string(),
                        values.size() / 3, entries),
                    say("Export it again."));
  if (cube.size == 0) {
    values = of_curves(values, size_1d);
    cube.size = kOf1D;
  }
  cube.rgb = std::move(values);
  return cube;
}

void save_cube(const Cube& cube, const std::filesystem::path& file, const Guard& guard) {
  std::string name = cube.name;
  std::erase(name, '"');
  std::string text =
      fmt::format("# Written by Ask Count: sRGB codes in, sRGB codes out\nTITLE \"{}\"\nLUT_3D_SIZE {}\n",
                  name, cube.size);
  for (size_t i = 0; i + 2 < cube.rgb.size(); i += 3)
    text += fmt::format("{:.6f} {:.6f} {:.6f}\n", cube.rgb[i], cube.rgb[i + 1], cube.rgb[i + 2]);
  write_file_atomically({file, FileKind::ColourTable, guard}, text);
}

}  // namespace askcount::look
