// SPDX-License-Identifier: GPL-3.0-or-later
// What the command writes, and what it must not write over.
#include "base/files.h"
#include "media/jpeg.h"
#include "running.h"

namespace askcount {
namespace {

class CommandOutputs : public ::testing::Test {
 protected:
  void SetUp() override {
    save_take(test::small_take(30, {96, 64}), folder_ / "a.askcount");
    test::write(folder_ / "photo.jpg", media::encode_jpeg(image::Coded8({48, 32}), 90));
    test::write(folder_ / "notes.txt", std::string("mine"));
  }
  std::string quoted(const std::string& name) const { return "'" + (folder_ / name).string() + "'"; }
  /// Every output of the command, aimed at a file.
  std::vector<std::string> all_at(const std::string& name) const {
    const std::string take = quoted("a.askcount"), to = " " + quoted(name);
    return {"along " + take + " --plan" + to,
            "along " + take + " --cues" + to,
            "along " + take + " --timer" + to,
            "along " + take + " --calendar" + to,
            "along " + take + " --light" + to,
            "ramp " + take + " --csv" + to,
            "ramp " + take + " --light-csv" + to,
            "count --frames 9 --fps 25 --interval 5 --save" + to,
            "make " + take + " -o" + to,
            "trial " + take + " -o" + to,
            "cut " + quoted("card") + " --fps 25 -o" + to};
  }
  test::Folder folder_;
};

TEST_F(CommandOutputs, NeverGoOverWhatIsNotTheirs) {
  for (const char* name : {"photo.jpg", "notes.txt", "a.askcount"}) {
    const std::string before = read_file(folder_ / name);
    for (const std::string& line : all_at(name)) {
      EXPECT_EQ(askcount(line).exit, 2) << line;
      EXPECT_TRUE(read_file(folder_ / name) == before) << line;
      if (std::string(name) == "notes.txt") continue;
      if (std::string(name) == "a.askcount" && line.starts_with("count")) continue;  // a take over a take
      EXPECT_EQ(askcount(line + " --force").exit, 2) << line;
      EXPECT_TRUE(read_file(folder_ / name) == before) << line;
    }
  }
  EXPECT_EQ(askcount("ramp " + quoted("a.askcount") + " --csv " + quoted("notes.txt") + " --force").exit, 0);
  EXPECT_NE(read_file(folder_ / "notes.txt"), "mine");
  // Refused before anything is written, and two of one name are too.
  EXPECT_EQ(askcount("along " + quoted("a.askcount") + " --plan " + quoted("p.pdf") + " --calendar " +
                     quoted("photo.jpg"))
                .exit,
            2);
  EXPECT_FALSE(test::fs::exists(folder_ / "p.pdf"));
  EXPECT_EQ(
      askcount("along " + quoted("a.askcount") + " --plan " + quoted("p.pdf") + " --timer " + quoted("p.pdf"))
          .exit,
      2);
  EXPECT_FALSE(test::fs::exists(folder_ / "p.pdf"));
}

TEST_F(CommandOutputs, AnAnswerThatCannotBeWrittenIsAnError) {
  for (const char* verb : {"kit", "kit --json", "count --frames 9 --fps 25 --interval 5"}) {
    const test::Said said = askcount(std::string(verb) + " >/dev/full");
    EXPECT_EQ(said.exit, 1) << verb;
    EXPECT_NE(said.err.find("cannot be written"), std::string::npos) << said.err;
  }
}

TEST_F(CommandOutputs, SaysWhatNeighboursMadeAndWhereToBeginInstead) {
  answer("shoot " + quoted("a.askcount") + " --card " + quoted("card"));
  const media::Frames frames = ingest::gather(folder_ / "card").frames;
  const std::string cut =
      "cut " + quoted("card") + " --fps 25 --size 96x54 --preset veryfast -o " + quoted("c.mp4");
  test::fs::resize_file((*frames)[12].file(), 900);
  const Json one = answer(cut);
  EXPECT_EQ(one["stood_in"], 1);
  EXPECT_NEAR(one["stood_in_share"].get<double>(), 1 / 30.0, 1e-4);
  EXPECT_NE(askcount(cut).out.find("at most 10 % may"), std::string::npos);
  // The metadata is whole, so that they are of the take; the pictures end in the middle.
  for (size_t n = 0; n < 8; ++n)
    test::fs::resize_file((*frames)[n].file(), test::fs::file_size((*frames)[n].file()) - 300);
  const test::Said refused = askcount(cut);
  EXPECT_EQ(refused.exit, 1);
  ASSERT_NE(refused.err.find("--from 9"), std::string::npos) << refused.err;
  EXPECT_EQ(refused.err.find("--to"), std::string::npos) << "there is nothing before them: " << refused.err;
  EXPECT_EQ(answer(cut + " --from 9")["frames"], 22) << "the advice helps";
  EXPECT_EQ(answer(cut + " --from 14 --to 20")["frames"], 7);
  // Where not even the metadata is left they are still frames by their numbers: nothing is thrown away
  // unsaid.
  for (size_t n = 0; n < 8; ++n) test::write((*frames)[n].file(), std::string("nothing"));
  const Json left = answer("gather --list " + quoted("card"));
  EXPECT_EQ(left["frames"].get<int>() + static_cast<int>(left["dropped"].size()), 30 + 5);
  EXPECT_EQ(std::count_if(left["findings"].begin(), left["findings"].end(),
                          [](const Json& f) { return f["code"] == "no_gaps"; }),
            0);
  for (size_t n = 0; n < 8; ++n) test::fs::remove((*frames)[n].file());
  EXPECT_EQ(askcount(cut + " --from 20 --to 14").exit, 2);
  EXPECT_EQ(askcount(cut + " --to 31").exit, 2);
}

TEST_F(CommandOutputs, FoldersThatAreNotThereAreBadInputEverywhere) {
  for (const char* line : {"gather /nowhere", "level /nowhere", "cut /nowhere -o x.mp4 --fps 25",
                           "ramp --exposures-of /nowhere"})
    EXPECT_EQ(askcount(line).exit, 2) << line;
  for (const std::string& line : all_at("absent/x"))
    EXPECT_TRUE(line.starts_with("make") || line.starts_with("cut") || askcount(line).exit == 2) << line;
  EXPECT_EQ(askcount("make " + quoted("a.askcount") + " -o " + quoted("absent/x.mp4")).exit, 2);
}

}  // namespace
}  // namespace askcount
