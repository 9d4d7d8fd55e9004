// SPDX-License-Identifier: GPL-3.0-or-later
// What reads what comes from elsewhere: each of these is fed spoiled inputs.
#pragma once

#include <filesystem>
#include <functional>
#include <string>
#include <vector>

namespace askcount::fuzz {

struct Target {
  std::string name;
  std::vector<std::string> corpus;  ///< good inputs, of our own making
  std::vector<std::string> words;   ///< of the format
  int times = 2000;                 ///< it is fed in the ordinary tests
  bool refuses = true;              ///< there are inputs it throws Error for
  /// Reads the input. Throws Error for one it cannot use; anything else that is thrown is a fault, and so is
  /// a value that does not come back when it is written and read again (std::logic_error). `folder` is for
  /// files.
  std::function<void(const std::string& input, const std::filesystem::path& folder)> feed;
};

/// All of them. Their good inputs are made by our own writers.
std::vector<Target> targets();

}  // namespace askcount::fuzz
