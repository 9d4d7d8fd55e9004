#include "take/make.h"

namespace askcount::take {

standin::ShootOrder shoot_order(const Take& take, const std::filesystem::path& card) {
  standin::ShootOrder order;
  order.program = take.program();
  order.shutter_s = take.sums().shutter_s;
  order.writing_s = take.pace.writing_s;
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
