// SPDX-License-Identifier: GPL-3.0-or-later
// Gannet Head: a headland with a beacon under stars, the galaxy's band and the moon, where they truly stand.
#pragma once

#include <memory>

#include "simulate/scene.h"
#include "sky/framing.h"

namespace askcount::simulate {

/// Where the camera looks: south, at the core.
inline constexpr sky::Aim kGannetAim{190, 24, 0};
inline constexpr double kGannetFocal_mm = 24;  // on 36 × 24 mm

/// Stars are made up (drawn by lot, most of them near the galactic plane) but turn with the sky of the place;
/// the band and its core, the moon and the light of the day are where libnova has them.
class GannetHead : public Scene {
 public:
  explicit GannetHead(const SceneSetting& setting);
  ~GannetHead() override;
  image::Linear32 seen(Instant start, double open_s) const override;
  /// The same with the camera turned elsewhere: the sky there is the true one, the headland stays below the
  /// middle of the setting's aim.
  image::Linear32 seen_towards(const sky::Aim& aim, Instant start, double open_s) const;

 private:
  struct Sky;
  std::unique_ptr<const Sky> sky_;
};

}  // namespace askcount::simulate
