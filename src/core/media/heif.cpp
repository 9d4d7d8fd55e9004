// SPDX-License-Identifier: GPL-3.0-or-later
#include <libheif/heif.h>

#include <cstring>
#include <memory>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "media/colour_profile.h"
#include "media/stills.h"

namespace askcount::media {
namespace {

struct Free {
  void operator()(heif_context* c) const { heif_context_free(c); }
  void operator()(heif_image_handle* h) const { heif_image_handle_release(h); }
  void operator()(heif_image* i) const { heif_image_release(i); }
};
using Context = std::unique_ptr<heif_context, Free>;
using ImageHandle = std::unique_ptr<heif_image_handle, Free>;
using Image = std::unique_ptr<heif_image, Free>;

void check_heif(const heif_error& error, const std::filesystem::path& file) {
  if (error.code != heif_error_Ok) throw unreadable_picture(file.string(), error.message);
}

/// A file opened, and its main picture.
struct OpenedHeif {
  Context context;
  ImageHandle main;
};

OpenedHeif open_heif(const std::filesystem::path& file) {
  require_plain_file(file);
  OpenedHeif o{Context(heif_context_alloc()), {}};
  check_heif(heif_context_read_from_file(o.context.get(), file.c_str(), nullptr), file);
  heif_image_handle* handle = nullptr;
  check_heif(heif_context_get_primary_image_handle(o.context.get(), &handle), file);
  o.main.reset(handle);
  return o;
}

}  // namespace

image::Coded8 decode_heif(const std::filesystem::path& file, bool small) {
  OpenedHeif o = open_heif(file);
  Bytes icc(heif_image_handle_get_raw_color_profile_size(o.main.get()));
  if (!icc.empty() && heif_image_handle_get_raw_color_profile(o.main.get(), icc.data()).code != heif_error_Ok)
    icc.clear();
  if (small) {
    heif_item_id id = 0;
    heif_image_handle* handle = nullptr;
    if (heif_image_handle_get_list_of_thumbnail_IDs(o.main.get(), &id, 1) == 1 &&
        heif_image_handle_get_thumbnail(o.main.get(), id, &handle).code == heif_error_Ok)
      o.main.reset(handle);
  }
  heif_image* decoded = nullptr;
  check_heif(
      heif_decode_image(o.main.get(), &decoded, heif_colorspace_RGB, heif_chroma_interleaved_RGB, nullptr),
      file);
  const Image image(decoded);
  int stride = 0;
  const std::uint8_t* rows = heif_image_get_plane_readonly(decoded, heif_channel_interleaved, &stride);
  const image::Size size{heif_image_get_width(decoded, heif_channel_interleaved),
                         heif_image_get_height(decoded, heif_channel_interleaved)};
  if (rows == nullptr || size.width <= 0 || size.height <= 0)
    throw unreadable_picture(file.string(), say("nothing came out of it"));
  image::Coded8 out(size);
  for (int y = 0; y < size.height; ++y)
    std::memcpy(out.row(y), rows + static_cast<std::ptrdiff_t>(y) * stride,
                static_cast<size_t>(size.width) * 3);
  if (const auto profile = ColourProfile::of(icc)) profile->to_srgb(out);
  return out;
}

HeifHeader read_heif_header(const std::filesystem::path& file) {
  const OpenedHeif o = open_heif(file);
  HeifHeader header;
  header.size = {heif_image_handle_get_width(o.main.get()), heif_image_handle_get_height(o.main.get())};
  heif_item_id id = 0;
  if (heif_image_handle_get_list_of_metadata_block_IDs(o.main.get(), "Exif", &id, 1) == 1) {
    Bytes block(heif_image_handle_get_metadata_size(o.main.get(), id));
    constexpr size_t kOffset = 4;  // where the TIFF header begins behind it, big-endian
    if (block.size() > kOffset &&
        heif_image_handle_get_metadata(o.main.get(), id, block.data()).code == heif_error_Ok) {
      const size_t skip =
          (size_t{block[0]} << 24) + (size_t{block[1]} << 16) + (size_t{block[2]} << 8) + block[3];
      if (kOffset + skip < block.size())
        header.exif.assign(block.begin() + static_cast<long>(kOffset + skip), block.end());
    }
  }
  return header;
}

}  // namespace askcount::media
