// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/raw.h"

#include <fmt/format.h>
#include <tiffio.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <random>

#include "base/dials.h"
#include "base/error.h"
#include "base/files.h"
#include "base/instant.h"
#include "simulate/card.h"

namespace askcount::simulate {
namespace {

constexpr int kBlack = 512, kWhite = 16383;
constexpr double kMidGrey = 0.18, kMeter = 12.5;
constexpr float kFullWell = 45000, kReadNoise = 4;
// From XYZ to the sensor's colours: that of linear sRGB, so that the sensor sees as the scenes are drawn.
constexpr std::array<float, 9> kMatrix = {3.2404542F, -1.5371385F, -0.4985314F, -0.9692660F, 1.8760108F,
                                          0.0415560F, 0.0556434F,  -0.2040259F, 1.0572252F};

struct Close {
  void operator()(TIFF* t) const { TIFFClose(t); }
};

constexpr uint8_t kPattern[] = {0, 1, 1, 2};  // red, green, green, blue

/// "2026:10:09 18:14:00".
std::string exif_time(media::CameraTime captured) {
  const std::string iso = format_iso(Instant(captured.time_since_epoch()), "UTC");
  std::string when = iso.substr(0, 10) + " " + iso.substr(11, 8);
  for (const size_t at : {4u, 7u}) when[at] = ':';
  return when;
}

void set_tags(TIFF* t, uint32_t width, uint32_t height, const std::string& when) {
  TIFFSetField(t, TIFFTAG_SUBFILETYPE, 0);
  TIFFSetField(t, TIFFTAG_IMAGEWIDTH, width);
  TIFFSetField(t, TIFFTAG_IMAGELENGTH, height);
  TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, 16);
  TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 1);
  TIFFSetField(t, TIFFTAG_COMPRESSION, COMPRESSION_NONE);
  TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_CFA);
  TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
  TIFFSetField(t, TIFFTAG_ORIENTATION, ORIENTATION_TOPLEFT);
  TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, height);
  TIFFSetField(t, TIFFTAG_MAKE, "Ask Count");
  TIFFSetField(t, TIFFTAG_MODEL, kBodyName);
  TIFFSetField(t, TIFFTAG_UNIQUECAMERAMODEL, kBodyName);
  TIFFSetField(t, TIFFTAG_SOFTWARE, kSoftware);
  TIFFSetField(t, TIFFTAG_DATETIME, when.c_str());
  const uint8_t version[] = {1, 4, 0, 0}, backward[] = {1, 1, 0, 0};
  TIFFSetField(t, TIFFTAG_DNGVERSION, version);
  TIFFSetField(t, TIFFTAG_DNGBACKWARDVERSION, backward);
  const uint16_t repeat[] = {2, 2};
  TIFFSetField(t, TIFFTAG_CFAREPEATPATTERNDIM, repeat);
  TIFFSetField(t, TIFFTAG_CFAPATTERN, 4, kPattern);
  TIFFSetField(t, TIFFTAG_CFALAYOUT, 1);
  const float black[] = {kBlack};
  const uint32_t white[] = {kWhite};
  TIFFSetField(t, TIFFTAG_BLACKLEVEL, 1, black);
  TIFFSetField(t, TIFFTAG_WHITELEVEL, 1, white);
  TIFFSetField(t, TIFFTAG_COLORMATRIX1, 9, kMatrix.data());
  TIFFSetField(t, TIFFTAG_CALIBRATIONILLUMINANT1, 21);  // D65
  const float neutral[] = {1, 1, 1};
  TIFFSetField(t, TIFFTAG_ASSHOTNEUTRAL, 3, neutral);
}

