// SPDX-License-Identifier: GPL-3.0-or-later
// Cut, driven with mouse and keys: the preview, the view on the frame, the lanes, several films.
#include <QAbstractButton>
#include <QApplication>
#include <QLineEdit>
#include <QPushButton>
#include <thread>

#include "app/shell/window.h"
#include "app/stages/cut/film_lanes.h"
#include "app/stages/cut/preview_player.h"
#include "app/stages/cut/view_pane.h"
#include "app/widgets/sentence.h"
#include "app/widgets/word_tabs.h"
#include "events.h"
#include "image/lettering.h"
#include "media/reader.h"
#include "support.h"
#include "typing.h"

namespace askcount::app {
namespace {

class CutStageTest : public ::testing::Test {
 protected:
  void SetUp() override {
    take::Take take = test::small_take(40, {240, 160});
    take.film.size = {192, 108};
    take.card = "card";
    take::save_take(take, folder_ / "small.askcount");
    simulate::shoot(forecast::shoot_order(take, folder_ / "card"));
    ASSERT_TRUE(window_.open(folder_ / "small.askcount"));
    window_.resize(1280, 800);
    window_.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&window_));
    QApplication::setActiveWindow(&window_);
    session().frames.gather();
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return session().frames.gathered().has_value() && !session().job.running(); }, 60000));
    while (window_.stage_name(window_.current_stage()) != "Cut") window_.go_to(window_.current_stage() + 1);
    ASSERT_TRUE(QTest::qWaitFor([&] { return preview()->shown() >= 0; }, 20000));
  }

  Session& session() { return window_.session(); }
  const take::FilmWish& film() { return session().films.wish(); }
  template <typename T>
  T* child(const char* name) {
    return window_.findChild<T*>(name);
  }
  PreviewPlayer* preview() { return child<PreviewPlayer>("preview"); }
  ViewPane* view() { return child<ViewPane>("view"); }
  FilmLanes* lanes() { return child<FilmLanes>("film lanes"); }
  /// Presses a word that the sentence could say besides.
  void add(const char* word) {
    QTest::mouseClick(child<QAbstractButton>((std::string("add ") + word).c_str()), Qt::LeftButton);
    QTest::qWait(0);
  }
  void show_face(int face) { child<WordTabs>("cut pages")->choose(face); }

  static void drag(QWidget* on, const QPoint& from, const QPoint& by, Qt::MouseButton with = Qt::LeftButton) {
    QTest::mousePress(on, with, {}, from);
    for (int n = 1; n <= 5; ++n) {
      QMouseEvent move(QEvent::MouseMove, QPointF(from + by * n / 5),
                       on->mapToGlobal(QPointF(from + by * n / 5)), Qt::NoButton, with, {});
      QApplication::sendEvent(on, &move);
    }
    QTest::mouseRelease(on, with, {}, from + by);
  }

  test::Folder folder_;
  Window window_;
};

TEST_F(CutStageTest, ThePreviewPlaysWithNothingRendered) {
  QTest::keyClick(&window_, Qt::Key_Space);
  ASSERT_TRUE(preview()->playing());
  const long long began = preview()->frame();
  std::set<long long> seen;
  QObject::connect(preview(), &PreviewPlayer::moved, preview(), [&] { seen.insert(preview()->shown()); });
  ASSERT_TRUE(QTest::qWaitFor([&] { return seen.size() > 12; }, 20000));
  EXPECT_NE(preview()->frame(), began);
  EXPECT_TRUE(preview()->isVisible()) << "the film's own face";
  EXPECT_EQ(session().playhead.at(), session().films.take_frame(preview()->frame())) << "the span follows";
  QTest::keyClick(&window_, Qt::Key_Space);
  EXPECT_FALSE(preview()->playing());
  EXPECT_FALSE(test::fs::exists(folder_ / "small.mp4"));
  // Once all is in memory it is all sharp, and levelled from what was read anyway.
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().levelling.evenness().has_value(); }, 20000));
  ASSERT_TRUE(QTest::qWaitFor([&] { return preview()->known() == render::Known::Whole; }, 20000));
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().preview.words().isEmpty(); }, 20000))
      << session().preview.words().toStdString();
  // It follows the playhead wherever that is moved.
  session().playhead.set(31);
  EXPECT_TRUE(QTest::qWaitFor([&] { return preview()->shown() == 31; }, 10000));
}

