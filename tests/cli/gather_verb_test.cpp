// SPDX-License-Identifier: GPL-3.0-or-later
// askcount gather and copy: what their answers say.
#include "askcount.h"
#include "films.h"

namespace askcount {
namespace {

std::string quoted(const test::fs::path& file) {
  return "'" + file.string() + "'";
}

TEST(GatherVerb, NamesEveryTakeAndEveryFault) {
  const test::Folder folder;
  test::Card first{.size = {300, 200}, .frames = 40};
  first.harm = [](int n) { return test::Harm{.blob = n == 20 ? 0.5 : 0.0, .missing = n == 30}; };
  test::write_card(first, folder / "a");
  test::write_card({.size = {300, 200},
                    .frames = 24,
                    .interval_s = 30,
                    .seed = 2,
                    .first_number = 200,
                    .first_ms = 1760090000000},
                   folder / "b");
  const std::string cards = quoted(folder / "a") + " " + quoted(folder / "b");
  const Json all = answer("gather " + cards + " --csv " + quoted(folder / "frames.csv"));
  EXPECT_EQ(all["frames"], 39);
  EXPECT_EQ(all["format"], "jpeg");
  EXPECT_EQ(all["missing_frames"], 1);
  ASSERT_EQ(all["takes"].size(), 2u);
  EXPECT_TRUE(all["takes"][0]["chosen"]);
  EXPECT_FALSE(all["takes"][1]["chosen"]);
  EXPECT_EQ(all["takes"][1]["frames"], 24);
  EXPECT_NEAR(all["takes"][1]["interval_s"].get<double>(), 30, 0.1);
  EXPECT_EQ(all["takes"][1]["exposures_each"], 1);
  EXPECT_NE(all["takes"][1]["first"].get<std::string>().find("FLD_0200.JPG"), std::string::npos);
  EXPECT_EQ(all["takes"][0]["start"], "2025-10-09T08:53:20");
  ASSERT_EQ(all["audit"].size(), 2u);
  EXPECT_EQ(all["audit"][0]["code"], "visitor");
  EXPECT_EQ(all["audit"][0]["frame"], 21);
  EXPECT_NE(all["audit"][0]["file"].get<std::string>().find("FLD_0021.JPG"), std::string::npos);
  EXPECT_EQ(all["audit"][0]["mend"], "neighbours");
  EXPECT_EQ(all["audit"][1]["code"], "missing");
  EXPECT_EQ(all["audit"][1]["frame"], 30);
  EXPECT_EQ(all["audit"][1]["amount"], 1);
  // A line a frame, and the fault in its own.
  std::ifstream in(folder / "frames.csv");
  std::string line, row;
  int lines = 0;
  while (std::getline(in, line))
    if (++lines == 22) row = line;
  EXPECT_EQ(lines, 40);
  EXPECT_TRUE(row.starts_with("21,FLD_0021.JPG,2025-10-09T08:56:40.")) << row;
  EXPECT_TRUE(row.ends_with(",visitor")) << row;
  EXPECT_EQ(answer("gather " + cards + " --list --choose 2")["frames"], 24);
  EXPECT_EQ(answer("gather " + cards + " --list --join 1,2")["frames"], 63);
  EXPECT_EQ(askcount("gather " + cards + " --list --choose 3").exit, 2);
  EXPECT_EQ(askcount("gather " + cards + " --list --join 1,7").exit, 2);
  // A left-out file is no frame; the camera's clock is put right.
  const Json less =
      answer("gather " + quoted(folder / "a") + " --list --leave-out FLD_0005.JPG --clock 3600");
  EXPECT_EQ(less["frames"], 38);
  EXPECT_EQ(less["takes"][0]["start"], "2025-10-09T09:53:20");
  EXPECT_EQ(less["dropped"][0]["why"], "by_hand");
}

TEST(GatherVerb, ATakeKeepsWhatWasMeasuredAndDecided) {
  const test::Folder folder;
  test::write_card({.size = {300, 200}, .frames = 30}, folder / "card");
  take::Take take;
  take.card = "card";
  take.gather.leave_out = {"FLD_0030.JPG"};
  take.gather.stand_in = {"FLD_0010.JPG"};
  take::save_take(take, folder / "x.askcount");
  const std::string line = "gather " + quoted(folder / "card") + " --take " + quoted(folder / "x.askcount");
  EXPECT_EQ(answer(line)["frames"], 29);
  EXPECT_TRUE(test::fs::exists(folder / "x.frames"));
  EXPECT_EQ(answer(line)["audit"], Json::array());
  EXPECT_EQ(take::load_take(folder / "x.askcount").gather, take.gather);
}

TEST(GatherVerb, TakesEveryNthPictureOfAVideo) {
  const test::Folder folder;
  test::write_film({.size = {160, 96}, .frames = 60}, folder / "walk.mp4");
  const std::string film = quoted(folder / "walk.mp4");
  const Json all = answer("gather " + film + " --list");
  EXPECT_EQ(all["frames"], 60);
  EXPECT_EQ(all["format"], "film");
  EXPECT_EQ(all["first"], "walk.mp4/000000");
  EXPECT_NEAR(all["interval_s"].get<double>(), 0.04, 1e-6);
  EXPECT_EQ(answer("gather " + film + " --every 7 --list")["last"], "walk.mp4/000056");
  // The plan's interval has this many pictures, and the film made of them says what the table said.
  answer("count --frames 20 --fps 25 --interval 0.12s --save " + quoted(folder / "x.askcount"));
  EXPECT_EQ(answer("gather " + film + " --list --take " + quoted(folder / "x.askcount"))["frames"], 20);
  const Json made = answer("cut " + film + " --take " + quoted(folder / "x.askcount") + " --size 160x96 -o " +
                           quoted(folder / "quick.mp4"));
  EXPECT_EQ(made["frames"], 20);
  EXPECT_EQ(answer("level " + film + " --every 4")["frames"], 15);
  const test::Said wrong = askcount("gather " + film + " --every 0");
  EXPECT_EQ(wrong.exit, 2);
}

TEST(GatherVerb, WhatATakeDecidedIsDoneInLevelAndCutToo) {
  const test::Folder folder;
  test::write_card({.size = {160, 96}, .frames = 30}, folder / "card");
  answer("count --frames 30 --fps 25 --interval 10s --save " + quoted(folder / "x.askcount"));
  take::Take take = take::load_take(folder / "x.askcount");
  take.gather.leave_out = {"FLD_0004.JPG", "FLD_0009.JPG"};
  take::save_take(take, folder / "x.askcount");
  const std::string with = quoted(folder / "card") + " --take " + quoted(folder / "x.askcount");
  EXPECT_EQ(answer("gather " + with + " --list")["frames"], 28);
  EXPECT_EQ(answer("level " + with)["frames"], 28);
  EXPECT_EQ(answer("cut " + with + " --size 160x96 -o " + quoted(folder / "a.mp4"))["frames"], 28);
}

TEST(CopyVerb, SaysWhenTheCardMayBeEmptied) {
  const test::Folder folder;
  test::write_card({.size = {96, 64}, .frames = 10}, folder / "card");
  const std::string line = "copy " + quoted(folder / "card") + " --to " + quoted(folder / "home") +
                           " --also " + quoted(folder / "disk");
  const Json done = answer(line);
  EXPECT_EQ(done["files"], 10);
  EXPECT_EQ(done["copied"], 10);
  EXPECT_TRUE(done["may_be_emptied"]);
  EXPECT_EQ(done["manifests"].size(), 2u);
  EXPECT_EQ(test::run("cd " + quoted(folder / "disk") + " && sha256sum -c --quiet copied.sha256").exit, 0);
  const test::Said again = askcount(line);
  EXPECT_NE(again.out.find("10 files already there and identical."), std::string::npos) << again.out;
  EXPECT_NE(again.out.find("The card may be emptied."), std::string::npos);
  const test::Said refused =
      askcount("copy " + quoted(folder / "card") + " --to " + quoted(folder / "card/in"));
  EXPECT_EQ(refused.exit, 2);
  EXPECT_NE(refused.err.find("inside the other"), std::string::npos) << refused.err;
}

}  // namespace
}  // namespace askcount
