// SPDX-License-Identifier: GPL-3.0-or-later
// The book: the log of takes, in one SQLite file.
#pragma once

#include <chrono>
#include <filesystem>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "book/entry.h"

namespace SQLite {
class Database;
}

namespace askcount::book {

/// Which entries are wanted. What is empty asks for nothing.
struct Query {
  std::string subject, place;  ///< words that these have in them, in capitals or not
  int month = 0;               ///< 1 to 12, of the start by the place's clock
  std::optional<Verdict> verdict;
  std::string words;  ///< beginnings of words that are anywhere in names, places, notes and journals
  bool operator==(const Query&) const = default;
};

/// Reads "place=Tern Quay", "subject=…", "month=10" or "month=oct", "verdict=well" (or "none"), "words=…";
/// what has no "=" is words. Throws BadInput for a key or a value it does not know.
Query query_of(const std::vector<std::string>& said);

/// One line of a list.
struct Row {
  long long id = 0;
  std::string file;
  std::string name, subject, place, zone;
  Instant start;  ///< the clock's zero where unknown
  double field_s = 0, film_s = 0;
  long long planned_frames = 0;
  std::optional<long long> frames;
  std::optional<double> flicker_before, flicker_after;
  std::optional<double> sun_from_deg, sun_to_deg;
  Words words;
  bool knows_start() const { return start != Instant{}; }
};

/// A list with what it adds up to.
struct Listing {
  std::vector<Row> rows;  ///< the newest first, those without a start last
  long long frames = 0;   ///< that came
  double film_s = 0;      ///< of those that came
};

/// A measure, and the take that gives it.
struct TakeMeasure {
  long long take = 0;
  Measure measure;
  bool simulated = false;  ///< the stand-in shot it
};

/// What was practised: "timer" (of which, in how many seconds) or "dusk" (of which take, with how many points
/// of 100).
struct Score {
  std::string kind, of;
  double value = 0;
  Instant at;
};

/// The book. Every change is one transaction that is on the disk when the function returns: a program that is
/// killed loses nothing that was filed. Several programs may have the same book open. One that is damaged is
/// put aside under another name and made anew from what can be still read of it, from the list of takes that
/// lies beside it and from the takes' own files; told() says so. Objects are for one thread at a time.
///
/// All functions throw Failed naming the file where it cannot be read or written.
class Book {
 public:
  /// Opens a book; it is made where it is missing, and an older one is brought up. Throws BadInput, and
  /// changes nothing, where the file is another program's or of a newer version.
  /// `patience` is how long each call waits for other programs that have it.
  explicit Book(std::filesystem::path file, std::chrono::milliseconds patience = kPatience);
  static constexpr std::chrono::milliseconds kPatience{10000};
  ~Book();
  Book(const Book&) = delete;

  /// Where a person's book lies: book.db in `folder`, the person's data folder.
  static std::filesystem::path file_in(const std::filesystem::path& folder) { return folder / "book.db"; }
  /// The person's data folder, as the window has it: $XDG_DATA_HOME, or ~/.local/share, and "Ask Count" in
  /// it.
  static std::filesystem::path data_folder();

  const std::filesystem::path& path() const { return file_; }
  /// What became of a damaged book; empty where it was whole.
  const std::string& told() const { return told_; }
  /// Reads every page and every entry. A damaged book is put aside and made anew; an entry that makes no
  /// sense is made anew from its take, or from what the list of takes still says of it. Returns how many of
  /// those there were. Takes time as the book is large.
  int check();

  /// Files an entry: a new one, or merged() into the one of its file. A take whose name and start are those
  /// of one whose file is gone was moved: its entry goes with it. Returns the id.
  long long file(const Entry& entry);
  /// Several in one transaction.
  std::vector<long long> file(const std::vector<Entry>& entries);
  std::optional<Entry> entry(long long id);
  /// The one of a take's file or a folder; nothing where there is none.
  std::optional<Entry> of_file(const std::filesystem::path& file);
  /// The only one whose name, or whose file's name, is that, or else whose name has it in it; its id. Throws
  /// BadInput where there is none, or more than one, naming them.
  long long find(const std::string& name_or_file);
  void say(long long id, const Words& words);
  /// Takes an entry out, with what it taught of the kit; the take's own files stay, and filed again it comes
  /// back. Returns what was taken out. Throws BadInput where it is not in the book.
  Entry take_out(long long id);
  /// A take's file, or a folder, has another name now: its entry goes with it. False where it is not in the
  /// book, or the new one is already.
  bool moved(const std::filesystem::path& from, const std::filesystem::path& to);
  /// JPEG bytes; empty for none.
  std::string picture(long long id);

  Listing list(const Query& query = {});
  /// What is in the book, in order: for the slots of its sentence.
  std::vector<std::string> subjects();
  std::vector<std::string> places();

  /// Of all takes, in their order.
  std::vector<TakeMeasure> measures();
  /// In how many takes each fault of frames came, "missed" presses, "click_late" and "short" ones among them.
  std::map<std::string, long long> mistakes();

  void keep(const Score& score);
  /// The newest last.
  std::vector<Score> scores();

 private:
  void open();
  void put_aside(const std::string& why);
  /// Does it; where the book turns out to be damaged, once more with the one made anew.
  template <class Do>
  auto guarded(Do&& what);

  std::filesystem::path file_;
  std::chrono::milliseconds patience_;
  std::unique_ptr<SQLite::Database> db_;
  std::string told_;
  bool mending_ = false;  // one is made anew just now
};

/// Whether a row's file is still where it was. One told by hand has none and is always there.
bool is_there(const Row& row);

}  // namespace askcount::book
