// SPDX-License-Identifier: GPL-3.0-or-later
// askcount level, look and develop: what they answer and what they leave.
#include "askcount.h"
#include "cards.h"
#include "level/brightness.h"
#include "look/anchors.h"
#include "look/cube.h"
#include "media/reader.h"

namespace askcount {
namespace {

std::string quoted(const test::fs::path& file) {
  return "'" + file.string() + "'";
}

class LevelVerbs : public testing::Test {
 protected:
  void SetUp() override {
    test::write_card({.size = {240, 160}, .frames = 30}, folder_ / "card");
    take::Take take;
    take.wish(plan::Slot::Fps, 25);
    take::save_take(take, file_);
  }
  double first_stops(const std::string& film) {
    media::FilmReader reader(folder_ / film);
    return level::measure_frame(*reader.next(), {}).stops();
  }
  const test::Folder folder_;
  const test::fs::path file_ = folder_ / "x.askcount";
  const std::string card_ = quoted(folder_ / "card"), take_ = quoted(folder_ / "x.askcount");
};

TEST_F(LevelVerbs, LevelTellsEverythingItMeasured) {
  const Json j = answer("level " + card_ + " --take " + take_);
  for (const char* key :
       {"flicker_before", "flicker_after", "zones_before", "zones_after", "colour_before", "colour_after",
        "anchors", "clicks", "kept_changes", "clipped", "suggested_anchors"})
    EXPECT_TRUE(j.contains(key)) << key;
  EXPECT_EQ(j["zones_before"].size(), 3u);
  EXPECT_LE(j["flicker_after"].get<double>(), j["flicker_before"].get<double>() + 0.001);
}

TEST_F(LevelVerbs, LooksAreSetPrintedCopiedAndTakenAway) {
  Json j = answer("look " + take_ + " --at 5 --warmth 5200 --depth 1.1");
  ASSERT_EQ(j["anchors"].size(), 1u);
  EXPECT_EQ(j["anchors"][0]["frame"], 5);
  EXPECT_EQ(j["anchors"][0]["warmth"], 5200);
  answer("look " + take_ + " --at 25 --light=-1");
  j = answer("look " + take_ + " --at 15");
  EXPECT_NEAR(j["at"]["look"]["light"].get<double>(), -0.5, 0.01);
  EXPECT_EQ(take::load_take(file_).look.anchors.size(), 2u) << "looking sets nothing";
  answer("look " + take_ + " --at 28 --like 5");
  j = answer("look " + take_ + " --to " + quoted(folder_ / "x.look") + " --at 5 --cube-out " +
             quoted(folder_ / "x.cube"));
  EXPECT_EQ(look::load_looks(folder_ / "x.look").size(), 3u);
  EXPECT_EQ(look::load_cube(folder_ / "x.cube").size, 33);
  j = answer("look " + take_ + " --at 25 --remove");
  EXPECT_EQ(j["anchors"].size(), 2u);
  answer("look " + take_ + " --clear");
  j = answer("look " + take_ + " --from " + quoted(folder_ / "x.look"));
  EXPECT_EQ(j["anchors"].size(), 3u);
}

TEST_F(LevelVerbs, WhatMakesNoSenseIsRefusedAndTheTakeStays) {
  const take::Take before = take::load_take(file_);
  EXPECT_EQ(askcount("look " + take_ + " --at 5 --light 9").exit, 2);
  EXPECT_EQ(askcount("look " + take_ + " --light 1").exit, 2);
  EXPECT_EQ(askcount("look " + take_ + " --at 5 --remove").exit, 2);
  test::write(folder_ / "bad.look",
              std::string(R"({"askcount-look": 1, "anchors": [{"frame": 3, "depth": 7}]})"));
  const test::Said said = askcount("look " + take_ + " --from " + quoted(folder_ / "bad.look"));
  EXPECT_EQ(said.exit, 2);
  EXPECT_NE(said.err.find("\"depth\" is 7"), std::string::npos) << said.err;
  test::write(folder_ / "bad.cube", std::string("LUT_3D_SIZE 2\n0 0 0\n"));
  EXPECT_EQ(askcount("look " + take_ + " --cube " + quoted(folder_ / "bad.cube")).exit, 2);
  EXPECT_EQ(take::load_take(file_), before);
}

TEST_F(LevelVerbs, TheFilmAndThePicturesHaveTheLookAndAsShotHasNone) {
  const std::string rest = " --size 240x160 --quality 5 -o ";
  answer("cut " + card_ + " --take " + take_ + rest + quoted(folder_ / "plain.mp4"));
  answer("look " + take_ + " --at 1 --light=-1");
  answer("cut " + card_ + " --take " + take_ + rest + quoted(folder_ / "dark.mp4"));
  answer("cut " + card_ + " --take " + take_ + " --as-shot" + rest + quoted(folder_ / "shot.mp4"));
  EXPECT_NEAR(first_stops("plain.mp4") - first_stops("dark.mp4"), 1, 0.05);
  EXPECT_NEAR(first_stops("plain.mp4"), first_stops("shot.mp4"), 0.2);
  const Json j = answer("develop " + card_ + " --take " + take_ + " --size 120x80 --format png16 -o " +
                        quoted(folder_ / "out"));
  EXPECT_EQ(j["written"], 30);
  EXPECT_TRUE(test::fs::exists(folder_ / "out/00030.png"));
  EXPECT_EQ(answer("develop " + card_ + " --take " + take_ + " --size 120x80 --format png16 -o " +
                   quoted(folder_ / "out"))["there_already"],
            30);
}

TEST_F(LevelVerbs, ALensIsUndoneByHandInEverythingThatIsMade) {
  answer("cut " + card_ + " --take " + take_ + " -o " + quoted(folder_ / "as_it_is.mp4") + " --size 240x160");
  Json j = answer("lens " + take_ + " --distortion=-5 --dark-corners 1.5 --turn=-1.2 --corners 0.5");
  EXPECT_EQ(j["by"], "hand");
  EXPECT_EQ(j["distortion_pct"], -5);
  EXPECT_EQ(j["turn_deg"], -1.2);
  j = answer("lens " + take_);
  EXPECT_EQ(j["dark_stops"], 1.5) << "it was kept";
  answer("cut " + card_ + " --take " + take_ + " -o " + quoted(folder_ / "undone.mp4") + " --size 240x160");
  EXPECT_GT(first_stops("undone.mp4"), first_stops("as_it_is.mp4") + 0.1) << "corners came up";
  answer("cut " + card_ + " --take " + take_ + " -o " + quoted(folder_ / "as_shot.mp4") +
         " --size 240x160 --as-shot");
  EXPECT_NEAR(first_stops("as_shot.mp4"), first_stops("as_it_is.mp4"), 0.1);
  answer("lens " + take_ + " --by nothing --turn 0 --corners 0");
  EXPECT_EQ(take::load_take(file_).optics.by, optics::By::Nothing);
}

TEST_F(LevelVerbs, ALensIsLookedUpByTheNameInItsFrames) {
  // Records of one's own, where lensfun looks for them.
  test::fs::create_directories(folder_ / "data/lensfun");
  test::write(folder_ / "data/lensfun/quay.xml",
              std::string_view(R"(<!DOCTYPE lensdatabase SYSTEM "lensfun-database.dtd">
<lensdatabase><mount><name>Quay</name></mount>
  <lens><maker>Tern</maker><model>Tern 20mm f/2.8</model><mount>Quay</mount><cropfactor>1</cropfactor>
    <calibration><distortion model="poly3" focal="20" k1="-0.02"/></calibration></lens></lensdatabase>)"));
  test::write_card({.size = {240, 160},
                    .frames = 6,
                    .info =
                        [](int, media::ShotInfo i) {
                          i.lens = "Tern 20mm f/2.8";
                          i.focal_mm = 20;
                          return i;
                        }},
                   folder_ / "wide");
  const std::string own = "XDG_DATA_HOME=" + quoted(folder_ / "data") + " " + ASKCOUNT_COMMAND;
  const std::string wide = quoted(folder_ / "wide");
  test::Said said = test::run(own + " lens " + take_ + " " + wide + " --by record --json");
  ASSERT_EQ(said.exit, 0) << said.err;
  const Json j = Json::parse(said.out);
  EXPECT_EQ(j["record"]["name"], "Tern 20mm f/2.8");
  EXPECT_NEAR(j["record"]["distortion_pct"].get<double>(), -4.5, 0.1);
  EXPECT_EQ(take::load_take(file_).optics.by, optics::By::Record);
  said = test::run(own + " cut " + wide + " --take " + take_ + " -o " + quoted(folder_ / "w.mp4") +
                   " --size 240x160");
  EXPECT_EQ(said.exit, 0) << said.err;
  // Frames of a lens that nobody has measured: said, with what to do, and nothing is made.
  said = test::run(own + " cut " + card_ + " --take " + take_ + " -o " + quoted(folder_ / "n.mp4"));
  EXPECT_NE(said.exit, 0);
  EXPECT_NE(said.err.find("by hand"), std::string::npos) << said.err;
  EXPECT_FALSE(test::fs::exists(folder_ / "n.mp4"));
}

TEST_F(LevelVerbs, DustIsLookedForAndForgotten) {
  Json j = answer("lens " + take_ + " " + card_ + " --find");
  EXPECT_TRUE(j["looked"].get<bool>());
  EXPECT_TRUE(j["hot"].empty());
  j = answer("lens " + take_ + " --clear");
  EXPECT_FALSE(j["looked"].get<bool>());
  for (const std::string bad :
       {" --turn 40", " --distortion 99", " --by magic", " --find", " --dark-frame /no/such/file.dng"})
    EXPECT_NE(test::run(std::string(ASKCOUNT_COMMAND) + " lens " + take_ + bad).exit, 0) << bad;
  EXPECT_EQ(take::load_take(file_).optics, optics::Wish{});
}

TEST_F(LevelVerbs, AKeptChangeStaysWhereItIsInAFilmOfAPart) {
  test::write_card({.size = {240, 160},
                    .frames = 40,
                    .harm =
                        [](int n) {
                          test::Harm h;
                          h.gain = n >= 24 ? 0.75 : 1;
                          return h;
                        }},
                   folder_ / "step");
  take::Take take = take::load_take(file_);
  take.level.keep = {25};
  take::save_take(take, file_);
  answer("cut " + quoted(folder_ / "step") + " --take " + take_ + " -o " + quoted(folder_ / "part.mp4") +
         " --size 240x160 --from 11");
  media::FilmReader reader(folder_ / "part.mp4");
  std::vector<double> stops;
  while (const auto picture = reader.next()) stops.push_back(level::measure_frame(*picture, {}).stops());
  ASSERT_EQ(stops.size(), 30u);
  EXPECT_LT(stops[14] - stops[13], -0.4);
  EXPECT_LT(std::abs(stops[13] - stops[12]), 0.1);
  EXPECT_LT(std::abs(stops[15] - stops[14]), 0.1);
}

TEST_F(LevelVerbs, WhatIsMadeInOneGoHasItsLensUndoneToo) {
  answer(
      "count --frames 4 --fps 25 --interval 5s --shutter 1/60 --lat 55.7 --lon -1.8 --zone Europe/London "
      "--start 2026-11-09T15:10 --save " +
      quoted(folder_ / "m.askcount"));
  take::Take take = take::load_take(folder_ / "m.askcount");
  take.stand_in.frame_size = {300, 200};
  take.film.size = {240, 160};
  take::save_take(take, folder_ / "m.askcount");
  const std::string make = "make " + quoted(folder_ / "m.askcount") + " -o ";
  answer(make + quoted(folder_ / "before.mp4"));
  answer("lens " + quoted(folder_ / "m.askcount") + " --corners 2");
  answer(make + quoted(folder_ / "after.mp4"));
  EXPECT_LT(first_stops("after.mp4"), first_stops("before.mp4") - 0.3);
}

}  // namespace
}  // namespace askcount
