#include "advice/checklist.h"

#include <fmt/format.h>

#include <algorithm>
#include <numeric>
#include <optional>

#include "advice/light_advice.h"
#include "base/dials.h"
#include "base/units.h"
#include "orders/light.h"
#include "orders/shoot.h"
#include "plan/subject.h"

namespace askcount::advice {
namespace {

/// What the rows below ask about a take.
struct Asked {
  const take::Take& take;
  std::optional<plan::Sums> sums;
  orders::ExposurePlan exposure;
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
  bool by_priority() const { return take.light.school == ramp::School::AperturePriority; }
  /// Long enough that nobody stays with it all the time.
  bool left_alone() const { return sums && static_cast<double>(plan::shots_of(*sums)) * interval_s > 7200; }
  double wind_m_s() const { return take.light.weather.wind_m_s; }
};

Asked asked(const take::Take& t) {
  Asked a{t, {}, {}, {}, 0, 0, {}, false, false};
  if (t.solution().complete()) a.sums = t.sums();
  if (a.sums) {
    a.exposure = orders::exposure_of(t);
    a.program = orders::program_of(t, a.exposure);
    a.interval_s = a.sums->interval_s;
    a.shutter_s = a.exposure.longest_s;
    a.filters = orders::filters_words(a.exposure);
  }
  a.stars = t.light.subject == sky::Body::Core || a.about(&plan::SubjectKind::points_of_light) ||
            a.about(&plan::SubjectKind::trails);
  a.close = t.focus.magnification > 0;
  return a;
}

std::string mode(const Asked& a) {
  if (a.by_priority()) return "Aperture priority, ISO limits set";
  if (a.bulb()) return "Manual exposure, shutter on bulb";
  if (!a.sums) return "Manual exposure, shutter as planned";
  std::string words = "Manual exposure, shutter " + dial_shutter_words(a.exposure.first.shutter_s);
  if (a.exposure.dials_known)
    words += fmt::format(", {}, {}", ramp::dial_words(ramp::Dial::Aperture, a.exposure.first),
                         ramp::dial_words(ramp::Dial::Iso, a.exposure.first));
  return words + (a.exposure.follows ? ", to begin with" : "");
}
std::string mode_why(const Asked& a) {
  if (a.by_priority()) return "The school you chose: it flickers, and Level removes that.";
  if (a.exposure.follows)
    return fmt::format("Your hand follows the light, to {}.", dial_shutter_words(a.exposure.longest_s));
  return a.bulb() ? "The timer holds the shutter; any other setting would count instead."
                  : "Automatic exposure jumps from frame to frame.";
}
std::string focus(const Asked& a) {
  if (a.close) return "Focus on the front of the subject by the magnified screen";
  return a.stars ? "Focus on a bright star by the magnified screen" : "Focus on what matters";
}
std::string shape(const Asked& a) {
  const image::Size film = a.take.film.size;
  const int common = std::max(1, std::gcd(film.width, film.height));
  const plan::Body& body = a.take.body();
  const int own = std::max(1, std::gcd(body.pixels_across, body.pixels_down));
  const std::string shape = a.take.knows_kit() && body.pixels_across / own < 50
                                ? fmt::format("{}:{}", body.pixels_across / own, body.pixels_down / own)
                                : std::string("as the sensor has it");
  return fmt::format("Picture shape {}, frame with room for the film ({}:{})", shape, film.width / common,
                     film.height / common);
}
std::string files(const Asked& a) {
  if (a.take.shot.raw && a.take.shot.compressed) return "Raw and compressed";
  return a.take.shot.raw ? "Raw" : "Compressed, finest";
}
std::string files_why(const Asked& a) {
  if (a.take.shot.raw && a.take.shot.compressed) return "Raw for the film, compressed to look at at once.";
  if (!a.take.shot.raw) return "Small and quick; what is clipped stays clipped.";
  if (!a.sums) return "Room for light that changes.";
  const double gb =
      static_cast<double>(plan::shots_of(*a.sums)) * plan::shot_mb(a.take.shot, a.take.body()) / 1000;
  return fmt::format("Room for light that changes; {} GB in all.", format_number(gb, 1));
}
std::string dark_frames_why(const Asked& a) {
  if (!a.take.shot.dark_frames)
    return "Otherwise the camera is busy twice as long and loses shots. Some bright dots stay in warm "
           "nights.";
  return fmt::format("The camera is busy twice as long: the interval must exceed {}.",
                     format_length(orders::cycle_of(a.take, a.shutter_s).shortest_interval_s(), 1));
}
std::string power(const Asked& a) {
  if (a.take.external_power) return "Outside power, dry and strain-free";
  const size_t n = a.take.kit.batteries.size();
  return fmt::format("Fresh battery in, {} in a warm pocket",
                     n > 1 ? fmt::format("{} more", n - 1) : "no spare");
}

/// Words that are always the same, or that depend on the take.
struct Text {
  Text(const char* words) : always(words) {}
  Text(std::string (*words)(const Asked&)) : told(words) {}
  template <typename Lambda>
  Text(Lambda words) : told(+words) {}
  const char* always = nullptr;
  std::string (*told)(const Asked&) = nullptr;
  std::string operator()(const Asked& a) const { return told ? told(a) : always; }
};

using When = bool (*)(const Asked&);
constexpr When kAlways = [](const Asked&) { return true; };

struct Row {
  const char *code, *group;
  When when;
  Text what, why;
};

/// What hands do before the cautions, in their order.
const Row kRows[] = {
    {"tripod", "Rig", kAlways,
     [](const Asked& a) -> std::string {
       return a.wind_m_s() > 8 ? "Tripod low and wide, in the lee"
                               : "Tripod on firm ground, centre column down, legs locked";
     },
     "A millimetre of sinking is a jump in every later frame."},
    {"strap", "Rig", kAlways, "Strap off, cables taped to a leg",
     "They swing in the wind and shake the camera."},
    {"weight", "Rig", [](const Asked& a) { return a.wind_m_s() > 5; },
     "Weight hung on the tripod, touching the ground", "A hanging weight swings; one that touches damps."},
    {"hood", "Rig", kAlways, "Hood on, glass clean", "Stray light and drops are in every frame."},
    {"filter", "Rig", [](const Asked& a) { return !a.filters.empty(); },
     [](const Asked& a) {
       return "After focusing, put on " + a.filters + (a.stars ? "" : ", and cover the finder");
     },
     "Through a dark filter the camera cannot focus, and light through the finder spoils long exposures."},
    {"heater", "Rig",
     [](const Asked& a) {
       return a.take.light.weather.humidity.has_value() || a.take.light.weather.dew_point_c.has_value() ||
              a.about(&plan::SubjectKind::at_night) || is_night(a.take);
     },
     "Lens heater on, or a warm sock round the lens",
     "Dew creeps in so slowly that nobody sees it until home."},
    {"head", "Rig", [](const Asked& a) { return a.take.light.head_moves(); },
     "Moving head: start and end tried, cable long enough", "A cable that pulls at half way ends the take."},

    {"mode", "Camera", kAlways, mode, mode_why},
    {"focus", "Camera", kAlways, focus,
     [](const Asked& a) -> std::string {
       return a.stars ? "The infinity mark is not infinity."
                      : "Where nothing can be reckoned, a third into the scene.";
     }},
    {"focus_manual", "Camera", kAlways, "Then focus to manual, ring taped",
     "Automatic focus hunts in the dark and takes shots with it."},
    {"stabiliser", "Camera", kAlways, "Stabilisation off", "On a tripod it drifts."},
    {"white_balance", "Camera", kAlways, "White balance fixed",
     "Automatic white balance changes colour from frame to frame."},
    {"shape", "Camera", kAlways, shape, "The film is cut from the middle; nothing is squashed."},
    {"files", "Camera", kAlways, files, files_why},
    {"drive", "Camera", kAlways, "Drive on single shots", "On a burst one long press makes many."},
    {"smoothing", "Camera", kAlways, "Exposure smoothing, shading and lens corrections off, or fixed",
     "What the camera evens out by itself it does in steps, from frame to frame."},
    {"silent", "Camera",
     [](const Asked& a) {
       return a.take.lamp || a.about(&plan::SubjectKind::by_traffic) || a.about(&plan::SubjectKind::at_night);
     },
     "Mechanical shutter under lamps", "A silent one draws bands under lamps that flicker."},
    {"manual_lens", "Camera", kAlways,
     "A lens without contacts: aperture set by its ring, and named in the camera",
     "Where contacts are, turn the lens a little until they part: its aperture then never moves between "
     "frames."},
    {"custom_mode", "Camera", kAlways, "All of it saved as a custom mode",
     "A battery change can forget what was set."},
    {"dark_frames", "Camera", [](const Asked& a) { return a.shutter_s >= 1 || a.take.shot.dark_frames; },
     [](const Asked& a) -> std::string {
       return a.take.shot.dark_frames ? "Long-exposure noise reduction on"
                                      : "Long-exposure noise reduction off";
     },
     dark_frames_why},
    {"brackets", "Camera", [](const Asked& a) { return a.take.shot.brackets > 1; },
     [](const Asked& a) {
       return fmt::format("Brackets: {} exposures, {} stops apart, on one press", a.take.shot.brackets,
                          format_number(a.take.shot.bracket_stops, 1));
     },
     "Otherwise the timer must press for each."},
    {"review", "Camera", kAlways, "Picture review, sounds, sleep and wireless off",
     "Each costs battery, light or time in every interval."},
    {"clock", "Camera", kAlways, "Camera's clock right to the second",
     "Frames are ordered by it, and the clicks are told by it."},

    {"cards", "Cards and power", kAlways, "Cards formatted in this camera",
     "Old frames on it cost room, and get in the way."},
    {"power", "Cards and power", kAlways, power, "Cold takes up to half of a battery."},
    {"timer_battery", "Cards and power",
     [](const Asked& a) { return a.take.timer_model().holds || a.counts_gap(); },
     "Fresh battery in the timer", "It runs out as silently as the camera's."},

    {"timer", "Before you start", kAlways,
     [](const Asked& a) {
       return fmt::format("Timer programmed and read back: it counts the {}",
                          a.counts_gap() ? "gap" : "interval");
     },
     "Interval and gap mixed up is the most common lost take."},
    {"test_frames", "Before you start", kAlways, "Ten test frames looked at, large",
     "Sharp? Level? Exposed a third under? Nothing in the frame?"},
    {"numbering", "Before you start", kAlways, "After the test frames: numbering reset",
     "The take then begins at 1, sorts by name, and does not roll over."},
    {"marker", "Before you start", kAlways, "A frame of your hand, then start",
     "The marker shows where the take begins."},
    {"stay", "Before you start", kAlways,
     [](const Asked& a) -> std::string {
       return a.interval_s > 60 ? "Stay until the third shot has fired"
                                : "Stay a few minutes: does it really fire?";
     },
     "Most takes that fail do so in the first minutes."},
};

/// Cautions that go with subject and place; they follow those of the light.
const Row kCare[] = {
    {"edges", "Care",
     [](const Asked& a) {
       return a.about(&plan::SubjectKind::by_water) || a.about({"quay", "pier", "harbour", "beach", "cliff",
                                                                "sea", "shore", "headland", "head", "river"});
     },
     "Off the edge, above the tide line",
     "Know where the edge is before it is dark, and what the tide does."},
    {"mains", "Care", [](const Asked& a) { return a.take.external_power; },
     "Mains outdoors only through a residual-current device, kept dry",
     "Have fixed wiring done by a licensed electrician."},
    {"vehicles", "Care", [](const Asked& a) { return a.about(&plan::SubjectKind::by_traffic); },
     "Clear of traffic and of people's way",
     "No gear on vehicles or roads without permission and a licensed fitter."},
    {"overhead", "Care",
     [](const Asked& a) { return a.about(&plan::SubjectKind::by_site) || a.about({"roof"}); },
     "Clamps overhead have a second, steel safety line",
     "Work at height follows the site's rules; ask who is in charge."},
    {"lamp", "Care", [](const Asked& a) { return a.take.lamp && !orders::flash_of(a.take); },
     "Lamp away from cloth and paper, cable taped", "It is hot for hours."},
    {"flash", "Care", [](const Asked& a) { return orders::flash_of(a.take) != nullptr; },
     "Flash on manual at a low power, not into eyes, windows or traffic",
     "By itself it gives every shot another light; a full flash may not be loaded again within the "
     "interval."},
    {"finder", "Care", [](const Asked& a) { return !a.stars && !a.close; },
     "Finder covered, lens capped while you wait in the sun",
     "The sun through a lens burns finder eyes, shutters and sensors; a filter or the electronic shutter "
     "spares them."},
    {"rain", "Care", [](const Asked& a) { return a.left_alone(); }, "A rain cover within reach",
     "Weather comes in less time than a take."},
    {"animals", "Care", [](const Asked& a) { return a.left_alone(); },
     "Where no animal rubs, gnaws or builds",
     "Legs and cables are chewed at night; do not disturb who lives there."},
    {"secure", "Care", [](const Asked& a) { return a.left_alone(); },
     "Locked to something, and marked with a number to call", "Gear that stands alone is found."},
    {"land", "Care", kAlways, "Allowed to be there, and to photograph there",
     "Other people's land and faces: ask first. Local rules come before this list."},
};

/// What keeps a mistake from being made again.
struct Lesson {
  const char *code, *what, *came;
};
const Lesson kLessons[] = {
    {"dew", "Lens heater on before the first shot, not once glass is wet", "Dew came"},
    {"missed", "One rehearsal of the interval with these files: every press must be heard",
     "Presses were not heard"},
    {"missing", "One rehearsal of the interval with these files: every press must be heard",
     "Frames were missing"},
    {"late", "The interval tried for a minute: shutter, writing and hand must fit", "Shots came late"},
    {"click_late", "The next click's time in view, hand at the dial before it", "Clicks were made late"},
    {"bump", "Marks on the ground around the tripod; others kept outside of them", "The camera was bumped"},
    {"swing", "Strap off and cables taped down, once more", "The picture swung"},
    {"wind", "Lower, wider, in the lee; weight on the tripod touching the ground", "Wind shook the camera"},
    {"sinking", "A board or stones under the feet, pressed down a while before the first shot",
     "The tripod sank"},
    {"soft", "Focus by the magnified screen, then to manual, then the ring taped", "The focus moved"},
    {"hunting", "Lens switched to manual focus, tried with half a press", "The focus hunted"},
    {"visitor", "A cord or a sign where people walk by", "Something stood in the frame"},
    {"clipped", "First exposure a third darker than the meter says", "Bright parts were lost"},
    {"blank", "A look at the last frames before walking away", "Frames were blank"},
    {"dark", "A look at the last frames before walking away", "Frames were dark"},
    {"setting_changed", "Every dial and switch locked or taped after the last look",
     "A setting changed by itself"},
    {"truncated", "The card formatted in this camera, and copied from before", "Files were cut short"},
    {"unreadable", "The card formatted in this camera, and copied from before", "Files could not be read"},
    {"short", "Battery and card for all of it, and one more of each", "The take ended early"},
};

}  // namespace

std::optional<CheckItem> against(const std::string& code, long long takes) {
  for (const Lesson& l : kLessons)
    if (code == l.code)
      return CheckItem{"again_" + code, "Learnt", l.what,
                       fmt::format("{} in {} of yours", l.came, counted(takes, "take"))};
  return {};
}

std::vector<CheckItem> checklist_of(const take::Take& take) {
  const Asked a = asked(take);
  std::vector<CheckItem> list;
  const auto add = [&](const auto& rows) {
    for (const Row& row : rows)
      if (row.when(a)) list.push_back({row.code, row.group, row.what(a), row.why(a)});
  };
  for (const auto& [code, takes] : take.again)
    if (auto item = against(code, takes)) list.push_back(std::move(*item));
  add(kRows);
  for (const Finding& f : cautions(take)) list.push_back({f.code, "Care", f.title, f.text});
  add(kCare);
  return list;
}

}  // namespace askcount::advice
