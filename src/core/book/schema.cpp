// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/schema.h"

#include <fmt/format.h>
#include <SQLiteCpp/SQLiteCpp.h>

#include <array>

#include "base/error.h"
#include "base/language.h"

namespace askcount::book {
namespace {

constexpr int kMark = 0x4173426b;  // the database's application id

/// Each step leads to the layout of its number, counted from 1. What was released is never changed.
constexpr std::array kSteps = {
    // Takes with what lists show in columns of their own, the whole entry as JSON beside them; films, the
    // faults of frames and the measures of the kit, so that any program can add them up; the words to be
    // searched.
    R"sql(
CREATE TABLE takes (
  id INTEGER PRIMARY KEY,
  key TEXT NOT NULL UNIQUE,        -- the take's file or the frames' folder; "hand:…" for one told by hand
  file TEXT NOT NULL,
  name TEXT NOT NULL, subject TEXT NOT NULL,
  place TEXT NOT NULL, latitude_deg REAL, longitude_deg REAL, zone TEXT NOT NULL,
  start_ms INTEGER,                -- universal time; null where unknown
  month INTEGER,                   -- of the start, by the place's clock, 1 to 12
  field_s REAL NOT NULL, film_s REAL NOT NULL,
  planned_frames INTEGER NOT NULL, frames INTEGER,
  flicker_before REAL, flicker_after REAL,
  sun_from_deg REAL, sun_to_deg REAL,  -- its altitude at the first and the last frame
  verdict TEXT NOT NULL, note TEXT NOT NULL, change TEXT NOT NULL
);
CREATE TABLE entries (take INTEGER PRIMARY KEY REFERENCES takes ON DELETE CASCADE, json TEXT NOT NULL);
CREATE INDEX takes_by_start ON takes (start_ms DESC, id DESC);
CREATE TABLE films (
  take INTEGER NOT NULL REFERENCES takes ON DELETE CASCADE,
  file TEXT NOT NULL, seconds REAL NOT NULL, fps REAL NOT NULL, width INTEGER NOT NULL, height INTEGER NOT NULL,
  codec TEXT NOT NULL, bytes REAL NOT NULL, made_ms INTEGER NOT NULL
);
CREATE INDEX films_of ON films (take);
CREATE TABLE faults (take INTEGER NOT NULL REFERENCES takes ON DELETE CASCADE, code TEXT NOT NULL,
  frames INTEGER NOT NULL);
CREATE INDEX faults_of ON faults (take);
CREATE TABLE measures (
  take INTEGER NOT NULL REFERENCES takes ON DELETE CASCADE,
  what TEXT NOT NULL, gear TEXT NOT NULL, value REAL NOT NULL, reckoned REAL NOT NULL,
  bound TEXT NOT NULL, temperature_c REAL, humidity REAL
);
CREATE INDEX measures_of ON measures (take);
CREATE TABLE pictures (take INTEGER PRIMARY KEY REFERENCES takes ON DELETE CASCADE, jpeg BLOB NOT NULL);
CREATE VIRTUAL TABLE words USING fts5 (name, subject, place, note, change, said);
)sql",
    // What was practised and rehearsed.
    R"sql(
CREATE TABLE practice (id INTEGER PRIMARY KEY, kind TEXT NOT NULL, of TEXT NOT NULL, value REAL NOT NULL, at_ms INTEGER NOT NULL);
)sql",
    // What the plan had in the place of what was measured.
    "ALTER TABLE measures RENAME COLUMN reckoned TO planned;"};

}  // namespace

int newest_layout() {
  return static_cast<int>(kSteps.size());
}

bool is_book_header(std::string_view head) {
  constexpr size_t kId = 68;  // big-endian, in the header of SQLite's file format
  if (!head.starts_with("SQLite format 3") || head.size() < kId + 4) return false;
  unsigned id = 0;
  for (size_t i = 0; i < 4; ++i) id = id << 8 | static_cast<unsigned char>(head[kId + i]);
  return id == kMark || id == 0;  // without one it may be empty: is_book() looks
}

bool is_book(SQLite::Database& db) {
  if (db.execAndGet("PRAGMA application_id").getInt() == kMark) return true;
  return db.execAndGet("SELECT count(*) FROM sqlite_master").getInt() == 0;
}

void bring_up(SQLite::Database& db, const std::filesystem::path& file, int layout) {
  int now = db.execAndGet("PRAGMA user_version").getInt();
  if (now > newest_layout())
    throw bad_input(say("{} was written by a newer Ask Count.", file.string()), say("It was not changed."));
  if (now >= layout) return;
  if (now > 0) {
    std::filesystem::path copy = file.string() + fmt::format(".before-{}", layout);
    for (int n = 2; std::filesystem::exists(copy); ++n)  // of a step that died, or somebody's own
      copy = file.string() + fmt::format(".before-{}-{}", layout, n);
    SQLite::Statement into(db, "VACUUM INTO ?");
    into.bind(1, copy.string());
    into.exec();
  }
  while (now < layout) {
    SQLite::Transaction step(db, SQLite::TransactionBehavior::IMMEDIATE);
    // Another program may have done it meanwhile.
    now = db.execAndGet("PRAGMA user_version").getInt();
    if (now >= layout) break;
    db.exec(kSteps[static_cast<size_t>(now)]);
    db.exec(fmt::format("PRAGMA application_id = {}", kMark));
    db.exec(fmt::format("PRAGMA user_version = {}", ++now));
    step.commit();
  }
}

}  // namespace askcount::book
