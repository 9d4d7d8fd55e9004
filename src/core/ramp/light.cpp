// SPDX-License-Identifier: GPL-3.0-or-later
#include "ramp/light.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <sstream>

#include "base/csv.h"
#include "base/error.h"
#include "base/language.h"

namespace askcount::ramp {
namespace {

constexpr long long kMostFrames = 200000;
constexpr double kFinest_s = 15;  // between calculated points a line is good to 0.02 stops even at dusk

}  // namespace

double ev_of_exposure(Seconds shutter_s, double f_number, double iso) {
  return std::log2(f_number * f_number / shutter_s) - std::log2(iso / 100);
}

std::vector<double> light_along(const LightSource& source, const sky::Place& place, Instant start,
                                Seconds interval_s, long long frames, const sky::Direction& look) {
  if (frames > kMostFrames)
    throw bad_input(say("The light of {} frames is too much to follow.", format_count(frames)),
                    say("Ask for fewer than 200,000."));
  if (frames <= 0) return {};
  const Seconds whole = static_cast<double>(frames - 1) * interval_s;
  Instant from = start, to = later(start, whole);
  if (seconds_between(from, to) > 366 * 86400.0)
    throw bad_input(say("A take of more than a year has no light to follow."), say("Ask for a shorter one."));
  if (source.anchor && std::abs(seconds_between(start, source.anchor->at)) < 3 * 86400)
    from = std::min(from, source.anchor->at), to = std::max(to, source.anchor->at);
  const auto ephemeris = sky::ephemeris_for(from, to);
  const sky::Ephemeris& sky = *ephemeris;
  const auto model = [&](Instant t) {
    return sky::ev100_of_luminance(sky::scene_luminance(sky, t, place, source.cover, source.town_lux,
                                                        {source.sky_mag, look, source.shows}));
  };
  double shift = 0;
  if (source.anchor && source.anchor->at >= from && source.anchor->at <= to)
    shift = source.anchor->ev - model(source.anchor->at);
  // The model at even points, lines between.
  const long long points =
      std::clamp(static_cast<long long>(whole / std::max(interval_s, kFinest_s)) + 2, 2LL, 20000LL);
  std::vector<double> at(static_cast<size_t>(points));
  for (long long i = 0; i < points; ++i)
    at[static_cast<size_t>(i)] =
        model(later(start, whole * static_cast<double>(i) / static_cast<double>(points - 1))) + shift;
  const auto& r = source.readings;
  std::vector<double> list(static_cast<size_t>(frames));
  const auto modelled = [&](double second) {
    const double x = whole > 0 ? std::clamp(second / whole, 0.0, 1.0) * static_cast<double>(points - 1) : 0;
    const auto low = std::min(static_cast<size_t>(x), at.size() - 2);
    return at[low] + (at[low + 1] - at[low]) * (x - static_cast<double>(low));
  };
  for (long long n = 0; n < frames; ++n) {
    const double second = static_cast<double>(n) * interval_s;
    double& ev = list[static_cast<size_t>(n)];
    ev = modelled(second);
    if (r.size() < 2) continue;
    const Instant t = later(start, second);
    const auto after =
        std::upper_bound(r.begin(), r.end(), t, [](Instant i, const Reading& x) { return i < x.at; });
    if (after == r.begin())
      ev += r.front().ev - modelled(seconds_between(start, r.front().at));
    else if (after == r.end())
      ev += r.back().ev - modelled(seconds_between(start, r.back().at));
    else {
      const Reading &a = *(after - 1), &b = *after;
      ev = a.ev + (b.ev - a.ev) * seconds_between(a.at, t) / std::max(1e-3, seconds_between(a.at, b.at));
    }
  }
  return list;
}

std::string csv_of(const std::vector<Reading>& readings, const std::string& zone) {
  std::string text = csv_row({"time", "ev100"});
  for (const Reading& r : readings) text += csv_row({format_iso(r.at, zone), fmt::format("{:.2f}", r.ev)});
  return text;
}

std::vector<Reading> readings_of_csv(std::string_view text, const std::string& zone,
                                     const std::string& name) {
  std::vector<Reading> list;
  for (const CsvRow& row : read_csv(text, ",;")) {
    const bool heading = row.line == 1 && !std::isdigit(static_cast<unsigned char>(row.text[0]));
    if (row.text[0] == '#' || heading || row.text.find_first_not_of(' ') == std::string::npos) continue;
    try {
      if (row.cells.size() != 2) throw bad_input("no two cells");
      Reading r{parse_instant(row.cells[0], zone), 0};
      std::string_view rest = row.cells[1];
      while (rest.starts_with(' ')) rest.remove_prefix(1);
      r.ev = take_decimal(rest).value_or(99);
      if (rest.find_first_not_of(' ') != std::string_view::npos || !(r.ev > -20 && r.ev < 30))
        throw bad_input("no EV");
      list.push_back(r);
    } catch (const std::exception&) {
      throw bad_input(say("{}, line {}: \"{}\" is not a time and an EV.", name, row.line, row.text),
                      say("Write lines like 2026-10-09T18:14:00,12.3."));
    }
  }
  if (list.size() < 2)
    throw bad_input(say("{} has fewer than two readings.", name),
                    say("Write a line for each: time, then EV at ISO 100."));
  std::stable_sort(list.begin(), list.end(), [](const Reading& a, const Reading& b) { return a.at < b.at; });
  return list;
}

}  // namespace askcount::ramp
