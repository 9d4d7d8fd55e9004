// SPDX-License-Identifier: GPL-3.0-or-later
// Gather in the window: keys and presses, and what they leave in the take.
#include <QApplication>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QMouseEvent>
#include <QPushButton>
#include <QScrollBar>
#include <QSignalSpy>
#include <QTest>
#include <QTimer>

#include "app/shell/window.h"
#include "app/stages/gather/contact_sheet.h"
#include "app/stages/gather/frame_lanes.h"
#include "app/widgets/picture_view.h"
#include "app/widgets/word_tabs.h"
#include "films.h"

namespace askcount::app {
namespace {

class GatherStageTest : public ::testing::Test {
 protected:
  /// Opens a window on a card and waits until every frame was looked at.
  void open(const test::Card& card) {
    test::write_card(card, folder_ / "card");
    take::Take take;
    take.card = "card";
    take::save_take(take, folder_ / "x.askcount");
    ASSERT_TRUE(window_.open(folder_ / "x.askcount"));
    window_.resize(1280, 800);
    window_.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&window_));
    QApplication::setActiveWindow(&window_);  // a display without a window manager gives no focus by itself
    window_.go_to(4);
    ASSERT_TRUE(looked());
  }
  bool looked() {
    return QTest::qWaitFor(
        [this] {
          return session().frames.gathered() && session().looking.complete() && !session().looking.running();
        },
        60000);
  }
  Session& session() { return window_.session(); }
  template <typename T>
  T* child(const char* name) {
    return window_.findChild<T*>(name);
  }
  QString answer() { return child<QLabel>("gathered")->text(); }
  std::size_t frames() { return session().frames.list()->size(); }

  test::Folder folder_;
  Window window_;
};

test::Card with_a_visitor() {
  test::Card card{.size = {300, 200}, .frames = 40};
  card.harm = [](int n) { return n == 24 ? test::Harm{.blob = 0.5} : test::Harm{}; };
  return card;
}

TEST_F(GatherStageTest, TheNextFaultIsOneKeyAwayAndEveryDecisionIsUndone) {
  open(with_a_visitor());
  EXPECT_NE(answer().indexOf("40 frames"), -1);
  EXPECT_NE(answer().indexOf("1&nbsp;wants&nbsp;a&nbsp;look"), -1) << answer().toStdString();
  QTest::keyClick(&window_, Qt::Key_N);
  EXPECT_EQ(session().playhead.at(), 24);
  EXPECT_TRUE(child<QPushButton>("stand-in")->isVisible());
  // Its neighbours stand in for it.
  QTest::mouseClick(child<QPushButton>("stand-in"), Qt::LeftButton);
  EXPECT_TRUE((*session().frames.list())[24].set_aside);
  EXPECT_EQ(answer().indexOf("look"), -1) << "nothing is open any more";
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_FALSE((*session().frames.list())[24].set_aside);
  // Or it is left out, and taken back.
  QTest::keyClick(&window_, Qt::Key_X);
  EXPECT_EQ(frames(), 39u);
  EXPECT_EQ(session().document.take().gather.leave_out.size(), 1u);
  EXPECT_TRUE(session().looking.complete()) << "nothing is looked at twice";
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(frames(), 40u);
  // Or it is fine.
  session().playhead.set(24);
  QTest::keyClick(&window_, Qt::Key_K);
  EXPECT_TRUE(session().looking.faults().empty());
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(session().looking.faults().size(), 1u);
}

TEST_F(GatherStageTest, ALeftOutPictureIsTakenBackFromTheSheet) {
  test::Card card{.size = {300, 200}, .frames = 40};
  card.info = [](int n, media::ShotInfo i) {
    if (n < 2) i.captured = *i.captured - std::chrono::seconds(n == 0 ? 47 : 23), i.shutter_s = 0.5;
    return i;
  };
  open(card);
  ASSERT_EQ(frames(), 38u);
  for (auto* tabs : window_.findChildren<WordTabs*>())
    if (tabs->isVisible()) tabs->choose(1);
  auto* sheet = child<ContactSheet>("strip");
  ASSERT_TRUE(sheet->isVisible());
  QTest::mouseClick(sheet->viewport(), Qt::LeftButton, {}, QPoint(20, 20));
  ASSERT_NE(sheet->chosen(), nullptr);
  EXPECT_EQ(sheet->chosen()->why, ingest::Dropped::Why::Test);
  EXPECT_EQ(child<QPushButton>("leave-out")->text(), "Take it back (X)");
  QTest::keyClick(&window_, Qt::Key_X);
  EXPECT_EQ(frames(), 39u);
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(frames(), 38u);
}

