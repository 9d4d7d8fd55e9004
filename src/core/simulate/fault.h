// SPDX-License-Identifier: GPL-3.0-or-later
// What can go wrong on a shoot, on request.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace askcount::simulate {

struct Fault {
  enum class Kind {
    Battery,  ///< dies
    Card,     ///< is full
    Bump,     ///< the tripod is bumped: everything is shifted from then on, by `amount` of the width (0.02)
    Focus,    ///< shifts: blurred from then on, by `amount` of the width (0.004)
    Dew,      ///< creeps in over `amount` frames (60)
    Skip,     ///< the camera does not hear one press
    Double,   ///< one press gives two shots
    Hand,     ///< a hand in front of the lens for one frame
    Lamp,     ///< a lamp flickers from then on: `amount` stops (0.4) up and down from frame to frame
    Clock     ///< the camera's clock is wrong by `amount` seconds (3600), from then on
  };
  Kind kind = Kind::Skip;
  long long at = 0;   ///< frame from 0 at which it begins
  double amount = 0;  ///< 0 for the usual one
  bool operator==(const Fault&) const = default;
};

/// The word of a kind: "battery", "card", "bump", "focus", "dew", "skip", "double", "hand", "lamp", "clock".
const char* fault_word(Fault::Kind kind);
/// What it is and what can still be saved, for people.
std::string fault_words(const Fault& fault);

/// Reads "bump@120", "clock@0=-3600", "dew@200=30": frames counted from 1, an amount after "=". Throws
/// BadInput.
Fault parse_fault(std::string_view text);

/// Faults that happen by chance: each frame has `chance` of a skip, a double shot or a hand. The same for the
/// same seed.
std::vector<Fault> chance_faults(double chance, long long frames, std::uint64_t seed);

/// What the faults do to one frame's picture.
struct FrameHarm {
  double shift_x = 0, shift_y = 0;  ///< share of the width
  double blur = 0;                  ///< share of the width
  double haze = 0;                  ///< 0 to 1
  double stops = 0;                 ///< of the light
  double clock_s = 0;
  double red_stops = 0, blue_stops = 0;
  bool hand = false;
  bool none() const {
    return shift_x == 0 && shift_y == 0 && blur == 0 && haze == 0 && stops == 0 && red_stops == 0 &&
           blue_stops == 0 && !hand;
  }
};
FrameHarm harm_at(const std::vector<Fault>& faults, long long frame);

}  // namespace askcount::simulate
