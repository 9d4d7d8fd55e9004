// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/position.h"

#include <cmath>
#include <exiv2/exiv2.hpp>

#include "base/error.h"
#include "media/exif_image.h"
#include "media/kind.h"
#include "media/stills.h"

namespace askcount::media {
namespace {

/// Degrees, minutes and seconds as one number of degrees; nothing where they are none.
std::optional<double> angle(const Exiv2::ExifData& exif, const char* key, const char* ref, char negative) {
  const auto it = exif.findKey(Exiv2::ExifKey(key));
  const auto side = exif.findKey(Exiv2::ExifKey(ref));
  if (it == exif.end() || side == exif.end() || it->count() == 0) return {};
  double degrees = 0, unit = 1;
  for (long n = 0; n < std::min<long>(3, static_cast<long>(it->count())); ++n, unit /= 60) {
    const auto part = it->toRational(n);
    if (part.second == 0) continue;
    degrees += unit * static_cast<double>(part.first) / part.second;
  }
  const std::string letter = side->toString();
  return !letter.empty() && letter.front() == negative ? -degrees : degrees;
}

std::optional<Position> position_in(const Exiv2::ExifData& exif) {
  const auto north = angle(exif, "Exif.GPSInfo.GPSLatitude", "Exif.GPSInfo.GPSLatitudeRef", 'S');
  const auto east = angle(exif, "Exif.GPSInfo.GPSLongitude", "Exif.GPSInfo.GPSLongitudeRef", 'W');
  if (!north || !east || !(std::abs(*north) <= 90) || !(std::abs(*east) <= 180)) return {};
  if (*north == 0 && *east == 0) return {};  // what receivers write before they know
  Position p{*north, *east, 0};
  if (const auto it = exif.findKey(Exiv2::ExifKey("Exif.GPSInfo.GPSAltitude"));
      it != exif.end() && it->count() > 0 && it->toRational().second != 0) {
    const auto r = it->toRational();
    const auto below = exif.findKey(Exiv2::ExifKey("Exif.GPSInfo.GPSAltitudeRef"));
    p.height_m = static_cast<double>(r.first) / r.second;
    if (below != exif.end() && below->count() > 0 && below->toLong() == 1) p.height_m = -p.height_m;
    if (!(std::abs(p.height_m) < 9000)) p.height_m = 0;
  }
  return p;
}

}  // namespace

std::optional<Position> read_position(const std::filesystem::path& file) {
  try {
    if (kind_of(file) != Kind::Heif) return position_in(open_image(file)->exifData());
    const HeifHeader header = read_heif_header(file);
    Exiv2::ExifData exif;
    if (!header.exif.empty())
      Exiv2::ExifParser::decode(exif, header.exif.data(), static_cast<std::uint32_t>(header.exif.size()));
    return position_in(exif);
  } catch (const std::exception&) {
    return {};
  }
}

}  // namespace askcount::media
