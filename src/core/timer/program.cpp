#include "timer/program.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"

namespace askcount::timer {
namespace {

constexpr Seconds kPress_s = 0.2;  // long enough for a camera to notice

Seconds to_step(Seconds s, Seconds step) { return std::max(step, std::round(s / step) * step); }

}  // namespace

const std::vector<TimerModel>& shipped_timers() {
  static const std::vector<TimerModel> list = {
      {"Built-in interval", Counts::Interval, 1, 9999, false},
      {"Tidewatch cable", Counts::Gap, 1, 399, true},
      {"Tidewatch radio", Counts::Interval, 0.1, 9999, false},
  };
  return list;
}

const TimerModel& timer_named(const std::string& name) {
  std::string known;
  for (const TimerModel& t : shipped_timers()) {
    if (t.name == name) return t;
    known += (known.empty() ? "\"" : ", \"") + t.name + "\"";
  }
  throw bad_input(fmt::format("There is no timer \"{}\".", name), "Use one of " + known + ".");
}

Program program_for(const plan::Sums& sums, const TimerModel& timer) {
  Program p;
  p.timer = timer;
  const long long shots = sums.frames + sums.extra_shots;
  p.count = timer.max_count > 0 ? std::min(shots, timer.max_count) : shots;
  p.hold_s = timer.holds ? to_step(sums.shutter_s, timer.smallest_step_s) : kPress_s;
  const Seconds open = timer.holds ? p.hold_s : sums.shutter_s;
  if (timer.counts == Counts::Interval) {
    p.setting_s = to_step(sums.interval_s, timer.smallest_step_s);
    while (p.setting_s <= open) p.setting_s += timer.smallest_step_s;
    p.interval_s = p.setting_s;
  } else {
    // It counts from the end of its own hold; a timer that only presses lets go long before the shutter closes.
    p.setting_s = to_step(sums.interval_s - p.hold_s, timer.smallest_step_s);
    p.interval_s = p.hold_s + p.setting_s;
  }
  p.gap_s = p.interval_s - open;
  return p;
}

Findings judge(const Program& p, const plan::Sums& sums) {
  Findings list;
  const Seconds step = p.timer.smallest_step_s;
  if (std::abs(p.interval_s - sums.interval_s) > 1e-6)
    list.push_back({"interval_not_settable", Severity::Warning, "The timer runs at another interval",
                    fmt::format("The plan asks for {}; told in steps of {} it runs at {}. The take lasts {}.",
                                format_length(sums.interval_s), format_length(step), format_length(p.interval_s),
                                format_length(static_cast<double>(p.count - 1) * p.interval_s + sums.shutter_s)),
                    fmt::format("Plan with {}", format_length(p.interval_s)), Mend{"interval", p.interval_s}});
  if (const long long shots = sums.frames + sums.extra_shots; p.count < shots)
    list.push_back({"timer_count_limit", Severity::Stop, "The timer stops too early",
                    fmt::format("{} stops at {}, the take needs {}. Start it again at frame {}, or use a timer without "
                                "that limit.",
                                p.timer.name, format_count(p.count), format_count(shots),
                                format_count(p.count + 1)),
                    "", {}});
  if (p.timer.holds)
    list.push_back({"camera_on_bulb", Severity::Warning, "Camera on bulb",
                    "This timer holds the shutter open itself: the camera must stand on bulb, or its own shutter "
                    "speed will count.",
                    "", {}});
  if (p.timer.counts == Counts::Gap)
    list.push_back({"counts_gap", Severity::Ok, "This timer counts the gap",
                    fmt::format("It waits {} after each {}: one frame every {}.", format_length(p.setting_s),
                                p.timer.holds ? "exposure" : "press", format_length(p.interval_s)),
                    "", {}});
  if (list.empty())
    list.push_back({"program_fits", Severity::Ok, "The timer can be told exactly this",
                    fmt::format("{} every {}.", counted(p.count, "frame"), format_length(p.interval_s)), "", {}});
  sort_by_severity(list);
  return list;
}

std::vector<ProgramLine> program_lines(const Program& p, const plan::Sums& sums) {
  const char* what = p.timer.holds ? "exposure" : "press";
  std::vector<ProgramLine> lines;
  lines.push_back({"First delay", format_length(p.delay_s), "Time to put the timer down without shaking the tripod."});
  if (p.timer.holds)
    lines.push_back({"Hold", format_length(p.hold_s), "The timer keeps the shutter open. Set the camera to bulb."});
  else
    lines.push_back({"Press", "shortest", fmt::format("The camera itself opens for {}.", format_shutter(sums.shutter_s))});
  if (p.timer.counts == Counts::Interval)
    lines.push_back({"Interval", format_length(p.setting_s),
                     fmt::format("From the start of one shot to the start of the next. The gap left in it is {}.",
                                 format_length(p.gap_s))});
  else
    lines.push_back({"Gap", format_length(p.setting_s),
                     fmt::format("From the end of one {} to the start of the next. That makes an interval of {}.", what,
                                 format_length(p.interval_s))});
  lines.push_back({"Count", counted(p.count, "shot"),
                   fmt::format("From the first opening to the last closing: {}.",
                               format_length(static_cast<double>(p.count - 1) * p.interval_s + sums.shutter_s))});
  lines.push_back({"Sound", "off", "It carries far over water, and costs battery."});
  return lines;
}

std::vector<Seconds> press_times(const Program& p) {
  std::vector<Seconds> times(static_cast<size_t>(p.count));
  for (size_t i = 0; i < times.size(); ++i) times[i] = p.delay_s + static_cast<double>(i) * p.interval_s;
  return times;
}

}  // namespace askcount::timer
