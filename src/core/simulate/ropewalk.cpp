// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/ropewalk.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <numbers>
#include <random>

#include "simulate/smear.h"
#include "sky/ambient.h"
#include "sky/sun.h"

namespace askcount::simulate {
namespace {

using image::Linear32;
using image::Size;
using std::numbers::pi;

struct Tint {
  float r = 0, g = 0, b = 0;
};
Tint operator*(const Tint& t, float k) {
  return {t.r * k, t.g * k, t.b * k};
}

enum class Who { Person, Cyclist, Car };

/// What goes along one line of the street.
struct Lane {
  Who who;
  double ground;    // share of the height where feet and wheels stand
  double nearness;  // size against the middle of the road
  double speed_mps;
  double spread;  // of the speed from one to the next, as a share
  double apart_m;
  bool rightwards;
};
constexpr std::array<Lane, 9> kLanes = {{{Who::Person, 0.655, 0.80, 0.8, 0.15, 17, true},
                                         {Who::Person, 0.660, 0.82, kWalking_mps, 0.12, 11, false},
                                         {Who::Person, 0.668, 0.84, kWalking_mps, 0.12, 13, true},
                                         {Who::Car, 0.735, 0.95, 11, 0, 46, false},
                                         {Who::Cyclist, 0.765, 1.0, 4.6, 0.1, 61, false},
                                         {Who::Car, 0.810, 1.08, kDriving_mps, 0, 37, true},
                                         {Who::Person, 0.900, 1.30, 1.9, 0.1, 34, false},
                                         {Who::Person, 0.925, 1.36, kWalking_mps, 0.12, 15, true},
                                         {Who::Person, 0.955, 1.44, kWalking_mps, 0.12, 19, false}}};
constexpr int kAlong = 6;         // of each lane, before they come round again
constexpr double kLamps_lux = 9;  // of street lamps on the ground, once they are lit
constexpr double kLampsOn_deg = -2;

constexpr std::array<Tint, 8> kCoats = {{{0.10F, 0.11F, 0.14F},
                                         {0.32F, 0.09F, 0.07F},
                                         {0.08F, 0.14F, 0.28F},
                                         {0.42F, 0.36F, 0.22F},
                                         {0.12F, 0.20F, 0.13F},
                                         {0.45F, 0.45F, 0.44F},
                                         {0.20F, 0.12F, 0.18F},
                                         {0.55F, 0.30F, 0.08F}}};

std::uint32_t lot(std::uint32_t a, std::uint32_t b) {
  std::uint32_t x = a * 0x9E3779B9U + b * 0x85EBCA6BU + 0x27D4EB2FU;
  x ^= x >> 15;
  x *= 0x2C1B3C6DU;
  x ^= x >> 12;
  x *= 0x297A2D39U;
  return x ^ (x >> 15);
}
double chance(std::uint32_t a, std::uint32_t b) {
  return lot(a, b) / 4294967296.0;
}

using Shape = std::vector<std::vector<Point>>;

std::vector<Point> round_of(double x, double y, double r) {
  std::vector<Point> p;
  for (int k = 0; k < 10; ++k) p.push_back({x + r * std::cos(k * pi / 5), y + r * std::sin(k * pi / 5)});
  return p;
}

/// One layer of a mover in one colour; metres, x from its left end, y downwards from its top.
struct Layer {
  Shape shape;
  Tint albedo;
};
struct Figure {
  double width_m, height_m;
  std::vector<Layer> layers;
};

Figure person(std::uint32_t who, double stride) {
  const double tall = 1.6 + 0.25 * chance(who, 3), swing = 0.28 * stride, hip = 0.92, w = 0.9, c = w / 2;
  const Tint coat = kCoats[lot(who, 5) % kCoats.size()], legs = kCoats[lot(who, 6) % 3] * 0.6F;
  Figure f{w, tall, {}};
  f.layers.push_back(
      {{{{c - 0.10, hip - 0.1}, {c + 0.10, hip - 0.1}, {c + swing + 0.07, tall}, {c + swing - 0.07, tall}},
        {{c - 0.10, hip - 0.1}, {c + 0.10, hip - 0.1}, {c - swing + 0.07, tall}, {c - swing - 0.07, tall}}},
       legs});
  f.layers.push_back(
      {{{{c - 0.20, 0.30}, {c + 0.20, 0.30}, {c + 0.24, hip + 0.12}, {c - 0.24, hip + 0.12}}}, coat});
  f.layers.push_back({{round_of(c, 0.15, 0.13)}, {0.40F, 0.30F, 0.23F}});
  return f;
}

Figure cyclist(std::uint32_t who) {
  Figure f{1.8, 1.75, {}};
  f.layers.push_back({{round_of(0.35, 1.40, 0.34), round_of(1.45, 1.40, 0.34)}, {0.05F, 0.05F, 0.05F}});
  f.layers.push_back({{{{0.75, 0.85}, {0.95, 0.85}, {1.0, 1.4}, {0.85, 1.4}}}, kCoats[lot(who, 6) % 3]});
  f.layers.push_back(
      {{{{0.62, 0.85}, {0.95, 0.95}, {1.25, 0.42}, {0.98, 0.30}}}, kCoats[lot(who, 5) % kCoats.size()]});
  f.layers.push_back({{round_of(1.22, 0.18, 0.14)}, {0.40F, 0.30F, 0.23F}});
  return f;
}

Figure car(std::uint32_t who) {
  const bool van = lot(who, 9) % 4 == 0;
  const double l = van ? 4.9 : 4.2, tall = van ? 2.1 : 1.5, belt = van ? 0.75 : 0.62;
  Figure f{l, tall, {}};
  f.layers.push_back(
      {{{{0.0, belt + 0.12},
         {0.1, belt},
         {l - 0.1, belt + 0.05},
         {l, belt + 0.25},
         {l, tall - 0.25},
         {0.0, tall - 0.25}},
        van ? std::vector<Point>{{0.05, 0.02}, {l * 0.78, 0.02}, {l - 0.3, belt + 0.1}, {0.05, belt + 0.1}}
            : std::vector<Point>{{0.7, 0.0}, {l - 1.6, 0.0}, {l - 0.9, belt + 0.1}, {0.2, belt + 0.1}}},
       kCoats[lot(who, 5) % kCoats.size()] * 1.3F});
  f.layers.push_back(
      {{van ? std::vector<Point>{{l * 0.62, 0.15}, {l * 0.76, 0.15}, {l - 0.5, belt}, {l * 0.62, belt}}
            : std::vector<Point>{{0.8, 0.12}, {l - 1.65, 0.12}, {l - 1.1, belt}, {0.5, belt}}},
       {0.06F, 0.07F, 0.08F}});
  f.layers.push_back(
      {{round_of(0.85, tall - 0.30, 0.30), round_of(l - 0.85, tall - 0.30, 0.30)}, {0.03F, 0.03F, 0.03F}});
  return f;
}

}  // namespace

/// What stands still: how much light each pixel gives back, and what it gives of its own at night.
struct Ropewalk::Street {
  Size size;
  sky::Place place = scene_place("The Ropewalk");
  double haste;
  Linear32 albedo, own;
  int roofs = 0;

