// For every hand and eye: names and roles, Tab, visible focus, contrast, large type, and the page of keys.
#include <QAbstractButton>
#include <QAccessible>
#include <QAction>
#include <QApplication>
#include <QLabel>
#include <QLineEdit>
#include <QTest>
#include <QTimer>

#include "app/shell/keys_page.h"
#include "app/shell/window.h"
#include "app/style/style.h"
#include "app/widgets/sentence.h"
#include "frames.h"
#include "support.h"

namespace askcount::app {
namespace {

class EveryHand : public ::testing::Test {
 protected:
  void SetUp() override { open(); }
  void open() {
    take::Take take = test::small_take(30);
    take.wish(plan::Slot::ScreenCrossing, 4);
    take.card = "card";
    write_frames(folder_ / "card");
    save_take(take, folder_ / "a.askcount");
    window_ = std::make_unique<Window>();
    ASSERT_TRUE(window_->open(folder_ / "a.askcount"));
    window_->resize(1280, 800);
    window_->show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(window_.get()));
    QApplication::setActiveWindow(window_.get());
    window_->go_to(5);
    ASSERT_TRUE(
        QTest::qWaitFor([this] { return window_->session().levelling.evenness().has_value(); }, 60000));
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window_->session().job.running(); }, 60000));
  }
  /// 30 grey frames, one every 20 s.
  static void write_frames(const test::fs::path& card) {
    test::fs::create_directories(card);
    for (int n = 0; n < 30; ++n) {
      image::Coded8 p(image::Size{240, 160});
      for (int y = 0; y < 160; ++y)
        for (int x = 0; x < 720; ++x)
          p.row(y)[x] = static_cast<std::uint8_t>(60 + 4 * ((x / 60 + y / 20) % 9) + n);
      write_frame(card / fmt::format("E_{:04}.JPG", n + 1), p, 1791568200000LL + 20000LL * n);
    }
  }
  /// What Tab can reach now.
  std::vector<QWidget*> controls() {
    std::vector<QWidget*> list;
    for (QWidget* w : window_->findChildren<QWidget*>())
      if (w->isVisible() && w->isEnabled() && (w->focusPolicy() & Qt::TabFocus) && !w->focusProxy() &&
          w->window() == window_.get())
        list.push_back(w);
    return list;
  }
  void on_every_stage(const std::function<void(int)>& look) {
    for (int stage = 0; stage < window_->stage_count(); ++stage) {
      window_->go_to(stage);
      QTest::qWait(30);
      look(stage);
    }
  }
  static std::string named(const QWidget* w) {
    return std::string(w->metaObject()->className()) + " \"" + w->objectName().toStdString() + "\"";
  }

  test::Folder folder_;
  std::unique_ptr<Window> window_;
};

TEST_F(EveryHand, EveryControlHasANameAndARole) {
  on_every_stage([&](int stage) {
    EXPECT_TRUE(stage == 7 || !window_->stage(stage).empty())
        << "stage " << stage + 1 << " shows nothing of itself";
    for (QWidget* w : controls()) {
      QAccessibleInterface* told = QAccessible::queryAccessibleInterface(w);
      ASSERT_TRUE(told) << named(w);
      EXPECT_FALSE(told->text(QAccessible::Name).trimmed().isEmpty())
          << named(w) << " on stage " << stage + 1;
      EXPECT_TRUE(told->role() != QAccessible::NoRole && told->role() != QAccessible::Client)
          << named(w) << " on stage " << stage + 1;
    }
  });
  const auto* slot =
      window_->findChild<SlotField*>(QString::fromStdString(plan::slot_name(plan::Slot::Interval)));
  QAccessibleInterface* told = QAccessible::queryAccessibleInterface(const_cast<SlotField*>(slot));
  EXPECT_EQ(told->role(), QAccessible::EditableText);
  EXPECT_EQ(told->text(QAccessible::Value), "20 s");
}

