// SPDX-License-Identifier: GPL-3.0-or-later
// The axes that hands drag on: the span with its two clocks, the ruler of intervals, and the sentence.
#include <QApplication>
#include <QLineEdit>
#include <QTest>

#include "app/shell/window.h"
#include "app/span/span.h"
#include "app/stages/ask/interval_ruler.h"
#include "app/style/style.h"
#include "app/widgets/sentence.h"
#include "support.h"

namespace askcount::app {
namespace {

using plan::Slot;

class AxesTest : public ::testing::Test {
 protected:
  void SetUp() override {
    save_take(test::small_take(250, {240, 160}), folder_ / "small.askcount");
    ASSERT_TRUE(window_.open(folder_ / "small.askcount"));
    window_.resize(1280, 800);
    window_.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&window_));
    QApplication::setActiveWindow(&window_);
  }

  Session& session() { return window_.session(); }
  const plan::Sums& sums() { return *session().document.sums(); }
  SlotField* slot(Slot s) {
    return window_.findChild<SlotField*>(QString::fromStdString(plan::slot_name(s)));
  }
  static void drag(QWidget* on, const QPoint& from, const QPoint& to, int steps = 5) {
    QTest::mousePress(on, Qt::LeftButton, {}, from);
    for (int i = 1; i <= steps; ++i) {
      QMouseEvent move(QEvent::MouseMove, QPointF(from + (to - from) * i / steps),
                       on->mapToGlobal(QPointF(from + (to - from) * i / steps)), Qt::NoButton, Qt::LeftButton,
                       Qt::NoModifier);
      QApplication::sendEvent(on, &move);
    }
    QTest::mouseRelease(on, Qt::LeftButton, {}, to);
  }
  /// Where the line of the frame that is looked at crosses a height of the span; below 0 where there is none.
  double here_at(int y) {
    const QImage image = window_.findChild<Span*>()->grab().toImage().convertToFormat(QImage::Format_RGB32);
    const QColor want = colours().here;
    double sum = 0, count = 0;
    for (int x = 90; x < image.width(); ++x) {
      const QColor is = image.pixelColor(x, y);
      if (std::abs(is.red() - want.red()) + std::abs(is.green() - want.green()) +
              std::abs(is.blue() - want.blue()) <
          40)
        sum += x, count += 1;
    }
    return count > 0 ? sum / count : -1;
  }

  test::Folder folder_;
  Window window_;
};

TEST_F(AxesTest, TheFilmClockIsScrubbedFromItsFirstFrameToItsLast) {
  auto* span = window_.findChild<Span*>();
  const int film = 88;
  drag(span, {0, film}, {2, film});
  EXPECT_EQ(session().playhead.at(), 0) << "before the film is its first frame";
  const double first = here_at(film);
  drag(span, {span->width() - 1, film}, {span->width() - 2, film});
  EXPECT_EQ(session().playhead.at(), 249) << "behind it its last";
  const double last = here_at(film);
  ASSERT_GT(first, 90);
  ASSERT_GT(last, first + 100);
  // A quarter of the way between the two is a quarter of the frames.
  QTest::mouseClick(span, Qt::LeftButton, {}, QPoint(static_cast<int>(first + (last - first) / 4), film));
  EXPECT_NEAR(static_cast<double>(session().playhead.at()), 62, 2);
  // What is pressed is where the line is drawn, wherever that is.
  for (const double share : {0.1, 0.5, 0.83}) {
    const int x = static_cast<int>(first + (last - first) * share);
    drag(span, {static_cast<int>(first), film}, {x, film});
    EXPECT_NEAR(here_at(film), x, 2) << share;
  }
}

TEST_F(AxesTest, TheFieldClockAndTheFilmClockTellOfTheSameFrame) {
  auto* span = window_.findChild<Span*>();
  const int field = 31, film = 88;
  drag(span, {0, field}, {1, field});
  EXPECT_EQ(session().playhead.at(), 0);
  const double first = here_at(field - 8);
  drag(span, {span->width() - 1, field}, {span->width() - 1, field});
  EXPECT_EQ(session().playhead.at(), 249);
  const double last = here_at(field - 8);
  ASSERT_GT(last, first + 300);
  for (const double share : {0.25, 0.6}) {
    const int x = static_cast<int>(first + (last - first) * share);
    QTest::mouseClick(span, Qt::LeftButton, {}, QPoint(x, field));
    const long long frame = session().playhead.at();
    EXPECT_NEAR(static_cast<double>(frame), 249 * share, 1) << share;
    EXPECT_NEAR(here_at(field - 8), x, 3) << share;
    // Pressed again where its film end is drawn it is the same frame, or its neighbour.
    QTest::mouseClick(span, Qt::LeftButton, {}, QPoint(static_cast<int>(here_at(film)), film));
    EXPECT_NEAR(static_cast<double>(session().playhead.at()), static_cast<double>(frame), 1) << share;
  }
  // The right button scrubs nothing.
  const long long before = session().playhead.at();
  QMouseEvent move(QEvent::MouseMove, QPointF(300, field), span->mapToGlobal(QPointF(300, field)),
                   Qt::NoButton, Qt::RightButton, Qt::NoModifier);
  QApplication::sendEvent(span, &move);
  EXPECT_EQ(session().playhead.at(), before);
}

