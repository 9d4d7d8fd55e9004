// SPDX-License-Identifier: GPL-3.0-or-later
// The Book in the window, driven with clicks and keys.
#include <QApplication>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QTest>
#include <QTimer>

#include "app/session/keeping.h"
#include "app/shell/window.h"
#include "app/stages/book/book_list.h"
#include "app/stages/book/book_stage.h"
#include "app/stages/book/hand_dialog.h"
#include "book/clocks.h"
#include "events.h"
#include "support.h"
#include "typing.h"

namespace askcount::app {
namespace {

/// Waits in the window's loop until something is so.
bool until(const std::function<bool()>& so) {
  return QTest::qWaitFor(so, 60000);
}

class BookStageTest : public testing::Test {
 protected:
  void SetUp() override {
    test::fs::remove(book::Book::file_in(data_folder()));
    test::fs::remove(data_folder() / "book.takes");
    window_ = std::make_unique<Window>();
    window_->show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(window_.get()));
    QApplication::setActiveWindow(window_.get());
  }
  void TearDown() override { window_.reset(); }

  Session& session() { return window_->session(); }
  BookList* list() { return window_->findChild<BookList*>(); }
  const std::vector<book::Row>& rows() { return session().book.shelf().listing.rows; }
  book::Row row(const std::string& name) {
    for (const book::Row& r : rows())
      if (r.name == name) return r;
    return {};
  }
  void go_to_book() {
    QTest::keyClick(window_.get(), Qt::Key_8, Qt::AltModifier);
    ASSERT_EQ(window_->stage_name(window_->current_stage()), "Book");
    session().book.wait();
  }
  /// A take in the book that has only its plan, and its file.
  test::fs::path planned(const std::string& name, const std::string& place = "Tern Quay") {
    take::Take t = test::small_take(20, {96, 64});
    t.name = name;
    t.place.name = place;
    const test::fs::path file = folder_ / (name + ".askcount");
    take::save_take(t, file);
    session().book.add(file);
    session().book.wait();
    return file;
  }
  void type(const char* slot, const QString& text) {
    type_into(window_->findChild<SlotField*>(slot), text);
    session().book.wait();
  }
  void nudge(const char* slot, Qt::Key key) {
    QTest::keyClick(window_->findChild<SlotField*>(slot), key);
    session().book.wait();
  }
  QString text(const char* slot) { return window_->findChild<SlotField*>(slot)->text(); }
  template <typename T>
  T* child(const char* name) {
    return window_->findChild<T*>(name);
  }

