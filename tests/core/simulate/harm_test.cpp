// SPDX-License-Identifier: GPL-3.0-or-later
// What the stand-in's faults do to the pixels: looked at in the pictures themselves, against what was asked.
#include "simulate/harm.h"

#include <cmath>

#include "support.h"

namespace askcount::simulate {
namespace {

using image::Linear32;
using image::Size;

constexpr int kWide = 200, kHigh = 120;

/// Dark, with a bright square.
Linear32 scene(int left = 80, int top = 50) {
  Linear32 p(Size{kWide, kHigh});
  std::fill(p.rgb.begin(), p.rgb.end(), 0.1F);
  for (int y = top; y < top + 20; ++y)
    for (int x = left; x < left + 20; ++x)
      for (int c = 0; c < 3; ++c) p.row(y)[3 * x + c] = 0.9F;
  return p;
}

double mean(const Linear32& p, int channel = 1) {
  double sum = 0;
  for (size_t i = static_cast<size_t>(channel); i < p.rgb.size(); i += 3) sum += p.rgb[i];
  return 3 * sum / static_cast<double>(p.rgb.size());
}

/// Where the light above the background has its middle.
std::pair<double, double> middle(const Linear32& p) {
  double sum = 0, x_sum = 0, y_sum = 0;
  for (int y = 0; y < kHigh; ++y)
    for (int x = 0; x < kWide; ++x) {
      const double light = p.row(y)[3 * x + 1] - 0.1;
      sum += light, x_sum += light * (x + 0.5), y_sum += light * (y + 0.5);
    }
  return {x_sum / sum, y_sum / sum};
}

/// The steepest step from one pixel to the next.
double steepest(const Linear32& p) {
  float most = 0;
  for (int y = 0; y < kHigh; ++y)
    for (int x = 1; x < kWide; ++x) most = std::max(most, std::abs(p.row(y)[3 * x] - p.row(y)[3 * x - 3]));
  return most;
}

Linear32 harmed(const std::vector<Fault>& faults, long long frame) {
  Linear32 p = scene();
  apply_harm(harm_at(faults, frame), p);
  return p;
}

TEST(Harm, LeavesTheFrameAloneBeforeItBegins) {
  for (const char* fault : {"bump@11", "focus@11", "dew@11", "lamp@11"}) {
    EXPECT_EQ(harmed({parse_fault(fault)}, 9).rgb, scene().rgb) << fault;
    EXPECT_NE(harmed({parse_fault(fault)}, 30).rgb, scene().rgb) << fault;
  }
}

TEST(Harm, ABumpShiftsEverythingFromThenOn) {
  const auto [x, y] = middle(scene());
  for (const long long frame : {10LL, 11LL, 500LL}) {
    const auto [now_x, now_y] = middle(harmed({parse_fault("bump@11=0.05")}, frame));
    EXPECT_NEAR(now_x - x, 0.05 * kWide, 0.05) << frame;
    EXPECT_NEAR(now_y - y, 0.02 * kWide, 0.05) << "and down by two fifths of it";
  }
  const auto [twice, down] = middle(harmed({parse_fault("bump@11=0.05"), parse_fault("bump@21=-0.02")}, 30));
  EXPECT_NEAR(twice - x, 0.03 * kWide, 0.05) << "two bumps add up";
}

TEST(Harm, AShiftedFocusBlursAndKeepsTheLight) {
  const Linear32 soft = harmed({parse_fault("focus@1=0.01")}, 5);
  EXPECT_LT(steepest(soft), 0.5 * steepest(scene()));
  EXPECT_NEAR(mean(soft), mean(scene()), 1e-3);
  EXPECT_NEAR(middle(soft).first, middle(scene()).first, 0.05) << "nothing moves";
  EXPECT_LT(steepest(harmed({parse_fault("focus@1=0.02")}, 5)), steepest(soft)) << "more of it blurs more";
}

TEST(Harm, DewCreepsInAndTakesTheContrast) {
  const std::vector<Fault> dew = {parse_fault("dew@1=20")};
  const auto contrast = [](const Linear32& p) {
    const auto [low, high] = std::minmax_element(p.rgb.begin(), p.rgb.end());
    return *high - *low;
  };
  double before = contrast(scene());
  for (const long long frame : {0LL, 5LL, 10LL, 19LL}) {
    const double now = contrast(harmed(dew, frame));
    EXPECT_LT(now, before) << frame;
    before = now;
  }
  EXPECT_NEAR(contrast(harmed(dew, 300)), before, 1e-6) << "it is all there after twenty frames";
  EXPECT_NEAR(mean(harmed(dew, 300)), mean(scene()), 2e-3) << "a veil, not a darkening";
  EXPECT_NEAR(harm_at(dew, 9).haze, 0.55 * 0.5, 1e-9);
  EXPECT_NEAR(harm_at(dew, 100).haze, 0.55, 1e-9);
}

TEST(Harm, ALampFlickersWithinWhatWasAsked) {
  const std::vector<Fault> lamp = {parse_fault("lamp@1=0.4")};
  double least = 9, most = -9;
  for (long long frame = 0; frame < 60; ++frame) {
    const double stops = std::log2(mean(harmed(lamp, frame)) / mean(scene()));
    EXPECT_NEAR(stops, harm_at(lamp, frame).stops, 1e-4);
    least = std::min(least, stops), most = std::max(most, stops);
  }
  EXPECT_GE(least, -0.4);
  EXPECT_LE(most, 0.4);
  EXPECT_GT(most - least, 0.6) << "up and down";
  EXPECT_EQ(harm_at(lamp, 7).stops, harm_at(lamp, 7).stops) << "the same each time";
}

TEST(Harm, ColoursAndHandsAndClocks) {
  Linear32 p = scene();
  FrameHarm warm;
  warm.red_stops = 1;
  warm.blue_stops = -1;
  apply_harm(warm, p);
  EXPECT_NEAR(mean(p, 0) / mean(scene(), 0), 2, 1e-4);
  EXPECT_NEAR(mean(p, 1) / mean(scene(), 1), 1, 1e-6);
  EXPECT_NEAR(mean(p, 2) / mean(scene(), 2), 0.5, 1e-4);
  EXPECT_TRUE(harm_at({parse_fault("hand@5")}, 4).hand);
  EXPECT_FALSE(harm_at({parse_fault("hand@5")}, 5).hand) << "for one frame";
  EXPECT_EQ(harm_at({parse_fault("clock@3=-3600")}, 100).clock_s, -3600);
  EXPECT_EQ(harm_at({parse_fault("clock@3=-3600")}, 1).clock_s, 0);
  EXPECT_TRUE(harm_at({parse_fault("skip@2"), parse_fault("battery@2")}, 8).none()) << "no picture's matter";
}

TEST(Faults, AreReadWithTheirUsualAmounts) {
  const Fault bump = parse_fault("bump@120");
  EXPECT_EQ(bump.kind, Fault::Kind::Bump);
  EXPECT_EQ(bump.at, 119) << "counted from 1";
  EXPECT_DOUBLE_EQ(bump.amount, 0.02);
  EXPECT_DOUBLE_EQ(parse_fault("focus@1").amount, 0.004);
  EXPECT_DOUBLE_EQ(parse_fault("dew@1").amount, 60);
  EXPECT_DOUBLE_EQ(parse_fault("lamp@1").amount, 0.4);
  EXPECT_DOUBLE_EQ(parse_fault("clock@1").amount, 3600);
  for (const char* bad : {"bump", "bump@0", "bump@-3", "bump@x", "rain@3", "bump@3=", "bump@3=x", "@3", ""})
    EXPECT_EQ(test::error_of([&] { parse_fault(bad); }).kind(), Error::Kind::BadInput) << bad;
  for (const char* kind :
       {"battery", "card", "bump", "focus", "dew", "skip", "double", "hand", "lamp", "clock"}) {
    const Fault f = parse_fault(std::string(kind) + "@2");
    EXPECT_STREQ(fault_word(f.kind), kind);
    EXPECT_GT(fault_words(f).size(), 20u) << kind;
  }
  const auto some = chance_faults(0.1, 1000, 3);
  EXPECT_EQ(some, chance_faults(0.1, 1000, 3));
  EXPECT_NE(some, chance_faults(0.1, 1000, 4));
  EXPECT_NEAR(static_cast<double>(some.size()), 100, 40);
  EXPECT_TRUE(chance_faults(0, 1000, 3).empty());
}

}  // namespace
}  // namespace askcount::simulate
