// SPDX-License-Identifier: GPL-3.0-or-later
// The picture of the place that a take's sky is drawn over.
#pragma once

#include <filesystem>

#include "sky/behind.h"
#include "skyline/photograph.h"
#include "take/take.h"

namespace askcount::forecast {

/// What a person says of a picture, where its file says nothing or something else.
struct OutlookSaid {
  std::optional<double> focal_mm, long_side_mm;
  std::optional<double> bearing_deg;  ///< of its middle, true
  std::optional<double> compass_deg;  ///< of its middle, by a compass
  std::optional<double> tilt_deg, roll_deg;
  std::optional<sky::FramePoint> light;                     ///< where the sun (or by night the moon) is in it
  std::optional<std::pair<sky::FramePoint, double>> known;  ///< a place in it and the bearing it lies in
};

/// A picture laid under a take's sky: its lens, and its aim by what is said, else by the sun or moon found in
/// it at its time, else by its own compass, else by where the take's camera looks. `file` is how the take
/// calls it. Throws BadInput where no focal length is known, or what is said cannot be.
take::Outlook outlook_for(const take::Take& take, const skyline::Photograph& photograph,
                          const std::string& file, const OutlookSaid& said = {});

/// What a take's picture shows of the world.
skyline::View view_of(const take::Outlook& picture);

/// How its aim is known: "by the sun in it", "by compass".
std::string known_words(take::Outlook::By by);

/// When sun, moon and core go behind the take's skyline or come out, from its first shot to its last and
/// three hours to either side, the moon where a twentieth of it is lit, the core by night; empty where no
/// skyline was said or where and when are not known. In order of time.
std::vector<sky::Behind> behind_of(const take::Take& take,
                                   std::initializer_list<sky::Body> bodies = {sky::Body::Sun, sky::Body::Moon,
                                                                              sky::Body::Core});

}  // namespace askcount::forecast
