#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <memory>

#include "advice/plan_advice.h"
#include "base/error.h"
#include "base/units.h"
#include "motion/motion.h"
#include "orders/light.h"
#include "orders/shoot.h"
#include "plan/close_up.h"
#include "plan/habits.h"
#include "plan/settable.h"
#include "plan/ways.h"
#include "take/take.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

/// The options of `askcount count`.
struct Asked {
  std::map<plan::Slot, std::string> slots;
  std::string name, subject, save, kit, meter, brackets, spare, temperature, timer;
  bool force = false;
  std::string speed, distance, disk, files, lens;
  plan::CardUse cards = plan::CardUse::InTurn;
  double declination = 0, focus_m = 10, magnification = 0, grows = 0;
  bool dark_frames = false, external_power = false, endless = false, lamp = false;
};

std::string words_of_sums(const plan::Sums& s) {
  std::string words = fmt::format(
      "Shoot {}, one every {}, shutter {}, for {}.\nThe gap between shots is {}. The film runs {} at {}, {} "
      "times faster.\n",
      counted(s.frames, "frame"), format_length(s.interval_s), format_shutter(s.shutter_s),
      format_length(s.field_s), format_length(s.gap_s), format_length(s.clip_s), frame_rate_words(s.fps),
      format_number(s.speed_up, 1));
  if (s.step)
    words += fmt::format("The subject moves {} of the frame's width a frame and crosses the screen in {}.\n",
                         format_number(*s.step * 100, 2) + " %", format_length(*s.screen_crossing_s, 1));
  return words;
}

double parse_temperature(const std::string& text) {
  const bool below = !text.empty() && text.front() == '-';
  const std::string digits = below ? text.substr(1) : text;
  const double value = digits == "0" ? 0 : parse_positive(digits, "--temperature");
  if (value > 60)
    throw bad_input(fmt::format("--temperature \"{}\" is not between -60 and 60 degrees.", text));
  return below ? -value : value;
}

void add_exposure(Json& json, const take::Take& take, const plan::Sums& sums) {
  for (const char* key : {"filter_stops", "filters", "setting", "test_exposure"}) json[key] = nullptr;
  if (!take.metered) return;
  const plan::ExposureMatch m = plan::match_exposure(*take.metered, sums.shutter_s, take.kit);
  const auto dials = [](const plan::Metered& d) {
    return Json{{"shutter_s", rounded(d.shutter_s, 6)},
                {"f_number", rounded(d.f_number, 2)},
                {"iso", rounded(d.iso, 0)}};
  };
  json["stops"] = rounded(m.stops, 2);
  json["filter_stops"] = rounded(m.filter_stops, 2);
  json["filters"] = m.filters;
  json["setting"] = dials(m.setting);
  json["missing_stops"] = rounded(m.missing_stops, 2);
  json["nearest_shutter_s"] = rounded(m.nearest_shutter_s, 6);
  json["test_exposure"] = dials(plan::test_exposure(m.setting, take.kit));
}

void add_budgets(Json& json, const take::Take& take, const plan::Sums& sums) {
  json["budgets"] = Json::array();
  for (const plan::Budget& b : plan::budgets_of(sums, take.shot, take.kit, orders::outing_of(take)))
    json["budgets"].push_back(
        {{"name", b.name},
         {"good_for_shots", std::isinf(b.shots) ? Json(nullptr) : Json(static_cast<long long>(b.shots))},
         {"ends_at_frame", b.ends_at_frame ? Json(*b.ends_at_frame) : Json(nullptr)},
         {"ends_after_s", b.ends_at_frame ? Json(rounded(b.ends_after_s, 1)) : Json(nullptr)},
         {"share", rounded(b.share, 4)},
         {"text", b.words}});
  json["alternatives"] = Json::array();
  for (const plan::Way& w : plan::ways_of(sums, take.shot, take.body(), take.film.size.width))
    json["alternatives"].push_back({{"name", w.name},
                                    {"film_s", rounded(w.film_s, 3)},
                                    {"data_gb", rounded(w.data_gb, 2)},
                                    {"pixels", {w.pixels_across, w.pixels_down}},
                                    {"crop", rounded(w.crop, 2)},
                                    {"retime", w.retime},
                                    {"light", w.light},
                                    {"text", w.words}});
  json["swaps"] = Json::array();
  for (const plan::Swap& w : plan::swaps_of(sums, take.shot, take.kit, orders::outing_of(take)))
    json["swaps"].push_back({{"what", w.what},
                             {"from", w.from},
                             {"to", w.to},
                             {"at_frame", w.at_frame},
                             {"after_s", rounded(w.after_s, 1)},
                             {"text", w.words}});
}

