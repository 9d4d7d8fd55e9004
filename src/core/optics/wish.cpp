// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/wish.h"

#include "base/language.h"

namespace askcount::optics {

void visit(Fields& f, Wish& w) {
  f.choice("by", w.by, {{By::Nothing, "nothing"}, {By::Record, "record"}, {By::Hand, "hand"}});
  f.words("lens", w.lens);
  f.number("distortion_pct", w.distortion_pct, -kMostDistortion_pct, kMostDistortion_pct);
  f.number("dark_stops", w.dark_stops, 0, kMostDark_stops);
  f.number("vignetting_stops", w.vignetting_stops, 0, kMostDark_stops);
  f.number("turn_deg", w.turn_deg, -kMostTurn_deg, kMostTurn_deg);
  f.flag("looked", w.looked);
  f.list("spots", w.spots, [](Fields& g, Spot& s) {
    g.number("x", s.x, 0, 1);
    g.number("y", s.y, 0, 1);
    g.number("radius", s.radius, 0, 0.1);
  });
  constexpr double kWidest = 100000;  // of a sensor, in pixels
  std::vector<double> places;
  for (const media::SensorPlace& p : w.hot) {
    places.push_back(p.x);
    places.push_back(p.y);
  }
  f.numbers("hot", places, 0, kWidest);
  if (f.reading()) {
    if (places.size() % 2 != 0) f.fail("hot", say("must be pairs: x and y in turn"));
    w.hot.clear();
    for (size_t i = 0; i + 1 < places.size(); i += 2)
      w.hot.push_back({static_cast<int>(places[i]), static_cast<int>(places[i + 1])});
  }
  f.words("dark_frame", w.dark_frame);
}

}  // namespace askcount::optics
