// The tests of the window run inside an application.
#include <gtest/gtest.h>

#include <QApplication>

#include "app/look/look.h"

int main(int argc, char** argv) {
  ::testing::InitGoogleTest(&argc, argv);
  if (GTEST_FLAG_GET(list_tests)) return RUN_ALL_TESTS();
  QApplication app(argc, argv);
  QApplication::setStyle("Fusion");
  askcount::app::load_fonts();
  QApplication::setFont(askcount::app::words(10));
  return RUN_ALL_TESTS();
}
