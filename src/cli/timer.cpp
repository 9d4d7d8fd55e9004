// SPDX-License-Identifier: GPL-3.0-or-later
// askcount timers, program and check-program: what a timer is told, and what it would make of it.
#include <fmt/format.h>

#include <memory>

#include "advice/by_stage.h"
#include "advice/checklist.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "take/take.h"
#include "take_options.h"
#include "timer/keyed.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct TimerOptions {
  WhereAndWhenAsked where;
  SaveAsked save;
  std::string take, timer, kit, start_by, delay, hold, interval, gap, count, shutter;
  std::optional<int> each;
  bool endless = false, sound = false, press_on_bulb = false;
};

const std::vector<plan::Timer>& timers_of(const TimerOptions& asked, take::Take& take) {
  if (!asked.kit.empty()) take.kit = plan::load_kit(asked.kit);
  return plan::timers_of(take.kit);
}

Json timer_json(const plan::Timer& t) {
  return {{"name", t.name},
          {"counts", t.counts == plan::Counts::Interval ? "interval" : "gap"},
          {"step_s", t.smallest_step_s},
          {"max_count", t.max_count},
          {"endless", t.endless},
          {"bulb", t.holds},
          {"longest_s", t.longest_s},
          {"starts_by_clock", t.starts_by_clock},
          {"shots_each_time", t.shots_each_time},
          {"intervals", t.intervals},
          {"movie", t.movie},
          {"lock_s", t.lock_s},
          {"words",
           {{"delay", t.words.delay},
            {"hold", t.words.hold},
            {"time", t.words.time},
            {"count", t.words.count},
            {"sound", t.words.sound}}}};
}

Answer timers_verb(const TimerOptions& asked) {
  take::Take take;
  Answer answer;
  answer.json = Json::object();
  answer.json["timers"] = Json::array();
  for (const plan::Timer& t : timers_of(asked, take)) {
    answer.json["timers"].push_back(timer_json(t));
    answer.words +=
        fmt::format("{:20} counts the {:9} steps of {:6} to {:6} {:9} {}\n", t.name,
                    t.counts == plan::Counts::Interval ? "interval," : "gap,",
                    format_length(t.smallest_step_s), format_count(t.max_count),
                    t.endless ? "or endless" : "", t.holds ? "holds the shutter" : "only presses");
  }
  return answer;
}

take::Take timer_take(const TimerOptions& asked) {
  take::Take take = take::load_take(asked.take);
  timers_of(asked, take);
  if (!asked.timer.empty() || !take.timer.empty())
    take.timer = plan::timer_named(take.kit, asked.timer.empty() ? take.timer : asked.timer).name;
  if (asked.endless) take.endless = true;
  say(asked.where, take);
  return take;
}

/// What is keyed in on each day, where the take is shot by hours of work.
Json days_json(const timer::Program& p, const plan::Schedule& schedule, const take::Take& take) {
  Json list = Json::array();
  for (size_t n = 0; n < p.days.size(); ++n) {
    const plan::Schedule::Part& day = schedule.parts()[n];
    list.push_back({{"date", day.date ? Json(format_day(*day.date)) : Json(nullptr)},
                    {"count", p.days[n]},
                    {"start", take.knows_start() ? Json(format_iso(schedule.at(day.first), take.place.zone))
                                                 : Json(nullptr)}});
  }
  return list;
}

/// What the camera's own movie mode is told; null for a timer that is none.
Json movie_json(const timer::Program& p) {
  if (!p.movie) return nullptr;
  return {{"fps", rounded(p.movie->fps, 3)},
          {"shooting_time_s", p.movie->by_time ? Json(rounded(p.movie->shooting_s, 3)) : Json(nullptr)},
          {"pictures", p.movie->shots},
          {"movie_s", rounded(p.movie->movie_s, 3)},
          {"shown_s", rounded(p.movie->shown_s, 3)}};
}

