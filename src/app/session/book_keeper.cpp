// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/book_keeper.h"

#include <algorithm>
#include <QCoreApplication>
#include <set>

#include "app/style/text.h"
#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"
#include "book/kit.h"
#include "book/learn.h"
#include "book/tables.h"

namespace askcount::app {
namespace fs = std::filesystem;
namespace {

QStringList to_list(const std::vector<std::string>& words) {
  QStringList list;
  for (const std::string& w : words) list << to_q(w);
  return list;
}

book::Entry entry_of(const Filing& f) {
  book::Entry e = book::entry_of(f.take, f.file);
  if (f.found) book::learn(e, f.take, *f.found);
  if (f.faults) book::learn(e, *f.faults);
  if (f.evenness) book::learn(e, *f.evenness);
  for (const FilmMade& m : f.films) book::learn(e, m.file, m.outcome, m.finished.check, now());
  return e;
}

}  // namespace

BookKeeper::BookKeeper(fs::path file, std::chrono::milliseconds patience, QObject* parent)
    : QObject(parent), file_(std::move(file)), patience_(patience) {
  put([this](book::Book& book) {
    book.check();
    read_shelf(book, true);
  });
}

BookKeeper::~BookKeeper() {
  const std::lock_guard lock(mutex_);
  closing_ = true;
  closing_told_.notify_all();
}

void BookKeeper::put(Work work, std::function<void()> in_vain) {
  worker_.add([this, work = std::move(work), in_vain = std::move(in_vain)] {
    const Trouble trouble = run(work);
    if (trouble.words.isEmpty()) return;
    post([this, words = trouble.words, in_vain] {
      if (in_vain) in_vain();
      emit this->trouble(words);
    });
  });
}

void BookKeeper::write_down(Work work, bool all) {
  worker_.add([this, work = std::move(work)] {
    bool waited = false;
    for (;;) {
      const Trouble trouble = run(work);
      const bool again = trouble.passing && !waited;
      if (!trouble.words.isEmpty() && (again || !trouble.passing))
        post([this, words = trouble.words, passing = trouble.passing] {
          emit this->trouble(passing ? words + " " + say_q("It is tried again until it is kept.") : words);
        });
      if (!trouble.passing) {
        if (waited && trouble.words.isEmpty()) post([this] { emit told(say_q("It is in the book now.")); });
        return;
      }
      waited = true;
      std::unique_lock lock(mutex_);
      constexpr int kShare = 10;  // of the patience of one try, between two
      if (closing_told_.wait_for(lock, patience_ / kShare, [this] { return closing_; })) return;
    }
  });
  put([this, all](book::Book& book) { read_shelf(book, all); });
}

void BookKeeper::post(std::function<void()> what) {
  QMetaObject::invokeMethod(this, std::move(what), Qt::QueuedConnection);
}

BookKeeper::Trouble BookKeeper::run(const Work& work) {
  try {
    if (!book_) book_ = std::make_unique<book::Book>(file_, patience_);
    work(*book_);
    // Damage may be found on opening as well as at work.
    if (book_->told() != said_) {
      said_ = book_->told();
      post([this, said = said_] { emit trouble(to_q(said)); });
    }
    return {};
  } catch (const Error& e) {
    return {QString::fromUtf8(e.what()), e.kind() == Error::Kind::Failed};
  } catch (const std::exception& e) {
    return {QString::fromUtf8(e.what()), false};
  }
}

void BookKeeper::wait() {
  worker_.wait();
  QCoreApplication::sendPostedEvents(this);
}

void BookKeeper::read_shelf(book::Book& book, bool all) {
  auto shelf = std::make_shared<Shelf>();
  shelf->query = query_;
  shelf->listing = book.list(query_);
  for (const book::Row& r : shelf->listing.rows) shelf->there.push_back(book::is_there(r));
  if (all) {
    shelf->subjects = to_list(book.subjects());
    shelf->places = to_list(book.places());
    shelf->takes = query_ == book::Query{} ? static_cast<long long>(shelf->listing.rows.size())
                                           : static_cast<long long>(book.list().rows.size());
    shelf->measures = book.measures();
    shelf->mistakes = book.mistakes();
    shelf->scores = book.scores();
  }
  post([this, shelf, all] {
    if (!all) {
      shelf->subjects = shelf_.subjects;
      shelf->places = shelf_.places;
      shelf->takes = shelf_.takes;
      shelf->measures = std::move(shelf_.measures);
      shelf->mistakes = std::move(shelf_.mistakes);
      shelf->scores = std::move(shelf_.scores);
    }
    if (all) facts_of_.reset();
    shelf_ = std::move(*shelf);
    emit changed();
  });
}

const book::Row* BookKeeper::row(long long id) const {
  const auto& rows = shelf_.listing.rows;
  const auto it = std::find_if(rows.begin(), rows.end(), [id](const book::Row& r) { return r.id == id; });
  return it == rows.end() ? nullptr : &*it;
}

const std::vector<book::KitFact>& BookKeeper::facts(const plan::Kit& kit) {
  if (!facts_of_ || !(*facts_of_ == kit)) {
    facts_ = book::kit_facts(shelf_.measures, kit);
    facts_of_ = kit;
  }
  return facts_;
}

const book::Entry* BookKeeper::entry(long long id) {
  if (const auto it = entries_.find(id); it != entries_.end()) return &it->second;
  if (asked_entries_.insert(id).second)
    put(
        [this, id](book::Book& book) {
          if (auto e = book.entry(id))
            post([this, id, e = std::move(*e)] {
              asked_entries_.erase(id);
              entries_[id] = e;
              emit changed();
            });
        },
        [this, id] { asked_entries_.erase(id); });
  return nullptr;
}

const std::string* BookKeeper::picture(long long id) {
  if (const auto it = pictures_.find(id); it != pictures_.end()) return &it->second;
  if (asked_pictures_.insert(id).second)
    put(
        [this, id](book::Book& book) {
          post([this, id, bytes = book.picture(id)] {
            asked_pictures_.erase(id);
            if (pictures_.size() > 500) pictures_.clear();  // those in sight are fetched again
            pictures_[id] = bytes;
            emit picture_there();
          });
        },
        [this, id] { asked_pictures_.erase(id); });
  return nullptr;
}

void BookKeeper::ask(const book::Query& query) {
  put([this, query](book::Book& book) {
    query_ = query;
    read_shelf(book, false);
  });
}

void BookKeeper::file(Filing filing) {
  write_down(
      [this, filing = std::move(filing)](book::Book& book) {
        book::Entry e = entry_of(filing);
        const auto had = book.of_file(filing.file);
        if (filing.found && (!had || book.picture(had->id).empty()))
          e.picture = book::picture_of(filing.found->frames);
        if (had && e.picture.empty() && book::merged(*had, e) == *had) return;  // nothing new
        const long long id = book.file(e);
        const bool film = !filing.films.empty();
        const book::Entry now = film ? book.entry(id).value_or(e) : e;
        post([this, id, film, now] {
          entries_.erase(id);
          pictures_.erase(id);
          emit filed(id);
          if (film) emit film_filed(id, to_q(now.name), now.words);
        });
      },
      true);
}

void BookKeeper::add(const fs::path& what) {
  put([this, what](book::Book& book) {
    const std::string ending = lowered(what.extension().string());
    std::vector<book::Entry> entries;
    if (ending == ".csv") {
      entries = book::entries_from_csv(read_file(what), what.string());
    } else if (ending == ".json") {
      entries = book::entries_from_json(read_json(what), what.string());
    } else if (ending == ".askcount") {
      entries = {book::entry_of(take::load_take(what), what)};
    } else {
      const ingest::Gathered found = ingest::gather(what);
      entries = {book::entry_of(found, what)};
      entries.front().picture = book::picture_of(found.frames);
    }
    const std::vector<long long> ids = book.file(entries);
    const std::string words = entries.size() == 1
                                  ? askcount::say("{} is in the book now.", entries.front().name)
                                  : counted(static_cast<long long>(ids.size()), "{} take is in the book now.",
                                            "{} takes are in the book now.");
    post([this, words, id = ids.empty() ? 0 : ids.back()] {
      entries_.clear();
      pictures_.erase(id);
      emit told(to_q(words));
      emit filed(id);
    });
    read_shelf(book, true);
  });
}

void BookKeeper::add(const book::Entry& entry) {
  write_down(
      [this, entry](book::Book& book) {
        const long long id = book.file(entry);
        post([this, id] {
          entries_.erase(id);
          emit filed(id);
        });
      },
      true);
}

void BookKeeper::say(long long id, const book::Words& words) {
  // Shown at once; on the disk soon.
  for (book::Row& r : shelf_.listing.rows)
    if (r.id == id) r.words = words;
  entries_.erase(id);
  write_down([this, id, words](book::Book& book) { book.say(id, words); }, false);
  emit changed();
}

void BookKeeper::take_out(long long id) {
  write_down(
      [this, id](book::Book& book) {
        const book::Entry gone = book.take_out(id);
        post([this, id, name = gone.name] {
          entries_.erase(id);
          pictures_.erase(id);
          emit told(say_q("{} was taken out of the book; its files stay.", name));
        });
      },
      true);
}

void BookKeeper::moved(const fs::path& from, const fs::path& to) {
  write_down([this, from, to](book::Book& book) { book.moved(from, to); }, true);
}

void BookKeeper::keep(const book::Score& score) {
  shelf_.scores.push_back(score);
  write_down([this, score](book::Book& book) { book.keep(score); }, true);
  emit changed();
}

void BookKeeper::write(const fs::path& file) {
  put([this, file](book::Book& book) {
    const book::Listing listing = book.list(query_);
    const std::string ending = lowered(file.extension().string());
    const Guard guard;
    if (ending == ".csv") {
      std::vector<book::Entry> entries;
      for (const book::Row& r : listing.rows) entries.push_back(book.entry(r.id).value_or(book::Entry{}));
      write_file_atomically({file, FileKind::Table, guard}, book::csv_of(entries));
    } else {
      const book::Printed printed = book::printed_of(book, query_, listing);
      std::vector<std::string> pictures;
      for (const book::Row& r : listing.rows) pictures.push_back(book.picture(r.id));
      if (ending == ".pdf")
        book::write_sheet(printed, file, guard);
      else
        write_file_atomically({file, FileKind::Page, guard}, book::page_of(printed, pictures));
    }
    post([this, file] { emit told(say_q("Written: ") + to_q(file.string())); });
  });
}

void BookKeeper::look_again(long long id, sky::Body body, Instant then, const sky::Place& place,
                            Instant from) {
  put([this, id, body, then, place, from](book::Book&) {
    constexpr int kDays = 730;
    post([this, id, when = book::again(body, then, place, from, kDays)] { emit again_found(id, when); });
  });
}

}  // namespace askcount::app

#include "moc_book_keeper.cpp"
