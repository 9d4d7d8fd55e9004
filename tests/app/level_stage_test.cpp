// SPDX-License-Identifier: GPL-3.0-or-later
// Level in the window: lanes dragged, anchors set, parts marked, and what the take and the picture say then.
#include <QApplication>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMouseEvent>
#include <QPushButton>
#include <QSignalSpy>
#include <QTest>
#include <QTimer>
#include <QWheelEvent>

#include "app/shell/window.h"
#include "app/stages/level/anchor_strip.h"
#include "app/stages/level/level_stage.h"
#include "app/stages/level/look_lanes.h"
#include "app/stages/level/split_view.h"
#include "app/widgets/word_tabs.h"
#include "events.h"
#include "frames.h"
#include "image/tone.h"
#include "support.h"
#include "typing.h"

namespace askcount::app {
namespace {

/// Writes `frames` JPEG frames of a grey scene whose light falls, brightness by `flicker` and a warm left
/// half.
void write_frames(const test::fs::path& card, int frames) {
  test::fs::create_directories(card);
  std::mt19937 random(4);
  std::normal_distribution<double> off(0, 0.08);
  for (int n = 0; n < frames; ++n) {
    const double gain = std::exp2(off(random) - 1.5 * n / frames);
    image::Coded8 p(image::Size{240, 160});
    for (int y = 0; y < 160; ++y)
      for (int x = 0; x < 240; ++x) {
        const double v = gain * (0.15 + 0.25 * ((x / 20 + y / 20) % 3) / 2);
        const double warm = x < 120 ? 1.25 : 1;
        for (int c = 0; c < 3; ++c)
          p.row(y)[3 * x + c] = static_cast<std::uint8_t>(
              std::lround(255 * image::code_of_linear(static_cast<float>(v * (c == 0   ? warm
                                                                              : c == 2 ? 1 / warm
                                                                                       : 1)))));
      }
    write_frame(card / fmt::format("L_{:04}.JPG", n + 1), p, 1789400000000LL + 5000LL * n);
  }
}

class LevelStageTest : public ::testing::Test {
 protected:
  void SetUp() override {
    write_frames(folder_ / "card", 60);
    take::Take take;
    take.card = "card";
    take.wish(plan::Slot::Fps, 25);
    take.film.size = {480, 320};
    take::save_take(take, folder_ / "x.askcount");
    ASSERT_TRUE(window_.open(folder_ / "x.askcount"));
    window_.resize(1280, 800);
    window_.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&window_));
    QApplication::setActiveWindow(&window_);
    for (int i = 0; i < window_.stage_count(); ++i)
      if (window_.stage_name(i) == "Level") window_.go_to(i);
    ASSERT_TRUE(QTest::qWaitFor([this] { return session().levelling.evenness().has_value(); }, 60000));
    window_.setFocus();
  }
  Session& session() { return window_.session(); }
  const std::vector<look::Anchor>& anchors() { return session().document.take().look.anchors; }
  template <typename T>
  T* child(const char* name) {
    return window_.findChild<T*>(name);
  }
  LookLanes* lanes() { return child<LookLanes>("look"); }
  /// Presses the word that adds a value of the look, as a hand does that wants its lane.
  void add(int lane) {
    if (!lanes()->lane_rect(lane).isEmpty()) return;
    const std::string name = std::string("add ") + look::lanes()[static_cast<size_t>(lane)].title;
    QTest::mouseClick(child<QAbstractButton>(name.c_str()), Qt::LeftButton);
    QTest::qWait(0);
  }
  /// Drags a lane up by this many pixels at the frame looked at.
  void drag_lane(int lane, int up) {
    add(lane);
    const QPoint from(static_cast<int>(lanes()->x_of(session().playhead.at())),
                      static_cast<int>(lanes()->lane_rect(lane).center().y()));
    QTest::mousePress(lanes(), Qt::LeftButton, {}, from);
    for (int i = 1; i <= 4; ++i) {
      QMouseEvent move(QEvent::MouseMove, from - QPoint(0, up * i / 4), lanes()->mapToGlobal(from),
                       Qt::NoButton, Qt::LeftButton, Qt::NoModifier);
      QApplication::sendEvent(lanes(), &move);
    }
    QTest::mouseRelease(lanes(), Qt::LeftButton, {}, from - QPoint(0, up));
  }
  /// Chooses an entry of the menu a press opens.
  void choose(const char* button, const QString& entry) {
    QTimer::singleShot(0, qApp, [entry] {
      for (int i = 0; i < 200 && !QApplication::activePopupWidget(); ++i) QTest::qWait(5);
      auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
      ASSERT_TRUE(menu);
      for (QAction* a : menu->actions())
        if (a->text().startsWith(entry)) {
          a->trigger();
          break;
        }
      menu->close();
    });
    QTest::mouseClick(child<QPushButton>(button), Qt::LeftButton);
  }

