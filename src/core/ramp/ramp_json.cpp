// SPDX-License-Identifier: GPL-3.0-or-later
#include "ramp/ramp_json.h"

#include "base/language.h"

namespace askcount::ramp {

void visit(Fields& f, Exposure& e) {
  f.number("shutter_s", e.shutter_s, 1e-6, 36000);
  f.number("f_number", e.f_number, 0.5, 128);
  f.number("iso", e.iso, 1, 1e7);
}

void visit(Fields& f, Click& c) {
  f.number("frame", c.frame, 0, 1e9);
  f.choice("dial", c.dial, {{Dial::Shutter, "shutter"}, {Dial::Aperture, "aperture"}, {Dial::Iso, "iso"}});
  f.flag("brighter", c.brighter);
}

void visit(Fields& f, Reading& r) {
  f.moment("at", r.at);
  f.number("ev100", r.ev, -20, 30);
}

void visit(Fields& f, RampRule& r) {
  f.number("longest_shutter_s", r.longest_shutter_s, 0, 3600);
  f.number("shortest_shutter_s", r.shortest_shutter_s, 1e-6, 60);
  f.number("widest_f", r.widest_f, 0.5, 64);
  f.number("start_f", r.start_f, 0.5, 128);
  f.number("lowest_iso", r.lowest_iso, 1, 1e6);
  f.number("highest_iso", r.highest_iso, 1, 1e7);
  f.number("low_stops", r.low_stops, -10, 10);
  f.number("high_stops", r.high_stops, -10, 10);
  f.number("night_stops", r.night_stops, 0, 6);
  f.number("frames_apart", r.frames_apart, 1, 1000);
  f.number("frames_apart_late", r.frames_apart_late, 1, 1000);
  const char* keys[] = {"first_dial", "second_dial", "third_dial"};
  for (size_t i = 0; i < 3; ++i)
    f.choice(keys[i], r.order[i],
             {{Dial::Shutter, "shutter"}, {Dial::Aperture, "aperture"}, {Dial::Iso, "iso"}});
  if (!f.reading()) return;
  if (r.high_stops < r.low_stops + 2.0 / 3)
    f.fail("high_stops", say("must be at least two thirds of a stop above low_stops"));
  if (r.order[0] == r.order[1] || r.order[1] == r.order[2] || r.order[0] == r.order[2])
    f.fail("second_dial", say("must differ from the others"));
}

}  // namespace askcount::ramp
