// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/trial.h"

#include <fmt/format.h>
#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "forecast/exposure.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "plan/subject.h"
#include "simulate/alum_jar.h"
#include "simulate/ropewalk.h"
#include "simulate/scene.h"
#include "simulate/tern_quay.h"

namespace askcount::forecast {
namespace {

using plan::SubjectKind;
using take::Take;

/// What of a scene crosses the frame like the subject does, and how long that takes by itself.
struct Mover {
  const char* words = nullptr;
  Seconds crossing_s = 0;
};

/// A scene for a kind of subject, with what of it moves at the subject's pace.
struct Setting {
  std::vector<std::string_view> kinds;
  const char* scene;
  Mover mover;
};

const std::vector<Setting>& settings() {
  static const std::vector<Setting> table = {
      {{"stars", "star trails", "the moon"}, "Gannet Head", {}},
      {{"crowds", "building by hand", "building site", "brisk hand work"},
       "The Ropewalk",
       {to_say("the people of the Ropewalk"), simulate::kRopewalk_m / simulate::kWalking_mps}},
      {{"traffic"},
       "The Ropewalk",
       {to_say("the cars of the Ropewalk"), simulate::kRopewalk_m / simulate::kDriving_mps}},
      {{"plants reviving", "plants growing", "melting", "drying", "crystals", "slow hand work"},
       "The alum jar",
       {to_say("the crystals in the alum jar"),
        simulate::kAlumField_mm / simulate::kAlumGrowth_mm_per_hour * 3600}},
      {{"fast clouds", "slow clouds", "day into night", "boats"},
       "Tern Quay",
       {to_say("the clouds over Tern Quay"), simulate::kCloudCrossing_s}},
      {{"sunrise", "sunset", "shadows", "tide"}, "Tern Quay", {}},
  };
  return table;
}

const Setting* setting_for(const Take& take) {
  for (const SubjectKind* kind : plan::kinds_of(take.subject))
    for (const Setting& s : settings())
      if (std::find(s.kinds.begin(), s.kinds.end(), kind->name) != s.kinds.end()) return &s;
  return nullptr;
}

Mover mover_of(const Take& take) {
  const Setting* s = setting_for(take);
  if (s && s->scene == scene_for(take)) return s->mover;
  // Nobody knows what it is: what usually moves in the scene stands for it.
  for (const Setting& other : settings())
    if (scene_for(take) == other.scene && other.mover.words) return other.mover;
  return {};
}

/// The film's shape in the room there is; sides are even, as film wants them.
image::Size small_size(image::Size film) {
  const double by = std::min(static_cast<double>(simulate::kRoom.width) / film.width,
                             static_cast<double>(simulate::kRoom.height) / film.height);
  const auto even = [by](int side) { return std::max(24, static_cast<int>(std::lround(side * by / 2)) * 2); };
  return {even(film.width), even(film.height)};
}

}  // namespace

std::string scene_for(const Take& take) {
  if (!take.stand_in.scene.empty()) return take.stand_in.scene;
  const Setting* s = setting_for(take);
  return s ? s->scene : simulate::scene_names().front();
}

double haste_of(const Take& take) {
  const auto crossing = take.solution()[plan::Slot::FieldCrossing];
  const Mover m = mover_of(take);
  return m.words && crossing ? std::clamp(m.crossing_s / *crossing, 1.0 / 1000, 1000.0) : 1;
}

simulate::TrialPlan trial_of(const Take& take) {
  const plan::Sums sums = take.sums();
  simulate::TrialPlan t;
  t.scene = scene_for(take);
  t.size = small_size(take.film.size);
  t.fps = sums.fps;
  t.frames = sums.frames;
  t.camera = take.stand_in.camera;
  t.place = take.place;
  const long long before = sums.extra_shots / 2;  // spare shots are not in the film
  const plan::Schedule schedule = schedule_of(take);
  t.interval_s = schedule.interval_s();
  const Instant first = take.knows_start() ? schedule.at(0) : simulate::scene_start(t.scene);
  t.start = later(first, schedule.at_s(before) - schedule.at_s(0));
  if (schedule.pauses())
    for (long long n = 0; n < t.frames; ++n)
      t.at_s.push_back(schedule.at_s(before + n) - schedule.at_s(before));
  if (take.light.knows_aim()) {
    t.move = take.light.move;
    sky::Optics optics = optics_of(take);
    optics.sensor_width_mm *= optics.film_across();
    t.across_deg = optics.across_deg();
  }
  t.haste = haste_of(take);
  const ramp::Ramp ramp = ramp_in_any_case(take);
  const auto from = [before](const auto& all) {
    return all.begin() + std::min<std::ptrdiff_t>(before, static_cast<std::ptrdiff_t>(all.size()) - 1);
  };
  t.chain.assign(from(ramp.chain), ramp.chain.end());
  if (!ramp.ev.empty()) t.ev.assign(from(ramp.ev), ramp.ev.end());
  if (ramp.filters_off) t.filters_off = std::max(0LL, *ramp.filters_off - before);
  const ExposurePlan exposure = exposure_of(take, ramp);
  t.filter_stops = exposure.filter_stops;
  if (!exposure.follows) t.chain = {exposure.first}, t.filters_off.reset();
  if (!exposure.dials_known) t.ev.clear();  // nobody knows what it would come out as: as metered
  return t;
}

std::string trial_words(const Take& take, const simulate::TrialPlan& plan) {
  const Mover m = mover_of(take);
  if (!m.words) return plan.scene == "Gannet Head" ? say("the sky over Gannet Head") : plan.scene;
  if (!take.solution()[plan::Slot::FieldCrossing]) return say("{}, at their own pace", say(m.words));
  return say("{}, across the frame in {}", say(m.words), format_length(m.crossing_s / plan.haste, 1));
}

}  // namespace askcount::forecast
