// SPDX-License-Identifier: GPL-3.0-or-later
// The render: frames decoded, levelled, drawn and encoded in one bounded pipeline.
#pragma once

#include <filesystem>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "base/error.h"
#include "base/progress.h"
#include "media/frame_source.h"
#include "media/reader.h"
#include "render/joining.h"
#include "render/plan.h"

namespace askcount::render {

/// What of a film may be made of neighbours, where frames cannot be read: this many in a row, and this share
/// in all. More is no film of that take: a card that was pulled, or a folder of damage.
inline constexpr int kMostInARow = 5;
inline constexpr double kMostStandIns = 0.1;

/// Frames that cannot be read, more than may be stood in for: `first` to `last` of those that were given,
/// counted from 0.
class TooManyUnreadable : public Error {
 public:
  TooManyUnreadable(size_t first, size_t last, const std::string& what)
      : Error(Kind::Failed, what), first_(first), last_(last) {}
  size_t first() const { return first_; }
  size_t last() const { return last_; }

 private:
  size_t first_, last_;
};

/// What was made, read back from the finished file.
struct FilmOutcome {
  media::FilmFacts facts;
  double seconds_taken = 0;
  double flicker_before = 0;            ///< of the frames, in stops; 0 where the order knew its levelling
  std::vector<std::string> unreadable;  ///< frames that could not be read; their neighbours stand in
  std::vector<std::string> set_aside;   ///< far darker than those beside them: see level::Leveller
  size_t made = 0;  ///< film frames that were not shot: between frames, or in the place of missing ones
  struct Steadied {
    double jitter_before = 0, jitter_after = 0;  ///< pixels of the frame, from frame to frame
    double edge = 0;                             ///< share of the width that it costs
  };
  std::optional<Steadied> steadied;  ///< where the film was steadied

  double stood_in_share() const {
    return facts.frames > 0 ? static_cast<double>(unreadable.size()) / static_cast<double>(facts.frames) : 0;
  }
};

/// Makes every film that is ordered from one reading of the frames. The frame's middle is cropped to the
/// film's shape, never squashed; reading is scaled where all films are smaller than the frame. A bounded
/// number of frames is in memory at once, whatever the length. Films are written to temporary names, closed,
/// opened again and checked against their orders (frame count, duration, rate, size) before they take their
/// own.
///
/// Throws BadInput for orders that cannot be met (gains that are not one a frame, and what
/// check_film_output() refuses, among them), TooManyUnreadable, Cancelled when stopped and Failed otherwise
/// (the folder of the frames is gone among it); films that were there before stay as they were, and nothing
/// half-written is left.
std::vector<FilmOutcome> render(const media::Frames& frames, const media::FrameSource& source,
                                std::span<const FilmOrder> orders, const Work& work = {});

/// Renders films as render() does, their excerpts where orders say such, weighs them and lets them go:
/// nothing is left. Throws as render().
std::vector<media::FilmWeights> weigh_excerpts(const media::Frames& frames, const media::FrameSource& source,
                                               std::span<const FilmOrder> orders, const Work& work = {});

/// A single picture of all frames that a film would show, of its size, view and look: where each place was
/// brightest (stars draw their trails), or the mean of all. Throws as render().
image::Coded16 render_still(const media::Frames& frames, const media::FrameSource& source,
                            const FilmOrder& order, Still kind, const Work& work = {});

/// The same for one film.
FilmOutcome render(const media::Frames& frames, const media::FrameSource& source, const FilmOrder& order,
                   const Work& work = {});

}  // namespace askcount::render
