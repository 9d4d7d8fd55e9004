// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/shoot_advice.h"

#include <fmt/format.h>

#include <algorithm>

#include "advice/light_advice.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/shoot.h"

namespace askcount::advice {
namespace {

constexpr size_t kMostFaults = 8;

std::string percent(double share) {
  return format_number(share * 100, 0) + " %";
}

Findings judge_live(const Live& live, const journal::ShootState& state) {
  Findings list;
  const long long frame = std::max(1LL, state.shots);
  if (live.battery < 0.9999) {
    const auto to = static_cast<long long>(static_cast<double>(frame) / std::max(1e-6, 1 - live.battery));
    const Severity severity = to >= state.count     ? Severity::Ok
                              : live.battery < 0.15 ? Severity::Stop
                                                    : Severity::Warning;
    list.push_back({"battery_live", severity, say("Battery ") + percent(live.battery),
                    say("Lasts to frame {} at this rate.", format_count(to))});
  }
  if (live.card > 0.001) {
    const auto room = static_cast<long long>(static_cast<double>(frame) * (1 - live.card) / live.card);
    list.push_back({"card_live", room < state.count - frame ? Severity::Warning : Severity::Ok,
                    say("Card {} full", percent(live.card)), say("Room for {} more.", format_count(room))});
  }
  if (live.buffer > 0.5)
    list.push_back({"buffer_live", live.buffer > 0.85 ? Severity::Stop : Severity::Warning,
                    say("Buffer {} full", percent(live.buffer)),
                    say("The card does not keep up: lengthen the interval or shoot smaller files.")});
  return list;
}

/// The newest faults first.
Findings judge_faults(const journal::ShootState& state) {
  Findings list;
  for (auto it = state.notes.rbegin(); it != state.notes.rend() && list.size() < kMostFaults; ++it)
    if (!it->fault.empty())
      list.push_back({"fault_" + it->fault, Severity::Stop,
                      say("At frame {}: {}", format_count(it->frame + 1), it->fault), it->words});
  return list;
}

Findings cautions_beside(const take::Take& take) {
  Findings list = cautions(take);
  for (Finding& f : list)
    if (f.code == "dark_edges") {
      f.title = say("Gear stays in sight");
      f.text = say("Stay with the tripod, and away from edges in the dark. Keep people clear of the legs.");
    }
  if (list.empty())
    list.push_back({"stay", Severity::Caution, say("Stay with the tripod"),
                    say("Keep people clear of the legs, and watch the tide and the weather.")});
  return list;
}

}  // namespace

Findings shoot_advice(const take::Take& take, const journal::ShootState& state,
                      const std::optional<Live>& live, bool read_back) {
  Findings list = cautions_beside(take);
  const auto add = [&list](const Findings& more) { list.insert(list.end(), more.begin(), more.end()); };
  if (state.active) {
    if (live) add(judge_live(*live, state));
    if (state.missed > 0)
      list.push_back({"missed_live", Severity::Stop,
                      counted(state.missed, "{} shot", "{} shots") + say(" missed"),
                      say("The camera was busy, its buffer full, or it had no power.")});
    add(judge_faults(state));
  }
  if (take.solution().complete()) {
    const plan::Sums sums = take.sums();
    if (state.active && read_back)
      list.push_back({"read_back", Severity::Ok, say("The timer is set as planned"),
                      say("The program was read back and compared.")});
    for (const Finding& f : weather_words(take))
      if (f.code == "dew") list.push_back(f);
    list.push_back(plan::judge_cycle(forecast::cycle_of(take, forecast::program_of(take).shutter.longest_s),
                                     sums.interval_s));
  }
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::advice
