#include "cut/timeline.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/units.h"

namespace askcount::cut {
namespace {

constexpr size_t kMostFrames = 1'000'000;
constexpr double kOnAFrame = 1e-6;  // a place so near a frame is on it

double held(double place) {
  const double near = std::round(place);
  return std::abs(place - near) < kOnAFrame ? near : place;
}

}  // namespace

double eased(double t) {
  t = std::clamp(t, 0.0, 1.0);
  return t * t * (3 - 2 * t);
}

void check_choice(const Choice& c, long long frames) {
  if (c.every < 1) throw bad_input(fmt::format("Every {}th frame is none.", c.every), "Use 1 or more.");
  const long long last = c.last > 0 ? c.last : frames;
  if (c.first < 1 || (c.last > 0 && c.first > c.last))
    throw bad_input(fmt::format("Frames {} to {} are none.", c.first, c.last),
                    "Count from 1, the first before the last.");
  if (frames > 0 && (c.first > frames || last > frames))
    throw bad_input(fmt::format("The take has {}; {} to {} is not in it.", counted(frames, "frame"), c.first,
                                std::max(c.first, last)),
                    fmt::format("Use frames from 1 to {}.", frames));
  for (const SpeedAnchor& a : c.speed) {
    if (!(a.times >= kSlowest && a.times <= kFastest))
      throw bad_input(fmt::format("A speed of {} times is not between {} and {}.", format_number(a.times, 3),
                                  format_number(kSlowest, 2), format_number(kFastest, 0)));
    if (!(a.at_s >= 0)) throw bad_input("A speed is set before the film begins.", "Its time is 0 or more.");
  }
  for (size_t n = 1; n < c.speed.size(); ++n)
    if (!(c.speed[n].at_s > c.speed[n - 1].at_s))
      throw bad_input(fmt::format("Two speeds are set at {} s of the film, or out of order.",
                                  format_number(c.speed[n].at_s, 2)),
                      "Each needs a time of its own, rising.");
  for (const double still : {c.still_first_s, c.still_last_s})
    if (!(still >= 0 && still <= 600))
      throw bad_input(fmt::format("A still of {} s is not between 0 and 600.", format_number(still, 2)));
  if (c.trail < 1 || c.trail > kLongestTrail)
    throw bad_input(fmt::format("A trail of {} frames is not between 1 and {}.", c.trail, kLongestTrail));
  if (c.bright < kAllFrames)
    throw bad_input(fmt::format("Bright trails of {} frames are none.", c.bright), "Use 1 or more, or all.");
  if (c.bright != 0 && c.trail > 1)
    throw bad_input("Trails are blended or bright, not both.", "Leave one of the two out.");
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

Timeline::Timeline(const Choice& choice, long long take_frames, FrameRate fps) {
  check_choice(choice, take_frames);
  if (take_frames < 1) throw bad_input("There are no frames to make a film of.");
  const long long last = choice.last > 0 ? choice.last : take_frames;
  for (long long n = choice.first; n <= last; n += choice.every)
    sequence_.push_back(static_cast<size_t>(n - 1));
  if (choice.way == Way::Backward) std::reverse(sequence_.begin(), sequence_.end());
  if (choice.way == Way::ToAndFro)
    for (size_t n = sequence_.size() - 1; n-- > 0;) sequence_.push_back(sequence_[n]);
  const double tick = 1 / fps.value();
  const auto still = [&](double seconds) { return static_cast<size_t>(std::llround(seconds * fps.value())); };
  places_.assign(still(choice.still_first_s), 0.0);
  const double end = static_cast<double>(sequence_.size() - 1);
  // What stands still at the start is not part of the curve's time: the curve begins with the motion.
  const double began = static_cast<double>(places_.size()) * tick;
  double place = 0;
  for (size_t n = 0; place <= end + kOnAFrame; ++n) {
    if (places_.size() >= kMostFrames)
      throw bad_input(fmt::format("The film would have more than {} frames.", format_count(kMostFrames)),
                      "Make it faster, or of fewer frames.");
    places_.push_back(std::min(held(place), end));
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

}  // namespace askcount::cut
