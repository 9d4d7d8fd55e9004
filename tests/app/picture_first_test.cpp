// SPDX-License-Identifier: GPL-3.0-or-later
// The picture comes first: its share of the window, the whole screen, and what makes room for it.
#include <QAbstractButton>
#include <QApplication>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QTest>

#include "app/shell/big_picture.h"
#include "app/shell/findings_column.h"
#include "app/shell/findings_tally.h"
#include "app/shell/window.h"
#include "app/stages/ask/motion_view.h"
#include "app/stages/gather/neighbour_strip.h"
#include "app/widgets/picture_first.h"
#include "app/widgets/picture_place.h"
#include "app/widgets/sentence.h"
#include "frames.h"
#include "support.h"
#include "take/take.h"

namespace askcount::app {
namespace {

class PictureFirstTest : public ::testing::Test {
 protected:
  void SetUp() override {
    test::fs::create_directories(folder_ / "card");
    image::Coded8 picture(image::Size{240, 160});
    for (int n = 0; n < 12; ++n) {
      for (int y = 0; y < 160; ++y)
        for (int x = 0; x < 3 * 240; ++x)
          picture.row(y)[x] = static_cast<std::uint8_t>(40 + (x + 3 * n) % 120);
      write_frame(folder_ / "card" / fmt::format("P_{:04}.JPG", n + 1), picture,
                  1789400000000LL + 5000LL * n);
    }
    take::Take take;
    take.card = "card";
    take.wish(plan::Slot::Fps, 25);
    take.film.size = {240, 160};
    take::save_take(take, folder_ / "small.askcount");
    ASSERT_TRUE(window_.open(folder_ / "small.askcount"));
    window_.resize(1280, 800);
    window_.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&window_));
    QApplication::setActiveWindow(&window_);
    session().frames.gather();
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return session().frames.gathered() && !session().job.running(); }, 60000));
  }
  Session& session() { return window_.session(); }
  Stage& go(const char* name) {
    window_.go_to_stage(name);
    QTest::qWait(0);
    return window_.stage(window_.current_stage());
  }

  test::Folder folder_;
  Window window_;
};

TEST_F(PictureFirstTest, ThePictureHasMoreThanHalfTheWindowOnEverySize) {
  for (const QSize size : {QSize(1100, 700), QSize(1280, 800), QSize(1366, 768), QSize(1920, 1080)}) {
    window_.resize(size);
    for (const char* name : {"Gather", "Level", "Cut"}) {
      Stage& stage = go(name);
      ASSERT_TRUE(stage.picture()) << name;
      const QRect at(stage.picture()->mapTo(&window_, QPoint()), stage.picture()->size());
      EXPECT_GE(at.width(), 0.55 * size.width()) << name << " at " << size.width();
      EXPECT_TRUE(window_.rect().contains(at)) << name;
      // What is beside and below it does not lie over it.
      auto* first = stage.findChild<PictureFirst*>();
      for (const QWidget* other : first->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly))
        if (other != stage.picture() && other->isVisible()) {
          EXPECT_FALSE(other->geometry().intersects(stage.picture()->geometry())) << name;
          EXPECT_TRUE(first->rect().contains(other->geometry())) << name << " at " << size.width();
        }
    }
  }
}

TEST_F(PictureFirstTest, TheWholeScreenHasThePictureAndAllKeys) {
  Stage& stage = go("Gather");
  QWidget* picture = stage.picture()->picture();
  QTest::mouseDClick(picture->findChild<QWidget*>("frame"), Qt::LeftButton);
  QTest::qWait(0);
  QWidget* big = picture->window();
  ASSERT_NE(big, &window_);
  EXPECT_EQ(big->objectName(), "big picture");
  EXPECT_TRUE(big->isFullScreen());
  EXPECT_GT(picture->width(), 0.99 * big->width());
  EXPECT_GT(picture->height(), 0.9 * big->height());
  session().playhead.set(2);
  QTest::keyClick(big, Qt::Key_Right);
  EXPECT_EQ(session().playhead.at(), 3) << "keys go on working";
  QTest::keyClick(big, Qt::Key_X);
  EXPECT_EQ(session().document.take().gather.leave_out.size(), 1u) << "the stage's own too";
  QTest::keyClick(big, Qt::Key_Z, Qt::ControlModifier);
  const QWidget* line = big->findChild<QWidget*>("big line");
  ASSERT_TRUE(line);
  EXPECT_TRUE(line->accessibleName().contains("Frame 4 of 12")) << line->accessibleName().toStdString();
  QTest::keyClick(big, Qt::Key_Escape);
  EXPECT_FALSE(big->isVisible());
  EXPECT_EQ(picture->window(), &window_);
  EXPECT_EQ(picture->size(), stage.picture()->size());
  EXPECT_TRUE(picture->isVisible());
}