TEST_F(GatherStageTest, ClickingALaneLooksAtThatFrame) {
  open({.size = {300, 200}, .frames = 40});
  auto* lanes = child<FrameLanes>("lanes");
  QTest::mouseClick(lanes, Qt::LeftButton, {}, QPoint(lanes->width() - 4, 20));
  EXPECT_EQ(session().playhead.at(), 39);
  QTest::mouseClick(lanes, Qt::LeftButton, {}, QPoint(86, 100));
  EXPECT_EQ(session().playhead.at(), 0);
  EXPECT_EQ(session().looking.lanes().size(), 6u);
}

TEST_F(GatherStageTest, RealPixelsFollowThePointer) {
  test::Card card{.size = {1500, 1000}, .frames = 8};
  open(card);
  session().playhead.set(4);
  auto* frame = child<PictureView>("frame");
  const auto now = [frame] { return frame->grab().toImage(); };
  const auto changes_from = [&](const QImage& before) {
    return QTest::qWaitFor([&] { return frame->has_picture() && now() != before; }, 20000);
  };
  ASSERT_TRUE(QTest::qWaitFor([&] { return frame->has_picture(); }, 20000));
  const QImage whole = now();
  QTest::keyClick(&window_, Qt::Key_Z);
  EXPECT_TRUE(changes_from(whole));
  const QImage middle = now();
  QMouseEvent move(QEvent::MouseMove, QPointF(5, 5), frame->mapToGlobal(QPointF(5, 5)), Qt::NoButton,
                   Qt::NoButton, {});
  QApplication::sendEvent(frame, &move);
  EXPECT_NEAR(frame->pointed().x(), 0, 0.05);
  EXPECT_TRUE(changes_from(middle));
  EXPECT_EQ(session().playhead.at(), 4);
}

TEST_F(GatherStageTest, ASheetOfManyReadsOnlyWhatIsSeen) {
  open({.size = {96, 64}, .frames = 400, .interval_s = 2});
  for (auto* tabs : window_.findChildren<WordTabs*>())
    if (tabs->isVisible()) tabs->choose(1);
  auto* sheet = child<ContactSheet>("strip");
  EXPECT_GT(sheet->verticalScrollBar()->maximum(), 2000);
  session().playhead.set(399);
  EXPECT_GT(sheet->verticalScrollBar()->value(), sheet->verticalScrollBar()->maximum() - 40)
      << "the frame looked at is in sight";
  for (const int y : {15, 60})  // one of the two is on a picture, not on the words between
    QTest::mouseClick(sheet->viewport(), Qt::LeftButton, {}, QPoint(20, y));
  EXPECT_GT(session().playhead.at(), 360);
  EXPECT_LT(session().playhead.at(), 399);
}

TEST_F(GatherStageTest, TheLookIsKeptBesideTheTake) {
  open(with_a_visitor());
  EXPECT_TRUE(test::fs::exists(folder_ / "x.frames"));
  const float before = session().looking.look().frames[10].stops;
  // A window of its own finds it again, and sees a file that changed since.
  Window other;
  ASSERT_TRUE(other.open(folder_ / "x.askcount"));
  other.show();
  other.go_to(4);
  ASSERT_TRUE(QTest::qWaitFor([&] { return other.session().looking.complete(); }, 30000));
  EXPECT_EQ(other.session().looking.look().frames[10].stops, before);
}

/// Once a dialog is open, does that to it.
template <typename Dialog>
void when_asked(const std::function<void(Dialog*)>& answer) {
  QTimer::singleShot(0, [answer] {
    QWidget* open = QApplication::activeModalWidget();
    auto* dialog = qobject_cast<Dialog*>(open != nullptr ? open : QApplication::activePopupWidget());
    if (dialog != nullptr)
      answer(dialog);
    else
      when_asked<Dialog>(answer);
  });
}

