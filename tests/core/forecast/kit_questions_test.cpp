// SPDX-License-Identifier: GPL-3.0-or-later
// A kit told by photographs of a camera that is not the stand-in, and what is then still asked.
#include "forecast/kit_questions.h"

#include "cards.h"
#include "forecast/forecast.h"
#include "forecast/lasts.h"

namespace askcount::forecast {
namespace {

using plan::Slot;

class KitTest : public ::testing::Test {
 protected:
  void SetUp() override {
    test::Card c;
    c.frames = 4;
    c.size = {600, 400};
    c.first_number = 311;
    c.info = [](int n, media::ShotInfo i) {
      i.lens = "Field 35";
      i.focal_mm = 35;
      i.f_number = n == 0 ? 2.0 : 11;
      i.focal_35mm = 52;  // 1.486 times: a diagonal of 29.12 mm, 24.2 mm across
      i.shutter_s = n == 1 ? 1.0 / 4000 : 2;
      return i;
    };
    write_card(c, folder_ / "mine");
    take_.wish(Slot::Fps, 25);
    take_.wish(Slot::Frames, 600);
    take_.wish(Slot::Interval, 2);
    take_.wish(Slot::Shutter, 0.5);
    take_ = with_photographs(take_, {folder_ / "mine"}, &told_);
  }
  static const KitQuestion* asks(const std::vector<KitQuestion>& list, const std::string& key) {
    for (const KitQuestion& q : list)
      if (q.key == key) return &q;
    return nullptr;
  }
  test::Folder folder_;
  take::Take take_;
  ToldByPhotographs told_;
};

TEST_F(KitTest, IsToldByPhotographs) {
  ASSERT_TRUE(take_.knows_kit());
  ASSERT_EQ(take_.kit.bodies.size(), 1U);
  const plan::Body& b = take_.body();
  EXPECT_EQ(b.name, "Field 1");
  EXPECT_EQ(b.pixels_across, 600);
  EXPECT_EQ(b.pixels_down, 400);
  EXPECT_NEAR(b.sensor_width_mm, 24.2, 0.06);
  EXPECT_NEAR(b.sensor_height_mm, 16.2, 0.06);
  EXPECT_EQ(b.next_file_number, 315);
  EXPECT_NEAR(b.shortest_shutter_s, 1.0 / 4000, 1e-6);
  EXPECT_EQ(take_.lens().name, "Field 35");
  EXPECT_DOUBLE_EQ(take_.lens().widest_f, 2);
  // Nobody has said the rest, and the kit knows that.
  EXPECT_NE(std::find(b.guessed.begin(), b.guessed.end(), "writing_s"), b.guessed.end());
  EXPECT_EQ(std::find(b.guessed.begin(), b.guessed.end(), "sensor_width_mm"), b.guessed.end());
  EXPECT_EQ(plan::kit_from_json(plan::to_json(take_.kit), "kit"), [this] {
    plan::Kit k = take_.kit;
    k.timers = plan::shipped_timers();
    return k;
  }());
}

TEST_F(KitTest, AsksOnlyWhatChangesTheTakeAndTheWeightiestFirst) {
  const auto questions = kit_questions(take_);
  ASSERT_FALSE(questions.empty());
  for (size_t i = 0; i < questions.size(); ++i) {
    const KitQuestion& q = questions[i];
    if (i > 0) {
      EXPECT_LE(q.frames_apart, questions[i - 1].frames_apart);
    }
    // As it says: what comes with a usual little of it and with a usual much.
    const long long little = forecast_of(answered(take_, q.key, q.least)).frames,
                    much = forecast_of(answered(take_, q.key, q.most)).frames;
    EXPECT_EQ(q.frames_apart, std::abs(little - much)) << q.key;
    EXPECT_GT(q.frames_apart, 0) << q.key;
  }
  EXPECT_TRUE(asks(questions, "rated_shots"));
  EXPECT_TRUE(asks(questions, "writing_s"));
  // A take of 30 frames a minute apart: none of it matters.
  take::Take easy = take_;
  easy.wish(Slot::Interval, 60);
  easy.wish(Slot::Frames, 30);
  EXPECT_TRUE(kit_questions(easy).empty());
}

TEST_F(KitTest, TakesAnswersAndAsksNoMore) {
  take::Take t = answered(take_, "writing_s", 1.1);
  EXPECT_DOUBLE_EQ(t.body().writing_s, 1.1);
  EXPECT_FALSE(asks(kit_questions(t), "writing_s"));
  t = answered(t, "rated_shots", 420);
  ASSERT_EQ(t.kit.batteries.size(), 1U);
  EXPECT_DOUBLE_EQ(t.kit.batteries[0].rated_shots, 420);
  EXPECT_FALSE(asks(kit_questions(t), "rated_shots"));
  EXPECT_THROW(answered(t, "writing_s", -1), Error);
  EXPECT_THROW(answered(t, "colour", 1), Error);
  EXPECT_THROW(answered(take::Take(), "writing_s", 1), Error);
}

TEST_F(KitTest, LastsUntilTheFirstThingEnds) {
  take::Take t = answered(take_, "rated_shots", 300);
  t = answered(t, "capacity_gb", 256);
  t.cold_counts = false;
  const take::Take whole = as_long_as_it_lasts(t);
  EXPECT_EQ(whole.sums().frames, 300);
  EXPECT_EQ(forecast_of(whole).ends_by, End::Plan);
  take::Take more = whole;
  more.wish(Slot::Frames, 302);
  EXPECT_EQ(forecast_of(more).ends_by, End::Battery);
  EXPECT_NE(lengths_words(whole).find("12.5 s at 24 fps, 12 s at 25 fps, 10 s at 30 fps"), std::string::npos);
  // Half an hour in the field alone: 300 shots in 1,800 s are one every 6 s.
  take::Take half = t;
  for (const Slot s : {Slot::Frames, Slot::Interval}) half.release(s);
  half.wish(Slot::Field, 1800);
  const take::Take fits = as_long_as_it_lasts(half);
  EXPECT_DOUBLE_EQ(fits.sums().interval_s, 6);
  EXPECT_EQ(fits.sums().frames, 300);
  EXPECT_THROW(as_long_as_it_lasts(take::Take()), Error);
}

}  // namespace
}  // namespace askcount::forecast
