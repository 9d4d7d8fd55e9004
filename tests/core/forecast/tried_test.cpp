// SPDX-License-Identifier: GPL-3.0-or-later
// Test frames of a camera that is not the stand-in, held against a plan whose every number is known.
#include "forecast/tried.h"

#include "cards.h"
#include "take/fix.h"

namespace askcount::forecast {
namespace {

using plan::Slot;

/// 480 frames, one every 8 s, 2 s open, with a kit of this camera and a timer that counts the interval.
take::Take planned() {
  take::Take t;
  t.kit = plan::demo_kit();
  t.kit.bodies.front().name = "Field 1";
  t.timer = "Built-in interval";
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Frames, 480);
  t.wish(Slot::Interval, 8);
  t.wish(Slot::Shutter, 2);
  return t;
}

/// Ten frames as planned.
test::Card ten() {
  test::Card c;
  c.frames = 10;
  c.interval_s = 8;
  c.first_number = 9992;
  c.info = [](int, media::ShotInfo i) {
    i.shutter_s = 2;
    return i;
  };
  return c;
}

class TriedTest : public ::testing::Test {
 protected:
  Tried of(const test::Card& card, const take::Take& take = planned()) {
    write_card(card, folder_ / "card");
    return try_frames(take, {folder_ / "card"});
  }
  static const Finding* said(const Tried& t, const std::string& code) {
    for (const Finding& f : t.findings)
      if (f.code == code) return &f;
    return nullptr;
  }
  test::Folder folder_;
};

TEST_F(TriedTest, SaysStartWhereAllIsAsPlanned) {
  const Tried t = of(ten());
  EXPECT_TRUE(t.start()) << to_json(t).dump(1);
  EXPECT_EQ(t.frames, 10U);
  EXPECT_EQ(t.beat, Beat::AsPlanned);
  EXPECT_NEAR(*t.interval_s, 8, 0.01);
  EXPECT_EQ(t.sharp, true);
  EXPECT_EQ(t.exposures_each, 1U);
  // All were heard with 6 s left in the interval: it was ready sooner, which says nothing new.
  EXPECT_NEAR(*t.busy_s, 6, 0.05);
  EXPECT_TRUE(t.busy_at_most);
  EXPECT_TRUE(t.learnt.empty());
  // 9992 to 9999, 1, 2: the next is 3. 64 GB less what is on it, in files of that size.
  EXPECT_EQ(t.next_file, "FLD_0003");
  double bytes = 0;
  std::vector<double> sizes;
  for (const auto& e : test::fs::directory_iterator(folder_ / "card"))
    bytes += static_cast<double>(e.file_size()), sizes.push_back(static_cast<double>(e.file_size()));
  std::sort(sizes.begin(), sizes.end());
  EXPECT_NEAR(static_cast<double>(*t.shots_left), (64e9 - bytes) / sizes[5], 1e9 / sizes[5]);
  EXPECT_EQ(to_json(t)["verdict"], "start");
}

TEST_F(TriedTest, TellsAGapFromAnInterval) {
  test::Card c = ten();
  c.interval_s = 10;  // 2 s open and 8 s from its end
  Tried t = of(c);
  EXPECT_FALSE(t.start());
  EXPECT_EQ(t.beat, Beat::CountsGap);
  ASSERT_TRUE(said(t, "beat_counts_gap"));
  EXPECT_NE(said(t, "beat_counts_gap")->text.find("Key in 6 s"), std::string::npos);
  EXPECT_TRUE(t.learnt.empty()) << "a timer that only presses does not know when the shutter closes";
  // One that holds counts from the end of its own press, a second: the kit learns it, and the program says
  // so.
  take::Take take = planned();
  take.timer = "Breakwater";
  c.interval_s = 9;
  t = of(c, take);
  EXPECT_EQ(t.beat, Beat::CountsGap);
  EXPECT_NE(said(t, "beat_counts_gap")->text.find("Key in 7 s"), std::string::npos);
  ASSERT_EQ(t.learnt.size(), 1U);
  const take::Take learnt = take::with_fix(take, t.learnt.front());
  EXPECT_EQ(learnt.timer_model().counts, plan::Counts::Gap);
  EXPECT_DOUBLE_EQ(program_of(learnt).setting_s, 7);
  EXPECT_DOUBLE_EQ(program_of(learnt).interval_s, 8);
}

TEST_F(TriedTest, TellsAnIntervalFromAGap) {
  // The kit has it as one that counts the gap, so 7 s were keyed in; it counted them from start to start.
  take::Take take = planned();
  take.timer = "Tidewatch cable";
  test::Card c = ten();
  c.interval_s = 7;
  const Tried t = of(c, take);
  EXPECT_EQ(t.beat, Beat::CountsShort);
  ASSERT_EQ(t.learnt.size(), 1U);
  EXPECT_EQ(take::with_fix(take, t.learnt.front()).timer_model().counts, plan::Counts::Interval);
  // The plan's gap of 6 s keyed into a timer that counts the interval: a hand's mistake.
  c.interval_s = 6;
  const Tried by_hand = of(c);
  EXPECT_EQ(by_hand.beat, Beat::CountsShort);
  EXPECT_TRUE(by_hand.learnt.empty());
  EXPECT_NE(said(by_hand, "beat_counts_interval")->text.find("Key in 8 s"), std::string::npos);
}

TEST_F(TriedTest, CountsPressesThatWereNotHeard) {
  test::Card c = ten();
  c.interval_s = 24;
  const Tried t = of(c);
  EXPECT_EQ(t.beat, Beat::EveryNth);
  EXPECT_EQ(t.every, 3);
  EXPECT_EQ(said(t, "beat_missed")->severity, Severity::Stop);
}

TEST_F(TriedTest, MeasuresAnotherBeat) {
  test::Card c = ten();
  c.interval_s = 8.5;
  c.whole_seconds = true;  // nine steps of 8.5 s are 76 or 77 s
  const Tried t = of(c);
  EXPECT_EQ(t.beat, Beat::Other);
  EXPECT_NEAR(*t.interval_s, 8.5, 1.0 / 9);
  // 479 steps of half a second.
  EXPECT_TRUE(said(t, "beat_differs"));
}

TEST_F(TriedTest, LearnsHowLongTheCameraIsBusy) {
  // A press every 2 s, 1/2 s open, but now and then the camera is ready only after 2.9 s.
  take::Take take = planned();
  take.wish(Slot::Interval, 2);
  take.wish(Slot::Shutter, 0.5);
  test::Card c = ten();
  c.interval_s = 2;
  c.frames = 34;
  c.info = [](int, media::ShotInfo i) {
    i.shutter_s = 0.5;
    return i;
  };
  c.harm = [](int n) {
    test::Harm h;
    h.late_s = n > 5 && n % 6 == 2 ? 0.9 : 0;
    return h;
  };
  const Tried t = of(c, take);
  ASSERT_TRUE(t.busy_s);
  EXPECT_FALSE(t.busy_at_most);
  EXPECT_NEAR(*t.busy_s, 2.4, 0.05);
  ASSERT_FALSE(t.learnt.empty());
  EXPECT_NEAR(take::with_fix(take, t.learnt.front()).body().writing_s, 2.4, 0.05);
}

TEST_F(TriedTest, SeesBlurClippingDarknessAndDialsLeftOnAutomatic) {
  test::Card c = ten();
  c.harm = [](int) {
    test::Harm h;
    h.blur = 3;
    return h;
  };
  EXPECT_EQ(of(c).sharp, false);
  EXPECT_TRUE(said(of(c), "not_sharp"));
  c = ten();
  c.harm = [](int) {
    test::Harm h;
    h.gain = 3;
    return h;
  };
  const Tried bright = of(c);
  EXPECT_TRUE(said(bright, "clipped"));
  EXPECT_GT(*bright.meter_stops, 1);
  c.harm = [](int) {
    test::Harm h;
    h.gain = 0.2;  // of the codes: about 4 stops of light
    return h;
  };
  const Tried dark = of(c);
  EXPECT_LT(*dark.meter_stops, -2.5);
  EXPECT_TRUE(said(dark, "exposure_off"));
  c = ten();
  c.info = [](int n, media::ShotInfo i) {
    i.shutter_s = n % 2 ? 2 : 1.6;
    i.iso = n % 3 ? 100 : 200;
    return i;
  };
  EXPECT_TRUE(said(of(c), "exposure_automatic"));
  c.info = [](int, media::ShotInfo i) {
    i.shutter_s = 1.0 / 15;
    return i;
  };
  const Tried quick = of(c);
  ASSERT_TRUE(said(quick, "dials_differ"));
  EXPECT_NE(said(quick, "dials_differ")->text.find("1/15 s, planned is 2 s"), std::string::npos);
}

TEST_F(TriedTest, SeesWhatWasLeftOnAutomatic) {
  // Focus that hunts, and a picture that wanders by three pixels: none of it is sharp enough to be seen as
  // one fault of one frame.
  test::Card c = ten();
  c.harm = [](int n) {
    test::Harm h;
    h.blur = n % 4;
    return h;
  };
  EXPECT_TRUE(of(c).hunts);
  EXPECT_TRUE(said(of(c), "focus_hunts"));
  c.harm = [](int n) {
    test::Harm h;
    h.dx = 3 * n / 9.0;
    return h;
  };
  const Tried moved = of(c);
  EXPECT_FALSE(moved.hunts);
  EXPECT_NEAR(moved.wanders_px, 3, 0.3);
  EXPECT_TRUE(said(moved, "picture_wanders"));
  // The stand-in with all of it left on, and with none.
  take::Take ten_frames = planned();
  ten_frames.kit = plan::demo_kit();
  ten_frames.wish(Slot::Frames, 10);
  ten_frames.stand_in.frame_size = {900, 600};
  for (const bool on : {false, true}) {
    const test::fs::path card = folder_ / (on ? "left on" : "off");
    simulate::RigSetting rig = rig_of(ten_frames, card, false);
    rig.auto_white_balance = rig.auto_focus = rig.stabiliser = on;
    simulate::shoot(rig);
    const Tried t = try_frames(ten_frames, {card});
    for (const char* code : {"focus_hunts", "picture_wanders", "colours_change"})
      EXPECT_EQ(said(t, code) != nullptr, on) << code << to_json(t).dump(1);
  }
}

TEST_F(TriedTest, TakesTheNewestPicturesOnTheCard) {
  test::Card old = ten();
  old.frames = 40;
  old.interval_s = 30;
  old.first_number = 1;
  old.first_ms -= 86'400'000;
  write_card(old, folder_ / "card" / "old");
  const Tried t = of(ten());
  EXPECT_EQ(t.frames, 10U);
  EXPECT_NEAR(*t.interval_s, 8, 0.01);
}

TEST_F(TriedTest, SaysWhatIsMissing) {
  test::fs::create_directories(folder_ / "empty");
  EXPECT_THROW(try_frames(planned(), {folder_ / "empty"}), Error);
  EXPECT_THROW(try_frames(planned(), {folder_ / "gone"}), Error);
  EXPECT_THROW(try_frames(take::Take(), {folder_ / "empty"}), Error);
  test::Card c = ten();
  c.frames = 2;
  const Tried t = of(c);
  EXPECT_EQ(t.beat, Beat::Unknown);
  EXPECT_FALSE(t.start());
}

}  // namespace
}  // namespace askcount::forecast
