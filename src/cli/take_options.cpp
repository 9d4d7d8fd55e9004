// SPDX-License-Identifier: GPL-3.0-or-later
#include "take_options.h"

#include <fmt/format.h>

#include <cmath>

#include "base/error.h"
#include "base/units.h"
#include "filing.h"
#include "motion/motion.h"
#include "ramp/light.h"
#include "sky/night_sky.h"
#include "skyline/photograph.h"

namespace askcount::cli {
namespace {

double parse_temperature(const std::string& text) {
  const bool below = !text.empty() && text.front() == '-';
  const std::string digits = below ? text.substr(1) : text;
  const double value = digits == "0" ? 0 : parse_positive(digits, "--temperature");
  if (value > 60)
    throw bad_input(fmt::format("--temperature \"{}\" is not between -60 and 60 degrees.", text));
  return below ? -value : value;
}

/// "248", "248,9" or "248,9,-2": bearing, tilt, roll; a bearing by compass, "252M,9", with its variation.
sky::Aim parse_aim(std::string text, double variation_deg) {
  const size_t compass = text.find_first_of("Mm");
  if (compass != std::string::npos) text.erase(compass, 1);
  const auto wrong = [&] {
    return bad_input(fmt::format("--aim \"{}\" is not a direction.", text),
                     "Write bearing and tilt in degrees: 248,9.");
  };
  std::vector<double> numbers;
  for (size_t from = 0; from <= text.size();) {
    const size_t comma = std::min(text.find(',', from), text.size());
    std::string_view part = std::string_view(text).substr(from, comma - from);
    while (part.starts_with(' ')) part.remove_prefix(1);
    const bool below = part.starts_with('-');
    if (below) part.remove_prefix(1);
    const auto value = take_decimal(part);
    if (!value || part.find_first_not_of(' ') != std::string_view::npos) throw wrong();
    numbers.push_back(below ? -*value : *value);
    from = comma + 1;
  }
  numbers.resize(std::max<size_t>(3, numbers.size()), 0);
  if (numbers.size() > 3 || numbers[0] < 0 || numbers[0] > 360 || std::abs(numbers[1]) > 90 ||
      std::abs(numbers[2]) > 180)
    throw wrong();
  if (compass != std::string::npos) numbers[0] = skyline::true_bearing(numbers[0], variation_deg);
  return {numbers[0], numbers[1], numbers[2]};
}

/// Speed and distance become a crossing of the frame: the pinhole model.
void say_speed(const PlanAsked& asked, take::Take& take) {
  if (asked.speed.empty() && asked.distance.empty()) return;
  if (asked.speed.empty() || asked.distance.empty())
    throw bad_input("--speed and --distance go together.", "Give metres per second and metres.");
  const double widths = motion::frame_widths_per_s(parse_positive(asked.speed, "--speed"),
                                                   parse_positive(asked.distance, "--distance"),
                                                   take.lens().focal_mm, take.body().sensor_width_mm);
  take.measured({plan::MotionWay::Speed, 1 / widths, 0, 1});
  take.wish(plan::Slot::FieldCrossing, 1 / widths);
}

void say_kit(const PlanAsked& asked, take::Take& take) {
  if (!asked.kit.empty()) {
    take.kit = plan::load_kit(asked.kit);
    take.timer = take.kit.timers.front().name;
  }
  if (!asked.timer.empty()) take.timer = plan::timer_named(take.kit, asked.timer).name;
  if (asked.lens.empty()) return;
  take::use_lens(take, asked.lens);
  if (take.lens().name != asked.lens)
    throw bad_input(fmt::format("There is no lens \"{}\" in the kit.", asked.lens),
                    "askcount kit lists them.");
}

template <typename Value>
void put(const std::optional<Value>& said, Value& into) {
  if (said) into = *said;
}

}  // namespace

void add_where_and_when(const Verb& verb, WhereAndWhenAsked& asked) {
  add_place(verb, asked.place);
  verb.add_option("--place-name", asked.place.name, "What the place is called");
  verb.add_option("--start", asked.start, "First shot: 2026-10-09T17:50, by the place's clock");
  verb.add_option("--aim", asked.aim,
                  "Where the camera looks: bearing and tilt in degrees, 248,9; by compass 252M,9");
  verb.add_option("--variation", asked.variation, "Compass declination at the place, east positive")
      .between(-180.0, 180.0);
  verb.add_option("--subject", asked.subject, "What moves, in any words");
  verb.add_option("--meter", asked.meter, "What the meter says: 1/125,f8,iso100");
  verb.add_option("--meter-at", asked.meter_at, "When it was read, if not at the first shot");
  verb.add_option("--shows", asked.shows, "What the frame mostly shows, if not metered")
      .one_of({"ground", "half sky", "lit sky", "away from the sun"});
  verb.add_option(
      "--darkness", asked.darkness,
      "Darkness of the place by night: remote, country, village, suburb, town, city, or magnitudes");
}

void say(const WhereAndWhenAsked& asked, take::Take& take) {
  const bool placed =
      !asked.place.latitude.empty() || !asked.place.longitude.empty() || !asked.place.coordinates.empty();
  if (placed) {
    const sky::Place before = take.place;
    take.place = place_of(asked.place);
    if (asked.place.zone.empty() && before.known()) take.place.zone = before.zone;
  } else if (!asked.place.zone.empty()) {
    take.place.zone = asked.place.zone;
    sky::check_place(take.place);
  }
  if (!placed && !asked.place.name.empty()) {
    for (const sky::Place& p : sky::demo_places())
      if (p.name == asked.place.name) take.place = p;
    if (!take.place.known())
      throw bad_input(fmt::format("Where is \"{}\"?", asked.place.name), "Add --lat and --lon, or --place.");
    take.place.name = asked.place.name;
  }
  if (!asked.start.empty()) take.start = parse_instant(asked.start, take.place.zone);
  put(asked.variation, take.light.variation_deg);
  if (!asked.aim.empty()) {
    const sky::Aim aim = parse_aim(asked.aim, take.light.variation_deg);
    take.light.move = {aim, aim, false};
  }
  if (!asked.subject.empty()) take.subject = asked.subject;
  for (const sky::Shows s :
       {sky::Shows::Ground, sky::Shows::Half, sky::Shows::LitSky, sky::Shows::AwayFromSun})
    if (asked.shows == sky::shows_word(s)) take.light.source.shows = s;
  if (!asked.darkness.empty()) take.light.source.sky_mag = sky::parse_darkness(asked.darkness);
  if (asked.meter.empty() && !asked.meter_at.empty())
    throw bad_input("--meter-at says when, but not what.", "Add --meter 1/125,f8,iso100.");
  if (asked.meter.empty()) return;
  const plan::Metered metered = plan::parse_metered(asked.meter);
  if (asked.meter_at.empty())
    take::meter(take, metered);
  else
    take::meter(take, metered, parse_instant(asked.meter_at, take.place.zone));
}

void add_plan(const Verb& verb, PlanAsked& asked) {
  static constexpr std::pair<plan::Slot, const char*> helps[] = {
      {plan::Slot::Clip, "Length of the film (10s, 2 min)"},
      {plan::Slot::Fps, "Frame rate of the film (25, 24000/1001)"},
      {plan::Slot::Frames, "Frames in the film; max for as long as it lasts"},
      {plan::Slot::Interval, "Start of one shot to the start of the next"},
      {plan::Slot::Field, "Time in the field, first shot to last"},
      {plan::Slot::SpeedUp, "Field seconds in one film second"},
      {plan::Slot::FieldCrossing, "The subject crosses the frame in the field"},
      {plan::Slot::ScreenCrossing, "The subject crosses the screen"},
      {plan::Slot::Step, "Movement from frame to frame, share of the width"},
      {plan::Slot::Trail, "Motion blur as a share of the interval"},
      {plan::Slot::Shutter, "How long one exposure is open; the longest, where it follows the light"},
      {plan::Slot::Gap, "End of a shot to the start of the next"}};
  for (const auto& [slot, help] : helps)
    verb.add_option(std::string("--") + plan::slot_word(slot), asked.slots[slot], help);
  add_where_and_when(verb, asked.where);
  verb.add_option("--aperture", asked.f_number, "f-number to begin with; by default as metered")
      .between(0.5, 128.0);
  verb.add_option("--iso", asked.iso, "ISO to begin with; by default as metered").between(1.0, 1e7);
  verb.add_option("--method", asked.method,
                  "How the exposure follows the light: hand, fixed, or aperture priority")
      .one_of({"hand", "fixed", "aperture priority"});
  verb.add_option("--kit", asked.kit, "The kit (JSON; askcount kit prints one to start from)");
  verb.add_option("--brackets", asked.brackets, "Exposures per shot and stops between them: 3x2");
  verb.add_flag("--long-noise-reduction,!--no-long-noise-reduction", asked.dark_frames,
                "The camera takes a dark frame after every exposure");
  verb.add_option("--spare", asked.spare, "Extra shots at each end");
  verb.add_option("--work", asked.work,
                  "Hours of the day to shoot, and days a week: 7-18, 7:30-18x5, always");
  verb.add_option("--slide", asked.slide, "How far a slider carries the camera, in metres");
  verb.add_option("--settling", asked.settling, "Time until nothing sways after a step (0.5 s)");
  verb.add_option("--nearest", asked.nearest_m, "Distance of what it slides past, in metres")
      .between(0.01, 1e6);
  verb.add_option("--temperature", asked.temperature,
                  "Air temperature in degrees Celsius: cold shortens battery life");
  verb.add_flag("--cold,!--no-cold", asked.cold, "Whether cold weakens the batteries (on by default)");
  verb.add_flag("--external-power,!--no-external-power", asked.external_power,
                "The camera runs on external power");
  verb.add_option("--timer", asked.timer, "Name of the timer, for its count limit");
  verb.add_option("--declination", asked.declination,
                  "Declination of the stars in view, in degrees, for their drift")
      .between(-90.0, 90.0);
  verb.add_option("--lens", asked.lens, "Name of the kit's lens in use");
  verb.add_option("--speed", asked.speed,
                  "Speed of the subject, square to the view, in metres per second; with --distance");
  verb.add_option("--distance", asked.distance, "Distance to the moving subject, in metres");
  verb.add_option("--focus", asked.focus_m, "Focus distance, in metres").between(0.001, 1e9);
  verb.add_option("--magnification", asked.magnification,
                  "Magnification of a close-up: size on the sensor over size of the subject")
      .between(0.01, 10.0);
  verb.add_option("--grows", asked.grows, "Growth of the subject towards the lens, in mm per hour")
      .between(0.0, 1e6);
  verb.add_option("--files", asked.files, "raw, compressed or both").one_of({"raw", "compressed", "both"});
  verb.add_choice(
      "--cards", asked.cards,
      Words<std::optional<plan::CardUse>>{
          {"turn", plan::CardUse::InTurn}, {"both", plan::CardUse::Both}, {"split", plan::CardUse::Split}},
      "Two slots: turn (one after the other), both (the same), split (raw and compressed)");
  verb.add_option("--disk", asked.disk, "Free disk space at home, in GB");
  verb.add_flag("--lamp,!--no-lamp", asked.lamp, "The kit's lamps light the subject");
  verb.add_flag("--endless,!--no-endless", asked.endless, "The timer runs until it is stopped by hand");
  verb.add_option("--name", asked.name, "Name of the take");
}

void say(const PlanAsked& asked, take::Take& take) {
  if (!asked.name.empty()) take.name = asked.name;
  say_kit(asked, take);
  say(asked.where, take);
  for (const auto& [slot, text] : asked.slots)
    if (!text.empty() && !(slot == plan::Slot::Frames && text == "max"))
      take.wish(slot, plan::parse_slot(slot, text));
  if (asked.f_number) take.light.f_number = asked.f_number;
  if (asked.iso) take.light.iso = asked.iso;
  if (!asked.method.empty())
    for (const ramp::Method s : {ramp::Method::Hand, ramp::Method::Fixed, ramp::Method::AperturePriority})
      if (asked.method == ramp::method_word(s)) take.light.method = s;
  if (!asked.brackets.empty()) plan::parse_brackets(asked.brackets, take.shot);
  put(asked.dark_frames, take.shot.dark_frames);
  put(asked.external_power, take.external_power);
  put(asked.endless, take.endless);
  put(asked.lamp, take.lamp);
  put(asked.cold, take.cold_counts);
  if (!asked.spare.empty()) take.spare = parse_count(asked.spare, "--spare");
  if (!asked.slide.empty())
    take.slider.travel_m = asked.slide == "0" ? 0 : parse_positive(asked.slide, "--slide");
  if (!asked.settling.empty()) take.slider.settling_s = parse_length(asked.settling, "--settling");
  put(asked.nearest_m, take.slider.nearest_m);
  if (!asked.work.empty()) take.work = plan::parse_work(asked.work);
  if (!asked.temperature.empty()) take.temperature_c = parse_temperature(asked.temperature);
  if (!asked.files.empty()) {
    take.shot.raw = asked.files != "compressed";
    take.shot.compressed = asked.files != "raw";
  }
  put(asked.cards, take.shot.cards);
  if (!asked.disk.empty()) take.disk_free_gb = parse_positive(asked.disk, "--disk");
  put(asked.focus_m, take.focus.distance_m);
  put(asked.declination, take.focus.declination_deg);
  put(asked.magnification, take.focus.magnification);
  put(asked.grows, take.focus.grows_mm_per_hour);
  say_speed(asked, take);
}

void add_save(const Verb& verb, SaveAsked& asked) {
  verb.add_option("--save", asked.file, "Save all this as a take (.askcount)");
  add_force(verb, asked.force);
}

void check_save(const SaveAsked& asked) {
  if (!asked.file.empty() && std::filesystem::path(asked.file).extension() != ".askcount")
    throw bad_input(fmt::format("\"{}\" must end in .askcount.", asked.file));
}

void save_new(const take::Take& take, const std::filesystem::path& file, const Guard& guard) {
  std::error_code ec;
  if (!guard.force && std::filesystem::is_regular_file(file, ec) &&
      std::filesystem::file_size(file, ec) > 0) {
    check_output({file, FileKind::Take, guard});  // what it says of a photograph comes first
    throw bad_input(fmt::format("{} already exists.", file.string()),
                    "Name another file, or add --force to write over it; it was not changed.");
  }
  take::save_take(take, file, guard);
}

void save(const SaveAsked& asked, const take::Take& take, const std::vector<std::filesystem::path>& inputs,
          const std::string& given) {
  if (asked.file.empty()) return;
  std::error_code ec;
  if (!given.empty() && std::filesystem::equivalent(given, asked.file, ec))
    take::save_take(take, asked.file, {inputs, asked.force});
  else
    save_new(take, asked.file, {inputs, asked.force});
  file_take(take, asked.file);
}

}  // namespace askcount::cli
