// SPDX-License-Identifier: GPL-3.0-or-later
// askcount ramp: how the exposure follows the light.
#include <fmt/format.h>

#include <algorithm>
#include <memory>

#include "advice/by_stage.h"
#include "base/error.h"
#include "base/files.h"
#include "base/units.h"
#include "forecast/exposure.h"
#include "forecast/light.h"
#include "ingest/gather.h"
#include "paper/cards.h"
#include "take_options.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct RampAsked {
  WhereAndWhenAsked where;
  SaveAsked save;
  std::string take, interval, field, frames, readings, csv, longest, exposures_of, light_csv;
  std::vector<std::string> filters;
  std::optional<sky::Cover> cover;
  std::vector<double> band;
  std::vector<ramp::Dial> order;
  std::optional<int> apart, apart_late;
  std::optional<double> town, night, widest, start_f, highest_iso, lowest_iso, turning;
};

take::Take take_of(const RampAsked& asked) {
  take::Take take = asked.take.empty() ? take::Take{} : take::load_take(asked.take);
  say(asked.where, take);
  if (!asked.interval.empty() || !asked.frames.empty() || !asked.field.empty()) {
    take.wishes.clear();
    take.wish(plan::Slot::Fps, 25);
    if (!asked.field.empty()) take.wish(plan::Slot::Field, parse_length(asked.field, "--field"));
    if (!asked.interval.empty()) take.wish(plan::Slot::Interval, parse_length(asked.interval, "--interval"));
    if (!asked.frames.empty())
      take.wish(plan::Slot::Frames, static_cast<double>(parse_count(asked.frames, "--frames")));
    take.light.rule.longest_shutter_s = 0;
    // As long as the interval leaves, where nothing says it.
    if (take.solution().complete())
      take.wish(plan::Slot::Shutter, std::max(1e-3, forecast::room_of(take) - take.light.turning_s));
    take.light.bare = true;  // that is how far the shutter may go, no wish for filters
  }
  take::LightPlan& l = take.light;
  if (asked.cover) l.source.cover = *asked.cover;
  if (asked.town) l.source.town_lux = *asked.town;
  if (!asked.readings.empty())
    l.source.readings = ramp::readings_of_csv(read_file(asked.readings), take.place.zone, asked.readings);
  if (!asked.exposures_of.empty())
    l.source.readings = forecast::readings_of(*ingest::gather(asked.exposures_of).frames, take.place.zone);
  if (asked.apart)
    l.rule.frames_apart = *asked.apart,
    l.rule.frames_apart_late = std::min(l.rule.frames_apart_late, *asked.apart);
  if (asked.apart_late) l.rule.frames_apart_late = *asked.apart_late;
  if (!asked.longest.empty()) {
    take.wish(plan::Slot::Shutter, parse_length(asked.longest, "--longest"));
    l.bare = l.filters.empty();
    l.rule.longest_shutter_s = 0;
  }
  if (asked.filters == std::vector<std::string>{"none"}) {
    l.filters.clear();
    l.bare = true;
  } else if (!asked.filters.empty()) {
    for (const std::string& name : asked.filters)
      if (std::none_of(take.kit.filters.begin(), take.kit.filters.end(),
                       [&](const plan::Filter& f) { return f.name == name; }))
        throw bad_input(fmt::format("There is no filter \"{}\" in the kit.", name),
                        "askcount kit lists them.");
    l.filters = asked.filters;
    l.bare = false;
  }
  if (asked.night) l.rule.night_stops = *asked.night;
  if (asked.widest) l.rule.widest_f = *asked.widest;
  if (asked.start_f) l.rule.start_f = *asked.start_f;
  if (asked.highest_iso) l.rule.highest_iso = *asked.highest_iso;
  if (asked.lowest_iso) l.rule.lowest_iso = *asked.lowest_iso;
  if (asked.turning) l.turning_s = *asked.turning, l.turning_takes = 0;
  if (!asked.band.empty()) {
    if (asked.band[1] < asked.band[0] + 2.0 / 3)
      throw bad_input("--band is not a band of at least two thirds of a stop.", "Write it like -1,0.");
    l.rule.low_stops = asked.band[0];
    l.rule.high_stops = asked.band[1];
  }
  if (!asked.order.empty()) {
    const std::vector<ramp::Dial>& o = asked.order;
    if (o[0] == o[1] || o[1] == o[2] || o[0] == o[2])
      throw bad_input("--order must name the three dials once each.",
                      "Write shutter,aperture,iso in the order you want.");
    std::copy(o.begin(), o.end(), l.rule.order.begin());
  }
  return take;
}

