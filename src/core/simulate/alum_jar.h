// SPDX-License-Identifier: GPL-3.0-or-later
// The alum jar: crystals growing slowly under a lamp on a window sill.
#pragma once

#include <memory>

#include "simulate/scene.h"

namespace askcount::simulate {

/// How fast the largest crystal's tip moves outwards.
inline constexpr double kAlumGrowth_mm_per_hour = 0.2;
inline constexpr double kAlumField_mm = 60;  // what the frame's width shows

/// Growth begins anew every five days at midnight, universal time, unless the setting says when it began.
/// Haste is that of its growth; what has filled the jar stays.
class AlumJar : public Scene {
 public:
  explicit AlumJar(const SceneSetting& setting);
  ~AlumJar() override;
  image::Linear32 seen(Instant start, double open_s) const override;
  /// How large the largest crystal is then, from its middle to its tip, in mm.
  static double crystal_mm(Instant at);

 private:
  struct Still;
  std::unique_ptr<const Still> still_;
};

}  // namespace askcount::simulate