  test::Folder folder_;
  std::unique_ptr<Window> window_;
};

TEST_F(BookStageTest, AnEmptyBookSaysWhatFillsIt) {
  go_to_book();
  const auto note = window_->stage(window_->current_stage()).empty();
  ASSERT_TRUE(note.has_value());
  EXPECT_NE(note->title.indexOf("empty"), -1);
  EXPECT_FALSE(note->presses.empty());
}

TEST_F(BookStageTest, ATakeFilesItselfFromThePlanToTheFilmAndAsksOnce) {
  take::Take t = test::small_take(24, {96, 64});
  t.name = "A whole evening";
  t.film.size = {96, 64};
  t.card = "card";
  const test::fs::path file = folder_ / "evening.askcount";
  take::save_take(t, file);
  simulate::shoot(forecast::shoot_order(t, folder_ / "card"));
  ASSERT_TRUE(window_->open(file));
  ASSERT_TRUE(until([&] { return row("A whole evening").frames.has_value(); })) << "its frames";
  EXPECT_EQ(*row("A whole evening").frames, static_cast<long long>(session().frames.list()->size()));
  EXPECT_EQ(row("A whole evening").planned_frames, 24);
  auto* bar = child<QWidget>("how did it go");
  EXPECT_FALSE(bar->isVisible());
  session().films.make();
  ASSERT_TRUE(until([&] { return bar->isVisible(); })) << "asked once the film is there";
  ASSERT_TRUE(until([&] { return row("A whole evening").film_s > 0.9; }));
  QTest::keyClicks(child<QLineEdit>("next time"), "Ten minutes earlier");
  QTest::mouseClick(child<QPushButton>("it went well"), Qt::LeftButton);
  EXPECT_FALSE(bar->isVisible());
  session().book.wait();
  EXPECT_EQ(row("A whole evening").words.verdict, book::Verdict::Well);
  EXPECT_EQ(row("A whole evening").words.change, "Ten minutes earlier");
  // On the disk, as another program sees it.
  book::Book other(book::Book::file_in(data_folder()));
  const book::Entry entry = other.of_file(file).value();
  EXPECT_TRUE(entry.words.asked);
  ASSERT_EQ(entry.films.size(), 1u);
  EXPECT_TRUE(test::fs::exists(entry.films[0].file));
  EXPECT_FALSE(other.picture(entry.id).empty());
  session().films.make();
  ASSERT_TRUE(until([&] { return !session().films.queue.working(); }));
  session().book.wait();
  run_events();
  EXPECT_FALSE(bar->isVisible()) << "once, and not with every film";
  // The list, the row and the findings agree.
  go_to_book();
  EXPECT_EQ(text("how many takes"), "1 take");
  EXPECT_EQ(text("how it went"), "well");
}

TEST_F(BookStageTest, TheSentenceFindsAndTheNumbersFollow) {
  planned("Boats", "Tern Quay");
  planned("Beacon", "Gannet Head");
  planned("Fog", "Gannet Head");
  go_to_book();
  EXPECT_EQ(text("how many takes"), "3 takes");
  nudge("place of the takes", Qt::Key_Down);
  EXPECT_EQ(text("place of the takes"), "Gannet Head");
  EXPECT_EQ(text("how many takes"), "2 takes");
  type("words anywhere", "fo");
  EXPECT_EQ(text("how many takes"), "1 take");
  ASSERT_EQ(rows().size(), 1u);
  EXPECT_EQ(rows()[0].name, "Fog");
  type("words anywhere", "any words");
  nudge("place of the takes", Qt::Key_Up);
  EXPECT_EQ(text("place of the takes"), "any place");
  EXPECT_EQ(text("how many takes"), "3 takes");
  QTest::keyClick(list(), Qt::Key_Slash);
  EXPECT_EQ(QApplication::focusWidget(), child<QWidget>("words anywhere"));
}

TEST_F(BookStageTest, WhatIsSaidOfTheChosenTakeIsKept) {
  planned("Boats");
  planned("Beacon");
  go_to_book();
  list()->choose(row("Boats").id);
  type("note", "The tide was late");
  type("what to do differently", "Look at the tables");
  EXPECT_EQ(row("Boats").words.note, "The tide was late");
  EXPECT_EQ(row("Boats").words.change, "Look at the tables");
  EXPECT_EQ(row("Beacon").words.note, "");
  type("note", "nothing");
  EXPECT_EQ(row("Boats").words.note, "");
  // By keys alone: another take, another verdict.
  list()->setFocus();
  QTest::keyClick(list(), Qt::Key_Home);
  const long long first = list()->chosen();
  QTest::keyClick(list(), Qt::Key_Down);
  EXPECT_NE(list()->chosen(), first);
}

TEST_F(BookStageTest, ReturnOpensAndRBeginsAnew) {
  planned("Boats");
  planned("Beacon");
  go_to_book();
  list()->choose(row("Beacon").id);
  list()->setFocus();
  QTest::keyClick(list(), Qt::Key_Return);
  EXPECT_EQ(session().document.take().name, "Beacon");
  EXPECT_EQ(session().document.file(), folder_ / "Beacon.askcount");
  go_to_book();
  list()->choose(row("Boats").id);
  ASSERT_TRUE(until([&] { return child<QPushButton>("begin again")->isEnabled(); }));
  QTest::keyClick(list(), Qt::Key_R);
  const take::Take& fresh = session().document.take();
  EXPECT_EQ(fresh.name, "Boats");
  EXPECT_TRUE(session().document.file().empty()) << "a take of its own";
  EXPECT_EQ(fresh.place.name, "Tern Quay");
  EXPECT_EQ(format_day(day_of(fresh.start, fresh.place.zone)), format_day(day_of(now(), fresh.place.zone)));
  EXPECT_EQ(window_->stage_name(window_->current_stage()), "Light");
}

TEST_F(BookStageTest, TheSkyStandsThereAgainAndOnePressBeginsThen) {
  planned("Boats");
  go_to_book();
  auto* again = child<QLabel>("stands there again");
  ASSERT_TRUE(until([&] { return again->text().contains("href"); }));
  emit again->linkActivated("0");
  const take::Take& fresh = session().document.take();
  const take::Take old = take::load_take(folder_ / "Boats.askcount");
  const auto then = sky::ephemeris_for(old.start, old.start)->at(sky::Body::Sun, old.start, old.place);
  const auto now_there =
      sky::ephemeris_for(fresh.start, fresh.start)->at(sky::Body::Sun, fresh.start, fresh.place);
  EXPECT_NEAR(now_there.altitude_deg, then.altitude_deg, 0.7) << "to the whole minute";
  EXPECT_GT(fresh.start, now());
}

TEST_F(BookStageTest, DeleteTakesOutOnceItWasSaidTwice) {
  const test::fs::path file = planned("Stays");
  planned("Goes");
  go_to_book();
  ASSERT_TRUE(until([&] { return rows().size() == 2; }));
  list()->choose(row("Goes").id);
  const auto answer_with = [&](QMessageBox::ButtonRole role) {
    QTimer::singleShot(0, window_.get(), [role] {
      auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
      ASSERT_TRUE(box);
      EXPECT_TRUE(box->text().contains("Goes")) << box->text().toStdString();
      for (QAbstractButton* b : box->buttons())
        if (box->buttonRole(b) == role) return b->click();
      FAIL();
    });
    QTest::keyClick(list(), Qt::Key_Delete);
    session().book.wait();
  };
  answer_with(QMessageBox::RejectRole);
  EXPECT_EQ(rows().size(), 2u);
  answer_with(QMessageBox::DestructiveRole);
  ASSERT_EQ(rows().size(), 1u);
  EXPECT_EQ(rows()[0].name, "Stays");
  EXPECT_TRUE(test::fs::exists(folder_ / "Goes.askcount")) << "its file stays";
}

TEST_F(BookStageTest, OneIsToldByHandAndWhatCannotBeReadIsSaidThere) {
  go_to_book();
  session().document.edit([](take::Take& t) { t.place.zone = "Europe/London"; });
  HandDialog dialog(session(), window_.get());
  dialog.show();
  ASSERT_TRUE(QTest::qWaitForWindowExposed(&dialog));
  QApplication::setActiveWindow(&dialog);
  const auto field = [&](const char* name) { return dialog.findChild<QLineEdit*>(name); };
  const auto* refused = dialog.findChild<QLabel*>("refused");
  dialog.accept();
  EXPECT_FALSE(refused->text().isEmpty()) << "it has no name";
  EXPECT_TRUE(field("name")->hasFocus());
  field("name")->setText("Fog bank");
  field("place")->setText("Gannet Head");
  field("start")->setText("2026-02-01, 07:00");
  field("frames")->setText("a few");
  dialog.accept();
  EXPECT_EQ(dialog.result(), 0);
  EXPECT_TRUE(refused->text().contains("a few")) << refused->text().toStdString();
  field("frames")->setText("300");
  field("interval")->setText("5 s");
  field("fps")->setText("25");
  dialog.accept();
  ASSERT_EQ(dialog.result(), QDialog::Accepted);
  const book::Entry& e = dialog.entry();
  EXPECT_TRUE(e.located()) << "a known place has its coordinates";
  EXPECT_EQ(e.frames(), 300);
  EXPECT_NEAR(e.film_s(), 12, 1e-9);
  session().book.add(e);
  session().book.wait();
  EXPECT_EQ(row("Fog bank").place, "Gannet Head");
}

TEST_F(BookStageTest, TwoSideBySide) {
  planned("Boats");
  planned("Beacon", "Gannet Head");
  go_to_book();
  list()->setFocus();
  QTest::keyClick(list(), Qt::Key_Home);
  QTest::keyClick(list(), Qt::Key_Down, Qt::ShiftModifier);
  EXPECT_NE(list()->second(), 0);
  session().book.entry(list()->second());
  session().book.wait();
  QTest::keyClick(list(), Qt::Key_B);
  auto* beside = child<QWidget>("side by side");
  EXPECT_TRUE(beside->isVisible());
  ASSERT_TRUE(until([&] { return child<QLabel>("beside 2") != nullptr; }));
  EXPECT_NE(child<QLabel>("beside 1")->text(), child<QLabel>("beside 2")->text());
  QTest::keyClick(window_.get(), Qt::Key_Escape);
  EXPECT_FALSE(beside->isVisible());
}

TEST_F(BookStageTest, AMistakeMadeTwiceGoesOnTheChecklistByOnePress) {
  std::vector<book::Entry> wet;
  for (const char* name : {"one", "two"}) {
    book::Entry e;
    e.how = book::How::Hand;
    e.name = name;
    e.faults = {{"dew", 40}};
    session().book.add(e);
  }
  session().book.wait();
  window_->open(planned("Boats"));
  go_to_book();
  auto* card = child<QWidget>("mistake_dew");
  ASSERT_TRUE(card);
  QTest::mouseClick(card->findChild<QPushButton*>(), Qt::LeftButton);
  EXPECT_EQ(session().document.take().again.at("dew"), 2);
  session().document.undo();
  EXPECT_TRUE(session().document.take().again.empty());
  // And by itself on every new take.
  session().begin();
  EXPECT_EQ(session().document.take().again.at("dew"), 2);
}

TEST_F(BookStageTest, WhatTheTakesSayOfABatteryIsOnePressInAskAndUndone) {
  const test::fs::path file = planned("Boats");
  for (int n = 0; n < 3; ++n) {
    book::Entry e;
    e.how = book::How::Hand;
    e.name = fmt::format("Take {}", n);
    e.by_journal = {{"battery",
                     take::load_take(file).kit.batteries.at(0).name,
                     300.0 + n,
                     560,
                     book::Measure::Bound::Exact,
                     20.0,
                     {}}};
    session().book.add(e);
  }
  session().book.wait();
  ASSERT_TRUE(window_->open(file));
  QTest::keyClick(window_.get(), Qt::Key_1, Qt::AltModifier);
  auto* card = child<QWidget>("kit_battery");
  ASSERT_TRUE(card) << "said in Ask, where it matters";
  QTest::mouseClick(card->findChild<QPushButton*>(), Qt::LeftButton);
  const plan::Battery& b = session().document.take().kit.batteries[0];
  EXPECT_NEAR(b.rated_shots, 301, 1);
  EXPECT_EQ(b.by_takes, 3);
  EXPECT_EQ(child<QWidget>("kit_battery") != nullptr && child<QWidget>("kit_battery")->isVisible(), false)
      << "it is in the kit now";
  session().document.undo();
  EXPECT_EQ(session().document.take().kit.batteries[0].by_takes, 0);
}

TEST_F(BookStageTest, AFileThatWentIsSaidAndTheEntryStays) {
  const test::fs::path file = planned("Boats");
  test::fs::remove(file);
  go_to_book();
  ASSERT_EQ(session().book.shelf().there.size(), 1u);
  EXPECT_FALSE(session().book.shelf().there[0]);
  const take::Take before = session().document.take();
  list()->setFocus();
  QTest::keyClick(list(), Qt::Key_Return);
  EXPECT_EQ(session().document.take(), before);
  EXPECT_NE(child<QLabel>("foot")->text().indexOf("is not there"), -1);
}

TEST_F(BookStageTest, WhatIsListedIsWrittenOut) {
  planned("Boats");
  planned("Beacon", "Gannet Head");
  go_to_book();
  nudge("place of the takes", Qt::Key_Down);
  for (const char* name : {"book.csv", "book.html", "book.pdf"}) session().book.write(folder_ / name);
  session().book.wait();
  std::ifstream csv(folder_ / "book.csv");
  const std::string table{std::istreambuf_iterator<char>(csv), {}};
  EXPECT_NE(table.find("Beacon"), std::string::npos);
  EXPECT_EQ(table.find("Boats"), std::string::npos);
  EXPECT_NE(test::run("pdftotext '" + (folder_ / "book.pdf").string() + "' -").out.find("Beacon"),
            std::string::npos);
  EXPECT_GT(test::fs::file_size(folder_ / "book.html"), 1000u);
}

TEST_F(BookStageTest, ATakeThatGetsItsFileLaterIsOneTake) {
  take::Take t = test::small_take(12, {96, 64});
  simulate::shoot(forecast::shoot_order(t, folder_ / "card"));
  session().begin_with(folder_ / "card");
  ASSERT_TRUE(until([&] { return session().frames.gathered().has_value(); }));
  ASSERT_TRUE(until([&] { return session().document.is_kept(); }));
  session().document.edit([](take::Take& u) { u.name = "Found on a card"; });
  ASSERT_TRUE(until([&] { return row("Found on a card").id != 0; }));
  const long long id = row("Found on a card").id;
  session().document.save(folder_ / "found.askcount");
  session().document.wait_until_saved();
  ASSERT_TRUE(until([&] { return row("Found on a card").file == (folder_ / "found.askcount").string(); }));
  EXPECT_EQ(row("Found on a card").id, id);
  EXPECT_EQ(rows().size(), 1u);
}

TEST_F(BookStageTest, ADamagedBookIsSaidAndTheTakesAreThere) {
  planned("Boats");
  window_.reset();
  test::write(book::Book::file_in(data_folder()), std::string(5000, 'z'));
  window_ = std::make_unique<Window>();
  QString said;
  QObject::connect(&session(), &Session::trouble, window_.get(), [&](const QString& words) { said = words; });
  session().book.wait();
  EXPECT_NE(said.indexOf("was damaged"), -1) << said.toStdString();
  EXPECT_EQ(row("Boats").planned_frames, 20);
}

TEST_F(BookStageTest, ATakeIsPackedWithWhatWasSaidOfIt) {
  const test::fs::path file = planned("Boats");
  window_->open(file);
  go_to_book();
  list()->choose(row("Boats").id);
  type("note", "Windy");
  session().pack(folder_ / "boats.tar");
  ASSERT_TRUE(until([&] { return !session().job.running(); }));
  ASSERT_EQ(test::run(fmt::format("tar -xf '{}' -C '{}'", (folder_ / "boats.tar").string(),
                                  folder_.path().string()))
                .exit,
            0);
  EXPECT_EQ(take::load_take(folder_ / "boats" / "Boats.askcount").name, "Boats");
  session().book.add(folder_ / "boats" / "Boats.askcount");
  session().book.wait();
  long long windy = 0;
  for (const book::Row& r : rows()) windy += r.words.note == "Windy" ? 1 : 0;
  EXPECT_EQ(windy, 2) << "the one here and the one that was unpacked";
}

TEST_F(BookStageTest, PracticeOfEarlierVersionsIsTakenOverOnce) {
  window_.reset();
  test::write(data_folder() / "practice.json",
              std::string(R"([{"timer": "Dial", "seconds": 41.5, "at": "2026-05-01T20:00:00"}])"));
  window_ = std::make_unique<Window>();
  session().book.wait();
  ASSERT_EQ(session().book.shelf().scores.size(), 1u);
  EXPECT_EQ(session().book.shelf().scores[0].value, 41.5);
  EXPECT_FALSE(test::fs::exists(data_folder() / "practice.json"));
}

}  // namespace
}  // namespace askcount::app
