// SPDX-License-Identifier: GPL-3.0-or-later
// The stages of planning and shooting, driven with clicks and keys.
#include <QApplication>
#include <QCheckBox>
#include <QDialog>
#include <QDropEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMimeData>
#include <QPushButton>
#include <QTest>
#include <QTimer>

#include "app/session/keeping.h"
#include "app/shell/kit_editor.h"
#include "app/shell/window.h"
#include "app/stages/ask/whole_film.h"
#include "app/stages/light/panorama.h"
#include "app/stages/light/ramp_chart.h"
#include "app/stages/set/practice_pane.h"
#include "app/stages/shoot/rehearse_pane.h"
#include "app/style/style.h"
#include "app/widgets/sentence.h"
#include "app/widgets/ticks.h"
#include "app/widgets/word_tabs.h"
#include "cards.h"
#include "events.h"
#include "forecast/place_picture.h"
#include "simulate/card.h"
#include "support.h"
#include "typing.h"

namespace askcount::app {
namespace {

using plan::Slot;

class StagesTest : public ::testing::Test {
 protected:
  void SetUp() override {
    take::Take take = take::demo_take();
    take.stand_in.frame_size = {240, 160};
    take.film.size = {192, 108};
    save_take(take, file());
    ASSERT_TRUE(window_.open(file()));
    window_.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&window_));
    QApplication::setActiveWindow(&window_);
  }

  test::fs::path file() const { return folder_ / "demo.askcount"; }
  Session& session() { return window_.session(); }
  const take::Take& take() { return session().document.take(); }
  template <typename T>
  T* child(const char* name) {
    return window_.findChild<T*>(name);
  }
  Stage& stage() { return window_.stage(window_.current_stage()); }
  void go(Qt::Key number) { QTest::keyClick(&window_, number, Qt::AltModifier); }
  void tab(int index) {
    for (WordTabs* tabs : stage().findChildren<WordTabs*>())
      if (tabs->isVisible()) return tabs->choose(index);
    FAIL() << "no tabs";
  }
  void type(const char* slot, const QString& text) {
    SlotField* field = nullptr;
    for (SlotField* f : stage().findChildren<SlotField*>(slot))
      if (f->isVisible()) field = f;
    type_into(field, text);
  }
  void nudge(const char* slot, Qt::Key key) {
    for (SlotField* f : stage().findChildren<SlotField*>(slot))
      if (f->isVisible()) QTest::keyClick(f, key);
  }
  QPushButton* button(const QString& words) {
    for (QPushButton* b : window_.findChildren<QPushButton*>())
      if (b->text() == words && b->isVisible()) return b;
    return nullptr;
  }
  void press(const QString& words) {
    QPushButton* b = button(words);
    ASSERT_TRUE(b) << words.toStdString();
    QTest::mouseClick(b, Qt::LeftButton);
  }
  QString text(const char* label) { return child<QLabel>(label)->text(); }

  test::Folder folder_;
  Window window_;
};

TEST_F(StagesTest, TimesTheSubjectByOneKey) {
  std::int64_t now_ms = 1000;
  drive_ticks([&] { return now_ms; });
  window_.setFocus();
  QTest::keyClick(&window_, Qt::Key_T);
  now_ms += 8400;
  QTest::keyClick(&window_, Qt::Key_T);
  ASSERT_EQ(take().measures.size(), 1u);
  EXPECT_NEAR(take().measures[0].crossing_s, 8.4, 1e-9);
  QTest::keyClick(&window_, Qt::Key_T);
  now_ms += 9000;
  QTest::keyClick(&window_, Qt::Key_T);
  drive_ticks({});
  EXPECT_EQ(take().measures[0].taps, 2);
  EXPECT_NEAR(take().measures[0].crossing_s, 8.7, 1e-9);
  EXPECT_GT(take().measures[0].spread_s, 0);
  press("Use the stopwatch");
  EXPECT_NEAR(*session().document.solution()[Slot::FieldCrossing], take().measures[0].crossing_s, 1e-9);
  type("speed of the subject", "10 m/s");
  // 10 m/s at 200 m with 24 mm on 36 mm: 200 × 36 ÷ 24 ÷ 10 = 30 s.
  EXPECT_NEAR(*session().document.solution()[Slot::FieldCrossing], 30, 1e-9);
  EXPECT_EQ(take().measures.size(), 2u);
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(take().measures.size(), 1u);
}

