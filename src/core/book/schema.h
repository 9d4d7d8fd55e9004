// SPDX-License-Identifier: GPL-3.0-or-later
// The file of the book: how it is laid out, and how an older one is brought up.
#pragma once

#include <filesystem>
#include <string_view>

namespace SQLite {
class Database;
}

namespace askcount::book {

/// The layout this program writes (SQLite's user_version).
int newest_layout();

/// Whether the database is a book: by its application id, or because nothing is in it yet.
bool is_book(SQLite::Database& db);

/// Whether the first hundred bytes of a file may be those of a book.
bool is_book_header(std::string_view head);

/// Brings a book up to a layout, step by step, each whole or not at all. Before the first step a book that
/// holds anything is copied to "NAME.before-N" (N the new layout) beside it, where it stays. Throws BadInput
/// for a book of a newer program, which is not changed, and SQLite::Exception.
void bring_up(SQLite::Database& db, const std::filesystem::path& file, int layout);

}  // namespace askcount::book
