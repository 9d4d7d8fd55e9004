// SPDX-License-Identifier: GPL-3.0-or-later
// The kit: the person's bodies, lenses, timers, cards, batteries, filters and lamps, as far as a plan needs
// them.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/json.h"
#include "base/units.h"

namespace askcount::plan {

/// A camera body.
struct Body {
  std::string name;
  double sensor_width_mm = 36, sensor_height_mm = 24;
  int pixels_across = 6000, pixels_down = 4000;
  double raw_mb = 28, compressed_mb = 9;  ///< size of one exposure's file
  double buffer_mb = 600;
  double power_w = 3;           ///< that it draws while it waits and shoots
  double screen_w = 0.8;        ///< of that, what its screen draws
  double write_mb_s = 80;       ///< to a card that keeps up
  Seconds writing_s = 0.6;      ///< busy after an exposure until the next may start
  long long writing_takes = 0;  ///< how many takes of the person's say so; 0 for what was typed
  int card_slots = 1;           ///< 1 or 2
  bool press_each = false;      ///< each exposure of a bracket wants a press of its own
  double lowest_iso = 100, highest_iso = 12800;
  Seconds shortest_shutter_s = 1.0 / 4000,
          longest_shutter_s = 30;   ///< that its dial has; longer ones on bulb
  long long shutter_life = 150000;  ///< releases; 0 for an electronic shutter, which does not wear
  long long shutter_count = 0;
  int next_file_number = 1;
  double movie_fps = 25;       ///< of the camera's own time-lapse movie
  bool movie_by_time = false;  ///< that movie is told by its shooting time, in whole minutes, not by a count
  double video_mbit_s = 100;   ///< of real-time video
  int video_pixels_across = 3840;  ///< of video and of its own movie, 16:9
  std::vector<std::string> guessed =
      {};  ///< keys of the kit format whose values are neither said nor measured
  double pixel_um() const { return pixels_across > 0 ? sensor_width_mm * 1000 / pixels_across : 0; }
  bool operator==(const Body&) const = default;
};

struct Lens {
  std::string name;
  double focal_mm = 24;
  double widest_f = 2.8, smallest_f = 22;
  bool operator==(const Lens&) const = default;
};

/// Most built-in timers count the interval (start to start), many cabled ones the gap (end to start).
enum class Counts { Interval, Gap };

/// What is printed on this person's own timer beside each of its settings.
struct TimerWords {
  std::string delay = "Wait", hold = "Hold", time = "Every", count = "Times", sound = "Sound", each = "Each";
  bool operator==(const TimerWords&) const = default;
};

/// A timer: what it can be told.
struct Timer {
  std::string name;
  Counts counts = Counts::Interval;
  Seconds smallest_step_s = 1;         ///< its times are whole multiples of this
  Seconds longest_s = 359999;          ///< of any of its times: 99 h 59 min 59 s
  std::vector<double> intervals = {};  ///< the only times it can be told, in seconds; empty for every step
  long long max_count = 9999;          ///< the most shots it counts to; see `endless`
  bool endless = false;                ///< can also be told to go on until it is stopped
  bool holds = false;            ///< holds the shutter open itself (camera on bulb); otherwise only presses
  bool starts_by_clock = false;  ///< the first shot can be set to a clock time; otherwise only a delay
  int shots_each_time = 1;       ///< releases it can make one after the other at every turn, at most
  bool movie = false;            ///< the camera's own movie mode: it makes a film and keeps no frames
  Seconds lock_s = 0;            ///< it holds the camera so long before each shot
  TimerWords words;
  /// The most it counts to, 0 where it can run endlessly.
  long long limit() const { return endless ? 0 : max_count; }
  bool operator==(const Timer&) const = default;
};

struct Card {
  std::string name;
  double capacity_gb = 64;
  double write_mb_s = 90;
  long long by_takes = 0;  ///< how many takes of the person's say how fast it is
  bool operator==(const Card&) const = default;
};

/// One battery as rated by who made it, or as somebody has measured it.
struct Battery {
  std::string name;
  double rated_shots = 500;
  double powered_hours = 4;
  double rated_at_c = 20;  ///< the temperature that holds for
  long long by_takes = 0;  ///< how many takes of the person's say so; 0 for what was typed
  bool operator==(const Battery&) const = default;
};

/// A bank that feeds the camera from outside, and perhaps a lens heater too.
struct PowerBank {
  std::string name;
  double watt_hours = 74;           ///< of its cells
  double adapter_loss = 0.25;       ///< share lost between them and the camera
  double switches_off_below_w = 0;  ///< where nothing draws more it switches itself off; 0 where it does not
  bool has_button = false;          ///< it gives nothing until that is pressed
  bool operator==(const PowerBank&) const = default;
};

/// A filter that takes light: grey, or a polariser.
struct Filter {
  std::string name;
  double stops = 6;
  bool polariser = false;
  bool operator==(const Filter&) const = default;
};

/// A lamp that lights the subject: how long it burns on its own batteries, or how often it flashes.
struct Lamp {
  std::string name;
  double hours = 6;
  double flashes = 0;  ///< of one charge; 0 where it burns
  double guide_m = 0;  ///< guide number of a flash at ISO 100, in metres; 0 where unknown
  bool operator==(const Lamp&) const = default;
};

/// What is owned, and of each kind what is used: the first of a list is in use; batteries, cards and filters
/// all come along.
struct Kit {
  std::vector<Body> bodies;
  std::vector<Lens> lenses;
  std::vector<Timer> timers;
  std::vector<Card> cards;
  std::vector<Battery> batteries;
  std::vector<Filter> filters;
  std::vector<Lamp> lamps;
  std::vector<PowerBank> power_banks;
  double heater_w = 0;  ///< of the lens heater, where one is fed by the banks
  bool operator==(const Kit&) const = default;
};

/// The made-up kit of the demo.
const Kit& demo_kit();

/// What sums are shown by while no kit is set: a usual body, lens, card and battery.
/// Examples, not to be judged by.
const Kit& example_kit();

/// The made-up timers that ship.
const std::vector<Timer>& shipped_timers();

/// ", by 3 takes of yours", for a number that the person's own takes gave; empty for none.
std::string by_takes_words(long long takes);

/// The kit's timers, or those that ship where it has none.
const std::vector<Timer>& timers_of(const Kit& kit);

/// The kit's timer of that name (of the shipped ones where the kit has none). Throws BadInput naming those
/// there are.
const Timer& timer_named(const Kit& kit, const std::string& name);

/// A kit as JSON and back; docs/kit-format.md says how. kit_from_json throws BadInput naming the key, `name`
/// the file: every number must be in its range and every list used must have an entry.
Json to_json(const Kit& kit);
Kit kit_from_json(const Json& json, const std::string& name);
Kit load_kit(const std::filesystem::path& file);

}  // namespace askcount::plan
