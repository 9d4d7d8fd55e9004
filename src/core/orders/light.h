// The light of a take: its ramp with the rule that the kit leaves, its lens, earlier exposures as readings.
#pragma once

#include <vector>

#include "ramp/ramp.h"
#include "source/frame.h"
#include "take/take.h"

namespace askcount::orders {

/// The ramp's rule with what the kit and the interval leave: the longest shutter leaves room for writing and
/// for turning the dial, apertures and ISO are within lens and body.
ramp::RampRule rule_of(const take::Take& take);

/// How long a shutter may be in the take's interval.
Seconds room_of(const take::Take& take);

/// The ramp by hand for every shot of the take. Throws BadInput where the wishes are too few or the shots
/// more than 200,000.
ramp::Ramp ramp_of(const take::Take& take);

/// What an earlier take's frames say about the light: the EV their recorded exposures fit, by the wall clock
/// of `zone`. Throws BadInput where fewer than two say time and exposure.
std::vector<ramp::Reading> readings_of(const std::vector<source::Frame>& frames, const std::string& zone);

/// The curve of a ramp as readings, one a minute at most.
std::vector<ramp::Reading> curve_of(const take::Take& take, const ramp::Ramp& ramp);

/// The lens, the sensor and the film's shape.
sky::Optics optics_of(const take::Take& take);

/// The f-number the take is exposed with: what the meter's exposure asks for, or the lens's widest.
double f_number_of(const take::Take& take, const plan::Sums& sums);

}  // namespace askcount::orders
