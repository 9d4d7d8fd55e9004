// SPDX-License-Identifier: GPL-3.0-or-later
// The events of the window that are due, run without waiting for the clock.
#pragma once

#include <QCoreApplication>

namespace askcount::app {

/// Runs layouts, queued signals and paints that are due, and what follows from them.
inline void run_events() {
  constexpr int kRounds = 20;  // an event posts another: deeper than any chain of the window
  for (int i = 0; i < kRounds; ++i) {
    QCoreApplication::sendPostedEvents();
    QCoreApplication::processEvents();
  }
}

}  // namespace askcount::app
