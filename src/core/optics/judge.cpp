// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/judge.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "optics/hot_pixels.h"

namespace askcount::optics {
namespace {

constexpr double kHot_s = 1;  // a shutter from which hot pixels show
constexpr double kBent_pct = 0.3, kDark_stops = 0.15, kFringe_pct = 0.01;  // less of it nobody sees

std::string undone_words(const Wish& w) {
  std::vector<std::string> parts;
  if (w.by == By::Record) parts.push_back(say("the lens by its profile"));
  if (w.by == By::Hand)
    parts.push_back(say("a distortion of {} % and corners {} stops darker, by hand",
                        format_number(w.distortion_pct, 1), format_number(w.dark_stops, 1)));
  if (w.turn_deg != 0) parts.push_back(say("turned by {}°", format_number(w.turn_deg, 1)));
  if (!w.spots.empty())
    parts.push_back(counted(static_cast<long long>(w.spots.size()), "{} spot", "{} spots"));
  if (!w.hot.empty())
    parts.push_back(counted(static_cast<long long>(w.hot.size()), "{} hot pixel", "{} hot pixels"));
  if (!w.dark_frame.empty()) parts.push_back(say("a dark frame"));
  if (w.vignetting_stops != 0)
    parts.push_back(say("{} stops of vignetting added", format_number(w.vignetting_stops, 1)));
  std::string words;
  for (size_t i = 0; i < parts.size(); ++i) words += (i == 0 ? "" : "; ") + parts[i];
  if (!words.empty() && words[0] >= 'a' && words[0] <= 'z')
    words[0] = static_cast<char>(words[0] - 'a' + 'A');
  return words;
}

}  // namespace

std::string words_of(const LensRecord& r) {
  std::string words;
  const auto add = [&](const std::string& part) { words += (words.empty() ? "" : ", ") + part; };
  if (std::abs(r.distortion_pct) >= kBent_pct)
    add(say("{} of {} %", r.distortion_pct < 0 ? say("barrel") : say("pincushion"),
            format_number(std::abs(r.distortion_pct), 1)));
  if (r.dark_stops >= kDark_stops) add(say("corners {} stops darker", format_number(r.dark_stops, 1)));
  if (r.fringe_pct >= kFringe_pct) add(say("fringes"));
  return words.empty() ? say("nothing that shows") : words;
}

bool may_be_hot(const media::Frames& frames) {
  return frames && std::any_of(frames->begin(), frames->end(), [](const media::Frame& f) {
           return read_from_raw(f) && f.info().shutter_s.value_or(0) >= kHot_s;
         });
}

Findings judge(const Wish& wish, const media::Frames& frames, const std::optional<LensRecord>& known) {
  Findings list;
  if (wish.by == By::Nothing && known && words_of(*known) != say("nothing that shows")) {
    const bool by_camera = frames && std::none_of(frames->begin(), frames->end(), read_from_raw);
    list.push_back(
        {"lens_known", Severity::Ok, say("The lens has a profile"),
         fmt::format(
             "{}: {}.{}", known->name, words_of(*known),
             by_camera ? say(" Many cameras have corrected it in such files already: look first.") : ""),
         fix::UndoLens{}});
  }
  if (!wish.looked && may_be_hot(frames))
    list.push_back(
        {"hot_pixels_not_looked_for", Severity::Warning, say("Hot pixels?"),
         say("Shutters this long light single pixels up in every frame. They have not been looked for.")});
  if (const std::string undone = undone_words(wish); !undone.empty())
    list.push_back({"optics_undone", Severity::Ok, say("Corrected in every frame"), undone + "."});
  return list;
}

}  // namespace askcount::optics
