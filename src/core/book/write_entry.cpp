// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/write_entry.h"

#include <SQLiteCpp/SQLiteCpp.h>

#include "book/measure.h"
#include "book/paths.h"
#include "sky/ephemeris.h"

namespace askcount::book {
namespace fs = std::filesystem;
namespace {

/// A number, or nothing.
void bind_maybe(SQLite::Statement& s, int n, const std::optional<double>& v) {
  v ? s.bind(n, *v) : s.bind(n);
}
void bind_maybe(SQLite::Statement& s, int n, const std::optional<std::int64_t>& v) {
  v ? s.bind(n, *v) : s.bind(n);
}

std::optional<double> sun_at(const Entry& e, double after_s) {
  if (!e.knows_start() || !e.located()) return {};
  const Instant at = later(e.start, after_s);
  return sky::Ephemeris(at, at).at(sky::Body::Sun, at, e.place).altitude_deg;
}

}  // namespace

std::string key_of(const Entry& e) {
  if (e.how != How::Hand) return e.file;
  return e.told > 0 ? fmt::format("hand:{}", e.told)
                    : fmt::format("hand:{}:{}", ms_of(e.start), e.name);  // as books before had them
}

namespace {

using Database = SQLite::Database;

/// The first of the entries a statement finds (its id, its JSON, its file) that may be this one.
std::optional<Entry> found(SQLite::Statement& entries, const fs::path& book, bool gone_alone) {
  std::error_code ec;
  while (entries.executeStep()) {
    if (gone_alone && fs::exists(entries.getColumn(2).getString(), ec)) continue;
    Entry older = entry_from_text(entries.getColumn(1).getString(), book.string());
    older.id = entries.getColumn(0).getInt64();
    return older;
  }
  return {};
}

/// What the book knows of this entry already: by its key, as one that was moved (same name and start, its old
/// file gone), or as what was packed with it.
std::optional<Entry> known_before(Database& db, const fs::path& book, const Entry& e) {
  SQLite::Statement same(db, "SELECT take, json, file FROM entries JOIN takes ON id = take WHERE key = ?");
  same.bind(1, key_of(e));
  if (auto older = found(same, book, false)) return older;
  if (e.how != How::Hand && e.knows_start()) {
    SQLite::Statement like(db,
                           "SELECT take, json, file FROM entries JOIN takes ON id = take "
                           "WHERE name = ? AND start_ms = ? AND key NOT LIKE 'hand:%'");
    like.bind(1, e.name);
    like.bind(2, ms_of(e.start));
    if (auto older = found(like, book, true)) return older;
  }
  if (e.how == How::Take)
    if (const auto before = packed_with(e.file)) return *before;
  return {};
}

/// The row that is searched; gives the entry its id.
void write_row(Database& db, Entry& e, const std::string& key) {
  const auto given_place = [&](double v) { return e.located() ? std::optional(v) : std::nullopt; };
  const auto started = [&](std::int64_t v) { return e.knows_start() ? std::optional(v) : std::nullopt; };
  SQLite::Statement row(
      db,
      e.id != 0
          ? "UPDATE takes SET key=?1, file=?2, name=?3, subject=?4, place=?5, latitude_deg=?6, "
            "longitude_deg=?7, "
            "zone=?8, start_ms=?9, month=?10, field_s=?11, film_s=?12, planned_frames=?13, frames=?14, "
            "flicker_before=?15, flicker_after=?16, sun_from_deg=?17, sun_to_deg=?18, verdict=?19, note=?20, "
            "change=?21 WHERE id=?22"
          : "INSERT INTO takes (key, file, name, subject, place, latitude_deg, longitude_deg, zone, "
            "start_ms, "
            "month, field_s, film_s, planned_frames, frames, flicker_before, flicker_after, sun_from_deg, "
            "sun_to_deg, verdict, note, change) "
            "VALUES (?1,?2,?3,?4,?5,?6,?7,?8,?9,?10,?11,?12,?13,?14,?15,?16,?17,?18,?19,?20,?21)");
  row.bind(1, key);
  row.bind(2, e.file);
  row.bind(3, e.name);
  row.bind(4, e.subject);
  row.bind(5, e.place.name);
  bind_maybe(row, 6, given_place(e.place.latitude_deg));
  bind_maybe(row, 7, given_place(e.place.longitude_deg));
  row.bind(8, e.place.zone);
  bind_maybe(row, 9, started(ms_of(e.start)));
  bind_maybe(row, 10, started(static_cast<unsigned>(day_of(e.start, e.place.zone).month())));
  row.bind(11, e.field_s());
  row.bind(12, e.film_s());
  row.bind(13, static_cast<std::int64_t>(e.planned.frames));
  bind_maybe(row, 14, e.frames() ? std::optional<std::int64_t>(*e.frames()) : std::nullopt);
  bind_maybe(row, 15, e.evened ? std::optional(e.evened->before) : std::nullopt);
  bind_maybe(row, 16, e.evened ? std::optional(e.evened->after) : std::nullopt);
  bind_maybe(row, 17, sun_at(e, 0));
  bind_maybe(row, 18, sun_at(e, e.field_s()));
  row.bind(19, verdict_word(e.words.verdict));
  row.bind(20, e.words.note);
  row.bind(21, e.words.change);
  if (e.id != 0) row.bind(22, static_cast<std::int64_t>(e.id));
  row.exec();
  if (e.id == 0) e.id = db.getLastInsertRowid();
}

void write_films(Database& db, std::int64_t id, const Entry& e) {
  SQLite::Statement film(db, "INSERT INTO films VALUES (?,?,?,?,?,?,?,?,?)");
  for (const FilmMade& m : e.films) {
    film.bind(1, id);
    film.bind(2, m.file);
    film.bind(3, m.seconds);
    film.bind(4, m.fps);
    film.bind(5, m.width);
    film.bind(6, m.height);
    film.bind(7, m.codec);
    film.bind(8, m.bytes);
    film.bind(9, ms_of(m.made));
    film.exec();
    film.reset();
  }
}

void write_faults(Database& db, std::int64_t id, const Entry& e) {
  SQLite::Statement fault(db, "INSERT INTO faults VALUES (?,?,?)");
  const auto add_fault = [&](const std::string& code, long long frames) {
    fault.bind(1, id);
    fault.bind(2, code);
    fault.bind(3, static_cast<std::int64_t>(frames));
    fault.exec();
    fault.reset();
  };
  for (const auto& [code, frames] : e.faults.value_or(std::map<std::string, long long>{}))
    add_fault(code, frames);
  if (e.shot && e.shot->missed > 0) add_fault("missed", e.shot->missed);
  if (e.shot && e.shot->late_clicks > 0) add_fault("click_late", e.shot->late_clicks);
  if (const long long lost = e.short_of(); lost > 0) add_fault("short", lost);
}

void write_measures(Database& db, std::int64_t id, const Entry& e) {
  SQLite::Statement measure(db, "INSERT INTO measures VALUES (?,?,?,?,?,?,?,?)");
  const auto add_measure = [&](const Measure& m) {
    measure.bind(1, id);
    measure.bind(2, m.what);
    measure.bind(3, m.gear);
    measure.bind(4, m.value);
    measure.bind(5, m.planned);
    measure.bind(6, bound_word(m.bound));
    bind_maybe(measure, 7, m.temperature_c);
    bind_maybe(measure, 8, m.humidity);
    measure.exec();
    measure.reset();
  };
  for (const Measure& m : e.by_frames) add_measure(m);
  for (const Measure& m : e.by_journal) add_measure(m);
  if (const auto dew = dew_of(e)) add_measure(*dew);
}

void write_picture(Database& db, std::int64_t id, const std::string& jpeg) {
  SQLite::Statement picture(db, "INSERT OR REPLACE INTO pictures VALUES (?,?)");
  picture.bind(1, id);
  picture.bind(2, jpeg.data(), static_cast<int>(jpeg.size()));
  picture.exec();
}

/// What is found by words.
void write_words(Database& db, std::int64_t id, const Entry& e) {
  SQLite::Statement words(db,
                          "INSERT OR REPLACE INTO words (rowid, name, subject, place, note, change, said) "
                          "VALUES (?,?,?,?,?,?,?)");
  words.bind(1, id);
  words.bind(2, e.name);
  words.bind(3, e.subject);
  words.bind(4, e.place.name);
  words.bind(5, e.words.note);
  words.bind(6, e.words.change);
  words.bind(7, e.shot ? fmt::format("{}", fmt::join(e.shot->notes, "\n")) : "");
  words.exec();
}

}  // namespace

long long write_entry(SQLite::Database& db, const fs::path& book, const Entry& given) {
  Entry e = given;
  const std::string key = key_of(e);
  if (const auto before = known_before(db, book, e)) e = merged(*before, e);
  write_row(db, e, key);
  const auto id = static_cast<std::int64_t>(e.id);
  for (const char* table : {"films", "faults", "measures"}) {
    SQLite::Statement gone(db, fmt::format("DELETE FROM {} WHERE take = ?", table));
    gone.bind(1, id);
    gone.exec();
  }
  write_films(db, id, e);
  write_faults(db, id, e);
  write_measures(db, id, e);
  SQLite::Statement json(db, "INSERT OR REPLACE INTO entries VALUES (?,?)");
  json.bind(1, id);
  json.bind(2, to_text(e));
  json.exec();
  if (!e.picture.empty()) write_picture(db, id, e.picture);
  write_words(db, id, e);
  return e.id;
}

}  // namespace askcount::book
