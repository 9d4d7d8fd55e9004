// SPDX-License-Identifier: GPL-3.0-or-later
// A few test frames held against the plan: is everything as it has to be before the take begins?
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/finding.h"
#include "base/json.h"
#include "base/progress.h"
#include "ingest/gather.h"
#include "inspect/measures.h"
#include "ramp/follow.h"
#include "take/take.h"

namespace askcount::forecast {

/// How the timer kept its beat.
enum class Beat {
  Unknown,  ///< too few frames, or no times in them
  AsPlanned,
  EveryNth,     ///< only every so many presses were heard
  CountsGap,    ///< the plan's interval was counted from the end of the shot
  CountsShort,  ///< the plan's gap was counted from start to start
  Other
};

/// What test frames say.
struct Tried {
  std::size_t frames = 0;
  Beat beat = Beat::Unknown;
  std::optional<Seconds> interval_s;  ///< really kept, start to start
  Seconds planned_interval_s = 0;     ///< that the timer is to run at
  long long every = 1;                ///< presses to a shot that is heard
  std::size_t exposures_each = 1;
  int planned_exposures = 1;
  std::optional<Seconds> busy_s;      ///< after a shot until the next could start
  bool busy_at_most = true;           ///< it was ready sooner than that; otherwise just so long
  ramp::Exposure exposure;            ///< on the frames; each value 0 where they do not say it
  bool by_itself = false;             ///< the exposure changed from frame to frame
  std::optional<double> meter_stops;  ///< brighter than the meter wishes (the plan's offset counted in)
  std::optional<bool> sharp;          ///< nothing where that cannot be told
  bool hunts = false;                 ///< the sharpness comes and goes
  double wanders_px = 0;              ///< how far the picture moved, in pixels of the full frame
  double clipped = 0;                 ///< share of the picture that is white and nothing else
  double frame_mb = 0;                ///< files of one shot
  std::string next_file;              ///< the name that the camera's next file will have; empty where unknown
  std::optional<long long> shots_left;  ///< that the camera's counter should show: room on the card in use
  Findings findings;                    ///< what to change, the graver first; what is well after it
  std::vector<Fix> learnt;              ///< for the kit, each safe to apply
  /// Whether nothing is to be changed first.
  bool start() const;
};

/// The newest pictures on a card that belong together, looked at and judged against a take's plan. `folders`
/// as gather() has them. Throws as gather() and look_at(), BadInput where nothing is there to judge or the
/// take's wishes are too few.
Tried try_frames(const take::Take& take, const std::vector<std::filesystem::path>& folders,
                 const Work& work = {});
/// The same for frames that were gathered and looked at.
Tried tried(const take::Take& take, const ingest::FoundTake& found, const inspect::Look& look);

/// What they say, a line each: what it is about, what was found, what was planned (empty where nothing was).
struct TriedLine {
  std::string what, is, planned;
};
std::vector<TriedLine> lines_of(const Tried& tried);

/// As JSON: `verdict` ("start" or "change"), `frames`, `interval_s`, `planned_interval_s`, `beat`,
/// `exposures_each`, `planned_exposures_each`, `busy_s`, `busy_at_most`, `shutter_s`, `f_number`, `iso`,
/// `meter_stops`, `sharp`, `focus_hunts`, `wanders_px`, `clipped`, `frame_mb`, `counter` (`next_file`,
/// `shots_left`), `findings`, `learnt`. What is not known is null.
Json to_json(const Tried& tried);

}  // namespace askcount::forecast
