// SPDX-License-Identifier: GPL-3.0-or-later
// The one exposure plan of a take: every place that says a shutter says the same.
#include "forecast/exposure.h"

#include "advice/checklist.h"
#include "advice/plan_advice.h"
#include "base/dials.h"
#include "forecast/light.h"
#include "paper/calendar.h"
#include "paper/cards.h"
#include "support.h"

namespace askcount::forecast {
namespace {

using plan::Slot;
using take::Take;

/// The harbour for 80 minutes from an hour on, by a method.
Take quay_at(const char* start, ramp::Method method) {
  Take t = take::demo_take();
  t.metered.reset();
  t.start = parse_wall_time(start, t.place.zone);
  t.light.method = method;
  t.stand_in.frame_size = {48, 32};
  return t;
}

std::string pdf_text(const test::fs::path& file) {
  return test::run("pdftotext -layout " + file.string() + " -").out;
}

std::string checklist_words(const Take& t) {
  for (const advice::CheckItem& i : advice::checklist_of(t))
    if (i.code == "mode") return i.what + ". " + i.why;
  return {};
}

struct Case {
  const char* start;
  ramp::Method method;
  bool follows;
};

class OneTruth : public ::testing::TestWithParam<Case> {};

TEST_P(OneTruth, IsSaidAlikeEverywhere) {
  const Case c = GetParam();
  const Take t = quay_at(c.start, c.method);
  const ramp::Ramp ramp = ramp_of(t);
  const ExposurePlan plan = exposure_of(t, ramp);
  EXPECT_EQ(plan.follows, c.follows);
  ASSERT_TRUE(plan.dials_known);
  EXPECT_TRUE(plan.estimated) << "not metered";
  // The chain is the plan.
  EXPECT_EQ(ramp.chain.front(), plan.first);
  EXPECT_EQ(ramp.chain.back(), plan.last);
  EXPECT_NEAR(ramp.longest_s, plan.longest_s, 1e-9);
  EXPECT_NEAR(plan.longest_trail, plan.longest_s / t.sums().interval_s, 1e-12);
  if (!c.follows) {
    EXPECT_EQ(plan.first, plan.last);
    EXPECT_NEAR(plan.first.shutter_s, t.sums().shutter_s, 1e-12) << "what the sentence says stands";
  }
  const std::string first = dial_shutter_words(plan.first.shutter_s),
                    longest = dial_shutter_words(plan.longest_s);
  // The timer's card and its program.
  const timer::Program program = program_of(t);
  if (!program.bulb) {
    EXPECT_NEAR(program.field_s(), plan.field_s, 1e-6) << "one field time";
    EXPECT_NEAR(program.gap_s, plan.gap_s, 1e-6);
  }
  EXPECT_EQ(program.shutter.first_s, plan.first.shutter_s);
  EXPECT_EQ(program.shutter.longest_s, plan.longest_s);
  const std::string told = timer::program_lines(program)[1].why;
  const bool by_dial = !program.bulb && !program.needs_holding;
  if (by_dial) {
    EXPECT_NE(told.find(first), std::string::npos) << told;
  }
  // The checklist.
  if (c.method != ramp::Method::AperturePriority && by_dial) {
    EXPECT_NE(checklist_words(t).find(first), std::string::npos) << checklist_words(t);
  }
  // The findings.
  std::string found;
  for (const Finding& f : advice::plan_advice(t)) found += f.title + " " + f.text + "\n";
  if (c.follows) {
    EXPECT_NE(found.find(longest), std::string::npos) << found;
    EXPECT_EQ(found.find("Put on"), std::string::npos) << found;
  }
  // The sheets and the calendar.
  const test::Folder folder;
  paper::write_plan_sheet(t, folder / "plan.pdf");
  EXPECT_NE(pdf_text(folder / "plan.pdf").find("shutter " + shutter_words(plan)), std::string::npos)
      << pdf_text(folder / "plan.pdf");
  paper::write_cue_card(t, ramp, folder / "cues.pdf");
  EXPECT_NE(pdf_text(folder / "cues.pdf").find("with " + ramp::dial_words(ramp::Dial::Shutter, plan.first)),
            std::string::npos)
      << pdf_text(folder / "cues.pdf");
  // A calendar breaks its lines anywhere.
  std::string calendar = paper::calendar_text(t);
  for (size_t at = 0; (at = calendar.find("\r\n ", at)) != std::string::npos;) calendar.erase(at, 3);
  EXPECT_NE(calendar.find("shutter " + shutter_words(plan)), std::string::npos) << calendar;
  // The stand-in begins and ends with it.
  const simulate::RigSetting rig = rig_of(t, folder / "card", false);
  EXPECT_EQ(rig.exposure, plan.first);
  EXPECT_EQ(rig.bulb, program.bulb);
  EXPECT_EQ(rig.filter_stops, plan.filter_stops);
  const auto chain =
      ramp::chain_of(rig.exposure, rig.clicks, static_cast<long long>(ramp.chain.size()), rig.rule);
  for (size_t n = 0; n < chain.size(); ++n)
    ASSERT_NEAR(std::log2(chain[n].shutter_s / ramp.chain[n].shutter_s), 0, 1e-6) << n;
}

INSTANTIATE_TEST_SUITE_P(DayDuskAndNight, OneTruth,
                         ::testing::Values(Case{"2026-10-09 12:30", ramp::Method::Hand, false},
                                           Case{"2026-10-09 12:30", ramp::Method::Fixed, false},
                                           Case{"2026-10-09 12:30", ramp::Method::AperturePriority, false},
                                           Case{"2026-10-09 17:50", ramp::Method::Hand, true},
                                           Case{"2026-10-09 17:50", ramp::Method::Fixed, false},
                                           Case{"2026-10-09 17:50", ramp::Method::AperturePriority, true},
                                           Case{"2026-10-09 23:00", ramp::Method::Hand, false},
                                           Case{"2026-10-09 23:00", ramp::Method::Fixed, false},
                                           Case{"2026-10-09 23:00", ramp::Method::AperturePriority, false}));

TEST(Exposure, AnAssumedTrailEndsOnAClickAndAllLengthsFollowIt) {
  // Half of 15 s is on no dial: the hand ends at 6 s, and gap and field time say so.
  Take t = quay_at("2026-10-09 17:50", ramp::Method::Hand);
  t.wishes.clear();
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Interval, 15);
  t.wish(Slot::Frames, 400);
  const ExposurePlan plan = exposure_of(t);
  EXPECT_NEAR(plan.longest_s, std::exp2(8.0 / 3), 1e-6);
  EXPECT_NEAR(plan.gap_s, 15 - plan.longest_s, 1e-6);
  EXPECT_NEAR(plan.field_s, 399 * 15 + plan.longest_s, 1e-6);
  EXPECT_NEAR(program_of(t).field_s(), plan.field_s, 1e-6);
}

TEST(Exposure, FollowsThroughAFilterThatComesOff) {
  Take t = take::demo_take();
  t.light.filters = {"Grey 6"};
  const ramp::Ramp ramp = ramp_of(t);
  const ExposurePlan plan = exposure_of(t, ramp);
  ASSERT_TRUE(plan.follows);
  EXPECT_EQ(plan.filters, std::vector<std::string>{"Grey 6"});
  ASSERT_TRUE(plan.filters_off);
  const auto off = static_cast<size_t>(*plan.filters_off);
  ASSERT_GT(off, 10u);
  ASSERT_LT(off, ramp.chain.size());
  // Six stops longer by day, and the same picture before and after it comes off.
  Take bare = t;
  bare.light.filters.clear();
  EXPECT_NEAR(std::log2(plan.first.shutter_s / exposure_of(bare).first.shutter_s), 6, 0.34);
  EXPECT_NEAR(ramp.meter[off], ramp.meter[off - 1], 1.1);
  EXPECT_LT(ramp.chain[off].shutter_s, ramp.chain[off - 1].shutter_s / 16);
  for (const double m : ramp.meter) {
    EXPECT_LT(m, t.light.rule.high_stops + 0.1);
    EXPECT_GT(m, t.light.rule.low_stops - 0.4);
  }
  // The stand-in takes it off too: its frames stay as bright.
  const test::Folder folder;
  const simulate::RigSetting rig = rig_of(t, folder / "card", false);
  EXPECT_EQ(rig.filters_off, *plan.filters_off);
  EXPECT_DOUBLE_EQ(rig.filter_stops, 6);
}

TEST(Exposure, ACueCardHoldsEveryClickAsLargeAsFits) {
  const test::Folder folder;
  for (const int apart : {2, 6, 20}) {
    Take t = take::demo_take();
    t.light.rule.frames_apart = apart;
    t.light.rule.frames_apart_late = std::min(apart, 3);
    if (apart == 6) t.light.filters = {"Grey 6"};
    const ramp::Ramp ramp = ramp_of(t);
    ASSERT_GT(ramp.steps.size(), 3u);
    paper::write_cue_card(t, ramp, folder / "cues.pdf");
    const std::string text = pdf_text(folder / "cues.pdf");
    EXPECT_EQ(text.find("do not fit"), std::string::npos) << text;
    size_t lines = 0;
    for (size_t at = 0; (at = text.find(" to ", at)) != std::string::npos; ++at) ++lines;
    EXPECT_EQ(lines, ramp.steps.size()) << text;
    EXPECT_EQ(text.find("filter off") != std::string::npos, apart == 6);
  }
}

TEST(Exposure, AStandingShutterIsReachedByFiltersOrSaysThatItIsNot) {
  Take t = take::demo_take();
  t.light.method = ramp::Method::Fixed;
  const ExposurePlan plan = exposure_of(t);
  EXPECT_FALSE(plan.estimated);
  EXPECT_EQ(filters_words(plan), "Grey 6 + Grey 3");
  EXPECT_NEAR(plan.filter_stops, 9, 1e-9);
  // Without a meter and without a light only the shutter is known.
  t.metered.reset();
  t.place = {};
  EXPECT_FALSE(exposure_of(t).dials_known);
  EXPECT_TRUE(dials_words(exposure_of(t)).empty());
  EXPECT_EQ(shutter_words(exposure_of(t)), "4 s");
}

TEST(Exposure, ALampOrSteadyLightNeedsNoFollowing) {
  Take t = take::demo_take();
  t.lamp = true;
  EXPECT_FALSE(exposure_of(t).follows);
  EXPECT_TRUE(ramp_of(t).steps.empty());
}

TEST(Night, ExposuresPeopleUseComeOutUsable) {
  // A moonless night far from lamps: the sky 1.5 to 3.5 stops under the meter's grey.
  const double sky = ramp::light_stops_of_ev(sky::ev100_of_luminance(sky::luminance_of_mag(22.0)));
  EXPECT_NEAR(sky::ev100_of_luminance(sky::luminance_of_mag(22.0)), -9.5, 0.05);
  for (const ramp::Exposure& e :
       {ramp::Exposure{15, 2.8, 6400}, ramp::Exposure{30, 2.8, 2500}, ramp::Exposure{6, 1.7, 6400}}) {
    EXPECT_LT(ramp::meter_stops(sky, e), -1.5) << e.shutter_s;
    EXPECT_GT(ramp::meter_stops(sky, e), -3.5) << e.shutter_s;
  }
  EXPECT_LT(ramp::meter_stops(sky, {20, 2.8, 51200}), 3) << "bright, and not clipped";
}

TEST(Night, ARampLeavesNightDark) {
  Take t = take::demo_take();
  t.place = sky::demo_places()[1];  // Gannet Head
  t.start = parse_wall_time("2026-08-12 20:30", t.place.zone);
  t.metered.reset();
  t.light.source.town_lux = 0;
  t.wishes.clear();
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Interval, 20);
  t.wish(Slot::Shutter, 13);
  t.wish(Slot::Frames, 540);
  const ramp::Ramp ramp = ramp_of(t);
  EXPECT_GT(ramp.meter.front(), -1.01) << "day as day";
  EXPECT_LT(ramp.meter.back(), -1.5) << "and night as night";
  EXPECT_GT(ramp.meter.back(), -3.6);
  // Through constant darkness nothing changes.
  t.start = parse_wall_time("2026-08-13 00:30", t.place.zone);
  EXPECT_TRUE(ramp_of(t).steps.empty());
  EXPECT_FALSE(exposure_of(t).follows);
}

}  // namespace
}  // namespace askcount::forecast
