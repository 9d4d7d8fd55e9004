// SPDX-License-Identifier: GPL-3.0-or-later
// What becomes unclear in a part of the picture: drops on the lens, a subject that grows out of focus.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "inspect/faults.h"
#include "inspect/series.h"

namespace askcount::inspect {
namespace {

constexpr double kTexturedPlace = -9;   // log2 of middle-sized detail that a part needs
constexpr long kFallSide = 15;          // frames on either side of a fall
constexpr long kFalls = 12;             // frames that drops take to settle at most
constexpr double kLeastPartFall = 0.8;  // log2 of the energy of fine detail
constexpr double kSameLight = 0.25;     // stops: what covers a part changes its light as well
constexpr size_t kFewestForPart = 40;   // frames
constexpr double kGrownOut = 1.6;       // log2 of the energy of fine detail, over the take
constexpr double kStandingLight = 0.7;  // stops: where it changes by more, detail changes with it
constexpr size_t kFewestParts = 2;      // parts at least: one alone may be anything

/// The parts' detail over the frames, each against what the whole picture does meanwhile.
struct PartSeries {
  std::vector<size_t> frame;
  std::vector<size_t> parts;                      ///< those that show something
  std::vector<std::vector<double>> fine, coarse;  ///< of each of them
  std::vector<std::vector<double>> light;         ///< against the whole picture's
  std::vector<double> whole_light;                ///< which is this, at the same exposure throughout

  PartSeries(const ingest::FoundTake& take, const Look& look) : frame(telling(look)) {
    if (frame.size() < kFewestForPart) return;
    for (const size_t n : frame) whole_light.push_back(light_of(take, look, n));
    for (size_t p = 0; p < kParts; ++p) {
      std::vector<double> c = over(look, frame, &Measures::coarse, p);
      if (median(part(c, 0, 2 * kFallSide)) < kTexturedPlace) continue;
      parts.push_back(p);
      fine.push_back(over(look, frame, &Measures::fine, p));
      coarse.push_back(std::move(c));
      light.push_back(over(look, frame, &Measures::light, p));
    }
    against_the_whole(fine);
    against_the_whole(coarse);
    against_the_whole(light);
  }

