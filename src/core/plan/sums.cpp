// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/sums.h"

#include <nlohmann/json.hpp>

#include <fmt/format.h>

#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "plan/measures.h"

namespace askcount::plan {
namespace {

// The panning rule: at 24 fps a subject that takes less than 7 s for the frame's width starts to look broken.
constexpr Seconds kComfortableCrossing = 7;

}  // namespace

Sums sums_of(const Solution& solution, const ShotShape& shape) {
  if (!solution.complete()) throw bad_input(missing_words(solution));
  Sums s;
  s.frames = std::llround(*solution[Slot::Frames]);
  s.interval_s = *solution[Slot::Interval];
  s.shutter_s = *solution[Slot::Shutter];
  s.gap_s = *solution[Slot::Gap];
  s.field_s = *solution[Slot::Field];
  s.clip_s = *solution[Slot::Clip];
  s.fps = nearest_frame_rate(*solution[Slot::Fps]);
  s.speed_up = *solution[Slot::SpeedUp];
  s.trail = *solution[Slot::Trail];
  s.step = solution[Slot::Step];
  s.field_crossing_s = solution[Slot::FieldCrossing];
  s.screen_crossing_s = solution[Slot::ScreenCrossing];
  s.trail_assumed = solution.relation(Slot::Trail) == Relation::Assumed ||
                    solution.relation(Slot::Shutter) == Relation::Assumed;
  s.extra_shots = shape.extra_shots;
  s.open_factor = shape.open_factor;
  s.exposures = shape.exposures;
  return s;
}

Findings judge(const Sums& s) {
  Findings list;
  if (const double whole = std::round(s.interval_s);
      std::abs(whole - s.interval_s) > 1e-6 && s.interval_s >= 1) {
    const double use = std::max(1.0, whole);
    list.push_back(
        {"interval_not_whole", Severity::Warning, say("Many timers count whole seconds"),
         say("{} s cannot be set on them. {} gives {} in {}.", format_number(s.interval_s, 2),
             format_length(use), counted(s.frames, "{} frame", "{} frames"),
             format_length(static_cast<double>(s.frames + s.extra_shots - 1) * use + s.trail * use)),
         fix::SetSlot{Slot::Interval, use}});
  }
  if (s.screen_crossing_s && s.step) {
    const std::string word = motion_word(*s.screen_crossing_s, *s.step, s.trail);
    const std::string crossing =
        say("Crossing the screen takes {}; from {} on it is calm.", format_length(*s.screen_crossing_s, 1),
            format_length(kComfortableCrossing));
    if (word == "broken up")
      list.push_back({"motion_broken", Severity::Warning, say("Motion will look broken up"),
                      crossing + say(" It jumps {} of the width from frame to frame. Shorten the interval, "
                                     "allow a longer crossing, or let longer trails bridge it.",
                                     format_number(*s.step * 100, 1) + " %"),
                      fix::SetSlot{Slot::ScreenCrossing, kComfortableCrossing}});
    else if (word != "calm")
      list.push_back({"motion_" + word, Severity::Ok,
                      word == "lively" ? say("Lively motion") : say("Natural motion"),
                      crossing + say(" Longer trails help it to flow."),
                      fix::SetSlot{Slot::ScreenCrossing, kComfortableCrossing}});
  }
  if (s.frames < 2)
    list.push_back(
        {"single_frame", Severity::Warning, say("One frame is not a clip"), say("Ask for a longer clip.")});
  sort_by_severity(list);
  return list;
}

Json to_json(const Sums& s) {
  const auto maybe = [](const std::optional<double>& v, int decimals) {
    return v ? Json(rounded(*v, decimals)) : Json(nullptr);
  };
  Json fps = s.fps.den == 1 ? Json(s.fps.num) : Json(rounded(s.fps.value(), 6));
  return {{"frames", s.frames},
          {"shots", s.frames + s.extra_shots},
          {"exposures", (s.frames + s.extra_shots) * s.exposures},
          {"interval_s", rounded(s.interval_s, 6)},
          {"gap_s", rounded(s.gap_s, 6)},
          {"shutter_s", rounded(s.shutter_s, 6)},
          {"field_s", rounded(s.field_s, 6)},
          {"clip_s", rounded(s.clip_s, 6)},
          {"fps", fps},
          {"fps_exact", format_frame_rate(s.fps)},
          {"speed_up", rounded(s.speed_up, 6)},
          {"step", maybe(s.step, 8)},
          {"trail", rounded(s.trail, 6)},
          {"crossing_s", maybe(s.field_crossing_s, 6)},
          {"screen_crossing_s", maybe(s.screen_crossing_s, 6)}};
}

}  // namespace askcount::plan