TEST_F(StagesTest, PlaysTheWholeFilmAndAnotherPlanBesideIt) {
  tab(1);
  auto* film = child<WholeFilm>("whole film");
  ASSERT_TRUE(QTest::qWaitFor([&] { return film->now().ready_from(0) > 5; }, 30000));
  EXPECT_EQ(film->now().about()->frames, 250);
  EXPECT_FALSE(film->now().about()->lost);
  // By the clock: where it stands after a while is where its frame rate says.
  QTest::mouseClick(film, Qt::LeftButton, {}, QPoint(60, 60));
  EXPECT_TRUE(film->playing());
  ASSERT_TRUE(QTest::qWaitFor([&] { return film->shown() >= 12; }, 30000));
  EXPECT_GE(film->at(), 11 / 25.0);
  window_.setFocus();
  QTest::keyClick(&window_, Qt::Key_Space);
  EXPECT_FALSE(film->playing());
  // What is kept stays as it was; the plan goes on beside it.
  press("Keep to compare");
  ASSERT_TRUE(film->compares());
  session().document.edit([](take::Take& t) {
    t.light.method = ramp::Method::Fixed;
    t.wish(Slot::Clip, 12);
  });
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return film->now().about() && film->now().about()->frames == 300; }, 30000));
  EXPECT_TRUE(film->now().about()->lost) << "a standing exposure drowns at dusk";
  EXPECT_NE(film->now().about()->over.indexOf("drowns"), -1);
  press("Discard the kept plan");
  EXPECT_FALSE(film->compares());
  // Wishes that are too few say so, and the window lives.
  session().document.edit([](take::Take& t) {
    t.wishes.clear();
    t.subject.clear();
  });
  ASSERT_TRUE(QTest::qWaitFor([&] { return !film->now().trouble().isEmpty(); }, 30000));
}

TEST_F(StagesTest, FindsTheMotionOfTwoPictures) {
  // A bright disc moves 60 of 600 pixels to the right in 4 s: 40 s for the frame.
  for (int k = 0; k < 2; ++k) {
    image::Coded8 p({600, 400});
    for (int y = 0; y < 400; ++y)
      for (int x = 0; x < 600; ++x) {
        const bool disc = std::hypot(x - 200 - 60 * k, y - 180) < 34;
        const int texture = (x * 7 + y * 13 + (x / 9) * (y / 7) * 31) % 23;
        for (int c = 0; c < 3; ++c)
          p.row(y)[3 * x + c] =
              static_cast<std::uint8_t>(disc ? 215 + ((x - 60 * k) * 11 + y * 5) % 37 : 70 + texture);
      }
    media::ShotInfo info;
    info.captured = media::CameraTime{} + std::chrono::hours(400000) + std::chrono::seconds(4 * k);
    const media::Bytes bytes = media::with_metadata(media::encode_jpeg(p, 95), info, {});
    std::ofstream(folder_ / ("t" + std::to_string(k) + ".jpg"), std::ios::binary)
        .write(reinterpret_cast<const char*>(bytes.data()), static_cast<std::streamsize>(bytes.size()));
  }
  tab(2);
  session().choose_tests(folder_ / "t0.jpg", folder_ / "t1.jpg");
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().tests.motion().has_value(); }, 30000));
  EXPECT_NEAR(session().tests.motion()->dx, 60, 1.5);
  EXPECT_NEAR(session().tests.motion()->crossing_s, 40, 1.5);
  // The moving part is cut out: about as large as the disc, in its place.
  ASSERT_FALSE(session().tests.part().isNull());
  EXPECT_GT(session().tests.part().width(), 50);
  EXPECT_LT(session().tests.part().width(), 160);
  press("Use the pictures");
  EXPECT_NEAR(*session().document.solution()[Slot::FieldCrossing], 40, 1.5);
  // By hand: dragged twice as far, it takes half as long.
  auto* view = child<QWidget>("test pictures");
  const double scale = std::min(view->width() / 600.0, view->height() / 400.0),
               top = (view->height() - 400 * scale) / 2;
  const auto at = [&](double x) {
    return QPoint(static_cast<int>(x * scale), static_cast<int>(top + 180 * scale));
  };
  QTest::mousePress(view, Qt::LeftButton, {}, at(200));
  QMouseEvent move(QEvent::MouseMove, at(320), view->mapToGlobal(at(320)), Qt::NoButton, Qt::LeftButton,
                   Qt::NoModifier);
  QApplication::sendEvent(view, &move);
  QTest::mouseRelease(view, Qt::LeftButton, {}, at(320));
  EXPECT_TRUE(session().tests.marked_by_hand());
  EXPECT_NEAR(session().tests.motion()->crossing_s, 20, 1);
}

