// SPDX-License-Identifier: GPL-3.0-or-later
// The beat: even runs among times, and what is missing, late or too much in them.
#pragma once

#include <cstddef>
#include <vector>

namespace askcount::ingest {

/// When the shots of one camera began. `unclocked[i]` shots without a time stand right before shot i.
struct Times {
  std::vector<double> at;  ///< seconds, never falling
  std::vector<size_t> unclocked;
  double clock_s = 0.02;  ///< how far off a time may be: 1 for a clock that writes whole seconds
};

/// What comes between two shots of a run.
struct Step {
  size_t from = 0, to = 0;  ///< places in Times
  double interval_s = 0;    ///< the beat here
  long long missing = 0;    ///< shots that ought to be between them
  double off_s = 0;         ///< how much later than the beat `to` comes; below zero earlier
};

/// An even run of shots.
struct Run {
  size_t first = 0, last = 0;  ///< places in Times, both in it
  double interval_s = 0;       ///< the usual one
  std::vector<Step> steps;     ///< from each shot on the beat to the next one
  std::vector<size_t> extra;   ///< places of shots between two beats: second shots of one press
};

/// Runs of at least five even shots, in order; none overlaps another. A run goes on over late shots, extra
/// ones and holes of up to eight. What belongs to no run came unevenly.
std::vector<Run> even_runs(const Times& times);

/// How far off its beat a shot may come and still be even, in seconds.
double tolerance_s(double interval_s, double clock_s);

}  // namespace askcount::ingest
