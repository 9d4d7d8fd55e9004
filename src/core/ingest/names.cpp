// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/names.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <map>
#include <set>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"
#include "ingest/inventory.h"
#include "ingest/shots.h"

namespace askcount::ingest {
namespace fs = std::filesystem;
namespace {

/// "boats-0001": what stands before the number, its first value and how many digits it has.
struct Pattern {
  std::string before;
  long long first = 1;
  int digits = 4;
};

Pattern pattern_of(const std::string& name) {
  if (name.find('/') != std::string::npos || name.starts_with('.') || name.find('\0') != std::string::npos)
    throw bad_input(say("\"{}\" cannot be used to number files.", name), say("Write it like boats-0001."));
  Pattern p;
  size_t from = name.size();
  while (from > 0 && std::isdigit(static_cast<unsigned char>(name[from - 1])) != 0) --from;
  p.before = name.substr(0, from);
  const std::string digits = name.substr(from);
  if (digits.size() > 9)
    throw bad_input(say("\"{}\" ends in too long a number.", name), say("Write it like boats-0001."));
  if (digits.empty()) {
    p.before += "-";
  } else {
    p.first = std::stoll(digits);
    p.digits = static_cast<int>(digits.size());
  }
  return p;
}

constexpr const char* kOwnMarks = ".askcount-";  // passing folders, and what marks a stand-in's card

/// All that lies on a card, hidden or not, but for marks of our own; links and pipes go to `unread`.
void list_card(const fs::path& card, const fs::path& folder, std::vector<Planned>& files,
               std::vector<std::string>& unread) {
  std::error_code ec;
  fs::directory_iterator it(folder, ec);
  for (const fs::directory_iterator end; !ec && it != end; it.increment(ec)) {
    std::error_code odd;
    const fs::file_status status = it->symlink_status(odd);
    if (it->path().filename().string().starts_with(kOwnMarks)) continue;
    if (fs::is_directory(status))
      list_card(card, it->path(), files, unread);
    else if (fs::is_regular_file(status))
      files.push_back({it->path(), it->path().lexically_relative(card), fs::file_size(it->path(), odd)});
    else
      unread.push_back(it->path().string());
  }
  if (ec) unread.push_back(folder.string());
}

/// New names for pictures and what travels with them, in the order of capture.
std::map<fs::path, std::string> numbered(const CopyOrder& order) {
  const Pattern p = pattern_of(order.name);
  std::vector<fs::path> folders;  // the pictures of a film are not files of their own
  std::copy_if(order.cards.begin(), order.cards.end(), std::back_inserter(folders),
               [](const fs::path& card) { return fs::is_directory(card); });
  if (folders.empty()) return {};
  const ingest::Inventory inventory = ingest::take_inventory(folders);
  std::map<fs::path, std::string> names;
  // Cameras one after the other would tear apart what was shot together: the shots of each, then by time.
  std::map<std::string, std::vector<media::Exposure>> cameras;
  for (const media::Exposure& e : inventory.exposures) cameras[ingest::camera_of(e)].push_back(e);
  struct Numbered {
    std::optional<media::CameraTime> at;
    std::vector<media::Exposure> exposures;
  };
  std::vector<Numbered> shots;
  for (const auto& [camera, exposures] : cameras) {
    std::optional<media::CameraTime> last;
    for (const ingest::Shot& s : ingest::shots_of(exposures)) {
      Numbered n;
      n.exposures.assign(exposures.begin() + static_cast<long>(s.first),
                         exposures.begin() + static_cast<long>(s.first + s.count));
      if (n.exposures.front().info.captured) last = n.exposures.front().info.captured;
      n.at = last;
      shots.push_back(std::move(n));
    }
  }
  if (cameras.size() > 1)
    std::stable_sort(shots.begin(), shots.end(),
                     [](const Numbered& a, const Numbered& b) { return a.at < b.at; });
  long long most = 1;
  for (int d = 0; d < p.digits; ++d) most *= 10;
  if (p.first + static_cast<long long>(shots.size()) > most)
    throw bad_input(
        say("{} do not fit into {} digits from {} on.",
            counted(static_cast<long long>(shots.size()), "{} shot", "{} shots"), p.digits, p.first),
        say("Give the number more digits."));
  long long number = p.first;
  for (const Numbered& shot : shots) {
    for (size_t k = 0; k < shot.exposures.size(); ++k) {
      const media::Exposure& e = shot.exposures[k];
      const std::string letter = shot.exposures.size() > 1 ? std::string(1, static_cast<char>('a' + k)) : "";
      const std::string stem = fmt::format("{}{:0{}}{}", p.before, number, p.digits, letter);
      const auto add = [&](const fs::path& file) {
        if (!file.empty()) names[file] = stem + lowered(file.extension().string());
      };
      add(e.raw);
      add(e.compressed);
      for (const fs::path& sidecar : e.sidecars) add(sidecar);
    }
    ++number;
  }
  return names;
}

/// A name nobody has yet.
fs::path free_name(const fs::path& name, const std::set<std::string>& taken) {
  int number = 1;
  while (taken.contains(lowered(with_number(name, number).string()))) ++number;
  return with_number(name, number);
}

}  // namespace

fs::path with_number(const fs::path& name, int number) {
  if (number == 1) return name;
  return name.parent_path() / fmt::format("{} {}{}", name.stem().string(), number, name.extension().string());
}

std::vector<Planned> plan_names(const CopyOrder& order, std::vector<std::string>& unread) {
  std::vector<Planned> files;
  for (const fs::path& card : order.cards) {
    std::vector<Planned> here;
    std::error_code odd;
    if (fs::is_regular_file(card, odd)) {  // a film
      files.push_back({card, card.filename(), fs::file_size(card, odd)});
      continue;
    }
    require_folder(card);
    list_card(card, card, here, unread);
    std::sort(here.begin(), here.end(), [](const Planned& a, const Planned& b) {
      return natural_less(a.name.generic_string(), b.name.generic_string());
    });
    files.insert(files.end(), here.begin(), here.end());
  }
  if (files.empty())
    throw bad_input(
        say("There is nothing to copy in {}.", order.cards.empty() ? "" : order.cards.front().string()),
        say("Name the card or the folder the frames are in."));
  if (!order.name.empty()) {
    const std::map<fs::path, std::string> names = numbered(order);
    for (Planned& f : files)
      if (const auto at = names.find(f.from); at != names.end()) f.name = at->second;
  }
  // Two cards may have the same folders and names; cards know no capitals, so neither do we.
  std::set<std::string> taken{kManifest};
  for (Planned& f : files) {
    f.name = free_name(f.name, taken);
    taken.insert(lowered(f.name.string()));
  }
  return files;
}

}  // namespace askcount::ingest
