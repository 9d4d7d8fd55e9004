// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <memory>

#include "advice/by_stage.h"
#include "advice/light_advice.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "filing.h"
#include "forecast/forecast.h"
#include "forecast/lasts.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "plan/close_up.h"
#include "plan/settable.h"
#include "plan/subject.h"
#include "plan/ways.h"
#include "take/edit.h"
#include "take_options.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

/// The options of `askcount count`.
struct CountOptions {
  PlanAsked plan;
  SaveAsked save;
};

/// "for 19 min 58 s", or by hours of work "over 3 days (9:00 to 10:00)".
std::string field_words(const take::Take& take, const forecast::ExposurePlan& exposure) {
  const plan::Schedule schedule = forecast::schedule_of(take);
  if (!schedule.pauses()) return fmt::format("for {}", format_length(exposure.field_s));
  const double days =
      std::floor((schedule.parts().back().from_s - schedule.parts().front().from_s) / 86400 + 1.5);
  return fmt::format("over {} by the calendar ({})",
                     counted(static_cast<long long>(days), "{} day", "{} days"), plan::work_words(take.work));
}

std::string words_of_sums(const take::Take& take, const plan::Sums& s,
                          const forecast::ExposurePlan& exposure) {
  const std::string spare = s.extra_shots > 0 ? fmt::format(", {} with the spare ones",
                                                            counted(plan::shots_of(s), "{} shot", "{} shots"))
                                              : "";
  std::string words = fmt::format(
      "Shoot {}{}, one every {}, shutter {}, {}.\nThe gap between shots is {}. The film runs {} at {}, "
      "{} "
      "times faster.\n",
      counted(s.frames, "{} frame", "{} frames"), spare, format_length(s.interval_s),
      forecast::shutter_words(exposure), field_words(take, exposure), forecast::gap_words(exposure),
      format_length(s.clip_s), frame_rate_words(s.fps), format_number(s.speed_up, 1));
  // What is not set is left out.
  std::vector<std::string> said;
  if (!take.subject.empty()) said.push_back(take.subject);
  if (take.place.known()) said.push_back("at " + take.place.name);
  if (take.knows_start())
    said.push_back(fmt::format("from {} on", format_iso(take.start, take.place.zone).substr(0, 16)));
  if (!said.empty()) {
    said.front()[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(said.front()[0])));
    words += fmt::format("{}.\n", fmt::join(said, ", "));
  }
  if (s.step)
    words +=
        fmt::format("The subject moves {} of the frame's width per frame and crosses the screen in {}.\n",
                    format_number(*s.step * 100, 2) + " %", format_length(*s.screen_crossing_s, 1));
  return words;
}

Json exposure_json(const forecast::ExposurePlan& e) {
  const auto dials = [&e](const ramp::Exposure& x) {
    return Json{{"shutter_s", rounded(x.shutter_s, 6)},
                {"f_number", e.dials_known ? Json(rounded(x.f_number, 2)) : Json(nullptr)},
                {"iso", e.dials_known ? Json(rounded(x.iso, 0)) : Json(nullptr)}};
  };
  return {{"follows_light", e.follows},
          {"estimated", e.estimated},
          {"first", dials(e.first)},
          {"last", dials(e.last)},
          {"shortest_s", rounded(e.shortest_s, 6)},
          {"longest_s", rounded(e.longest_s, 6)},
          {"trail_from", rounded(e.shortest_trail, 6)},
          {"trail_to", rounded(e.longest_trail, 6)},
          {"filters", e.filters},
          {"filter_stops", rounded(e.filter_stops, 2)},
          {"filters_off_before_shot", e.filters_off ? Json(*e.filters_off + 1) : Json(nullptr)},
          {"text", forecast::shutter_words(e)}};
}

