// SPDX-License-Identifier: GPL-3.0-or-later
// The book: filed, found again, kept through damage, and what the kit is read off it.
#include "book/book.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <sys/wait.h>

#include <csignal>
#include <exiv2/exiv2.hpp>

#include "advice/checklist.h"
#include "base/files.h"
#include "book/kit.h"
#include "book/learn.h"
#include "book/measure.h"
#include "book/paths.h"
#include "book/rebuild.h"
#include "book/schema.h"
#include "book/tables.h"
#include "book/told.h"
#include "journal/journal.h"
#include "media/position.h"
#include "support.h"
#include "take/fix.h"

namespace askcount::book {
namespace {

Entry made_up(int n, const std::string& place = "Tern Quay") {
  Entry e;
  e.file = fmt::format("/nowhere/take {}.askcount", n);
  e.name = fmt::format("Take {}", n);
  e.subject = n % 2 ? "clouds" : "stars";
  e.place = {place, 56.1, -5.5, "Europe/London", 0};
  e.start = parse_instant(fmt::format("2026-{:02}-10 18:00:00", 1 + n % 12), "Europe/London");
  e.planned.frames = 250;
  e.planned.interval_s = 20;
  e.planned.fps = 25;
  e.came.emplace();
  e.came->frames = 240 + n;
  e.came->field_s = 4980;
  return e;
}

struct BookTest : testing::Test {
  test::Folder folder_;
  Book book_{Book::file_in(folder_.path())};

