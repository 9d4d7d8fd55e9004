// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/book.h"

#include <fmt/format.h>
#include <sqlite3.h>
#include <SQLiteCpp/SQLiteCpp.h>

#include <algorithm>
#include <cstdlib>
#include <fstream>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/passing.h"
#include "base/units.h"
#include "book/paths.h"
#include "book/rebuild.h"
#include "book/schema.h"
#include "book/write_entry.h"
#include "simulate/camera.h"

namespace askcount::book {
namespace fs = std::filesystem;
namespace {

constexpr size_t kHeader = 100;  // bytes that a database begins with

bool is_damage(const SQLite::Exception& e) {
  const int code = e.getErrorCode() & 0xff;
  return code == SQLITE_CORRUPT || code == SQLITE_NOTADB;
}

std::optional<double> maybe(const SQLite::Column& c) {
  return c.isNull() ? std::nullopt : std::optional(c.getDouble());
}

/// "%word%" with what LIKE takes for signs made plain.
std::string anywhere(const std::string& word) {
  std::string like = "%";
  for (const char c : word) {
    if (c == '%' || c == '_' || c == '\\') like += '\\';
    like += c;
  }
  return like + "%";
}

/// Each word as the beginning of one, all of them wanted.
std::string matching(const std::string& words) {
  std::string match, word;
  const auto end = [&] {
    if (!word.empty()) match += (match.empty() ? "\"" : " \"") + word + "\"*";
    word.clear();
  };
  for (const char c : words) {
    if (c == ' ' || c == '\t' || c == '\n') {
      end();
    } else if (c != '"' && c != '\0') {
      word += c;
    }
  }
  end();
  return match;
}

/// The highest number of an entry told by hand, in a book and among those that come.
long long last_told(SQLite::Database& db, const std::vector<Entry>& coming) {
  long long last = db.execAndGet(
                         "SELECT coalesce(max(CAST(substr(key, 6) AS INTEGER)), 0) FROM takes "
                         "WHERE key GLOB 'hand:[0-9]*' AND key NOT GLOB 'hand:*:*'")
                       .getInt64();
  for (const Entry& e : coming) last = std::max(last, e.told);
  return last;
}

/// Whether every byte of a file comes from the disk.
bool can_be_read(const fs::path& file) {
  try {
    std::ifstream in(file, std::ios::binary);
    in.exceptions(std::ios::badbit);
    char block[1 << 16];
    while (in.read(block, sizeof block)) continue;
    return in.eof();
  } catch (const std::exception&) {
    return false;
  }
}

}  // namespace

template <class Do>
auto Book::guarded(Do&& what) {
  for (int again = 0;; ++again) {
    try {
      if (!db_) open();
      return what();
    } catch (const SQLite::Exception& e) {
      // A disk that failed to read looks like damage too. It is tried once more, and put aside only where all
      // of it can be read and it still makes no sense.
      if (is_damage(e) && again < 2 && !mending_ && can_be_read(file_)) {
        db_.reset();
        if (again == 1) put_aside(e.what());
        continue;
      }
      throw failed(askcount::say("The book {} cannot be used: {}.", file_.string(), e.what()),
                   askcount::say("Is there room, and may it be written to?"));
    }
  }
}

fs::path Book::data_folder() {
  const char* home = std::getenv("XDG_DATA_HOME");
  fs::path folder = home && *home == '/' ? fs::path(home) : fs::path();
  if (folder.empty()) {
    const char* own = std::getenv("HOME");
    folder = fs::path(own && *own ? own : "/") / ".local/share";
  }
  return folder / "Ask Count";
}

namespace {

/// Throws unless a file is a book, damaged or not, or is not there: what was never a book is no damaged one.
/// It is known by the database's application id, or where its first page is damaged by the list beside it.
void require_book(const fs::path& file) {
  std::error_code ec;
  if (!fs::exists(file, ec) || (fs::is_regular_file(file, ec) && fs::file_size(file, ec) == 0)) return;
  require_plain_file(file);
  std::ifstream in(file, std::ios::binary);
  std::string head(kHeader, '\0');
  in.read(head.data(), static_cast<std::streamsize>(head.size()));
  head.resize(static_cast<size_t>(std::max<std::streamsize>(in.gcount(), 0)));
  if (is_book_header(head)) return;
  if (!is_photograph(file) && !head.starts_with("SQLite format 3") && !listed(file).empty()) return;
  throw bad_input(askcount::say("{} is not a book of takes.", file.string()),
                  askcount::say("Name another file; it was not changed."));
}

}  // namespace

Book::Book(fs::path file, std::chrono::milliseconds patience) : file_(std::move(file)), patience_(patience) {
  require_book(file_);
  make_folders(file_.parent_path());
  guarded([] { return 0; });
}

Book::~Book() = default;

void Book::open() {
  auto db = std::make_unique<SQLite::Database>(file_.string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE,
                                               static_cast<int>(patience_.count()));
  if (!is_book(*db))
    throw bad_input(askcount::say("{} is another program's database.", file_.string()),
                    askcount::say("Move that file away; it was not changed."));
  // On the disk when a transaction ends, in one file.
  db->exec("PRAGMA journal_mode = DELETE; PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON");
  bring_up(*db, file_, newest_layout());
  db_ = std::move(db);
}

void Book::put_aside(const std::string& why) {
  db_.reset();
  mending_ = true;
  std::error_code ec;
  fs::path aside = file_.string() + ".damaged";
  for (int n = 2; fs::exists(fs::symlink_status(aside, ec)); ++n)
    aside = file_.string() + fmt::format(".damaged-{}", n);
  fs::rename(file_, aside, ec);
  if (ec)
    throw failed(askcount::say("The book {} is damaged ({}) and cannot be set aside: {}.", file_.string(),
                               why, ec.message()),
                 askcount::say("Move it away."));
  // What a transaction left half done belongs to the damaged one.
  fs::rename(file_.string() + "-journal", aside.string() + "-journal", ec);
  const std::vector<Entry> saved = rebuilt_entries(file_, aside);
  try {
    if (!saved.empty()) file(saved);
  } catch (...) {
    mending_ = false;
    throw;
  }
  told_ = askcount::say("The book was damaged ({}). It was set aside as {}; a new one was made from {}.", why,
                        aside.filename().string(),
                        counted(static_cast<long long>(saved.size()), "{} take", "{} takes"));
  mending_ = false;
}

int Book::check() {
  guarded([&] {
    const std::string said = db_->execAndGet("PRAGMA quick_check(1)").getString();
    if (said != "ok") throw SQLite::Exception(said, SQLITE_CORRUPT);
    return 0;
  });
  int anew = 0;
  for (const Row& row : list().rows) {
    try {
      if (entry(row.id)) continue;
    } catch (const Error& e) {
      if (e.kind() != Error::Kind::BadInput) throw;
    }
    Entry made = entry_again(row);
    guarded([&] {
      SQLite::Transaction whole(*db_, SQLite::TransactionBehavior::IMMEDIATE);
      SQLite::Statement gone(*db_, "DELETE FROM entries WHERE take = ?");
      gone.bind(1, static_cast<std::int64_t>(row.id));
      gone.exec();
      made.id = row.id;
      write_entry(*db_, file_, made);
      whole.commit();
      return 0;
    });
    ++anew;
  }
  return anew;
}

long long Book::file(const Entry& entry) {
  return file(std::vector<Entry>{entry}).front();
}

std::vector<long long> Book::file(const std::vector<Entry>& entries) {
  return guarded([&] {
    SQLite::Transaction whole(*db_, SQLite::TransactionBehavior::IMMEDIATE);
    std::vector<Entry> filed = entries, fresh;
    SQLite::Statement had(*db_, "SELECT 1 FROM takes WHERE key = ?");
    long long told = last_told(*db_, filed);
    for (Entry& e : filed) {
      if (e.how == How::Hand && e.told == 0 && e.id == 0) e.told = ++told;
      had.reset();
      had.bind(1, key_of(e));
      if (e.how == How::Hand || !had.executeStep()) fresh.push_back(e);
    }
    had.reset();
    if (!mending_) note_filed(file_, fresh);
    std::vector<long long> ids;
    for (const Entry& e : filed) ids.push_back(write_entry(*db_, file_, e));
    whole.commit();
    return ids;
  });
}

std::optional<Entry> Book::entry(long long id) {
  return guarded([&]() -> std::optional<Entry> {
    SQLite::Statement q(*db_, "SELECT json FROM entries WHERE take = ?");
    q.bind(1, static_cast<std::int64_t>(id));
    if (!q.executeStep()) return {};
    Entry e = entry_from_text(q.getColumn(0).getString(), file_.string());
    e.id = id;
    return e;
  });
}

std::optional<Entry> Book::of_file(const fs::path& file) {
  const auto id = guarded([&]() -> std::optional<long long> {
    SQLite::Statement q(*db_, "SELECT id FROM takes WHERE key = ?");
    q.bind(1, whole_path(file).string());
    return q.executeStep() ? std::optional<long long>(q.getColumn(0).getInt64()) : std::nullopt;
  });
  return id ? entry(*id) : std::nullopt;
}

long long Book::find(const std::string& wanted) {
  if (const auto e = of_file(wanted)) return e->id;
  if (wanted.starts_with('#'))
    for (const Row& r : list().rows)
      if (wanted == fmt::format("#{}", r.id)) return r.id;
  std::vector<std::pair<long long, std::string>> found, like;
  const std::string small = lowered(wanted);
  for (const Row& r : list().rows) {
    const std::pair<long long, std::string> one{r.id, r.file.empty() ? fmt::format("#{}", r.id) : r.file};
    const fs::path file = r.file;
    if (r.name == wanted || r.file == wanted || file.filename() == wanted || file.stem() == wanted)
      found.push_back(one);
    else if (!small.empty() && lowered(r.name).find(small) != std::string::npos)
      like.push_back(one);
  }
  if (found.empty()) found = std::move(like);
  if (found.empty())
    throw bad_input(askcount::say("There is no take \"{}\" in the book.", wanted),
                    askcount::say("Name it as `askcount book` lists it, or its file."));
  if (found.size() > 1) {
    std::string names;
    for (const auto& [id, name] : found) names += (names.empty() ? "" : ", ") + name;
    throw bad_input(askcount::say("Several takes are called \"{}\": {}.", wanted, names),
                    askcount::say("Name one of these."));
  }
  return found.front().first;
}

void Book::say(long long id, const Words& words) {
  std::optional<Entry> e = entry(id);
  if (!e) throw bad_input(askcount::say("That take is not in the book."));
  e->words = words;
  note_words(file_, *e);
  guarded([&] {
    SQLite::Transaction whole(*db_, SQLite::TransactionBehavior::IMMEDIATE);
    // Words that were taken back are no words: merging would keep the old ones.
    SQLite::Statement json(*db_, "UPDATE entries SET json = ? WHERE take = ?");
    json.bind(1, to_text(*e));
    json.bind(2, static_cast<std::int64_t>(id));
    json.exec();
    SQLite::Statement row(*db_, "UPDATE takes SET verdict = ?, note = ?, change = ? WHERE id = ?");
    row.bind(1, verdict_word(words.verdict));
    row.bind(2, words.note);
    row.bind(3, words.change);
    row.bind(4, static_cast<std::int64_t>(id));
    row.exec();
    SQLite::Statement search(*db_, "UPDATE words SET note = ?, change = ? WHERE rowid = ?");
    search.bind(1, words.note);
    search.bind(2, words.change);
    search.bind(3, static_cast<std::int64_t>(id));
    search.exec();
    whole.commit();
    return 0;
  });
}

Entry Book::take_out(long long id) {
  const std::optional<Entry> e = entry(id);
  if (!e) throw bad_input(askcount::say("That take is not in the book."));
  note_out(file_, *e);
  guarded([&] {
    SQLite::Transaction whole(*db_, SQLite::TransactionBehavior::IMMEDIATE);
    // What hangs on the take goes by itself; the words to be searched are a table of another kind.
    for (const char* gone : {"DELETE FROM words WHERE rowid = ?", "DELETE FROM takes WHERE id = ?"}) {
      SQLite::Statement row(*db_, gone);
      row.bind(1, static_cast<std::int64_t>(id));
      row.exec();
    }
    whole.commit();
    return 0;
  });
  return *e;
}

bool Book::moved(const fs::path& from, const fs::path& to) {
  const auto had = of_file(from);
  if (!had || of_file(to)) return false;
  Entry next = *had;
  next.file = whole_path(to).string();
  note_filed(file_, {next});
  if (!next.words.none()) note_words(file_, next);
  return guarded([&] {
    SQLite::Transaction whole(*db_, SQLite::TransactionBehavior::IMMEDIATE);
    SQLite::Statement row(*db_, "UPDATE takes SET key = ?1, file = ?1 WHERE id = ?2");
    row.bind(1, next.file);
    row.bind(2, static_cast<std::int64_t>(had->id));
    row.exec();
    SQLite::Statement json(*db_, "UPDATE entries SET json = ? WHERE take = ?");
    json.bind(1, to_text(next));
    json.bind(2, static_cast<std::int64_t>(had->id));
    json.exec();
    whole.commit();
    return true;
  });
}

std::string Book::picture(long long id) {
  return guarded([&]() -> std::string {
    SQLite::Statement q(*db_, "SELECT jpeg FROM pictures WHERE take = ?");
    q.bind(1, static_cast<std::int64_t>(id));
    if (!q.executeStep()) return {};
    return q.getColumn(0).getString();
  });
}

Listing Book::list(const Query& query) {
  return guarded([&] {
    std::string sql =
        "SELECT id, file, name, subject, place, zone, start_ms, field_s, film_s, planned_frames, frames, "
        "flicker_before, flicker_after, sun_from_deg, sun_to_deg, verdict, note, change FROM takes WHERE 1";
    if (!query.subject.empty()) sql += " AND subject LIKE :subject ESCAPE '\\'";
    if (!query.place.empty()) sql += " AND place LIKE :place ESCAPE '\\'";
    if (query.month > 0) sql += " AND month = :month";
    if (query.verdict) sql += " AND verdict = :verdict";
    const std::string match = matching(query.words);
    if (!match.empty()) sql += " AND id IN (SELECT rowid FROM words WHERE words MATCH :words)";
    sql += " ORDER BY start_ms DESC, id DESC";
    SQLite::Statement q(*db_, sql);
    if (!query.subject.empty()) q.bind(":subject", anywhere(query.subject));
    if (!query.place.empty()) q.bind(":place", anywhere(query.place));
    if (query.month > 0) q.bind(":month", query.month);
    if (query.verdict) q.bind(":verdict", verdict_word(*query.verdict));
    if (!match.empty()) q.bind(":words", match);
    Listing listing;
    while (q.executeStep()) {
      Row r;
      r.id = q.getColumn(0).getInt64();
      r.file = q.getColumn(1).getString();
      r.name = q.getColumn(2).getString();
      r.subject = q.getColumn(3).getString();
      r.place = q.getColumn(4).getString();
      r.zone = q.getColumn(5).getString();
      r.start = Instant(std::chrono::milliseconds(q.getColumn(6).getInt64()));
      r.field_s = q.getColumn(7).getDouble();
      r.film_s = q.getColumn(8).getDouble();
      r.planned_frames = q.getColumn(9).getInt64();
      if (!q.getColumn(10).isNull()) r.frames = q.getColumn(10).getInt64();
      r.flicker_before = maybe(q.getColumn(11));
      r.flicker_after = maybe(q.getColumn(12));
      r.sun_from_deg = maybe(q.getColumn(13));
      r.sun_to_deg = maybe(q.getColumn(14));
      r.words = {verdict_of(q.getColumn(15).getString()), q.getColumn(16).getString(),
                 q.getColumn(17).getString(), false};
      listing.frames += r.frames.value_or(0);
      if (r.frames) listing.film_s += r.film_s;
      listing.rows.push_back(std::move(r));
    }
    return listing;
  });
}

namespace {

/// Takes that the stand-in shot, by their journal or by the camera's own words; the place is for its name.
constexpr const char* kSimulated =
    "SELECT take FROM entries WHERE json_extract(json, '$.shot.standin') OR json_extract(json, "
    "'$.came.body') "
    "= ?";

std::vector<std::string> distinct(SQLite::Database& db, const char* column) {
  std::vector<std::string> list;
  SQLite::Statement q(db, fmt::format("SELECT DISTINCT {0} FROM takes WHERE {0} <> '' ORDER BY {0}", column));
  while (q.executeStep()) list.push_back(q.getColumn(0).getString());
  return list;
}

}  // namespace

std::vector<std::string> Book::subjects() {
  return guarded([&] { return distinct(*db_, "subject"); });
}
std::vector<std::string> Book::places() {
  return guarded([&] { return distinct(*db_, "place"); });
}

std::vector<TakeMeasure> Book::measures() {
  return guarded([&] {
    std::vector<TakeMeasure> list;
    SQLite::Statement q(
        *db_, fmt::format("SELECT take, what, gear, value, planned, bound, temperature_c, humidity, "
                          "take IN ({}) FROM measures ORDER BY take, rowid",
                          kSimulated));
    q.bind(1, simulate::kBodyName);
    while (q.executeStep())
      list.push_back({q.getColumn(0).getInt64(),
                      {q.getColumn(1).getString(), q.getColumn(2).getString(), q.getColumn(3).getDouble(),
                       q.getColumn(4).getDouble(), bound_of(q.getColumn(5).getString()),
                       maybe(q.getColumn(6)), maybe(q.getColumn(7))},
                      q.getColumn(8).getInt() != 0});
    return list;
  });
}

std::map<std::string, long long> Book::mistakes() {
  return guarded([&] {
    std::map<std::string, long long> takes;
    SQLite::Statement q(
        *db_,
        fmt::format("SELECT code, count(DISTINCT take) FROM faults WHERE take NOT IN ({}) GROUP BY code",
                    kSimulated));
    q.bind(1, simulate::kBodyName);
    while (q.executeStep()) takes[q.getColumn(0).getString()] = q.getColumn(1).getInt64();
    return takes;
  });
}

void Book::keep(const Score& score) {
  guarded([&] {
    SQLite::Statement q(*db_, "INSERT INTO practice (kind, of, value, at_ms) VALUES (?,?,?,?)");
    q.bind(1, score.kind);
    q.bind(2, score.of);
    q.bind(3, score.value);
    q.bind(4, ms_of(score.at));
    q.exec();
    return 0;
  });
}

std::vector<Score> Book::scores() {
  return guarded([&] {
    std::vector<Score> list;
    SQLite::Statement q(*db_, "SELECT kind, of, value, at_ms FROM practice ORDER BY id");
    while (q.executeStep())
      list.push_back({q.getColumn(0).getString(), q.getColumn(1).getString(), q.getColumn(2).getDouble(),
                      Instant(std::chrono::milliseconds(q.getColumn(3).getInt64()))});
    return list;
  });
}

bool is_there(const Row& row) {
  std::error_code ec;
  return row.file.empty() || fs::exists(row.file, ec);
}

}  // namespace askcount::book