 private:
  /// Takes off what most parts do together.
  void against_the_whole(std::vector<std::vector<double>>& series) const {
    std::vector<double> start;
    for (const auto& v : series) start.push_back(median(part(v, 0, 2 * kFallSide)));
    for (size_t k = 0; k < frame.size(); ++k) {
      std::vector<double> change;
      for (size_t i = 0; i < series.size(); ++i) change.push_back(series[i][k] - start[i]);
      const double whole = median(change);
      for (auto& v : series) v[k] -= whole;
    }
  }
};

/// A part that became unclear and stayed so.
struct Loss {
  size_t from = 0, to = 0;  ///< places in PartSeries::frame, `to` behind the last
  double fall = 0;
};

std::optional<Loss> loss_of(const PartSeries& s, size_t i) {
  const std::vector<double>& whole_light = s.whole_light;
  const auto& v = s.fine[i];
  const long n = static_cast<long>(v.size());
  Loss best;
  for (long k = kFallSide; k + kFalls + kFallSide <= n; ++k) {
    const double before = median(part(v, k - kFallSide, k)),
                 after = median(part(v, k + kFalls, k + kFalls + kFallSide));
    const double fall = before - after;
    if (fall <= best.fall || fall < kLeastPartFall) continue;
    const double wander =
        std::max(spread(part(v, k - kFallSide, k)), spread(part(v, k + kFalls, k + kFalls + kFallSide)));
    if (fall < 6 * wander) continue;
    // As unclear as it never was before: what comes and goes is life.
    std::vector<double> ever(v.begin(), v.begin() + k);
    std::nth_element(ever.begin(), ever.begin() + static_cast<long>(ever.size() / 20), ever.end());
    if (after > ever[ever.size() / 20] - 0.5 * fall) continue;
    if (std::abs(whole_light[static_cast<size_t>(k + kFalls + kFallSide / 2)] -
                 whole_light[static_cast<size_t>(k - kFallSide / 2)]) > kSameLight)
      continue;
    const auto moved = [&](const std::vector<double>& w) {
      return median(part(w, k + kFalls, k + kFalls + kFallSide)) - median(part(w, k - kFallSide, k));
    };
    if (std::abs(moved(s.light[i])) > kSameLight || moved(s.coarse[i]) > 0.1) continue;
    best = {static_cast<size_t>(k), static_cast<size_t>(n), fall};
  }
  if (best.fall <= 0) return {};
  const double before =
      median(part(v, static_cast<long>(best.from) - kFallSide, static_cast<long>(best.from)));
  // From the first frame that has less for good, until it comes back.
  const long end = std::min(n, static_cast<long>(best.from) + kFalls + kFallSide);
  for (long k = static_cast<long>(best.from); k < end; ++k)
    if (std::max(v[static_cast<size_t>(k)], median(part(v, k, k + 3))) < before - 0.2 * best.fall) {
      best.from = static_cast<size_t>(k);
      break;
    }
  for (long k = end; k + 5 <= n; ++k)
    if (median(part(v, k, k + 5)) > before - 0.4 * best.fall) {
      best.to = static_cast<size_t>(k);
      break;
    }
  return best;
}

std::string place_words(const std::vector<size_t>& parts) {
  double x = 0, y = 0;
  for (const size_t p : parts)
    x += static_cast<double>(p % kPartsAcross), y += static_cast<double>(p / kPartsAcross);
  const auto many = static_cast<double>(parts.size());
  x = (x / many + 0.5) / kPartsAcross, y = (y / many + 0.5) / kPartsDown;
  const std::string across = x < 0.37   ? say("left")
                             : x > 0.63 ? say("right")
                                        : "",
                    down = y < 0.37   ? say("upper")
                           : y > 0.63 ? say("lower")
                                      : "";
  return across.empty() && down.empty() ? say("middle")
                                        : down + (across.empty() || down.empty() ? "" : " ") + across;
}

/// Drops come in numbers and within a few frames.
void find_drops(const PartSeries& s, std::vector<Fault>& found) {
  std::vector<std::pair<size_t, Loss>> losses;  // part, and what it lost
  for (size_t i = 0; i < s.parts.size(); ++i)
    if (const auto loss = loss_of(s, i)) losses.emplace_back(s.parts[i], *loss);
  std::sort(losses.begin(), losses.end(),
            [](const auto& a, const auto& b) { return a.second.from < b.second.from; });
  for (size_t i = 0; i < losses.size();) {
    size_t j = i;
    while (j + 1 < losses.size() && losses[j + 1].second.from <= losses[i].second.from + kFalls) ++j;
    const size_t count = j - i + 1;
    // Most of the picture at once is no drop.
    if (count >= kFewestParts && count * 2 < s.parts.size()) {
      std::vector<size_t> where;
      size_t to = 0;
      double fall = 0;
      for (size_t k = i; k <= j; ++k) {
        where.push_back(losses[k].first);
        to = std::max(to, losses[k].second.to);
        fall = std::max(fall, losses[k].second.fall);
      }
      found.push_back({FaultKind::Dew, s.frame[losses[i].second.from], s.frame[to - 1],
                       1 - std::exp2(-fall / 2), "share",
                       say("The {} of the picture has lost {} % of its fine detail: drops on the lens?",
                           place_words(where), format_number(100 * (1 - std::exp2(-fall / 2)), 0)),
                       Remedy::None});
    }
    i = j + 1;
  }
}

/// A subject that grows towards the camera: a part loses its finest detail bit by bit over the whole take,
/// and nothing else of it changes much.
void find_growing_out(const PartSeries& s, std::vector<Fault>& found) {
  constexpr long kStretches = 6;
  const long n = static_cast<long>(s.frame.size());
  if (n < 3 * kStretches * 4) return;
  const auto stretch = [&](const std::vector<double>& v, long i) {
    return median(part(v, i * n / kStretches, (i + 1) * n / kStretches));
  };
  if (std::abs(stretch(s.whole_light, 0) - stretch(s.whole_light, kStretches - 1)) > kStandingLight) return;
  std::vector<size_t> where;
  size_t from = static_cast<size_t>(n);
  std::vector<double> falls;
  for (size_t i = 0; i < s.parts.size(); ++i) {
    std::vector<double> sharp(s.frame.size());
    for (size_t k = 0; k < sharp.size(); ++k) sharp[k] = s.fine[i][k] - s.coarse[i][k];
    const double first = stretch(sharp, 0), fall = first - stretch(sharp, kStretches - 1);
    if (fall < kGrownOut || std::abs(stretch(s.coarse[i], 0) - stretch(s.coarse[i], kStretches - 1)) > 0.7)
      continue;
    // Bit by bit, and never back.
    bool slowly = true;
    for (long k = 1; k < kStretches && slowly; ++k) {
      const double step = stretch(sharp, k - 1) - stretch(sharp, k);
      slowly = step > -0.1 * fall && step < 0.6 * fall;
    }
    if (!slowly) continue;
    size_t begins = 0;
    for (size_t k = 0; k < sharp.size(); ++k)
      if (sharp[k] > first - 0.2 * fall) begins = k;
    from = std::min(from, begins);
    where.push_back(s.parts[i]);
    falls.push_back(fall);
  }
  if (where.size() < kFewestParts || where.size() * 2 > s.parts.size()) return;
  const double left = std::exp2(-median(falls) / 2);
  found.push_back({FaultKind::Soft, s.frame[from], s.frame.back(), left, "share",
                   say("The {} leaves focus bit by bit: {} % of its fine detail is left at the end.",
                       place_words(where), format_number(100 * left, 0)),
                   Remedy::None});
}

}  // namespace

std::vector<Fault> place_faults(const ingest::FoundTake& take, const Look& look,
                                const std::vector<Fault>& others) {
  std::vector<Fault> found;
  const PartSeries s(take, look);
  if (s.frame.size() < kFewestForPart || s.parts.size() < 5) return found;
  find_drops(s, found);
  find_growing_out(s, found);
  // What the whole picture changed with is said already.
  std::erase_if(found, [&](const Fault& f) {
    return std::any_of(others.begin(), others.end(), [&](const Fault& o) {
      const bool changes = o.kind == FaultKind::Bump || o.kind == FaultKind::Soft ||
                           o.kind == FaultKind::Hunting || o.kind == FaultKind::Dew ||
                           o.kind == FaultKind::SettingChanged || o.kind == FaultKind::SizeDiffers;
      const auto near = [&](size_t at) { return f.frame + kFalls >= at && f.frame <= at + kFalls; };
      return changes && (near(o.frame) || (o.kind != FaultKind::Bump && near(o.last)));
    });
  });
  return found;
}

}  // namespace askcount::inspect
