// SPDX-License-Identifier: GPL-3.0-or-later
// Where the sky ends in a picture: hills, roofs and trees, found column by column.
#pragma once

#include <vector>

#include "skyline/photograph.h"

namespace askcount::skyline {

/// The height of the skyline in every column of a picture, as shares from the top (0) to the bottom (1): the
/// first strong edge from above, with what is above it smooth, joined to the cheapest line over all columns
/// (walls may rise straight up). Found at no more than 1,200 columns. A picture without any sky gives a line
/// at its top.
std::vector<double> skyline_of(const image::Coded8& picture);

/// The skyline as points of a horizon, to `tolerance_deg`: those of the picture's bearings are put in the
/// place of what `horizon` says there, the rest stays as it is (level where nothing was said).
std::vector<sky::HorizonPoint> traced(const std::vector<double>& skyline, const View& view,
                                      const std::vector<sky::HorizonPoint>& horizon = {},
                                      double tolerance_deg = 0.1);

}  // namespace askcount::skyline
