// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/takes.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>

#include "base/language.h"
#include "base/units.h"
#include "ingest/beat.h"
#include "ingest/likeness.h"
#include "ingest/shots.h"
#include "ingest/whole_seconds.h"

namespace askcount::ingest {
namespace {

using media::Exposure;
using media::Frame;

constexpr double kSameScene = 0.5;        // correlation of two layouts
constexpr double kOtherScene = 0.3;       // below this they show something else
constexpr double kSteadyScene = 0.7;      // between neighbours, before anything is said against a third
constexpr double kSameExposure = 0.4;     // stops
constexpr size_t kMostTests = 12;         // more loose shots than anyone makes to test with are a take
constexpr size_t kMarkerReach = 6;        // frames at an end of the take that may be of a hand
constexpr size_t kHandsApart = 2;         // of them may be known by the hole that parts them from the take
constexpr double kPause_s = 900;          // a hole as long as this is a pause,
constexpr double kPauseIntervals = 100;   // unless it is shorter than this many intervals
constexpr double kLongestHole_s = 43200;  // and never one of half a day
constexpr size_t kLoneInHole = 3;         // loose shots that may stand in a hole
constexpr double kOnBeat = 0.1;           // of the interval: one by itself is on the beat
constexpr double kHole = 1.5;             // intervals
constexpr double kMostDoubles = 0.1;      // of the shots: more are no accident

/// One camera's shots on the way to takes.
class Sorter {
 public:
  explicit Sorter(const std::vector<Exposure>& exposures) {
    for (const Shot& s : shots_of(exposures)) {
      frames_.emplace_back(std::vector<Exposure>(exposures.begin() + static_cast<long>(s.first),
                                                 exposures.begin() + static_cast<long>(s.first + s.count)));
    }
    size_t whole = 0, unclocked = 0;
    for (size_t i = 0; i < frames_.size(); ++i) {
      const auto t = begun(frames_[i]);
      if (!t) {
        ++unclocked;
        continue;
      }
      times_.at.push_back(*t);
      times_.unclocked.push_back(unclocked);
      clocked_.push_back(i);
      whole += frames_[i].exposures.front().info.whole_seconds ? 1 : 0;
      unclocked = 0;
    }
    if (whole * 2 > clocked_.size()) times_.clock_s = 1.01;
  }

  std::vector<FoundTake> takes() {
    // Where hardly anything has a time, numbers tell.
    if (clocked_.size() < 4 || clocked_.size() * 3 < frames_.size()) return {by_number()};
    find_spans();
    if (spans_.empty()) return {};
    std::vector<FoundTake> list;
    for (size_t i = 0; i < spans_.size(); ++i) list.push_back(take_of(spans_[i]));
    for (size_t i = 0; i < spans_.size(); ++i) drop_beside(list, i);
    return list;
  }

 private:
  /// A take on its way: clocked shots from first to last, in runs that belong together.
  struct Span {
    size_t first = 0, last = 0;  // places among the clocked
    std::vector<Run> runs;       // empty where it came unevenly
    double interval_s = 0;
    std::vector<size_t> weak;  // places kept though they are off the beat
  };

  static std::optional<double> begun(const Frame& f) {
    for (const Exposure& e : f.exposures)
      if (e.info.captured) return media::seconds_of(*e.info.captured);
    return {};
  }
  double at(size_t place) const { return times_.at[place]; }
  const Frame& frame(size_t place) const { return frames_[clocked_[place]]; }
  double clock() const { return times_.clock_s; }

