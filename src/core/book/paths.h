// SPDX-License-Identifier: GPL-3.0-or-later
// The list that lies beside the book: which takes are in it and what was said of them, one line each, only
// ever added to. What a damaged book is made anew from.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "book/entry.h"

namespace askcount::book {

/// A file's path as the book keeps it: absolute, links followed as far as they are there; as it was where
/// that cannot be.
std::filesystem::path whole_path(const std::filesystem::path& file);

/// "book.db" has "book.takes" beside it.
std::filesystem::path list_beside(const std::filesystem::path& book);

/// Takes and folders that are filed for the first time, and entries told by hand, these whole; what was said
/// of one. Each is on disk when it returns. Throw as journal::Journal.
void note_filed(const std::filesystem::path& book, const std::vector<Entry>& entries);
void note_words(const std::filesystem::path& book, const Entry& entry);
/// One that is taken out; filed after that, it is in again.
void note_out(const std::filesystem::path& book, const Entry& entry);

/// What was said of a take in another book, where it was packed: "NAME.book" beside the take's file. Nothing
/// where there is none, or where it cannot be read.
std::optional<Entry> packed_with(const std::filesystem::path& take_file);

/// Whether two entries told by hand are the same one.
bool same_hand(const Entry& a, const Entry& b);
/// What the list says, in its order: entries told by hand are whole, the others have only `how`, `file` and
/// `words`. Lines that cannot be read are passed over.
std::vector<Entry> listed(const std::filesystem::path& book);

}  // namespace askcount::book
