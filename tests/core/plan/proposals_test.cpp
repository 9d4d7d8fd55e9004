// SPDX-License-Identifier: GPL-3.0-or-later
// A plan from its first word: what is proposed, and that it gives way to whatever is said.
#include "plan/proposals.h"

#include "advice/by_stage.h"
#include "support.h"
#include "take/take.h"

namespace askcount::plan {
namespace {

take::Take about(const char* subject) {
  take::Take t;
  t.subject = subject;
  return t;
}

TEST(Proposals, OneWordIsAPlan) {
  const struct {
    const char* subject;
    double least_s, most_s;  // the interval, by the table of habits
  } words[] = {{"stars", 21, 25},
               {"fast clouds", 1, 3},
               {"traffic", 1, 5},
               {"plants growing", 120, 300},
               {"building site", 900, 14400},
               {"a walrus", 5, 5}};
  for (const auto& w : words) {
    const take::Take t = about(w.subject);
    ASSERT_TRUE(t.solution().complete()) << w.subject;
    const Sums s = t.sums();
    EXPECT_EQ(s.frames, 250) << w.subject;
    EXPECT_EQ(s.clip_s, 10) << w.subject;
    EXPECT_GE(s.interval_s, w.least_s) << w.subject;
    EXPECT_LE(s.interval_s, w.most_s) << w.subject;
    EXPECT_EQ(s.interval_s, std::floor(s.interval_s)) << "settable on any timer";
    EXPECT_GT(s.gap_s, 0) << w.subject;
    EXPECT_EQ(t.solution().relation(Slot::Interval), Relation::Proposed);
    EXPECT_EQ(t.solution().relation(Slot::Frames), Relation::Count) << "that follows";
    for (const Finding& f : advice::findings_on(advice::Stage::Ask, t))
      EXPECT_TRUE(f.severity == Severity::Ok || f.severity == Severity::Caution || f.code == "which_speed")
          << w.subject << ": " << f.title << " speaks against what was proposed";
  }
}

TEST(Proposals, GiveWayToWhateverIsSaid) {
  take::Take t = about("stars");
  t.wish(Slot::Frames, 100);
  EXPECT_EQ(t.sums().frames, 100);
  EXPECT_EQ(t.sums().clip_s, 4);
  t.wish(Slot::Interval, 40);
  EXPECT_EQ(t.sums().interval_s, 40);
  EXPECT_EQ(t.solution().relation(Slot::Interval), Relation::Wished);
  t.release(Slot::Frames);
  t.wish(Slot::Field, 3600);
  EXPECT_NEAR(static_cast<double>(t.sums().frames), 90, 1) << "an hour at one every 40 s";
  EXPECT_NE(t.solution().relation(Slot::Clip), Relation::Proposed);
  // Frames and a field time leave no interval to propose.
  take::Take field = about("clouds");
  field.wish(Slot::Clip, 10);
  field.wish(Slot::Field, 1200);
  EXPECT_NEAR(field.sums().interval_s, 4.8, 0.01);
  EXPECT_EQ(field.solution().relation(Slot::Interval), Relation::Field);
  EXPECT_TRUE(field.solution().gave_way.empty());
}

TEST(Proposals, AMeasuredPaceAndAWishedShutterCount) {
  take::Take t = about("boats");
  t.wish(Slot::FieldCrossing, 1000);
  EXPECT_EQ(t.sums().interval_s, 5) << "1,000 s in 8 s of film at 25 fps";
  t.wish(Slot::ScreenCrossing, 4);
  EXPECT_EQ(t.sums().interval_s, 10);
  take::Take slow = about("traffic");
  slow.wish(Slot::Shutter, 8);
  EXPECT_GT(slow.sums().gap_s, 0) << "the shutter has its time";
}

TEST(Proposals, NothingIsProposedWhereNobodyPlans) {
  take::Take t;
  EXPECT_FALSE(t.says_plan());
  EXPECT_FALSE(t.solution().complete());
  t.wish(Slot::Fps, 25);  // what frames without a plan have for their film
  EXPECT_FALSE(t.solution().complete());
  t.wish(Slot::Interval, 7);
  EXPECT_TRUE(t.solution().complete());
  EXPECT_FALSE(t.said_solution().complete());
}

TEST(Proposals, ASiteByItsHoursIsCountedByThem) {
  take::Take t = about("building site");
  t.work = parse_work("7-18x5");
  t.place.zone = "UTC";
  t.wish(Slot::Field, 90 * 86400.0);
  ASSERT_TRUE(t.solution().complete());
  EXPECT_EQ(t.solution().relation(Slot::Field), Relation::Wished);
  EXPECT_TRUE(t.solution().gave_way.empty());
  EXPECT_GT(t.sums().frames, 600) << "65 days of 12 shots an hour apart";
  EXPECT_LT(t.sums().frames, 900);
}

}  // namespace
}  // namespace askcount::plan