  explicit Street(const SceneSetting& setting)
      : size(setting.size), haste(setting.haste), albedo(setting.size), own(setting.size) {
    if (setting.place.known()) place = setting.place;
    std::fill(albedo.rgb.begin(), albedo.rgb.end(), 0.0F);
    std::fill(own.rgb.begin(), own.rgb.end(), 0.0F);
    const double w = size.width, h = size.height;
    double x = -0.02;
    for (std::uint32_t house = 0; x < 1.02; ++house) {
      const double wide = 0.10 + 0.06 * chance(house, 1), eaves = 0.20 + 0.10 * chance(house, 2);
      const Tint wall = Tint{0.34F, 0.30F, 0.26F} * static_cast<float>(0.7 + 0.7 * chance(house, 3));
      const auto at = [&](double u, double v) { return Point{(x + u * wide) * w, v * h}; };
      paint({at(-0.02, eaves), at(0.5, eaves - 0.05 - 0.03 * chance(house, 4)), at(1.02, eaves),
             at(1.0, 0.64), at(0, 0.64)},
            {0.12F, 0.09F, 0.08F}, albedo);
      paint({at(0, eaves + 0.01), at(1, eaves + 0.01), at(1, 0.64), at(0, 0.64)}, wall, albedo);
      for (int row = 0; row < 3; ++row)
        for (int column = 0; column < 3; ++column) {
          const double u = 0.14 + 0.27 * column, v = eaves + 0.04 + row * (0.60 - eaves) / 3;
          const bool door = row == 2 && column == static_cast<int>(house % 3);
          const std::vector<Point> hole = {at(u, v), at(u + 0.17, v), at(u + 0.17, door ? 0.64 : v + 0.07),
                                           at(u, door ? 0.64 : v + 0.07)};
          paint(hole, door ? Tint{0.16F, 0.10F, 0.07F} : Tint{0.07F, 0.08F, 0.10F}, albedo);
          if (!door && chance(house * 9 + static_cast<std::uint32_t>(row * 3 + column), 7) < 0.45)
            paint(hole, {16, 10, 4.5F}, own);
        }
      x += wide;
    }
    paint({{0, 0.64 * h}, {w, 0.64 * h}, {w, 0.69 * h}, {0, 0.69 * h}}, {0.26F, 0.25F, 0.24F}, albedo);
    paint({{0, 0.69 * h}, {w, 0.69 * h}, {w, 0.85 * h}, {0, 0.85 * h}}, {0.11F, 0.11F, 0.115F}, albedo);
    for (int k = 0; k < 12; ++k)
      paint({{(k / 12.0 + 0.01) * w, 0.765 * h},
             {(k / 12.0 + 0.05) * w, 0.765 * h},
             {(k / 12.0 + 0.045) * w, 0.771 * h},
             {(k / 12.0 + 0.005) * w, 0.771 * h}},
            {0.42F, 0.42F, 0.40F}, albedo);
    paint({{0, 0.85 * h}, {w, 0.85 * h}, {w, h + 1}, {0, h + 1}}, {0.29F, 0.28F, 0.27F}, albedo);
    // Paving and plaster are not smooth.
    std::mt19937 random(5);
    std::uniform_real_distribution<float> grain(0.93F, 1.07F);
    for (int y = 0; y < size.height; ++y)
      for (int i = 0; i < size.width; ++i) {
        const float g = grain(random);
        for (int c = 0; c < 3; ++c) albedo.row(y)[3 * i + c] *= g;
      }
    for (const double lamp : {0.08, 0.36, 0.63, 0.91})
      paint(round_of(lamp * w, 0.33 * h, 0.007 * w), {900, 620, 260}, own);
  }

