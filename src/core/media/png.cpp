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

/// What stands at fixed places behind the signature and the header's name.
struct Header {
  std::uint32_t width = 0, height = 0;
  int bits = 0;
  /// Deflate makes a thousandth of what is all alike, and no less: the bytes that a file of this size has.
  std::uint64_t least_bytes() const {
    constexpr std::uint64_t kBestRatio = 1032;
    return static_cast<std::uint64_t>(static_cast<double>(width) / 8 * bits * height / kBestRatio);
  }
};

Header header_of(const std::filesystem::path& file) {
  std::array<unsigned char, 25> head{};
  if (!std::ifstream(file, std::ios::binary).read(reinterpret_cast<char*>(head.data()), head.size()))
    throw unreadable_picture(file.string(), say("it is cut short"));
  const auto number = [&](size_t at) {
    return std::uint32_t{head[at]} << 24 | std::uint32_t{head[at + 1]} << 16 |
           std::uint32_t{head[at + 2]} << 8 | head[at + 3];
  };
  return {number(16), number(20), head[24]};
}

}  // namespace

image::Picture decode_png(const std::filesystem::path& file) {
  require_plain_file(file);
  const auto unreadable = [&](const std::string& why) { return unreadable_picture(file.string(), why); };
  const Header header = header_of(file);
  if (header.least_bytes() > std::filesystem::file_size(file))
    throw unreadable(say("it is cut short, or its size makes no sense"));
  if (auto picture = decode_with_profile(file)) return *std::move(picture);
  png_image png{};
  png.version = PNG_IMAGE_VERSION;
  struct Free {
    png_image* png;
    ~Free() { png_image_free(png); }
  } const free{&png};
  if (png_image_begin_read_from_file(&png, file.c_str()) == 0) throw unreadable(png.message);
  const image::Size size{static_cast<int>(png.width), static_cast<int>(png.height)};
  const png_color black{0, 0, 0};
  if (header.bits != 16) {
    png.format = PNG_FORMAT_RGB;
    image::Coded8 out(size);
    if (png_image_finish_read(&png, &black, out.rgb.data(), 0, nullptr) == 0) throw unreadable(png.message);
    return out;
  }
  png.flags |= PNG_IMAGE_FLAG_16BIT_sRGB;  // where it does not say its coding
  png.format = PNG_FORMAT_LINEAR_RGB;
  // The samples are read into the second half of what they become, and taken from the front: a float is never
  // written over a sample that is still to be read.
  image::Linear32 out(size);
  const size_t n = out.rgb.size();
  auto* const bytes = reinterpret_cast<unsigned char*>(out.rgb.data());
  auto* const samples = bytes + n * sizeof(png_uint_16);
  if (png_image_finish_read(&png, &black, samples, 0, nullptr) == 0) throw unreadable(png.message);
  for (size_t i = 0; i < n; ++i) {
    png_uint_16 sample = 0;
    std::memcpy(&sample, samples + i * sizeof sample, sizeof sample);
    const float light = static_cast<float>(sample) / 65535.0F;
    std::memcpy(bytes + i * sizeof light, &light, sizeof light);
  }
  return out;
}

}  // namespace askcount::media
