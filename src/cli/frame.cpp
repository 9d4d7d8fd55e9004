// SPDX-License-Identifier: GPL-3.0-or-later
// askcount frame: what crosses the frame.
#include <fmt/format.h>

#include <memory>

#include "base/error.h"
#include "base/files.h"
#include "base/units.h"
#include "forecast/light.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

using sky::Body;

struct FrameAsked {
  PlaceAsked place;
  std::string take, from, to, film = "16:9", keep;
  std::vector<double> sensor;
  std::optional<double> bearing, tilt, roll, focal, bearing_end, tilt_end;
  bool eased = false;
};

double shape_of(const std::string& text) {
  const size_t colon = text.find(':');
  if (text == "sensor") return 0;
  if (colon == std::string::npos)
    throw bad_input(fmt::format("--film \"{}\" is not a shape.", text),
                    "Write 16:9, or sensor for the whole frame.");
  return parse_positive(text.substr(0, colon), "--film") / parse_positive(text.substr(colon + 1), "--film");
}

Json aim_json(const sky::Aim& a) {
  return {{"bearing_deg", rounded(a.bearing_deg, 2)},
          {"tilt_deg", rounded(a.tilt_deg, 2)},
          {"roll_deg", rounded(a.roll_deg, 2)}};
}

Answer frame_verb(const FrameAsked& asked) {
  take::Take take = asked.take.empty() ? take::Take{} : take::load_take(asked.take);
  if (!asked.place.latitude.empty() || !asked.place.coordinates.empty())
    take.place = place_of(asked.place);
  else if (!asked.place.zone.empty())
    take.place.zone = asked.place.zone, sky::check_place(take.place);
  sky::Optics optics = forecast::optics_of(take);
  if (asked.focal) optics.focal_mm = *asked.focal;
  if (!asked.sensor.empty())
    optics.sensor_width_mm = asked.sensor[0], optics.sensor_height_mm = asked.sensor[1];
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
  if (!take.place.known())
    throw bad_input("Where? Neither a take with a place nor --lat and --lon were given.",
                    "Write --lat 56.1 --lon -5.5, or --place.");
  if (asked.from.empty() && !take.knows_start())
    throw bad_input("When? --from was not given.", "Write --from and --to.");
  const Instant from = asked.from.empty() ? take.start : parse_instant(asked.from, take.place.zone);
  const Instant to =
      !asked.to.empty() ? parse_instant(asked.to, take.place.zone) : later(from, take.sums().field_s);
  if (to <= from) throw bad_input("--to is not after --from.");
  if (seconds_between(from, to) > 400 * 86400.0) throw bad_input("More than 400 days at once is too much.");
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
    const auto found = sky::move_that_keeps(sky, body, take.place, optics, {from, to}, asked.eased);
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
         sky::passages_of(sky, body, take.place, {move, optics, take.light.horizon}, {from, to})) {
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

}  // namespace

void add_frame(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "frame", "When sun, moon and galaxy enter and leave the frame");
  const auto asked = std::make_shared<FrameAsked>();
  verb.add_option(
      "take", asked->take,
      "A take (.askcount) whose place, time, lens and aim are used unless an option says otherwise");
  add_place(verb, asked->place);
  verb.add_option("--bearing", asked->bearing, "Where it looks, in degrees from north through east")
      .between(0.0, 360.0);
  verb.add_option("--tilt", asked->tilt, "Above the horizon, in degrees").between(-90.0, 90.0);
  verb.add_option("--roll", asked->roll, "Clockwise, in degrees").between(-180.0, 180.0);
  verb.add_option("--bearing-end", asked->bearing_end, "At the end, where the head moves")
      .between(0.0, 360.0);
  verb.add_option("--tilt-end", asked->tilt_end, "At the end, where the head moves").between(-90.0, 90.0);
  verb.add_flag("--eased", asked->eased, "The head starts and stops softly");
  verb.add_option("--focal", asked->focal, "Focal length in mm").between(1.0, 5000.0);
  verb.add_option("--sensor", asked->sensor, "Size of the sensor in mm: 36x24").split('x', 2).positive();
  verb.add_option("--film", asked->film, "Shape of the film: 16:9, or sensor for all of it");
  verb.add_option("--from", asked->from, "First shot");
  verb.add_option("--to", asked->to, "Last shot");
  verb.add_option("--keep", asked->keep, "Find the head's move that keeps this in the frame")
      .one_of({"sun", "moon", "core"});
  verb.callback([&chosen, asked] { chosen.run = [asked] { return frame_verb(*asked); }; });
}

}  // namespace askcount::cli
