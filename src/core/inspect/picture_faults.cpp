// SPDX-License-Identifier: GPL-3.0-or-later
// What one frame or a few show and their neighbours do not: blur, visitors, black and blank ones, white
// parts.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "inspect/faults.h"
#include "inspect/series.h"

namespace askcount::inspect {
namespace {

constexpr double kDarker = 2.5;        // stops below the neighbours
constexpr double kBlankSpread = 1.6;   // codes
constexpr double kLeastOdd = 0.004;    // share of the picture
constexpr double kLeastSoft = 0.7;     // log2 of the fine detail's energy
constexpr double kTexturedPart = -11;  // log2 of middle-sized detail that a part needs
constexpr double kMuchWhite = 0.1;     // share of the picture
constexpr double kSuddenWhite = 0.08;  // the same, above what is white around it
constexpr double kStarsFall = 0.8;     // log2 of how far points of light stand out
constexpr size_t kLongestVisit = 8;

/// A value of every frame that was seen, and which frames those are.
struct Readings {
  std::vector<size_t> frame;
  std::vector<const Measures*> m;
  explicit Readings(const Look& look) {
    for (size_t n = 0; n < look.frames.size(); ++n)
      if (look.frames[n].seen()) frame.push_back(n), m.push_back(&look.frames[n]);
  }
  size_t size() const { return frame.size(); }
  template <class Value>
  std::vector<double> of(Value&& value) const {
    std::vector<double> v;
    v.reserve(size());
    for (const Measures* one : m) v.push_back(static_cast<double>(value(*one)));
    return v;
  }
};

std::string percent(double share) {
  return format_number(100 * share, share < 0.1 ? 1 : 0) + " %";
}

/// Black and blank frames; returns which places are.
std::vector<bool> find_dark(const Readings& s, std::vector<Fault>& found) {
  std::vector<bool> dark(s.size(), false);
  const std::vector<double> stops = s.of([](const Measures& m) { return m.stops; });
  const std::vector<double> spreads = s.of([](const Measures& m) { return m.spread; });
  for (size_t k = 0; k < s.size(); ++k) {
    const long i = static_cast<long>(k);
    const auto near = [&](const std::vector<double>& v) {
      std::vector<double> w = part(v, i - 12, i);
      const std::vector<double> after = part(v, i + 1, i + 13);
      w.insert(w.end(), after.begin(), after.end());
      return w.empty() ? v[k] : median(w);
    };
    const Measures& m = *s.m[k];
    const bool blank = static_cast<double>(m.spread) < kBlankSpread && near(spreads) > 3 * kBlankSpread;
    const double before = i > 0 ? median(part(stops, i - 12, i)) : stops[k],
                 after = k + 1 < s.size() ? median(part(stops, i + 1, i + 13)) : stops[k];
    const bool black = stops[k] < near(stops) - kDarker &&
                       (m.code < 30 || blank || stops[k] < std::min(before, after) - kDarker);
    if (!blank && !black) continue;
    dark[k] = true;
    const bool is_dark = black || m.code < 20;
    if (k > 0 && dark[k - 1] && !found.empty() && found.back().last + 1 == s.frame[k] &&
        found.back().kind == (is_dark ? FaultKind::Dark : FaultKind::Blank)) {
      found.back().last = s.frame[k];
      continue;
    }
    found.push_back(
        {is_dark ? FaultKind::Dark : FaultKind::Blank, s.frame[k], s.frame[k], near(stops) - stops[k],
         "stops",
         is_dark ? say("It is {} stops darker than its neighbours.", format_number(near(stops) - stops[k], 1))
                 : say("There is nothing in it: one even tone."),
         Remedy::Neighbours});
  }
  return dark;
}

/// How much fine detail each frame lacks beside its neighbours on the poorer side, most of its parts at once.
std::vector<double> softness(const Readings& s, const std::vector<bool>& dark) {
  constexpr long kReach = 6;
  std::vector<double> soft(s.size(), 0);
  for (size_t k = 0; k < s.size(); ++k) {
    if (dark[k]) continue;
    std::vector<double> drops;
    for (size_t p = 0; p < kParts; ++p) {
      std::vector<double> before, after;
      const auto add = [&](long i, std::vector<double>& side) {
        if (i < 0 || i >= static_cast<long>(s.size()) || dark[static_cast<size_t>(i)]) return;
        const Measures& m = *s.m[static_cast<size_t>(i)];
        side.push_back(static_cast<double>(m.fine[p] - m.coarse[p]));
      };
      if (static_cast<double>(s.m[k]->coarse[p]) < kTexturedPart) continue;
      for (long d = 1; d <= kReach; ++d)
        add(static_cast<long>(k) - d, before), add(static_cast<long>(k) + d, after);
      if (before.size() < 2 && after.size() < 2) continue;
      const double b = before.size() >= 2 ? median(before) : median(after);
      const double a = after.size() >= 2 ? median(after) : b;
      drops.push_back(std::min(a, b) - static_cast<double>(s.m[k]->fine[p] - s.m[k]->coarse[p]));
    }
    // What most of the parts lack: a third of them may lack less.
    if (drops.size() >= 3) {
      std::sort(drops.begin(), drops.end());
      soft[k] = drops[drops.size() / 3];
    }
  }
  return soft;
}

void find_soft(const Readings& s, const std::vector<bool>& dark, std::vector<Fault>& found) {
  const std::vector<double> soft = softness(s, dark);
  const double least = std::max(kLeastSoft, 7 * spread(soft));
  std::vector<size_t> frames;
  for (size_t k = 0; k < s.size(); ++k)
    if (soft[k] > least) frames.push_back(k);
  // What is left of the whole picture's, beside its neighbours: the same as its lane shows.
  const std::vector<double> sharp = s.of([](const Measures& m) { return sharpness(m); });
  const auto left = [&](size_t k) {
    std::vector<double> near;
    for (long d = 1; d <= 6; ++d)
      for (const long i : {static_cast<long>(k) - d, static_cast<long>(k) + d})
        if (i >= 0 && i < static_cast<long>(s.size()) && soft[static_cast<size_t>(i)] <= least)
          near.push_back(sharp[static_cast<size_t>(i)]);
    return near.empty() ? std::exp2(-soft[k] / 2) : std::min(1.0, std::exp2((sharp[k] - median(near)) / 2));
  };
  // Many, all over: the focus hunts.
  if (frames.size() >= 8 && frames.size() * 12 > s.size()) {
    std::vector<double> all;
    for (const size_t k : frames) all.push_back(left(k));
    found.push_back(
        {FaultKind::Hunting, s.frame[frames.front()], s.frame[frames.back()],
         static_cast<double>(frames.size()), "frames",
         say("The focus hunts: {} have {} of their neighbours' fine detail.",
             counted(static_cast<long long>(frames.size()), "{} frame", "{} frames"), percent(median(all))),
         Remedy::Neighbours});
    return;
  }
  // Again and again within a short stretch: there it hunts.
  constexpr size_t kBetween = 4, kTimes = 4;
  std::vector<size_t> single;
  for (size_t i = 0; i < frames.size();) {
    size_t j = i, times = 1;
    std::vector<double> all{left(frames[i])};
    while (j + 1 < frames.size() && frames[j + 1] - frames[j] <= kBetween) {
      ++j;
      times += frames[j] != frames[j - 1] + 1 ? 1 : 0;
      all.push_back(left(frames[j]));
    }
    const auto many = static_cast<double>(j - i + 1);
    if (times >= kTimes)
      found.push_back(
          {FaultKind::Hunting, s.frame[frames[i]], s.frame[frames[j]], many, "frames",
           say("The focus hunts: {} of {} have {} of their neighbours' fine detail.", j - i + 1,
               counted(static_cast<long long>(frames[j] - frames[i] + 1), "{} frame", "{} frames"),
               percent(median(all))),
           Remedy::Neighbours});
    else
      single.insert(single.end(), frames.begin() + static_cast<long>(i),
                    frames.begin() + static_cast<long>(j) + 1);
    i = j + 1;
  }
  frames = std::move(single);
  for (size_t i = 0; i < frames.size(); ++i) {
    size_t j = i;
    double least_left = left(frames[i]);
    while (j + 1 < frames.size() && frames[j + 1] == frames[j] + 1)
      least_left = std::min(least_left, left(frames[++j]));
    found.push_back({FaultKind::Soft, s.frame[frames[i]], s.frame[frames[j]], least_left, "share",
                     say("Not sharp: {} of its neighbours' fine detail.", percent(least_left)),
                     Remedy::Neighbours});
    i = j;
  }
}

/// The sharpness of each part of each frame.
class PartSharpness {
 public:
  static constexpr long kReach = 8;  // frames to either side that are looked at
  explicit PartSharpness(const Readings& s) : s_(s), sharp_(kParts, std::vector<double>(s.size())) {
    for (size_t k = 0; k < s.size(); ++k)
      for (size_t p = 0; p < kParts; ++p)
        sharp_[p][k] = static_cast<double>(s.m[k]->fine[p] - s.m[k]->coarse[p]);
  }

