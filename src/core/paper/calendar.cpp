// SPDX-License-Identifier: GPL-3.0-or-later
#include "paper/calendar.h"
#include "paper/take_clock.h"

#include <fmt/format.h>
#include <libical/ical.h>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/forecast.h"
#include "forecast/light.h"
#include "forecast/shoot.h"

namespace askcount::paper {

using take::Take;

namespace {

constexpr size_t kMostChanges = 200;

icaltimetype ical_of(Instant at) {
  return icaltime_from_timet_with_zone(
      static_cast<time_t>(std::chrono::floor<std::chrono::seconds>(at).time_since_epoch().count()), 0,
      icaltimezone_get_utc_timezone());
}

icalcomponent* alarm_before(int seconds, const std::string& words) {
  icaltriggertype trigger{};
  trigger.duration = icaldurationtype_from_int(-seconds);
  return icalcomponent_vanew(ICAL_VALARM_COMPONENT, icalproperty_new_action(ICAL_ACTION_DISPLAY),
                             icalproperty_new_trigger(trigger), icalproperty_new_description(words.c_str()),
                             static_cast<void*>(nullptr));
}

}  // namespace

std::string calendar_text(const Take& t) {
  const plan::Sums s = t.sums();
  if (!t.knows_start())
    throw bad_input(say("The take has no date yet, so it cannot go into a calendar."),
                    say("Set when the first shot is."));
  const ramp::Ramp ramp = forecast::ramp_in_any_case(t);
  const forecast::ExposurePlan exposure = forecast::exposure_of(t, ramp);
  const forecast::Forecast f = forecast::forecast_of(t, ramp, exposure);
  const timer::Program program = forecast::program_of(t, exposure);
  const std::string uid =
      fmt::format("{:x}-{}@askcount", std::hash<std::string>{}(t.name), t.start.time_since_epoch().count());
  icalcomponent* calendar =
      icalcomponent_vanew(ICAL_VCALENDAR_COMPONENT, icalproperty_new_version("2.0"),
                          icalproperty_new_prodid("-//Ask Count//EN"), static_cast<void*>(nullptr));
  // A take by hours of work is an event a day.
  const auto& parts = f.schedule.parts();
  for (size_t n = 0; n < parts.size(); ++n) {
    const Seconds from = parts[n].from_s,
                  until = from + static_cast<double>(parts[n].shots - 1) * f.schedule.interval_s() +
                          program.open_s;
    std::string words =
        say("{} frames, one every {}, shutter {}.\nFirst shot {}, last shot ends {}.", parts[n].shots,
            format_length(program.interval_s), forecast::shutter_words(exposure), clock_at(t, from, true),
            clock_at(t, until, true));
    std::string name = t.name;
    if (parts.size() > 1) {
      name = say("{}, day {} of {}", t.name, n + 1, parts.size());
      words += "\n" + say("Start the timer again at {}.", clock_at(t, from));
    }
    if (n == 0)
      if (const std::string end = forecast::end_words(t, f); !end.empty()) words += "\n" + end;
    icalcomponent* event = icalcomponent_vanew(
        ICAL_VEVENT_COMPONENT,
        icalproperty_new_uid(n == 0 ? uid.c_str() : fmt::format("d{}-{}", n + 1, uid).c_str()),
        icalproperty_new_dtstamp(ical_of(now())), icalproperty_new_dtstart(ical_of(later(t.start, from))),
        icalproperty_new_dtend(ical_of(later(t.start, until))), icalproperty_new_summary(name.c_str()),
        icalproperty_new_location(t.place.name.c_str()), icalproperty_new_description(words.c_str()),
        static_cast<void*>(nullptr));
    if (n == 0) {
      icalcomponent_add_component(
          event, alarm_before(86400, say("Tomorrow: ") + t.name + say(". Charge batteries, empty cards.")));
      icalcomponent_add_component(event, alarm_before(5400, say("Set out for ") + t.name + "."));
    }
    icalcomponent_add_component(event, alarm_before(600, say("Ten minutes to the first shot.")));
    icalcomponent_add_component(calendar, event);
  }
  size_t changes = 0;
  const auto to_do = [&](Seconds at_s, const std::string& what, const std::string& key) {
    const Instant at = later(t.start, at_s);
    icalcomponent* change = icalcomponent_vanew(
        ICAL_VEVENT_COMPONENT, icalproperty_new_uid(fmt::format("{}-{}", key, uid).c_str()),
        icalproperty_new_dtstamp(ical_of(t.start)), icalproperty_new_dtstart(ical_of(at)),
        icalproperty_new_dtend(ical_of(at + std::chrono::minutes(1))), icalproperty_new_summary(what.c_str()),
        static_cast<void*>(nullptr));
    icalcomponent_add_component(change, alarm_before(120, what));
    icalcomponent_add_component(calendar, change);
  };
  for (const long long frame : forecast::refocus_at(t, exposure))
    if (++changes <= kMostChanges)
      to_do(f.schedule.at_s(frame), say("Focus on its front again, before frame {}", format_count(frame + 1)),
            fmt::format("f{}", frame));
  for (const plan::Swap& w : forecast::swaps_of(t, s)) {
    if (++changes > kMostChanges) break;
    to_do(w.after_s,
          w.what == "timer"
              ? std::string(say("Start the timer again"))
              : say("Change the {}: {} for {}", w.what, w.from, w.to.empty() ? say("none is left") : w.to),
          std::to_string(w.at_frame));
  }
  char* text = icalcomponent_as_ical_string_r(calendar);
  std::string out = text;
  icalmemory_free_buffer(text);
  icalcomponent_free(calendar);
  return out;
}

void write_calendar(const Take& take, const std::filesystem::path& file, const Guard& guard) {
  write_file_atomically({file, FileKind::Calendar, guard}, calendar_text(take));
}

}  // namespace askcount::paper
