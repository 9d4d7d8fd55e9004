// askcount frame and askcount ramp: what crosses the frame, and how the exposure follows the light.
#include <fmt/format.h>

#include <memory>

#include "base/error.h"
#include "base/files.h"
#include "base/units.h"
#include "take/along.h"
#include "take/light.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

using sky::Body;

struct FrameAsked {
  PlaceAsked place;
  std::string take, from, to, sensor, film = "16:9", keep;
  std::optional<double> bearing, tilt, roll, focal, bearing_end, tilt_end;
  bool eased = false;
};

double shape_of(const std::string& text) {
  const size_t colon = text.find(':');
  if (text == "sensor") return 0;
  if (colon == std::string::npos)
    throw bad_input(fmt::format("--film \"{}\" is no shape.", text),
                    "Write 16:9, or sensor for the whole frame.");
  return parse_positive(text.substr(0, colon), "--film") / parse_positive(text.substr(colon + 1), "--film");
}

Json aim_json(const sky::Aim& a) {
  return {{"bearing_deg", rounded(a.bearing_deg, 2)},
          {"tilt_deg", rounded(a.tilt_deg, 2)},
          {"roll_deg", rounded(a.roll_deg, 2)}};
}

Answer frame_verb(const FrameAsked& asked) {
  take::Take take = asked.take.empty() ? take::demo_take() : take::load_take(asked.take);
  if (!asked.place.latitude.empty() || !asked.place.coordinates.empty())
    take.place = place_of(asked.place);
  else if (asked.place.zone != "UTC")
    take.place.zone = asked.place.zone, sky::check_place(take.place);
  sky::Optics optics = take::optics_of(take);
  if (asked.focal) optics.focal_mm = *asked.focal;
  if (!asked.sensor.empty()) {
    const size_t x = asked.sensor.find_first_of("xX");
    if (x == std::string::npos)
      throw bad_input(fmt::format("--sensor \"{}\" is not a size.", asked.sensor), "Write it like 36x24.");
    optics.sensor_width_mm = parse_positive(asked.sensor.substr(0, x), "--sensor");
    optics.sensor_height_mm = parse_positive(asked.sensor.substr(x + 1), "--sensor");
  }
  optics.film_shape = shape_of(asked.film);
  sky::Move move = take.light.move;
  const auto put = [](const std::optional<double>& from, double& into) {
    if (from) into = *from;
  };
  put(asked.bearing, move.from.bearing_deg);
  put(asked.tilt, move.from.tilt_deg);
  put(asked.roll, move.from.roll_deg);
  if (asked.bearing || asked.tilt || asked.roll) move.to = move.from;
  put(asked.bearing_end, move.to.bearing_deg);
  put(asked.tilt_end, move.to.tilt_deg);
  move.eased = asked.eased;
  const Instant from = asked.from.empty() ? take.start : parse_instant(asked.from, take.place.zone);
  const Instant to =
      !asked.to.empty() ? parse_instant(asked.to, take.place.zone) : later(from, take.sums().field_s);
  if (to <= from) throw bad_input("--to is not after --from.");
  if (seconds_between(from, to) > 400 * 86400.0)
    throw bad_input("More than 400 days cannot be looked over at once.");
  const sky::Ephemeris sky(from, to);
  const auto iso = [&](Instant t) { return format_iso(t, take.place.zone); };
  Answer answer;
  answer.json = {{"place",
                  {{"name", take.place.name},
                   {"latitude_deg", take.place.latitude_deg},
                   {"longitude_deg", take.place.longitude_deg},
                   {"zone", take.place.zone}}},
                 {"from", iso(from)},
                 {"to", iso(to)},
                 {"across_deg", rounded(optics.across_deg(), 2)},
                 {"down_deg", rounded(optics.down_deg(), 2)},
                 {"aim", aim_json(move.from)}};
  if (!asked.keep.empty()) {
    const Body body = asked.keep == "moon" ? Body::Moon : asked.keep == "sun" ? Body::Sun : Body::Core;
    const auto found = sky::move_that_keeps(sky, body, take.place, optics, from, to, asked.eased);
    answer.json["keep"] = asked.keep;
    answer.json["keeps"] = found.has_value();
    if (found)
      move = *found;
    else
      answer.words +=
          fmt::format("No move of the head keeps the {} in the frame all the time.\n", asked.keep);
  }
  if (!(move.from == move.to))
    answer.json["aim"] = aim_json(move.from), answer.json["aim_at_end"] = aim_json(move.to);
  for (const Body body : {Body::Sun, Body::Moon, Body::Core}) {
    Json list = Json::array();
    for (const sky::Passage& p :
         sky::passages_of(sky, body, take.place, move, optics, take.light.horizon, from, to)) {
      list.push_back({{"enters", p.at_start ? Json(nullptr) : Json(iso(p.from))},
                      {"leaves", p.at_end ? Json(nullptr) : Json(iso(p.to))},
                      {"in_frame_from", iso(p.from)},
                      {"in_frame_to", iso(p.to)}});
      answer.words += fmt::format("{}: {} to {}\n", sky::body_word(body),
                                  p.at_start ? "from the start" : format_clock(p.from, take.place.zone),
                                  p.at_end ? "the end" : format_clock(p.to, take.place.zone));
    }
    answer.json[sky::body_word(body)] = list;
  }
  if (answer.words.empty()) answer.words = "Neither sun, moon nor core is in the frame.\n";
  return answer;
}

