// SPDX-License-Identifier: GPL-3.0-or-later
// Settings that changed in mid-take, and files that are not what they ought to be.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include <filesystem>
#include <map>
#include <set>

#include "base/language.h"
#include "base/units.h"
#include "inspect/faults.h"
#include "inspect/series.h"
#include "media/film_frames.h"

namespace askcount::inspect {
namespace {

using media::ShotInfo;

/// "white balance=auto;focus=1" by name.
std::map<std::string, std::string> named(const std::string& settings) {
  std::map<std::string, std::string> list;
  for (size_t from = 0; from < settings.size();) {
    const size_t end = std::min(settings.find(';', from), settings.size()), at = settings.find('=', from);
    if (at < end) list[settings.substr(from, at - from)] += settings.substr(at + 1, end - at - 1) + " ";
    from = end + 1;
  }
  return list;
}

/// A setting as it is said, and of dials as it is counted.
struct Setting {
  std::string words;
  double number = 0;
};

/// The settings of a frame that ought to stand.
std::map<std::string, Setting> standing(const ShotInfo& i) {
  std::map<std::string, Setting> list;
  for (const auto& [name, words] : named(i.settings)) list[name] = {words};
  if (i.f_number) list["aperture"] = {"f/" + format_number(*i.f_number, 1), *i.f_number};
  if (i.iso) list["ISO"] = {format_number(*i.iso, 0), *i.iso};
  if (i.focal_mm) list["focal length"] = {format_number(*i.focal_mm, 1) + say(" mm"), *i.focal_mm};
  if (!i.lens.empty()) list["lens"] = {i.lens};
  list["turned by"] = {format_number(i.orientation, 0)};
  return list;
}

struct Change {
  size_t frame = 0;
  Setting from, to;
};

/// Whether changes are steps of a ramp: several, all one way.
bool is_ramp(const std::vector<Change>& changes) {
  if (changes.size() < 3) return false;
  int up = 0, down = 0;
  for (const Change& c : changes) (c.to.number > c.from.number ? up : down) += 1;
  return up == 0 || down == 0 || std::min(up, down) * 6 < up + down;
}

}  // namespace

std::vector<Fault> setting_faults(const ingest::FoundTake& take) {
  std::map<std::string, std::vector<Change>> changes;
  std::map<std::string, Setting> last;
  long long exposures = 0;
  std::optional<double> stops;
  for (size_t n = 0; n < take.frames->size(); ++n) {
    const media::Frame& f = (*take.frames)[n];
    if (!f.readable()) continue;
    for (const auto& [name, value] : standing(f.info())) {
      auto& before = last[name];
      if (!before.words.empty() && before.words != value.words) changes[name].push_back({n, before, value});
      before = value;
    }
    const auto now = media::relative_stops(f.info());
    if (now && stops && std::abs(*now - *stops) > 0.1) ++exposures;
    if (now) stops = now;
  }
  std::vector<Fault> found;
  for (const auto& [name, list] : changes) {
    const bool dial = name == "aperture" || name == "ISO";
    if (dial && is_ramp(list)) continue;
    // In a ramp a small step of the aperture is a click like any other.
    if (name == "aperture" && exposures >= 4 && std::all_of(list.begin(), list.end(), [](const Change& c) {
          return std::abs(2 * std::log2(c.to.number / c.from.number)) < 0.75;
        }))
      continue;
    // ISO is a dial of the ramp: alone it is a fault only where nothing else was turned.
    if (name == "ISO" && exposures > 2 * static_cast<long long>(list.size())) continue;
    if (list.size() > 6) {
      found.push_back({FaultKind::SettingChanged, list.front().frame, list.back().frame,
                       static_cast<double>(list.size()), "",
                       say("{} changes {} times: it was left on automatic.",
                           name == "ISO" ? "ISO" : say("The ") + name, list.size()),
                       Remedy::Level});
      continue;
    }
    for (const Change& c : list)
      found.push_back({FaultKind::SettingChanged, c.frame, c.frame, 1, "",
                       say("{} changed from {} to {}.", name == "ISO" ? "ISO" : say("The ") + name,
                           c.from.words, c.to.words),
                       Remedy::None});
  }
  return found;
}

std::vector<Fault> file_faults(const ingest::FoundTake& take, const Look& look) {
  std::vector<Fault> found;
  std::map<size_t, std::string> why(look.troubles.begin(), look.troubles.end());
  std::map<std::pair<int, int>, size_t> sizes;
  for (const media::Frame& f : *take.frames)
    if (f.readable()) ++sizes[{f.info().size.width, f.info().size.height}];
  std::pair<int, int> usual{0, 0};
  for (const auto& [size, n] : sizes)
    if (n > sizes[usual]) usual = size;
  for (size_t n = 0; n < look.frames.size(); ++n) {
    const media::Frame& f = (*take.frames)[n];
    if (!look.frames[n].seen()) {
      const bool cut = look.frames[n].file == Measures::File::CutShort;
      std::error_code ec;
      const bool empty = std::filesystem::file_size(media::on_disk(f.file()), ec) == 0;
      found.push_back({cut ? FaultKind::Truncated : FaultKind::Unreadable, n, n, 1, "",
                       empty ? say("The file is empty.")
                       : cut ? say("The file ends too early.")
                             : say("The file cannot be read: ") + why[n],
                       Remedy::Neighbours});
    } else if (std::pair(f.info().size.width, f.info().size.height) != usual) {
      if (!found.empty() && found.back().kind == FaultKind::SizeDiffers && found.back().last + 1 == n) {
        found.back().last = n;
        continue;
      }
      found.push_back({FaultKind::SizeDiffers, n, n, 1, "",
                       say("It is {} × {}; the take is {} × {}.", f.info().size.width, f.info().size.height,
                           usual.first, usual.second),
                       Remedy::None});
    }
  }
  return found;
}

std::vector<Fault> beat_faults(const ingest::FoundTake& take) {
  std::vector<Fault> found;
  if (take.interval_s) {
    const double interval = *take.interval_s;
    // The take's own unevenness: what is no more than that is no fault.
    std::vector<double> gaps;
    std::optional<double> before;
    for (const media::Frame& f : *take.frames) {
      const auto at = begun_s(f);
      if (at && before && std::abs(*at - *before - interval) < 0.5 * interval) gaps.push_back(*at - *before);
      before = at;
    }
    // Whole seconds make steps uneven that are not, and what they hide of a frame its neighbours told.
    const bool coarse = take.clock_s > 0.5;
    const double own = coarse ? std::max(0.0, spread(gaps) - 0.75) : spread(gaps);
    const double least = std::max({0.1 * interval, coarse ? 0.7 : take.clock_s, 6 * own});
    for (const ingest::OffBeat& o : take.off_beat)
      if (std::abs(o.seconds) > least)
        found.push_back({o.seconds > 0 ? FaultKind::Late : FaultKind::Early, o.frame, o.frame,
                         std::abs(o.seconds), "s",
                         say("It came {} {}.", format_length(std::abs(o.seconds), 1),
                             o.seconds > 0 ? say("late") : say("early")),
                         Remedy::None});
  }
  for (const ingest::Missing& m : take.missing)
    found.push_back(
        {FaultKind::Missing, m.after, m.after + 1, static_cast<double>(m.frames), "frames",
         m.seconds > 0
             ? say("{} missing after it: {} to the next.", counted(m.frames, "{} frame", "{} frames"),
                   format_length(m.seconds, 1))
             : say("{} missing after it, by the numbers.", counted(m.frames, "{} frame", "{} frames")),
         Remedy::Make});
  for (const ingest::Dropped& d : take.dropped) {
    if (d.why != ingest::Dropped::Why::Double) continue;
    const auto& t = d.picture.exposures.front().info.captured;
    size_t after = 0;
    for (size_t n = 0; n < take.frames->size(); ++n)
      if (const auto& at = (*take.frames)[n].exposures.front().info.captured; at && t && *at <= *t) after = n;
    found.push_back({FaultKind::Double, after, after, 1, "frames",
                     say("{} is a second shot of this press; it is left out.", media::name_of(d.file())),
                     Remedy::None});
  }
  return found;
}

}  // namespace askcount::inspect
