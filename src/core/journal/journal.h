// The journal of a shoot: every event on disk as it happens, and the state that follows from it.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/json.h"

namespace askcount::journal {

/// A file of lines, one JSON object each, only ever added to. Each line is on disk when append() returns.
class Journal {
 public:
  Journal() = default;
  ~Journal();
  Journal(Journal&& other) noexcept;
  Journal& operator=(Journal&& other) noexcept;

  /// Opens for adding; the file is made where it is missing. Throws Failed naming it.
  void open(const std::filesystem::path& file);
  void close();
  bool is_open() const { return handle_ >= 0; }
  /// Adds a line and flushes it to the disk. Its time, "at", in milliseconds of universal time, is this
  /// moment unless the entry has one. Throws Failed.
  void append(Json entry);

 private:
  int handle_ = -1;
  std::filesystem::path file_;
};

/// The lines of a journal that can be read; a half line at the end (the power went) is left out. Empty where
/// there is no file.
std::vector<Json> read_journal(const std::filesystem::path& file);

/// Beside the take: NAME.journal.
std::filesystem::path journal_file(const std::filesystem::path& take_file);

}  // namespace askcount::journal
