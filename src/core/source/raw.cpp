#include "source/raw.h"

#include <fmt/format.h>
#include <libraw/libraw.h>

#include <chrono>
#include <cmath>
#include <ctime>
#include <memory>

#include "base/error.h"
#include "base/files.h"

namespace askcount::source {
namespace {

/// LibRaw's flip as an EXIF orientation.
int orientation_of(int flip) {
  switch (flip) {
    case 3:
      return 3;
    case 5:
      return 8;
    case 6:
      return 6;
    default:
      return 1;
  }
}

void check(int code, const std::filesystem::path& file) {
  if (code != LIBRAW_SUCCESS)
    throw failed(fmt::format("{} cannot be read as a raw file: {}.", file.string(), libraw_strerror(code)));
}

std::unique_ptr<LibRaw> open(const std::filesystem::path& file) {
  require_plain_file(file);
  auto raw = std::make_unique<LibRaw>();
  raw->set_exifparser_handler(nullptr, nullptr);
  check(raw->open_file(file.c_str()), file);
  return raw;
}

}  // namespace

ShotInfo read_raw_info(const std::filesystem::path& file) {
  const auto raw = open(file);
  const libraw_data_t& d = raw->imgdata;
  ShotInfo info;
  info.size = {d.sizes.width, d.sizes.height};
  info.orientation = orientation_of(d.sizes.flip);
  if (d.other.shutter > 0) info.shutter_s = static_cast<double>(d.other.shutter);
  if (d.other.aperture > 0) info.f_number = static_cast<double>(d.other.aperture);
  if (d.other.iso_speed > 0) info.iso = static_cast<double>(d.other.iso_speed);
  if (d.other.focal_len > 0) info.focal_mm = static_cast<double>(d.other.focal_len);
  info.body = d.idata.model;
  info.lens = d.lens.Lens;
  if (d.other.timestamp > 0) {
    // LibRaw takes the camera's clock for this computer's: turned back.
    std::tm local{};
    const std::time_t at = d.other.timestamp;
    localtime_r(&at, &local);
    info.captured = CameraTime(std::chrono::seconds(timegm(&local)));
    info.whole_seconds = true;
  }
  return info;
}

EmbeddedPicture read_embedded(const std::filesystem::path& file) {
  const auto raw = open(file);
  EmbeddedPicture picture;
  if (raw->unpack_thumb() != LIBRAW_SUCCESS) return picture;
  const libraw_thumbnail_t& t = raw->imgdata.thumbnail;
  if (t.tformat != LIBRAW_THUMBNAIL_JPEG || t.thumb == nullptr) return picture;
  picture.jpeg.assign(reinterpret_cast<const std::uint8_t*>(t.thumb),
                      reinterpret_cast<const std::uint8_t*>(t.thumb) + t.tlength);
  picture.orientation = orientation_of(raw->imgdata.sizes.flip);
  return picture;
}

image::Linear32 develop_raw(const std::filesystem::path& file, bool half) {
  const auto raw = open(file);
  libraw_output_params_t& p = raw->imgdata.params;
  p.half_size = half ? 1 : 0;
  p.use_camera_wb = 1;
  p.no_auto_bright = 1;
  p.output_bps = 16;
  p.output_color = 1;  // the primaries of sRGB and BT.709
  p.gamm[0] = p.gamm[1] = 1;
  p.user_qual = 3;
  check(raw->unpack(), file);
  check(raw->dcraw_process(), file);
  int trouble = 0;
  const auto free = [](libraw_processed_image_t* i) { LibRaw::dcraw_clear_mem(i); };
  const std::unique_ptr<libraw_processed_image_t, decltype(free)> made(raw->dcraw_make_mem_image(&trouble),
                                                                       free);
  check(trouble, file);
  if (!made || made->bits != 16 || (made->colors != 3 && made->colors != 1))
    throw failed(fmt::format("{} cannot be read as a raw file: its colours are unusual.", file.string()));
  image::Linear32 out(image::Size{made->width, made->height});
  const auto* samples = reinterpret_cast<const std::uint16_t*>(made->data);
  const size_t pixels = static_cast<size_t>(made->width) * made->height;
  if (made->colors == 3)
    for (size_t i = 0; i < pixels * 3; ++i) out.rgb[i] = static_cast<float>(samples[i]) / 65535.0F;
  else
    for (size_t i = 0; i < pixels * 3; ++i) out.rgb[i] = static_cast<float>(samples[i / 3]) / 65535.0F;
  return out;
}

}  // namespace askcount::source
