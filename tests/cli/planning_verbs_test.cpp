// SPDX-License-Identifier: GPL-3.0-or-later
// The verbs of planning: sky, frame, ramp, timers, program, check-program, checklist, along, and what count
// grew.
#include "askcount.h"

#include <cmath>

#include "base/files.h"
#include "media/metadata.h"
#include "media/reader.h"
#include "take/take.h"

namespace askcount {
namespace {

bool found(const Json& json, const std::string& code) {
  for (const Json& f : json["findings"])
    if (f["code"] == code) return true;
  return false;
}

TEST(CountMore, KnowsKitMeterBracketsAndBudgets) {
  const Json a = answer(
      "count --frames 420 --fps 25 --interval 30s --trail 0.05 --brackets 3x2 --meter 1/125,f8,iso100 "
      "--spare 25 --long-noise-reduction");
  EXPECT_EQ(a["shots"], 470);
  EXPECT_EQ(a["exposures"], 1410);
  // Three exposures two stops apart around 1.5 s: 0.375 + 1.5 + 6, the pauses between, as long again dark,
  // then writing.
  EXPECT_NEAR(a["cycle_s"].get<double>(), 7.875 + 0.5 + 7.875 + 0.6, 1e-6);
  EXPECT_GT(a["filter_stops"].get<double>(), 5);
  EXPECT_FALSE(a["filters"].empty());
  for (const Json& b : a["budgets"])
    for (const char* key : {"name", "ends_at_frame", "share"}) EXPECT_TRUE(b.contains(key)) << key;
  EXPECT_EQ(a["alternatives"].size(), 3u);
  for (const char* key : {"star_drift_px", "settable", "swaps", "depth", "stars"})
    EXPECT_TRUE(a.contains(key)) << key;
  // 40 minutes at 8 s in the camera's movie: 300 frames, 12 s at 25 fps, 12.5 s of film at 24.
  const Json movie = answer("count --field 40min --interval 8s --fps 24 --trail 0.1");
  EXPECT_NEAR(movie["clip_s"].get<double>(), 12.5, 0.05);
  EXPECT_NEAR(movie["alternatives"][1]["film_s"].get<double>(), 12, 0.05);
}

TEST(CountMore, AsksOfASubjectOrItsSpeed) {
  EXPECT_NEAR(answer("count --clip 10s --fps 25 --subject crowds")["interval_s"].get<double>(), 1.5, 0.51);
  // 12 m/s at 400 m with 24 mm on 36 mm: 400 × 36 ÷ 24 ÷ 12 = 50 s for the frame.
  EXPECT_NEAR(answer("count --clip 10s --fps 25 --speed 12 --distance 400 --screen-crossing 5s")["crossing_s"]
                  .get<double>(),
              50, 1e-6);
  // A timer that stops at 600 and a battery good for four hours.
  const Json limits = answer("count --frames 600 --fps 25 --field 4h");
  EXPECT_NEAR(limits["interval_s"].get<double>(), 24, 0.05);
  EXPECT_DOUBLE_EQ(limits["settable"]["interval_s"].get<double>(), 24);
  const Json close =
      answer("count --frames 400 --fps 25 --interval 5min --shutter 1s --magnification 1 --grows 0.05");
  EXPECT_GT(close["close_up"]["refocus_every_frames"].get<int>(), 1);
}

TEST(CountMore, AimsByCompassAndSaysItOnTheSheet) {
  const test::Folder folder;
  const std::string take = "'" + (folder / "a.askcount").string() + "'",
                    sheet = "'" + (folder / "a.pdf").string() + "'";
  answer(
      "count --clip 10s --fps 25 --interval 20s --place '56.1 N 5.5 W' --zone Europe/London --start "
      "2026-10-09T17:50 "
      "--aim 252M,9 --variation -4 --slide 0.6 --nearest 1.5 --save " +
      take);
  const take::Take t = take::load_take(folder / "a.askcount");
  EXPECT_DOUBLE_EQ(t.light.move.from.bearing_deg, 248);
  EXPECT_DOUBLE_EQ(t.light.variation_deg, -4);
  EXPECT_DOUBLE_EQ(t.slider.travel_m, 0.6);
  answer("along " + take + " --plan " + sheet);
  EXPECT_NE(test::run("pdftotext -layout " + sheet + " -").out.find("Camera faces 248° (252° by compass)"),
            std::string::npos);
  EXPECT_EQ(askcount("set " + take + " --aim 252MM").exit, 2);
  EXPECT_NEAR(
      answer("count --clip 10s --fps 25 --interval 20s --slide 0.6 --nearest 1.5")["slider"]["near_across"]
          .get<double>(),
      0.2667, 1e-4);
  EXPECT_NEAR(answer("count --frames 3000 --fps 25 --interval 15min --work 7-18x5")["days"]["shots_a_day"]
                  .get<double>(),
              45, 1e-9);
}

TEST(SkyOver, DrawsOverAPictureAndSaysWhatGoesBehindIt) {
  const test::Folder folder;
  const auto named = [&](const char* name) { return "'" + (folder / name).string() + "'"; };
  image::Coded8 p({300, 200});
  for (int y = 0; y < 200; ++y)
    for (int x = 0; x < 300; ++x)
      for (int c = 0; c < 3; ++c) p.row(y)[3 * x + c] = static_cast<std::uint8_t>(y < 110 ? 170 : 20);
  media::ShotInfo info;
  info.focal_mm = info.focal_35mm = 24;
  test::write(folder / "a.jpg", media::with_metadata(media::encode_jpeg(p, 95), info, {}));
  const std::string before = read_file(folder / "a.jpg");
  const std::string over =
      "sky --place '56.1 N 5.5 W' --zone Europe/London --over " + named("a.jpg") + " -o " + named("o.png");
  const std::string when = " --from 2026-10-09T15:00 --to 2026-10-09T20:00";
  EXPECT_EQ(askcount(over + when).exit, 2) << "nobody knows where it looks";
  EXPECT_EQ(askcount(over + " --bearing 250").exit, 2) << "nor when";
  EXPECT_FALSE(test::fs::exists(folder / "o.png"));
  const Json a = answer(over + when + " --compass 254 --variation -4 --tilt 5");
  EXPECT_DOUBLE_EQ(a["bearing_deg"].get<double>(), 250);
  EXPECT_EQ(a["known"], "by compass");
  EXPECT_NEAR(a["across_deg"].get<double>(), 73.74, 0.05);
  EXPECT_TRUE(test::fs::exists(folder / "o.png"));
  // Its skyline is 10 of 200 rows below the middle: 5° less atan(0.05 × 24 ÷ 24).
  const double skyline = 5 - std::atan(0.05) * 180 / M_PI;
  ASSERT_EQ(a["behind"].size(), 2u);  // moon and sun; the core is higher or far off
  for (const Json& b : a["behind"])
    if (b["body"] == "sun") {
      EXPECT_TRUE(b["goes_behind"].get<bool>());
      EXPECT_NEAR(b["altitude_deg"].get<double>(), skyline, 0.3);
    }
  // Into a take, whose frame is then drawn too; photographs are never written over.
  answer(
      "count --clip 4s --fps 25 --interval 20s --place '56.1 N 5.5 W' --zone Europe/London --start "
      "2026-10-09T17:00 --save " +
      named("t.askcount"));
  answer("sky --over " + named("a.jpg") + " -o " + named("o.png") + " --take " + named("t.askcount") +
         " --bearing 250 --tilt 5 --save");
  const take::Take t = take::load_take(folder / "t.askcount");
  EXPECT_EQ(t.light.outlook.by, take::Outlook::By::Hand);
  EXPECT_NEAR(sky::horizon_at(t.light.horizon, 250), skyline, 0.3);
  EXPECT_EQ(askcount("sky --over " + named("a.jpg") + " -o " + named("a.jpg") + " --force --bearing 250" +
                     when + " --place '56.1 N 5.5 W'")
                .exit,
            2);
  EXPECT_TRUE(read_file(folder / "a.jpg") == before);
  EXPECT_EQ(askcount("sky --over " + named("t.askcount") + " -o " + named("p.png") + " --bearing 250" + when +
                     " --place '56.1 N 5.5 W'")
                .exit,
            1);
}

TEST(Trial, ShootsTheFilmThatCountCounts) {
  const test::Folder folder;
  const std::string take = "'" + (folder / "a.askcount").string() + "'",
                    film = "'" + (folder / "a.mp4").string() + "'";
  const Json counted = answer(
      "count --clip 1s --fps 25 --interval 4s --shutter 1s --subject 'people at the fair' --crossing 30s "
      "--save " +
      take);
  const Json trial = answer("trial " + take + " -o " + film);
  EXPECT_EQ(trial["frames"], counted["frames"]);
  EXPECT_EQ(trial["fps"], counted["fps"]);
  EXPECT_EQ(trial["size"], "480x270");
  EXPECT_EQ(trial["plans"][0]["scene"], "The Ropewalk");
  EXPECT_EQ(trial["plans"][0]["interval_s"], counted["interval_s"]);
  EXPECT_EQ(trial["plans"][0]["shutter"], "1 s");
  EXPECT_FALSE(trial["plans"][0]["lost"].get<bool>());
  EXPECT_EQ(media::read_film(folder / "a.mp4").frames, 25);
  // Over its own film again; beside itself; never over the plan.
  EXPECT_EQ(answer("trial " + take + " --beside " + take + " -o " + film)["size"], "968x270");
  EXPECT_EQ(askcount("trial " + take + " --force -o " + take).exit, 2);
  EXPECT_EQ(askcount("trial " + film + " -o '" + (folder / "b.mp4").string() + "'").exit, 2);
  EXPECT_FALSE(test::fs::exists(folder / "b.mp4"));
}

TEST(CountMore, StandsExtremes) {
  for (const char* fine :
       {"count --frames 1000000000 --fps 25 --interval 5s", "count --frames 10 --fps 240 --interval 99h",
        "count --clip 0.001s --fps 25 --interval 1s", "count --frames 1 --fps 25 --interval 5"})
    EXPECT_EQ(askcount(fine).exit, 0) << fine;
  for (const char* wrong :
       {"count --frames 0 --fps 25 --interval 5", "count --frames -4 --fps 25 --interval 5",
        "count --frames 10 --fps 25 --interval 0", "count --frames 10 --fps 25 --interval 5 --brackets 0x2",
        "count --frames 10 --fps 25 --interval 5 --kit /nowhere.json",
        "count --frames 10 --fps 25 --interval 5 --meter dark",
        "count --frames 10 --fps 25 --interval 5 --spare -1",
        "count --frames 10 --fps 25 --interval 5 --timer Nobody",
        "count --frames 10 --fps 25 --interval 5 --speed 3",
        "count --frames 10 --fps 25 --interval 5 --lens none"}) {
    const test::Said said = askcount(wrong);
    EXPECT_EQ(said.exit, 2) << wrong;
    EXPECT_EQ(std::count(said.err.begin(), said.err.end(), '\n'), 1) << said.err;
  }
}

TEST(Options, TakeFractionsWordsAndSeveralValues) {
  // A star's drift goes with the cosine of its declination.
  const std::string stars = "count --clip 10s --fps 25 --interval 30s --shutter 20s --declination ";
  const double equator = answer(stars + "0")["star_drift_px"].get<double>();
  const double high = answer(stars + "56.5")["star_drift_px"].get<double>();
  EXPECT_NEAR(high / equator, std::cos(56.5 * M_PI / 180), 0.01);
  EXPECT_EQ(askcount("count --clip 10s --fps 25 --interval 30s --cards BOTH").exit, 0);
  const std::string ramp =
      "ramp --lat 56.1 --lon -5.5 --zone Europe/London --start 2026-10-09T18:20 --interval 20s --frames 200 "
      "--meter 1/30,f8,iso100 --order ";
  EXPECT_EQ(answer(ramp + "ISO,shutter,aperture")["clicks"][0]["what"], "ISO");
  for (const char* wrong :
       {"ramp --order iso", "ramp --order iso,shutter,zoom", "count --clip 10s --cards three",
        "count --clip 10s --declination 91", "sky --sky foggy", "cut . -o a.mp4 --bits 9",
        "cut . -o a.mp4 --size 1920", "cut . -o a.mp4 --size 0x1080", "cut . -o a.mp4 --size 1920x1080x3",
        "cut . -o a.mp4 --quality 52", "frame --sensor 36x-24"}) {
    const test::Said said = askcount(wrong);
    EXPECT_EQ(said.exit, 2) << wrong;
    EXPECT_NE(said.err.find("--help"), std::string::npos) << wrong << said.err;
  }
}

TEST(SkyVerb, TellsADayAndAMoment) {
  const Json a =
      answer("sky --lat 56.1 --lon -5.5 --zone Europe/London --date 2026-10-09 --at 2026-10-09T18:00");
  for (const char* key : {"sunrise",
                          "solar_noon",
                          "sunset",
                          "civil_dawn",
                          "civil_dusk",
                          "nautical_dawn",
                          "nautical_dusk",
                          "astronomical_dawn",
                          "astronomical_dusk",
                          "golden_from",
                          "golden_to",
                          "blue_to",
                          "moonrise",
                          "moonset",
                          "moon_lit",
                          "core_rise",
                          "core_transit",
                          "core_set",
                          "reasons",
                          "lux",
                          "ev100"})
    EXPECT_TRUE(a.contains(key)) << key;
  EXPECT_EQ(a["sunset"].get<std::string>().substr(0, 16), "2026-10-09T18:36");
  EXPECT_NEAR(a["ev100"].get<double>(), std::log2(a["lux"].get<double>() / 2.5), 0.01);
  const Json polar = answer("sky --place '78.2N 15.6E' --zone Arctic/Longyearbyen --date 2026-06-21");
  EXPECT_TRUE(polar["sunset"].is_null());
  EXPECT_FALSE(polar["reasons"]["sunset"].get<std::string>().empty());
  EXPECT_EQ(
      answer("sky --lat 28.3 --lon -16.6 --zone Atlantic/Canary --date 2026-07-01 --nights 30")["nights"]
              .size() > 10,
      true);
  for (const char* wrong : {"sky --date 2026-10-09", "sky --lat 99 --lon 0 --date 2026-10-09",
                            "sky --lat 1 --lon 0 --date 2026-13-09", "sky --lat 1 --lon 0",
                            "sky --lat 1 --lon 0 --date 2026-10-09 --zone Mars/Base",
                            "sky --lat 1 --lon 0 --date 2026-10-09 --at noon"})
    EXPECT_EQ(askcount(wrong).exit, 2) << wrong;
}

TEST(FrameVerb, TellsEntriesAndExits) {
  const Json a = answer(
      "frame --lat 56.1 --lon -5.5 --zone Europe/London --bearing 248 --tilt 9 --focal 24 --sensor 36x24 "
      "--from 2026-10-09T17:00 --to 2026-10-09T19:30");
  ASSERT_EQ(a["sun"].size(), 1u);
  EXPECT_TRUE(a["sun"][0]["enters"].is_null());
  EXPECT_EQ(a["sun"][0]["leaves"].get<std::string>().substr(0, 15), "2026-10-09T18:3");
  EXPECT_NEAR(a["across_deg"].get<double>(), 73.74, 0.01);
  const Json kept = answer(
      "frame --place '28.3N 16.6W' --zone Atlantic/Canary --focal 35 --sensor 36x24 --from 2026-07-15T23:00 "
      "--to 2026-07-16T03:00 --keep core");
  EXPECT_TRUE(kept["keeps"].get<bool>());
  EXPECT_TRUE(kept["core"][0]["leaves"].is_null());
  EXPECT_EQ(askcount("frame --sensor big").exit, 2);
  EXPECT_EQ(askcount("frame --from 2026-10-09T17:00 --to 2026-10-09T16:00").exit, 2);
}

TEST(RampVerb, ListsClicksAndWritesThem) {
  const test::Folder folder;
  const std::string csv = (folder / "ramp.csv").string(), light = (folder / "light.csv").string();
  const Json a = answer(
      "ramp --lat 56.1 --lon -5.5 --zone Europe/London --start 2026-10-09T17:50 --interval 10s --field "
      "100min --csv " +
      csv + " --light-csv " + light);
  ASSERT_GT(a["clicks"].size(), 15u);
  for (const Json& c : a["clicks"])
    for (const char* key : {"time", "frame", "what", "from", "to", "meter_after"})
      EXPECT_TRUE(c.contains(key)) << key;
  EXPECT_EQ(a["clicks"][0]["what"], "shutter");
  EXPECT_TRUE(a["feasible"].get<bool>());
  EXPECT_EQ(a["methods"].size(), 3u);
  std::ifstream in(csv);
  const std::string lines{std::istreambuf_iterator<char>(in), {}};
  EXPECT_EQ(static_cast<size_t>(std::count(lines.begin(), lines.end(), '\n')), a["clicks"].size() + 1);
  // The curve that was written, read again as real readings, gives the same clicks.
  const Json again = answer(
      "ramp --lat 56.1 --lon -5.5 --zone Europe/London --start 2026-10-09T17:50 --interval 10s --field "
      "100min --readings " +
      light);
  EXPECT_NEAR(static_cast<double>(again["clicks"].size()), static_cast<double>(a["clicks"].size()), 1);
  // Dawn is climbed the other way.
  const Json dawn = answer(
      "ramp --lat 56.1 --lon -5.5 --zone Europe/London --start 2026-10-09T06:20 --interval 10s --field "
      "100min --order iso,shutter,aperture");
  EXPECT_GT(dawn["clicks"].size(), 10u);
  EXPECT_LT(dawn["clicks"].back()["meter_after"].get<double>(), 0.1);
  for (const char* wrong : {"ramp --band 0,0", "ramp --order shutter,shutter,iso",
                            "ramp --readings /nowhere.csv", "ramp /nowhere.askcount"})
    EXPECT_EQ(askcount(wrong).exit, 2) << wrong;
}

class TimerVerbs : public ::testing::Test {
 protected:
  void SetUp() override {
    const test::Said said = askcount(
        "count --frames 300 --fps 25 --shutter 20s --gap 4s --lat 28.3 --lon -16.6 --zone Atlantic/Canary "
        "--start 2026-08-12T23:30 --save " +
        file());
    ASSERT_EQ(said.exit, 0) << said.err;
  }
  std::string file() const { return (folder_ / "t.askcount").string(); }
  test::Folder folder_;
};

TEST_F(TimerVerbs, ProgramAndCheckIt) {
  const Json timers = answer("timers");
  ASSERT_GE(timers["timers"].size(), 4u);
  for (const Json& t : timers["timers"])
    for (const char* key : {"name", "counts", "step_s", "max_count", "bulb", "words"})
      EXPECT_TRUE(t.contains(key)) << key;
  const Json p = answer("program " + file() + " --timer 'Tidewatch cable'");
  EXPECT_EQ(p["keyed_in_s"], 23) << "it presses for a second; the camera's own 20 s count";
  EXPECT_EQ(p["hold_s"], 1);
  EXPECT_EQ(p["camera_shutter_s"], 20);
  EXPECT_FALSE(p["bulb"].get<bool>());
  EXPECT_EQ(p["interval_s"], 24);
  EXPECT_EQ(p["field_s"], 7196);
  EXPECT_EQ(p["head_sum_s"], 7200);
  EXPECT_EQ(p["setting"]["gap"]["word"], "Rest");
  EXPECT_TRUE(found(p, "camera_not_on_bulb"));
  const Json held = answer("program " + file() + " --timer 'Tidewatch cable' --meter 1/60,f8,iso100");
  EXPECT_EQ(held["camera_shutter_s"], 20) << "a meter changes nothing of the wish";
  const Json wrong = answer("check-program " + file() +
                            " --timer 'Tidewatch cable' --delay 10 --hold 20s --interval 24s --count 300");
  EXPECT_EQ(wrong["interval_s"], 44);
  EXPECT_TRUE(found(wrong, "gap_for_interval"));
  EXPECT_TRUE(found(wrong, "word_differs"));
  EXPECT_TRUE(found(answer("check-program " + file() +
                           " --timer 'Tidewatch cable' --delay 10 --hold 20s --gap 4s --count 300"),
                    "as_planned"));
  EXPECT_TRUE(found(answer("check-program " + file() +
                           " --timer 'Built-in interval' --delay 10 --interval 24s --count 300 --on-bulb"),
                    "press_on_bulb"));
  for (const char* bad : {" --interval 5s --gap 4s", "", " --timer Nobody --interval 5s",
                          " --gap 4.5s --timer 'Tidewatch cable'"})
    EXPECT_EQ(askcount("check-program " + file() + bad).exit, 2) << bad;
  EXPECT_GT(answer("checklist " + file())["items"].size(), 15u);
}

TEST_F(TimerVerbs, ShootThroughTheSocketWithFaults) {
  const std::string card = (folder_ / "card").string();
  const Json a =
      answer("shoot " + file() + " --card " + card +
             " --frame-size 96x64 --scene 'gannet head' --fault skip@7 --fault battery@40 --limits");
  EXPECT_EQ(a["frames"], 38);  // 39 presses before it dies, one not heard
  EXPECT_EQ(a["frames"].get<int>() + a["missed"].get<int>(), 300);
  EXPECT_TRUE(a["stopped"].get<bool>());
  ASSERT_EQ(a["faults"].size(), 2u);
  EXPECT_EQ(a["faults"][1]["what"], "battery");
  EXPECT_EQ(askcount("shoot " + file() + " --card " + card).exit, 2) << "the card has pictures on it";
  EXPECT_EQ(askcount("shoot " + file() + " --card " + card + "2 --fault melt@4").exit, 2);
  EXPECT_EQ(askcount("shoot " + file() + " --card " + card + "2 --socket /nowhere/s").exit, 1);
}

TEST_F(TimerVerbs, TakesSheetsAlong) {
  const auto name = [&](const char* n) { return (folder_ / n).string(); };
  const Json a = answer("along " + file() + " --plan " + name("p.pdf") + " --timer " + name("t.pdf") +
                        " --calendar " + name("c.ics") + " --light " + name("l.png"));
  for (const char* n : {"p.pdf", "t.pdf", "c.ics", "l.png"})
    EXPECT_GT(test::fs::file_size(folder_ / n), 300u) << n;
  EXPECT_EQ(askcount("along " + file()).exit, 2);
  EXPECT_EQ(askcount("along " + file() + " --plan /nowhere/p.pdf").exit, 2);
}

}  // namespace
}  // namespace askcount
