// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/beat.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>

#include "base/median.h"

namespace askcount::ingest {
namespace {

constexpr double kUneven = 0.22;       // of the interval: still even
constexpr double kHole = 0.15;         // the same for what is a multiple of it
constexpr long long kLongestHole = 8;  // missing shots that a run goes on over
constexpr size_t kRemembered = 9;      // steps the local beat is taken from
constexpr size_t kDense = 31;          // and where whole seconds hide it
constexpr double kSameSecond = 0.75;   // s that two steps together may be off by whole seconds
constexpr size_t kLeastShots = 5;

/// The beat of the last steps.
class Local {
 public:
  explicit Local(double clock_s) : clock_s_(clock_s) {}
  void add(double step) { steps_.push_back(step); }
  double interval() const {
    const auto last = [&](size_t n) {
      return std::vector<double>(steps_.end() - static_cast<long>(std::min(n, steps_.size())), steps_.end());
    };
    const double usual = median(last(kRemembered));
    // Whole seconds of a quick beat show only in the mean.
    if (clock_s_ < 0.5 || usual > 4) return usual;
    const std::vector<double> many = last(kDense);
    return std::accumulate(many.begin(), many.end(), 0.0) / static_cast<double>(many.size());
  }

 private:
  double clock_s_;
  std::vector<double> steps_;
};

class Finder {
 public:
  explicit Finder(const Times& times) : t_(times) {}

  std::vector<Run> runs() const {
    std::vector<Run> found;
    for (size_t i = 0; i + kLeastShots <= t_.at.size();) {
      const auto interval = begins(i);
      Run run;
      if (interval) run = grow(i, *interval);
      if (run.last + 1 >= i + kLeastShots && interval) {
        found.push_back(run);
        i = run.last + 1;
      } else {
        ++i;
      }
    }
    return found;
  }

 private:
  double gap(size_t i) const { return t_.at[i + 1] - t_.at[i]; }
  /// Shots there are from i to i + 1 by the files between them.
  double files(size_t i) const { return static_cast<double>(t_.unclocked[i + 1]) + 1; }
  bool has(size_t i) const { return i + 1 < t_.at.size(); }
  bool even(size_t i, double interval) const {
    return has(i) && std::abs(gap(i) - interval * files(i)) <= tolerance_s(interval, t_.clock_s);
  }

  /// The beat that begins at shot i: nothing where it is not even.
  std::optional<double> begins(size_t i) const {
    std::vector<double> steps;
    double sum = 0, shots = 0;
    for (size_t k = i; k < i + kLeastShots && has(k); ++k) {
      steps.push_back(gap(k) / files(k));
      sum += gap(k);
      shots += files(k);
    }
    if (steps.size() + 1 < kLeastShots) return {};
    double interval = median(steps);
    if (t_.clock_s > 0.5 && interval <= 4) interval = sum / shots;
    if (interval <= 0 && t_.clock_s < 0.5) return {};
    size_t good = 0;
    for (size_t k = i; k < i + steps.size(); ++k) good += even(k, interval) ? 1 : 0;
    if (!even(i, interval) || good + 1 < steps.size()) return {};
    return interval;
  }

  /// Whether the beat goes on from shot i: most of the next steps are even.
  bool goes_on(size_t i, double interval) const {
    size_t seen = 0, good = 0;
    for (size_t k = i; k < i + 4 && has(k); ++k) ++seen, good += even(k, interval) ? 1 : 0;
    return seen >= 2 && good + 1 >= seen && good >= 2;
  }

  Run grow(size_t first, double start) const {
    Run run;
    run.first = run.last = first;
    Local local(t_.clock_s);
    local.add(start);
    std::vector<double> steps;
    while (has(run.last)) {
      const size_t i = run.last;
      const double interval = local.interval(), g = gap(i), n = files(i);
      const auto accept = [&](size_t to, double shots, double off) {
        run.steps.push_back({run.last, to, interval, std::llround(shots - n), off});
        run.last = to;
      };
      if (even(i, interval)) {
        accept(i + 1, n, g - interval * n);
        local.add(g / n);
        steps.push_back(g / n);
        continue;
      }
      // A shot that came late and the next in its own time: with whole seconds it may look like a hole with
      // two shots of one press behind it, and is the simpler of both.
      if (t_.clock_s > 0.5 && n == 1 && g > interval && has(i + 1) && gap(i + 1) <= 0.6 * interval &&
          std::abs(g + gap(i + 1) - 2 * interval) <= kSameSecond && goes_on(i + 2, interval)) {
        accept(i + 1, n, g - interval);
        accept(i + 2, n, 0);
        continue;
      }
      const double whole = interval > 0 ? std::round(g / interval) : 0;
      const bool multiple = whole > n && whole - n <= kLongestHole &&
                            std::abs(g - whole * interval) <= std::max(kHole * interval, t_.clock_s);
      if (multiple && (!has(i + 1) || even(i + 1, interval) || even(i + 2, interval))) {
        accept(i + 1, whole, 0);
        continue;
      }
      if (has(i + 1) && g < 0.6 * interval &&
          std::abs(g + gap(i + 1) - interval) <= tolerance_s(interval, std::min(t_.clock_s, kSameSecond))) {
        run.extra.push_back(i + 1);
        accept(i + 2, n, g + gap(i + 1) - interval);
        continue;
      }
      if (g > 0.3 * interval && g < 4 * interval && late_only(i, interval)) {
        const double shots = std::max(n, std::floor(g / interval + 0.25));
        accept(i + 1, shots, g - interval * shots);
        continue;
      }
      break;
    }
    count_quick_holes(run);
    if (steps.empty()) steps.push_back(start);
    run.interval_s = median(steps);
    if (steps.size() > 8 || t_.clock_s > 0.5)  // whole seconds hide what the whole run shows
      run.interval_s = std::accumulate(steps.begin(), steps.end(), 0.0) / static_cast<double>(steps.size());
    return run;
  }