void add_optics(Json& json, const take::Take& take, const plan::Sums& sums) {
  const plan::Body& body = take.body();
  const plan::Lens& lens = take.lens();
  const double f = orders::f_number_of(take, sums);
  json["star_drift_px"] = rounded(
      plan::star_drift_px(sums.shutter_s, lens.focal_mm, body.pixel_um(), take.focus.declination_deg), 2);
  const plan::StarSchools s = plan::star_schools(body, lens, f);
  json["stars"] = {{"by_500_s", rounded(s.by_500, 2)},
                   {"by_600_s", rounded(s.by_600, 2)},
                   {"by_aperture_and_pitch_s", rounded(s.by_pixel, 2)}};
  const plan::Depth d = plan::depth_of_field(body, lens.focal_mm, f, take.focus.distance_m);
  json["depth"] = {{"f_number", rounded(f, 2)},
                   {"focus_m", rounded(take.focus.distance_m, 3)},
                   {"hyperfocal_m", rounded(d.hyperfocal_m, 3)},
                   {"near_m", rounded(d.near_m, 3)},
                   {"far_m", std::isinf(d.far_m) ? Json(nullptr) : Json(rounded(d.far_m, 3))},
                   {"diffraction_f", rounded(plan::diffraction_f(body.pixel_um()), 1)}};
  json["close_up"] = nullptr;
  if (take.focus.magnification <= 0) return;
  const plan::CloseUp c = plan::close_up(body, take.focus.magnification, f);
  const auto every = plan::refocus_every(c, take.focus.grows_mm_per_hour, sums);
  json["close_up"] = {{"depth_mm", rounded(c.depth_mm, 3)},
                      {"effective_f", rounded(c.effective_f, 1)},
                      {"light_lost_stops", rounded(c.light_lost_stops, 2)},
                      {"field_width_mm", rounded(c.field_width_mm, 2)},
                      {"refocus_every_frames", every ? Json(*every) : Json(nullptr)}};
}

void add_settable(Json& json, const take::Take& take, const plan::Sums& sums) {
  const plan::Settable s = plan::settable(sums, take.timer_model(), take.body());
  json["settable"] = {{"interval_s", rounded(s.interval_s, 6)},
                      {"shutter_s", rounded(s.shutter_s, 6)},
                      {"field_s", rounded(s.field_s, 6)},
                      {"trail", rounded(s.trail, 6)},
                      {"as_planned", s.as_planned}};
  json["motion"] =
      sums.step ? Json(plan::motion_word(*sums.screen_crossing_s, *sums.step, sums.trail)) : Json(nullptr);
}

/// Speed and distance become a crossing of the frame: the pinhole model.
void add_speed(const Asked& asked, take::Take& take) {
  if (asked.speed.empty() && asked.distance.empty()) return;
  if (asked.speed.empty() || asked.distance.empty())
    throw bad_input("--speed and --distance go together.", "Give metres a second and metres.");
  const double widths = motion::frame_widths_per_s(parse_positive(asked.speed, "--speed"),
                                                   parse_positive(asked.distance, "--distance"),
                                                   take.lens().focal_mm, take.body().sensor_width_mm);
  take.measured({plan::MotionWay::Speed, 1 / widths, 0, 1});
  take.wishes.push_back({plan::Slot::FieldCrossing, 1 / widths, true});
}

