// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/camera.h"

#include <algorithm>
#include <cmath>
#include <random>
#include <vector>

#include "base/dials.h"
#include "image/tone.h"

namespace askcount::simulate {
namespace {

constexpr double kMidGrey = 0.18;
constexpr double kMeter = 12.5;     // ISO 2720
constexpr float kFullWell = 45000;  // electrons at ISO 100
constexpr float kReadNoise = 4;     // electrons
constexpr image::Size kThumbnail = {160, 107};
constexpr size_t kNoiseTable = 1 << 16;

std::uint64_t mixed(std::uint64_t x) {  // splitmix64
  x += 0x9E3779B97F4A7C15ULL;
  x = (x ^ (x >> 30)) * 0xBF58476D1CE4E5B9ULL;
  x = (x ^ (x >> 27)) * 0x94D049BB133111EBULL;
  return x ^ (x >> 31);
}

const std::vector<float>& noise_table() {
  static const std::vector<float> table = [] {
    std::vector<float> t(kNoiseTable);
    std::mt19937 random(7);
    std::normal_distribution<float> normal;
    for (float& v : t) v = normal(random);
    return t;
  }();
  return table;
}

image::Coded8 reduced(const image::Coded8& picture, image::Size to) {
  image::Coded8 out(to);
  const auto& linear = image::linear_of_code();
  for (int y = 0; y < to.height; ++y)
    for (int x = 0; x < to.width; ++x) {
      const int x0 = x * picture.size.width / to.width,
                x1 = std::max(x0 + 1, (x + 1) * picture.size.width / to.width);
      const int y0 = y * picture.size.height / to.height,
                y1 = std::max(y0 + 1, (y + 1) * picture.size.height / to.height);
      float sum[3] = {};
      for (int v = y0; v < y1; ++v)
        for (int u = x0; u < x1; ++u)
          for (int c = 0; c < 3; ++c) sum[c] += linear[picture.row(v)[3 * u + c]];
      const auto n = static_cast<float>((x1 - x0) * (y1 - y0));
      for (int c = 0; c < 3; ++c)
        out.row(y)[3 * x + c] =
            static_cast<std::uint8_t>(std::lround(255 * image::code_of_linear(sum[c] / n)));
    }
  return out;
}

}  // namespace

void visit(Fields& f, CameraSettings& s) {
  f.number("aperture_spread_stops", s.aperture_spread_stops, 0, 5);
  f.number("noise", s.noise, 0, 100);
  f.number("quality", s.quality, 1, 100);
  f.number("seed", s.seed, 0, 1e15);
  f.part("flaws", s.flaws, [](Fields& g, Flaws& flaws) { visit(g, flaws); });
}

double aperture_error(const CameraSettings& settings, std::uint64_t index) {
  std::mt19937_64 random(mixed(settings.seed * 1000003 + index));
  return std::normal_distribution<double>(0, 1)(random) * settings.aperture_spread_stops;
}

image::Coded8 develop(const image::Linear32& seen, const ramp::Exposure& exposure, double error_stops,
                      const CameraSettings& settings, std::uint64_t index) {
  const auto gain =
      static_cast<float>(kMidGrey / kMeter * 100 * std::exp2(ramp::stops_of(exposure) + error_stops));
  const auto iso = static_cast<float>(exposure.iso / 100);
  const auto amount = static_cast<float>(settings.noise);
  const float well = kFullWell / iso;
  const float photon = amount * amount / well,
              floor = amount * amount * (kReadNoise / well) * (kReadNoise / well);
  static const image::CodingTable plain{image::GainCurve(1)};
  const float* codes = plain.data();
  const std::vector<float>& noise = noise_table();
  std::uint64_t random = mixed(settings.seed ^ (index * 7919 + 13));
  image::Coded8 out(seen.size);
  for (int y = 0; y < seen.size.height; ++y) {
    const float* in = seen.row(y);
    std::uint8_t* to = out.row(y);
    random = mixed(random);
    size_t at = random % kNoiseTable;
    for (int x = 0; x < seen.size.width; ++x, in += 3, to += 3)
      for (int c = 0; c < 3; ++c) {
        const float light = in[c] * gain;
        const float v = light + noise[at] * std::sqrt(light * photon + floor);
        at = (at + 1) & (kNoiseTable - 1);
        const float clipped = std::min(1.0F, std::max(0.0F, v));
        to[c] = static_cast<std::uint8_t>(
            codes[static_cast<int>(std::sqrt(clipped) * image::CodingTable::kSteps)] + 0.5F);
      }
  }
  for (const HotPlace& p : hot_places(settings.flaws, out.size, settings.seed)) {
    const auto more = static_cast<float>(exposure.shutter_s) * p.white_per_s;
    for (int c = 0; c < 3; ++c) {
      std::uint8_t& code = out.row(p.y)[3 * p.x + c];
      const float light = image::linear_of_code()[code] + (c == 0 ? 1.0F : 0.8F) * more;
      code = static_cast<std::uint8_t>(std::lround(255 * image::code_of_linear(std::min(1.0F, light))));
    }
  }
  return out;
}

image::Coded8 marker_picture(image::Size size) {
  image::Coded8 out(size);
  const double w = size.width, h = size.height;
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x) {
      // Four soft upright fingers and a palm below, out of focus and close.
      const double u = x / w, v = y / h;
      const double finger = std::cos((u - 0.5) * 8 * 3.14159265 * (1 + 0.12 * v));
      double skin = v > 0.62 ? 0.9 : 0.55 + 0.4 * finger;
      skin *= 1 - 0.5 * std::pow(std::abs(u - 0.5) * 2, 4);
      const double k = std::clamp(skin, 0.06, 1.0);
      std::uint8_t* p = out.row(y) + 3 * x;
      p[0] = static_cast<std::uint8_t>(188 * k);
      p[1] = static_cast<std::uint8_t>(138 * k);
      p[2] = static_cast<std::uint8_t>(112 * k);
    }
  return out;
}

media::Bytes camera_file(const image::Coded8& picture, const ramp::Exposure& exposure,
                         media::CameraTime captured, const CameraSettings& settings) {
  media::ShotInfo info;
  info.captured = captured;
  info.shutter_s = marked_shutter(exposure.shutter_s);
  info.f_number = marked_f_number(exposure.f_number);
  info.iso = marked_iso(exposure.iso);
  info.body = kBodyName;
  info.software = kSoftware;
  info.lens = kLensName;
  info.focal_mm = info.focal_35mm = kLens_mm;
  return media::with_metadata(media::encode_jpeg(picture, settings.quality), info,
                              media::encode_jpeg(reduced(picture, kThumbnail), 80));
}

}  // namespace askcount::simulate