struct RampAsked {
  PlaceAsked place;
  std::string take, start, interval, field, frames, readings, csv, cover, band, longest, order, exposures_of,
      light_csv;
  std::optional<int> apart, apart_late;
  std::optional<double> town, widest, start_f, highest_iso, lowest_iso, turning;
};

take::Take take_of(const RampAsked& asked) {
  take::Take take = asked.take.empty() ? take::demo_take() : take::load_take(asked.take);
  if (!asked.place.latitude.empty() || !asked.place.coordinates.empty()) {
    take.place = place_of(asked.place);
    if (asked.take.empty()) take.light = take::LightPlan{};
  }
  if (!asked.start.empty()) take.start = parse_instant(asked.start, take.place.zone);
  if (!asked.interval.empty() || !asked.frames.empty() || !asked.field.empty()) {
    take.wishes.clear();
    take.wish(plan::Slot::Fps, 25);
    if (!asked.field.empty()) take.wish(plan::Slot::Field, parse_length(asked.field, "--field"));
    if (!asked.interval.empty()) take.wish(plan::Slot::Interval, parse_length(asked.interval, "--interval"));
    if (!asked.frames.empty())
      take.wish(plan::Slot::Frames, static_cast<double>(parse_count(asked.frames, "--frames")));
    take.light.rule.longest_shutter_s = 0;
  }
  take::LightPlan& l = take.light;
  if (!asked.cover.empty()) l.source.cover = sky::cover_of(asked.cover);
  if (asked.town) l.source.town_lux = *asked.town;
  if (!asked.readings.empty())
    l.source.readings = ramp::readings_of_csv(read_file(asked.readings), take.place.zone, asked.readings);
  if (!asked.exposures_of.empty())
    l.source.readings = take::readings_of(gather::gather(asked.exposures_of).frames, take.place.zone);
  if (asked.apart)
    l.rule.frames_apart = *asked.apart,
    l.rule.frames_apart_late = std::min(l.rule.frames_apart_late, *asked.apart);
  if (asked.apart_late) l.rule.frames_apart_late = *asked.apart_late;
  if (!asked.longest.empty()) l.rule.longest_shutter_s = parse_length(asked.longest, "--longest");
  if (asked.widest) l.rule.widest_f = *asked.widest;
  if (asked.start_f) l.rule.start_f = *asked.start_f;
  if (asked.highest_iso) l.rule.highest_iso = *asked.highest_iso;
  if (asked.lowest_iso) l.rule.lowest_iso = *asked.lowest_iso;
  if (asked.turning) l.turning_s = *asked.turning;
  if (!asked.band.empty()) {
    if (std::sscanf(asked.band.c_str(), "%lf,%lf", &l.rule.low_stops, &l.rule.high_stops) != 2 ||
        l.rule.high_stops < l.rule.low_stops + 2.0 / 3)
      throw bad_input(fmt::format("--band \"{}\" is no band of two thirds of a stop or more.", asked.band),
                      "Write it like -1,0.");
  }
  if (!asked.order.empty()) {
    std::array<ramp::Dial, 3> order{};
    size_t n = 0, at = 0;
    while (at <= asked.order.size() && n < 4) {
      const size_t comma = std::min(asked.order.find(',', at), asked.order.size());
      const std::string word = asked.order.substr(at, comma - at);
      const auto dial = word == "shutter"    ? ramp::Dial::Shutter
                        : word == "aperture" ? ramp::Dial::Aperture
                        : word == "iso"
                            ? ramp::Dial::Iso
                            : throw bad_input(fmt::format("--order: \"{}\" is no dial.", word),
                                              "Write shutter,aperture,iso in the order you want.");
      if (n < 3) order[n] = dial;
      ++n;
      at = comma + 1;
    }
    if (n != 3 || order[0] == order[1] || order[1] == order[2] || order[0] == order[2])
      throw bad_input("--order must name the three dials once each.",
                      "Write shutter,aperture,iso in the order you want.");
    l.rule.order = order;
  }
  return take;
}

