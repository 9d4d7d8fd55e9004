// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/exif_image.h"

#include <mutex>

#include "base/files.h"
#include "media/jpeg.h"

namespace askcount::media {

Exiv2::Image::AutoPtr open_image(const std::filesystem::path& file) {
  static const bool ready = [] {
    // Its remarks name no file; what matters is thrown.
    Exiv2::LogMsg::setLevel(Exiv2::LogMsg::mute);
    // Its XMP toolkit keeps a table for all threads, and locks it only with a lock that is lent to it.
    static std::recursive_mutex table;
    return Exiv2::XmpParser::initialize(
        [](void* mutex, bool lock) {
          auto* m = static_cast<std::recursive_mutex*>(mutex);
          lock ? m->lock() : m->unlock();
        },
        &table);
  }();
  (void)ready;
  require_plain_file(file);
  try {
    auto image = Exiv2::ImageFactory::open(file.string());
    image->readMetadata();
    return image;
  } catch (
      const std::exception& e) {  // it throws its own kind and, for hostile files, the standard library's
    throw unreadable_picture(file.string(), e.what());
  }
}

}  // namespace askcount::media
