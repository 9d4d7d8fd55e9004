// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/faults.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include <map>

#include "base/language.h"
#include "base/units.h"
#include "media/film_frames.h"

namespace askcount::inspect {

const char* remedy_word(Remedy remedy) {
  static constexpr const char* words[] = {"",           "leave_out", "neighbours", "make",
                                          "shift_back", "lift_haze", "level",      "end_before"};
  return words[static_cast<int>(remedy)];
}

std::vector<Fault> faults_of(const ingest::FoundTake& take, const Look& look, const Planned& planned) {
  std::vector<Fault> all;
  const auto add = [&](std::vector<Fault> more) { all.insert(all.end(), more.begin(), more.end()); };
  add(beat_faults(take));
  add(file_faults(take, look));
  const std::vector<Fault> dew = clear_faults(take, look);
  std::vector<Fault> still = still_faults(take, look);
  std::vector<Fault> pictures = picture_faults(look, still);
  // Dew takes the fine detail with it: said once.
  constexpr long kNear = 10;  // frames
  std::erase_if(pictures, [&](const Fault& f) {
    return (f.kind == FaultKind::Soft || f.kind == FaultKind::Hunting) &&
           std::any_of(dew.begin(), dew.end(),
                       [&](const Fault& d) { return f.frame + kNear > d.frame && f.frame < d.last + kNear; });
  });
  // Blur and veil move nothing: what seems to move in them is no wind.
  Stretches unclear;
  for (const Fault& f : pictures)
    if (f.kind == FaultKind::Hunting || (f.kind == FaultKind::Soft && f.last > f.frame + 8))
      unclear.emplace_back(f.frame, f.last);
  for (const Fault& f : dew) unclear.emplace_back(f.frame, f.last);
  if (!unclear.empty()) still = still_faults(take, look, unclear);
  add(std::move(still));
  add(std::move(pictures));
  add(dew);
  add(exposure_faults(take, look, planned));
  add(setting_faults(take));
  add(place_faults(take, look, all));
  std::stable_sort(all.begin(), all.end(), [](const Fault& a, const Fault& b) { return a.frame < b.frame; });
  return all;
}

namespace {

/// The one action that fixes a fault, where there is one to press here.
void offer(const ingest::FoundTake& take, const Fault& fault, Finding& finding) {
  const auto name = [&](size_t n) { return media::name_of((*take.frames)[n].file()); };
  if (fault.remedy == Remedy::Neighbours && fault.frame == fault.last)
    finding.fix = fix::StandIn{name(fault.frame)};
  else if (fault.remedy == Remedy::EndBefore && fault.frame > 0)
    finding.fix = fix::EndAt{name(fault.frame - 1)};
}

}  // namespace

Findings judge(const ingest::FoundTake& take, const Look& look, const std::vector<Fault>& faults) {
  Findings list;
  std::map<FaultKind, std::vector<const Fault*>> by_kind;
  std::vector<FaultKind> order;
  for (const Fault& f : faults) {
    if (f.kind == FaultKind::Missing || f.kind == FaultKind::Double) continue;  // the gathering says these
    if (by_kind[f.kind].empty()) order.push_back(f.kind);
    by_kind[f.kind].push_back(&f);
  }
  for (const FaultKind kind : order) {
    const auto& same = by_kind[kind];
    const Fault& first = *same.front();
    const auto count = static_cast<long long>(same.size());
    const std::string number = format_count(static_cast<long long>(first.frame) + 1);
    list.push_back({fault_word(kind), severity_of(kind), title_of(kind, count, first.frame),
                    count == 1 ? first.text : say("The first is frame {}: {}", number, first.text)});
    if (count == 1) offer(take, first, list.back());
  }
  if (list.empty() && !look.frames.empty())
    list.push_back({"all_well", Severity::Ok, say("Every frame is fine"),
                    say("{} looked at: still, sharp, clear and alike.",
                        counted(static_cast<long long>(take.frames->size()), "{} frame", "{} frames"))});
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::inspect