  static bool same_exposure(const Frame& a, const Frame& b) {
    const auto x = media::relative_stops(a.info()), y = media::relative_stops(b.info());
    return !x || !y || std::abs(*x - *y) <= kSameExposure;
  }
  /// Whether two show the same scene; true where it cannot be told.
  bool alike(size_t a, size_t b) const {
    const auto x = layout_of(frame(a)), y = layout_of(frame(b));
    return !x || !y || is_blank(*x) || is_blank(*y) || correlation(*x, *y) > kSameScene;
  }
  /// Whether a frame shows something else than the first of those that `next` gives in turn, from beside it
  /// into the take; false where it cannot be told.
  static bool unlike(const Frame& one, const std::function<const Frame*(size_t)>& next) {
    constexpr size_t kBeside = 4;
    const auto here = layout_of(one);
    const Frame* first = next(0);
    if (!here || !first || !same_exposure(one, *first)) return false;
    std::vector<Layout> beside;
    for (size_t i = 0; i < kBeside; ++i)
      if (const Frame* f = next(i))
        if (const auto layout = layout_of(*f)) beside.push_back(*layout);
    return is_unlike(*here, beside);
  }

  void find_spans() {
    for (const auto& [from, to] : clusters()) {
      Times part{{times_.at.begin() + static_cast<long>(from), times_.at.begin() + static_cast<long>(to)},
                 {times_.unclocked.begin() + static_cast<long>(from),
                  times_.unclocked.begin() + static_cast<long>(to)},
                 clock()};
      std::vector<Run> runs = even_runs(part);
      size_t covered = 0, largest = 0;
      for (Run& r : runs) {
        covered += r.last - r.first + 1;
        largest = std::max(largest, r.last - r.first + 1);
        move(r, from);
      }
      const size_t size = to - from;
      // Uneven by nature (released by hand, by what passes): one take, whatever runs chance has made.
      if (size >= 5 && largest * 2 < size && covered * 10 < size * 7)
        spans_.push_back({from, to - 1, {}, 0, {}});
      else
        for (Run& r : runs) spans_.push_back({r.first, r.last, {r}, r.interval_s, {}});
    }
    if (spans_.empty()) {
      spans_.push_back({0, clocked_.size() - 1, {}, 0, {}});
      return;
    }
    join_over_holes();
    find_uneven_rest();
    for (size_t i = 0; i < spans_.size(); ++i) widen(i);
  }

  static void move(Run& r, size_t by) {
    r.first += by;
    r.last += by;
    for (Step& s : r.steps) s.from += by, s.to += by;
    for (size_t& e : r.extra) e += by;
  }

  /// Stretches between long pauses: [from, to).
  std::vector<std::pair<size_t, size_t>> clusters() const {
    std::vector<double> gaps;
    for (size_t i = 0; i + 1 < times_.at.size(); ++i) gaps.push_back(at(i + 1) - at(i));
    std::vector<double> sorted = gaps;
    std::nth_element(sorted.begin(), sorted.begin() + static_cast<long>(sorted.size() / 2), sorted.end());
    const double pause = std::max(30 * sorted[sorted.size() / 2], 300.0);
    std::vector<std::pair<size_t, size_t>> list;
    size_t from = 0;
    for (size_t i = 0; i < gaps.size(); ++i)
      if (gaps[i] > pause) list.emplace_back(from, i + 1), from = i + 1;
    list.emplace_back(from, times_.at.size());
    return list;
  }

  /// Two spans of one beat and one scene with a hole between them that is no pause are one.
  void join_over_holes() {
    std::vector<Span> joined;
    for (Span& span : spans_) {
      if (!joined.empty() && belongs(joined.back(), span)) {
        Span& one = joined.back();
        for (size_t k = one.last + 1; k < span.first; ++k) one.weak.push_back(k);
        one.runs.insert(one.runs.end(), span.runs.begin(), span.runs.end());
        one.last = span.last;
        continue;
      }
      joined.push_back(std::move(span));
    }
    spans_ = std::move(joined);
  }

  bool belongs(const Span& a, const Span& b) const {
    if (a.runs.empty() || b.runs.empty() || b.first - a.last - 1 > kLoneInHole) return false;
    const double before = a.runs.back().interval_s, after = b.runs.front().interval_s,
                 hole = at(b.first) - at(a.last);
    const double same = std::max(0.06 * before, clock() > 0.5 ? 0.5 : 0.02);
    if (std::abs(before - after) > same) return false;
    if (hole > std::min(std::max(kPause_s, kPauseIntervals * before), kLongestHole_s)) return false;
    if (frame(a.last).exposures.size() != frame(b.first).exposures.size()) return false;
    return alike(a.last, b.first);
  }

