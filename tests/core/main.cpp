// SPDX-License-Identifier: GPL-3.0-or-later
// The tests of the core run under the language of the environment, as the window does: numbers must not
// depend on it.
#include <gtest/gtest.h>

#include <clocale>

int main(int argc, char** argv) {
  std::setlocale(LC_ALL, "");
  ::testing::InitGoogleTest(&argc, argv);
  return RUN_ALL_TESTS();
}
