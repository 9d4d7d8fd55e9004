// SPDX-License-Identifier: GPL-3.0-or-later
// Nothing of the person's is lost: takes without a file, takes open twice, takes changed by others, films and
// journals that are there already, cards of strangers.
#include "app/session/keeping.h"

#include <QProcess>
#include <QSignalSpy>
#include <QTest>

#include "app/session/session.h"
#include "base/files.h"
#include "events.h"
#include "journal/journal.h"
#include "link/standin_link.h"
#include "media/encoder.h"
#include "media/jpeg.h"
#include "support.h"

namespace askcount::app {
namespace {

namespace fs = std::filesystem;
using plan::Slot;

class KeepingTest : public ::testing::Test {
 protected:
  void SetUp() override {
    std::error_code ec;
    fs::remove_all(data_folder() / "unsaved", ec);
    save_take(test::small_take(12, {96, 64}), file());
  }
  fs::path file() const { return folder_ / "a.askcount"; }
  static void rename(Session& session, const char* name) {
    session.document.edit([name](take::Take& t) { t.name = name; });
    session.document.wait_until_saved();
  }
  test::Folder folder_;
};

TEST_F(KeepingTest, EveryTakeWithoutAFileHasItsOwn) {
  Session one, two;
  one.begin();
  two.begin();
  rename(one, "one");
  rename(two, "two");
  EXPECT_NE(one.document.kept_file(), two.document.kept_file());
  EXPECT_EQ(take::load_take(one.document.kept_file()).name, "one");
  EXPECT_EQ(take::load_take(two.document.kept_file()).name, "two");
  // What fails to open leaves the open one, and its kept copy, as they are.
  const std::string before = read_file(one.document.kept_file());
  for (const char* text : {"{\"askcount\": 99}", "{\"askcount\": 2, \"spare\": 1e999}", "damaged", ""}) {
    test::write(folder_ / "bad.askcount", std::string(text));
    EXPECT_THROW(one.open(folder_ / "bad.askcount"), Error);
    EXPECT_EQ(read_file(folder_ / "bad.askcount"), text);
  }
  EXPECT_THROW(one.open(folder_ / "absent.askcount"), Error);
  EXPECT_EQ(one.document.take().name, "one");
  EXPECT_EQ(read_file(one.document.kept_file()), before);
  // Begun anew, the old one is put away and can be found.
  const fs::path kept = one.document.kept_file();
  one.begin();
  EXPECT_FALSE(fs::exists(kept));
  const QStringList recent = recent_takes();
  ASSERT_FALSE(recent.isEmpty());
  EXPECT_EQ(take::load_take(recent.front().toStdString()).name, "one");
}

TEST_F(KeepingTest, TakesUpWhatACrashLeftAndNoOtherWindowHas) {
  Session window;
  window.begin();
  rename(window, "in a window");
  const fs::path folder = window.document.kept_file().parent_path();
  take::Take crashed = test::small_take(9);
  crashed.name = "crashed";
  save_take(crashed, folder / "crashed.askcount");
  test::write(folder / "torn.askcount", std::string("{\"askcount\": 2, \"na"));
  test::write(folder / "deep.askcount", std::string(200000, '['));
  for (const char* name : {"torn", "deep"})  // the newest: looked at first
    fs::last_write_time(folder / (std::string(name) + ".askcount"),
                        fs::file_time_type::clock::now() + std::chrono::seconds(9));
  Session next;
  QSignalSpy trouble(&next, &Session::trouble);
  EXPECT_TRUE(next.recover());
  EXPECT_EQ(next.document.take().name, "crashed");
  EXPECT_TRUE(next.document.file().empty());
  // What cannot be read is put aside, and said.
  EXPECT_EQ(trouble.count(), 2);
  EXPECT_EQ(read_file(folder / "torn.askcount.unreadable"), "{\"askcount\": 2, \"na");
  EXPECT_TRUE(fs::exists(folder / "deep.askcount.unreadable"));
  rename(next, "crashed, and changed");
  EXPECT_EQ(take::load_take(folder / "crashed.askcount").name, "crashed, and changed");
  EXPECT_EQ(take::load_take(window.document.kept_file()).name, "in a window");
  Session third;
  EXPECT_FALSE(third.recover()) << "both are open in windows";
}

TEST_F(KeepingTest, DamagedListsStopNothing) {
  for (const std::string& text :
       {std::string("{\"a\": 1e999}"), std::string(200000, '['), std::string("[5, null]")}) {
    for (const char* list : {"recent.json", "places.json", "rehearsals.json"})
      test::write(data_folder() / list, text);
    EXPECT_TRUE(recent_takes().isEmpty());
    EXPECT_FALSE(known_places().empty());
    earlier_scores();
  }
  for (const char* list : {"recent.json", "places.json", "rehearsals.json.filed"})
    fs::remove(data_folder() / list);
}

TEST_F(KeepingTest, ASecondWindowOnATakeOnlyLooks) {
  Session first;
  first.open(file());
  EXPECT_FALSE(first.document.look_only());
  Session second;
  QSignalSpy trouble(&second, &Session::trouble);
  second.open(file());
  EXPECT_TRUE(second.document.look_only());
  EXPECT_EQ(trouble.count(), 1);
  rename(second, "by the second");
  EXPECT_EQ(trouble.count(), 2);
  EXPECT_NE(second.document.take().name, "by the second");
  second.shoot();
  second.accompany();
  EXPECT_FALSE(second.run.active()) << "nor does it shoot";
  EXPECT_EQ(trouble.count(), 4);
  second.document.save();
  second.document.wait_until_saved();
  rename(first, "by the first");
  EXPECT_EQ(take::load_take(file()).name, "by the first");
  // Under a name of its own it is a take like any other.
  second.document.save(folder_ / "b.askcount");
  second.document.wait_until_saved();
  EXPECT_FALSE(second.document.look_only());
  rename(second, "the second's own");
  EXPECT_EQ(take::load_take(folder_ / "b.askcount").name, "the second's own");
  EXPECT_EQ(take::load_take(file()).name, "by the first");
  // Once the first has let go, the next has it.
  first.begin();
  Session third;
  third.open(file());
  EXPECT_FALSE(third.document.look_only());
}

TEST_F(KeepingTest, WhatAnotherProgramChangedIsNotWrittenOver) {
  Session session;
  session.open(file());
  rename(session, "mine");
  take::Take theirs = take::load_take(file());
  theirs.name = "theirs";
  save_take(theirs, file());
  QSignalSpy trouble(&session, &Session::trouble);
  rename(session, "mine again");
  EXPECT_EQ(take::load_take(file()).name, "theirs");
  EXPECT_EQ(trouble.count(), 1);
  EXPECT_TRUE(session.document.saved_words().startsWith("Not saved"))
      << session.document.saved_words().toStdString();
  EXPECT_EQ(take::load_take(session.document.kept_file()).name, "mine again") << "a copy is kept";
  session.document.save();  // Ctrl+S does not either
  session.document.wait_until_saved();
  EXPECT_EQ(take::load_take(file()).name, "theirs");
  session.document.save(file());  // said in the dialog: over it
  session.document.wait_until_saved();
  EXPECT_EQ(take::load_take(file()).name, "mine again");
  EXPECT_FALSE(fs::exists(session.document.kept_file())) << "the copy is not needed any more";
  rename(session, "mine for good");
  EXPECT_EQ(take::load_take(file()).name, "mine for good");
  // A file that was removed meanwhile comes back.
  fs::remove(file());
  rename(session, "back");
  EXPECT_EQ(take::load_take(file()).name, "back");
}

TEST_F(KeepingTest, OpeningTheOpenTakeAnewShowsWhatWasJustEdited) {
  Session session;
  session.open(file());
  QSignalSpy trouble(&session, &Session::trouble);
  session.document.edit([](take::Take& t) { t.name = "just edited"; });  // and not yet saved
  session.open(file());
  EXPECT_EQ(session.document.take().name, "just edited");
  EXPECT_FALSE(session.document.look_only());
  rename(session, "edited again");
  EXPECT_EQ(take::load_take(file()).name, "edited again");
  EXPECT_EQ(trouble.count(), 0);
}

TEST_F(KeepingTest, AForeignFilmOfTheTakesNameStays) {
  test::run("ffmpeg -v error -f lavfi -i testsrc=d=0.2:s=64x64 -y " + (folder_ / "a.mp4").string());
  const std::string theirs = read_file(folder_ / "a.mp4");
  Session session;
  take::Take take = test::small_take(12, {96, 64});
  take.card = "card";
  save_take(take, file());
  simulate::shoot(forecast::shoot_order(take, folder_ / "card"));
  session.open(file());
  session.frames.gather();
  ASSERT_TRUE(QTest::qWaitFor([&] { return !session.job.running(); }, 60000));
  EXPECT_FALSE(session.films.film()) << "somebody else's film is not this take's";
  for (int made = 1; made <= 2; ++made) {
    session.films.make();
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return !session.films.making() && session.films.number() == made; }, 60000));
    EXPECT_EQ(session.films.file(), folder_ / "a clip.mp4");
    EXPECT_EQ(session.films.film()->frames, 12);
    EXPECT_TRUE(read_file(folder_ / "a.mp4") == theirs);
  }
  Session again;
  session.begin();
  again.open(file());
  ASSERT_TRUE(QTest::qWaitFor([&] { return again.films.film().has_value(); }, 10000)) << "it is found again";
  EXPECT_EQ(again.films.file(), folder_ / "a clip.mp4");
}