  /// Loose shots that are too many to be tests are takes of their own.
  void find_uneven_rest() {
    std::vector<Span> more;
    size_t from = 0;
    for (size_t i = 0; i <= spans_.size(); ++i) {
      const size_t to = i < spans_.size() ? spans_[i].first : clocked_.size();
      if (to - from > kMostTests) more.push_back({from, to - 1, {}, 0, {}});
      if (i < spans_.size()) from = spans_[i].last + 1;
    }
    spans_.insert(spans_.end(), more.begin(), more.end());
    std::sort(spans_.begin(), spans_.end(), [](const Span& a, const Span& b) { return a.first < b.first; });
  }

  /// Shots right before and after that keep to the beat, or are too like the take to be sent away.
  void widen(size_t i) {
    Span& s = spans_[i];
    if (s.runs.empty()) return;
    const size_t lower = i > 0 ? spans_[i - 1].last + 1 : 0;
    const size_t upper = i + 1 < spans_.size() ? spans_[i + 1].first : clocked_.size();
    while (s.first > lower && wanted(s, s.first - 1, s.first, s.first - 1 == lower)) --s.first;
    while (s.last + 1 < upper && wanted(s, s.last + 1, s.last, s.last + 2 == upper)) ++s.last;
  }

  bool wanted(Span& s, size_t shot, size_t beside, bool lone) {
    const double gap = std::abs(at(shot) - at(beside)), interval = s.interval_s;
    if (gap > 4 * interval || !same_exposure(frame(shot), frame(beside))) return false;
    const double n = std::round(gap / interval);
    const bool on_beat = n >= 1 && std::abs(gap - n * interval) <= std::max(kOnBeat * interval, clock());
    if (!on_beat && (!lone || gap < 0.3 * interval)) return false;
    if (!alike(shot, beside)) return false;
    const bool before = shot < beside;
    if (!on_beat && unlike(frame(shot), [&](size_t n) {
          const size_t place = before ? beside + n : beside - n;
          return place >= s.first && place <= s.last ? &frame(place) : nullptr;
        }))
      return false;
    if (!on_beat) s.weak.push_back(shot);
    return true;
  }

  /// The frames of a span, and what is to be said of them.
  FoundTake take_of(const Span& s) {
    FoundTake take;
    take.clock_s = clock();
    if (s.interval_s > 0) take.interval_s = s.interval_s;
    std::vector<size_t> extra;
    for (const Run& r : s.runs) extra.insert(extra.end(), r.extra.begin(), r.extra.end());
    if (static_cast<double>(extra.size()) > kMostDoubles * static_cast<double>(s.last - s.first + 1))
      extra.clear();
    std::vector<Frame> list;
    std::map<size_t, size_t> number;  // of the frame, by place among the clocked
    const auto [from, to] = with_unclocked(s);
    for (size_t i = from, place = first_place(from); i <= to; ++i) {
      const bool here = place < clocked_.size() && clocked_[place] == i;
      if (here && std::find(extra.begin(), extra.end(), place) != extra.end()) {
        take.dropped.push_back({frames_[i], Dropped::Why::Double, false, say("Second shot of one press.")});
      } else {
        if (here) number[place] = list.size();
        list.push_back(frames_[i]);
      }
      taken_[i] = true;
      place += here ? 1 : 0;
    }
    count_missing(s, number, take);
    for (const size_t place : s.weak)
      if (number.contains(place))
        take.weak.push_back({frame(place), Dropped::Why::Test, place <= s.runs.front().first,
                             say("It is off the even interval, and looks like the take: it is kept.")});
    finish(take, std::move(list));
    return take;
  }

  size_t first_place(size_t shot) const {
    return static_cast<size_t>(std::lower_bound(clocked_.begin(), clocked_.end(), shot) - clocked_.begin());
  }

