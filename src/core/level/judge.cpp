// SPDX-License-Identifier: GPL-3.0-or-later
// What there is to say about a take's evenness.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "level/brightness.h"

namespace askcount::level {

std::string flicker_words(double stops) {
  if (stops < 0.0005) return say("under 0.001");
  std::string text = fmt::format("{:.{}f}", stops, stops < 0.0995 ? 3 : 2);
  return text.replace(text.find('.'), 1, language().point);
}

namespace {

constexpr double kColourSeen = 0.004;  // stops: less of it is not worth a word
constexpr double kColourHeld = 0.7;    // share of it that may be left where it is said to be held
constexpr double kPartsApart = 0.01;   // stops that a third flickers by more than the whole
constexpr double kSeen = 0.02;         // stops of flicker that an eye sees
constexpr size_t kListed = 12;         // changes that are listed one by one

std::string number(size_t n) {
  return format_count(static_cast<long long>(n) + 1);
}

std::string before_and_after(double before, double after) {
  return say("{} stops before, {} after.", flicker_words(before), flicker_words(after));
}

std::string signed_stops(double stops) {
  return say("{}{} stops", stops > 0 ? "+" : "", format_number(stops, 2));
}

void judge_clicks(const Evenness& e, Findings& list) {
  if (e.clicks.empty()) return;
  double recorded = 0, shown = 0;
  for (const Click& c : e.clicks) recorded += c.recorded * c.recorded, shown += c.measured * c.recorded;
  const bool agree = std::abs(shown / recorded - 1) < 0.3;
  const std::string count =
      counted(static_cast<long long>(e.clicks.size()), "{} exposure change", "{} exposure changes");
  std::string text =
      agree ? say("{} match the camera's record.", count)
            : say("{} recorded, but the pictures change by {} % of that. They were joined by the pictures.",
                  count, format_number(shown / recorded * 100, 0));
  if (!e.late_clicks.empty())
    text += say(" {} recorded a frame off and put right, the first at frame {}.",
                e.late_clicks.size() == 1
                    ? say("One was")
                    : format_count(static_cast<long long>(e.late_clicks.size())) + say(" were"),
                number(e.late_clicks.front()));
  list.push_back({agree ? "clicks_joined" : "clicks_disagree", agree ? Severity::Ok : Severity::Warning,
                  agree ? say("Clicks joined") : say("The record and the picture disagree"), text});
}

void judge_parts(const Evenness& e, Findings& list) {
  static constexpr const char* kNinths[] = {
      to_say("upper left"),  to_say("upper middle"), to_say("upper right"),
      to_say("middle left"), to_say("middle"),       to_say("middle right"),
      to_say("lower left"),  to_say("lower middle"), to_say("lower right")};
  const bool held = e.part_after < kSeen;
  if (e.part_before < e.flicker_before + kPartsApart &&
      (held || e.part_after < e.flicker_after + kPartsApart))
    return;
  list.push_back(
      {"parts_evened", held ? Severity::Ok : Severity::Warning,
       held ? say("Parts that flickered on their own are held") : say("A part still flickers on its own"),
       say("Most at the {}: {}", say(kNinths[e.part]), before_and_after(e.part_before, e.part_after))});
}

void judge_set_aside(const Evenness& e, Findings& list) {
  if (e.set_aside.empty()) return;
  const auto many = static_cast<long long>(e.set_aside.size());
  list.push_back(
      {"frames_set_aside", Severity::Warning,
       counted(many, "{} frame is far darker than those beside it",
               "{} frames are far darker than those beside them"),
       say("The first is frame {}. Their light tells nothing of the scene's, so the levelling of the "
           "others goes by without them. On Gather leave them out, or let their neighbours stand in.",
           number(e.set_aside.front()))});
}

struct KeptWords {
  const char* code;
  std::string title, why;
};

/// What there is to say of a true change that is kept, by wish where that was `asked`.
KeptWords words_of(const Change& c, bool asked) {
  const std::string stops = signed_stops(c.stops), at = number(c.frame);
  if (c.flash)
    return {"flash", say("A flash at frame ") + at, stops + say(" for a moment, as lightning does: kept.")};
  if (c.frames > 1)
    return {"gradual_change", say("The light changes from frame {} to {}", at, number(c.frame + c.frames)),
            say("{} within {} frames, as a cloud before the sun does: kept.", stops,
                format_count(static_cast<long long>(c.frames)))};
  return {
      "local_change", say("The light changes at frame ") + at,
      asked ? stops + say(", kept by your wish.")
            : stops +
                  say(" of the whole. Only a part of the picture shares it, so it is the scene's and kept.")};
}

void judge_changes(const Evenness& e, Findings& list) {
  for (size_t i = 0; i < std::min(kListed, e.kept.size()); ++i) {
    const Change& c = e.kept[i];
    const auto frame = static_cast<long long>(c.frame) + 1;
    const bool asked =
        std::find(e.asked_to_keep.begin(), e.asked_to_keep.end(), c.frame) != e.asked_to_keep.end();
    const KeptWords words = words_of(c, asked);
    list.push_back({words.code, Severity::Ok, words.title, words.why,
                    asked ? Fix(fix::KeepChange{frame, false}) : Fix(fix::SmoothChange{frame})});
  }
  if (e.kept.size() > kListed)
    list.push_back(
        {"local_changes", Severity::Ok,
         say("{} more true changes of light", format_count(static_cast<long long>(e.kept.size() - kListed))),
         say("They are kept, like those above.")});
  for (size_t i = 0; i < std::min(kListed, e.smoothed.size()); ++i)
    list.push_back({"change_smoothed", Severity::Ok,
                    say("A change of light at frame {} is smoothed", number(e.smoothed[i].frame)),
                    say("{} of the whole, by your wish.", signed_stops(e.smoothed[i].stops)),
                    fix::SmoothChange{static_cast<long long>(e.smoothed[i].frame) + 1, false}});
}

}  // namespace

Findings judge(const Evenness& e) {
  Findings list;
  judge_clicks(e, list);
  const bool even = e.flicker_after < kSeen;
  const bool parts_even = e.part_after < std::max(kSeen, e.flicker_after + kPartsApart);
  list.push_back({even ? "flicker_gone" : "flicker_left", even ? Severity::Ok : Severity::Warning,
                  !even        ? say("Some flicker is left")
                  : parts_even ? say("Flicker below what an eye sees")
                               : say("As a whole the frames are even"),
                  say("The whole: {}", before_and_after(e.flicker_before, e.flicker_after))});
  judge_parts(e, list);
  judge_set_aside(e, list);
  // What stays is no wandering but something coloured that moves.
  if (e.colour_before > kColourSeen && e.colour_after < kColourHeld * e.colour_before)
    list.push_back({"colour_evened", Severity::Ok, say("Drifting colours are held"),
                    say("Against green by ") + before_and_after(e.colour_before, e.colour_after)});
  judge_changes(e, list);
  if (!e.held.empty())
    list.push_back({"highlights_held", Severity::Ok,
                    say("Highlights held in {}",
                        counted(static_cast<long long>(e.held.size()), "{} frame", "{} frames")),
                    say("Raised by up to {} stops; what was white stays white and nothing new clips.",
                        format_number(e.raised_most, 2))});
  if (!e.unreadable.empty())
    list.push_back(
        {"frames_unreadable", Severity::Warning,
         counted(static_cast<long long>(e.unreadable.size()), "{} frame", "{} frames") + say(" not measured"),
         say("The first is frame {}: it cannot be read, or is set aside. Neighbours stand in.",
             number(e.unreadable[0]))});
  double most = 0;
  size_t most_at = 0;
  for (size_t n = 0; n < e.frames.size(); ++n)
    if (std::abs(e.frames[n].correction()) > most) most = std::abs(e.frames[n].correction()), most_at = n;
  if (most > 1)
    list.push_back(
        {"large_correction", Severity::Warning, say("One frame is far off"),
         say("Frame {} is corrected by {} stops. Look at it.", number(most_at), format_number(most, 1))});
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::level