Answer count(const Asked& asked) {
  take::Take take;
  std::vector<plan::Wish> wishes;
  for (const auto& [slot, text] : asked.slots)
    if (!text.empty()) wishes.push_back({slot, plan::parse_slot(slot, text), true});
  take.wishes = wishes;
  if (!asked.name.empty()) take.name = asked.name;
  if (!asked.subject.empty()) take.subject = asked.subject;
  if (!asked.kit.empty()) {
    take.kit = plan::load_kit(asked.kit);
    take.timer = take.kit.timers.front().name;
  }
  if (!asked.meter.empty()) take.metered = plan::parse_metered(asked.meter);
  if (!asked.brackets.empty()) plan::parse_brackets(asked.brackets, take.shot);
  take.shot.dark_frames = asked.dark_frames;
  take.external_power = asked.external_power;
  if (!asked.spare.empty()) take.spare = parse_count(asked.spare, "--spare");
  if (!asked.timer.empty()) take.timer = plan::timer_named(take.kit, asked.timer).name;
  if (!asked.temperature.empty()) take.temperature_c = parse_temperature(asked.temperature);
  if (!asked.lens.empty()) {
    take::use_lens(take, asked.lens);
    if (take.lens().name != asked.lens)
      throw bad_input(fmt::format("There is no lens \"{}\" in the kit.", asked.lens),
                      "askcount kit lists them.");
  }
  if (asked.files == "both")
    take.shot.compressed = true;
  else if (asked.files == "compressed")
    take.shot.raw = false, take.shot.compressed = true;
  take.shot.cards = asked.cards;
  take.endless = asked.endless;
  take.lamp = asked.lamp;
  if (!asked.disk.empty()) take.disk_free_gb = parse_positive(asked.disk, "--disk");
  take.focus = {asked.focus_m, asked.declination, asked.magnification, asked.grows};
  add_speed(asked, take);
  // Where nothing says the interval, the habits for the subject do.
  if (const auto known = plan::habits_for(asked.subject);
      !known.empty() && !take.solution()[plan::Slot::Interval])
    take.wishes.push_back({plan::Slot::Interval,
                           std::round(std::sqrt(known.front().from_s * known.front().to_s) * 2) / 2, false});
  const plan::Solution solution = take.solution();
  if (!solution.conflicts.empty())
    throw bad_input(plan::conflict_words(solution.conflicts.front(), take.wishes));
  const plan::Sums sums = take.sums();
  const Findings findings = advice::plan_advice(take);
  if (!asked.save.empty()) {
    std::filesystem::path file = asked.save;
    if (file.extension() != ".askcount")
      throw bad_input(fmt::format("\"{}\" must end in .askcount.", asked.save));
    const take::Take demo = take::demo_take();  // where and when the stand-in shoots
    take.place = demo.place;
    take.start = demo.start;
    take::save_take(take, file, {{asked.kit}, asked.force});
  }
  Answer answer;
  answer.json = plan::to_json(sums);
  answer.json["cycle_s"] = rounded(orders::cycle_of(take, sums.shutter_s).shortest_interval_s(), 3);
  add_exposure(answer.json, take, sums);
  add_budgets(answer.json, take, sums);
  add_optics(answer.json, take, sums);
  add_settable(answer.json, take, sums);
  answer.json["kit"] = asked.kit.empty() ? "demo" : asked.kit;
  answer.json["findings"] = to_json(findings);
  answer.words = words_of_sums(sums) + words_of(findings);
  return answer;
}

}  // namespace

void add_kit(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "kit", "Print a kit to start from, or check one");
  const auto file = std::make_shared<std::string>();
  verb.add_option("file", *file, "A kit to check (JSON)");
  verb.callback([&chosen, file] {
    chosen.run = [file] {
      const Json json = plan::to_json(file->empty() ? plan::demo_kit() : plan::load_kit(*file));
      return Answer{json, json.dump(2) + "\n"};
    };
  });
}

