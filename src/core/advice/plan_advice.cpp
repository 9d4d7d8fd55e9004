#include "advice/plan_advice.h"

#include <fmt/format.h>

#include <cmath>

#include "base/units.h"
#include "orders/light.h"
#include "orders/shoot.h"
#include "plan/close_up.h"
#include "plan/habits.h"

namespace askcount::advice {

using take::Take;

Findings judge_habit(const plan::Sums& sums, const std::string& subject) {
  const std::vector<plan::Habit> known = plan::habits_for(subject);
  if (known.empty()) return {};
  const plan::Habit* nearest = &known.front();
  const auto off = [&](const plan::Habit& h) {
    if (sums.interval_s < h.from_s) return std::log2(h.from_s / sums.interval_s);
    return sums.interval_s > h.to_s ? std::log2(sums.interval_s / h.to_s) : 0.0;
  };
  for (const plan::Habit& h : known)
    if (off(h) < off(*nearest)) nearest = &h;
  const std::string range =
      fmt::format("{} to {}", format_length(nearest->from_s), format_length(nearest->to_s));
  if (off(*nearest) < 0.1)  // a habit is no exact number
    return {{"habit_agrees",
             Severity::Ok,
             fmt::format("As people do for {}", nearest->subject),
             fmt::format("{}: {}.", range, nearest->reason),
             "",
             {}}};
  const double use = std::sqrt(nearest->from_s * nearest->to_s) < 10
                         ? std::round(std::sqrt(nearest->from_s * nearest->to_s) * 2) / 2
                         : std::round(std::sqrt(nearest->from_s * nearest->to_s));
  return {{"habit_differs", off(*nearest) > 1 ? Severity::Warning : Severity::Ok,
           fmt::format("{} than people do for {}", sums.interval_s > nearest->to_s ? "Longer" : "Shorter",
                       nearest->subject),
           fmt::format("By habit {}: {}. If you measured the motion, trust that.", range, nearest->reason),
           fmt::format("Use {}", format_length(use)), Mend{"interval", use}}};
}

Findings judge_focus(const plan::Sums& sums, const Take& take) {
  Findings list;
  const double f_number = orders::f_number_of(take, sums);
  if (take.subject.find("star") != std::string::npos && take.subject.find("trail") == std::string::npos) {
    const double drift = plan::star_drift_px(sums.shutter_s, take.lens().focal_mm, take.body().pixel_um(),
                                             take.focus.declination_deg);
    const plan::StarSchools schools = plan::star_schools(take.body(), take.lens(), f_number);
    const std::string text = fmt::format(
        "In {} they drift {} pixels. Points by school: {} (500 rule), {} (600 rule), {} (aperture and "
        "pitch).",
        format_shutter(sums.shutter_s), format_number(drift, 1), format_length(schools.by_500, 1),
        format_length(schools.by_600, 1), format_length(schools.by_pixel, 1));
    if (sums.shutter_s > schools.by_600)
      list.push_back({"stars_drift", Severity::Warning, "Stars will be dashes", text,
                      fmt::format("Use {}", format_length(std::floor(schools.by_500))),
                      Mend{"shutter", std::floor(schools.by_500)}});
    else
      list.push_back({"stars_points", Severity::Ok, "Stars stay points", text, "", {}});
  }
  if (take.focus.magnification > 0) {
    const plan::CloseUp close = plan::close_up(take.body(), take.focus.magnification, f_number);
    const auto every = plan::refocus_every(close, take.focus.grows_mm_per_hour, sums);
    if (every)
      list.push_back({"refocus",
                      Severity::Warning,
                      "It grows out of focus",
                      fmt::format("{} mm are sharp. Focus on its front and again every {}, {} each time.",
                                  format_number(close.depth_mm, 1), counted(*every, "frame"),
                                  format_length(static_cast<double>(*every) * sums.interval_s)),
                      "",
                      {}});
    else
      list.push_back({"focus_holds",
                      Severity::Ok,
                      "It stays in focus",
                      fmt::format("{} mm are sharp from front to back.", format_number(close.depth_mm, 1)),
                      "",
                      {}});
  }
  return list;
}

Findings judge_settable(const plan::Sums& sums, const plan::Settable& s) {
  if (s.as_planned) return {};
  std::string text = fmt::format("Worked out: one every {}, open {}.", format_length(sums.interval_s),
                                 format_shutter(sums.shutter_s));
  text += fmt::format(" Settable: one every {}, open {}, for {}.", format_length(s.interval_s),
                      format_shutter(s.shutter_s), format_length(s.field_s));
  const bool interval = std::abs(s.interval_s - sums.interval_s) > 0.005 * sums.interval_s;
  return {{"settable", Severity::Ok, "What your dials and timer have", text,
           interval ? fmt::format("Use {}", format_length(s.interval_s))
                    : fmt::format("Use {}", format_shutter(s.shutter_s)),
           interval ? Mend{"interval", s.interval_s} : Mend{"shutter", s.shutter_s}}};
}

Findings judge_timer_name(const Take& take) {
  const plan::Timer& used = take.timer_model();
  if (used.name == take.timer) return {};
  return {{"timer_unknown", Severity::Stop, "The kit has no such timer",
           fmt::format("The take names \"{}\". Everything here is worked out for {} instead.", take.timer,
                       used.name),
           fmt::format("Use {}", used.name), Mend{"timer", 0}}};
}

Findings plan_advice(const Take& take) {
  const plan::Solution solution = take.solution();
  Findings list;
  for (const plan::Conflict& c : solution.conflicts) {
    Finding f{"pins_conflict",
              Severity::Stop,
              "Two pins contradict each other",
              plan::conflict_words(c, take.wishes),
              "",
              {}};
    for (size_t at = 0; (at = f.text.find("--")) != std::string::npos;) f.text.erase(at, 2);
    for (const plan::Slot slot : {c.wish, c.because_of.empty() ? c.wish : c.because_of.front()}) {
      f.code = slot == c.wish ? "pins_conflict" : "pins_conflict_other";
      f.fix = fmt::format("Release {}", plan::slot_name(slot));
      f.mend = Mend{plan::slot_word(slot), 0};
      list.push_back(f);
      f.title = "Or the other way round";
      f.text = fmt::format("Keep {} and let {} go.", plan::slot_name(c.wish),
                           plan::slot_name(c.because_of.empty() ? c.wish : c.because_of.front()));
      if (c.because_of.empty()) break;
    }
  }
  if (!solution.complete()) {
    list.push_back({"too_few",
                    Severity::Warning,
                    "The sentence says too little",
                    plan::missing_words(solution),
                    "",
                    {}});
    return list;
  }
  const plan::Sums sums = take.sums();
  const auto add = [&list](const Findings& more) { list.insert(list.end(), more.begin(), more.end()); };
  list.push_back(plan::judge_cycle(orders::cycle_of(take, sums.shutter_s), sums.interval_s));
  add(plan::judge(sums));
  add(judge_timer_name(take));
  add(judge_settable(sums, plan::settable(sums, take.timer_model(), take.body())));
  add(plan::judge(take.measures));
  if (take.metered)
    add(plan::judge(plan::match_exposure(*take.metered, sums.shutter_s, take.kit), sums.shutter_s, take.kit));
  add(plan::judge(plan::budgets_of(sums, take.shot, take.kit, orders::outing_of(take)), sums, take.shot,
                  take.kit, orders::outing_of(take)));
  add(judge_habit(sums, take.subject));
  add(judge_focus(sums, take));
  if (take.spare > 0)
    list.push_back({"spare",
                    Severity::Ok,
                    "Spare frames",
                    fmt::format("{} extra at each end, in the count.", format_count(take.spare)),
                    "",
                    {}});
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::advice
