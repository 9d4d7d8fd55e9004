// SPDX-License-Identifier: GPL-3.0-or-later
// The view on the frame, and pictures seen through it.
#include "render/view.h"

#include <cmath>

#include "base/error.h"
#include "image/resample_rows.h"
#include "image/sampling.h"
#include "painted.h"

namespace askcount::render {
namespace {

const image::Size kFrame{6000, 4000}, kWide{1920, 1080}, kTall{1080, 1920};

TEST(View, IsOfTheFilmsShapeAndNeverSquashed) {
  for (const image::Size film : {kWide, kTall, image::Size{1080, 1080}, image::Size{2390, 1000}}) {
    const View whole = whole_view(kFrame, film);
    EXPECT_TRUE(lies_within(whole, kFrame, film));
    const image::Affine map = film_to_frame(whole, kFrame, film);
    EXPECT_DOUBLE_EQ(map.xx, map.yy);
    const View larger{whole.x, whole.y, whole.width * 1.01, 0};
    EXPECT_FALSE(lies_within(larger, kFrame, film)) << "it is the largest";
  }
  EXPECT_NEAR(whole_view(kFrame, kTall).width, 4000.0 / 1920 * 1080 / 6000, 1e-9);
  EXPECT_NEAR(density({0.5, 0.5, 0.28, 0}, kFrame, kWide), 0.875, 1e-9) << "1,680 pixels for 1,920";
}

TEST(View, GoesEasedFromAnchorToAnchor) {
  const std::vector<ViewAnchor> zoom = {{1, {0.5, 0.5, 0.8, 0}}, {3, {0.3, 0.6, 0.2, 4}}};
  EXPECT_EQ(view_at(zoom, 0, kFrame, kWide), zoom[0].view);
  EXPECT_EQ(view_at(zoom, 9, kFrame, kWide), zoom[1].view);
  const View middle = view_at(zoom, 2, kFrame, kWide);
  EXPECT_NEAR(middle.width, 0.4, 1e-9) << "half way a zoom of four times has done twice";
  EXPECT_NEAR(middle.turn_deg, 2, 1e-9);
  // The place that the zoom heads for stays on one straight way on the screen.
  EXPECT_NEAR((middle.x - 0.5) / (middle.y - 0.5), (0.3 - 0.5) / (0.6 - 0.5), 1e-9);
  EXPECT_NEAR(view_at(zoom, 1.02, kFrame, kWide).width, 0.8, 0.001) << "a gentle start";
}

TEST(View, IsHeldInTheFrame) {
  const View over = held_within({0.05, 0.9, 0.5, 0}, kFrame, kWide);
  EXPECT_TRUE(lies_within(over, kFrame, kWide));
  EXPECT_NEAR(over.x, 0.25, 1e-9);
  EXPECT_TRUE(lies_within(held_within({0.5, 0.5, 1, 30}, kFrame, kWide), kFrame, kWide));
  try {
    check_views({{0, {0.1, 0.5, 0.5, 0}}}, kFrame, kWide);
    FAIL();
  } catch (const Error& e) {
    EXPECT_NE(std::string(e.what()).find("0.25,0.5,0.5"), std::string::npos)
        << "it says what would do: " << e.what();
  }
  EXPECT_THROW(check_views({{0, {0.5, 0.5, 0.5, 0}}, {0, {0.5, 0.5, 0.4, 0}}}, kFrame, kWide), Error);
  // Both ends lie within, the way between them does not: turned by a quarter it is too wide.
  EXPECT_THROW(check_views({{0, {0.5, 0.5, 0.6, 0}}, {2, {0.5, 0.5, 0.6, 180}}}, {6000, 2600}, kWide), Error);
}

image::Coded8 textured(image::Size size) {
  image::Coded8 p(size);
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x)
      for (int c = 0; c < 3; ++c)
        p.row(y)[3 * x + c] =
            static_cast<std::uint8_t>(std::clamp(test::texture(x + 0.5, y + 0.5), 0.0, 255.0));
  return p;
}

/// The first colour of a picture seen through a map, as codes are.
std::vector<float> seen(const image::Coded8& p, const image::Affine& map, image::Size to,
                        image::Kernel kernel) {
  std::vector<float> out;
  image::sample_rows(
      image::Sampling(p.size, map, to, kernel),
      [&](int row, float* room) {
        for (int i = 0; i < 3 * p.size.width; ++i) room[i] = p.row(row)[i];
        return static_cast<const float*>(room);
      },
      [&](int, const float* row) {
        for (int x = 0; x < to.width; ++x) out.push_back(row[4 * x]);
      });
  return out;
}

TEST(Sampling, ShowsThePlaceItIsAskedForToATwentiethOfAPixel) {
  const image::Size size{200, 150}, to{80, 60};
  const image::Coded8 p = textured(size);
  for (const image::Kernel kernel : {image::Kernel::Calm, image::Kernel::Crisp})
    for (const double turn : {0.0, 0.7, 33.0, 90.0, 180.0})
      for (const double shift : {0.0, 0.21, 0.5, 0.83}) {
        const image::Affine map =
            image::Affine::turned(turn, 100, 75).after(image::Affine::shifted(60 + shift, 45 - shift / 2));
        const auto got = seen(p, map, to, kernel);
        // Moved by a little more the texture fits worse: the shift is told by where it fits best.
        double best = 1e18, best_off = 9;
        for (double off = -0.3; off < 0.31; off += 0.05) {
          double sum = 0;
          for (int y = 0; y < to.height; ++y)
            for (int x = 0; x < to.width; ++x) {
              const auto [u, v] = map(x + 0.5 + off, y + 0.5);
              const double d = got[static_cast<size_t>(y * to.width + x)] - test::texture(u, v) + 0.5;
              sum += d * d;
            }
          if (sum < best) best = sum, best_off = off;
        }
        EXPECT_LE(std::abs(best_off), 0.051) << turn << " " << shift;
      }
}

TEST(Sampling, TheTwoWaysOfAStraightMapAgree) {
  const image::Coded8 p = textured({200, 150});
  const image::Affine map{1.7, 0, 12.3, 0, 1.7, 7.9};
  const auto apart = seen(p, map, {90, 70}, image::Kernel::Calm);
  std::vector<float> straight;
  image::resample_rows(
      image::Resampling(p.size, map, {90, 70}, image::Kernel::Calm),
      [&](int row, float* room) {
        for (int i = 0; i < 600; ++i) room[i] = p.row(row)[i];
        return static_cast<const float*>(room);
      },
      [&](int, const float* row) {
        for (int x = 0; x < 90; ++x) straight.push_back(row[4 * x]);
      });
  for (size_t i = 0; i < apart.size(); ++i) ASSERT_NEAR(apart[i], straight[i], 0.25) << i;
}

TEST(Sampling, CalmHasNoHalosAndCrispIsSharper) {
  image::Coded8 p({60, 40});
  for (int y = 0; y < 40; ++y)
    for (int x = 0; x < 180; ++x) p.row(y)[x] = x < 90 ? 50 : 200;
  for (const double shift : {0.0, 0.3, 0.5}) {
    const image::Affine map = image::Affine::turned(0.2, 30, 20).after(image::Affine::shifted(shift, 0));
    const auto calm = seen(p, map, {58, 38}, image::Kernel::Calm);
    const auto crisp = seen(p, map, {58, 38}, image::Kernel::Crisp);
    EXPECT_GE(*std::min_element(calm.begin(), calm.end()), 49.9F);
    EXPECT_LE(*std::max_element(calm.begin(), calm.end()), 200.1F);
    float calm_step = 0, crisp_step = 0;  // the more of the edge lies in one step the sharper it is
    for (int x = 1; x < 58; ++x) {
      const size_t at = static_cast<size_t>(58 * 19 + x);
      calm_step += (calm[at] - calm[at - 1]) * (calm[at] - calm[at - 1]);
      crisp_step += (crisp[at] - crisp[at - 1]) * (crisp[at] - crisp[at - 1]);
    }
    EXPECT_GT(crisp_step, calm_step * 1.15F) << shift;
  }
}

}  // namespace
}  // namespace askcount::render