void add_exposure(Json& json, const take::Take& take) {
  for (const char* key : {"filter_stops", "filters", "setting", "test_exposure"}) json[key] = nullptr;
  if (!take.metered) return;
  const plan::ExposureMatch m = forecast::standing_of(take, {}).match;
  const auto dials = [](const plan::Metered& d) {
    return Json{{"shutter_s", rounded(d.shutter_s, 6)},
                {"f_number", rounded(d.f_number, 2)},
                {"iso", rounded(d.iso, 0)}};
  };
  json["stops"] = rounded(m.stops, 2);
  json["filter_stops"] = rounded(m.filter_stops, 2);
  json["filters"] = m.filters;
  json["setting"] = dials(m.setting);
  json["missing_stops"] = rounded(m.missing_stops, 2);
  json["nearest_shutter_s"] = rounded(m.nearest_shutter_s, 6);
  json["test_exposure"] = dials(plan::test_exposure(m.setting, take.kit_in_use()));
}

void add_budgets(Json& json, const take::Take& take, const plan::Sums& sums) {
  json["budgets"] = Json::array();
  for (const plan::Budget& b : forecast::budgets_of(take, sums))
    json["budgets"].push_back(
        {{"name", b.name},
         {"good_for_shots", std::isinf(b.shots) ? Json(nullptr) : Json(static_cast<long long>(b.shots))},
         {"ends_at_frame", b.ends_at_frame ? Json(*b.ends_at_frame) : Json(nullptr)},
         {"ends_after_s", b.ends_at_frame ? Json(rounded(b.ends_after_s, 1)) : Json(nullptr)},
         {"share", rounded(b.share, 4)},
         {"example", b.example},
         {"text", b.words}});
  json["alternatives"] = Json::array();
  for (const plan::Way& w : plan::ways_of(sums, take.shot, take.body(), take.film.size.width))
    json["alternatives"].push_back({{"name", w.name},
                                    {"film_s", rounded(w.film_s, 3)},
                                    {"data_gb", rounded(w.data_gb, 2)},
                                    {"pixels", {w.pixels_across, w.pixels_down}},
                                    {"crop", rounded(w.crop, 2)},
                                    {"retime", w.retime},
                                    {"told", w.told},
                                    {"light", w.light},
                                    {"text", w.words}});
  json["slider"] = nullptr;
  if (take.slider.moves()) {
    const plan::Sliding s = forecast::sliding_of(take, sums, sums.shutter_s);
    json["slider"] = {{"step_mm", rounded(s.step_mm, 3)},
                      {"near_step", rounded(s.near_step, 6)},
                      {"near_across", rounded(s.near_across, 4)},
                      {"near_crossing_film_s", rounded(s.near_crossing_film_s, 2)},
                      {"free_s", rounded(s.free_s, 2)}};
  }
  json["days"] = nullptr;
  if (const auto d = forecast::days_of(take, sums)) {
    const auto or_null = [](double v) { return std::isfinite(v) ? Json(rounded(v, 2)) : Json(nullptr); };
    json["days"] = {{"work", plan::work_words(take.work)},
                    {"shots_a_day", d->shots_a_day},
                    {"days", rounded(d->days, 2)},
                    {"calendar_days", rounded(d->calendar_days, 2)},
                    {"gb_a_day", rounded(d->gb_a_day, 2)},
                    {"power_days", or_null(d->power_days)},
                    {"card_days", or_null(d->card_days)},
                    {"visit_every_days", or_null(d->visit_days())},
                    {"shutter_share_a_week", rounded(d->shutter_share_a_week, 5)},
                    {"example", d->example}};
  }
  json["swaps"] = Json::array();
  for (const plan::Swap& w : forecast::swaps_of(take, sums))
    json["swaps"].push_back({{"what", w.what},
                             {"from", w.from},
                             {"to", w.to},
                             {"at_frame", w.at_frame},
                             {"after_s", rounded(w.after_s, 1)},
                             {"text", w.words}});
}

