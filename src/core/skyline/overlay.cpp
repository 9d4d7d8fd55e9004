// SPDX-License-Identifier: GPL-3.0-or-later
#include "skyline/overlay.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "image/canvas.h"

namespace askcount::skyline {
namespace {

using image::Canvas;
using image::Ink;
using image::Spot;
using sky::Body;

constexpr Ink kSun{1, 0.80, 0.25, 1}, kMoon{0.90, 0.92, 0.96, 1}, kCore{0.84, 0.58, 0.92, 1},
    kLine{0.40, 0.95, 0.85, 1}, kFrame{1, 1, 1, 0.9}, kPole{0.75, 0.85, 1, 0.8};
constexpr double kHidden = 0.35;  // how much is seen of a path behind the skyline
constexpr int kSteps = 240;       // of a path

const Ink& ink_of(Body body) {
  return body == Body::Sun ? kSun : body == Body::Moon ? kMoon : kCore;
}

/// Everything is drawn larger on a larger picture.
double unit_of(const Canvas& canvas) {
  return std::max(canvas.width(), canvas.height()) / 1000.0;
}

class Drawing {
 public:
  Drawing(Canvas& canvas, const Overlay& overlay)
      : canvas_(canvas),
        o_(overlay),
        unit_(unit_of(canvas)),
        sky_(sky::ephemeris_for(overlay.from, overlay.to)) {}

  void all() {
    band();
    pole();
    skyline();
    if (o_.frame) frame();
    for (const Body body : {Body::Sun, Body::Moon, Body::Core}) path(body);
    for (const sky::Behind& b : o_.behind) behind(b);
    for (const Body body : {Body::Sun, Body::Moon, Body::Core}) hours(body);
  }

 private:
  std::optional<Spot> spot(const sky::Direction& d) const {
    const auto p = sky::project(d, o_.view.aim, o_.view.optics);
    if (!p || std::abs(p->x) > 3 || std::abs(p->y) > 3) return {};
    return Spot{(p->x + 0.5) * canvas_.width(), (0.5 - p->y) * canvas_.height()};
  }
  bool within(const Spot& s) const {
    return s.x >= 0 && s.y >= 0 && s.x < canvas_.width() && s.y < canvas_.height();
  }
  bool hidden(const sky::Direction& d) const {
    return d.altitude_deg < sky::horizon_at(o_.horizon, d.azimuth_deg);
  }

  /// A way through directions, in strokes where it is seen and fainter where land hides it.
  template <typename At>
  void way(int steps, const Ink& ink, double wide, Canvas::Style style, At at) {
    std::vector<Spot> stroke;
    bool dark = false;
    const auto put = [&] {
      Ink i = ink;
      if (dark) i.a *= kHidden;
      canvas_.line(stroke, i, wide * unit_, dark ? Canvas::Style::Dotted : style);
    };
    for (int k = 0; k <= steps; ++k) {
      const sky::Direction d = at(k);
      const auto s = spot(d);
      if (!s) {
        put();
        stroke.clear();
        continue;
      }
      if (hidden(d) != dark && !stroke.empty()) {
        stroke.push_back(*s);
        put();
        stroke.clear();
      }
      dark = hidden(d);
      stroke.push_back(*s);
    }
    put();
  }

  Instant moment(double share) const {
    return o_.from + std::chrono::milliseconds(
                         static_cast<long long>(share * static_cast<double>((o_.to - o_.from).count())));
  }

  void path(Body body) {
    way(kSteps, ink_of(body), body == Body::Core ? 1.6 : 2.6,
        body == Body::Sun ? Canvas::Style::Solid : Canvas::Style::Dashed,
        [&](int k) { return sky_->at(body, moment(static_cast<double>(k) / kSteps), o_.place); });
  }

  /// Every whole hour, or quarter where there are few.
  void hours(Body body) {
    const double length = seconds_between(o_.from, o_.to);
    const double step = length > 36 * 3600  ? 10800
                        : length > 5 * 3600 ? 3600
                        : length > 2 * 3600 ? 1800
                                            : 900;
    const double day = wall_time(o_.from, o_.place.zone).seconds_of_day();
    bool named = false;
    static constexpr const char* names[] = {to_say("sun"), to_say("moon"), to_say("core")};
    for (double s = std::ceil(day / step) * step; s <= day + length; s += step) {
      const Instant t = later(o_.from, s - day);
      const sky::Direction d = sky_->at(body, t, o_.place);
      const auto at = spot(d);
      if (!at || !within(*at) || hidden(d)) continue;
      canvas_.dot(*at, 4 * unit_, ink_of(body));
      if (canvas_.words(
              {at->x + 8 * unit_, at->y + 5 * unit_},
              (named ? "" : say(names[static_cast<int>(body)]) + " ") + format_clock(t, o_.place.zone),
              15 * unit_, ink_of(body)))
        named = true;
    }
  }

  void behind(const sky::Behind& b) {
    const auto at = spot(b.where);
    if (!at || !within(*at)) return;
    canvas_.dot(*at, 6 * unit_, ink_of(b.body));
    canvas_.dot(*at, 3 * unit_, {0.06, 0.07, 0.09, 1});
    static constexpr const char* names[] = {to_say("sun"), to_say("moon"), to_say("core")};
    const std::string words =
        fmt::format("{} {} {}", say(names[static_cast<int>(b.body)]), b.goes ? say("behind") : say("out"),
                    format_clock(b.at, o_.place.zone));
    // Beside it on whichever side there is room.
    for (const Spot by : {Spot{10, 22}, Spot{-150, 22}, Spot{10, 42}, Spot{-150, 42}, Spot{10, -14}})
      if (canvas_.words({at->x + by.x * unit_, at->y + by.y * unit_}, words, 17 * unit_, ink_of(b.body),
                        true))
        return;
  }

