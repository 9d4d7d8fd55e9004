// SPDX-License-Identifier: GPL-3.0-or-later
// What is drawn with cairo as a PNG of ours.
#pragma once

#include <cairo.h>

#include <filesystem>
#include <string>

#include "base/output.h"

namespace askcount::image {

/// A surface as a PNG of ours, in memory. Throws Failed where it cannot be made.
std::string png_bytes(cairo_surface_t* surface);

/// Writes an image surface, whole or not at all, with our name in it so that it is known again. Throws Failed
/// naming the file.
void write_png(cairo_surface_t* surface, const std::filesystem::path& file, const Guard& guard);

}  // namespace askcount::image