void add_optics(Json& json, const take::Take& take, const plan::Sums& sums, double f) {
  const plan::Body& body = take.body();
  const plan::Lens& lens = take.lens();
  json["star_drift_px"] = rounded(
      plan::star_drift_px(sums.shutter_s, lens.focal_mm, body.pixel_um(), take.focus.declination_deg), 2);
  const plan::StarRules s = plan::star_rules(body, lens, f);
  json["stars"] = {{"by_500_s", rounded(s.by_500, 2)},
                   {"by_600_s", rounded(s.by_600, 2)},
                   {"by_aperture_and_pitch_s", rounded(s.by_pixel, 2)}};
  const plan::Depth d = plan::depth_of_field(body, lens.focal_mm, f, take.focus_m());
  json["depth"] = {{"f_number", rounded(f, 2)},
                   {"focus_m", rounded(take.focus_m(), 3)},
                   {"hyperfocal_m", rounded(d.hyperfocal_m, 3)},
                   {"near_m", rounded(d.near_m, 3)},
                   {"far_m", std::isinf(d.far_m) ? Json(nullptr) : Json(rounded(d.far_m, 3))},
                   {"diffraction_f", rounded(plan::diffraction_f(body.pixel_um()), 1)}};
  json["close_up"] = nullptr;
  if (take.focus.magnification <= 0) return;
  const plan::CloseUp c = plan::close_up(body, take.focus.magnification, f);
  const auto every = plan::refocus_every(c, take.focus.grows_mm_per_hour, sums);
  json["close_up"] = {{"depth_mm", rounded(c.depth_mm, 3)},
                      {"effective_f", rounded(c.effective_f, 1)},
                      {"light_lost_stops", rounded(c.light_lost_stops, 2)},
                      {"field_width_mm", rounded(c.field_width_mm, 2)},
                      {"refocus_every_frames", every ? Json(*every) : Json(nullptr)}};
}

void add_settable(Json& json, const take::Take& take, const plan::Sums& sums) {
  const plan::Settable s = plan::settable(sums, take.timer_model(), take.body());
  json["settable"] = {{"interval_s", rounded(s.interval_s, 6)},
                      {"shutter_s", rounded(s.shutter_s, 6)},
                      {"field_s", rounded(s.field_s, 6)},
                      {"trail", rounded(s.trail, 6)},
                      {"as_planned", s.as_planned}};
  json["motion"] =
      sums.step ? Json(plan::motion_word(*sums.screen_crossing_s, *sums.step, sums.trail)) : Json(nullptr);
}

/// What nobody said, and was taken so that the plan is whole.
std::string proposed(const take::Take& take, Json& json) {
  const plan::Solution solution = take.solution();
  std::string names;
  json["proposed"] = Json::array();
  for (const plan::Slot slot : plan::kAllSlots)
    if (solution.relation(slot) == plan::Relation::Proposed) {
      json["proposed"].push_back(plan::slot_word(slot));
      names += (names.empty() ? "" : ", ") + plan::slot_name(slot);
    }
  return names.empty() ? names : fmt::format("Proposed, until you say otherwise: {}.\n", names);
}

/// The plan's numbers, and what there is to say about them.
Answer answer_of(const take::Take& take, const std::string& kit) {
  const plan::Sums sums = take.sums();
  const forecast::ExposurePlan exposure = forecast::exposure_of(take);
  const forecast::Forecast forecast = forecast::forecast_of(take, forecast::ramp_in_any_case(take), exposure);
  advice::Known known;
  known.exposure = exposure;
  known.forecast = &forecast;
  const Findings findings = advice::findings_on(advice::Stage::Ask, take, known);
  Answer answer;
  answer.json = plan::to_json(sums);
  // One shutter: the longest that is really used.
  answer.json["shutter_s"] = rounded(exposure.longest_s, 6);
  answer.json["gap_s"] = rounded(exposure.gap_s, 6);
  answer.json["field_s"] = rounded(exposure.field_s, 6);
  answer.json["trail"] = rounded(exposure.longest_trail, 6);
  answer.json["cycle_s"] = rounded(forecast::cycle_of(take, exposure.longest_s).shortest_interval_s(), 3);
  answer.json["forecast"] = forecast::to_json(take, forecast);
  answer.json["exposure_plan"] = exposure_json(exposure);
  add_exposure(answer.json, take);
  add_budgets(answer.json, take, sums);
  add_optics(answer.json, take, sums, exposure.first.f_number);
  add_settable(answer.json, take, sums);
  answer.json["kit"] = take.knows_kit() ? Json(kit) : Json(nullptr);
  answer.json["findings"] = to_json(findings);
  answer.words = words_of_sums(take, sums, exposure) + proposed(take, answer.json) + words_of(findings);
  return answer;
}

