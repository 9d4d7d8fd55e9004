// SPDX-License-Identifier: GPL-3.0-or-later
// Frames without what lens and sensor did to them: one more way to read them, for all that measure and draw.
#pragma once

#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <vector>

#include "media/frame_source.h"
#include "optics/lens_records.h"
#include "optics/warp.h"
#include "optics/wish.h"

namespace askcount::optics {

/// What is undone, made ready: of one take, whose frames share a shape, a lens and a focal length.
struct Mending {
  media::SensorCare sensor;
  std::vector<Spot> spots;
  LensGrid lens;
  double turn_deg = 0, vignetting_stops = 0;

  bool of_pictures() const {
    return !spots.empty() || lens.bends || lens.darkens || turn_deg != 0 || vignetting_stops != 0;
  }
  bool none() const { return sensor.none() && !of_pictures(); }
};

/// The shot that stands for all of a take's: the first that can be read; an empty one where none can.
media::ShotInfo shot_of(const media::Frames& frames);

/// Makes a wish ready for frames like this one. `folder` is where the take's file lies. Throws BadInput where
/// the lens is to be undone by its record and there is none, and as read_dark_frame(). Null `records` are
/// those installed.
Mending mending_of(const Wish& wish, const media::ShotInfo& shot, const std::filesystem::path& folder,
                   const LensRecords* records = nullptr);

/// Reads frames as any_source() does, then undoes it. What is quick (small() and preview()) stays as the
/// camera made it. Safe from several threads at once.
class MendedSource : public media::FrameSource {
 public:
  explicit MendedSource(Mending mending);

  /// Whether it reads frames just as they were shot.
  bool none() const { return mending_.none(); }
  media::Shown read(const media::Frame& frame, const media::Want& want) const override;
  /// Where a place of a frame of this size as it was shot comes to lie, and the other way about; all in
  /// shares of the frame.
  std::array<double, 2> shown_at(double x, double y, image::Size frame) const;
  std::array<double, 2> shot_at(double x, double y, image::Size frame) const;

  media::Shown preview(const media::Frame& frame, const media::Want& want) const override;
  image::Grey8 grey(const media::Frame& frame, int width) const override;
  image::Picture small(const media::Frame& frame) const override;
  bool gives_light(const media::Frame& frame) const override;

 private:
  std::shared_ptr<const Warp> warp_of(image::Size size) const;
  std::shared_ptr<const Warp> sketch_of(image::Size frame) const;

  Mending mending_;
  std::unique_ptr<const media::FrameSource> inner_;
  mutable std::mutex mutex_;
  mutable std::vector<std::shared_ptr<const Warp>> warps_;  ///< of the last sizes that were asked for
};

}  // namespace askcount::optics