TEST_F(CutStageTest, ThePreviewShowsWhatIsWished) {
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().preview.words().isEmpty(); }, 20000));
  const auto grabbed = [&] { return preview()->grab().toImage(); };
  show_face(1);
  session().playhead.set(20);
  ASSERT_TRUE(QTest::qWaitFor([&] { return preview()->shown() == 20; }, 10000));
  run_events();
  const QImage before = grabbed();
  EXPECT_FALSE(child<SlotField>("a line of text")->isVisible()) << "nobody said any";
  add("title");
  type_into(child<SlotField>("a line of text"), "Trench four");
  EXPECT_EQ(film().written.text, "Trench four");
  ASSERT_TRUE(QTest::qWaitFor([&] { return grabbed() != before; }, 10000));
  const QImage written = grabbed();
  type_into(child<SlotField>("size of the film"), "108x192");
  EXPECT_EQ(film().size, (image::Size{108, 192}));
  ASSERT_TRUE(QTest::qWaitFor([&] { return grabbed() != written; }, 10000));
  EXPECT_LT(preview()->picture_rect().width(), preview()->picture_rect().height());
  // What cannot be is said, and the picture stays.
  type_into(child<SlotField>("size of the film"), "9000x9000");
  EXPECT_EQ(film().size, (image::Size{108, 192}));
  add("sound");
  type_into(child<SlotField>("sound"), "no-such.wav");
  EXPECT_TRUE(film().sound.empty());
  EXPECT_TRUE(session().preview.now());
}

TEST_F(CutStageTest, TheViewIsDraggedAndMoves) {
  ASSERT_TRUE(session().preview.now());
  EXPECT_TRUE(film().views.empty());
  session().playhead.set(0);
  const QPoint middle = view()->picture_rect().center();
  view()->setFocus();
  for (int n = 0; n < 12; ++n) QTest::keyClick(view(), Qt::Key_Minus);
  ASSERT_EQ(film().views.size(), 1u);
  const double width = film().views[0].view.width;
  EXPECT_NEAR(width, std::pow(1.03, -12), 0.01);
  drag(view(), middle, {20, 6});
  ASSERT_EQ(film().views.size(), 1u);
  EXPECT_NEAR(film().views[0].view.x, 0.5 + 20.0 / view()->picture_rect().width(), 0.01);
  // At another moment it is another anchor: the view moves, eased.
  session().playhead.set(30);
  drag(view(), middle + QPoint(20, 6), {-40, 0});
  QTest::keyClick(view(), Qt::Key_Minus);
  ASSERT_EQ(film().views.size(), 2u);
  EXPECT_NEAR(film().views[1].at_s, 30 / 25.0, 1e-6);
  EXPECT_LT(film().views[1].view.x, 0.5);
  EXPECT_LT(film().views[1].view.width, width);
  EXPECT_EQ(child<SlotField>("the part of the frame")->text(), "moving");
  // A corner makes it wider or narrower; the right button turns it.
  const QPointF corner = view()->outline()[2];
  drag(view(), corner.toPoint(), {-12, -7});
  EXPECT_LT(film().views[1].view.width, 0.95 * width);
  drag(view(), view()->outline()[1].toPoint() + QPoint(-14, 6), {0, 12}, Qt::RightButton);
  EXPECT_GT(film().views[1].view.turn_deg, 0.5);
  for (const QPointF& at : view()->outline())
    EXPECT_TRUE(QRectF(view()->picture_rect()).adjusted(-2, -2, 2, 2).contains(at));
  const auto before = film().views;
  QTest::keyClick(view(), Qt::Key_Left);
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(film().views, before);
  QTest::keyClick(view(), Qt::Key_Delete);
  EXPECT_EQ(film().views.size(), 1u);
  QTest::keyClick(view(), Qt::Key_Backspace);
  EXPECT_TRUE(film().views.empty());
}

