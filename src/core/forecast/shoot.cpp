// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/shoot.h"

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "forecast/forecast.h"
#include "forecast/light.h"
#include "forecast/night.h"
#include "forecast/trial.h"
#include "plan/close_up.h"
#include "simulate/scene.h"

namespace askcount::forecast {

using take::Take;

namespace {

constexpr double kWarm_c = 60;  // takes nothing from any battery

/// The sums at the interval that the timer really runs at.
plan::Sums as_run(plan::Sums sums, const plan::Schedule& schedule) {
  sums.interval_s = schedule.interval_s();
  return sums;
}

/// The most shots that its timer has to count to at once.
long long most_at_once(const plan::Schedule& schedule) {
  long long most = 0;
  for (const plan::Schedule::Part& p : schedule.parts()) most = std::max(most, p.shots);
  return most;
}

}  // namespace

World world_of(const Take& take) {
  const std::string scene = scene_for(take);
  return {take.place.known() ? take.place : simulate::scene_place(scene),
          take.knows_start() ? take.start : simulate::scene_start(scene)};
}

Scenery scenery_of(const Take& take, image::Size size) {
  Scenery s;
  s.scene = scene_for(take);
  s.setting.size = size;
  s.setting.place = world_of(take).place;
  if (take.light.knows_aim()) s.setting.aim = take.light.move.from;
  s.setting.haste = haste_of(take);
  // At its own place the scene's light is what was metered there.
  if (take.solution().complete() && knows_light(take) && take.place != simulate::scene_place(s.scene)) {
    const Instant first = schedule_of(take).at(0);
    if (const ramp::Ramp ramp = ramp_in_any_case(take); !ramp.ev.empty())
      s.light_stops = ramp::light_stops_of_ev(ramp.ev.front()) -
                      simulate::metered_light(s.scene, s.setting, {first}).front();
  }
  return s;
}

plan::ShotCycle cycle_of(const Take& take, Seconds shutter_s) {
  const plan::Kit& kit = take.kit_in_use();
  plan::ShotMake make = take.kept();
  make.lock_s = take.lock_s();
  return plan::cycle_of(make, take.body(), kit.cards.empty() ? nullptr : &kit.cards.front(), shutter_s);
}

plan::Outing outing_of(const Take& take) {
  const plan::Timer& timer = take.timer_model();
  long long most = take.endless ? timer.limit() : timer.max_count;
  bool each_day = false;
  if (take.solution().complete() && !take.work.always()) {  // it counts anew each day
    const plan::Schedule schedule = schedule_of(take);
    each_day = most <= 0 || most_at_once(schedule) <= most;
    if (each_day) most = 0;
  }
  return {take.temperature_c,
          take.external_power,
          most,
          take.disk_free_gb,
          take.lamp,
          take.knows_kit(),
          take.knows_timer(),
          take.start_by == timer::StartBy::Delay ? take.delay_s : 0,
          take.cold_counts,
          heater_runs(take),
          each_day};
}

Instant first_shot_at(const Take& take, Instant pressed) {
  const timer::StartBy by = program_of(take).start;
  if (take.start_by == timer::StartBy::Clock && take.knows_start() && take.start > pressed)
    return schedule_of(take).at(0);
  return by == timer::StartBy::Delay ? later(pressed, take.delay_s) : pressed;
}

plan::Sums sums_as_run(const Take& take) {
  const plan::Schedule schedule = schedule_of(take);
  plan::Sums sums = take.sums();
  const Seconds open = sums.interval_s - sums.gap_s;
  sums = as_run(sums, schedule);
  sums.gap_s = sums.interval_s - open;
  sums.field_s = schedule.field_s(open);
  sums.speed_up = sums.interval_s * sums.fps.value();
  sums.trail = sums.shutter_s / sums.interval_s;
  if (sums.field_crossing_s) {
    sums.step = sums.interval_s / *sums.field_crossing_s;
    sums.screen_crossing_s = *sums.field_crossing_s / sums.speed_up;
  }
  return sums;
}

std::vector<plan::Budget> budgets_of(const Take& take, const plan::Sums& sums) {
  const plan::Schedule schedule = schedule_of(take);
  std::vector<plan::Budget> list =
      plan::budgets_of(as_run(sums, schedule), take.kept(), take.kit_in_use(), outing_of(take));
  for (plan::Budget& b : list)
    if (b.ends_at_frame) b.ends_after_s = schedule.at_s(*b.ends_at_frame);
  return list;
}

std::vector<long long> refocus_at(const Take& take, const ExposurePlan& exposure) {
  constexpr size_t kMost = 500;
  std::vector<long long> list;
  if (take.focus.magnification <= 0) return list;
  const plan::Schedule schedule = schedule_of(take);
  const plan::Sums sums = as_run(take.sums(), schedule);
  const plan::CloseUp close = plan::close_up(take.body(), take.focus.magnification, exposure.first.f_number);
  const auto every = plan::refocus_every(close, take.focus.grows_mm_per_hour, sums);
  if (!every || *every < 1) return list;
  for (long long n = *every; n < schedule.shots() && list.size() < kMost; n += *every) list.push_back(n);
  return list;
}

plan::Sliding sliding_of(const Take& take, const plan::Sums& sums, Seconds shutter_s) {
  return plan::sliding_of(take.slider, sums, take.body(), take.lens().focal_mm,
                          cycle_of(take, shutter_s).open_s);
}

std::optional<plan::DaysPlan> days_of(const Take& take, const plan::Sums& sums) {
  return plan::days_of(sums, take.kept(), take.kit_in_use(), budgets_of(take, sums), take.work,
                       schedule_of(take));
}

std::vector<plan::Swap> swaps_of(const Take& take, const plan::Sums& sums) {
  if (!take.knows_kit()) return {};
  const plan::Schedule schedule = schedule_of(take);
  std::vector<plan::Swap> list =
      plan::swaps_of(as_run(sums, schedule), take.kept(), take.kit, outing_of(take));
  for (plan::Swap& s : list) s.after_s = schedule.at_s(s.at_frame - 1);
  return list;
}

timer::Program program_of(const Take& take) {
  return program_of(take, exposure_of(take));
}

timer::Program program_of(const Take& take, const ExposurePlan& exposure) {
  timer::ProgramWish wish;
  wish.shutter = {exposure.first.shutter_s,
                  exposure.longest_s,
                  exposure.follows,
                  take.body().longest_shutter_s,
                  exposure.shortest_s,
                  exposure.follows && take.light.method == ramp::Method::AperturePriority,
                  exposure.follows && take.light.method == ramp::Method::Hand ? take.light.turning_s : 0};
  wish.start = take.start_by;
  wish.delay_s = take.delay_s;
  wish.endless = take.endless;
  wish.schedule = schedule_of(take);
  if (take.knows_start()) wish.first_shot = wish.schedule.at(0);
  wish.zone = take.place.zone;
  wish.body = take.body();
  wish.presses = wish.body.press_each ? take.shot.brackets : 1;
  return timer::program_for(take.sums(), timer_of(take), wish);
}

timer::Pressed camera_of(const Take& take, const timer::Program& program, const ramp::Ramp& ramp,
                         const ExposurePlan& exposure, Seconds keyed_hold_s) {
  timer::Pressed camera = timer::camera_for(program, take.body().writing_s,
                                            cycle_of(take, program.shutter.longest_s).dark_s, keyed_hold_s);
  if (!exposure.follows || camera.bulb) return camera;
  const plan::Sums sums = take.sums();
  for (const ramp::Exposure& e : ramp.chain)
    camera.opens_s.push_back(e.shutter_s * sums.open_factor +
                             (sums.exposures - 1) * plan::kBetweenBrackets_s);
  if (!take.shot.dark_frames) return camera;
  // A dark frame is as long as each exposure, not as the longest.
  camera.busy_s = take.body().writing_s;
  for (size_t n = 0; n < camera.opens_s.size(); ++n)
    camera.opens_s[n] += ramp.chain[n].shutter_s * sums.open_factor;
  return camera;
}

plan::Sums sums_at_once(const Take& take, const timer::Program& program) {
  plan::Sums sums = as_run(take.sums(), schedule_of(take));
  if (program.days.empty()) return take.sums();
  sums.extra_shots = 0;
  sums.frames = program.keyed_count();
  sums.field_s = program.day_s();
  sums.clip_s = static_cast<double>(sums.frames) / sums.fps.value();
  return sums;
}

simulate::ShootOrder shoot_order(const Take& take, const std::filesystem::path& card) {
  simulate::ShootOrder order;
  const ramp::Ramp ramp = ramp_of(take);
  const ExposurePlan exposure = exposure_of(take, ramp);
  const World world = world_of(take);
  order.program = program_of(take, exposure);
  order.rule = rule_of(take);
  // Nobody knows the light: its hand does as its method does. Otherwise what the plan found.
  order.method = exposure.follows || !exposure.dials_known ? take.light.method : ramp::Method::Fixed;
  order.shutter_s = exposure.longest_s;
  order.filter_stops = exposure.filter_stops;
  order.filters_off = exposure.filters_off;
  for (const plan::Filter& f : take.kit.filters) order.own_filters.push_back(f.stops);
  const Scenery scenery = scenery_of(take, take.stand_in.frame_size);
  order.scene = scenery.scene;
  order.place = scenery.setting.place;
  order.aim = scenery.setting.aim;
  order.haste = scenery.setting.haste;
  order.light_stops = scenery.light_stops;
  if (!ramp.ev.empty())
    order.chain = exposure.follows ? ramp.chain : std::vector(ramp.ev.size(), exposure.first);
  order.work = take.work;
  order.body = take.body();
  order.shot = take.shot;
  order.start = world.start;
  order.zone = world.place.zone;
  order.size = take.stand_in.frame_size;
  order.camera = take.stand_in.camera;
  order.card = card;
  return order;
}

simulate::RigSetting rig_of(const Take& take, const std::filesystem::path& card, bool limits) {
  simulate::RigSetting rig = simulate::rig_for(shoot_order(take, card));
  rig.temperature_c = take.cold_counts ? take.temperature_c : kWarm_c;
  if (!limits) return rig;
  // What ends the forecast ends the stand-in's take: the person's own kit, and a timer that counts no
  // further.
  if (take.knows_timer() && !take.endless && take.work.always() && rig.timer.max_count > 0)
    rig.count = std::min(rig.count, rig.timer.max_count);
  if (!take.knows_kit()) return rig;
  const plan::CameraLimits kit = limits_of(take);
  rig.body.buffer_mb = kit.buffer_mb;
  rig.body.write_mb_s = kit.drained_mb_s;
  rig.external_power = take.external_power || take.kit.batteries.empty();
  if (!rig.external_power) {
    rig.battery = take.kit.batteries.front();
    rig.more_batteries.assign(take.kit.batteries.begin() + 1, take.kit.batteries.end());
    rig.waiting_s = outing_of(take).waiting_s;
  } else if (!kit.power.empty() && std::isfinite(kit.power.front().on_s)) {
    rig.bank_s = kit.power.front().on_s;
  }
  // Files of the kit's size fill the kit's cards, whatever size the stand-in's pictures have.
  rig.card_gb = kit.cards_mb.empty() ? rig.card_gb : kit.cards_mb.front() / 1000;
  for (size_t i = 1; i < kit.cards_mb.size(); ++i) rig.more_cards_gb.push_back(kit.cards_mb[i] / 1000);
  rig.shot_mb = kit.shot_mb;
  return rig;
}

}  // namespace askcount::forecast
