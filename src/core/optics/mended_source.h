// Frames without what lens and sensor did to them: one more way to read them, for all that measure and draw.
#pragma once

#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <vector>

#include "optics/lens_records.h"
#include "optics/warp.h"
#include "optics/wish.h"
#include "source/frame_source.h"

namespace askcount::optics {

/// What is undone, made ready: of one take, whose frames share a shape, a lens and a focal length.
struct Mending {
  source::SensorCare sensor;
  std::vector<Spot> spots;
  LensGrid lens;
  double turn_deg = 0, eye_stops = 0;

  bool of_pictures() const {
    return !spots.empty() || lens.bends || lens.darkens || turn_deg != 0 || eye_stops != 0;
  }
  bool none() const { return sensor.none() && !of_pictures(); }
};

/// The shot that stands for all of a take's: the first that can be read; an empty one where none can.
source::ShotInfo shot_of(const source::Frames& frames);

/// Makes a wish ready for frames like this one. `folder` is where the take's file lies. Throws BadInput where
/// the lens is to be undone by its record and there is none, and as read_dark_frame(). Null `records` are
/// those installed.
Mending mending_of(const Wish& wish, const source::ShotInfo& shot, const std::filesystem::path& folder,
                   const LensRecords* records = nullptr);

/// Reads frames as any_source() does, then undoes it. What is quick (small() and preview()) stays as the
/// camera made it. Safe from several threads at once.
class MendedSource : public source::FrameSource {
 public:
  explicit MendedSource(Mending mending);

  /// Whether it reads frames just as they were shot.
  bool none() const { return mending_.none(); }
  source::Shown read(const source::Frame& frame, const source::Want& want) const override;
  /// Where a place of a frame of this size as it was shot comes to lie, and the other way about; all in
  /// shares of the frame.
  std::array<double, 2> shown_at(double x, double y, image::Size frame) const;
  std::array<double, 2> shot_at(double x, double y, image::Size frame) const;

  source::Shown preview(const source::Frame& frame, const source::Want& want) const override;
  image::Grey8 grey(const source::Frame& frame, int width) const override;
  image::Picture small(const source::Frame& frame) const override;
  bool gives_light(const source::Frame& frame) const override;

 private:
  std::shared_ptr<const Warp> warp_of(image::Size size) const;
  std::shared_ptr<const Warp> sketch_of(image::Size frame) const;

  Mending mending_;
  std::unique_ptr<const source::FrameSource> inner_;
  mutable std::mutex mutex_;
  mutable std::vector<std::shared_ptr<const Warp>> warps_;  ///< of the last sizes that were asked for
};

}  // namespace askcount::optics