TEST_F(AxesTest, TheSpanFollowsTheSentence) {
  auto* span = window_.findChild<Span*>();
  QTest::mouseClick(span, Qt::LeftButton, {}, QPoint(span->width() - 1, 88));
  EXPECT_EQ(session().playhead.at(), 249);
  session().document.edit([](take::Take& t) { t.wish(Slot::Frames, 100); });
  EXPECT_LE(session().playhead.at(), 99) << "there is no frame behind the last";
  QTest::mouseClick(span, Qt::LeftButton, {}, QPoint(span->width() - 1, 88));
  EXPECT_EQ(session().playhead.at(), 99);
  // With too few wishes there is nothing to scrub, and nothing breaks.
  session().document.edit([](take::Take& t) {
    t.wishes.clear();
    t.subject.clear();
  });
  const long long before = session().playhead.at();
  QTest::mouseClick(span, Qt::LeftButton, {}, QPoint(500, 88));
  EXPECT_EQ(session().playhead.at(), before);
}

TEST_F(AxesTest, TheRulerTakesTheIntervalUnderTheHand) {
  auto* ruler = window_.findChild<IntervalRuler*>();
  ASSERT_TRUE(ruler && ruler->isVisible());
  const auto x_of = [&](double interval) {  // the ruler is logarithmic from 0.5 s to an hour, 28 pixels in
    return static_cast<int>(28 + std::log(interval / 0.5) / std::log(3600 / 0.5) * (ruler->width() - 56));
  };
  for (const double wanted : {2.0, 12.0, 45.0, 600.0}) {
    drag(ruler, {x_of(sums().interval_s), 45}, {x_of(wanted), 45});
    EXPECT_NEAR(sums().interval_s, wanted, 0.04 * wanted + 0.25) << wanted;
    // Only what a timer can be told: halves below ten seconds, whole ones, fives, half minutes.
    const double unit = wanted < 10 ? 0.5 : wanted < 60 ? 1 : wanted < 300 ? 5 : 30;
    EXPECT_NEAR(std::remainder(sums().interval_s, unit), 0, 1e-9) << wanted;
  }
  drag(ruler, {400, 45}, {-200, 45});
  EXPECT_DOUBLE_EQ(sums().interval_s, 0.5) << "never shorter than the ruler";
  drag(ruler, {400, 45}, {ruler->width() + 200, 45});
  EXPECT_DOUBLE_EQ(sums().interval_s, 3600);
}

TEST_F(AxesTest, ADragIsOneStepBack) {
  auto* ruler = window_.findChild<IntervalRuler*>();
  const double began = sums().interval_s;
  drag(ruler, {200, 45}, {500, 45}, 12);
  EXPECT_NE(sums().interval_s, began);
  session().document.undo();
  EXPECT_DOUBLE_EQ(sums().interval_s, began);
  // Keys take a step each.
  ruler->setFocus();
  QTest::keyClick(ruler, Qt::Key_Up);
  QTest::keyClick(ruler, Qt::Key_Up);
  EXPECT_DOUBLE_EQ(sums().interval_s, began + 2);
  QTest::keyClick(ruler, Qt::Key_Down);
  EXPECT_DOUBLE_EQ(sums().interval_s, began + 1);
  session().document.undo();
  session().document.undo();
  EXPECT_DOUBLE_EQ(sums().interval_s, began + 1);
}

TEST_F(AxesTest, ASlotIsTypedIntoLeftAndCalledBackByKeys) {
  SlotField* interval = slot(Slot::Interval);
  interval->setFocus();
  QTest::keyClick(interval, Qt::Key_3);  // a number begins the typing
  auto* editor = interval->findChild<QLineEdit*>();
  ASSERT_TRUE(editor);
  EXPECT_EQ(editor->text(), "3");
  QTest::keyClicks(editor, "0 s");
  QTest::keyClick(editor, Qt::Key_Tab);  // leaving keeps it
  EXPECT_DOUBLE_EQ(sums().interval_s, 30);
  // What cannot be read is said, and what was stays.
  interval->setFocus();
  QTest::keyClick(interval, Qt::Key_9);
  editor = interval->findChild<QLineEdit*>();
  ASSERT_TRUE(editor);
  QTest::keyClicks(editor, "9 bananas");
  QTest::keyClick(editor, Qt::Key_Return);
  EXPECT_DOUBLE_EQ(sums().interval_s, 30);
  EXPECT_EQ(interval->text(), "30 s");
  // Pinned by the right button, and released by it.
  EXPECT_FALSE(session().document.take().wished(Slot::Interval)->pinned);
  QTest::mouseClick(interval, Qt::RightButton);
  EXPECT_TRUE(session().document.take().wished(Slot::Interval)->pinned);
  QTest::mouseClick(interval, Qt::RightButton);
  EXPECT_FALSE(session().document.take().wished(Slot::Interval)->pinned);
}

TEST_F(AxesTest, TheSentenceFlowsOverAsManyLinesAsItNeeds) {
  auto* sentence = window_.stage(0).findChild<Sentence*>();
  ASSERT_TRUE(sentence);
  const int wide = sentence->heightForWidth(1200), narrow = sentence->heightForWidth(500);
  EXPECT_GT(narrow, wide + 20);
  for (const int width : {1280, 1100, 1500}) {
    window_.resize(width, 800);
    QApplication::processEvents();
    // No slot over another, none out of the sentence.
    auto slots_in = sentence->findChildren<SlotField*>();
    slots_in.removeIf([](const SlotField* s) { return s->isHidden(); });  // of phrases that are not there
    for (int i = 0; i < slots_in.size(); ++i) {
      EXPECT_TRUE(sentence->rect().contains(slots_in[i]->geometry()))
          << slots_in[i]->objectName().toStdString();
      for (int k = 0; k < i; ++k)
        EXPECT_FALSE(slots_in[i]->geometry().intersects(slots_in[k]->geometry()))
            << slots_in[i]->objectName().toStdString() << " over " << slots_in[k]->objectName().toStdString();
    }
  }
}

}  // namespace
}  // namespace askcount::app
