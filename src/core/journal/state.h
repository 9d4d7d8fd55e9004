// SPDX-License-Identifier: GPL-3.0-or-later
// How a shoot stands, worked out from its journal.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/instant.h"
#include "base/json.h"
#include "base/units.h"
#include "ramp/follow.h"

namespace askcount::journal {

/// How a shoot stands, worked out from its journal alone: kill the program, and the next one knows it all.
struct ShootState {
  bool active = false;     ///< begun and not ended
  bool standin = false;    ///< otherwise beside a real camera
  std::string socket;      ///< of the stand-in
  double scale = 1;        ///< field seconds a real second; 0 as fast as it can
  Instant first;           ///< real moment of frame 0 (moved by pauses and by being put right)
  Seconds interval_s = 0;  ///< field seconds
  /// One day of a take by hours of work: its first frame, and field seconds from the first of all.
  struct Run {
    long long first = 0;
    Seconds from_s = 0;
  };
  std::vector<Run> runs;  ///< in order; empty for a take that is one even run
  long long count = 0;
  std::optional<Instant> paused;  ///< since when
  long long last_event = 0;       ///< number of the stand-in's last event that was seen
  long long shots = 0;            ///< frames the stand-in told
  long long missed = 0;
  std::optional<ramp::Exposure> first_dials;  ///< what they stood on at the start
  /// What a hand did at the dials.
  struct Turn {
    long long frame = 0;  ///< before which it was done
    ramp::Dial dial = ramp::Dial::Shutter;
    int thirds = 0;        ///< brighter above zero
    bool planned = false;  ///< it was asked for
    std::optional<ramp::Exposure>
        set;  ///< all of them set at once: told as they stand, or when filters came off
    Instant at;
  };
  std::vector<Turn> turns;
  std::vector<long long> skipped;        ///< frames at which a click that was asked for was put off
  std::optional<long long> filters_off;  ///< since when
  /// What the meter said meanwhile.
  struct Reading {
    long long frame = 0;
    double ev = 0;
  };
  std::vector<Reading> readings;
  struct Note {
    long long frame = 0;
    std::string words;
    std::string fault;  ///< its word, where it is one
  };
  std::vector<Note> notes;

  /// Real seconds from frame to frame.
  Seconds real_interval_s() const { return scale > 0 ? interval_s / scale : 0; }
  /// Field seconds from the first frame to another.
  Seconds at_s(long long frame) const;
  /// The frame the camera is at (from 0; −1 before the first), by the clock, or by what was told where it
  /// runs as fast as it can.
  long long frame_at(Instant now) const;
  /// Real seconds to the next shot; nothing when it is over or runs as fast as it can.
  std::optional<Seconds> next_shot_in(Instant now) const;
};

ShootState state_of(const std::vector<Json>& journal);

}  // namespace askcount::journal
