// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/days.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <limits>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount::plan {
namespace {

constexpr double kDay_s = 86400;

/// "7", "7:30" in hours.
std::optional<double> clock_of(std::string_view text) {
  const size_t colon = text.find(':');
  const auto whole = [](std::string_view t, int most) -> std::optional<int> {
    int v = 0;
    const auto [end, error] = std::from_chars(t.data(), t.data() + t.size(), v);
    if (error != std::errc{} || end != t.data() + t.size() || v < 0 || v > most) return {};
    return v;
  };
  const auto hours = whole(text.substr(0, colon), 24);
  const auto minutes = colon == std::string_view::npos ? std::optional(0) : whole(text.substr(colon + 1), 59);
  if (!hours || !minutes) return {};
  return *hours + *minutes / 60.0;
}

std::string clock_words(double hours) {
  const int minutes = static_cast<int>(std::lround(hours * 60));
  return fmt::format("{}:{:02}", minutes / 60, minutes % 60);
}

std::string days_words(double days) {
  return days < 9.95 ? format_number(days, 1) : format_count(static_cast<long long>(std::floor(days)));
}

}  // namespace

WorkHours parse_work(std::string_view text) {
  if (text == "always" || text == "day and night" || text == say("day and night")) return {};
  const auto error = [&] {
    return bad_input(say("\"{}\" are no hours of work.", text),
                     say("Write 7-18, 7:30-18x5 (five days a week) or always."));
  };
  WorkHours work;
  std::string_view hours = text;
  if (const size_t by = text.find('x'); by != std::string_view::npos) {
    const std::string_view days = text.substr(by + 1);
    hours = text.substr(0, by);
    if (days.size() != 1 || days[0] < '1' || days[0] > '7') throw error();
    work.days_a_week = days[0] - '0';
  }
  const size_t dash = hours.find('-');
  if (dash == std::string_view::npos) throw error();
  const auto from = clock_of(hours.substr(0, dash)), to = clock_of(hours.substr(dash + 1));
  if (!from || !to || *to > 24 || *to - *from < 0.25) throw error();
  work.from_h = *from;
  work.to_h = *to;
  return work;
}

std::string work_text(const WorkHours& work) {
  if (work.always()) return "always";
  return fmt::format("{}-{}x{}", clock_words(work.from_h), clock_words(work.to_h), work.days_a_week);
}

std::string work_words(const WorkHours& work) {
  if (work.always()) return say("day and night");
  const std::string hours = work.hours() >= 24
                                ? say("day and night")
                                : say("{} to {}", clock_words(work.from_h), clock_words(work.to_h));
  return work.days_a_week == 7 ? hours : say("{}, {} days a week", hours, work.days_a_week);
}

std::optional<DaysPlan> days_of(const Sums& sums, const ShotMake& make, const Kit& kit,
                                const std::vector<Budget>& budgets, const WorkHours& work) {
  if (work.always() && sums.field_s <= kDay_s) return {};
  DaysPlan d;
  d.shots_a_day = std::floor(work.hours() * 3600 / sums.interval_s) + (work.hours() < 24 ? 1 : 0);
  const auto shots = static_cast<double>(shots_of(sums));
  d.days = shots / d.shots_a_day;
  const double weeks = std::floor((std::ceil(d.days) - 1) / work.days_a_week);
  d.calendar_days = work.days_a_week == 7 ? d.days : d.days + weeks * (7 - work.days_a_week);
  const Body& body = kit.bodies.empty() ? example_kit().bodies.front() : kit.bodies.front();
  d.gb_a_day = d.shots_a_day * shot_mb(make, body) / 1000;
  d.power_days = d.card_days = std::numeric_limits<double>::infinity();
  for (const Budget& b : budgets) {
    d.example = d.example || b.example;
    if (b.name == "battery" || b.name == "power bank")
      d.power_days = std::min(d.power_days, b.shots / d.shots_a_day);
    if (b.name == "card") d.card_days = b.shots / d.shots_a_day;
  }
  if (body.shutter_life > 0)
    d.shutter_share_a_week =
        d.shots_a_day * make.brackets * work.days_a_week / static_cast<double>(body.shutter_life);
  return d;
}

Findings judge(const DaysPlan& d, const WorkHours& work) {
  std::string text =
      say("{} on each day ({}), {} GB", counted(static_cast<long long>(d.shots_a_day), "{} shot", "{} shots"),
          work_words(work), format_number(d.gb_a_day, 1));
  if (d.calendar_days > d.days * 1.01)
    text += say("; {} by the calendar",
                counted(static_cast<long long>(std::ceil(d.calendar_days)), "{} day", "{} days"));
  text += ". ";
  const double visit = d.visit_days();
  if (std::isfinite(visit))
    text += say(
        "Someone has to come at least every {} days: what you bring has power for {} days and room for {}. ",
        days_words(visit), std::isfinite(d.power_days) ? days_words(d.power_days) : say("all"),
        std::isfinite(d.card_days) ? days_words(d.card_days) : say("all"));
  if (d.shutter_share_a_week > 0)
    text += say("The shutter wears {} % of its life a week. ",
                format_number(100 * d.shutter_share_a_week, d.shutter_share_a_week < 0.01 ? 2 : 1));
  if (d.example) text += say("By an example kit: set up your own.");
  while (text.ends_with(' ')) text.pop_back();
  const bool short_of = !d.example && visit < 1;
  return {{short_of ? "days_too_short" : "over_days", short_of ? Severity::Warning : Severity::Ok,
           short_of ? say("What comes along does not last one of {}",
                          counted(static_cast<long long>(std::ceil(d.days)), "{} day", "{} days"))
                    : say("Over {}", counted(static_cast<long long>(std::ceil(d.days)), "{} day", "{} days")),
           text}};
}

}  // namespace askcount::plan