  test::Folder folder_;
  Window window_;
};

TEST_F(LevelStageTest, EveryLaneIsDraggedTypedTurnedAndUndone) {
  session().playhead.set(30);
  for (int lane = 0; lane < static_cast<int>(look::kLanes); ++lane) {
    const look::Lane& l = look::lanes()[static_cast<size_t>(lane)];
    drag_lane(lane, 24);
    ASSERT_EQ(anchors().size(), 1u) << l.title;
    const double dragged = anchors().front().look.*l.value;
    EXPECT_NE(dragged, l.neutral) << l.title;
    EXPECT_TRUE(dragged >= l.least && dragged <= l.most) << l.title;
    QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(anchors().empty()) << "one drag is one step: " << l.title;
  }
  EXPECT_EQ(lanes()->shown().size(), look::kLanes) << "added, they stay";
  const QPoint at(300, static_cast<int>(lanes()->lane_rect(3).center().y()));
  QWheelEvent wheel(at, lanes()->mapToGlobal(at), {}, {0, 240}, Qt::NoButton, Qt::NoModifier,
                    Qt::NoScrollPhase, false);
  QApplication::sendEvent(lanes(), &wheel);
  ASSERT_EQ(anchors().size(), 1u);
  EXPECT_NEAR(anchors().front().look.depth, 1.04, 1e-9);
  QTest::mouseDClick(lanes(), Qt::LeftButton, {},
                     QPoint(300, static_cast<int>(lanes()->lane_rect(1).center().y())));
  auto* typed = child<QLineEdit>("typed");
  ASSERT_TRUE(typed);
  typed->setText("4300 K");
  QTest::keyClick(typed, Qt::Key_Return);
  EXPECT_EQ(anchors().front().look.warmth_k, 4300);
}

TEST_F(LevelStageTest, ATypedValueOutOfRangeIsRefusedInWords) {
  QSignalSpy trouble(&session(), &Session::trouble);
  EXPECT_TRUE(lanes()->shown().empty()) << "nothing was changed";
  add(0);
  EXPECT_EQ(lanes()->shown(), std::vector<int>{0});
  EXPECT_EQ(QApplication::focusWidget(), child<SlotField>("Light")) << "ready to be typed";
  QTest::mouseDClick(lanes(), Qt::LeftButton, {},
                     QPoint(300, static_cast<int>(lanes()->lane_rect(0).center().y())));
  child<QLineEdit>("typed")->setText("9");
  QTest::keyClick(child<QLineEdit>("typed"), Qt::Key_Return);
  EXPECT_EQ(trouble.count(), 1);
  EXPECT_TRUE(anchors().empty());
}

TEST_F(LevelStageTest, AValueIsAddedTypedAndTakenAwayAsAPhrase) {
  session().playhead.set(12);
  add(0);
  auto* light = child<SlotField>("Light");
  type_into(light, "0.5");
  ASSERT_EQ(anchors().size(), 1u);
  EXPECT_EQ(anchors().front().look.light, 0.5);
  add(1);
  QTest::keyClick(child<SlotField>("Warmth"), Qt::Key_Up);
  EXPECT_EQ(lanes()->shown(), (std::vector<int>{0, 1}));
  EXPECT_GT(anchors().front().look.warmth_k, 0);
  light->setFocus();
  QTest::keyClick(light, Qt::Key_Delete);
  EXPECT_EQ(lanes()->shown(), std::vector<int>{1});
  EXPECT_EQ(anchors().front().look.light, 0);
  EXPECT_FALSE(light->isVisible());
  EXPECT_EQ(QApplication::focusWidget(), child<SlotField>("Warmth")) << "the hand is not lost";
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_TRUE(light->isVisible()) << "undone, it says it again";
  EXPECT_EQ(anchors().front().look.light, 0.5);
}

