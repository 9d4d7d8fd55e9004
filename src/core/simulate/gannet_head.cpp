// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/gannet_head.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <random>

#include "simulate/raster.h"
#include "simulate/scene.h"
#include "sky/ambient.h"
#include "sky/night_sky.h"

namespace askcount::simulate {
namespace {

using image::Linear32;
using image::Size;
constexpr double kRad = 3.14159265358979323846 / 180;
constexpr int kStars = 9000;
constexpr double kBeaconPeriod_s = 10, kBeaconFlash_s = 0.6;
constexpr double kBeaconX = 0.79, kBeaconY = 0.70;
constexpr double kBand_cd = 1.6e-3;  // the brightest part of the band
constexpr double kStar_cd = 0.9;     // a star of magnitude 0, spread over a pixel of a frame 1,500 across

using Vector = std::array<double, 3>;

double dot(const Vector& a, const Vector& b) {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}
Vector equatorial(double ra_deg, double dec_deg) {
  return {std::cos(dec_deg * kRad) * std::cos(ra_deg * kRad),
          std::cos(dec_deg * kRad) * std::sin(ra_deg * kRad), std::sin(dec_deg * kRad)};
}

// The galaxy's pole and centre (J2000).
const Vector kPole = equatorial(192.859, 27.128), kCentre = equatorial(266.405, -28.936);

struct Star {
  Vector at;
  float light;
  std::array<float, 3> tint;
};

/// The band's brightness (0 to 1) in a direction: bright along the plane, most at the centre, with a dark
/// rift.
double band(const Vector& v) {
  const double b = std::asin(std::clamp(dot(v, kPole), -1.0, 1.0)) / kRad;  // galactic latitude
  const Vector side = {kPole[1] * kCentre[2] - kPole[2] * kCentre[1],
                       kPole[2] * kCentre[0] - kPole[0] * kCentre[2],
                       kPole[0] * kCentre[1] - kPole[1] * kCentre[0]};
  const double l = std::atan2(dot(v, side), dot(v, kCentre)) / kRad;  // longitude
  const double wide = 7 + 9 * std::exp(-l * l / 900), bulge = std::exp(-(l * l / 260 + b * b / 110));
  const double lumps =
      0.85 + 0.15 * std::sin(l * 0.41 + 1.3 * std::sin(b * 0.3)) * std::sin(b * 0.62 + l * 0.13);
  const double rift =
      1 - 0.65 * std::exp(-std::pow((b - 1.2 * std::sin(l * 0.11)) / (1.6 + 0.8 * std::sin(l * 0.23)), 2)) *
              std::exp(-l * l / 3200);
  return (0.55 * std::exp(-b * b / (wide * wide)) * (0.35 + 0.65 * std::exp(-l * l / 4500)) + 0.75 * bulge) *
         lumps * rift;
}

/// From the sky of date to the camera: right, up, forward, at a sidereal time of the place.
struct Camera {
  std::array<Vector, 3> axes{};
  Camera(const sky::Aim& aim, double sidereal_deg, double latitude_deg) {
    // East, north, up in equatorial axes.
    const double t = sidereal_deg * kRad, f = latitude_deg * kRad;
    const Vector east = {-std::sin(t), std::cos(t), 0},
                 north = {-std::sin(f) * std::cos(t), -std::sin(f) * std::sin(t), std::cos(f)},
                 up = {std::cos(f) * std::cos(t), std::cos(f) * std::sin(t), std::sin(f)};
    const double b = aim.bearing_deg * kRad, h = aim.tilt_deg * kRad;
    for (size_t i = 0; i < 3; ++i) {
      axes[0][i] = std::cos(b) * east[i] - std::sin(b) * north[i];
      axes[1][i] = -std::sin(h) * (std::sin(b) * east[i] + std::cos(b) * north[i]) + std::cos(h) * up[i];
      axes[2][i] = std::cos(h) * (std::sin(b) * east[i] + std::cos(b) * north[i]) + std::sin(h) * up[i];
    }
  }
};

double sidereal_deg(Instant at,
                    double longitude_deg) {  // mean, good to a second of time: the made-up stars need no more
  const double days =
      static_cast<double>(at.time_since_epoch().count()) / 86400000.0 - 10957.5;  // from 2000-01-01 12:00
  return std::fmod(280.46061837 + 360.98564736629 * days + longitude_deg, 360);
}

}  // namespace

struct GannetHead::Sky {
  Size size;
  sky::Place place = scene_place("Gannet Head");
  sky::Aim aim = kGannetAim;
  double slope_px;  // pixels per unit of slope
  std::vector<Star> stars;
  explicit Sky(const SceneSetting& setting) : size(setting.size) {
    if (setting.place.known()) place = setting.place;
    if (setting.aim) aim = *setting.aim;
    slope_px = setting.across_deg > 0 ? size.width / 2.0 / std::tan(setting.across_deg / 2 * kRad)
                                      : kGannetFocal_mm / 36 * size.width;
    std::mt19937 random(41);
    std::uniform_real_distribution<double> even(0, 1);
    std::normal_distribution<double> normal(0, 1);
    while (stars.size() < kStars) {
      const double ra = 360 * even(random), dec = std::asin(2 * even(random) - 1) / kRad;
      const Vector at = equatorial(ra, dec);
      if (even(random) > 0.3 + 0.7 * std::min(1.0, 2 * band(at))) continue;
      const double magnitude =
          6.8 + std::log10(std::max(1e-6, even(random))) / 0.51;  // three times as many a magnitude fainter
      const double warm = std::clamp(0.5 * normal(random), -1.0, 1.0);
      stars.push_back({at,
                       static_cast<float>(kStar_cd * std::pow(10, -0.4 * std::max(-1.0, magnitude))),
                       {static_cast<float>(1 + 0.25 * warm), 1.0F, static_cast<float>(1 - 0.3 * warm)}});
    }
  }
  /// Where a place of the headland, given as shares of the frame at the scene's own aim, falls in a frame
  /// that looks elsewhere: it stands on the horizon there.
  Point land_at(double x, double y, const sky::Aim& now) const {
    const double own_px = kGannetFocal_mm / 36 * 1500,
                 turned = std::remainder(aim.bearing_deg - now.bearing_deg, 360);
    const double right = ((x - 0.5) * 1500) / own_px + std::tan(std::clamp(turned, -80.0, 80.0) * kRad),
                 up = (0.5 - y) * 1000 / own_px + std::tan(kGannetAim.tilt_deg * kRad) -
                      std::tan(now.tilt_deg * kRad);
    return {size.width / 2.0 + right * slope_px, size.height / 2.0 - up * slope_px};
  }
  Coverage land(const sky::Aim& now) const;
};

Coverage GannetHead::Sky::land(const sky::Aim& now) const {
  std::vector<Point> shape;
  for (const auto& [x, y] :
       {std::array{-9.0, 0.93},  std::array{0.15, 0.92},   std::array{0.38, 0.90},   std::array{0.52, 0.86},
        std::array{0.60, 0.80},  std::array{0.68, 0.775},  std::array{0.765, 0.765}, std::array{0.775, 0.71},
        std::array{0.781, 0.70}, std::array{0.785, 0.687}, std::array{0.795, 0.687}, std::array{0.799, 0.70},
        std::array{0.805, 0.71}, std::array{0.815, 0.765}, std::array{0.90, 0.78},   std::array{1.01, 0.83},
        std::array{1.2, 0.90},   std::array{9.0, 0.93},    std::array{9.0, 9.0},     std::array{-9.0, 9.0}})
    shape.push_back(land_at(x, y, now));
  Coverage land(size.width, size.height);
  land.add(shape);
  return land;
}

namespace {

/// One look at the sky: from where to where, when, and how far the shutter is open.
struct Look {
  Size size;
  double px;  // pixels per unit of slope
  sky::Aim aim;
  sky::Place place;
  Instant start, middle;
  double open_s;
  std::shared_ptr<const sky::Ephemeris> ephemeris;
  double lux;  // daylight
  Camera camera;