void check_conflicts(const take::Take& take) {
  const plan::Solution solution = take.solution();
  if (!solution.conflicts.empty())
    throw bad_input(plan::conflict_words(solution.conflicts.front(), take.wishes));
}

/// How long the film is at the usual rates.
void say_lengths(const take::Take& take, Answer& answer) {
  const auto frames = static_cast<double>(take.sums().frames);
  answer.json["film_s_at"] = Json::object();
  for (const int fps : {24, 25, 30}) answer.json["film_s_at"][std::to_string(fps)] = rounded(frames / fps, 3);
  answer.words += forecast::lengths_words(take) + "\n";
}

Answer count(const CountOptions& asked) {
  check_save(asked.save);
  take::Take take;
  say(asked.plan, take);
  // "--frames max", and a field time with nothing that counts: as long as it lasts.
  const auto& slots = asked.plan.slots;
  const auto said = [&slots](plan::Slot slot) { return slots.contains(slot) && !slots.at(slot).empty(); };
  const bool lasts = (said(plan::Slot::Frames) && slots.at(plan::Slot::Frames) == "max") ||
                     (said(plan::Slot::Field) && take.wishes.size() == 1 && take.subject.empty());
  // Every option was meant: those that contradict each other are told, not passed over.
  std::reverse(take.wishes.begin(), take.wishes.end());
  for (plan::Wish& w : take.wishes) w.pinned = true;
  if (lasts && !take.wished(plan::Slot::Fps)) take.wishes.push_back({plan::Slot::Fps, 25, true});
  if (lasts) take = forecast::as_long_as_it_lasts(std::move(take));
  check_conflicts(take);
  Answer answer = answer_of(take, asked.plan.kit);
  if (lasts) say_lengths(take, answer);
  for (plan::Wish& w : take.wishes) w.pinned = false;
  save(asked.save, take, {asked.plan.kit});
  return answer;
}

/// The options of `askcount set`.
struct SetAsked {
  std::string take, pin, release;
  PlanAsked plan;
};

Answer set_verb(const SetAsked& asked) {
  take::Edited edited(asked.take);
  take::Take& take = edited.take;
  const auto slot = [](const std::string& word) {
    const auto s = plan::slot_of_word(word);
    if (!s)
      throw bad_input(fmt::format("There is no slot \"{}\".", word),
                      "Use the option's name: interval, shutter.");
    return *s;
  };
  if (!asked.release.empty()) take.release(slot(asked.release));
  say(asked.plan, take);
  if (!asked.pin.empty()) {
    if (!take.wished(slot(asked.pin)))
      if (const auto now = take.solution()[slot(asked.pin)]) take.wish(slot(asked.pin), *now);
    take.pin(slot(asked.pin), true);
  }
  check_conflicts(take);
  Answer answer;
  if (take.solution().complete()) {
    answer = answer_of(take, asked.plan.kit);
  } else {
    answer.json = Json::object();
    answer.json["findings"] = to_json(advice::findings_on(advice::Stage::Ask, take));
    answer.words = plan::missing_words(take.solution()) + "\n";
  }
  edited.save({{asked.plan.kit}, false});
  file_take(take, asked.take);
  answer.json["take"] = asked.take;
  return answer;
}

}  // namespace

void add_count(Command& app, Chosen& chosen) {
  const Verb verb =
      add_verb(app, chosen, "count", "Work out interval, count and shutter for the clip you want");
  const auto asked = std::make_shared<CountOptions>();
  add_plan(verb, asked->plan);
  add_save(verb, asked->save);
  verb.callback([&chosen, asked] { chosen.run = [asked] { return count(*asked); }; });
}

void add_set(Command& app, Chosen& chosen) {
  const Verb verb =
      add_verb(app, chosen, "set", "Change settings of a take; what contradicts them gives way");
  const auto asked = std::make_shared<SetAsked>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  add_plan(verb, asked->plan);
  verb.add_option("--pin", asked->pin, "A slot that must not give way, by its option's name");
  verb.add_option("--release", asked->release, "A slot to clear, by its option's name");
  verb.callback([&chosen, asked] { chosen.run = [asked] { return set_verb(*asked); }; });
}

}  // namespace askcount::cli
