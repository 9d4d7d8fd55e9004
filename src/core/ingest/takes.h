// SPDX-License-Identifier: GPL-3.0-or-later
// From exposures in order to takes.
#pragma once

#include <vector>

#include "ingest/gather.h"

namespace askcount::ingest {

/// Every take among exposures that stand in the order they were shot, each camera's for itself, in order of
/// their first frames; what belongs to none lies beside the nearest. See gather() for how they are told.
/// Reads a few embedded pictures.
std::vector<FoundTake> takes_of(const std::vector<media::Exposure>& exposures);

/// Takes put one behind the other as the sessions of one, in order of time. `takes` is not empty.
FoundTake joined(const std::vector<FoundTake>& takes);

}  // namespace askcount::ingest