TEST_F(EveryHand, TabReachesEveryControlAndComesRound) {
  on_every_stage([&](int stage) {
    const std::vector<QWidget*> all = controls();
    ASSERT_FALSE(all.empty()) << "stage " << stage + 1;
    std::set<const QWidget*> reached;
    all.front()->setFocus(Qt::TabFocusReason);
    for (size_t i = 0; i < 2 * all.size() + 10; ++i) {
      QWidget* now = QApplication::focusWidget();
      ASSERT_TRUE(now);
      if (!reached.insert(now).second && now == all.front() && i > 0) break;
      QTest::keyClick(now, Qt::Key_Tab);
    }
    for (const QWidget* w : all)
      EXPECT_TRUE(reached.contains(w))
          << named(w) << " on stage " << stage + 1 << " cannot be reached by Tab";
  });
}

TEST_F(EveryHand, FocusIsSeen) {
  on_every_stage([&](int stage) {
    for (QWidget* w : controls()) {
      window_->setFocus();
      QTest::qWait(1);
      const QImage without = window_->grab().toImage();
      w->setFocus(Qt::TabFocusReason);
      QTest::qWait(1);
      if (QApplication::focusWidget() != w) continue;  // Tab's own test tells
      EXPECT_NE(window_->grab().toImage(), without) << named(w) << " on stage " << stage + 1;
    }
  });
}

/// By the formula of the web's guidelines (WCAG 2.1, 1.4.3): 4.5 for words, 7 for those that matter most, 3
/// for signs.
TEST(Contrast, IsEnoughInEveryLight) {
  const auto luminance = [](const QColor& c) {
    const auto linear = [](double v) {
      return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
    };
    return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
  };
  const auto ratio = [&](const QColor& a, const QColor& b) {
    const double x = luminance(a), y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
  };
  EXPECT_NEAR(ratio(Qt::black, Qt::white), 21, 0.01);
  EXPECT_NEAR(ratio(QColor("#777777"), Qt::white), 4.48, 0.01) << "an example of the guidelines' own";
  for (const Lighting light : {Lighting::Day, Lighting::Studio, Lighting::Lamp}) {
    const Colours& c = colours(light);
    const bool lamp = light == Lighting::Lamp;  // dim on purpose, for eyes that are to stay dark adapted
    for (const QColor& under : {c.paper, c.bar, c.column, c.card}) {
      EXPECT_GE(ratio(c.ink, under), lamp ? 4.5 : 7) << static_cast<int>(light);
      EXPECT_GE(ratio(c.muted, under), lamp ? 3 : 4.5)
          << static_cast<int>(light) << under.name().toStdString();
    }
    for (const QColor& words : {c.field, c.film})
      for (const QColor& under : {c.paper, c.bar, c.card})
        EXPECT_GE(ratio(words, under), lamp ? 3 : 4.5)
            << static_cast<int>(light) << words.name().toStdString();
    EXPECT_GE(ratio(c.answer_ink, c.answer), lamp ? 4.5 : 7) << static_cast<int>(light);
    for (const QColor& sign : {c.ok, c.warning, c.stop})
      EXPECT_GE(ratio(sign, c.card), lamp ? 2 : 3) << static_cast<int>(light) << sign.name().toStdString();
  }
}

TEST_F(EveryHand, ThePageOfKeysSaysWhatTheKeysDo) {
  window_->go_to(0);
  auto* slot = window_->findChild<SlotField*>(QString::fromStdString(plan::slot_name(plan::Slot::Gap)));
  slot->setFocus();
  QStringList told;
  QString why;
  QTimer::singleShot(0, window_.get(), [&] {
    auto* page = qobject_cast<KeysPage*>(QApplication::activeModalWidget());
    ASSERT_TRUE(page);
    for (const QLabel* label : page->findChildren<QLabel*>()) told << label->text();
    if (const auto* words = page->findChild<QLabel*>("why")) why = words->text();
    QTest::keyClick(page, Qt::Key_Escape);
  });
  QTest::keyClick(slot, Qt::Key_F1);
  ASSERT_FALSE(told.isEmpty()) << "F1 opens it, Escape closes it";
  EXPECT_TRUE(why.contains("Gap = interval")) << why.toStdString();
  for (const QAction* a : window_->actions()) {
    EXPECT_TRUE(told.contains(a->text())) << a->text().toStdString();
    EXPECT_TRUE(told.contains(a->shortcut().toString(QKeySequence::NativeText))) << a->text().toStdString();
  }
  for (const Keys::Deed& d : window_->stage(0).keys().deeds()) EXPECT_TRUE(told.contains(d.words));
  for (const Keys::Deed& d : slot->keys().deeds())
    EXPECT_TRUE(d.words.isEmpty() || told.contains(d.words)) << d.words.toStdString();
}

