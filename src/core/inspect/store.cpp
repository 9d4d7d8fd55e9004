// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/store.h"

#include <fmt/format.h>
#include <SQLiteCpp/SQLiteCpp.h>
#include <sys/stat.h>

#include <cstring>
#include <fstream>
#include <type_traits>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "media/film_frames.h"

namespace askcount::inspect {
namespace {

static_assert(std::is_trivially_copyable_v<Measures>);
// Grows whenever Measures or what they mean changes.
constexpr int kVersion = 2;
constexpr int kMark = 0x41734374;  // the database's application id

/// How a file was when it was looked at.
struct Stamp {
  std::int64_t bytes = -1, changed = 0;
};

Stamp stamp_of(const std::filesystem::path& file) {
  struct stat there {};
  if (::stat(file.c_str(), &there) != 0) return {};
  return {there.st_size, there.st_mtim.tv_sec * 1000000000LL + there.st_mtim.tv_nsec};
}

}  // namespace

std::filesystem::path store_of(const std::filesystem::path& take_file) {
  std::filesystem::path store = take_file;
  return store.replace_extension(".frames");
}

std::optional<Look> kept_look(const std::filesystem::path& store, const media::Frames& frames) {
  std::error_code ec;
  if (!std::filesystem::is_regular_file(store, ec)) return {};
  try {
    SQLite::Database db(store.string(), SQLite::OPEN_READONLY);
    if (db.execAndGet("PRAGMA application_id").getInt() != kMark ||
        db.execAndGet("PRAGMA user_version").getInt() != kVersion)
      return {};
    if (static_cast<std::size_t>(db.execAndGet("SELECT count(*) FROM frames").getInt64()) != frames->size())
      return {};
    Look look;
    look.frames.reserve(frames->size());
    SQLite::Statement query(db, "SELECT file, bytes, changed, measures, trouble FROM frames ORDER BY frame");
    while (query.executeStep()) {
      const std::size_t n = look.frames.size();
      const std::filesystem::path& file = (*frames)[n].file();
      const Stamp now = stamp_of(media::on_disk(file));
      const SQLite::Column blob = query.getColumn(3);
      if (query.getColumn(0).getString() != file.string() || query.getColumn(1).getInt64() != now.bytes ||
          query.getColumn(2).getInt64() != now.changed ||
          blob.getBytes() != static_cast<int>(sizeof(Measures)))
        return {};
      Measures m;
      std::memcpy(&m, blob.getBlob(), sizeof(m));
      look.frames.push_back(m);
      if (const std::string trouble = query.getColumn(4).getString(); !trouble.empty())
        look.troubles.emplace_back(n, trouble);
    }
    return look;
  } catch (const std::exception&) {  // damaged: it is measured anew and written over
    return {};
  }
}

void keep_look(const std::filesystem::path& store, const media::Frames& frames, const Look& look) {
  std::error_code ec;
  if (std::filesystem::is_symlink(store, ec))
    throw bad_input(say("{} is a link; a list of measured frames must be a file of its own.", store.string()),
                    say("Move it away; what it leads to was not changed."));
  if (std::filesystem::exists(store, ec)) {
    require_plain_file(store);
    std::ifstream in(store, std::ios::binary);
    std::string head(15, '\0');
    in.read(head.data(), static_cast<std::streamsize>(head.size()));
    if (head != "SQLite format 3" && std::filesystem::file_size(store, ec) > 0)
      throw bad_input(say("{} already exists and is not a list of measured frames.", store.string()),
                      say("Move that file away; it was not changed."));
  }
  try {
    SQLite::Database db(store.string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE, 2000);
    const int mark = db.execAndGet("PRAGMA application_id").getInt();
    const bool tables = db.execAndGet("SELECT count(*) FROM sqlite_master").getInt() > 0;
    if (mark != kMark && tables)
      throw bad_input(say("{} is another program's database.", store.string()),
                      say("Move that file away; it was not changed."));
    SQLite::Transaction whole(db);
    db.exec("DROP TABLE IF EXISTS frames");
    db.exec(
        "CREATE TABLE frames (frame INTEGER PRIMARY KEY, file TEXT NOT NULL, bytes INTEGER NOT NULL, "
        "changed INTEGER NOT NULL, measures BLOB NOT NULL, trouble TEXT NOT NULL)");
    db.exec(fmt::format("PRAGMA application_id = {}", kMark));
    db.exec(fmt::format("PRAGMA user_version = {}", kVersion));
    SQLite::Statement insert(db, "INSERT INTO frames VALUES (?, ?, ?, ?, ?, ?)");
    auto trouble = look.troubles.begin();
    for (std::size_t n = 0; n < look.frames.size(); ++n) {
      const std::filesystem::path& file = (*frames)[n].file();
      const Stamp now = stamp_of(media::on_disk(file));
      while (trouble != look.troubles.end() && trouble->first < n) ++trouble;
      insert.bind(1, static_cast<std::int64_t>(n));
      insert.bind(2, file.string());
      insert.bind(3, now.bytes);
      insert.bind(4, now.changed);
      insert.bind(5, &look.frames[n], static_cast<int>(sizeof(Measures)));
      insert.bind(6, trouble != look.troubles.end() && trouble->first == n ? trouble->second : std::string());
      insert.exec();
      insert.reset();
    }
    whole.commit();
  } catch (const SQLite::Exception& e) {
    throw failed(say("{} cannot be written: {}.", store.string(), e.what()),
                 say("Is there room, and may it be written to?"));
  }
}

}  // namespace askcount::inspect
