// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/metadata.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <exiv2/exiv2.hpp>

#include "base/dials.h"
#include "base/error.h"
#include "base/files.h"
#include "base/instant.h"
#include "media/exif_image.h"
#include "media/kind.h"
#include "media/raw.h"
#include "media/stills.h"

namespace askcount::media {
namespace {

constexpr double kHighestShortIso = 65535;

std::optional<double> rational(const Exiv2::ExifData& exif, const char* key) {
  const auto it = exif.findKey(Exiv2::ExifKey(key));
  if (it == exif.end() || it->count() == 0) return {};
  const double v = static_cast<double>(it->toFloat());
  const auto r = it->toRational();
  const double exact = r.second != 0 ? static_cast<double>(r.first) / r.second : v;
  if (!std::isfinite(exact) || exact <= 0) return {};
  return exact;
}

/// Without what fills a field up behind its words.
std::string trimmed(std::string s) {
  while (!s.empty() && (s.back() == ' ' || s.back() == '\0')) s.pop_back();
  return s;
}

std::string text(const Exiv2::ExifData& exif, const char* key) {
  const auto it = exif.findKey(Exiv2::ExifKey(key));
  if (it == exif.end()) return {};
  return trimmed(it->toString());
}

/// By the pixels there are to a length of the sensor.
std::optional<double> sensor_width_mm(const Exiv2::ExifData& exif, int width) {
  const auto per_unit = rational(exif, "Exif.Photo.FocalPlaneXResolution");
  const auto unit = exif.findKey(Exiv2::ExifKey("Exif.Photo.FocalPlaneResolutionUnit"));
  if (!per_unit || width <= 0) return {};
  const long kind = unit != exif.end() && unit->count() > 0 ? static_cast<long>(unit->toLong()) : 2;
  const double unit_mm = kind == 3 ? 10 : kind == 4 ? 1 : 25.4;
  const double wide = width / *per_unit * unit_mm;
  if (wide < 2 || wide > 120) return {};  // no camera's sensor
  return wide;
}

struct Moment {
  std::optional<CameraTime> at;
  bool whole_seconds = false;
  std::optional<int> zone_min;
};

/// "+02:00" in minutes.
std::optional<int> zone_minutes(const std::string& words) {
  int hours = 0, minutes = 0;
  if (words.size() < 6 || (words[0] != '+' && words[0] != '-') || words[3] != ':') return {};
  if (std::from_chars(words.data() + 1, words.data() + 3, hours).ec != std::errc{} ||
      std::from_chars(words.data() + 4, words.data() + 6, minutes).ec != std::errc{} || hours > 14 ||
      minutes > 59)
    return {};
  return (words[0] == '-' ? -1 : 1) * (hours * 60 + minutes);
}

Moment captured(const Exiv2::ExifData& exif) {
  Moment m;
  std::string sub = "Exif.Photo.SubSecTimeOriginal", zone = "Exif.Photo.OffsetTimeOriginal";
  std::string when = text(exif, "Exif.Photo.DateTimeOriginal");
  if (when.empty()) {
    when = text(exif, "Exif.Photo.DateTimeDigitized");
    sub = "Exif.Photo.SubSecTimeDigitized";
    zone = "Exif.Photo.OffsetTimeDigitized";
  }
  if (when.empty()) {
    when = text(exif, "Exif.Image.DateTime");
    sub = "Exif.Photo.SubSecTime";
    zone = "Exif.Photo.OffsetTime";
  }
  m.at = read_time(when.substr(0, 19), "%Y:%m:%d %H:%M:%S");
  if (!m.at) return m;
  // A clock that was never set begins there, or writes zeros: no time at all.
  if (*m.at < CameraTime(std::chrono::sys_days(std::chrono::year(1990) / 1 / 1))) return {};
  m.zone_min = zone_minutes(text(exif, zone.c_str()));
  // The digits are those after a decimal point: "5" is half a second.
  const std::string fraction = text(exif, sub.c_str());
  std::string digits = (fraction + "000").substr(0, 3);
  int ms = 0;
  m.whole_seconds =
      fraction.empty() || std::from_chars(digits.data(), digits.data() + 3, ms).ec != std::errc{};
  if (!m.whole_seconds && ms > 0) *m.at += std::chrono::milliseconds(ms);
  return m;
}

/// Settings that ought not to change within a take, by what their entries are called wherever they stand: in
/// the common ones and in each maker's own.
struct Watched {
  std::string_view part, word;
};
constexpr Watched kWatched[] = {{"WhiteBalance", "white balance"},
                                {"Stabiliz", "stabilisation"},
                                {"VibrationReduction", "stabilisation"},
                                {"ShakeReduction", "stabilisation"},
                                {"NoiseReduction", "noise reduction"},
                                {"PictureStyle", "picture style"},
                                {"PictureMode", "picture style"},
                                {"PictureControl", "picture style"},
                                {"FocusMode", "focus"},
                                {"MeteringMode", "metering"}};
constexpr size_t kLongestSetting = 24;  // longer ones are tables and measurements

std::string settings_of(const Exiv2::ExifData& exif) {
  std::string words;
  for (const Exiv2::Exifdatum& d : exif) {
    const std::string name = d.tagName();
    // Names that end so are what came of the setting, and wander by themselves.
    if (name.find("Fine") != std::string::npos || name.find("Table") != std::string::npos ||
        name.find("Bracket") != std::string::npos || name.find("Data") != std::string::npos)
      continue;
    for (const Watched& w : kWatched)
      if (name.find(w.part) != std::string::npos && d.count() > 0 &&
          d.size() <= static_cast<long>(kLongestSetting)) {
        std::string value = trimmed(d.toString());
        if (name == "WhiteBalance" && (value == "0" || value == "1")) value = value == "0" ? "auto" : "set";
        const std::string entry = fmt::format("{}={}", w.word, value);
        if (value.size() <= kLongestSetting && words.find(entry) == std::string::npos)
          words += (words.empty() ? "" : ";") + entry;
        break;
      }
  }
  return words;
}

Exiv2::URational ratio_of(double value) {
  if (value < 1 && std::abs(1 / value - std::round(1 / value)) < 1e-6)
    return {1, static_cast<std::uint32_t>(std::lround(1 / value))};
  return {static_cast<std::uint32_t>(std::lround(value * 10)), 10};
}

}  // namespace

std::optional<double> exposure_stops(const ShotInfo& info) {
  if (!info.shutter_s || !info.f_number || !info.iso) return {};
  const double f = exact_f_number(*info.f_number);
  return std::log2(exact_shutter(*info.shutter_s) * exact_iso(*info.iso) / 100 / (f * f));
}

std::optional<double> relative_stops(const ShotInfo& info) {
  if (!info.shutter_s && !info.iso && !info.f_number) return {};
  const double f = info.f_number ? exact_f_number(*info.f_number) : 1;
  return std::log2((info.shutter_s ? exact_shutter(*info.shutter_s) : 1) *
                   (info.iso ? exact_iso(*info.iso) / 100 : 1) / (f * f));
}

namespace {

/// Puts what an EXIF block says into `info`, whose size is known.
void take_exif(const Exiv2::ExifData& exif, ShotInfo& info) {
  const Moment moment = captured(exif);
  info.captured = moment.at;
  info.whole_seconds = moment.whole_seconds;
  info.zone_min = moment.zone_min;
  info.shutter_s = rational(exif, "Exif.Photo.ExposureTime");
  info.f_number = rational(exif, "Exif.Photo.FNumber");
  constexpr double kMostApex = 30;
  if (!info.shutter_s)
    if (const auto it = exif.findKey(Exiv2::ExifKey("Exif.Photo.ShutterSpeedValue"));
        it != exif.end() && it->count() > 0)
      if (const auto r = it->toRational(); r.second != 0)
        if (const double tv = static_cast<double>(r.first) / r.second; std::abs(tv) < kMostApex)
          info.shutter_s = std::exp2(-tv);
  if (!info.f_number)
    if (const auto av = rational(exif, "Exif.Photo.ApertureValue"); av && *av < kMostApex)
      info.f_number = std::exp2(*av / 2);
  // The usual field ends at 65,535; higher ones stand beside it.
  for (const char* key :
       {"Exif.Photo.ISOSpeedRatings", "Exif.Photo.RecommendedExposureIndex", "Exif.Photo.ISOSpeed"})
    if (const auto it = exif.findKey(Exiv2::ExifKey(key)); it != exif.end() && it->count() > 0)
      if (const auto iso = static_cast<double>(it->toLong());
          iso > 0 && (!info.iso || (*info.iso >= kHighestShortIso && iso > *info.iso)))
        info.iso = iso;
  info.body = text(exif, "Exif.Image.Model");
  info.software = text(exif, "Exif.Image.Software");
  info.lens = text(exif, "Exif.Photo.LensModel");
  info.serial = text(exif, "Exif.Photo.BodySerialNumber");
  info.focal_mm = rational(exif, "Exif.Photo.FocalLength");
  info.focal_35mm = rational(exif, "Exif.Photo.FocalLengthIn35mmFilm");
  info.sensor_width_mm = sensor_width_mm(exif, info.size.width);
  if (const auto bearing = rational(exif, "Exif.GPSInfo.GPSImgDirection"); bearing && *bearing <= 360) {
    info.bearing_deg = std::fmod(*bearing, 360);
    info.bearing_magnetic = text(exif, "Exif.GPSInfo.GPSImgDirectionRef") == "M";
  }
  if (const auto it = exif.findKey(Exiv2::ExifKey("Exif.Image.Orientation"));
      it != exif.end() && it->count() > 0)
    info.orientation = static_cast<int>(it->toLong());
  if (const auto it = exif.findKey(Exiv2::ExifKey("Exif.Image.Rating")); it != exif.end() && it->count() > 0)
    info.stars = std::clamp(static_cast<int>(it->toLong()), 0, 5);
  info.settings = settings_of(exif);
  info.dcf_optional = text(exif, "Exif.Iop.InteroperabilityIndex") == "R03";
}

/// What Exiv2 finds in a file of a kind it knows.
ShotInfo by_exiv2(const std::filesystem::path& file) {
  const auto image = open_image(file);
  ShotInfo info;
  info.size = {image->pixelWidth(), image->pixelHeight()};
  take_exif(image->exifData(), info);
  const Exiv2::XmpData& xmp = image->xmpData();
  if (const auto it = xmp.findKey(Exiv2::XmpKey("Xmp.xmp.Rating"));
      it != xmp.end() && it->count() > 0 && info.stars == 0)
    info.stars = std::clamp(static_cast<int>(it->toLong()), 0, 5);
  return info;
}

ShotInfo of_raw(const std::filesystem::path& file) {
  const ShotInfo raw = read_raw_info(file);
  ShotInfo info;
  try {
    info = by_exiv2(file);
  } catch (const Error&) {  // a raw file that only LibRaw knows
    return raw;
  }
  info.size = raw.size;
  info.orientation = raw.orientation;
  if (!info.captured) {
    info.captured = raw.captured;
    info.whole_seconds = raw.whole_seconds;
  }
  if (!info.shutter_s) info.shutter_s = raw.shutter_s;
  if (!info.f_number) info.f_number = raw.f_number;
  if (!info.iso) info.iso = raw.iso;
  if (!info.focal_mm) info.focal_mm = raw.focal_mm;
  if (info.body.empty()) info.body = raw.body;
  info.white_k = raw.white_k;
  if (info.lens.empty()) info.lens = raw.lens;
  return info;
}

ShotInfo of_heif(const std::filesystem::path& file) {
  const HeifHeader header = read_heif_header(file);
  ShotInfo info;
  if (!header.exif.empty()) {
    Exiv2::ExifData exif;
    try {
      Exiv2::ExifParser::decode(exif, header.exif.data(), static_cast<std::uint32_t>(header.exif.size()));
    } catch (const std::exception&) {  // a block that makes no sense says nothing
      exif.clear();
    }
    take_exif(exif, info);
  }
  info.size = header.size;
  info.orientation = 1;  // it turns itself
  return info;
}

}  // namespace

ShotInfo read_shot_info(const std::filesystem::path& file) {
  switch (kind_of(file)) {
    case Kind::Raw:
      return of_raw(file);
    case Kind::Heif:
      return of_heif(file);
    default:
      return by_exiv2(file);
  }
}

Bytes read_thumbnail(const std::filesystem::path& file) {
  const auto image = open_image(file);
  const Exiv2::DataBuf data = Exiv2::ExifThumbC(image->exifData()).copy();
  return data.pData_ ? Bytes(data.pData_, data.pData_ + data.size_) : Bytes{};
}

namespace {

Exiv2::ExifData exif_of(const ShotInfo& info) {
  Exiv2::ExifData exif;
  if (!info.body.empty()) exif["Exif.Image.Model"] = info.body;
  if (info.stars > 0) exif["Exif.Image.Rating"] = static_cast<std::uint16_t>(info.stars);
  if (!info.software.empty()) exif["Exif.Image.Software"] = info.software;
  if (!info.lens.empty()) exif["Exif.Photo.LensModel"] = info.lens;
  exif["Exif.Image.Orientation"] = static_cast<std::uint16_t>(info.orientation);
  if (info.captured) {
    const Day day = std::chrono::floor<std::chrono::days>(*info.captured);
    const auto ms = (*info.captured - std::chrono::sys_days(day)).count();
    std::string when =
        fmt::format("{} {:02}:{:02}:{:02}", format_day(day), ms / 3600000, ms / 60000 % 60, ms / 1000 % 60);
    when[4] = when[7] = ':';
    exif["Exif.Image.DateTime"] = when;
    exif["Exif.Photo.DateTimeOriginal"] = when;
    if (!info.whole_seconds) exif["Exif.Photo.SubSecTimeOriginal"] = fmt::format("{:03}", ms % 1000);
  }
  if (info.shutter_s) exif["Exif.Photo.ExposureTime"] = ratio_of(*info.shutter_s);
  if (info.f_number) exif["Exif.Photo.FNumber"] = ratio_of(*info.f_number);
  if (info.focal_mm) exif["Exif.Photo.FocalLength"] = ratio_of(*info.focal_mm);
  if (info.focal_35mm)
    exif["Exif.Photo.FocalLengthIn35mmFilm"] = static_cast<std::uint16_t>(std::lround(*info.focal_35mm));
  if (info.bearing_deg) {
    exif["Exif.GPSInfo.GPSImgDirection"] =
        Exiv2::URational(static_cast<std::uint32_t>(std::lround(*info.bearing_deg * 100)), 100);
    exif["Exif.GPSInfo.GPSImgDirectionRef"] = info.bearing_magnetic ? "M" : "T";
  }
  if (info.iso) {
    exif["Exif.Photo.ISOSpeedRatings"] =
        static_cast<std::uint16_t>(std::lround(std::min(*info.iso, kHighestShortIso)));
    if (*info.iso > kHighestShortIso) {
      exif["Exif.Photo.SensitivityType"] = static_cast<std::uint16_t>(2);  // recommended exposure index
      exif["Exif.Photo.RecommendedExposureIndex"] = static_cast<std::uint32_t>(std::lround(*info.iso));
    }
  }
  return exif;
}

}  // namespace

Bytes with_added_metadata(const Bytes& picture, const ShotInfo& info, const std::string& name) {
  try {
    const auto image = Exiv2::ImageFactory::open(picture.data(), static_cast<long>(picture.size()));
    image->readMetadata();
    for (const Exiv2::Exifdatum& d : exif_of(info)) image->exifData()[d.key()] = d.value();
    image->writeMetadata();
    Exiv2::BasicIo& io = image->io();
    io.open();
    const Exiv2::DataBuf all = io.read(static_cast<long>(io.size()));
    return {all.pData_, all.pData_ + all.size_};
  } catch (const Exiv2::Error& e) {
    throw failed(fmt::format("The metadata of {} cannot be written: {}.", name, e.what()));
  }
}

Bytes with_metadata(const Bytes& jpeg, const ShotInfo& info, const Bytes& thumbnail) {
  Exiv2::ExifData exif = exif_of(info);
  if (!thumbnail.empty())
    Exiv2::ExifThumb(exif).setJpegThumbnail(thumbnail.data(), static_cast<long>(thumbnail.size()));
  Exiv2::Blob blob;
  Exiv2::ExifParser::encode(blob, Exiv2::littleEndian, exif);
  if (blob.size() + 8 > 0xFFFF) throw failed("The metadata of a picture does not fit into its file.");
  // An APP1 segment right after the start marker, as cameras place it.
  const size_t length = blob.size() + 8;
  Bytes out;
  out.reserve(jpeg.size() + length + 2);
  out.insert(out.end(), jpeg.begin(), jpeg.begin() + 2);
  const std::uint8_t head[] = {0xFF,
                               0xE1,
                               static_cast<std::uint8_t>(length >> 8),
                               static_cast<std::uint8_t>(length),
                               'E',
                               'x',
                               'i',
                               'f',
                               0,
                               0};
  out.insert(out.end(), std::begin(head), std::end(head));
  out.insert(out.end(), blob.begin(), blob.end());
  out.insert(out.end(), jpeg.begin() + 2, jpeg.end());
  return out;
}

}  // namespace askcount::media
