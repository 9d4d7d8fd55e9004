// SPDX-License-Identifier: GPL-3.0-or-later
// What will be in the film: said before anybody goes out, on Ask as on Light, with one press that helps.
#include "advice/in_the_film.h"

#include "advice/by_stage.h"
#include "advice/plan_advice.h"
#include "forecast/light.h"
#include "simulate/scene.h"
#include "sky/events.h"
#include "support.h"
#include "take/fix.h"

namespace askcount::advice {
namespace {

using plan::Slot;
using take::Take;

const Finding* said(const Findings& list, const std::string& code) {
  for (const Finding& f : list)
    if (f.code == code) return &f;
  return nullptr;
}

/// A night of the galaxy from Gannet Head; 30 s shutters, one every 32 s.
Take night(const char* start, double frames) {
  Take t;
  t.subject = "stars";
  t.place = simulate::scene_place("Gannet Head");
  t.start = parse_wall_time(start, t.place.zone);
  t.light.method = ramp::Method::Fixed;
  t.light.source.sky_mag = 21.5;
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Interval, 32);
  t.wish(Slot::Frames, frames);
  t.metered = plan::Metered{25, 2.8, 3200};
  return t;
}

Findings of(const Take& t) {
  return in_the_film(t, forecast::ramp_of(t));
}

TEST(InTheFilm, SaysWhenTheCoreLeavesAndWhatShareIsLeft) {
  Take t = night("2026-08-12 23:30", 450);  // four hours
  const auto sky = sky::ephemeris_for(t.start, later(t.start, 86400));
  const sky::Direction core = sky->at(sky::Body::Core, t.start, t.place);
  t.light.move.from = t.light.move.to = {core.azimuth_deg, core.altitude_deg - 4, 0};
  const Findings list = of(t);
  const Finding* f = said(list, "subject_passes");
  ASSERT_TRUE(f) << to_json(list).dump(1);
  // By the passage itself: the share of shots before it leaves.
  const Instant end = later(t.start, 450 * 32);
  const auto passages = sky::passages_of(*sky, sky::Body::Core, t.place,
                                         {t.light.move, forecast::optics_of(t), {}}, {t.start, end});
  ASSERT_EQ(passages.size(), 1U);
  const double share = seconds_between(t.start, passages[0].to) / (450 * 32.0);
  EXPECT_NE(f->text.find(format_number(100 * share, 0) + " % of the film"), std::string::npos)
      << f->text << " " << share;
  // The press that is offered makes it more.
  ASSERT_TRUE(f->fix);
  const Take moved = take::with_fix(t, *f->fix);
  EXPECT_FALSE(moved == t);
  const Findings after = of(moved);
  EXPECT_TRUE(said(after, "subject_stays") || said(after, "subject_passes")->text != f->text);
}

TEST(InTheFilm, SaysThatDawnBurnsOutAndEndsBeforeIt) {
  const Take t = night("2026-08-13 02:30", 500);
  const Findings list = of(t);
  const Finding* f = said(list, "light_burns");
  ASSERT_TRUE(f) << to_json(list).dump(1);
  EXPECT_EQ(f->severity, Severity::Warning);
  EXPECT_EQ(f->title.substr(0, 4), "Dawn");
  ASSERT_TRUE(f->fix);
  const Take ended = take::with_fix(t, *f->fix);
  EXPECT_LT(ended.sums().frames, 500);
  EXPECT_FALSE(said(of(ended), "light_burns"));
  // The list of Ask has it as the list of Light has.
  for (const Stage stage : {Stage::Ask, Stage::Light})
    EXPECT_TRUE(said(findings_on(stage, t), "light_burns")) << stage_word(stage);
}

TEST(InTheFilm, SaysWhenTheMoonRisesByNight) {
  // The moon is past its last quarter in the first days of September 2026: it rises well after dark.
  Take t = night("2026-09-03 22:00", 700);
  const auto sky = sky::ephemeris_for(t.start, later(t.start, 86400));
  const auto rises = sky::moon_crossings(*sky, t.place, t.start, later(t.start, 700 * 32));
  ASSERT_FALSE(rises.empty());
  ASSERT_TRUE(rises.front().rising);
  const Findings list = of(t);
  const Finding* f = said(list, "moon_rises");
  ASSERT_TRUE(f);
  EXPECT_NE(f->title.find(format_clock(rises.front().at, t.place.zone)), std::string::npos);
  const auto frame = static_cast<long long>(seconds_between(t.start, rises.front().at) / 32) + 2;
  EXPECT_NE(f->text.find(format_count(frame)), std::string::npos) << f->text << frame;
}

TEST(InTheFilm, SaysDewAndLampsWithTheirShareOnAskToo) {
  Take t = take::demo_take();
  t.light.weather.humidity = 0.85;
  t.light.weather.cooling_c_per_hour = 2;
  const Findings ask = findings_on(Stage::Ask, t), light = findings_on(Stage::Light, t);
  for (const char* code : {"dew", "town_lamps"}) {
    ASSERT_TRUE(said(ask, code)) << code;
    ASSERT_TRUE(said(light, code)) << code;
    EXPECT_EQ(said(ask, code)->text, said(light, code)->text);
    EXPECT_EQ(said(ask, code)->severity, said(light, code)->severity);
    EXPECT_NE(said(ask, code)->text.find("% of the film"), std::string::npos) << said(ask, code)->text;
  }
  EXPECT_EQ(said(ask, "dew")->severity, Severity::Stop);
  // Each is said once.
  EXPECT_EQ(std::count_if(light.begin(), light.end(), [](const Finding& f) { return f.code == "dew"; }), 1);
}

TEST(WhichSpeed, IsAskedWhereAKindHasSeveral) {
  Take t;
  t.subject = "clouds";
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Clip, 10);
  const Findings which = which_speed(t);
  ASSERT_EQ(which.size(), 2U);
  // Answered, it is one of them, at its usual interval.
  const Take slow = take::with_fix(t, *which[1].fix);
  EXPECT_EQ(slow.subject, "slow clouds");
  EXPECT_DOUBLE_EQ(*slow.solution()[Slot::Interval], 7);
  EXPECT_TRUE(which_speed(slow).empty());
  // Who said the interval, or measured the motion, was not asked.
  Take said_so = t;
  said_so.wish(Slot::Interval, 4);
  EXPECT_TRUE(which_speed(said_so).empty());
  Take crossing = t;
  crossing.wish(Slot::FieldCrossing, 480);
  EXPECT_TRUE(which_speed(crossing).empty());
  t.subject = "plants";
  EXPECT_EQ(which_speed(t).size(), 2U);
  t.subject = "wilted plant";
  EXPECT_TRUE(which_speed(t).empty());
}

}  // namespace
}  // namespace askcount::advice