TEST_F(StagesTest, CountsBracketsAndTellsWhatToChange) {
  tab(4);
  nudge("exposures a shot", Qt::Key_Up);
  nudge("exposures a shot", Qt::Key_Up);
  EXPECT_EQ(take().shot.brackets, 3);
  EXPECT_GT(take().shot.bracket_stops, 0);
  nudge("long-exposure noise reduction", Qt::Key_Down);
  EXPECT_TRUE(take().shot.dark_frames);
  type("spare shots", "25");
  EXPECT_EQ(session().document.sums()->extra_shots, 50);
  type("temperature", "-12 °C");
  EXPECT_DOUBLE_EQ(take().temperature_c, -12);
  EXPECT_NE(text("swap plan").indexOf("Cell A"), -1) << text("swap plan").toStdString();
  type("temperature", "a lot");
  EXPECT_DOUBLE_EQ(take().temperature_c, -12);
}

TEST_F(StagesTest, TakesAnIntervalFromTheTable) {
  tab(5);
  auto* ways = child<QWidget>("ways");
  ways->setFocus();
  QTest::keyClick(ways, Qt::Key_Return);
  EXPECT_DOUBLE_EQ(session().document.sums()->interval_s, 10);  // half of 20 s stands first
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_DOUBLE_EQ(session().document.sums()->interval_s, 20);
}

TEST_F(StagesTest, EditsTheKitAndRefusesWhatCannotBe) {
  KitEditor editor(session(), &window_);
  editor.show();
  auto* field = editor.findChild<QLineEdit*>("writing_s");
  ASSERT_TRUE(field);
  field->setText("2.5");
  QTest::keyClick(field, Qt::Key_Return);
  ASSERT_TRUE(QTest::qWaitFor([&] { return take().body().writing_s == 2.5; }, 2000));
  field = editor.findChild<QLineEdit*>("writing_s");
  field->setText("-3");
  QTest::keyClick(field, Qt::Key_Return);
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return editor.findChild<QLabel*>("kit said")->text().contains("writing_s"); }, 2000));
  EXPECT_DOUBLE_EQ(take().body().writing_s, 2.5);
  auto* lists = editor.findChild<QListWidget*>("kit lists");
  auto* entries = editor.findChild<QListWidget*>("kit entries");
  lists->setCurrentRow(2);  // timers
  const int before = entries->count();
  for (QPushButton* b : editor.findChildren<QPushButton*>())
    if (b->text() == "Add another") QTest::mouseClick(b, Qt::LeftButton);
  EXPECT_EQ(entries->count(), before + 1);
  EXPECT_EQ(take().kit.timers.back().name, "New one");
  for (QPushButton* b : editor.findChildren<QPushButton*>())
    if (b->text() == "Use this one") QTest::mouseClick(b, Qt::LeftButton);
  EXPECT_EQ(take().timer, "New one");
  lists->setCurrentRow(0);
  for (QPushButton* b : editor.findChildren<QPushButton*>())
    if (b->text() == "Remove") QTest::mouseClick(b, Qt::LeftButton);
  EXPECT_EQ(take().kit.bodies.size(), 1u) << "the last body stays";
}

TEST_F(StagesTest, AimsTheFrameWithMouseAndKeys) {
  go(Qt::Key_2);
  auto* panorama = child<Panorama>("panorama");
  const sky::Aim before = take().light.move.from;
  const QPoint from(panorama->width() / 2, panorama->height() / 3), to = from + QPoint(40, -12);
  QTest::mousePress(panorama, Qt::LeftButton, {}, from);
  for (const QPoint& at : {from + QPoint(20, -6), to}) {
    QMouseEvent move(QEvent::MouseMove, at, panorama->mapToGlobal(at), Qt::NoButton, Qt::LeftButton,
                     Qt::NoModifier);
    QApplication::sendEvent(panorama, &move);
  }
  QTest::mouseRelease(panorama, Qt::LeftButton, {}, to);
  EXPECT_GT(take().light.move.from.bearing_deg, before.bearing_deg + 3);
  EXPECT_GT(take().light.move.from.tilt_deg, before.tilt_deg + 1);
  EXPECT_EQ(take().light.move.from, take().light.move.to) << "the head stands still";
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(take().light.move.from, before) << "a drag is one step";
  panorama->setFocus();
  QTest::keyClick(panorama, Qt::Key_Right);
  QTest::keyClick(panorama, Qt::Key_Up, Qt::ShiftModifier);
  QTest::keyClick(panorama, Qt::Key_BracketRight);
  EXPECT_DOUBLE_EQ(take().light.move.from.bearing_deg, before.bearing_deg + 1);
  EXPECT_DOUBLE_EQ(take().light.move.from.tilt_deg, before.tilt_deg + 5);
  EXPECT_DOUBLE_EQ(take().light.move.from.roll_deg, 1);
  QTest::keyClick(panorama, Qt::Key_H);
  EXPECT_GT(sky::horizon_at(take().light.horizon, 250), 0.5);
  type("bearing", "20");
  EXPECT_DOUBLE_EQ(take().light.move.from.bearing_deg, 20);
  EXPECT_TRUE(child<QWidget>("subject_not_in_frame"));
  // A head that moves, and the move that keeps the sun in.
  type("bearing", "248");
  press("Find the move that keeps it");
  EXPECT_FALSE(take().light.head_moves()) << "the sun sets on the way: said, and nothing changed";
}

