// SPDX-License-Identifier: GPL-3.0-or-later
// Ctrl+C and being told to end: a clean stop, its exit code, and what is kept.
#include <map>

#include "base/files.h"
#include "media/encoder.h"
#include "running.h"
#include "simulate/card.h"

namespace askcount {
namespace {

class StoppingTest : public ::testing::Test {
 protected:
  void SetUp() override {
    save_take(test::small_take(400, {600, 400}), take());
    test::fs::create_directory(folder_ / "out");
  }
  test::fs::path take() const { return folder_ / "long.askcount"; }
  std::string quoted(const std::string& name) const { return "'" + (folder_ / name).string() + "'"; }
  test::Folder folder_;
};

TEST_F(StoppingTest, AShootStopsAndSoDoesItsStandIn) {
  for (const int signal : {SIGINT, SIGTERM, SIGHUP}) {
    const test::fs::path card = folder_ / ("card" + std::to_string(signal));
    Running shoot("shoot " + quoted("long.askcount") + " --card '" + card.string() + "'");
    ASSERT_TRUE(shoot.until([&] { return count_files(card, ".JPG") > 6; })) << shoot.said();
    shoot.send(signal);
    EXPECT_EQ(shoot.wait(), 128 + signal) << shoot.said();
    EXPECT_NE(shoot.said().find("frames are on"), std::string::npos) << shoot.said();
    const long long kept = count_files(card, ".JPG");
    EXPECT_LT(kept, 405);
    // Its record is written whole, and says that it was stopped.
    const Json record = read_json(simulate::truth_file(card));
    EXPECT_EQ(record["shots"].size(), static_cast<size_t>(kept));
    EXPECT_TRUE(record["stopped"].get<bool>());
    EXPECT_FALSE(simulate::is_whole(card));
    EXPECT_NO_THROW(simulate::CardLock{card}) << "nobody shoots on unseen";
  }
}

TEST_F(StoppingTest, AKilledShootEndsItsStandInAndTheCardIsUsedAgain) {
  {
    Running shoot("shoot " + quoted("long.askcount") + " --card " + quoted("card"));
    ASSERT_TRUE(shoot.until([&] { return count_files(folder_ / "card", ".JPG") > 6; }));
    shoot.send(SIGKILL);
    EXPECT_EQ(shoot.wait(), -SIGKILL);
  }
  bool free = false;
  for (int i = 0; i < 500 && !free; ++i) try {
      simulate::CardLock lock(folder_ / "card");
      free = true;
    } catch (const Error&) {
      std::this_thread::sleep_for(std::chrono::milliseconds(20));
    }
  EXPECT_TRUE(free) << "the stand-in notices that it is alone";
  EXPECT_LT(count_files(folder_ / "card", ".JPG"), 405);
  save_take(test::small_take(5, {48, 32}), folder_ / "short.askcount");
  EXPECT_EQ(askcount("shoot " + quoted("short.askcount") + " --card " + quoted("card")).exit, 2);
  EXPECT_EQ(
      answer("shoot " + quoted("short.askcount") + " --card " + quoted("card") + " --empty-first")["frames"],
      5);
}

TEST_F(StoppingTest, ACutLeavesTheOldFilmAndNothingElse) {
  save_take(test::small_take(150, {600, 400}), folder_ / "some.askcount");
  answer("shoot " + quoted("some.askcount") + " --card " + quoted("card"));
  const std::string cut =
      "cut " + quoted("card") + " --fps 25 --size 480x270 --preset veryfast -o " + quoted("out/clip.mp4");
  answer(cut);
  const std::string before = read_file(folder_ / "out/clip.mp4");
  const auto writing = [&] {
    for (const auto& e : test::fs::directory_iterator(folder_ / "out"))
      if (e.path().filename().string().starts_with(".askcount-writing-")) return true;
    return false;
  };
  for (const int signal : {SIGINT, SIGTERM}) {
    Running again(cut);
    ASSERT_TRUE(again.until(writing)) << again.said();
    again.send(signal);
    again.send(signal);  // who ends a group of programs may be heard twice
    EXPECT_EQ(again.wait(), 128 + signal);
    EXPECT_TRUE(read_file(folder_ / "out/clip.mp4") == before);
    EXPECT_EQ(std::distance(test::fs::directory_iterator(folder_ / "out"), {}), 1);
  }
}

TEST_F(StoppingTest, MakeLeavesNoHiddenCard) {
  Running make("make " + quoted("long.askcount") + " -o " + quoted("out/clip.mp4"));
  ASSERT_TRUE(make.until([&] { return count_files(folder_ / "out", ".JPG") > 6; })) << make.said();
  make.send(SIGTERM);
  EXPECT_EQ(make.wait(), 143) << make.said();
  EXPECT_TRUE(test::fs::is_empty(folder_ / "out"));
}

TEST_F(StoppingTest, AStoppedDemoIsShotAnewAndAForeignCardIsLeft) {
  Running demo("demo " + quoted("demo"));
  ASSERT_TRUE(demo.until([&] { return count_files(folder_ / "demo", ".JPG") > 3; }));
  demo.send(SIGINT);
  EXPECT_EQ(demo.wait(), 130);
  EXPECT_FALSE(simulate::is_whole(folder_ / "demo/card"));
  // Something of the person's lies there now: it is named and stays, and so does the refusal.
  test::write(folder_ / "demo/card/DCIM/100QUAY/MINE.JPG", std::string("mine"));
  const test::Said said = askcount("demo " + quoted("demo"));
  EXPECT_EQ(said.exit, 2);
  EXPECT_NE(said.err.find("MINE.JPG"), std::string::npos) << said.err;
  EXPECT_EQ(read_file(folder_ / "demo/card/DCIM/100QUAY/MINE.JPG"), "mine");
  // A card that no stand-in has begun is never touched.
  test::fs::create_directories(folder_ / "real/card/DCIM/100REAL");
  test::write(folder_ / "real/card/DCIM/100REAL/A.JPG", std::string("a photograph"));
  EXPECT_EQ(askcount("demo " + quoted("real")).exit, 2);
  EXPECT_EQ(read_file(folder_ / "real/card/DCIM/100REAL/A.JPG"), "a photograph");
}

/// Everything below a folder: names and what is in them.
std::map<std::string, std::string> all_in(const test::fs::path& folder) {
  std::map<std::string, std::string> files;
  for (const auto& e : test::fs::recursive_directory_iterator(folder))
    if (e.is_regular_file()) files[test::fs::relative(e.path(), folder).string()] = read_file(e.path());
  return files;
}

TEST_F(StoppingTest, EveryLongVerbStopsWholeAndCanBeAskedAgain) {
  save_take(test::small_take(150, {480, 320}), folder_ / "some.askcount");
  answer("shoot " + quoted("some.askcount") + " --card " + quoted("card"));
  const auto card = all_in(folder_ / "card");
  const std::string take_file = read_file(folder_ / "some.askcount");
  const std::string frames = quoted("card"), some = quoted("some.askcount");
  // What a verb has written once it is stopped may stay where asking again goes on from there, and only
  // whole.
  struct Verb {
    std::string words, goes_on_in;
    bool when_it_writes = false;
  };
  const std::vector<Verb> verbs = {
      {"gather " + frames + " --csv " + quoted("out/frames.csv"), ""},
      {"level " + frames, ""},
      {"lens " + some + " " + frames + " --find", ""},
      {"develop " + frames + " -o " + quoted("out/developed") + " --format png16", "developed", true},
      {"copy " + frames + " --to " + quoted("out/copied"), "copied", true},
      {"trial " + some + " -o " + quoted("out/trial.mp4"), ""},
      {"cut " + frames + " --fps 25 --steady all --size 480x270 -o " + quoted("out/still.mp4"), ""},
  };
  for (const Verb& verb : verbs) {
    const test::fs::path out = folder_ / "out";
    test::fs::remove_all(out);
    test::fs::create_directory(out);
    Running running(verb.words);
    ASSERT_TRUE(running.until([&] {
      return running.hears(SIGINT) &&
             (verb.when_it_writes ? count_files(out, verb.goes_on_in == "copied" ? ".JPG" : ".png") > 0
                                  : running.worked_s() > 0.1);
    })) << verb.words
        << "\n"
        << running.said();
    running.send(SIGINT);
    EXPECT_EQ(running.wait(), 130) << verb.words << "\n" << running.said();
    EXPECT_NE(running.said().find("topped"), std::string::npos) << verb.words << "\n" << running.said();
    EXPECT_TRUE(all_in(folder_ / "card") == card) << verb.words;
    EXPECT_EQ(read_file(folder_ / "some.askcount"), take_file) << verb.words;
    const auto left = all_in(out);
    if (verb.goes_on_in.empty()) {
      EXPECT_TRUE(left.empty()) << verb.words << " left " << left.begin()->first;
      continue;
    }
    for (const auto& [name, bytes] : left)
      EXPECT_FALSE(test::fs::path(name).filename().string().starts_with(".")) << verb.words << ": " << name;
    answer(verb.words);
    const auto whole = all_in(out);
    EXPECT_GE(whole.size(), 150U) << verb.words;
    for (const auto& [name, bytes] : left)
      if (name.ends_with(".JPG") || name.ends_with(".png")) {
        EXPECT_TRUE(whole.at(name) == bytes) << verb.words << " left half of " << name;
      }
  }
}

}  // namespace
}  // namespace askcount
