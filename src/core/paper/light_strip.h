// SPDX-License-Identifier: GPL-3.0-or-later
// The light of a take's day as a picture.
#pragma once

#include <filesystem>
#include <string>

#include "base/output.h"
#include "take/take.h"

namespace askcount::paper {

/// The light of the take's day as a picture of `width` × 240 pixels: the colour of the sky by hour, the EV as
/// a line, the take marked. PNG.
void write_light_strip(const take::Take& take, int width, const std::filesystem::path& file,
                       const Guard& guard = {});

}  // namespace askcount::paper