TEST_F(StagesTest, LaysTheSkyOverAPictureOfThePlace) {
  // A bright sky over dark hills that are 8° high at the picture's middle, with the sun's disc in it.
  constexpr int kWide = 600, kHigh = 400;
  image::Coded8 p({kWide, kHigh});
  for (int y = 0; y < kHigh; ++y)
    for (int x = 0; x < kWide; ++x)
      for (int c = 0; c < 3; ++c)
        p.row(y)[3 * x + c] = static_cast<std::uint8_t>(std::hypot(x - 400, y - 90) < 8 ? 255
                                                        : y < 220                       ? 180 - y / 8
                                                                                        : 25);
  media::ShotInfo info;
  info.captured =
      simulate::camera_clock(parse_wall_time("2026-10-09 17:00", "Europe/London"), "Europe/London");
  info.focal_mm = info.focal_35mm = 24;
  test::write(folder_ / "quay.jpg", media::with_metadata(media::encode_jpeg(p, 95), info, {}));
  go(Qt::Key_2);
  tab(4);
  session().lay_under(folder_ / "quay.jpg");
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().outlook.photograph() != nullptr; }, 30000));
  // The sun at 17:00 says where it looks: the disc is right of the middle and above it.
  EXPECT_EQ(take().light.outlook.by, take::Outlook::By::Sun);
  const sky::Direction sun =
      sky::ephemeris_for(take().start, take().start)
          ->at(sky::Body::Sun, parse_wall_time("2026-10-09 17:00", "Europe/London"), take().place);
  const skyline::View view = forecast::view_of(take().light.outlook);
  const auto at = sky::project(sun, view.aim, view.optics);
  ASSERT_TRUE(at);
  EXPECT_NEAR(at->x, 400.5 / kWide - 0.5, 0.003);
  EXPECT_NEAR(at->y, 0.5 - 90.5 / kHigh, 0.003);
  EXPECT_TRUE(take().light.horizon.empty());
  press("Trace its skyline");
  ASSERT_FALSE(take().light.horizon.empty());
  EXPECT_NEAR(sky::horizon_at(take().light.horizon, view.aim.bearing_deg),
              sky::direction_of({0, 0.5 - 220.0 / kHigh}, view.aim, view.optics).altitude_deg, 0.3);
  EXPECT_NE(text("behind the skyline").indexOf("The sun goes behind the skyline at"), -1);
  // Ctrl and drag moves the picture under the sky, as one step that can be undone.
  auto* panorama = child<Panorama>("panorama");
  const QPoint from(panorama->width() / 2, panorama->height() / 3), to = from + QPoint(30, 0);
  QTest::mousePress(panorama, Qt::LeftButton, Qt::ControlModifier, from);
  QMouseEvent move(QEvent::MouseMove, to, panorama->mapToGlobal(to), Qt::NoButton, Qt::LeftButton,
                   Qt::ControlModifier);
  QApplication::sendEvent(panorama, &move);
  QTest::mouseRelease(panorama, Qt::LeftButton, Qt::ControlModifier, to);
  EXPECT_GT(std::remainder(take().light.outlook.aim.bearing_deg - view.aim.bearing_deg, 360), 2);
  EXPECT_EQ(take().light.outlook.by, take::Outlook::By::Hand);
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_NEAR(take().light.outlook.aim.bearing_deg, view.aim.bearing_deg, 1e-9);
  // A compass, and the variation it does not know.
  type("compass bearing of the picture", "250");
  type("variation", "-4");
  EXPECT_NEAR(take().light.outlook.aim.bearing_deg, 246, 1e-9);
  EXPECT_EQ(take().light.outlook.by, take::Outlook::By::Compass);
  press("Level the skyline");
  EXPECT_TRUE(take().light.horizon.empty());
  press("Take it away");
  EXPECT_TRUE(take().light.outlook.picture.empty());
  EXPECT_EQ(session().outlook.photograph(), nullptr);
  // What is no picture is said, and changes nothing.
  EXPECT_EQ(test::error_of([&] { session().lay_under(file()); }).kind(), Error::Kind::Failed);
  EXPECT_TRUE(take().light.outlook.picture.empty());
}

