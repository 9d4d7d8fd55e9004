// SPDX-License-Identifier: GPL-3.0-or-later
// Takes as found, put right by what was planned: its beat, its number and its days.
#pragma once

#include <vector>

#include "ingest/gather.h"

namespace askcount::ingest {

/// Takes as found with the plan as a first guess; without an interval in the plan, and where nothing keeps
/// its beat, they stay as they are. Nothing is thrown away.
/// - Stretches of one camera that keep the plan's beat or a multiple of it, and go on from each other on
///   it, are one take: its camera did not hear every press. What lay between them on the beat is theirs.
/// - With `Ask::days` the days' stretches are sessions of one take.
/// - A take that kept the plan's beat and has more shots than were planned, of which just so many stand in a
///   row without a hole in one place only, begins and ends with those: what lies before and after them was to
///   try the exposure, or a hand. Without a hole it begins when the plan says, where that leaves out three
///   shots at most.
std::vector<FoundTake> by_plan(std::vector<FoundTake> takes, const Ask& ask);

}  // namespace askcount::ingest