  /// The span's shots by index, with those beside it that have no time and follow it by number.
  std::pair<size_t, size_t> with_unclocked(const Span& s) const {
    size_t from = clocked_[s.first], to = clocked_[s.last];
    const auto next = [&](size_t a, size_t b) {
      const long long x = number_of(frames_[a].file()), y = number_of(frames_[b].file());
      return x < 0 || y < 0 || y == x + 1 || (x == 9999 && y <= 1);
    };
    while (from > 0 && !begun(frames_[from - 1]) && next(from - 1, from)) --from;
    while (to + 1 < frames_.size() && !begun(frames_[to + 1]) && next(to, to + 1)) ++to;
    return {from, to};
  }

  void count_missing(const Span& s, const std::map<size_t, size_t>& number, FoundTake& take) const {
    // Late, and back on the beat with the next one: only the first is off.
    for (const Run& r : s.runs) {
      double carried = 0;
      std::vector<std::optional<Lateness>> hidden;
      if (clock() > 0.5) hidden = lateness_by_neighbours(times_, r);
      for (size_t k = 0; k < r.steps.size(); ++k) {
        const Step& step = r.steps[k];
        const auto at_from = number.find(step.from), at_to = number.find(step.to);
        if (at_from == number.end() || at_to == number.end()) continue;
        if (step.missing > 0)
          take.missing.push_back({at_from->second, step.missing, at(step.to) - at(step.from)});
        if (k + 1 < hidden.size() && hidden[k + 1]) {
          const Lateness& by = *hidden[k + 1];
          if (by.is_off()) take.off_beat.push_back({at_to->second, by.middle()});
          continue;
        }
        const double off = step.off_s;
        const bool recovered = carried != 0 && std::abs(off + carried) < std::abs(off) / 2;
        if (!recovered && std::abs(off) > clock()) take.off_beat.push_back({at_to->second, off});
        carried = recovered ? 0 : off;
      }
    }
    // Holes between runs, and before and after the first and the last of them.
    std::vector<std::pair<size_t, size_t>> holes;
    size_t last = s.first;
    for (const Run& r : s.runs) {
      for (size_t k = last; k < r.first; ++k) holes.emplace_back(k, k + 1);
      last = r.last;
    }
    for (size_t k = last; k < s.last; ++k) holes.emplace_back(k, k + 1);
    for (const auto& [a, b] : holes) {
      if (s.interval_s <= 0 || !number.contains(a) || !number.contains(b)) continue;
      const double gap = at(b) - at(a);
      const long long files = static_cast<long long>(number.at(b) - number.at(a)) - 1;
      const double steps = std::round(gap / s.interval_s);
      // One at an end that is off the beat says nothing of others before it.
      const bool at_end = !s.runs.empty() && (a < s.runs.front().first || b > s.runs.back().last);
      if (at_end && std::abs(gap - steps * s.interval_s) > std::max(kOnBeat * s.interval_s, clock()))
        continue;
      const long long lost = static_cast<long long>(steps) - 1 - files;
      if (lost > 0) take.missing.push_back({number.at(a), lost, gap});
    }
    std::sort(take.missing.begin(), take.missing.end(),
              [](const Missing& a, const Missing& b) { return a.after < b.after; });
  }

