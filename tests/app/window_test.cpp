// SPDX-License-Identifier: GPL-3.0-or-later
// The real window, driven with clicks and keys.
#include "app/shell/window.h"

#include <QApplication>
#include <QFontInfo>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QTest>

#include "app/stages/cut/film_player.h"
#include "app/widgets/sentence.h"
#include "events.h"
#include "support.h"

namespace askcount::app {
namespace {

using plan::Slot;

class WindowTest : public ::testing::Test {
 protected:
  void SetUp() override {
    take::Take take = test::small_take(30, {240, 160});
    take.wish(Slot::ScreenCrossing, 4);
    save_take(take, file());
    ASSERT_TRUE(window_.open(file()));
    window_.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&window_));
    QApplication::setActiveWindow(&window_);  // a display without a window manager gives no focus by itself
  }

  test::fs::path file() const { return folder_ / "small.askcount"; }
  Session& session() { return window_.session(); }
  const plan::Sums& sums() { return *session().document.sums(); }
  SlotField* slot(Slot s) {
    return window_.findChild<SlotField*>(QString::fromStdString(plan::slot_name(s)));
  }
  template <typename T>
  T* child(const char* name) {
    return window_.findChild<T*>(name);
  }

  /// Clicks a slot, types and ends with a key, as a hand does.
  void type(SlotField* field, const QString& text, Qt::Key end = Qt::Key_Return) {
    QTest::mouseClick(field, Qt::LeftButton);
    QWidget* editor = field->findChild<QLineEdit*>();
    ASSERT_TRUE(editor);
    QTest::keyClicks(editor, text);
    QTest::keyClick(editor, end);
  }
  void press(const QString& words) {
    for (QPushButton* button : window_.findChildren<QPushButton*>())
      if (button->text() == words && button->isVisible()) return QTest::mouseClick(button, Qt::LeftButton);
    FAIL() << "no button " << words.toStdString();
  }
  bool wait_for_work(int ms = 120000) {
    return QTest::qWaitFor([this] { return !session().job.running(); }, ms);
  }
  QImage picture(QWidget* of) { return of->grab().toImage(); }
  Span* span() { return window_.findChild<Span*>(); }

  test::Folder folder_;
  Window window_;
};

TEST_F(WindowTest, EditsTheSentenceInPlace) {
  const QImage before = picture(span());
  type(slot(Slot::Interval), "12 s");
  EXPECT_DOUBLE_EQ(sums().interval_s, 12);
  EXPECT_EQ(slot(Slot::Interval)->text(), "12 s");
  EXPECT_NE(picture(span()), before) << "the threads must move at once";
  type(slot(Slot::Clip), "2:00");
  EXPECT_EQ(sums().frames, 3000);
  type(slot(Slot::Shutter), "1/8");
  EXPECT_NEAR(sums().trail, 0.125 / 12, 1e-9);
  // Escape leaves it as it was.
  type(slot(Slot::Clip), "99 s", Qt::Key_Escape);
  EXPECT_EQ(sums().frames, 3000);
}

TEST_F(WindowTest, StepsSlotsByKeysAndWheel) {
  slot(Slot::Trail)->setFocus();
  QTest::keyClick(slot(Slot::Trail), Qt::Key_Up);
  EXPECT_NEAR(sums().trail, 0.25, 1e-9);
  QTest::keyClick(slot(Slot::Fps), Qt::Key_Down);
  EXPECT_DOUBLE_EQ(sums().fps.value(), 24);
  QWheelEvent wheel(QPointF(5, 5), slot(Slot::Interval)->mapToGlobal(QPointF(5, 5)), {}, {0, 120},
                    Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
  QApplication::sendEvent(slot(Slot::Interval), &wheel);
  EXPECT_DOUBLE_EQ(sums().interval_s, 21);
  // Tab goes through every slot of the sentence.
  slot(Slot::Clip)->setFocus();
  QStringList seen;
  for (int i = 0; i < 16; ++i) {
    seen << QApplication::focusWidget()->objectName();
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_Tab);
  }
  for (const Slot s :
       {Slot::Clip, Slot::Fps, Slot::FieldCrossing, Slot::ScreenCrossing, Slot::Trail, Slot::Frames,
        Slot::Interval, Slot::Shutter, Slot::Gap, Slot::Field, Slot::SpeedUp, Slot::Step})
    EXPECT_TRUE(seen.contains(QString::fromStdString(plan::slot_name(s)))) << plan::slot_name(s);
}

