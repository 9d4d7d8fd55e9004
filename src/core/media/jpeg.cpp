// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/jpeg.h"

#include <fmt/format.h>
#include <turbojpeg.h>

#include <algorithm>
#include <cerrno>
#include <csetjmp>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <memory>

#include <jpeglib.h>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "image/tone.h"
#include "media/colour_profile.h"

namespace askcount::media {

using image::Coded8;
using image::Size;

namespace {

constexpr double kAlmost = 1;  // eighths of a pixel: a part that is rounded a little short will do

struct Close {
  void operator()(void* handle) const { tjDestroy(handle); }
};
using Handle = std::unique_ptr<void, Close>;

/// A decompressor whose errors come back here instead of ending the program. libjpeg leaves by longjmp, so
/// nothing with a destructor may live between the call and setjmp.
struct Decompressor {
  jpeg_decompress_struct jpeg{};
  jpeg_error_mgr handlers{};
  std::jmp_buf leave{};
  char why[JMSG_LENGTH_MAX] = {};

  Decompressor() {
    jpeg.err = jpeg_std_error(&handlers);
    jpeg.client_data = this;
    handlers.error_exit = [](j_common_ptr info) {
      auto* self = static_cast<Decompressor*>(info->client_data);
      info->err->format_message(info, self->why);
      std::longjmp(self->leave, 1);
    };
    // Warnings (level -1) mean that a part of the picture is not what the camera wrote.
    handlers.emit_message = [](j_common_ptr info, int level) {
      auto* self = static_cast<Decompressor*>(info->client_data);
      if (level >= 0) return;
      info->err->format_message(info, self->why);
      if (std::strstr(self->why, "extraneous bytes") == nullptr) std::longjmp(self->leave, 1);
      self->why[0] = 0;
    };
    jpeg_create_decompress(&jpeg);
  }
  ~Decompressor() { jpeg_destroy_decompress(&jpeg); }
  Decompressor(const Decompressor&) = delete;

  /// False where it failed; `why` says why.
  bool read_header(std::span<const std::uint8_t> bytes) {
    if (setjmp(leave) != 0) return false;
    jpeg_mem_src(&jpeg, bytes.data(), bytes.size());
    jpeg_save_markers(&jpeg, JPEG_APP0 + 2, 0xFFFF);  // where profiles lie
    jpeg_read_header(&jpeg, TRUE);
    return true;
  }

  bool start(int eighths, J_COLOR_SPACE colours = JCS_RGB) {
    if (setjmp(leave) != 0) return false;
    jpeg.scale_num = static_cast<unsigned>(eighths);
    jpeg.scale_denom = 8;
    jpeg.out_color_space = colours;
    jpeg_start_decompress(&jpeg);
    return true;
  }

  /// The profile of its colours, once the header is read; empty where there is none.
  Bytes profile() {
    JOCTET* data = nullptr;
    unsigned length = 0;
    if (setjmp(leave) != 0 || jpeg_read_icc_profile(&jpeg, &data, &length) == FALSE) return {};
    Bytes icc(data, data + length);
    std::free(data);
    return icc;
  }

