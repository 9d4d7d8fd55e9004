// SPDX-License-Identifier: GPL-3.0-or-later
// The person's book beside the window: read and written on a thread of its own.
#pragma once

#include <chrono>
#include <condition_variable>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <QObject>
#include <QString>
#include <QStringList>
#include <set>
#include <unordered_map>
#include <vector>

#include "app/session/film_queue.h"
#include "app/session/worker.h"
#include "book/again.h"
#include "book/book.h"
#include "book/kit.h"
#include "ingest/gather.h"
#include "inspect/faults.h"
#include "level/brightness.h"

namespace askcount::app {

/// What there is to file of a take: a copy, so that it may be closed meanwhile.
struct Filing {
  take::Take take;
  std::filesystem::path file;
  std::optional<ingest::Gathered> found;
  std::optional<std::vector<inspect::Fault>> faults;
  std::optional<level::Evenness> evenness;
  std::vector<FilmMade> films;
};

/// What is known of the book in the window: as it was when the thread last read it.
struct Shelf {
  book::Query query;
  book::Listing listing;         ///< of that query
  std::vector<bool> there;       ///< for each row, whether its file is where it was
  QStringList subjects, places;  ///< there are
  long long takes = 0;           ///< in all of the book
  std::vector<book::TakeMeasure> measures;
  std::map<std::string, long long> mistakes;
  std::vector<book::Score> scores;
};

/// Work is done in the order it is asked for; what was asked for is done before the window is gone. What goes
/// into the book is tried until it is written: where the book is locked or its disk is full, trouble() says
/// so once, and told() when it is kept. All signals arrive in the window's thread.
class BookKeeper : public QObject {
  Q_OBJECT
 public:
  /// `patience` is how long one try waits for other programs that have the book.
  explicit BookKeeper(std::filesystem::path file, std::chrono::milliseconds patience = book::Book::kPatience,
                      QObject* parent = nullptr);
  ~BookKeeper() override;

  const Shelf& shelf() const { return shelf_; }
  /// The row of an id in the list that is shown; null where it is not in it.
  const book::Row* row(long long id) const;
  /// What the kit really does, batteries brought to what this kit rates them at. Worked out once for each
  /// kit: an edit of the take costs nothing.
  const std::vector<book::KitFact>& facts(const plan::Kit& kit);
  /// A whole entry, once it was fetched; null, and asked for, before that.
  const book::Entry* entry(long long id);
  /// JPEG bytes; null, and asked for, before they were fetched.
  const std::string* picture(long long id);

  void ask(const book::Query& query);
  void file(Filing filing);
  /// A folder of frames that were shot without a plan, and a table (.csv, .json) or a take.
  void add(const std::filesystem::path& what);
  /// One told by hand.
  void add(const book::Entry& entry);
  void say(long long id, const book::Words& words);
  /// Takes an entry out; told() says so. The take's files stay.
  void take_out(long long id);
  /// A take that had no file of its own has one now.
  void moved(const std::filesystem::path& from, const std::filesystem::path& to);
  void keep(const book::Score& score);
  /// Writes what is listed: .csv, .html or .pdf. told() or trouble() says how it went.
  void write(const std::filesystem::path& file);
  /// When the sky stands there again; again_found() tells.
  void look_again(long long id, sky::Body body, Instant then, const sky::Place& place, Instant from);
  /// Waits until everything that was asked for is done and was told.
  void wait();

 signals:
  void changed();        ///< shelf(), or an entry that was asked for
  void picture_there();  ///< one that was asked for
  void again_found(long long id, std::vector<book::Again> when);
  void filed(long long id);
  /// A film of that take was filed; what was said of the take so far.
  void film_filed(long long id, QString name, book::Words words);
  void trouble(QString words);
  void told(QString words);

 private:
  using Work = std::function<void(book::Book&)>;
  void put(Work work, std::function<void()> in_vain = {});
  /// Tried until it is written, and only then the shelf is read; all of it where `all`.
  void write_down(Work work, bool all);
  /// On the thread: the trouble there was, empty for none, and whether it may pass.
  struct Trouble {
    QString words;
    bool passing = false;
  };
  Trouble run(const Work& work);
  /// On the thread: reads the shelf again and hands it over.
  void read_shelf(book::Book& book, bool all);
  /// In the window's thread.
  void post(std::function<void()> what);

  std::filesystem::path file_;
  std::chrono::milliseconds patience_;
  std::mutex mutex_;
  std::condition_variable closing_told_;
  bool closing_ = false;
  Shelf shelf_;
  std::unordered_map<long long, book::Entry> entries_;
  std::unordered_map<long long, std::string> pictures_;
  std::set<long long> asked_entries_, asked_pictures_;
  std::optional<plan::Kit> facts_of_;  // the kit that facts_ are of; nothing where they are not known
  std::vector<book::KitFact> facts_;
  // Of the thread: the book once it is open, what was asked of it last, what was said of a damaged one.
  std::unique_ptr<book::Book> book_;
  book::Query query_;
  std::string said_;
  Worker worker_;  // last: it uses the rest
};

}  // namespace askcount::app