/// A stranger's take points to a folder of photographs: pressing Shoot harms nothing, and makes no journal.
TEST_F(KeepingTest, ShootingAStrangersTakeHarmsNothing) {
  const fs::path photos = folder_ / "photos/DCIM/100REAL";
  fs::create_directories(photos);
  test::write(photos / "wedding.jpg", media::encode_jpeg(image::Coded8({48, 32}), 90));
  test::write(
      folder_ / "photos.truth.json",
      std::string("{\"scene\": \"Tern Quay\", \"shots\": [{\"file\": \"DCIM/100REAL/wedding.jpg\"}]}"));
  const std::string before = read_file(photos / "wedding.jpg");
  take::Take take = test::small_take(5, {48, 32});
  take.card = "photos";
  save_take(take, file());
  Session session;
  session.open(file());
  QSignalSpy trouble(&session, &Session::trouble);
  session.shoot();
  ASSERT_TRUE(QTest::qWaitFor([&] { return !session.run.active(); }, 20000));
  EXPECT_GE(trouble.count(), 1);
  EXPECT_NE(trouble[0][0].toString().indexOf("wedding.jpg"), -1) << trouble[0][0].toString().toStdString();
  EXPECT_TRUE(read_file(photos / "wedding.jpg") == before);
  EXPECT_FALSE(fs::exists(folder_ / "a.journal")) << "a shoot that is refused leaves no journal";
}

