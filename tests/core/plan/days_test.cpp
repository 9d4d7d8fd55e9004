// SPDX-License-Identifier: GPL-3.0-or-later
// Takes over days, and what a camera's own movie is told and shows.
#include "plan/days.h"

#include <cmath>

#include "advice/plan_advice.h"
#include "forecast/shoot.h"
#include "plan/camera_state.h"
#include "plan/ways.h"
#include "support.h"

namespace askcount::plan {
namespace {

using take::Take;

TEST(WorkHours, AreReadAndSaid) {
  EXPECT_TRUE(parse_work("always").always());
  const WorkHours five = parse_work("7:30-18x5");
  EXPECT_DOUBLE_EQ(five.from_h, 7.5);
  EXPECT_DOUBLE_EQ(five.hours(), 10.5);
  EXPECT_EQ(five.days_a_week, 5);
  EXPECT_EQ(work_words(five), "7:30 to 18:00, Monday to Friday");
  EXPECT_EQ(work_words(parse_work("8-16")), "8:00 to 16:00");
  EXPECT_EQ(work_words({}), "day and night");
  for (const char* text : {"always", "7:30-18x5", "8-16", "0-24x5"})
    EXPECT_EQ(parse_work(work_text(parse_work(text))), parse_work(text)) << text;
  for (const char* wrong : {"", "7", "18-7", "7-25", "7-18x8", "7-18x0", "7-18x", "a-b", "7:60-18", "7-18 5"})
    EXPECT_EQ(test::error_of([&] { parse_work(wrong); }).kind(), Error::Kind::BadInput) << wrong;
}

/// A building site: a shot every 15 minutes, 3,000 of them.
Take site() {
  Take t;
  t.subject = "building site";
  t.start = parse_wall_time("2026-03-02 07:00", "Europe/London");
  t.wish(Slot::Frames, 3000);
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Interval, 900);
  t.wish(Slot::Shutter, 1.0 / 125);
  t.kit = demo_kit();
  t.kit.batteries = {{"Cell", 1000, 100, 20}};
  t.kit.cards = {{"Card", 64, 90}};
  t.kit.bodies.front().raw_mb = 32;
  t.kit.bodies.front().shutter_life = 100000;
  t.shot.raw = true;
  t.shot.compressed = false;
  t.cold_counts = false;
  t.work = parse_work("7-18x5");
  return t;
}

TEST(Days, CountShotsVisitsAndWear) {
  const auto d = forecast::days_of(site(), site().sums());
  ASSERT_TRUE(d);
  EXPECT_DOUBLE_EQ(d->shots_a_day, 45);  // 7:00, 7:15 … 18:00
  EXPECT_NEAR(d->days, 3000 / 45.0, 1e-9);
  EXPECT_NEAR(d->calendar_days, 3000 / 45.0 + 13 * 2, 1e-9);  // 67 days: 13 weekends between them
  EXPECT_NEAR(d->gb_a_day, 45 * 0.032, 1e-9);
  EXPECT_NEAR(d->card_days, 2000 / 45.0, 0.1);
  // 100 hours at a shot every quarter of an hour are 400 shots.
  EXPECT_NEAR(d->power_days, 400 / 45.0, 0.1);
  EXPECT_DOUBLE_EQ(d->visit_days(), d->power_days);
  EXPECT_NEAR(d->shutter_share_a_week, 45 * 5 / 100000.0, 1e-9);
  EXPECT_FALSE(d->example);
  Take mains = site();
  mains.external_power = true;
  mains.kit.power_banks.clear();
  EXPECT_TRUE(std::isinf(forecast::days_of(mains, mains.sums())->power_days));
  Take night = site();
  night.work = {};
  EXPECT_NEAR(forecast::days_of(night, night.sums())->shots_a_day, 96, 1e-9);
  EXPECT_NEAR(forecast::days_of(night, night.sums())->calendar_days, 3000 / 96.0, 1e-9);
  // A take of an evening is none of days.
  EXPECT_FALSE(forecast::days_of(take::demo_take(), take::demo_take().sums()));
}

TEST(Days, AreSaidInAsk) {
  const auto said = [](const Take& t) -> Finding {
    for (const Finding& f : advice::plan_advice(t))
      if (f.code == "over_days" || f.code == "days_too_short") return f;
    return {};
  };
  const Finding f = said(site());
  EXPECT_EQ(f.code, "over_days");
  EXPECT_EQ(f.title, "Over 67 days");
  EXPECT_NE(
      f.text.find("45 shots on each day (7:00 to 18:00, Monday to Friday), 1.4 GB; 93 days by the calendar"),
      std::string::npos)
      << f.text;
  EXPECT_NE(f.text.find("at least every 8.9 days"), std::string::npos) << f.text;
  Take weak = site();
  weak.kit.batteries = {{"Cell", 1000, 5, 20}};
  EXPECT_EQ(said(weak).code, "days_too_short");
  EXPECT_EQ(said(weak).severity, Severity::Warning);
  Take bare = site();
  bare.kit = {};
  EXPECT_EQ(said(bare).code, "over_days") << "an example kit is never judged by";
  EXPECT_NE(said(bare).text.find("example"), std::string::npos);
  EXPECT_EQ(said(take::demo_take()).code, "");
}

TEST(Days, AreKeptInTheTake) {
  EXPECT_EQ(take::take_from_json(take::to_json(site()), "t"), site());
}

TEST(Ways, SayWhatTheCamerasMovieIsToldAndShows) {
  Take t = take::demo_take();
  t.wish(Slot::Frames, 312);
  t.wish(Slot::Interval, 7);
  Body body = t.body();
  const auto movie = [&] { return ways_of(t.sums(), t.shot, body, 1920)[1]; };
  // 312 frames at 25 fps are 12.48 s; a display of whole seconds says 12.
  EXPECT_EQ(movie().told, "it shows 12 s of 12.48 s");
  // Told by time: 36 min 24 s become 37 min, that is 317 shots.
  body.movie_by_time = true;
  EXPECT_EQ(movie().told, "told 37 min, which makes 317 shots; it shows 12 s of 12.68 s");
  t.wish(Slot::Frames, 300);
  t.wish(Slot::Interval, 6);
  EXPECT_EQ(movie().told, "told 30 min");
  EXPECT_EQ(ways_of(t.sums(), t.shot, body, 1920)[0].told, "");
}

TEST(Schedule, GoesByTheClockOnTheWall) {
  // Over the night in which London's clocks go forward: 8:00 is 8:00.
  Schedule s(
      {parse_wall_time("2026-03-28 08:00", "Europe/London"), "Europe/London", 1800, 6, parse_work("8-9")});
  ASSERT_EQ(s.parts().size(), 2u);
  EXPECT_DOUBLE_EQ(s.at_s(3), 23 * 3600);
  EXPECT_EQ(format_clock(s.at(3), "Europe/London"), "08:00");
  EXPECT_EQ(s.press_at(3600), 2);
  EXPECT_EQ(s.press_at(3601), 2);
  EXPECT_EQ(s.press_at(23 * 3600 - 1), 2) << "the night has none";
  EXPECT_EQ(s.press_at(23 * 3600 + 1800), 4);
  EXPECT_DOUBLE_EQ(s.field_s(2), 23 * 3600 + 3600 + 2);
}

TEST(Schedule, OfATakeThatIsAlwaysShotIsOneRun) {
  const Schedule s({parse_wall_time("2026-10-09 23:59", "Europe/London"), "Europe/London", 30, 5, {}});
  EXPECT_FALSE(s.pauses());
  EXPECT_EQ(s.parts().size(), 1u);
  ASSERT_EQ(s.days().size(), 2u);  // 23:59:00, 23:59:30 | 0:00:00 …
  EXPECT_EQ(s.days()[0].shots, 2);
  EXPECT_EQ(s.days()[1].shots, 3);
  EXPECT_DOUBLE_EQ(s.at_s(4), 120);
}

TEST(Hours, AFieldTimeAndACountGiveAnIntervalThatFits) {
  Take t = site();
  t.wishes.clear();
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Frames, 200);
  t.wish(Slot::Field, 7 * 86400.0);  // five days of eleven hours
  const Sums s = t.sums();
  EXPECT_EQ(s.frames, 200);
  EXPECT_LE(s.field_s, 7 * 86400.0);
  Take longer = t;
  longer.wish(Slot::Interval, s.interval_s + 60);
  longer.release(Slot::Field);
  EXPECT_GT(longer.sums().field_s, 4 * 86400 + 11 * 3600.0) << "a minute more does not fit";
  // All three: one has to go.
  Take all = t;
  all.wish(Slot::Interval, 60);
  all.wish(Slot::Frames, 200);
  EXPECT_EQ(all.solution().gave_way, (std::vector<Slot>{Slot::Field}));
}