  void band() {
    // At the middle of the stretch, where night is.
    const Instant t = moment(0.5);
    if (sky_->at(Body::Sun, t, o_.place).altitude_deg > -8) return;
    const auto directions = sky_->band(t, o_.place);
    for (size_t i = 0; i + 1 < directions.size(); ++i) {
      const auto a = spot(directions[i]), b = spot(directions[i + 1]);
      if (!a || !b || hidden(directions[i]) || hidden(directions[i + 1])) continue;
      const double from_core = 5.0 * static_cast<double>(std::min(i, directions.size() - 1 - i));
      const double per_degree = canvas_.width() / o_.view.optics.across_deg();
      for (const double wide : {16.0, 11.0, 6.0})  // brighter along its middle
        canvas_.line({*a, *b}, {kCore.r, kCore.g, kCore.b, 0.05 + 0.10 * std::exp(-from_core / 30)},
                     wide * per_degree);
    }
    for (const sky::Direction& d : directions)
      if (const auto at = spot(d); at && within(*at) && !hidden(d) && at->y < 0.8 * canvas_.height()) {
        canvas_.words(*at, say("galaxy's band at ") + format_clock(t, o_.place.zone), 15 * unit_, kCore);
        return;
      }
  }

  void pole() {
    const sky::Direction p = pole_of(o_.place);
    // Circles that stars go round it, every 10° of the sky.
    for (int r = 10; r <= 40; r += 10)
      way(72, {kPole.r, kPole.g, kPole.b, 0.35}, 1, Canvas::Style::Solid, [&](int k) {
        constexpr double kRad = 3.14159265358979323846 / 180;
        const double turn = k * 5 * kRad, away = r * kRad, high = p.altitude_deg * kRad;
        const double alt =
            std::asin(std::sin(high) * std::cos(away) + std::cos(high) * std::sin(away) * std::cos(turn));
        const double az = std::atan2(std::sin(turn) * std::sin(away) * std::cos(high),
                                     std::cos(away) - std::sin(high) * std::sin(alt));
        return sky::Direction{alt / kRad, std::fmod(p.azimuth_deg + az / kRad + 720, 360)};
      });
    const auto at = spot(p);
    if (!at || !within(*at)) return;
    const double arm = 9 * unit_;
    canvas_.line({{at->x - arm, at->y}, {at->x + arm, at->y}}, kPole, 1.6 * unit_);
    canvas_.line({{at->x, at->y - arm}, {at->x, at->y + arm}}, kPole, 1.6 * unit_);
    canvas_.words({at->x + 12 * unit_, at->y - 6 * unit_}, say("the pole stars turn around"), 15 * unit_,
                  kPole);
  }

  void skyline() {
    if (o_.horizon.empty()) return;
    const double half = o_.view.optics.across_deg() / 2 + 2;
    const int steps = std::max(40, canvas_.width() / 2);
    std::vector<Spot> stroke;
    for (int k = 0; k <= steps; ++k) {
      const double bearing = std::fmod(o_.view.aim.bearing_deg - half + 2 * half * k / steps + 720, 360);
      if (const auto s = spot({sky::horizon_at(o_.horizon, bearing), bearing})) stroke.push_back(*s);
    }
    canvas_.line(stroke, kLine, 1.8 * unit_);
  }

  void frame() {
    const sky::Optics& o = o_.frame->optics;
    std::vector<Spot> edge;
    const double x = o.film_across() / 2, y = o.film_down() / 2;
    const sky::FramePoint corners[] = {{-x, -y}, {x, -y}, {x, y}, {-x, y}};
    for (int side = 0; side < 4; ++side)
      for (int k = 0; k < 24; ++k) {
        const sky::FramePoint &a = corners[side], &b = corners[(side + 1) % 4];
        const sky::FramePoint p{a.x + (b.x - a.x) * k / 24, a.y + (b.y - a.y) * k / 24};
        if (const auto s = spot(sky::direction_of(p, o_.frame->aim, o))) edge.push_back(*s);
      }
    if (edge.size() < 3) return;
    canvas_.line(edge, kFrame, 2 * unit_, Canvas::Style::Solid, true);
    if (const auto s = spot(sky::direction_of({-x, y}, o_.frame->aim, o)))
      canvas_.words({s->x + 8 * unit_, s->y + 20 * unit_}, say("the film's frame"), 15 * unit_, kFrame);
  }

  Canvas& canvas_;
  const Overlay& o_;
  double unit_;
  std::shared_ptr<const sky::Ephemeris> sky_;
};

}  // namespace

sky::Direction pole_of(const sky::Place& place) {
  return {std::abs(place.latitude_deg), place.latitude_deg >= 0 ? 0.0 : 180.0};
}

void draw_over(const Photograph& photograph, const Overlay& overlay, const std::filesystem::path& file,
               const Guard& guard) {
  Canvas canvas(photograph.picture.size.width, photograph.picture.size.height, photograph.picture.rgb.data());
  Drawing(canvas, overlay).all();
  canvas.save(file, guard);
}

}  // namespace askcount::skyline
