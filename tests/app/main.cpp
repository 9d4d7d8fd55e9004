// SPDX-License-Identifier: GPL-3.0-or-later
// The tests of the window run inside an application.
#include <gtest/gtest.h>

#include <QApplication>
#include <QDir>
#include <QStandardPaths>

#include "app/style/style.h"

int main(int argc, char** argv) {
  ::testing::InitGoogleTest(&argc, argv);
  if (GTEST_FLAG_GET(list_tests)) return RUN_ALL_TESTS();
  QApplication app(argc, argv);
  QApplication::setApplicationName(
      "askcount-tests-" + QString::number(QApplication::applicationPid()));  // a data folder of its own
  QStandardPaths::setTestModeEnabled(true);
  QApplication::setStyle("Fusion");
  askcount::app::load_fonts();
  QApplication::setFont(askcount::app::word_font(10));
  const int failed = RUN_ALL_TESTS();
  QDir(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation)).removeRecursively();
  return failed;
}