Answer ramp_verb(const RampAsked& asked) {
  const take::Take take = take_of(asked);
  const plan::Sums sums = take.sums();
  const ramp::Ramp ramp = take::ramp_of(take);
  const auto time = [&](long long n) { return later(take.start, static_cast<double>(n) * sums.interval_s); };
  Answer answer;
  Json clicks = Json::array();
  for (const ramp::RampStep& s : ramp.steps) {
    const std::string from = ramp::dial_words(s.click.dial, s.before),
                      to = ramp::dial_words(s.click.dial, s.after),
                      at = format_iso(time(s.click.frame), take.place.zone);
    clicks.push_back({{"time", at},
                      {"frame", s.click.frame + 1},
                      {"what", ramp::dial_word(s.click.dial)},
                      {"from", from},
                      {"to", to},
                      {"meter_after", rounded(s.meter_after, 2)},
                      {"late", s.late}});
    answer.words += fmt::format("{}  frame {:>5}  {:8} {} to {}  meter {:+.1f}\n",
                                format_clock(time(s.click.frame), take.place.zone, true), s.click.frame + 1,
                                ramp::dial_word(s.click.dial), from, to, s.meter_after);
  }
  const ramp::RampRule rule = take::rule_of(take);
  Json schools = Json::array();
  for (const ramp::SchoolOutcome& o : ramp::compare(ramp, rule, sums.interval_s, take::room_of(take)))
    schools.push_back(
        {{"school", ramp::school_word(o.school)},
         {"works", o.works},
         {"first_clipped", o.first_clipped < 0 ? Json(nullptr) : Json(o.first_clipped + 1)},
         {"first_drowned", o.first_drowned < 0 ? Json(nullptr) : Json(o.first_drowned + 1)},
         {"shutter_outgrows_at", o.shutter_outgrows < 0 ? Json(nullptr) : Json(o.shutter_outgrows + 1)},
         {"flicker_stops", rounded(o.flicker_stops, 3)},
         {"longest_shutter_s", rounded(o.longest_s, 4)},
         {"text", o.text}});
  const Findings findings = take::light_advice(take, ramp);
  answer.json = {{"clicks", clicks},
                 {"start",
                  {{"shutter", ramp::dial_words(ramp::Dial::Shutter, ramp.chain.front())},
                   {"aperture", ramp::dial_words(ramp::Dial::Aperture, ramp.chain.front())},
                   {"iso", ramp::dial_words(ramp::Dial::Iso, ramp.chain.front())}}},
                 {"frames", ramp.chain.size()},
                 {"feasible", ramp.feasible},
                 {"worst_stops_per_frame", rounded(ramp.worst_stops_per_frame, 4)},
                 {"worst_stops_per_minute", rounded(ramp.worst_stops_per_minute, 3)},
                 {"longest_shutter_s", rounded(ramp.longest_s, 4)},
                 {"longest_trail", rounded(ramp.longest_s / sums.interval_s, 3)},
                 {"schools", schools},
                 {"findings", to_json(findings)}};
  answer.words += words_of(findings);
  if (!asked.csv.empty()) write_file_atomically(asked.csv, take::ramp_csv(take, ramp));
  if (!asked.light_csv.empty())
    write_file_atomically(asked.light_csv, ramp::csv_of(take::curve_of(take, ramp), take.place.zone));
  return answer;
}

}  // namespace

namespace {

struct AlongAsked {
  std::string take, plan, cues, timer, calendar, light;
};

Answer along_verb(const AlongAsked& asked) {
  const take::Take take = take::load_take(asked.take);
  Answer answer;
  answer.json = Json::object();
  const auto write = [&](const char* key, const std::string& file, const auto& how) {
    if (file.empty()) return;
    how(file);
    answer.json[key] = file;
    answer.words += fmt::format("Written: {}\n", file);
  };
  write("plan", asked.plan, [&](const std::string& f) { take::write_plan_sheet(take, f); });
  write("cues", asked.cues,
        [&](const std::string& f) { take::write_cue_card(take, take::ramp_of(take), f); });
  write("timer", asked.timer, [&](const std::string& f) { take::write_timer_card(take, f); });
  write("calendar", asked.calendar, [&](const std::string& f) { take::write_calendar(take, f); });
  write("light", asked.light, [&](const std::string& f) { take::write_light_strip(take, 1440, f); });
  if (answer.words.empty())
    throw bad_input("Nothing was asked for.",
                    "Add --plan, --cues, --timer, --calendar or --light with a file name.");
  return answer;
}

}  // namespace

void add_along(CLI::App& app, Chosen& chosen) {
  CLI::App* verb = add_verb(app, chosen, "along", "Sheets, a calendar file and a picture to take along");
  const auto asked = std::make_shared<AlongAsked>();
  verb->add_option("take", asked->take, "The take (.askcount)")->required();
  verb->add_option("--plan", asked->plan, "The plan on one page (PDF)");
  verb->add_option("--cues", asked->cues, "The cue card of clicks on one page (PDF)");
  verb->add_option("--timer", asked->timer, "The timer's program and the checklist on one page (PDF)");
  verb->add_option("--calendar", asked->calendar, "The window with alarms (iCalendar)");
  verb->add_option("--light", asked->light, "The day's light (PNG)");
  verb->callback([&chosen, asked] { chosen.run = [asked] { return along_verb(*asked); }; });
}