  /// Takes markers from the ends of the frames, and says how many exposures each has.
  void finish(FoundTake& take, std::vector<Frame> list) {
    std::map<size_t, size_t> counts;
    for (const Frame& f : list) ++counts[f.exposures.size()];
    for (const auto& [each, n] : counts)
      if (n > counts[take.exposures_each] || (each == 1 && counts.size() == 1)) take.exposures_each = each;
    const double interval = take.interval_s.value_or(0);
    const std::vector<bool> before = markers(list, true, interval), behind = markers(list, false, interval);
    const size_t front = before.size(), back = behind.size();
    const auto drop = [&](size_t i, bool marker, bool is_before) {
      take.dropped.push_back(
          {list[i], marker ? Dropped::Why::Marker : Dropped::Why::Test, is_before,
           marker      ? (is_before ? say("Marker before the take.") : say("Marker after the take."))
           : is_before ? say("Test shot before the marker: off the even interval.")
                       : say("Test shot after the marker: off the even interval.")});
    };
    for (size_t i = 0; i < front; ++i) drop(i, before[i], true);
    for (size_t i = list.size() - back; i < list.size(); ++i) drop(i, behind[list.size() - 1 - i], false);
    list.erase(list.end() - static_cast<long>(back), list.end());
    list.erase(list.begin(), list.begin() + static_cast<long>(front));
    const auto outside = [&](size_t frame) { return frame < front || frame >= front + list.size(); };
    std::erase_if(take.missing, [&](const Missing& m) { return outside(m.after) || outside(m.after + 1); });
    std::erase_if(take.off_beat, [&](const OffBeat& o) { return outside(o.frame); });
    for (Missing& m : take.missing) m.after -= front;
    for (OffBeat& o : take.off_beat) o.frame -= front;
    std::erase_if(take.off_beat, [](const OffBeat& o) { return o.frame == 0; });  // against a marker
    for (size_t i = 0; i < list.size(); ++i)
      if (list[i].exposures.size() < take.exposures_each) take.incomplete.push_back(i);
    if (take.interval_s) take.interval_s = even_step(list, take.missing, *take.interval_s);
    take.frames = media::frames_of(std::move(list));
  }

  /// The mean of the steps that are about `interval` long: whole seconds hide what all of them show.
  double even_step(const std::vector<Frame>& list, const std::vector<Missing>& holes, double interval) const {
    double sum = 0, steps = 0;
    auto hole = holes.begin();
    for (size_t i = 0; i + 1 < list.size(); ++i) {
      while (hole != holes.end() && hole->after < i) ++hole;
      if (hole != holes.end() && hole->after == i) continue;
      const auto a = begun(list[i]), b = begun(list[i + 1]);
      if (!a || !b || std::abs(*b - *a - interval) > std::max(0.1 * interval, clock())) continue;
      sum += *b - *a;
      ++steps;
    }
    return steps > 0 ? sum / steps : interval;
  }

  /// The frames at an end that are not the take's, counted from that end, and which of them show something
  /// else than it: all of them do, and those behind are alike; or the last of them does and none of them is
  /// on the take's beat.
  std::vector<bool> markers(const std::vector<Frame>& list, bool front, double interval) const {
    const size_t reach = std::min(kMarkerReach, list.size() / 4);
    const auto frame = [&](size_t i) -> const Frame& { return list[front ? i : list.size() - 1 - i]; };
    std::vector<std::optional<std::optional<Layout>>> seen(reach + 2);
    const auto look = [&](size_t i) {
      if (!seen[i]) seen[i] = layout_of(frame(i));
      return *seen[i];
    };
    const auto off_beat = [&](size_t i, size_t of_take) {
      const auto here = begun(frame(i)), take = begun(frame(of_take));
      if (!here || !take || interval <= 0) return false;
      const double steps = std::abs(*take - *here) / interval;
      return std::abs(steps - std::round(steps)) * interval > std::max(kOnBeat * interval, clock());
    };
    // A hole before it is what a person leaves, not a timer.
    const auto after_hole = [&](size_t i) {
      const auto here = begun(frame(i)), next = begun(frame(i + 1));
      return here && next && interval > 0 && std::abs(*next - *here) > kHole * interval;
    };
    // Where all are on the beat and the outermost shows what the take does, there is nothing to look for.
    bool even = reach >= 1;
    for (size_t i = 0; i < reach; ++i) even = even && !off_beat(i, reach) && !after_hole(i);
    if (even) {
      const auto outermost = look(0), within = look(reach);
      if (outermost && within && !is_blank(*outermost) && correlation(*outermost, *within) >= kSteadyScene)
        return {};
    }
    for (size_t m = reach; m >= 1; --m) {
      const auto first = look(m), second = look(m + 1);
      if (!first || !second) continue;
      const bool steady = !is_blank(*first) && correlation(*first, *second) >= kSteadyScene;
      std::vector<bool> other;
      const bool apart = m <= kHandsApart && (after_hole(m - 1) || off_beat(m - 1, m));
      for (size_t i = 0; i < m; ++i) {
        const auto one = look(i);
        const bool another = one && !is_blank(*one) && steady && correlation(*one, *first) < kOtherScene;
        other.push_back(another || (apart && unlike(frame(i), [&](size_t n) {
                                      return m + n < list.size() ? &frame(m + n) : nullptr;
                                    })));
      }
      if (!other.back()) continue;
      bool theirs = true;
      for (size_t i = 0; i < m; ++i) theirs = theirs && (other[i] || off_beat(i, m));
      theirs = theirs && (std::find(other.begin(), other.end(), false) == other.end() || off_beat(m - 1, m));
      if (theirs) return other;
    }
    return {};
  }

