// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/by_stage.h"

#include <algorithm>

#include "advice/film_advice.h"
#include "advice/gather_advice.h"
#include "advice/light_advice.h"
#include "advice/plan_advice.h"
#include "base/error.h"
#include "base/language.h"
#include "forecast/ended_early.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "optics/judge.h"
#include "timer/program.h"

namespace askcount::advice {
namespace {

void add(Findings& list, Findings more) {
  list.insert(list.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
}

/// The same, but what is said already is said once, as the graver of the two.
void add_new(Findings& list, Findings more) {
  for (Finding& f : more) {
    const auto same =
        std::find_if(list.begin(), list.end(), [&f](const Finding& said) { return said.title == f.title; });
    if (same == list.end())
      list.push_back(std::move(f));
    else if (f.severity > same->severity)
      *same = std::move(f);
  }
}

Findings on_light(const take::Take& take, const Known& known) {
  if (!take.solution().complete())
    return {{"too_few", Severity::Warning, say("The sentence says too little"),
             say("Say on Ask what you want; the light is then laid over it.")}};
  if (known.ramp) return light_advice(take, *known.ramp);
  if (!forecast::knows_light(take)) return light_advice(take, {});
  ramp::Ramp ramp;
  try {
    ramp = forecast::ramp_of(take);
  } catch (const Error&) {
    return {{"too_long", Severity::Warning, say("Too long to follow"),
             say("The light of more than a year or 200,000 frames is not followed.")}};
  }
  return light_advice(take, ramp);
}

Findings on_set(const take::Take& take, const Known& known) {
  if (!take.solution().complete()) return {};
  Findings list = timer::judge(
      known.exposure ? forecast::program_of(take, *known.exposure) : forecast::program_of(take), take.sums());
  // An interval that only follows is no mistake of the person's.
  if (!take.wished(plan::Slot::Interval))
    for (Finding& f : list)
      if (f.code == "interval_not_settable") f.severity = Severity::Ok;
  add(list, judge_timer_name(take));
  add(list, cautions(take));
  return list;
}

/// All that is known before anybody goes out.
Findings on_ask(const take::Take& take, const Known& known) {
  Findings list = plan_advice(take, known.exposure, known.forecast);
  if (take.solution().complete()) {
    Findings light = on_light(take, known);
    // Where nobody has said a place, the sentence has a slot for it.
    std::erase_if(light, [](const Finding& f) { return f.code == "sky_unknown"; });
    add_new(list, std::move(light));
    if (take.knows_timer()) add_new(list, on_set(take, known));  // an example is never judged
  }
  for (const Finding& f : known.kit)
    if (f.fix) list.push_back(f);  // what the person's own takes say otherwise: one press brings it in
  return list;
}

/// What stops the take stops it here too.
Findings on_shoot(const take::Take& take, const Known& known) {
  if (!known.shoot) return {};
  Findings list = shoot_advice(take, *known.shoot, known.live, known.read_back);
  Findings stops = on_ask(take, known);
  std::erase_if(stops, [](const Finding& f) { return f.severity != Severity::Stop; });
  add_new(list, std::move(stops));
  return list;
}

Findings on_gather(const take::Take& take, const Known& known) {
  const KnownFrames& k = known.frames;
  if (!k.gathered) return {};
  return k.look ? gather_advice(take, *k.gathered, *k.look, k.faults, k.began)
                : gather_advice(take, *k.gathered);
}

Findings on_level(const take::Take& take, const Known& known) {
  Findings list;
  if (known.evenness) list = level::judge(*known.evenness);
  if (known.evenness || known.lens_looked_up)
    add(list,
        optics::judge(take.optics, known.frames.gathered ? known.frames.gathered->frames : media::Frames{},
                      known.lens));
  return list;
}

Findings on_film(const take::Take& take, const KnownFilm& k) {
  Findings list =
      film_advice(take, k.wish, k.facts, k.outcome ? static_cast<long long>(k.outcome->unreadable.size()) : 0,
                  k.frame, k.timeline ? k.timeline->frames() : 0);
  if (k.outcome) add(list, outcome_advice(*k.outcome, k.wish.size, k.frame));
  if (k.finished) add(list, k.finished->findings);
  if (k.timeline && !k.outcome)
    if (const auto f = missing_made(*k.timeline)) list.push_back(*f);
  return list;
}

Findings on_cut(const take::Take& take, const Known& known) {
  Findings list;
  for (const KnownFilm& film : known.films) add(list, on_film(take, film));
  const bool told =
      std::any_of(list.begin(), list.end(), [](const Finding& f) { return f.code == "ended_early"; });
  if (known.frames.gathered && !told)
    if (const auto ended = forecast::ended_early(take, *known.frames.gathered))
      list.push_back(forecast::judge(take, *ended));
  return list;
}

Findings on_book(const Known& known) {
  Findings list = known.kit;
  add(list, known.mistakes);
  add(list, known.practice);
  return list;
}

}  // namespace

const char* stage_word(Stage stage) {
  static constexpr const char* kWords[] = {"ask", "light", "set", "shoot", "gather", "level", "cut", "book"};
  return kWords[static_cast<std::size_t>(stage)];
}

std::optional<Stage> stage_of_word(std::string_view word) {
  for (const Stage stage : kAllStages)
    if (word == stage_word(stage)) return stage;
  return {};
}

Findings findings_on(Stage stage, const take::Take& take, const Known& known) {
  const auto said = [&]() -> Findings {
    switch (stage) {
      case Stage::Ask:
        return on_ask(take, known);
      case Stage::Light:
        return on_light(take, known);
      case Stage::Set:
        return on_set(take, known);
      case Stage::Shoot:
        return on_shoot(take, known);
      case Stage::Gather:
        return on_gather(take, known);
      case Stage::Level:
        return on_level(take, known);
      case Stage::Cut:
        return on_cut(take, known);
      case Stage::Book:
        return on_book(known);
    }
    return {};
  };
  Findings list = said();
  if (stage != Stage::Book) sort_by_severity(list);  // the book's parts stand under headings of their own
  return list;
}

Findings findings_of(const take::Take& take, const Known& known) {
  Findings all;
  for (const Stage stage : kAllStages)
    for (Finding& f : findings_on(stage, take, known)) {
      const bool said = std::any_of(all.begin(), all.end(), [&](const Finding& other) {
        return other.code == f.code && other.title == f.title;
      });
      if (!said) all.push_back(std::move(f));
    }
  return all;
}

}  // namespace askcount::advice
