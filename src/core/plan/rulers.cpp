// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/rulers.h"

#include <algorithm>
#include <cmath>

namespace askcount::plan {
namespace {

constexpr Seconds kShortestInterval = 0.5;
constexpr Seconds kLongestInterval = 3600;

}  // namespace

std::vector<Seconds> Ruler::ticks() const {
  std::vector<Seconds> places;
  if (tick <= 0) return places;
  for (double n = std::ceil(from / tick - 1e-9); n * tick <= to + 1e-9 && places.size() < 1000; ++n)
    places.push_back(n * tick);
  return places;
}

Seconds usual_step(Seconds length, int most) {
  static constexpr Seconds steps[] = {0.1,  0.2,   0.5,   1,     2,     5,      10,    15,
                                      30,   60,    120,   300,   600,   900,    1800,  3600,
                                      7200, 10800, 21600, 43200, 86400, 172800, 604800};
  for (const Seconds s : steps)
    if (length / s <= most) return s;
  return std::ceil(length / most / 604800) * 604800;
}

Ruler field_ruler(Seconds start_of_day, Seconds field_s) {
  Ruler r;
  const Seconds free = std::max(field_s / 6, 5.0);
  r.tick = usual_step(field_s + 2 * free, 12);
  r.from = std::floor((start_of_day - free) / r.tick) * r.tick;
  r.to = std::ceil((start_of_day + field_s + free) / r.tick) * r.tick;
  return r;
}

Ruler film_ruler(Seconds clip_s, int most) {
  return {0, clip_s, usual_step(clip_s, std::max(1, most))};
}

std::vector<long long> threads(long long frames, int most) {
  std::vector<long long> chosen;
  if (frames <= 0) return chosen;
  const long long n = std::min<long long>(frames, most);
  for (long long i = 0; i < n; ++i) chosen.push_back(n == 1 ? 0 : (i * (frames - 1) + (n - 1) / 2) / (n - 1));
  return chosen;
}

double interval_place(Seconds interval) {
  return std::clamp(std::log(interval / kShortestInterval) / std::log(kLongestInterval / kShortestInterval),
                    0.0, 1.0);
}

Seconds interval_at(double share) {
  return kShortestInterval * std::pow(kLongestInterval / kShortestInterval, std::clamp(share, 0.0, 1.0));
}

}  // namespace askcount::plan