  /// What no take has: beside the nearer of the two it lies between.
  void drop_beside(std::vector<FoundTake>& list, size_t i) {
    const Span& s = spans_[i];
    const auto& frames = *list[i].frames;
    const auto scene_of = [&](bool before) -> std::optional<Layout> {
      if (frames.empty()) return {};
      return layout_of(before ? frames.front() : frames.back());
    };
    std::vector<Dropped> before, after;
    std::optional<std::optional<Layout>> first_scene, last_scene;
    const auto dropped = [&](size_t shot, bool is_before) -> Dropped {
      const Frame& f = frames_[shot];
      if (!f.readable()) return {f, Dropped::Why::Unreadable, is_before, f.trouble()};
      auto& scene = is_before ? first_scene : last_scene;
      if (!scene) scene = scene_of(is_before);
      const auto layout = layout_of(f);
      const bool other = unlike(f, [&](size_t n) {
        return n < frames.size() ? &(is_before ? frames[n] : frames[frames.size() - 1 - n]) : nullptr;
      });
      if (layout && *scene && (other || (!is_blank(*layout) && correlation(*layout, **scene) < kOtherScene)))
        return {f, Dropped::Why::Marker, is_before,
                is_before ? say("Marker before the take.") : say("Marker after the take.")};
      return {f, Dropped::Why::Test, is_before,
              is_before ? say("Test shot before the take: off its even interval.")
                        : say("Test shot after the take: off its even interval.")};
    };
    const size_t lower = i > 0 ? clocked_[spans_[i - 1].last] + 1 : 0;
    const size_t upper = i + 1 < spans_.size() ? clocked_[spans_[i + 1].first] : frames_.size();
    for (size_t k = lower; k < clocked_[s.first]; ++k)
      if (!taken_[k] && (i == 0 || nearer_to(k, i, i - 1)))
        before.push_back(dropped(k, true)), taken_[k] = true;
    for (size_t k = clocked_[s.last] + 1; k < upper; ++k)
      if (!taken_[k] && (i + 1 == spans_.size() || nearer_to(k, i, i + 1)))
        after.push_back(dropped(k, false)), taken_[k] = true;
    // A shot right between a marker and the take is a test, whatever its timing.
    std::vector<Dropped>& all = list[i].dropped;
    all.insert(all.begin(), before.begin(), before.end());
    all.insert(all.end(), after.begin(), after.end());
  }

  bool nearer_to(size_t shot, size_t one, size_t other) const {
    const auto t = begun(frames_[shot]);
    if (!t) return true;
    const auto apart = [&](const Span& s) {
      return std::min(std::abs(*t - at(s.first)), std::abs(*t - at(s.last)));
    };
    return apart(spans_[one]) <= apart(spans_[other]);
  }

  /// Without times: all of them by number, holes by what is missing in the numbers.
  FoundTake by_number() {
    FoundTake take;
    for (size_t i = 0; i + 1 < frames_.size(); ++i) {
      const std::filesystem::path &one = frames_[i].file(), &next = frames_[i + 1].file();
      const long long a = number_of(one), b = number_of(next);
      if (a >= 0 && b > a + 1 && b - a < 1000 && one.parent_path() == next.parent_path())
        take.missing.push_back({i, b - a - 1, 0});
    }
    finish(take, frames_);
    return take;
  }

