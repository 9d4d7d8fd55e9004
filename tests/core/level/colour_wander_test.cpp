// SPDX-License-Identifier: GPL-3.0-or-later
// Colours that flicker in a part of the picture, against flicker that is known because it was added.
#include "level/colour_wander.h"

#include <cmath>
#include <random>

#include "image/part_terms.h"
#include "level/brightness.h"
#include "level/field_light.h"
#include "level/levelling.h"
#include "support.h"

namespace askcount::level {
namespace {

using image::Luminance;
constexpr int kAcross = Luminance::kAcross, kParts = Luminance::kParts;

struct Colours {
  double red = 0, blue = 0;  // against green, in stops
};

/// Frames of even green whose parts have the colours that `of` says: frame and part in.
template <typename Of>
std::vector<Luminance> frames_of(int frames, Of of) {
  std::vector<Luminance> out;
  for (int n = 0; n < frames; ++n) {
    Luminance l;
    for (int p = 0; p < kParts; ++p) {
      const Colours c = of(n, p % kAcross, p / kAcross);
      const auto at = static_cast<size_t>(p);
      const double green = std::exp2(-3 + 0.3 * (p % 7));
      const double red = green * std::exp2(c.red), blue = green * std::exp2(c.blue);
      const double light = static_cast<double>(
          image::luminance(static_cast<float>(red), static_cast<float>(green), static_cast<float>(blue)));
      l.parts[at] = static_cast<float>(std::log2(light));
      l.red[at] = static_cast<float>(c.red);
      l.blue[at] = static_cast<float>(c.blue);
      l.mean += light / kParts;
      const std::array<double, 3> rgb = {red, green, blue};
      for (size_t colour = 0; colour < 3; ++colour) {
        const auto bin = static_cast<size_t>(image::Histogram::bin_of(static_cast<float>(rgb[colour])));
        l.tones[colour].count[bin] += 100;
        l.tones[colour].light[bin] += static_cast<float>(100 * rgb[colour]);
      }
    }
    l.samples = 100 * kParts;
    out.push_back(l);
  }
  return out;
}

struct Noise {
  std::mt19937 random{7};
  std::normal_distribution<double> normal{0, 1};
  double operator()(double sigma) { return sigma * normal(random); }
};

std::vector<std::optional<double>> no_clicks(size_t frames) {
  return std::vector<std::optional<double>>(frames, 0.0);
}

TEST(ColourWander, AColourThatFlickersOnOneSideIsHeldThereAndNowhereElse) {
  Noise noise;
  std::vector<double> lamp;
  for (int n = 0; n < 80; ++n) lamp.push_back(noise(0.12));
  const auto frames = frames_of(80, [&](int n, int x, int) {
    const double share = 0.5 + 0.5 * std::cos(3.14159 * (x + 0.5) / kAcross);
    return Colours{lamp[static_cast<size_t>(n)] * share + noise(0.002), -0.3 + noise(0.002)};
  });
  Leveller leveller(no_clicks(frames.size()));
  for (const Luminance& l : frames) leveller.add(&l);
  std::vector<double> left, right, before, light, as_shot;
  for (size_t n = 0; n < frames.size(); ++n) {
    const Levelled levelled = leveller.level(n);
    const auto red_at = [&](int part) {
      return static_cast<double>(frames[n].red[static_cast<size_t>(part)]) + levelled.red +
             image::stops_at(levelled.red_field, part);
    };
    before.push_back(static_cast<double>(frames[n].red[6 * kAcross]));
    left.push_back(red_at(6 * kAcross));
    right.push_back(red_at(6 * kAcross + 15));
    EXPECT_TRUE(levelled.blue_field.flat()) << n;
    const Correction c = correction_of(leveller, frames[n], levelled);
    as_shot.push_back(frames[n].stops());
    light.push_back(std::log2(frames[n].mean_after(c.gain) * field_gain(frames[n], c)));
  }
  EXPECT_GT(flicker(before), 0.08);
  EXPECT_LT(flicker(left), 0.006);
  EXPECT_LT(flicker(right), 0.004);
  EXPECT_GT(flicker(as_shot), 0.008);
  EXPECT_LT(flicker(light), 0.001) << "and the brightness that came of it goes with it";
}

TEST(ColourWander, SomethingRedThatPassesNeedsNoField) {
  Noise noise;
  const auto frames = frames_of(80, [&](int n, int x, int y) {
    const int at = n % 20;
    const bool bus = y >= 7 && y <= 9 && x >= at && x <= at + 3;
    return Colours{bus ? 2.0 : noise(0.003), noise(0.003)};
  });
  ColourWander wander(12, true, {});
  for (const Luminance& l : frames) wander.add(&l);
  for (size_t n = 0; n < frames.size(); ++n) {
    const ColourWander::Held held = wander.held(n);
    EXPECT_LT(std::abs(held.red), 0.004) << n;
    for (const double x : {0.1, 0.5, 0.9}) EXPECT_LT(std::abs(held.red_field.at(x, 0.3)), 0.01) << n;
  }
}

TEST(ColourWander, OfTheWholeNeedsNoField) {
  Noise noise;
  std::vector<double> white;
  for (int n = 0; n < 60; ++n) white.push_back(noise(0.1));
  const auto frames = frames_of(60, [&](int n, int, int) {
    return Colours{white[static_cast<size_t>(n)] + noise(0.003),
                   -white[static_cast<size_t>(n)] + noise(0.003)};
  });
  ColourWander wander(12, true, {});
  for (const Luminance& l : frames) wander.add(&l);
  std::vector<double> red;
  for (size_t n = 0; n < frames.size(); ++n) {
    const ColourWander::Held held = wander.held(n);
    EXPECT_TRUE(held.red_field.flat()) << n;
    red.push_back(wander.red(n) + held.red);
  }
  EXPECT_LT(flicker(red), 0.004);
}

TEST(ColourWander, OnlyPartsThatAreMeasuredAreAsked) {
  Noise noise;
  std::vector<bool> right(kParts, false);
  for (int p = 0; p < kParts; ++p) right[static_cast<size_t>(p)] = p % kAcross >= 8;
  const auto frames = frames_of(60, [&](int, int x, int) {
    return Colours{x < 8 ? noise(0.2) : noise(0.001), noise(0.001)};
  });
  ColourWander wander(12, true, right);
  for (const Luminance& l : frames) wander.add(&l);
  for (size_t n = 0; n < frames.size(); ++n) {
    const ColourWander::Held held = wander.held(n);
    EXPECT_TRUE(held.red_field.flat()) << n;
    EXPECT_LT(std::abs(held.red), 0.001) << n;
  }
}

TEST(SharedChange, IsDeafToWhatAFewPartsDoAndSaysHowSureItIs) {
  std::array<float, kParts> before{}, now{}, stops{};
  stops.fill(-2);
  now.fill(0.1F);
  for (size_t p = 0; p < 40; ++p) now[p] = 1.5F;
  const SharedChange sure = shared_change(before, now, stops, {});
  EXPECT_NEAR(sure.stops, 0.1, 1e-6);
  EXPECT_LT(sure.chance, 1e-6);
  now.fill(Luminance::kUnknown);
  for (size_t p = 0; p < 8; ++p) now[p] = 0.1F;
  EXPECT_EQ(shared_change(before, now, stops, {}).stops, 0) << "too few parts tell";
}

}  // namespace
}  // namespace askcount::level
