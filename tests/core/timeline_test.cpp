// Which frame a film shows when, against counts done by hand.
#include "cut/timeline.h"

#include "base/error.h"
#include "support.h"

namespace askcount::cut {
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
}  // namespace askcount::cut
