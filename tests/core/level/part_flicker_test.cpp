// SPDX-License-Identifier: GPL-3.0-or-later
// Flicker in parts of the picture, against flicker that is known because it was added.
#include <cmath>
#include <random>

#include "level/brightness.h"
#include "level/levelling.h"
#include "support.h"

namespace askcount::level {
namespace {

using image::Luminance;
constexpr int kFlickerAcross = Luminance::kAcross, kDown = Luminance::kDown,
              kFlickerParts = Luminance::kParts;

/// A take whose parts do as `stops` says: frame and part in, stops out.
struct Take {
  std::vector<Luminance> lights;
  std::vector<std::optional<double>> exposures;
};

template <typename Stops>
Take take_of(int frames, Stops stops) {
  Take take;
  for (int n = 0; n < frames; ++n) {
    Luminance l;
    double mean = 0;
    for (int p = 0; p < kFlickerParts; ++p) {
      const double s = stops(n, p % kFlickerAcross, p / kFlickerAcross);
      l.parts[static_cast<size_t>(p)] = static_cast<float>(s);
      l.red[static_cast<size_t>(p)] = l.blue[static_cast<size_t>(p)] = Luminance::kUnknown;
      mean += std::exp2(s) / kFlickerParts;
    }
    l.mean = mean;
    l.samples = 1000;
    for (auto& tones : l.tones) {
      const auto bin = static_cast<size_t>(image::Histogram::bin_of(static_cast<float>(mean)));
      tones.count[bin] = 1000;
      tones.light[bin] = static_cast<float>(1000 * mean);
    }
    take.lights.push_back(l);
    take.exposures.emplace_back(0.0);
  }
  return take;
}

/// Flicker of each part's brightness once it is levelled, as its root mean square over all parts.
double left_in_parts(const Take& take, const Smoothing& smoothing = {}) {
  Leveller leveller(take.exposures, smoothing);
  for (const Luminance& l : take.lights) leveller.add(&l);
  std::vector<std::vector<double>> after(kFlickerParts);
  for (size_t n = 0; n < take.lights.size(); ++n) {
    const Correction c = correction_of(leveller, take.lights[n], leveller.level(n));
    for (int p = 0; p < kFlickerParts; ++p)
      after[static_cast<size_t>(p)].push_back(
          static_cast<double>(take.lights[n].parts[static_cast<size_t>(p)]) + std::log2(c.gain.green) +
          c.field.at((p % kFlickerAcross + 0.5) / kFlickerAcross, (p / kFlickerAcross + 0.5) / kDown));
  }
  double square = 0;
  for (const auto& part : after) square += std::pow(flicker(part), 2) / kFlickerParts;
  return std::sqrt(square);
}

struct Flickers {
  std::mt19937 random{5};
  std::normal_distribution<double> normal{0, 1};
  double operator()(double sigma) { return sigma * normal(random); }
};

double pattern(int x, int y) {
  return -3 + 0.3 * ((3 * x + 5 * y) % 7);
}

TEST(PartFlicker, InTheSkyAloneLeavesTheGroundAlone) {
  Flickers noise;
  std::vector<double> sky;
  for (int n = 0; n < 80; ++n) sky.push_back(noise(0.12));
  const Take take = take_of(80, [&](int n, int x, int y) {
    return pattern(x, y) + (y < 5 ? sky[static_cast<size_t>(n)] : 0) + noise(0.002);
  });
  Smoothing whole;
  whole.parts = false;
  EXPECT_GT(left_in_parts(take, whole), 0.04);  // what the mean alone would leave
  EXPECT_LT(left_in_parts(take), 0.025);        // an edge between two parts is smoothed over
}

TEST(PartFlicker, ThatFallsOffSmoothlyIsTakenOut) {
  Flickers noise;
  std::vector<double> light;
  for (int n = 0; n < 80; ++n) light.push_back(noise(0.12));
  const Take take = take_of(80, [&](int n, int x, int y) {
    return pattern(x, y) +
           light[static_cast<size_t>(n)] * (0.5 + 0.5 * std::cos(3.14159 * (x + 0.5) / kFlickerAcross)) +
           noise(0.002);
  });
  EXPECT_LT(left_in_parts(take), 0.006);
}

TEST(PartFlicker, OfTheWholeNeedsNoField) {
  Flickers noise;
  std::vector<double> light;
  for (int n = 0; n < 60; ++n) light.push_back(noise(0.12));
  const Take take = take_of(
      60, [&](int n, int x, int y) { return pattern(x, y) + light[static_cast<size_t>(n)] + noise(0.003); });
  Leveller leveller(take.exposures);
  for (const Luminance& l : take.lights) leveller.add(&l);
  for (size_t n = 0; n < 60; ++n) EXPECT_TRUE(leveller.level(n).field.flat()) << n;
}

TEST(PartFlicker, IsToldFromPeopleWhoPass) {
  Flickers noise;
  const Take take = take_of(80, [&](int n, int x, int y) {
    // Five dark coats at their own pace along the lower rows.
    double s = pattern(x, y) + noise(0.002);
    for (int k = 0; k < 5; ++k)
      if (y == 7 + k && (n * (k + 1) + 5 * k) % kFlickerAcross == x) s -= 1;
    return s;
  });
  Leveller leveller(take.exposures);
  for (const Luminance& l : take.lights) leveller.add(&l);
  double most = 0;
  for (size_t n = 0; n < 80; ++n) {
    const Levelled l = leveller.level(n);
    most = std::max(most, std::abs(l.correction()));
    for (const double y : {0.1, 0.5, 0.9}) EXPECT_LT(std::abs(l.field.at(0.5, y)), 0.02) << n;
  }
  EXPECT_LT(most, 0.012);  // the picture is not made to pulse against them
}

TEST(PartFlicker, ALampKeepsItsStepInItsPart) {
  Flickers noise;
  std::vector<double> light;
  for (int n = 0; n < 80; ++n) light.push_back(noise(0.1));
  const Take take = take_of(80, [&](int n, int x, int y) {
    const bool lit = n >= 40 && x >= 11 && x <= 12 && y >= 8 && y <= 9;
    return pattern(x, y) + light[static_cast<size_t>(n)] * (y < 6 ? 1 : 0) + (lit ? 1.5 : 0) + noise(0.002);
  });
  Leveller leveller(take.exposures);
  for (const Luminance& l : take.lights) leveller.add(&l);
  std::vector<double> lamp;
  for (size_t n = 0; n < 80; ++n) {
    const Correction c = correction_of(leveller, take.lights[n], leveller.level(n));
    lamp.push_back(static_cast<double>(take.lights[n].parts[8 * kFlickerAcross + 11]) +
                   std::log2(c.gain.green) + c.field.at(11.5 / kFlickerAcross, 8.5 / kDown));
  }
  EXPECT_NEAR(lamp[41] - lamp[38], 1.5, 0.08);
}

TEST(Measured, PartsAloneTellTheBrightness) {
  Flickers noise;
  std::vector<double> beacon;
  for (int n = 0; n < 60; ++n) beacon.push_back(n % 3 == 0 ? 2 : 0);
  const Take take = take_of(60, [&](int n, int x, int y) {
    return pattern(x, y) + (x < 8 ? beacon[static_cast<size_t>(n)] : 0) + noise(0.001);
  });
  Smoothing right;
  right.measured.assign(kFlickerParts, false);
  for (int p = 0; p < kFlickerParts; ++p) right.measured[static_cast<size_t>(p)] = p % kFlickerAcross >= 8;
  Leveller leveller(take.exposures, right);
  for (const Luminance& l : take.lights) leveller.add(&l);
  for (size_t n = 0; n < 60; ++n) EXPECT_NEAR(leveller.level(n).correction(), 0, 0.004) << n;
}

TEST(Strength, LeavesTheShareThatIsAskedFor) {
  Flickers noise;
  const Take take = take_of(60, [&, n0 = -1, light = 0.0](int n, int x, int y) mutable {
    if (n != n0) n0 = n, light = noise(0.12);
    return pattern(x, y) + light;
  });
  Leveller all(take.exposures), half(take.exposures, [] {
    Smoothing s;
    s.strength = 0.5;
    return s;
  }());
  for (const Luminance& l : take.lights) all.add(&l), half.add(&l);
  for (size_t n = 0; n < 60; ++n)
    EXPECT_NEAR(half.level(n).correction(), all.level(n).correction() / 2, 1e-9);
}

TEST(Clicks, RecordedAFrameLateAreJoinedWhereTheyAre) {
  Take take =
      take_of(80, [&](int n, int x, int y) { return pattern(x, y) + (n >= 40 ? 1.0 / 3 : 0) - n / 240.0; });
  for (size_t n = 0; n < 80; ++n) take.exposures[n] = n >= 41 ? 1.0 / 3 : 0;
  Leveller leveller(take.exposures);
  for (const Luminance& l : take.lights) leveller.add(&l);
  std::vector<double> after;
  for (size_t n = 0; n < 80; ++n) after.push_back(leveller.level(n).target);
  for (size_t n = 1; n < 80; ++n) EXPECT_LT(std::abs(after[n] - after[n - 1]), 0.01) << n;
  EXPECT_EQ(leveller.late_clicks(), (std::vector<size_t>{40}));
}

TEST(TrueChanges, AreSmoothedOrKeptAsThePersonWishes) {
  const Take take = take_of(60, [&](int n, int x, int y) {
    return pattern(x, y) + (n >= 30 && x >= 6 && x < 11 && y < 6 ? 1.2 : 0) + 0.001 * ((n * 7 + x) % 3);
  });
  const auto step = [&](const Smoothing& s) {
    Leveller leveller(take.exposures, s);
    for (const Luminance& l : take.lights) leveller.add(&l);
    return leveller.level(30).target - leveller.level(29).target;
  };
  const double whole = take.lights[30].stops() - take.lights[29].stops();
  Smoothing smooth;
  smooth.smooth = {30};
  EXPECT_NEAR(step({}), whole, 0.02);
  EXPECT_LT(step(smooth), whole / 4);
  // A change that all parts share looks like the camera's: kept only where it is wished.
  const Take cloud = take_of(60, [&](int n, int x, int y) { return pattern(x, y) - (n >= 30 ? 0.8 : 0); });
  Smoothing keep;
  keep.keep = {30};
  Leveller plain(cloud.exposures), kept(cloud.exposures, keep);
  for (const Luminance& l : cloud.lights) plain.add(&l), kept.add(&l);
  EXPECT_LT(std::abs(plain.level(30).target - plain.level(29).target), 0.15);
  EXPECT_NEAR(kept.level(30).target - kept.level(29).target, -0.8, 0.02);
}

TEST(TrueChanges, AFlashIsKeptWholeAndASingleDarkFrameIsNot) {
  std::mt19937 random(3);
  std::normal_distribution<double> flicker(0, 0.1);
  std::vector<double> off;
  for (int n = 0; n < 80; ++n) off.push_back(flicker(random));
  const auto lightning = [&](std::map<int, double> at) {
    return take_of(80, [&off, at](int n, int x, int y) {
      const auto f = at.find(n);
      return pattern(x, y) - 3 + off[static_cast<size_t>(n)] + (f == at.end() ? 0 : f->second);
    });
  };
  const auto levelled = [](const Take& take, const Smoothing& s, std::vector<Change>* kept = nullptr) {
    Leveller leveller(take.exposures, s);
    for (const Luminance& l : take.lights) leveller.add(&l);
    std::vector<double> out;
    for (size_t n = 0; n < 80; ++n) {
      out.push_back(leveller.level(n).target);
      if (kept && leveller.local_change(n) != 0)
        kept->push_back({n, leveller.local_change(n), leveller.flash(n)});
    }
    return out;
  };
  std::vector<Change> kept;
  const auto two = levelled(lightning({{40, 1.2}, {41, 0.9}, {60, 1.5}}), {}, &kept);
  EXPECT_NEAR(two[40] - two[39], 1.2, 0.25);  // with the flicker of that frame, which nobody can tell from it
  EXPECT_NEAR(two[41] - two[42], 0.9, 0.25);
  EXPECT_NEAR(two[60] - two[59], 1.5, 0.25);
  EXPECT_NEAR(two[42], two[39], 0.06);
  EXPECT_NEAR(two[61], two[59], 0.06);
  for (size_t n = 5; n < 35; ++n) EXPECT_LT(std::abs(two[n + 1] - two[n]), 0.03) << n;
  EXPECT_EQ(std::count_if(kept.begin(), kept.end(), [](const Change& c) { return c.flash && c.stops > 0.5; }),
            2);
  Smoothing smooth;
  smooth.smooth = {40};
  const auto without = levelled(lightning({{40, 1.2}}), smooth);
  EXPECT_LT(std::abs(without[40] - without[39]), 0.2);
  // A shutter that stuck is the camera's, and light that comes to stay is no flash.
  const auto dark = levelled(lightning({{40, -1.2}}), {});
  EXPECT_LT(std::abs(dark[40] - dark[39]), 0.2);
  kept.clear();
  std::map<int, double> stays;
  for (int n = 40; n < 80; ++n) stays[n] = 1;
  levelled(lightning(stays), {}, &kept);
  EXPECT_TRUE(kept.empty());
}

TEST(TrueChanges, ALightThatPulsesIsNone) {
  // Half of the picture in its light: what most parts share is now the one half's, now the other's.
  const Take take = take_of(60, [&](int n, int x, int y) {
    const double lit = std::clamp((0.6 - (x + 0.5) / 16) / 0.3, 0.0, 1.0);
    const double now = std::log2(1 + lit * (std::exp2(0.25 * std::sin(2.399 * n)) - 1));
    return -1 - 0.1 * (x % 3) + now + 0.001 * ((n * 7 + x + y) % 3);
  });
  Leveller leveller(take.exposures);
  for (const Luminance& l : take.lights) leveller.add(&l);
  for (size_t n = 0; n < 60; ++n) {
    leveller.level(n);
    EXPECT_EQ(leveller.local_change(n), 0) << n;
  }
}

}  // namespace
}  // namespace askcount::level
