// SPDX-License-Identifier: GPL-3.0-or-later
// The window of a take of which nothing is said: three ways in, what to do on every stage, and no word of the
// demo.
#include <QAbstractButton>
#include <QDropEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMimeData>
#include <QPushButton>
#include <QStandardPaths>
#include <QtTest/QTest>

#include "app/session/keeping.h"
#include "app/shell/findings_column.h"
#include "app/shell/window.h"
#include "app/style/style.h"
#include "app/widgets/sentence.h"
#include "events.h"
#include "support.h"

namespace askcount::app {
namespace {

using plan::Slot;

class EmptyTest : public ::testing::Test {
 protected:
  void SetUp() override {
    window_.resize(1280, 800);
    window_.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&window_));
    QApplication::setActiveWindow(&window_);
  }
  Session& session() { return window_.session(); }
  const take::Take& take() { return session().document.take(); }
  QWidget* page() { return window_.findChild<QWidget*>("empty page"); }
  void press(const QString& words) {
    for (QPushButton* button : page()->findChildren<QPushButton*>())
      if (button->text() == words) return QTest::mouseClick(button, Qt::LeftButton);
    FAIL() << "no button " << words.toStdString();
  }
  SlotField* field(const char* name) {
    for (SlotField* f : window_.stage(window_.current_stage()).findChildren<SlotField*>(name))
      if (f->isVisible()) return f;
    return nullptr;
  }
  void type(const char* name, const QString& text) {
    SlotField* f = field(name);
    ASSERT_TRUE(f) << name;
    QTest::mouseClick(f, Qt::LeftButton);
    auto* editor = f->findChild<QLineEdit*>();
    ASSERT_TRUE(editor);
    QTest::keyClicks(editor, text);
    QTest::keyClick(editor, Qt::Key_Return);
  }
  void drop(const QString& path) {
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(path)});
    QDragEnterEvent enter({50, 50}, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&window_, &enter);
    EXPECT_TRUE(enter.isAccepted());
    QDropEvent event(QPointF(50, 50), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&window_, &event);
  }

  test::Folder folder_;
  // A person who has just begun: the book of the tests before is gone.
  const bool fresh_ =
      test::fs::remove(book::Book::file_in(data_folder())) || test::fs::remove(data_folder() / "book.takes");
  Window window_;
};

TEST_F(EmptyTest, HasThreeWaysIn) {
  EXPECT_EQ(take(), take::Take()) << "nothing of the demo";
  EXPECT_TRUE(page()->isVisible());
  std::set<std::string> ways;
  for (QPushButton* b : page()->findChildren<QPushButton*>()) ways.insert(b->text().toStdString());
  EXPECT_EQ(ways,
            (std::set<std::string>{"Ask for a clip", "Open a card or a folder of frames", "Try the demo"}));
  press("Ask for a clip");
  EXPECT_FALSE(page()->isVisible());
  EXPECT_TRUE(take().wished(Slot::Clip));
  EXPECT_EQ(field("place")->text(), "a place");
  EXPECT_EQ(field("first shot")->text(), "a day and time");
  EXPECT_EQ(field("subject")->text(), "something");
  // Where and when are asked for in the sentence.
  type("place", "nowhere in particular");
  EXPECT_FALSE(take().place.known());
  type("place", "56.1 N 5.5 W");
  EXPECT_NEAR(take().place.latitude_deg, 56.1, 1e-9);
  type("place", "The quay of home");
  EXPECT_EQ(take().place.name, "The quay of home");
  EXPECT_NEAR(take().place.longitude_deg, -5.5, 1e-9) << "only its name is another";
  type("first shot", "2026-10-09 17:50");
  EXPECT_EQ(format_iso(take().start, take().place.zone).substr(0, 16), "2026-10-09T17:50");
  type("first shot", "18:05");
  EXPECT_EQ(format_iso(take().start, take().place.zone).substr(0, 16), "2026-10-09T18:05");
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(format_clock(take().start, take().place.zone), "17:50");
}