/// What the sensor tells of each place, noise and hot places with it.
std::vector<uint16_t> samples_of(const image::Linear32& seen, const RawShot& shot,
                                 const CameraSettings& settings, uint32_t width, uint32_t height) {
  const ramp::Exposure& e = shot.exposure;
  const auto gain =
      static_cast<float>(kMidGrey / kMeter * 100 * std::exp2(ramp::stops_of(e) + shot.error_stops));
  const float well = kFullWell / static_cast<float>(e.iso / 100), amount = static_cast<float>(settings.noise);
  const float photon = amount * amount / well,
              floor = amount * amount * (kReadNoise / well) * (kReadNoise / well);
  std::mt19937 random(static_cast<unsigned>(settings.seed * 31 + shot.index * 7919 + 3));
  std::normal_distribution<float> normal;
  std::vector<uint16_t> data(static_cast<size_t>(width) * height);
  for (uint32_t y = 0; y < height; ++y) {
    const float* row = seen.row(static_cast<int>(y));
    for (uint32_t x = 0; x < width; ++x) {
      const float light = row[3 * x + kPattern[(y & 1) * 2 + (x & 1)]] * gain;
      const float v = light + (amount > 0 ? normal(random) * std::sqrt(light * photon + floor) : 0);
      data[static_cast<size_t>(y) * width + x] = static_cast<uint16_t>(
          std::clamp(v * (kWhite - kBlack) + kBlack + 0.5F, 0.0F, static_cast<float>(kWhite)));
    }
  }
  for (const HotPlace& p : hot_places(settings.flaws, seen.size, settings.seed)) {
    if (p.x >= static_cast<int>(width) || p.y >= static_cast<int>(height)) continue;
    uint16_t& v = data[static_cast<size_t>(p.y) * width + static_cast<size_t>(p.x)];
    const float more = static_cast<float>(e.shutter_s) * p.white_per_s * (kWhite - kBlack);
    v = static_cast<uint16_t>(std::min(static_cast<float>(kWhite), static_cast<float>(v) + more));
  }
  return data;
}

/// The exposure stands in a directory of its own, linked from the first.
void set_exposure(TIFF* t, const RawShot& shot, const std::string& when) {
  const ramp::Exposure& e = shot.exposure;
  TIFFCreateEXIFDirectory(t);
  TIFFSetField(t, EXIFTAG_EXPOSURETIME, marked_shutter(e.shutter_s));
  TIFFSetField(t, EXIFTAG_FNUMBER, marked_f_number(e.f_number));
  const uint16_t iso_number[] = {static_cast<uint16_t>(std::min(65535.0, marked_iso(e.iso)))};
  TIFFSetField(t, EXIFTAG_ISOSPEEDRATINGS, 1, iso_number);
  if (marked_iso(e.iso) > 65535) {
    TIFFSetField(t, EXIFTAG_SENSITIVITYTYPE, 2);
    TIFFSetField(t, EXIFTAG_RECOMMENDEDEXPOSUREINDEX, static_cast<uint32_t>(std::lround(marked_iso(e.iso))));
  }
  TIFFSetField(t, EXIFTAG_DATETIMEORIGINAL, when.c_str());
  TIFFSetField(
      t, EXIFTAG_SUBSECTIMEORIGINAL,
      fmt::format("{:03}", ((shot.captured.time_since_epoch().count() % 1000) + 1000) % 1000).c_str());
}

}  // namespace

void write_raw(const image::Linear32& seen, const RawShot& shot, const CameraSettings& settings,
               const std::filesystem::path& file) {
  TIFFSetWarningHandler(nullptr);
  TIFFSetErrorHandler(nullptr);
  TemporaryFile part({file, FileKind::Frame});
  std::unique_ptr<TIFF, Close> tiff(TIFFOpen(part.path().c_str(), "w"));
  const auto broken = [&] {
    return failed(fmt::format("{} cannot be written.", file.string()),
                  "Is there room, and may it be written to?");
  };
  if (!tiff) throw broken();
  TIFF* t = tiff.get();
  const auto width = static_cast<uint32_t>(seen.size.width & ~1),
             height = static_cast<uint32_t>(seen.size.height & ~1);
  const std::string when = exif_time(shot.captured);
  set_tags(t, width, height, when);
  std::vector<uint16_t> data = samples_of(seen, shot, settings, width, height);
  if (TIFFWriteEncodedStrip(t, 0, data.data(), static_cast<tmsize_t>(data.size() * 2)) < 0 ||
      !TIFFWriteDirectory(t))
    throw broken();
  set_exposure(t, shot, when);
  uint64_t offset = 0;
  if (!TIFFWriteCustomDirectory(t, &offset) || !TIFFSetDirectory(t, 0)) throw broken();
  TIFFSetField(t, TIFFTAG_EXIFIFD, offset);
  if (!TIFFRewriteDirectory(t)) throw broken();
  tiff.reset();
  note_written(file, read_file(part.path()));
  part.put_in_place(Flush::No);
}

}  // namespace askcount::simulate
