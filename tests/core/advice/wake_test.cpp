// SPDX-License-Identifier: GPL-3.0-or-later
// What to be woken for in a long take.
#include "advice/wake.h"

#include "forecast/light.h"
#include "support.h"

namespace askcount::advice {
namespace {

using plan::Slot;

take::Take night() {
  take::Take t;
  t.subject = "stars";
  t.place = sky::demo_places()[1];
  t.start = parse_wall_time("2026-08-12 22:00", t.place.zone);
  t.kit = plan::demo_kit();
  t.timer = "Tidewatch cable";
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Interval, 25);
  t.wish(Slot::Shutter, 20);
  t.wish(Slot::Frames, 1000);
  return t;
}

TEST(Wake, TellsChangesInOrderWithTheirHours) {
  take::Take t = night();
  const auto list = wakes_of(t, forecast::ramp_of(t));
  for (size_t i = 1; i < list.size(); ++i) EXPECT_GE(list[i].after_s, list[i - 1].after_s);
  const auto times = [&](const char* word) {
    return std::count_if(list.begin(), list.end(),
                         [word](const Wake& w) { return w.what.find(word) != std::string::npos; });
  };
  EXPECT_EQ(times("start the timer again"), 2) << "399, 798";
  EXPECT_EQ(times("Cell A for Cell B"), 1) << "4.5 h of power in 7 h";
  EXPECT_EQ(times("the last shot ends"), 1);
  EXPECT_NEAR(list.front().after_s, 398 * 25, 1e-6);
  const Findings said = judge_wakes(t, forecast::ramp_of(t));
  ASSERT_EQ(said.size(), 1u);
  EXPECT_NE(said[0].text.find("00:45 start the timer again"), std::string::npos) << said[0].text;
  // Without a date by hours from the first shot.
  t.start = {};
  EXPECT_NE(judge_wakes(t, forecast::ramp_of(t))[0].text.find("after 2 h 46 min start the timer"),
            std::string::npos)
      << judge_wakes(t, forecast::ramp_of(t))[0].text;
}

TEST(Wake, ShortTakesAreStayedWith) {
  take::Take t = night();
  t.wish(Slot::Frames, 200);
  EXPECT_TRUE(wakes_of(t, forecast::ramp_of(t)).empty());
  EXPECT_TRUE(judge_wakes(t, forecast::ramp_of(t)).empty());
  // One that needs nothing is only told its end, which is no reason to be woken.
  t = night();
  t.kit = {};
  t.timer.clear();
  t.light.weather.heater = true;
  EXPECT_TRUE(judge_wakes(t, forecast::ramp_of(t)).empty());
}

TEST(Wake, FilterAndDewAreReasons) {
  take::Take t = take::demo_take();
  t.wish(Slot::Interval, 40);
  t.light.filters = {"Grey 6"};
  const auto list = wakes_of(t, forecast::ramp_of(t));
  const auto has = [&](const char* word) {
    return std::any_of(list.begin(), list.end(),
                       [word](const Wake& w) { return w.what.find(word) != std::string::npos; });
  };
  EXPECT_TRUE(has("take off Grey 6"));
  EXPECT_TRUE(has("dew"));
  EXPECT_TRUE(has("first click"));
}

}  // namespace
}  // namespace askcount::advice
