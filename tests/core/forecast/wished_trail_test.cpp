// SPDX-License-Identifier: GPL-3.0-or-later
// A wished trail and its filters stay when place and time are said; the filter then has a moment to come off.
#include "forecast/exposure.h"
#include "forecast/light.h"
#include "simulate/scene.h"
#include "support.h"

namespace askcount::forecast {
namespace {

using plan::Slot;
using take::Take;

/// Half of every 8 s open, metered at 1/60 s: nine stops too bright.
Take wished() {
  Take t;
  t.subject = "clouds";
  t.kit = plan::demo_kit();
  t.metered = plan::Metered{1.0 / 60, 8, 100};
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Frames, 500);
  t.wish(Slot::Interval, 8);
  t.wish(Slot::Trail, 0.5);
  return t;
}
Take at_dusk() {
  Take t = wished();
  t.place = simulate::scene_place("Tern Quay");
  t.start = parse_wall_time("2026-10-09 17:50", t.place.zone);
  return t;
}

TEST(WishedTrail, KeepsItsFiltersWherePlaceAndTimeAreSaid) {
  const ExposurePlan before = exposure_of(wished()), after = exposure_of(at_dusk());
  ASSERT_FALSE(before.filters.empty());
  EXPECT_FALSE(before.follows);
  EXPECT_TRUE(after.follows);
  EXPECT_EQ(after.filters, before.filters);
  EXPECT_DOUBLE_EQ(after.filter_stops, before.filter_stops);
  EXPECT_NEAR(std::log2(after.first.shutter_s / before.first.shutter_s), 0, 0.34);
  // The light goes: the filters come off on the way, and the dials are in the band before and after.
  ASSERT_TRUE(after.filters_off);
  const ramp::Ramp ramp = ramp_of(at_dusk());
  const auto off = static_cast<size_t>(*after.filters_off);
  const ramp::RampRule rule = rule_of(at_dusk());
  for (const size_t n : {size_t{0}, off - 1, off}) {
    const auto [low, high] = ramp::band_at(rule, ramp::light_stops_of_ev(ramp.ev[n]));
    EXPECT_GE(ramp.meter[n], low - 0.35) << n;
    EXPECT_LE(ramp.meter[n], high + 0.35) << n;
  }
}

TEST(WishedTrail, LeavesTheGlassBareWhereThePersonSaysSo) {
  Take t = at_dusk();
  t.light.bare = true;
  EXPECT_TRUE(exposure_of(t).filters.empty());
  EXPECT_LT(exposure_of(t).first.shutter_s, 0.1);
  // What was chosen is worn, not what a wish would want.
  t.light.bare = false;
  t.light.filters = {"Grey 3"};
  EXPECT_EQ(exposure_of(t).filters, std::vector<std::string>{"Grey 3"});
  // A trail that nobody wished wants no filter.
  Take plain = at_dusk();
  plain.release(Slot::Trail);
  EXPECT_TRUE(exposure_of(plain).filters.empty());
}

}  // namespace
}  // namespace askcount::forecast