TEST_F(KeepingTest, JournalsAreOnlyEverAddedTo) {
  take::Take take = test::small_take(5, {48, 32});
  take.card = "card";
  save_take(take, file());
  const auto shoot = [&](Session& session) {
    session.shoot();
    ASSERT_TRUE(QTest::qWaitFor([&] { return !session.run.active(); }, 20000));
    session.run.wait_until_written();
    ASSERT_TRUE(QTest::qWaitFor([&] { return !session.job.running(); }, 20000));
  };
  Session session;
  session.open(file());
  shoot(session);
  const std::string first = read_file(folder_ / "a.journal");
  EXPECT_GT(first.size(), 500u);
  shoot(session);  // again, onto the same card
  EXPECT_EQ(read_file(folder_ / "a.journal"), first);
  const fs::path second = session.document.journal_file();
  EXPECT_NE(second, folder_ / "a.journal");
  EXPECT_GT(read_file(second).size(), 500u);
  // A third that is refused touches neither.
  const std::string kept = read_file(second);
  test::write(folder_ / "card/DCIM/100QUAY/MINE.JPG", std::string("mine"));
  shoot(session);
  EXPECT_EQ(read_file(folder_ / "a.journal"), first);
  EXPECT_EQ(read_file(second), kept);
  EXPECT_EQ(session.document.journal_file(), second);
  EXPECT_EQ(read_file(folder_ / "card/DCIM/100QUAY/MINE.JPG"), "mine");
}

/// The window's program told to end puts everything away: no lock is left, and the next has the take.
TEST_F(KeepingTest, AWindowThatIsToldToEndLetsGo) {
  QProcess window;
  QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
  environment.insert("XDG_DATA_HOME", QString::fromStdString((folder_ / "data").string()));
  environment.insert("QT_QPA_PLATFORM", "offscreen");
  window.setProcessEnvironment(environment);
  window.start(ASKCOUNT_WINDOW, {QString::fromStdString(file().string())});
  const fs::path lock = folder_ / ".a.askcount.lock";
  ASSERT_TRUE(QTest::qWaitFor([&] { return fs::exists(lock); }, 30000));
  Session session;
  session.open(file());
  EXPECT_TRUE(session.document.look_only()) << "it is open in another program";
  window.terminate();
  ASSERT_TRUE(window.waitForFinished(30000));
  EXPECT_EQ(window.exitStatus(), QProcess::NormalExit);
  EXPECT_EQ(window.exitCode(), 0);
  EXPECT_FALSE(fs::exists(lock));
  session.open(file());
  EXPECT_FALSE(session.document.look_only());
}

TEST_F(KeepingTest, ALineThatIsDestroyedSaysNothing) {
  auto line = std::make_unique<link::StandinLink>();
  QSignalSpy lost(line.get(), &link::StandinLink::lost);
  line->launch();
  line->wait_connected();
  line->ask({{"cmd", "quit"}});
  line.reset();  // before the answer, and before the line is cut
  run_events();
  EXPECT_EQ(lost.count(), 0);
}

}  // namespace
}  // namespace askcount::app
