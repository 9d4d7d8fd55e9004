// SPDX-License-Identifier: GPL-3.0-or-later
// A window with a take of 30 frames, gathered and measured: for what every stage must do for every hand.
#pragma once

#include <QAccessible>
#include <QApplication>
#include <QTest>

#include "app/shell/window.h"
#include "events.h"
#include "frames.h"
#include "support.h"

namespace askcount::app {

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
      run_events();
      look(stage);
    }
  }
  static std::string named(const QWidget* w) {
    return std::string(w->metaObject()->className()) + " \"" + w->objectName().toStdString() + "\"";
  }

  test::Folder folder_;
  std::unique_ptr<Window> window_;
};

}  // namespace askcount::app