TEST_F(WindowTest, SaysWhatIsWrongAndKeepsWhatWas) {
  window_.resize(1280, 800);
  run_events();
  auto* sentence = window_.stage(0).findChild<Sentence*>();
  const QImage fine = picture(sentence);
  for (const char* wrong : {"ten", "0", "-3 s"}) {
    type(slot(Slot::Interval), wrong);
    EXPECT_DOUBLE_EQ(sums().interval_s, 20);
  }
  EXPECT_TRUE(QTest::qWaitFor([&] { return sentence->height() > fine.height(); }, 2000))
      << "the complaint needs room";
  type(slot(Slot::Interval), "25 s");
  EXPECT_TRUE(QTest::qWaitFor([&] { return sentence->height() == fine.height(); }, 2000));
}

TEST_F(WindowTest, FixesAFindingAndUndoesIt) {
  type(slot(Slot::Shutter), "30 s");
  ASSERT_TRUE(child<QWidget>("shutter_longer_than_interval"));
  auto* fix = child<QWidget>("shutter_longer_than_interval")->findChild<QPushButton*>();
  ASSERT_TRUE(fix);
  QTest::mouseClick(fix, Qt::LeftButton);
  EXPECT_GT(sums().interval_s, 30.6);
  EXPECT_FALSE(child<QWidget>("shutter_longer_than_interval") &&
               child<QWidget>("shutter_longer_than_interval")->isVisible());
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_DOUBLE_EQ(sums().shutter_s, 30);
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_DOUBLE_EQ(sums().shutter_s, 4);
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
  EXPECT_DOUBLE_EQ(sums().shutter_s, 30);
}

TEST_F(WindowTest, PinsSlotsAndOffersToReleaseThem) {
  // 30 frames pinned, then 10 s of film pinned: at 25 fps they contradict each other.
  slot(Slot::Frames)->setFocus();
  QTest::keyClick(slot(Slot::Frames), Qt::Key_P, Qt::ControlModifier);
  EXPECT_TRUE(session().document.take().wished(Slot::Frames)->pinned);
  type(slot(Slot::Clip), "10 s");
  ASSERT_TRUE(child<QWidget>("pins_conflict"));
  EXPECT_EQ(sums().frames, 250);  // what was said last holds
  auto* release = child<QWidget>("pins_conflict")->findChild<QPushButton*>();
  ASSERT_TRUE(release);
  EXPECT_EQ(release->text(), "Release the number of frames");
  QTest::mouseClick(release, Qt::LeftButton);
  EXPECT_FALSE(session().document.take().wished(Slot::Frames));
  EXPECT_TRUE(session().document.solution().conflicts.empty());
  EXPECT_EQ(sums().frames, 250);
  // Every slot says why it has its value.
  EXPECT_NE(slot(Slot::Frames)->toolTip().indexOf("10 s × 25 fps = 250 frames"), -1)
      << slot(Slot::Frames)->toolTip().toStdString();
}

TEST_F(WindowTest, MatchesTheMetersExposure) {
  type(child<SlotField>("metered exposure"), "1/125, f8, iso 100");
  EXPECT_EQ(session().document.take().metered, (plan::Metered{1 / 125.0, 8, 100}));
  EXPECT_NE(child<SlotField>("filters to put on")->text().indexOf("Grey"), -1);
  EXPECT_TRUE(child<QWidget>("filter_needed"));
  type(child<SlotField>("metered exposure"), "bright");
  EXPECT_TRUE(session().document.take().metered);
  type(slot(Slot::Shutter), "1/125");
  EXPECT_EQ(child<SlotField>("filters to put on")->text(), "no filter");
}

TEST_F(WindowTest, SavesByItselfAndOnDemand) {
  type(slot(Slot::Interval), "15 s");
  ASSERT_TRUE(QTest::qWaitFor([this] { return session().document.saved_words().startsWith("Saved"); }, 5000));
  EXPECT_DOUBLE_EQ(take::load_take(file()).sums().interval_s, 15);
  EXPECT_TRUE(child<QLabel>("saved")->text().startsWith("Saved"));
}

TEST_F(WindowTest, SurvivesTakesItCannotOpen) {
  std::ofstream(folder_ / "broken.askcount") << "{";
  EXPECT_FALSE(window_.open(folder_ / "broken.askcount"));
  EXPECT_NE(child<QLabel>("foot")->text().indexOf("broken.askcount"), -1);
  EXPECT_EQ(sums().frames, 30);
  EXPECT_EQ(session().document.file(), file());
}