TEST(Camera, HearsNoPressWhileItIsBusyAndChangesWhatRunsOut) {
  CameraLimits limits;
  limits.writing_s = 0.6;
  limits.power = {{"A", 3, 1e9}, {"B", 2, 1e9}};
  CameraState camera(limits);
  EXPECT_EQ(camera.press(0, 2, 2, 1), Heard::Yes);
  EXPECT_EQ(camera.press(2.5, 2, 2, 1), Heard::Busy);
  EXPECT_EQ(camera.press(2.6, 2, 2, 1), Heard::Yes);
  EXPECT_EQ(camera.press(10, 1, 1, 1), Heard::Yes);
  EXPECT_DOUBLE_EQ(camera.power_left(), 0);
  EXPECT_EQ(camera.press(20, 1, 1, 1), Heard::Yes) << "the second is put in";
  EXPECT_DOUBLE_EQ(camera.power_left(), 0.5);
  EXPECT_EQ(camera.press(30, 1, 1, 1), Heard::Yes);
  EXPECT_EQ(camera.press(40, 1, 1, 1), Heard::Power);
  EXPECT_TRUE(camera.dead());
  camera.fresh_power();
  EXPECT_EQ(camera.press(50, 1, 1, 1), Heard::Yes);
  CameraLimits small;
  small.shot_mb = 10;
  small.cards_mb = {25};
  CameraState card(small);
  EXPECT_EQ(card.press(0, 0, 0, 0), Heard::Yes);
  EXPECT_EQ(card.press(1, 0, 0, 0), Heard::Yes);
  EXPECT_EQ(card.press(2, 0, 0, 0), Heard::Card);
  // By hours: a press the camera does not hear is paid for too.
  CameraLimits hours;
  hours.power = {{"C", 1e9, 25}};
  CameraState cell(hours);
  EXPECT_EQ(cell.press(0, 0, 0, 10), Heard::Yes);
  EXPECT_EQ(cell.press(10, 0, 0, 10), Heard::Yes);
  EXPECT_EQ(cell.press(20, 0, 0, 10), Heard::Power);
}

}  // namespace
}  // namespace askcount::plan
