// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/tern_quay.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <random>

#include "simulate/raster.h"
#include "simulate/scene.h"
#include "sky/ambient.h"
#include "sky/sun.h"

namespace askcount::simulate {
namespace {

using image::Linear32;
using image::Size;
using std::numbers::pi;

constexpr double kHorizon = 0.56;     // share of the height, from the top
constexpr double kShore = 0.563;      // where the far water begins
constexpr double kBearing_deg = 248;  // what the middle of the frame looks at
constexpr double kWidth_deg = 74;     // 24 mm on a 36 mm sensor
constexpr double kTide_s = 12.42 * 3600;
constexpr double kSky_to_lux = 1 / pi;

struct Colour {
  float r = 0, g = 0, b = 0;
  operator std::array<float, 3>() const { return {r, g, b}; }  // NOLINT: as raster.h takes it
};
Colour operator*(const Colour& c, float k) {
  return {c.r * k, c.g * k, c.b * k};
}
Colour operator+(const Colour& a, const Colour& b) {
  return {a.r + b.r, a.g + b.g, a.b + b.b};
}
Colour mix(const Colour& a, const Colour& b, float t) {
  return a * (1 - t) + b * t;
}

/// The sky's colours by the sun's altitude; each of luminance near 1.
struct SkyColours {
  double altitude;
  Colour zenith, horizon, glow;
};
constexpr SkyColours kSky[] = {
    {-16, {0.62F, 0.95F, 2.4F}, {0.80F, 0.98F, 1.7F}, {0.9F, 1.0F, 1.2F}},
    {-10, {0.55F, 0.95F, 2.6F}, {1.20F, 0.92F, 1.2F}, {1.9F, 0.85F, 0.6F}},
    {-5, {0.60F, 0.98F, 2.2F}, {1.75F, 0.85F, 0.75F}, {2.4F, 0.75F, 0.25F}},
    {0, {0.70F, 1.0F, 1.75F}, {1.60F, 0.92F, 0.55F}, {2.1F, 0.82F, 0.22F}},
    {6, {0.72F, 1.02F, 1.65F}, {1.15F, 1.0F, 0.85F}, {1.5F, 0.95F, 0.5F}},
    {25, {0.70F, 1.03F, 1.70F}, {0.95F, 1.02F, 1.15F}, {1.1F, 1.0F, 0.9F}},
};

SkyColours sky_colours(double altitude) {
  if (altitude <= kSky[0].altitude) return kSky[0];
  for (size_t i = 1; i < std::size(kSky); ++i)
    if (altitude < kSky[i].altitude) {
      const auto t =
          static_cast<float>((altitude - kSky[i - 1].altitude) / (kSky[i].altitude - kSky[i - 1].altitude));
      return {altitude, mix(kSky[i - 1].zenith, kSky[i].zenith, t),
              mix(kSky[i - 1].horizon, kSky[i].horizon, t), mix(kSky[i - 1].glow, kSky[i].glow, t)};
    }
  return kSky[std::size(kSky) - 1];
}

/// A cloud texture that repeats in both directions: sums of smoothed random lattices, shaped into banks.
class CloudTile {
 public:
  static constexpr int kWide = 2048, kHigh = 512;
  CloudTile() : density_(static_cast<size_t>(kWide) * kHigh) {
    std::mt19937 random(20261009);
    float weight = 0.5F;
    for (int cells = 8; cells <= 256; cells *= 2, weight *= 0.55F) add_octave(cells, weight, random);
    for (float& d : density_) {
      const float t = std::clamp((d - 0.50F) / 0.30F, 0.0F, 1.0F);
      d = t * t * (3 - 2 * t);
    }
  }
  /// Density 0 to 1 at a place in cells of the texture; wraps.
  float at(float x, float y) const {
    const float fx = std::floor(x), fy = std::floor(y);
    const float tx = x - fx, ty = y - fy;
    const int x0 = static_cast<int>(fx) & (kWide - 1), x1 = (x0 + 1) & (kWide - 1);
    const int y0 = static_cast<int>(fy) & (kHigh - 1), y1 = (y0 + 1) & (kHigh - 1);
    const float* a = density_.data() + static_cast<size_t>(y0) * kWide;
    const float* b = density_.data() + static_cast<size_t>(y1) * kWide;
    return (a[x0] * (1 - tx) + a[x1] * tx) * (1 - ty) + (b[x0] * (1 - tx) + b[x1] * tx) * ty;
  }

