// SPDX-License-Identifier: GPL-3.0-or-later
// How tones are spread, bent at white, and where anchors are worth setting: against sums done by hand.
#include "image/affine.h"
#include "image/sampling.h"
#include "image/shoulder.h"
#include "image/spread.h"
#include "look/look.h"
#include "look/suggest.h"
#include "support.h"

namespace askcount::image {
namespace {

TEST(Spread, SharesAddUpAndClippingIsCounted) {
  Coded8 p(Size{8, 2});  // 16 pixels
  for (size_t i = 0; i < 16; ++i) {
    p.rgb[3 * i] = static_cast<std::uint8_t>(i < 4 ? 0 : i < 5 ? 253 : i < 7 ? 254 : 255);
    p.rgb[3 * i + 1] = 100;
    p.rgb[3 * i + 2] = static_cast<std::uint8_t>(16 * i);
  }
  const Spread s = spread_of(p);
  for (const auto& colour : s.share) {
    float sum = 0;
    for (const float share : colour) sum += share;
    EXPECT_NEAR(sum, 1, 1e-6) << "every pixel once";
  }
  EXPECT_NEAR(s.black[0], 4 / 16.0, 1e-6);
  EXPECT_NEAR(s.white[0], 11 / 16.0, 1e-6) << "254 and 255, not 253";
  EXPECT_EQ(s.black[1], 0);
  EXPECT_EQ(s.white[1], 0);
  EXPECT_NEAR(s.share[1][25], 1, 1e-6) << "code 100 is in bin 100 × 64 / 256";
  EXPECT_NEAR(s.share[0][63], 12 / 16.0, 1e-6) << "252 to 255";
  EXPECT_NEAR(s.share[2][4], 1 / 16.0, 1e-6) << "code 16";
  EXPECT_NEAR(s.most(), 1, 1e-6);
  EXPECT_EQ(spread_of(Coded8()).most(), 0);
}

TEST(Shoulder, LeavesWhatIsBelowAndBringsTheTopToWhite) {
  const Shoulder bends(3);
  for (const float light : {0.0F, 0.2F, 0.79F, 0.8F}) EXPECT_FLOAT_EQ(bends(light), light);
  EXPECT_FLOAT_EQ(bends(3), 1);
  EXPECT_FLOAT_EQ(bends(9), 1) << "beyond it too";
  EXPECT_FLOAT_EQ(bends(-1), 0);
  // By hand: bend (3 − 0.8) ÷ 0.2 = 11; halfway u = 0.5: 0.8 + 0.2 × 11 × 0.5 ÷ (1 + 10 × 0.5).
  EXPECT_NEAR(bends(1.9F), 0.8 + 0.2 * 5.5 / 6, 1e-5);
  float before = 0;
  for (float light = 0; light <= 3; light += 0.01F) {
    EXPECT_GE(bends(light), before) << light;
    before = bends(light);
  }
  // No break of slope at the knee.
  const float h = 1e-3F;
  EXPECT_NEAR((bends(0.8F + h) - bends(0.8F)) / h, 1, 0.01);
  const Shoulder cuts(1);
  EXPECT_FLOAT_EQ(cuts(0.95F), 0.95F);
  EXPECT_FLOAT_EQ(cuts(1.5F), 1);
}

TEST(Kernels, AreThoseOfTheirNames) {
  // The quadratic B-spline: 3/4 in the middle, 1/2 at a half, 1/8 at one, nothing from 1.5 on.
  for (const auto& [at, value] :
       {std::pair{0.0, 0.75}, {0.5, 0.5}, {1.0, 0.125}, {1.5, 0.0}, {2.0, 0.0}, {-1.0, 0.125}})
    EXPECT_NEAR(kernel_at(Kernel::Calm, at), value, 1e-12) << at;
  EXPECT_EQ(reach_of(Kernel::Calm), 1.5);
  // Keys with a = −1/2: one in the middle, none at whole pixels, −1/16 at one and a half, 9/16 at a half.
  for (const auto& [at, value] :
       {std::pair{0.0, 1.0}, {0.5, 0.5625}, {1.0, 0.0}, {1.5, -0.0625}, {2.0, 0.0}, {-0.5, 0.5625}})
    EXPECT_NEAR(kernel_at(Kernel::Crisp, at), value, 1e-12) << at;
  EXPECT_EQ(reach_of(Kernel::Crisp), 2);
  for (const Kernel kernel : {Kernel::Calm, Kernel::Crisp})
    for (const double ratio : {1.0, 2.5})
      for (const double place : {10.0, 10.25, 10.5, 10.99}) {
        const KernelTable table(kernel, ratio);
        int first = 0;
        const float* weights = table.at(place, first);
        double sum = 0, middle = 0;
        for (int k = 0; k < table.taps(); ++k) {
          sum += weights[k];
          middle += weights[k] * (first + k + 0.5);
        }
        EXPECT_NEAR(sum, 1, 1e-5) << "light is kept";
        EXPECT_NEAR(middle, place, ratio == 1 ? 2e-3 : 0.02) << "and does not move";
        int again = 0;
        const float* fourfold = table.at_fourfold(place, again);
        EXPECT_EQ(again, first);
        for (int k = 0; k < 4 * table.taps(); ++k) EXPECT_EQ(fourfold[k], weights[k / 4]);
      }
}

TEST(Affine, TurnsShiftsScalesAndGoesBack) {
  const auto near = [](std::array<double, 2> at, double x, double y) {
    EXPECT_NEAR(at[0], x, 1e-9);
    EXPECT_NEAR(at[1], y, 1e-9);
  };
  near(Affine::turned(90, 10, 10)(12, 10), 10, 12);  // clockwise: right goes down
  near(Affine::turned(180, 1, 2, 5, 7)(1, 2), 6, 9);
  near(Affine::scaled(2, 3)(4, 5), 8, 15);
  near(Affine::shifted(-1, 4)(2, 2), 1, 6);
  const Affine both = Affine::scaled(2, 3).after(Affine::shifted(1, 1));
  near(both(4, 5), 10, 18);
  const Affine any = Affine::turned(17, 3, 4, 0.5, -2).after(Affine::scaled(1.3, 0.8));
  const auto there = any(7, 9);
  near(any.back()(there[0], there[1]), 7, 9);
  EXPECT_TRUE(Affine::scaled(2, 3).straight());
  EXPECT_FALSE(Affine::turned(1, 0, 0).straight());
  EXPECT_FALSE(Affine::scaled(-1, 1).straight()) << "mirrored";
}

}  // namespace
}  // namespace askcount::image

