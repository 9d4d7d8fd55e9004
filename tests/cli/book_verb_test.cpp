// SPDX-License-Identifier: GPL-3.0-or-later
// askcount book: takes file themselves, are found again, and are read by other programs.
#include <SQLiteCpp/SQLiteCpp.h>

#include "askcount.h"
#include "running.h"

namespace askcount {
namespace {

/// A book of each test's own.
struct BookVerb : testing::Test {
  test::Folder folder_;
  std::string before_ = std::getenv("XDG_DATA_HOME");
  BookVerb() { setenv("XDG_DATA_HOME", (folder_ / "data").c_str(), 1); }
  ~BookVerb() override { setenv("XDG_DATA_HOME", before_.c_str(), 1); }

  std::string at(const std::string& name) const { return (folder_ / name).string(); }
  /// A take with its frames, shot by the stand-in.
  std::string shot(const std::string& name, const std::string& scene, long long frames, double interval_s,
                   const std::string& faults = "") {
    take::Take t = test::small_take(frames, {96, 64}, interval_s);
    t.name = name;
    t.stand_in.scene = scene;
    t.card = name + " card";
    take::save_take(t, at(name + ".askcount"));
    const test::Said said =
        askcount(fmt::format("shoot '{}' --card '{}' {}", at(name + ".askcount"), at(t.card), faults));
    EXPECT_EQ(said.exit, 0) << said.err;
    return at(name + ".askcount");
  }
  Json takes(const std::string& options = "") { return answer("book " + options)["takes"]; }
};

TEST_F(BookVerb, EveryTakeFilesItselfAsItIsWorkedOn) {
  const std::string take = shot("dusk", "Tern Quay", 40, 20);
  ASSERT_EQ(takes().size(), 1u) << "when it is shot";
  EXPECT_TRUE(takes()[0]["frames"].is_null());
  EXPECT_EQ(takes()[0]["planned_frames"], 40);
  const Json gathered = answer(fmt::format("gather '{}' --take '{}'", at("dusk card"), take));
  EXPECT_EQ(takes()[0]["frames"], gathered["frames"]);
  EXPECT_EQ(takes()[0]["interval_s"], gathered["interval_s"]);
  const Json levelled = answer(fmt::format("level '{}' --take '{}'", at("dusk card"), take));
  EXPECT_EQ(takes()[0]["flicker_before"], levelled["flicker_before"]);
  EXPECT_EQ(takes()[0]["flicker_after"], levelled["flicker_after"]);
  const Json cut =
      answer(fmt::format("cut '{}' --take '{}' -o '{}' --size 96x64", at("dusk card"), take, at("a.mp4")));
  const Json filed = takes()[0];
  ASSERT_EQ(filed["films"].size(), 1u);
  EXPECT_EQ(filed["films"][0]["file"], at("a.mp4"));
  EXPECT_EQ(filed["films"][0]["seconds"], cut["duration_s"]);
  EXPECT_TRUE(filed["there"]);
  EXPECT_EQ(filed["place"], "Tern Quay");
}

TEST_F(BookVerb, NotesVerdictsAndSearch) {
  shot("dusk", "Tern Quay", 10, 20);
  shot("street", "the Ropewalk", 12, 1);
  askcount("book note dusk \"Fog came in\" --verdict badly --change \"Look at the haar forecast\"");
  ASSERT_EQ(takes("--where verdict=badly").size(), 1u);
  EXPECT_EQ(takes("--where forecast")[0]["name"], "dusk");
  EXPECT_EQ(takes("--where fog")[0]["note"], "Fog came in");
  EXPECT_EQ(takes("--where verdict=well").size(), 0u);
  const test::Said wrong = askcount("book note nobody \"x\"");
  EXPECT_EQ(wrong.exit, 2);
  EXPECT_NE(wrong.err.find("nobody"), std::string::npos);
  EXPECT_EQ(askcount("book --where shape=round").exit, 2);
}

TEST_F(BookVerb, AFolderOfFramesNobodyPlanned) {
  shot("night", "Gannet Head", 30, 25);
  const std::string frames = at("night card");
  const Json added = answer("book add '" + frames + "' --subject stars --note \"No plan\"");
  ASSERT_EQ(added["takes"].size(), 1u);
  EXPECT_EQ(added["takes"][0]["name"], "night card");
  EXPECT_EQ(added["takes"][0]["frames"], 30);
  EXPECT_EQ(added["takes"][0]["interval_s"], 25);
  EXPECT_EQ(added["takes"][0]["planned_frames"], nullptr);
  EXPECT_EQ(takes("--where subject=stars").size(), 1u);
  EXPECT_EQ(askcount("book add '" + at("not there") + "'").exit, 2);
  EXPECT_EQ(askcount("book add").exit, 2);
}

TEST_F(BookVerb, OneToldByHandAndATableOutAndIn) {
  const Json told = answer(
      "book add --name 'Fog bank' --place 'Gannet Head' --zone Europe/London "
      "--start '2025-09-01 06:10' --frames 412 --planned 420 --interval 1 --fps 25 "
      "--verdict fairly");
  EXPECT_EQ(told["takes"][0]["start"], "2025-09-01T06:10:00+01:00");
  EXPECT_EQ(told["takes"][0]["frames"], 412);
  answer("book --csv '" + at("book.csv") + "'");
  setenv("XDG_DATA_HOME", at("elsewhere").c_str(), 1);
  answer("book add '" + at("book.csv") + "'");
  const Json back = takes();
  ASSERT_EQ(back.size(), 1u);
  for (const char* key : {"name", "place", "start", "frames", "planned_frames", "interval_s", "verdict"})
    EXPECT_EQ(back[0][key], told["takes"][0][key]) << key;
  // And from what --json prints.
  test::write(folder_ / "book.json", answer("book").dump());
  setenv("XDG_DATA_HOME", at("a third").c_str(), 1);
  answer("book add '" + at("book.json") + "'");
  EXPECT_EQ(takes()[0]["start"], told["takes"][0]["start"]);
}

TEST_F(BookVerb, TakesOutWhatIsNamedAllOrNothing) {
  for (const char* name : {"Fog one", "Fog two", "Gulls"})
    answer(fmt::format("book add --name '{}' --frames 20", name));
  EXPECT_EQ(askcount("book out Gulls 'No such take'").exit, 2);
  EXPECT_EQ(answer("book")["takes"].size(), 3u) << "nothing goes where one is not known";
  EXPECT_EQ(askcount("book out fog").exit, 2) << "two are called so";
  const Json out = answer("book out Gulls 'Fog two' gulls");
  EXPECT_EQ(out["taken_out"].size(), 2u);
  ASSERT_EQ(answer("book")["takes"].size(), 1u);
  EXPECT_EQ(answer("book")["takes"][0]["name"], "Fog one");
}

TEST_F(BookVerb, PagesAndSheets) {
  shot("dusk", "Tern Quay", 10, 20);
  answer(fmt::format("book --page '{}' --pdf '{}'", at("book.html"), at("book.pdf")));
  EXPECT_NE(test::run("pdftotext '" + at("book.pdf") + "' -").out.find("dusk"), std::string::npos);
  std::ifstream page(folder_ / "book.html");
  const std::string html{std::istreambuf_iterator<char>(page), {}};
  EXPECT_NE(html.find("dusk"), std::string::npos);
  answer(fmt::format("book --page '{}'", at("book.html")));  // ours: written over
  test::write(folder_ / "theirs.html", std::string("<!doctype html><p>theirs"));
  EXPECT_EQ(askcount("book --page '" + at("theirs.html") + "'").exit, 2);
}

TEST_F(BookVerb, WhatTheStandInDoesIsKeptApartFromThePersonsKit) {
  const std::string dew = "--fault dew@10=10";
  for (const char* name : {"one", "two"}) {
    const std::string take = shot(name, "Tern Quay", 60, 20, dew);
    answer(fmt::format("gather '{}' --take '{}'", at(std::string(name) + " card"), take));
  }
  const Json kit = answer("book kit");
  const auto fact = [&](const std::string& what) {
    for (const Json& f : kit["kit"])
      if (f["what"] == what) return f;
    return Json{};
  };
  ASSERT_FALSE(fact("releases").is_null()) << kit.dump(1);
  EXPECT_EQ(fact("releases")["takes"], 2);
  EXPECT_EQ(fact("releases")["value"], 120);
  for (const char* key : {"what", "value", "unit", "takes", "spread", "planned"})
    EXPECT_TRUE(fact("releases").contains(key)) << key;
  take::save_take(test::small_take(50), folder_ / "next.askcount");
  const Json into = answer("book kit --into '" + at("next.askcount") + "'");
  // Its dew was asked for, and none of it is the person's: nothing goes into a take, or on its checklist.
  EXPECT_TRUE(fact("releases")["simulated"]);
  EXPECT_TRUE(into["brought_in"].empty()) << into.dump(1);
  const Json list = answer("checklist '" + at("next.askcount") + "'");
  EXPECT_EQ(list.dump().find("of yours"), std::string::npos);
}

TEST_F(BookVerb, ANewTakeFromAnOldOne) {
  const std::string old = shot("dusk", "Tern Quay", 10, 20);
  const Json found = answer("book again dusk --date 2027-01-01 --days 365");
  EXPECT_EQ(found["body"], "sun");
  EXPECT_EQ(found["again"].size(), 2u);
  answer("book again dusk --date 2027-01-01 -o '" + at("again.askcount") + "'");
  const take::Take next = take::load_take(folder_ / "again.askcount");
  EXPECT_EQ(format_iso(next.start, next.place.zone).substr(0, 10), "2027-01-01");
  EXPECT_EQ(next.place, take::load_take(old).place);
}

TEST_F(BookVerb, OneBesideTheOther) {
  shot("dusk", "Tern Quay", 10, 20);
  shot("street", "the Ropewalk", 12, 1);
  const Json both = answer("book show dusk street");
  bool interval = false;
  for (const Json& l : both["lines"])
    if (l["what"] == "Interval planned") {
      interval = true;
      EXPECT_EQ(l["each"][0], "20 s");
      EXPECT_EQ(l["each"][1], "1 s");
      EXPECT_TRUE(l["differ"]);
    }
  EXPECT_TRUE(interval);
}

TEST_F(BookVerb, ABookThatCannotBeWrittenCostsNoWork) {
  test::write(folder_ / "data", std::string("no folder"));
  take::save_take(test::small_take(10, {96, 64}), folder_ / "a.askcount");
  const test::Said said = askcount(fmt::format("shoot '{}' --card '{}'", at("a.askcount"), at("card")));
  EXPECT_EQ(said.exit, 0);
  EXPECT_NE(said.err.find("not in the book"), std::string::npos) << said.err;
  EXPECT_GE(count_files(folder_ / "card", ".JPG"), 10);
}

TEST_F(BookVerb, APackedTakeIsWorkedOnElsewhere) {
  const std::string take = shot("dusk", "Tern Quay", 12, 20);
  askcount("book note dusk \"Keep this\" --verdict well");
  const Json packed = answer(fmt::format("pack '{}' -o '{}'", take, at("away.zip")));
  EXPECT_EQ(packed["take"], "away/dusk.askcount");
  EXPECT_TRUE(packed["missing"].empty());
  ASSERT_EQ(test::run(fmt::format("unzip -q '{}' -d '{}'", at("away.zip"), at("far"))).exit, 0);
  setenv("XDG_DATA_HOME", at("their data").c_str(), 1);
  const std::string there = at("far/away/dusk.askcount"), card = at("far/away/card");
  EXPECT_EQ(answer(fmt::format("gather '{}' --take '{}'", card, there))["frames"], 12);
  EXPECT_EQ(takes()[0]["note"], "Keep this");
  EXPECT_EQ(takes()[0]["verdict"], "well");
  EXPECT_EQ(askcount(fmt::format("pack '{}' -o '{}'", take, at("away.zip"))).exit, 2) << "it is there";
}

TEST_F(BookVerb, AnyProgramReadsIt) {
  shot("dusk", "Tern Quay", 10, 20);
  SQLite::Database db((folder_ / "data" / "Ask Count" / "book.db").string(), SQLite::OPEN_READONLY);
  EXPECT_EQ(db.execAndGet("SELECT name || ', ' || place FROM takes").getString(), "dusk, Tern Quay");
  EXPECT_EQ(db.execAndGet("PRAGMA integrity_check").getString(), "ok");
}

}  // namespace
}  // namespace askcount
