// SPDX-License-Identifier: GPL-3.0-or-later
// Motion found between pictures whose motion is known.
#include "motion/motion.h"

#include <cmath>
#include <random>

#include "media/jpeg.h"
#include "simulate/tern_quay.h"
#include "support.h"

namespace askcount::motion {
namespace {

using image::Coded8;
using image::Size;

/// A textured, noisy, still background with a textured subject put at (x, y), to a fraction of a pixel.
Coded8 scene(double x, double y, double radius, int noise_seed, double brightness = 1) {
  const Size size{900, 600};
  Coded8 p(size);
  std::mt19937 random(static_cast<unsigned>(noise_seed));
  std::normal_distribution<double> noise(0, 2);
  const auto texture = [](double u, double v) {
    return 18 * std::sin(u * 0.21) * std::cos(v * 0.17) + 14 * std::sin(u * 0.05 + v * 0.07);
  };
  for (int j = 0; j < size.height; ++j)
    for (int i = 0; i < size.width; ++i) {
      const double d = std::hypot(i - x, j - y);
      const double inside = std::clamp(radius - d + 0.5, 0.0, 1.0);
      const double ground = 90 + texture(i, j), subject = 150 + 1.6 * texture(1.7 * (i - x), 1.7 * (j - y));
      const double v = brightness * (ground * (1 - inside) + subject * inside) + noise(random);
      for (int c = 0; c < 3; ++c) p.row(j)[3 * i + c] = static_cast<std::uint8_t>(std::clamp(v, 0.0, 255.0));
    }
  return p;
}

TEST(Motion, FindsWhatMovedOverAStillBackground) {
  for (const auto& [dx, dy] :
       {std::pair{6.0, 0.0}, {-12.5, 0.0}, {0.0, 9.0}, {7.0, -7.0}, {40.0, 5.0}, {150.0, -30.0}}) {
    const Motion m = find_motion(scene(400, 300, 70, 1), scene(400 + dx, 300 + dy, 70, 2), {3600, 2400}, 10);
    EXPECT_NEAR(m.dx, 4 * dx, 4 * 0.8 + 0.04 * std::abs(4 * dx)) << dx << ", " << dy;
    EXPECT_NEAR(m.dy, 4 * dy, 4 * 0.8 + 0.04 * std::abs(4 * dx)) << dx << ", " << dy;
    EXPECT_NEAR(m.px_per_s, std::hypot(m.dx, m.dy) / 10, 1e-9);
    EXPECT_NEAR(m.frame_widths_per_s, m.px_per_s / 3600, 1e-12);
    EXPECT_FALSE(m.arrows.empty());
  }
  EXPECT_NEAR(find_motion(scene(400, 300, 70, 1), scene(400, 280, 70, 2), {900, 600}, 1).direction_deg, 90,
              4);
}

TEST(Motion, StandsBrightnessThatChangesAndSaysWhenNothingMoves) {
  const Motion m = find_motion(scene(400, 300, 70, 1), scene(410, 300, 70, 2, 0.8), {900, 600}, 5);
  EXPECT_NEAR(m.dx, 10, 1.2);
  EXPECT_EQ(test::error_of([] {
              find_motion(scene(400, 300, 70, 1), scene(400, 300, 70, 2), {900, 600}, 5);
            }).kind(),
            Error::Kind::Failed);
  EXPECT_EQ(test::error_of([] {
              find_motion(scene(400, 300, 70, 1), Coded8({30, 20}), {900, 600}, 5);
            }).kind(),
            Error::Kind::BadInput);
}

/// A plain scene of any size, the subject at a fraction of a pixel.
Coded8 large(Size size, double x, double y, int noise_seed) {
  Coded8 p(size);
  std::mt19937 random(static_cast<unsigned>(noise_seed));
  std::normal_distribution<double> noise(0, 2);
  const double r = size.width / 14.0;
  for (int j = 0; j < size.height; ++j)
    for (int i = 0; i < size.width; ++i) {
      const double u = i - x, v = j - y, inside = std::clamp(r - std::hypot(u, v) + 0.5, 0.0, 1.0);
      const double ground = 90 + 18 * std::sin(i * 0.07) * std::cos(j * 0.05);
      const double subject =
          150 + 26 * std::sin(u * 0.11) * std::cos(v * 0.09) + 20 * std::sin(u * 0.04 + v * 0.06);
      const double light = ground * (1 - inside) + subject * inside + noise(random);
      for (int c = 0; c < 3; ++c)
        p.row(j)[3 * i + c] = static_cast<std::uint8_t>(std::clamp(light, 0.0, 255.0));
    }
  return p;
}

TEST(Motion, MeasuresSmallMovesToATenthOfAPixelOfTheFullPicture) {
  const test::Folder folder;
  const Size size{3000, 1200};
  test::write(folder / "a.jpg", media::encode_jpeg(large(size, 1400, 600, 1), 95));
  for (const auto& [dx, dy] : {std::pair{7.0, 0.0}, std::pair{-3.4, 1.3}, std::pair{12.3, -8.6}}) {
    test::write(folder / "b.jpg", media::encode_jpeg(large(size, 1400 + dx, 600 + dy, 2), 95));
    const Motion m = motion_between(folder / "a.jpg", folder / "b.jpg", 2);
    EXPECT_NEAR(m.dx, dx, 0.1) << dx;
    EXPECT_NEAR(m.dy, dy, 0.1) << dx;
  }
}

TEST(Motion, DrawsNoArrowOnWhatStandsStill) {
  const Motion m = find_motion(scene(400, 300, 70, 1), scene(412, 300, 70, 2), {900, 600}, 10);
  ASSERT_GT(m.arrows.size(), 20u);
  for (const Arrow& a : m.arrows) {
    EXPECT_LT(std::hypot(a.x - 400, a.y - 300), 70 + 16) << a.x << ", " << a.y;
    EXPECT_NEAR(a.dx, 12, 6.1);
  }
}

/// Two frames of the stand-in: the clouds' speed is known, the boats and the ripples are in the way.
TEST(Motion, MeasuresTheCloudsOfTernQuay) {
  const test::Folder folder;
  take::Take take = test::small_take(3, {1500, 1000}, 30);
  take.stand_in.camera.aperture_spread_stops = 0.05;
  simulate::shoot(forecast::shoot_order(take, folder / "card"));
  const auto file = [&](int n) {
    return folder / "card" / "DCIM/100QUAY" / ("QUAY0" + std::to_string(n) + ".JPG");
  };
  const Motion m = motion_between(file(218), file(220));
  EXPECT_NEAR(m.seconds, 60, 0.01);
  EXPECT_NEAR(m.crossing_s, simulate::kCloudCrossing_s, 0.05 * simulate::kCloudCrossing_s);
  EXPECT_LT(std::min(m.direction_deg, 360 - m.direction_deg), 12);
  // Whichever way round they are named.
  EXPECT_NEAR(motion_between(file(220), file(218)).direction_deg, m.direction_deg, 1e-6);
}

TEST(Motion, FollowsFromSpeedAndDistanceAndFromMarks) {
  // 10 m/s at 500 m with 50 mm on 36 mm: the frame is 360 m wide there, 36 s to cross.
  EXPECT_NEAR(1 / frame_widths_per_s(10, 500, 50, 36), 36, 1e-9);
  const Motion m = motion_marked(100, 200, 400, 200, {6000, 4000}, 10);
  EXPECT_NEAR(m.crossing_s, 200, 1e-9);
  EXPECT_NEAR(m.direction_deg, 0, 1e-9);
  EXPECT_EQ(test::error_of([] { motion_marked(1, 1, 1, 1, {10, 10}, 1); }).kind(), Error::Kind::BadInput);
}

}  // namespace
}  // namespace askcount::motion
