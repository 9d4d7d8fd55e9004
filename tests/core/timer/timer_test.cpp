// SPDX-License-Identifier: GPL-3.0-or-later
// What timers are told and what they make of it, and the timer to practise on.
#include "plan/settable.h"
#include "support.h"
#include "timer/face.h"

namespace askcount::timer {
namespace {

plan::Sums sums_for(std::initializer_list<std::pair<plan::Slot, double>> said) {
  std::vector<plan::Wish> wishes;
  for (const auto& [slot, value] : said) wishes.push_back({slot, value, true});
  return plan::sums_of(plan::solve(wishes));
}
const Timer& named(const char* name) {
  return plan::timer_named(plan::demo_kit(), name);
}
bool has(const Findings& list, const std::string& code) {
  return std::any_of(list.begin(), list.end(), [&](const Finding& f) { return f.code == code; });
}
using plan::Slot;

TEST(Program, DoesTheWorkedConversion) {
  // 60 s open, which no dial has, and a 4 s gap: one frame every 64 s; 300 frames in 5 h 19 min 56 s.
  const plan::Sums sums =
      sums_for({{Slot::Frames, 300}, {Slot::Fps, 25}, {Slot::Shutter, 60}, {Slot::Gap, 4}});
  const Program p = program_for(sums, named("Tidewatch cable"));
  EXPECT_TRUE(p.bulb);
  EXPECT_DOUBLE_EQ(p.hold_s, 60);
  EXPECT_DOUBLE_EQ(p.setting_s, 4);
  EXPECT_DOUBLE_EQ(p.interval_s, 64);
  EXPECT_DOUBLE_EQ(p.field_s(), 299 * 64 + 60);
  EXPECT_EQ(program_lines(p)[2].word, "Rest");
  EXPECT_EQ(program_lines(p)[2].value, "00:00:04");
  EXPECT_TRUE(has(judge(p, sums), "camera_on_bulb"));
  // A timer that only presses cannot hold it: the stop says what the dial has.
  const Program radio = program_for(sums, named("Tidewatch radio"));
  EXPECT_DOUBLE_EQ(radio.setting_s, 64);
  EXPECT_EQ(program_lines(radio)[2].value, "00:01:04.0");
  ASSERT_TRUE(has(judge(radio, sums), "needs_holding"));
  EXPECT_EQ(judge(radio, sums).front().fix, Fix(fix::SetSlot{Slot::Shutter, 30}));
}

TEST(Program, PressesForASecondWhereTheDialHasTheShutter) {
  // 20 s and a 4 s gap: the camera's own shutter counts. The cable's gap runs from the end of its press.
  const plan::Sums sums =
      sums_for({{Slot::Frames, 300}, {Slot::Fps, 25}, {Slot::Shutter, 20}, {Slot::Gap, 4}});
  const Program cable = program_for(sums, named("Tidewatch cable"));
  EXPECT_FALSE(cable.bulb);
  EXPECT_DOUBLE_EQ(cable.hold_s, 1);
  EXPECT_DOUBLE_EQ(cable.setting_s, 23);
  EXPECT_DOUBLE_EQ(cable.interval_s, 24);
  EXPECT_DOUBLE_EQ(cable.field_s(), 7196);
  EXPECT_EQ(program_lines(cable)[1].value, "00:00:01");
  EXPECT_TRUE(has(judge(cable, sums), "camera_not_on_bulb"));
  EXPECT_FALSE(has(judge(cable, sums), "camera_on_bulb"));
  for (const double shutter : {1.0 / 60, 1.0 / 15, 30.0}) {
    const plan::Sums own =
        sums_for({{Slot::Frames, 10}, {Slot::Fps, 25}, {Slot::Interval, 40}, {Slot::Shutter, shutter}});
    const Program p = program_for(own, named("Breakwater"));
    EXPECT_FALSE(p.bulb) << shutter;
    EXPECT_NEAR(p.open_s, shutter, 1e-9);
    for (const Finding& f : judge(p, own)) EXPECT_NE(f.severity, Severity::Stop) << f.title;
  }
  // One that follows the light says both ends of its dial.
  ProgramWish wish;
  wish.shutter = {1.0 / 128, 4, true, 30};
  EXPECT_NE(
      program_lines(program_for(sums, named("Built-in interval"), wish))[1].why.find("1/125 s to begin with"),
      std::string::npos);
}

TEST(Program, SplitsWhatIsTooMuchIntoRuns) {
  const plan::Sums sums =
      sums_for({{Slot::Frames, 1000}, {Slot::Fps, 25}, {Slot::Interval, 10}, {Slot::Shutter, 2}});
  EXPECT_EQ(program_for(sums, named("Tidewatch cable")).runs, (std::vector<long long>{399, 399, 202}));
  const Findings stopped = judge(program_for(sums, named("Tidewatch cable")), sums);
  ASSERT_EQ(stopped.front().code, "timer_count_limit");
  EXPECT_NE(stopped.front().text.find("frame 400, 799"), std::string::npos) << stopped.front().text;
  EXPECT_EQ(stopped.front().fix, Fix(fix::RunEndless{}));
  ProgramWish endless;
  endless.endless = true;
  EXPECT_EQ(program_for(sums, named("Tidewatch cable"), endless).runs.size(), 1u);
  EXPECT_TRUE(program_for(sums, named("Shingle pocket"), endless).runs.size() ==
              2);  // it knows no end but its count
  const plan::Sums odd =
      sums_for({{Slot::Frames, 10}, {Slot::Fps, 25}, {Slot::Interval, 90}, {Slot::Shutter, 45.5}});
  EXPECT_FALSE(has(judge(program_for(odd, named("Shingle pocket")), odd), "hold_not_settable")) << "1 % off";
  const plan::Sums odder =
      sums_for({{Slot::Frames, 10}, {Slot::Fps, 25}, {Slot::Interval, 90}, {Slot::Shutter, 33.4}});
  Timer coarse = named("Shingle pocket");
  coarse.smallest_step_s = 5;
  EXPECT_TRUE(has(judge(program_for(odder, coarse), odder), "hold_not_settable"));
}

TEST(Keyed, SaysWhatWouldHappen) {
  // 250 frames every 5 s, 3 s open on bulb: the interval keyed into a timer that counts the gap gives one
  // every 8 s.
  const plan::Sums sums =
      sums_for({{Slot::Frames, 250}, {Slot::Fps, 25}, {Slot::Interval, 5}, {Slot::Shutter, 3}});
  const Timer& cable = named("Tidewatch cable");
  const Pressed bulb{3, 0.6, true};
  const Outcome wrong = what_happens({10, 3, 5, 250, false}, cable, bulb, sums);
  EXPECT_DOUBLE_EQ(wrong.interval_s, 8);
  EXPECT_EQ(wrong.findings.front().code, "gap_for_interval");
  EXPECT_EQ(wrong.in_time, 156);  // floor((1248 - 3) / 8) + 1
  EXPECT_NE(wrong.findings.front().text.find("156 frames"), std::string::npos) << wrong.findings.front().text;
  const Outcome right = what_happens({10, 3, 2, 250, false}, cable, bulb, sums);
  EXPECT_EQ(right.findings.front().code, "as_planned");
  EXPECT_EQ(right.shots, 250);
  EXPECT_DOUBLE_EQ(right.field_s, 249 * 5 + 3);
  // Too short: the camera hears every second press only.
  const Outcome busy = what_happens({10, 3, 1, 250, false}, cable, {3, 2.5, true}, sums);
  EXPECT_EQ(busy.missed, 125);
  EXPECT_TRUE(has(busy.findings, "shots_missed"));
  const Timer& built_in = named("Built-in interval");
  const Pressed own = camera_for(program_for(sums, built_in), 0.6, 0);
  EXPECT_FALSE(own.bulb);
  EXPECT_TRUE(has(what_happens({10, 0, 2, 250, false}, built_in, own, sums).findings, "interval_for_gap"));
  EXPECT_TRUE(has(what_happens({0, 0, 5, 100, true}, built_in, own, sums).findings, "too_few"));
  EXPECT_TRUE(has(what_happens({0, 0, 5, 0, false}, built_in, own, sums).findings, "no_count"));
  EXPECT_TRUE(
      has(what_happens({9, 0, 5, 250, false}, built_in, {3, 0.6, true}, sums).findings, "press_on_bulb"));
  for (const Keyed& t : {Keyed{-1, 3, 5, 10, false}, Keyed{0, 3, 5.5, 10, false},
                         Keyed{0, 3, 400000, 10, false}, Keyed{0, 3, 5, -2, false}})
    EXPECT_EQ(test::error_of([&] { what_happens(t, cable, bulb, sums); }).kind(), Error::Kind::BadInput);
}

TEST(Keyed, FindsTooManyShotsAndAHoldThatIsNoShutter) {
  // 499 shots of three exposures, and all 1,497 exposures keyed in: the classic.
  plan::ShotMake make;
  make.brackets = 3;
  make.bracket_stops = 2;
  const plan::ShotShape shape = plan::shape_of(make, 0);
  const plan::Sums sums = plan::sums_of(plan::solve({{Slot::Frames, 499, true},
                                                     {Slot::Fps, 25, true},
                                                     {Slot::Interval, 10, true},
                                                     {Slot::Shutter, 0.1, true}},
                                                    shape),
                                        shape);
  const Timer& cable = named("Breakwater");
  const Pressed own = camera_for(program_for(sums, cable), 0.6, 0);
  const Outcome classic = what_happens({10, 1, 10, 1497, false}, cable, own, sums);
  const auto it = std::find_if(classic.findings.begin(), classic.findings.end(),
                               [](const Finding& f) { return f.code == "too_many"; });
  ASSERT_NE(it, classic.findings.end());
  EXPECT_NE(it->text.find("key in the shots, 499"), std::string::npos) << it->text;
  EXPECT_FALSE(has(what_happens({10, 1, 10, 499, false}, cable, own, sums).findings, "too_many"));
  EXPECT_TRUE(has(what_happens({10, 5, 10, 499, false}, cable, own, sums).findings, "hold_does_nothing"));
  // 30 s open every 10 s: three of four presses are lost, as `count` says too.
  const plan::Sums thirty =
      sums_for({{Slot::Frames, 100}, {Slot::Fps, 25}, {Slot::Interval, 40}, {Slot::Shutter, 30}});
  const Outcome lost = what_happens({10, 1, 10, 100, false}, cable, {30, 0.6, false}, thirty);
  EXPECT_EQ(lost.shots, 25);
  plan::ShotCycle cycle;
  cycle.open_s = 30;
  cycle.writing_s = 0.6;
  EXPECT_NE(plan::judge_cycle(cycle, 10).text.find("only every fourth press makes a shot"), std::string::npos)
      << plan::judge_cycle(cycle, 10).text;
}

TEST(Program, KnowsATimerWithAFewIntervalsOnly) {
  Timer few = named("Built-in interval");
  few.intervals = {1, 2, 5, 10, 30, 60};
  const auto at = [&](double interval_s, double shutter_s) {
    return program_for(
        sums_for(
            {{Slot::Frames, 100}, {Slot::Fps, 25}, {Slot::Interval, interval_s}, {Slot::Shutter, shutter_s}}),
        few);
  };
  EXPECT_DOUBLE_EQ(at(7, 0.1).interval_s, 5);
  EXPECT_DOUBLE_EQ(at(8, 0.1).interval_s, 10);
  EXPECT_DOUBLE_EQ(at(7, 6).interval_s, 10);  // never one that the shot does not fit in
  EXPECT_DOUBLE_EQ(at(600, 1).interval_s, 60);
  const plan::Sums sums =
      sums_for({{Slot::Frames, 100}, {Slot::Fps, 25}, {Slot::Interval, 7}, {Slot::Shutter, 0.1}});
  const Findings list = judge(program_for(sums, few), sums);
  ASSERT_TRUE(has(list, "interval_not_settable"));
  EXPECT_EQ(list.front().fix, Fix(fix::SetSlot{Slot::Interval, 5}));
  // Keyed in by hand, only these can be.
  EXPECT_THROW(what_happens({10, 0, 7, 100}, few, {0.1}, sums), Error);
  EXPECT_DOUBLE_EQ(what_happens({10, 0, 5, 100}, few, {0.1}, sums).interval_s, 5);
  EXPECT_DOUBLE_EQ(plan::settable(sums, few, plan::Body{}).interval_s, 5);
}

TEST(Program, GivesTheLinesOfAMovieMenu) {
  Timer movie = named("Built-in interval");
  movie.movie = true;
  const plan::Sums sums =
      sums_for({{Slot::Frames, 300}, {Slot::Fps, 25}, {Slot::Interval, 7}, {Slot::Shutter, 0.5}});
  ProgramWish wish;
  wish.body.movie_fps = 30;
  Program p = program_for(sums, movie, wish);
  ASSERT_TRUE(p.movie);
  EXPECT_EQ(p.movie->shots, 300);
  EXPECT_DOUBLE_EQ(p.movie->movie_s, 10);
  EXPECT_TRUE(has(judge(p, sums), "movie_rate"));  // 10 s, not the 12 s of the sentence
  // One that is told its shooting time in minutes: 300 × 7 s are 35 min.
  wish.body.movie_by_time = true;
  p = program_for(sums, movie, wish);
  EXPECT_DOUBLE_EQ(p.movie->shooting_s, 35 * 60);
  EXPECT_EQ(p.movie->shots, 300);
  const plan::Sums odd =
      sums_for({{Slot::Frames, 101}, {Slot::Fps, 30}, {Slot::Interval, 7}, {Slot::Shutter, 0.5}});
  p = program_for(odd, movie, wish);
  EXPECT_DOUBLE_EQ(p.movie->shooting_s, 12 * 60);  // 11 min 47 s
  EXPECT_EQ(p.movie->shots, 102);
  EXPECT_DOUBLE_EQ(p.movie->shown_s, 3);
  std::vector<std::string> fields;
  for (const ProgramLine& l : program_lines(p)) fields.push_back(l.field);
  EXPECT_EQ(fields, (std::vector<std::string>{"interval", "shooting_time", "rate", "hold"}));
  EXPECT_FALSE(has(judge(p, odd), "movie_rate"));
}

TEST(Program, GivesABracketAsManyPressesAsTheCameraWants) {
  const plan::Sums sums =
      sums_for({{Slot::Frames, 100}, {Slot::Fps, 25}, {Slot::Interval, 12}, {Slot::Shutter, 0.5}});
  ProgramWish wish;
  wish.presses = 3;
  const Program nine = program_for(sums, named("Breakwater"), wish);
  EXPECT_EQ(nine.each, 3);
  EXPECT_FALSE(has(judge(nine, sums), "bracket_presses"));
  const Program one = program_for(sums, named("Built-in interval"), wish);
  EXPECT_EQ(one.each, 1);
  EXPECT_TRUE(has(judge(one, sums), "bracket_presses"));
  // By hand: too few presses spread a shot over several turns, too many come apart.
  const auto keyed = [&](int each, int presses) {
    Pressed camera{0.5};
    camera.presses = presses;
    return what_happens({10, 1, 12, 100, false, each}, named("Breakwater"), camera, sums).findings;
  };
  EXPECT_TRUE(has(keyed(1, 3), "bracket_presses"));
  EXPECT_TRUE(has(keyed(0, 3), "bracket_presses"));  // who says nothing has it at one
  EXPECT_TRUE(has(keyed(3, 3), "as_planned"));
  Pressed thrice{0.5};
  thrice.presses = 3;
  EXPECT_EQ(what_happens({10, 1, 12, 100, false, 1}, named("Breakwater"), thrice, sums).shots, 33);
  EXPECT_TRUE(has(keyed(3, 1), "too_many_presses"));
  EXPECT_THROW(keyed(10, 3), Error);
}

TEST(Program, StopsWhereTheTimersLockLeavesNoTimeForAHand) {
  // Breakwater locks the camera for 2 s before each shot.
  const auto locks = [](double interval_s, bool by_hand) {
    const plan::Sums sums =
        sums_for({{Slot::Frames, 100}, {Slot::Fps, 25}, {Slot::Interval, interval_s}, {Slot::Shutter, 2}});
    ProgramWish wish;
    wish.shutter = {2, 2, by_hand, 30, 2, false, by_hand ? 2.0 : 0.0};
    for (const Finding& f : judge(program_for(sums, named("Breakwater"), wish), sums))
      if (f.code == "timer_locks") return f.severity;
    return Severity::Caution;
  };
  EXPECT_EQ(locks(4, true), Severity::Stop);     // a gap of 2 s, all of it locked
  EXPECT_EQ(locks(5, true), Severity::Warning);  // 1 s of the 2 s that a hand wants
  EXPECT_EQ(locks(7, true), Severity::Ok);
  EXPECT_EQ(locks(4, false), Severity::Ok);    // nobody turns
  EXPECT_EQ(locks(3, false), Severity::Stop);  // it locks before the shutter is closed
}

TEST(Face, IsToldKeyByKey) {
  Face face(named("Tidewatch cable"));
  const auto press = [&](std::initializer_list<Key> keys) {
    for (const Key k : keys) face.press(k);
  };
  press({Key::Set, Key::Left, Key::Up, Key::Set});  // delay: ten seconds
  EXPECT_DOUBLE_EQ(face.keyed().delay_s, 10);
  press({Key::Right, Key::Set, Key::Up, Key::Up, Key::Set});  // hold: from 1 to 3
  press({Key::Right, Key::Set, Key::Up, Key::Set});
  press({Key::Right, Key::Set, Key::Left, Key::Left, Key::Up, Key::Up, Key::Set});
  EXPECT_EQ(face.lines().value, "201");
  press({Key::Right, Key::Set, Key::Up, Key::Set});
  EXPECT_EQ(face.keyed(), (Keyed{10, 3, 2, 201, false}));
  press({Key::Start});
  EXPECT_TRUE(face.running());
  press({Key::Set, Key::Up});  // nothing can be set while it runs
  EXPECT_EQ(face.keyed().count, 201);
  press({Key::Lock, Key::Start});
  EXPECT_TRUE(face.running()) << "locked";
  press({Key::Lock, Key::Start});
  EXPECT_FALSE(face.running());
}

}  // namespace
}  // namespace askcount::timer
