// The light of a take: its ramp, what crosses its frame, its weather, and what there is to say about them.
#pragma once

#include "gather/gather.h"
#include "take/take.h"

namespace askcount::take {

/// The ramp's rule with what the kit and the interval leave: the longest shutter leaves room for writing and
/// for turning the dial, apertures and ISO are within lens and body.
ramp::RampRule rule_of(const Take& take);

/// How long a shutter may be in the take's interval.
Seconds room_of(const Take& take);

/// The ramp by hand for every shot of the take. Throws BadInput where the wishes are too few or the shots
/// more than 200,000.
ramp::Ramp ramp_of(const Take& take);

/// What an earlier take's frames say about the light: the EV their recorded exposures fit, by the wall clock
/// of `zone`. Throws BadInput where fewer than two say time and exposure.
std::vector<ramp::Reading> readings_of(const std::vector<gather::Frame>& frames, const std::string& zone);

/// The curve of a ramp as readings, one a minute at most.
std::vector<ramp::Reading> curve_of(const Take& take, const ramp::Ramp& ramp);

/// The lens, the sensor and the film's shape.
sky::Optics optics_of(const Take& take);

/// Whether the subject of the frame stays in it, dew, cold, wind, the ramp, and the usual cautions: sun in
/// optical finders and on sensors, dark edges, tides, staying with the gear. `ramp` is ramp_of(take).
Findings light_advice(const Take& take, const ramp::Ramp& ramp);

/// Cautions that fit the take's light and place, in plain words.
Findings cautions(const Take& take);

/// Start by this window: the take's first shot moves there.
void start_at(Take& take, Instant start);

}  // namespace askcount::take
