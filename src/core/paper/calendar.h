// SPDX-License-Identifier: GPL-3.0-or-later
// The take as a calendar entry with alarms.
#pragma once

#include <filesystem>
#include <string>

#include "base/output.h"
#include "take/take.h"

namespace askcount::paper {

/// The take as an iCalendar file (RFC 5545): its window with alarms a day and 90 minutes before, and at every
/// change on the way. Written whole or not at all.
void write_calendar(const take::Take& take, const std::filesystem::path& file, const Guard& guard = {});
std::string calendar_text(const take::Take& take);

}  // namespace askcount::paper