TEST_F(PictureFirstTest, AWindowOfItsOwnGoesWithTheStages) {
  Stage& gather = go("Gather");
  window_.picture_apart();
  QWidget* big = gather.picture()->picture()->window();
  ASSERT_NE(big, &window_);
  EXPECT_FALSE(big->isFullScreen());
  Stage& level = go("Level");
  EXPECT_EQ(gather.picture()->picture()->window(), &window_) << "given back";
  EXPECT_EQ(level.picture()->picture()->window(), big);
  QTest::mouseClick(level.picture(), Qt::LeftButton);
  EXPECT_EQ(level.picture()->picture()->window(), &window_) << "a press on its place brings it back";
  EXPECT_FALSE(big->isVisible());
  go("Ask");
  window_.toggle_picture();
  window_.picture_apart();  // Nothing is shown of a stage without a picture.
  EXPECT_FALSE(big->isVisible());
}

TEST_F(PictureFirstTest, TheSpanIsSlimThereAndGrowsUnderAHand) {
  auto* span = window_.findChild<Span*>();
  go("Ask");
  EXPECT_EQ(span->height(), Span::kHeight);
  Stage& stage = go("Gather");
  EXPECT_EQ(span->height(), Span::kSlim);
  const QRect picture = stage.picture()->geometry();
  const int y = 20;
  QTest::mousePress(span, Qt::LeftButton, {}, QPoint(400, y));
  const long long before = session().playhead.at();
  QMouseEvent move(QEvent::MouseMove, QPointF(900, y), span->mapToGlobal(QPointF(900, y)), Qt::NoButton,
                   Qt::LeftButton, {});
  QApplication::sendEvent(span, &move);
  EXPECT_EQ(span->height(), Span::kHeight) << "over what is below";
  EXPECT_EQ(stage.picture()->geometry(), picture) << "which stays where it is";
  EXPECT_GT(session().playhead.at(), before);
  QTest::mouseRelease(span, Qt::LeftButton, {}, QPoint(900, y));
  EXPECT_EQ(span->height(), Span::kSlim);
  // A press on the names keeps it full, here and on the next of these stages.
  QTest::mouseClick(span, Qt::LeftButton, {}, QPoint(30, y));
  EXPECT_EQ(span->height(), Span::kHeight);
  go("Level");
  EXPECT_EQ(span->height(), Span::kHeight);
  QTest::keyClick(&window_, Qt::Key_T, Qt::ControlModifier);
  EXPECT_EQ(span->height(), Span::kSlim);
}

TEST_F(PictureFirstTest, FindingsTakeAColumnOnlyWhereTheyAreWanted) {
  auto* column = window_.findChild<FindingsColumn*>();
  auto* tally = window_.findChild<FindingsTally*>();
  go("Gather");
  EXPECT_FALSE(column->isVisible());
  ASSERT_TRUE(tally->isVisible());
  EXPECT_FALSE(tally->accessibleName().isEmpty());
  QTest::keyClick(&window_, Qt::Key_F, Qt::ControlModifier);
  EXPECT_TRUE(column->isVisible());
  QTest::mouseClick(tally, Qt::LeftButton);
  EXPECT_FALSE(column->isVisible());
  QTest::mouseClick(tally, Qt::LeftButton);
  go("Level");
  EXPECT_FALSE(column->isVisible()) << "each stage for itself";
  go("Gather");
  EXPECT_TRUE(column->isVisible()) << "as it was left";
}