  /// What a third of the parts with texture lose from before each frame to after.
  std::vector<double> drops() const {
    std::vector<double> step(s_.size(), 0);
    for (long k = 3; k + 3 < static_cast<long>(s_.size()); ++k) {
      std::vector<double> drops;
      for (size_t p = 0; p < kParts; ++p)
        if (has_texture(static_cast<size_t>(k), p))
          drops.push_back(median(part(sharp_[p], k - kReach, k)) - median(part(sharp_[p], k, k + kReach)));
      if (drops.size() < 3) continue;
      std::sort(drops.begin(), drops.end());
      step[static_cast<size_t>(k)] = drops[drops.size() / 3];
    }
    return step;
  }

  /// Of every frame, over the parts that have texture in one of them.
  std::vector<double> whole(size_t textured_in) const {
    std::vector<double> whole(s_.size());
    for (size_t i = 0; i < s_.size(); ++i) {
      std::vector<double> v;
      for (size_t p = 0; p < kParts; ++p)
        if (has_texture(textured_in, p)) v.push_back(sharp_[p][i]);
      whole[i] = median(v);
    }
    return whole;
  }

 private:
  bool has_texture(size_t frame, size_t p) const {
    return static_cast<double>(s_.m[frame]->coarse[p]) >= kTexturedPart;
  }
  const Readings& s_;
  std::vector<std::vector<double>> sharp_;
};

/// The loss whose steepest fall is at frame `best`, by `drop`.
Fault focus_loss(const Readings& s, const PartSharpness& parts, const std::vector<double>& all, size_t best,
                 double drop) {
  constexpr long kReach = PartSharpness::kReach;
  const std::vector<double> whole = parts.whole(best);
  const long b = static_cast<long>(best);
  const double before = median(part(whole, b - kReach, b)), after = median(part(whole, b, b + kReach));
  // The first frame behind the middle of the fall.
  size_t first = best;
  for (long i = std::max(0L, b - kReach); i < b + kReach && i < static_cast<long>(s.size()); ++i)
    if (whole[static_cast<size_t>(i)] < (before + after) / 2) {
      first = static_cast<size_t>(i);
      break;
    }
  // Does it come back?
  size_t back = s.size();
  for (size_t i = first + static_cast<size_t>(kReach); i < s.size() && back == s.size(); ++i)
    if (median(part(whole, static_cast<long>(i), static_cast<long>(i) + 5)) > before - 0.3 * drop) back = i;
  while (back < s.size() && whole[back] < (before + after) / 2) ++back;
  const auto in_all = [&](size_t from, size_t to) {
    return median(part(all, static_cast<long>(from), static_cast<long>(to)));
  };
  const double left = std::min(
      1.0, std::exp2((in_all(first, back) - in_all(first - std::min<size_t>(first, 2 * kReach), first)) / 2));
  const bool lost = back == s.size();
  return {FaultKind::Soft,
          s.frame[first],
          lost ? s.frame.back() : s.frame[back - 1],
          left,
          "share",
          say("The focus is lost {}: {} of the fine detail is left.",
              lost ? say("from here on")
                   : say("for {}", counted(static_cast<long long>(back - first), "{} frame", "{} frames")),
              percent(left)),
          lost ? Remedy::EndBefore : Remedy::None};
}

/// A focus that was lost and did not come back.
void find_focus_lost(const Readings& s, const std::vector<bool>& dark, const std::vector<Fault>& still,
                     std::vector<Fault>& found) {
  const std::vector<double> all = s.of([](const Measures& m) { return sharpness(m); });
  const PartSharpness parts(s);
  const std::vector<double> step = parts.drops();
  const double least = std::clamp(7 * spread(step), kLeastSoft, 1.6);
  std::vector<Fault> losses;
  for (size_t k = 0; k < step.size(); ++k) {
    if (step[k] < least || dark[k]) continue;
    size_t best = k, end = k;
    while (end < step.size() && step[end] >= least) {
      if (step[end] > step[best]) best = end;
      ++end;
    }
    // A sudden one: within a few frames. Slow ones are told by what became of the detail in all.
    if (end - k <= 2 * static_cast<size_t>(PartSharpness::kReach))
      losses.push_back(focus_loss(s, parts, all, best, step[best]));
    k = end;
  }
  // A picture that was moved by parts of a pixel is a little softer: that is no lost focus.
  std::erase_if(losses, [&](const Fault& f) {
    return f.amount > 0.45 && std::any_of(still.begin(), still.end(), [&](const Fault& b) {
             return b.kind == FaultKind::Bump && f.frame + 3 > b.frame && f.frame < b.frame + 3;
           });
  });
  if (losses.size() >= 2) {
    found.push_back(
        {FaultKind::Hunting, losses.front().frame, losses.back().last, static_cast<double>(losses.size()), "",
         say("The focus goes and comes back: it is lost {} times.", losses.size()), Remedy::None});
    return;
  }
  found.insert(found.end(), losses.begin(), losses.end());
}

/// The same where there is nothing but points of light in the noise: stars that are not sharp do not stand
/// out.
void find_stars_lost(const Readings& s, std::vector<Fault>& soft) {
  constexpr long kReach = 8;
  const long n = static_cast<long>(s.size());
  const auto textured = [&](long k) {
    const Parts& c = s.m[static_cast<size_t>(k)]->coarse;
    return std::count_if(c.begin(), c.end(), [](float v) { return static_cast<double>(v) >= kTexturedPart; });
  };
  const std::vector<double> points = s.of([](const Measures& m) { return m.points; });
  std::vector<double> fall(s.size(), 0);
  for (long k = 4; k + 4 < n; ++k)
    fall[static_cast<size_t>(k)] = median(part(points, k - kReach, k)) - median(part(points, k, k + kReach));
  const double least = std::max(kStarsFall, 7 * spread(fall));
  const long at = std::max_element(fall.begin(), fall.end()) - fall.begin();
  if (fall[static_cast<size_t>(at)] < least || textured(std::min(n - 1, at + kReach)) * 2 > kParts) return;
  const double before = median(part(points, at - kReach, at)), after = median(part(points, at, at + kReach));
  long first = at;
  for (long k = std::max(0L, at - kReach); k < n; ++k)
    if (points[static_cast<size_t>(k)] < (before + after) / 2) {
      first = k;
      break;
    }
  long back = n;
  for (long k = first + kReach; k < n && back == n; ++k)
    if (median(part(points, k, k + 5)) > before - 0.3 * (before - after)) back = k;
  const size_t frame = s.frame[static_cast<size_t>(first)], last = s.frame[static_cast<size_t>(back - 1)];
  if (std::any_of(soft.begin(), soft.end(),
                  [&](const Fault& f) { return f.frame <= last && frame <= f.last; }))
    return;
  const double left = std::exp2(after - before);
  soft.push_back(
      {FaultKind::Soft, frame, last, left, "share",
       say("The focus is lost {}: points of light stand out by {} of what they did.",
           back == n ? say("from here on") : say("for {}", counted(back - first, "{} frame", "{} frames")),
           percent(left)),
       back == n ? Remedy::EndBefore : Remedy::None});
}

void find_visitors(const Readings& s, const std::vector<bool>& dark, const std::vector<Fault>& still,
                   std::vector<Fault>& found) {
  const std::vector<double> odd = s.of([](const Measures& m) { return m.odd; });
  // Where something passes all the time, little of it is life.
  const double usual = median(odd) + 9 * spread(odd);
  const double least = std::max(kLeastOdd, usual + (usual > 0 ? 0.005 : 0));
  const auto moved = [&](size_t frame) {
    return std::any_of(still.begin(), still.end(), [&](const Fault& f) {
      return (f.kind == FaultKind::Bump || f.kind == FaultKind::Swing) && frame + 2 >= f.frame &&
             frame <= (f.kind == FaultKind::Bump ? f.frame : f.last) + 2;
    });
  };
  for (size_t k = 0; k < s.size(); ++k) {
    if (odd[k] < least || dark[k] || moved(s.frame[k])) continue;
    size_t last = k;
    double most = odd[k];
    while (last + 1 < s.size() && odd[last + 1] > 0.5 * least && last + 1 - k < kLongestVisit &&
           !dark[last + 1])
      most = std::max(most, odd[++last]);
    while (last > k && odd[last] < least) --last;
    found.push_back(
        {FaultKind::Visitor, s.frame[k], s.frame[last], most, "share",
         last == k
             ? say("Something passed: it is in this frame and in neither neighbour, {} of the picture.",
                   percent(most))
             : say("Something passed: it is in {}, {} of the picture.",
                   counted(static_cast<long long>(last - k + 1), "{} frame", "{} frames"), percent(most)),
         Remedy::Neighbours});
    k = last;
  }
}

void find_clipped(const Readings& s, const std::vector<bool>& dark, std::vector<Fault>& found) {
  const std::vector<double> white = s.of([](const Measures& m) { return m.clipped; });
  // A sky or a sun that is always white is the scene's; what becomes white is told.
  const double least = std::max(kMuchWhite, 3 * median(white) + 0.05);
  const auto sudden = [&](size_t k) {
    const long i = static_cast<long>(k);
    const double usual = std::max(median(part(white, i - 12, i)), median(part(white, i + 1, i + 13)));
    return white[k] > usual + kSuddenWhite && white[k] > 3 * usual;
  };
  for (size_t k = 0; k < s.size(); ++k) {
    if (dark[k] || (white[k] < least && !sudden(k))) continue;
    size_t last = k;
    double most = white[k];
    const double stays = 0.6 * std::min(least, white[k]);
    while (last + 1 < s.size() && white[last + 1] >= stays) most = std::max(most, white[++last]);
    found.push_back({FaultKind::Clipped, s.frame[k], s.frame[last], most, "share",
                     say("Highlights are blown in {} of the picture.", percent(most)), Remedy::None});
    k = last;
  }
}

}  // namespace

std::vector<Fault> picture_faults(const Look& look, const std::vector<Fault>& still) {
  std::vector<Fault> found;
  const Readings s(look);
  if (s.size() < 5) return found;
  const std::vector<bool> dark = find_dark(s, found);
  std::vector<Fault> soft, visitors;
  find_visitors(s, dark, still, visitors);
  find_soft(s, dark, soft);
  find_focus_lost(s, dark, still, soft);
  find_stars_lost(s, soft);
  // Where the focus is lost little is left to see: it is not blank.
  std::erase_if(found, [&](const Fault& f) {
    return f.kind == FaultKind::Blank && std::any_of(soft.begin(), soft.end(), [&](const Fault& l) {
             return l.last > l.frame + 8 && f.frame + 1 >= l.frame && f.last <= l.last;
           });
  });
  // What covers a part of the picture takes its detail too: that is said once.
  std::erase_if(soft, [&](const Fault& f) {
    return f.kind == FaultKind::Soft && std::any_of(visitors.begin(), visitors.end(), [&](const Fault& v) {
             return v.amount > 0.05 && f.frame <= v.last && v.frame <= f.last &&
                    f.remedy == Remedy::Neighbours;
           });
  });
  found.insert(found.end(), visitors.begin(), visitors.end());
  found.insert(found.end(), soft.begin(), soft.end());
  find_clipped(s, dark, found);
  return found;
}

}  // namespace askcount::inspect