 private:
  void add_octave(int cells, float weight, std::mt19937& random) {
    const int down = std::max(2, cells * 3 / 4);  // banks are longer than high
    std::vector<float> lattice(static_cast<size_t>(cells) * down);
    std::uniform_real_distribution<float> any(0, 1);
    for (float& v : lattice) v = any(random);
    const auto smooth = [](float t) { return t * t * (3 - 2 * t); };
    for (int y = 0; y < kHigh; ++y) {
      const float v = static_cast<float>(y) * down / kHigh;
      const int v0 = static_cast<int>(v);
      const float tv = smooth(v - v0);
      for (int x = 0; x < kWide; ++x) {
        const float u = static_cast<float>(x) * cells / kWide;
        const int u0 = static_cast<int>(u);
        const float tu = smooth(u - u0);
        const auto l = [&](int i, int j) {
          return lattice[static_cast<size_t>(j % down) * cells + i % cells];
        };
        density_[static_cast<size_t>(y) * kWide + x] +=
            weight * ((l(u0, v0) * (1 - tu) + l(u0 + 1, v0) * tu) * (1 - tv) +
                      (l(u0, v0 + 1) * (1 - tu) + l(u0 + 1, v0 + 1) * tu) * tv);
      }
    }
  }
  std::vector<float> density_;
};

const CloudTile& cloud_tile() {
  static const CloudTile tile;
  return tile;
}

struct Lamp {
  double x, y;     // share of width and height
  double sun_deg;  // comes on when the sun is this low
  float strength;  // cd/m² at its middle
  Colour colour;
};
constexpr Colour kWarm = {1.5F, 0.9F, 0.35F};
constexpr Colour kWindow = {1.35F, 0.95F, 0.5F};
constexpr std::array<Lamp, 9> kLamps = {{{0.205, 0.500, -1.2, 260, kWarm},
                                         {0.135, 0.520, -1.9, 70, kWindow},
                                         {0.300, 0.505, -2.6, 240, kWarm},
                                         {0.168, 0.545, -3.1, 60, kWindow},
                                         {0.405, 0.512, -3.7, 220, kWarm},
                                         {0.118, 0.548, -4.4, 60, kWindow},
                                         {0.690, 0.527, -5.0, 90, kWindow},
                                         {0.510, 0.520, -5.6, 200, kWarm},
                                         {0.740, 0.522, -6.6, 80, kWindow}}};
constexpr double kQuayBeaconX = 0.622, kQuayBeaconY = 0.492, kQuayBeaconPeriod_s = 6,
                 kQuayBeaconFlash_s = 0.6;
constexpr double kWarmUp_s = 90;  // a street lamp takes its time

struct Boat {
  double x, width, mast, sway_s, phase, below;  // shares of the frame; how far below the horizon it floats
};
constexpr std::array<Boat, 4> kBoats = {{{0.335, 0.135, 0.26, 7.3, 0.4, 0.20},
                                         {0.610, 0.105, 0.20, 6.1, 1.7, 0.13},
                                         {0.845, 0.165, 0.30, 8.4, 3.1, 0.27},
                                         {0.470, 0.060, 0.11, 4.9, 5.0, 0.075}}};

/// Height of the tide from −1 to 1, low in the late afternoon.
double tide(Instant t) {
  return -std::cos((scene_clock_s(t) - 16.2 * 3600) / kTide_s * 2 * pi);
}

}  // namespace

const sky::Place& tern_quay_place() {
  static const sky::Place place = sky::demo_places().front();
  return place;
}

struct TernQuay::Shapes {
  Size size;
  sky::Place place = tern_quay_place();
  double bearing_deg = kBearing_deg, across_deg = kWidth_deg, haste = 1;
  Coverage hills, town, quay;
  explicit Shapes(const SceneSetting& setting)
      : size(setting.size),
        haste(setting.haste),
        hills(size.width, size.height),
        town(size.width, size.height),
        quay(size.width, size.height) {
    if (setting.place.known()) place = setting.place;
    if (setting.aim) bearing_deg = setting.aim->bearing_deg;
    if (setting.across_deg > 0) across_deg = setting.across_deg;
    const Size s = size;
    const double w = s.width, h = s.height;
    const auto poly = [&](std::initializer_list<Point> shares) {
      std::vector<Point> p;
      for (const Point& q : shares) p.push_back({q.x * w, q.y * h});
      return p;
    };
    hills.add(poly({{-0.01, 0.57},
                    {-0.01, 0.50},
                    {0.08, 0.485},
                    {0.17, 0.455},
                    {0.27, 0.50},
                    {0.40, 0.535},
                    {0.55, 0.545},
                    {0.66, 0.52},
                    {0.78, 0.49},
                    {0.88, 0.51},
                    {1.01, 0.475},
                    {1.01, 0.57}}));
    for (const auto& [x, y, wide, roof] :
         {std::array{0.10, 0.505, 0.055, 0.02}, std::array{0.158, 0.520, 0.04, 0.018},
          std::array{0.205, 0.53, 0.05, 0.015}, std::array{0.68, 0.518, 0.035, 0.016},
          std::array{0.725, 0.512, 0.045, 0.02}}) {
      town.add(poly({{x, 0.575}, {x, y}, {x + wide / 2, y - roof}, {x + wide, y}, {x + wide, 0.575}}));
    }
    for (const Lamp& lamp : kLamps)
      if (lamp.strength > 100)
        town.add(poly({{lamp.x - 0.0008, 0.58},
                       {lamp.x - 0.0008, lamp.y},
                       {lamp.x + 0.0008, lamp.y},
                       {lamp.x + 0.0008, 0.58}}));
    town.add(poly({{kQuayBeaconX - 0.006, 0.58},
                   {kQuayBeaconX - 0.0035, kQuayBeaconY},
                   {kQuayBeaconX + 0.0035, kQuayBeaconY},
                   {kQuayBeaconX + 0.006, 0.58}}));
    quay.add(poly({{-0.01, 0.562}, {0.64, 0.566}, {0.64, 0.62}, {0.40, 0.64}, {-0.01, 0.68}}));
  }
};

TernQuay::TernQuay(const SceneSetting& setting) : shapes_(std::make_unique<Shapes>(setting)) {
  cloud_tile();
}
TernQuay::~TernQuay() = default;
TernQuay::TernQuay(TernQuay&&) noexcept = default;

std::vector<Instant> TernQuay::lamp_times(Instant day) {
  std::vector<Instant> times;
  for (const Lamp& lamp : kLamps)
    if (const auto t =
            sky::sun_falls_through(lamp.sun_deg, tern_quay_place(), day, day + std::chrono::hours(14)))
      times.push_back(*t);
  std::sort(times.begin(), times.end());
  return times;
}

namespace {

/// Everything about one exposure that does not depend on the pixel.
struct Moment {
  Instant start;
  double open_s;
  sky::Direction sun;
  double sun_x;       // share of the width
  double across_deg;  // of the frame
  float sky_level;    // cd/m²
  SkyColours colours;
  double cloud_shift;  // in frame widths
  double cloud_blur;   // the same, while the shutter is open
  double waterline;    // share of the height
};

/// `Stand` is where the scene stands and how fast its clouds are.
template <typename Stand>
Moment moment_of(const Stand& scene, Instant start, double open_s) {
  Moment m;
  m.start = start;
  m.open_s = open_s;
  const Instant middle = later(start, open_s / 2);
  m.sun = sky::sun_at(middle, scene.place);
  m.across_deg = scene.across_deg;
  m.sun_x = 0.5 + std::remainder(m.sun.azimuth_deg - scene.bearing_deg, 360) / scene.across_deg;
  m.sky_level = static_cast<float>(sky::daylight_lux(m.sun.altitude_deg) * kSky_to_lux + 2e-3);
  m.colours = sky_colours(m.sun.altitude_deg);
  m.cloud_shift = scene_clock_s(middle) * scene.haste / kCloudCrossing_s;
  m.cloud_blur = open_s * scene.haste / kCloudCrossing_s;
  m.waterline = 0.662 - 0.030 * (tide(middle) + 1);
  return m;
}

/// The sky without land, one row at a time.
class SkyRows {
 public:
  SkyRows(const Moment& m, Size size) : m_(m), size_(size), glow_x_(static_cast<size_t>(size.width)) {
    sun_y_ = kHorizon - m.sun.altitude_deg / m.across_deg * size.width / size.height;
    for (int x = 0; x < size.width; ++x) {
      const double d = ((x + 0.5) / size.width - m.sun_x) / 0.34;
      glow_x_[static_cast<size_t>(x)] = static_cast<float>(1 / (1 + d * d));
    }
    cell_ = 720.0F / static_cast<float>(size.width);  // texture cells in a pixel: a frame shows 720 of 2048
    shift_ = static_cast<float>(std::fmod(m.cloud_shift * 720, CloudTile::kWide));
    blur_ = static_cast<float>(m.cloud_blur * 720);
    taps_ = std::clamp(static_cast<int>(blur_ / cell_ / 2), 1, 8);
  }