  std::vector<Frame> frames_;    // all shots, in order
  std::vector<size_t> clocked_;  // those with a time
  Times times_;                  // of them
  std::vector<Span> spans_;
  std::map<size_t, bool> taken_;  // shots that a take has, or that lie beside one
};

}  // namespace

std::optional<media::CameraTime> FoundTake::start() const {
  for (const Frame& f : *frames)
    if (f.exposures.front().info.captured) return f.exposures.front().info.captured;
  return {};
}

std::optional<media::CameraTime> FoundTake::end() const {
  for (auto f = frames->rbegin(); f != frames->rend(); ++f)
    if (f->exposures.front().info.captured) return f->exposures.front().info.captured;
  return {};
}

std::vector<FoundTake> takes_of(const std::vector<Exposure>& exposures) {
  std::map<std::string, size_t> known;
  for (const Exposure& e : exposures)
    if (e.readable()) ++known[camera_of(e)];
  // What says nothing of its camera goes with the file before it.
  std::map<std::string, std::vector<Exposure>> cameras;
  std::string last = known.empty() ? "|" : std::max_element(known.begin(), known.end(), [](auto& a, auto& b) {
                                             return a.second < b.second;
                                           })->first;
  for (const Exposure& e : exposures) {
    if (const std::string camera = camera_of(e); e.readable() && (camera != "|" || known.size() == 1))
      last = camera;
    cameras[last].push_back(e);
  }
  std::vector<FoundTake> list;
  std::vector<Exposure> strays;
  for (const auto& [camera, theirs] : cameras) {
    if (cameras.size() > 1 && theirs.size() < 5) {  // a few pictures of another camera are no take
      strays.insert(strays.end(), theirs.begin(), theirs.end());
      continue;
    }
    for (FoundTake& take : Sorter(theirs).takes()) list.push_back(std::move(take));
  }
  if (list.empty())
    for (FoundTake& take : Sorter(exposures).takes()) list.push_back(std::move(take)), strays.clear();
  std::stable_sort(list.begin(), list.end(),
                   [](const FoundTake& a, const FoundTake& b) { return a.start() < b.start(); });
  for (Exposure& e : strays) {
    const std::string text = say("From another camera{}.", e.info.body.empty() ? "" : ", " + e.info.body);
    list.front().dropped.push_back({Frame(std::move(e)), Dropped::Why::Test, false, text});
  }
  return list;
}

FoundTake joined(const std::vector<FoundTake>& takes) {
  FoundTake one = takes.front();
  std::vector<Frame> list = *one.frames;
  double steps = one.interval_s ? static_cast<double>(list.size()) : 0,
         sum = steps * one.interval_s.value_or(0);
  for (size_t i = 1; i < takes.size(); ++i) {
    const FoundTake& t = takes[i];
    const size_t by = list.size();
    one.sessions.push_back(by);
    for (const size_t s : t.sessions) one.sessions.push_back(s + by);
    for (Missing m : t.missing) m.after += by, one.missing.push_back(m);
    for (OffBeat o : t.off_beat) o.frame += by, one.off_beat.push_back(o);
    for (const size_t f : t.incomplete) one.incomplete.push_back(f + by);
    one.dropped.insert(one.dropped.end(), t.dropped.begin(), t.dropped.end());
    one.weak.insert(one.weak.end(), t.weak.begin(), t.weak.end());
    one.clock_s = std::max(one.clock_s, t.clock_s);
    if (t.interval_s) {
      steps += static_cast<double>(t.frames->size());
      sum += *t.interval_s * static_cast<double>(t.frames->size());
    }
    list.insert(list.end(), t.frames->begin(), t.frames->end());
  }
  // Sessions of different beats have none in common: the longest one's stands.
  if (steps > 0) one.interval_s = sum / steps;
  const auto longest = std::max_element(
      takes.begin(), takes.end(),
      [](const FoundTake& a, const FoundTake& b) { return a.frames->size() < b.frames->size(); });
  if (longest->interval_s && one.interval_s &&
      std::abs(*one.interval_s - *longest->interval_s) > 0.05 * *longest->interval_s)
    one.interval_s = longest->interval_s;
  one.frames = media::frames_of(std::move(list));
  return one;
}

}  // namespace askcount::ingest
