// SPDX-License-Identifier: GPL-3.0-or-later
// When sun, moon and core go behind the skyline, and come out again.
#pragma once

#include <string>
#include <vector>

#include "sky/framing.h"

namespace askcount::sky {

/// One going behind or coming out.
struct Behind {
  Body body = Body::Sun;
  bool goes = true;  ///< behind; otherwise it comes out
  Instant at;
  Direction where;  ///< the point of the skyline
};

/// All of them between two moments, in order, to a second (what lasts less than a minute is left out): of the
/// sun's and the moon's middle and of the core. Where the horizon has no points it is level. A stretch of up
/// to 7 days takes some milliseconds.
std::vector<Behind> behind(const Ephemeris& sky, Body body, const Place& place,
                           const std::vector<HorizonPoint>& horizon, Instant from, Instant to);

/// "The sun goes behind the skyline at 18:14, 2.3° up in bearing 252°."
std::string behind_words(const Behind& behind, const std::string& zone);

}  // namespace askcount::sky