TEST_F(PictureFirstTest, ACautionOnceReadIsALine) {
  go("Ask");
  session().begin_demo();
  window_.go_to_stage("Ask");
  auto* column = window_.findChild<FindingsColumn*>();
  ASSERT_TRUE(column->isVisible()) << "a caution wants to be read once";
  const auto card = [&] { return column->findChild<QWidget*>("sun_in_frame"); };
  const auto text_shown = [&] {
    for (const QLabel* label : card()->findChildren<QLabel*>())
      if (label->isVisible() && label->text().size() > 60) return true;
    return false;
  };
  ASSERT_TRUE(card());
  EXPECT_TRUE(text_shown());
  window_.go_to_stage("Light");
  if (!column->isVisible()) window_.toggle_findings();
  QTest::qWait(20);  // the cards of the stage before are gone
  ASSERT_TRUE(card());
  EXPECT_FALSE(text_shown());
  auto* line = card()->findChild<QAbstractButton*>();
  ASSERT_TRUE(line);
  QTest::keyClick(line, Qt::Key_Space);
  EXPECT_TRUE(text_shown()) << "it unfolds";
}

TEST_F(PictureFirstTest, AFolderBecomesAFilmOfItsOwnSizeInThreePresses) {
  ASSERT_TRUE(window_.open_any(folder_ / "card"));  // dropped
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return session().frames.gathered() && !session().job.running(); }, 60000));
  EXPECT_EQ(session().document.take().film.size, (image::Size{240, 160})) << "no larger than the frames";
  QTest::keyClick(&window_, Qt::Key_7, Qt::AltModifier);
  for (const Finding& f : window_.stage(window_.current_stage()).findings())
    EXPECT_NE(f.severity, Severity::Warning) << f.title << " speaks against the default";
  QTest::mouseClick(window_.findChild<QAbstractButton*>("make"), Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().films.film().has_value(); }, 60000));
  EXPECT_EQ(session().films.film()->frames, 12);
  EXPECT_FALSE(window_.stage(3).done()) << "it was not shot here";
  EXPECT_FALSE(window_.stage(2).done());
  EXPECT_TRUE(window_.stage(4).done());
}

TEST_F(PictureFirstTest, OneWordAndReturnAreAPlan) {
  go("Ask");
  session().begin();
  window_.go_to_stage("Ask");
  auto* line = window_.findChild<QLineEdit*>("what moves");
  ASSERT_TRUE(line);
  EXPECT_TRUE(line->hasFocus()) << "no press before the word";
  QTest::keyClicks(line, "star trails");
  QTest::keyClick(line, Qt::Key_Return);
  QTest::qWait(10);
  ASSERT_TRUE(session().document.sums());
  EXPECT_FALSE(line->isVisible());
  const auto* focus = qobject_cast<SlotField*>(QApplication::focusWidget());
  ASSERT_TRUE(focus) << "the next thing to say";
  EXPECT_EQ(focus->kind(), SlotField::Kind::Proposed);
  for (const SlotField* slot : window_.findChildren<SlotField*>())
    if (slot->isVisible()) {
      EXPECT_NE(slot->kind(), SlotField::Kind::Open) << slot->objectName().toStdString();
      EXPECT_NE(slot->text(), "?");
    }
  auto* motion = window_.findChild<MotionView*>();
  QTest::keyClick(&window_, Qt::Key_Space);
  EXPECT_TRUE(motion->playing()) << "it moves";
}

TEST_F(PictureFirstTest, ANeighbourIsPressed) {
  go("Gather");
  session().playhead.set(5);
  auto* strip = window_.findChild<NeighbourStrip*>();
  QTest::mouseClick(strip, Qt::LeftButton, {}, QPoint(strip->width() - 10, 20));
  EXPECT_EQ(session().playhead.at(), 7);
  QTest::mouseClick(strip, Qt::LeftButton, {}, QPoint(strip->width() / 2 - strip->width() / 5, 20));
  EXPECT_EQ(session().playhead.at(), 6);
}

}  // namespace
}  // namespace askcount::app
