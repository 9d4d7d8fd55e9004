// SPDX-License-Identifier: GPL-3.0-or-later
// The book in open formats: a table, a page for a browser, a sheet of paper; and takes from a table.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/output.h"
#include "book/book.h"
#include "book/kit.h"

namespace askcount::book {

/// One line a take, in columns that begin with "name,place,start,frames,planned_frames": RFC 4180, numbers
/// with a point, moments as ISO 8601.
std::string csv_of(const std::vector<Entry>& entries);

/// Entries told by hand from such a table, or from what `askcount book --json` printed ("takes"). Columns may
/// stand in any order and be missing, but for `name`. `file` is how errors call it. Throws BadInput naming it
/// and the line.
std::vector<Entry> entries_from_csv(const std::string& text, const std::string& file);
std::vector<Entry> entries_from_json(const Json& json, const std::string& file);

/// What a page or a sheet shows besides the takes.
struct Printed {
  std::string title;  ///< "The book: takes of boats at Tern Quay"
  Listing listing;
  Findings kit, mistakes, practice;
};

/// All that is to be printed of a list: title, and what the whole book says of kit and mistakes.
Printed printed_of(Book& book, const Query& query, Listing listing);

/// A page that stands by itself (pictures and drawings in it), for any browser. `pictures` are JPEG bytes,
/// one for each row; empty ones are left out.
std::string page_of(const Printed& printed, const std::vector<std::string>& pictures);

/// As many A4 pages as it takes. Throws as paper::Sheet::save().
void write_sheet(const Printed& printed, const std::filesystem::path& file, const Guard& guard);

}  // namespace askcount::book
