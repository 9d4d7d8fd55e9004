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

}  // namespace

std::vector<Fault> exposure_faults(const ingest::FoundTake& take, const Look& look, const Planned& planned) {
  std::vector<Fault> found;
  const auto& frames = *take.frames;
  std::vector<size_t> frame;
  std::vector<double> recorded, seen;
  for (size_t n = 0; n < frames.size(); ++n) {
    const auto stops = media::relative_stops(frames[n].info());
    if (!stops || !look.frames[n].seen()) continue;
    frame.push_back(n);
    recorded.push_back(*stops);
    seen.push_back(static_cast<double>(look.frames[n].stops));
  }
  const long n = static_cast<long>(frame.size());
  if (n < 8) return found;
  const auto found_at = [&](long k, long last, double amount, const std::string& text) {
    found.push_back({FaultKind::ClickOff, frame[static_cast<size_t>(k)], frame[static_cast<size_t>(last)],
                     amount, "stops", text, Remedy::Level});
  };
  long changes = 0;
  for (long k = 1; k < n; ++k)
    changes +=
        std::abs(recorded[static_cast<size_t>(k)] - recorded[static_cast<size_t>(k - 1)]) > 0.1 ? 1 : 0;
  // A meter that decides anew for every frame is no row of clicks.
  if (changes * 3 > n) return found;
  for (long k = 1; k < n; ++k) {
    const double click = recorded[static_cast<size_t>(k)] - recorded[static_cast<size_t>(k - 1)];
    if (std::abs(click) < 0.2) continue;
    // There and back within a few frames.
    long back = 0;
    for (long m = 1; m <= 8 && k + m < n && back == 0; ++m)
      if (std::abs(recorded[static_cast<size_t>(k + m)] - recorded[static_cast<size_t>(k - 1)]) < 0.1)
        back = m;
    if (back > 0) {
      // A click that followed the light left the pictures as they were.
      std::vector<double> beside = part(seen, k - 4, k);
      const std::vector<double> behind = part(seen, k + back, k + back + 4);
      beside.insert(beside.end(), behind.begin(), behind.end());
      const double jump = median(part(seen, k, k + back)) - median(beside);
      if (std::abs(click) > 0.5 && jump * click > 0 && std::abs(jump) > 0.8 * std::abs(click)) {
        found_at(
            k, k + back - 1, click,
            say("{} stops there and back: a click in the wrong place.", format_number(std::abs(click), 1)));
        k += back;
      }
      continue;
    }
    // Away from the level the take keeps, farther than it ever is between two clicks.
    const double before = median(part(seen, k - 4, k)), after = median(part(seen, k, k + 4));
    // The level is that of the frames before; near the start that of those behind.
    std::vector<double> around = part(seen, k - 40, k);
    if (around.size() < 8) around = part(seen, k + 4, k + 40);
    if (around.size() < 6) continue;
    const double level = median(around), away = after - level;
    if (away * click > 0 && std::abs(away) > std::max(kAway, 3 * spread(around)) &&
        std::abs(away) > std::abs(before - level) + 0.3)
      found_at(k, k, click,
               say("A click of {} stops leads away from the light: the pictures jump by {}.",
                   format_number(click, 1), format_number(after - before, 1)));
  }
  // Against the plan: the same light apart, click by click.
  if (planned.stops.size() >= frames.size()) {
    std::vector<double> off;
    for (size_t k = 0; k < frame.size(); ++k) off.push_back(recorded[k] - planned.stops[frame[k]]);
    const double always = median(off);
    // Another plan altogether is no row of wrong clicks.
    const auto others =
        std::count_if(off.begin(), off.end(), [&](double o) { return std::abs(o - always) > kClick + 0.1; });
    if (others * 5 > n) return found;
    for (long k = 0; k < n; ++k) {
      const auto wrong = [&](long i) {
        return std::abs(off[static_cast<size_t>(i)] - always) > kClick + 0.1;
      };
      if (!wrong(k)) continue;
      long last = k;
      while (last + 1 < n && wrong(last + 1)) ++last;
      const double amount = off[static_cast<size_t>(k)] - always;
      const bool known = std::any_of(found.begin(), found.end(), [&](const Fault& f) {
        return f.frame <= frame[static_cast<size_t>(last)] + 1 && frame[static_cast<size_t>(k)] <= f.last + 1;
      });
      if (!known)
        found_at(k, last, amount,
                 say("{} stops {} than planned.", format_number(std::abs(amount), 1),
                     amount > 0 ? say("brighter") : say("darker")));
      k = last;
    }
  }
  return found;
}

}  // namespace askcount::inspect
