// SPDX-License-Identifier: GPL-3.0-or-later
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
#include "base/language.h"
#include "base/output.h"
#include "image/pixels.h"
#include "look/anchors.h"
#include "media/frame.h"
#include "optics/wish.h"
#include "plan/days.h"
#include "plan/exposure_match.h"
#include "plan/kit.h"
#include "plan/measures.h"
#include "plan/shot_cycle.h"
#include "plan/slider.h"
#include "plan/sums.h"
#include "ramp/light.h"
#include "ramp/ramp.h"
#include "simulate/camera.h"
#include "sky/framing.h"
#include "sky/weather.h"
#include "take/film_wish.h"
#include "timer/program.h"

namespace askcount::take {

/// The simulated camera: what stands before it and how it behaves.
struct StandInWish {
  std::string scene;  ///< empty for the one nearest to the subject
  image::Size frame_size{1500, 1000};
  simulate::CameraSettings camera;
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

/// A picture taken at the place, which the sky is drawn over.
struct Outlook {
  std::string picture;                      ///< relative to the take's folder; empty where there is none
  image::Size size;                         ///< upright, in pixels
  double focal_mm = 24, long_side_mm = 36;  ///< its lens, and the sensor along its longer side
  sky::Aim aim;                             ///< of its middle
  enum class By { Nothing, Sun, Moon, Compass, Hand } by = By::Nothing;  ///< how the aim is known
  bool operator==(const Outlook&) const = default;
};

/// What was decided about the frames on the cards; files go by their names, the shortest that tell them.
struct GatherWish {
  std::vector<std::string> more_cards;  ///< besides `card`, likewise relative to the take's own folder
  long long choose = 0;                 ///< this take of those found, counted from 1; 0 for the one that fits
  std::vector<double> join;             ///< these as one, counted from 1
  std::vector<std::string> keep, leave_out;  ///< what is a frame whatever speaks against it, and what is none
  std::vector<std::string> stand_in;         ///< frames that their neighbours stand in for
  std::vector<std::string> fine;             ///< frames that were looked at and found fine
  std::string from, until;                   ///< files the take begins and ends with; empty for all of it
  double clock_s = 0;                        ///< to be added to the camera's clock
  long long film_step = 0;  ///< of a video every nth picture; 0 for as many as the plan's interval has
  bool operator==(const GatherWish&) const = default;
};

/// How the brightness of the frames is to be evened out.
struct LevelWish {
  Seconds reach_s = 0.5;  ///< of film to either side that flicker is smoothed over
  double strength = 1;    ///< share of the flicker that is taken out
  bool parts = true;      ///< whether parts of the picture that flicker for themselves are held too
  media::Blend brackets = media::Blend::Merged;  ///< what becomes of several exposures of one shot
  std::vector<double> measured;      ///< parts of the picture (16 across, 12 down, from 1); empty for all
  std::vector<double> smooth, keep;  ///< frames (from 1) whose change of light is smoothed, or kept
  bool operator==(const LevelWish&) const = default;
};

/// How the frames are developed.
struct LookWish {
  std::vector<look::Anchor> anchors;
  std::string cube;  ///< a table that comes last, relative to the take's folder; empty for none
  bool operator==(const LookWish&) const = default;
};

/// Where the camera looks, where the light comes from and how the exposure follows it.
struct LightPlan {
  sky::Move move{{180, 0, 0}, {180, 0, 0}, false};  ///< both ends alike where the head stands still
  sky::Body subject = sky::Body::Sun;               ///< what is to stay in the frame
  std::vector<sky::HorizonPoint> horizon;
  double variation_deg = 0;  ///< of a compass there, east positive
  Outlook outlook;
  ramp::LightSource source;
  ramp::Method method = ramp::Method::Hand;
  std::optional<double> f_number, iso;  ///< on the dials to begin with; nothing where the meter's stand
  std::vector<std::string>
      filters;        ///< of the kit's, on at the first shot where the exposure follows the light
  bool bare = false;  ///< none is to be on, whatever a wished shutter would want; otherwise without `filters`
                      ///< those that a wished trail wants of the metered light
  ramp::RampRule rule{.longest_shutter_s = 0};  ///< a longest shutter of 0 is what the interval leaves
  Seconds turning_s = 2;                        ///< kept free in every interval for a hand at the dials
  long long turning_takes = 0;      ///< how many takes of the person's say so; 0 for what was typed
  std::vector<ramp::Click> clicks;  ///< moved by the person; empty where they are worked out
  sky::Weather weather;
  bool operator==(const LightPlan&) const = default;
  bool head_moves() const { return !(move.from == move.to); }
  /// Whether somebody has said where the camera looks.
  bool knows_aim() const { return !(move == sky::Move{{180, 0, 0}, {180, 0, 0}, false}); }
};

using StartBy = timer::StartBy;

/// A take. Plain values: copy it, compare it, keep old ones to undo. A new one says nothing of a subject, a
/// place, a date, a meter or a kit: what is not said is asked for, and not judged.
struct Take {
  // Made, copied and let go in take.cpp: so much is not compiled again by everyone who has one.
  Take();
  Take(const Take& other);
  Take(Take&& other) noexcept;
  Take& operator=(const Take& other);
  Take& operator=(Take&& other) noexcept;
  ~Take();

