// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/plan_advice.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>

#include "base/dials.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/forecast.h"
#include "forecast/kit_questions.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "plan/close_up.h"
#include "plan/subject.h"

namespace askcount::advice {

using take::Take;

namespace {

/// How far an interval is off a habit, in doublings; 0 within it.
double off(const plan::Habit& h, Seconds interval_s) {
  if (interval_s < h.from_s) return std::log2(h.from_s / interval_s);
  return interval_s > h.to_s ? std::log2(interval_s / h.to_s) : 0.0;
}

std::string range_words(const plan::Habit& h) {
  return say("{} to {}", format_length(h.from_s, 1), format_length(h.to_s, 1));
}

}  // namespace

Findings judge_habit(const plan::Sums& sums, const std::string& subject, Seconds shortest_gap_s) {
  const std::vector<plan::Habit> known = plan::habits_for(subject, {sums.shutter_s, shortest_gap_s});
  if (known.empty()) return {};
  // Where methods differ, a measured motion says which: calm is a frame's width in 7 s at 24 fps.
  constexpr double kCalm_frames = 7 * 24;
  const double wanted = sums.field_crossing_s ? *sums.field_crossing_s / kCalm_frames : sums.interval_s;
  const auto nearest = std::min_element(known.begin(), known.end(), [&](const auto& a, const auto& b) {
    return off(a, wanted) < off(b, wanted);
  });
  std::string methods;
  for (const plan::Habit& h : known)
    methods += say("{}{} for {} ({})", methods.empty() ? "" : "; ", range_words(h), h.subject, h.reason);
  methods += ".";
  if (known.size() > 1 && sums.field_crossing_s)
    methods += say(" The motion you measured is nearer to {}.", nearest->subject);
  const bool agrees = std::any_of(known.begin(), known.end(),
                                  [&](const plan::Habit& h) { return off(h, sums.interval_s) < 0.1; });
  if (agrees)  // a habit is no exact number
    return {{"habit_agrees", Severity::Ok, say("Usual for {}", subject), say("Usual: ") + methods}};
  const double by = off(*nearest, sums.interval_s), use = plan::middle_of(*nearest);
  return {{"habit_differs", by > 1 ? Severity::Warning : Severity::Ok,
           say("{} than is usual for {}", sums.interval_s > nearest->to_s ? say("Longer") : say("Shorter"),
               nearest->subject),
           say("Usual: {} If you measured the motion, trust that.", methods),
           fix::SetSlot{Slot::Interval, use}}};
}

Findings judge_trail(const plan::Sums& sums, const std::string& subject,
                     const forecast::ExposurePlan& exposure) {
  const auto all = [&subject](bool plan::SubjectKind::*trait) { return plan::all_kinds(subject, trait); };
  const auto share = [](double trail) {
    return trail < 0.001 ? say("under {} %", format_number(0.1, 1))
                         : format_number(trail * 100, trail < 0.1 ? 1 : 0) + " %";
  };
  if (exposure.follows) {
    const std::string shortest = dial_shutter_words(exposure.shortest_s),
                      longest = dial_shutter_words(exposure.longest_s),
                      least = share(exposure.shortest_trail), most = share(exposure.longest_trail);
    return {{"trail_follows", Severity::Ok, say("The trail grows and shrinks with the light"),
             least == most ? say("The shutter goes from {} to {}: each frame is open for {} of its interval.",
                                 shortest, longest, most)
                           : say("The shutter goes from {} to {}: each frame is open for {} to {} of its "
                                 "interval.",
                                 shortest, longest, least, most)}};
  }
  if (all(&plan::SubjectKind::trails) && sums.gap_s > 3)
    return {{"trails_broken", Severity::Warning, say("The arcs will be dashed"),
             say("Every gap of {} is a break in each arc. Leave only what the camera needs for writing.",
                 format_length(sums.gap_s, 1)),
             fix::SetSlot{Slot::Gap, 1}}};
  if (all(&plan::SubjectKind::crisp)) {
    if (sums.trail_assumed)
      return {{"trail_natural", Severity::Ok, say("A short shutter is natural here"),
               say("Nothing crosses the frame, so no trail is needed: {} is assumed.",
                   dial_shutter_words(exposure.longest_s))}};
    return {{"trail_natural", Severity::Ok, say("Motion blur"),
             say("Open for {} of its interval; nothing crosses the frame, so any shutter looks natural.",
                 share(sums.trail))}};
  }
  if (sums.trail_assumed && (all(&plan::SubjectKind::points_of_light) || all(&plan::SubjectKind::trails)))
    return {{"trail_assumed", Severity::Ok, say("The shutter usual for stars"),
             say("No shutter is set: {} is assumed.", dial_shutter_words(sums.shutter_s))}};
  if (exposure.offered)
    return {{"trail_offered", Severity::Ok, say("The shutter is what the light gives"),
             say("Nobody asked for a trail: {}. Half a step of motion blur would be {}{}.",
                 dial_shutter_words(exposure.longest_s), dial_shutter_words(sums.shutter_s),
                 exposure.offered->missing_stops < 0 || sums.shutter_s < exposure.longest_s
                     ? ""
                     : say(", with {} stops of filters",
                           format_number(std::log2(sums.shutter_s / exposure.longest_s), 0))),
             fix::SetSlot{Slot::Trail, 0.5}}};
  if (sums.trail_assumed)
    return {{"trail_assumed", Severity::Ok, say("Trail half a step"),
             say("No trail is set, so the shutter is half the interval: {}.",
                 dial_shutter_words(sums.shutter_s))}};
  if (sums.trail < 0.1)
    return {
        {"trail_crisp", Severity::Ok, say("Crisp frames"),
         say("With the shutter under a tenth of the interval, motion will look choppy rather than smooth."),
         fix::SetSlot{Slot::Trail, 0.5}}};
  return {{"trail", Severity::Ok, say("Motion blur"),
           say("Each frame is open for {} of its interval.", share(sums.trail))}};
}

Findings judge_exposure(const Take& take, const forecast::ExposurePlan& plan) {
  if (plan.follows) {
    std::string text = say(
        "Begin with {}, {}, {}; it ends with {}, {}, {}.", ramp::dial_words(ramp::Dial::Shutter, plan.first),
        ramp::dial_words(ramp::Dial::Aperture, plan.first), ramp::dial_words(ramp::Dial::Iso, plan.first),
        ramp::dial_words(ramp::Dial::Shutter, plan.last), ramp::dial_words(ramp::Dial::Aperture, plan.last),
        ramp::dial_words(ramp::Dial::Iso, plan.last));
    if (plan.filter_stops > 0)
      text += say(" With {} on{}.", forecast::filters_words(plan),
                  plan.filters_off ? say(" until frame {}", format_count(*plan.filters_off)) : "");
    else if (plan.longest_trail > 2 * plan.shortest_trail)
      text += say(" No filter: for trails by day put one on, on Light.");
    if (plan.estimated) text += say(" Estimated: meter first.");
    return {{"exposure_follows", Severity::Ok, say("The exposure follows the light"), text}};
  }
  if (!plan.dials_known)
    return {{"not_metered", Severity::Ok, say("Not metered yet"),
             say("Say what the meter says, or where and when: filter, aperture and ISO follow from it.")}};
  Findings list = plan::judge(plan.match, plan.longest_s, take.kit_in_use());
  for (Finding& f : list) {
    if (!take.knows_kit() && f.code == "filter_needed")
      f.text += say(" Say which you bring, and they are chosen.");
    if (!plan.estimated) continue;
    f.text += say(" By the estimated light, which may be off by two stops: meter first.");
    if (f.severity == Severity::Stop) f.severity = Severity::Warning;
  }
  return list;
}

Findings judge_focus(const plan::Sums& sums, const Take& take, const forecast::ExposurePlan& exposure) {
  Findings list;
  const double f_number = exposure.first.f_number;
  if (plan::any_kind(take.subject, &plan::SubjectKind::points_of_light)) {
    const Seconds shutter_s = exposure.longest_s;
    const double drift = plan::star_drift_px(shutter_s, take.lens().focal_mm, take.body().pixel_um(),
                                             take.focus.declination_deg);
    const plan::StarRules methods = plan::star_rules(take.body(), take.lens(), f_number);
    const std::string text = say(
        "{}In {} they drift {} pixels. For points: {} (500 rule), {} (600 rule), {} (aperture and pitch).",
        take.knows_kit()
            ? ""
            : say("On an example {} mm lens: choose yours. ", format_number(take.lens().focal_mm, 0)),
        format_shutter(shutter_s), format_number(drift, 1), format_length(methods.by_500, 1),
        format_length(methods.by_600, 1), format_length(methods.by_pixel, 1));
    if (shutter_s > methods.by_600)
      list.push_back({"stars_drift", take.knows_kit() ? Severity::Warning : Severity::Ok,
                      say("Stars will be dashes"), text,
                      fix::SetSlot{Slot::Shutter, std::floor(methods.by_500)}});
    else
      list.push_back({"stars_points", Severity::Ok, say("Stars stay points"), text});
  }
  if (take.focus.magnification > 0) {
    const plan::CloseUp close = plan::close_up(take.body(), take.focus.magnification, f_number);
    const auto every = plan::refocus_every(close, take.focus.grows_mm_per_hour, sums);
    if (every)
      list.push_back({"refocus", Severity::Warning, say("It grows out of focus"),
                      say("{} mm are sharp. Focus on its front and again every {}, {} each time.",
                          format_number(close.depth_mm, 1), counted(*every, "{} frame", "{} frames"),
                          format_length(static_cast<double>(*every) * sums.interval_s))});
    else
      list.push_back({"focus_holds", Severity::Ok, say("It stays in focus"),
                      say("{} mm are sharp from front to back.", format_number(close.depth_mm, 1))});
  }
  return list;
}

Findings judge_settable(const plan::Sums& sums, const plan::Settable& s) {
  if (s.as_planned) return {};
  std::string text = say("Worked out: one every {}, open {}.", format_length(sums.interval_s),
                         dial_shutter_words(sums.shutter_s));
  text += say(" Settable: one every {}, open {}, for {}.", format_length(s.interval_s),
              dial_shutter_words(s.shutter_s), format_length(s.field_s));
  const bool interval = std::abs(s.interval_s - sums.interval_s) > 0.005 * sums.interval_s;
  return {{"settable", Severity::Ok, say("What your dials and timer have"), text,
           interval ? fix::SetSlot{Slot::Interval, s.interval_s} : fix::SetSlot{Slot::Shutter, s.shutter_s}}};
}

Findings judge_timer_name(const Take& take) {
  const plan::Timer& used = take.timer_model();
  if (take.timer.empty() || used.name == take.timer) return {};
  return {{"timer_unknown", Severity::Stop, say("The kit has no such timer"),
           say("The take names \"{}\". Everything here is worked out for {} instead.", take.timer, used.name),
           fix::UseTimer{used.name}}};
}

namespace {

/// The longest that is really used; what was wished where that is more than a click longer, and so cannot be.
Seconds shutter_to_judge(const plan::Sums& sums, const forecast::ExposurePlan& exposure) {
  constexpr double kClick = 1.27;
  const bool beyond = !sums.trail_assumed && sums.shutter_s > exposure.longest_s * kClick;
  return beyond && exposure.follows && sums.gap_s < 0 ? sums.shutter_s : exposure.longest_s;
}

/// A shutter that follows the light and outgrows the interval on the way: how many presses that costs.
Finding judge_outgrowing(const Take& take, const forecast::Forecast& f) {
  const std::string from = format_count(*f.first_lost + 1);
  const std::string when =
      take.knows_start() ? say(", at {}", format_clock(f.schedule.at(*f.first_lost), take.place.zone)) : "";
  return {
      "camera_busy", Severity::Stop, say("The shutter outgrows the interval"),
      say("From frame {}{} on the camera is still busy at some presses: {} of {} are lost. Open the aperture "
          "or raise the ISO from there, or use a longer interval.",
          from, when, format_count(f.lost), format_count(f.planned))};
}

/// What the camera needs between shots is an example where no camera is set.
Finding judge_keeping_up(const Take& take, const plan::Sums& sums, Seconds shutter_s,
                         const forecast::ExposurePlan& exposure, const forecast::Forecast& forecast) {
  if (exposure.follows && forecast.first_lost && forecast.lost_to == plan::Heard::Busy)
    return judge_outgrowing(take, forecast);
  const plan::ShotCycle cycle = forecast::cycle_of(take, shutter_s);
  Finding f = plan::judge_cycle(cycle, forecast.schedule.interval_s());
  if (take.knows_kit() || f.severity == Severity::Ok) return f;
  plan::ShotCycle bare = cycle;  // what is sure, whatever the camera
  bare.writing_s = bare.sustained_s = 0;
  if (plan::judge_cycle(bare, sums.interval_s).severity == Severity::Ok) {
    f.severity = Severity::Warning;
    f.text = say("By an example camera: ") + f.text + say(" Choose yours.");
  }
  return f;
}

/// Batteries and the timer's count together give an interval: offered where none is set.
Findings judge_hours(const Take& take, const plan::Sums& sums, const plan::Solution& solution) {
  const plan::Outing outing = forecast::outing_of(take);
  const auto longest = plan::longest_interval(sums, take.kit, outing);
  if (!take.knows_kit() || !longest || solution.relation(plan::Slot::Interval) == plan::Relation::Wished)
    return {};
  const double use = *longest < 10 ? std::floor(*longest * 2) / 2 : std::floor(*longest);
  if (use <= sums.interval_s * 1.05 || use < 1) return {};
  return {{"hours_reach", Severity::Ok, say("The batteries reach further"),
           say("For {} they would last at one every {}: all their hours used.",
               counted(plan::shots_of(sums), "{} shot", "{} shots"), format_length(use)),
           fix::SetSlot{Slot::Interval, use}}};
}

}  // namespace

Findings which_speed(const Take& take) {
  const auto habits = plan::habits_for(take.subject, {0, take.body().writing_s});
  if (habits.size() < 2 || !take.measures.empty() || take.wished(plan::Slot::FieldCrossing)) return {};
  // An interval that is just the first's middle is what Ask Count took itself.
  const plan::Wish* said = take.wished(plan::Slot::Interval);
  if (said && (said->pinned || said->value != plan::middle_of(habits.front()))) return {};
  std::string names;
  for (const plan::Habit& h : habits) names += (names.empty() ? "" : say(" or ")) + h.subject;
  names[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(names[0])));
  Findings list;
  for (const plan::Habit& h : habits) {
    const bool first = list.empty();
    std::string text = say("Usual for {} is every {} ({}).", h.subject, range_words(h), h.reason);
    if (first) text += say(" That is taken until you say.");
    list.push_back({"which_speed", Severity::Warning, first ? names + "?" : say("Or {}", h.subject), text,
                    fix::SetSubject{h.subject, plan::middle_of(h)}});
  }
  return list;
}

