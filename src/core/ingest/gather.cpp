// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/gather.h"

#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "ingest/by_plan.h"
#include "ingest/takes.h"
#include "media/kind.h"

namespace askcount::ingest {
namespace {

using media::Frame;

/// Whether a file goes by that name: its own, or with folders before it.
bool goes_by(const std::filesystem::path& file, const std::string& name) {
  const std::string whole = file.generic_string();
  return whole == name || (whole.size() > name.size() && whole.ends_with(name) &&
                           whole[whole.size() - name.size() - 1] == '/');
}

bool named(const Frame& f, const std::vector<std::string>& names) {
  return std::any_of(names.begin(), names.end(), [&](const std::string& name) {
    return std::any_of(f.exposures.begin(), f.exposures.end(), [&](const media::Exposure& e) {
      return goes_by(e.file(), name) || (!e.raw.empty() && goes_by(e.raw, name));
    });
  });
}

/// Everything that counts frames once one came in at `at` (by 1), or the one that stood there went (by −1).
void renumber(FoundTake& take, size_t at, long by) {
  const auto move = [&](size_t& n, bool from_here) {
    if ((n > at || (n == at && from_here)) && (by > 0 || n > 0))
      n = static_cast<size_t>(static_cast<long>(n) + by);
  };
  for (Missing& m : take.missing) move(m.after, true);
  for (OffBeat& o : take.off_beat) move(o.frame, by > 0);
  for (size_t& f : take.incomplete) move(f, by > 0);
  for (size_t& f : take.sessions) move(f, by > 0);
}

/// Puts back what the person says is a frame, and takes out what they say is none.
void obey(FoundTake& take, const Ask& ask) {
  if (std::any_of(take.frames->begin(), take.frames->end(),
                  [&](const Frame& f) { return f.exposures.size() > 1 && f.blend != ask.blend; })) {
    std::vector<Frame> list = *take.frames;
    for (Frame& f : list) f.blend = ask.blend;
    take.frames = media::frames_of(std::move(list));
  }
  if (ask.keep.empty() && ask.leave_out.empty() && ask.stand_in.empty() && ask.from.empty() &&
      ask.until.empty())
    return;
  std::vector<Frame> list = *take.frames;
  std::vector<Dropped> still;
  for (Dropped& d : take.dropped) {
    if (!named(d.picture, ask.keep)) {
      still.push_back(std::move(d));
      continue;
    }
    size_t at = d.before ? 0 : list.size();
    if (const auto& t = d.picture.exposures.front().info.captured)
      for (at = 0; at < list.size(); ++at)
        if (const auto& other = list[at].exposures.front().info.captured; other && *other > *t) break;
    renumber(take, at, 1);
    list.insert(list.begin() + static_cast<long>(at), std::move(d.picture));
  }
  const auto place = [&](const std::string& name, size_t otherwise) {
    if (name.empty()) return otherwise;
    const auto at = std::find_if(list.begin(), list.end(), [&](const Frame& f) { return named(f, {name}); });
    return at == list.end() ? otherwise : static_cast<size_t>(at - list.begin());
  };
  const size_t from = place(ask.from, 0), until = place(ask.until, list.size());
  for (Frame& f : list) f.set_aside = !ask.stand_in.empty() && named(f, ask.stand_in);
  for (size_t i = list.size(); i-- > 0;) {
    if (i >= from && i <= until && !named(list[i], ask.leave_out)) continue;
    const Dropped by_hand{list[i], Dropped::Why::ByHand, false, say("Left out by you.")};
    still.push_back(by_hand);
    std::erase_if(take.off_beat, [&](const OffBeat& o) { return o.frame == i; });
    std::erase(take.incomplete, i);
    list.erase(list.begin() + static_cast<long>(i));
    renumber(take, i, -1);
  }
  take.dropped = std::move(still);
  take.frames = media::frames_of(std::move(list));
}

/// How far a take is from what was planned; smaller is nearer.
double distance(const FoundTake& take, const Ask& ask) {
  double d = 0;
  if (ask.frames && !take.frames->empty())
    d += std::abs(
        std::log(static_cast<double>(take.frames->size()) / static_cast<double>(std::max(1LL, *ask.frames))));
  if (ask.interval_s && *ask.interval_s > 0)
    d += take.interval_s && *take.interval_s > 0 ? 3 * std::abs(std::log(*take.interval_s / *ask.interval_s))
                                                 : 2;
  if (const auto start = take.start(); ask.start && start) {
    const double hours =
        std::abs(std::chrono::duration<double, std::ratio<3600>>(*start - *ask.start).count());
    d += std::min(hours, 3.0);
  }
  return d;
}

/// The take that is meant, and why.
void choose(Gathered& g, const Ask& ask) {
  const auto& takes = g.takes;
  if (ask.choose) {
    if (*ask.choose >= takes.size())
      throw bad_input(say("There is no take {}; {} found.", *ask.choose + 1,
                          counted(static_cast<long long>(takes.size()), "{} take", "{} takes")),
                      say("Gather without choosing to see them all."));
    g.chosen = *ask.choose;
    g.why_chosen = say("Chosen by you.");
    return;
  }
  const auto larger = [](const FoundTake& a, const FoundTake& b) {
    return a.frames->size() < b.frames->size();
  };
  g.chosen = static_cast<size_t>(std::max_element(takes.begin(), takes.end(), larger) - takes.begin());
  g.why_chosen = takes.size() > 1 ? say("It has the most frames.") : say("It is the only one.");
  if (takes.size() < 2 || (!ask.frames && !ask.interval_s && !ask.start)) return;
  const auto nearer = [&](const FoundTake& a, const FoundTake& b) {
    return distance(a, ask) < distance(b, ask);
  };
  g.chosen = static_cast<size_t>(std::min_element(takes.begin(), takes.end(), nearer) - takes.begin());
  g.why_chosen = say("It fits the plan best.");
}

void put_clock_right(std::vector<media::Exposure>& exposures, double by_s) {
  if (by_s == 0) return;
  for (media::Exposure& e : exposures)
    if (e.info.captured) *e.info.captured += std::chrono::milliseconds(std::llround(by_s * 1000));
}

/// The takes that are to be one, as one in the place of the first.
void join(Gathered& g, const std::vector<size_t>& which) {
  std::vector<size_t> sorted = which;
  std::sort(sorted.begin(), sorted.end());
  sorted.erase(std::unique(sorted.begin(), sorted.end()), sorted.end());
  std::vector<FoundTake> parts;
  for (const size_t i : sorted) {
    if (i >= g.takes.size())
      throw bad_input(say("There is no take {} to join; {} found.", i + 1,
                          counted(static_cast<long long>(g.takes.size()), "{} take", "{} takes")),
                      say("Gather without joining to see them all."));
    parts.push_back(g.takes[i]);
  }
  g.takes[sorted.front()] = joined(parts);
  for (size_t k = sorted.size(); k-- > 1;) g.takes.erase(g.takes.begin() + static_cast<long>(sorted[k]));
}

}  // namespace

std::string why_word(Dropped::Why why) {
  static constexpr const char* words[] = {"test", "marker", "unreadable", "double", "copy", "by_hand"};
  return words[static_cast<int>(why)];
}

Found find(const Ask& ask, const Work& work) {
  Inventory inventory = take_inventory(ask.folders, work, ask.film_step, ask.film_stretch);
  Found found;
  found.films = std::move(inventory.films);
  found.ignored = std::move(inventory.ignored);
  found.unread_folders = std::move(inventory.unread_folders);
  found.clock = std::move(inventory.clock);
  put_clock_right(inventory.exposures, ask.clock_s);
  found.takes = takes_of(inventory.exposures);
  for (const std::filesystem::path& copy : inventory.copies) {
    media::Exposure e;
    (media::kind_of(copy) == media::Kind::Raw ? e.raw : e.compressed) = copy;
    found.copies.emplace_back(std::move(e));
  }
  return found;
}

Gathered decided(const Found& found, const Ask& ask) {
  Gathered g;
  g.films = found.films;
  g.ignored = found.ignored;
  g.unread_folders = found.unread_folders;
  g.clock = found.clock;
  g.takes = by_plan(found.takes, ask);
  for (FoundTake& take : g.takes) obey(take, ask);
  for (const Frame& copy : found.copies) {
    const Dropped again{copy, Dropped::Why::Copy, false, say("The same picture again, on another card.")};
    g.takes.front().dropped.push_back(again);
  }
  if (ask.join.size() > 1) {
    join(g, ask.join);
    if (!ask.choose) {
      g.chosen = *std::min_element(ask.join.begin(), ask.join.end());
      g.why_chosen = say("Joined by you.");
      static_cast<FoundTake&>(g) = g.takes[g.chosen];
      return g;
    }
  }
  choose(g, ask);
  static_cast<FoundTake&>(g) = g.takes[g.chosen];
  return g;
}

Gathered gather(const Ask& ask, const Work& work) {
  return decided(find(ask, work), ask);
}

Gathered gather(const std::filesystem::path& folder, const Work& work) {
  Ask ask;
  ask.folders = {folder};
  return gather(ask, work);
}

}  // namespace askcount::ingest
