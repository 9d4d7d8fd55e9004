// SPDX-License-Identifier: GPL-3.0-or-later
#include "paper/light_strip.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "paper/strip.h"
#include "sky/ephemeris.h"
#include "sky/tint.h"

namespace askcount::paper {
namespace {

constexpr int kLeastWidth = 200, kMostWidth = 8000;

}  // namespace

void write_light_strip(const take::Take& t, int width, const std::filesystem::path& file,
                       const Guard& guard) {
  if (width < kLeastWidth || width > kMostWidth)
    throw bad_input(say("A picture {} pixels wide cannot be made.", width), say("Use 200 to 8,000."));
  if (!t.knows_sky())
    throw bad_input(say("Place and time are not set, so there is no light to draw."),
                    say("Set place, date and time."));
  // From noon to noon, so that the night is whole.
  const Instant from = day_start(day_of(t.start, t.place.zone), t.place.zone) + std::chrono::hours(12);
  const double step_s = 86400.0 / (width - 1);
  const auto ephemeris = sky::ephemeris_for(from, from + std::chrono::hours(24));
  paper::Strip strip;
  for (int x = 0; x < width; ++x)
    strip.sky.push_back(
        sky::tint(ephemeris->at(sky::Body::Sun, later(from, step_s * x), t.place).altitude_deg));
  strip.curve =
      ramp::light_along(t.light.source, t.place, from, step_s, width,
                        {std::max(10.0, t.light.move.from.tilt_deg), t.light.move.from.bearing_deg});
  strip.from = seconds_between(from, t.start) / step_s;
  strip.to = strip.from + t.sums().field_s / step_s;
  paper::write_strip(strip, file, guard);
}

}  // namespace askcount::paper