TEST_F(LevelStageTest, AnchorsAreSetWalkedAndTakenAwayByKeys) {
  session().playhead.set(10);
  QTest::keyClick(&window_, Qt::Key_A);
  drag_lane(0, 20);
  session().playhead.set(50);
  QTest::keyClick(&window_, Qt::Key_A);
  ASSERT_EQ(anchors().size(), 2u);
  EXPECT_EQ(anchors()[1].look, anchors()[0].look) << "a new anchor changes nothing yet";
  drag_lane(0, -40);
  EXPECT_LT(anchors()[1].look.light, anchors()[0].look.light);
  QTest::keyClick(&window_, Qt::Key_Comma);
  EXPECT_EQ(session().playhead.at(), 10);
  QTest::keyClick(&window_, Qt::Key_Period);
  EXPECT_EQ(session().playhead.at(), 50);
  const double between = look::look_at(session().levelling.looks(), 30).light;
  EXPECT_LT(between, anchors()[0].look.light);
  EXPECT_GT(between, anchors()[1].look.light);
  QTest::keyClick(&window_, Qt::Key_A);
  EXPECT_EQ(anchors().size(), 1u);
}

TEST_F(LevelStageTest, TheLookIsInThePictureAtOnceAndBHeldShowsItAsShot) {
  auto* split = child<SplitView>("split");
  const auto right = [&] {
    const QImage seen = split->grab().toImage();
    return seen.pixelColor(split->place().left() + split->place().width() * 9 / 10,
                           split->place().center().y());
  };
  ASSERT_TRUE(QTest::qWaitFor([&] { return split->place().width() > 0 && right().lightness() > 60; }, 10000));
  const int before = right().lightness();
  drag_lane(0, 40);  // light
  EXPECT_GT(right().lightness(), before + 10) << "drawn from what was read before, with no waiting";
  QTest::keyPress(&window_, Qt::Key_B);
  EXPECT_LT(std::abs(right().lightness() - before), 14);
  QTest::keyRelease(&window_, Qt::Key_B);
  EXPECT_GT(right().lightness(), before + 10);
}

TEST_F(LevelStageTest, ALensThatUndoesNothingLetsTheFramesReadStay) {
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().optics.undone() == take::Take().optics; }, 10000));
  run_events();  // the one that follows the gathering
  const auto before = session().optics.source();
  QSignalSpy made(&session().optics, &Optics::changed);
  session().document.edit([](take::Take& t) { t.optics.lens = "TQ 18-55 mm"; });
  ASSERT_TRUE(QTest::qWaitFor([&] { return made.count() > 0; }, 10000));
  EXPECT_EQ(session().optics.source(), before) << "nothing is read anew";
  session().document.edit([](take::Take& t) { t.optics.turn_deg = 1; });
  ASSERT_TRUE(QTest::qWaitFor([&] { return made.count() > 1; }, 10000));
  EXPECT_NE(session().optics.source(), before);
}

TEST_F(LevelStageTest, AFirstCurveComesFromGathersLookAtTheFrames) {
  auto* chart = child<QWidget>("brightness");
  const auto curve = [&] {  // columns of the plot that show a line of the curve's colour
    const QImage seen = chart->grab().toImage();
    int columns = 0;
    for (int x = seen.width() / 4; x < seen.width() * 3 / 4; ++x)
      for (int y = 6; y < seen.height() - 70; ++y)
        if (seen.pixelColor(x, y).lightness() > 90) {
          ++columns;
          break;
        }
    return columns;
  };
  const auto unmeasure = [&](const image::Size& size) {
    session().document.edit([&](take::Take& t) { t.film.size = size; });
    ASSERT_FALSE(session().levelling.evenness().has_value()) << "another shape is measured anew";
  };
  unmeasure({480, 240});
  const int without = curve();
  session().looking.start();
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().looking.complete(); }, 60000));
  if (session().levelling.evenness()) unmeasure({480, 200});
  EXPECT_GT(curve(), without + 200);
}

