#include "take/along.h"

#include <fmt/format.h>
#include <libical/ical.h>
#include <png.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/files.h"
#include "base/units.h"
#include "print/sheet.h"
#include "sky/events.h"
#include "take/checklist.h"

namespace askcount::take {
namespace {

std::string clock_at(const Take& t, double seconds, bool with_seconds = false) {
  return format_clock(later(t.start, seconds), t.place.zone, with_seconds);
}

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

/// The sky's colour by the sun's altitude, for print.
std::array<int, 3> sky_colour(double altitude) {
  struct Stop {
    double altitude;
    std::array<int, 3> rgb;
  };
  static constexpr Stop stops[] = {{-18, {27, 34, 63}},     {-9, {63, 68, 114}},  {-4, {139, 111, 140}},
                                   {-0.8, {208, 134, 108}}, {2, {232, 190, 134}}, {6, {211, 207, 184}},
                                   {14, {185, 212, 222}}};
  if (altitude <= stops[0].altitude) return stops[0].rgb;
  for (size_t i = 1; i < std::size(stops); ++i)
    if (altitude < stops[i].altitude) {
      const double t = (altitude - stops[i - 1].altitude) / (stops[i].altitude - stops[i - 1].altitude);
      std::array<int, 3> c{};
      for (size_t k = 0; k < 3; ++k)
        c[k] = static_cast<int>(stops[i - 1].rgb[k] + t * (stops[i].rgb[k] - stops[i - 1].rgb[k]));
      return c;
    }
  return stops[std::size(stops) - 1].rgb;
}

}  // namespace

void write_plan_sheet(const Take& t, const std::filesystem::path& file) {
  const plan::Sums s = t.sums();
  print::Sheet sheet(t.name);
  sheet.words(fmt::format("{}, {}. First shot {}, last shot ends {}.", t.place.name,
                          day_words(day_of(t.start, t.place.zone)), clock_at(t, 0, true),
                          clock_at(t, s.field_s, true)),
              12);
  sheet.heading("The count");
  sheet.words(fmt::format("Shoot {}, one every {}, shutter {}, for {}. The gap is {}.",
                          counted(plan::shots_of(s), "frame"), format_length(s.interval_s),
                          format_shutter(s.shutter_s), format_length(s.field_s), format_length(s.gap_s)),
              13);
  sheet.words(fmt::format("Film: {} at {}, {} times faster.", format_length(s.clip_s),
                          frame_rate_words(s.fps), format_number(s.speed_up, 0)));
  if (t.metered) {
    const plan::ExposureMatch m = plan::match_exposure(*t.metered, s.shutter_s, t.kit);
    std::string stack;
    for (const std::string& f : m.filters) stack += (stack.empty() ? "" : " + ") + f;
    sheet.words(fmt::format("Metered {}: {} and {}.", plan::metered_words(*t.metered),
                            stack.empty() ? "no filter" : stack, plan::metered_words(m.setting)));
  }
  sheet.heading("The timer: " + t.timer_model().name);
  for (const timer::ProgramLine& l : timer::program_lines(t.program(), s))
    sheet.row({{0, l.word}, {0.22, l.value}, {0.44, l.why}}, 11);
  sheet.heading("Light");
  const sky::DayEvents events = sky::events_of(day_of(t.start, t.place.zone), t.place);
  std::vector<std::pair<double, std::string>> cells;
  const std::pair<const char*, const char*> wanted[] = {
      {"golden_from", "golden from"}, {"sunset", "sun down"},          {"blue_to", "blue until"},
      {"astronomical_dusk", "dark"},  {"sunrise", "sun up"},           {"moonrise", "moon up"},
      {"moonset", "moon down"},       {"core_transit", "core highest"}};
  for (const auto& [key, words] : wanted) {
    const auto at = events[key];
    cells.push_back({0.25 * static_cast<double>(cells.size()),
                     fmt::format("{} {}", words, at ? format_clock(*at, t.place.zone) : "-")});
    if (cells.size() == 4) sheet.row(cells, 10.5), cells.clear();
  }
  sheet.words(fmt::format("Moon {} lit. Camera faces {}°, tilted {}°, {} mm.",
                          format_number(events.moon_lit * 100, 0) + " %",
                          format_number(t.light.move.from.bearing_deg, 0),
                          format_number(t.light.move.from.tilt_deg, 0), format_number(t.lens().focal_mm, 0)),
              10.5);
  sheet.heading("What runs out");
  for (const plan::Budget& b : plan::budgets_of(s, t.shot, t.kit, t.outing()))
    sheet.row({{0, b.name},
               {0.22, b.words},
               {0.6, b.ends_at_frame ? fmt::format("ends after {} at {}", format_count(*b.ends_at_frame),
                                                   clock_at(t, b.ends_after_s))
                                     : "lasts"}},
              10.5, b.ends_at_frame.has_value());
  for (const plan::Swap& w : plan::swaps_of(s, t.shot, t.kit, t.outing()))
    if (sheet.left() > 120)
      sheet.words(fmt::format("After frame {}, {}: {} {}.", format_count(w.at_frame), clock_at(t, w.after_s),
                              w.what, w.to.empty() ? "ends or starts again" : w.from + " for " + w.to),
                  10.5);
  sheet.heading("Care");
  for (const Finding& f : cautions(t)) sheet.words(f.title + ". " + f.text, 10);
  sheet.words("Local rules and licensed practice come before anything printed here.", 10);
  sheet.save(file);
}

void write_cue_card(const Take& t, const ramp::Ramp& r, const std::filesystem::path& file) {
  const plan::Sums s = t.sums();
  print::Sheet sheet("Cue card: " + t.name);
  if (r.chain.empty()) throw bad_input("There is no ramp to print.");
  sheet.words(fmt::format("Start {} with {}, {}, {}. One frame every {}.", clock_at(t, 0, true),
                          ramp::dial_words(ramp::Dial::Shutter, r.chain.front()),
                          ramp::dial_words(ramp::Dial::Aperture, r.chain.front()),
                          ramp::dial_words(ramp::Dial::Iso, r.chain.front()), format_length(s.interval_s)),
              12);
  sheet.space(4);
  sheet.rule();
  const double points = r.steps.size() > 34 ? 10 : r.steps.size() > 24 ? 12.5 : 15;
  // Many clicks stand in two columns, down and then across.
  const bool two = r.steps.size() > 40;
  const size_t rows = two ? (r.steps.size() + 1) / 2 : r.steps.size();
  const auto cells = [&](std::vector<std::pair<double, std::string>>& into, size_t k, double left,
                         double wide) {
    const ramp::RampStep& step = r.steps[k];
    into.push_back({left, clock_at(t, static_cast<double>(step.click.frame) * s.interval_s, true)});
    into.push_back({left + 0.22 * wide, format_count(step.click.frame + 1)});
    into.push_back({left + 0.36 * wide, ramp::dial_words(step.click.dial, step.before) + " to " +
                                            ramp::dial_words(step.click.dial, step.after)});
  };
  size_t shown = 0;
  for (size_t k = 0; k < rows && sheet.left() > points * 2; ++k) {
    std::vector<std::pair<double, std::string>> line;
    cells(line, k, 0, two ? 0.5 : 1);
    if (two && k + rows < r.steps.size()) cells(line, k + rows, 0.52, 0.48), ++shown;
    sheet.row(line, points, false);
    ++shown;
  }
  if (shown < r.steps.size())
    sheet.words(
        fmt::format("{} more changes do not fit on this page; the CSV has them all.", r.steps.size() - shown),
        10);
  sheet.save(file);
}

void write_timer_card(const Take& t, const std::filesystem::path& file) {
  const plan::Sums s = t.sums();
  print::Sheet sheet("Timer: " + t.timer_model().name);
  for (const timer::ProgramLine& l : timer::program_lines(t.program(), s)) {
    sheet.row({{0, l.word}, {0.4, l.value}}, 26, true);
    sheet.words(l.why, 10.5);
  }
  sheet.heading("Before you press start");
  for (const CheckItem& item : checklist_of(t))
    if (sheet.left() > 40) sheet.tick(item.what, 11);
  sheet.save(file);
}

std::string ramp_csv(const Take& t, const ramp::Ramp& r) {
  const plan::Sums s = t.sums();
  std::string csv = "time,frame,what,from,to,meter_after\n";
  for (const ramp::RampStep& step : r.steps)
    csv += fmt::format(
        "{},{},{},{},{},{:.2f}\n",
        format_iso(later(t.start, static_cast<double>(step.click.frame) * s.interval_s), t.place.zone),
        step.click.frame + 1, ramp::dial_word(step.click.dial),
        ramp::dial_words(step.click.dial, step.before), ramp::dial_words(step.click.dial, step.after),
        step.meter_after);
  return csv;
}

std::string calendar_text(const Take& t) {
  const plan::Sums s = t.sums();
  const std::string words =
      fmt::format("{} frames, one every {}, shutter {}.\nFirst shot {}, last shot ends {}.",
                  plan::shots_of(s), format_length(s.interval_s), format_shutter(s.shutter_s),
                  clock_at(t, 0, true), clock_at(t, s.field_s, true));
  const std::string uid =
      fmt::format("{:x}-{}@askcount", std::hash<std::string>{}(t.name), t.start.time_since_epoch().count());
  icalcomponent* event = icalcomponent_vanew(
      ICAL_VEVENT_COMPONENT, icalproperty_new_uid(uid.c_str()),
      icalproperty_new_dtstamp(
          ical_of(std::chrono::floor<std::chrono::milliseconds>(std::chrono::system_clock::now()))),
      icalproperty_new_dtstart(ical_of(t.start)), icalproperty_new_dtend(ical_of(later(t.start, s.field_s))),
      icalproperty_new_summary(t.name.c_str()), icalproperty_new_location(t.place.name.c_str()),
      icalproperty_new_description(words.c_str()), static_cast<void*>(nullptr));
  icalcomponent_add_component(
      event, alarm_before(86400, "Tomorrow: " + t.name + ". Charge batteries, empty cards."));
  icalcomponent_add_component(event, alarm_before(5400, "Set out for " + t.name + "."));
  icalcomponent_add_component(event, alarm_before(600, "Ten minutes to the first shot."));
  icalcomponent* calendar =
      icalcomponent_vanew(ICAL_VCALENDAR_COMPONENT, icalproperty_new_version("2.0"),
                          icalproperty_new_prodid("-//Ask Count//EN"), event, static_cast<void*>(nullptr));
  for (const plan::Swap& w : plan::swaps_of(s, t.shot, t.kit, t.outing())) {
    if (icalcomponent_count_components(calendar, ICAL_VEVENT_COMPONENT) > 20) break;
    const Instant at = later(t.start, w.after_s);
    const std::string what = w.what == "timer" ? "Start the timer again"
                                               : fmt::format("Change the {}: {} for {}", w.what, w.from,
                                                             w.to.empty() ? "none is left" : w.to);
    icalcomponent* change = icalcomponent_vanew(
        ICAL_VEVENT_COMPONENT, icalproperty_new_uid(fmt::format("{}-{}", w.at_frame, uid).c_str()),
        icalproperty_new_dtstamp(ical_of(t.start)), icalproperty_new_dtstart(ical_of(at)),
        icalproperty_new_dtend(ical_of(at + std::chrono::minutes(1))), icalproperty_new_summary(what.c_str()),
        static_cast<void*>(nullptr));
    icalcomponent_add_component(change, alarm_before(120, what));
    icalcomponent_add_component(calendar, change);
  }
  char* text = icalcomponent_as_ical_string_r(calendar);
  const std::string out = text;
  icalmemory_free_buffer(text);
  icalcomponent_free(calendar);
  return out;
}

void write_calendar(const Take& take, const std::filesystem::path& file) {
  write_file_atomically(file, calendar_text(take));
}

void write_light_strip(const Take& t, int width, const std::filesystem::path& file) {
  constexpr int kHigh = 240;
  if (width < 200 || width > 8000)
    throw bad_input(fmt::format("A picture {} pixels wide cannot be made.", width), "Use 200 to 8,000.");
  const Day day = day_of(t.start, t.place.zone);
  // From noon to noon, so that the night is whole.
  const Instant a = day_start(day, t.place.zone) + std::chrono::hours(12), b = a + std::chrono::hours(24);
  const std::vector<double> ev = ramp::light_along(t.light.source, t.place, a, 86400.0 / (width - 1), width);
  const auto kept = sky::ephemeris_for(a, b);
  std::vector<std::uint8_t> rgb(static_cast<size_t>(width) * kHigh * 3);
  const auto put = [&](int x, int y, const std::array<int, 3>& c) {
    if (x < 0 || y < 0 || x >= width || y >= kHigh) return;
    for (size_t k = 0; k < 3; ++k)
      rgb[(static_cast<size_t>(y) * width + x) * 3 + k] = static_cast<std::uint8_t>(c[k]);
  };
  const auto [low, high] = std::minmax_element(ev.begin(), ev.end());
  const auto y_of = [&](double e) {
    return static_cast<int>(kHigh - 24 - (e - *low) / std::max(0.1, *high - *low) * (kHigh - 60));
  };
  const double field = t.sums().field_s;
  for (int x = 0; x < width; ++x) {
    const Instant at = later(a, 86400.0 * x / (width - 1));
    const auto colour = sky_colour(kept->at(sky::Body::Sun, at, t.place).altitude_deg);
    for (int y = 0; y < kHigh; ++y) put(x, y, colour);
    if (at >= t.start && at <= later(t.start, field))
      for (int y = 0; y < 10; ++y) put(x, y, {0, 114, 124});
  }
  for (int hour = 0; hour <= 24; ++hour) {
    const int x = static_cast<int>(hour / 24.0 * (width - 1));
    for (int y = kHigh - (hour % 6 == 0 ? 18 : 9); y < kHigh; ++y) put(x, y, {255, 255, 255});
  }
  for (int x = 1; x < width; ++x)
    for (int y = std::min(y_of(ev[x - 1]), y_of(ev[x])) - 1; y <= std::max(y_of(ev[x - 1]), y_of(ev[x])) + 1;
         ++y)
      put(x, y, {255, 216, 77});
  png_image image{};
  image.version = PNG_IMAGE_VERSION;
  image.width = static_cast<png_uint_32>(width);
  image.height = kHigh;
  image.format = PNG_FORMAT_RGB;
  png_alloc_size_t size = 0;
  png_image_write_get_memory_size(image, size, 0, rgb.data(), 0, nullptr);
  std::string bytes(size, '\0');
  if (!png_image_write_to_memory(&image, bytes.data(), &size, 0, rgb.data(), 0, nullptr))
    throw failed(fmt::format("{} cannot be made: {}.", file.string(), image.message));
  bytes.resize(size);
  write_file_atomically(file, bytes);
}

}  // namespace askcount::take
