// SPDX-License-Identifier: GPL-3.0-or-later
// The askcount command, run as a person or a script runs it.
#pragma once

#include <nlohmann/json.hpp>

#include "base/json.h"
#include "support.h"

namespace askcount {

/// The command's takes file themselves into a book of the tests' own.
inline const test::Folder& data_home() {
  static const test::Folder folder;
  return folder;
}
inline const int kOwnBook = setenv("XDG_DATA_HOME", data_home().path().c_str(), 1);

inline test::Said askcount(const std::string& arguments) {
  return test::run(std::string(ASKCOUNT_COMMAND) + " " + arguments);
}

/// The object it answers with; fails the test where it does not answer.
inline Json answer(const std::string& arguments) {
  const test::Said said = askcount(arguments + " --json");
  EXPECT_EQ(said.exit, 0) << arguments << "\n" << said.err;
  return said.exit == 0 ? Json::parse(said.out) : Json{};
}

}  // namespace askcount