TEST_F(EmptyTest, TheDemoIsTriedWithoutAFile) {
  press("Try the demo");
  EXPECT_EQ(take().place.name, "Tern Quay");
  EXPECT_TRUE(session().document.sums());
  EXPECT_TRUE(session().document.file().empty());
  // A new take after it has nothing of it.
  QTest::keyClick(&window_, Qt::Key_N, Qt::ControlModifier);
  EXPECT_FALSE(take().knows_kit());
  EXPECT_EQ(take(), take::Take());
  // A kit of one's own goes on.
  session().document.edit([](take::Take& t) {
    t.kit = plan::example_kit();
    t.timer = "Breakwater";
  });
  session().begin();
  EXPECT_TRUE(take().knows_kit());
  EXPECT_EQ(take().timer, "Breakwater");
  EXPECT_FALSE(take().place.known());
}

TEST_F(EmptyTest, EveryStageSaysWhatToDo) {
  for (int i = 0; i < window_.stage_count(); ++i) {
    window_.go_to(i);
    EXPECT_TRUE(page()->isVisible()) << window_.stage_name(i).toStdString();
    EXPECT_FALSE(page()->findChildren<QPushButton*>().empty());
  }
  window_.go_to(1);
  press("Say what you want");
  EXPECT_EQ(window_.stage_name(window_.current_stage()), "Ask");
  window_.go_to(4);
  press("Shoot the take");
  EXPECT_EQ(window_.stage_name(window_.current_stage()), "Shoot");
}

TEST_F(EmptyTest, FramesAFolderOrATakeAreDroppedOnIt) {
  const take::Take small = test::small_take(12, {96, 64});
  simulate::shoot(forecast::shoot_order(small, folder_ / "card"));
  drop(QString::fromStdString((folder_ / "card").string()));
  EXPECT_EQ(window_.stage_name(window_.current_stage()), "Gather");
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return session().frames.gathered() && !session().job.running(); }, 20000));
  EXPECT_EQ(session().frames.list()->size(), 12u);
  // One of its frames is as good as its folder.
  const std::string one = (folder_ / "card/DCIM/100QUAY/QUAY0220.JPG").string();
  drop(QString::fromStdString(one));
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return session().frames.gathered() && !session().job.running(); }, 20000));
  EXPECT_EQ(take().card, (folder_ / "card/DCIM/100QUAY").string());
  save_take(small, folder_ / "small.askcount");
  drop(QString::fromStdString((folder_ / "small.askcount").string()));
  EXPECT_EQ(session().document.file(), folder_ / "small.askcount");
}

TEST_F(EmptyTest, FramesWithoutAPlanBecomeAFilm) {
  const take::Take small = test::small_take(12, {96, 64});
  simulate::shoot(forecast::shoot_order(small, folder_ / "card"));
  session().begin_with(folder_ / "card");
  session().frames.gather();
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return session().frames.gathered() && !session().job.running(); }, 20000));
  session().document.edit([](take::Take& t) { t.film.size = {96, 64}; });
  while (window_.stage_name(window_.current_stage()) != "Cut") window_.go_to(window_.current_stage() + 1);
  auto* make = window_.findChild<QPushButton*>("make");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !session().job.running(); }, 20000));
  run_events();
  EXPECT_EQ(take().name, "card") << "a take without a name is called as its folder";
  EXPECT_TRUE(QTest::qWaitFor([&] { return make->isEnabled(); }, 20000)) << "nothing more has to be said";
  EXPECT_NEAR(films::film_rate(take())->value(), 25, 1e-9);
  type("frame rate of the film", "24");
  EXPECT_NEAR(films::film_rate(take())->value(), 24, 1e-9);
  EXPECT_FALSE(session().document.sums()) << "the rest of the plan stays unsaid";
  ASSERT_TRUE(QTest::qWaitFor([&] { return make->isEnabled(); }, 20000));  // other work may be under way
  QTest::mouseClick(make, Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().films.film().has_value(); }, 30000));
  EXPECT_EQ(session().films.film()->frames, 12);
  EXPECT_NEAR(session().films.film()->fps.value(), 24, 1e-9);
  // It lies where the desktop keeps films, under the take's name, and is no file of the program's.
  const test::fs::path films = QStandardPaths::writableLocation(QStandardPaths::MoviesLocation).toStdString();
  EXPECT_EQ(session().films.file().parent_path(), films);
  EXPECT_TRUE(session().films.file().filename().string().starts_with("card 2")) << session().films.file();
  EXPECT_EQ(session().films.file().extension(), ".mp4");
  for (const Finding& f : window_.stage(window_.current_stage()).findings())
    EXPECT_NE(f.code, "fps_of_plan") << "there is no plan";
  test::fs::remove(session().films.file());
}