TEST_F(WindowTest, TellsTheTimerInItsWords) {
  QTest::keyClick(&window_, Qt::Key_3, Qt::AltModifier);
  EXPECT_EQ(window_.stage_name(window_.current_stage()), "Set");
  auto* timer = child<SlotField>("timer");
  QTest::keyClick(timer, Qt::Key_Down);
  EXPECT_EQ(session().document.take().timer, "Tidewatch cable");
  EXPECT_EQ(child<SlotField>("what the timer counts")->text(), "gap");
  EXPECT_FALSE(child<QWidget>("camera_on_bulb")) << "4 s are on the camera's own dial";
  session().document.edit([](take::Take& t) {
    t.wish(Slot::Interval, 100);
    t.wish(Slot::Shutter, 60);
    t.metered.reset();
    t.light.method = ramp::Method::Fixed;
  });
  EXPECT_TRUE(child<QWidget>("camera_on_bulb")) << "60 s are not";
  QTest::keyClick(timer, Qt::Key_Up);
  EXPECT_EQ(session().document.take().timer, "Built-in interval");
}

TEST_F(WindowTest, GoesFromTheWishToTheClip) {
  QTest::keyClick(&window_, Qt::Key_4, Qt::AltModifier);
  press("Shoot with the stand-in");
  // The window lives while it shoots: frames come in one by one and another stage can be looked at.
  QSignalSpy landed(&session().run, &Run::shot_landed);
  ASSERT_TRUE(QTest::qWaitFor([&] { return landed.count() > 2; }, 20000));
  QTest::keyClick(&window_, Qt::Key_1, Qt::AltModifier);
  EXPECT_EQ(window_.stage_name(window_.current_stage()), "Ask");
  ASSERT_TRUE(QTest::qWaitFor([this] { return session().frames.gathered().has_value(); }, 60000));
  ASSERT_TRUE(wait_for_work());
  EXPECT_EQ(session().frames.list()->size(), 30u);

  QTest::keyClick(&window_, Qt::Key_5, Qt::AltModifier);
  EXPECT_NE(child<QLabel>("gathered")->text().indexOf("30 frames"), -1);
  EXPECT_TRUE(child<QWidget>("as_planned"));
  // Scrubbing anywhere shows the same frame everywhere.
  QTest::mouseClick(span(), Qt::LeftButton, {}, QPoint(span()->width() / 2, 30));
  const long long at = session().playhead.at();
  EXPECT_GT(at, 5);
  EXPECT_LT(at, 25);
  QTest::keyClick(&window_, Qt::Key_Right);
  EXPECT_EQ(session().playhead.at(), at + 1);
  QTest::keyClick(&window_, Qt::Key_End);
  EXPECT_EQ(session().playhead.at(), 29);

  QTest::keyClick(&window_, Qt::Key_6, Qt::AltModifier);
  ASSERT_TRUE(QTest::qWaitFor([this] { return session().levelling.evenness().has_value(); }, 60000));
  EXPECT_LT(session().levelling.evenness()->flicker_after, 0.01);
  EXPECT_NE(child<QLabel>("flicker")->text().indexOf("after"), -1);

  ASSERT_TRUE(wait_for_work());
  QTest::keyClick(&window_, Qt::Key_7, Qt::AltModifier);
  QTest::mouseClick(child<QPushButton>("make"), Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([this] { return session().films.film().has_value(); }, 60000));
  EXPECT_EQ(session().films.film()->frames, 30);
  EXPECT_TRUE(test::fs::exists(folder_ / "small.mp4"));
  // It plays, round and round; at which rate is measured in bench/window_bench.
  auto* player = child<FilmPlayer>("player");
  ASSERT_TRUE(player->opened());
  ASSERT_TRUE(wait_for_work());
  QTest::keyClick(&window_, Qt::Key_Space);
  ASSERT_TRUE(player->playing());
  ASSERT_TRUE(QTest::qWaitFor([&] { return player->frame() >= 20; }, 30000));
  ASSERT_TRUE(QTest::qWaitFor([&] { return player->frame() < 10; }, 30000));
  QTest::keyClick(&window_, Qt::Key_Space);
  EXPECT_FALSE(player->playing());
}