  template <class Into>
  bool read_rows(Into& into, int first) {
    if (setjmp(leave) != 0) return false;
    if (first > 0) jpeg_skip_scanlines(&jpeg, static_cast<JDIMENSION>(first));
    const int last = first + into.size.height;
    while (static_cast<int>(jpeg.output_scanline) < last) {
      JSAMPROW row = into.row(static_cast<int>(jpeg.output_scanline) - first);
      jpeg_read_scanlines(&jpeg, &row, 1);
    }
    if (static_cast<int>(jpeg.output_height) == last) jpeg_finish_decompress(&jpeg);
    return true;
  }
};

/// Cameras write grey, or luma and chroma; programs for print may leave four inks.
void check_colours(const Decompressor& d, const std::string& name) {
  if (d.jpeg.num_components <= 3) return;
  throw failed(say("{} cannot be read as a picture: {}.", name, say("its colours are inks for print")),
               say("Save it with red, green and blue."));
}

}  // namespace

Error unreadable_picture(const std::string& name, const std::string& why) {
  return failed(say("{} cannot be read as a picture: {}.", name, why));
}

Bytes read_bytes(const std::filesystem::path& file) {
  require_plain_file(file);
  std::ifstream in(file, std::ios::binary | std::ios::ate);
  if (!in) throw failed(say("{} cannot be opened: {}.", file.string(), std::strerror(errno)));
  const auto length = in.tellg();
  Bytes bytes(length > 0 ? static_cast<size_t>(length) : 0);
  in.seekg(0);
  if (!in.read(reinterpret_cast<char*>(bytes.data()), static_cast<std::streamsize>(bytes.size())))
    throw failed(say("{} cannot be read: {}.", file.string(), std::strerror(errno)));
  return bytes;
}

Size jpeg_size(std::span<const std::uint8_t> bytes, const std::string& name) {
  if (bytes.empty()) throw unreadable_picture(name, say("it is empty"));
  Decompressor d;
  if (!d.read_header(bytes)) throw unreadable_picture(name, d.why);
  return {static_cast<int>(d.jpeg.image_width), static_cast<int>(d.jpeg.image_height)};
}

Size scaled_size(Size full, int eighths) {
  const tjscalingfactor factor{eighths, 8};
  return {TJSCALED(full.width, factor), TJSCALED(full.height, factor)};
}

int decoding_eighths(const image::RectF& part, Size film) {
  for (const int eighths : {1, 2, 3, 4, 5, 6, 7})
    if (part.width * eighths >= film.width * 8 - kAlmost &&
        part.height * eighths >= film.height * 8 - kAlmost)
      return eighths;
  return 8;
}

Coded8 decode_jpeg(std::span<const std::uint8_t> bytes, int eighths, const std::string& name, Rows rows,
                   Unsaid unsaid) {
  if (bytes.empty()) throw unreadable_picture(name, say("it is empty"));
  Decompressor d;
  if (!d.read_header(bytes)) throw unreadable_picture(name, d.why);
  check_colours(d, name);
  const Bytes icc = d.profile();
  if (!d.start(eighths)) throw unreadable_picture(name, d.why);
  const int height = static_cast<int>(d.jpeg.output_height);
  const int first = std::clamp(rows.first, 0, height - 1);
  const int count = rows.count > 0 ? std::min(rows.count, height - first) : height - first;
  Coded8 picture(Size{static_cast<int>(d.jpeg.output_width), count});
  if (!d.read_rows(picture, first)) throw unreadable_picture(name, d.why);
  const auto profile =
      icc.empty() && unsaid == Unsaid::DcfOptional ? ColourProfile::dcf_optional() : ColourProfile::of(icc);
  if (profile) profile->to_srgb(picture);
  return picture;
}

image::Grey8 decode_jpeg_grey(std::span<const std::uint8_t> bytes, int eighths, const std::string& name) {
  if (bytes.empty()) throw unreadable_picture(name, say("it is empty"));
  Decompressor d;
  if (!d.read_header(bytes)) throw unreadable_picture(name, d.why);
  check_colours(d, name);
  // Only luma and chroma can be had apart; anything else comes by its colours.
  if (d.jpeg.jpeg_color_space != JCS_YCbCr && d.jpeg.jpeg_color_space != JCS_GRAYSCALE)
    return image::grey(decode_jpeg(bytes, eighths, name));
  if (!d.start(eighths, JCS_GRAYSCALE)) throw unreadable_picture(name, d.why);
  image::Grey8 picture(Size{static_cast<int>(d.jpeg.output_width), static_cast<int>(d.jpeg.output_height)});
  if (!d.read_rows(picture, 0)) throw unreadable_picture(name, d.why);
  return picture;
}

Bytes encode_jpeg(const Coded8& picture, int quality) {
  thread_local Handle handle(tjInitCompress());
  unsigned char* data = nullptr;
  unsigned long length = 0;
  if (tjCompress2(handle.get(), picture.rgb.data(), picture.size.width, 0, picture.size.height, TJPF_RGB,
                  &data, &length, TJSAMP_422, quality, 0) != 0)
    throw failed(say("A picture cannot be compressed: {}.", tjGetErrorStr2(handle.get())));
  Bytes bytes(data, data + length);
  tjFree(data);
  return bytes;
}

}  // namespace askcount::media