TEST_F(EmptyTest, WithoutAFileTheLastTakeIsOpened) {
  for (const test::fs::path& other : unsaved_files()) test::fs::remove(other);  // of tests before
  save_take(take::demo_take(), folder_ / "last.askcount");
  ASSERT_TRUE(window_.open(folder_ / "last.askcount"));
  window_.session().document.wait_until_saved();
  session().begin();
  Window next;
  next.take_up_last();
  EXPECT_EQ(next.session().document.file(), folder_ / "last.askcount");
}

TEST_F(EmptyTest, LettersAreKeysOfTheWindowWhereNoWordsAreTyped) {
  press("Try the demo");
  const bool lamp = current_lighting() == Lighting::Lamp;
  for (const char* name : {"the interval", "the clip", "first shot"}) {
    SlotField* f = field(name);
    ASSERT_TRUE(f) << name;
    f->setFocus();
    QTest::keyClick(f, Qt::Key_L);
    EXPECT_FALSE(f->findChild<QLineEdit*>()) << name << " began an edit";
    EXPECT_NE(current_lighting() == Lighting::Lamp, lamp) << name;
    QTest::keyClick(f, Qt::Key_L);
  }
  for (const char* name : {"subject", "place"}) {
    SlotField* f = field(name);
    f->setFocus();
    QTest::keyClick(f, Qt::Key_L);
    auto* editor = f->findChild<QLineEdit*>();
    ASSERT_TRUE(editor) << name << " is filled with words";
    EXPECT_EQ(editor->text(), "l");
    EXPECT_EQ(current_lighting() == Lighting::Lamp, lamp) << name;
    QTest::keyClick(editor, Qt::Key_Escape);
  }
  SlotField* f = field("the interval");
  f->setFocus();
  QTest::keyClick(f, Qt::Key_9);
  EXPECT_TRUE(f->findChild<QLineEdit*>()) << "a digit does";
  // The window may go in the middle of it.
}

TEST_F(EmptyTest, WhatIsFineFoldsAndCautionsComeLast) {
  press("Try the demo");
  window_.go_to(1);
  if (!window_.findChild<FindingsColumn*>()->isVisible()) window_.toggle_findings();
  QTest::qWait(20);  // the cards of the stage before are gone
  auto* line = window_.findChild<QAbstractButton*>("what is fine");
  ASSERT_TRUE(line);
  ASSERT_TRUE(line->isVisible());
  auto* fine = window_.findChild<QWidget*>("room_to_turn");
  ASSERT_TRUE(fine);
  EXPECT_FALSE(fine->isVisible());
  QTest::mouseClick(line, Qt::LeftButton);
  EXPECT_TRUE(fine->isVisible());
  EXPECT_GT(window_.findChild<QWidget*>("sun_in_frame")->y(), fine->y());
  QTest::mouseClick(line, Qt::LeftButton);
  EXPECT_FALSE(fine->isVisible());
  for (const Finding& f : window_.stage(1).findings())
    if (f.code == "sun_in_frame") {
      EXPECT_EQ(f.severity, Severity::Caution);
    }
}

}  // namespace
}  // namespace askcount::app