  /// A hole of a quick beat is no longer than what whole seconds may be off: it shows in that everything
  /// behind it is later by a whole interval.
  void count_quick_holes(Run& run) const {
    constexpr long kWindow = 10;
    if (t_.clock_s < 0.5 || run.steps.size() < 2 * kWindow) return;
    const double interval = quick_interval(run);
    if (interval <= 0 || interval > 3) return;
    // When each shot came against an even beat without holes.
    std::vector<double> phase;
    double shots = 0;
    for (size_t k = 0; k < run.steps.size(); ++k) {
      phase.push_back(t_.at[run.steps[k].from] - interval * shots);
      shots += steps_in(run.steps[k]);
    }
    phase.push_back(t_.at[run.last] - interval * shots);
    // The longest steps first: once a hole is counted its neighbours look even again.
    std::vector<size_t> candidates;
    const auto too_long = [&](size_t k) {
      const Step& s = run.steps[k];
      return t_.at[s.to] - t_.at[s.from] - interval * steps_in(s);
    };
    for (size_t k = 0; k < run.steps.size(); ++k)
      if (run.steps[k].missing == 0 && too_long(k) >= 0.45) candidates.push_back(k);
    std::stable_sort(candidates.begin(), candidates.end(),
                     [&](size_t a, size_t b) { return too_long(a) > too_long(b) + 0.25; });
    for (const size_t candidate : candidates) {
      const auto k = static_cast<long>(candidate);
      const long from = std::max(0L, k + 1 - kWindow);
      const long to = std::min(static_cast<long>(phase.size()), k + 1 + kWindow);
      if (k + 1 - from < 4 || to - (k + 1) < 4) continue;
      const auto mean = [&](long a, long b) {
        return std::accumulate(phase.begin() + a, phase.begin() + b, 0.0) / static_cast<double>(b - a);
      };
      const double later = mean(k + 1, to) - mean(from, k + 1);
      const double lost = std::round(later / interval);
      if (lost < 1 || std::abs(later - lost * interval) > 0.4 * interval) continue;
      run.steps[candidate].missing = static_cast<long long>(lost);
      run.steps[candidate].off_s = 0;
      for (size_t j = candidate + 1; j < phase.size(); ++j) phase[j] -= lost * interval;
    }
  }

  /// Shots from one end of a step to the other.
  double steps_in(const Step& s) const {
    return 1 + static_cast<double>(s.missing) + static_cast<double>(t_.unclocked[s.to]);
  }

  /// The beat that most stretches of a run share.
  double quick_interval(const Run& run) const {
    std::vector<double> slopes;
    const std::vector<Step>& steps = run.steps;
    for (size_t k = 0; k + kDense < steps.size(); k += 3) {
      double shots = 0;
      for (size_t j = k; j < k + kDense; ++j) shots += steps_in(steps[j]);
      slopes.push_back((t_.at[steps[k + kDense].from] - t_.at[steps[k].from]) / shots);
    }
    if (slopes.empty()) {
      double shots = 0;
      for (const Step& s : steps) shots += steps_in(s);
      return (t_.at[run.last] - t_.at[run.first]) / shots;
    }
    return median(slopes);
  }

  /// Whether the step at i is only a shot that came late or early, the beat going on behind it: from it, or
  /// as if it had been on time.
  bool late_only(size_t i, double interval) const {
    if (goes_on(i + 1, interval)) return true;
    if (!has(i + 1)) return false;
    const double both = gap(i) + gap(i + 1);
    return std::abs(both - 2 * interval) <= tolerance_s(interval, t_.clock_s) && goes_on(i + 2, interval);
  }

  const Times& t_;
};

}  // namespace

double tolerance_s(double interval_s, double clock_s) {
  return std::max(kUneven * interval_s, clock_s);
}

std::vector<Run> even_runs(const Times& times) {
  return Finder(times).runs();
}

}  // namespace askcount::ingest
