// SPDX-License-Identifier: GPL-3.0-or-later
// Clicks that are not where they ought to be.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "inspect/faults.h"
#include "inspect/series.h"

namespace askcount::inspect {
namespace {

constexpr double kClick = 1.0 / 3;
constexpr double kAway = 0.75;  // stops that a click may lead away from the take's level

/// What is recorded and seen of the frames that tell both.
struct Shots {
  std::vector<size_t> frame;
  std::vector<double> recorded, seen;
  long size() const { return static_cast<long>(frame.size()); }

  Fault fault(long k, long last, double amount, const std::string& text) const {
    return {FaultKind::ClickOff,
            frame[static_cast<size_t>(k)],
            frame[static_cast<size_t>(last)],
            amount,
            "stops",
            text,
            Remedy::Level};
  }
  double click(long k) const {
    return recorded[static_cast<size_t>(k)] - recorded[static_cast<size_t>(k - 1)];
  }
};

Shots shots_of(const ingest::FoundTake& take, const Look& look) {
  Shots r;
  const auto& frames = *take.frames;
  for (size_t n = 0; n < frames.size(); ++n) {
    const auto stops = media::relative_stops(frames[n].info());
    if (!stops || !look.frames[n].seen()) continue;
    r.frame.push_back(n);
    r.recorded.push_back(*stops);
    r.seen.push_back(static_cast<double>(look.frames[n].stops));
  }
  return r;
}

/// A meter that decides anew for every frame is no row of clicks.
bool decides_anew(const Shots& r) {
  long changes = 0;
  for (long k = 1; k < r.size(); ++k) changes += std::abs(r.click(k)) > 0.1 ? 1 : 0;
  return changes * 3 > r.size();
}

/// After how many frames a click is taken back, 8 at most; 0 for not at all.
long taken_back(const Shots& r, long k) {
  for (long m = 1; m <= 8 && k + m < r.size(); ++m)
    if (std::abs(r.recorded[static_cast<size_t>(k + m)] - r.recorded[static_cast<size_t>(k - 1)]) < 0.1)
      return m;
  return 0;
}

/// There and back within a few frames. A click that followed the light left the pictures as they were.
std::optional<Fault> there_and_back(const Shots& r, long k, long back) {
  const double click = r.click(k);
  std::vector<double> beside = part(r.seen, k - 4, k);
  const std::vector<double> behind = part(r.seen, k + back, k + back + 4);
  beside.insert(beside.end(), behind.begin(), behind.end());
  const double jump = median(part(r.seen, k, k + back)) - median(beside);
  if (std::abs(click) <= 0.5 || jump * click <= 0 || std::abs(jump) <= 0.8 * std::abs(click)) return {};
  return r.fault(
      k, k + back - 1, click,
      say("{} stops there and back: a click in the wrong place.", format_number(std::abs(click), 1)));
}

/// Away from the level the take keeps, farther than it ever is between two clicks. The level is that of the
/// frames before; near the start that of those behind.
std::optional<Fault> leads_away(const Shots& r, long k) {
  const double click = r.click(k);
  const double before = median(part(r.seen, k - 4, k)), after = median(part(r.seen, k, k + 4));
  std::vector<double> around = part(r.seen, k - 40, k);
  if (around.size() < 8) around = part(r.seen, k + 4, k + 40);
  if (around.size() < 6) return {};
  const double level = median(around), away = after - level;
  if (away * click <= 0 || std::abs(away) <= std::max(kAway, 3 * spread(around)) ||
      std::abs(away) <= std::abs(before - level) + 0.3)
    return {};
  return r.fault(k, k, click,
                 say("A click of {} stops leads away from the light: the pictures jump by {}.",
                     format_number(click, 1), format_number(after - before, 1)));
}

/// Against the plan: the same light apart, click by click. Another plan altogether is no row of wrong clicks.
void against_the_plan(const Shots& r, const Planned& planned, std::vector<Fault>& found) {
  const std::vector<size_t>& frame = r.frame;
  const long n = r.size();
  std::vector<double> off;
  for (size_t k = 0; k < frame.size(); ++k) off.push_back(r.recorded[k] - planned.stops[frame[k]]);
  const double always = median(off);
  const auto others =
      std::count_if(off.begin(), off.end(), [&](double o) { return std::abs(o - always) > kClick + 0.1; });
  if (others * 5 > n) return;
  for (long k = 0; k < n; ++k) {
    const auto wrong = [&](long i) { return std::abs(off[static_cast<size_t>(i)] - always) > kClick + 0.1; };
    if (!wrong(k)) continue;
    long last = k;
    while (last + 1 < n && wrong(last + 1)) ++last;
    const double amount = off[static_cast<size_t>(k)] - always;
    const bool known = std::any_of(found.begin(), found.end(), [&](const Fault& f) {
      return f.frame <= frame[static_cast<size_t>(last)] + 1 && frame[static_cast<size_t>(k)] <= f.last + 1;
    });
    if (!known)
      found.push_back(r.fault(k, last, amount,
                              say("{} stops {} than planned.", format_number(std::abs(amount), 1),
                                  amount > 0 ? say("brighter") : say("darker"))));
    k = last;
  }
}

}  // namespace

std::vector<Fault> exposure_faults(const ingest::FoundTake& take, const Look& look, const Planned& planned) {
  const Shots r = shots_of(take, look);
  if (r.size() < 8 || decides_anew(r)) return {};
  std::vector<Fault> found;
  for (long k = 1; k < r.size(); ++k) {
    if (std::abs(r.click(k)) < 0.2) continue;
    const long back = taken_back(r, k);
    const auto fault = back > 0 ? there_and_back(r, k, back) : leads_away(r, k);
    if (!fault) continue;
    found.push_back(*fault);
    k += back;
  }
  if (planned.stops.size() >= take.frames->size()) against_the_plan(r, planned, found);
  return found;
}

}  // namespace askcount::inspect
