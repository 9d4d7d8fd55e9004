// SPDX-License-Identifier: GPL-3.0-or-later
// The askcount command as a person or a script uses it: answers, exit codes, messages.
#include "askcount.h"
#include "level/levelling.h"

namespace askcount {
namespace {

TEST(Askcount, ReadsNumbersAsPeopleWriteThem) {
  EXPECT_EQ(answer("count --frames 1,250 --fps 25 --interval 5s")["frames"], 1250);
  EXPECT_EQ(answer("count --frames \"1 250\" --fps 25 --interval 5s")["frames"], 1250);
  EXPECT_EQ(answer("count --frames 300 --fps 25 --interval 5s --declination -12,5")["frames"], 300);
  EXPECT_EQ(askcount("count --frames 1,25 --fps 25 --interval 5s").exit, 2);
  EXPECT_EQ(askcount("sky --lat 56.1 --lon -5.5 --date 2026-10-09 --nights 1.5").exit, 2);
}

TEST(Count, AnswersWithEveryKey) {
  const Json a = answer("count --clip 10s --fps 25 --interval 5s --trail 0.5");
  EXPECT_EQ(a["frames"], 250);
  EXPECT_DOUBLE_EQ(a["interval_s"], 5);
  EXPECT_DOUBLE_EQ(a["gap_s"], 2.5);
  EXPECT_DOUBLE_EQ(a["shutter_s"], 2.5);
  EXPECT_DOUBLE_EQ(a["field_s"], 1247.5);
  EXPECT_DOUBLE_EQ(a["clip_s"], 10);
  EXPECT_EQ(a["fps"], 25);
  EXPECT_DOUBLE_EQ(a["speed_up"], 125);
  EXPECT_TRUE(a["step"].is_null());
  EXPECT_DOUBLE_EQ(a["trail"], 0.5);
  for (const Json& f : a["findings"])
    for (const char* key : {"code", "severity", "text", "fix"}) EXPECT_TRUE(f.contains(key)) << key;
  EXPECT_EQ(answer("count --clip 2:00 --fps 25 --interval 5")["frames"], 3000);
  EXPECT_EQ(answer("count --clip 10s --fps 30000/1001 --interval 5")["frames"], 300);
  EXPECT_NEAR(
      answer("count --clip 10s --fps 25 --crossing 8min --screen-crossing 4s")["interval_s"].get<double>(),
      4.8, 1e-6);
  EXPECT_EQ(answer("count --field 20min --gap 4s --shutter 1s --fps 25")["frames"], 240);
}

TEST(Count, ExitsWithTwoAndOneLineForWhatItCannotUse) {
  const std::pair<const char*, const char*> wrong[] = {
      {"count", "--fps"},
      {"count --fps 25", "--clip"},
      {"count --clip 10s --fps 25 --frames 240 --interval 5", "contradicts"},
      {"count --clip 10s --fps 25 --interval 5 --shutter 1s --gap 2s", "contradicts"},
      {"count --clip 0 --fps 25 --interval 5", "--clip"},
      {"count --clip ten --fps 25 --interval 5", "ten"},
      {"count --clip 10s --fps 0 --interval 5", "--fps"},
      {"count --clip=-5 --fps 25 --interval 5", "--clip"},
      {"count --frames 2.5 --fps 25 --interval 5", "2.5"},
      {"count --sideways", "sideways"},
      {"count --clip 10s --fps 25 --interval 5 --save take.txt", ".askcount"},
      {"gather /nowhere/at/all", "/nowhere/at/all"},
      {"level /nowhere/at/all", "/nowhere/at/all"},
      {"cut /nowhere/at/all -o x.mp4 --fps 25", "/nowhere/at/all"},
      {"cut . -o x.mp4", "--fps"},
      {"cut . -o x.mp4 --fps 25 --size 19by10", "19by10"},
      {"cut . -o x.mp4 --fps 25 --size 1921x1080", "1921x1080"},
      {"shoot /nowhere.askcount --card c", "/nowhere.askcount"},
      {"make /nowhere.askcount -o x.mp4", "/nowhere.askcount"},
      {"", ""}};
  for (const auto& [arguments, word] : wrong) {
    const test::Said said = askcount(arguments);
    EXPECT_EQ(said.exit, 2) << arguments;
    EXPECT_EQ(said.out, "") << arguments;
    EXPECT_NE(said.err.find(word), std::string::npos) << arguments << "\n" << said.err;
    EXPECT_EQ(std::count(said.err.begin(), said.err.end(), '\n'), 1) << said.err;
  }
}

TEST(Count, StandsExtremes) {
  EXPECT_EQ(answer("count --frames 1000000000 --fps 240 --interval 99h")["frames"], 1000000000);
  EXPECT_EQ(answer("count --frames 1 --fps 24 --interval 1")["frames"], 1);
  EXPECT_EQ(answer("count --clip 10s --fps 25 --interval 5s --shutter 6s")["findings"][0]["severity"],
            "stop");
}

TEST(Count, PlansWithAKit) {
  const test::Folder folder;
  const std::string kit = (folder / "kit.json").string();
  std::ofstream(kit) << askcount("kit").out;
  const Json a = answer(
      "count --frames 420 --fps 25 --interval 20 --shutter 2.5 --meter 1/125,f8,iso100 --brackets 3x2 "
      "--long-noise-reduction --spare 25 --kit " +
      kit);
  EXPECT_EQ(a["shots"], 470);
  EXPECT_EQ(a["exposures"], 1410);
  EXPECT_NEAR(a["cycle_s"].get<double>(), 2 * 2.5 * 5.25 + 0.5 + 0.6, 0.01);
  EXPECT_NEAR(a["stops"].get<double>(), 8.29, 0.01);
  EXPECT_GT(a["filter_stops"].get<double>(), 5);
  EXPECT_FALSE(a["filters"].empty());
  EXPECT_NEAR(a["star_drift_px"].get<double>(), 2.5 * 15.041 / 51.566, 0.01);
  EXPECT_EQ(a["alternatives"].size(), 3u);
  for (const Json& b : a["budgets"])
    for (const char* key : {"name", "ends_at_frame", "share"}) EXPECT_TRUE(b.contains(key)) << key;
  EXPECT_EQ(a["findings"][0]["severity"], "stop");
  EXPECT_DOUBLE_EQ(answer("count --clip 10s --fps 25 --subject crowds")["interval_s"].get<double>(), 2);
  const test::Said wrong = askcount("count --clip 10s --fps 25 --interval 5 --meter bright");
  EXPECT_EQ(wrong.exit, 2);
  EXPECT_NE(wrong.err.find("bright"), std::string::npos);
  EXPECT_EQ(askcount("count --clip 10s --fps 25 --interval 5 --kit " + (folder / "none.json").string()).exit,
            2);
}

/// The whole line by its single verbs, on one take.
TEST(Line, RunsFromTheWishToTheClip) {
  const test::Folder folder;
  const std::string take = (folder / "dusk.askcount").string(), card = (folder / "card").string(),
                    clip = (folder / "clip.mp4").string();
  answer("count --frames 40 --fps 25 --interval 60s --trail 0.05 --name Dusk --save " + take);
  const Json shot = answer("shoot " + take + " --card " + card + " --frame-size 300x200");
  EXPECT_EQ(shot["frames"], 40);
  const test::Said again = askcount("shoot " + take + " --card " + card);
  EXPECT_EQ(again.exit, 2);  // never over pictures that are there
  const Json gathered = answer("gather " + card);
  EXPECT_EQ(gathered["frames"], 40);
  EXPECT_EQ(gathered["interval_s"], 60.0);
  EXPECT_EQ(gathered["first"], "DCIM/100QUAY/QUAY0218.JPG");
  EXPECT_EQ(gathered["last"], "DCIM/100QUAY/QUAY0257.JPG");
  EXPECT_TRUE(gathered["missing"].empty());
  EXPECT_EQ(gathered["dropped"].size(), 5u);
  const Json levelled = answer("level " + card);
  EXPECT_GT(levelled["flicker_before"].get<double>(), 0.07);
  EXPECT_LT(levelled["flicker_after"].get<double>(), 0.01);
  EXPECT_EQ(levelled["corrections"].size(), 40u);
  const Json film = answer("cut " + card + " -o " + clip + " --fps 25 --size 240x134 --preset veryfast");
  EXPECT_EQ(film["frames"], 40);
  EXPECT_EQ(film["size"], "240x134");
  EXPECT_EQ(film["codec"], "h264");
  EXPECT_NEAR(film["duration_s"].get<double>(), 1.6, 0.01);
  EXPECT_LT(level::flicker(test::film_stops(clip, 240, 134)), 0.012);
  // A rate that is not the plan's is done, and said.
  EXPECT_EQ(
      answer("cut " + card + " -o " + clip + " --size 96x54 --fps 24 --take " + take)["findings"][0]["code"],
      "other_rate");
  // And in one go; the passing card is gone afterwards.
  const Json made =
      answer("make " + take + " -o " + (folder / "made.mp4").string() + " --frame-size 300x200");
  EXPECT_EQ(made["frames"], 40);
  EXPECT_EQ(folder.names(),
            (std::vector<std::string>{"card", "card.truth.json", "clip.mp4", "dusk.askcount", "made.mp4"}));
}

}  // namespace
}  // namespace askcount