  std::vector<std::string> names(const Query& query = {}) {
    std::vector<std::string> list;
    for (const Row& r : book_.list(query).rows) list.push_back(r.name);
    return list;
  }
};

TEST_F(BookTest, AnEntryComesBackAsItWasFiled) {
  Entry e = made_up(3);
  e.evened = Evened{0.143, 0.001, true};
  e.faults = {{"dew", 7}, {"late", 2}};
  e.shot = Shot{false, 243, 2, 30, 4, 1, {"Changed the battery"}};
  e.films = {{"/nowhere/film.mp4", 9.72, 25, 1920, 1080, "h264", 1.5e6, e.start}};
  e.by_frames = {{"writing", "Body", 0.9, 0.6, Measure::Bound::AtMost, {}, 0.8}};
  e.gear = {"Body", "Lens", "Timer", {"A", "B"}, {"C"}, {"Grey 6"}};
  e.ticks = {"tripod", "strap"};
  e.words = {Verdict::Fairly, "A note, with \"marks\"", "Earlier", true};
  e.picture = std::string("\xFF\xD8\0picture", 10);
  e.id = book_.file(e);
  EXPECT_EQ(book_.picture(e.id), e.picture);
  Entry back = book_.entry(e.id).value();
  back.picture = e.picture;
  EXPECT_EQ(back, e);
}

TEST_F(BookTest, FilingAgainKeepsWhatIsNotSaidAnew) {
  Entry e = made_up(1);
  e.evened = Evened{0.2, 0.002, false};
  e.films = {{"/nowhere/a.mp4", 10, 25, 640, 360, "h264", 1, e.start}};
  const long long id = book_.file(e);
  book_.say(id, {Verdict::Well, "All well", "", true});
  Entry again = made_up(1);
  again.came.reset();
  again.name = "Another name";
  again.evened = Evened{0.2, 0.5, true};  // of a film alone: with the true changes of its light
  again.films = {{"/nowhere/b.mp4", 5, 25, 640, 360, "h264", 1, e.start}};
  EXPECT_EQ(book_.file(again), id);
  const Entry now = book_.entry(id).value();
  EXPECT_EQ(now.name, "Another name");
  EXPECT_EQ(now.came->frames, 241);
  EXPECT_EQ(now.evened->after, 0.002);
  EXPECT_EQ(now.films.size(), 2u);
  EXPECT_EQ(now.words.note, "All well");
  EXPECT_EQ(names(), std::vector<std::string>{"Another name"});
}

TEST_F(BookTest, WordsCanBeTakenBack) {
  const long long id = book_.file(made_up(1));
  book_.say(id, {Verdict::Badly, "Wet", "Heater", true});
  book_.say(id, {Verdict::None, "", "", true});
  EXPECT_EQ(book_.entry(id)->words.note, "");
  EXPECT_EQ(book_.list().rows[0].words.verdict, Verdict::None);
  Query query;
  query.words = "heater";
  EXPECT_TRUE(names(query).empty());
}

TEST_F(BookTest, ListsTheNewestFirstAndThoseWithoutADateLast) {
  Entry undated = made_up(9);
  undated.start = {};
  book_.file({made_up(2), undated, made_up(5), made_up(0)});
  EXPECT_EQ(names(), (std::vector<std::string>{"Take 5", "Take 2", "Take 0", "Take 9"}));
  EXPECT_EQ(book_.list().frames, 242 + 249 + 245 + 240);
}

TEST_F(BookTest, FindsByEverySlotAndByWordsAnywhere) {
  Entry noted = made_up(4, "Gannet Head");
  noted.words = {Verdict::Badly, "Dew from frame 214", "", true};
  Entry told = made_up(6);
  told.shot = Shot{};
  told.shot->notes = {"A fox walked by"};
  book_.file({made_up(1), noted, told, made_up(13)});
  const auto found = [&](const std::vector<std::string>& said) { return names(query_of(said)); };
  EXPECT_EQ(found({"place=gannet"}), std::vector<std::string>{"Take 4"});
  EXPECT_EQ(found({"subject=clouds"}), (std::vector<std::string>{"Take 13", "Take 1"}));
  EXPECT_EQ(found({"month=feb"}), (std::vector<std::string>{"Take 13", "Take 1"}));
  EXPECT_EQ(found({"month=5"}), std::vector<std::string>{"Take 4"});
  EXPECT_EQ(found({"verdict=badly"}), std::vector<std::string>{"Take 4"});
  EXPECT_EQ(found({"verdict=none"}).size(), 3u);
  EXPECT_EQ(found({"dew 21"}), std::vector<std::string>{"Take 4"}) << "beginnings of words";
  EXPECT_EQ(found({"fox"}), std::vector<std::string>{"Take 6"}) << "in the journal";
  EXPECT_EQ(found({"dew", "fox"}), std::vector<std::string>{});
  EXPECT_EQ(found({"place=%"}), std::vector<std::string>{}) << "no sign of a language stands for itself";
  EXPECT_EQ(found({"words=\"* OR note:"}), std::vector<std::string>{});
  EXPECT_EQ(test::error_of([] { query_of({"month=13"}); }).kind(), Error::Kind::BadInput);
  EXPECT_EQ(test::error_of([] { query_of({"colour=red"}); }).kind(), Error::Kind::BadInput);
}

TEST_F(BookTest, MonthsAreThoseOfThePlace) {
  Entry e = made_up(1);
  e.place.zone = "Pacific/Auckland";
  e.start = parse_instant("2026-06-30T20:00:00Z", "UTC");  // the first of July there
  book_.file(e);
  EXPECT_EQ(names(query_of({"month=7"})).size(), 1u);
  EXPECT_EQ(names(query_of({"month=6"})).size(), 0u);
}

TEST_F(BookTest, AMovedTakeIsKnownAgainAndADeletedOneStays) {
  const auto at = [&](const char* name) { return folder_ / name; };
  test::write(at("old.askcount"), std::string("x"));
  Entry e = made_up(1);
  e.file = at("old.askcount").string();
  const long long id = book_.file(e);
  book_.say(id, {Verdict::Well, "Kept", "", true});
  test::fs::rename(at("old.askcount"), at("new.askcount"));
  EXPECT_FALSE(is_there(book_.list().rows[0]));
  e.file = at("new.askcount").string();
  EXPECT_EQ(book_.file(e), id);
  EXPECT_TRUE(is_there(book_.list().rows[0]));
  EXPECT_EQ(book_.entry(id)->words.note, "Kept");
  // A copy is another take: the first is still there.
  test::fs::copy(at("new.askcount"), at("copy.askcount"));
  e.file = at("copy.askcount").string();
  EXPECT_NE(book_.file(e), id);
  test::fs::remove(at("copy.askcount"));
  EXPECT_EQ(book_.list().rows.size(), 2u) << "what is gone from the disk is not gone from the book";
}

TEST_F(BookTest, WhatIsTakenOutIsOutWithAllItTaught) {
  Entry e = made_up(1), hand = made_up(2);
  e.words = {Verdict::Badly, "Fogged", "A heater", true};
  e.by_frames = {{"writing_s", "Body", 0.9, 0.5, Measure::Bound::Exact, {}, {}}};
  e.faults = {{"dew", 40}};
  e.picture = "jpeg";
  hand.how = How::Hand;
  hand.file.clear();
  const long long id = book_.file(e), other = book_.file(hand);
  EXPECT_EQ(names(query_of({"fogged"})).size(), 1u);
  EXPECT_EQ(book_.take_out(id).name, e.name);
  EXPECT_FALSE(book_.entry(id));
  EXPECT_TRUE(names(query_of({"fogged"})).empty()) << "nor found by its words";
  EXPECT_TRUE(book_.measures().empty());
  EXPECT_EQ(book_.mistakes().count("dew"), 0u);
  EXPECT_TRUE(book_.picture(id).empty());
  EXPECT_EQ(listed(book_.path()).size(), 1u) << "nor in the list it is made anew from";
  EXPECT_EQ(book_.list().rows.size(), 1u);
  EXPECT_EQ(test::error_of([&] { book_.take_out(id); }).kind(), Error::Kind::BadInput);
  book_.take_out(other);
  EXPECT_TRUE(listed(book_.path()).empty());
  book_.file(e);
  EXPECT_EQ(book_.list().rows.size(), 1u) << "filed again, it is in again";
  EXPECT_EQ(listed(book_.path()).size(), 1u);
}

TEST(BookTold, SaysWhatIsKnownAndNothingElse) {
  Told told;
  EXPECT_EQ(test::error_of([&] { entry_by_hand(told); }).kind(), Error::Kind::BadInput) << "no name";
  told.name = "Fog bank";
  told.place = "Gannet Head";
  told.start = parse_instant("2026-02-01T07:00:00Z", "UTC");
  told.frames = 300;
  told.interval_s = 5;
  Entry e = entry_by_hand(told);
  EXPECT_EQ(e.how, How::Hand);
  EXPECT_NEAR(e.field_s(), 299 * 5, 1e-9);
  EXPECT_TRUE(e.place.known());
  EXPECT_FALSE(e.located()) << "a name alone says nothing of the sky";
  test::Folder folder;
  Book book(folder / "book.db");
  book.file(e);
  EXPECT_FALSE(book.list().rows[0].sun_from_deg) << "no sun is worked out for nowhere";
  EXPECT_TRUE(answer_json(e, true)["latitude_deg"].is_null());
  Told more;
  more.latitude_deg = 58.4;
  more.longitude_deg = -6.2;
  more.verdict = Verdict::Well;
  tell(e, more);
  EXPECT_EQ(e.name, "Fog bank") << "what is not said stays";
  EXPECT_EQ(e.came->frames, 300);
  book.file(e);
  ASSERT_TRUE(book.list().rows[0].sun_from_deg);
  EXPECT_NEAR(*book.list().rows[0].sun_from_deg, -11, 2);  // some 70 minutes before sunrise there
  const Entry before = e;
  for (const auto& spoil : std::vector<std::function<void(Told&)>>{
           [](Told& t) { t.frames = 0; }, [](Told& t) { t.planned = -1; }, [](Told& t) { t.interval_s = 0; },
           [](Told& t) { t.fps = -25; }, [](Told& t) { t.latitude_deg = 91; },
           [](Told& t) { t.zone = "Nowhere/At all"; }}) {
    Told bad;
    bad.name = "Another";
    spoil(bad);
    EXPECT_EQ(test::error_of([&] { tell(e, bad); }).kind(), Error::Kind::BadInput);
    EXPECT_EQ(e, before) << "refused whole";
  }
}

TEST_F(BookTest, ATakeThatGetsAFileKeepsItsEntry) {
  Entry e = made_up(1);
  e.file = (folder_ / "kept.askcount").string();
  const long long id = book_.file(e);
  EXPECT_TRUE(book_.moved(folder_ / "kept.askcount", folder_ / "mine.askcount"));
  EXPECT_EQ(book_.of_file(folder_ / "mine.askcount")->id, id);
  EXPECT_FALSE(book_.moved(folder_ / "kept.askcount", folder_ / "other.askcount"));
}

TEST_F(BookTest, IsFoundByNameOrFileWhereThatIsClear) {
  book_.file({made_up(1), made_up(11)});
  EXPECT_EQ(book_.find("Take 1"), book_.of_file("/nowhere/take 1.askcount")->id);
  EXPECT_EQ(book_.find("take 11.askcount"), book_.of_file("/nowhere/take 11.askcount")->id);
  const Error several = test::error_of([&] { book_.find("take"); });
  EXPECT_NE(std::string(several.what()).find("/nowhere/take 11.askcount"), std::string::npos);
  EXPECT_EQ(test::error_of([&] { book_.find("nothing like it"); }).kind(), Error::Kind::BadInput);
}

TEST_F(BookTest, SeveralProgramsMayHaveItOpen) {
  Book other(book_.path());
  const long long id = book_.file(made_up(1));
  EXPECT_EQ(other.list().rows.size(), 1u);
  other.say(id, {Verdict::Well, "From there", "", true});
  EXPECT_EQ(book_.list().rows[0].words.note, "From there");
}

TEST_F(BookTest, MistakesAreCountedByTakes) {
  Entry dew = made_up(1), both = made_up(2), early = made_up(3);
  dew.faults = {{"dew", 40}};
  both.faults = {{"dew", 3}, {"bump", 1}};
  both.shot = Shot{};
  both.shot->missed = 4;
  dew.came->frames = both.came->frames = 248;  // two of 250 are hardly missed
  early.came->frames = 100;
  book_.file({dew, both, early});
  const auto mistakes = book_.mistakes();
  EXPECT_EQ(mistakes.at("dew"), 2);
  EXPECT_EQ(mistakes.at("bump"), 1);
  EXPECT_EQ(mistakes.at("missed"), 1);
  EXPECT_EQ(mistakes.at("short"), 1);
}

TEST_F(BookTest, WhatTheStandInDidIsNoTakeOfThePersons) {
  Entry mine = made_up(1), played = made_up(2), told = made_up(3);
  for (Entry* e : {&mine, &played, &told}) {
    e->faults = {{"bump", 2}};
    e->by_frames = {{"writing", "Stand-in 24", 1.2, 0.6, Measure::Bound::Exact, {}, {}}};
    e->by_journal = {{"battery", "Cell A", 300, 560, Measure::Bound::Exact, 12.0, {}}};
    e->shot = Shot{};
  }
  mine.came->body = "Field 1";
  played.came->body = "Field 1";
  played.shot->standin = true;            // by its journal
  told.came->body = simulate::kBodyName;  // by its frames
  book_.file({played, told});
  EXPECT_TRUE(book_.mistakes().empty());
  const plan::Kit kit = plan::demo_kit();
  const auto of = [&](const char* what) {
    for (const KitFact& f : kit_facts(book_.measures(), kit))
      if (f.what == what) return std::optional(f);
    return std::optional<KitFact>();
  };
  EXPECT_FALSE(of("battery")) << "it ends when it was told to";
  ASSERT_TRUE(of("writing"));
  EXPECT_TRUE(of("writing")->simulated);
  EXPECT_EQ(of("writing")->takes, 2);
  const Findings said = judge(kit_facts(book_.measures(), kit), kit, 2);
  ASSERT_FALSE(said.empty());
  for (const Finding& f : said) EXPECT_FALSE(f.fix) << f.title << ": nothing simulated goes into a kit";
  // One of the person's own counts alone.
  book_.file(mine);
  EXPECT_EQ(book_.mistakes().at("bump"), 1);
  EXPECT_EQ(of("writing")->takes, 1);
  EXPECT_FALSE(of("writing")->simulated);
  EXPECT_EQ(of("battery")->takes, 1);
}

TEST_F(BookTest, PracticeIsKept) {
  book_.keep({"timer", "Dial", 130, now()});
  book_.keep({"timer", "Dial", 41, now()});
  book_.keep({"dusk", "Boats", 71, now()});
  EXPECT_EQ(book_.scores().size(), 3u);
  const Findings said = judge_practice(book_.scores());
  ASSERT_EQ(said.size(), 2u);
  EXPECT_EQ(said[0].title, "Dial in 41 s");
  EXPECT_NE(said[0].text.find("2 min 10 s"), std::string::npos);
}

// What happens to files.

TEST(BookFile, NothingFiledIsLostWhenTheProgramIsKilled) {
  const test::Folder folder;
  const auto file = Book::file_in(folder.path());
  int pipe_ends[2];
  ASSERT_EQ(pipe(pipe_ends), 0);
  const pid_t child = fork();
  if (child == 0) {
    Book book(file);
    for (int n = 0;; ++n) {
      book.file(made_up(n % 1000));
      const char done = 1;
      if (write(pipe_ends[1], &done, 1) != 1) _exit(1);
    }
  }
  close(pipe_ends[1]);
  int filed = 0;
  for (char c = 0; filed < 25 && read(pipe_ends[0], &c, 1) == 1;) ++filed;
  kill(child, SIGKILL);
  for (char c = 0; read(pipe_ends[0], &c, 1) == 1;) ++filed;  // what it told before it died
  int status = 0;
  waitpid(child, &status, 0);
  Book book(file);
  book.check();
  EXPECT_EQ(book.told(), "");
  const auto rows = static_cast<int>(book.list().rows.size());
  EXPECT_GE(rows, filed);
  EXPECT_LE(rows, filed + 1);
}

TEST(BookFile, ADamagedOneIsPutAsideAndMadeAnewFromTheTakes) {
  const test::Folder folder;
  const auto file = Book::file_in(folder.path());
  const auto take_file = folder / "boats.askcount";
  take::save_take(test::small_take(40), take_file);
  {
    Book book(file);
    const long long id = book.file(entry_of(take::load_take(take_file), take_file));
    book.say(id, {Verdict::Well, "Start earlier", "Ten minutes", true});
    Entry told = made_up(7);
    told.how = How::Hand;
    told.file.clear();
    book.file(told);
    Entry gone = made_up(8);
    book.file(gone);
  }
  const std::string rubbish(40000, 'z');
  test::write(file, rubbish);
  Book book(file);
  EXPECT_NE(book.told().find("book.db.damaged"), std::string::npos) << book.told();
  EXPECT_EQ(read_file(file.string() + ".damaged"), rubbish) << "it is kept as it was";
  ASSERT_EQ(book.list().rows.size(), 3u);
  const Entry again = book.of_file(take_file).value();
  EXPECT_EQ(again.planned.frames, 40);
  EXPECT_EQ(again.words.note, "Start earlier");
  EXPECT_EQ(again.words.verdict, Verdict::Well);
  EXPECT_EQ(book.entry(book.find("Take 7"))->came->frames, 247) << "told by hand, and whole";
  EXPECT_EQ(book.list().rows.back().name, "take 8") << "gone, but not forgotten";
  EXPECT_EQ(Book(file).told(), "") << "the new one is whole";
}

TEST(BookFile, WhatCanBeReadOfADamagedOneIsSaved) {
  const test::Folder folder;
  const auto file = Book::file_in(folder.path());
  std::uintmax_t size = 0;
  {
    Book book(file);
    std::vector<Entry> many;
    for (int n = 0; n < 200; ++n) many.push_back(made_up(n));
    book.file(many);
    size = test::fs::file_size(file);
  }
  {  // a stretch in the middle is overwritten
    std::fstream out(file, std::ios::in | std::ios::out | std::ios::binary);
    out.seekp(static_cast<std::streamoff>(size / 2));
    out << std::string(20000, '\x7F');
  }
  Book book(file);
  book.check();
  EXPECT_NE(book.told(), "");
  const auto rows = book.list().rows;
  EXPECT_EQ(rows.size(), 200u) << "those that cannot be read stand by their file's name";
  const auto whole =
      std::count_if(rows.begin(), rows.end(), [](const Row& r) { return r.frames.has_value(); });
  EXPECT_GT(whole, 20) << "some of it was whole";
}

TEST(BookFile, AnOlderOneIsCopiedAndBroughtUp) {
  const test::Folder folder;
  const auto file = folder / "book.db";
  {
    SQLite::Database db(file.string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    bring_up(db, file, 1);
    db.exec(
        "INSERT INTO takes (id, key, file, name, subject, place, zone, field_s, film_s, planned_frames, "
        "verdict, "
        "note, change) VALUES (1, '/a', '/a', 'Old', '', '', 'UTC', 0, 0, 0, '', '', '')");
  }
  Book book(file);
  EXPECT_EQ(book.list().rows.at(0).name, "Old");
  book.keep({"timer", "Dial", 41, now()});
  SQLite::Database copy(file.string() + fmt::format(".before-{}", newest_layout()), SQLite::OPEN_READONLY);
  EXPECT_EQ(copy.execAndGet("PRAGMA user_version").getInt(), 1);
  EXPECT_EQ(copy.execAndGet("SELECT name FROM takes").getString(), "Old");
}

TEST(BookFile, WhatLayout2CalledOtherwiseIsKept) {
  const test::Folder folder;
  const auto file = folder / "book.db";
  {
    Entry e;
    e.name = "Old", e.file = "/a", e.how = How::Folder;
    e.planned.method = "hand";
    e.by_journal = {{"battery", "Cell A", 411, 560, Measure::Bound::Exact, 4.0, {}}};
    Json old = Json::parse(to_text(e));
    old["planned"]["school"] = old["planned"]["method"];
    old["planned"].erase("method");
    Json& measure = old["by_journal"][0];
    measure["reckoned"] = measure["planned"];
    measure.erase("planned");
    SQLite::Database db(file.string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    bring_up(db, file, 2);
    db.exec(
        "INSERT INTO takes (id, key, file, name, subject, place, zone, field_s, film_s, planned_frames, "
        "verdict, note, change) VALUES (1, '/a', '/a', 'Old', '', '', 'UTC', 0, 0, 0, '', '', '')");
    db.exec("INSERT INTO measures VALUES (1, 'battery', 'Cell A', 411, 560, 'exact', 4.0, NULL)");
    SQLite::Statement json(db, "INSERT INTO entries VALUES (1, ?)");
    json.bind(1, old.dump());
    json.exec();
  }
  Book book(file);
  const auto entry = book.entry(1);
  ASSERT_TRUE(entry);
  EXPECT_EQ(entry->planned.method, "hand");
  ASSERT_EQ(entry->by_journal.size(), 1u);
  EXPECT_EQ(entry->by_journal[0].planned, 560);
  const auto measures = book.measures();
  ASSERT_EQ(measures.size(), 1u);
  EXPECT_EQ(measures[0].measure.planned, 560);
}

TEST(BookFile, WhatIsNotOursIsNotTouched) {
  const test::Folder folder;
  const auto file = folder / "book.db";
  {
    SQLite::Database db(file.string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    db.exec("CREATE TABLE theirs (x); INSERT INTO theirs VALUES (7)");
  }
  const std::string before = read_file(file);
  EXPECT_EQ(test::error_of([&] { Book book(file); }).kind(), Error::Kind::BadInput);
  EXPECT_EQ(read_file(file), before);
  {
    SQLite::Database db(file.string(), SQLite::OPEN_READWRITE);
    db.exec("DROP TABLE theirs; PRAGMA user_version = 99");
  }
  const Error newer = test::error_of([&] { Book book(file); });
  EXPECT_NE(std::string(newer.what()).find("newer"), std::string::npos);
}

/// What was never a book is no damaged one.
TEST(BookFile, APhotographNamedAsABookIsLeft) {
  const test::Folder folder;
  const std::vector<std::pair<const char*, std::string>> theirs = {
      {"IMG_0001.JPG", "\xff\xd8\xff a photograph"},
      {"notes.txt", "wind from the west"},
      {"short", "x"},
      {"other.db", "SQLite format 3" + std::string(2000, '\x01')}};
  for (const auto& [name, content] : theirs) {
    test::write(folder / name, content);
    EXPECT_EQ(test::error_of([&, file = folder / name] { Book book(file); }).kind(), Error::Kind::BadInput)
        << name;
    EXPECT_EQ(read_file(folder / name), content) << name;
  }
  EXPECT_EQ(folder.names(), (std::vector<std::string>{"IMG_0001.JPG", "notes.txt", "other.db", "short"}));
  // Not even where a list lies beside it.
  note_filed(folder / "IMG_0001.JPG", {made_up(1)});
  EXPECT_EQ(test::error_of([&] { Book book(folder / "IMG_0001.JPG"); }).kind(), Error::Kind::BadInput);
  EXPECT_EQ(read_file(folder / "IMG_0001.JPG"), theirs[0].second);
}

/// Takes told by hand may be called alike, and have no date: each is one of its own.
TEST(BookFile, ThoseToldByHandAreAllKept) {
  const test::Folder folder;
  const auto file = Book::file_in(folder.path());
  Entry told;
  told.how = How::Hand;
  told.name = "Same";
  {
    Book book(file);
    book.file(told);
    book.file(told);
    told.words.note = "another night";
    EXPECT_EQ(book.file(std::vector<Entry>{told, told, told}).size(), 3u);
    ASSERT_EQ(book.list().rows.size(), 5u);
    const std::string names = test::error_of([&] { book.find("Same"); }).what();
    EXPECT_NE(names.find("#2"), std::string::npos) << names;
    const long long second = book.find("#2");
    book.say(second, {Verdict::Well, "this one", "", true});
    EXPECT_EQ(book.entry(second)->words.note, "this one");
    book.take_out(book.find("#1"));
  }
  // And made anew from the list they are the same four.
  test::write(file, std::string(40000, 'z'));
  Book book(file);
  ASSERT_EQ(book.list().rows.size(), 4u);
  int said = 0;
  for (const Row& r : book.list().rows) said += book.entry(r.id)->words.note == "this one";
  EXPECT_EQ(said, 1);
  book.file(told);
  EXPECT_EQ(book.list().rows.size(), 5u);
}

TEST(BookFile, AFolderThatCannotBeWrittenIsSaid) {
  const test::Folder folder;
  test::write(folder / "file", std::string("x"));
  const Error e = test::error_of([&] { Book book(folder / "file" / "book.db"); });
  EXPECT_NE(std::string(e.what()).find("book.db"), std::string::npos);
}

TEST(BookList, HalfALineIsPassedOver) {
  const test::Folder folder;
  const auto book = folder / "book.db";
  note_filed(book, {made_up(1), made_up(2)});
  {
    std::ofstream out(list_beside(book), std::ios::app);
    out << "{\"what\": \"filed\", \"file\": 7}\n{\"what\": \"sai";
  }
  Entry said = made_up(2);
  said.words = {Verdict::Badly, "", "Move up", true};
  note_words(book, said);
  const auto list = listed(book);
  ASSERT_EQ(list.size(), 2u);
  EXPECT_EQ(list[1].words.change, "Move up");
}

// What is learnt of takes.

TEST(BookLearns, APlanWithItsShutterAndTimerAsEverywhereElse) {
  const test::Folder folder;
  const take::Take take = test::small_take(120);
  const Entry e = entry_of(take, folder / "a.askcount");
  EXPECT_EQ(e.planned.frames, plan::shots_of(take.sums()));
  EXPECT_EQ(e.planned.shutter, forecast::shutter_words(forecast::exposure_of(take)));
  EXPECT_EQ(e.gear.timer, take.timer_model().name);
  EXPECT_FALSE(e.came || e.shot || e.evened);
  EXPECT_DOUBLE_EQ(e.film_s(), static_cast<double>(e.planned.frames) / 25);
}

TEST(BookLearns, FramesShotWithoutAPlan) {
  const test::Folder folder;
  take::Take take = test::small_take(30, {96, 64}, 12);
  simulate::shoot(forecast::shoot_order(take, folder / "card"));
  const ingest::Gathered found = ingest::gather(folder / "card");
  const Entry e = entry_of(found, folder / "card");
  EXPECT_EQ(e.how, How::Folder);
  EXPECT_EQ(e.name, "card");
  EXPECT_EQ(e.came->frames, 30);
  EXPECT_NEAR(*e.came->interval_s, 12, 0.01);
  EXPECT_NEAR(e.field_s(), 29 * 12, 0.1);
  EXPECT_EQ(e.gear.body, simulate::kBodyName);
  EXPECT_FALSE(picture_of(found.frames).empty());
}

TEST(BookLearns, ThePlaceFromAReceiverInTheCamera) {
  const test::Folder folder;
  take::Take take = test::small_take(6, {96, 64}, 12);
  simulate::shoot(forecast::shoot_order(take, folder / "card"));
  const ingest::Gathered before = ingest::gather(folder / "card");
  EXPECT_FALSE(entry_of(before, folder / "card").place.known());
  const auto file = before.frames->front().file();
  const auto image = Exiv2::ImageFactory::open(file.string());
  image->readMetadata();
  image->exifData()["Exif.GPSInfo.GPSLatitude"] = "56/1 6/1 0/1";
  image->exifData()["Exif.GPSInfo.GPSLatitudeRef"] = "S";
  image->exifData()["Exif.GPSInfo.GPSLongitude"] = "5/1 30/1 36/1";
  image->exifData()["Exif.GPSInfo.GPSLongitudeRef"] = "W";
  image->exifData()["Exif.GPSInfo.GPSAltitude"] = "125/10";
  image->writeMetadata();
  const Entry e = entry_of(ingest::gather(folder / "card"), folder / "card");
  EXPECT_NEAR(e.place.latitude_deg, -56.1, 1e-9);
  EXPECT_NEAR(e.place.longitude_deg, -5.51, 1e-9);
  EXPECT_NEAR(e.place.height_m, 12.5, 1e-9);
  EXPECT_EQ(e.place.name, sky::format_coordinates(-56.1, -5.51));
  // What no receiver can have meant.
  for (const auto& [key, value] : {std::pair{"Exif.GPSInfo.GPSLatitude", "156/1 0/1 0/1"},
                                   std::pair{"Exif.GPSInfo.GPSLatitude", "0/0 0/0 0/0"}}) {
    image->exifData()[key] = value;
    image->exifData()["Exif.GPSInfo.GPSLongitude"] = "0/1 0/1 0/1";
    image->writeMetadata();
    EXPECT_FALSE(media::read_position(file)) << value;
  }
}

ingest::FoundTake shots(const std::vector<double>& at, double shutter_s, double interval_s) {
  ingest::FoundTake t;
  std::vector<media::Frame> frames;
  for (const double s : at) {
    media::Exposure e;
    e.info.captured = media::CameraTime(std::chrono::milliseconds(std::llround(1e12 + s * 1000)));
    e.info.shutter_s = shutter_s;
    e.info.body = "Real 1";
    frames.emplace_back(e);
  }
  for (size_t n = 1; n < at.size(); ++n) {
    const double beat = interval_s * std::round(at[n] / interval_s);
    if (std::abs(at[n] - beat) > 0.1) t.off_beat.push_back({n, at[n] - beat});
  }
  t.interval_s = interval_s;
  t.frames = media::frames_of(std::move(frames));
  return t;
}

take::Take with_kit() {
  take::Take t = test::small_take(100, {96, 64}, 4);
  t.kit.bodies = {plan::Body{.name = "Real 1"}};
  return t;
}

const Measure* of(const std::vector<Measure>& list, const std::string& what) {
  for (const Measure& m : list)
    if (m.what == what) return &m;
  return nullptr;
}

TEST(BookLearns, WritingTimeFromShotsThatTheCameraDelayed) {
  // Open 3 s, busy 1.1 s after it: presses every 4 s come 0.1, 0.2, … late, and again on the beat.
  std::vector<double> at = {0};
  for (int n = 1; n < 100; ++n) at.push_back(n * 4 + (n % 4 == 0 ? 0 : 0));
  for (const int late : {2, 30, 60, 90}) at[static_cast<size_t>(late)] += 0.5;
  const auto measures = measures_of(with_kit(), entry_of(with_kit(), "/nowhere/x.askcount"), shots(at, 3, 4));
  const Measure* writing = of(measures, "writing");
  ASSERT_NE(writing, nullptr);
  EXPECT_EQ(writing->bound, Measure::Bound::Exact);
  EXPECT_NEAR(writing->value, 1.5, 0.01) << "4.5 s from opening to opening, 3 of them open";
  EXPECT_EQ(writing->gear, "Real 1");
}

TEST(BookLearns, ABeatThatHeldOnlySaysHowLongWritingMayTake) {
  std::vector<double> at;
  for (int n = 0; n < 100; ++n) at.push_back(n * 4);
  const auto measures = measures_of(with_kit(), entry_of(with_kit(), "/nowhere/x.askcount"), shots(at, 3, 4));
  const Measure* writing = of(measures, "writing");
  ASSERT_NE(writing, nullptr);
  EXPECT_EQ(writing->bound, Measure::Bound::AtMost);
  EXPECT_NEAR(writing->value, 1, 1e-9);
  // A clock of whole seconds says nothing of half seconds.
  ingest::FoundTake coarse = shots(at, 3, 4);
  coarse.clock_s = 1;
  coarse.off_beat = {{5, 1}, {6, 1}, {7, 1}};
  EXPECT_EQ(of(measures_of(with_kit(), entry_of(with_kit(), "/nowhere/x.askcount"), coarse), "writing"),
            nullptr);
}

TEST(BookLearns, ATimersDriftAgainstTheCamerasClock) {
  take::Take take = with_kit();
  std::vector<double> at;
  for (int n = 0; n < 400; ++n) at.push_back(n * 4.0005);  // 0.45 s an hour slow
  Entry e = entry_of(take, "/nowhere/x.askcount");
  const Measure* drift = of(measures_of(take, e, shots(at, 1, 4.0005)), "drift");
  const auto all = measures_of(take, e, shots(at, 1, 4.0005));
  drift = of(all, "drift");
  ASSERT_NE(drift, nullptr);
  EXPECT_NEAR(drift->value, 0.45, 0.01);
  for (double& s : at) s *= 1.1;  // another interval was set: no drift
  EXPECT_EQ(of(measures_of(take, e, shots(at, 1, 4.4)), "drift"), nullptr);
}

Json line(const char* what, long long at_ms, Json more = Json::object()) {
  more["what"] = what;
  more["at"] = at_ms;
  return more;
}

TEST(BookLearns, BatteriesAndHandsFromAJournal) {
  take::Take take = with_kit();
  take.kit.batteries = {plan::Battery{.name = "Cell A", .rated_shots = 500}, plan::Battery{.name = "Cell B"}};
  take.temperature_c = 5;
  const long long t0 = 1790000000000;
  const long long step = 4000;
  std::vector<Json> lines = {
      line("start", t0, {{"first_ms", t0}, {"interval_s", 4.0}, {"count", 100}, {"scale", 1.0}}),
      line("note", t0 + 40 * step, {{"frame", 40}, {"words", "The battery died"}}),
      line("note", t0 + 42 * step, {{"frame", 42}, {"words", "Changed the battery"}}),
      line("turn", t0 + 59 * step + 2500,
           {{"frame", 60}, {"dial", "shutter"}, {"thirds", 1}, {"planned", true}}),
      line("end", t0 + 99 * step + 100, {{"stopped", false}})};
  Entry e = entry_of(take, "/nowhere/x.askcount");
  learn(e, take, lines);
  EXPECT_EQ(e.shot->heard, 100);
  EXPECT_EQ(e.shot->clicks, 1);
  ASSERT_GE(e.by_journal.size(), 3u);
  EXPECT_EQ(e.by_journal[0].what, "battery");
  EXPECT_EQ(e.by_journal[0].gear, "Cell A");
  EXPECT_EQ(e.by_journal[0].value, 40);
  EXPECT_EQ(e.by_journal[0].bound, Measure::Bound::Exact);
  EXPECT_NEAR(e.by_journal[0].planned, std::floor(500 * (1 - 0.015 * 15)), 1) << "less in the cold";
  EXPECT_EQ(e.by_journal[1].gear, "Cell B");
  EXPECT_EQ(e.by_journal[1].value, 57) << "from the change to the end";
  EXPECT_EQ(e.by_journal[1].bound, Measure::Bound::AtLeast);
  const Measure* dials = of(e.by_journal, "dials");
  ASSERT_NE(dials, nullptr);
  EXPECT_GT(dials->value, 0);
  EXPECT_LE(dials->value, 2.5) << "from the closing of frame 60's shutter, at most from its opening";
}

// What the kit really does.

std::vector<TakeMeasure> batteries() {
  const auto one = [](long long take, double frames, double c, Measure::Bound bound = Measure::Bound::Exact) {
    return TakeMeasure{take, {"battery", "Cell A", frames, 560, bound, c, {}}};
  };
  return {one(1, 702, 11), one(2, 690, 12), one(2, 694, 12),
          one(3, 715, 14), one(4, 400, 2),  one(5, 900, 11, Measure::Bound::AtLeast)};
}

TEST(BookKit, BatteriesByTemperatureWithTakesAndSpread) {
  plan::Kit kit;
  kit.batteries = {plan::Battery{.name = "Cell A", .rated_shots = 500, .rated_at_c = 20}};
  const auto facts = kit_facts(batteries(), kit);
  ASSERT_EQ(facts.size(), 2u) << "by ten degrees";
  const KitFact& cold = facts[0];
  const KitFact& mild = facts[1];
  EXPECT_EQ(cold.value, 400);
  EXPECT_EQ(mild.takes, 3) << "two of one take are one";
  EXPECT_EQ(mild.value, 702);
  EXPECT_EQ(mild.lowest, 694);
  EXPECT_EQ(mild.highest, 715);
  EXPECT_EQ(mild.planned, 560);
  const Findings said = judge(facts, kit, 2);
  EXPECT_EQ(said[1].title, "Cell A: 702 frames at 12 °C");
  EXPECT_EQ(said[1].text, "In 3 takes, 694 to 715, against 560 estimated.");
  ASSERT_TRUE(said[1].fix.has_value());
  // Brought to the temperature it is rated at, and said wherever it is used.
  take::Take take = test::small_take(100);
  take.kit.batteries = kit.batteries;
  take = take::with_fix(take, *said[1].fix);
  EXPECT_NEAR(take.kit.batteries[0].rated_shots, 702 / (1 - 0.015 * 9), 30);
  EXPECT_EQ(take.kit.batteries[0].by_takes, 3);
  const auto budgets = forecast::budgets_of(take, take.sums());
  EXPECT_NE(budgets[0].words.find("by 3 takes of yours"), std::string::npos) << budgets[0].words;
  EXPECT_FALSE(judge(kit_facts(batteries(), take.kit), take.kit, 2)[1].fix) << "it is there now";
}

TEST(BookKit, ABoundCountsOnlyWhereItSaysMoreThanThePlan) {
  const auto at_least = [](double value) {
    return std::vector<TakeMeasure>{{1, {"card", "Shingle", value, 80, Measure::Bound::AtLeast, {}, {}}}};
  };
  EXPECT_TRUE(kit_facts(at_least(12), {}).empty());
  ASSERT_EQ(kit_facts(at_least(95), {}).size(), 1u);
  EXPECT_EQ(kit_facts(at_least(95), {})[0].bound, Measure::Bound::AtLeast);
}

TEST(BookKit, WritingGoesIntoTheBodyAndIsSaidInTheCycle) {
  std::vector<TakeMeasure> list;
  for (int take = 1; take <= 2; ++take)
    list.push_back({take, {"writing", "Real 1", 1.0 + 0.1 * take, 0.6, Measure::Bound::Exact, {}, {}}});
  take::Take take = with_kit();
  const Findings said = judge(kit_facts(list, take.kit), take.kit, 2);
  ASSERT_EQ(said.size(), 1u);
  EXPECT_EQ(said[0].severity, Severity::Warning);
  EXPECT_NE(said[0].text.find("1.1 to 1.2, against 0.6 estimated"), std::string::npos) << said[0].text;
  take = take::with_fix(take, *said[0].fix);
  EXPECT_DOUBLE_EQ(take.body().writing_s, 1.2);
  const Finding cycle = plan::judge_cycle(forecast::cycle_of(take, 1), 4);
  EXPECT_NE(cycle.text.find("by 2 takes of yours"), std::string::npos) << cycle.text;
}

TEST(BookKit, MistakesOfTwoTakesComeBackOnTheChecklist) {
  take::Take take = test::small_take(100);
  const std::map<std::string, long long> mistakes = {
      {"dew", 3}, {"bump", 1}, {"missed", 2}, {"unheard of", 9}};
  const Findings said = judge_mistakes(mistakes, take.again);
  ASSERT_EQ(said.size(), 2u);
  EXPECT_EQ(said[0].code, "mistake_dew");
  take = take::with_fix(take, *said[0].fix);
  const auto items = advice::checklist_of(take);
  EXPECT_EQ(items.front().code, "again_dew");
  EXPECT_EQ(items.front().why, "Dew came in 3 takes of yours");
  EXPECT_FALSE(judge_mistakes(mistakes, take.again)[0].fix) << "it is on the list";
  const take::Take back = take::take_from_json(take::to_json(take), "x");
  EXPECT_EQ(back.again, take.again);
}

TEST(BookKit, DewByHumidity) {
  std::vector<TakeMeasure> list;
  for (const auto& [take, came, humidity] :
       std::vector<std::tuple<int, double, double>>{{1, 1, 0.9}, {2, 0, 0.85}, {3, 1, 0.95}, {4, 0, 0.5}})
    list.push_back({take, {"dew", "", came, 0, Measure::Bound::Exact, {}, humidity}});
  const auto facts = kit_facts(list, {});
  ASSERT_EQ(facts.size(), 1u);
  EXPECT_EQ(facts[0].value, 2);
  EXPECT_EQ(facts[0].of, 3) << "dry air is not counted";
}

// Open formats.

TEST(BookTables, ATableComesBackWithEverythingItHas) {
  Entry e = made_up(3);
  e.name = "Boats, \"slow\"";
  e.words = {Verdict::Fairly, "Two lines\nof note", "Earlier; ten minutes", true};
  e.evened = Evened{0.143, 0.001, false};
  const std::string csv = csv_of({e, made_up(4)});
  const auto back = entries_from_csv(csv, "x.csv");
  ASSERT_EQ(back.size(), 2u);
  EXPECT_EQ(back[0].name, e.name);
  EXPECT_EQ(back[0].start, e.start);
  EXPECT_EQ(back[0].came->frames, 243);
  EXPECT_EQ(back[0].planned.frames, 250);
  EXPECT_NEAR(back[0].field_s(), 4980, 0.1);
  EXPECT_EQ(back[0].words.note, e.words.note);
  EXPECT_EQ(back[0].words.verdict, Verdict::Fairly);
  EXPECT_EQ(back[0].evened->before, 0.143);
  EXPECT_EQ(back[0].place, e.place);
}

TEST(BookTables, BadTablesNameTheLine) {
  const auto why = [](const std::string& text) {
    return std::string(test::error_of([&] { entries_from_csv(text, "x.csv"); }).what());
  };
  EXPECT_NE(why("place,frames\nhere,3\n").find("\"name\""), std::string::npos);
  EXPECT_NE(why("name,frames\nA,1\nB,many\n").find("x.csv, line 3"), std::string::npos);
  EXPECT_NE(why("name,start\nA,yesterday\n").find("yesterday"), std::string::npos);
  EXPECT_NE(why("name,verdict\nA,splendid\n").find("splendid"), std::string::npos);
  EXPECT_NE(why("").find("empty"), std::string::npos);
  EXPECT_EQ(entries_from_csv("frames,name\r\n7,A\r\n\r\n", "x.csv").size(), 1u) << "columns in any order";
}

TEST(BookTables, APageHasEveryTakeAndNoScriptOfTheirs) {
  const test::Folder folder;
  Book book(Book::file_in(folder.path()));
  Entry e = made_up(1);
  e.name = "<script>alert(1)</script>";
  book.file({e, made_up(2)});
  const std::string page = page_of(printed_of(book, {}, book.list()), {"", ""});
  EXPECT_EQ(page.find("<script>"), std::string::npos);
  EXPECT_NE(page.find("&lt;script&gt;"), std::string::npos);
  EXPECT_NE(page.find("Take 2"), std::string::npos);
}

TEST(BookTables, ASheetTakesAsManyPagesAsItNeeds) {
  const test::Folder folder;
  Book book(Book::file_in(folder.path()));
  std::vector<Entry> many;
  for (int n = 0; n < 40; ++n) many.push_back(made_up(n));
  book.file(many);
  write_sheet(printed_of(book, {}, book.list()), folder / "book.pdf", {});
  const test::Said text = test::run("pdftotext -layout " + (folder / "book.pdf").string() + " -");
  for (int n = 0; n < 40; ++n) EXPECT_NE(text.out.find(fmt::format("Take {}", n)), std::string::npos) << n;
  const test::Said info = test::run("pdfinfo " + (folder / "book.pdf").string());
  EXPECT_EQ(info.out.find("Pages:           1\n"), std::string::npos) << info.out;
}

}  // namespace
}  // namespace askcount::book
