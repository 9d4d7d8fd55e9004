// Evening out brightness: clicks joined, flicker removed, true changes of light kept.
#pragma once

#include <array>
#include <cmath>
#include <cstddef>
#include <optional>
#include <vector>

#include "image/luminance.h"

namespace askcount::level {

/// How far smoothing reaches, in frames to either side.
struct Smoothing {
  int reach = 10;       ///< for the light as it is without the clicks
  int join_reach = 30;  ///< for the chain of clicks the record tells of
  bool operator==(const Smoothing&) const = default;
};

/// One frame's brightness in stops (log2 of mean linear luminance): as shot, as it should be, and what to
/// add.
struct Levelled {
  double as_shot = 0;
  double target = 0;
  double red = 0, blue = 0;  ///< to be added to those colours against green, in stops
  double correction() const { return target - as_shot; }
  /// What the colours are to be multiplied by besides.
  image::Gain tint() const { return {std::exp2(red), 1, std::exp2(blue)}; }
};

/// Brightness levelled frame by frame as it is measured, with a bounded look ahead: the same numbers whether
/// a whole curve is there or a film is being rendered.
///
/// The recorded exposure is taken out first, so that a click of a dial leaves no step; what is left is the
/// light of the scene with the flicker in it. A change that only a part of the picture shares (a lamp coming
/// on, a flash) is told from flicker, which all parts share, and kept. The rest is smoothed by a local line.
/// The recorded clicks come back as one smooth curve. Where the record is wrong, the picture's own brightness
/// joins the click within `reach` frames. Colours that wander (an automatic white balance, a lamp that
/// pulses) are smoothed the same way, by what most parts of the picture share of the change.
class Leveller {
 public:
  /// Recorded exposure of every frame in stops (exposures_of); nothing where it was not recorded.
  explicit Leveller(const std::vector<std::optional<double>>& exposures, Smoothing smoothing = {});

  /// Frames after n that must have been added before level(n).
  size_t lookahead() const;

  /// The light of the next frame; nothing where the frame cannot be read.
  void add(const image::Luminance* luminance);

  /// Frame n, once min(n + lookahead(), frames − 1) has been added.
  Levelled level(size_t n);

  /// How far red and blue were from green up to frame n, by what most parts share, in stops from the first.
  double red_wander(size_t n) const { return samples_[n].red; }
  double blue_wander(size_t n) const { return samples_[n].blue; }

  /// The change at frame n that only a part of the picture shares, in stops of the mean; 0 where there is
  /// none. Known with level(n).
  double local_change(size_t n) const { return local_step_[n]; }

 private:
  struct Sample {
    bool known = false;
    double stops = 0;
    double apart = 0;          // change of the mean less the change most parts share
    double red = 0, blue = 0;  // against green, added up from what most parts share of each change
  };
  void settle_local(size_t until);

  Smoothing smoothing_;
  std::vector<double> exposure_, joined_;
  std::vector<Sample> samples_;
  std::vector<double> local_, local_step_;
  std::array<float, image::Luminance::kParts> last_parts_{}, last_red_{}, last_blue_{};
  bool any_ = false;
};

/// The whole curve at once. Frames that cannot be read are null and get their neighbours' target.
std::vector<Levelled> level_all(const std::vector<const image::Luminance*>& luminances,
                                const std::vector<std::optional<double>>& exposures,
                                Smoothing smoothing = {});

/// Flicker of a curve in stops: root mean square of what an 11-frame local quadratic leaves. Below 3 frames
/// it is 0.
double flicker(const std::vector<double>& stops);

/// A click the record tells of, and what the picture shows of it, both in stops.
struct Click {
  size_t frame = 0;
  double recorded = 0;
  double measured = 0;  ///< from up to 6 frames on either side
};

/// The clicks of a take: every change of the recorded exposure of a sixth of a stop or more.
std::vector<Click> find_clicks(const std::vector<double>& as_shot,
                               const std::vector<std::optional<double>>& exposures);

}  // namespace askcount::level