Answer program_verb(const TimerOptions& asked) {
  check_save(asked.save);
  take::Take take = timer_take(asked);
  if (!asked.delay.empty()) {
    take.delay_s = parse_length(asked.delay, "--delay");
    take.start_by = timer::StartBy::Delay;
  }
  if (!asked.start_by.empty())
    take.start_by = asked.start_by == "clock" ? timer::StartBy::Clock
                    : asked.start_by == "now" ? timer::StartBy::Now
                                              : timer::StartBy::Delay;
  const timer::Program p = forecast::program_of(take);
  Answer answer;
  Json setting = Json::object();
  for (const timer::ProgramLine& l : timer::program_lines(p)) {
    setting[l.field] = {{"word", l.word}, {"value", l.value}, {"why", l.why}};
    answer.words += fmt::format("{:12} {:12} {}\n", l.word, l.value, l.why);
  }
  save(asked.save, take, {asked.kit}, asked.take);
  const Findings findings = advice::findings_on(advice::Stage::Set, take);
  const plan::Schedule schedule = forecast::schedule_of(take);
  answer.json = {{"timer", p.timer.name},
                 {"counts", p.timer.counts == plan::Counts::Interval ? "interval" : "gap"},
                 {"start_by", p.start == timer::StartBy::Clock ? "clock"
                              : p.start == timer::StartBy::Now ? "now"
                                                               : "delay"},
                 {"delay_s", rounded(p.delay_s, 3)},
                 {"start_clock", p.start_clock.empty() ? Json(nullptr) : Json(p.start_clock)},
                 {"hold_s", rounded(p.hold_s, 3)},
                 {"open_s", rounded(p.open_s, 6)},
                 {"bulb", p.bulb},
                 {"camera_shutter_s", p.bulb ? Json(nullptr) : Json(rounded(p.shutter.first_s, 6))},
                 {"camera_shutter_to_s", p.bulb ? Json(nullptr) : Json(rounded(p.shutter.longest_s, 6))},
                 {"interval_s", rounded(p.interval_s, 6)},
                 {"gap_s", rounded(p.gap_s, 6)},
                 {"keyed_in_s", rounded(p.setting_s, 6)},
                 {"setting", setting},
                 {"count", p.count},
                 {"endless", p.endless},
                 {"each", p.each},
                 {"movie", movie_json(p)},
                 {"runs", p.runs},
                 {"days", days_json(p, schedule, take)},
                 {"field_s", rounded(p.field_s(), 6)},
                 {"head_sum_s", rounded(static_cast<double>(p.count) * p.interval_s, 6)},
                 {"findings", to_json(findings)}};
  answer.words += words_of(findings);
  return answer;
}

Answer check_program_verb(const TimerOptions& asked) {
  const take::Take take = timer_take(asked);
  const plan::Timer t = forecast::timer_of(take);
  if (asked.interval.empty() == asked.gap.empty())
    throw bad_input("Give either --interval or --gap: a timer has only one of them.",
                    "Use the word its display shows.");
  timer::Keyed keyed;
  const auto length = [](const std::string& text, const char* name) {
    return text.empty() || text == "0" || text == "0s" ? 0.0 : parse_length(text, name);
  };
  keyed.delay_s = length(asked.delay, "--delay");
  keyed.hold_s = length(asked.hold, "--hold");
  keyed.time_s = asked.interval.empty() ? length(asked.gap, "--gap") : length(asked.interval, "--interval");
  keyed.count = asked.count.empty() || asked.count == "endless" || asked.count == "0"
                    ? 0
                    : parse_count(asked.count, "--count");
  keyed.sound = asked.sound;
  keyed.each = asked.each.value_or(0);
  const ramp::Ramp ramp = forecast::ramp_in_any_case(take);
  const forecast::ExposurePlan exposure = forecast::exposure_of(take, ramp);
  const timer::Program program = forecast::program_of(take, exposure);
  const plan::Sums sums = forecast::sums_at_once(take, program);
  if (t.holds && asked.hold.empty()) keyed.hold_s = program.hold_s;
  timer::Pressed camera = forecast::camera_of(take, program, ramp, exposure, keyed.hold_s);
  if (!asked.shutter.empty()) {
    camera.shutter_s = parse_length(asked.shutter, "--shutter");
    camera.bulb = false;
    camera.opens_s.clear();
  }
  if (asked.press_on_bulb) camera.bulb = true;
  timer::Outcome o = timer::what_happens(keyed, t, camera, sums);
  // The word that was used is the other one's: said before anything else.
  const bool meant_interval = asked.gap.empty(), counts_interval = t.counts == plan::Counts::Interval;
  if (meant_interval != counts_interval)
    o.findings.insert(
        o.findings.begin(),
        {"word_differs", Severity::Warning,
         counts_interval ? "This timer counts the interval" : "This timer counts the gap",
         fmt::format("You gave {} {}; {} has no other time, so it uses that as its {}: one frame every {}.",
                     meant_interval ? "interval" : "gap", format_length(keyed.time_s), t.name,
                     counts_interval ? "interval" : "gap", format_length(o.interval_s))});
  sort_by_severity(o.findings);
  Answer answer;
  answer.json = {{"timer", t.name},
                 {"counts", counts_interval ? "interval" : "gap"},
                 {"interval_s", rounded(o.interval_s, 6)},
                 {"open_s", rounded(o.open_s, 6)},
                 {"gap_s", rounded(o.gap_s, 6)},
                 {"presses", o.pressed},
                 {"shots", o.shots},
                 {"missed", o.missed},
                 {"first_missed", o.first_missed ? Json(*o.first_missed + 1) : Json(nullptr)},
                 {"in_planned_time", o.in_time},
                 {"planned_shots", sums.frames + sums.extra_shots},
                 {"field_s", rounded(o.field_s, 6)},
                 {"planned_field_s", rounded(sums.field_s, 6)},
                 {"findings", to_json(o.findings)}};
  answer.words = fmt::format("{} every {}, {} open; {} missed; {} from first opening to last closing.\n",
                             counted(o.shots, "{} shot", "{} shots"), format_length(o.interval_s),
                             format_length(o.open_s), o.missed, format_length(o.field_s)) +
                 words_of(o.findings);
  return answer;
}