  /// The sky at `elevation`, a share of the height above the horizon; `out` has 3 × width floats.
  void row(double elevation, float* out) const {
    const auto up = static_cast<float>(std::clamp(elevation / kHorizon, 0.0, 1.0));
    const double low_sun = (kHorizon - elevation - sun_y_) / 0.42;
    const auto glow_y = static_cast<float>(1 / (1 + low_sun * low_sun));
    const float rise = std::sqrt(up);
    const Colour base = mix(m_.colours.horizon * 1.15F, m_.colours.zenith * 0.62F, rise) * m_.sky_level;
    const Colour glow = m_.colours.glow * (m_.sky_level * 1.6F * glow_y);
    const Colour lit = mix(m_.colours.glow, m_.colours.horizon, 0.35F) * (m_.sky_level * 1.7F);
    const Colour shade = m_.colours.zenith * (m_.sky_level * 0.36F);
    const float v = 40.0F + static_cast<float>(elevation * size_.height) * cell_ * 1.6F;
    const float thin = 1 - 0.55F * up;
    for (int x = 0; x < size_.width; ++x) {
      const float u = static_cast<float>(x) * cell_ - shift_;
      float density = 0;
      for (int k = 0; k < taps_; ++k)
        density += cloud_tile().at(
            u + blur_ * ((static_cast<float>(k) + 0.5F) / static_cast<float>(taps_) - 0.5F), v);
      density *= 0.85F * thin / static_cast<float>(taps_);
      const float gx = glow_x_[static_cast<size_t>(x)];
      const Colour clear = base + glow * gx;
      const Colour cloud = mix(shade, lit, std::min(1.0F, 0.25F + 0.75F * gx) * (1 - 0.55F * density));
      const Colour c = mix(clear, cloud, density);
      out[3 * x] = c.r;
      out[3 * x + 1] = c.g;
      out[3 * x + 2] = c.b;
    }
  }

