// SPDX-License-Identifier: GPL-3.0-or-later
// A take's file changed by one program at a time.
#pragma once

#include <filesystem>

#include "base/output.h"
#include "take/take.h"

namespace askcount::take {

/// Holds a take's file as long as this lives: whoever else wants to change it waits. Programs that only read
/// it do not. Where the file is not there, or its disk knows no locks, nothing is held.
class Hold {
 public:
  /// Waits for the others, half a minute at most; throws Failed after that, naming the file.
  explicit Hold(const std::filesystem::path& file);
  ~Hold();
  Hold(const Hold&) = delete;
  Hold& operator=(const Hold&) = delete;

 private:
  int handle_ = -1;
};

/// A take that a verb changes: read, changed and written while its file is held, so that of many at once none
/// loses another's change. What takes long is worked out before.
class Edited {
 public:
  /// Throws as Hold and load_take().
  explicit Edited(std::filesystem::path file);

  Take take;
  /// Throws as save_take().
  void save(const Guard& guard = {}) const;

 private:
  std::filesystem::path file_;
  Hold hold_;
};

}  // namespace askcount::take