namespace askcount::look {
namespace {

using Light = std::vector<std::array<double, 3>>;

Light light_of(size_t frames, const std::function<double(size_t)>& stops) {
  Light light(frames);
  for (size_t n = 0; n < frames; ++n) light[n] = {stops(n), 0, 0};
  return light;
}

TEST(SuggestAnchors, StandAtTheEndsAndWhereTheLightBends) {
  EXPECT_TRUE(suggest_anchors({}).empty());
  EXPECT_TRUE(suggest_anchors(light_of(1, [](size_t) { return 5.0; })).empty());
  EXPECT_TRUE(suggest_anchors(light_of(100, [](size_t n) { return 0.004 * static_cast<double>(n); })).empty())
      << "0.4 of a stop: an eye does not see it";
  EXPECT_EQ(suggest_anchors(light_of(101, [](size_t n) { return -0.05 * static_cast<double>(n); })),
            (std::vector<size_t>{0, 100}))
      << "a straight line needs its ends";
  // Falls for 60 frames, then stands: it bends at frame 60 and nowhere else.
  EXPECT_EQ(
      suggest_anchors(light_of(101, [](size_t n) { return -0.1 * std::min(60.0, static_cast<double>(n)); })),
      (std::vector<size_t>{0, 60, 100}));
  const auto many = suggest_anchors(light_of(400, [](size_t n) { return n / 20 % 2 == 0 ? 0.0 : 3.0; }));
  EXPECT_EQ(many.size(), 8u) << "no more than can be looked at";
  EXPECT_TRUE(std::is_sorted(many.begin(), many.end()));
  EXPECT_EQ(many.front(), 0u);
  EXPECT_EQ(many.back(), 399u);
  // Colour counts from a fifth of a stop.
  Light warm = light_of(50, [](size_t) { return 0.0; });
  for (size_t n = 0; n < 50; ++n) warm[n][1] = 0.006 * static_cast<double>(n);
  EXPECT_EQ(suggest_anchors(warm), (std::vector<size_t>{0, 49}));
}

TEST(CheckLook, NamesTheValueThatIsOutOfItsRange) {
  EXPECT_NO_THROW(check_look({}, "here"));
  for (const Lane& lane : lanes()) {
    Look look;
    look.*lane.value = lane.most;
    EXPECT_NO_THROW(check_look(look, "here")) << lane.key;
    if (lane.value != &Look::warmth_k) {  // 0 is as it was shot
      look.*lane.value = lane.least;
      EXPECT_NO_THROW(check_look(look, "here")) << lane.key;
    }
    for (const double beyond : {lane.most * 1.01 + 0.01, lane.least - std::abs(lane.least) * 0.01 - 0.01}) {
      look.*lane.value = beyond;
      const Error e = test::error_of([&] { check_look(look, "here"); });
      EXPECT_EQ(e.kind(), Error::Kind::BadInput);
      EXPECT_NE(std::string(e.what()).find("here"), std::string::npos) << e.what();
    }
    EXPECT_GT(lane.most, lane.least);
    EXPECT_GT(lane.step, 0);
  }
}

}  // namespace
}  // namespace askcount::look
