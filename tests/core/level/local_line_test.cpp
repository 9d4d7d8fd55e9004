// SPDX-License-Identifier: GPL-3.0-or-later
// The local line that levelling smooths by, and anchors over film time: what they must do whatever the
// values.
#include "level/smoothing.h"
#include "render/anchors.h"
#include "render/view.h"
#include "support.h"

namespace askcount {
namespace {

const auto all_known = [](long) { return true; };

TEST(LocalLine, LeavesALineAndHalvesAJump) {
  const auto line = [](long i) { return 3.0 - 0.25 * static_cast<double>(i); };
  for (const long c : {0L, 3L, 50L, 99L})
    for (const long reach : {1L, 5L, 40L})
      EXPECT_NEAR(level::local_line(line, all_known, c, 100, reach), line(c), 1e-9)
          << "at the ends too, where a mean would bend it";
  const auto jump = [](long i) { return i < 50 ? 0.0 : 1.0; };
  const double left = level::local_line(jump, all_known, 49, 100, 10),
               right = level::local_line(jump, all_known, 50, 100, 10);
  EXPECT_GT(left, 0.3);
  EXPECT_LT(right, 0.7);
  EXPECT_NEAR(left + right, 1, 1e-9);
  EXPECT_NEAR(level::local_line(jump, all_known, 30, 100, 10), 0, 1e-9) << "farther than it reaches";
}

TEST(LocalLine, CountsOnlyWhatIsKnown) {
  const auto known = [](long i) { return i != 5; };
  const auto spike = [](long i) { return i == 5 ? 1000.0 : 2.0; };
  EXPECT_NEAR(level::local_line(spike, known, 5, 11, 3), 2, 1e-9);
  EXPECT_EQ(level::local_line(
                spike, [](long) { return false; }, 5, 11, 3),
            0);
  EXPECT_NEAR(level::local_line(
                  spike, [](long i) { return i == 4; }, 5, 11, 3),
              2, 1e-9)
      << "one alone gives its value";
  double sum = 0;
  for (const auto& [i, w] : level::line_weights(known, 5, 11, 3)) {
    sum += w;
    EXPECT_NE(i, 5);
    EXPECT_LE(std::abs(i - 5), 3);
  }
  EXPECT_NEAR(sum, 1, 1e-9);
}

TEST(Anchors, AreSetMovedAndTakenAwayInTheirOrder) {
  std::vector<render::ViewAnchor> list;
  render::set_anchor(list, render::ViewAnchor{5, {}}, 0.5);
  render::set_anchor(list, render::ViewAnchor{1, {}}, 0.5);
  render::set_anchor(list, render::ViewAnchor{8, {}}, 0.5);
  render::View moved;
  moved.width = 0.5;
  render::set_anchor(list, render::ViewAnchor{5.4, moved}, 0.5);  // so near that it is that one
  ASSERT_EQ(list.size(), 3u);
  EXPECT_EQ(list[1].at_s, 5) << "its time stays";
  EXPECT_EQ(list[1].view.width, 0.5);
  EXPECT_EQ(render::anchor_near(list, 5.5, 0.5), nullptr) << "just too far";
  EXPECT_EQ(render::anchor_near(list, 5.49, 0.5), &list[1]);
  render::move_anchor(list, 1, 9, 0.5);
  EXPECT_EQ(list[1].at_s, 7.5) << "not past the next one";
  render::move_anchor(list, 1, 0, 0.5);
  EXPECT_EQ(list[1].at_s, 1.5);
  render::move_anchor(list, 0, -3, 0.5);
  EXPECT_EQ(list[0].at_s, 0) << "nor before the film";
  EXPECT_FALSE(render::remove_anchor(list, 4, 0.5));
  EXPECT_TRUE(render::remove_anchor(list, 1.4, 0.5));
  EXPECT_EQ(list.size(), 2u);
}

TEST(Views, PartsHoldAllOfAView) {
  const image::Size frame{600, 400}, film{160, 90};
  const render::View whole = render::whole_view(frame, film);
  EXPECT_EQ(whole.width, 1);
  const image::RectF part = render::part_of(whole, frame, film);
  EXPECT_NEAR(part.width, 1, 1e-9);
  EXPECT_NEAR(part.height, 600.0 * 90 / 160 / 400, 1e-9);
  EXPECT_NEAR(part.y, (1 - part.height) / 2, 1e-9);
  render::View turned = whole;
  turned.width = 0.5;
  turned.turn_deg = 90;
  const image::RectF upright = render::part_of(turned, frame, film);
  EXPECT_NEAR(upright.height * 400, 300, 1e-6) << "300 pixels across stand upright";
  EXPECT_NEAR(upright.width * 600, 300 * 90.0 / 160, 1e-6);
  EXPECT_NEAR(render::density(whole, frame, film), 600.0 / 160, 1e-9);
  render::View out = whole;
  out.x = 0.9;
  out.width = 0.5;
  EXPECT_FALSE(render::lies_within(out, frame, film));
  const render::View held = render::held_within(out, frame, film);
  EXPECT_TRUE(render::lies_within(held, frame, film));
  EXPECT_NEAR(held.width, 0.5, 1e-6) << "moved, not narrowed";
}

}  // namespace
}  // namespace askcount
