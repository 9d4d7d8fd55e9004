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
constexpr double kFinest_s = 15;     // between calculated points a line is good to 0.02 stops even at dusk
constexpr double kCoarsest_s = 240;  // where nothing changes
constexpr double kStraight_stops = 0.004;

void check_length(long long frames, Seconds whole_s) {
  if (frames > kMostFrames)
    throw bad_input(say("The light of {} frames is too much to follow.", format_count(frames)),
                    say("Ask for fewer than 200,000."));
  if (whole_s > 366 * 86400.0)
    throw bad_input(say("A take of more than a year has no light to follow."), say("Ask for a shorter one."));
}

/// A curve over moments by as few points of it as its bends need.
template <class Model>
class Curve {
 public:
  Curve(const std::vector<Instant>& moments, const Model& model) : at_(moments), model_(model) {}

  std::vector<double> list() {
    list_.resize(at_.size());
    list_.front() = model_(at_.front());
    for (size_t from = 0; from + 1 < at_.size();) {
      size_t to = from + 1;
      while (to + 1 < at_.size() && seconds_between(at_[from], at_[to + 1]) <= kCoarsest_s) ++to;
      list_[to] = model_(at_[to]);
      fill(from, to);
      from = to;
    }
    return std::move(list_);
  }

 private:
  /// Between two that are known.
  void fill(size_t from, size_t to) {
    if (to - from < 2) return;
    const size_t middle = from + (to - from) / 2;
    const Seconds whole = seconds_between(at_[from], at_[to]);
    const auto line = [&](size_t n) {
      return list_[from] + (list_[to] - list_[from]) * seconds_between(at_[from], at_[n]) / whole;
    };
    const double known = model_(at_[middle]);
    if (whole <= kFinest_s || std::abs(known - line(middle)) < kStraight_stops) {
      for (size_t n = from + 1; n < to; ++n) list_[n] = line(n);
      if (whole > kFinest_s) list_[middle] = known;
      return;
    }
    list_[middle] = known;
    fill(from, middle);
    fill(middle, to);
  }

  const std::vector<Instant>& at_;
  const Model& model_;
  std::vector<double> list_;
};

}  // namespace

double ev_of_exposure(Seconds shutter_s, double f_number, double iso) {
  return std::log2(f_number * f_number / shutter_s) - std::log2(iso / 100);
}

std::vector<double> light_along(const LightSource& source, const sky::Place& place, Instant start,
                                Seconds interval_s, long long frames, const sky::Direction& look) {
  check_length(frames, static_cast<double>(frames - 1) * interval_s);
  std::vector<Instant> moments;
  moments.reserve(static_cast<size_t>(std::max(0LL, frames)));
  for (long long n = 0; n < frames; ++n) moments.push_back(later(start, static_cast<double>(n) * interval_s));
  return light_at(source, place, moments, look);
}

std::vector<double> light_at(const LightSource& source, const sky::Place& place,
                             const std::vector<Instant>& moments, const sky::Direction& look) {
  if (moments.empty()) return {};
  const Instant first = moments.front(), last = moments.back();
  check_length(static_cast<long long>(moments.size()), seconds_between(first, last));
  const auto& r = source.readings;
  const auto near = [&](Instant t) {  // a reading from another week moves nothing here
    return std::abs(seconds_between(first, t)) < 3 * 86400 || std::abs(seconds_between(last, t)) < 3 * 86400;
  };
  Instant from = first, to = last;
  const auto reach = [&](Instant t) { from = std::min(from, t), to = std::max(to, t); };
  if (source.anchor && near(source.anchor->at)) reach(source.anchor->at);
  for (const Reading* at : {r.empty() ? nullptr : &r.front(), r.empty() ? nullptr : &r.back()})
    if (at && near(at->at)) reach(at->at);
  const auto ephemeris = sky::ephemeris_for(from, to);
  const auto model = [&](Instant t) {
    return sky::ev100_of_luminance(sky::scene_luminance(*ephemeris, std::clamp(t, from, to), place,
                                                        source.cover, source.town_lux,
                                                        {source.sky_mag, look, source.shows}));
  };
  const bool anchored = source.anchor && source.anchor->at >= from && source.anchor->at <= to;
  const double shift = anchored ? source.anchor->ev - model(source.anchor->at) : 0;
  std::vector<double> list = Curve(moments, model).list();
  for (double& ev : list) ev += shift;
  if (r.size() < 2) return list;
  const double before = r.front().ev - (model(r.front().at) + shift),
               after_all = r.back().ev - (model(r.back().at) + shift);
  for (size_t n = 0; n < moments.size(); ++n) {
    const auto after = std::upper_bound(r.begin(), r.end(), moments[n],
                                        [](Instant i, const Reading& x) { return i < x.at; });
    if (after == r.begin())
      list[n] += before;
    else if (after == r.end())
      list[n] += after_all;
    else {
      const Reading &a = *(after - 1), &b = *after;
      list[n] = a.ev + (b.ev - a.ev) * seconds_between(a.at, moments[n]) /
                           std::max(1e-3, seconds_between(a.at, b.at));
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
