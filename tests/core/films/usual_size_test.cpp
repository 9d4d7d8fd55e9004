// SPDX-License-Identifier: GPL-3.0-or-later
// How large a film is that nobody has sized.
#include "films/film.h"
#include "support.h"

namespace askcount::films {
namespace {

TEST(UsualSize, IsTheLargestThatTheFrameFills) {
  EXPECT_EQ(usual_size_for({6000, 4000}), (image::Size{3840, 2160}));
  EXPECT_EQ(usual_size_for({3839, 2500}), (image::Size{1920, 1080}));
  EXPECT_EQ(usual_size_for({3000, 2000}), (image::Size{1920, 1080}));
  EXPECT_EQ(usual_size_for({1500, 1000}), (image::Size{1280, 720}));
  EXPECT_EQ(usual_size_for({768, 512}), (image::Size{640, 360}));
  EXPECT_EQ(usual_size_for({2000, 3000}), (image::Size{1080, 1920}));
  EXPECT_EQ(usual_size_for({241, 161}), (image::Size{240, 160}));
}

}  // namespace
}  // namespace askcount::films