TEST_F(CutStageTest, LanesChangeWhatGoesOnOverTheFilm) {
  ASSERT_TRUE(session().preview.now());
  const auto at = [&](int lane, double s) {
    return QPoint(static_cast<int>(lanes()->x_of(s)),
                  static_cast<int>(lanes()->lane_rect(lane).center().y()));
  };
  EXPECT_TRUE(lanes()->lane_rect(FilmLanes::Speed).isEmpty()) << "nothing was said of its speed";
  add("speed");
  EXPECT_EQ(QApplication::focusWidget(), child<SlotField>("how fast it goes"));
  // Across: through the film. Up: faster, for all of it first.
  drag(lanes(), at(FilmLanes::Speed, 0.4), {60, 1});
  EXPECT_GT(preview()->frame(), 11);
  EXPECT_TRUE(film().choice.speed.empty());
  drag(lanes(), at(FilmLanes::Speed, 0.8), {0, -15});
  ASSERT_EQ(film().choice.speed.size(), 1u);
  EXPECT_NEAR(film().choice.speed[0].times, 2, 0.15);
  EXPECT_LT(session().films.timeline()->frames(), 23u);
  // At another moment it becomes a curve, whose anchors can be typed, moved and taken away.
  QTest::mouseDClick(lanes(), Qt::LeftButton, {}, at(FilmLanes::Speed, 0.4));
  auto* typed = lanes()->findChild<QLineEdit*>("typed");
  ASSERT_TRUE(typed);
  typed->setText("0.5");
  QTest::keyClick(typed, Qt::Key_Return);
  ASSERT_EQ(film().choice.speed.size(), 2u);
  EXPECT_DOUBLE_EQ(film().choice.speed[0].times, 0.5);
  EXPECT_EQ(child<SlotField>("how fast it goes")->text(), "along a curve");
  const double was = film().choice.speed[0].at_s;
  drag(lanes(), at(FilmLanes::Speed, was), {70, 0});
  EXPECT_GT(film().choice.speed[0].at_s, was + 0.05);
  lanes()->setFocus();
  QTest::keyClick(lanes(), Qt::Key_Delete);
  EXPECT_EQ(film().choice.speed.size(), 1u);
  // Trails step by keys; fades are drawn out from the ends.
  add("trails");
  EXPECT_EQ(film().choice.trail, 4);
  lanes()->setFocus();
  QTest::keyClick(lanes(), Qt::Key_Down);
  EXPECT_EQ(lanes()->chosen(), FilmLanes::Trail);
  QTest::keyClick(lanes(), Qt::Key_Plus);
  EXPECT_EQ(film().choice.trail, 5);
  EXPECT_EQ(child<SlotField>("length of the trails")->text(), "of 5 frames");
  add("fade out");
  type_into(child<SlotField>("fade out"), "0");
  add("fade in");
  drag(lanes(), at(FilmLanes::Fade, 0), {lanes()->width() / 4, 0});
  EXPECT_GT(film().fade_in_s, 0.1);
  EXPECT_EQ(film().fade_out_s, 0);
  EXPECT_NE(child<SlotField>("fade in")->text(), "0 s");
  // Taken away, its lane goes too.
  child<SlotField>("fade in")->setFocus();
  QTest::keyClick(child<SlotField>("fade in"), Qt::Key_Delete);
  EXPECT_EQ(film().fade_in_s, 0);
  EXPECT_TRUE(lanes()->lane_rect(FilmLanes::Fade).isEmpty());
}

TEST_F(CutStageTest, ThreeFilmsOfOneTake) {
  QTest::mouseClick(child<QPushButton>("another film"), Qt::LeftButton);
  type_into(child<SlotField>("size of the film"), "108 x 192");
  type_into(child<SlotField>("last frame"), "20");
  QTest::mouseClick(child<QPushButton>("another film"), Qt::LeftButton);
  EXPECT_EQ(session().films.count(), 3);
  add("backwards");
  EXPECT_EQ(film().choice.way, render::Way::Backward);
  type_into(child<SlotField>("frame rate of the film"), "50");
  EXPECT_EQ(child<SlotField>("length of the film")->text(), "0.4 s") << "20 frames at 50 fps";
  const Findings findings = window_.stage(window_.current_stage()).findings();
  EXPECT_TRUE(std::any_of(findings.begin(), findings.end(), [](const Finding& f) {
    return f.code == "other_rate";
  })) << "said loudly";
  auto* make = child<QPushButton>("make");
  EXPECT_EQ(make->text(), "Make all 3 films");
  QTest::mouseClick(make, Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().films.film().has_value(); }, 60000));
  EXPECT_EQ(media::read_film(folder_ / "small.mp4").frames, 40);
  EXPECT_EQ(media::read_film(folder_ / "small 2.mp4").size, (image::Size{108, 192}));
  EXPECT_EQ(media::read_film(folder_ / "small 3.mp4").frames, 20);
  EXPECT_NEAR(media::read_film(folder_ / "small 3.mp4").fps.value(), 50, 1e-6);
}

/// Letters drawn beside Qt, which has the same fonts loaded, are letters and not boxes of one width.
TEST_F(CutStageTest, WhatIsWrittenInIsLetters) {
  EXPECT_LT(image::lettered("iiiiiiii", 30, 2000).width, 0.6 * image::lettered("WWWWWWWW", 30, 2000).width);
  std::jthread([] {
    EXPECT_LT(image::lettered("iiiiiiii", 30, 2000).width, 0.6 * image::lettered("WWWWWWWW", 30, 2000).width);
  }).join();
}

TEST_F(CutStageTest, SaysWhatItWillTakeAndMakesOneStill) {
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().estimating.now().has_value(); }, 60000));
  EXPECT_TRUE(session().estimating.words().startsWith("about "))
      << session().estimating.words().toStdString();
  EXPECT_FALSE(test::fs::exists(folder_ / "small.mp4"));
  const double bytes = session().estimating.now()->bytes.at(0);
  add("quality");
  QTest::keyClick(child<SlotField>("quality, lower is better"), Qt::Key_Up);
  EXPECT_FALSE(session().estimating.now()) << "of another film";
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  QTest::mouseClick(child<QPushButton>("make still"), Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return test::fs::exists(folder_ / "small still.png"); }, 30000));
  QTest::mouseClick(child<QPushButton>("make"), Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().films.finished().has_value(); }, 60000));
  EXPECT_NEAR(bytes / static_cast<double>(session().films.finished()->check.bytes), 1, 0.2);
  EXPECT_NE(child<QLabel>("film state")->text().indexOf("made in"), -1);
}

}  // namespace
}  // namespace askcount::app
