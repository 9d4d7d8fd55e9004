// SPDX-License-Identifier: GPL-3.0-or-later
// What a hostile user would try with the command: nothing of theirs is lost, and nothing it says is untrue.
#include <SQLiteCpp/SQLiteCpp.h>

#include "base/files.h"
#include "base/output.h"
#include "cards.h"
#include "journal/journal.h"
#include "media/jpeg.h"
#include "running.h"

namespace askcount {
namespace {

namespace fs = std::filesystem;

class NothingLost : public ::testing::Test {
 protected:
  void SetUp() override { save_take(test::small_take(30, {96, 64}), folder_ / "a.askcount"); }
  std::string quoted(const std::string& name) const { return "'" + (folder_ / name).string() + "'"; }
  std::string there(const std::string& name) const { return read_file(folder_ / name); }
  test::Folder folder_;
};

TEST_F(NothingLost, APhotographIsNoBook) {
  test::write(folder_ / "IMG.JPG", media::encode_jpeg(image::Coded8({48, 32}), 90));
  const std::string before = there("IMG.JPG");
  for (const char* what : {"", "check ", "kit ", "add --name boats "})
    EXPECT_EQ(askcount("book " + std::string(what) + "--book " + quoted("IMG.JPG")).exit, 2) << what;
  EXPECT_EQ(there("IMG.JPG"), before);
  EXPECT_EQ(folder_.names(), (std::vector<std::string>{"IMG.JPG", "a.askcount"}));
}

TEST_F(NothingLost, ANewTakeNeverGoesOverAnother) {
  take::Take other = test::small_take(7);
  other.name = "Another night";
  save_take(other, folder_ / "two.askcount");
  const std::string before = there("two.askcount");
  const std::string plan = "count --frames 9 --fps 25 --interval 5 --save " + quoted("two.askcount");
  for (const std::string& line :
       {plan, "book again " + quoted("a.askcount") + " -o " + quoted("two.askcount"),
        "program " + quoted("a.askcount") + " --save " + quoted("two.askcount"),
        "ramp " + quoted("a.askcount") + " --save " + quoted("two.askcount")}) {
    EXPECT_EQ(askcount(line).exit, 2) << line;
    EXPECT_EQ(there("two.askcount"), before) << line;
  }
  EXPECT_EQ(askcount(plan + " --force").exit, 0);
  EXPECT_NE(there("two.askcount"), before);
  // The take that was given is edited in its place.
  EXPECT_EQ(askcount("program " + quoted("a.askcount") + " --delay 7s --save " + quoted("a.askcount")).exit,
            0);
  EXPECT_EQ(take::load_take(folder_ / "a.askcount").delay_s, 7);
}

TEST_F(NothingLost, OfManyEditsAtOnceNoneIsLost) {
  std::vector<std::unique_ptr<Running>> looks;
  for (int n = 1; n <= 12; ++n)
    looks.push_back(std::make_unique<Running>("look " + quoted("a.askcount") + " --at " +
                                              std::to_string(2 * n) + " --light 0." + std::to_string(n)));
  for (auto& look : looks) EXPECT_EQ(look->wait(), 0);
  EXPECT_EQ(take::load_take(folder_ / "a.askcount").look.anchors.size(), 12u);
}

TEST_F(NothingLost, ACopyNamesWhatItLeaves) {
  test::write_card({.size = {96, 64}, .frames = 3}, folder_ / "card");
  test::write(folder_ / "card/.hidden.jpg", std::string("\xff\xd8\xff hidden"));
  const std::string line = "copy " + quoted("card") + " --to " + quoted("home");
  EXPECT_EQ(answer(line)["may_be_emptied"], true);
  EXPECT_EQ(there("home/.hidden.jpg"), "\xff\xd8\xff hidden");
  fs::create_symlink(folder_ / "a.askcount", folder_ / "card/link.jpg");
  const test::Said left = askcount(line);
  EXPECT_EQ(left.exit, 1);
  EXPECT_NE(left.out.find("link.jpg"), std::string::npos) << left.out;
  EXPECT_NE(left.out.find("Do not empty the card"), std::string::npos) << left.out;
}

/// A name alone makes nothing ours, in a card's folder and in an output's.
TEST_F(NothingLost, WhatLooksLikeOursStays) {
  test::write_card({.size = {96, 64}, .frames = 3}, folder_ / "card");
  for (const char* name : {"home/.FLD_0001.JPG.abcdefghij", "home/.askcount-writing-abcdefghij/wedding.jpg",
                           ".packed.tar.0123456789/wedding.jpg", ".film.mp4.abcdefghij"}) {
    fs::create_directories((folder_ / name).parent_path());
    test::write(folder_ / name, std::string("\xff\xd8\xff mine"));
  }
  EXPECT_EQ(askcount("copy " + quoted("card") + " --to " + quoted("home")).exit, 0);
  EXPECT_EQ(askcount("pack " + quoted("a.askcount") + " -o " + quoted("packed.tar")).exit, 0);
  EXPECT_EQ(askcount("cut " + quoted("card") + " --fps 25 --size 96x64 -o " + quoted("film.mp4")).exit, 0);
  for (const char* name : {"home/.FLD_0001.JPG.abcdefghij", "home/.askcount-writing-abcdefghij/wedding.jpg",
                           ".packed.tar.0123456789/wedding.jpg", ".film.mp4.abcdefghij"})
    EXPECT_EQ(there(name), "\xff\xd8\xff mine") << name;
}

TEST_F(NothingLost, ReportsAndSoundsOfTheirsStay) {
  test::write_card({.size = {96, 64}, .frames = 30}, folder_ / "card");
  const std::string cut = "cut " + quoted("card") + " --fps 25 --size 96x64 ";
  test::write(folder_ / "r.mp4.json", std::string("{\"mine\": true}"));
  EXPECT_EQ(askcount(cut + "--report -o " + quoted("r.mp4")).exit, 2);
  EXPECT_EQ(there("r.mp4.json"), "{\"mine\": true}");
  EXPECT_FALSE(fs::exists(folder_ / "r.mp4")) << "told before it is made";
  // A report of ours is written again.
  EXPECT_EQ(askcount(cut + "--report -o " + quoted("s.mp4")).exit, 0);
  EXPECT_EQ(askcount(cut + "--report -o " + quoted("s.mp4")).exit, 0);
  EXPECT_EQ(written_kind(folder_ / "s.mp4.json"), FileKind::Report);
  // The sound of the second film is what the first is to be called.
  test::run("ffmpeg -v error -f lavfi -i sine=d=3 -c:a aac '" + (folder_ / "sound.mp4").string() + "'");
  const std::string sound = there("sound.mp4");
  EXPECT_EQ(askcount(cut + "--force -o " + quoted("sound.mp4") + " --film " + quoted("t.mp4") + "='--sound " +
                     (folder_ / "sound.mp4").string() + "'")
                .exit,
            2);
  EXPECT_EQ(there("sound.mp4"), sound);
}

TEST_F(NothingLost, APosterAfterTheEndIsToldBeforeTheFilmIsMade) {
  test::write_card({.size = {96, 64}, .frames = 30}, folder_ / "card");
  const std::string cut =
      "cut " + quoted("card") + " --fps 25 --size 96x64 -o " + quoted("f.mp4") + " --poster ";
  const test::Said late = askcount(cut + "'" + (folder_ / "p.jpg").string() + "@30'");
  EXPECT_EQ(late.exit, 2);
  EXPECT_FALSE(fs::exists(folder_ / "f.mp4"));
  EXPECT_EQ(askcount(cut + "'" + (folder_ / "p.jpg").string() + "@1.1'").exit, 0);
  EXPECT_TRUE(fs::exists(folder_ / "p.jpg"));
}

TEST_F(NothingLost, APackHasItsOwnJournalsAndNamesWhatItLeaves) {
  take::Take take = take::load_take(folder_ / "a.askcount");
  test::write_card({.size = {96, 64}, .frames = 3}, folder_ / "card");
  take.card = "card";
  save_take(take, folder_ / "a.askcount");
  for (const char* name :
       {"a.journal", "a.2026-10-09-175000.journal", "a.night.journal", "a.night.2026-10-09-175000.journal"}) {
    journal::Journal journal;
    journal.open(folder_ / name);
    journal.append({{"what", "note"}, {"words", name}});
  }
  EXPECT_EQ(askcount("pack " + quoted("a.askcount") + " -o " + quoted("packed")).exit, 0);
  EXPECT_TRUE(fs::exists(folder_ / "packed/a.2026-10-09-175000.journal"));
  EXPECT_FALSE(fs::exists(folder_ / "packed/a.night.journal")) << "of another take";
  EXPECT_FALSE(fs::exists(folder_ / "packed/a.night.2026-10-09-175000.journal"));
  fs::create_symlink(folder_ / "a.askcount", folder_ / "card/link.jpg");
  const test::Said left = askcount("pack " + quoted("a.askcount") + " -o " + quoted("again"));
  EXPECT_EQ(left.exit, 1);
  EXPECT_NE(left.out.find("link.jpg"), std::string::npos) << left.out;
}

/// One black frame among even ones: it pulls nothing, and is said.
TEST_F(NothingLost, ABlackFrameIsSetAsideInTheLevelling) {
  test::Card card{.size = {240, 160}, .frames = 41};
  card.harm = [](int n) { return test::Harm{.gain = n == 20 ? 0.0 : 1.0}; };
  test::write_card(card, folder_ / "card");
  const Json level = answer("level " + quoted("card"));
  EXPECT_EQ(level["set_aside"], Json::array({21}));
  for (const Json& c : level["corrections"])
    EXPECT_LT(std::abs(c["correction_stops"].get<double>()), 0.05) << c["frame"];
  const Json film = answer("cut " + quoted("card") + " --fps 25 --size 96x64 -o " + quoted("f.mp4"));
  const auto said = [](const Json& findings) {
    return std::any_of(findings.begin(), findings.end(), [](const Json& f) {
      return f["code"] == "frames_set_aside" && f["severity"] == "warning";
    });
  };
  EXPECT_TRUE(said(level["findings"])) << level["findings"].dump(1);
  EXPECT_TRUE(said(film["findings"])) << film["findings"].dump(1);
}

/// A film of which half is missing is not said to be whole, and no library talks on the terminal.
TEST_F(NothingLost, AFilmThatWasCutShortIsNamed) {
  test::run("ffmpeg -v error -f lavfi -i testsrc=d=4:s=96x64:r=25 -c:v libx264 -movflags +faststart '" +
            (folder_ / "whole.mp4").string() + "'");
  const std::string bytes = there("whole.mp4");
  test::write(folder_ / "half.mp4", bytes.substr(0, bytes.size() * 6 / 10));
  const Json g = answer("gather " + quoted("whole.mp4") + " --every 1");
  EXPECT_EQ(g["frames"], 100);
  const test::Said half = askcount("gather " + quoted("half.mp4") + " --every 1 --json");
  EXPECT_EQ(half.out.find("prematurely"), std::string::npos);
  EXPECT_EQ(half.err.find("prematurely"), std::string::npos);
  EXPECT_NE(half.out.find("cut short"), std::string::npos) << half.out.substr(0, 2000);
  EXPECT_EQ(half.out.find("No frame is missing"), std::string::npos);
}

TEST_F(NothingLost, AnEntryThatMakesNoSenseIsMadeAnew) {
  const std::string book = " --book " + quoted("book.db");
  ASSERT_EQ(askcount("book add " + quoted("a.askcount") + book).exit, 0);
  ASSERT_EQ(askcount("book add --name Boats --note 'a good one'" + book).exit, 0);
  SQLite::Database(folder_ / "book.db", SQLite::OPEN_READWRITE).exec("UPDATE entries SET json = '{half'");
  const Json checked = answer("book check" + book);
  EXPECT_EQ(checked["made_anew"], 2);
  EXPECT_EQ(answer("book check" + book)["whole"], true);
  const Json takes = answer("book" + book)["takes"];
  ASSERT_EQ(takes.size(), 2u);
  for (const Json& t : takes)
    if (t["name"] == "Boats") {
      EXPECT_EQ(t["note"], "a good one");
    } else {
      EXPECT_EQ(t["planned_frames"], 30);
    }
}

}  // namespace
}  // namespace askcount
