// askcount level, look and develop: what they answer and what they leave.
#include "../cards.h"
#include "askcount.h"
#include "film/reader.h"
#include "level/brightness.h"
#include "look/anchors.h"
#include "look/cube.h"

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
    film::FilmReader reader(folder_ / film);
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

}  // namespace
}  // namespace askcount
