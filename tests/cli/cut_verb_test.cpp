// SPDX-License-Identifier: GPL-3.0-or-later
// askcount cut: what it is asked for, and what it says and writes.
#include <fstream>

#include "askcount.h"
#include "support.h"

namespace askcount {
namespace {

class CutVerb : public ::testing::Test {
 protected:
  void SetUp() override {
    take::Take take = test::small_take(30, {240, 160});
    take.name = "Boats on the flood tide";
    take::save_take(take, folder_ / "a.askcount");
    answer("shoot " + quoted("a.askcount") + " --card " + quoted("card"));
  }
  std::string quoted(const std::string& name) const { return "'" + (folder_ / name).string() + "'"; }
  std::string cut(const std::string& rest) const {
    return "cut " + quoted("card") + " --take " + quoted("a.askcount") +
           " --preset veryfast --size 192x108 " + rest;
  }
  test::Folder folder_;
};

TEST_F(CutVerb, RetimesAndSaysWhatItMade) {
  const Json plain = answer(cut("-o " + quoted("p.mp4")));
  EXPECT_EQ(plain["frames"], 30);
  EXPECT_EQ(plain["made"], 0);
  EXPECT_EQ(plain["films"].size(), 1u);
  EXPECT_EQ(plain["films"][0]["film"], plain["film"]);
  EXPECT_EQ(answer(cut("--from 4 --to 20 --every 4 -o " + quoted("e.mp4")))["frames"], 5);
  const Json slow = answer(cut("--speed 0.5 --between motion --to 8 -o " + quoted("s.mp4")));
  EXPECT_EQ(slow["frames"], 15);
  EXPECT_EQ(slow["made"], 7);
  EXPECT_EQ(answer(cut("--to-and-fro --hold-last 1 -o " + quoted("t.mp4")))["frames"], 59 + 25);
  const Json curve = answer(cut("--speed 1@0 --speed 2@0.4 -o " + quoted("c.mp4")));
  EXPECT_LT(curve["frames"], 30);
  EXPECT_GT(curve["frames"], 15);
  EXPECT_EQ(
      answer(cut("--trails bright:all --still " + quoted("stars.png") + " -o " + quoted("b.mp4")))["still"],
      (folder_ / "stars.png").string());
  EXPECT_GT(test::fs::file_size(folder_ / "stars.png"), 5000u);
}

TEST_F(CutVerb, AnotherRateThanThePlansIsSaidLoudly) {
  const Json film = answer(cut("--fps 30 -o " + quoted("f.mp4")));
  EXPECT_EQ(film["fps"], 30.0);
  ASSERT_EQ(film["findings"].size(), 1u) << film["findings"];
  EXPECT_EQ(film["findings"][0]["code"], "other_rate");
  const std::string text = film["findings"][0]["text"];
  for (const char* said : {"25 fps", "1.2 s", "1 s", "1.2 times"})
    EXPECT_NE(text.find(said), std::string::npos) << said << ": " << text;
  EXPECT_TRUE(answer(cut("--fps 25 -o " + quoted("g.mp4")))["findings"].empty());
}

TEST_F(CutVerb, ViewsSteadyingAndManyFilmsAtOnce) {
  const Json films = answer(cut("-o " + quoted("wide.mp4") + " --steady all --film " + quoted("tall.mp4") +
                                "='--size 108x192 --view 0.4,0.5,0.3@0 --view 0.6,0.5,0.3@1' --film " +
                                quoted("web.webm") + "='--codec vp9 --to 10 --steady none'"));
  ASSERT_EQ(films["films"].size(), 3u);
  EXPECT_EQ(films["films"][1]["size"], "108x192");
  EXPECT_EQ(films["films"][2]["codec"], "vp9");
  EXPECT_EQ(films["films"][2]["frames"], 10);
  EXPECT_LT(films["steadied"]["jitter_before"].get<double>(), 0.6) << "a tripod";
  EXPECT_LT(films["steadied"]["edge"].get<double>(), 0.02);
  EXPECT_FALSE(films["films"][2].contains("steadied"));
  const auto soft = films["findings"];
  ASSERT_FALSE(soft.empty());
  EXPECT_EQ(soft.back()["code"], "view_soft") << "72 pixels for 108";
}

TEST_F(CutVerb, ReportPosterAndMetadata) {
  const Json film = answer(cut("--report --title --author 'A. Rower' --words 'From the sea wall' --poster " +
                               quoted("poster.png") + "@0.5 -o " + quoted("m.mp4")));
  EXPECT_EQ(film["poster"], (folder_ / "poster.png").string());
  // A picture that is there stays, and is told before the film is made again.
  const auto again = askcount(cut("--poster " + quoted("poster.png") + " -o " + quoted("n.mp4")));
  EXPECT_NE(again.exit, 0);
  EXPECT_NE(again.err.find("poster.png already exists"), std::string::npos) << again.err;
  EXPECT_FALSE(test::fs::exists(folder_ / "n.mp4"));
  std::ifstream in(folder_ / "m.mp4.json");
  EXPECT_EQ(Json::parse(in)["frames"], 30);
  const std::string probe = test::run("ffprobe -v error -show_entries format_tags " + quoted("m.mp4")).out;
  for (const char* said : {"Boats on the flood tide", "A. Rower", "From the sea wall"})
    EXPECT_NE(probe.find(said), std::string::npos) << probe;
  EXPECT_NE(
      test::run("ffprobe -v error -show_entries stream=width,height -of csv=p=0 " + quoted("poster.png"))
          .out.find("192,108"),
      std::string::npos);
}

TEST_F(CutVerb, SaysWhatAFilmWouldTakeAndMakesNone) {
  const Json json = answer(cut("--estimate -o " + quoted("e.mp4")));
  EXPECT_FALSE(test::fs::exists(folder_ / "e.mp4"));
  const auto bytes = json["estimate"]["bytes"].get<double>();
  EXPECT_EQ(json["estimate"]["films"][0]["bytes"], bytes);
  EXPECT_GT(json["estimate"]["seconds"].get<double>(), 0);
  const Json film = answer(cut("-o " + quoted("e.mp4")));
  EXPECT_NEAR(bytes / film["bytes"].get<double>(), 1, 0.2);
}

TEST_F(CutVerb, AGlimpseIsThePictureTheFilmHas) {
  const std::string how =
      "--view 0.4,0.5,0.6@0 --view 0.6,0.5,0.4@1 --text 'Quay' --steady all -o " + quoted("g.mkv");
  answer(cut("--glimpse " + quoted("g.png") + "@0.8 " + how));
  EXPECT_FALSE(test::fs::exists(folder_ / "g.mkv"));
  answer(cut("--quality 0 --poster " + quoted("p.png") + "@0.8 " + how));
  // By another program: how far the two pictures are apart.
  const std::string told = test::run("ffmpeg -hide_banner -i " + quoted("g.png") + " -i " + quoted("p.png") +
                                     " -lavfi psnr -f null -")
                               .err;
  const size_t at = told.find("average:");
  ASSERT_NE(at, std::string::npos) << told;
  EXPECT_GT(told.substr(at + 8, 3) == "inf" ? 99 : std::stod(told.substr(at + 8)), 38) << told;
  EXPECT_NE(askcount(cut("--glimpse " + quoted("h.png") + "@9 " + how)).exit, 0);
}

TEST_F(CutVerb, MissingFramesAreMadeUnlessTheyAreLeft) {
  const std::string second = test::run("find " + quoted("card") + " -name '*.JPG' | sort | sed -n 11p").out;
  test::fs::remove(second.substr(0, second.size() - 1));
  const Json made = answer(cut("-o " + quoted("m.mp4")));
  EXPECT_EQ(made["frames"], 30) << "as was planned";
  EXPECT_EQ(made["made"], 1);
  const Json left = answer(cut("--leave-gaps -o " + quoted("l.mp4")));
  EXPECT_EQ(left["frames"], 29);
  EXPECT_EQ(left["made"], 0);
}

TEST_F(CutVerb, ChaptersStandWhereTheLightChanges) {
  take::Take dusk = test::small_take(150, {120, 80}, 60);
  take::save_take(dusk, folder_ / "dusk.askcount");
  answer("shoot " + quoted("dusk.askcount") + " --card " + quoted("dusk"));
  const auto chapters = [&](const std::string& film) {
    return Json::parse(test::run("ffprobe -v error -of json -show_chapters " + quoted(film)).out)["chapters"];
  };
  answer("cut " + quoted("dusk") + " --fps 25 --size 96x64 --chapters -o " + quoted("d.mp4"));
  const Json found = chapters("d.mp4");
  ASSERT_GE(found.size(), 2u);
  double last = -1;
  for (const Json& c : found) {
    const std::string title = c["tags"]["title"];
    EXPECT_EQ(title.find(':'), 2u) << title;
    const double at = std::stod(c["start_time"].get<std::string>());
    EXPECT_GT(at, last);
    last = at;
  }
  EXPECT_LT(last, 6);
  EXPECT_NE(found.back()["tags"]["title"].get<std::string>().find("er"), std::string::npos)
      << "darker, cooler";
  answer("cut " + quoted("dusk") + " --fps 25 --size 96x64 -o " + quoted("n.mp4"));
  EXPECT_EQ(chapters("n.mp4").size(), 0u);
}

TEST_F(CutVerb, TheTakesOwnWishesAreDoneAndOptionsGoOverThem) {
  take::Take take = take::load_take(folder_ / "a.askcount");
  take.film.choice.every = 2;
  take.film.coding.codec = media::Codec::H265;
  take.film.choice.way = render::Way::Backward;
  take.more_films.resize(1);
  take.more_films[0].name = "short";
  take.more_films[0].size = {96, 96};
  take.more_films[0].choice.last = 5;
  take::save_take(take, folder_ / "a.askcount");
  const Json films = answer(cut("-o " + quoted("own.mp4")));
  EXPECT_EQ(films["frames"], 15);
  EXPECT_EQ(films["codec"], "hevc");
  ASSERT_EQ(films["films"].size(), 2u);
  EXPECT_EQ(films["films"][1]["film"], (folder_ / "short.mp4").string());
  EXPECT_EQ(films["films"][1]["frames"], 5);
  EXPECT_EQ(answer(cut("--every 3 --codec h264 -o " + quoted("own2.mp4") + " --film " + quoted("x.mp4") +
                       "=''"))["frames"],
            10);
}

TEST_F(CutVerb, WhatIsNotUnderstoodIsNamedAndNothingIsWritten) {
  const std::pair<const char*, const char*> wrong[] = {
      {"--view 0.1,0.5,0.5@0 -o x.mp4", "outside the frame"},
      {"--view 0.5,0.5 -o x.mp4", "--view 0.5,0.5"},
      {"--speed fast -o x.mp4", "--speed fast"},
      {"--codec av1 --chroma 422 -o x.mp4", "4:2:2"},
      {"--for editor -o x.mp4", "ProRes"},
      {"--trails dim -o x.mp4", "--trails dim"},
      {"--sound a.askcount -o x.mp4", "a.askcount"},
      {"--clock noon -o x.mp4", "--clock noon"},
      {"--still x.bmp -o x.mp4", "x.bmp"},
      {"--film x.mp4=--nonsense", "x.mp4"},
      {"--film x.mp4='--still y.png'", "x.mp4"},
      {"--backwards --to-and-fro -o x.mp4", "do not go together"},
      {"--trail 4 --trails bright:9 -o x.mp4", "do not go together"},
      {"--film x.mp4='' -o x.mp4", "Two films"},
      {"--to 31 -o x.mp4", "30 frames"},
      {"", "no film"},
      {"-o x.avi", "x.avi"}};
  for (const auto& [rest, named] : wrong) {
    const test::Said said =
        test::run("cd '" + folder_.path().string() + "' && " ASKCOUNT_COMMAND " " + cut(rest));
    EXPECT_EQ(said.exit, 2) << rest;
    EXPECT_NE(said.err.find(named), std::string::npos) << rest << ": " << said.err;
    EXPECT_FALSE(test::fs::exists(folder_ / "x.mp4")) << rest;
  }
}

}  // namespace
}  // namespace askcount
