// SPDX-License-Identifier: GPL-3.0-or-later
#include "over.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/error.h"
#include "base/units.h"
#include "forecast/light.h"
#include "skyline/overlay.h"
#include "skyline/skyline.h"
#include "take/edit.h"

namespace askcount::cli {
namespace {

constexpr int kLongest = 2400;  // pixels of the picture that is written
constexpr double kMost_s = 2 * 86400;

sky::FramePoint point_of(const std::vector<double>& pixels, image::Size full) {
  return {pixels[0] / full.width - 0.5, 0.5 - pixels[1] / full.height};
}

Json behind_json(const std::vector<sky::Behind>& all, const std::string& zone) {
  Json list = Json::array();
  for (const sky::Behind& b : all)
    list.push_back({{"body", sky::body_word(b.body)},
                    {"goes_behind", b.goes},
                    {"at", format_iso(b.at, zone)},
                    {"altitude_deg", rounded(b.where.altitude_deg, 2)},
                    {"azimuth_deg", rounded(b.where.azimuth_deg, 2)}});
  return list;
}

}  // namespace

void add_over(const Verb& verb, OverAsked& a) {
  verb.add_option("--over", a.picture, "A JPEG taken at the place: the sky is drawn over it")
      .called("PICTURE");
  verb.add_option("-o,--output", a.output, "The picture with the sky (PNG)").called("PNG");
  verb.add_option("--take", a.take, "Place, time, frame and horizon of this take").called("TAKE");
  verb.add_option("--from", a.from, "Paths from this moment (noon of the date)");
  verb.add_option("--to", a.to, "Paths to this moment (a day later)");
  verb.add_option("--bearing", a.bearing, "Where the picture's middle looks, from true north")
      .between(0.0, 360.0);
  verb.add_option("--compass", a.compass, "The same by a compass").between(0.0, 360.0);
  verb.add_option("--variation", a.variation, "Declination of that compass, east positive")
      .between(-180.0, 180.0);
  verb.add_option("--tilt", a.tilt, "Tilt of the camera above level, in degrees").between(-89.0, 89.0);
  verb.add_option("--roll", a.roll, "Clockwise, in degrees").between(-90.0, 90.0);
  verb.add_option("--focal", a.focal, "Focal length in mm, if its file does not say").positive();
  verb.add_option("--sensor-width", a.sensor_width, "Sensor's longer side in mm").positive();
  verb.add_option("--sun-at", a.sun_at, "Sun or moon in the picture, in pixels: 3120x840").split('x', 2);
  verb.add_option("--known", a.known, "A column of the picture and the bearing it lies in: 1200x236.5")
      .split('x', 2);
  verb.add_flag("--save", a.save, "Put the picture and its skyline into the take");
  add_force(verb, a.force);
}

namespace {

/// The take with the place and the picture that were said.
take::Take take_under(const OverAsked& asked, const PlaceAsked& place,
                      const skyline::Photograph& photograph) {
  take::Take take = asked.take.empty() ? take::Take{} : take::load_take(asked.take);
  if (!take.place.known() || !place.latitude.empty() || !place.coordinates.empty())
    take.place = place_of(place);
  if (asked.variation != 0) take.light.variation_deg = asked.variation;
  forecast::OutlookSaid said{
      asked.focal, asked.sensor_width, asked.bearing, asked.compass, asked.tilt, asked.roll, {}, {}};
  if (!asked.sun_at.empty()) said.light = point_of(asked.sun_at, photograph.full);
  if (!asked.known.empty())
    said.known = std::pair{sky::FramePoint{asked.known[0] / photograph.full.width - 0.5, 0}, asked.known[1]};
  take.light.outlook = forecast::outlook_for(take, photograph, asked.picture, said);
  if (take.light.outlook.by == take::Outlook::By::Nothing && (asked.take.empty() || !take.light.knows_aim()))
    throw bad_input(
        fmt::format(
            "Where {} looks is not known: no sun or moon was found in it, and it has no compass bearing.",
            asked.picture),
        "Say --bearing 248, --compass 252 --variation -4, or --sun-at 3120x840.");
  take.light.horizon = skyline::traced(skyline::skyline_of(photograph.picture),
                                       forecast::view_of(take.light.outlook), take.light.horizon);
  return take;
}

/// When: as said, else the take's shoot with some hours to either side, else a day around the picture.
void set_time(skyline::Overlay& overlay, const OverAsked& asked, const take::Take& take,
              const skyline::Photograph& photograph) {
  const std::string& zone = take.place.zone;
  if (take.knows_start()) {
    overlay.from = later(take.start, -3 * 3600);
    overlay.to = later(take.start,
                       (take.solution().complete() ? std::min(take.sums().field_s, kMost_s) : 0) + 3 * 3600);
  } else if (photograph.info.captured) {
    overlay.from = at_wall_time(Day(std::chrono::floor<std::chrono::days>(*photograph.info.captured)),
                                std::chrono::hours(12), zone);
    overlay.to = later(overlay.from, 86400);
  } else if (asked.from.empty()) {
    throw bad_input(fmt::format("{} does not say when it was taken.", asked.picture), "Say --from and --to.");
  }
  if (!asked.from.empty())
    overlay.from = parse_instant(asked.from, zone), overlay.to = later(overlay.from, 86400);
  if (!asked.to.empty()) overlay.to = parse_instant(asked.to, zone);
  if (overlay.to <= overlay.from || seconds_between(overlay.from, overlay.to) > kMost_s)
    throw bad_input("From --from to --to must be more than zero and at most two days.",
                    "Write both as 2026-10-09T20:00.");
}

/// What goes behind the skyline within the picture; elsewhere nothing is known.
std::vector<sky::Behind> behind_skyline(const skyline::Overlay& overlay) {
  std::vector<sky::Behind> all;
  const auto ephemeris = sky::ephemeris_for(overlay.from, overlay.to);
  for (const sky::Body body : {sky::Body::Sun, sky::Body::Moon, sky::Body::Core})
    for (const sky::Behind& b :
         sky::behind(*ephemeris, body, overlay.place, overlay.horizon, overlay.from, overlay.to)) {
      const auto at = sky::project(b.where, overlay.view.aim, overlay.view.optics);
      if (at && sky::inside(*at, overlay.view.optics, true)) all.push_back(b);
    }
  std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.at < b.at; });
  return all;
}