  std::string name = say("Untitled take");
  std::string subject;             ///< empty where it is not set
  sky::Place place;                ///< see Place::known()
  Instant start;                   ///< first shot; the clock's zero where it is not set
  std::vector<plan::Wish> wishes;  ///< said by the person, the latest first
  plan::Kit kit;                   ///< what comes along; the first of each list is in use; see knows_kit()
  plan::ShotMake shot;
  long long spare = 0;   ///< extra shots at either end
  plan::WorkHours work;  ///< the hours of a day that are shot, where it takes days
  LightPlan light;
  std::optional<plan::Metered> metered;  ///< what a meter said, for filters and apertures
  double temperature_c = 15;
  bool cold_counts = true;  ///< cold takes from batteries
  bool external_power = false;
  bool lamp = false;        ///< the kit's lamps light the subject on their own batteries
  double disk_free_gb = 0;  ///< at home; 0 where unknown
  FocusWish focus;
  plan::Slider slider;                  ///< that the camera stands on
  std::vector<plan::Measure> measures;  ///< of the subject's motion, at most one a way
  std::vector<std::string>
      test_pictures;  ///< two, taken a known time apart, or none; relative to the take's folder
  std::string timer;  ///< name of one of the kit's; empty where it is not set
  StartBy start_by = StartBy::Clock;       ///< how the first shot comes
  Seconds delay_s = 10;                    ///< before it, where it comes by a delay
  bool endless = false;                    ///< the timer runs until it is stopped by hand
  FilmWish film;                           ///< of its frames
  std::vector<FilmWish> more_films;        ///< others besides, each with a name of its own
  StandInWish stand_in;                    ///< the simulated camera
  std::map<std::string, Instant> ticks;    ///< of the checklist: when each was done, by its code
  std::map<std::string, long long> again;  ///< what went wrong before, by its code, and in how many takes
  std::string card;                        ///< folder with the frames; empty before the shoot
  GatherWish gather;
  optics::Wish optics;  ///< what lens and sensor did, undone before anything else
  LevelWish level;
  LookWish look;
  std::string
      unknown;  ///< what its file says that this version does not know, as JSON; written back as it was
  bool operator==(const Take& other) const;

  /// Everything that follows from the wishes; what they leave open is proposed (plan::proposals_for) once
  /// says_plan(). With hours of work a field time is one by the calendar: nights and days between count.
  plan::Solution solution() const;
  /// The same without proposals, whether enough or not.
  plan::Solution said_solution() const;
  /// Whether anything was said that a plan begins with: what moves, or a slot besides the frame rate, which
  /// frames that were never planned have too.
  bool says_plan() const;
  /// The sums. Throws BadInput where the wishes are too few.
  plan::Sums sums() const { return plan::sums_of(solution(), shape()); }
  /// When its presses come, at an interval (the plan's, or as its timer really runs; see
  /// forecast::schedule_of).
  plan::Schedule schedule(Seconds interval_s, long long shots) const;
  /// What a shot consists of and leaves on the card: `shot`, or one picture of the camera's own movie.
  plan::ShotMake kept() const;
  /// Of one shot, with the shutter that is usual for the subject.
  plan::ShotShape shape() const;
  bool knows_start() const { return start != Instant{}; }
  /// Where and when: sun, moon and darkness follow from them.
  bool knows_sky() const { return place.known() && knows_start(); }
  /// Whether the kit is the person's. Where it is not, examples stand in its place and are never judged by.
  bool knows_kit() const { return !kit.bodies.empty(); }
  bool knows_timer() const { return knows_kit() || !timer.empty(); }
  /// The kit that numbers come from: the person's, or the example.
  const plan::Kit& kit_in_use() const { return knows_kit() ? kit : plan::example_kit(); }
  /// The body in use, or the example's.
  const plan::Body& body() const { return kit_in_use().bodies.front(); }
  /// The timer in use; the first there is where none or one that is gone is named.
  const plan::Timer& timer_model() const;
  const plan::Lens& lens() const;
  /// Metres to what is focused on: as was said, or for a close-up as its magnification asks for:
  /// focal length × (1 + 1 ÷ magnification). Source: thin lens.
  double focus_m() const;
  /// How long before each shot the timer locks the camera: as was said, or as its timer does.
  Seconds lock_s() const;

  /// Says something about a slot: it becomes the latest wish, pinned or not as it was.
  void wish(plan::Slot slot, double value);
  /// Takes a wish back.
  void release(plan::Slot slot);
  void pin(plan::Slot slot, bool pinned);
  /// Puts a measure in the place of an earlier one of the same way.
  void measured(const plan::Measure& measure);
  /// The wish for a slot; null where nothing is set.
  const plan::Wish* wished(plan::Slot slot) const;

 private:
  plan::Solution solved(const std::vector<plan::Wish>& proposals) const;
};

/// Puts the kit's lens of that name into use; a name it does not know changes nothing.
void use_lens(Take& take, const std::string& name);
/// The next lens of the kit (steps below zero), or the one before.
void next_lens(Take& take, int steps);
/// What a meter said, at the first shot unless `at` says when: filters, apertures and the light's curve
/// follow it.
void meter(Take& take, const plan::Metered& metered, std::optional<Instant> at = {});
/// After this many shots: the body's shutter count and its next file number go on.
void count_on(Take& take, long long shots);
/// Moves the first shot to the whole minute of `start`; clicks that were moved by hand are worked out anew,
/// and what the meter said stays where it was said.
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
