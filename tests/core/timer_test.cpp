// What timers are told and what they make of it, and the timer to practise on.
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
  // 20 s open and a 4 s gap: one frame every 24 s; 300 frames in 1 h 59 min 56 s (2 h by the head sum).
  const plan::Sums sums =
      sums_for({{Slot::Frames, 300}, {Slot::Fps, 25}, {Slot::Shutter, 20}, {Slot::Gap, 4}});
  const Program p = program_for(sums, named("Tidewatch cable"));
  EXPECT_DOUBLE_EQ(p.setting_s, 4);
  EXPECT_DOUBLE_EQ(p.interval_s, 24);
  EXPECT_DOUBLE_EQ(p.field_s(), 7196);
  EXPECT_EQ(program_lines(p, sums)[2].word, "Rest");
  EXPECT_EQ(program_lines(p, sums)[2].value, "00:00:04");
  const Program radio = program_for(sums, named("Tidewatch radio"));
  EXPECT_DOUBLE_EQ(radio.setting_s, 24);
  EXPECT_EQ(program_lines(radio, sums)[2].value, "00:00:24.0");
  EXPECT_TRUE(has(judge(radio, sums), "camera_not_on_bulb"));
}

TEST(Program, SplitsWhatIsTooMuchIntoRuns) {
  const plan::Sums sums =
      sums_for({{Slot::Frames, 1000}, {Slot::Fps, 25}, {Slot::Interval, 10}, {Slot::Shutter, 2}});
  EXPECT_EQ(program_for(sums, named("Tidewatch cable")).runs, (std::vector<long long>{399, 399, 202}));
  const Findings stopped = judge(program_for(sums, named("Tidewatch cable")), sums);
  ASSERT_EQ(stopped.front().code, "timer_count_limit");
  EXPECT_NE(stopped.front().text.find("frame 400, 799"), std::string::npos) << stopped.front().text;
  EXPECT_EQ(stopped.front().mend, (Mend{"endless", 1}));
  ProgramWish endless;
  endless.endless = true;
  EXPECT_EQ(program_for(sums, named("Tidewatch cable"), endless).runs.size(), 1u);
  EXPECT_TRUE(program_for(sums, named("Shingle pocket"), endless).runs.size() ==
              2);  // it knows no end but its count
  EXPECT_TRUE(has(
      judge(program_for(
                sums_for({{Slot::Frames, 10}, {Slot::Fps, 25}, {Slot::Interval, 10}, {Slot::Shutter, 0.1}}),
                named("Shingle pocket")),
            sums_for({{Slot::Frames, 10}, {Slot::Fps, 25}, {Slot::Interval, 10}, {Slot::Shutter, 0.1}})),
      "hold_not_settable"));
}

TEST(Keyed, SaysWhatWouldHappen) {
  // 250 frames every 5 s, 3 s open: the interval keyed into a timer that counts the gap gives one every 8 s.
  const plan::Sums sums =
      sums_for({{Slot::Frames, 250}, {Slot::Fps, 25}, {Slot::Interval, 5}, {Slot::Shutter, 3}});
  const Timer& cable = named("Tidewatch cable");
  const Pressed bulb = camera_for(cable, sums, 0.6, 0);
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
  EXPECT_TRUE(
      has(what_happens({10, 0, 2, 250, false}, built_in, camera_for(built_in, sums, 0.6, 0), sums).findings,
          "interval_for_gap"));
  EXPECT_TRUE(
      has(what_happens({0, 0, 5, 100, true}, built_in, camera_for(built_in, sums, 0.6, 0), sums).findings,
          "too_few"));
  EXPECT_TRUE(
      has(what_happens({0, 0, 5, 0, false}, built_in, camera_for(built_in, sums, 0.6, 0), sums).findings,
          "no_count"));
  EXPECT_TRUE(
      has(what_happens({9, 0, 5, 250, false}, built_in, {3, 0.6, true}, sums).findings, "press_on_bulb"));
  for (const Keyed& t : {Keyed{-1, 3, 5, 10, false}, Keyed{0, 3, 5.5, 10, false},
                         Keyed{0, 3, 400000, 10, false}, Keyed{0, 3, 5, -2, false}})
    EXPECT_EQ(test::error_of([&] { what_happens(t, cable, bulb, sums); }).kind(), Error::Kind::BadInput);
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