Answer ramp_verb(const RampAsked& asked) {
  check_save(asked.save);
  const take::Take take = take_of(asked);
  const plan::Sums sums = take.sums();
  forecast::light_of(take);  // says what is missing where it is not known
  const ramp::Ramp ramp = forecast::ramp_of(take);
  const forecast::ExposurePlan exposure = forecast::exposure_of(take, ramp);
  const plan::Schedule schedule = forecast::schedule_of(take);
  const auto time = [&](long long n) { return schedule.at(n); };
  Answer answer;
  Json clicks = Json::array();
  std::optional<Day> day;
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
    if (const Day now = day_of(time(s.click.frame), take.place.zone); day != now) {
      answer.words += day_words(now) + "\n";
      day = now;
    }
    answer.words += fmt::format("{}  frame {:>5}  {:8} {} to {}  meter {:+.1f}\n",
                                format_clock(time(s.click.frame), take.place.zone, true), s.click.frame + 1,
                                ramp::dial_word(s.click.dial), from, to, s.meter_after);
  }
  Json methods = Json::array();
  for (const ramp::MethodOutcome& o : forecast::methods_of(take))
    methods.push_back(
        {{"method", ramp::method_word(o.method)},
         {"works", o.works},
         {"first_clipped", o.first_clipped < 0 ? Json(nullptr) : Json(o.first_clipped + 1)},
         {"first_drowned", o.first_drowned < 0 ? Json(nullptr) : Json(o.first_drowned + 1)},
         {"shutter_outgrows_at", o.shutter_outgrows < 0 ? Json(nullptr) : Json(o.shutter_outgrows + 1)},
         {"flicker_stops", rounded(o.flicker_stops, 3)},
         {"longest_shutter_s", rounded(o.longest_s, 4)},
         {"text", o.text}});
  advice::Known known;
  known.ramp = &ramp;
  const Findings findings = advice::findings_on(advice::Stage::Light, take, known);
  answer.json = {
      {"clicks", clicks},
      {"start",
       {{"shutter", ramp::dial_words(ramp::Dial::Shutter, ramp.chain.front())},
        {"aperture", ramp::dial_words(ramp::Dial::Aperture, ramp.chain.front())},
        {"iso", ramp::dial_words(ramp::Dial::Iso, ramp.chain.front())}}},
      {"frames", ramp.chain.size()},
      {"feasible", ramp.feasible},
      {"follows_light", exposure.follows},
      {"filters", exposure.filters},
      {"filters_off_before_frame", exposure.filters_off ? Json(*exposure.filters_off + 1) : Json(nullptr)},
      {"worst_stops_per_frame", rounded(ramp.worst_stops_per_frame, 4)},
      {"worst_stops_per_minute", rounded(ramp.worst_stops_per_minute, 3)},
      {"longest_shutter_s", rounded(ramp.longest_s, 4)},
      {"longest_trail", rounded(ramp.longest_s / sums.interval_s, 3)},
      {"methods", methods},
      {"findings", to_json(findings)}};
  answer.words += fmt::format("Shutter {}{}{}.\n", forecast::shutter_words(exposure),
                              exposure.dials_known ? ", " + forecast::dials_words(exposure) : "",
                              exposure.estimated ? "; estimated, not metered: may be off by two stops" : "");
  if (exposure.filters_off)
    answer.words += fmt::format("{} comes off before frame {}, at {}.\n", forecast::filters_words(exposure),
                                *exposure.filters_off + 1,
                                format_clock(time(*exposure.filters_off), take.place.zone, true));
  answer.words += words_of(findings);
  const Guard guard{{asked.take, asked.readings}, asked.save.force};
  if (!asked.csv.empty())
    write_file_atomically({asked.csv, FileKind::Table, guard}, paper::ramp_csv(take, ramp));
  if (!asked.light_csv.empty())
    write_file_atomically({asked.light_csv, FileKind::Table, guard},
                          ramp::csv_of(forecast::curve_of(take, ramp), take.place.zone));
  save(asked.save, take, {asked.readings}, asked.take);
  return answer;
}

}  // namespace

void add_ramp(Command& app, Chosen& chosen) {
  const Verb verb =
      add_verb(app, chosen, "ramp", "Work out the clicks that follow the light, and compare the methods");
  const auto asked = std::make_shared<RampAsked>();
  verb.add_option("take", asked->take, "The take (.askcount); without one, these options alone");
  add_where_and_when(verb, asked->where);
  verb.add_option("--interval", asked->interval, "Start of one shot to the start of the next");
  verb.add_option("--frames", asked->frames, "How many");
  verb.add_option("--field", asked->field, "Time in the field, instead of frames");
  add_cover(verb, asked->cover);
  verb.add_option("--town", asked->town, "Light of a town, in lux").between(0.0, 1e5);
  verb.add_option("--readings", asked->readings, "Meter readings instead of the model (CSV: time,ev100)");
  verb.add_option("--frames-apart", asked->apart, "Least number of frames between two clicks")
      .between(1, 1000);
  verb.add_option("--frames-apart-late", asked->apart_late, "The same once the meter has left its band")
      .between(1, 1000);
  verb.add_option("--band", asked->band, "Where the meter is kept, in stops: -1,0").split(',', 2);
  verb.add_option("--longest", asked->longest, "Longest shutter");
  verb.add_option("--filter", asked->filters,
                  "Filter on at the start, taken off when the light calls for it, or none (may be repeated)");
  verb.add_option("--night", asked->night, "How many stops darker than by day a night may look (2)")
      .between(0.0, 6.0);
  verb.add_option("--turning", asked->turning, "Seconds kept free for the hand at the dials")
      .between(0.0, 600.0);
  verb.add_option("--widest", asked->widest, "Widest aperture").between(0.5, 64.0);
  verb.add_option("--start-f", asked->start_f, "Aperture to start with").between(0.5, 128.0);
  verb.add_option("--lowest-iso", asked->lowest_iso, "Lowest ISO").between(1.0, 1e6);
  verb.add_option("--highest-iso", asked->highest_iso, "Highest ISO").between(1.0, 1e7);
  verb.add_choices(
          "--order", asked->order,
          {{"shutter", ramp::Dial::Shutter}, {"aperture", ramp::Dial::Aperture}, {"iso", ramp::Dial::Iso}},
          "Which dial first: shutter,aperture,iso")
      .split(',', 3);
  verb.add_option("--exposures-of", asked->exposures_of,
                  "The exposures recorded in an earlier take's frames instead of the model (a folder)");
  verb.add_option("--light-csv", asked->light_csv, "Write the light's curve to this CSV file");
  verb.add_option("--csv", asked->csv, "Write the clicks to this CSV file");
  add_save(verb, asked->save);
  verb.callback([&chosen, asked] { chosen.run = [asked] { return ramp_verb(*asked); }; });
}

}  // namespace askcount::cli
