// SPDX-License-Identifier: GPL-3.0-or-later
// How bright every frame of a take is.
#pragma once

#include <algorithm>
#include <array>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/finding.h"
#include "base/progress.h"
#include "image/luminance.h"
#include "level/levelling.h"
#include "media/frame_source.h"

namespace askcount::level {

/// What the brightness of a take is measured from.
enum class MeasuredFrom {
  Frames,     ///< the frames themselves, decoded at one eighth
  Thumbnails  ///< embedded thumbnails, where there are some; a first curve, quickly
};

/// The light of every frame; null where a frame cannot be read.
using Luminances = std::vector<std::unique_ptr<image::Luminance>>;

/// Measures every frame. Only the part with the shape of `film` counts (all of the frame where `film` is
/// empty). Frames are read in parallel; memory grows by 9 KB a frame. Throws Cancelled, and Failed
/// where not one of them can be read.
Luminances measure(const media::Frames& frames, const media::FrameSource& source, image::Size film,
                   MeasuredFrom from = MeasuredFrom::Frames, const Work& work = {});

/// The light of one decoded frame, upright, within the film's shape.
image::Luminance measure_frame(const image::Picture& picture, image::Size film);

/// A change of light that is the scene's: a lamp, a flash, the sun behind a cloud.
struct Change {
  size_t frame = 0;
  double stops = 0;    ///< of the picture's mean
  bool flash = false;  ///< it is over after a frame or two, and all of the picture shares it
  size_t frames = 1;   ///< how many it takes; more than one for what all of the picture shares, as a cloud's
};

/// A take's levelling, ready to show and to render by.
struct Evenness {
  std::vector<Levelled> frames;
  std::vector<Correction> corrections;        ///< one a frame
  std::vector<double> after;                  ///< brightness that leaves, in stops, one a frame
  std::vector<double> red_after, blue_after;  ///< red and blue against green, in stops from the first frame
  std::vector<Click> clicks;
  std::vector<Change> kept;           ///< true changes of light, left as they are
  std::vector<Change> smoothed;       ///< those that were smoothed by the person's wish
  std::vector<size_t> asked_to_keep;  ///< frames that the person wants kept
  std::vector<size_t> unreadable;
  double flicker_before = 0;  ///< stops, true changes that are kept apart
  double flicker_after = 0;   ///< the same
  double colour_before = 0;   ///< of red or blue against green, of the whole or of a third: whichever is most
  double colour_after = 0;
  /// Flicker of the upper, middle and lower third of the picture, in stops.
  std::array<double, 3> zones_before{}, zones_after{};
  /// Flicker of whichever ninth of the picture flickers most by what most of it shares, in stops; and of
  /// which, from 0 in rows from the top left.
  double part_before = 0, part_after = 0;
  size_t part = 0;
  /// The most of the whole, its parts and its colours.
  double most_before() const { return std::max({flicker_before, part_before, colour_before}); }
  double most_after() const { return std::max({flicker_after, part_after, colour_after}); }
  std::vector<size_t> set_aside;    ///< far darker than those beside them: see Leveller
  std::vector<size_t> late_clicks;  ///< whose record came a frame early or late
  /// Frames that are raised so far that light parts would have clipped, and by how much most of all.
  std::vector<size_t> held;
  double raised_most = 0;  ///< stops
};

/// Levels measured light. `frames` and `luminances` are of the same length. Reports each frame; throws
/// Cancelled where it is stopped.
Evenness even_out(const media::Frames& frames, const Luminances& luminances, Smoothing smoothing = {},
                  const Work& work = {});

/// Flicker in the digits it deserves, wherever it is told: "0.12", "0.018", or "under 0.001".
std::string flicker_words(double stops);

/// What there is to say about it.
Findings judge(const Evenness& evenness);

/// Recorded exposures of frames in stops, one against another: what no frame records (a lens without
/// contacts) counts as always alike, what one lacks as it was before. Nothing where a frame records none.
std::vector<std::optional<double>> exposures_of(const std::vector<media::Frame>& frames);

}  // namespace askcount::level
