// SPDX-License-Identifier: GPL-3.0-or-later
// The take's light as JSON.
#include "take/light_json.h"

#include "ramp/ramp_json.h"

namespace askcount::take {
namespace {

void visit(Fields& f, sky::Aim& a) {
  f.number("bearing_deg", a.bearing_deg, 0, 360);
  f.number("tilt_deg", a.tilt_deg, -90, 90);
  f.number("roll_deg", a.roll_deg, -180, 180);
}

void visit(Fields& f, Outlook& o) {
  f.words("picture", o.picture);
  f.size("size", o.size.width, o.size.height, 1, 100000);
  f.number("focal_mm", o.focal_mm, 0.5, 5000);
  f.number("long_side_mm", o.long_side_mm, 1, 500);
  visit(f, o.aim);
  using By = Outlook::By;
  f.choice("by", o.by,
           {{By::Nothing, "nothing"},
            {By::Sun, "sun"},
            {By::Moon, "moon"},
            {By::Compass, "compass"},
            {By::Hand, "hand"}});
}

void visit(Fields& f, sky::Weather& w) {
  f.maybe_number("humidity", w.humidity, 0.01, 1);
  f.maybe_number("dew_point_c", w.dew_point_c, -60, 60);
  f.number("cooling_c_per_hour", w.cooling_c_per_hour, 0, 30);
  f.number("wind_m_s", w.wind_m_s, 0, 100);
  f.flag("tall_tripod", w.tall_tripod);
  f.flag("heater", w.heater);
}

}  // namespace

void visit(Fields& f, LightPlan& l) {
  using sky::Body, sky::Cover, ramp::Method;
  const auto aim = [](Fields& g, sky::Aim& a) { visit(g, a); };
  f.part("aim", l.move.from, aim);
  if (f.reading()) l.move.to = l.move.from;
  if (f.reading() || l.head_moves()) f.part("aim_at_end", l.move.to, aim);
  f.flag("eased", l.move.eased);
  f.choice("keep_in_frame", l.subject, {{Body::Sun, "sun"}, {Body::Moon, "moon"}, {Body::Core, "core"}});
  f.list("horizon", l.horizon, [](Fields& g, sky::HorizonPoint& p) {
    g.number("bearing_deg", p.bearing_deg, 0, 360);
    g.number("altitude_deg", p.altitude_deg, -30, 89);
  });
  f.number("variation_deg", l.variation_deg, -180, 180);
  if (f.reading() || !l.outlook.picture.empty())
    f.part("outlook", l.outlook, [](Fields& g, Outlook& o) { visit(g, o); });
  f.choice(
      "sky", l.source.cover,
      {{Cover::Clear, "clear"}, {Cover::Thin, "thin"}, {Cover::Clouded, "clouded"}, {Cover::Dark, "dark"}});
  f.number("town_lux", l.source.town_lux, 0, 1e5);
  f.number("sky_mag", l.source.sky_mag, 15, 23);
  using sky::Shows;
  f.choice("shows", l.source.shows,
           {{Shows::Ground, "ground"},
            {Shows::Half, "half sky"},
            {Shows::LitSky, "lit sky"},
            {Shows::AwayFromSun, "away from the sun"}});
  f.maybe("anchor", l.source.anchor, [](Fields& g, ramp::Reading& r) { ramp::visit(g, r); });
  f.list("readings", l.source.readings, [](Fields& g, ramp::Reading& r) { ramp::visit(g, r); });
  f.choice(
      "method", l.method,
      {{Method::Hand, "hand"}, {Method::Fixed, "fixed"}, {Method::AperturePriority, "aperture priority"}});
  f.maybe_number("f_number", l.f_number, 0.5, 128);
  f.maybe_number("iso", l.iso, 1, 1e7);
  f.texts("filters", l.filters);
  f.flag("bare", l.bare);
  f.part("rule", l.rule, [](Fields& g, ramp::RampRule& r) { ramp::visit(g, r); });
  f.number("turning_s", l.turning_s, 0, 600);
  f.number("turning_takes", l.turning_takes, 0, 1e6);
  f.list("clicks", l.clicks, [](Fields& g, ramp::Click& c) { ramp::visit(g, c); });
  f.part("weather", l.weather, [](Fields& g, sky::Weather& w) { visit(g, w); });
}

}  // namespace askcount::take
