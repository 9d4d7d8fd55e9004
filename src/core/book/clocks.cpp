// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/clocks.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "level/brightness.h"

namespace askcount::book {
namespace {

constexpr double kClockDay_s = 86400;
constexpr double kFullFilm_s = 60;
constexpr int kTints = 7;

}  // namespace

Clocks clocks_of(const Row& row) {
  Clocks c;
  c.field_to = 1;
  if (row.knows_start() && row.field_s < kClockDay_s) {
    const double start = wall_time(row.start, row.zone).seconds_of_day();
    const bool over = start + row.field_s > kClockDay_s;
    const double origin = over ? (start < kClockDay_s / 2 ? 0 : kClockDay_s / 2) : 0;
    c.day = true;
    c.from = over ? say("noon") : "0:00";
    c.middle = over ? "0:00" : say("noon");
    c.to = over ? say("noon") : "24:00";
    c.field_from = std::clamp((start - origin) / kClockDay_s, 0.0, 1.0);
    c.field_to = std::clamp((start - origin + row.field_s) / kClockDay_s, c.field_from, 1.0);
  } else if (row.field_s > 0) {
    c.to = format_length(row.field_s, 0);
  }
  const double wide = std::clamp(row.film_s / kFullFilm_s, 0.0, 1.0);
  c.film_from = std::clamp((c.field_from + c.field_to - wide) / 2, 0.0, 1 - wide);
  c.film_to = c.film_from + wide;
  if (row.sun_from_deg && row.sun_to_deg && row.field_s < kClockDay_s)
    for (int n = 0; n < kTints; ++n)
      c.tints.push_back(
          sky::tint(*row.sun_from_deg + (*row.sun_to_deg - *row.sun_from_deg) * n / (kTints - 1)));
  return c;
}

std::string where_and_when(const Row& row) {
  std::string words = row.place;
  if (!row.knows_start()) return words;
  const Day from = day_of(row.start, row.zone), to = day_of(later(row.start, row.field_s), row.zone);
  std::string days = day_words(from);
  if (row.field_s >= kClockDay_s && from != to) {
    const bool month = from.month() == to.month() && from.year() == to.year();
    days = month ? say("{} to {}", static_cast<unsigned>(from.day()), day_words(to))
                 : say("{} to {}", days, day_words(to));
  }
  return fmt::format("{}{}{} {}", words, words.empty() ? "" : ", ", days, static_cast<int>(to.year()));
}

std::string frames_words(const Row& row) {
  if (!row.frames) return row.planned_frames > 0 ? format_count(row.planned_frames) + say(" planned") : "";
  if (row.planned_frames <= 0) return format_count(*row.frames);
  return say("{} of {}", format_count(*row.frames), format_count(row.planned_frames));
}

std::string flicker_words(const Row& row) {
  if (!row.flicker_before || !row.flicker_after) return {};
  return say("{} to {}", level::flicker_words(*row.flicker_before), level::flicker_words(*row.flicker_after));
}

}  // namespace askcount::book
