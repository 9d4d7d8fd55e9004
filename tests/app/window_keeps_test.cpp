// SPDX-License-Identifier: GPL-3.0-or-later
// What is typed, saved and gathered in the window is not lost: locked books, slow disks, undone changes,
// other takes.
#include <SQLiteCpp/SQLiteCpp.h>

#include <QSignalSpy>
#include <QTest>

#include "app/session/book_keeper.h"
#include "app/session/session.h"
#include "cards.h"
#include "events.h"
#include "support.h"
#include "take/edit.h"

namespace askcount::app {
namespace {

namespace fs = std::filesystem;

/// A book with one entry told by hand, and who keeps it.
class BookKeeperTest : public ::testing::Test {
 protected:
  static long long told_by_hand(const fs::path& file) {
    book::Entry told;
    told.how = book::How::Hand;
    told.name = "Boats";
    return book::Book(file).file(told);
  }
  void SetUp() override { keeper.wait(); }

  const test::Folder folder;
  const fs::path file = folder / "book.db";
  const long long id = told_by_hand(file);
  BookKeeper keeper{file, std::chrono::milliseconds(20)};
};

TEST_F(BookKeeperTest, WhatWasSaidIsTriedUntilItIsWritten) {
  QSignalSpy trouble(&keeper, &BookKeeper::trouble), kept(&keeper, &BookKeeper::told);
  SQLite::Database other(file.string(), SQLite::OPEN_READWRITE);
  other.exec("BEGIN EXCLUSIVE");
  keeper.say(id, {book::Verdict::Well, "a good one", "", true});
  ASSERT_TRUE(QTest::qWaitFor([&] { return trouble.count() > 0; }, 20000));
  EXPECT_TRUE(trouble[0][0].toString().contains("tried again")) << trouble[0][0].toString().toStdString();
  other.exec("COMMIT");
  ASSERT_TRUE(QTest::qWaitFor([&] { return kept.count() > 0; }, 20000));
  keeper.wait();
  EXPECT_EQ(book::Book(file).entry(id)->words.note, "a good one");
}

/// An entry that could not be fetched is asked for again.
TEST_F(BookKeeperTest, AnEntryThatFailedIsTriedAgain) {
  QSignalSpy trouble(&keeper, &BookKeeper::trouble);
  {
    SQLite::Database other(file.string(), SQLite::OPEN_READWRITE);
    other.exec("BEGIN EXCLUSIVE");
    EXPECT_EQ(keeper.entry(id), nullptr);
    ASSERT_TRUE(QTest::qWaitFor([&] { return trouble.count() > 0; }, 20000));
  }
  ASSERT_TRUE(QTest::qWaitFor([&] { return keeper.entry(id) != nullptr; }, 20000));
  EXPECT_EQ(keeper.entry(id)->name, "Boats");
}

class KeepsTest : public ::testing::Test {
 protected:
  void SetUp() override {
    std::error_code ec;
    fs::remove_all(data_folder() / "unsaved", ec);
    save_take(test::small_take(12, {96, 64}), folder_ / "old.askcount");
  }
  void rename(Session& session, const std::string& name) {
    session.document.edit([&](take::Take& t) { t.name = name; });
  }
  test::Folder folder_;
};

/// Save As while its disk is slow: an edit after it goes into the new file, never into the old one.
TEST_F(KeepsTest, AnEditAfterSaveAsGoesIntoTheNewFile) {
  Session session;
  session.open(folder_ / "old.askcount");
  const std::string before = read_file(folder_ / "old.askcount");
  save_take(test::small_take(7), folder_ / "new.askcount");
  {
    const take::Hold slow(folder_ / "new.askcount");
    session.document.save(folder_ / "new.askcount");
    rename(session, "Edited while it was saved");
    run_events();
  }
  session.document.wait_until_saved();
  EXPECT_EQ(take::load_take(folder_ / "new.askcount").name, "Edited while it was saved");
  EXPECT_EQ(read_file(folder_ / "old.askcount"), before);
  EXPECT_EQ(session.document.file(), folder_ / "new.askcount");
}

TEST_F(KeepsTest, NorIsItLostWhereAnotherTakeIsOpenedMeanwhile) {
  save_take(test::small_take(7), folder_ / "new.askcount");
  save_take(test::small_take(8), folder_ / "third.askcount");
  {
    Session session;
    session.open(folder_ / "old.askcount");
    {
      const take::Hold slow(folder_ / "new.askcount");
      session.document.save(folder_ / "new.askcount");
      rename(session, "Edited while it was saved");
    }
    session.open(folder_ / "third.askcount");
    session.document.wait_until_saved();
  }
  EXPECT_EQ(take::load_take(folder_ / "new.askcount").name, "Edited while it was saved");
  EXPECT_NE(take::load_take(folder_ / "old.askcount").name, "Edited while it was saved");
}

TEST_F(KeepsTest, AnUndoneChangeOfCardsIsGatheredAgain) {
  for (const char* card : {"one", "two"}) test::write_card({.size = {96, 64}, .frames = 12}, folder_ / card);
  take::Take take = test::small_take(12, {96, 64});
  take.card = "one";
  save_take(take, folder_ / "old.askcount");
  Session session;
  session.open(folder_ / "old.askcount");
  session.frames.gather();
  ASSERT_TRUE(QTest::qWaitFor([&] { return session.frames.gathered().has_value(); }, 30000));
  session.document.edit([](take::Take& t) { t.card = "two"; });
  EXPECT_FALSE(session.frames.gathered()) << "of another card";
  session.document.undo();
  EXPECT_TRUE(QTest::qWaitFor([&] { return session.frames.gathered().has_value(); }, 30000));
}

TEST_F(KeepsTest, APackingThatIsGivenUpIsTold) {
  test::write_card({.size = {960, 640}, .frames = 40}, folder_ / "card");
  take::Take take = test::small_take(40, {96, 64});
  take.card = "card";
  save_take(take, folder_ / "old.askcount");
  Session session;
  session.open(folder_ / "old.askcount");
  QSignalSpy trouble(&session, &Session::trouble);
  session.pack(folder_ / "packed");
  ASSERT_TRUE(session.job.running());
  session.begin();
  ASSERT_GE(trouble.count(), 1);
  EXPECT_TRUE(trouble[0][0].toString().contains("packing was stopped"))
      << trouble[0][0].toString().toStdString();
}

}  // namespace
}  // namespace askcount::app
