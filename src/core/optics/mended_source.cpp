// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/mended_source.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "optics/spots.h"

namespace askcount::optics {
namespace {

constexpr size_t kWarps = 4;

std::string lens_words(const Wish& wish, const media::ShotInfo& shot) {
  if (!wish.lens.empty()) return say("There is no profile for a lens like \"{}\".", wish.lens);
  if (shot.lens.empty()) return say("The frames do not record their lens.");
  return say("There is no profile for the lens \"{}\".", shot.lens);
}

}  // namespace

media::ShotInfo shot_of(const media::Frames& frames) {
  if (!frames) return {};
  const auto first = std::find_if(frames->begin(), frames->end(),
                                  [](const media::Frame& frame) { return frame.readable(); });
  return first == frames->end() ? media::ShotInfo{} : first->info();
}

Mending mending_of(const Wish& wish, const media::ShotInfo& shot, const std::filesystem::path& folder,
                   const LensRecords* records) {
  Mending m;
  m.sensor.hot = wish.hot;
  if (!wish.dark_frame.empty())
    m.sensor.dark = std::make_shared<media::DarkFrame>(media::read_dark_frame(folder / wish.dark_frame));
  m.spots = wish.spots;
  m.turn_deg = wish.turn_deg;
  m.vignetting_stops = wish.vignetting_stops;
  if (wish.by == By::Hand)
    m.lens = grid_by_hand(wish.distortion_pct, wish.dark_stops, image::upright(shot.size, shot.orientation));
  if (wish.by == By::Record) {
    auto record = (records ? *records : LensRecords::installed()).find(shot, wish.lens);
    if (!record)
      throw bad_input(
          shot.focal_mm ? lens_words(wish, shot) : say("The frames do not record their focal length."),
          say("Name one that has a profile, enter its two values by hand, or leave the lens uncorrected."));
    m.lens = std::move(record->grid);
  }
  return m;
}

MendedSource::MendedSource(Mending mending)
    : mending_(std::move(mending)), inner_(media::source_with(mending_.sensor)) {}

std::shared_ptr<const Warp> MendedSource::warp_of(image::Size size) const {
  const std::lock_guard lock(mutex_);
  for (const auto& w : warps_)
    if (w->size() == size) return w;
  if (warps_.size() == kWarps) warps_.erase(warps_.begin());
  warps_.push_back(std::make_shared<Warp>(mending_.lens, mending_.turn_deg, mending_.vignetting_stops, size));
  return warps_.back();
}

media::Shown MendedSource::read(const media::Frame& frame, const media::Want& want) const {
  if (!mending_.of_pictures()) return inner_->read(frame, want);
  const auto whole = [](int pixels, double share) {
    return static_cast<int>(std::ceil(pixels / std::max(1e-6, share)));
  };
  media::Shown shown = inner_->read(
      frame,
      {{whole(want.at_least.width, want.part.width), whole(want.at_least.height, want.part.height)}, {}});
  heal(shown.picture, mending_.spots);
  const image::Size size = image::size_of(shown.picture);
  shown.picture = warp_of(size)->apply(std::move(shown.picture));
  shown.part = image::in_pixels(want.part, size);
  return shown;
}

std::shared_ptr<const Warp> MendedSource::sketch_of(image::Size frame) const {
  constexpr double kAcross = 120;  // pixels: where things lie is as well told by a small one
  return warp_of({static_cast<int>(kAcross),
                  std::max(1, static_cast<int>(std::lround(kAcross / std::max(0.05, frame.shape()))))});
}

std::array<double, 2> MendedSource::shown_at(double x, double y, image::Size frame) const {
  return sketch_of(frame)->after(x, y);
}

std::array<double, 2> MendedSource::shot_at(double x, double y, image::Size frame) const {
  return sketch_of(frame)->before(x, y);
}

media::Shown MendedSource::preview(const media::Frame& frame, const media::Want& want) const {
  return inner_->preview(frame, want);
}

image::Grey8 MendedSource::grey(const media::Frame& frame, int width) const {
  return inner_->grey(frame, width);
}

bool MendedSource::gives_light(const media::Frame& frame) const {
  return mending_.lens.darkens || mending_.vignetting_stops != 0 || inner_->gives_light(frame);
}

image::Picture MendedSource::small(const media::Frame& frame) const {
  return inner_->small(frame);
}

}  // namespace askcount::optics
