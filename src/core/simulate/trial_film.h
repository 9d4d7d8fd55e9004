// SPDX-License-Identifier: GPL-3.0-or-later
// The film before the shoot: the whole film a plan would give, shot small by the stand-in.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/frame_rate.h"
#include "ramp/ramp.h"
#include "simulate/camera.h"
#include "simulate/scene.h"
#include "sky/framing.h"

namespace askcount::simulate {

/// The room a trial film is shot in, in pixels; it has the shape of the film that is planned.
inline constexpr image::Size kRoom = {480, 270};

/// What a trial film is shot from.
struct TrialPlan {
  std::string scene = "Tern Quay";
  image::Size size = kRoom;
  FrameRate fps;
  Seconds interval_s = 1;
  long long frames = 1;
  Instant start;
  std::vector<Seconds> at_s = {};  ///< when each frame is, from the start, where nights lie between; empty
                                   ///< for one an interval
  sky::Place place;                ///< the scene's own where it is not known
  std::optional<sky::Move> move;   ///< where the camera looks from the first to the last frame; the scene's
                                   ///< own aim where it is not set
  double across_deg = 0;           ///< angle of view across the film; 0 for the scene's own
  double haste = 1;                ///< how many times as fast as by itself the scene moves
  std::vector<ramp::Exposure> chain;     ///< a frame each, or one that stands
  double filter_stops = 0;               ///< on at the first frame
  std::optional<long long> filters_off;  ///< before this frame they come off
  std::vector<double> ev;  ///< of the light, at ISO 100, a frame each; empty where it is not known: the first
                           ///< frame is then exposed as metered and the scene's own light goes on from there
  simulate::CameraSettings camera;
  /// The moment of frame `n`.
  Instant at(long long n) const {
    return later(start, at_s.empty() ? static_cast<double>(n) * interval_s : at_s[static_cast<size_t>(n)]);
  }
  bool operator==(const TrialPlan&) const = default;
};

/// Which of a film's frames is on the screen `seconds` after play began; its last once it is over.
long long frame_at(FrameRate fps, long long frames, double seconds);
inline long long frame_at(const TrialPlan& film, double seconds) {
  return frame_at(film.fps, film.frames, seconds);
}

/// How far a film's frames are from the meter, in stops: below zero is darker.
struct OverMeter {
  double first = 0, last = 0, least = 0, most = 0;
};

/// One trial film. Its frames may be asked for in any order and from several threads at once.
class TrialFilm {
 public:
  /// Meters the scene along the plan. Throws BadInput for a scene there is none of, no frames or no exposure.
  explicit TrialFilm(TrialPlan plan);
  ~TrialFilm();

  const TrialPlan& plan() const { return plan_; }
  /// Frame `n` from 0, as the camera would give it.
  image::Coded8 frame(long long n) const;
  /// How far the middle tone of frame `n` is from the meter's mid-grey, in stops: the light against the
  /// exposure, filters included.
  double over_stops(long long n) const;
  /// The same over all of its frames.
  OverMeter over_meter() const;

 private:
  class View;
  const ramp::Exposure& exposure(long long n) const;
  double filters(long long n) const;
  double own_light(long long n) const;   // log2 cd/m² of the scene's middle tone
  double gain_stops(long long n) const;  // that bring it to the plan's light

  TrialPlan plan_;
  std::unique_ptr<const View> view_;
  struct Node {
    long long frame;
    double light;  // log2 of the scene's own
  };
  std::vector<Node> nodes_;  // evenly along the film, and at both sides of every night
};

/// "It stays within 0.7 stops of the meter.", or where it goes wrong: "Its last frame is 9.8 stops darker
/// than the meter's: it drowns."
std::string over_words(const OverMeter& over);
/// Whether a film that is so far from the meter is lost: more than 3 stops over or 5 under.
bool is_lost(const OverMeter& over);

}  // namespace askcount::simulate
