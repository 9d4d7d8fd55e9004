// SPDX-License-Identifier: GPL-3.0-or-later
// The sun behind a cloud, against light that is known because it was made.
#include "level/gradual.h"

#include <cmath>
#include <numeric>
#include <random>

#include "level/brightness.h"
#include "level/levelling.h"
#include "support.h"

namespace askcount::level {
namespace {

struct Found {
  std::vector<size_t> began;
  double stops = 0;
};

/// All that is found in a course of light.
Found found_in(const std::vector<double>& light) {
  Found out;
  GradualChange change;
  for (size_t i = 0; i < light.size(); ++i) {
    const size_t count = std::min(light.size(), i + GradualChange::kAhead + 1);
    const double step = change.step(
        i,
        [&](size_t k) {
          EXPECT_LT(k, count) << "nothing is known of what has not come yet";
          return light[k];
        },
        count);
    out.stops += step;
    if (step != 0 && (out.began.empty() || out.began.back() != *change.began()))
      out.began.push_back(*change.began());
  }
  return out;
}

/// A cloud of this many stops, from `frame` on, within `over` frames.
double cloud(size_t n, size_t frame, double over, double stops) {
  return stops * std::clamp((static_cast<double>(n) - static_cast<double>(frame)) / over, 0.0, 1.0);
}

std::vector<double> course(size_t frames, unsigned seed, double flicker,
                           const std::function<double(size_t)>& light) {
  std::mt19937 random(seed);
  std::normal_distribution<double> normal(0, flicker);
  std::vector<double> out;
  for (size_t n = 0; n < frames; ++n) out.push_back(light(n) + normal(random));
  return out;
}

TEST(GradualChange, ACloudIsFoundWhereItBeginsAndAllOfIt) {
  for (const double over : {3.0, 6.0, 10.0})
    for (unsigned seed = 1; seed <= 5; ++seed) {
      const Found f = found_in(course(90, seed, 0.03, [&](size_t n) { return cloud(n, 40, over, -0.9); }));
      ASSERT_EQ(f.began.size(), 1u) << over << " " << seed;
      EXPECT_NEAR(static_cast<double>(f.began[0]), 40, 4) << over << " " << seed;
      EXPECT_NEAR(f.stops, -0.9, 0.2) << over << " " << seed;
    }
}

TEST(GradualChange, FlickerAloneIsNone) {
  for (unsigned seed = 1; seed <= 20; ++seed)
    EXPECT_TRUE(found_in(course(400, seed, 0.12, [](size_t) { return 0; })).began.empty()) << seed;
}

TEST(GradualChange, TheSlowFallOfADuskIsNone) {
  for (const double a_frame : {0.005, 0.02, 0.05})
    EXPECT_TRUE(found_in(course(200, 3, 0.05,
                                [&](size_t n) {
                                  return -a_frame * static_cast<double>(n) -
                                         0.0001 * static_cast<double>(n * n);
                                }))
                    .began.empty())
        << a_frame;
}

TEST(GradualChange, WhatACameraDoesFromOneFrameToTheNextIsNone) {
  for (const double step : {-0.33, 0.5, 1.0})
    EXPECT_TRUE(found_in(course(120, 4, 0.02, [&](size_t n) { return n / 25 * step; })).began.empty())
        << step;
}

TEST(GradualChange, ALightThatPulsesIsNone) {
  EXPECT_TRUE(found_in(course(200, 5, 0.01, [](size_t n) {
                return 0.3 * std::sin(static_cast<double>(n) * 2 * 3.14159 / 10);
              })).began.empty());
}

image::Luminance flat_frame(double stops) {
  image::Luminance l;
  l.parts.fill(static_cast<float>(stops));
  l.red.fill(0);
  l.blue.fill(0);
  l.mean = std::exp2(stops);
  l.samples = 1000;
  for (auto& tones : l.tones) {
    const auto bin = static_cast<size_t>(image::Histogram::bin_of(static_cast<float>(l.mean)));
    tones.count[bin] = 1000;
    tones.light[bin] = static_cast<float>(1000 * l.mean);
  }
  return l;
}

class Clouded : public ::testing::Test {
 protected:
  Clouded() {
    const auto light = [](size_t n) { return -3 + cloud(n, 40, 6, -0.8); };
    for (const double stops : course(90, 9, 0.05, light)) {
      luminances_.push_back(std::make_unique<image::Luminance>(flat_frame(stops)));
      media::Exposure e;
      frames_->push_back(media::Frame{{e}});
      truth_.push_back(light(frames_->size() - 1));
    }
  }
  /// How far the levelled light is from what the scene did, at worst.
  double off(const Evenness& e) const {
    double worst = 0;
    for (size_t n = 10; n < 80; ++n) worst = std::max(worst, std::abs(e.after[n] - truth_[n]));
    return worst;
  }
  std::shared_ptr<std::vector<media::Frame>> frames_ = std::make_shared<std::vector<media::Frame>>();
  Luminances luminances_;
  std::vector<double> truth_;
};

TEST_F(Clouded, IsKeptListedAndCountsAsNoFlicker) {
  const Evenness e = even_out(frames_, luminances_);
  ASSERT_EQ(e.kept.size(), 1u);
  EXPECT_NEAR(static_cast<double>(e.kept[0].frame), 40, 4);
  EXPECT_NEAR(e.kept[0].stops, -0.8, 0.15);
  EXPECT_GE(e.kept[0].frames, 4u);
  EXPECT_FALSE(e.kept[0].flash);
  EXPECT_LT(off(e), 0.12) << "it goes as fast as it went";
  EXPECT_GT(e.flicker_before, 0.03);
  EXPECT_LT(e.flicker_after, 0.006);
  bool said = false;
  for (const Finding& f : judge(e)) said = said || f.code == "gradual_change";
  EXPECT_TRUE(said);
}

TEST_F(Clouded, IsSmoothedByWish) {
  const size_t frame = even_out(frames_, luminances_).kept.at(0).frame;
  Smoothing wish;
  wish.smooth = {frame};
  const Evenness e = even_out(frames_, luminances_, wish);
  EXPECT_TRUE(e.kept.empty());
  ASSERT_EQ(e.smoothed.size(), 1u);
  EXPECT_EQ(e.smoothed[0].frame, frame);
  EXPECT_NEAR(e.smoothed[0].stops, -0.8, 0.15);
  EXPECT_GT(off(e), 0.15) << "it takes longer then";
}

}  // namespace
}  // namespace askcount::level