TEST_F(StagesTest, PutsTheTakeWhereAndWhenItIs) {
  go(Qt::Key_2);
  type("coordinates", "28°18'N 16°36'W");
  EXPECT_NEAR(take().place.latitude_deg, 28.3, 1e-9);
  EXPECT_NEAR(take().place.longitude_deg, -16.6, 1e-9);
  type("coordinates", "nowhere");
  EXPECT_NEAR(take().place.latitude_deg, 28.3, 1e-9);
  type("time zone", "Atlantic/Canary");
  EXPECT_EQ(format_clock(take().start, take().place.zone), "17:50") << "the clock on the wall stays";
  type("date", "2026-07-15");
  type("first shot", "23:10");
  EXPECT_EQ(format_iso(take().start, take().place.zone), "2026-07-15T23:10:00+01:00");
  nudge("date", Qt::Key_Up);
  EXPECT_EQ(day_of(take().start, take().place.zone), parse_day("2026-07-16"));
  nudge("place", Qt::Key_Down);
  EXPECT_EQ(take().place.name, "Gannet Head");
  tab(2);
  QPushButton* start = nullptr;  // the windows are looked for beside the window
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        for (QPushButton* b : child<QWidget>("when")->findChildren<QPushButton*>())
          if (b->isVisible() && !start) start = b;
        return start != nullptr;
      },
      5000));
  const Instant was = take().start;
  QTest::mouseClick(start, Qt::LeftButton);
  EXPECT_NE(take().start, was);
}

