#include "orders/shoot.h"

#include <algorithm>

#include "base/error.h"
#include "orders/light.h"

namespace askcount::orders {

using take::Take;

plan::ShotCycle cycle_of(const Take& take, Seconds shutter_s) {
  return plan::cycle_of(take.shot, take.body(), take.kit.cards.empty() ? nullptr : &take.kit.cards.front(),
                        shutter_s);
}

plan::Outing outing_of(const Take& take) {
  const plan::Timer& timer = take.timer_model();
  return {take.temperature_c, take.external_power, take.endless ? timer.limit() : timer.max_count,
          take.disk_free_gb, take.lamp};
}

timer::Program program_of(const Take& take) {
  timer::ProgramWish wish;
  wish.delay_s = take.delay_s;
  wish.endless = take.endless;
  wish.first_shot = take.start;
  wish.zone = take.place.zone;
  return timer::program_for(take.sums(), take.timer_model(), wish);
}

standin::ShootOrder shoot_order(const Take& take, const std::filesystem::path& card) {
  standin::ShootOrder order;
  order.program = program_of(take);
  order.rule = rule_of(take);
  order.shutter_s = std::min(take.sums().shutter_s, order.rule.longest_shutter_s);
  order.scene = take.stand_in.scene;
  order.body = take.body();
  order.shot = take.shot;
  order.start = take.start;
  order.zone = take.place.zone;
  order.size = take.stand_in.frame_size;
  order.camera = take.stand_in.camera;
  order.card = card;
  return order;
}

standin::RigSetting rig_of(const Take& take, const std::filesystem::path& card, bool limits) {
  standin::RigSetting rig = standin::rig_for(shoot_order(take, card));
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

}  // namespace askcount::orders
