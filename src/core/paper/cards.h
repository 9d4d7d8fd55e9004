// SPDX-License-Identifier: GPL-3.0-or-later
// Sheets to take along as PDF (the plan, the cue card, the timer card), and the clicks as a table.
#pragma once

#include <filesystem>
#include <string>

#include "base/output.h"
#include "ramp/ramp.h"
#include "take/take.h"

namespace askcount::paper {

/// One page: what is asked, the sums, the timer's program in the words printed on it, place, sun and moon,
/// budgets, cautions. Throws as Take::sums and Failed naming the file.
void write_plan_sheet(const take::Take& take, const std::filesystem::path& file, const Guard& guard = {});

/// One page to follow in the dark: the clicks by clock and frame, as many as fit, large.
void write_cue_card(const take::Take& take, const ramp::Ramp& ramp, const std::filesystem::path& file,
                    const Guard& guard = {});

/// One page with the timer's five settings, very large, and the checklist to tick.
void write_timer_card(const take::Take& take, const std::filesystem::path& file, const Guard& guard = {});

/// The clicks: "time,frame,what,from,to,meter_after" and a line each.
std::string ramp_csv(const take::Take& take, const ramp::Ramp& ramp);

}  // namespace askcount::paper
