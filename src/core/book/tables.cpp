// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/tables.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "base/csv.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount::book {
namespace {

constexpr const char* kColumns[] = {
    "name",           "place",   "start",  "frames", "planned_frames", "interval_s",
    "exposures_each", "field_s", "film_s", "fps",    "flicker_before", "flicker_after",
    "missing",        "verdict", "note",   "change", "subject",        "latitude_deg",
    "longitude_deg",  "zone",    "films",  "file"};

std::string number(double value, int decimals) {
  return value > 0 ? plain_number(value, decimals) : "";
}

/// `shown` is answer_json() of the entry.
std::string cell_of(const Entry& e, const Json& shown, const std::string& column) {
  if (column == "field_s") return number(e.field_s(), 1);
  if (column == "film_s") return number(e.film_s(), 3);
  if (column == "fps") return number(e.planned.fps, 3);
  if (column == "latitude_deg") return e.located() ? plain_number(e.place.latitude_deg, 5) : "";
  if (column == "longitude_deg") return e.located() ? plain_number(e.place.longitude_deg, 5) : "";
  if (column == "zone") return e.place.zone;
  if (column == "films") {
    std::string files;
    for (const FilmMade& m : e.films) files += (files.empty() ? "" : "; ") + m.file;
    return files;
  }
  const Json& value = shown.at(column);
  if (value.is_null()) return "";
  if (value.is_string()) return value.get<std::string>();
  return value.dump();
}

/// One take told by its columns; a column that is empty says nothing.
Entry entry_of_cells(const std::function<std::string(const char*)>& cell, const std::string& where) {
  const auto wrong = [&](const char* column, const std::string& said) {
    return bad_input(say("{}: \"{}\" cannot be \"{}\".", where, column, said));
  };
  const auto plain = [&](const char* column, double low, double high) {
    const std::string said = cell(column);
    std::string_view rest = said;
    if (said.empty()) return 0.0;
    const auto v = take_decimal(rest);
    if (!v || !rest.empty() || !(*v >= low && *v <= high)) throw wrong(column, said);
    return *v;
  };
  constexpr double kMost = 1e9;
  Entry e;
  e.how = How::Hand;
  e.name = cell("name");
  if (e.name.empty())
    throw bad_input(say("{}: a take needs a name.", where), say("Fill the column \"name\"."));
  e.subject = cell("subject");
  e.place.name = cell("place");
  e.place.latitude_deg = plain("latitude_deg", -90, 90);
  e.place.longitude_deg = plain("longitude_deg", -180, 180);
  if (const std::string zone = cell("zone"); !zone.empty()) e.place.zone = zone;
  if (const std::string start = cell("start"); !start.empty()) e.start = parse_instant(start, e.place.zone);
  e.planned.frames = static_cast<long long>(plain("planned_frames", 0, kMost));
  e.planned.interval_s = plain("interval_s", 0, kMost);
  e.planned.fps = plain("fps", 0, 1000);
  e.planned.exposures_each = std::max(1, static_cast<int>(plain("exposures_each", 0, 99)));
  if (!cell("frames").empty()) {
    Came c;
    c.frames = static_cast<long long>(plain("frames", 0, kMost));
    c.missing = static_cast<long long>(plain("missing", 0, kMost));
    c.field_s = plain("field_s", 0, kMost);
    if (e.planned.interval_s > 0) {
      c.interval_s = e.planned.interval_s;
      if (c.field_s <= 0) c.field_s = static_cast<double>(std::max(0LL, c.frames - 1)) * *c.interval_s;
    }
    c.exposures_each = e.planned.exposures_each;
    e.came = c;
  }
  if (!cell("flicker_before").empty() || !cell("flicker_after").empty())
    e.evened = Evened{plain("flicker_before", 0, 100), plain("flicker_after", 0, 100)};
  e.words.verdict = verdict_of(lowered(cell("verdict")));
  e.words.note = cell("note");
  e.words.change = cell("change");
  return e;
}

}  // namespace

std::string csv_of(const std::vector<Entry>& entries) {
  constexpr const char* kEnd = "\r\n";
  std::string text = csv_row({std::begin(kColumns), std::end(kColumns)}, kEnd);
  for (const Entry& e : entries) {
    const Json shown = answer_json(e, true);
    std::vector<std::string> cells;
    for (const char* column : kColumns) cells.push_back(cell_of(e, shown, column));
    text += csv_row(cells, kEnd);
  }
  return text;
}

std::vector<Entry> entries_from_csv(const std::string& text, const std::string& file) {
  const std::vector<CsvRow> lines = read_csv(text);
  if (lines.empty()) throw bad_input(say("{} is empty.", file));
  const std::vector<std::string>& head = lines.front().cells;
  if (std::find(head.begin(), head.end(), "name") == head.end())
    throw bad_input(
        say("{} has no column \"name\".", file),
        say("Its first line names the columns: name, place, start, frames and what else there is."));
  std::vector<Entry> list;
  for (size_t n = 1; n < lines.size(); ++n)
    list.push_back(entry_of_cells(
        [&](const char* column) -> std::string {
          const auto at = std::find(head.begin(), head.end(), column);
          const auto i = static_cast<size_t>(at - head.begin());
          return at == head.end() || i >= lines[n].cells.size() ? "" : lines[n].cells[i];
        },
        say("{}, line {}", file, lines[n].line)));
  return list;
}

std::vector<Entry> entries_from_json(const Json& json, const std::string& file) {
  if (!json.is_object() || !json.contains("takes") || !json["takes"].is_array())
    throw bad_input(say("{} has no list \"takes\".", file), say("`askcount book --json` prints one."));
  std::vector<Entry> list;
  size_t n = 0;
  for (const Json& take : json["takes"]) {
    ++n;
    if (!take.is_object()) throw bad_input(say("{}: take {} is not an object.", file, n));
    list.push_back(entry_of_cells(
        [&](const char* column) -> std::string {
          if (!take.contains(column) || take[column].is_null()) return "";
          const Json& value = take[column];
          return value.is_string() ? value.get<std::string>() : value.is_number() ? value.dump() : "";
        },
        say("{}: take {}", file, n)));
  }
  return list;
}

}  // namespace askcount::book
