// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/proposals.h"

#include <algorithm>
#include <cmath>

#include "plan/subject.h"

namespace askcount::plan {
namespace {

constexpr double kFps = 25;
constexpr Seconds kClip_s = 10, kInterval_s = 5, kScreenCrossing_s = 8;

Seconds proposed_interval(const Solution& open, const ShotShape& shape, const ProposalGround& ground) {
  const Seconds shutter = open[Slot::Shutter].value_or(shape.usual_shutter_s);
  Seconds interval = kInterval_s;
  if (open[Slot::FieldCrossing]) {
    const double frames =
        open[Slot::ScreenCrossing].value_or(kScreenCrossing_s) * open[Slot::Fps].value_or(kFps);
    interval = std::floor(*open[Slot::FieldCrossing] / frames);
  } else if (const auto habits = habits_for(ground.subject, {shutter, ground.shortest_gap_s});
             !habits.empty()) {
    interval = middle_of(habits.front());
  }
  const Seconds busy =
      open[Slot::Shutter] ? shape.open_factor * shutter + shape.extra_s + ground.shortest_gap_s : 0;
  return std::max({1.0, interval, std::ceil(busy)});
}

}  // namespace

std::vector<Wish> proposals_for(const Solution& open, const ShotShape& shape, const ProposalGround& ground) {
  return {{Slot::Fps, kFps, false},
          {Slot::Interval, proposed_interval(open, shape, ground), false},
          {Slot::Clip, kClip_s, false}};
}

}  // namespace askcount::plan
