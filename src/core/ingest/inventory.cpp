// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/inventory.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <map>
#include <mutex>
#include <set>
#include <unordered_map>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"
#include "media/film_frames.h"
#include "media/kind.h"

namespace askcount::ingest {
namespace fs = std::filesystem;
namespace {

using media::Exposure;
using media::Kind;

/// What a listing found, each in the order of names.
struct Listing {
  std::vector<fs::path> stills, sidecars;
};

/// What lies in a folder and those below it; links to folders are not followed.
void list(const fs::path& folder, Listing& files, Inventory& found) {
  std::error_code ec;
  fs::directory_iterator it(folder, ec);
  std::vector<fs::path> below;
  for (const fs::directory_iterator end; !ec && it != end; it.increment(ec)) {
    std::error_code odd;
    if (it->path().filename().string().starts_with('.')) continue;  // the system's own: what was thrown away
    if (fs::is_directory(it->symlink_status(odd))) {
      below.push_back(it->path());
    } else if (it->is_regular_file(odd)) {
      const Kind kind = media::kind_of(it->path());
      if (media::is_still(kind))
        files.stills.push_back(it->path());
      else if (kind == Kind::Sidecar)
        files.sidecars.push_back(it->path());
      else if (kind == Kind::Film)
        found.films.push_back(it->path().string());
      else
        found.ignored.push_back(it->path().string());
    }
  }
  if (ec) found.unread_folders.push_back(folder.string());
  std::sort(below.begin(), below.end(),
            [](const fs::path& a, const fs::path& b) { return natural_less(a.string(), b.string()); });
  for (const fs::path& next : below) list(next, files, found);
}

/// Throws where pictures that were listed are not there any more.
void require_still_there(const std::vector<fs::path>& folders, const std::vector<Exposure>& exposures) {
  std::error_code ec;
  long long gone = 0;
  for (const Exposure& e : exposures)
    gone += !e.readable() && !fs::exists(media::on_disk(e.file()), ec) ? 1 : 0;
  for (const fs::path& folder : folders)
    if (gone > 0 || !fs::exists(folder, ec))
      throw failed(say("{} went away while it was read: {} of {} are gone.", folder.string(), gone,
                       counted(static_cast<long long>(exposures.size()), "{} picture", "{} pictures")),
                   say("Put the card back and gather again."));
}

/// What two files of one shot have in common: the name without its ending, in its folder.
std::string stem_of(const fs::path& file) {
  return lowered((file.parent_path() / file.stem()).string());
}

/// Adds `other` to an exposure that lacks it; false where that place is taken.
bool pair(Exposure& one, Exposure& other) {
  if (one.raw.empty() == other.raw.empty()) return false;
  if (one.raw.empty()) std::swap(one, other);
  one.compressed = other.compressed;
  // What the ready picture says goes for both: it is the one that is looked at.
  if (other.readable()) {
    one.info = other.info;
    one.trouble.clear();
  } else {
    one.compressed = one.readable() ? fs::path() : one.compressed;
    if (one.readable()) one.sidecars.push_back(other.compressed);
    if (!one.readable()) one.trouble = other.trouble;
  }
  return true;
}

/// Raw and ready pictures of one name become one exposure: in one folder by name, on two cards by name and
/// moment. The same file on both is one too.
void pair_up(std::vector<Exposure>& exposures, Inventory& found) {
  std::vector<Exposure> paired;
  paired.reserve(exposures.size());
  std::unordered_map<std::string, size_t> by_name, by_moment;
  for (Exposure& e : exposures) {
    const std::string name = stem_of(e.file());
    if (const auto at = by_name.find(name); at != by_name.end() && pair(paired[at->second], e)) continue;
    if (e.info.captured) {
      const std::string moment = lowered(e.file().stem().string()) + "|" +
                                 std::to_string(e.info.captured->time_since_epoch().count()) + "|" +
                                 e.info.body;
      const auto at = by_moment.find(moment);
      if (at != by_moment.end()) {
        Exposure& one = paired[at->second];
        std::error_code ec;
        const bool raw = !e.raw.empty();
        const fs::path& same = raw ? one.raw : one.compressed;
        if (!same.empty() && same.filename() == e.file().filename() &&
            fs::file_size(media::on_disk(same), ec) == fs::file_size(media::on_disk(e.file()), ec)) {
          found.copies.push_back(e.file());
          continue;
        }
        if (pair(one, e)) continue;
      }
      by_moment.emplace(moment, paired.size());
    }
    by_name.emplace(name, paired.size());
    paired.push_back(std::move(e));
  }
  exposures = std::move(paired);
}

void attach_sidecars(std::vector<Exposure>& exposures, const std::vector<fs::path>& sidecars,
                     Inventory& found) {
  std::unordered_map<std::string, size_t> owner;
  for (size_t i = 0; i < exposures.size(); ++i)
    for (const fs::path& file : {exposures[i].raw, exposures[i].compressed})
      if (!file.empty()) {
        owner.emplace(stem_of(file), i);           // X.xmp beside X.JPG
        owner.emplace(lowered(file.string()), i);  // X.JPG.xmp
      }
  for (const fs::path& sidecar : sidecars) {
    const auto at = owner.find(stem_of(sidecar));
    if (at != owner.end())
      exposures[at->second].sidecars.push_back(sidecar);
    else
      found.ignored.push_back(sidecar.string());
  }
}

}  // namespace

Inventory take_inventory(const std::vector<fs::path>& folders, const Work& work, long long film_step,
                         double film_stretch) {
  Inventory found;
  std::vector<Exposure> filmed;
  std::vector<Exposure> exposures;
  Listing files;
  std::set<fs::path> seen;
  for (const fs::path& folder : folders) {
    std::error_code ec;
    const bool film = media::kind_of(folder) == Kind::Film && fs::is_regular_file(folder, ec);
    if (!film) require_folder(folder);
    if (!seen.insert(fs::weakly_canonical(folder, ec)).second) continue;  // named twice
    if (film) {
      const auto pictures = media::film_frames(folder, film_step, film_stretch);
      filmed.insert(filmed.end(), pictures.begin(), pictures.end());
      continue;
    }
    Listing here;
    list(folder, here, found);
    std::sort(here.stills.begin(), here.stills.end(), [](const fs::path& a, const fs::path& b) {
      return natural_less(a.generic_string(), b.generic_string());
    });
    files.stills.insert(files.stills.end(), here.stills.begin(), here.stills.end());
    files.sidecars.insert(files.sidecars.end(), here.sidecars.begin(), here.sidecars.end());
  }
  if (files.stills.empty() && filmed.empty())
    throw bad_input(say("There are no pictures in {}.", folders.empty() ? "" : folders.front().string()),
                    found.films.empty()
                        ? say("Name the card or the folder the frames are in.")
                        : say("There is a film: name {} itself to take its pictures.", found.films.front()));
  exposures.resize(files.stills.size());
  std::mutex reporting;
  size_t done = 0;
  tbb::parallel_for(size_t{0}, files.stills.size(), [&](size_t i) {
    if (work.stop.stop_requested()) return;
    exposures[i] = media::frame_of(files.stills[i]).exposures.front();
    const std::lock_guard lock(reporting);
    work.report(++done, files.stills.size());
  });
  if (work.stop.stop_requested()) throw cancelled(say("Gathering was stopped; nothing was changed."));
  require_still_there(folders, exposures);
  exposures.insert(exposures.end(), filmed.begin(), filmed.end());
  pair_up(exposures, found);
  attach_sidecars(exposures, files.sidecars, found);
  put_in_order(exposures, found.clock);
  found.exposures = std::move(exposures);
  return found;
}

}  // namespace askcount::ingest
