// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/write_in.h"

#include <fmt/chrono.h>
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/instant.h"

namespace askcount::render {
namespace {

constexpr double kLetters = 0.036, kLetterMargin = 0.03;  // of the film's shorter side

/// One plane of a film, its samples `across` by `down` pixels large, and the codes of letters and rim in it.
struct Plane {
  int number, across, down;
  float letters_at, rim_at;
};

/// `mask` over a plane, its corner at a pixel of the film.
template <typename Sample>
void lay(const media::FilmFrame& film, const Plane& onto, const image::Lettering& mask, int x0, int y0) {
  const auto& [plane, across, down, letters_at, rim_at] = onto;
  const int wide = film.size.width / across, high = film.size.height / down;
  for (int y = std::max(0, y0 / down); y < std::min(high, (y0 + mask.height + down - 1) / down); ++y) {
    Sample* row = film.row<Sample>(plane, y);
    for (int x = std::max(0, x0 / across); x < std::min(wide, (x0 + mask.width + across - 1) / across); ++x) {
      float letters = 0, rim = 0;
      for (int dy = 0; dy < down; ++dy)
        for (int dx = 0; dx < across; ++dx) {
          const int mx = x * across + dx - x0, my = y * down + dy - y0;
          if (mx < 0 || my < 0 || mx >= mask.width || my >= mask.height) continue;
          const auto at = static_cast<size_t>(my) * static_cast<size_t>(mask.width) + static_cast<size_t>(mx);
          letters += static_cast<float>(mask.letters[at]), rim += static_cast<float>(mask.rim[at]);
        }
      const float all = 255.0F * static_cast<float>(across * down);
      float v = static_cast<float>(row[x]);
      v += (rim_at - v) * rim / all;
      v += (letters_at - v) * letters / all;
      row[x] = static_cast<Sample>(std::lround(v));
    }
  }
}

/// White letters with a dark rim.
template <typename Sample>
void lay_all(const media::FilmFrame& film, const image::Lettering& mask, int x, int y) {
  const auto unit = static_cast<float>(film.bits == 10 ? 4 : 1);
  lay<Sample>(film, {0, 1, 1, 235 * unit, 16 * unit}, mask, x, y);
  const int down = film.chroma == media::Chroma::Half422 ? 1 : 2;
  for (const int plane : {1, 2}) lay<Sample>(film, {plane, 2, down, 128 * unit, 128 * unit}, mask, x, y);
}

void lay_on(const media::FilmFrame& film, const image::Lettering& mask, int x, int y) {
  if (film.bits == 10)
    lay_all<std::uint16_t>(film, mask, x, y);
  else
    lay_all<std::uint8_t>(film, mask, x, y);
}

}  // namespace

WriteIn::WriteIn(const Written& written, image::Size film, const media::Frames& frames)
    : written_(written),
      film_(film),
      frames_(frames),
      pixels_(std::max(8.0, kLetters * std::min(film.width, film.height))) {
  const bool clock = written.time || written.date || written.elapsed;
  if (!written.text.empty())
    text_ = image::lettered(written.text, pixels_, film.width * (clock ? 0.55 : 0.94));
  if (!written.scale.empty()) scale_ = image::lettered(written.scale, pixels_, film.width * 0.4);
}

std::string WriteIn::clock_of(size_t shot) const {
  const auto& captured = (*frames_)[shot].info().captured;
  if (!captured) return {};
  std::string out;
  const auto add = [&](const std::string& more) { out += (out.empty() ? "" : "  ") + more; };
  const auto seconds = std::chrono::time_point_cast<std::chrono::seconds>(*captured);
  const auto day = std::chrono::floor<std::chrono::days>(seconds);
  if (written_.date) add(format_day(Day{day}));
  if (written_.time) {
    const std::chrono::hh_mm_ss clock(seconds - day);
    add(fmt::format("{:02}:{:02}:{:02}", clock.hours().count(), clock.minutes().count(),
                    clock.seconds().count()));
  }
  if (!written_.elapsed) return out;
  for (const media::Frame& f : *frames_)
    if (f.info().captured) {
      const long long s = std::max(
          0LL, static_cast<long long>(
                   std::chrono::duration_cast<std::chrono::seconds>(*captured - *f.info().captured).count()));
      // All the same figures throughout: the clock does not jump about.
      add(s >= 86400 ? fmt::format("+{} d {:02}:{:02}:{:02}", s / 86400, s / 3600 % 24, s / 60 % 60, s % 60)
                     : fmt::format("+{:02}:{:02}:{:02}", s / 3600, s / 60 % 60, s % 60));
      break;
    }
  return out;
}

void WriteIn::onto(const media::FilmFrame& film, size_t shot, double view_width) {
  const int margin = static_cast<int>(kLetterMargin * std::min(film_.width, film_.height));
  const auto above = [&](const image::Lettering& mask) { return film_.height - margin - mask.height; };
  int used = 0;
  if (text_.width > 0) {
    lay_on(film, text_, margin, above(text_));
    used = text_.height;
  }
  if (const std::string clock = clock_of(shot); !clock.empty()) {
    const image::Lettering mask =
        image::lettered(clock, pixels_, film_.width * (text_.width > 0 ? 0.38 : 0.94));
    lay_on(film, mask, film_.width - margin - mask.width, above(mask));
  }
  if (written_.scale.empty()) return;
  const double length = written_.scale_share / view_width * film_.width;
  if (length > 0.94 * film_.width) return;  // longer than what is seen
  const image::Lettering ruler = image::bar(static_cast<int>(std::lround(length)), pixels_);
  const int y = film_.height - margin - used - ruler.height;
  lay_on(film, ruler, margin, y);
  lay_on(film, scale_, margin, y - scale_.height + ruler.height / 3);
}

}  // namespace askcount::render
