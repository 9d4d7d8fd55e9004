// SPDX-License-Identifier: GPL-3.0-or-later
// The window as the benches open it: with its own type, 1280 × 800, nothing of the person's touched.
#pragma once

#include <QApplication>
#include <QElapsedTimer>

#include "app/shell/window.h"
#include "app/style/style.h"

namespace askcount {

/// Lets the window come round for this many milliseconds.
inline void settle(int ms) {
  QElapsedTimer clock;
  clock.start();
  while (clock.elapsed() < ms) QApplication::processEvents(QEventLoop::AllEvents, 5);
}

/// Before there is a window.
inline void dress() {
  QApplication::setApplicationName("ask-count-bench");
  QApplication::setStyle("Fusion");
  app::load_fonts();
  QApplication::setFont(app::word_font(10));
}

/// Opens a take and shows the window; false where it cannot be opened.
inline bool show_take(app::Window& window, const char* take) {
  if (!window.open(take)) return false;
  window.resize(1280, 800);
  window.show();
  return true;
}

}  // namespace askcount
