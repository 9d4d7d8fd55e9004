// SPDX-License-Identifier: GPL-3.0-or-later
// What a take wants gathered, and what its frames are held against.
#pragma once

#include <filesystem>
#include <vector>

#include "ingest/gather.h"
#include "inspect/faults.h"
#include "take/take.h"

namespace askcount::forecast {

/// What to look for on these cards (absolute folders, or videos): the plan's count, interval and
/// start choose the take, and everything the person decided is done.
ingest::Ask gather_ask(const take::Take& take, std::vector<std::filesystem::path> cards);

/// How the first video among an ask's folders is read: how many of its pictures go on one frame, as the take
/// says, else what the plan's interval has by the film's own rate; and of a movie that a camera made itself
/// (it has as many pictures as the plan has shots) every picture, the plan's interval apart. Without a film,
/// and where nothing is planned, every picture. Throws Failed for a film that cannot be read.
void read_films(const take::Take& take, ingest::Ask& ask);

/// The exposures that were planned for this many frames; empty where the light is not followed by a known
/// chain.
inspect::Planned planned_of(const take::Take& take, std::size_t frames);

/// Sets the camera's clock so that what it calls `shown` (what is added to it already is in there) was at
/// `right` ("2026-10-09 18:14:30", at the place). Throws BadInput where that is no date and time.
Fix clock_fix(const take::Take& take, media::CameraTime shown, const std::string& right);

/// Seconds to add to the camera's clock so that the take's first frame stands where the journal or the plan
/// says the first shot was; nothing where neither is known or the frames have no times, or where it is right
/// within two seconds and an interval.
std::optional<double> clock_error_s(const take::Take& take, const ingest::Gathered& found,
                                    const std::optional<Instant>& began);

}  // namespace askcount::forecast
