// SPDX-License-Identifier: GPL-3.0-or-later
#include "paper/cards.h"
#include "paper/take_clock.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "advice/checklist.h"
#include "advice/light_advice.h"
#include "base/csv.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/forecast.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "paper/sheet.h"
#include "sky/events.h"

namespace askcount::paper {

using take::Take;

namespace {

/// " (252° by compass)" where a variation is said.
std::string by_compass(const Take& t) {
  if (t.light.variation_deg == 0) return {};
  return say(" ({}° by compass)",
             format_number(std::fmod(t.light.move.from.bearing_deg - t.light.variation_deg + 720, 360), 0));
}

void add_light(paper::Sheet& sheet, const Take& t) {
  sheet.heading(say("Light"));
  const sky::DayEvents events = sky::events_of(day_of(t.start, t.place.zone), t.place);
  std::vector<std::pair<double, std::string>> cells;
  const std::pair<const char*, const char*> wanted[] = {
      {"golden_from", to_say("golden from")}, {"sunset", to_say("sun down")},
      {"blue_to", to_say("blue until")},      {"astronomical_dusk", to_say("dark")},
      {"sunrise", to_say("sun up")},          {"moonrise", to_say("moon up")},
      {"moonset", to_say("moon down")},       {"core_transit", to_say("core highest")}};
  for (const auto& [key, words] : wanted) {
    const auto at = events[key];
    cells.push_back({0.25 * static_cast<double>(cells.size()),
                     fmt::format("{} {}", say(words), at ? format_clock(*at, t.place.zone) : "-")});
    if (cells.size() == 4) sheet.row(cells, 10.5), cells.clear();
  }
  sheet.words(
      say("Moon {} lit. Camera faces {}°{}, tilted {}°, {} mm.",
          format_number(events.moon_lit * 100, 0) + " %", format_number(t.light.move.from.bearing_deg, 0),
          by_compass(t), format_number(t.light.move.from.tilt_deg, 0), format_number(t.lens().focal_mm, 0)),
      10.5);
}

}  // namespace

void write_plan_sheet(const Take& t, const std::filesystem::path& file, const Guard& guard) {
  const plan::Sums s = t.sums();
  paper::Sheet sheet(t.name);
  const ramp::Ramp ramp = forecast::ramp_in_any_case(t);
  const forecast::ExposurePlan exposure = forecast::exposure_of(t, ramp);
  const forecast::Forecast f = forecast::forecast_of(t, ramp, exposure);
  const timer::Program program = forecast::program_of(t, exposure);
  const std::string when =
      t.knows_start() ? say("First shot {}, last shot ends {}.", moment_words(t, f.schedule.at_s(0)),
                            moment_words(t, f.schedule.at_s(0) + program.field_s()))
                      : say("Day and time are not set yet; it takes {}.", format_length(program.field_s()));
  sheet.words(t.place.known() ? t.place.name + ", " + when : when, 12);
  sheet.heading(say("The count"));
  sheet.words(
      say("Shoot {}, one every {}, shutter {}, for {}. The gap is {}.",
          counted(f.planned, "{} frame", "{} frames"), format_length(program.interval_s),
          forecast::shutter_words(exposure), format_length(program.field_s()), forecast::gap_words(exposure)),
      13);
  if (f.schedule.pauses())
    sheet.words(say("Shot {}, over {}: {} on each.", plan::work_words(t.work),
                    counted(static_cast<long long>(f.days.size()), "{} day", "{} days"),
                    counted(program.keyed_count(), "{} shot", "{} shots")));
  if (const std::string end = forecast::end_words(t, f); !end.empty()) sheet.words(end, 12);
  sheet.words(say("Film: {} at {}, {} times faster.", format_length(s.clip_s), frame_rate_words(s.fps),
                  format_number(s.speed_up, 0)));
  if (exposure.dials_known)
    sheet.words(fmt::format("{}: {}, {}{}.",
                            t.metered ? say("Metered ") + plan::metered_words(*t.metered)
                                      : std::string(say("Estimated, not metered: may be off by two stops")),
                            exposure.filters.empty() ? say("no filter") : forecast::filters_words(exposure),
                            forecast::dials_words(exposure),
                            exposure.filters_off
                                ? say("; the filter comes off before frame {}", *exposure.filters_off + 1)
                                : ""));
  sheet.heading(say("The timer: ") + t.timer_model().name);
  for (const timer::ProgramLine& l : timer::program_lines(program))
    sheet.row({{0, l.word}, {0.22, l.value}, {0.44, l.why}}, 11);
  if (t.knows_sky()) add_light(sheet, t);
  sheet.heading(t.knows_kit() ? say("What runs out") : say("What runs out, by an example kit"));
  for (const plan::Budget& b : forecast::budgets_of(t, s))
    sheet.row({{0, say(b.name)},
               {0.22, b.words},
               {0.6, b.ends_at_frame ? say("ends after {} at {}", format_count(*b.ends_at_frame),
                                           moment_words(t, b.ends_after_s))
                                     : say("lasts")}},
              10.5, b.ends_at_frame.has_value());
  for (const plan::Swap& w : forecast::swaps_of(t, s))
    sheet.words(say("After frame {}, {}: {} {}.", format_count(w.at_frame), moment_words(t, w.after_s),
                    w.what, w.to.empty() ? say("ends or starts again") : w.from + say(" for ") + w.to),
                10.5);
  sheet.heading(say("Care"));
  for (const Finding& f : advice::cautions(t)) sheet.words(f.title + ". " + f.text, 10);
  sheet.words("Local rules and licensed practice come before anything printed here.", 10);
  sheet.save(file, guard);
}

namespace {

/// One line of a cue card.
struct Cue {
  long long frame = 0;
  std::string words;
  bool strong = false;
};

std::string dials_words(const ramp::Exposure& e) {
  return ramp::dial_words(ramp::Dial::Shutter, e) + ", " + ramp::dial_words(ramp::Dial::Aperture, e) + ", " +
         ramp::dial_words(ramp::Dial::Iso, e);
}

/// Every click, and what is set all at once: when filters come off, and with every new day.
std::vector<Cue> cues_of(const Take& t, const ramp::Ramp& r, const plan::Schedule& schedule) {
  std::vector<Cue> list;
  for (const long long frame : forecast::refocus_at(t, forecast::exposure_of(t, r)))
    list.push_back({frame, say("focus on its front again"), true});
  const auto at = [&](long long frame) { return r.chain[static_cast<size_t>(frame)]; };
  if (r.filters_off)
    list.push_back({*r.filters_off, say("filter off, set ") + dials_words(at(*r.filters_off)), true});
  for (const long long frame : r.days)
    list.push_back(
        {frame,
         day_words(day_of(schedule.at(frame), t.place.zone)) + say(": begin with ") + dials_words(at(frame)),
         true});
  for (const ramp::RampStep& step : r.steps)
    list.push_back({step.click.frame,
                    ramp::dial_words(step.click.dial, step.before) + say(" to ") +
                        ramp::dial_words(step.click.dial, step.after),
                    false});
  std::stable_sort(list.begin(), list.end(), [](const Cue& a, const Cue& b) { return a.frame < b.frame; });
  return list;
}

}  // namespace

void write_cue_card(const Take& t, const ramp::Ramp& r, const std::filesystem::path& file,
                    const Guard& guard) {
  paper::Sheet sheet(say("Cue card: ") + t.name);
  if (r.ev.empty())
    throw bad_input(say("There is no ramp to print: place and time are not set."),
                    say("Set place, date and time."));
  const plan::Schedule schedule = forecast::schedule_of(t);
  sheet.words(say("Start {} with {}. One frame every {}.", clock_at(t, schedule.at_s(0), true),
                  dials_words(r.chain.front()), format_length(schedule.interval_s())),
              12);
  sheet.space(4);
  sheet.rule();
  const std::vector<Cue> cues = cues_of(t, r, schedule);
  const auto cells = [&](std::vector<std::pair<double, std::string>>& into, const Cue& cue, double left,
                         double wide) {
    into.push_back({left, clock_at(t, schedule.at_s(cue.frame), true)});
    into.push_back({left + 0.26 * wide, format_count(cue.frame + 1)});
    into.push_back({left + 0.40 * wide, cue.words});
  };
  // As large as one page lets them be; many stand in two columns, down and then across, on as many pages as
  // it takes.
  constexpr double kRow = 1.72;  // of the points, with what is left between
  constexpr double kLargest = 20, kSmall = 14, kTwo = 11;
  const double room = sheet.left();
  const double fits = room / (kRow * static_cast<double>(std::max<size_t>(1, cues.size())));
  if (fits >= kSmall || !r.days.empty()) {
    for (const Cue& cue : cues) {
      std::vector<std::pair<double, std::string>> line;
      cells(line, cue, 0, 1);
      sheet.row(line, std::clamp(fits, kSmall, kLargest), cue.strong);
    }
    return sheet.save(file, guard);
  }
  for (size_t from = 0; from < cues.size();) {
    const auto rows = std::max<size_t>(1, static_cast<size_t>(sheet.left() / (kTwo * kRow)));
    const size_t here = std::min(2 * rows, cues.size() - from), lines = (here + 1) / 2;
    for (size_t k = 0; k < lines; ++k) {
      std::vector<std::pair<double, std::string>> line;
      cells(line, cues[from + k], 0, 0.5);
      if (k + lines < here) cells(line, cues[from + k + lines], 0.51, 0.49);
      sheet.row(line, kTwo, cues[from + k].strong);
    }
    from += here;
    if (from < cues.size()) sheet.next_page();
  }
  sheet.save(file, guard);
}

void write_timer_card(const Take& t, const std::filesystem::path& file, const Guard& guard) {
  paper::Sheet sheet(say("Timer: ") + t.timer_model().name);
  for (const timer::ProgramLine& l : timer::program_lines(forecast::program_of(t))) {
    sheet.row({{0, l.word}, {0.4, l.value}}, 26, true);
    sheet.words(l.why, 10.5);
  }
  sheet.heading(say("Before you press start"));
  const std::vector<advice::CheckItem> items = advice::checklist_of(t);
  // On the same page, where that is still read by torch.
  constexpr double kLine = 1.75;
  const double points =
      std::clamp(sheet.left() / (kLine * static_cast<double>(std::max<size_t>(1, items.size()))), 8.5, 11.0);
  for (const advice::CheckItem& item : items) sheet.tick(item.what, points);
  sheet.save(file, guard);
}

std::string ramp_csv(const Take& t, const ramp::Ramp& r) {
  const plan::Schedule schedule = forecast::schedule_of(t);
  std::string csv = csv_row({"time", "frame", "what", "from", "to", "meter_after"});
  for (const ramp::RampStep& step : r.steps) {
    const Instant at = schedule.at(step.click.frame);
    csv += csv_row({format_iso(at, t.place.zone), std::to_string(step.click.frame + 1),
                    ramp::dial_word(step.click.dial), ramp::dial_words(step.click.dial, step.before),
                    ramp::dial_words(step.click.dial, step.after), fmt::format("{:.2f}", step.meter_after)});
  }
  return csv;
}

}  // namespace askcount::paper
