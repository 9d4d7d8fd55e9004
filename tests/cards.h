// SPDX-License-Identifier: GPL-3.0-or-later
// Cards as cameras other than the stand-in write them: scenes of blocks and texture, real JPEG with EXIF.
#pragma once

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <cmath>
#include <functional>
#include <map>
#include <random>
#include <tuple>

#include "media/metadata.h"
#include "support.h"

namespace askcount::test {

/// What is done to one frame.
struct Harm {
  double dx = 0, dy = 0;  ///< pixels the camera moved
  int blur = 0;           ///< pixels to either side
  double haze = 0;        ///< 0 to 1
  double gain = 1;        ///< of the codes
  double blob = 0;        ///< side of something dark that passes, as a share of the picture's height
  int blob_x = 40;        ///< pixels from the left where it is
  int drops = 0;          ///< pixels to either side that drops on the lens blur, in the lower left
  double late_s = 0;
  bool missing = false, cut = false, empty = false, no_time = false;
};

/// A card of one take.
struct Card {
  image::Size size{480, 320};
  int frames = 60;
  double interval_s = 10;
  int seed = 1;
  double noise = 2;
  bool whole_seconds = false;
  int first_number = 1;
  long long first_ms = 1760000000000;
  std::string body = "Field 1";
  std::function<Harm(int)> harm = [](int) { return Harm(); };
  std::function<media::ShotInfo(int, media::ShotInfo)> info = [](int, media::ShotInfo i) { return i; };
};

/// Code of a scene at a place: a sky, blocks with windows, textured ground.
inline double scene_at(int seed, double x, double y, image::Size size) {
  const double h = size.height;
  if (y < 0.15 * h) return 200 - 60 * y / h;
  const auto mix = [&](int a, int b) {
    unsigned v = static_cast<unsigned>(a) * 73856093U ^ static_cast<unsigned>(b) * 19349663U ^
                 static_cast<unsigned>(seed) * 83492791U;
    v = (v ^ (v >> 13)) * 1274126177U;
    return (v ^ (v >> 16)) % 1000 / 1000.0;
  };
  if (y < 0.6 * h) {
    const int block = static_cast<int>(std::floor(x / (0.11 * h)));
    if (y < (0.2 + 0.25 * mix(block, 1)) * h) return 200 - 60 * y / h;
    const double in = std::fmod(x, 9), down = std::fmod(y, 11);
    return in > 3 && in < 7 && down > 4 && down < 8
               ? 40 + 190 * mix(static_cast<int>(x / 9), static_cast<int>(y / 11))
               : 50 + 90 * mix(block, 2);
  }
  return 60 + 80 * mix(static_cast<int>(x / 3), static_cast<int>(y / 3));
}

inline image::Coded8 picture_of(const Card& c, int n, const Harm& harm) {
  image::Coded8 p(c.size);
  std::mt19937 random(static_cast<unsigned>(c.seed * 1000 + n));
  // Even noise of that deviation, from few draws.
  const auto noise = [&random, wide = 3.46 * c.noise](std::mt19937&) {
    return wide * (random() / 4294967296.0 - 0.5);
  };
  // Drawn once a scene, with room to move in; between pixels as a lens would: the mean of the four around.
  constexpr int kRoom = 12;
  const int width = c.size.width + 2 * kRoom, height = c.size.height + 2 * kRoom;
  static std::map<std::tuple<int, int, int>, std::vector<float>> drawn;
  std::vector<float>& scene = drawn[{c.seed, c.size.width, c.size.height}];
  if (scene.empty())
    for (int y = 0; y < height; ++y)
      for (int x = 0; x < width; ++x)
        scene.push_back(static_cast<float>(scene_at(c.seed, x + 2000, y - kRoom, c.size)));
  const auto at = [&](double x, double y) {
    const int x0 = std::clamp(static_cast<int>(std::floor(x)) + kRoom, 0, width - 2);
    const int y0 = std::clamp(static_cast<int>(std::floor(y)) + kRoom, 0, height - 2);
    const double fx = x - std::floor(x), fy = y - std::floor(y);
    const float* v = scene.data() + static_cast<size_t>(y0) * width + x0;
    return (v[0] * (1 - fx) + v[1] * fx) * (1 - fy) + (v[width] * (1 - fx) + v[width + 1] * fx) * fy;
  };
  std::vector<double> grey(static_cast<size_t>(c.size.width) * c.size.height);
  for (int y = 0; y < c.size.height; ++y)
    for (int x = 0; x < c.size.width; ++x)
      grey[static_cast<size_t>(y) * c.size.width + x] = at(x - harm.dx, y - harm.dy);
  for (int pass = 0; pass < 2 && harm.blur > 0; ++pass) {
    std::vector<double> sharp = grey;
    const int step = pass == 0 ? 1 : c.size.width, length = pass == 0 ? c.size.width : c.size.height;
    for (int y = 0; y < c.size.height; ++y)
      for (int x = 0; x < c.size.width; ++x) {
        double sum = 0;
        int count = 0;
        const int here = pass == 0 ? x : y;
        for (int d = -harm.blur; d <= harm.blur; ++d)
          if (here + d >= 0 && here + d < length)
            sum += sharp[static_cast<size_t>(y * c.size.width + x + d * step)], ++count;
        grey[static_cast<size_t>(y) * c.size.width + x] = sum / count;
      }
  }
  // A drop shows the mean of what is around.
  const int low = c.size.height * 55 / 100, left = c.size.width * 45 / 100;
  const std::vector<double> clear = harm.drops > 0 ? grey : std::vector<double>();
  for (int y = low; y < c.size.height && harm.drops > 0; ++y)
    for (int x = 0; x < left; ++x) {
      double sum = 0;
      int count = 0;
      for (int d = -harm.drops; d <= harm.drops; ++d)
        for (int e = -harm.drops; e <= harm.drops; ++e)
          if (x + d >= 0 && y + e >= low && y + e < c.size.height)
            sum += clear[static_cast<size_t>(y + e) * c.size.width + x + d], ++count;
      grey[static_cast<size_t>(y) * c.size.width + x] = sum / count;
    }
  const int side = static_cast<int>(harm.blob * c.size.height);
  for (int y = 0; y < c.size.height; ++y)
    for (int x = 0; x < c.size.width; ++x) {
      double v = grey[static_cast<size_t>(y) * c.size.width + x];
      if (x > harm.blob_x && x < harm.blob_x + side && y > 30 && y < 30 + side) v = 25;
      v = v * (1 - harm.haze) + 190 * harm.haze;
      v = std::clamp(v * harm.gain + noise(random), 0.0, 255.0);
      for (int k = 0; k < 3; ++k) p.row(y)[x * 3 + k] = static_cast<std::uint8_t>(v);
    }
  return p;
}

/// Writes it below `folder`; returns how many files.
inline int write_card(const Card& c, const fs::path& folder) {
  fs::create_directories(folder);
  int number = c.first_number, files = 0;
  for (int n = 0; n < c.frames; ++n, ++number) {
    const Harm harm = c.harm(n);
    if (harm.missing) continue;
    if (number > 9999) number = 1;
    media::ShotInfo info;
    info.body = c.body;
    info.shutter_s = 1 / 60.0;
    info.f_number = 8;
    info.iso = 100;
    std::mt19937 random(static_cast<unsigned>(n + 7));
    const long long ms = c.first_ms + std::llround(1000 * (c.interval_s * n + harm.late_s)) +
                         (c.whole_seconds ? 0 : random() % 40);
    if (!harm.no_time)
      info.captured = media::CameraTime(std::chrono::milliseconds(c.whole_seconds ? ms / 1000 * 1000 : ms));
    info.whole_seconds = c.whole_seconds;
    info = c.info(n, info);
    media::Bytes bytes = media::with_metadata(media::encode_jpeg(picture_of(c, n, harm), 90), info, {});
    if (harm.cut) bytes.resize(bytes.size() * 2 / 3);
    if (harm.empty) bytes.clear();
    write(folder / fmt::format("FLD_{:04}.JPG", number), bytes);
    ++files;
  }
  return files;
}

}  // namespace askcount::test
