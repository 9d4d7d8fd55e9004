// SPDX-License-Identifier: GPL-3.0-or-later
// Which frame a film shows when, against counts done by hand.
#include "render/timeline.h"

#include "base/error.h"
#include "render/anchors.h"
#include "support.h"

namespace askcount::render {
namespace {

const FrameRate k25{25, 1};

std::vector<double> places(const Choice& c, long long frames) {
  const Timeline t(c, frames, k25);
  std::vector<double> out;
  for (size_t n = 0; n < t.frames(); ++n) out.push_back(t.take_place(n));
  return out;
}

TEST(Timeline, GoesFrameByFrameWhereNothingIsSaid) {
  EXPECT_EQ(places({}, 4), (std::vector<double>{0, 1, 2, 3}));
  EXPECT_EQ(places({}, 1), (std::vector<double>{0}));
}

TEST(Timeline, ChoosesAndTurnsAbout) {
  Choice c;
  c.first = 3, c.last = 9, c.every = 3;
  EXPECT_EQ(places(c, 20), (std::vector<double>{2, 5, 8}));
  c.way = Way::Backward;
  EXPECT_EQ(places(c, 20), (std::vector<double>{8, 5, 2}));
  c.way = Way::ToAndFro;
  EXPECT_EQ(places(c, 20), (std::vector<double>{2, 5, 8, 5, 2})) << "the turn is shown once";
  c.way = Way::Forward;
  c.still_first_s = 0.08;
  c.still_last_s = 0.04;
  EXPECT_EQ(places(c, 20), (std::vector<double>{2, 2, 2, 5, 8, 8}));
}

TEST(Timeline, SlowerLiesBetweenAndFasterPassesOver) {
  Choice c;
  c.speed = {{0, 0.5}};
  EXPECT_EQ(places(c, 3), (std::vector<double>{0, 0.5, 1, 1.5, 2})) << "it ends with the last frame";
  c.every = 4;
  EXPECT_EQ(places(c, 9), (std::vector<double>{0, 2, 4, 6, 8})) << "between those that were chosen";
  c.every = 1;
  c.speed = {{0, 3}};
  EXPECT_EQ(places(c, 9), (std::vector<double>{0, 3, 6}));
  c.speed = {{0, 0.1}};  // tenths add up to whole frames
  EXPECT_EQ(places(c, 5)[30], 3);
  EXPECT_EQ(places(c, 5).size(), 41u);
}

TEST(Timeline, ACurveIsEasedAndGoesAsFarAsItsSpeedsAddUpTo) {
  Choice c;
  c.speed = {{0, 1}, {2, 4}};
  EXPECT_EQ(Timeline::speed_at(c.speed, 0), 1);
  EXPECT_NEAR(Timeline::speed_at(c.speed, 1), 2, 1e-9) << "half way between once and four times is twice";
  EXPECT_NEAR(Timeline::speed_at(c.speed, 0.1), 1, 0.02) << "a gentle start";
  EXPECT_EQ(Timeline::speed_at(c.speed, 7), 4);
  const auto p = places(c, 1000);
  double sum = 0;
  for (int n = 0; n < 50; ++n)
    sum += 0.5 * (Timeline::speed_at(c.speed, n / 25.0) + Timeline::speed_at(c.speed, (n + 1) / 25.0));
  EXPECT_NEAR(p[50], sum, 1e-6);
  for (size_t n = 1; n < p.size(); ++n) ASSERT_GT(p[n], p[n - 1]);
  EXPECT_NEAR(p[80] - p[79], 4, 1e-6);
}

TEST(Timeline, MissingFramesHaveTheirTime) {
  // Frames 0 1 2 _ _ 3 4: two are missing after the third.
  const std::vector<Gap> gaps = {{2, 2}};
  const auto with = [&](const Choice& c, const std::vector<Gap>& g) {
    const Timeline t(c, 5, k25, g);
    std::vector<double> out;
    for (size_t n = 0; n < t.frames(); ++n) out.push_back(t.take_place(n));
    return out;
  };
  const std::vector<double> filled = {0, 1, 2, 2 + 1 / 3.0, 2 + 2 / 3.0, 3, 4};
  const auto near = [](const std::vector<double>& a, const std::vector<double>& b) {
    if (a.size() != b.size()) return false;
    for (size_t n = 0; n < a.size(); ++n)
      if (std::abs(a[n] - b[n]) > 1e-9) return false;
    return true;
  };
  EXPECT_TRUE(near(with({}, gaps), filled));
  const Timeline t({}, 5, k25, gaps);
  EXPECT_EQ(t.many_missing(), 2u);
  EXPECT_TRUE(t.missing(3) && t.missing(4));
  EXPECT_FALSE(t.missing(2) || t.missing(5));
  Choice back;
  back.way = Way::Backward;
  EXPECT_TRUE(near(with(back, gaps), {filled.rbegin(), filled.rend()}));
  Choice fast;
  fast.speed = {{0, 2}};
  EXPECT_TRUE(near(with(fast, gaps), {0, 2, 2 + 2 / 3.0, 4})) << "every second beat";
  Choice over;
  over.make_missing = false;
  EXPECT_EQ(with(over, gaps), (std::vector<double>{0, 1, 2, 3, 4}));
  EXPECT_EQ(with({}, {{2, kLongestGap + 1}}).size(), 5u) << "a pause is gone over";
  EXPECT_EQ(Timeline({}, 5, k25, {}).many_missing(), 0u);
}

TEST(Timeline, AnExcerptIsThatPartOfTheFilm) {
  Choice c;
  c.speed = {{0, 0.5}};
  const Timeline all(c, 40, k25);
  Timeline part = all;
  part.keep(30, 10, 3);
  ASSERT_EQ(part.frames(), 10u);
  for (size_t n = 0; n < 10; ++n) EXPECT_NEAR(part.take_place(n), all.take_place(30 + n), 1e-9) << n;
  EXPECT_LE(part.sequence().size(), 10u) << "frames that it does not need are not read";
  EXPECT_EQ(part.sequence().front(), 12u) << "15 less the reach of a trail";
}

TEST(Anchors, AreSetMovedAndTakenAwayInOrder) {
  std::vector<SpeedAnchor> a;
  set_anchor(a, SpeedAnchor{2, 3}, 0.02);
  set_anchor(a, SpeedAnchor{1, 2}, 0.02);
  set_anchor(a, SpeedAnchor{1.01, 5}, 0.02);
  EXPECT_EQ(a, (std::vector<SpeedAnchor>{{1, 5}, {2, 3}})) << "one that near gives way";
  move_anchor(a, 0, 7, 0.04);
  EXPECT_DOUBLE_EQ(a[0].at_s, 1.96) << "no further than its neighbour";
  move_anchor(a, 0, -3, 0.04);
  EXPECT_EQ(a[0].at_s, 0);
  EXPECT_FALSE(remove_anchor(a, 1, 0.02));
  EXPECT_TRUE(remove_anchor(a, 2.01, 0.02));
  EXPECT_EQ(a, (std::vector<SpeedAnchor>{{0, 5}}));
}

TEST(Timeline, RefusesWhatIsNotThere) {
  const auto refused = [](Choice c, long long frames, const char* named) {
    try {
      Timeline(c, frames, k25);
      ADD_FAILURE() << named;
    } catch (const Error& e) {
      EXPECT_EQ(e.kind(), Error::Kind::BadInput);
      EXPECT_NE(std::string(e.what()).find(named), std::string::npos) << e.what();
    }
  };
  Choice c;
  c.last = 30;
  refused(c, 20, "20 frames");
  c.first = 31;
  refused(c, 40, "31 to 30");
  c = {};
  c.speed = {{0, 1}, {0, 2}};
  refused(c, 20, "Two speeds");
  c.speed = {{0, 0.01}};
  refused(c, 20, "0.01");
  c.speed = {{-1, 1}};
  refused(c, 20, "before the film");
  c = {};
  c.trail = 2, c.bright = 5;
  refused(c, 20, "not both");
  c = {};
  c.speed = {{0, 0.05}};
  refused(c, 100'000, "1,000,000");
}

}  // namespace
}  // namespace askcount::render
