// SPDX-License-Identifier: GPL-3.0-or-later
// Lines and words drawn over a picture, written as PNG.
#pragma once

#include <array>
#include <cstdint>
#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "base/output.h"

namespace askcount::image {

/// A colour, 0 to 1, with how much it covers.
struct Ink {
  double r = 1, g = 1, b = 1, a = 1;
};

/// A place in pixels from the upper left corner.
struct Spot {
  double x = 0, y = 0;
};

/// A picture of 8-bit sRGB that is drawn over. What lies outside of it is not seen.
class Canvas {
 public:
  /// `rgb` holds 3 × width × height codes. Throws Failed where there is no memory.
  Canvas(int width, int height, const std::uint8_t* rgb);
  ~Canvas();
  Canvas(const Canvas&) = delete;
  Canvas& operator=(const Canvas&) = delete;

  int width() const;
  int height() const;
  enum class Style { Solid, Dashed, Dotted };
  /// One stroke through the spots; `closed` joins its ends.
  void line(const std::vector<Spot>& through, const Ink& ink, double wide, Style style = Style::Solid,
            bool closed = false);
  void dot(const Spot& at, double radius, const Ink& ink);
  /// Words that start at `at` (their base line), with a dark rim so that they are read on anything; moved
  /// into the picture where they would leave it. Nothing is written over other words: returns false then.
  bool words(const Spot& at, const std::string& text, double pixels, const Ink& ink, bool bold = false);

  /// As a PNG, in memory. Throws Failed where it cannot be made.
  std::string png() const;
  /// Writes it whole or not at all. Throws Failed naming the file.
  void save(const std::filesystem::path& file, const Guard& guard = {}) const;

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

}  // namespace askcount::image