TEST_F(StagesTest, DragsAClickAndShowsWhatComesOfIt) {
  go(Qt::Key_2);
  auto* chart = child<RampChart>("ramp");
  ASSERT_TRUE(session().document.ramp());
  chart->setFocus();
  QTest::keyClick(chart, Qt::Key_N);
  const long long frame = session().document.ramp()->steps[0].click.frame;
  EXPECT_EQ(session().playhead.at(), frame);
  for (int i = 0; i < 4; ++i) QTest::keyClick(chart, Qt::Key_Right, Qt::ControlModifier);
  EXPECT_EQ(session().document.ramp()->steps[0].click.frame, frame + 4);
  EXPECT_EQ(take().light.clicks.size(), session().document.ramp()->steps.size());
  // With the mouse, as far as its neighbour allows, until the meter leaves its band.
  const double n = static_cast<double>(session().document.ramp()->ev.size()), wide = chart->width() - 82.0;
  const auto x = [&](double f) { return static_cast<int>(78 + f / n * wide); };
  const int y = chart->height() - 12;
  const size_t fifth = 5;
  const long long own = session().document.ramp()->steps[fifth].click.frame,
                  next = session().document.ramp()->steps[fifth + 1].click.frame;
  QTest::mousePress(chart, Qt::LeftButton, {}, QPoint(x(static_cast<double>(own)), y));
  QMouseEvent move(QEvent::MouseMove, QPoint(x(static_cast<double>(next + 20)), y),
                   chart->mapToGlobal(QPoint(0, 0)), Qt::NoButton, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(chart, &move);
  QTest::mouseRelease(chart, Qt::LeftButton, {}, QPoint(x(static_cast<double>(next)), y));
  EXPECT_EQ(session().document.ramp()->steps[fifth].click.frame, next - 1);
  EXPECT_TRUE(child<QWidget>("clicks_rushed"));
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(session().document.ramp()->steps[fifth].click.frame, own);
  tab(1);
  nudge("frames apart", Qt::Key_Up);
  EXPECT_EQ(take().light.rule.frames_apart, 7);
  type("highest ISO", "1600");
  EXPECT_NEAR(take().light.rule.highest_iso, 1600, 1);
}

TEST_F(StagesTest, IsRedAndDimByLampLight) {
  window_.setFocus();
  QTest::keyClick(&window_, Qt::Key_L);
  for (int i = 0; i < window_.stage_count(); ++i) {
    window_.go_to(i);
    run_events();
    const QImage shot = window_.grab().toImage().convertToFormat(QImage::Format_RGB32);
    int brightest = 0, not_red = 0;
    for (int y = 0; y < shot.height(); ++y)
      for (int x = 0; x < shot.width(); ++x) {
        const QRgb c = shot.pixel(x, y);
        brightest = std::max({brightest, qRed(c), qGreen(c), qBlue(c)});
        not_red += qGreen(c) > qRed(c) + 2 || qBlue(c) > qRed(c) + 2;
      }
    EXPECT_LE(brightest, 232) << window_.stage_name(i).toStdString();
    EXPECT_EQ(not_red, 0) << window_.stage_name(i).toStdString();
  }
  QTest::keyClick(&window_, Qt::Key_L);
  EXPECT_NE(current_lighting(), Lighting::Lamp);
}

TEST_F(StagesTest, PractisesOnATimer) {
  session().document.edit([](take::Take& t) { t.start_by = timer::StartBy::Delay; });
  go(Qt::Key_3);
  tab(1);
  auto* face = child<TimerFace>("timer face");
  face->setFocus();
  const auto keys = [&](std::initializer_list<Qt::Key> list) {
    for (const Qt::Key k : list) QTest::keyClick(face, k);
  };
  // Built-in: a delay of 10 s, every 20 s, 250 shots, sound off.
  keys({Qt::Key_Return, Qt::Key_Left, Qt::Key_Up, Qt::Key_Return, Qt::Key_Right});
  keys({Qt::Key_Return, Qt::Key_Down, Qt::Key_Left, Qt::Key_Up, Qt::Key_Up, Qt::Key_Return, Qt::Key_Right});
  keys({Qt::Key_Return, Qt::Key_Down, Qt::Key_Left, Qt::Key_Up, Qt::Key_Up, Qt::Key_Up, Qt::Key_Up,
        Qt::Key_Up, Qt::Key_Left, Qt::Key_Up, Qt::Key_Up, Qt::Key_Return, Qt::Key_Right});
  EXPECT_EQ(face->face().keyed().time_s, 20);
  EXPECT_NE(text("practice verdict").indexOf("sound"), -1);
  keys({Qt::Key_Return, Qt::Key_Up, Qt::Key_Return});
  EXPECT_EQ(face->face().keyed().count, 251) << "one is the least a count can be";
  const size_t before = session().book.shelf().scores.size();
  keys({Qt::Key_S});
  EXPECT_TRUE(face->face().running());
  EXPECT_EQ(session().book.shelf().scores.size(), before + 1) << text("practice verdict").toStdString();
  EXPECT_NE(text("practice verdict").indexOf("Done in"), -1);
}

TEST_F(StagesTest, TicksTheChecklistWithTheTime) {
  go(Qt::Key_3);
  tab(2);
  auto* box = child<QCheckBox>("check focus_manual");
  ASSERT_TRUE(box);
  box->setFocus();
  QTest::keyClick(box, Qt::Key_Space);
  ASSERT_TRUE(QTest::qWaitFor([&] { return take().ticks.contains("focus_manual"); }, 2000));
  EXPECT_NEAR(static_cast<double>(take().ticks.at("focus_manual").time_since_epoch().count()),
              static_cast<double>(QDateTime::currentMSecsSinceEpoch()), 5000);
  QTest::keyClick(&window_, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_TRUE(take().ticks.empty());
}

TEST_F(StagesTest, SaysTheIntervalThatTheTimerRunsAt) {
  session().document.edit([](take::Take& t) {
    t.wishes.clear();
    for (const auto& [slot, value] : {std::pair{Slot::Fps, 25.0},
                                      {Slot::Clip, 10},
                                      {Slot::FieldCrossing, 480},
                                      {Slot::ScreenCrossing, 4}})
      t.wish(slot, value);
  });
  const auto shown = [this](Slot slot) {
    for (const SlotField* f : stage().findChildren<SlotField*>())
      if (f->accessibleName() == QString::fromStdString(plan::slot_name(slot))) return f->text();
    return QString();
  };
  go(Qt::Key_1);
  // 480 s ÷ 4 s ÷ 25 fps are 4.8 s, which this timer of whole seconds does not have.
  EXPECT_EQ(shown(Slot::Interval), "5 s");
  EXPECT_DOUBLE_EQ(session().document.program().interval_s, 5);
  EXPECT_EQ(shown(Slot::SpeedUp), "125 times");
  EXPECT_EQ(shown(Slot::ScreenCrossing), "4 s");
  // What was said is shown as it was said.
  session().document.edit([](take::Take& t) { t.wish(Slot::Interval, 4.8); });
  EXPECT_EQ(shown(Slot::Interval), "4.8 s");
}

TEST_F(StagesTest, TriesTenFramesThatAreDropped) {
  test::Card card;
  card.frames = 10;
  card.size = {240, 160};
  card.interval_s = session().document.program().interval_s * 2;
  write_card(card, folder_ / "card");
  go(Qt::Key_3);
  tab(3);
  auto* pane = child<QWidget>("try frames");
  ASSERT_TRUE(pane && pane->isVisible());
  QMimeData dragged;
  dragged.setUrls({QUrl::fromLocalFile(QString::fromStdString((folder_ / "card").string()))});
  QDragEnterEvent enter(QPoint(50, 50), Qt::CopyAction, &dragged, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(pane, &enter);
  QDropEvent drop(QPointF(50, 50), Qt::CopyAction, &dragged, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(pane, &drop);
  ASSERT_TRUE(QTest::qWaitFor([&] { return child<QLabel>("try verdict")->isVisible(); }, 20000));
  EXPECT_EQ(text("try verdict"), "Change this first");
  const Findings list = stage().findings();
  EXPECT_TRUE(
      std::any_of(list.begin(), list.end(), [](const Finding& f) { return f.code == "beat_missed"; }));
  // Where the program is looked at they are not in the way.
  tab(0);
  for (const Finding& f : stage().findings()) EXPECT_NE(f.code, "beat_missed");
  // Another take was not tried.
  session().begin();
  EXPECT_FALSE(child<QLabel>("try verdict")->isVisible());
}

TEST_F(StagesTest, StandsBesideARealCameraAndComesBackAfterACrash) {
  // A dusk that falls while the test runs, whatever the hour.
  session().document.edit([](take::Take& t) {
    const Instant here = askcount::now();
    t.light.source.readings = {{later(here, -7200), 14}, {later(here, 7200), 2}};
    t.metered.reset();
  });
  go(Qt::Key_4);
  press("Beside a real camera");
  const auto& state = session().run.state();
  ASSERT_TRUE(state.active);
  EXPECT_FALSE(state.standin);
  type("frame of a real camera", "132");
  const auto now = [] {
    return std::chrono::floor<std::chrono::milliseconds>(std::chrono::system_clock::now());
  };
  EXPECT_EQ(state.frame_at(now()), 131);
  window_.setFocus();
  const QString first = text("next change");
  QTest::keyClick(&window_, Qt::Key_D);
  ASSERT_EQ(state.turns.size(), 1u);
  EXPECT_TRUE(state.turns[0].planned);
  EXPECT_EQ(state.turns[0].frame, 132);
  EXPECT_EQ(text("shoot log").indexOf("late"), -1);
  EXPECT_NE(text("next change"), first);
  // A click by oneself, and one back: one key each.
  QTest::keyClick(&window_, Qt::Key_I);
  QTest::keyClick(&window_, Qt::Key_I, Qt::ShiftModifier);
  ASSERT_EQ(state.turns.size(), 3u);
  EXPECT_EQ(state.turns[1].dial, ramp::Dial::Iso);
  EXPECT_FALSE(state.turns[1].planned);
  EXPECT_EQ(state.turns[2].thirds, -1);
  QTest::keyClick(&window_, Qt::Key_K);
  EXPECT_EQ(state.skipped.size(), 1u);
  // What the camera really stands on, and what the meter says.
  type("dials as they stand", "1/30,f5.6,iso200");
  EXPECT_NE(text("shoot log").indexOf("dials at 1/30 s, f/5.6, ISO 200"), -1)
      << text("shoot log").toStdString();
  type("meter reading now", "1/60,f8,iso100");
  ASSERT_EQ(state.readings.size(), 1u);
  EXPECT_NEAR(state.readings[0].ev, std::log2(64 * 60), 0.01);
  press("Fresh battery in");
  ASSERT_EQ(state.notes.size(), 1u);
  EXPECT_EQ(state.notes[0].words, "Changed the battery");
  window_.setFocus();
  QTest::keyClick(&window_, Qt::Key_N);
  auto* note = child<QLineEdit>("note");
  QTest::keyClicks(note, "Wind picking up");
  QTest::keyClick(note, Qt::Key_Return);
  ASSERT_EQ(state.notes.size(), 2u);
  // Another window, as after a crash: nothing was told to end, the journal is all there is.
  const auto copy = folder_ / "again.askcount";
  test::fs::copy_file(file(), copy);
  session().run.wait_until_written();
  test::fs::copy_file(folder_ / "demo.journal", folder_ / "again.journal");
  Window again;
  ASSERT_TRUE(again.open(copy));
  const auto& back = again.session().run.state();
  EXPECT_TRUE(back.active);
  EXPECT_EQ(back.frame_at(now()), state.frame_at(now()));
  EXPECT_EQ(back.turns.size(), 4u);
  EXPECT_EQ(back.notes[1].words, "Wind picking up");
  session().run.stop();
  EXPECT_FALSE(state.active);
  EXPECT_EQ(take().body().shutter_count, 300) << "the kit is the stand-in's, and that did not shoot";
  again.session().run.stop();
}

TEST_F(StagesTest, ShootsInTimeWithAHandAtTheDials) {
  session().document.edit([](take::Take& t) {
    t.wishes.clear();
    t.wish(Slot::Shutter, 1);
    t.wish(Slot::Interval, 10);
    t.wish(Slot::Fps, 25);
    t.wish(Slot::Frames, 30);
    // Deep in the dusk and without the quay's lamps: a stop and more in five minutes.
    t.start = parse_wall_time("2026-10-09 19:00", t.place.zone);
    t.light.source.town_lux = 0;
    t.metered.reset();
    t.delay_s = 0;
  });
  go(Qt::Key_4);
  ShootWish wish;
  wish.scale = 60;
  wish.faults = {simulate::parse_fault("bump@4")};
  session().shoot(wish);
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return session().run.landed() && session().run.landed()->index >= 1; }, 15000));
  EXPECT_TRUE(child<QWidget>("read_back"));
  window_.setFocus();
  QTest::keyClick(&window_, Qt::Key_P);
  EXPECT_TRUE(session().run.state().paused);
  QTest::keyClick(&window_, Qt::Key_P);
  QTest::keyClick(&window_, Qt::Key_D);
  EXPECT_EQ(session().run.state().turns.size(), 1u);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !session().run.state().notes.empty(); }, 15000));
  EXPECT_TRUE(child<QWidget>("fault_bump"));
  ASSERT_TRUE(QTest::qWaitFor([&] { return !session().run.active(); }, 30000));
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return session().frames.gathered().has_value() && !session().job.running(); }, 20000));
  EXPECT_EQ(session().frames.list()->size(), 30u);
  // The dial was really turned: the frames say so.
  const auto dials = [](const media::ShotInfo& i) { return std::tuple(i.shutter_s, i.f_number, i.iso); };
  EXPECT_NE(dials(session().frames.list()->front().info()), dials(session().frames.list()->back().info()));
}

