// What a take wants gathered, and what its frames are held against.
#pragma once

#include <filesystem>
#include <vector>

#include "audit/faults.h"
#include "gather/gather.h"
#include "take/take.h"

namespace askcount::orders {

/// What to look for on these cards (absolute folders): the plan's count, interval and start choose the take,
/// and everything the person decided is done.
gather::Ask gather_ask(const take::Take& take, std::vector<std::filesystem::path> cards);

/// The exposures that were planned for so many frames; empty where the light is not followed by a known
/// chain.
audit::Planned planned_of(const take::Take& take, std::size_t frames);

/// Seconds to add to the camera's clock so that the take's first frame stands where the journal or the plan
/// says the first shot was; nothing where neither is known or the frames have no times, or where it is right
/// within two seconds and an interval.
std::optional<double> clock_error_s(const take::Take& take, const gather::Gathered& found,
                                    const std::optional<Instant>& began);

}  // namespace askcount::orders
