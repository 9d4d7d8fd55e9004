// SPDX-License-Identifier: GPL-3.0-or-later
// A film frame as red, green and blue: what a screen shows of it.
#pragma once

#include "image/pixels.h"
#include "media/frame_buffer.h"

namespace askcount::media {

/// The picture of a film frame by its own matrix and range. Throws Failed where there is no memory.
image::Coded8 seen(const FilmFrame& frame);

}  // namespace askcount::media
