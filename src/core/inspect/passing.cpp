// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/passing.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>

namespace askcount::inspect {
namespace {

constexpr int kOdd = 14;       // fortieths of a stop of code that a pixel must be off
constexpr size_t kFewest = 2;  // neighbours on a side to compare with

using Small = std::vector<std::uint8_t>;

/// The median of some pictures, pixel by pixel, and how far they are from it.
struct Usual {
  Small middle, wander;
};

Usual usual(const std::vector<const Small*>& pictures) {
  Usual u;
  const size_t pixels = pictures.front()->size(), n = std::min(pictures.size(), Passing::kReach);
  u.middle.resize(pixels);
  u.wander.resize(pixels);
  std::array<std::uint8_t, Passing::kReach> v{};
  for (size_t i = 0; i < pixels; ++i) {
    for (size_t k = 0; k < n; ++k) {  // put in its place among those before it
      const std::uint8_t here = (*pictures[k])[i];
      size_t at = k;
      for (; at > 0 && v[at - 1] > here; --at) v[at] = v[at - 1];
      v[at] = here;
    }
    u.middle[i] = v[n / 2];
    // Without the one farthest out, which may be what passes.
    u.wander[i] = static_cast<std::uint8_t>(n > 3 ? v[n - 2] - v[1] : v[n - 1] - v[0]);
  }
  return u;
}

/// How much brighter a is than b in most of the picture.
int offset(const Small& a, const Small& b) {
  std::array<int, 511> count{};
  for (size_t i = 0; i < a.size(); ++i) ++count[static_cast<size_t>(a[i] - b[i] + 255)];
  int seen = 0;
  for (size_t d = 0; d < count.size(); ++d)
    if ((seen += count[d]) * 2 >= static_cast<int>(a.size())) return static_cast<int>(d) - 255;
  return 0;
}

}  // namespace

void Passing::next(Small small) {
  kept_.push_back(std::move(small));
  ++count_;
  while (told_ + kReach < count_) tell(told_++);
}

void Passing::end() {
  while (told_ < count_) tell(told_++);
}

void Passing::tell(size_t frame) {
  while (first_ + kReach < frame) kept_.pop_front(), ++first_;
  const Small& here = kept_[frame - first_];
  std::vector<const Small*> before, after;
  for (size_t k = 0; k < kept_.size(); ++k) {
    const size_t n = first_ + k;
    if (n == frame || kept_[k].empty() || n > frame + kReach) continue;
    (n < frame ? before : after).push_back(&kept_[k]);
  }
  if (here.empty() || (before.size() < kFewest && after.size() < kFewest) ||
      before.size() + after.size() < 4) {
    tell_(frame, 0);
    return;
  }
  // At the take's ends one side has to do, twice as far off.
  const bool two_sided = before.size() >= kFewest && after.size() >= kFewest;
  const Usual a = usual(before.size() >= kFewest ? before : after),
              b = usual(two_sided                  ? after
                        : before.size() >= kFewest ? before
                                                   : after);
  const int to_a = offset(here, a.middle), to_b = offset(here, b.middle),
            between = offset(a.middle, b.middle);
  size_t odd = 0;
  for (size_t i = 0; i < here.size(); ++i) {
    const int from_a = here[i] - a.middle[i] - to_a, from_b = here[i] - b.middle[i] - to_b;
    const int sides = std::abs(a.middle[i] - b.middle[i] - between);
    const int limit = (two_sided ? 1 : 2) * (kOdd + a.wander[i] + b.wander[i]);
    const bool same_way = (from_a > 0) == (from_b > 0);
    if (same_way && std::min(std::abs(from_a), std::abs(from_b)) > limit && sides * 2 < std::abs(from_a))
      ++odd;
  }
  tell_(frame, static_cast<float>(odd) / static_cast<float>(here.size()));
}

}  // namespace askcount::inspect
