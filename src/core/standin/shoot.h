// A whole take shot by the stand-in: its timer presses, its camera exposes and writes to a card.
#pragma once

#include <filesystem>
#include <functional>
#include <string>

#include "base/progress.h"
#include "standin/camera.h"
#include "timer/program.h"

namespace askcount::standin {

/// What the stand-in is to do.
struct ShootOrder {
  timer::Program program;          ///< what its timer was told
  double shutter_s = 2.5;          ///< the camera's longest exposure, unless the timer holds the shutter itself
  ramp::RampRule rule;             ///< how its hand follows the light
  double writing_s = 0.6;          ///< the camera is busy so long after an exposure
  Instant start;                   ///< first shot, by the wall
  std::string zone = "UTC";        ///< the camera's clock stands on this zone
  picture::Size size{1500, 1000};
  int first_number = 214;          ///< file number of the first test shot
  int test_shots = 3;              ///< before the take
  bool markers = true;             ///< a hand in front of the lens before and after
  CameraSettings camera;
  std::filesystem::path card;      ///< a folder; made if absent
};

/// A shot as it lands on the card. `index` counts the take's frames from 0; tests and markers have −1.
struct ShotLanded {
  std::filesystem::path file;
  long long index = -1;
  long long done = 0;   ///< files written so far
  long long total = 0;  ///< files in all
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

/// Shoots the scene Tern Quay. Files go to `card`/DCIM/100QUAY/QUAY0214.JPG and on, over into 101QUAY behind 9999. What was
/// done to each frame (aperture error, exposure, time, missed presses) is written beside the card as
/// `card`.truth.json. `landed` is called in order, from one thread at a time.
/// Throws BadInput where the card already has pictures or more than 100,000 shots are ordered, Failed where it cannot be written, Cancelled when stopped (what
/// has been shot stays, as on a real card).
ShootOutcome shoot(const ShootOrder& order, const std::function<void(const ShotLanded&)>& landed = {},
                   std::stop_token stop = {});

/// How long each exposure of the take is, by following the light with a camera that starts at f/8, ISO 100.
std::vector<ramp::Exposure> exposures_for(const ShootOrder& order);

/// Removes what a stand-in has shot onto `card`, and its truth. Touches nothing that it did not write.
void empty_card(const std::filesystem::path& card);

}  // namespace askcount::standin
