// SPDX-License-Identifier: GPL-3.0-or-later
#include "link/end_when_told.h"

#include <QCoreApplication>
#include <QSocketNotifier>

#include "base/process.h"

namespace askcount::link {

void end_when_told(QCoreApplication& app) {
  const int wire = signal_wire();
  if (wire < 0) return;
  auto* notifier = new QSocketNotifier(wire, QSocketNotifier::Read, &app);
  QObject::connect(notifier, &QSocketNotifier::activated, &app, [] { QCoreApplication::quit(); });
}

}  // namespace askcount::link
