// SPDX-License-Identifier: GPL-3.0-or-later
// Tern Quay: a tidal harbour from late afternoon into night, drawn in scene-linear light.
#pragma once

#include <memory>

#include "base/instant.h"
#include "image/pixels.h"
#include "simulate/scene.h"
#include "sky/sun.h"

namespace askcount::simulate {

/// Where the made-up harbour lies.
const sky::Place& tern_quay_place();

/// Clouds cross the width of the frame in this many seconds, from left to right, all at one speed.
inline constexpr double kCloudCrossing_s = 2000;

/// The scene at one size. Luminances are in cd/m².
class TernQuay : public Scene {
 public:
  /// Any size from 24 × 16 up; shapes and textures are made once here. Haste is that of its clouds.
  explicit TernQuay(const SceneSetting& setting);
  ~TernQuay() override;
  TernQuay(TernQuay&&) noexcept;
  TernQuay(const TernQuay&) = delete;

  /// What a shutter open from `start` for `open_s` seconds sees, averaged over that time: boats sway, clouds
  /// drift, the beacon turns, ripples blur. Const and safe from several threads at once.
  image::Linear32 seen(Instant start, double open_s) const override;

  /// The moments at which the harbour's lamps come on, in order, on the evening of `day`.
  static std::vector<Instant> lamp_times(Instant day);

 private:
  struct Shapes;
  std::unique_ptr<const Shapes> shapes_;
};

}  // namespace askcount::simulate