TEST_F(WindowTest, CutsAnotherFilmWithKeys) {
  session().shoot();
  ASSERT_TRUE(QTest::qWaitFor(
      [this] { return !session().run.active() && session().frames.gathered().has_value(); }, 60000));
  ASSERT_TRUE(wait_for_work());
  QTest::keyClick(&window_, Qt::Key_7, Qt::AltModifier);
  const auto slot = [this](const char* name) { return child<SlotField>(name); };
  const auto film = [this] { return session().document.take().film; };
  const auto type = [&](SlotField* field, const QString& text) {
    field->setFocus();
    QTest::keyClick(field, Qt::Key_Return);
    auto* editor = field->findChild<QLineEdit*>();
    ASSERT_TRUE(editor);
    editor->selectAll();
    QTest::keyClicks(editor, text);
    QTest::keyClick(editor, Qt::Key_Return);
  };
  EXPECT_EQ(slot("length of the film")->text(), "1.2 s");
  type(slot("first frame"), "4");
  type(slot("last frame"), "20");
  QTest::keyClick(slot("every nth frame"), Qt::Key_Up);
  EXPECT_EQ(slot("every nth frame")->text(), "every 2nd frame");
  EXPECT_EQ(slot("length of the film")->text(), "0.36 s") << "frames 4, 6, and so on to 20";
  type(slot("how fast it goes"), "0.5");
  EXPECT_EQ(slot("length of the film")->text(), "0.68 s");
  QTest::keyClick(slot("what is between frames"), Qt::Key_Down);
  EXPECT_EQ(film().choice.between, render::Between::Blend);
  QTest::keyClick(slot("what it is for"), Qt::Key_Down);
  EXPECT_EQ(slot("what it is for")->text(), "an editor");
  EXPECT_EQ(film().coding.codec, media::Codec::ProRes);
  // What cannot be is said and changes nothing.
  type(slot("last frame"), "900");
  EXPECT_EQ(film().choice.last, 20);
  QTest::mouseClick(child<QPushButton>("make"), Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([this] { return session().films.film().has_value(); }, 60000));
  EXPECT_EQ(session().films.film()->frames, 17);
  EXPECT_EQ(session().films.film()->codec, "prores");
  EXPECT_TRUE(test::fs::exists(folder_ / "small.mov"));
  // The film's frames are those of the take on every other stage.
  EXPECT_EQ(session().films.take_frame(0), 3);
  EXPECT_EQ(session().films.take_frame(16), 19);
  EXPECT_EQ(session().films.film_frame(7), 4);
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(film().coding.codec, media::Codec::H264);
}

TEST_F(WindowTest, CancelsLongWorkAndLeavesNothing) {
  session().shoot();
  ASSERT_TRUE(QTest::qWaitFor(
      [this] { return !session().run.active() && session().frames.gathered().has_value(); }, 60000));
  ASSERT_TRUE(wait_for_work());
  session().document.edit([](take::Take& t) { t.film.size = {3840, 2160}; });
  QTest::keyClick(&window_, Qt::Key_7, Qt::AltModifier);
  QTest::mouseClick(child<QPushButton>("make"), Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([this] { return session().films.queue.job().total() > 0; }, 60000));
  QTest::mouseClick(child<QPushButton>("cancel"), Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([this] { return !session().films.making(); }, 60000));
  EXPECT_FALSE(session().films.film());
  EXPECT_FALSE(test::fs::exists(folder_ / "small.mp4"));
  EXPECT_FALSE(test::fs::exists(folder_ / "small.mp4.part"));
  EXPECT_TRUE(child<QPushButton>("make")->isVisible());
}

TEST_F(WindowTest, FitsItsSmallestSizeInBothLights) {
  window_.resize(1100, 700);
  for (int i = 0; i < window_.stage_count(); ++i) {
    window_.go_to(i);
    for (int light = 0; light < 2; ++light) {
      run_events();
      EXPECT_EQ(window_.size(), QSize(1100, 700))
          << window_.stage_name(i).toStdString() << " needs more room";
      window_.change_light();
    }
    for (const SlotField* field : window_.stage(i).findChildren<SlotField*>()) {
      if (!field->isVisible()) continue;
      const QRect at(field->mapTo(&window_.stage(i), QPoint()), field->size());
      EXPECT_TRUE(window_.stage(i).rect().contains(at)) << field->objectName().toStdString();
    }
  }
}

TEST(Look, ShipsItsOwnType) {
  EXPECT_EQ(QFontInfo(word_font(10)).family(), "Manrope");
  EXPECT_EQ(QFontInfo(figure_font(10)).family(), "B612");
  EXPECT_FALSE(QFontInfo(figure_font(10)).bold());
  EXPECT_TRUE(QFontInfo(figure_font(10, true)).bold());
  const QFontMetrics m(figure_font(12));
  EXPECT_LT(m.horizontalAdvance(':'), 0.7 * m.horizontalAdvance('0'));
  for (const char digit : {'0', '1', '7'})
    EXPECT_EQ(m.horizontalAdvance(QChar(digit)), m.horizontalAdvance('8'));
}

}  // namespace
}  // namespace askcount::app
