// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/shoot.h"

#include <algorithm>

#include "base/error.h"
#include "forecast/light.h"
#include "simulate/scene.h"

namespace askcount::forecast {

using take::Take;

World world_of(const Take& take) {
  return {take.place.known() ? take.place : simulate::scene_place(take.stand_in.scene),
          take.knows_start() ? take.start : simulate::scene_start(take.stand_in.scene)};
}

plan::ShotCycle cycle_of(const Take& take, Seconds shutter_s) {
  const plan::Kit& kit = take.kit_in_use();
  return plan::cycle_of(take.shot, take.body(), kit.cards.empty() ? nullptr : &kit.cards.front(), shutter_s);
}

plan::Outing outing_of(const Take& take) {
  const plan::Timer& timer = take.timer_model();
  return {take.temperature_c,
          take.external_power,
          take.endless ? timer.limit() : timer.max_count,
          take.disk_free_gb,
          take.lamp,
          take.knows_kit(),
          take.knows_timer(),
          take.start_by == timer::StartBy::Delay ? take.delay_s : 0,
          take.cold_counts,
          take.light.weather.heater};
}

Instant first_shot_at(const Take& take, Instant pressed) {
  const timer::StartBy by = program_of(take).start;
  if (take.start_by == timer::StartBy::Clock && take.knows_start() && take.start > pressed) return take.start;
  return by == timer::StartBy::Delay ? later(pressed, take.delay_s) : pressed;
}

std::vector<plan::Budget> budgets_of(const Take& take, const plan::Sums& sums) {
  return plan::budgets_of(sums, take.shot, take.kit_in_use(), outing_of(take));
}

plan::Sliding sliding_of(const Take& take, const plan::Sums& sums, Seconds shutter_s) {
  return plan::sliding_of(take.slider, sums, take.body(), take.lens().focal_mm,
                          cycle_of(take, shutter_s).open_s);
}

std::optional<plan::DaysPlan> days_of(const Take& take, const plan::Sums& sums) {
  return plan::days_of(sums, take.shot, take.kit_in_use(), budgets_of(take, sums), take.work);
}

std::vector<plan::Swap> swaps_of(const Take& take, const plan::Sums& sums) {
  if (!take.knows_kit()) return {};
  return plan::swaps_of(sums, take.shot, take.kit, outing_of(take));
}

timer::Program program_of(const Take& take) {
  return program_of(take, exposure_of(take));
}

timer::Program program_of(const Take& take, const ExposurePlan& exposure) {
  timer::ProgramWish wish;
  wish.shutter = {exposure.first.shutter_s, exposure.longest_s, exposure.follows,
                  take.body().longest_shutter_s};
  wish.start = take.start_by;
  wish.delay_s = take.delay_s;
  wish.endless = take.endless;
  if (take.knows_start()) wish.first_shot = take.start;
  wish.zone = take.place.zone;
  return timer::program_for(take.sums(), take.timer_model(), wish);
}

simulate::ShootOrder shoot_order(const Take& take, const std::filesystem::path& card) {
  simulate::ShootOrder order;
  const ramp::Ramp ramp = ramp_of(take);
  const ExposurePlan exposure = exposure_of(take, ramp);
  order.program = program_of(take, exposure);
  order.rule = rule_of(take);
  // Nobody knows the light: its hand does as its method does. Otherwise what the plan found.
  order.method = exposure.follows || !exposure.dials_known ? take.light.method : ramp::Method::Fixed;
  order.shutter_s = exposure.longest_s;
  order.filter_stops = exposure.filter_stops;
  order.filters_off = exposure.filters_off;
  // At its scene's own place the stand-in does what the plan says; anywhere else, and where the plan does not
  // know the light, its hand meters for itself.
  if (!ramp.ev.empty() && take.place == simulate::scene_place(take.stand_in.scene)) order.chain = ramp.chain;
  order.scene = take.stand_in.scene;
  order.body = take.body();
  order.shot = take.shot;
  const World world = world_of(take);
  order.start = world.start;
  order.zone = world.place.zone;
  order.size = take.stand_in.frame_size;
  order.camera = take.stand_in.camera;
  order.card = card;
  return order;
}

simulate::RigSetting rig_of(const Take& take, const std::filesystem::path& card, bool limits) {
  simulate::RigSetting rig = simulate::rig_for(shoot_order(take, card));
  rig.temperature_c = take.temperature_c;
  if (!limits) return rig;
  rig.body.buffer_mb = take.body().buffer_mb;
  rig.external_power = take.external_power;
  if (!take.kit.batteries.empty()) rig.battery = take.kit.batteries.front();
  if (!take.kit.cards.empty()) {
    rig.card_gb = take.kit.cards.front().capacity_gb;
    rig.body.write_mb_s = std::min(rig.body.write_mb_s, take.kit.cards.front().write_mb_s);
  }
  return rig;
}

}  // namespace askcount::forecast
