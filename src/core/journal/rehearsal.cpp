// SPDX-License-Identifier: GPL-3.0-or-later
#include "journal/rehearsal.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "level/levelling.h"

namespace askcount::journal {

Rehearsal::Rehearsal(std::vector<double> light_stops, const ramp::RampRule& rule)
    : light_(std::move(light_stops)), rule_(rule) {
  if (light_.empty())
    throw bad_input(say("There is no light to rehearse with."), say("Ask for a clip of at least one frame."));
  rule_.filter_stops = 0;  // nothing to take off at home
  start_ = now_ = ramp::start_exposure(light_.front(), rule_);
}

bool Rehearsal::turn(long long frame, ramp::Dial dial, bool brighter) {
  const auto next = ramp::clicked(now_, dial, brighter, rule_);
  if (!next) return false;
  now_ = *next;
  clicks_.push_back({frame, dial, brighter});
  return true;
}

double Rehearsal::meter(long long frame) const {
  return ramp::meter_stops(light_[static_cast<size_t>(std::clamp(frame, 0LL, frames() - 1))], now_);
}

Rehearsal::Result Rehearsal::result(long long upto) const {
  Result r;
  const long long n = std::clamp(upto, 1LL, frames());
  const std::vector<double> light(light_.begin(), light_.begin() + n);
  r.yours = ramp::chain_of(start_, clicks_, n, rule_);
  r.wanted = ramp::follow_light(light, rule_);
  r.wanted_clicks = static_cast<long long>(ramp::clicks_for(light, rule_, start_).size());
  std::vector<double> steps;
  for (long long i = 0; i < n; ++i) {
    const auto k = static_cast<size_t>(i);
    r.meter.push_back(ramp::meter_stops(light[k], r.yours[k]));
    steps.push_back(r.meter.back());
    const auto [low, high] = ramp::band_at(rule_, light[k]);
    if (r.meter.back() > high + 0.02 || r.meter.back() < low - 0.02) ++r.late;
    if (r.meter.back() > high + 0.5) ++r.highlights_lost;
  }
  for (size_t i = 0; i < clicks_.size(); ++i) {
    if (clicks_[i].frame >= n) break;
    ++r.clicks;
    if (i == 0) continue;
    const long long apart = clicks_[i].frame - clicks_[i - 1].frame;
    if (apart == 0 || (apart <= 3 && clicks_[i].dial == clicks_[i - 1].dial &&
                       clicks_[i].brighter != clicks_[i - 1].brighter))
      ++r.doubled;
    else if (apart < rule_.frames_apart_late)
      ++r.rushed;
  }
  r.flicker_stops = level::flicker(steps);
  const double wanted = std::max(1.0, static_cast<double>(r.wanted_clicks));
  double score = 100 - 60.0 * static_cast<double>(r.late) / static_cast<double>(n) -
                 30.0 * static_cast<double>(r.highlights_lost) / static_cast<double>(n) -
                 25.0 * static_cast<double>(r.doubled) / wanted -
                 15.0 * static_cast<double>(r.rushed) / wanted;
  r.score = static_cast<int>(std::lround(std::clamp(score, 0.0, 100.0)));
  if (r.highlights_lost > n / 20)
    r.better = say("On {} the highlights were lost: when light comes, turn darker first.",
                   counted(r.highlights_lost, "{} frame", "{} frames"));
  else if (r.late > n / 10)
    r.better =
        say("The meter was out of its band on {}: look at it every {}, and click before it leaves.",
            counted(r.late, "{} frame", "{} frames"), counted(rule_.frames_apart, "{} frame", "{} frames"));
  else if (r.doubled > 0)
    r.better = say("{} came double or were taken back: one click, then wait and look.",
                   counted(r.doubled, "{} click", "{} clicks"));
  else if (r.rushed > 0)
    r.better = say("{} came too close to the one before: leave at least {} between them.",
                   counted(r.rushed, "{} click", "{} clicks"),
                   counted(rule_.frames_apart_late, "{} frame", "{} frames"));
  else
    r.better = say("Nothing: this dusk would level without a trace. Try it faster.");
  return r;
}

}  // namespace askcount::journal
