// SPDX-License-Identifier: GPL-3.0-or-later
// What is said of a take on the command line: options that are saved, changed later, and findings fixed.
#include <map>
#include <set>

#include "askcount.h"
#include "support.h"
#include "take/take.h"

namespace askcount::cli {
namespace {

class SaidTest : public ::testing::Test {
 protected:
  /// The take at the quay, and the card it was shot onto.
  std::string shot_card() const {
    EXPECT_EQ(askcount("count --frames 12 --interval 20s --trail 0.2 --fps 25 --lat 56.1 --lon -5.5 --zone "
                       "Europe/London --place-name 'The quay' --start 2026-10-09T17:50 --aim 248,9 --save " +
                       file())
                  .exit,
              0);
    const std::string card = file("card");
    EXPECT_EQ(askcount("shoot " + file() + " --card " + card + " --frame-size 240x160").exit, 0);
    return card;
  }
  std::string file(const char* name = "t.askcount") const { return (folder_ / name).string(); }
  take::Take load(const char* name = "t.askcount") const { return take::load_take(folder_ / name); }
  test::Folder folder_;
};

constexpr const char* kQuay =
    " --lat 56.1 --lon -5.5 --zone Europe/London --place-name 'The quay' --start 2026-10-09T17:50 --aim "
    "248,9 ";
constexpr const char* kWhere = " --lat 56.1 --lon -5.5 --zone Europe/London --place-name 'The quay' ";

TEST_F(SaidTest, CountSavesOnlyWhatWasSaid) {
  ASSERT_EQ(askcount("count --clip 10s --fps 25 --interval 5s --save " + file()).exit, 0);
  const take::Take bare = load();
  EXPECT_FALSE(bare.place.known());
  EXPECT_FALSE(bare.knows_start());
  EXPECT_FALSE(bare.knows_kit());
  EXPECT_FALSE(bare.metered);
  EXPECT_TRUE(bare.subject.empty());
  for (const plan::Wish& w : bare.wishes)
    EXPECT_FALSE(w.pinned) << "an edit in the window must not contradict it";
  const Json json = answer(std::string("count --clip 10s --fps 25 --interval 5s --subject boats") + kQuay +
                           "--meter 1/125,f8,iso100 --darkness village --save " + file("all.askcount"));
  EXPECT_TRUE(json["exposure_plan"].contains("first"));
  const take::Take all = load("all.askcount");
  EXPECT_EQ(all.place.name, "The quay");
  EXPECT_NEAR(all.place.latitude_deg, 56.1, 1e-9);
  EXPECT_EQ(format_iso(all.start, all.place.zone), "2026-10-09T17:50:00+01:00");
  EXPECT_DOUBLE_EQ(all.light.move.from.bearing_deg, 248);
  EXPECT_DOUBLE_EQ(all.light.move.to.tilt_deg, 9);
  EXPECT_EQ(all.subject, "boats");
  EXPECT_DOUBLE_EQ(all.light.source.sky_mag, 20.8);
  ASSERT_TRUE(all.metered);
  EXPECT_NEAR(all.metered->shutter_s, 1.0 / 125, 1e-9);
}

TEST_F(SaidTest, SetChangesOneThingAndLetsTheOthersGiveWay) {
  ASSERT_EQ(askcount("count --clip 10s --fps 25 --interval 5s --save " + file()).exit, 0);
  const Json longer = answer("set " + file() + " --clip 20s");
  EXPECT_EQ(longer["frames"], 500);
  EXPECT_EQ(load().sums().frames, 500);
  const Json field = answer("set " + file() + " --field 1h");
  EXPECT_NEAR(field["interval_s"].get<double>(), 7.2, 1e-6) << "the interval gives way to what was said last";
  answer("set " + file() + " --pin interval --subject 'rain clouds' --external-power");
  EXPECT_TRUE(load().external_power);
  const test::Said against = askcount("set " + file() + " --pin clip --speed-up 10");
  EXPECT_EQ(against.exit, 2) << against.err;
  EXPECT_EQ(load().subject, "rain clouds") << "nothing half done";
  answer("set " + file() + " --no-external-power --release field");
  EXPECT_FALSE(load().external_power);
  EXPECT_FALSE(load().wished(plan::Slot::Field));
  EXPECT_EQ(askcount("set " + file() + " --release nothing").exit, 2);
  EXPECT_EQ(askcount("set " + file("absent.askcount") + " --clip 3s").exit, 2);
}

TEST_F(SaidTest, FixDoesWhatTheFindingOffers) {
  ASSERT_EQ(askcount("count --clip 10s --fps 25 --interval 4s --shutter 5s --save " + file()).exit, 0);
  const test::Said none = askcount("fix " + file() + " nothing_like_it");
  EXPECT_EQ(none.exit, 2);
  EXPECT_NE(none.err.find("shutter_longer_than_interval"), std::string::npos) << none.err;
  const Json done = answer("fix " + file() + " shutter_longer_than_interval");
  EXPECT_EQ(done["code"], "shutter_longer_than_interval");
  for (const Json& f : done["findings"]) EXPECT_NE(f["code"], "shutter_longer_than_interval");
  EXPECT_GT(load().sums().interval_s, 5);
  // A program's finding too.
  ASSERT_EQ(askcount("set " + file() + " --interval 100s --shutter 60s --timer 'Tidewatch radio'").exit, 0);
  answer("fix " + file() + " needs_holding");
  EXPECT_NEAR(load().sums().shutter_s, 30, 1e-9);
}

// What the window shows on its stages the command knows too, with the card at hand.
TEST_F(SaidTest, FindingsAreThoseOfEveryStage) {
  const std::string card = shot_card();
  std::map<std::string, std::set<std::string>> codes;
  for (const char* stage : {"ask", "light", "set", "shoot", "gather", "level", "cut", "book"}) {
    const Json found = answer("findings " + file() + " --card " + card + " --stage " + stage);
    for (const Json& f : found["findings"]) codes[stage].insert(f["code"].get<std::string>());
  }
  for (const char* stage : {"ask", "light", "set", "gather", "level", "cut"})
    EXPECT_FALSE(codes[stage].empty()) << stage;
  std::set<std::string> all;
  const Json whole = answer("findings " + file() + " --card " + card);
  for (const Json& f : whole["findings"]) all.insert(f["code"].get<std::string>());
  for (const auto& [stage, said] : codes)
    for (const std::string& code : said) EXPECT_TRUE(all.contains(code)) << stage << ": " << code;
  // Without a card nothing is said of frames.
  EXPECT_TRUE(answer("findings " + file() + " --stage gather")["findings"].empty());
  EXPECT_EQ(askcount("findings " + file() + " --stage nowhere").exit, 2);
}

TEST_F(SaidTest, AFixOfFramesIsKnownToTheCommand) {
  const std::string card = shot_card();
  // Half an hour off, so that the clock is wrong for the plan.
  ASSERT_EQ(askcount("set " + file() + " --start 2026-10-09T17:20").exit, 0);
  const Json done = answer("fix " + file() + " clock_wrong --card " + card);
  EXPECT_EQ(done["mend"]["do"], "set_clock");
  EXPECT_NEAR(load().gather.clock_s, -1800, 60);
}

TEST_F(SaidTest, RampAndProgramTakeThemToo) {
  const Json ramp = answer(std::string("ramp --interval 20s --frames 250 --meter 1/125,f8,iso100") + kQuay +
                           "--save " + file());
  EXPECT_TRUE(ramp["follows_light"].get<bool>());
  EXPECT_EQ(ramp["start"]["shutter"], "1/125 s");
  EXPECT_EQ(load().place.name, "The quay");
  EXPECT_EQ(askcount("ramp --interval 20s --frames 250").exit, 2) << "where and when?";
  // The reading was taken later: the start is brighter than it says.
  const Json later = answer("ramp " + file() + " --meter 1/125,f8,iso100 --meter-at 2026-10-09T18:20");
  EXPECT_NE(later["start"]["shutter"], "1/125 s");
  const Json program =
      answer("program " + file() + " --timer 'Built-in interval' --start 2026-10-09T18:05 --save " +
             file("moved.askcount"));
  EXPECT_EQ(program["start_clock"], "18:05");
  EXPECT_EQ(format_clock(load("moved.askcount").start, "Europe/London"), "18:05");
  EXPECT_EQ(format_clock(load().start, "Europe/London"), "17:50");
  // As long as it is asked for, though the hand then has less time.
  const Json six =
      answer(std::string("ramp --interval 6s --frames 900 --longest 4s --meter 1/125,f8,iso100") + kQuay);
  EXPECT_NEAR(six["longest_shutter_s"].get<double>(), 4, 0.01);
  bool little = false;
  for (const Json& f : six["findings"]) little = little || f["code"] == "little_room_to_turn";
  EXPECT_TRUE(little);
}

TEST_F(SaidTest, ADigByHoursIsTheSameInEveryVerb) {
  const Json count = answer(fmt::format(
      "count --frames 180 --interval 60s --fps 25 --work 9-10{}--start 2026-10-09T09:00 --save {}", kWhere,
      file()));
  const Json forecast = answer("forecast " + file() + " --shots");
  EXPECT_EQ(count["forecast"]["days"], forecast["days"]);
  EXPECT_EQ(forecast["days"].size(), 3u);
  EXPECT_EQ(forecast["days"][2]["shots"], 58);
  EXPECT_EQ(forecast["shots"].size(), 180u);
  EXPECT_EQ(forecast["shots"][61]["day"], 2);
  EXPECT_EQ(forecast["shots"][61]["at"].get<std::string>().substr(0, 16), "2026-10-10T09:00");
  const Json program = answer("program " + file());
  EXPECT_EQ(program["setting"]["count"]["value"], "61 shots");
  EXPECT_EQ(program["days"].size(), 3u);
  EXPECT_NEAR(program["field_s"].get<double>(), count["field_s"].get<double>(), 60);
  const Json checked = answer("check-program " + file() + " --interval 60s --count 61 --delay 10s");
  EXPECT_EQ(checked["planned_shots"], 61);
  EXPECT_EQ(checked["shots"], 61);
}

TEST_F(SaidTest, ApertureAndIsoToBeginWithAreThePersons) {
  const std::string city_asked =
      "count --frames 960 --interval 8s --fps 24 --method 'aperture priority' --meter 1/60,f16,iso100";
  const Json city = answer(fmt::format("{}{}--start 2026-10-09T17:50 --save {}", city_asked, kWhere, file()));
  EXPECT_EQ(city["exposure_plan"]["first"]["f_number"], 16.0);
  const Json checked = answer("check-program " + file() + " --interval 8s --count 960 --delay 10s");
  EXPECT_EQ(checked["missed"], city["forecast"]["lost"]);
  EXPECT_EQ(checked["first_missed"], city["forecast"]["first_lost_frame"]);
  EXPECT_LT(checked["missed"].get<long long>(), 400) << "every second press from the first on would be 480";
  const Json open = answer("set " + file() + " --aperture 2.8 --iso 200");
  EXPECT_NEAR(open["exposure_plan"]["first"]["f_number"].get<double>(), 2.83, 0.01);
  EXPECT_EQ(open["exposure_plan"]["first"]["iso"], 200.0);
  EXPECT_LT(open["forecast"]["lost"].get<long long>(), checked["missed"].get<long long>());
  // A night reading stays as it was read.
  const Json night = answer(fmt::format(
      "count --clip 4s --fps 25 --interval 20s --shutter 13s --subject stars --meter 13,f2.8,iso6400{}"
      "--start 2026-08-12T23:30",
      kWhere));
  EXPECT_EQ(night["exposure_plan"]["first"]["iso"], 6400.0);
  EXPECT_EQ(
      answer("count --clip 4s --fps 25 --interval 4s --subject clouds --meter 1/250,f8,iso100")["shutter_s"],
      0.003906)
      << "nobody asked for a trail";
  EXPECT_EQ(askcount("count --clip 4s --fps 25 --interval 4s --aperture 0").exit, 2);
}

TEST_F(SaidTest, AsLongAsItLastsIsTheFirstLimit) {
  const Json most = answer("count --frames max --interval 5s --subject clouds");
  double first = 1e9;
  for (const Json& b : most["budgets"])
    if (!b["good_for_shots"].is_null() &&
        (b["name"] == "battery" || b["name"] == "card" || b["name"] == "timer"))
      first = std::min(first, b["good_for_shots"].get<double>());
  EXPECT_EQ(most["frames"].get<double>(), first);
  EXPECT_NEAR(most["film_s_at"]["24"].get<double>(), first / 24, 0.01);
  const Json hours = answer("count --field 5h");
  EXPECT_LE(hours["field_s"].get<double>(), 5 * 3600);
  EXPECT_GT(hours["frames"].get<long long>(), 50);
  // A head sum is no contradiction, and no shutter of a whole interval; what is none is added up.
  const Json sum = answer("count --clip 10s --fps 24 --interval 5s --field 20m");
  EXPECT_EQ(sum["frames"], 240);
  EXPECT_EQ(sum["shutter_s"], 2.5);
  const test::Said wrong = askcount("count --clip 10s --fps 24 --interval 5s --field 40m");
  EXPECT_EQ(wrong.exit, 2);
  EXPECT_NE(wrong.err.find("239 × 5 s is 19 min 55 s"), std::string::npos) << wrong.err;
}

TEST_F(SaidTest, WhatCannotBeIsRefusedByItsOption) {
  for (const char* wrong : {"count --clip 5s --fps 25 --interval 2s --aim east",
                            "count --clip 5s --fps 25 --interval 2s --aim 400,3",
                            "count --clip 5s --fps 25 --interval 2s --place-name 'Nowhere at all'",
                            "count --clip 5s --fps 25 --interval 2s --darkness pitch",
                            "count --clip 5s --fps 25 --interval 2s --meter-at 2026-10-09T18:00",
                            "count --clip 5s --fps 25 --interval 2s --zone Mars/Basin",
                            "count --clip 5s --fps 25 --interval 2s --save plan.json"}) {
    const test::Said said = askcount(wrong);
    EXPECT_EQ(said.exit, 2) << wrong;
    EXPECT_FALSE(said.err.empty());
  }
}

TEST_F(SaidTest, SpareShotsAreSaidInTheFirstLine) {
  const test::Said said = askcount("count --clip 2s --fps 24 --interval 5s --spare 475");
  EXPECT_NE(said.out.substr(0, said.out.find('\n')).find("998 shots"), std::string::npos) << said.out;
  EXPECT_NE(said.out.substr(0, said.out.find('\n')).find("48 frames"), std::string::npos) << said.out;
}

TEST_F(SaidTest, SkyPrintsItsWindowsAndNights) {
  const test::Said said =
      askcount("sky --lat 28.3 --lon -16.6 --zone Atlantic/Canary --date 2026-08-12 --nights 20 --field 2h");
  EXPECT_NE(said.out.find("window               day into night"), std::string::npos) << said.out;
  EXPECT_NE(said.out.find("night                "), std::string::npos) << said.out;
  const Json night =
      answer("sky --lat 28.3 --lon -16.6 --zone Atlantic/Canary --at 2026-08-12T02:00 --darkness remote");
  EXPECT_LT(night["ev100"].get<double>(), -8) << "the sky's own luminance, not the light on the ground";
  const Json town =
      answer("sky --lat 28.3 --lon -16.6 --zone Atlantic/Canary --at 2026-08-12T02:00 --darkness city");
  EXPECT_NEAR(town["ev100"].get<double>() - night["ev100"].get<double>(), (22.0 - 17.5) / 2.5 * std::log2(10),
              0.1);
}

}  // namespace
}  // namespace askcount::cli
