// SPDX-License-Identifier: GPL-3.0-or-later
// The stand-in's scenes: what a shutter sees, drawn in scene-linear light.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/instant.h"
#include "image/pixels.h"
#include "sky/framing.h"
#include "sky/place.h"

namespace askcount::simulate {

/// How a scene stands. Only its size must be said: what else is not said is its own.
struct SceneSetting {
  image::Size size;
  sky::Place place = {};                       ///< under whose sky; its own where it is not known
  std::optional<sky::Aim> aim = std::nullopt;  ///< where the middle of the frame looks
  double across_deg = 0;                       ///< angle of view across the frame; 0 for its own
  double haste = 1;                            ///< how many times as fast as by itself what moves in it does
  std::optional<Instant> begins = std::nullopt;  ///< of what grows: when it began to
};

/// One scene at one size. Luminances are in cd/m².
class Scene {
 public:
  virtual ~Scene() = default;
  /// What a shutter open from `start` for `open_s` seconds sees, averaged over that time. Const and safe from
  /// several threads at once.
  virtual image::Linear32 seen(Instant start, double open_s) const = 0;
};

/// Seconds of an exposure during which a lamp is lit that flashes for `flash_s` at the start of every
/// `period_s`; the exposure begins `from_s` (0 or more) after the start of one.
double flashing_s(double from_s, double open_s, double period_s, double flash_s);

/// The clock that things in a scene move by: seconds since the day of the demo began, universal time.
double scene_clock_s(Instant at);

/// "Tern Quay", "Gannet Head", "The alum jar", "The Ropewalk".
const std::vector<std::string>& scene_names();
/// The full name for what a person wrote ("gannet head", "alum"). Throws BadInput naming those there are.
std::string scene_named(const std::string& text);
/// Where a scene lies.
sky::Place scene_place(const std::string& name);
/// When something worth a take begins there: the demo's dusk, a night of stars, a day of growing.
Instant scene_start(const std::string& name);
/// A scene at a size from 24 × 16 up. Throws BadInput for a name there is none of.
std::unique_ptr<Scene> make_scene(const std::string& name, const SceneSetting& setting);

}  // namespace askcount::simulate
