// SPDX-License-Identifier: GPL-3.0-or-later
// The Ropewalk: a street of Tern Quay's town, with people, a cyclist now and then, and cars at a few speeds.
#pragma once

#include <memory>

#include "simulate/scene.h"

namespace askcount::simulate {

/// What the frame's width shows, at the middle of the road.
inline constexpr double kRopewalk_m = 20;
inline constexpr double kWalking_mps = 1.35;  ///< most people; some stroll at 0.8, some hurry at 1.9
inline constexpr double kDriving_mps = 8.3;   ///< one lane; the other does 11

/// Day by the sun of the place, night by street lamps and lit windows; cars then have their lamps on. Haste
/// is that of all that moves.
class Ropewalk : public Scene {
 public:
  explicit Ropewalk(const SceneSetting& setting);
  ~Ropewalk() override;
  image::Linear32 seen(Instant start, double open_s) const override;

 private:
  struct Street;
  std::unique_ptr<const Street> street_;
};

}  // namespace askcount::simulate
