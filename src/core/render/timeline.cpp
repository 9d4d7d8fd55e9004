// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/timeline.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount::render {
namespace {

constexpr size_t kMostFrames = 1'000'000;
constexpr double kOnAFrame = 1e-6;  // a place so near a frame is on it

double within_film(double place) {
  const double near = std::round(place);
  return std::abs(place - near) < kOnAFrame ? near : place;
}

}  // namespace

double eased(double t) {
  t = std::clamp(t, 0.0, 1.0);
  return t * t * (3 - 2 * t);
}

void check_choice(const Choice& c, long long frames) {
  if (c.every < 1) throw bad_input(say("Every {}th frame is not possible.", c.every), say("Use 1 or more."));
  const long long last = c.last > 0 ? c.last : frames;
  if (c.first < 1 || (c.last > 0 && c.first > c.last))
    throw bad_input(say("There are no frames {} to {}.", c.first, c.last),
                    say("Count from 1, the first before the last."));
  if (frames > 0 && (c.first > frames || last > frames))
    throw bad_input(say("The take has {}; {} to {} is not in it.", counted(frames, "{} frame", "{} frames"),
                        c.first, std::max(c.first, last)),
                    say("Use frames from 1 to {}.", frames));
  for (const SpeedAnchor& a : c.speed) {
    if (!(a.times >= kSlowest && a.times <= kFastest))
      throw bad_input(say("A speed of {} times is not between {} and {}.", format_number(a.times, 3),
                          format_number(kSlowest, 2), format_number(kFastest, 0)));
    if (!(a.at_s >= 0))
      throw bad_input(say("A speed is set before the film begins."), say("Its time is 0 or more."));
  }
  for (size_t n = 1; n < c.speed.size(); ++n)
    if (!(c.speed[n].at_s > c.speed[n - 1].at_s))
      throw bad_input(
          say("Two speeds are set at {} s of the film, or out of order.", format_number(c.speed[n].at_s, 2)),
          say("Each needs a time of its own, rising."));
  for (const double still : {c.still_first_s, c.still_last_s})
    if (!(still >= 0 && still <= 600))
      throw bad_input(say("A still of {} s is not between 0 and 600.", format_number(still, 2)));
  if (c.trail < 1 || c.trail > kLongestTrail)
    throw bad_input(say("A trail of {} frames is not between 1 and {}.", c.trail, kLongestTrail));
  if (c.bright < kAllFrames)
    throw bad_input(say("Bright trails of {} frames are not possible.", c.bright),
                    say("Use 1 or more, or all."));
  if (c.bright != 0 && c.trail > 1)
    throw bad_input(say("Trails are blended or bright, not both."), say("Leave one of the two out."));
}

double Timeline::speed_at(const std::vector<SpeedAnchor>& anchors, double film_s) {
  if (anchors.empty()) return 1;
  const auto after = std::find_if(anchors.begin(), anchors.end(),
                                  [film_s](const SpeedAnchor& a) { return a.at_s > film_s; });
  if (after == anchors.begin()) return after->times;
  const SpeedAnchor& before = *(after - 1);
  if (after == anchors.end()) return before.times;
  // Eased on the scale on which twice and half are as far apart.
  const double share = eased((film_s - before.at_s) / (after->at_s - before.at_s));
  return before.times * std::pow(after->times / before.times, share);
}

/// Counts the beats from place to place of the sequence, missing frames among them.
void Timeline::count_beats(const std::vector<Gap>& gaps, long long every) {
  std::vector<double> beats{0};
  bool any = false;
  for (size_t n = 1; n < sequence_.size(); ++n) {
    const size_t from = std::min(sequence_[n - 1], sequence_[n]),
                 to = std::max(sequence_[n - 1], sequence_[n]);
    double missing = 0;
    for (const Gap& g : gaps)
      if (g.after >= from && g.after < to && g.frames <= kLongestGap)
        missing += static_cast<double>(g.frames);
    any |= missing > 0;
    beats.push_back(beats.back() + (static_cast<double>(to - from) + missing) / static_cast<double>(every));
  }
  if (any) beats_ = std::move(beats);
}

