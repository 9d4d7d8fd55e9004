// SPDX-License-Identifier: GPL-3.0-or-later
// The journal of a shoot: every event on disk as it happens, and the state that follows from it.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/instant.h"
#include "base/json.h"

namespace askcount::journal {

/// A file of lines, one JSON object each, only ever added to. Each line is on disk when append() returns.
class Journal {
 public:
  Journal() = default;
  ~Journal();
  Journal(Journal&& other) noexcept;
  Journal& operator=(Journal&& other) noexcept;

  /// Opens for adding; the file is made where it is missing. A half line at its end (the power went) is ended
  /// first, so that the next stands by itself. Throws BadInput where a file is there that is no journal
  /// or a link (one that came with a take from elsewhere might lead anywhere), Failed where it cannot be
  /// written; both name it.
  void open(const std::filesystem::path& file);
  void close();
  bool is_open() const { return handle_ >= 0; }
  /// Adds a line and flushes it to the disk. Its time, "at", in milliseconds of universal time, is this
  /// moment unless the entry has one. Throws Failed; what was written of the line is taken back then, and the
  /// next stands by itself.
  void append(Json entry);

 private:
  int handle_ = -1;
  std::filesystem::path file_;
  bool half_ = false;  // its last line could not be written whole, nor taken back
};

/// The lines of a journal that can be read; a half line at the end (the power went) is left out. Empty where
/// there is no file. Throws as read_file() where it cannot be read: a journal that is there is never taken
/// for a shorter one.
std::vector<Json> read_journal(const std::filesystem::path& file);

/// The journal of a take's newest shoot, beside the take; NAME.journal where there is none yet. The first
/// shoot writes to NAME.journal, later ones to NAME.2026-10-09-175000.journal.
std::filesystem::path newest_journal(const std::filesystem::path& take_file);

/// Every journal of a take, the oldest first; those of takes with longer names are none of its.
std::vector<std::filesystem::path> journals_of(const std::filesystem::path& take_file);

/// The journal for a new shoot that begins at `start`: a file that is not there yet. Earlier ones stay.
std::filesystem::path new_journal(const std::filesystem::path& take_file, Instant start);

}  // namespace askcount::journal
