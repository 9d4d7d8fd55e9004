// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/whole_seconds.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace askcount::ingest {
namespace {

constexpr size_t kWindow = 10;  // shots to either side
constexpr double kAlone_s = 0.7;
constexpr size_t kLeast = 3;      // the same that tell something
constexpr double kUneven = 0.05;  // s that timers are off for themselves

/// A shot of the run: how many beats after its first, and between what times it began.
struct Seen {
  double beats = 0, from = 0, until = 0;
  bool alone = false;  // late or early, with the next one back on the beat: it says nothing of others
};

std::vector<Seen> seen_of(const Times& times, const Run& run) {
  std::vector<Seen> list{{0, times.at[run.first]}};
  for (const Step& s : run.steps)
    list.push_back(
        {list.back().beats + 1 + static_cast<double>(s.missing) + static_cast<double>(times.unclocked[s.to]),
         times.at[s.to]});
  const auto off = [&](size_t k) {
    return list[k].from - list[k - 1].from - run.interval_s * (list[k].beats - list[k - 1].beats);
  };
  for (size_t k = 1; k + 1 < list.size(); ++k)
    list[k].alone =
        (off(k) > kAlone_s && off(k + 1) < -kAlone_s) || (off(k) < -kAlone_s && off(k + 1) > kAlone_s);
  for (Seen& s : list) s.until = s.from + 1 + kUneven, s.from -= kUneven;
  return list;
}

/// The latest that an even beat through the neighbours of shot k can come to it, by what `latest` and
/// `earliest` say of each. With their signs turned: the earliest.
template <typename Latest, typename Earliest>
double bound(const std::vector<Seen>& all, size_t k, const Latest& latest, const Earliest& earliest) {
  const size_t from = k > kWindow ? k - kWindow : 0, to = std::min(all.size(), k + kWindow + 1);
  const auto at_k = [&](size_t i, double value_i, size_t j, double value_j) {
    return value_i + (value_j - value_i) * (all[k].beats - all[i].beats) / (all[j].beats - all[i].beats);
  };
  double least = std::numeric_limits<double>::infinity();
  for (size_t i = from; i < to; ++i)
    for (size_t j = i + 1; j < to; ++j) {
      if (i == k || j == k || all[i].alone || all[j].alone) continue;
      if (i < k && j > k) least = std::min(least, at_k(i, latest(all[i]), j, latest(all[j])));
      if (j < k) least = std::min(least, at_k(i, earliest(all[i]), j, latest(all[j])));
      if (i > k) least = std::min(least, at_k(j, earliest(all[j]), i, latest(all[i])));
    }
  return least;
}

}  // namespace

std::vector<std::optional<Lateness>> lateness_by_neighbours(const Times& times, const Run& run) {
  const std::vector<Seen> all = seen_of(times, run);
  std::vector<std::optional<Lateness>> list(all.size());
  const auto from = [](const Seen& s) { return s.from; };
  const auto until = [](const Seen& s) { return s.until; };
  const auto not_from = [](const Seen& s) { return -s.from; };
  const auto not_until = [](const Seen& s) { return -s.until; };
  for (size_t k = kLeast; k + kLeast < all.size(); ++k) {
    const double latest = bound(all, k, until, from), earliest = -bound(all, k, not_from, not_until);
    if (std::isfinite(latest) && std::isfinite(earliest) && earliest <= latest)
      list[k] = {all[k].from + kUneven - latest, all[k].until - kUneven - earliest};
  }
  return list;
}

}  // namespace askcount::ingest
