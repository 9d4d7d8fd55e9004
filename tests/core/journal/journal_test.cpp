// SPDX-License-Identifier: GPL-3.0-or-later
// The journal of a shoot, what is due, and the rehearsal.
#include "journal/journal.h"

#include <cmath>
#include <limits>

#include "advice/checklist.h"
#include "advice/light_advice.h"
#include "advice/next_change.h"
#include "forecast/light.h"
#include "journal/hand.h"
#include "journal/rehearsal.h"
#include "paper/calendar.h"
#include "paper/cards.h"
#include "paper/light_strip.h"
#include "support.h"
#include "take/fix.h"

namespace askcount::journal {
namespace {

using namespace take;
using namespace advice;
using namespace forecast;
using namespace paper;

TEST(Journal, BringsAShootBackWholeAndOnTime) {
  const test::Folder folder;
  const auto file = folder / "a.journal";
  const Instant first = now() - std::chrono::seconds(95);
  {
    Journal j;
    j.open(file);
    j.append({{"what", "start"},
              {"standin", false},
              {"scale", 1.0},
              {"first_ms", first.time_since_epoch().count()},
              {"interval_s", 10.0},
              {"count", 100}});
    j.append({{"what", "turn"}, {"frame", 4}, {"dial", "shutter"}, {"thirds", 1}, {"planned", true}});
    j.append({{"what", "turn"}, {"frame", 5}, {"dial", "lever"}, {"thirds", 1}});
    j.append({{"what", "meter"}, {"frame", 5}, {"ev100", 9.5}});
    j.append({{"what", "note"}, {"frame", 6}, {"words", "Wind, \"picking\" up"}});
  }
  std::ofstream(file, std::ios::app) << "{\"what\": \"note\", \"fra";  // killed in the middle of a line
  const ShootState s = state_of(read_journal(file));
  EXPECT_TRUE(s.active);
  EXPECT_EQ(s.frame_at(now()), 9);
  EXPECT_NEAR(*s.next_shot_in(now()), 5, 0.5);
  ASSERT_EQ(s.turns.size(), 1u) << "there is no lever";
  EXPECT_EQ(s.turns[0].thirds, 1);
  ASSERT_EQ(s.readings.size(), 1u);
  EXPECT_DOUBLE_EQ(s.readings[0].ev, 9.5);
  EXPECT_EQ(s.notes[0].words, "Wind, \"picking\" up");
  // Put right: the camera is at frame 50 now.
  Journal j;
  j.open(file);
  j.append({{"what", "nothing"}});  // ends the half line
  j.append({{"what", "put"}, {"frame", 50}});
  EXPECT_EQ(state_of(read_journal(file)).frame_at(now()), 50);
  j.append({{"what", "pause"}});
  const ShootState paused = state_of(read_journal(file));
  EXPECT_EQ(paused.frame_at(now() + std::chrono::hours(1)), 50);
  j.append({{"what", "end"}});
  EXPECT_FALSE(state_of(read_journal(file)).active);
  EXPECT_TRUE(read_journal(folder / "none.journal").empty());
}

TEST(Journal, AHalfLineDoesNotSwallowTheNext) {
  const test::Folder folder;
  const auto file = folder / "a.journal";
  test::write(file,
              std::string("{\"what\":\"start\",\"count\":9}\n{\"what\":\"shot\",\"fra"));  // the power went
  Journal j;
  j.open(file);
  j.append({{"what", "shot"}, {"frame", 4}});
  EXPECT_EQ(state_of(read_journal(file)).shots, 5);
  // A file of that name that is no journal is not added to.
  test::write(folder / "b.journal", std::string("Dear diary"));
  EXPECT_EQ(test::error_of([&] { j.open(folder / "b.journal"); }).kind(), Error::Kind::BadInput);
  EXPECT_FALSE(j.is_open());
  EXPECT_EQ(read_file(folder / "b.journal"), "Dear diary");
}

TEST(Journal, AFrameBeyondAllIsTheLastThereCanBe) {
  const ShootState s = state_of(
      {{{"what", "start"}, {"count", 10}, {"interval_s", 5}},
       {{"what", "shot"}, {"frame", std::numeric_limits<long long>::max()}},
       {{"what", "shot"}, {"frame", std::numeric_limits<long long>::min()}},
       {{"what", "turn"}, {"dial", "iso"}, {"thirds", 1}, {"frame", std::numeric_limits<long long>::min()}},
       {{"what", "skip"}, {"frame", 7}}});
  EXPECT_EQ(s.shots, 1000001);
  ASSERT_EQ(s.turns.size(), 1u);
  EXPECT_EQ(s.turns[0].frame, -1);
  EXPECT_EQ(s.skipped, std::vector<long long>{7});
}

TEST(Journal, ANewShootIsANewOne) {
  const test::Folder folder;
  const auto take = folder / "tern.askcount";
  const Instant start = parse_instant("2026-10-09T17:50:00Z", "UTC");
  EXPECT_EQ(newest_journal(take), folder / "tern.journal");
  EXPECT_EQ(new_journal(take, start), folder / "tern.journal");
  test::write(folder / "tern.journal", std::string("{\"what\":\"start\"}\n"));
  const auto second = new_journal(take, start);
  EXPECT_EQ(second, folder / "tern.2026-10-09-175000.journal");
  test::write(second, std::string("{}\n"));
  EXPECT_EQ(newest_journal(take), second);
  const auto third = new_journal(take, start);
  EXPECT_EQ(third, folder / "tern.2026-10-09-175000-2.journal") << "in the same second";
  test::write(third, std::string("{}\n"));
  EXPECT_EQ(newest_journal(take), third);
  // Of other takes whose names begin alike it knows nothing.
  test::write(folder / "tern.quay.2027-01-01-000000.journal", std::string("{}\n"));
  test::write(folder / "tern.9999-01-01-000000x.journal", std::string("{}\n"));
  EXPECT_EQ(newest_journal(take), third);
  EXPECT_EQ(newest_journal(folder / "other.askcount"), folder / "other.journal");
}

/// A dusk of 200 frames, its ramp, and a shoot that runs by it.
class HandTest : public ::testing::Test {
 protected:
  HandTest() {
    rule_.frames_apart = 6;
    std::vector<double> ev;
    for (int n = 0; n < 200; ++n) ev.push_back(12 - n * 0.03);
    plan_ = ramp::ramp_by_hand(ev, rule_, 10);
    state_.active = true;
    state_.first_dials = plan_.chain.front();
    state_.interval_s = 10;
    state_.count = 200;
  }
  /// The hand does everything that is asked, from a frame to a frame.
  void follow(long long from, long long to) {
    for (long long n = from; n < to; ++n) {
      const Hand hand = hand_at(state_, plan_, rule_, n);
      if (!hand.rest.empty() && hand.rest.front().click.frame == n + 1)
        state_.turns.push_back(
            {n + 1, hand.rest.front().click.dial, hand.rest.front().click.brighter ? 1 : -1, true, {}, {}});
    }
  }
  ramp::RampRule rule_;
  ramp::Ramp plan_;
  ShootState state_;
};

TEST_F(HandTest, KeepsToThePlanWhileItIsKept) {
  ASSERT_GT(plan_.steps.size(), 6u);
  follow(-1, 199);
  EXPECT_EQ(state_.turns.size(), plan_.steps.size());
  EXPECT_EQ(dials_of(state_, plan_.chain.front(), rule_), plan_.chain.back());
}

TEST_F(HandTest, GoesOnFromWhereTheDialsStand) {
  // Nobody turned anything until after the third click: the first is due at once, the next in the late
  // distance, and nothing is counted late.
  const long long third = plan_.steps[2].click.frame;
  const Hand idle = hand_at(state_, plan_, rule_, third + 2);
  EXPECT_EQ(idle.dials, plan_.chain.front());
  ASSERT_GE(idle.rest.size(), 3u);
  EXPECT_EQ(idle.rest[0].click.frame, third + 3);
  EXPECT_EQ(idle.rest[0].before, plan_.chain.front()) << "from where they stand";
  for (size_t i = 1; i < idle.rest.size(); ++i)
    EXPECT_GE(idle.rest[i].click.frame - idle.rest[i - 1].click.frame, rule_.frames_apart_late);
  EXPECT_LT(idle.beyond, 0);
  // Clicks by oneself that nobody asked for: now it is too bright, and one is to be taken back.
  state_.turns = {{3, ramp::Dial::Shutter, 2, false, {}, {}}};
  const Hand ahead = hand_at(state_, plan_, rule_, 4);
  EXPECT_NEAR(std::log2(ahead.dials.shutter_s / plan_.chain.front().shutter_s), 2.0 / 3, 1e-6);
  EXPECT_GT(ahead.beyond, 0);
  EXPECT_FALSE(ahead.rest.front().click.brighter);
  // On another dial it is the same light.
  state_.turns = {{3, ramp::Dial::Iso, 2, false, {}, {}}};
  EXPECT_NEAR(*hand_at(state_, plan_, rule_, 4).meter, *ahead.meter, 1e-6);
}

TEST_F(HandTest, WhatIsToldAndMeteredHolds) {
  follow(-1, 60);
  // The camera stands elsewhere than anybody thought.
  state_.turns.push_back({61, ramp::Dial::Shutter, 0, false, ramp::Exposure{1.0 / 8, 8, 100}, {}});
  EXPECT_EQ(hand_at(state_, plan_, rule_, 61).dials, (ramp::Exposure{1.0 / 8, 8, 100}));
  // A cloud: the meter says two stops less than the plan thought. More light is asked for at once.
  ShootState cloud = state_;
  cloud.turns.pop_back();
  cloud.readings.push_back({61, plan_.ev[61] - 2});
  const Hand after = hand_at(cloud, plan_, rule_, 61);
  EXPECT_NEAR(*after.meter, *hand_at(state_, plan_, rule_, 60).meter - 2, 2.5);
  EXPECT_LT(after.beyond, -0.5);
  ASSERT_FALSE(after.rest.empty());
  EXPECT_TRUE(after.rest.front().click.brighter);
  EXPECT_LE(after.rest.front().click.frame, 61 + rule_.frames_apart_late);
  // The newest reading counts.
  cloud.readings.push_back({64, plan_.ev[64]});
  EXPECT_GT(hand_at(cloud, plan_, rule_, 64).beyond, -0.01);
}

TEST_F(HandTest, WhatIsPutOffIsNotAskedForAtOnce) {
  const long long first = plan_.steps[0].click.frame;
  state_.skipped = {first};
  const Hand hand = hand_at(state_, plan_, rule_, first);
  ASSERT_FALSE(hand.rest.empty());
  EXPECT_GE(hand.rest.front().click.frame, first + rule_.frames_apart_late);
}

TEST_F(HandTest, ThePassingOfAFilterIsOneThingToDo) {
  rule_.filter_stops = 6;
  rule_.longest_shutter_s = 1;
  plan_ = ramp::ramp_by_hand(plan_.ev, rule_, 10);
  ASSERT_TRUE(plan_.filters_off);
  state_.first_dials = plan_.chain.front();
  follow(-1, *plan_.filters_off - 1);
  const Hand before = hand_at(state_, plan_, rule_, *plan_.filters_off - 1);
  ASSERT_TRUE(before.filters_off);
  EXPECT_TRUE(before.filters_on);
  EXPECT_EQ(*before.filters_off, *plan_.filters_off);
  state_.turns.push_back({*before.filters_off, ramp::Dial::Shutter, 0, false, before.after_filters, {}});
  state_.filters_off = *before.filters_off;
  const Hand after = hand_at(state_, plan_, rule_, *plan_.filters_off);
  EXPECT_FALSE(after.filters_on);
  EXPECT_FALSE(after.filters_off);
  EXPECT_NEAR(*after.meter, *before.meter, 1.1);
}

TEST(NextChange, NothingThatDoesNotRunIsLate) {
  const Take take = demo_take();
  const ramp::Ramp ramp = ramp_of(take);
  for (const long long frame : {-1LL, 0LL, 120LL, 249LL}) {
    const NextChange idle = next_change(take, &ramp, {}, frame);
    EXPECT_EQ(idle.why.find("late"), std::string::npos) << idle.why;
    EXPECT_EQ((idle.what + idle.why).find("under its band"), std::string::npos) << idle.why;
  }
  // The stand-in's own hand: nothing is asked, and nothing late.
  ShootState own;
  own.active = own.standin = true;
  own.scale = 0;
  own.count = 250;
  EXPECT_FALSE(next_change(take, &ramp, own, 100).click);
  EXPECT_NE(next_change(take, &ramp, own, 100).what.find("own hand"), std::string::npos);
  // In real time ten times faster the seconds are the real ones.
  ShootState fast;
  fast.active = fast.standin = true;
  fast.scale = 10;
  fast.interval_s = 20;
  fast.count = 250;
  fast.first_dials = ramp.chain.front();
  const NextChange soon = next_change(take, &ramp, fast, 0);
  EXPECT_NEAR(soon.in_s, static_cast<double>(soon.frames_left) * 2, 1e-9);
  // Other methods ask for nothing; an unknown light asks for a place.
  Take fixed = take;
  fixed.light.method = ramp::Method::Fixed;
  EXPECT_FALSE(next_change(fixed, &ramp, {}, 0).click);
  EXPECT_FALSE(next_change(take, nullptr, {}, 0).click);
}

TEST(Kit, CountsOnAfterAShoot) {
  Take take = demo_take();
  take.shot.brackets = 3;
  count_on(take, 100);
  EXPECT_EQ(take.body().shutter_count, 600);
  EXPECT_EQ(take.body().next_file_number, 514);
  take.kit.bodies[0].next_file_number = 9990;
  count_on(take, 10);
  EXPECT_EQ(take.body().next_file_number, 21) << "9999 is followed by 1";
  Take bare;
  count_on(bare, 10);
  EXPECT_EQ(bare, Take());
}

TEST(Ramp, ComparesTheMethodsAndSaysWhatHelps) {
  Take take = demo_take();
  const ramp::Ramp hand = ramp_of(take);
  EXPECT_TRUE(hand.feasible);
  EXPECT_GT(hand.steps.size(), 15u);
  for (size_t i = 1; i < hand.steps.size(); ++i)
    EXPECT_GE(hand.steps[i].click.frame - hand.steps[i - 1].click.frame, take.light.rule.frames_apart_late);
  const auto methods =
      ramp::compare(hand, hand.chain.front(), 0, rule_of(take), 20, 3);  // three seconds of room
  ASSERT_EQ(methods.size(), 3u);
  EXPECT_GT(methods[1].first_drowned, 0) << "a fixed exposure drowns in the dusk";
  EXPECT_FALSE(methods[2].works) << "aperture priority outgrows the interval";
  // The same light in far fewer frames outruns six frames a click: what is offered helps.
  take.wishes.clear();
  take.wish(plan::Slot::Fps, 25);
  take.wish(plan::Slot::Interval, 60);
  take.wish(plan::Slot::Frames, 84);
  take.light.rule.longest_shutter_s = 4;
  const ramp::Ramp fast = ramp_of(take);
  ASSERT_FALSE(fast.feasible);
  const Findings said = light_advice(take, fast);
  const auto it =
      std::find_if(said.begin(), said.end(), [](const Finding& f) { return f.code == "light_outruns"; });
  ASSERT_NE(it, said.end());
  ASSERT_TRUE(it->fix);
  EXPECT_TRUE(ramp_of(with_fix(take, *it->fix)).feasible);
  EXPECT_NEAR(fast.worst_stops_per_frame, fast.worst_stops_per_minute, 1e-9);  // a frame a minute
}

TEST(Ramp, TakesReadingsOverTheModelAndMovedClicksAtTheirWord) {
  Take take = demo_take();
  const auto readings = ramp::readings_of_csv(
      "time,ev100\n2026-10-09T17:50:00+01:00,12\n2026-10-09 18:50:00,6\n", take.place.zone, "mine.csv");
  EXPECT_EQ(ramp::readings_of_csv(ramp::csv_of(readings, take.place.zone), take.place.zone, "again"),
            readings);
  take.light.source.readings = readings;
  const ramp::Ramp r = ramp_of(take);
  EXPECT_NEAR(r.ev[90], 9, 0.01);  // half an hour in
  for (const char* wrong :
       {"", "time,ev100\n", "2026-10-09 18:00,bright\n2026-10-09 18:01,3\n", "noon,12\nlater,11\n"})
    EXPECT_EQ(test::error_of([&] { ramp::readings_of_csv(wrong, "UTC", "mine.csv"); }).kind(),
              Error::Kind::BadInput)
        << wrong;
  take.light.source.readings.clear();
  const ramp::Ramp before = ramp_of(take);
  for (const ramp::RampStep& s : before.steps) take.light.clicks.push_back(s.click);
  take.light.clicks[3].frame += 2;
  const ramp::Ramp moved = ramp_of(take);
  EXPECT_EQ(moved.steps[3].click.frame, before.steps[3].click.frame + 2);
  EXPECT_EQ(moved.chain.back(), before.chain.back());
  Take back = take_from_json(to_json(take), "take");
  EXPECT_EQ(back, take);
}

TEST(Rehearsal, TellsAGoodHandFromABadOne) {
  std::vector<double> light;
  for (int n = 0; n < 240; ++n) light.push_back(9 - n * 0.03);
  ramp::RampRule rule;
  rule.longest_shutter_s = 8;
  Rehearsal good(light, rule), idle(light, rule), nervous(light, rule);
  for (const ramp::Click& c : ramp::clicks_for(light, rule, good.dials()))
    good.turn(c.frame, c.dial, c.brighter);
  for (long long n = 5; n < 240; n += 20)
    for (const bool brighter : {true, true, false}) nervous.turn(n, ramp::Dial::Shutter, brighter);
  EXPECT_EQ(good.result(240).score, 100);
  EXPECT_EQ(good.result(240).yours, good.result(240).wanted);
  EXPECT_LT(idle.result(240).score, 60);
  EXPECT_GT(idle.result(240).late, 150);
  EXPECT_GT(nervous.result(240).doubled, 10);
  EXPECT_LT(nervous.result(240).score, good.result(240).score);
}

TEST(Checklist, FitsTheTake) {
  Take take = demo_take();
  const auto what = [&](const std::string& code) -> std::string {
    for (const CheckItem& i : checklist_of(take))
      if (i.code == code) return i.what;
    return {};
  };
  // The dusk is followed by hand: no filter, and the dial where the ramp begins.
  EXPECT_TRUE(what("filter").empty());
  EXPECT_NE(what("mode").find("1/125 s"), std::string::npos) << what("mode");
  take.light.method = ramp::Method::Fixed;
  EXPECT_NE(what("filter").find("Grey"), std::string::npos);
  EXPECT_NE(what("mode").find("4 s"), std::string::npos) << what("mode");
  EXPECT_FALSE(what("sun_in_frame").empty());
  EXPECT_FALSE(what("edges").empty());
  EXPECT_TRUE(what("mains").empty());
  take.external_power = true;
  take.timer = "Tidewatch cable";
  take.shot.dark_frames = true;
  EXPECT_FALSE(what("mains").empty());
  EXPECT_EQ(what("mode").find("bulb"), std::string::npos) << "4 s are on the dial";
  take.wish(plan::Slot::Interval, 150);
  take.wish(plan::Slot::Shutter, 60);
  EXPECT_NE(what("mode").find("bulb"), std::string::npos);
  EXPECT_NE(what("dark_frames").find("on"), std::string::npos);
}

TEST(Along, WritesWhatOtherProgramsRead) {
  const test::Folder folder;
  const Take take = demo_take();
  const ramp::Ramp ramp = ramp_of(take);
  write_plan_sheet(take, folder / "plan.pdf");
  write_cue_card(take, ramp, folder / "cues.pdf");
  write_timer_card(take, folder / "timer.pdf");
  const auto text = [&](const char* name) {
    return test::run("pdftotext -layout " + (folder / name).string() + " -").out;
  };
  EXPECT_NE(text("plan.pdf").find("250 frames"), std::string::npos) << text("plan.pdf");
  EXPECT_NE(text("cues.pdf").find("f/8 to f/7.1"), std::string::npos);
  EXPECT_NE(text("timer.pdf").find("00:00:20"), std::string::npos);
  for (const char* name : {"plan.pdf", "cues.pdf", "timer.pdf"})
    EXPECT_NE(test::run("pdfinfo " + (folder / name).string()).out.find("Pages:           1"),
              std::string::npos)
        << name;
  const std::string calendar = calendar_text(take);
  EXPECT_NE(calendar.find("DTSTART:20261009T165000Z"), std::string::npos);
  EXPECT_NE(calendar.find("TRIGGER:-PT1H30M"), std::string::npos);
  write_light_strip(take, 400, folder / "light.png");
  EXPECT_NE(test::run("ffprobe -v error -show_entries stream=width,height -of csv=p=0 " +
                      (folder / "light.png").string())
                .out.find("400,240"),
            std::string::npos);
  EXPECT_EQ(test::error_of([&] { write_plan_sheet(take, folder / "none/plan.pdf"); }).kind(),
            Error::Kind::BadInput);
}

}  // namespace
}  // namespace askcount::journal
