// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/gather_advice.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include <nlohmann/json.hpp>

#include "base/language.h"
#include "base/units.h"
#include "forecast/ended_early.h"
#include "forecast/gather.h"
#include "journal/journal.h"
#include "journal/state.h"
#include "media/film_frames.h"
#include "plan/budgets.h"

namespace askcount::advice {

Findings gather_advice(const take::Take& take, const ingest::Gathered& gathered) {
  Findings list = ingest::judge(gathered);
  if (!take.solution().complete()) return list;
  const auto found = static_cast<long long>(gathered.frames->size()), planned = plan::shots_of(take.sums());
  if (const auto ended = forecast::ended_early(take, gathered)) {
    // "No frame is missing" is not to be read where half of them are.
    std::erase_if(list, [](const Finding& f) { return f.code == "no_gaps"; });
    list.push_back(forecast::judge(take, *ended));
  } else if (found != planned)
    list.push_back(
        {"not_as_planned", Severity::Warning, say("Not as many as planned"),
         say("Planned {}, found {}.", counted(planned, "{} frame", "{} frames"), format_count(found))});
  else
    list.push_back({"as_planned", Severity::Ok, say("As planned"), say("Every frame of the plan is here.")});
  return list;
}

std::vector<inspect::Fault> open_faults(const take::Take& take, const ingest::Gathered& gathered,
                                        const std::vector<inspect::Fault>& faults) {
  std::vector<inspect::Fault> open;
  for (const inspect::Fault& f : faults) {
    const media::Frame& frame = (*gathered.frames)[f.frame];
    const std::string name = media::name_of(frame.file());
    const auto& fine = take.gather.fine;
    if (frame.set_aside || std::find(fine.begin(), fine.end(), name) != fine.end()) continue;
    open.push_back(f);
  }
  return open;
}

Findings gather_advice(const take::Take& take, const ingest::Gathered& gathered, const inspect::Look& look,
                       const std::vector<inspect::Fault>& faults, const std::optional<Instant>& began) {
  Findings list = gather_advice(take, gathered);
  // What the look says frame by frame is not said again in general.
  std::erase_if(list,
                [](const Finding& f) { return f.code == "frames_unreadable" || f.code == "sizes_differ"; });
  const Findings seen = inspect::judge(gathered, look, faults);
  list.insert(list.end(), seen.begin(), seen.end());
  if (const auto off = forecast::clock_error_s(take, gathered, began); off && take.gather.clock_s == 0)
    list.push_back({"clock_wrong", Severity::Warning,
                    say("The camera's clock is {} {}", format_length(std::abs(*off), 0),
                        *off > 0 ? say("behind") : say("ahead")),
                    say("By {} the first shot was at {}.", began ? say("the journal") : say("the plan"),
                        format_clock(began ? *began : take.start, take.place.zone, true)),
                    fix::SetClock{*off}});
  sort_by_severity(list);
  return list;
}

std::optional<Instant> began_by_journal(const std::filesystem::path& take_file) {
  if (take_file.empty()) return {};
  journal::ShootState state;
  try {
    state = journal::state_of(journal::read_journal(journal::newest_journal(take_file)));
  } catch (const Error&) {
    return {};  // it cannot be read: Shoot says so, where it is opened
  }
  if (state.standin || state.first == Instant{} || state.count <= 0) return {};
  return state.first;
}

std::string plan_differs_words(const plan::Sums& sums, const ingest::Gathered& gathered) {
  constexpr double kSame = 0.02;
  const auto frames = static_cast<double>(gathered.frames->size()),
             planned = static_cast<double>(plan::shots_of(sums));
  const bool count = std::abs(frames - planned) > kSame * planned + static_cast<double>(sums.extra_shots);
  const bool interval =
      gathered.interval_s && std::abs(*gathered.interval_s - sums.interval_s) > kSame * sums.interval_s;
  if (!count && !interval) return {};
  const std::string every = interval ? say(" every ") + format_length(*gathered.interval_s, 1) : "";
  return say("shot {}{}, the plan now has {}{}",
             counted(static_cast<long long>(frames), "{} frame", "{} frames"), every,
             format_count(plan::shots_of(sums)),
             interval ? say(" every ") + format_length(sums.interval_s, 1) : "");
}

}  // namespace askcount::advice
