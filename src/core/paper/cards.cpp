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
  const forecast::ExposurePlan exposure = forecast::exposure_of(t);
  const std::string when =
      t.knows_start() ? say("{}. First shot {}, last shot ends {}.", day_words(day_of(t.start, t.place.zone)),
                            clock_at(t, 0, true), clock_at(t, s.field_s, true))
                      : say("Day and time are not set yet; it takes {}.", format_length(exposure.field_s));
  sheet.words(t.place.known() ? t.place.name + ", " + when : when, 12);
  sheet.heading(say("The count"));
  sheet.words(say("Shoot {}, one every {}, shutter {}, for {}. The gap is {}{}.",
                  counted(plan::shots_of(s), "{} frame", "{} frames"), format_length(s.interval_s),
                  forecast::shutter_words(exposure), format_length(exposure.field_s),
                  exposure.follows ? say("at least ") : "", format_length(exposure.gap_s)),
              13);
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
  for (const timer::ProgramLine& l : timer::program_lines(forecast::program_of(t, exposure)))
    sheet.row({{0, l.word}, {0.22, l.value}, {0.44, l.why}}, 11);
  if (t.knows_sky()) add_light(sheet, t);
  sheet.heading(t.knows_kit() ? say("What runs out") : say("What runs out, by an example kit"));
  for (const plan::Budget& b : forecast::budgets_of(t, s))
    sheet.row({{0, say(b.name)},
               {0.22, b.words},
               {0.6, b.ends_at_frame ? say("ends after {} at {}", format_count(*b.ends_at_frame),
                                           clock_at(t, b.ends_after_s))
                                     : say("lasts")}},
              10.5, b.ends_at_frame.has_value());
  for (const plan::Swap& w : forecast::swaps_of(t, s))
    if (sheet.left() > 120)
      sheet.words(say("After frame {}, {}: {} {}.", format_count(w.at_frame), clock_at(t, w.after_s), w.what,
                      w.to.empty() ? say("ends or starts again") : w.from + say(" for ") + w.to),
                  10.5);
  sheet.heading(say("Care"));
  for (const Finding& f : advice::cautions(t)) sheet.words(f.title + ". " + f.text, 10);
  sheet.words("Local rules and licensed practice come before anything printed here.", 10);
  sheet.save(file, guard);
}

void write_cue_card(const Take& t, const ramp::Ramp& r, const std::filesystem::path& file,
                    const Guard& guard) {
  const plan::Sums s = t.sums();
  paper::Sheet sheet(say("Cue card: ") + t.name);
  if (r.ev.empty())
    throw bad_input(say("There is no ramp to print: place and time are not set."),
                    say("Set place, date and time."));
  sheet.words(say("Start {} with {}, {}, {}. One frame every {}.", clock_at(t, 0, true),
                  ramp::dial_words(ramp::Dial::Shutter, r.chain.front()),
                  ramp::dial_words(ramp::Dial::Aperture, r.chain.front()),
                  ramp::dial_words(ramp::Dial::Iso, r.chain.front()), format_length(s.interval_s)),
              12);
  sheet.space(4);
  sheet.rule();
  // Many clicks stand in two columns, down and then across; either way as large as the page lets them be.
  const bool two = r.steps.size() > 40;
  const size_t rows = (two ? (r.steps.size() + 1) / 2 : r.steps.size()) + (r.filters_off ? 1 : 0);
  constexpr double kRow = 1.72;  // of the points, with what is left between
  const double points = std::clamp(sheet.left() / (static_cast<double>(std::max<size_t>(1, rows)) * kRow),
                                   9.0, two ? 13.0 : 23.0);
  const auto cells = [&](std::vector<std::pair<double, std::string>>& into, size_t k, double left,
                         double wide) {
    const ramp::RampStep& step = r.steps[k];
    into.push_back({left, clock_at(t, static_cast<double>(step.click.frame) * s.interval_s, true)});
    into.push_back({left + 0.22 * wide, format_count(step.click.frame + 1)});
    into.push_back({left + 0.36 * wide, ramp::dial_words(step.click.dial, step.before) + say(" to ") +
                                            ramp::dial_words(step.click.dial, step.after)});
  };
  size_t shown = 0;
  if (r.filters_off) {
    const auto at = static_cast<size_t>(*r.filters_off);
    sheet.row({{0, clock_at(t, static_cast<double>(at) * s.interval_s, true)},
               {0.22, format_count(*r.filters_off + 1)},
               {0.36, say("filter off, set ") + ramp::dial_words(ramp::Dial::Shutter, r.chain[at])}},
              points, true);
  }
  const size_t lines = rows - (r.filters_off ? 1 : 0);
  for (size_t k = 0; k < lines && sheet.left() > points * 1.6; ++k) {
    std::vector<std::pair<double, std::string>> line;
    cells(line, k, 0, two ? 0.5 : 1);
    if (two && k + lines < r.steps.size()) cells(line, k + lines, 0.52, 0.48), ++shown;
    sheet.row(line, points, false);
    ++shown;
  }
  if (shown < r.steps.size())
    sheet.words(say("{} more changes do not fit on this page; the CSV has them all.", r.steps.size() - shown),
                10);
  sheet.save(file, guard);
}

void write_timer_card(const Take& t, const std::filesystem::path& file, const Guard& guard) {
  paper::Sheet sheet(say("Timer: ") + t.timer_model().name);
  for (const timer::ProgramLine& l : timer::program_lines(forecast::program_of(t))) {
    sheet.row({{0, l.word}, {0.4, l.value}}, 26, true);
    sheet.words(l.why, 10.5);
  }
  sheet.heading(say("Before you press start"));
  for (const advice::CheckItem& item : advice::checklist_of(t))
    if (sheet.left() > 40) sheet.tick(item.what, 11);
  sheet.save(file, guard);
}

std::string ramp_csv(const Take& t, const ramp::Ramp& r) {
  const plan::Sums s = t.sums();
  std::string csv = csv_row({"time", "frame", "what", "from", "to", "meter_after"});
  for (const ramp::RampStep& step : r.steps) {
    const Instant at = later(t.start, static_cast<double>(step.click.frame) * s.interval_s);
    csv += csv_row({format_iso(at, t.place.zone), std::to_string(step.click.frame + 1),
                    ramp::dial_word(step.click.dial), ramp::dial_words(step.click.dial, step.before),
                    ramp::dial_words(step.click.dial, step.after), fmt::format("{:.2f}", step.meter_after)});
  }
  return csv;
}

}  // namespace askcount::paper
