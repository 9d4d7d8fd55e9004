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
  if (take.shot.brackets > 1)
    throw bad_input("The stand-in camera shoots one exposure a shot, this take has brackets.", "Plan it without brackets to have it shot.");
  order.writing_s = take.body().writing_s;
  order.start = take.start;
  order.zone = take.place.zone;
  order.size = take.frame_size;
  order.camera = take.camera;
  order.card = card;
  return order;
}

cut::CutOrder cut_order(const Take& take, std::vector<gather::Frame> frames, const std::filesystem::path& output) {
  cut::CutOrder order;
  order.frames = std::move(frames);
  order.output = output;
  order.fps = take.sums().fps;
  order.size = take.film.size;
  order.coding.quality = take.film.quality;
  return order;
}

}  // namespace askcount::take