/// Where a beat from the start lies in the sequence.
double Timeline::place_at(double beat) const {
  if (beats_.empty()) return beat;
  const auto after = std::upper_bound(beats_.begin(), beats_.end(), beat + kOnAFrame);
  if (after == beats_.begin()) return 0;
  if (after == beats_.end()) return static_cast<double>(beats_.size() - 1);
  const double before = *(after - 1);
  return static_cast<double>(after - beats_.begin() - 1) + (beat - before) / (*after - before);
}

bool Timeline::missing(size_t n) const {
  const auto at = static_cast<size_t>(places_[n]);
  return !beats_.empty() && places_[n] > static_cast<double>(at) && beats_[at + 1] - beats_[at] > 1.5;
}

size_t Timeline::many_missing() const {
  size_t many = 0;
  for (size_t n = 0; n < places_.size(); ++n) many += missing(n) ? 1 : 0;
  return many;
}

void Timeline::keep(size_t first, size_t count, size_t reach) {
  places_ = {places_.begin() + static_cast<long>(first), places_.begin() + static_cast<long>(first + count)};
  const auto least = static_cast<size_t>(places_.front());
  const size_t from = least > reach ? least - reach : 0;
  const size_t to = std::min(sequence_.size(), static_cast<size_t>(places_.back()) + 2);
  sequence_ = {sequence_.begin() + static_cast<long>(from), sequence_.begin() + static_cast<long>(to)};
  if (!beats_.empty())
    beats_ = {beats_.begin() + static_cast<long>(from), beats_.begin() + static_cast<long>(to)};
  for (double& place : places_) place -= static_cast<double>(from);
}

Timeline::Timeline(const Choice& choice, long long take_frames, FrameRate fps, const std::vector<Gap>& gaps) {
  check_choice(choice, take_frames);
  if (take_frames < 1) throw bad_input(say("There are no frames to make a film of."));
  const long long last = choice.last > 0 ? choice.last : take_frames;
  for (long long n = choice.first; n <= last; n += choice.every)
    sequence_.push_back(static_cast<size_t>(n - 1));
  if (choice.way == Way::Backward) std::reverse(sequence_.begin(), sequence_.end());
  if (choice.way == Way::ToAndFro)
    for (size_t n = sequence_.size() - 1; n-- > 0;) sequence_.push_back(sequence_[n]);
  const double tick = 1 / fps.value();
  const auto still = [&](double seconds) { return static_cast<size_t>(std::llround(seconds * fps.value())); };
  places_.assign(still(choice.still_first_s), 0.0);
  if (choice.make_missing) count_beats(gaps, choice.every);
  const double end = beats_.empty() ? static_cast<double>(sequence_.size() - 1) : beats_.back();
  // What stands still at the start is not part of the curve's time: the curve begins with the motion.
  const double began = static_cast<double>(places_.size()) * tick;
  double place = 0;
  for (size_t n = 0; place <= end + kOnAFrame; ++n) {
    if (places_.size() >= kMostFrames)
      throw bad_input(say("The film would have more than {} frames.", format_count(kMostFrames)),
                      say("Make it faster, or of fewer frames."));
    places_.push_back(within_film(place_at(std::min(within_film(place), end))));
    const double now = began + static_cast<double>(n) * tick;
    place += 0.5 * (speed_at(choice.speed, now) + speed_at(choice.speed, now + tick));
    if (choice.speed.size() < 2) place = static_cast<double>(n + 1) * speed_at(choice.speed, 0);
  }
  places_.insert(places_.end(), still(choice.still_last_s), places_.back());
}

double Timeline::take_place(size_t n) const {
  const double at = places_[n];
  const auto before = static_cast<size_t>(at);
  const size_t after = std::min(before + 1, sequence_.size() - 1);
  const double share = at - static_cast<double>(before);
  return static_cast<double>(sequence_[before]) * (1 - share) + static_cast<double>(sequence_[after]) * share;
}

}  // namespace askcount::render