Answer checklist_verb(const TimerOptions& asked) {
  const take::Take take = timer_take(asked);
  Answer answer;
  answer.json = Json::object();
  answer.json["items"] = Json::array();
  std::string group;
  for (const advice::CheckItem& i : advice::checklist_of(take)) {
    if (i.group != group) answer.words += i.group + "\n";
    group = i.group;
    answer.json["items"].push_back({{"code", i.code},
                                    {"group", i.group},
                                    {"what", i.what},
                                    {"why", i.why},
                                    {"done", take.ticks.contains(i.code)}});
    answer.words += fmt::format("  [{}] {}: {}\n", take.ticks.contains(i.code) ? "x" : " ", i.what, i.why);
  }
  return answer;
}

}  // namespace

void add_timer(Command& app, Chosen& chosen) {
  const auto asked = std::make_shared<TimerOptions>();
  const Verb timers = add_verb(app, chosen, "timers", "List the timers of a kit and what each can be set to");
  timers.add_option("--kit", asked->kit, "The kit (JSON); by default the built-in timers");
  timers.callback([&chosen, asked] { chosen.run = [asked] { return timers_verb(*asked); }; });
  const auto common = [&](const Verb& verb) {
    verb.add_option("take", asked->take, "The take (.askcount)").required();
    verb.add_option("--timer", asked->timer, "Name of the timer");
    verb.add_option("--kit", asked->kit, "A kit with your own timers (JSON)");
  };
  const Verb program = add_verb(app, chosen, "program", "Work out the five settings of a timer for a take");
  common(program);
  program.add_option("--start-by", asked->start_by, "clock (where the timer has one), delay or now")
      .one_of({"clock", "delay", "now"});
  program.add_option("--delay", asked->delay, "Before the first shot (10 s)");
  program.add_flag("--endless", asked->endless, "Stop it by hand, where it can run endlessly");
  add_where_and_when(program, asked->where);
  add_save(program, asked->save);
  program.callback([&chosen, asked] { chosen.run = [asked] { return program_verb(*asked); }; });
  const Verb check =
      add_verb(app, chosen, "check-program", "Check what would happen with these timer settings");
  common(check);
  check.add_option("--delay", asked->delay, "First delay");
  check.add_option("--hold", asked->hold, "How long it holds the shutter");
  check.add_option("--interval", asked->interval, "Its time, called interval");
  check.add_option("--gap", asked->gap, "Its time, called gap");
  check.add_option("--count", asked->count, "Shots, or endless");
  check.add_option("--shutter", asked->shutter, "The camera's own shutter, where it is not on bulb");
  check.add_option("--each", asked->each, "Releases at every turn").between(1, 99);
  check.add_flag("--on-bulb", asked->press_on_bulb, "The camera was left on bulb");
  check.add_flag("--sound", asked->sound, "The sound is on");
  check.callback([&chosen, asked] { chosen.run = [asked] { return check_program_verb(*asked); }; });
  const Verb list = add_verb(app, chosen, "checklist", "The checklist for camera and rig, in working order");
  common(list);
  list.callback([&chosen, asked] { chosen.run = [asked] { return checklist_verb(*asked); }; });
}

}  // namespace askcount::cli