Answer over_told(const skyline::Overlay& overlay, const take::Take& take, const std::string& output) {
  const skyline::View& view = overlay.view;
  const std::string& zone = take.place.zone;
  const auto by = take.light.outlook.by;
  Answer answer;
  answer.json = {{"picture", output},
                 {"bearing_deg", rounded(view.aim.bearing_deg, 2)},
                 {"tilt_deg", rounded(view.aim.tilt_deg, 2)},
                 {"roll_deg", rounded(view.aim.roll_deg, 2)},
                 {"known", forecast::known_words(by)},
                 {"focal_mm", rounded(view.optics.focal_mm, 2)},
                 {"across_deg", rounded(view.optics.across_deg(), 2)},
                 {"behind", behind_json(overlay.behind, zone)}};
  answer.json["horizon"] = Json::array();
  for (const sky::HorizonPoint& p : take.light.horizon)
    answer.json["horizon"].push_back(
        {{"bearing_deg", rounded(p.bearing_deg, 2)}, {"altitude_deg", rounded(p.altitude_deg, 2)}});
  answer.words = fmt::format("{}: its centre faces {}°, {}° up, {}; {}° across.\n", output,
                             format_number(view.aim.bearing_deg, 1), format_number(view.aim.tilt_deg, 1),
                             forecast::known_words(by), format_number(view.optics.across_deg(), 0));
  for (const sky::Behind& b : overlay.behind) answer.words += sky::behind_words(b, zone) + "\n";
  return answer;
}

}  // namespace

Answer over_answer(const OverAsked& asked, const PlaceAsked& place) {
  if (asked.output.empty()) throw bad_input("There is no output file.", "Add -o OUT.png.");
  if (asked.save && asked.take.empty())
    throw bad_input("--save needs the take it goes into.", "Add --take TAKE.");
  const Guard guard{{asked.picture, asked.take}, asked.force};
  check_output({asked.output, FileKind::Picture, guard});
  const skyline::Photograph photograph = skyline::read_photograph(asked.picture, kLongest);
  const take::Take take = take_under(asked, place, photograph);
  skyline::Overlay overlay;
  overlay.place = take.place;
  set_time(overlay, asked, take, photograph);
  overlay.view = forecast::view_of(take.light.outlook);
  overlay.horizon = take.light.horizon;
  if (!asked.take.empty() && take.light.knows_aim())
    overlay.frame = skyline::View{forecast::optics_of(take), take.light.move.from};
  overlay.behind = behind_skyline(overlay);
  skyline::draw_over(photograph, overlay, asked.output, guard);
  if (asked.save) {
    take::Edited edited(asked.take);
    edited.take.place = take.place;
    edited.take.light.variation_deg = take.light.variation_deg;
    edited.take.light.outlook = take.light.outlook;
    edited.take.light.horizon = take.light.horizon;
    edited.save();
  }
  return over_told(overlay, take, asked.output);
}

}  // namespace askcount::cli