TEST_F(StagesTest, RehearsesTheDuskWithKeys) {
  session().document.edit([](take::Take& t) {
    t.wishes.clear();
    t.wish(Slot::Shutter, 1);
    t.wish(Slot::Interval, 10);
    t.wish(Slot::Fps, 25);
    t.wish(Slot::Frames, 48);
    t.start = parse_wall_time("2026-10-09 18:45", t.place.zone);
  });
  go(Qt::Key_4);
  tab(1);
  auto* pane = stage().findChild<RehearsePane*>();
  for (int i = 0; i < 2; ++i) nudge("how fast", Qt::Key_Up);  // 120 times
  QTest::mouseClick(child<QPushButton>("rehearse"), Qt::LeftButton);
  ASSERT_TRUE(pane->running());
  const QString dials = text("rehearse dials");
  window_.setFocus();
  QTest::keyClick(&window_, Qt::Key_Up);
  EXPECT_NE(text("rehearse dials"), dials);
  QTest::keyClick(&window_, Qt::Key_Up);
  QTest::keyClick(&window_, Qt::Key_Down);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !pane->running(); }, 15000));
  ASSERT_TRUE(pane->result());
  EXPECT_EQ(pane->result()->clicks, 3);
  EXPECT_GT(pane->result()->doubled, 0);
  EXPECT_NE(text("rehearse verdict").indexOf("of 100"), -1);
  EXPECT_EQ(session().book.shelf().scores.back().value, pane->result()->score);
}

TEST_F(StagesTest, BeginsANewTakeAndLosesNothing) {
  QTest::keyClick(&window_, Qt::Key_N, Qt::ControlModifier);
  EXPECT_TRUE(session().document.file().empty());
  EXPECT_FALSE(session().document.sums());
  session().document.edit([](take::Take& t) { t.name = "Not saved yet"; });
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().document.saved_words().startsWith("Kept"); }, 4000));
  // As a session that crashed leaves it: this one's own is locked as long as its window lives.
  const test::fs::path kept = session().document.kept_file();
  test::fs::copy_file(kept, kept.parent_path() / "crashed.askcount");
  Window next;
  next.take_up_last();
  EXPECT_EQ(next.session().document.take().name, "Not saved yet");
  next.session().begin();
  bool aside = false;
  for (const QString& file : recent_takes())
    aside = aside || take::load_take(file.toStdString()).name == "Not saved yet";
  EXPECT_TRUE(aside) << "put aside under a name of its own";
}

}  // namespace
}  // namespace askcount::app
