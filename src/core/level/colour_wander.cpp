// SPDX-License-Identifier: GPL-3.0-or-later
#include "level/colour_wander.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include "level/smoothing.h"

namespace askcount::level {
namespace {

using image::Luminance;

constexpr size_t kFewestParts = 12;  // of 192 that tell of a colour
constexpr double kColourChance =
    6;  // a colour wanders where it does by more than this of its chance variance

/// The parts that tell of a colour and are to be measured.
std::array<float, Luminance::kParts> measured_of(const std::array<float, Luminance::kParts>& colour,
                                                 const std::vector<bool>& measured) {
  auto out = colour;
  for (size_t p = 0; p < out.size(); ++p)
    if (!measured.empty() && !measured[p]) out[p] = Luminance::kUnknown;
  return out;
}

}  // namespace

SharedChange shared_change(const std::array<float, Luminance::kParts>& before,
                           const std::array<float, Luminance::kParts>& now,
                           const std::array<float, Luminance::kParts>& stops,
                           const std::vector<bool>& measured) {
  struct Part {
    double change, weight;
  };
  std::vector<Part> parts;
  std::vector<double> changes, apart;
  for (size_t p = 0; p < now.size(); ++p)
    if (before[p] < Luminance::kUnknown && now[p] < Luminance::kUnknown &&
        (measured.empty() || measured[p])) {
      // Where there is more of a colour, what noise and coding add to its darkest values counts less.
      parts.push_back(
          {static_cast<double>(now[p] - before[p]), static_cast<double>(std::exp2(stops[p] + now[p] / 2))});
      changes.push_back(parts.back().change);
    }
  if (changes.size() < kFewestParts) return {};
  // The mean of those that agree: as deaf to what moves in some parts as their median, and steadier.
  const double middle = median_of(changes);
  for (const Part& p : parts) apart.push_back(std::abs(p.change - middle));
  const double usual = 3 * 1.4826 * median_of(apart) + 1e-9;
  double sum = 0, weights = 0, square = 0;
  for (const Part& p : parts)
    if (std::abs(p.change - middle) <= usual) {
      sum += p.weight * p.change;
      weights += p.weight;
      square += std::pow(p.weight * (p.change - middle), 2);
    }
  return {sum / weights, std::sqrt(square) / weights};
}

ColourWander::ColourWander(int reach, bool parts, std::vector<bool> measured)
    : reach_(reach),
      measured_(std::move(measured)),
      by_parts_(parts),
      red_parts_(reach),
      blue_parts_(reach) {}

void ColourWander::add(const Luminance* luminance) {
  Sample s;
  if (!samples_.empty()) s.red = samples_.back().red, s.blue = samples_.back().blue;
  if (luminance) {
    s.known = true;
    if (any_) {
      const SharedChange red = shared_change(last_red_, luminance->red, luminance->parts, measured_);
      const SharedChange blue = shared_change(last_blue_, luminance->blue, luminance->parts, measured_);
      s.red += red.stops;
      s.blue += blue.stops;
      s.red_chance = red.chance;
      s.blue_chance = blue.chance;
    }
    last_red_ = luminance->red;
    last_blue_ = luminance->blue;
    any_ = true;
  }
  samples_.push_back(s);
  if (!by_parts_) return;
  if (!luminance) {
    red_parts_.add(nullptr);
    blue_parts_.add(nullptr);
    return;
  }
  const auto red = measured_of(luminance->red, measured_), blue = measured_of(luminance->blue, measured_);
  red_parts_.add(&red);
  blue_parts_.add(&blue);
}

/// As far as it wanders more than chance would have it.
double ColourWander::of_whole(size_t n, double Sample::*colour, double Sample::*chance) const {
  const auto reach = static_cast<size_t>(reach_);
  const size_t from = n > reach ? n - reach : 0, to = std::min(n + reach, samples_.size() - 1);
  const auto known = [&](long i) { return samples_[static_cast<size_t>(i)].known; };
  const auto both_known = [&](size_t i) { return samples_[i].known && samples_[i - 1].known; };
  const auto at = [&](size_t i) { return samples_[i].*colour; };
  std::vector<double> sizes;
  double by_chance = 0;
  for (size_t i = std::max<size_t>(from, 1); i < to; ++i) {
    if (!both_known(i) || !both_known(i + 1)) continue;
    sizes.push_back(std::abs(at(i) - (at(i - 1) + at(i + 1)) / 2));
    by_chance += (std::pow(samples_[i].*chance, 2) + std::pow(samples_[i + 1].*chance, 2)) / 4;
  }
  double part = 1;
  if (sizes.size() >= 4) {
    by_chance /= static_cast<double>(sizes.size());
    const double usual = 1.4826 * median_of(sizes);
    part = std::max(0.0, 1 - kColourChance * by_chance / (usual * usual + 1e-12));
  }
  const double smooth = local_line([&](long i) { return at(static_cast<size_t>(i)); }, known,
                                   static_cast<long>(n), static_cast<long>(to) + 1, reach_);
  return part * (smooth - at(n));
}

ColourWander::Held ColourWander::held(size_t n) {
  Held out;
  out.red = of_whole(n, &Sample::red, &Sample::red_chance);
  out.blue = of_whole(n, &Sample::blue, &Sample::blue_chance);
  if (by_parts_) {
    out.red_field = red_parts_.field(n, nullptr, out.red);
    out.blue_field = blue_parts_.field(n, nullptr, out.blue);
  }
  return out;
}

}  // namespace askcount::level