TEST_F(GatherStageTest, TheCamerasClockIsSetByHandAndBack) {
  open({.size = {96, 64}, .frames = 20});
  session().playhead.set(3);
  const auto before = *(*session().frames.list())[3].info().captured;
  when_asked<QInputDialog>([](QInputDialog* d) {
    EXPECT_NE(d->labelText().indexOf("FLD_0004.JPG says 2025-10-09 08:53:50"), -1)
        << d->labelText().toStdString();
    d->setTextValue("2025-10-09 10:53:50");
    d->accept();
  });
  child<QPushButton>("clock")->click();
  ASSERT_TRUE(looked());
  EXPECT_NEAR(session().document.take().gather.clock_s, 7200, 1);
  EXPECT_NEAR(static_cast<double>(((*(*session().frames.list())[3].info().captured) - before).count()), 7.2e6,
              1e3);
  // What is no time changes nothing, and says so.
  QSignalSpy trouble(&session(), &Session::trouble);
  when_asked<QInputDialog>([](QInputDialog* d) {
    d->setTextValue("at noon");
    d->accept();
  });
  child<QPushButton>("clock")->click();
  EXPECT_EQ(trouble.count(), 1);
  EXPECT_NEAR(session().document.take().gather.clock_s, 7200, 1);
  session().document.undo();
  ASSERT_TRUE(looked());
  EXPECT_EQ(session().document.take().gather.clock_s, 0);
}

TEST_F(GatherStageTest, TheTakeBeginsAndEndsWhereThePersonSays) {
  open({.size = {96, 64}, .frames = 30});
  const auto choose = [this](const QString& words) {
    when_asked<QMenu>([words](QMenu* menu) {
      for (QAction* a : menu->actions())
        if (a->text() == words) return menu->setActiveAction(a), QTest::keyClick(menu, Qt::Key_Return);
      menu->close();
      ADD_FAILURE() << words.toStdString() << " is not offered";
    });
    child<QPushButton>("ends")->click();
  };
  session().playhead.set(4);
  choose("Begin the take here");
  EXPECT_EQ(frames(), 26u);
  session().playhead.set(19);
  choose("End the take here");
  EXPECT_EQ(frames(), 20u);
  choose("From its first frame again");
  EXPECT_EQ(frames(), 24u);
  session().document.undo();
  session().document.undo();
  session().document.undo();
  EXPECT_EQ(frames(), 30u);
}

TEST_F(GatherStageTest, AFilmsPicturesAreTakenByOnePress) {
  test::fs::create_directories(folder_ / "card");
  test::write_film({.size = {160, 96}, .frames = 50}, folder_ / "card/walk.mp4");
  open({.size = {96, 64}, .frames = 20});
  ASSERT_EQ(frames(), 20u);
  QPushButton* press = nullptr;
  ASSERT_TRUE(QTest::qWaitFor([&] {
    for (QPushButton* b : window_.findChildren<QPushButton*>())
      if (b->text() == "Use its pictures") press = b;  // folded away with what is fine
    return press != nullptr;
  }));
  press->click();
  ASSERT_TRUE(QTest::qWaitFor([this] { return frames() == 50u; }, 30000));
  ASSERT_TRUE(looked());
  EXPECT_NE(answer().indexOf("every&nbsp;picture&nbsp;of&nbsp;it"), -1) << answer().toStdString();
  when_asked<QInputDialog>([](QInputDialog* d) {
    d->setIntValue(10);
    d->accept();
  });
  emit child<QLabel>("gathered")->linkActivated("step");
  ASSERT_TRUE(QTest::qWaitFor([this] { return frames() == 5u; }, 30000));
  session().document.undo();
  ASSERT_TRUE(QTest::qWaitFor([this] { return frames() == 50u; }, 30000));
}

TEST_F(GatherStageTest, AnotherTakeOfTheCardIsOnePressAway) {
  test::write_card({.size = {96, 64},
                    .frames = 30,
                    .interval_s = 20,
                    .seed = 3,
                    .first_number = 500,
                    .first_ms = 1760090000000},
                   folder_ / "card");
  open({.size = {96, 64}, .frames = 50});
  EXPECT_NE(answer().indexOf("2&nbsp;takes"), -1) << answer().toStdString();
  ASSERT_EQ(frames(), 50u);
  session().document.edit([](take::Take& t) { t.gather.choose = 2; });
  EXPECT_EQ(frames(), 30u);
  ASSERT_TRUE(QTest::qWaitFor([this] { return !session().looking.running(); }, 20000));
  EXPECT_NEAR(*session().frames.gathered()->interval_s, 20, 0.1);
  session().document.undo();
  EXPECT_EQ(frames(), 50u);
}

}  // namespace
}  // namespace askcount::app
