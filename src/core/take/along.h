// To take along: the plan and the cue card as PDF, the ramp as CSV, the window as a calendar entry, the day's
// light as a picture.
#pragma once

#include <filesystem>

#include "take/light.h"

namespace askcount::take {

/// One page: what is asked, the sums, the timer's program in the words printed on it, place, sun and moon,
/// budgets, cautions. Throws as Take::sums and Failed naming the file.
void write_plan_sheet(const Take& take, const std::filesystem::path& file);

/// One page to follow in the dark: the clicks by clock and frame, as many as fit, large.
void write_cue_card(const Take& take, const ramp::Ramp& ramp, const std::filesystem::path& file);

/// One page with the timer's five settings, very large, and the checklist to tick.
void write_timer_card(const Take& take, const std::filesystem::path& file);

/// The clicks: "time,frame,what,from,to,meter_after" and a line each.
std::string ramp_csv(const Take& take, const ramp::Ramp& ramp);

/// The take as an iCalendar file (RFC 5545): its window with alarms a day and 90 minutes before, and at every
/// change on the way. Written whole or not at all.
void write_calendar(const Take& take, const std::filesystem::path& file);
std::string calendar_text(const Take& take);

/// The light of the take's day as a picture of `width` × 240 pixels: the colour of the sky by hour, the EV as
/// a line, the take marked. PNG.
void write_light_strip(const Take& take, int width, const std::filesystem::path& file);

}  // namespace askcount::take