void add_count(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "count", "Count what the field must give for a wished clip");
  const auto asked = std::make_shared<Asked>();
  static constexpr std::pair<plan::Slot, const char*> helps[] = {
      {plan::Slot::Clip, "Length of the film (10s, 2 min)"},
      {plan::Slot::Fps, "Frame rate of the film (25, 24000/1001)"},
      {plan::Slot::Frames, "Frames in the film"},
      {plan::Slot::Interval, "Start of one shot to the start of the next"},
      {plan::Slot::Field, "Time in the field, first shot to last"},
      {plan::Slot::SpeedUp, "Field seconds in one film second"},
      {plan::Slot::FieldCrossing, "The subject crosses the frame in the field"},
      {plan::Slot::ScreenCrossing, "The subject crosses the screen"},
      {plan::Slot::Step, "Movement from frame to frame, share of the width"},
      {plan::Slot::Trail, "Motion blur as a share of the interval"},
      {plan::Slot::Shutter, "How long one exposure is open"},
      {plan::Slot::Gap, "End of a shot to the start of the next"}};
  for (const auto& [slot, help] : helps)
    verb.add_option(std::string("--") + plan::slot_word(slot), asked->slots[slot], help);
  verb.add_option("--kit", asked->kit, "The kit (JSON; askcount kit prints one to start from)");
  verb.add_option("--meter", asked->meter, "What the meter says: 1/125,f8,iso100");
  verb.add_option("--brackets", asked->brackets, "Exposures a shot and stops between them: 3x2");
  verb.add_flag("--long-noise-reduction", asked->dark_frames,
                "The camera takes a dark frame after every exposure");
  verb.add_option("--spare", asked->spare, "Extra shots at each end");
  verb.add_option("--temperature", asked->temperature, "Air in degrees Celsius: cold shortens batteries");
  verb.add_flag("--external-power", asked->external_power, "The camera runs on external power");
  verb.add_option("--timer", asked->timer, "Name of the timer, for its count limit");
  verb.add_option("--declination", asked->declination, "Of the stars looked at, in degrees, for their drift")
      .between(-90.0, 90.0);
  verb.add_option("--lens", asked->lens, "Name of the kit's lens in use");
  verb.add_option("--speed", asked->speed,
                  "Of the subject, square to the view, in metres a second; with --distance");
  verb.add_option("--distance", asked->distance, "To the moving subject, in metres");
  verb.add_option("--focus", asked->focus_m, "What is focused on, in metres").between(0.001, 1e9);
  verb.add_option("--magnification", asked->magnification,
                  "Of a close-up: size on the sensor by size of the subject")
      .between(0.01, 10.0);
  verb.add_option("--grows", asked->grows, "The subject towards the lens, in mm an hour").between(0.0, 1e6);
  verb.add_option("--files", asked->files, "raw, compressed or both").one_of({"raw", "compressed", "both"});
  verb.add_choice(
      "--cards", asked->cards,
      {{"turn", plan::CardUse::InTurn}, {"both", plan::CardUse::Both}, {"split", plan::CardUse::Split}},
      "Two slots: turn (one after the other), both (the same), split (raw and compressed)");
  verb.add_option("--disk", asked->disk, "Free at home, in GB");
  verb.add_flag("--lamp", asked->lamp, "The kit's lamps light the subject");
  verb.add_flag("--endless", asked->endless, "The timer runs until it is stopped by hand");
  verb.add_option("--name", asked->name, "Name of the take");
  verb.add_option("--subject", asked->subject, "What moves");
  verb.add_option("--save", asked->save, "Write a take (.askcount) with these sums");
  add_force(verb, asked->force);
  verb.callback([&chosen, asked] { chosen.run = [asked] { return count(*asked); }; });
}

}  // namespace askcount::cli
