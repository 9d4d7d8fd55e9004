// The take's light as JSON.
#include "take/light_json.h"

#include <fmt/format.h>

namespace askcount::take {
namespace {

void visit(Fields& f, sky::Aim& a) {
  f.number("bearing_deg", a.bearing_deg, 0, 360);
  f.number("tilt_deg", a.tilt_deg, -90, 90);
  f.number("roll_deg", a.roll_deg, -180, 180);
}

void moment(Fields& f, const char* key, Instant& at) {
  std::string text = f.reading() ? "" : format_iso(at, "UTC");
  f.words(key, text);
  if (f.reading()) at = parse_instant(text, "UTC");
}

void visit(Fields& f, ramp::Reading& r) {
  moment(f, "at", r.at);
  f.number("ev100", r.ev, -20, 30);
}

void visit(Fields& f, ramp::Click& c) {
  using ramp::Dial;
  f.number("frame", c.frame, 0, 1e9);
  f.choice("dial", c.dial, {{Dial::Shutter, "shutter"}, {Dial::Aperture, "aperture"}, {Dial::Iso, "iso"}});
  f.flag("brighter", c.brighter);
}

void visit(Fields& f, ramp::RampRule& r) {
  using ramp::Dial;
  f.number("longest_shutter_s", r.longest_shutter_s, 0, 3600);
  f.number("shortest_shutter_s", r.shortest_shutter_s, 1e-6, 60);
  f.number("widest_f", r.widest_f, 0.5, 64);
  f.number("start_f", r.start_f, 0.5, 128);
  f.number("lowest_iso", r.lowest_iso, 1, 1e6);
  f.number("highest_iso", r.highest_iso, 1, 1e7);
  f.number("low_stops", r.low_stops, -10, 10);
  f.number("high_stops", r.high_stops, -10, 10);
  f.number("frames_apart", r.frames_apart, 1, 1000);
  f.number("frames_apart_late", r.frames_apart_late, 1, 1000);
  const char* keys[] = {"first_dial", "second_dial", "third_dial"};
  for (size_t i = 0; i < 3; ++i)
    f.choice(keys[i], r.order[i],
             {{Dial::Shutter, "shutter"}, {Dial::Aperture, "aperture"}, {Dial::Iso, "iso"}});
  if (!f.reading()) return;
  if (r.high_stops < r.low_stops + 2.0 / 3)
    f.fail("high_stops", "must be at least two thirds of a stop above low_stops");
  if (r.order[0] == r.order[1] || r.order[1] == r.order[2] || r.order[0] == r.order[2])
    f.fail("second_dial", "must differ from the others");
}

void optional_number(Fields& f, const char* key, std::optional<double>& value, double low, double high) {
  double v = value.value_or(0);
  if (!f.reading() && !value) return;
  const bool there = !f.reading() || f.has(key);
  f.number(key, v, low, high);
  if (there) value = v;
}

void visit(Fields& f, sky::Weather& w) {
  optional_number(f, "humidity", w.humidity, 0.01, 1);
  optional_number(f, "dew_point_c", w.dew_point_c, -60, 60);
  f.number("cooling_c_per_hour", w.cooling_c_per_hour, 0, 30);
  f.number("wind_m_s", w.wind_m_s, 0, 100);
  f.flag("tall_tripod", w.tall_tripod);
  f.flag("heater", w.heater);
}

}  // namespace

void visit(Fields& f, LightPlan& l) {
  using sky::Body, sky::Cover, ramp::School;
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
  f.choice(
      "sky", l.source.cover,
      {{Cover::Clear, "clear"}, {Cover::Thin, "thin"}, {Cover::Clouded, "clouded"}, {Cover::Dark, "dark"}});
  f.number("town_lux", l.source.town_lux, 0, 1e5);
  f.maybe("anchor", l.source.anchor, [](Fields& g, ramp::Reading& r) { visit(g, r); });
  f.list("readings", l.source.readings, [](Fields& g, ramp::Reading& r) { visit(g, r); });
  f.choice(
      "school", l.school,
      {{School::Hand, "hand"}, {School::Fixed, "fixed"}, {School::AperturePriority, "aperture priority"}});
  f.part("rule", l.rule, [](Fields& g, ramp::RampRule& r) { visit(g, r); });
  f.number("turning_s", l.turning_s, 0, 600);
  f.list("clicks", l.clicks, [](Fields& g, ramp::Click& c) { visit(g, c); });
  f.part("weather", l.weather, [](Fields& g, sky::Weather& w) { visit(g, w); });
}

}  // namespace askcount::take
