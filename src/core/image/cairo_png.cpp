// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/cairo_png.h"

#include <fmt/format.h>
#include <zlib.h>

#include <string>

#include "base/error.h"
#include "base/files.h"

namespace askcount::image {
namespace {

cairo_status_t append(void* closure, const unsigned char* data, unsigned int length) {
  static_cast<std::string*>(closure)->append(reinterpret_cast<const char*>(data), length);
  return CAIRO_STATUS_SUCCESS;
}

/// The PNG with our name in it, right after its header, so that it is known again.
std::string marked(const std::string& png) {
  constexpr size_t kHeader = 33;  // the signature and the IHDR chunk
  using namespace std::string_literals;
  const std::string chunk = "tEXtSoftware\0Ask Count"s;
  const auto number = [](std::uint32_t n) {
    return std::string{static_cast<char>(n >> 24), static_cast<char>(n >> 16), static_cast<char>(n >> 8),
                       static_cast<char>(n)};
  };
  const auto crc = static_cast<std::uint32_t>(
      crc32(0, reinterpret_cast<const Bytef*>(chunk.data()), static_cast<uInt>(chunk.size())));
  return png.substr(0, kHeader) + number(static_cast<std::uint32_t>(chunk.size() - 4)) + chunk + number(crc) +
         png.substr(kHeader);
}

}  // namespace

std::string png_bytes(cairo_surface_t* surface) {
  std::string bytes;
  const cairo_status_t status = cairo_surface_write_to_png_stream(surface, append, &bytes);
  if (status != CAIRO_STATUS_SUCCESS)
    throw failed(fmt::format("The picture cannot be made: {}.", cairo_status_to_string(status)));
  return marked(bytes);
}

void write_png(cairo_surface_t* surface, const std::filesystem::path& file, const Guard& guard) {
  write_file_atomically({file, FileKind::Picture, guard}, png_bytes(surface));
}

}  // namespace askcount::image
