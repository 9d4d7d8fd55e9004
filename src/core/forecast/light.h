// SPDX-License-Identifier: GPL-3.0-or-later
// The light of a take: its ramp with the rule that the kit leaves, its lens, earlier exposures as readings.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "media/frame.h"
#include "ramp/ramp.h"
#include "take/take.h"

namespace askcount::forecast {

/// The ramp's rule with what the kit and the interval leave: the longest shutter leaves room for writing and
/// for turning the dial, apertures and ISO are within lens and body.
ramp::RampRule rule_of(const take::Take& take);

/// What is in front of the lens at the first shot of a take whose exposure follows the light.
struct OnTheLens {
  std::vector<std::string> filters;     ///< strongest first
  double stops = 0;                     ///< of all of them
  std::optional<ramp::Exposure> begin;  ///< that the dials then begin with, where the filters are for a wish
};

/// The filters that were chosen; where none were (and none forbidden) those that a wished trail or shutter
/// wants of the metered light, for a hand that follows it. Throws BadInput where the wishes are too few.
OnTheLens on_the_lens(const take::Take& take);

/// When every press of a take comes: at the interval its timer really runs at, within its hours of work.
/// Throws BadInput where the wishes are too few.
plan::Schedule schedule_of(const take::Take& take);

/// The take's timer; one that nobody has named can be told tenths of a second.
plan::Timer timer_of(const take::Take& take);

/// How long a shutter may be in the take's interval beside writing, and what then is left for a hand at the
/// dials.
Seconds room_of(const take::Take& take);

/// What is to stay in the frame: what was said, and for a take of stars the galaxy's core rather than the
/// sun.
sky::Body body_to_keep(const take::Take& take);

/// The flash that lights the subject; null where none does.
const plan::Lamp* flash_of(const take::Take& take);

/// Whether somebody has metered: once, or a curve of readings.
bool has_metered(const take::Take& take);

/// Whether enough is known to say how the light goes: where and when, or readings.
bool knows_light(const take::Take& take);

/// EV at ISO 100 of every shot: the take's source, its meter, and by night the sky the camera looks at.
/// Throws BadInput where it is not known, the wishes are too few, or the shots more than 200,000.
std::vector<double> light_of(const take::Take& take);

/// Whether the exposure follows this light: by method, and where the light changes by a stop or more. A
/// subject lit by its own lamp needs no following.
bool follows(const take::Take& take, const std::vector<double>& ev);

/// The exposure that stands for a whole take: the shutter of its sums, and what then reaches it.
struct Standing {
  ramp::Exposure exposure;
  plan::ExposureMatch match;
  bool dials_known = false;  ///< otherwise aperture and ISO are only where one would begin
  bool estimated = false;    ///< from the model of the light: not metered
  std::optional<plan::ExposureMatch>
      offered;  ///< what an assumed trail would have taken, where it was let go
};
/// By the flash that lights the subject, by the meter, or by the light at the first shot where nobody has
/// metered; `ev` may be empty.
Standing standing_of(const take::Take& take, const std::vector<double>& ev);

/// The exposures of every shot by the take's method: by hand, standing, or aperture priority. Throws as
/// light_of; where the light is not known they stand, without a light.
ramp::Ramp ramp_of(const take::Take& take);

/// ramp_of(), or where the light is too long to follow ramp_without_light(). Throws BadInput where the wishes
/// are too few.
ramp::Ramp ramp_in_any_case(const take::Take& take);

/// The standing exposure alone, without a light.
ramp::Ramp ramp_without_light(const take::Take& take);

/// The methods compared on the take's light; empty where it is not known.
std::vector<ramp::MethodOutcome> methods_of(const take::Take& take);

/// What an earlier take's frames say about the light: the EV their recorded exposures fit, by the wall clock
/// of `zone`. Throws BadInput where fewer than two say time and exposure.
std::vector<ramp::Reading> readings_of(const std::vector<media::Frame>& frames, const std::string& zone);

/// The curve of a ramp as readings, one a minute at most.
std::vector<ramp::Reading> curve_of(const take::Take& take, const ramp::Ramp& ramp);

/// The lens, the sensor and the film's shape.
sky::Optics optics_of(const take::Take& take);

}  // namespace askcount::forecast
