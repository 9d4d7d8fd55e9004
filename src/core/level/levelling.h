// SPDX-License-Identifier: GPL-3.0-or-later
// Evening out brightness: clicks joined, flicker removed, true changes of light kept.
#pragma once

#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <vector>

#include "image/luminance.h"
#include "level/colour_wander.h"
#include "level/correction.h"
#include "level/gradual.h"
#include "level/part_flicker.h"

namespace askcount::level {

/// How flicker is smoothed away, and what the person decided about it.
struct Smoothing {
  int reach = 12;       ///< frames to either side, for the light as it is without the clicks
  int join_reach = 30;  ///< the same for the chain of clicks the record tells of
  double strength = 1;  ///< share of the flicker that is taken out, 0 to 1; clicks are joined in any case
  bool parts = true;    ///< whether parts that flicker for themselves are held too
  /// Which parts of the picture (image::Luminance's) are measured; empty for all. Where one is true the
  /// others are left out.
  std::vector<bool> measured;
  std::vector<size_t> smooth;  ///< frames whose true change of light is smoothed too
  std::vector<size_t> keep;    ///< frames whose change is kept, whatever it looks like
  bool operator==(const Smoothing&) const = default;

  /// How far it reaches for this many seconds of film to either side, at least a frame.
  static int frames_of(double seconds, double fps);
};

/// One frame's brightness in stops (log2 of mean linear luminance): as shot, as it should be, and what to
/// add.
struct Levelled {
  double as_shot = 0;
  double target = 0;
  double red = 0, blue = 0;            ///< to be added to those colours against green, in stops
  image::Field field;                  ///< to be added to parts, besides the change of the whole
  image::Field red_field, blue_field;  ///< to be added to those colours of parts, besides
  image::Veil veil;                    ///< the haze, steady from frame to frame
  double correction() const { return target - as_shot; }
  /// What the colours are to be multiplied by besides.
  image::Gain tint() const { return {std::exp2(red), 1, std::exp2(blue)}; }
};

/// Brightness levelled frame by frame as it is measured, with a bounded look ahead: the same numbers whether
/// a whole curve is there or a film is being rendered.
///
/// The recorded exposure is taken out first, so that a click of a dial leaves no step; what is left is the
/// light of the scene with the flicker in it. A change that only a part of the picture shares (a lamp coming
/// on, a flash) is told from flicker, which all parts share, and kept, as is one that goes on over
/// several frames (GradualChange). The rest is smoothed by a local line.
/// The recorded clicks come back as one smooth curve. Where the record is wrong, the picture's own brightness
/// joins the click within `reach` frames. Colours that wander (an automatic white balance, a lamp that
/// pulses) are smoothed the same way (ColourWander), by what most parts of the picture share and what some
/// do for themselves.
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
  double red_wander(size_t n) const { return colours_.red(n); }
  double blue_wander(size_t n) const { return colours_.blue(n); }

  /// The change at frame n that only a part of the picture shares, in stops of the mean; 0 where there is
  /// none. Known with level(n).
  double local_change(size_t n) const { return local_step_[n]; }
  /// What true changes that are kept have added up to at frame n, in stops. Known likewise.
  double kept_light(size_t n) const { return local_[n]; }
  /// Whether the frame is in a flash: one or two that are far brighter than all around them in every part, as
  /// lightning makes them. Known like that.
  bool flash(size_t n) const { return flash_[n]; }
  /// Whether the frame is one or two that are far darker than those beside them, or of any that are black
  /// where those before were not, as a cap or a failed shot makes them: what their light was cannot be told
  /// from them. They move nothing of their neighbours. Known like that.
  bool set_aside(size_t n) const { return aside_[n] != Aside::No; }
  /// The same that was smoothed by wish; 0 where there was none.
  double smoothed_change(size_t n) const { return smoothed_step_[n]; }
  /// A change of light over several frames that all of the picture shares, as a cloud makes it.
  struct Gradual {
    size_t frame = 0;       ///< its first
    double stops = 0;       ///< of the picture
    size_t frames = 0;      ///< how long it takes
    bool smoothed = false;  ///< by wish; otherwise kept
  };
  /// All of them as far as they are known, in order.
  const std::vector<Gradual>& gradual_changes() const { return gradual_changes_; }
  /// Frames whose click the record has a frame early or late, as the pictures show it. Known like that.
  const std::vector<size_t>& late_clicks() const { return late_; }
  /// The brightness that is levelled: of the parts that are measured, in stops.
  double measured_stops(const image::Luminance& luminance) const;

 private:
  struct Sample {
    bool known = false;
    double stops = 0;
    double apart = 0;       // change of the mean less the change most parts share
    double shared = 0;      // that change
    double all_shared = 0;  // added up from the first frame
  };
  void settle_local(size_t until);
  double flash_step(size_t i, size_t from, size_t to);
  double gradual_step(size_t i);
  void align_click(size_t i);
  bool both_known(size_t i) const;
  bool told(size_t i) const { return samples_[i].known && aside_[i] == Aside::No; }
  void judge_alone(size_t i, size_t from, size_t to);
  std::vector<double> moved(size_t from, size_t to, size_t n) const;
  bool wished(const std::vector<size_t>& frames, size_t n) const;

  Smoothing smoothing_;
  std::vector<double> exposure_, joined_;
  std::vector<Sample> samples_;
  std::vector<double> local_, local_step_, smoothed_step_;
  std::vector<bool> flash_;
  enum class Aside : std::uint8_t {
    No,
    Corrected,  // it is held to its neighbours' light
    AsShot      // it is too dark to be raised
  };
  std::vector<Aside> aside_;
  size_t flash_end_ = 0;    // the first frame after the last flash
  double flash_light_ = 0;  // stops the frame before is brighter by, within one
  bool flash_smoothed_ = false;
  std::array<float, image::Luminance::kParts> last_parts_{};
  double last_mean_ = 0;
  bool any_ = false;
  ColourWander colours_;
  PartFlicker parts_, green_;
  std::vector<image::Veil> veils_;
  std::vector<size_t> late_;
  GradualChange gradual_;
  std::vector<Gradual> gradual_changes_;
};

/// What a frame's levelling asks for, done to the light of the frame it is shown by: its own, or a
/// neighbour's that stands in for it.
Correction correction_of(const Leveller& leveller, const image::Luminance& shown, const Levelled& levelled);

/// The whole curve at once. Frames that cannot be read are null and get their neighbours' target.
std::vector<Levelled> level_all(const std::vector<const image::Luminance*>& luminances,
                                const std::vector<std::optional<double>>& exposures,
                                Smoothing smoothing = {});

/// Flicker of a curve in stops: root mean square of what an 11-frame local quadratic leaves. Below 4 frames
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
