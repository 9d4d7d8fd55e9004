// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/fault_kinds.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/language.h"
#include "base/units.h"

namespace askcount::inspect {
namespace {

/// `one` has a place for the frame's number; `many` for a count, of frames or of times.
struct Row {
  FaultKind kind;
  const char* word;
  const char *one, *many;
  bool of_frames;
  LaneKind lane;
  Severity severity = Severity::Warning;
};

constexpr Row kRows[] = {
    {FaultKind::Late, "late", to_say("Late at frame {}"), to_say("{} came late"), true, LaneKind::Beat},
    {FaultKind::Early, "early", to_say("Early at frame {}"), to_say("{} came early"), true, LaneKind::Beat},
    {FaultKind::Missing, "missing", to_say("Missing after frame {}"), to_say("Missing in {} places"), false,
     LaneKind::Beat},
    {FaultKind::Double, "double", to_say("A second shot at frame {}"), to_say("{} with a second shot"), false,
     LaneKind::Beat, Severity::Ok},
    {FaultKind::Bump, "bump", to_say("Bumped at frame {}"), to_say("Bumped {} times"), false,
     LaneKind::Still},
    {FaultKind::Swing, "swing", to_say("Knocked at frame {}"), to_say("Knocked {} times"), false,
     LaneKind::Still},
    {FaultKind::Sinking, "sinking", to_say("Sinking from frame {}"), to_say("Sinking in {} places"), false,
     LaneKind::Still},
    {FaultKind::Wind, "wind", to_say("Wind from frame {}"), to_say("Wind in {} places"), false,
     LaneKind::Still},
    {FaultKind::Soft, "soft", to_say("Not sharp: frame {}"), to_say("{} not sharp"), true, LaneKind::Sharp},
    {FaultKind::Hunting, "hunting", to_say("The focus hunts from frame {}"),
     to_say("The focus hunts {} times"), false, LaneKind::Sharp},
    {FaultKind::Dew, "dew", to_say("Dew from frame {}"), to_say("Dew in {} places"), false, LaneKind::Clear},
    {FaultKind::Visitor, "visitor", to_say("Something passed at frame {}"),
     to_say("Something passed {} times"), false, LaneKind::Alike},
    {FaultKind::Dark, "dark", to_say("Dark: frame {}"), to_say("{} dark"), true, LaneKind::Alike},
    {FaultKind::Blank, "blank", to_say("Blank: frame {}"), to_say("{} blank"), true, LaneKind::Alike},
    {FaultKind::Clipped, "clipped", to_say("Blown highlights from frame {}"),
     to_say("Blown highlights in {} places"), false, LaneKind::Exposure},
    {FaultKind::ClickOff, "click_off", to_say("A click is off at frame {}"), to_say("{} clicks are off"),
     false, LaneKind::Exposure},
    {FaultKind::SettingChanged, "setting_changed", to_say("A setting changed at frame {}"),
     to_say("Settings changed {} times"), false, LaneKind::Exposure},
    {FaultKind::Truncated, "truncated", to_say("Cut short: frame {}"), to_say("{} cut short"), true,
     LaneKind::Beat},
    {FaultKind::Unreadable, "unreadable", to_say("Unreadable: frame {}"), to_say("{} unreadable"), true,
     LaneKind::Beat},
    {FaultKind::SizeDiffers, "size_differs", to_say("Different size at frame {}"),
     to_say("Different size in {} places"), false, LaneKind::Exposure}};

constexpr bool in_order() {
  for (std::size_t i = 0; i < std::size(kRows); ++i)
    if (kRows[i].kind != static_cast<FaultKind>(i)) return false;
  return std::size(kRows) == static_cast<std::size_t>(FaultKind::SizeDiffers) + 1;
}
static_assert(in_order(), "a row for every kind, in the order of FaultKind");

const Row& row(FaultKind kind) {
  return kRows[static_cast<std::size_t>(kind)];
}

}  // namespace

const char* fault_word(FaultKind kind) {
  return row(kind).word;
}
LaneKind lane_of(FaultKind kind) {
  return row(kind).lane;
}
Severity severity_of(FaultKind kind) {
  return row(kind).severity;
}

std::string title_of(FaultKind kind, long long count, std::size_t frame) {
  const Row& r = row(kind);
  const std::string number = format_count(static_cast<long long>(frame) + 1);
  const std::string many = r.of_frames ? counted(count, "{} frame", "{} frames") : format_count(count);
  return count == 1 ? filled(say(r.one), r.one, fmt::make_format_args(number))
                    : filled(say(r.many), r.many, fmt::make_format_args(many));
}

}  // namespace askcount::inspect
