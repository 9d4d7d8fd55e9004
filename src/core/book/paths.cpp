// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/paths.h"

#include <nlohmann/json.hpp>

#include <algorithm>

#include "base/error.h"
#include "base/json.h"
#include "journal/journal.h"

namespace askcount::book {
namespace {

Json head(const char* what, const Entry& e) {
  return {{"what", what},
          {"how", e.how == How::Folder ? "folder"
                  : e.how == How::Hand ? "hand"
                                       : "take"},
          {"file", e.file}};
}

}  // namespace

std::filesystem::path whole_path(const std::filesystem::path& file) {
  std::error_code ec;
  const std::filesystem::path whole = std::filesystem::weakly_canonical(std::filesystem::absolute(file), ec);
  return ec ? file : whole;
}

std::filesystem::path list_beside(const std::filesystem::path& book) {
  std::filesystem::path list = book;
  return list.replace_extension(".takes");
}

void note_filed(const std::filesystem::path& book, const std::vector<Entry>& entries) {
  if (entries.empty()) return;
  journal::Journal list;
  list.open(whole_path(list_beside(book)));
  for (const Entry& e : entries) {
    Json line = head(e.how == How::Hand ? "entry" : "filed", e);
    if (e.how == How::Hand) line["entry"] = to_json(e);
    list.append(std::move(line));
  }
}

void note_words(const std::filesystem::path& book, const Entry& entry) {
  if (entry.how == How::Hand) return note_filed(book, {entry});
  Json line = head("said", entry);
  line["words"] = to_json(entry)["words"];
  journal::Journal list;
  list.open(whole_path(list_beside(book)));
  list.append(std::move(line));
}

void note_out(const std::filesystem::path& book, const Entry& entry) {
  Json line = head("out", entry);
  line["entry"] = to_json(entry);
  journal::Journal list;
  list.open(whole_path(list_beside(book)));
  list.append(std::move(line));
}

std::optional<Entry> packed_with(const std::filesystem::path& take_file) {
  std::filesystem::path said = take_file;
  said.replace_extension(".book");
  std::error_code ec;
  if (!std::filesystem::is_regular_file(said, ec)) return {};
  try {
    Entry entry = entry_from_json(read_json(said), said.string());
    // Only what was packed with it: a stranger's word is not taken for files that lie elsewhere.
    std::erase_if(entry.films, [](const FilmMade& m) {
      const std::filesystem::path file = std::filesystem::path(m.file).lexically_normal();
      return file.empty() || file.is_absolute() || *file.begin() == "..";
    });
    for (FilmMade& m : entry.films) m.file = (take_file.parent_path() / m.file).string();
    return entry;
  } catch (const Error&) {
    return {};
  }
}

bool same_hand(const Entry& a, const Entry& b) {
  return a.how == How::Hand && b.how == How::Hand && a.told == b.told &&
         (a.told > 0 || (a.name == b.name && a.start == b.start));
}

std::vector<Entry> listed(const std::filesystem::path& book) {
  std::vector<Entry> list;
  for (const Json& line : journal::read_journal(list_beside(book))) {
    try {
      const std::string what = line.at("what");
      if (what == "entry" || what == "out") {
        const Entry e = entry_from_json(line.at("entry"), list_beside(book).string());
        std::erase_if(list, [&](const Entry& had) {
          return had.how == e.how && (e.how == How::Hand ? same_hand(had, e) : had.file == e.file);
        });
        if (what == "entry") list.push_back(e);
        continue;
      }
      const std::string file = line.at("file");
      auto had = std::find_if(list.begin(), list.end(), [&](const Entry& e) { return e.file == file; });
      if (had == list.end()) {
        Entry e;
        e.how = line.value("how", "") == "folder" ? How::Folder : How::Take;
        e.file = file;
        had = list.insert(list.end(), std::move(e));
      }
      if (what == "said") {
        Json words = Json::object();
        words["words"] = line.at("words");
        had->words = entry_from_json(words, list_beside(book).string()).words;
      }
    } catch (const std::exception&) {
      // A line that says something else than it should is passed over.
    }
  }
  return list;
}

}  // namespace askcount::book