  Camera camera_at(Instant at) const {
    return {aim, sidereal_deg(at, place.longitude_deg), place.latitude_deg};
  }
};

/// What the sun leaves in the air, the sky's own glow, and the moon's.
float glow_of(const Look& l) {
  const double high = std::max(10.0, l.aim.tilt_deg);
  const sky::Direction face = l.ephemeris->at(sky::Body::Moon, l.middle, l.place);
  const double apart =
      std::hypot(std::remainder(face.azimuth_deg - l.aim.bearing_deg, 360), face.altitude_deg - high);
  const double moonlit = sky::moonlit_luminance(
      face.altitude_deg, l.ephemeris->moon(l.middle).phase_angle_deg, std::clamp(apart, 5.0, 180.0), high);
  return static_cast<float>(std::max(0.0, l.lux) / 3.14159265 * 0.7 +
                            sky::glow_luminance(sky::kNaturalGlow_mag, high) + moonlit);
}

/// Air and band, worked out coarsely and filled in: both are soft.
void draw_air(const Look& l, float glow, Linear32& out) {
  const Size size = l.size;
  const double px = l.px;
  const sky::Aim& aim = l.aim;
  const Camera& camera = l.camera;
  const int cell = std::max(2, size.width / 160), across = size.width / cell + 2,
            down = size.height / cell + 2;
  std::vector<float> coarse(static_cast<size_t>(across) * down * 3);
  for (int j = 0; j < down; ++j)
    for (int i = 0; i < across; ++i) {
      const double x = (i * cell - size.width / 2.0) / px, y = (size.height / 2.0 - j * cell) / px;
      Vector v{};
      for (size_t k = 0; k < 3; ++k) v[k] = camera.axes[2][k] + x * camera.axes[0][k] + y * camera.axes[1][k];
      const double length = std::sqrt(dot(v, v));
      for (double& k : v) k /= length;
      const double altitude =
          (y * std::cos(aim.tilt_deg * kRad) + std::sin(aim.tilt_deg * kRad)) / length;  // sine of it
      const double air = std::clamp(1 - 0.55 * std::exp(-std::max(0.0, altitude) / 0.12), 0.2,
                                    1.0);  // stars drown near the horizon
      const double low = std::exp(-std::max(0.0, altitude) / 0.16);
      const double b = kBand_cd * band(v) * air;
      float* p = coarse.data() + 3 * (static_cast<size_t>(j) * across + i);
      p[0] = static_cast<float>(b * 1.08 + glow * (0.75 + 0.55 * low));
      p[1] = static_cast<float>(b + glow * (0.92 + 0.25 * low));
      p[2] = static_cast<float>(b * 0.9 + glow * (1.25 - 0.1 * low));
    }
  for (int y = 0; y < size.height; ++y) {
    const int j = y / cell;
    const float fy = static_cast<float>(y % cell) / static_cast<float>(cell);
    float* row = out.row(y);
    for (int x = 0; x < size.width; ++x) {
      const int i = x / cell;
      const float fx = static_cast<float>(x % cell) / static_cast<float>(cell);
      const float* a = coarse.data() + 3 * (static_cast<size_t>(j) * across + i);
      const float* b = a + 3 * static_cast<size_t>(across);
      for (int c = 0; c < 3; ++c)
        row[3 * x + c] =
            (a[c] * (1 - fx) + a[3 + c] * fx) * (1 - fy) + (b[c] * (1 - fx) + b[3 + c] * fx) * fy;
    }
  }
}

/// A star's light on the four pixels around a place.
void splat(Linear32& out, double x, double y, const Star& star, float share) {
  const int x0 = static_cast<int>(std::floor(x - 0.5)), y0 = static_cast<int>(std::floor(y - 0.5));
  const auto fx = static_cast<float>(x - 0.5 - x0), fy = static_cast<float>(y - 0.5 - y0);
  for (int dy = 0; dy < 2; ++dy)
    for (int dx = 0; dx < 2; ++dx) {
      if (x0 + dx < 0 || y0 + dy < 0 || x0 + dx >= out.size.width || y0 + dy >= out.size.height) continue;
      const float w = (dx ? fx : 1 - fx) * (dy ? fy : 1 - fy) * share * star.light;
      float* p = out.row(y0 + dy) + 3 * (x0 + dx);
      for (int c = 0; c < 3; ++c) p[c] += w * star.tint[static_cast<size_t>(c)];
    }
}

/// Stars along the arcs they draw while the shutter is open.
void draw_stars(const Look& l, const std::vector<Star>& stars, Linear32& out) {
  const Size size = l.size;
  const double px = l.px, drift_px = 15.041 / 206265 * l.open_s * px;
  const int steps = std::clamp(static_cast<int>(drift_px * 1.5) + 1, 1, 400);
  const double fade = 1 / (1 + std::pow(std::max(0.0, l.lux) / 0.05, 1.0));  // drowned by twilight
  if (fade <= 0.02) return;
  const float scale =
      static_cast<float>(size.width / 1500.0 * size.width / 1500.0) / static_cast<float>(steps);
  std::vector<Camera> turning;
  turning.reserve(static_cast<size_t>(steps));
  for (int k = 0; k < steps; ++k)
    turning.push_back(l.camera_at(later(l.start, l.open_s * (k + 0.5) / steps)));
  for (const Star& star : stars) {
    const double ahead = dot(star.at, l.camera.axes[2]);
    if (ahead < 0.3) continue;
    const double mx = dot(star.at, l.camera.axes[0]) / ahead * px + size.width / 2.0,
                 my = size.height / 2.0 - dot(star.at, l.camera.axes[1]) / ahead * px;
    if (mx < -drift_px - 2 || my < -drift_px - 2 || mx > size.width + drift_px + 2 ||
        my > size.height + drift_px + 2)
      continue;
    for (const Camera& c : turning) {
      const double z = dot(star.at, c.axes[2]);
      splat(out, dot(star.at, c.axes[0]) / z * px + size.width / 2.0,
            size.height / 2.0 - dot(star.at, c.axes[1]) / z * px, star, scale * static_cast<float>(fade));
    }
  }
}

void draw_moon(const Look& l, Linear32& out) {
  const Size size = l.size;
  const sky::Optics optics{36 * l.px / size.width, 36, 36.0 * size.height / size.width, 0};
  const sky::Direction moon = l.ephemeris->at(sky::Body::Moon, l.middle, l.place);
  if (const auto at = sky::project(moon, l.aim, optics); at && moon.altitude_deg > -1) {
    const sky::MoonFace face = l.ephemeris->moon(l.middle);
    const double r = std::max(1.0, face.width_deg / 2 * kRad * l.px), cx = (0.5 + at->x) * size.width,
                 cy = (0.5 - at->y) * size.height;
    for (int y = std::max(0, static_cast<int>(cy - r - 1)); y < std::min<double>(size.height, cy + r + 2);
         ++y)
      for (int x = std::max(0, static_cast<int>(cx - r - 1)); x < std::min<double>(size.width, cx + r + 2);
           ++x) {
        const double d = std::hypot(x + 0.5 - cx, y + 0.5 - cy), share = std::clamp(r - d + 0.5, 0.0, 1.0);
        const double edge = (x + 0.5 - cx) / r * (face.waxing ? 1 : -1);  // the lit side
        const bool lit = edge > 1 - 2 * face.lit;
        float* p = out.row(y) + 3 * x;
        for (int c = 0; c < 3; ++c) p[c] += static_cast<float>(share * (lit ? 2500 : 0.02));
      }
  }
}

void draw_land(const Coverage& land, float ground, Linear32& out) {
  for (int y = land.first_row(); y < land.last_row(); ++y) {
    const float* share = land.row(y);
    float* row = out.row(y);
    for (int x = 0; x < out.size.width; ++x)
      for (int c = 0; c < 3; ++c) row[3 * x + c] += (ground - row[3 * x + c]) * share[x];
  }
}

/// The beacon's flash, around where it stands.
void draw_beacon(const Look& l, const Point& beacon, Linear32& out) {
  const Size size = l.size;
  const auto [bx, by] = beacon;
  const double from =
      std::fmod(static_cast<double>(l.start.time_since_epoch().count() % 86400000) / 1000, kBeaconPeriod_s);
  const double on = flashing_s(from, l.open_s, kBeaconPeriod_s, kBeaconFlash_s);
  const double share = l.open_s > 0 ? on / l.open_s : 0, radius = size.width / 420.0;
  if (l.ephemeris->at(sky::Body::Sun, l.middle, l.place).altitude_deg >= -1) return;
  for (int y = std::max(0, static_cast<int>(by - 9 * radius));
       y < std::min<double>(size.height, by + 9 * radius); ++y)
    for (int x = std::max(0, static_cast<int>(bx - 9 * radius));
         x < std::min<double>(size.width, bx + 9 * radius); ++x) {
      const double d2 = ((x - bx) * (x - bx) + (y - by) * (y - by)) / (radius * radius);
      const auto f = static_cast<float>(share * 6 *
                                        (std::exp(-d2 * 1.5) + 0.02 / (1 + d2) * std::max(0.0, 1 - d2 / 81)));
      float* p = out.row(y) + 3 * x;
      p[0] += f;
      p[1] += f * 0.9F;
      p[2] += f * 0.7F;
    }
}

}  // namespace

GannetHead::GannetHead(const SceneSetting& setting) : sky_(std::make_unique<Sky>(setting)) {}
GannetHead::~GannetHead() = default;

Linear32 GannetHead::seen(Instant start, double open_s) const {
  return seen_towards(sky_->aim, start, open_s);
}

Linear32 GannetHead::seen_towards(const sky::Aim& aim, Instant start, double open_s) const {
  const Sky& s = *sky_;
  const Instant middle = later(start, open_s / 2);
  const auto ephemeris = sky::ephemeris_for(middle, middle);
  const double lux =
      sky::daylight_lux(ephemeris->at(sky::Body::Sun, middle, s.place).altitude_deg) - sky::kStarlight_lux;
  const Camera camera(aim, sidereal_deg(middle, s.place.longitude_deg), s.place.latitude_deg);
  const Look look{s.size, s.slope_px, aim, s.place, start, middle, open_s, ephemeris, lux, camera};
  const float glow = glow_of(look);
  Linear32 out(s.size);
  draw_air(look, glow, out);
  draw_stars(look, s.stars, out);
  draw_moon(look, out);
  draw_land(s.land(aim), glow * 0.06F + 2e-5F, out);
  draw_beacon(look, s.land_at(kBeaconX, kBeaconY, aim), out);
  return out;
}

}  // namespace askcount::simulate
