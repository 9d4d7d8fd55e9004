// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/rebuild.h"

#include <SQLiteCpp/SQLiteCpp.h>

#include <algorithm>

#include "base/error.h"
#include "book/learn.h"
#include "book/paths.h"
#include "ingest/gather.h"

namespace askcount::book {
namespace fs = std::filesystem;
namespace {

/// What can be read of a damaged file, row by row.
std::vector<Entry> salvaged(const fs::path& damaged) {
  std::vector<Entry> list;
  try {
    SQLite::Database db(damaged.string(), SQLite::OPEN_READONLY);
    SQLite::Statement rows(db, "SELECT json FROM entries WHERE take = ?");
    const std::int64_t last = db.execAndGet("SELECT max(id) FROM takes").getInt64();
    for (std::int64_t id = 1; id <= last; ++id) {
      try {
        rows.reset();
        rows.bind(1, id);
        if (rows.executeStep())
          list.push_back(entry_from_text(rows.getColumn(0).getString(), damaged.string()));
      } catch (const std::exception&) {
        // This one is gone; the next may not be.
      }
    }
  } catch (const std::exception&) {
    // Nothing of it can be read.
  }
  return list;
}

/// A take's or a folder's entry from what lies there now; nothing where nothing can be read.
std::optional<Entry> read_again(const Entry& listed) {
  std::error_code ec;
  try {
    if (listed.how == How::Take && fs::is_regular_file(listed.file, ec))
      return entry_of(take::load_take(listed.file), listed.file);
    if (listed.how == How::Folder && fs::is_directory(listed.file, ec))
      return entry_of(ingest::gather(fs::path(listed.file)), listed.file);
  } catch (const std::exception&) {
    // It can be filed again when it is whole.
  }
  return {};
}

}  // namespace

std::vector<Entry> rebuilt_entries(const fs::path& book, const fs::path& damaged) {
  std::vector<Entry> list = salvaged(damaged);
  for (const Entry& said : listed(book)) {
    const auto had = std::find_if(list.begin(), list.end(), [&](const Entry& e) {
      return said.how == How::Hand ? same_hand(e, said) : e.file == said.file;
    });
    if (had != list.end()) {
      if (!said.words.none()) had->words = said.words;
      continue;
    }
    Entry e = said;
    if (said.how != How::Hand) {
      if (auto again = read_again(said))
        e = std::move(*again);
      else
        e.name = fs::path(said.file).stem().string();  // gone, but it was there: it is not forgotten
    }
    e.words = said.words;
    list.push_back(std::move(e));
  }
  return list;
}

Entry entry_again(const Row& row) {
  Entry e;
  e.file = row.file;
  if (row.file.empty()) {
    e.how = How::Hand;
  } else {
    std::error_code ec;
    e.how = fs::path(row.file).extension() == ".askcount" ? How::Take : How::Folder;
    if (const auto again = read_again(e)) e = *again;
  }
  e.name = row.name;
  e.words = row.words;
  return e;
}

std::vector<Entry> takes_below(const fs::path& folder) {
  std::vector<Entry> list;
  std::error_code ec;
  for (fs::recursive_directory_iterator it(folder, fs::directory_options::skip_permission_denied, ec), end;
       !ec && it != end; it.increment(ec)) {
    if (it->path().extension() != ".askcount" || !it->is_regular_file(ec)) continue;
    Entry named;
    named.file = it->path().string();
    if (auto e = read_again(named)) list.push_back(std::move(*e));
  }
  return list;
}

}  // namespace askcount::book