  void paint(const std::vector<Point>& polygon, const Tint& tint, Linear32& on) const {
    Coverage shape(size.width, size.height);
    shape.add(polygon);
    simulate::paint(shape, {tint.r, tint.g, tint.b}, on);
  }
};

namespace {

/// A way along the frame in pixels while the shutter is open.
struct Way {
  double from, to;
};

/// A layer over the picture, smeared.
void cover(const Smear& smear, double top, const Way& way, const Tint& light, Linear32& out) {
  const double left = std::min(way.from, way.to), right = std::max(way.from, way.to) + smear.width();
  const int x0 = std::max(0, static_cast<int>(left) - 1),
            x1 = std::min(out.size.width, static_cast<int>(right) + 2);
  const int y0 = static_cast<int>(std::lround(top));
  for (int j = std::max(0, -y0); j < smear.height() && y0 + j < out.size.height; ++j) {
    float* row = out.row(y0 + j);
    for (int x = x0; x < x1; ++x) {
      const float s = std::min(1.0F, smear.share(x, j, way.from, way.to));
      if (s <= 0) continue;
      row[3 * x] += (light.r - row[3 * x]) * s;
      row[3 * x + 1] += (light.g - row[3 * x + 1]) * s;
      row[3 * x + 2] += (light.b - row[3 * x + 2]) * s;
    }
  }
}

/// A lamp of a vehicle: light that adds up along its way.
void shine(double y, double radius, const Way& way, const Tint& light, Linear32& out) {
  const Smear dot({round_of(radius, radius, radius)}, static_cast<int>(2 * radius) + 2,
                  static_cast<int>(2 * radius) + 2);
  const int y0 = static_cast<int>(std::lround(y - radius));
  const int x0 = std::max(0, static_cast<int>(std::min(way.from, way.to)) - 1),
            x1 = std::min(out.size.width, static_cast<int>(std::max(way.from, way.to)) + dot.width() + 2);
  for (int j = std::max(0, -y0); j < dot.height() && y0 + j < out.size.height; ++j)
    for (int x = x0; x < x1; ++x) {
      const float s = dot.share(x, j, way.from, way.to);
      float* p = out.row(y0 + j) + 3 * x;
      p[0] += light.r * s;
      p[1] += light.g * s;
      p[2] += light.b * s;
    }
}

}  // namespace

Ropewalk::Ropewalk(const SceneSetting& setting) : street_(std::make_unique<Street>(setting)) {}
Ropewalk::~Ropewalk() = default;

Linear32 Ropewalk::seen(Instant start, double open_s) const {
  const Street& s = *street_;
  const Size size = s.size;
  const sky::Direction sun = sky::sun_at(later(start, open_s / 2), s.place);
  const double day_lux = sky::daylight_lux(sun.altitude_deg);
  const auto lit = static_cast<float>(std::clamp((kLampsOn_deg - sun.altitude_deg) / 0.8 + 0.0, 0.0, 1.0));
  const auto day = static_cast<float>(day_lux / pi), lamps = static_cast<float>(kLamps_lux / pi) * lit;
  const float warm = static_cast<float>(std::clamp(1 - sun.altitude_deg / 12, 0.0, 1.0)) *
                     (sun.altitude_deg > -4 ? 1.0F : 0.3F);
  const Tint light = {day * (1 + 0.25F * warm) + lamps * 1.35F, day + lamps * 0.92F,
                      day * (1 - 0.25F * warm) + lamps * 0.42F};
  Linear32 out(size);
  for (int y = 0; y < size.height; ++y) {
    const float up = 1 - static_cast<float>(y) / (0.4F * static_cast<float>(size.height));
    const Tint sky = {day * (0.62F - 0.2F * up + 0.5F * warm * (1 - up)) + 0.004F,
                      day * (0.78F - 0.1F * up) + 0.004F,
                      day * (1.0F + 0.2F * up - 0.3F * warm * (1 - up)) + 0.006F};
    for (int x = 0; x < size.width; ++x) {
      const float* a = s.albedo.row(y) + 3 * x;
      const float* o = s.own.row(y) + 3 * x;
      float* p = out.row(y) + 3 * x;
      const bool open_sky = a[0] <= 0 && y < size.height / 2;
      p[0] = (open_sky ? sky.r : a[0] * light.r) + o[0] * lit;
      p[1] = (open_sky ? sky.g : a[1] * light.g) + o[1] * lit;
      p[2] = (open_sky ? sky.b : a[2] * light.b) + o[2] * lit;
    }
  }
  const double now_s = scene_clock_s(start) * s.haste, way_s = open_s * s.haste;
  for (std::uint32_t lane = 0; lane < kLanes.size(); ++lane) {
    const Lane& l = kLanes[lane];
    const double px = size.width / kRopewalk_m * l.nearness, round_m = kAlong * l.apart_m;
    for (std::uint32_t k = 0; k < kAlong; ++k) {
      const double speed = l.speed_mps * (1 + l.spread * (2 * chance(lane, 40 + k) - 1));
      const double gone = speed * now_s + l.apart_m * (k + 0.5 * chance(lane, 60 + k));
      const double lap = std::floor(gone / round_m), way_m = speed * way_s;
      const auto who = static_cast<std::uint32_t>(static_cast<long long>(lap) * 64 + k + lane * 977);
      const Figure f = l.who == Who::Car       ? car(who)
                       : l.who == Who::Cyclist ? cyclist(who)
                                               : person(who, std::sin(2 * pi * 0.9 * now_s + k));
      // Once round the block and back into the picture, as often as the shutter is open for.
      for (double at = gone - lap * round_m; at > -way_m - round_m; at -= round_m) {
        if (at + way_m < 0 || at - f.width_m > kRopewalk_m / l.nearness + 2 * f.width_m) continue;
        Way way{(at - f.width_m) * px, (at - f.width_m + way_m) * px};
        if (!l.rightwards) way = {size.width - at * px, size.width - (at + way_m) * px};
        if (std::max(way.from, way.to) + f.width_m * px < 0 || std::min(way.from, way.to) > size.width)
          continue;
        const double top = l.ground * size.height - f.height_m * px;
        const int wide = static_cast<int>(f.width_m * px) + 2, high = static_cast<int>(f.height_m * px) + 2;
        for (const Layer& layer : f.layers) {
          Shape shape = layer.shape;
          for (auto& polygon : shape)
            for (Point& p : polygon) {
              p = {p.x * px, p.y * px};
              if (!l.rightwards) p.x = f.width_m * px - p.x;
            }
          cover(Smear(shape, wide, high), top, way,
                {layer.albedo.r * light.r, layer.albedo.g * light.g, layer.albedo.b * light.b}, out);
        }
        if (l.who == Who::Car && lit > 0) {
          const double y = top + (f.height_m - 0.62) * px, r = 0.12 * px,
                       front = l.rightwards ? f.width_m * px - 2 * r : 0,
                       back = l.rightwards ? 0 : f.width_m * px - 2 * r;
          shine(y, r, {way.from + front, way.to + front}, Tint{300, 280, 230} * lit, out);
          shine(y, r, {way.from + back, way.to + back}, Tint{60, 6, 3} * lit, out);
        }
      }
    }
  }
  return out;
}

}  // namespace askcount::simulate
