// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/alum_jar.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "simulate/raster.h"

namespace askcount::simulate {
namespace {

using image::Linear32;
using image::Size;
constexpr double kPi = 3.14159265358979323846;
constexpr double kLamp_cd = 120;  // a white sheet under the lamp
constexpr long long kRound_ms = 5LL * 86400000;
constexpr double kFull_h = 150;  // of growth at its own pace: no more room

struct Crystal {
  double x, y;   // share of the frame
  double share;  // of the largest one's size
  double turn;
  double late_h;  // begins this many hours later
};
constexpr std::array<Crystal, 7> kCrystals = {{{0.50, 0.66, 1.0, 0.2, 0},
                                               {0.36, 0.71, 0.62, 0.7, 3},
                                               {0.62, 0.72, 0.70, -0.3, 2},
                                               {0.44, 0.76, 0.42, 1.1, 8},
                                               {0.57, 0.78, 0.5, 0.5, 6},
                                               {0.70, 0.77, 0.36, 0.9, 14},
                                               {0.31, 0.78, 0.33, 0.1, 18}}};

double hours(Instant at) {
  const long long ms = at.time_since_epoch().count();
  return static_cast<double>(((ms % kRound_ms) + kRound_ms) % kRound_ms) / 3600000.0;
}

}  // namespace

struct AlumJar::Still {
  Size size;
  std::optional<Instant> begins;
  double haste;
  Linear32 ground;
  explicit Still(const SceneSetting& setting)
      : size(setting.size), begins(setting.begins), haste(setting.haste), ground(setting.size) {
    const Size s = size;
    // The lamp above left, its light falling off over wall, sill and glass.
    const double w = s.width, h = s.height;
    for (int y = 0; y < s.height; ++y)
      for (int x = 0; x < s.width; ++x) {
        const double u = x / w, v = y / h, d2 = (u - 0.3) * (u - 0.3) * 1.5 + (v + 0.1) * (v + 0.1);
        const double light = kLamp_cd * 0.55 / (1 + 2.2 * d2), sill = v > 0.84 ? 0.55 : 0.32;
        float* p = ground.row(y) + 3 * x;
        p[0] = static_cast<float>(light * sill * 1.12);
        p[1] = static_cast<float>(light * sill);
        p[2] = static_cast<float>(light * sill * (v > 0.84 ? 0.72 : 0.86));
      }
    Coverage jar(s.width, s.height), water(s.width, s.height), edge(s.width, s.height);
    jar.add({{0.22 * w, 0.12 * h}, {0.78 * w, 0.12 * h}, {0.79 * w, 0.86 * h}, {0.21 * w, 0.86 * h}}, 0.25F);
    water.add({{0.225 * w, 0.26 * h}, {0.775 * w, 0.26 * h}, {0.785 * w, 0.85 * h}, {0.215 * w, 0.85 * h}},
              0.45F);
    for (const double x : {0.218, 0.772})
      edge.add({{x * w, 0.12 * h},
                {(x + 0.01) * w, 0.12 * h},
                {(x + 0.012) * w, 0.86 * h},
                {(x - 0.002) * w, 0.86 * h}},
               0.7F);
    paint(jar, {34, 36, 38}, ground);
    paint(water, {26, 33, 36}, ground);
    paint(edge, {75, 78, 78}, ground);
  }
};

AlumJar::AlumJar(const SceneSetting& setting) : still_(std::make_unique<Still>(setting)) {}
AlumJar::~AlumJar() = default;

double AlumJar::crystal_mm(Instant at) {
  return 1.5 + kAlumGrowth_mm_per_hour * hours(at);
}

Linear32 AlumJar::seen(Instant start, double open_s) const {
  const Size size = still_->size;
  Linear32 out = still_->ground;
  const Instant middle = later(start, open_s / 2);
  const double w = size.width, h = size.height, per_mm = w / kAlumField_mm,
               age = std::min(
                   kFull_h,
                   still_->haste * (still_->begins
                                        ? static_cast<double>((middle - *still_->begins).count()) / 3600000
                                        : hours(middle)));
  for (const Crystal& c : kCrystals) {
    const double grown = std::max(0.0, age - c.late_h);
    const double r = c.share * (1.5 + kAlumGrowth_mm_per_hour * grown) * per_mm;
    if (grown <= 0 || r < 0.5) continue;
    const double cx = c.x * w, cy = std::min(c.y * h, 0.855 * h - 0.8 * r);  // on the jar's floor
    // An octahedron seen from the side: four faces, each with its own share of the lamp.
    std::array<Point, 4> tip;
    for (int k = 0; k < 4; ++k) {
      const double a = c.turn + k * kPi / 2;
      tip[static_cast<size_t>(k)] = {cx + r * std::cos(a) * (k % 2 ? 0.8 : 1),
                                     cy + r * std::sin(a) * (k % 2 ? 0.8 : 1)};
    }
    const Point middle{cx - 0.15 * r, cy - 0.2 * r};
    for (int k = 0; k < 4; ++k) {
      const Point &a = tip[static_cast<size_t>(k)], &b = tip[static_cast<size_t>((k + 1) % 4)];
      const double nx = (a.x + b.x) / 2 - cx, ny = (a.y + b.y) / 2 - cy;
      const double facing = 0.5 - 0.5 * (nx * 0.45 + ny * 0.9) / std::max(1.0, std::hypot(nx, ny));
      Coverage face(size.width, size.height);
      face.add({middle, a, b}, 0.85F);
      const auto light = static_cast<float>(kLamp_cd * (0.12 + 0.62 * facing));
      paint(face, {light * 0.98F, light, light * 1.03F}, out);
    }
  }
  return out;
}

}  // namespace askcount::simulate
