// SPDX-License-Identifier: GPL-3.0-or-later
#include "look/look.h"

#include <fmt/format.h>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount::look {

const std::array<Lane, kLanes>& lanes() {
  static const std::array<Lane, kLanes> all = {{
      {"light", to_say("Light"), to_say("stops"), -4, 4, 0, 0.05, 2, &Look::light},
      {"warmth", to_say("Warmth"), "K", 2000, 15000, 0, 50, 0, &Look::warmth_k},
      {"cast", to_say("Cast"), to_say("stops"), -1, 1, 0, 0.02, 2, &Look::cast},
      {"depth", to_say("Depth"), "×", 0.5, 2, 1, 0.02, 2, &Look::depth},
      {"bright-parts", to_say("Bright parts"), to_say("stops"), -1.5, 1.5, 0, 0.05, 2, &Look::bright_parts},
      {"dark-parts", to_say("Dark parts"), to_say("stops"), -2, 2, 0, 0.05, 2, &Look::dark_parts},
      {"black", to_say("Black"), "%", -5, 5, 0, 0.1, 1, &Look::black},
      {"colour", to_say("Colour"), "×", 0, 2, 1, 0.02, 2, &Look::colour},
      {"haze", to_say("Haze lifted"), "×", 0, 1, 0, 0.02, 2, &Look::haze},
      {"crispness", to_say("Crispness"), "×", 0, 2, 0, 0.05, 2, &Look::crispness},
  }};
  return all;
}

void check_look(const Look& look, const char* where) {
  for (const Lane& lane : lanes()) {
    const double v = look.*lane.value;
    if (v == lane.neutral || (v >= lane.least && v <= lane.most)) continue;
    throw bad_input(say("{}: \"{}\" is {}; it goes from {} to {}{}.", where, lane.key, format_number(v, 3),
                        format_number(lane.least, 2), format_number(lane.most, 2),
                        *lane.unit ? fmt::format(" {}", lane.unit) : ""),
                    say("Change it in the file, or leave it out."));
  }
}

}  // namespace askcount::look
