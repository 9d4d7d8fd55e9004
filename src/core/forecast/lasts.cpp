// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/lasts.h"

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/shoot.h"

namespace askcount::forecast {

using plan::Slot;

take::Take as_long_as_it_lasts(take::Take take) {
  take.release(Slot::Frames);
  const auto field = take.said_solution()[Slot::Field];
  if (!field && !take.said_solution()[Slot::Interval])
    throw bad_input(say("How far apart the shots are is open."),
                    say("Say the interval, or the time in the field."));
  // The clip's length is what follows.
  take.release(Slot::Clip);
  if (!take.said_solution()[Slot::Fps]) take.wishes.push_back({Slot::Fps, 25, true});
  take::Take one = take;  // budgets ask for a whole take
  one.release(Slot::Field);
  if (!one.said_solution()[Slot::Interval]) one.wish(Slot::Interval, 1);
  one.wish(Slot::Frames, 100);
  const auto most = [&one] {
    double shots = 1e6;
    for (const plan::Budget& b : budgets_of(one, one.sums()))
      if (b.name == "battery" || b.name == "power bank" || b.name == "card" || b.name == "timer")
        shots = std::min(shots, b.shots);
    return std::max(1.0, shots);
  };
  double shots = most();
  if (field && !take.said_solution()[Slot::Interval]) {
    // By what is counted; then the batteries' hours may end it sooner.
    const Seconds interval = std::max(1.0, std::ceil(*field / shots));
    one.wish(Slot::Interval, interval);
    shots = most();
    take.wishes.push_back({Slot::Interval, interval, true});
  }
  const double interval = one.sums().interval_s;
  if (field) shots = std::min(shots, std::floor(*field / interval) + 1);
  take.release(Slot::Field);
  take.wishes.push_back({Slot::Frames, std::max(1.0, shots - static_cast<double>(2 * take.spare)), true});
  return take;
}

std::string lengths_words(const take::Take& take) {
  const auto frames = static_cast<double>(take.sums().frames);
  std::string words;
  for (const int fps : {24, 25, 30})
    words += say("{}{} at {} fps", words.empty() ? "" : ", ", format_length(frames / fps, 1), fps);
  return say("The film: {}.", words);
}

}  // namespace askcount::forecast
