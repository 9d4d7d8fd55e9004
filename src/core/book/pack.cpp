// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/pack.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/passing.h"
#include "book/archive.h"
#include "ingest/copy.h"
#include "journal/journal.h"
#include "take/take.h"

namespace askcount::book {
namespace fs = std::filesystem;
namespace {

/// Puts what a take names into a folder, and says what it is called there.
class Packing {
 public:
  Packing(fs::path home, fs::path to, const Work& work, Packed& packed)
      : home_(std::move(home)), to_(std::move(to)), work_(work), packed_(packed) {}

  /// A card, a folder of frames or a video: with everything below it.
  void take_card(std::string& card) {
    if (card.empty()) return;
    const fs::path from = home_ / card;
    std::error_code ec;
    if (!fs::exists(from, ec)) return missing(card);
    if (fs::is_regular_file(from, ec)) return take_file(card, "card");
    const std::string name = free_name("card");
    ingest::CopyOrder order;
    order.cards = {from};
    order.to = to_ / name;
    const ingest::CopyOutcome outcome = ingest::copy(
        order, [&](const ingest::CopyProgress& p) { work_.report(p.files_done, p.files); }, work_.stop);
    for (const std::string& file : outcome.unread) missing(file);
    if (!outcome.checked_twice && outcome.unread.empty())
      throw failed(say("{} changed while it was packed.", from.string()),
                   say("Pack again when nothing writes to it."));
    packed_.files += outcome.files.size();
    packed_.bytes += outcome.bytes;
    card = name;
  }

  /// A single file, or a folder of a few.
  void take_file(std::string& file, const std::string& folder) {
    if (file.empty()) return;
    const fs::path from = home_ / file;
    std::error_code ec;
    if (fs::is_directory(from, ec)) {
      const std::string name = free_name(from.filename().string());
      for (const auto& entry : fs::directory_iterator(from, ec))
        if (fs::is_regular_file(entry.symlink_status(ec)))
          put(entry.path(), to_ / name / entry.path().filename());
        else
          missing(entry.path().string());
      file = name;
      return;
    }
    if (!fs::is_regular_file(from, ec)) return missing(file);
    if (const auto had = names_.find(from); had != names_.end()) {
      file = had->second;
      return;
    }
    fs::path name = fs::path(folder) / from.filename();
    for (int n = 2; fs::exists(to_ / name, ec); ++n)
      name.replace_filename(fmt::format("{} {}{}", from.stem().string(), n, from.extension().string()));
    put(from, to_ / name);
    names_[from] = file = name.generic_string();
  }

  void put(const fs::path& from, const fs::path& to) {
    if (work_.stop.stop_requested()) throw cancelled(say("The packing was stopped."));
    std::error_code ec = make_folders(to.parent_path());
    if (ec) throw failed(say("The folder {} cannot be made: {}.", to.parent_path().string(), ec.message()));
    TemporaryFile passing({to, FileKind::Frame});
    fs::copy_file(from, passing.path(), fs::copy_options::overwrite_existing, ec);
    if (ec) throw failed(say("{} cannot be copied to {}: {}.", from.string(), to.string(), ec.message()));
    fs::last_write_time(passing.path(), fs::last_write_time(from, ec), ec);
    passing.put_in_place();
    ++packed_.files;
    packed_.bytes += fs::file_size(to, ec);
  }

  /// Frames that were only named when a film was cut are none of the take's: they are told.
  void must_be_within(const std::string& folder, const std::vector<fs::path>& cards) {
    std::error_code ec;
    const fs::path whole = fs::weakly_canonical(home_ / folder, ec);
    const bool packed = std::any_of(cards.begin(), cards.end(), [&](const fs::path& card) {
      const fs::path rest = whole.lexically_relative(fs::weakly_canonical(card, ec));
      return !rest.empty() && *rest.begin() != "..";
    });
    if (!packed) missing(folder);
  }

