#include <png.h>

#include <array>
#include <fstream>

#include "base/error.h"
#include "base/files.h"
#include "source/stills.h"

namespace askcount::source {

image::Picture decode_png(const std::filesystem::path& file) {
  require_plain_file(file);
  const auto unreadable = [&](const std::string& why) { return unreadable_picture(file.string(), why); };
  // The depth stands at a fixed place behind the signature and the header's name.
  std::array<char, 25> head{};
  if (!std::ifstream(file, std::ios::binary).read(head.data(), head.size()))
    throw unreadable("it is cut short");
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

}  // namespace askcount::source
