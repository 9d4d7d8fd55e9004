// A film frame as red, green and blue: what a screen shows of it.
#pragma once

#include "film/frame_buffer.h"
#include "image/pixels.h"

namespace askcount::film {

/// The picture of a film frame by its own matrix and range. Throws Failed where there is no memory.
image::Coded8 seen(const FilmFrame& frame);

}  // namespace askcount::film
