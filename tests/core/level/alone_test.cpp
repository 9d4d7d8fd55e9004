// SPDX-License-Identifier: GPL-3.0-or-later
// Frames whose light tells nothing of the scene's, and flicker that parts of the picture have for themselves.
#include <cmath>
#include <random>

#include "level/brightness.h"
#include "support.h"

namespace askcount::level {
namespace {

/// Frames of a textured picture; `stops_at` says how much brighter a place (a share of the width) of frame n
/// is.
Evenness evened(int frames, const std::function<double(int n, double x)>& stops_at) {
  const image::Size size{192, 144};
  const auto list = std::make_shared<std::vector<media::Frame>>();
  Luminances lights;
  std::mt19937 random(5);
  for (int n = 0; n < frames; ++n) {
    image::Linear32 picture(size);
    for (int y = 0; y < size.height; ++y)
      for (int x = 0; x < size.width; ++x) {
        const double grain = 1 + 0.01 * (random() / 2147483648.0 - 1);
        const double light = 0.12 * (1 + 0.5 * ((x / 12 + y / 9) % 3)) * grain *
                             std::exp2(stops_at(n, static_cast<double>(x) / size.width));
        for (int c = 0; c < 3; ++c) picture.row(y)[3 * x + c] = static_cast<float>(light);
      }
    lights.push_back(std::make_unique<image::Luminance>(measure_frame(picture, {})));
    list->emplace_back(media::Exposure{});
  }
  return even_out(std::shared_ptr<const std::vector<media::Frame>>(list), lights);
}

double most_correction(const Evenness& e, const std::set<size_t>& but) {
  double most = 0;
  for (size_t n = 0; n < e.frames.size(); ++n)
    if (!but.contains(n)) most = std::max(most, std::abs(e.frames[n].correction()));
  return most;
}

bool says(const Evenness& e, const char* code, Severity severity) {
  const Findings list = judge(e);
  return std::any_of(list.begin(), list.end(),
                     [&](const Finding& f) { return f.code == code && f.severity == severity; });
}

TEST(Alone, OneBlackFramePullsNoOther) {
  for (const int at : {0, 1, 20, 39, 40}) {
    const Evenness e = evened(41, [at](int n, double) { return n == at ? -12.0 : 0.0; });
    EXPECT_EQ(e.set_aside, std::vector<size_t>{static_cast<size_t>(at)}) << at;
    EXPECT_LT(most_correction(e, {}), 0.02) << "nor is it raised itself: frame " << at;
    EXPECT_TRUE(says(e, "frames_set_aside", Severity::Warning));
    EXPECT_LT(e.flicker_before, 0.01) << "it is no flicker";
  }
}

TEST(Alone, TwoAndOnesThatCanBeRaisedAreHeldToTheirNeighbours) {
  const Evenness e = evened(60, [](int n, double) { return n == 20 || n == 21 || n == 40 ? -2.0 : 0.0; });
  EXPECT_EQ(e.set_aside, (std::vector<size_t>{20, 21, 40}));
  EXPECT_LT(most_correction(e, {20, 21, 40}), 0.02);
  for (const size_t n : {20UL, 21UL, 40UL}) EXPECT_NEAR(e.frames[n].correction(), 2, 0.05) << n;
}

/// A cap that stays on for a while, at an end or within.
TEST(Alone, BlackFramesPullNoneHoweverManyThereAre) {
  for (const auto& [from, until] : {std::pair{0, 4}, {20, 23}, {15, 30}, {36, 41}}) {
    const Evenness e = evened(41, [&](int n, double) { return n >= from && n < until ? -12.0 : 0.0; });
    EXPECT_EQ(e.set_aside.size(), static_cast<size_t>(until - from)) << from;
    EXPECT_LT(most_correction(e, {}), 0.02) << from;
  }
  // Night that falls step by step is none, though it ends black.
  EXPECT_TRUE(evened(120, [](int n, double) { return -0.12 * n; }).set_aside.empty());
}

TEST(Alone, WhatLastsIsAChangeAndDuskIsNoFault) {
  EXPECT_TRUE(evened(60, [](int n, double) { return n >= 30 ? -2.5 : 0.0; }).set_aside.empty())
      << "a step that stays";
  EXPECT_TRUE(evened(60, [](int n, double) { return n < 30 ? -2.5 : 0.0; }).set_aside.empty());
  EXPECT_TRUE(evened(80, [](int n, double) { return -0.12 * n; }).set_aside.empty()) << "a quick dusk";
  std::mt19937 random(3);
  std::vector<double> noise(80);
  for (double& v : noise) v = (random() / 4294967296.0 - 0.5) * 3;
  EXPECT_TRUE(evened(80, [&](int n, double) { return noise[static_cast<size_t>(n)]; }).set_aside.empty())
      << "where all flickers none stands alone";
}

/// Halves in antiphase: the whole does not flicker, its parts do.
TEST(Alone, FlickerFromSideToSideIsMeasuredNamedAndHeld) {
  const Evenness e = evened(60, [](int n, double x) { return (n % 2 == 0) == (x < 0.5) ? 0.2 : -0.2; });
  EXPECT_LT(e.flicker_before, 0.05);
  EXPECT_NEAR(e.part_before, 0.2, 0.05);
  EXPECT_NEAR(e.most_before(), e.part_before, 1e-9);
  EXPECT_LT(e.part_after, 0.35 * e.part_before);
  bool named = false;
  for (const Finding& f : judge(e))
    named = named || (f.code == "parts_evened" &&
                      (f.text.find("left") != f.text.npos || f.text.find("right") != f.text.npos));
  EXPECT_TRUE(named);
  // An even take has nothing to say of parts.
  const Evenness still = evened(60, [](int, double) { return 0.0; });
  EXPECT_LT(still.most_before(), 0.005);
  EXPECT_FALSE(says(still, "parts_evened", Severity::Ok));
}

/// What moves through a part is no flicker of it.
TEST(Alone, WhatPassesThroughAPartIsNoFlicker) {
  const Evenness e = evened(80, [](int n, double x) {
    const double at = (n * 7 % 80) / 80.0;
    return x > at && x < at + 0.06 ? -1.0 : 0.0;
  });
  EXPECT_LT(e.part_after, 0.02);
}

}  // namespace
}  // namespace askcount::level
