// SPDX-License-Identifier: GPL-3.0-or-later
// A damaged book made anew.
#pragma once

#include <filesystem>
#include <vector>

#include "book/book.h"
#include "book/entry.h"

namespace askcount::book {

/// Every entry that can still be had: those that can be read in the damaged file, those of the list beside
/// the book, and for takes the files themselves, which are read again. `book` is where it lay before
/// `damaged` was put aside. Words of the list go over those of the damaged file. Throws nothing but
/// std::bad_alloc.
std::vector<Entry> rebuilt_entries(const std::filesystem::path& book, const std::filesystem::path& damaged);

/// An entry whose own words are lost: of its take or folder where that can be read, otherwise what its row
/// says.
Entry entry_again(const Row& row);

/// The takes in a folder and below, as entries: for a book that was lost altogether. Files that cannot be
/// read are left out.
std::vector<Entry> takes_below(const std::filesystem::path& folder);

}  // namespace askcount::book