Findings plan_advice(const Take& take, const std::optional<forecast::ExposurePlan>& known,
                     const forecast::Forecast* foreseen) {
  const plan::Solution solution = take.solution();
  Findings list;
  for (const plan::Conflict& c : solution.conflicts) {
    Finding f{"pins_conflict", Severity::Stop, say("Two pins contradict each other"),
              plan::conflict_words(c, take.wishes, plan::Naming::Words)};
    for (const plan::Slot slot : {c.wish, c.because_of.empty() ? c.wish : c.because_of.front()}) {
      f.code = slot == c.wish ? "pins_conflict" : "pins_conflict_other";
      f.fix = fix::Release{slot};
      list.push_back(f);
      f.title = say("Or the other way round");
      f.text = say("Keep {} and let {} go.", plan::slot_name(c.wish),
                   plan::slot_name(c.because_of.empty() ? c.wish : c.because_of.front()));
      if (c.because_of.empty()) break;
    }
  }
  if (!solution.complete()) {
    list.push_back({"too_few", Severity::Warning, say("The sentence says too little"),
                    plan::missing_words(solution, plan::Naming::Words)});
    for (Finding& f : which_speed(take)) list.push_back(std::move(f));
    return list;
  }
  const plan::Sums sums = take.sums();
  const forecast::ExposurePlan exposure = known ? *known : forecast::exposure_of(take);
  const auto add = [&list](const Findings& more) { list.insert(list.end(), more.begin(), more.end()); };
  const forecast::Forecast forecast =
      foreseen ? *foreseen : forecast::forecast_of(take, forecast::ramp_in_any_case(take), exposure);
  list.push_back(judge_keeping_up(take, sums, shutter_to_judge(sums, exposure), exposure, forecast));
  for (Finding f : plan::judge(sums)) {
    // An interval that only follows is no mistake of the person's, and their own timer is judged by itself.
    if (f.code == "interval_not_whole" && !take.wished(plan::Slot::Interval)) {
      if (take.knows_timer()) continue;
      f.severity = Severity::Ok;
    }
    list.push_back(std::move(f));
  }
  add(judge_trail(sums, take.subject, exposure));
  add(judge_timer_name(take));
  if (!exposure.follows) {
    plan::Sums real = sums;  // at the shutter that is used
    real.shutter_s = exposure.longest_s;
    real.gap_s = exposure.gap_s;
    add(judge_settable(real, plan::settable(real, forecast::timer_of(take), take.body())));
  }
  add(plan::judge(take.measures));
  add(judge_exposure(take, exposure));
  if (exposure.follows && !exposure.keeps_up && take.light.method == ramp::Method::Hand)
    list.push_back(
        {"light_outruns", Severity::Warning, say("The clicks do not keep up with the light"),
         say("Some frames come out far too bright or too dark: the ramp on Light shows which. Let the "
             "camera follow by "
             "itself, or turn more often."),
         fix::LetCameraExpose{}});
  if (take.slider.moves())
    add(plan::judge(forecast::sliding_of(take, sums, exposure.follows ? exposure.longest_s : sums.shutter_s),
                    take.slider));
  const std::vector<plan::Budget> budgets = forecast::budgets_of(take, sums);
  if (const auto days = forecast::days_of(take, sums)) add(plan::judge(*days, take.work));
  add(plan::judge(budgets, sums, take.kept(), take.kit_in_use(), forecast::outing_of(take)));
  const auto questions = forecast::kit_questions(take);
  if (!questions.empty()) {  // one thing at a time
    const forecast::KitQuestion& q = questions.front();
    list.push_back({"kit_question", Severity::Ok, q.ask,
                    fmt::format("{} {} {}", q.where, q.taken, q.matters) + say(" Say it in the kit.")});
  }
  add(judge_hours(take, sums, solution));
  // Who has measured the motion needs no habit.
  if (const Findings which = which_speed(take); !which.empty())
    add(which);
  else if (take.measures.empty())
    add(judge_habit(sums, take.subject, take.body().writing_s));
  add(judge_focus(sums, take, exposure));
  if (take.spare > 0)
    list.push_back({"spare", Severity::Ok, say("Spare frames"),
                    say("{} extra at each end, in the count.", format_count(take.spare))});
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::advice
