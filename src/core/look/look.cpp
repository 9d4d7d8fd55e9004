#include "look/look.h"

#include <fmt/format.h>

#include "base/error.h"
#include "base/units.h"

namespace askcount::look {

const std::array<Lane, kLanes>& lanes() {
  static const std::array<Lane, kLanes> all = {{
      {"light", "Light", "stops", -4, 4, 0, 0.05, 2, &Look::light},
      {"warmth", "Warmth", "K", 2000, 15000, 0, 50, 0, &Look::warmth_k},
      {"cast", "Cast", "stops", -1, 1, 0, 0.02, 2, &Look::cast},
      {"depth", "Depth", "×", 0.5, 2, 1, 0.02, 2, &Look::depth},
      {"bright-parts", "Bright parts", "stops", -1.5, 1.5, 0, 0.05, 2, &Look::bright_parts},
      {"dark-parts", "Dark parts", "stops", -2, 2, 0, 0.05, 2, &Look::dark_parts},
      {"black", "Black", "%", -5, 5, 0, 0.1, 1, &Look::black},
      {"colour", "Colour", "×", 0, 2, 1, 0.02, 2, &Look::colour},
      {"haze", "Haze lifted", "×", 0, 1, 0, 0.02, 2, &Look::haze},
      {"crispness", "Crispness", "×", 0, 2, 0, 0.05, 2, &Look::crispness},
  }};
  return all;
}

void check_look(const Look& look, const char* where) {
  for (const Lane& lane : lanes()) {
    const double v = look.*lane.value;
    if (v == lane.neutral || (v >= lane.least && v <= lane.most)) continue;
    throw bad_input(fmt::format("{}: \"{}\" is {}; it goes from {} to {}{}.", where, lane.key,
                                format_number(v, 3), format_number(lane.least, 2),
                                format_number(lane.most, 2), *lane.unit ? fmt::format(" {}", lane.unit) : ""),
                    "Change it in the file, or leave it out.");
  }
}

}  // namespace askcount::look
