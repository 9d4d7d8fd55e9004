// SPDX-License-Identifier: GPL-3.0-or-later
// Which frames of a take a film shows when: first and last, faster and slower, backwards, to and fro.
#pragma once

#include <vector>

#include "base/frame_rate.h"

namespace askcount::render {

/// Which way a film goes through its frames.
enum class Way { Forward, Backward, ToAndFro };

/// What a film shows between two frames, where it goes slower than they were shot.
enum class Between {
  Repeat,  ///< the frame before
  Blend,   ///< both, the nearer one more
  Motion   ///< what moved is shown on its way
};

/// How fast a film goes at one moment of it: frames it goes on by from one of its own to the next.
struct SpeedAnchor {
  double at_s = 0;   ///< film time
  double times = 1;  ///< 0.05 to 200
  bool operator==(const SpeedAnchor&) const = default;
};

inline constexpr double kSlowest = 0.05, kFastest = 200;
inline constexpr long long kLongestTrail = 32;
inline constexpr long long kAllFrames = -1;

/// Frames that were meant and are not there: this many between a frame of the take (from 0) and the next.
struct Gap {
  size_t after = 0;
  long long frames = 0;
  bool operator==(const Gap&) const = default;
};

/// More missing frames in a row are a pause, which the film goes over.
inline constexpr long long kLongestGap = 5;

/// How a film goes through a take.
struct Choice {
  long long first = 1;  ///< frame of the take, from 1
  long long last = 0;   ///< the same; 0 for the last there is
  long long every = 1;  ///< of these only every nth is there, for the film and all that is made of it
  Way way = Way::Forward;
  std::vector<SpeedAnchor> speed;  ///< eased between them; empty for frame by frame
  Between between = Between::Repeat;
  bool make_missing = true;  ///< frames in gaps are made as those between frames; otherwise gone over
  double still_first_s = 0, still_last_s = 0;  ///< the first and the last picture stand so long besides
  long long trail = 1;                         ///< frames that are blended into each, in linear light
  /// Light stays where it was brightest for this many frames, fading out over them; 0 for not at all,
  /// kAllFrames for good.
  long long bright = 0;
  bool operator==(const Choice&) const = default;
};

/// Throws BadInput naming the value unless the choice can be made of a take of this many frames (0: not known
/// yet).
void check_choice(const Choice& choice, long long frames);

/// Film time against the take, worked out once. Const.
class Timeline {
 public:
  /// `gaps` are in the take's order. Throws as check_choice(), and BadInput for a film of more than a million
  /// frames.
  Timeline(const Choice& choice, long long take_frames, FrameRate fps, const std::vector<Gap>& gaps = {});

  /// Leaves of the film only this many of its frames from one on, and of the sequence only what they may
  /// need: `reach` places before the first, and the one after the last.
  void keep(size_t first, size_t count, size_t reach);

  /// The take's frames (from 0) in the order the film goes through them.
  const std::vector<size_t>& sequence() const { return sequence_; }
  /// How many frames the film has.
  size_t frames() const { return places_.size(); }
  /// Where film frame n lies in the sequence: between frames where it is no whole number. Never falls.
  double place(size_t n) const { return places_[n]; }
  /// Whether it stands for a frame that is missing.
  bool missing(size_t n) const;
  /// How many frames of the film do.
  size_t many_missing() const;
  /// Where it lies in the take, likewise, from 0.
  double take_place(size_t n) const;
  /// How fast the film goes at a moment: the curve through the anchors, eased from each to the next.
  static double speed_at(const std::vector<SpeedAnchor>& anchors, double film_s);

 private:
  std::vector<size_t> sequence_;
  std::vector<double> places_;
  std::vector<double> beats_;  // of each place, where frames are missing; empty where none are
  double place_at(double beat) const;
  void count_beats(const std::vector<Gap>& gaps, long long every);
};

/// From 0 to 1 with a gentle start and end (3t² − 2t³); t is held to 0 to 1.
double eased(double t);

}  // namespace askcount::render
