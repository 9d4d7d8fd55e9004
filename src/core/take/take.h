// The take: one time-lapse, from the wish to the finished clip. Plain values; what follows from them is
// worked out by the folders that stand beside it.
#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/instant.h"
#include "base/json.h"
#include "base/output.h"
#include "image/pixels.h"
#include "plan/exposure_match.h"
#include "plan/kit.h"
#include "plan/measures.h"
#include "plan/shot_cycle.h"
#include "plan/sums.h"
#include "ramp/light.h"
#include "ramp/ramp.h"
#include "sky/framing.h"
#include "sky/weather.h"
#include "standin/camera.h"

namespace askcount::take {

/// How the finished film is to be. The frame rate is the plan's: it cannot differ.
struct FilmWish {
  image::Size size{1920, 1080};
  int quality = 18;
  bool operator==(const FilmWish&) const = default;
};

/// The simulated camera: what stands before it and how it behaves.
struct StandInWish {
  std::string scene = "Tern Quay";
  image::Size frame_size{1500, 1000};
  standin::CameraSettings camera;
  bool operator==(const StandInWish&) const = default;
};

/// What is focused on, for depth of field, stars and close-ups.
struct FocusWish {
  double distance_m = 10;
  double declination_deg = 0;    ///< of the stars looked at
  double magnification = 0;      ///< of a close-up; 0 where it is none
  double grows_mm_per_hour = 0;  ///< the subject towards the lens
  bool operator==(const FocusWish&) const = default;
};

/// Where the camera looks, where the light comes from and how the exposure follows it.
struct LightPlan {
  sky::Move move{{248, 9, 0}, {248, 9, 0}, false};  ///< both ends alike where the head stands still
  sky::Body subject = sky::Body::Sun;               ///< what is to stay in the frame
  std::vector<sky::HorizonPoint> horizon;
  ramp::LightSource source;
  ramp::School school = ramp::School::Hand;
  ramp::RampRule rule{.longest_shutter_s = 0};  ///< a longest shutter of 0 is what the interval leaves
  Seconds turning_s = 2;                        ///< kept free in every interval for a hand at the dials
  std::vector<ramp::Click> clicks;              ///< moved by the person; empty where they are worked out
  sky::Weather weather;
  bool operator==(const LightPlan&) const = default;
  bool head_moves() const { return !(move.from == move.to); }
};

/// A take. Plain values: copy it, compare it, keep old ones to undo.
struct Take {
  std::string name = "Untitled take";
  std::string subject = "clouds";
  sky::Place place;
  Instant start;                     ///< first shot
  std::vector<plan::Wish> wishes;    ///< said by the person, the latest first
  plan::Kit kit = plan::demo_kit();  ///< what comes along; the first of each list is in use
  plan::ShotMake shot;
  long long spare = 0;  ///< extra shots at either end
  LightPlan light;
  std::optional<plan::Metered> metered;  ///< what a meter said, for filters and apertures
  double temperature_c = 15;
  bool external_power = false;
  bool lamp = false;        ///< the kit's lamps light the subject on their own batteries
  double disk_free_gb = 0;  ///< at home; 0 where unknown
  FocusWish focus;
  std::vector<plan::Measure> measures;  ///< of the subject's motion, at most one a way
  std::vector<std::string>
      test_pictures;  ///< two, taken a known time apart, or none; relative to the take's folder
  std::string timer = "Built-in interval";  ///< name of one of the kit's
  Seconds delay_s = 10;                     ///< before the timer's first shot
  bool endless = false;                     ///< the timer runs until it is stopped by hand
  FilmWish film;
  StandInWish stand_in;                  ///< the simulated camera
  std::map<std::string, Instant> ticks;  ///< of the checklist: when each was done, by its code
  std::string card;                      ///< folder with the frames; empty before the shoot
  std::string
      unknown;  ///< what its file says that this version does not know, as JSON; written back as it was
  bool operator==(const Take&) const = default;

  /// Everything that follows from the wishes, whether enough or not.
  plan::Solution solution() const;
  /// The sums. Throws BadInput where the wishes are too few.
  plan::Sums sums() const { return plan::sums_of(solution(), shape()); }
  plan::ShotShape shape() const { return plan::shape_of(shot, spare); }
  const plan::Body& body() const { return kit.bodies.front(); }
  /// The timer in use; the first of the kit where the name is gone.
  const plan::Timer& timer_model() const;
  const plan::Lens& lens() const;

  /// Says something about a slot: it becomes the latest wish, pinned or not as it was.
  void wish(plan::Slot slot, double value);
  /// Takes a wish back.
  void release(plan::Slot slot);
  void pin(plan::Slot slot, bool pinned);
  /// Puts a measure in the place of an earlier one of the same way.
  void measured(const plan::Measure& measure);
  /// The wish for a slot; null where nobody said anything.
  const plan::Wish* wished(plan::Slot slot) const;
};

/// Puts the kit's lens of that name into use; a name it does not know changes nothing.
void use_lens(Take& take, const std::string& name);
/// The next lens of the kit (steps below zero), or the one before.
void next_lens(Take& take, int steps);
/// Moves the first shot to the whole minute of `start`; clicks that were moved by hand are worked out anew.
void start_at(Take& take, Instant start);

/// The demo: the harbour going from day into night.
Take demo_take();

/// A take as JSON and back; docs/take-format.md says how. from_json throws BadInput naming the key, `name`
/// the file.
Json to_json(const Take& take);
Take take_from_json(const Json& json, const std::string& name);

/// Reads a .askcount file. Throws BadInput naming the file: damaged, from a newer version, or not a take.
Take load_take(const std::filesystem::path& file);

/// The text of its file, with what its file said that is not known here.
std::string to_text(const Take& take);

/// Writes it whole or not at all, with what its file said that is not known here. Throws as
/// write_file_atomically.
void save_take(const Take& take, const std::filesystem::path& file, const Guard& guard = {});

}  // namespace askcount::take