TEST_F(LevelStageTest, APickedWhiteIsGreyAfterwards) {
  auto* split = child<SplitView>("split");
  ASSERT_TRUE(QTest::qWaitFor([&] { return split->place().width() > 0; }, 10000));
  QTest::mouseClick(child<QPushButton>("pick"), Qt::LeftButton);
  EXPECT_EQ(split->drag(), SplitView::Drag::Pick);
  const QRect at = split->place();
  QTest::mouseClick(split, Qt::LeftButton, {}, QPoint(at.left() + at.width() / 4, at.center().y()));
  ASSERT_EQ(anchors().size(), 1u);
  // The left half is warm by 1.25 and 1 ÷ 1.25: what makes that grey is a lamp's light.
  EXPECT_LT(anchors().front().look.warmth_k, 4900);
  EXPECT_GT(anchors().front().look.warmth_k, 3500);
  EXPECT_EQ(split->drag(), SplitView::Drag::Split);
}

TEST_F(LevelStageTest, PartsAreMeasuredAndTheCurveFollows) {
  auto* split = child<SplitView>("split");
  ASSERT_TRUE(QTest::qWaitFor([&] { return split->place().width() > 0; }, 10000));
  const double before = session().levelling.evenness()->frames[5].as_shot;
  choose("parts", "Only a box");
  ASSERT_EQ(split->drag(), SplitView::Drag::Box);
  const QRect at = split->place();
  QTest::mousePress(split, Qt::LeftButton, {}, at.topLeft() + QPoint(2, 2));
  QMouseEvent move(QEvent::MouseMove, at.topLeft() + QPoint(at.width() / 4, at.height() / 4),
                   split->mapToGlobal(at.center()), Qt::NoButton, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(split, &move);
  QTest::mouseRelease(split, Qt::LeftButton, {}, at.topLeft() + QPoint(at.width() / 4, at.height() / 4));
  EXPECT_GE(session().document.take().level.measured.size(), 12u);
  EXPECT_LE(session().document.take().level.measured.size(), 20u);
  EXPECT_TRUE(QTest::qWaitFor(
      [&] { return std::abs(session().levelling.evenness()->frames[5].as_shot - before) > 1e-6; }, 10000));
  choose("parts", "All of the picture");
  EXPECT_TRUE(session().document.take().level.measured.empty());
}

TEST_F(LevelStageTest, SuggestedAnchorsCoverAFallOfLight) {
  auto* strip = child<AnchorStrip>("anchors");
  EXPECT_TRUE(strip->offers());
  const auto offered = strip->shown();
  ASSERT_GE(offered.size(), 2u);
  choose("looks", "Anchors where the light changes most");
  ASSERT_EQ(anchors().size(), offered.size());
  for (size_t i = 0; i < offered.size(); ++i) EXPECT_EQ(anchors()[i].frame, offered[i]);
  EXPECT_FALSE(strip->offers());
  choose("looks", "Remove all anchors");
  EXPECT_TRUE(anchors().empty());
}

TEST_F(LevelStageTest, ALookIsCopiedToAnotherFrame) {
  session().playhead.set(5);
  drag_lane(7, 30);  // colour
  choose("looks", "Copy this look");
  session().playhead.set(40);
  choose("looks", "Paste the copied look here");
  ASSERT_EQ(anchors().size(), 2u);
  EXPECT_EQ(anchors()[0].look, anchors()[1].look);
}

/// The slot of the lens's sentence that is called so.
SlotField* slot(Window& window, const QString& name) {
  for (SlotField* s : window.findChildren<SlotField*>())
    if (s->accessibleName().contains(name)) return s;
  return nullptr;
}

TEST_F(LevelStageTest, AHorizonIsTurnedAndItIsMeasuredAnew) {
  auto* tabs = child<WordTabs>("level pages");
  ASSERT_TRUE(tabs);
  QTest::mouseClick(tabs, Qt::LeftButton, {}, QPoint(tabs->width() > 200 ? 120 : 60, tabs->height() / 2));
  ASSERT_EQ(tabs->chosen(), 1);
  EXPECT_FALSE(child<SlotField>("Light")->isVisible());
  auto* split = child<SplitView>("split");
  ASSERT_TRUE(QTest::qWaitFor([&] { return split->place().width() > 0; }, 10000));
  const QImage before = split->grab().toImage();
  SlotField* turn = slot(window_, "degrees clockwise");
  ASSERT_TRUE(turn);
  turn->setFocus();
  for (int i = 0; i < 20; ++i) QTest::keyClick(turn, Qt::Key_Up);
  EXPECT_GE(session().document.take().optics.turn_deg, 1.9);
  EXPECT_TRUE(QTest::qWaitFor([&] { return split->grab().toImage() != before; }, 10000));
  EXPECT_TRUE(session().levelling.stale() || session().levelling.evenness());
  EXPECT_TRUE(QTest::qWaitFor([&] { return !session().levelling.stale(); }, 20000));
  // Typed below nothing it turns the other way.
  QTest::keyClick(turn, '-');
  QTest::keyClicks(qApp->focusWidget(), "3");
  QTest::keyClick(qApp->focusWidget(), Qt::Key_Return);
  EXPECT_EQ(session().document.take().optics.turn_deg, -3);
}

TEST_F(LevelStageTest, RingsOfDustAreFoundTakenAwayAndPut) {
  auto* tabs = child<WordTabs>("level pages");
  tabs->choose(1);
  auto* split = child<SplitView>("split");
  ASSERT_EQ(split->drag(), SplitView::Drag::Rings);
  ASSERT_TRUE(QTest::qWaitFor([&] { return split->place().width() > 0; }, 10000));
  const QPoint at = split->place().center() + QPoint(40, 20);
  QTest::mouseClick(split, Qt::LeftButton, {}, at);
  ASSERT_EQ(session().document.take().optics.spots.size(), 1u);
  const optics::Spot spot = session().document.take().optics.spots.front();
  EXPECT_GT(spot.x, 0.5);
  EXPECT_LT(spot.x, 0.8);
  ASSERT_TRUE(QTest::qWaitFor([&] {
    return session().optics.source()->shown_at(0.5, 0.5, {240, 160})[0] > 0;
  }));
  QTest::mouseClick(split, Qt::LeftButton, {}, at + QPoint(1, 1));
  EXPECT_TRUE(session().document.take().optics.spots.empty());
  auto* find = child<QPushButton>("find_spots");
  ASSERT_TRUE(find);
  ASSERT_TRUE(QTest::qWaitFor([&] { return find->isEnabled(); }, 20000));
  QTest::mouseClick(find, Qt::LeftButton);
  EXPECT_TRUE(QTest::qWaitFor([&] { return session().document.take().optics.looked; }, 30000));
  EXPECT_TRUE(child<QLabel>("found")->text().contains("of dust"));
  window_.setFocus();
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_FALSE(session().document.take().optics.looked);
}

TEST_F(LevelStageTest, ALensThatIsNotKnownIsSaidAndNothingIsUndone) {
  child<WordTabs>("level pages")->choose(1);
  EXPECT_TRUE(child<QLabel>("lens_record")->text().contains("do not record their lens"));
  QSignalSpy trouble(&session(), &Session::trouble);
  session().document.edit([](take::Take& t) { t.optics.by = optics::By::Record; });
  EXPECT_TRUE(QTest::qWaitFor([&] { return !trouble.isEmpty(); }, 10000));
  EXPECT_TRUE(trouble.front().front().toString().contains("focal length"));
  EXPECT_FALSE(session().levelling.stale());
}

TEST_F(LevelStageTest, TheFilmHasTheLookOfThePicture) {
  drag_lane(0, -30);
  const double light = anchors().front().look.light;
  ASSERT_LT(light, -0.5);
  session().films.make();
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().films.film().has_value(); }, 60000));
  media::FilmReader film(session().films.file());
  const double seen = level::measure_frame(*film.next(), {}).stops();
  EXPECT_NEAR(seen, session().levelling.evenness()->after.front() + light, 0.1);
}

}  // namespace
}  // namespace askcount::app
