// SPDX-License-Identifier: GPL-3.0-or-later
// A whole take shot by the stand-in, without a socket: what `make` and the demo use.
#pragma once

#include "ramp/ramp.h"
#include "simulate/card.h"
#include "simulate/rig.h"
#include "simulate/scene.h"

namespace askcount::simulate {

/// What the stand-in is to do.
struct ShootOrder {
  std::string scene = "Tern Quay";
  sky::Place place;             ///< under whose sky; the scene's own where it is not known
  std::optional<sky::Aim> aim;  ///< where the camera looks; the scene's own where nothing is said
  double haste = 1;             ///< see SceneSetting
  plan::WorkHours work;
  timer::Program program;  ///< what its timer was told
  double shutter_s = 2.5;  ///< the camera's longest exposure, or where it stands its only one
  ramp::Method method = ramp::Method::Hand;  ///< how its exposure follows the light
  ramp::RampRule rule;                       ///< how its hand does
  std::vector<ramp::Exposure>
      chain;               ///< what a plan says of every shot; empty where its hand meters for itself
  double light_stops = 0;  ///< how much brighter the plan's light is than the scene is by itself
  std::vector<double> own_filters;  ///< stops of those that come along, for a hand that meters for itself
  double filter_stops = 0;          ///< of the filters that are on at the start
  std::optional<long long> filters_off;  ///< before this shot (from 0) they come off, where a plan says so
  plan::Body body;                       ///< busy after an exposure, files, buffer
  plan::ShotMake shot;                   ///< brackets, dark frames
  bool raw = false;                      ///< DNG beside each JPEG
  Instant start;                         ///< first shot, by the wall
  std::string zone = "UTC";              ///< the camera's clock stands on this zone
  image::Size size{1500, 1000};
  int first_number = 214;  ///< file number of the first test shot
  int test_shots = 3;      ///< before the take
  bool markers = true;     ///< a hand in front of the lens before and after
  CameraSettings camera;
  std::filesystem::path card;  ///< a folder; made if absent
};

/// A shot as it lands on the card. `index` counts the take's frames from 0; tests and markers have −1.
struct ShotLanded {
  std::filesystem::path file;
  long long index = -1;
  long long done = 0;   ///< shots so far
  long long total = 0;  ///< in all
  ramp::Exposure exposure;
  Instant start;
};

/// What was shot.
struct ShootOutcome {
  long long frames = 0;  ///< of the take, without tests and markers
  long long missed = 0;  ///< presses while the camera was still busy
  std::filesystem::path folder;
  std::filesystem::path truth;
};

/// The rig as an order wants it: everything lasts, no faults, as fast as it can. Its hand follows the light
/// that a meter pointed at the foreground sees.
RigSetting rig_for(const ShootOrder& order);

/// Shoots it. Throws as Rig::run, and Cancelled when stopped (what has been shot stays, as on a real card).
ShootOutcome shoot(const RigSetting& setting, const std::function<void(const ShotLanded&)>& landed = {},
                   const std::stop_token& stop = {});
/// The same by the rig for an order.
ShootOutcome shoot(const ShootOrder& order, const std::function<void(const ShotLanded&)>& landed = {},
                   const std::stop_token& stop = {});

/// Log2 of the luminance a meter sees in a scene at these moments, pointed, as photographers do, at the
/// foreground; the setting's size does not count.
std::vector<double> metered_light(const std::string& scene, SceneSetting setting,
                                  const std::vector<Instant>& moments);
/// The same at `n` moments an interval apart, the scene as it is by itself.
std::vector<double> metered_light(const std::string& scene, Instant start, Seconds interval_s, long long n);

}  // namespace askcount::simulate
