// SPDX-License-Identifier: GPL-3.0-or-later
// Timer and camera as one rig that is told, started, paused, stopped, and that behaves as such things do.
#pragma once

#include <atomic>
#include <deque>
#include <filesystem>
#include <functional>
#include <mutex>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "plan/camera_state.h"
#include "plan/kit.h"
#include "plan/schedule.h"
#include "simulate/camera.h"
#include "simulate/fault.h"
#include "sky/framing.h"
#include "sky/place.h"
#include "timer/program.h"

namespace askcount::simulate {

/// The most shots the stand-in makes of one program.
inline constexpr long long kMostShots = 100000;

/// Everything a rig stands on before it is started.
struct RigSetting {
  std::string scene = "Tern Quay";
  sky::Place place;             ///< under whose sky the scene lies; its own where it is not known
  std::optional<sky::Aim> aim;  ///< where the camera looks; the scene's own where nothing is said
  double haste = 1;             ///< how many times as fast as by itself what moves in it does
  double light_stops = 0;       ///< how much brighter it is than that sky makes it
  Instant start;                ///< what seconds count from: the first shot, where no hours forbid it
  std::string zone = "UTC";     ///< the camera's clock and the hours of work stand on it
  plan::WorkHours work;
  image::Size size{1500, 1000};
  // The timer.
  plan::Timer timer;                              ///< counts what it counts
  Seconds delay_s = 10, hold_s = 0, time_s = 20;  ///< as keyed in
  long long count = 250;                          ///< 0 for endless: 100,000 then
  // The camera.
  ramp::Exposure exposure;          ///< the dials at the start
  ramp::RampRule rule;              ///< how far its dials turn
  std::vector<ramp::Click> clicks;  ///< of a hand that follows a plan, before the frames they name
  double filter_stops = 0;          ///< of the filters that are on at the start
  long long filters_off = -1;       ///< before this frame (from 0) they come off; −1 for never
  bool bulb = false;                ///< open as long as the timer holds
  double shot_mb = 0;  ///< files of a shot; 0 for what the body's sizes and the files kept come to
  int brackets = 1;
  double bracket_stops = 2;
  bool dark_frames = false;
  bool raw = false, compressed = true;  ///< files kept of each exposure
  bool auto_white_balance = false, auto_focus = false,
       stabiliser = false;  ///< left on: each drifts in its way
  plan::Body body;
  CameraSettings camera;
  // What runs out.
  double card_gb = 64;
  std::vector<double> more_cards_gb;  ///< put in one after the other as they fill, while no hand is there to
  plan::Battery battery{"", 600, 4.5};
  std::vector<plan::Battery> more_batteries;  ///< likewise
  bool external_power = false;
  Seconds bank_s = 0;     ///< how long the banks feed it; 0 for power that does not end
  Seconds waiting_s = 0;  ///< switched on before the first shot
  double temperature_c = 15;
  std::vector<Fault> faults;
  double chance = 0;  ///< of a fault at every frame
  int first_number = 214;
  int test_shots = 3;          ///< before the take
  bool markers = true;         ///< a hand in front of the lens before and after
  std::filesystem::path card;  ///< a folder; made if absent
  double scale = 0;            ///< field seconds a real second; 0 is as fast as it can
};

/// What the rig tells while it runs.
struct RigEvent {
  enum class Kind { Shot, Missed, Fault, Done } kind = Kind::Shot;
  long long index = -1;  ///< frame from 0; −1 for test shots and markers
  long long press = -1;  ///< press of the timer from 0
  std::vector<std::string>
      files;         ///< relative to the card; several where the shot is a bracket or has raw files
  std::string what;  ///< "frame", "test", "marker"; of a missed one why: "busy", "buffer", "battery", "card",
                     ///< "skip"; of a fault its word
  std::string words;  ///< for people
  ramp::Exposure exposure;
  Instant start;       ///< by the world's clock
  double battery = 1;  ///< share left
  double card = 0;     ///< share full
  double buffer = 0;   ///< share full
  long long done = 0, total = 0;
};

/// What a run left.
struct RigOutcome {
  long long frames = 0;  ///< of the take
  long long missed = 0;
  bool stopped = false;  ///< by hand, or because battery or card ended
  std::filesystem::path folder, truth;
};

/// One run at a time. turn(), swap_battery(), swap_card(), pause() and resume() may be called from other
/// threads while it runs.
class Rig {
 public:
  explicit Rig(RigSetting setting);

  /// Throws BadInput where the card already has pictures, a setting cannot be, or more than 100,000 shots are
  /// told; Failed where the card cannot be written; the rest is told by `event`, in order, from one thread at
  /// a time. What was done to each file is written beside the card as `card`.truth.json. A take of any length
  /// needs the same memory.
  RigOutcome run(const std::function<void(const RigEvent&)>& event, const std::stop_token& stop);

  void pause() { paused_ = true; }
  void resume() { paused_ = false; }
  bool paused() const { return paused_; }
  /// Turns a dial by thirds of a stop (brighter above zero) from the next shot on.
  void turn(ramp::Dial dial, int thirds);
  /// A fresh battery or card from the next press on.
  void swap_battery() { fresh_battery_ = true; }
  void swap_card() { fresh_card_ = true; }

  const RigSetting& setting() const { return setting_; }

 private:
  struct Run;

  RigSetting setting_;
  std::atomic<bool> paused_{false}, fresh_battery_{false}, fresh_card_{false};
  std::mutex turns_lock_;
  std::deque<std::pair<ramp::Dial, bool>> turns_;
};

}  // namespace askcount::simulate
