// SPDX-License-Identifier: GPL-3.0-or-later
// What is wrong with the frames of a take, told from what was measured of them.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "base/finding.h"
#include "ingest/gather.h"
#include "inspect/fault_kinds.h"
#include "inspect/measures.h"

namespace askcount::inspect {

/// What can be done about a fault: a value in the take, which can be taken back.
enum class Remedy {
  None,
  LeaveOut,    ///< the frame goes, the film closes up
  Neighbours,  ///< its neighbours stand in for it
  Make,        ///< it is made from its neighbours, in Cut
  ShiftBack,   ///< the picture is put back in its place, in Cut
  LiftHaze,    ///< in Level
  Level,       ///< Level evens it out by itself
  EndBefore    ///< the take ends before it
};

/// One fault, or one stretch of frames that share it.
struct Fault {
  FaultKind kind = FaultKind::Late;
  std::size_t frame = 0;  ///< from 0; of a hole the frame before it
  std::size_t last = 0;   ///< the last one that has it
  double amount = 0;      ///< in `unit`
  std::string unit;       ///< "s", "frames", "px", "share", "stops", ""
  std::string text;       ///< what was seen, for people
  Remedy remedy = Remedy::None;
};

/// The word of a remedy in JSON: "", "leave_out", "neighbours", "make", "shift_back", "lift_haze", "level",
/// "end_before".
const char* remedy_word(Remedy remedy);

/// What was planned, as far as frames can be held against it.
struct Planned {
  std::vector<double> stops;  ///< relative_stops() of every frame's exposure; empty where there is no plan
};

/// All faults of a take that was looked at, by frame. `look` is of its frames. Every threshold is against the
/// take's own usual wandering: what moves, flickers or blurs all the time is no fault of one frame.
std::vector<Fault> faults_of(const ingest::FoundTake& take, const Look& look, const Planned& planned = {});

/// Those of the beat alone: they need no look.
std::vector<Fault> beat_faults(const ingest::FoundTake& take);

/// As findings, the same ones put together, the graver first; and what is well.
Findings judge(const ingest::FoundTake& take, const Look& look, const std::vector<Fault>& faults);

// Each kind by itself.
/// In `unclear` stretches (frames, both ends in them) pictures are too poor to tell small movements by.
using Stretches = std::vector<std::pair<std::size_t, std::size_t>>;
std::vector<Fault> still_faults(const ingest::FoundTake& take, const Look& look,
                                const Stretches& unclear = {});
/// `still` are still_faults(): what moved is no visitor, and a little softer for it.
std::vector<Fault> picture_faults(const Look& look, const std::vector<Fault>& still);
std::vector<Fault> clear_faults(const ingest::FoundTake& take, const Look& look);
/// Drops, and what grows out of focus: in a part of the picture. `others` are all that were found in the
/// whole of it: what changes with them is theirs.
std::vector<Fault> place_faults(const ingest::FoundTake& take, const Look& look,
                                const std::vector<Fault>& others);
std::vector<Fault> exposure_faults(const ingest::FoundTake& take, const Look& look, const Planned& planned);
std::vector<Fault> setting_faults(const ingest::FoundTake& take);
std::vector<Fault> file_faults(const ingest::FoundTake& take, const Look& look);

}  // namespace askcount::inspect
