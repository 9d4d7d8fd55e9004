// SPDX-License-Identifier: GPL-3.0-or-later
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
#include "app/style/style.h"
#include "app/widgets/sentence.h"
#include "events.h"
#include "every_hand.h"

namespace askcount::app {
namespace {

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
      run_events();
      const QImage without = window_->grab().toImage();
      w->setFocus(Qt::TabFocusReason);
      run_events();
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
  for (const bool high : {false, true}) {
    set_high_contrast(high);
    for (const Lighting light : {Lighting::Day, Lighting::Studio, Lighting::Lamp}) {
      const Colours& c = colours(light);
      const bool lamp = light == Lighting::Lamp;  // dim on purpose, for eyes that are to stay dark adapted
      const std::string which = fmt::format("light {}{}", static_cast<int>(light), high ? ", high" : "");
      const double most = lamp ? (high ? 5 : 4.5) : high ? 18 : 7;
      const double rest = lamp ? (high ? 5 : 3) : high ? 10 : 4.5;
      for (const QColor& under : {c.paper, c.bar, c.column, c.card}) {
        EXPECT_GE(ratio(c.ink, under), most) << which;
        EXPECT_GE(ratio(c.muted, under), rest) << which << under.name().toStdString();
      }
      for (const QColor& words : {c.field, c.film})
        for (const QColor& under : {c.paper, c.bar, c.card})
          EXPECT_GE(ratio(words, under), lamp ? rest : high ? 7 : 4.5) << which << words.name().toStdString();
      EXPECT_GE(ratio(c.answer_ink, c.answer), lamp ? 4.5 : 7) << which;
      for (const QColor& sign : {c.ok, c.warning, c.stop})
        EXPECT_GE(ratio(sign, c.card), lamp ? 2 : high ? 7 : 3) << which << sign.name().toStdString();
      if (high) {
        EXPECT_GE(ratio(c.line, c.paper), 3) << which << " borders are seen";
      }
    }
  }
  set_high_contrast(false);
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

TEST_F(EveryHand, ThePageHasTheKeysOfWhatIsOnTheStage) {
  const auto told_on = [&](int stage, QWidget* focus) {
    window_->go_to(stage);
    run_events();
    QApplication::setActiveWindow(window_.get());  // the page had it
    if (!focus) focus = controls().front();
    focus->setFocus();
    QStringList told;
    QTimer::singleShot(0, window_.get(), [&] {
      auto* page = qobject_cast<KeysPage*>(QApplication::activeModalWidget());
      ASSERT_TRUE(page);
      for (const QLabel* label : page->findChildren<QLabel*>()) told << label->text();
      QTest::keyClick(page, Qt::Key_Escape);
    });
    QTest::keyClick(focus, Qt::Key_F1);
    return told;
  };
  int keyed = 0;
  for (int stage = 0; stage < window_->stage_count(); ++stage) {
    const QStringList told = told_on(stage, nullptr);
    for (QWidget* w : window_->stage(stage).findChildren<QWidget*>()) {
      const auto* keys = dynamic_cast<const Keyed*>(w);
      if (!keys || !w->isVisible() || qobject_cast<SlotField*>(w)) continue;
      ++keyed;
      EXPECT_FALSE(keys->keys().deeds().empty()) << named(w);
      EXPECT_TRUE(told.contains(w->accessibleName())) << named(w) << " on stage " << stage + 1;
      for (const Keys::Deed& d : keys->keys().deeds())
        EXPECT_TRUE(d.words.isEmpty() || told.contains(d.words)) << d.words.toStdString();
    }
  }
  EXPECT_GE(keyed, 8);
  auto* ramp = window_->findChild<QWidget*>("ramp");
  const QStringList told = told_on(1, ramp);
  EXPECT_LT(told.indexOf(ramp->accessibleName()), told.indexOf("On every stage"))
      << "what has the focus first";
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