TEST_F(EveryHand, NoKeyHasTwoMeaningsOnAStage) {
  on_every_stage([&](int stage) {
    std::set<std::pair<int, int>> seen;
    for (const Keys::Deed& d : window_->stage(stage).keys().deeds())
      EXPECT_TRUE(seen.insert({d.key, d.with}).second) << d.name().toStdString() << " on stage " << stage + 1;
    for (const QAction* a : window_->actions())
      EXPECT_FALSE(a->shortcut().isEmpty()) << a->text().toStdString();
  });
}

TEST(KeysDo, WhatTheyAreFor) {
  Keys keys;
  std::string done;
  keys.add(Qt::Key_N, "next", [&] { done += 'n'; });
  keys.add(
      Qt::Key_N, "before", [&] { done += 'N'; }, Qt::ShiftModifier);
  keys.add(Qt::Key_X, "out", [&] { done += 'x'; });
  keys.add_held(
      Qt::Key_B, "blink", [&] { done += 'b'; }, [&] { done += 'B'; });
  const auto press = [&](Qt::Key key, Qt::KeyboardModifiers with = {}, bool again = false) {
    return keys.pressed(QKeyEvent(QEvent::KeyPress, key, with, {}, again));
  };
  EXPECT_TRUE(press(Qt::Key_N));
  EXPECT_TRUE(press(Qt::Key_N, Qt::ShiftModifier));
  EXPECT_TRUE(press(Qt::Key_X, Qt::ShiftModifier)) << "Shift alone changes nothing where it has no meaning";
  EXPECT_FALSE(press(Qt::Key_X, Qt::ControlModifier)) << "Ctrl+X is not X";
  EXPECT_FALSE(press(Qt::Key_Q));
  EXPECT_TRUE(press(Qt::Key_B));
  EXPECT_TRUE(press(Qt::Key_B, {}, true)) << "held down: once";
  EXPECT_FALSE(keys.released(QKeyEvent(QEvent::KeyRelease, Qt::Key_B, {}, {}, true)));
  EXPECT_TRUE(keys.released(QKeyEvent(QEvent::KeyRelease, Qt::Key_B, {})));
  EXPECT_FALSE(keys.released(QKeyEvent(QEvent::KeyRelease, Qt::Key_N, {})));
  EXPECT_EQ(done, "nNxbB");
}

/// The type the desktop asks for, to twice what it was drawn for.
class LargeType : public EveryHand, public ::testing::WithParamInterface<double> {
 protected:
  void SetUp() override {
    before_ = QApplication::font();
    QFont large = before_;
    large.setPointSizeF(10 * GetParam());
    QApplication::setFont(large);
    open();
  }
  void TearDown() override {
    window_.reset();
    QApplication::setFont(before_);
  }
  QFont before_;
};

TEST_P(LargeType, FitsIntoTheWindow) {
  EXPECT_NEAR(word_font(10).pointSizeF(), 10 * GetParam(), 0.1);
  on_every_stage([&](int stage) {
    EXPECT_LE(window_->width(), 1280) << "stage " << stage + 1 << " makes the window wider than the screen";
    for (const QAbstractButton* b : window_->findChildren<QAbstractButton*>())
      if (b->isVisible() && !b->text().isEmpty()) {
        EXPECT_GE(b->width(), b->fontMetrics().horizontalAdvance(b->text()))
            << b->text().toStdString() << " on stage " << stage + 1;
      }
    for (const SlotField* s : window_->stage(stage).findChildren<SlotField*>())
      if (s->isVisible() && s->parentWidget()->width() > 0) {
        EXPECT_LE(s->geometry().right(), s->parentWidget()->width()) << s->objectName().toStdString();
      }
  });
}

INSTANTIATE_TEST_SUITE_P(Sizes, LargeType, ::testing::Values(1.0, 1.5, 2.0));

}  // namespace
}  // namespace askcount::app
