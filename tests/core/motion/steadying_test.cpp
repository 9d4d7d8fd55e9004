// SPDX-License-Identifier: GPL-3.0-or-later
// How the camera moved, found in pictures whose every shift is known.
#include "motion/steadying.h"

#include <cmath>

#include "base/error.h"
#include "motion/camera_path.h"
#include "painted.h"

namespace askcount::motion {
namespace {

const image::Size kFrame{480, 320};

/// What each frame is moved by, in pixels and degrees.
struct Moved {
  double dx = 0, dy = 0, turn = 0;
};

std::vector<Moved> shaken(size_t many, double rms, unsigned seed = 3) {
  std::mt19937 draw(seed);
  std::normal_distribution<double> normal(0, rms / 2);  // from frame to frame, both ways, twice that
  std::vector<Moved> all(many);
  for (size_t n = 1; n < many; ++n) all[n] = {normal(draw), normal(draw), normal(draw) / 60};
  return all;
}

/// The scene at a place of frame n: `scene(n, x, y)` as the first frame has it.
test::Paint through(std::vector<Moved> moved, std::function<double(size_t, double, double)> scene) {
  return [=](size_t n, double x, double y) {
    const Pose pose{moved[n].dx / kFrame.width, moved[n].dy / kFrame.width, moved[n].turn, 1, 0};
    const auto [u, v] = to_frame(pose, kFrame).back()(x, y);
    return scene(n, u, v);
  };
}

std::vector<Pose> path_of(size_t many, const test::Paint& paint) {
  std::vector<size_t> all(many);
  std::iota(all.begin(), all.end(), size_t{0});
  return measure_path(test::Painted::frames(many, kFrame), all, test::Painted(kFrame, paint), 480);
}

/// Pixels by which a path is off what was done, from frame to frame and at worst.
std::pair<double, double> off(const std::vector<Pose>& path, const std::vector<Moved>& moved) {
  double sum = 0, worst = 0;
  for (size_t n = 1; n < path.size(); ++n) {
    const double x = (path[n].dx - path[n - 1].dx) * kFrame.width - (moved[n].dx - moved[n - 1].dx);
    const double y = (path[n].dy - path[n - 1].dy) * kFrame.width - (moved[n].dy - moved[n - 1].dy);
    sum += x * x + y * y;
    worst = std::max(worst, std::hypot(x, y));
  }
  return {std::sqrt(sum / static_cast<double>(path.size() - 1)), worst};
}

TEST(CameraPath, IsFoundToAFewHundredthsOfAPixel) {
  const auto moved = shaken(30, 2.4);
  const auto path =
      path_of(30, through(moved, [](size_t, double x, double y) { return test::texture(x, y); }));
  const auto [rms, worst] = off(path, moved);
  EXPECT_LT(rms, 0.05);
  EXPECT_LT(worst, 0.12);
  for (size_t n = 0; n < 30; ++n) EXPECT_NEAR(path[n].turn_deg, moved[n].turn, 0.01) << n;
}

TEST(CameraPath, LightThatChangesIsNoMovement) {
  const auto moved = shaken(24, 1.5);
  const auto path = path_of(24, through(moved, [](size_t n, double x, double y) {
                              const double light = 1 - 0.025 * static_cast<double>(n);
                              return 12 + light * (0.4 + 0.5 * x / kFrame.width) * test::texture(x, y);
                            }));
  EXPECT_LT(off(path, moved).first, 0.06);
}

TEST(CameraPath, WhatGoesOnByItselfIsSetAside) {
  // Two thirds of the picture are clouds that drift; the ground below stands, and the camera shakes.
  const auto moved = shaken(40, 1.2);
  const auto path =
      path_of(40, through(moved, [](size_t n, double x, double y) {
                return y < 200 ? test::texture(0.6 * (x - 1.1 * static_cast<double>(n)) + 900, 0.6 * y)
                               : test::texture(x, y);
              }));
  EXPECT_LT(off(path, moved).first, 0.08);
  EXPECT_NEAR(path.back().dx * kFrame.width, moved.back().dx, 0.4) << "it does not follow the clouds";
}

TEST(CameraPath, AFrameThatCannotBeReadLiesBetweenItsNeighbours) {
  auto moved = shaken(12, 0);
  for (size_t n = 0; n < 12; ++n) moved[n].dx = 0.5 * static_cast<double>(n);
  const auto scene = through(moved, [](size_t, double x, double y) { return test::texture(x, y); });
  const auto path = path_of(12, [&](size_t n, double x, double y) { return n == 5 ? -1.0 : scene(n, x, y); });
  EXPECT_EQ(path[5].held_by, 0);
  EXPECT_NEAR(path[5].dx, (path[4].dx + path[6].dx) / 2, 1e-9);
}

TEST(Steadied, EverythingOrOnlyKnocks) {
  std::vector<Pose> path(200);
  std::mt19937 draw(5);
  std::normal_distribution<double> wind(0, 0.0002);
  for (size_t n = 0; n < path.size(); ++n) {
    path[n] = {wind(draw), wind(draw), 0, 1, 0};
    path[n].dy += 0.00002 * static_cast<double>(n);  // the tripod goes down
    if (n >= 120) path[n].dx += 0.012, path[n].turn_deg = 0.4;
  }
  EXPECT_EQ(bumps_of(path), std::vector<size_t>{120});
  const Steadied all = steadied(path, Mode::All, 1.5);
  EXPECT_EQ(all.corrections.size(), path.size());
  EXPECT_LT(all.jitter_after, 1e-9);
  EXPECT_GT(all.edge, 0.006) << "half the knock at either side";
  EXPECT_LT(all.edge, 0.05);
  const Steadied bumps = steadied(path, Mode::Bumps, 1.5);
  const auto left = [&](size_t n) { return path[n].dx - bumps.corrections[n].dx; };
  EXPECT_LT(std::abs(left(121) - left(118)), 0.0015) << "the knock is gone";
  EXPECT_NEAR(bumps.jitter_after, 0.0004, 0.0001) << "the wind stays";
  EXPECT_NEAR(path[199].dy - bumps.corrections[199].dy - (path[0].dy - bumps.corrections[0].dy), 0.004,
              0.0015)
      << "and so does what goes down slowly";
  EXPECT_TRUE(steadied(path, Mode::None, 1.5).corrections.empty());
}

TEST(Steadied, AWalkGoesOnSmoothly) {
  std::vector<Pose> path(120);
  std::mt19937 draw(7);
  std::normal_distribution<double> hand(0, 0.003);
  for (size_t n = 0; n < path.size(); ++n)
    path[n] = {0.004 * static_cast<double>(n) + hand(draw), hand(draw), 0, 1, 0};
  const Steadied s = steadied(path, Mode::Walk, 1.5, 24);
  double worst = 0;
  for (size_t n = 1; n < path.size(); ++n) {
    const double step = (path[n].dx - s.corrections[n].dx) - (path[n - 1].dx - s.corrections[n - 1].dx);
    worst = std::max(worst, std::abs(step - 0.004));
  }
  EXPECT_LT(worst, 0.0012) << "every step alike, where they were off by 0.004 and more";
  EXPECT_LT(s.edge, 0.04) << "the walk itself costs nothing";
}

TEST(Steadied, AStandingCameraIsNotShakenByItsMeasurement) {
  // It stands, or comes down slowly, and every pose is off by as much as it says.
  std::mt19937 draw(5);
  constexpr double kError = 0.0002;
  std::normal_distribution<double> off(0, kError / std::sqrt(2.0));
  for (const double down : {0.0, 0.004}) {
    std::vector<Pose> path;
    for (int n = 0; n < 200; ++n) path.push_back({off(draw), down * n / 200 + off(draw), 0, 0.6, kError});
    const Steadied s = steadied(path, Mode::All, 1.5);
    double made = 0, worst = 0;
    for (size_t n = 1; n < path.size(); ++n) {
      const Pose &a = s.corrections[n - 1], &b = s.corrections[n];
      made += std::pow(b.dx - a.dx, 2) + std::pow(b.dy - a.dy, 2);
      const double drift = down * (static_cast<double>(n) - 99.5) / 200;
      worst = std::max(worst, std::abs(b.dy - drift));
    }
    EXPECT_LT(std::sqrt(made / 199), 0.3 * s.jitter_before) << "what it makes of its own";
    EXPECT_LT(worst, 1.5 * kError) << "and the way down is followed";
    EXPECT_LE(s.jitter_after, 1.1 * s.jitter_before);
  }
  // What is plainly the camera's goes all the same.
  std::vector<Pose> shaken;
  std::normal_distribution<double> shake(0, 0.003);
  for (int n = 0; n < 100; ++n) shaken.push_back({shake(draw), shake(draw), 0, 0.6, 0.00003});
  const Steadied s = steadied(shaken, Mode::All, 1.5);
  EXPECT_LT(s.jitter_after, 0.02 * s.jitter_before);
}

TEST(Steadied, TheEdgeHidesEveryCorner) {
  std::vector<Pose> path = {{0, 0, 0, 1, 0}, {0.02, -0.01, 1.5, 1, 0}, {-0.015, 0.012, -0.7, 1, 0}};
  const image::Size frame{3000, 2000};
  const Steadied s = steadied(path, Mode::All, frame.shape());
  for (const Pose& p : s.corrections)
    for (const double cx : {-0.5, 0.5})
      for (const double cy : {-0.5, 0.5}) {
        const auto [x, y] =
            to_frame(p, frame)(1500 + cx * 3000 * (1 - s.edge), 1000 + cy * 2000 * (1 - s.edge));
        EXPECT_GE(x, -0.01);
        EXPECT_GE(y, -0.01);
        EXPECT_LE(x, 3000.01);
        EXPECT_LE(y, 2000.01);
      }
}

}  // namespace
}  // namespace askcount::motion
