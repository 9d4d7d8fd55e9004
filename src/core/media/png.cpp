// SPDX-License-Identifier: GPL-3.0-or-later
#include <png.h>

#include <array>
#include <csetjmp>
#include <cstring>
#include <fstream>
#include <limits>
#include <optional>
#include <span>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "media/colour_profile.h"
#include "media/stills.h"

namespace askcount::media {
namespace {

/// A PNG opened by libpng's long way, for what its short one passes over. libpng leaves by longjmp: nothing
/// with a destructor lives between that and setjmp.
class LongWay {
 public:
  explicit LongWay(const std::filesystem::path& file)
      : bytes_(read_bytes(file)),
        png_(png_create_read_struct(
            PNG_LIBPNG_VER_STRING, nullptr, [](png_structp p, png_const_charp) { png_longjmp(p, 1); },
            [](png_structp, png_const_charp) {})),
        info_(png_create_info_struct(png_)) {}
  ~LongWay() { png_destroy_read_struct(&png_, &info_, nullptr); }
  LongWay(const LongWay&) = delete;

  /// The profile of its colours; empty where it has none.
  std::span<const std::uint8_t> profile() {
    png_charp name = nullptr;
    int method = 0;
    png_bytep icc = nullptr;
    png_uint_32 length = 0;
    if (setjmp(png_jmpbuf(png_)) != 0) return {};
    png_set_read_fn(png_, this, [](png_structp png, png_bytep into, png_size_t length) {
      auto* self = static_cast<LongWay*>(png_get_io_ptr(png));
      if (length > self->bytes_.size() - self->at_) png_error(png, to_say("cut short"));
      std::memcpy(into, self->bytes_.data() + self->at_, length);
      self->at_ += length;
    });
    png_read_info(png_, info_);
    if (png_get_iCCP(png_, info_, &name, &method, &icc, &length) == 0) return {};
    return {icc, length};
  }

  /// All of it after profile(): red, green, blue and how opaque, as codes of 8 or 16 bits. Null where it is
  /// damaged.
  png_bytepp rows() {
    if (setjmp(png_jmpbuf(png_)) != 0) return nullptr;
    png_set_expand(png_);
    png_set_gray_to_rgb(png_);
    png_set_add_alpha(png_, 0xFFFF, PNG_FILLER_AFTER);
    if (deep()) png_set_swap(png_);
    png_set_interlace_handling(png_);
    png_read_update_info(png_, info_);
    const png_uint_32 high = png_get_image_height(png_, info_);
    auto* all = static_cast<png_bytepp>(png_malloc(png_, high * sizeof(png_bytep)));
    png_data_freer(png_, info_, PNG_DESTROY_WILL_FREE_DATA, PNG_FREE_ROWS);
    for (png_uint_32 y = 0; y < high; ++y) all[y] = nullptr;
    png_set_rows(png_, info_, all);
    for (png_uint_32 y = 0; y < high; ++y)
      all[y] = static_cast<png_bytep>(png_malloc(png_, png_get_rowbytes(png_, info_)));
    png_read_image(png_, all);
    png_read_end(png_, nullptr);
    return all;
  }

  bool deep() const { return png_get_bit_depth(png_, info_) == 16; }
  image::Size size() const {
    return {static_cast<int>(png_get_image_width(png_, info_)),
            static_cast<int>(png_get_image_height(png_, info_))};
  }

 private:
  Bytes bytes_;
  size_t at_ = 0;
  png_structp png_;
  png_infop info_;
};

/// Codes on black, by how opaque they are.
template <typename Code>
void take_row(const png_byte* row, int n, Code* rgb) {
  const auto* rgba = reinterpret_cast<const Code*>(row);
  constexpr std::uint32_t kAll = std::numeric_limits<Code>::max();
  for (int x = 0; x < n; ++x)
    for (int c = 0; c < 3; ++c)
      rgb[3 * x + c] =
          static_cast<Code>((std::uint32_t{rgba[4 * x + c]} * rgba[4 * x + 3] + kAll / 2) / kAll);
}

/// A PNG whose colours are not those of sRGB; nothing where they are.
std::optional<image::Picture> decode_with_profile(const std::filesystem::path& file) {
  LongWay png(file);
  const auto profile = ColourProfile::of(png.profile());
  if (!profile) return {};
  png_bytepp rows = png.rows();
  if (!rows) throw unreadable_picture(file.string(), say("it is damaged or cut short"));
  const image::Size size = png.size();
  if (png.deep()) {
    image::Linear32 out(size);
    std::vector<std::uint16_t> codes(static_cast<size_t>(size.width) * 3);
    for (int y = 0; y < size.height; ++y) {
      take_row(rows[y], size.width, codes.data());
      profile->to_linear(codes.data(), out.row(y), size.width);
    }
    return out;
  }
  image::Coded8 out(size);
  for (int y = 0; y < size.height; ++y) take_row(rows[y], size.width, out.row(y));
  profile->to_srgb(out);
  return out;
}

}  // namespace

image::Picture decode_png(const std::filesystem::path& file) {
  require_plain_file(file);
  if (auto picture = decode_with_profile(file)) return *std::move(picture);
  const auto unreadable = [&](const std::string& why) { return unreadable_picture(file.string(), why); };
  // The depth stands at a fixed place behind the signature and the header's name.
  std::array<char, 25> head{};
  if (!std::ifstream(file, std::ios::binary).read(head.data(), head.size()))
    throw unreadable(say("it is cut short"));
  const bool deep = head[24] == 16;
  png_image png{};
  png.version = PNG_IMAGE_VERSION;
  struct Free {
    png_image* png;
    ~Free() { png_image_free(png); }
  } const free{&png};
  if (png_image_begin_read_from_file(&png, file.c_str()) == 0) throw unreadable(png.message);
  const image::Size size{static_cast<int>(png.width), static_cast<int>(png.height)};
  const png_color black{0, 0, 0};
  if (!deep) {
    png.format = PNG_FORMAT_RGB;
    image::Coded8 out(size);
    if (png_image_finish_read(&png, &black, out.rgb.data(), 0, nullptr) == 0) throw unreadable(png.message);
    return out;
  }
  png.flags |= PNG_IMAGE_FLAG_16BIT_sRGB;  // where it does not say its coding
  png.format = PNG_FORMAT_LINEAR_RGB;
  std::vector<png_uint_16> samples(static_cast<size_t>(size.width) * size.height * 3);
  if (png_image_finish_read(&png, &black, samples.data(), 0, nullptr) == 0) throw unreadable(png.message);
  image::Linear32 out(size);
  for (size_t i = 0; i < samples.size(); ++i) out.rgb[i] = static_cast<float>(samples[i]) / 65535.0F;
  return out;
}

}  // namespace askcount::media
