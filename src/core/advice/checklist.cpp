// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/checklist.h"

#include <fmt/format.h>

#include <algorithm>
#include <numeric>
#include <optional>

#include "advice/light_advice.h"
#include "base/dials.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/light.h"
#include "forecast/night.h"
#include "forecast/shoot.h"
#include "plan/subject.h"

namespace askcount::advice {
namespace {

/// What the rows below ask about a take.
struct Asked {
  const take::Take& take;
  std::optional<plan::Sums> sums;
  forecast::ExposurePlan exposure;
  timer::Program program;
  Seconds interval_s = 0, shutter_s = 0;
  std::string filters;  // to put on, joined by "+"
  bool stars = false, close = false;

  /// Whether the subject is of a kind.
  bool about(bool plan::SubjectKind::*trait) const { return plan::any_kind(take.subject, trait); }
  /// Whether subject or place have a word in them.
  bool about(std::initializer_list<const char*> words) const {
    return plan::has_word(take.subject, words) || plan::has_word(take.place.name, words);
  }
  bool bulb() const { return program.bulb || program.needs_holding; }
  bool counts_gap() const { return take.timer_model().counts == plan::Counts::Gap; }
  bool by_priority() const { return take.light.method == ramp::Method::AperturePriority; }
  /// Whether stills are kept; the camera's own movie mode keeps none.
  bool stills() const { return !program.movie; }
  /// Long enough that nobody stays with it all the time.
  bool left_alone() const { return sums && static_cast<double>(plan::shots_of(*sums)) * interval_s > 7200; }
  /// Whether it is shot under a roof, by its subject or its place.
  bool indoors() const {
    return take.lamp || about({"indoor", "room", "kitchen", "studio", "workshop", "desk", "sill",
                               "window sill", "bench", "crystal", "alum", "jar", "seedling"});
  }
  double wind_m_s() const { return take.light.weather.wind_m_s; }
};

Asked asked(const take::Take& t) {
  Asked a{t, {}, {}, {}, 0, 0, {}, false, false};
  if (t.solution().complete()) a.sums = t.sums();
  if (a.sums) {
    a.exposure = forecast::exposure_of(t);
    a.program = forecast::program_of(t, a.exposure);
    a.interval_s = a.sums->interval_s;
    a.shutter_s = a.exposure.longest_s;
    a.filters = forecast::filters_words(a.exposure);
  }
  a.stars = t.light.subject == sky::Body::Core || a.about(&plan::SubjectKind::points_of_light) ||
            a.about(&plan::SubjectKind::trails);
  a.close = t.focus.magnification > 0;
  return a;
}

std::string mode(const Asked& a) {
  if (a.by_priority()) return say("Aperture priority, ISO limits set");
  if (a.bulb()) return say("Manual exposure, shutter on bulb");
  if (!a.sums) return say("Manual exposure, shutter as planned");
  std::string words = say("Manual exposure, shutter ") + dial_shutter_words(a.exposure.first.shutter_s);
  if (a.exposure.dials_known)
    words += fmt::format(", {}, {}", ramp::dial_words(ramp::Dial::Aperture, a.exposure.first),
                         ramp::dial_words(ramp::Dial::Iso, a.exposure.first));
  return words + (a.exposure.follows ? say(", to begin with") : "");
}
std::string mode_why(const Asked& a) {
  if (a.by_priority()) return say("The method you chose: it flickers, and Level removes that.");
  if (a.exposure.follows)
    return say("Your hand follows the light, to {}.", dial_shutter_words(a.exposure.longest_s));
  return a.bulb() ? say("The timer holds the shutter; any other setting would count instead.")
                  : say("Automatic exposure jumps from frame to frame.");
}
std::string focus(const Asked& a) {
  if (a.close) return say("Focus on the front of the subject by the magnified screen");
  return a.stars ? say("Focus on a bright star by the magnified screen") : say("Focus on what matters");
}
std::string shape(const Asked& a) {
  const image::Size film = a.take.film.size;
  const int common = std::max(1, std::gcd(film.width, film.height));
  const plan::Body& body = a.take.body();
  const int own = std::max(1, std::gcd(body.pixels_across, body.pixels_down));
  const std::string shape = a.take.knows_kit() && body.pixels_across / own < 50
                                ? fmt::format("{}:{}", body.pixels_across / own, body.pixels_down / own)
                                : std::string(say("as the sensor has it"));
  return say("Picture shape {}, frame with room for the film ({}:{})", shape, film.width / common,
             film.height / common);
}
std::string files(const Asked& a) {
  if (a.program.movie) return say("Movie mode at {} fps, not stills", format_number(a.program.movie->fps, 2));
  if (a.take.shot.raw && a.take.shot.compressed) return say("Raw and compressed");
  return a.take.shot.raw ? say("Raw") : say("Compressed, finest");
}
std::string files_why(const Asked& a) {
  if (a.program.movie)
    return say(
        "Only the movie is kept, {} GB: what is clipped stays clipped.",
        format_number(
            static_cast<double>(a.program.movie->shots) * plan::movie_picture_mb(a.take.body()) / 1000, 1));
  if (a.take.shot.raw && a.take.shot.compressed)
    return say("Raw for the film, compressed to look at at once.");
  if (!a.take.shot.raw) return say("Small and quick; what is clipped stays clipped.");
  if (!a.sums) return say("Room for light that changes.");
  const double gb =
      static_cast<double>(plan::shots_of(*a.sums)) * plan::shot_mb(a.take.kept(), a.take.body()) / 1000;
  return say("Room for light that changes; {} GB in all.", format_number(gb, 1));
}
std::string dark_frames_why(const Asked& a) {
  if (!a.take.shot.dark_frames)
    return say(
        "Otherwise the camera is busy twice as long and loses shots. Some bright dots stay in warm "
        "nights.");
  return say("The camera is busy twice as long: the interval must exceed {}.",
             format_length(forecast::cycle_of(a.take, a.shutter_s).shortest_interval_s(), 1));
}
std::string power(const Asked& a) {
  if (a.take.external_power) return say("External power, kept dry and strain-free");
  const size_t n = a.take.kit.batteries.size();
  return say("Fresh battery in, {} in a warm pocket", n > 1 ? say("{} more", n - 1) : say("no spare"));
}

/// Words that are always the same, or that depend on the take.
struct Text {
  Text(const char* words) : always(words) {}
  Text(std::string (*words)(const Asked&)) : told(words) {}
  template <typename Lambda>
  Text(Lambda words) : told(+words) {}
  const char* always = nullptr;
  std::string (*told)(const Asked&) = nullptr;
  std::string operator()(const Asked& a) const { return told ? told(a) : say(always); }
};

using When = bool (*)(const Asked&);
constexpr When kAlways = [](const Asked&) { return true; };
constexpr When kStills = [](const Asked& a) { return a.stills(); };

struct Row {
  const char *code, *group;
  When when;
  Text what, why;
};

/// What hands do before the cautions, in their order.
const Row kRows[] = {
    {"tripod", to_say("Rig"), kAlways,
     [](const Asked& a) -> std::string {
       return a.wind_m_s() > 8 ? say("Tripod low and wide, in the lee")
                               : say("Tripod on firm ground, centre column down, legs locked");
     },
     to_say("A millimetre of sinking is a jump in every later frame.")},
    {"bank_button", to_say("Rig"),
     [](const Asked& a) {
       const auto& banks = a.take.kit.power_banks;
       return a.take.external_power &&
              std::any_of(banks.begin(), banks.end(), [](const plan::PowerBank& b) { return b.has_button; });
     },
     [](const Asked& a) {
       std::string names;
       for (const plan::PowerBank& b : a.take.kit.power_banks)
         if (b.has_button) names += (names.empty() ? "" : say(" and ")) + b.name;
       return say("Button of {} pressed, and the camera runs on it", names);
     },
     to_say("It gives nothing before that, and the camera runs down its own battery unseen.")},
    {"strap", to_say("Rig"), kAlways, to_say("Strap off, cables taped to a leg"),
     to_say("They swing in the wind and shake the camera.")},
    {"weight", to_say("Rig"), [](const Asked& a) { return a.wind_m_s() > 5; },
     to_say("Weight hung on the tripod, touching the ground"),
     to_say("A hanging weight swings; one that touches damps.")},
    {"hood", to_say("Rig"), kAlways, to_say("Hood on, glass clean"),
     to_say("Stray light and drops are in every frame.")},
    {"filter", to_say("Rig"), [](const Asked& a) { return !a.filters.empty(); },
     [](const Asked& a) {
       return say("After focusing, put on ") + a.filters + (a.stars ? "" : say(", and cover the finder"));
     },
     to_say("Through a dark filter the camera cannot focus, and light through the finder spoils long "
            "exposures.")},
    {"heater", to_say("Rig"), [](const Asked& a) { return forecast::needs_heater(a.take); },
     to_say("Lens heater on, or a warm sock round the lens"),
     to_say("Dew creeps in so slowly that nobody sees it until home.")},
    {"head", to_say("Rig"), [](const Asked& a) { return a.take.light.head_moves(); },
     to_say("Moving head: start and end tried, cable long enough"),
     to_say("A cable that pulls at half way ends the take.")},

    {"mode", to_say("Camera"), kAlways, mode, mode_why},
    {"focus", to_say("Camera"), kAlways, focus,
     [](const Asked& a) -> std::string {
       return a.stars ? say("The infinity mark is not infinity.")
                      : say("Where nothing can be worked out, a third into the scene.");
     }},
    {"focus_manual", to_say("Camera"), kAlways, to_say("Then focus to manual, ring taped"),
     to_say("Automatic focus hunts in the dark and takes shots with it.")},
    {"stabiliser", to_say("Camera"), kAlways, to_say("Stabilisation off"), to_say("On a tripod it drifts.")},
    {"white_balance", to_say("Camera"), kAlways, to_say("White balance fixed"),
     to_say("Automatic white balance changes colour from frame to frame.")},
    {"shape", to_say("Camera"), kAlways, shape,
     to_say("The film is cut from the middle; nothing is squashed.")},
    {"files", to_say("Camera"), kAlways, files, files_why},
    {"drive", to_say("Camera"), kStills, to_say("Drive mode on single shots"),
     to_say("In burst mode one long press makes many.")},
    {"smoothing", to_say("Camera"), kAlways,
     to_say("Exposure smoothing, shading and lens corrections off, or fixed"),
     to_say("What the camera evens out by itself it does in steps, from frame to frame.")},
    {"silent", to_say("Camera"),
     [](const Asked& a) {
       return a.take.lamp || a.about(&plan::SubjectKind::by_traffic) || a.about(&plan::SubjectKind::at_night);
     },
     to_say("Mechanical shutter under lamps"), to_say("A silent one draws bands under lamps that flicker.")},
    {"manual_lens", to_say("Camera"), kAlways,
     to_say("A lens without contacts: aperture set by its ring, and named in the camera"),
     to_say(
         "Where contacts are, turn the lens a little until they part: its aperture then never moves between "
         "frames.")},
    {"custom_mode", to_say("Camera"), kAlways, to_say("All of it saved as a custom mode"),
     to_say("A battery change can forget what was set.")},
    {"dark_frames", to_say("Camera"),
     [](const Asked& a) { return a.shutter_s >= 1 || a.take.shot.dark_frames; },
     [](const Asked& a) -> std::string {
       return a.take.shot.dark_frames ? say("Long-exposure noise reduction on")
                                      : say("Long-exposure noise reduction off");
     },
     dark_frames_why},
    {"brackets", to_say("Camera"), [](const Asked& a) { return a.stills() && a.take.shot.brackets > 1; },
     [](const Asked& a) {
       const std::string stops = format_number(a.take.shot.bracket_stops, 1);
       return a.program.presses > 1
                  ? say("Brackets: {} exposures, {} stops apart, a press for each", a.take.shot.brackets,
                        stops)
                  : say("Brackets: {} exposures, {} stops apart, on one press", a.take.shot.brackets, stops);
     },
     [](const Asked& a) {
       return a.program.presses > 1 ? say("The timer presses {} times at every turn.", a.program.each)
                                    : say("Otherwise the timer must press for each.");
     }},
    {"review", to_say("Camera"), kAlways, to_say("Picture review, sounds, sleep and wireless off"),
     to_say("Each costs battery, light or time in every interval.")},
    {"clock", to_say("Camera"), kAlways, to_say("Camera's clock right to the second"),
     to_say("Frames are ordered by it, and the clicks are told by it.")},

    {"cards", to_say("Cards and power"), kAlways, to_say("Cards formatted in this camera"),
     to_say("Old frames on it cost room, and get in the way.")},
    {"power", to_say("Cards and power"), kAlways, power, to_say("Cold takes up to half a battery's charge.")},
    {"timer_battery", to_say("Cards and power"),
     [](const Asked& a) { return a.take.timer_model().holds || a.counts_gap(); },
     to_say("Fresh battery in the timer"), to_say("It runs out as silently as the camera's.")},

    {"movie_tried", to_say("Before you start"), [](const Asked& a) { return !a.stills(); },
     to_say("A short movie tried and looked at"), to_say("Sharp? Level? Exposed a third under?")},
    {"timer", to_say("Before you start"), kAlways,
     [](const Asked& a) -> std::string {
       if (!a.stills()) return say("Movie menu set and read back");
       return say("Timer programmed and read back: it counts the {}",
                  a.counts_gap() ? say("gap") : say("interval"));
     },
     to_say("Interval and gap mixed up is the most common lost take.")},
    {"test_frames", to_say("Before you start"), kStills, to_say("Ten test frames looked at, large"),
     to_say("Sharp? Level? Exposed a third under? Nothing in the frame?")},
    {"numbering", to_say("Before you start"), kStills, to_say("After the test frames: numbering reset"),
     to_say("The take then begins at 1, sorts by name, and does not roll over.")},
    {"marker", to_say("Before you start"), kStills, to_say("A frame of your hand, then start"),
     to_say("The marker shows where the take begins.")},
    {"stay", to_say("Before you start"), kAlways,
     [](const Asked& a) -> std::string {
       return a.interval_s > 60 ? say("Stay until the third shot has fired")
                                : say("Stay a few minutes: does it really fire?");
     },
     to_say("Most takes that fail do so in the first minutes.")},
};

/// Cautions that go with subject and place; they follow those of the light.
const Row kCare[] = {
    {"edges", to_say("Care"),
     [](const Asked& a) {
       return a.about(&plan::SubjectKind::by_water) ||
              a.about({"quay", "pier",  "harbour", "beach", "cliff",   "sea",    "shore",      "headland",
                       "head", "river", "kai",     "hafen", "strand",  "klippe", "steilküste", "meer",
                       "ufer", "küste", "fluss",   "quai",  "jetée",   "port",   "plage",      "falaise",
                       "mer",  "rive",  "rivage",  "côte",  "rivière", "fleuve"});
     },
     to_say("Off the edge, above the tide line"),
     to_say("Know where the edge is before it is dark, and what the tide does.")},
    {"mains", to_say("Care"), [](const Asked& a) { return a.take.external_power; },
     to_say("Mains outdoors only through a residual-current device, kept dry"),
     to_say("Have fixed wiring done by a licensed electrician.")},
    {"vehicles", to_say("Care"), [](const Asked& a) { return a.about(&plan::SubjectKind::by_traffic); },
     to_say("Clear of traffic and of people's way"),
     to_say("No gear on vehicles or roads without permission and a licensed fitter.")},
    {"overhead", to_say("Care"),
     [](const Asked& a) {
       return a.about(&plan::SubjectKind::by_site) || a.about({"roof", "dach", "dächer", "toit"});
     },
     to_say("Clamps overhead have a second, steel safety line"),
     to_say("Work at height follows the site's rules; ask who is in charge.")},
    {"lamp", to_say("Care"), [](const Asked& a) { return a.take.lamp && !forecast::flash_of(a.take); },
     to_say("Lamp away from cloth and paper, cable taped"), to_say("It is hot for hours.")},
    {"flash", to_say("Care"), [](const Asked& a) { return forecast::flash_of(a.take) != nullptr; },
     to_say("Flash on manual at a low power, not into eyes, windows or traffic"),
     to_say("By itself it gives every shot another light; a full flash may not be loaded again within the "
            "interval.")},
    {"finder", to_say("Care"), [](const Asked& a) { return !a.stars && !a.close; },
     to_say("Finder covered, lens capped while you wait in the sun"),
     to_say("The sun through a lens burns eyes, shutters and sensors, an electronic shutter's too. Only a "
            "filter "
            "made for the sun is safe on it.")},
    {"rain", to_say("Care"), [](const Asked& a) { return a.left_alone() && !a.indoors(); },
     to_say("A rain cover within reach"), to_say("Weather can turn before a take ends.")},
    {"animals", to_say("Care"), [](const Asked& a) { return a.left_alone(); },
     to_say("Where no animal rubs, gnaws or builds"),
     to_say("Legs and cables are chewed at night; do not disturb who lives there.")},
    {"secure", to_say("Care"), [](const Asked& a) { return a.left_alone(); },
     to_say("Locked to something, and marked with a number to call"), to_say("Gear left alone gets found.")},
    {"land", to_say("Care"), kAlways, to_say("Allowed to be there, and to photograph there"),
     to_say("Other people's land and faces: ask first. Local rules come before this list.")},
};

/// What keeps a mistake from being made again.
struct Lesson {
  const char *code, *what, *came;
};
const Lesson kLessons[] = {
    {"dew", to_say("Lens heater on before the first shot, not once glass is wet"), to_say("Dew came")},
    {"missed", to_say("The interval tried with these files: no press may be missed"),
     to_say("Presses were missed")},
    {"missing", to_say("The interval tried with these files: no press may be missed"),
     to_say("Frames were missing")},
    {"late", to_say("The interval tried for a minute: shutter, writing and hand must fit"),
     to_say("Shots came late")},
    {"click_late", to_say("The next click's time in view, hand at the dial before it"),
     to_say("Clicks were made late")},
    {"bump", to_say("Marks on the ground around the tripod; others kept outside of them"),
     to_say("The camera was bumped")},
    {"swing", to_say("Strap off and cables taped down, once more"), to_say("The picture swung")},
    {"wind", to_say("Lower, wider, in the lee; weight on the tripod touching the ground"),
     to_say("Wind shook the camera")},
    {"sinking", to_say("A board or stones under the feet, pressed down a while before the first shot"),
     to_say("The tripod sank")},
    {"soft", to_say("Focus by the magnified screen, then to manual, then the ring taped"),
     to_say("The focus moved")},
    {"hunting", to_say("Lens switched to manual focus, tried with half a press"), to_say("The focus hunted")},
    {"visitor", to_say("A cord or a sign where people walk by"), to_say("Something stood in the frame")},
    {"clipped", to_say("First exposure a third darker than the meter says"),
     to_say("Bright parts were lost")},
    {"blank", to_say("A look at the last frames before walking away"), to_say("Frames were blank")},
    {"dark", to_say("A look at the last frames before walking away"), to_say("Frames were dark")},
    {"setting_changed", to_say("Every dial and switch locked or taped after the last look"),
     to_say("A setting changed by itself")},
    {"truncated", to_say("The card formatted in this camera, and copied from before"),
     to_say("Files were cut short")},
    {"unreadable", to_say("The card formatted in this camera, and copied from before"),
     to_say("Files could not be read")},
    {"short", to_say("Battery and card for all of it, and one more of each"), to_say("The take ended early")},
};

}  // namespace

std::optional<CheckItem> against(const std::string& code, long long takes) {
  for (const Lesson& l : kLessons)
    if (code == l.code)
      return CheckItem{"again_" + code, say("Learnt"), say(l.what),
                       say("{} in {} of yours", say(l.came), counted(takes, "{} take", "{} takes"))};
  return {};
}

std::vector<CheckItem> checklist_of(const take::Take& take) {
  const Asked a = asked(take);
  std::vector<CheckItem> list;
  const auto add = [&](const auto& rows) {
    for (const Row& row : rows)
      if (row.when(a)) list.push_back({row.code, say(row.group), row.what(a), row.why(a)});
  };
  for (const auto& [code, takes] : take.again)
    if (auto item = against(code, takes)) list.push_back(std::move(*item));
  add(kRows);
  for (const Finding& f : cautions(take)) list.push_back({f.code, say("Care"), f.title, f.text});
  add(kCare);
  return list;
}

}  // namespace askcount::advice
