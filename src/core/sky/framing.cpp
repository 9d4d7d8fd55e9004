// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/framing.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "sky/angles.h"

namespace askcount::sky {
namespace {

using Vector = std::array<double, 3>;  // east, north, up

Vector vector_of(const Direction& d) {
  const double a = d.azimuth_deg * kRad, h = d.altitude_deg * kRad;
  return {std::cos(h) * std::sin(a), std::cos(h) * std::cos(a), std::sin(h)};
}

double dot(const Vector& a, const Vector& b) {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

double turned(double from, double to) {
  return std::remainder(to - from, 360.0);
}

}  // namespace

Axes::Axes(const Aim& aim) {
  const double b = aim.bearing_deg * kRad, t = aim.tilt_deg * kRad, r = aim.roll_deg * kRad;
  forward = {std::cos(t) * std::sin(b), std::cos(t) * std::cos(b), std::sin(t)};
  const Vector level = {std::cos(b), -std::sin(b), 0};
  const Vector above = {-std::sin(t) * std::sin(b), -std::sin(t) * std::cos(b), std::cos(t)};
  for (size_t i = 0; i < 3; ++i) {
    right[i] = std::cos(r) * level[i] - std::sin(r) * above[i];
    up[i] = std::sin(r) * level[i] + std::cos(r) * above[i];
  }
}

double Optics::across_deg() const {
  return 2 * std::atan(sensor_width_mm / 2 / focal_mm) / kRad;
}
double Optics::down_deg() const {
  return 2 * std::atan(sensor_height_mm / 2 / focal_mm) / kRad;
}
double Optics::film_across() const {
  return film_shape <= 0 ? 1 : std::min(1.0, film_shape * sensor_height_mm / sensor_width_mm);
}
double Optics::film_down() const {
  return film_shape <= 0 ? 1 : std::min(1.0, sensor_width_mm / sensor_height_mm / film_shape);
}

std::optional<FramePoint> project(const Direction& direction, const Aim& aim, const Optics& o) {
  const Axes axes(aim);
  const Vector v = vector_of(direction);
  const double depth = dot(v, axes.forward);
  if (depth <= 1e-6) return {};
  return FramePoint{dot(v, axes.right) / depth * o.focal_mm / o.sensor_width_mm,
                    dot(v, axes.up) / depth * o.focal_mm / o.sensor_height_mm};
}

Direction direction_of(const FramePoint& point, const Aim& aim, const Optics& o) {
  const Axes axes(aim);
  const double x = point.x * o.sensor_width_mm / o.focal_mm, y = point.y * o.sensor_height_mm / o.focal_mm;
  Vector v{};
  for (size_t i = 0; i < 3; ++i) v[i] = axes.forward[i] + x * axes.right[i] + y * axes.up[i];
  const double azimuth = std::atan2(v[0], v[1]) / kRad;
  return {std::asin(v[2] / std::sqrt(dot(v, v))) / kRad, std::fmod(azimuth + 360, 360)};
}

bool inside(const FramePoint& p, const Optics& o, bool whole) {
  const double across = whole ? 0.5 : o.film_across() / 2, down = whole ? 0.5 : o.film_down() / 2;
  return std::abs(p.x) <= across && std::abs(p.y) <= down;
}

Aim aim_at(const Move& move, double share) {
  double s = std::clamp(share, 0.0, 1.0);
  if (move.eased) s = s * s * (3 - 2 * s);
  const double bearing = move.from.bearing_deg + s * turned(move.from.bearing_deg, move.to.bearing_deg);
  return {std::fmod(bearing + 720, 360), move.from.tilt_deg + s * (move.to.tilt_deg - move.from.tilt_deg),
          move.from.roll_deg + s * (move.to.roll_deg - move.from.roll_deg)};
}

double horizon_at(const std::vector<HorizonPoint>& horizon, double bearing_deg) {
  if (horizon.empty()) return 0;
  const HorizonPoint *before = nullptr, *after = nullptr;
  double back = 1e9, ahead = 1e9;
  for (const HorizonPoint& p : horizon) {
    const double d = std::fmod(p.bearing_deg - bearing_deg + 720, 360);  // 0 to 360 ahead
    if (d < ahead) ahead = d, after = &p;
    if (360 - d < back || d == 0) back = d == 0 ? 0 : 360 - d, before = &p;
  }
  if (back + ahead <= 0) return before->altitude_deg;
  return before->altitude_deg + (after->altitude_deg - before->altitude_deg) * back / (back + ahead);
}

std::vector<Passage> passages_of(const Ephemeris& sky, Body body, const Place& place, const Framing& framing,
                                 const TimeSpan& span) {
  const auto& [move, optics, horizon] = framing;
  const auto& [from, to] = span;
  const double whole = std::max<double>(1, static_cast<double>((to - from).count()));
  const auto seen = [&](Instant t) {
    const Direction d = sky.at(body, t, place);
    if (d.altitude_deg < horizon_at(horizon, d.azimuth_deg) - (body == Body::Core ? 0.0 : 0.3)) return false;
    const auto p = project(d, aim_at(move, static_cast<double>((t - from).count()) / whole), optics);
    return p && inside(*p, optics);
  };
  const auto edge = [&](Instant a, Instant b) {
    const bool was = seen(a);
    while (b - a > std::chrono::milliseconds(500)) {
      const Instant middle = a + (b - a) / 2;
      (seen(middle) == was ? a : b) = middle;
    }
    return b;
  };
  const auto stride = std::max(std::chrono::milliseconds(1000), (to - from) / 240);
  std::vector<Passage> list;
  bool before = seen(from);
  if (before) list.push_back({from, to, true, true});
  for (Instant a = from; a < to; a += stride) {
    const Instant b = std::min<Instant>(a + stride, to);
    const bool now = seen(b);
    if (now && !before) list.push_back({edge(a, b), to, false, true});
    if (!now && before) list.back().to = edge(a, b), list.back().at_end = false;
    before = now;
  }
  return list;
}

std::optional<Move> move_that_keeps(const Ephemeris& sky, Body body, const Place& place, const Optics& optics,
                                    const TimeSpan& span, bool eased) {
  const auto& [from, to] = span;
  constexpr int kLooks = 40;
  const Direction first = sky.at(body, from, place), last = sky.at(body, to, place);
  std::optional<Move> best;
  double least = std::numeric_limits<double>::max();
  // Places of the frame tried for the body at both ends: a body high in the frame leaves room for the land.
  for (const double y : {0.3, 0.2, 0.1, 0.0, -0.1})
    for (const double x : {0.0, -0.15, 0.15}) {
      const auto aim_for = [&](const Direction& d) {
        Aim aim{d.azimuth_deg, d.altitude_deg, 0};
        for (int i = 0; i < 12; ++i) {  // turn until the body stands at (x, y) of the film
          const Direction want =
              direction_of({x * optics.film_across(), y * optics.film_down()}, aim, optics);
          aim.bearing_deg = std::fmod(aim.bearing_deg + turned(want.azimuth_deg, d.azimuth_deg) + 720, 360);
          aim.tilt_deg = std::clamp(aim.tilt_deg + d.altitude_deg - want.altitude_deg, -89.0, 89.0);
        }
        return aim;
      };
      const Move move{aim_for(first), aim_for(last), eased};
      double worst = 0;
      bool inside_all = true;
      for (int i = 0; i <= kLooks && inside_all; ++i) {
        const double share = static_cast<double>(i) / kLooks;
        const Direction d = sky.at(body,
                                   from + std::chrono::milliseconds(static_cast<long long>(
                                              share * static_cast<double>((to - from).count()))),
                                   place);
        const auto p = project(d, aim_at(move, share), optics);
        inside_all = p && inside(*p, optics) && d.altitude_deg > 0;
        if (p) worst = std::max(worst, std::hypot(p->x / optics.film_across(), p->y / optics.film_down()));
      }
      const double land = std::abs(move.from.tilt_deg - 0.3 * optics.down_deg()) /
                          90;  // a third of land at the start, where it can be
      if (inside_all && worst + land < least) least = worst + land, best = move;
    }
  return best;
}

}  // namespace askcount::sky
