// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/days.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "base/language.h"
#include "base/units.h"

namespace askcount::plan {
namespace {

constexpr double kDay_s = 86400;

std::string days_words(double days) {
  return days < 9.95 ? format_number(days, 1) : format_count(static_cast<long long>(std::floor(days)));
}

}  // namespace

std::optional<DaysPlan> days_of(const Sums& sums, const ShotMake& make, const Kit& kit,
                                const std::vector<Budget>& budgets, const WorkHours& work,
                                const Schedule& schedule) {
  if (work.always() && sums.field_s <= kDay_s) return {};
  DaysPlan d;
  d.shots_a_day = std::floor(work.hours() * 3600 / sums.interval_s) + (work.hours() < 24 ? 1 : 0);
  d.days = d.calendar_days = static_cast<double>(shots_of(sums)) / d.shots_a_day;
  if (schedule.pauses()) {  // the last day for the part of it that is shot
    const auto& parts = schedule.parts();
    const double last = static_cast<double>(parts.back().shots) / d.shots_a_day;
    d.days = static_cast<double>(parts.size()) - 1 + last;
    d.calendar_days = std::round((parts.back().from_s - parts.front().from_s) / kDay_s) + last;
  }
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
