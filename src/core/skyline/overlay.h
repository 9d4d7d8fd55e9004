// SPDX-License-Identifier: GPL-3.0-or-later
// The sky drawn over a picture taken at the place: paths, band, pole, skyline, and the frame to come.
#pragma once

#include <filesystem>
#include <optional>
#include <vector>

#include "base/output.h"
#include "sky/behind.h"
#include "skyline/photograph.h"

namespace askcount::skyline {

/// What is drawn.
struct Overlay {
  sky::Place place;
  Instant from, to;  ///< of the paths; up to two days
  View view;         ///< of the picture
  std::vector<sky::HorizonPoint> horizon;
  std::optional<View> frame;        ///< the take's own, where it is to be drawn
  std::vector<sky::Behind> behind;  ///< said beside the paths
};

/// The pole that stars turn around and that stands above the horizon: north at north latitudes.
sky::Direction pole_of(const sky::Place& place);

/// Draws it over the picture and writes a PNG as large as the picture; whole or not at all. Words are marked
/// in the clocks of the place. Throws Failed naming the file.
void draw_over(const Photograph& photograph, const Overlay& overlay, const std::filesystem::path& file,
               const Guard& guard = {});

}  // namespace askcount::skyline