void add_frame(CLI::App& app, Chosen& chosen) {
  CLI::App* verb = add_verb(app, chosen, "frame", "When sun, moon and galaxy enter and leave the frame");
  const auto asked = std::make_shared<FrameAsked>();
  verb->add_option("take", asked->take,
                   "A take (.askcount) whose place, time, lens and aim are used where no option says other");
  add_place(verb, asked->place);
  verb->add_option("--bearing", asked->bearing, "Where it looks, in degrees from north over east")
      ->check(CLI::Range(0.0, 360.0));
  verb->add_option("--tilt", asked->tilt, "Above the horizon, in degrees")->check(CLI::Range(-90.0, 90.0));
  verb->add_option("--roll", asked->roll, "Clockwise, in degrees")->check(CLI::Range(-180.0, 180.0));
  verb->add_option("--bearing-end", asked->bearing_end, "At the end, where the head moves")
      ->check(CLI::Range(0.0, 360.0));
  verb->add_option("--tilt-end", asked->tilt_end, "At the end, where the head moves")
      ->check(CLI::Range(-90.0, 90.0));
  verb->add_flag("--eased", asked->eased, "The head starts and stops softly");
  verb->add_option("--focal", asked->focal, "Focal length in mm")->check(CLI::Range(1.0, 5000.0));
  verb->add_option("--sensor", asked->sensor, "Size of the sensor in mm: 36x24");
  verb->add_option("--film", asked->film, "Shape of the film: 16:9, or sensor for all of it");
  verb->add_option("--from", asked->from, "First shot");
  verb->add_option("--to", asked->to, "Last shot");
  verb->add_option("--keep", asked->keep, "Search the head's move that keeps this inside")
      ->check(CLI::IsMember({"sun", "moon", "core"}));
  verb->callback([&chosen, asked] { chosen.run = [asked] { return frame_verb(*asked); }; });
}

void add_ramp(CLI::App& app, Chosen& chosen) {
  CLI::App* verb =
      add_verb(app, chosen, "ramp", "The clicks that follow the light, and the schools compared");
  const auto asked = std::make_shared<RampAsked>();
  verb->add_option("take", asked->take, "The take (.askcount); without one, the demo's with these options");
  add_place(verb, asked->place);
  verb->add_option("--start", asked->start, "First shot");
  verb->add_option("--interval", asked->interval, "Start of one shot to the start of the next");
  verb->add_option("--frames", asked->frames, "How many");
  verb->add_option("--field", asked->field, "Time in the field, instead of frames");
  verb->add_option("--sky", asked->cover, "clear, thin, clouded or dark");
  verb->add_option("--town", asked->town, "Light of a town, in lux")->check(CLI::Range(0.0, 1e5));
  verb->add_option("--readings", asked->readings,
                   "Real meter readings instead of the model (CSV: time,ev100)");
  verb->add_option("--frames-apart", asked->apart, "Frames from one click to the next, at least")
      ->check(CLI::Range(1, 1000));
  verb->add_option("--frames-apart-late", asked->apart_late, "The same once the meter left its band")
      ->check(CLI::Range(1, 1000));
  verb->add_option("--band", asked->band, "Where the meter is kept, in stops: -1,0");
  verb->add_option("--longest", asked->longest, "Longest shutter");
  verb->add_option("--turning", asked->turning, "Seconds kept free for the hand at the dials")
      ->check(CLI::Range(0.0, 600.0));
  verb->add_option("--widest", asked->widest, "Widest aperture")->check(CLI::Range(0.5, 64.0));
  verb->add_option("--start-f", asked->start_f, "Aperture to start with")->check(CLI::Range(0.5, 128.0));
  verb->add_option("--lowest-iso", asked->lowest_iso, "Lowest ISO")->check(CLI::Range(1.0, 1e6));
  verb->add_option("--highest-iso", asked->highest_iso, "Highest ISO")->check(CLI::Range(1.0, 1e7));
  verb->add_option("--order", asked->order, "Which dial first: shutter,aperture,iso");
  verb->add_option("--exposures-of", asked->exposures_of,
                   "The exposures recorded in an earlier take's frames instead of the model (a folder)");
  verb->add_option("--light-csv", asked->light_csv, "Write the light's curve to this CSV file");
  verb->add_option("--csv", asked->csv, "Write the clicks to this CSV file");
  verb->callback([&chosen, asked] { chosen.run = [asked] { return ramp_verb(*asked); }; });
}

}  // namespace askcount::cli
