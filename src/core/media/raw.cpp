// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/raw.h"

#include <fmt/format.h>
#include <libraw/libraw.h>

#include <algorithm>
#include <array>
#include <bit>
#include <chrono>
#include <cmath>
#include <ctime>
#include <Eigen/LU>
#include <fstream>
#include <memory>
#include <string_view>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "image/resample_rows.h"
#include "media/sensor_rows.h"

namespace askcount::media {
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
    throw failed(say("{} cannot be read as a raw file: {}.", file.string(), libraw_strerror(code)));
}

/// Correlated colour temperature of the white the camera chose. Source: McCamy (1992), within 2 K of Planck
/// from 2,800 to 6,500 K. Nothing where the file does not say how the sensor sees.
std::optional<double> white_kelvin(const libraw_colordata_t& c) {
  if (!(c.cam_mul[0] > 0 && c.cam_mul[1] > 0 && c.cam_mul[2] > 0)) return {};
  // A DNG has its own, for one light or two: that of daylight is meant (EXIF 21, D65).
  const libraw_dng_color_t& of_dng = c.dng_color[c.dng_color[1].illuminant == 21 ? 1 : 0];
  const bool dng = of_dng.colormatrix[1][1] != 0;
  Eigen::Matrix3d sensor;  // what it sees of each of XYZ
  Eigen::Vector3d white;   // and of the white
  for (int row = 0; row < 3; ++row) {
    for (int k = 0; k < 3; ++k)
      sensor(row, k) = static_cast<double>(dng ? of_dng.colormatrix[row][k] : c.cam_xyz[row][k]);
    white[row] = 1 / static_cast<double>(c.cam_mul[row]);
  }
  const Eigen::FullPivLU<Eigen::Matrix3d> solver(sensor);
  if (!solver.isInvertible()) return {};
  const Eigen::Vector3d xyz = solver.solve(white);
  const double x = xyz[0], y = xyz[1], all = xyz.sum();
  if (!(all > 0)) return {};
  const double n = (x / all - 0.3320) / (y / all - 0.1858);
  const double kelvin = -449 * n * n * n + 3525 * n * n - 6823.3 * n + 5520.33;
  if (!(kelvin > 1500 && kelvin < 30000)) return {};
  return kelvin;
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
  info.white_k = white_kelvin(d.color);
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

namespace {

/// What the camera's white makes of each colour, the least being 1; all alike where it says none.
std::array<float, 4> white_of(const libraw_colordata_t& c) {
  std::array<float, 4> w = {c.cam_mul[0], c.cam_mul[1], c.cam_mul[2], c.cam_mul[3]};
  if (!(w[0] > 0 && w[1] > 0 && w[2] > 0)) w = {c.pre_mul[0], c.pre_mul[1], c.pre_mul[2], c.pre_mul[3]};
  if (!(w[0] > 0 && w[1] > 0 && w[2] > 0)) w = {1, 1, 1, 1};
  if (!(w[3] > 0)) w[3] = w[1];
  const float least = std::min({w[0], w[1], w[2]});
  for (float& v : w) v /= least;
  return w;
}

SensorLight light_of(const LibRaw& raw) {
  const libraw_data_t& d = raw.imgdata;
  SensorLight light;
  const auto w = white_of(d.color);
  if (d.idata.colors == 3) {
    for (size_t c = 0; c < 3; ++c) light.white[c] = w[c];
    float sum = 0;
    for (const auto& row : d.color.rgb_cam)
      for (const float v : row) sum += std::abs(v);
    if (sum > 0)
      for (size_t r = 0; r < 3; ++r)
        for (size_t c = 0; c < 3; ++c) light.matrix[r][c] = d.color.rgb_cam[r][c];
  }
  return light;
}

/// The mosaic as it lies in memory, where it is one of two by two that can be taken as it is.
struct Mosaic {
  std::uint16_t* values = nullptr;  ///< the visible upper left
  size_t pitch = 0;                 ///< values from row to row
  image::Size size;
  std::array<int, 4> colour{};            ///< 0 red, 1 and 3 green, 2 blue: of the places in reading order
  std::array<float, 4> black{}, scale{};  ///< of those places
};

using Values = SensorValues::Values;

/// The sensor's values where a DNG holds them as they are in memory, row after row: read in a tenth of the
/// time that going through each of them takes. Empty where it does not, and where the file is shorter than
/// that.
Values plain_values(LibRaw& raw, const std::filesystem::path& file) {
  const libraw_data_t& d = raw.imgdata;
  const auto& u = raw.get_internal_data_pointer()->unpacker_data;
  const auto width = static_cast<size_t>(d.sizes.raw_width), height = static_cast<size_t>(d.sizes.raw_height);
  constexpr std::uint32_t kUncompressed = 1, kLittleEndian = 0x4949;
  if (d.idata.dng_version == 0 || u.tiff_compress != kUncompressed || u.tiff_bps != 16 ||
      u.tiff_samples != 1 || u.tile_width < width || static_cast<std::uint32_t>(u.order) != kLittleEndian ||
      std::endian::native != std::endian::little ||
      std::string_view(raw.unpack_function_name()) != "packed_dng_load_raw()")
    return {};
  for (size_t i = 0; i < std::size(d.color.curve); ++i)
    if (d.color.curve[i] != i) return {};  // values that stand for others
  Values values(width * height);
  std::ifstream in(file, std::ios::binary);
  in.seekg(u.data_offset);
  in.read(reinterpret_cast<char*>(values.data()), static_cast<std::streamsize>(values.size() * 2));
  if (static_cast<size_t>(in.gcount()) != values.size() * 2) return {};
  return values;
}

/// The mosaic in values of the whole sensor, `pitch` from row to row.
std::optional<Mosaic> mosaic_of(LibRaw& raw, std::uint16_t* all, size_t pitch) {
  const libraw_data_t& d = raw.imgdata;
  if (!all || d.idata.filters < 1000 || d.idata.colors != 3 || d.sizes.pixel_aspect != 1.0) return {};
  Mosaic m;
  m.pitch = pitch;
  m.values = all + d.sizes.top_margin * m.pitch + d.sizes.left_margin;
  m.size = {d.sizes.width, d.sizes.height};
  for (int row = 0; row < 8; ++row)
    for (int col = 0; col < 2; ++col) {
      const int c = raw.COLOR(row, col);
      if (row < 2)
        m.colour[static_cast<size_t>(2 * row + col)] = c;
      else if (m.colour[static_cast<size_t>(2 * (row % 2) + col)] != c)
        return {};
    }
  int counts[4] = {};
  for (const int c : m.colour) ++counts[c];
  if (counts[0] != 1 || counts[2] != 1) return {};
  const auto white = white_of(d.color);
  const unsigned* levels = d.color.cblack;
  for (size_t place = 0; place < 4; ++place) {
    const auto c = static_cast<size_t>(m.colour[place]);
    unsigned black = d.color.black + levels[c];
    if (levels[4] > 0 && levels[5] > 0)
      black += levels[6 + place / 2 % levels[4] * levels[5] + place % 2 % levels[5]];
    m.black[place] = static_cast<float>(black);
    const float range = static_cast<float>(d.color.maximum) - m.black[place];
    if (!(range > 1)) return {};
    m.scale[place] = white[c == 3 ? 1 : c] / range;
  }
  return m;
}

/// Rows of half the size, as light.
class LoadHalf {
 public:
  LoadHalf(const Mosaic& mosaic, const SensorLight& light) : m_(mosaic), light_(light) {}
  const float* operator()(int row, float* room) const {
    std::array<MosaicSite, 4> sites;
    size_t green = 1;
    for (size_t place = 0; place < 4; ++place) {
      const MosaicSite site = {m_.values + (2 * static_cast<size_t>(row) + place / 2) * m_.pitch + place % 2,
                               m_.black[place], m_.scale[place]};
      sites[m_.colour[place] == 0 ? 0 : m_.colour[place] == 2 ? 3 : green++] = site;
    }
    half_row(sites, light_.white, room, m_.size.width / 2);
    return room;
  }

 private:
  const Mosaic& m_;
  const SensorLight& light_;
};

/// Rows of what LibRaw has interpolated.
class LoadWhole {
 public:
  LoadWhole(const libraw_processed_image_t& picture, float scale, const SensorLight& light)
      : picture_(picture), scale_(scale), light_(light) {}
  const float* operator()(int row, float* room) const {
    const auto* values = reinterpret_cast<const std::uint16_t*>(picture_.data) +
                         static_cast<size_t>(row) * picture_.width * picture_.colors;
    if (picture_.colors == 3)
      whole_row(values, scale_, light_.white, room, picture_.width);
    else
      for (int x = 0; x < picture_.width; ++x)
        room[3 * x] = room[3 * x + 1] = room[3 * x + 2] = static_cast<float>(values[x]) * scale_;
    return room;
  }

 private:
  const libraw_processed_image_t& picture_;
  float scale_;
  const SensorLight& light_;
};

template <typename Load>
image::Linear32 resampled(const image::Resampling& how, const Load& load, const SensorLight& light) {
  image::Linear32 out(how.to());
  out.top = top_of(light);
  image::resample_rows(how, load,
                       [&](int y, const float* row) { light_row(row, light, out.row(y), how.to().width); });
  return out;
}

constexpr int kCheaply = 16;  // of the sensor's width, where no size is asked for

/// What of a picture of this size becomes how large.
image::Resampling resampling_for(image::Size from, const RawWant& want) {
  const image::RectF part = image::in_pixels(want.part, from);
  image::Size to = want.at_least;
  if (to.width <= 0 && to.height <= 0) to = {from.width / kCheaply * 2, from.height / kCheaply * 2};
  const double scale = std::min({1.0, std::max(to.width / part.width, to.height / part.height)});
  return {from,
          part,
          {std::max(1, static_cast<int>(std::lround(part.width * scale))),
           std::max(1, static_cast<int>(std::lround(part.height * scale)))}};
}

image::Linear32 by_libraw(LibRaw& raw, const std::filesystem::path& file, const RawWant& want, bool half) {
  libraw_output_params_t& p = raw.imgdata.params;
  p.half_size = half ? 1 : 0;
  p.use_camera_wb = 1;
  p.no_auto_bright = 1;
  p.adjust_maximum_thr = 0;  // white is white in every frame, whatever its brightest value
  p.highlight = 1;           // nothing is cut off yet
  p.output_color = 0;        // the sensor's colours
  p.output_bps = 16;
  p.gamm[0] = p.gamm[1] = 1;
  p.user_qual = 3;
  p.user_flip = 0;
  const SensorLight light = light_of(raw);
  check(raw.dcraw_process(), file);
  int trouble = 0;
  const auto free = [](libraw_processed_image_t* i) { LibRaw::dcraw_clear_mem(i); };
  const std::unique_ptr<libraw_processed_image_t, decltype(free)> made(raw.dcraw_make_mem_image(&trouble),
                                                                       free);
  check(trouble, file);
  if (!made || made->bits != 16 || (made->colors != 3 && made->colors != 1))
    throw failed(say("{} cannot be read as a raw file: its colours are unusual.", file.string()));
  // LibRaw has scaled so that the largest white is 1; here the least is.
  const float scale = *std::max_element(light.white.begin(), light.white.end()) / 65535.0F;
  return resampled(resampling_for({made->width, made->height}, want), LoadWhole(*made, scale, light), light);
}

}  // namespace

SensorValues read_mosaic(const std::filesystem::path& file) {
  const auto raw = open(file);
  Values plain = plain_values(*raw, file);
  if (plain.empty()) check(raw->unpack(), file);
  const libraw_image_sizes_t& sizes = raw->imgdata.sizes;
  const auto mosaic = plain.empty() ? mosaic_of(*raw, raw->imgdata.rawdata.raw_image, sizes.raw_pitch / 2)
                                    : mosaic_of(*raw, plain.data(), sizes.raw_width);
  if (!mosaic)
    throw failed(
        say("{} has no mosaic of two by two: its sensor's values cannot be told apart.", file.string()));
  SensorValues out;
  out.size = mosaic->size;
  out.black = *std::min_element(mosaic->black.begin(), mosaic->black.end());
  out.white = static_cast<float>(raw->imgdata.color.maximum);
  out.values.resize(static_cast<size_t>(out.size.width) * static_cast<size_t>(out.size.height));
  for (int y = 0; y < out.size.height; ++y)
    std::copy_n(mosaic->values + static_cast<size_t>(y) * mosaic->pitch, out.size.width, out.row(y));
  return out;
}

image::Linear32 develop_raw(const std::filesystem::path& file, const RawWant& want) {
  const auto raw = open(file);
  const libraw_image_sizes_t& sizes = raw->imgdata.sizes;
  const image::Size full = {sizes.width, sizes.height};
  const image::RectF part = image::in_pixels(want.part, full);
  const bool half = part.width / 2 >= want.at_least.width && part.height / 2 >= want.at_least.height;
  Values plain = half ? plain_values(*raw, file) : Values();
  if (plain.empty()) check(raw->unpack(), file);
  const bool care = want.care && !want.care->none();
  if (half || care) {
    const auto mosaic = plain.empty() ? mosaic_of(*raw, raw->imgdata.rawdata.raw_image,
                                                  sizes.raw_pitch / sizeof(std::uint16_t))
                                      : mosaic_of(*raw, plain.data(), sizes.raw_width);
    if (care && mosaic)
      take_care(*want.care, mosaic->values, mosaic->pitch, mosaic->size,
                static_cast<float>(raw->imgdata.color.maximum));
    if (!half) return by_libraw(*raw, file, want, half);
    const SensorLight light = light_of(*raw);
    if (mosaic)
      return resampled(resampling_for({full.width / 2, full.height / 2}, want), LoadHalf(*mosaic, light),
                       light);
    if (!plain.empty()) check(raw->unpack(), file);
  }
  return by_libraw(*raw, file, want, half);
}

}  // namespace askcount::media