 private:
  const Moment& m_;
  Size size_;
  double sun_y_ = 0;
  std::vector<float> glow_x_;
  float cell_ = 1, shift_ = 0, blur_ = 0;
  int taps_ = 1;
};

/// Water mirrors the sky, darker, broken by ripples that a long exposure smooths.
void draw_water(const Moment& m, Size size, Linear32& out) {
  const int top = static_cast<int>(kShore * size.height);
  std::vector<float> tilt(static_cast<size_t>(size.width));
  const double t = scene_clock_s(m.start);
  for (int y = std::max(0, top); y < size.height; ++y) {
    const double depth = (y + 0.5) / size.height - kShore;  // share of the height below the water's edge
    const double mirrored = std::min(kHorizon * 0.98, depth * 1.25 + 0.02);
    // Nearer ripples are longer. Each is a wave whose contrast the shutter wears down.
    const double length = 0.010 + 0.10 * depth, period = 0.9 + 4 * depth;
    const double wear = 1 / std::sqrt(1 + std::pow(m.open_s / period * 3, 2));
    const double phase = 2 * pi * (depth * 9 / length * 0.06 - t / period);
    const float swing = static_cast<float>(0.05 * wear);
    const int source = std::clamp(static_cast<int>((kHorizon - mirrored) * size.height), 0, size.height - 1);
    const float* sky = out.row(source);
    float* row = out.row(y);
    const auto dark = static_cast<float>(0.62 - 0.18 * std::min(1.0, depth / 0.34));
    const double k = 2 * pi / (length * size.width * 3.1), drift = std::sin(phase * 0.37) * 6;
    for (int x = 0; x < size.width; ++x)
      tilt[static_cast<size_t>(x)] = static_cast<float>(std::sin(k * x + drift + phase)) * swing;
    for (int x = 0; x < size.width; ++x) {
      const float f = dark * (1 + tilt[static_cast<size_t>(x)]);
      row[3 * x] = sky[3 * x] * f * 0.92F;
      row[3 * x + 1] = sky[3 * x + 1] * f * 0.98F;
      row[3 * x + 2] = sky[3 * x + 2] * f * 1.02F;
    }
  }
}

void draw_boats(const Moment& m, Size size, Linear32& out) {
  const int subs = std::clamp(static_cast<int>(m.open_s / 0.4) + 1, 1, 8);
  const float share = 1.0F / static_cast<float>(subs);
  const Colour body = {0.020F, 0.024F, 0.030F};
  for (const Boat& boat : kBoats) {
    Coverage hull(size.width, size.height);
    for (int sub = 0; sub < subs; ++sub) {
      const double t = scene_clock_s(m.start) + m.open_s * (sub + 0.5) / subs;
      const double roll = 0.035 * std::sin(2 * pi * t / boat.sway_s + boat.phase);
      const double bob = 0.0022 * std::sin(2 * pi * t / (boat.sway_s * 0.7) + 2 * boat.phase);
      const double w = size.width, h = size.height, cx = boat.x * w;
      const double cy = (m.waterline + boat.below * 0.85 + bob) * h, half = boat.width * w / 2;
      const auto turn = [&](double dx, double dy) {
        return Point{cx + dx * std::cos(roll) - dy * std::sin(roll),
                     cy + dx * std::sin(roll) + dy * std::cos(roll)};
      };
      const double deck = -0.19 * half, keel = 0.16 * half, mast = boat.mast * h, thin = 0.012 * half + 0.35;
      hull.add({turn(-half, deck * 1.15), turn(half, deck * 1.45), turn(half * 0.78, keel),
                turn(-half * 0.82, keel)},
               share);
      hull.add({turn(-half * 0.45, deck), turn(-half * 0.45, deck * 2.3), turn(half * 0.12, deck * 2.3),
                turn(half * 0.2, deck)},
               share);
      hull.add({turn(-thin, deck), turn(-thin, -mast), turn(thin, -mast), turn(thin, deck)}, share);
    }
    paint(hull, body * (m.sky_level * 2.2F), out);
  }
}

void add_light(Linear32& out, double x, double y, double radius, const Colour& light) {
  const int x0 = std::max(0, static_cast<int>(x - 5 * radius)),
            x1 = std::min(out.size.width, static_cast<int>(x + 5 * radius) + 1);
  const int y0 = std::max(0, static_cast<int>(y - 5 * radius)),
            y1 = std::min(out.size.height, static_cast<int>(y + 5 * radius) + 1);
  for (int py = y0; py < y1; ++py)
    for (int px = x0; px < x1; ++px) {
      const double d2 =
          ((px + 0.5 - x) * (px + 0.5 - x) + (py + 0.5 - y) * (py + 0.5 - y)) / (radius * radius);
      if (d2 > 25) continue;
      const auto f = static_cast<float>(std::exp(-d2 * 2) + 0.035 / (1 + d2) * (1 - d2 / 25));
      float* p = out.row(py) + 3 * px;
      p[0] += light.r * f;
      p[1] += light.g * f;
      p[2] += light.b * f;
    }
}

/// A lamp's streak on the water below it.
void add_streak(Linear32& out, const Moment& m, double x, double width, const Colour& light) {
  const int from = std::max(0, static_cast<int>((m.waterline + 0.004) * out.size.height));
  const int to = std::min(out.size.height, static_cast<int>((m.waterline + 0.15) * out.size.height));
  for (int y = from; y < to; ++y) {
    const double depth = static_cast<double>(y - from) / (to - from);
    const auto fade = static_cast<float>(0.05 * (1 - depth) * (0.7 + 0.3 * std::sin(y * 0.9)));
    const double wide = width * (1 + 2 * depth);
    for (int px = std::max(0, static_cast<int>(x - 2 * wide));
         px < std::min(out.size.width, static_cast<int>(x + 2 * wide) + 1); ++px) {
      const double d = (px + 0.5 - x) / wide;
      const auto f = static_cast<float>(std::exp(-d * d * 2)) * fade;
      float* p = out.row(y) + 3 * px;
      p[0] += light.r * f;
      p[1] += light.g * f;
      p[2] += light.b * f;
    }
  }
}

void draw_lamps(const Moment& m, Size size, Linear32& out) {
  const double unit = size.width / 1000.0;
  for (const Lamp& lamp : kLamps) {
    // The sun falls about a degree in 430 s here: how long ago the lamp came on, without looking back in
    // time.
    const double since_s = (lamp.sun_deg - m.sun.altitude_deg) * 430;
    if (since_s <= 0 || m.sun.altitude_deg > 0) continue;
    const auto on = static_cast<float>(std::min(1.0, 0.15 + 0.85 * since_s / kWarmUp_s));
    const Colour light = lamp.colour * (lamp.strength * 0.12F * on);
    add_light(out, lamp.x * size.width, lamp.y * size.height, (lamp.strength > 100 ? 2.6 : 1.8) * unit,
              light);
    if (lamp.x < 0.66) add_streak(out, m, lamp.x * size.width, 3 * unit, light);
  }
  // The beacon: the part of the exposure during which it flashes.
  if (m.sun.altitude_deg < -2) {
    const double from = std::fmod(scene_clock_s(m.start) + 1e5 * kQuayBeaconPeriod_s, kQuayBeaconPeriod_s);
    const double lit = flashing_s(from, m.open_s, kQuayBeaconPeriod_s, kQuayBeaconFlash_s);
    const double share = m.open_s > 0 ? lit / m.open_s : 0;
    add_light(out, kQuayBeaconX * size.width, kQuayBeaconY * size.height, 2.2 * unit,
              Colour{1.2F, 1.0F, 0.8F} * static_cast<float>(18 * share));
  }
}

}  // namespace

image::Linear32 TernQuay::seen(Instant start, double open_s) const {
  const Size size = shapes_->size;
  const Moment m = moment_of(*shapes_, start, open_s);
  Linear32 out(size);
  const SkyRows sky(m, size);
  const int horizon = static_cast<int>(kHorizon * size.height) + 1;
  for (int y = 0; y < std::min(horizon, size.height); ++y)
    sky.row(kHorizon - (y + 0.5) / size.height, out.row(y));
  for (int y = horizon; y < size.height; ++y) std::copy_n(out.row(horizon - 1), 3 * size.width, out.row(y));
  draw_water(m, size, out);
  paint(shapes_->hills, m.colours.zenith * (m.sky_level * 0.045F), out);
  // The quay's wall above the water: it gets lower as the tide rises.
  {
    const int top = static_cast<int>(m.waterline * size.height);
    const Colour stone = Colour{0.085F, 0.078F, 0.070F} * m.sky_level;
    for (int y = shapes_->quay.first_row(); y < std::min(shapes_->quay.last_row(), top); ++y) {
      const float* share = shapes_->quay.row(y);
      float* row = out.row(y);
      for (int x = 0; x < size.width; ++x) {
        row[3 * x] += (stone.r - row[3 * x]) * share[x];
        row[3 * x + 1] += (stone.g - row[3 * x + 1]) * share[x];
        row[3 * x + 2] += (stone.b - row[3 * x + 2]) * share[x];
      }
    }
  }
  paint(shapes_->town, Colour{0.050F, 0.047F, 0.047F} * m.sky_level, out);
  draw_boats(m, size, out);
  draw_lamps(m, size, out);
  return out;
}

}  // namespace askcount::simulate
