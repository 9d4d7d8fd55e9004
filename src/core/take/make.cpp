#include "take/make.h"

#include <algorithm>

#include "base/error.h"
#include "take/light.h"

namespace askcount::take {

standin::ShootOrder shoot_order(const Take& take, const std::filesystem::path& card) {
  standin::ShootOrder order;
  order.program = take.program();
  order.rule = rule_of(take);
  order.shutter_s = std::min(take.sums().shutter_s, order.rule.longest_shutter_s);
  order.scene = take.scene;
  order.body = take.body();
  order.shot = take.shot;
  order.start = take.start;
  order.zone = take.place.zone;
  order.size = take.frame_size;
  order.camera = take.camera;
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

cut::CutOrder cut_order(const Take& take, std::vector<gather::Frame> frames,
                        const std::filesystem::path& output) {
  cut::CutOrder order;
  order.frames = std::move(frames);
  order.output = output;
  order.fps = take.sums().fps;
  order.size = take.film.size;
  order.coding.quality = take.film.quality;
  return order;
}

}  // namespace askcount::take
