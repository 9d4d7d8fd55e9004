// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/work.h"

#include <fmt/format.h>

#include <charconv>
#include <cmath>
#include <optional>

#include "base/error.h"
#include "base/language.h"

namespace askcount::plan {
namespace {

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
  static constexpr const char* kUntil[] = {"",
                                           to_say("Mondays"),
                                           to_say("Monday and Tuesday"),
                                           to_say("Monday to Wednesday"),
                                           to_say("Monday to Thursday"),
                                           to_say("Monday to Friday"),
                                           to_say("Monday to Saturday")};
  return work.days_a_week == 7 ? hours : hours + ", " + say(kUntil[work.days_a_week]);
}

}  // namespace askcount::plan
