// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/kit_questions.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/forecast.h"
#include "forecast/kit_from.h"

namespace askcount::forecast {
namespace {

using plan::Body;
using take::Take;

/// A thing that can be asked.
struct Thing {
  const char *key, *ask, *where, *unit;
  double least, most;
  bool (*open)(const Take&);
  double (*now)(const Take&);
  void (*put)(Take&, double);
  double lowest, highest;  // that can be answered
};

bool guessed(const Take& take, const char* key) {
  const auto& list = take.body().guessed;
  return std::find(list.begin(), list.end(), key) != list.end();
}

template <double Body::*Value>
double now_of(const Take& t) {
  return t.body().*Value;
}
template <double Body::*Value>
void put_in(Take& t, double v) {
  t.kit.bodies.front().*Value = v;
}

plan::Battery usual_battery() {
  plan::Battery b;
  b.name = say("My battery");
  return b;
}
plan::Card usual_card() {
  plan::Card c;
  c.name = say("My card");
  return c;
}

const std::vector<Thing>& things() {
  static const std::vector<Thing> list = {
      {"rated_shots", to_say("How many shots does one battery give?"),
       to_say("In the camera's manual, or by a take of yours: the book learns it."), "frames", 250, 1000,
       [](const Take& t) { return t.kit.batteries.empty() && !t.external_power; },
       [](const Take&) { return usual_battery().rated_shots; },
       [](Take& t, double v) {
         if (t.kit.batteries.empty()) t.kit.batteries.push_back(usual_battery());
         t.kit.batteries.front().rated_shots = v;
         // A battery of more shots lasts longer switched on, too.
         t.kit.batteries.front().powered_hours =
             usual_battery().powered_hours * v / usual_battery().rated_shots;
       },
       1, 1e6},
      {"capacity_gb", to_say("How large is your card?"), to_say("It is printed on it, in GB."), "GB", 16, 256,
       [](const Take& t) { return t.kit.cards.empty(); },
       [](const Take&) { return usual_card().capacity_gb; },
       [](Take& t, double v) {
         if (t.kit.cards.empty()) t.kit.cards.push_back(usual_card());
         t.kit.cards.front().capacity_gb = v;
       },
       0.1, 100000},
      {"writing_s", to_say("How long is the camera busy after a shot?"),
       to_say("Try ten frames on Set, as close together as the timer goes."), "s", 0.1, 2,
       [](const Take& t) { return guessed(t, "writing_s"); }, now_of<&Body::writing_s>,
       put_in<&Body::writing_s>, 0, 60},
      {"buffer_mb", to_say("How many MB fit into the camera's buffer?"),
       to_say("Hold the release in burst mode until it falters: frames × MB a frame."), "MB", 150, 2000,
       [](const Take& t) { return guessed(t, "buffer_mb"); }, now_of<&Body::buffer_mb>,
       put_in<&Body::buffer_mb>, 0, 100000},
      {"write_mb_s", to_say("How fast does the camera write to its card?"),
       to_say("Time the light that shows writing after a burst: MB ÷ seconds."), "MB/s", 20, 250,
       [](const Take& t) { return guessed(t, "write_mb_s"); }, now_of<&Body::write_mb_s>,
       put_in<&Body::write_mb_s>, 0.1, 10000},
      {"power_w", to_say("How much power does the camera draw?"),
       to_say("Battery's Wh ÷ the hours it lasts switched on."), "W", 1.5, 6,
       [](const Take& t) { return guessed(t, "power_w"); }, now_of<&Body::power_w>, put_in<&Body::power_w>,
       0.1, 100},
  };
  return list;
}

std::string number_words(double v, const char* unit) {
  return (v < 10 ? format_number(v, 1) : format_count(std::llround(v))) + " " + say(unit);
}

}  // namespace

std::vector<KitQuestion> kit_questions(const Take& take) {
  std::vector<KitQuestion> list;
  if (!take.knows_kit() || !take.solution().complete()) return list;
  for (const Thing& t : things()) {
    if (!t.open(take)) continue;
    const auto with = [&](double v) {
      Take one = take;
      t.put(one, v);
      return forecast_of(one);
    };
    const Forecast little = with(t.least), much = with(t.most);
    if (little.frames == much.frames) continue;
    KitQuestion q;
    q.key = t.key;
    q.ask = say(t.ask);
    q.where = say(t.where);
    q.unit = t.unit;
    q.value = t.now(take);
    q.least = t.least;
    q.most = t.most;
    q.frames_apart = std::abs(little.frames - much.frames);
    q.taken = say("Until then {} is taken.", number_words(q.value, t.unit));
    q.matters = say("With {} {} of {} come, with {} {}.", number_words(t.least, t.unit),
                    format_count(little.frames), counted(little.planned, "{} frame", "{} frames"),
                    number_words(t.most, t.unit), format_count(much.frames));
    list.push_back(std::move(q));
  }
  std::stable_sort(list.begin(), list.end(), [](const KitQuestion& a, const KitQuestion& b) {
    return a.frames_apart > b.frames_apart;
  });
  return list;
}

Take answered(Take take, const std::string& key, double value) {
  const auto& all = things();
  const auto t = std::find_if(all.begin(), all.end(), [&](const Thing& one) { return key == one.key; });
  if (t == all.end()) {
    std::string known;
    for (const Thing& one : all) known += (known.empty() ? "" : ", ") + std::string(one.key);
    throw bad_input(say("There is no question \"{}\".", key), say("Use one of ") + known + ".");
  }
  if (!take.knows_kit())
    throw bad_input(say("The take has no kit."), say("Begin with photographs of yours: --from FILES."));
  if (!(value >= t->lowest && value <= t->highest))
    throw bad_input(say("{} of {} is out of range.", key, format_number(value, 3)),
                    say("From {} to {}.", format_number(t->lowest, 1), format_number(t->highest, 0)));
  t->put(take, value);
  std::erase(take.kit.bodies.front().guessed, key);
  return take;
}

plan::Kit usual_kit() {
  plan::Kit kit = plan::example_kit();
  kit.lenses.clear();
  kit.cards.clear();
  kit.batteries.clear();
  return kit;
}

Take with_photographs(Take take, const std::vector<std::filesystem::path>& photographs,
                      ToldByPhotographs* out) {
  ToldByPhotographs told = kit_from(photographs, take.knows_kit() ? take.kit : usual_kit());
  take.kit = told.kit;
  if (out) *out = std::move(told);
  return take;
}

}  // namespace askcount::forecast
