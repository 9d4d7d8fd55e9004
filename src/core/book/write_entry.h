// SPDX-License-Identifier: GPL-3.0-or-later
// One entry put into the tables of the book.
#pragma once

#include <filesystem>
#include <string>

#include "book/entry.h"

namespace SQLite {
class Database;
}

namespace askcount::book {

/// A moment as the tables have it: milliseconds of universal time.
inline std::int64_t ms_of(Instant at) {
  return at.time_since_epoch().count();
}

/// By which an entry is known: its file, or for one told by hand its number.
std::string key_of(const Entry& entry);

/// Writes it: a new row, or merged() into the one of its key, or into that of a take or folder of the same
/// name and start whose file is gone (it was moved). What was packed with a take goes in with it. Within the
/// caller's transaction; `book` is how errors call the file. Returns the id. Throws SQLite::Exception.
long long write_entry(SQLite::Database& db, const std::filesystem::path& book, const Entry& entry);

}  // namespace askcount::book