 private:
  std::string free_name(const std::string& wanted) {
    std::string name = wanted;
    for (int n = 2; !folders_.insert(name).second; ++n) name = fmt::format("{} {}", wanted, n);
    return name;
  }
  void missing(const std::string& file) { packed_.missing.push_back(file); }

  fs::path home_, to_;
  const Work& work_;
  Packed& packed_;
  std::map<fs::path, std::string> names_;
  std::set<std::string> folders_;
};

/// The book's films, each with its poster and its report.
void take_films(book::Entry& entry, Packing& packing) {
  for (book::FilmMade& film : entry.films) {
    const fs::path file = film.file;
    std::error_code ec;
    for (const auto& beside : fs::directory_iterator(file.parent_path(), ec)) {
      const std::string name = beside.path().filename().string();
      const bool poster =
          name.starts_with(file.stem().string() + " poster") && beside.path().extension() == ".jpg";
      std::string path = beside.path().string();
      if (poster || name == file.filename().string() + ".json") packing.take_file(path, "films");
    }
    packing.take_file(film.file, "films");
  }
}

Packed pack_into(const Order& order, const fs::path& to, const Work& work) {
  Packed packed;
  const fs::path home = fs::absolute(order.take).parent_path();
  take::Take take = take::load_take(order.take);
  if (const std::error_code ec = make_folders(to))
    throw failed(say("The folder {} cannot be made: {}.", to.string(), ec.message()), say("Name another."));
  Packing packing(home, to, work, packed);
  std::vector<fs::path> cards{home / take.card};
  for (const std::string& card : take.gather.more_cards) cards.push_back(home / card);
  packing.take_card(take.card);
  for (std::string& card : take.gather.more_cards) packing.take_card(card);
  packing.take_file(take.light.outlook.picture, "beside");
  for (std::string& picture : take.test_pictures) packing.take_file(picture, "beside");
  packing.take_file(take.look.cube, "beside");
  packing.take_file(take.optics.dark_frame, "beside");
  packing.take_file(take.film.sound, "beside");
  for (take::FilmWish& film : take.more_films) packing.take_file(film.sound, "beside");
  if (order.entry && order.entry->came && !order.entry->came->folder.empty())
    packing.must_be_within(order.entry->came->folder, cards);
  for (const fs::path& journal : journal::journals_of(order.take))
    packing.put(journal, to / journal.filename());
  packed.take = to / order.take.filename();
  if (order.entry) {
    book::Entry entry = *order.entry;
    take_films(entry, packing);
    entry.file.clear();
    fs::path said = packed.take;
    Json json = {{"askcount_report", "book"}};
    json.update(book::to_json(entry));
    write_file_atomically({said.replace_extension(".book"), FileKind::Report}, json.dump(1));
    ++packed.files;
  }
  take::save_take(take, packed.take);
  ++packed.files;
  return packed;
}

}  // namespace

Packed pack(const Order& order, const Work& work) {
  std::error_code ec;
  if (is_archive(order.to)) {
    const fs::path folder = order.to.parent_path().empty() ? fs::path(".") : order.to.parent_path();
    remove_passing_folders(folder);
    if (fs::exists(fs::symlink_status(order.to, ec)))
      throw bad_input(say("{} already exists.", order.to.string()), say("Name another; it was not changed."));
    const TemporaryFolder passing(order.to);
    Packed packed = pack_into(order, passing.path() / order.to.stem(), work);
    write_archive(passing.path() / order.to.stem(), order.to, work);
    packed.take = order.to.stem() / order.take.filename();
    return packed;
  }
  if (fs::exists(order.to, ec) && !(fs::is_directory(order.to, ec) && fs::is_empty(order.to, ec)))
    throw bad_input(say("{} already exists and is not empty.", order.to.string()),
                    say("Name a new folder, or an archive (.tar, .zip)."));
  return pack_into(order, order.to, work);
}

}  // namespace askcount::book
