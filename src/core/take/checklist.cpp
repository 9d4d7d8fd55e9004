#include "take/checklist.h"

#include <fmt/format.h>

#include <algorithm>
#include <numeric>

#include "base/units.h"

namespace askcount::take {

std::vector<CheckItem> checklist_of(const Take& t) {
  std::vector<CheckItem> list;
  const auto add = [&list](const char* code, const char* group, std::string what, std::string why) {
    list.push_back({code, group, std::move(what), std::move(why)});
  };
  const auto sums = t.solution().complete() ? std::optional(t.sums()) : std::nullopt;
  const double interval = sums ? sums->interval_s : 0, shutter = sums ? sums->shutter_s : 0;
  const plan::Timer& timer = t.timer_model();
  const bool stars = t.subject.find("star") != std::string::npos ||
                     t.subject.find("milky") != std::string::npos || t.light.subject == sky::Body::Core;
  const bool close = t.focus.magnification > 0;
  const auto has = [&](const char* word) {
    return t.subject.find(word) != std::string::npos || t.place.name.find(word) != std::string::npos;
  };

  add("tripod", "Rig",
      t.light.weather.wind_m_s > 8 ? "Tripod low and wide, in the lee"
                                   : "Tripod on firm ground, centre column down, legs locked",
      "A millimetre of sinking is a jump in every later frame.");
  add("strap", "Rig", "Strap off, cables taped to a leg", "They swing in the wind and shake the camera.");
  if (t.light.weather.wind_m_s > 5)
    add("weight", "Rig", "Weight hung on the tripod, touching the ground",
        "A hanging weight swings; one that touches damps.");
  add("hood", "Rig", "Hood on, glass clean", "Stray light and drops are in every frame.");
  if (t.metered && sums) {
    const plan::ExposureMatch m = plan::match_exposure(*t.metered, shutter, t.kit);
    std::string stack;
    for (const std::string& f : m.filters) stack += (stack.empty() ? "" : " + ") + f;
    if (!stack.empty())
      add("filter", "Rig", "After focusing, put on " + stack + (stars ? "" : ", and cover the finder"),
          "Through a dark filter the camera cannot focus, and light through the finder spoils long "
          "exposures.");
  }
  if (t.light.weather.humidity || t.light.weather.dew_point_c)
    add("heater", "Rig", "Lens heater on, or a warm sock round the lens",
        "Dew creeps in so slowly that nobody sees it until home.");
  if (t.light.head_moves())
    add("head", "Rig", "Moving head: start and end tried, cable long enough",
        "A cable that pulls at half way ends the take.");

  if (t.light.school == ramp::School::AperturePriority)
    add("mode", "Camera", "Aperture priority, ISO limits set",
        "The school you chose: it flickers, and Level removes that.");
  else
    add("mode", "Camera",
        timer.holds
            ? "Manual exposure, shutter on bulb"
            : fmt::format("Manual exposure, shutter {}", sums ? format_shutter(shutter) : "as planned"),
        timer.holds ? "The timer holds the shutter; any other setting would count instead."
                    : "Automatic exposure jumps from frame to frame.");
  add("focus", "Camera",
      close   ? "Focus on the front of the subject by the magnified screen"
      : stars ? "Focus on a bright star by the magnified screen"
              : "Focus on what matters",
      stars ? "The infinity mark is not infinity."
            : "Where nothing can be reckoned, a third into the scene.");
  add("focus_manual", "Camera", "Then focus to manual, ring taped",
      "Automatic focus hunts in the dark and takes shots with it.");
  add("stabiliser", "Camera", "Stabilisation off", "On a tripod it drifts.");
  add("white_balance", "Camera", "White balance fixed",
      "Automatic white balance changes colour from frame to frame.");
  add("shape", "Camera",
      fmt::format("Picture shape 3:2, frame with room for the film ({}:{})",
                  t.film.size.width / std::max(1, std::gcd(t.film.size.width, t.film.size.height)),
                  t.film.size.height / std::max(1, std::gcd(t.film.size.width, t.film.size.height))),
      "The film is cut from the middle; nothing is squashed.");
  if (t.shot.raw && t.shot.compressed)
    add("files", "Camera", "Raw and compressed", "Raw for the film, compressed to look at at once.");
  else if (t.shot.raw)
    add("files", "Camera", "Raw",
        fmt::format(
            "Room for light that changes; {} GB in all.",
            sums ? format_number(
                       static_cast<double>(plan::shots_of(*sums)) * plan::shot_mb(t.shot, t.body()) / 1000, 1)
                 : "some"));
  else
    add("files", "Camera", "Compressed, finest", "Small and quick; what is clipped stays clipped.");
  if (shutter >= 1 || t.shot.dark_frames)
    add("dark_frames", "Camera",
        t.shot.dark_frames ? "Long-exposure noise reduction on" : "Long-exposure noise reduction off",
        t.shot.dark_frames ? fmt::format("The camera is busy twice as long: the interval must exceed {}.",
                                         format_length(t.cycle(shutter).shortest_interval_s(), 1))
                           : "Otherwise the camera is busy twice as long and loses shots. Some bright dots "
                             "stay in warm nights.");
  if (t.shot.brackets > 1)
    add("brackets", "Camera",
        fmt::format("Brackets: {} exposures, {} stops apart, on one press", t.shot.brackets,
                    format_number(t.shot.bracket_stops, 1)),
        "Otherwise the timer must press for each.");
  add("review", "Camera", "Picture review, sounds, sleep and wireless off",
      "Each costs battery, light or time in every interval.");
  add("clock", "Camera", "Camera's clock right to the second",
      "Frames are ordered by it, and the clicks are told by it.");

  add("cards", "Cards and power", "Cards formatted in this camera, numbering reset",
      "File numbers then sort, and none rolls over.");
  add("power", "Cards and power",
      t.external_power
          ? "Outside power, dry and strain-free"
          : fmt::format("Fresh battery in, {} in a warm pocket",
                        t.kit.batteries.size() > 1 ? std::to_string(t.kit.batteries.size() - 1) + " more"
                                                   : std::string("no spare")),
      "Cold takes up to half of a battery.");
  if (timer.holds || timer.counts == plan::Counts::Gap)
    add("timer_battery", "Cards and power", "Fresh battery in the timer",
        "It runs out as silently as the camera's.");
  add("timer", "Before you start",
      fmt::format("Timer programmed and read back: it counts the {}",
                  timer.counts == plan::Counts::Interval ? "interval" : "gap"),
      "Interval and gap mixed up is the most common lost take.");
  add("test_frames", "Before you start", "Ten test frames looked at, large",
      "Sharp? Level? Exposed a third under? Nothing in the frame?");
  add("marker", "Before you start", "A frame of your hand, then start",
      "The marker shows where the take begins.");
  add("stay", "Before you start",
      interval > 60 ? "Stay until the third shot has fired" : "Stay a few minutes: does it really fire?",
      "Most takes that fail do so in the first minutes.");

  for (const Finding& f : cautions(t)) list.push_back({f.code, "Care", f.title, f.text});
  if (has("Quay") || has("tide") || has("boat") || has("Head") || has("sea"))
    add("edges", "Care", "Off the edge, above the tide line",
        "Know where the edge is before it is dark, and what the tide does.");
  if (t.external_power)
    add("mains", "Care", "Mains outdoors only through a residual-current device, kept dry",
        "Have fixed wiring done by a licensed electrician.");
  if (has("traffic") || has("road") || has("crowd"))
    add("vehicles", "Care", "Clear of traffic and of people's way",
        "No gear on vehicles or roads without permission and a licensed fitter.");
  if (has("building") || has("site") || has("roof"))
    add("overhead", "Care", "Clamps overhead have a second, steel safety line",
        "Work at height follows the site's rules; ask who is in charge.");
  if (t.lamp) add("lamp", "Care", "Lamp away from cloth and paper, cable taped", "It is hot for hours.");
  add("land", "Care", "Allowed to be there, and to photograph there",
      "Other people's land and faces: ask first. Local rules come before this list.");
  return list;
}

}  // namespace askcount::take
