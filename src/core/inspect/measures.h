// SPDX-License-Identifier: GPL-3.0-or-later
// What is measured of every frame when all of them are looked at.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <vector>

namespace askcount::inspect {

/// The parts a frame is measured in, rows from the top.
inline constexpr int kPartsAcross = 6, kPartsDown = 4, kParts = kPartsAcross * kPartsDown;
using Parts = std::array<float, kParts>;

/// One frame, looked at.
struct Measures {
  enum class File : std::uint8_t {
    Whole,
    CutShort,   ///< it begins well and ends too early
    Unreadable  ///< empty, or no picture
  };
  File file = File::Whole;
  float stops = 0;    ///< log2 of the mean linear light; white is 0
  float code = 0;     ///< mean code, 0 to 255
  float spread = 0;   ///< standard deviation of the codes of its middle sizes: 0 for a blank frame
  float clipped = 0;  ///< share of the picture that is white and nothing else
  Parts fine{};       ///< log2 of the energy of the finest detail in each part, against its brightness
  Parts coarse{};     ///< the same of middle-sized detail: what neither blur nor noise changes much
  Parts light{};      ///< log2 of the linear light of each part's mean code; white is 0
  float x = 0,
        y = 0;  ///< where the picture lies against the first frame, in pixels of the full frame; y down
  float turn_deg = 0;  ///< and by how much it is turned, clockwise
  float step_x = 0, step_y = 0,
        step_turn_deg = 0;  ///< how it moved from the frame before, in the same pixels
  float step_held_by = 0;   ///< as held_by, for that
  float points = 0;   ///< log2 of how far the sharpest few in a thousand pixels stand out of the usual ones
  float held_by = 0;  ///< share of the picture's textured parts that agree on that; 0 where it is not known
  float odd = 0;      ///< share of the picture that is like neither the frames before nor those after

  bool seen() const { return file == File::Whole; }
};

/// All frames of a take, in order, with what was said of a file that cannot be read whole.
struct Look {
  std::vector<Measures> frames;
  std::vector<std::pair<std::size_t, std::string>> troubles;  ///< frame from 0, and why
};

}  // namespace askcount::inspect
