// SPDX-License-Identifier: GPL-3.0-or-later
// All stages walked with the keyboard alone, in three languages, at the size of type the window was drawn for
// and at one and a half of it.
#include <QAbstractButton>
#include <QLineEdit>

#include "app/session/languages.h"
#include "app/stages/book/book_list.h"
#include "app/style/style.h"
#include "app/widgets/sentence.h"
#include "events.h"
#include "every_hand.h"

namespace askcount::app {
namespace {

struct Way {
  const char* language;
  double type;
};

class KeyboardAlone : public EveryHand, public ::testing::WithParamInterface<Way> {
 protected:
  void SetUp() override {
    ASSERT_EQ(speak_language(GetParam().language), QString(GetParam().language));
    before_ = QApplication::font();
    QFont type = before_;
    type.setPointSizeF(10 * GetParam().type);
    QApplication::setFont(type);
    open();
  }
  void TearDown() override {
    window_.reset();
    QApplication::setFont(before_);
    speak_language("en");
  }

  /// A key for whatever has the focus.
  void press(Qt::Key key, Qt::KeyboardModifiers with = {}) {
    QWidget* focus = QApplication::focusWidget();
    QTest::keyClick(focus ? focus : window_.get(), key, with);
  }
  void write(const QString& words) {
    for (const QChar c : words) QTest::keyClicks(QApplication::focusWidget(), QString(c));
  }
  void to_stage(int n) {
    press(static_cast<Qt::Key>(Qt::Key_0 + n), Qt::AltModifier);
    run_events();
    ASSERT_EQ(window_->current_stage(), n - 1);
  }
  /// Tab until that one has the focus; it can be seen then, where the stage scrolls too.
  void tab_to(const QWidget* target) {
    ASSERT_TRUE(target);
    for (int n = 0; n < 300 && QApplication::focusWidget() != target; ++n) press(Qt::Key_Tab);
    ASSERT_EQ(QApplication::focusWidget(), target) << named(target) << " is not reached";
    run_events();
    EXPECT_FALSE(target->visibleRegion().isEmpty())
        << named(target) << " has the focus and is not to be seen";
  }
  template <typename T>
  T* child(const std::string& name) {
    return window_->findChild<T*>(QString::fromStdString(name));
  }
  Session& session() { return window_->session(); }
  const take::Take& take() { return session().document.take(); }

  QFont before_;
};

TEST_P(KeyboardAlone, WordsAreTypedWhereWordsBelong) {
  to_stage(1);
  tab_to(child<SlotField>(say("subject")));
  write("lanterns");  // L is the lamp elsewhere, N and T are keys of stages
  press(Qt::Key_Return);
  EXPECT_EQ(take().subject, "lanterns");
  EXPECT_NE(current_lighting(), Lighting::Lamp);
  tab_to(child<SlotField>(plan::slot_name(plan::Slot::Clip)));
  press(Qt::Key_L);
  EXPECT_EQ(current_lighting(), Lighting::Lamp) << "a slot for a number leaves letters to the window";
  press(Qt::Key_L);
}

TEST_P(KeyboardAlone, EveryStageDoesItsWork) {
  to_stage(1);
  tab_to(child<SlotField>(plan::slot_name(plan::Slot::Clip)));
  write("12");  // a digit opens the slot
  press(Qt::Key_Return);
  ASSERT_TRUE(session().document.sums());
  EXPECT_NEAR(session().document.sums()->clip_s, 12, 0.05);
  press(Qt::Key_Z, Qt::ControlModifier);

  to_stage(2);
  tab_to(child<QWidget>("panorama"));
  const double aim = take().light.move.from.bearing_deg;
  press(Qt::Key_Right);
  EXPECT_NEAR(std::fmod(take().light.move.from.bearing_deg - aim + 360, 360), 1, 1e-6);
  press(Qt::Key_Left);
  tab_to(child<QWidget>("ramp"));

  to_stage(3);
  tab_to(child<QWidget>("set pages"));
  press(Qt::Key_Right);
  press(Qt::Key_Right);
  const auto boxes = window_->stage(2).findChildren<QAbstractButton*>(QRegularExpression("^check "));
  ASSERT_FALSE(boxes.empty());
  const size_t ticked = take().ticks.size();
  tab_to(boxes.front());
  press(Qt::Key_Space);
  EXPECT_TRUE(QTest::qWaitFor([&] { return take().ticks.size() != ticked; }, 5000));

  to_stage(4);
  // What begins the shoot is reached; what it does is tried where a card may be written.
  for (const QWidget* w : controls()) tab_to(w);

  to_stage(5);
  const size_t left_out = take().gather.leave_out.size();
  tab_to(controls().back());  // wherever the focus is
  press(Qt::Key_X);
  EXPECT_EQ(take().gather.leave_out.size(), left_out + 1);
  press(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(take().gather.leave_out.size(), left_out);

  to_stage(6);
  ASSERT_TRUE(QTest::qWaitFor([this] { return !session().job.running(); }, 60000));
  tab_to(child<QWidget>("add " + say(look::lanes()[0].title)));
  press(Qt::Key_Space);
  tab_to(child<QWidget>("look"));
  const take::Take before = take();
  press(Qt::Key_Plus);
  EXPECT_FALSE(take() == before) << "the lane in focus went up";
  press(Qt::Key_Z, Qt::ControlModifier);

  to_stage(7);
  tab_to(child<QWidget>("make"));
  press(Qt::Key_Space);
  ASSERT_TRUE(QTest::qWaitFor([this] { return session().films.outcome().has_value(); }, 60000));

  to_stage(8);
  session().book.wait();
  tab_to(window_->findChild<BookList*>());
  press(Qt::Key_Home);
  EXPECT_NE(window_->findChild<BookList*>()->chosen(), 0);
}

INSTANTIATE_TEST_SUITE_P(Languages, KeyboardAlone,
                         ::testing::Values(Way{"en", 1}, Way{"en", 1.5}, Way{"de", 1}, Way{"de", 1.5},
                                           Way{"fr", 1}, Way{"fr", 1.5}),
                         [](const auto& way) {
                           return std::string(way.param.language) + (way.param.type > 1 ? "Large" : "");
                         });

}  // namespace
}  // namespace askcount::app
