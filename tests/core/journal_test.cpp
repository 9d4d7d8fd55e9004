// The journal of a shoot, what is due, and the rehearsal.
#include "journal/journal.h"

#include <cmath>

#include "advice/checklist.h"
#include "advice/light_advice.h"
#include "journal/due.h"
#include "journal/rehearsal.h"
#include "orders/light.h"
#include "sheets/calendar.h"
#include "sheets/cards.h"
#include "sheets/light_strip.h"
#include "support.h"
#include "take/mend.h"

namespace askcount::journal {
namespace {

using namespace take;
using namespace advice;
using namespace orders;
using namespace sheets;

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
    j.append({{"what", "change"}, {"click", 0}, {"frame", 4}, {"planned", 3}});
    j.append({{"what", "note"}, {"frame", 6}, {"words", "Wind, \"picking\" up"}});
  }
  std::ofstream(file, std::ios::app) << "{\"what\": \"note\", \"fra";  // killed in the middle of a line
  const ShootState s = state_of(read_journal(file));
  EXPECT_TRUE(s.active);
  EXPECT_EQ(s.frame_at(now()), 9);
  EXPECT_NEAR(*s.next_shot_in(now()), 5, 0.5);
  ASSERT_EQ(s.changes.size(), 1u);
  EXPECT_EQ(s.changes[0].frame - s.changes[0].planned, 1);
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

TEST(Journal, PushesLateClicksOn) {
  ramp::RampRule rule;
  std::vector<double> ev;
  for (int n = 0; n < 200; ++n) ev.push_back(12 - n * 0.03);
  const ramp::Ramp ramp = ramp::ramp_by_hand(ev, rule, 10);
  ASSERT_GT(ramp.steps.size(), 6u);
  const long long third = ramp.steps[2].click.frame;
  ShootState none;
  EXPECT_EQ(due_clicks(ramp, none, 0, rule).front().frame, ramp.steps[0].click.frame);
  // Nobody turned anything until after the third: the first is due at once, the next ones in the late
  // distance.
  const auto due = due_clicks(ramp, none, third + 2, rule);
  EXPECT_EQ(due[0].frame, third + 3);
  EXPECT_EQ(due[0].late, third + 3 - ramp.steps[0].click.frame);
  EXPECT_EQ(due[1].frame, due[0].frame + rule.frames_apart_late);
  for (size_t i = 1; i < due.size(); ++i) EXPECT_GE(due[i].frame - due[i - 1].frame, rule.frames_apart_late);
  EXPECT_EQ(due.back().frame, ramp.steps.back().click.frame) << "once caught up, the plan holds again";
  ShootState some;
  some.changes = {{0, ramp.steps[0].click.frame, ramp.steps[0].click.frame, false, {}}, {1, 0, 0, true, {}}};
  EXPECT_EQ(due_clicks(ramp, some, 1, rule).front().click, 2);
}

TEST(Ramp, ComparesTheSchoolsAndSaysWhatHelps) {
  Take take = demo_take();
  const ramp::Ramp hand = ramp_of(take);
  EXPECT_TRUE(hand.feasible);
  EXPECT_GT(hand.steps.size(), 15u);
  for (size_t i = 1; i < hand.steps.size(); ++i)
    EXPECT_GE(hand.steps[i].click.frame - hand.steps[i - 1].click.frame, take.light.rule.frames_apart_late);
  const auto schools =
      ramp::compare(hand, hand.chain.front(), 0, rule_of(take), 20, 3);  // three seconds of room
  ASSERT_EQ(schools.size(), 3u);
  EXPECT_GT(schools[1].first_drowned, 0) << "a fixed exposure drowns in the dusk";
  EXPECT_FALSE(schools[2].works) << "aperture priority outgrows the interval";
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
  ASSERT_TRUE(it->mend);
  EXPECT_TRUE(ramp_of(mended(take, *it->mend)).feasible);
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
  take.light.school = ramp::School::Fixed;
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
