// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/place_picture.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/light.h"

namespace askcount::forecast {
namespace {

using take::Outlook, take::Take;
constexpr double kAround_s = 3 * 3600, kMost_s = 7 * 86400;
constexpr double kThinMoon = 0.05, kDark_deg = -12;  // the core is seen by night only
constexpr double kLeastUp_deg = -1, kMostTilt_deg = 75, kCompassOff_deg = 45;

/// When a picture was taken, its camera's clock standing on the place's.
std::optional<Instant> taken_at(const Take& take, const media::ShotInfo& info) {
  if (!info.captured) return {};
  const auto day = std::chrono::floor<std::chrono::days>(*info.captured);
  return at_wall_time(Day(day), *info.captured - std::chrono::sys_days(day), take.place.zone);
}

/// The aim by the light in a picture: the sun's where it is up, else the moon's.
std::optional<std::pair<sky::Aim, Outlook::By>> by_light(const Take& take, const media::ShotInfo& info,
                                                         const sky::Optics& optics,
                                                         const sky::FramePoint& light, double roll) {
  const auto at = taken_at(take, info);
  if (!at || !take.place.known()) return {};
  const auto sky = sky::ephemeris_for(*at, *at);
  const sky::Direction sun = sky->at(sky::Body::Sun, *at, take.place),
                       moon = sky->at(sky::Body::Moon, *at, take.place);
  const bool day = sun.altitude_deg > kLeastUp_deg;
  if (!day && moon.altitude_deg <= kLeastUp_deg) return {};
  return std::pair{skyline::aim_by(day ? sun : moon, light, optics, roll),
                   day ? Outlook::By::Sun : Outlook::By::Moon};
}

}  // namespace

take::Outlook outlook_for(const Take& take, const skyline::Photograph& photograph, const std::string& file,
                          const OutlookSaid& said) {
  Outlook o;
  o.picture = file;
  o.size = photograph.full;
  const plan::Body& body = take.body();
  const double body_long = std::max(body.sensor_width_mm, body.sensor_height_mm);
  std::optional<sky::Optics> optics = skyline::optics_for(photograph.info, photograph.full, body_long);
  if (said.focal_mm)
    optics = skyline::optics_for(*said.focal_mm, said.long_side_mm.value_or(body_long), photograph.full);
  if (!optics)
    throw bad_input(say("{} does not record its focal length.", file),
                    say("Give the focal length, and the sensor's width if it is not the body's."));
  o.focal_mm = optics->focal_mm;
  o.long_side_mm = std::max(optics->sensor_width_mm, optics->sensor_height_mm);
  o.aim = take.light.move.from;
  const double roll = said.roll_deg.value_or(0);
  const double tilt = said.tilt_deg.value_or(0);
  o.aim.roll_deg = roll;
  if (said.light) {
    const auto found = by_light(take, photograph.info, *optics, *said.light, roll);
    if (!found)
      throw bad_input(say("Neither sun nor moon was up when {} was taken, or it does not say when.", file),
                      say("Give the bearing of its middle, true or by compass."));
    std::tie(o.aim, o.by) = *found;
    return o;
  }
  if (said.known) {
    o.aim.tilt_deg = tilt;
    o.aim.bearing_deg = skyline::bearing_by(said.known->second, said.known->first, *optics, tilt, roll);
    o.by = Outlook::By::Hand;
    return o;
  }
  if (said.bearing_deg || said.compass_deg) {
    o.aim.tilt_deg = tilt;
    o.aim.bearing_deg = said.bearing_deg ? std::fmod(*said.bearing_deg + 720, 360)
                                         : skyline::true_bearing(*said.compass_deg, take.light.variation_deg);
    o.by = said.bearing_deg ? Outlook::By::Hand : Outlook::By::Compass;
    return o;
  }
  std::optional<double> own;  // by the camera's own compass
  if (photograph.info.bearing_deg)
    own = photograph.info.bearing_magnetic
              ? skyline::true_bearing(*photograph.info.bearing_deg, take.light.variation_deg)
              : *photograph.info.bearing_deg;
  if (const auto light = skyline::find_light(photograph.picture)) {
    try {
      const auto found = by_light(take, photograph.info, *optics, *light, roll);
      // A lamp is no sun: what it would make of the aim must be one that people have.
      if (found && std::abs(found->first.tilt_deg) < kMostTilt_deg &&
          (!own || std::abs(std::remainder(found->first.bearing_deg - *own, 360)) < kCompassOff_deg)) {
        std::tie(o.aim, o.by) = *found;
        return o;
      }
    } catch (const Error&) {  // no sun can stand there
    }
  }
  if (own) {
    o.aim = {*own, tilt, roll};
    o.by = Outlook::By::Compass;
  }
  return o;
}

skyline::View view_of(const take::Outlook& picture) {
  return {skyline::optics_for(picture.focal_mm, picture.long_side_mm, picture.size), picture.aim};
}

std::string known_words(take::Outlook::By by) {
  switch (by) {
    case Outlook::By::Sun:
      return say("by the sun in it");
    case Outlook::By::Moon:
      return say("by the moon in it");
    case Outlook::By::Compass:
      return say("by compass");
    case Outlook::By::Hand:
      return say("by hand");
    case Outlook::By::Nothing:
      break;
  }
  return say("as the camera is to look");
}

std::vector<sky::Behind> behind_of(const Take& take, std::initializer_list<sky::Body> bodies) {
  if (take.light.horizon.empty() || !take.knows_sky()) return {};
  const double field = take.solution().complete() ? std::min(take.sums().field_s, kMost_s) : 0;
  const Instant from = later(take.start, -kAround_s), to = later(take.start, field + kAround_s);
  const auto sky = sky::ephemeris_for(from, to);
  std::vector<sky::Behind> all;
  for (const sky::Body body : bodies) {
    if (body == sky::Body::Moon && sky->moon(take.start).lit < kThinMoon) continue;
    for (const sky::Behind& b : sky::behind(*sky, body, take.place, take.light.horizon, from, to))
      if (body != sky::Body::Core || sky->at(sky::Body::Sun, b.at, take.place).altitude_deg < kDark_deg)
        all.push_back(b);
  }
  std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.at < b.at; });
  return all;
}

}  // namespace askcount::forecast
