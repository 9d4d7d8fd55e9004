// SPDX-License-Identifier: GPL-3.0-or-later
// A file opened for its metadata. Only for the files beside it: it includes Exiv2.
#pragma once

#include <exiv2/exiv2.hpp>
#include <filesystem>

namespace askcount::media {

/// With its metadata read. Throws Failed naming the file where it is no picture, BadInput where it is no
/// plain file. Safe from several threads at once.
Exiv2::Image::AutoPtr open_image(const std::filesystem::path& file);

}  // namespace askcount::media
