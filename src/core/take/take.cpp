#include "take/take.h"

#include <algorithm>

#include "standin/tern_quay.h"

namespace askcount::take {

plan::Solution Take::solution() const {
  // What was said last holds; then the frame rate, which no other slot may bend; then what is pinned; then
  // the rest.
  std::vector<plan::Wish> order = wishes;
  if (!order.empty()) {
    const auto pins = std::stable_partition(order.begin() + 1, order.end(),
                                            [](const plan::Wish& w) { return w.slot == plan::Slot::Fps; });
    std::stable_partition(pins, order.end(), [](const plan::Wish& w) { return w.pinned; });
  }
  return plan::solve(order, shape());
}

plan::ShotCycle Take::cycle(Seconds shutter_s) const {
  return plan::cycle_of(shot, body(), kit.cards.empty() ? nullptr : &kit.cards.front(), shutter_s);
}

plan::Outing Take::outing() const {
  const plan::Timer& t = timer_model();
  return {temperature_c, external_power, endless ? t.limit() : t.max_count, disk_free_gb, lamp};
}

const plan::Timer& Take::timer_model() const {
  const auto& timers = kit.timers.empty() ? plan::shipped_timers() : kit.timers;
  const auto it =
      std::find_if(timers.begin(), timers.end(), [this](const plan::Timer& t) { return t.name == timer; });
  return it == timers.end() ? timers.front() : *it;
}

const plan::Lens& Take::lens() const {
  static const plan::Lens usual;
  return kit.lenses.empty() ? usual : kit.lenses.front();
}

timer::Program Take::program() const {
  timer::ProgramWish wish;
  wish.delay_s = delay_s;
  wish.endless = endless;
  wish.first_shot = start;
  wish.zone = place.zone;
  return timer::program_for(sums(), timer_model(), wish);
}

void Take::measured(const plan::Measure& measure) {
  std::erase_if(measures, [&](const plan::Measure& m) { return m.way == measure.way; });
  measures.push_back(measure);
}

void Take::wish(plan::Slot slot, double value) {
  plan::Wish wish{slot, value, false};
  if (const plan::Wish* old = wished(slot)) wish.pinned = old->pinned;
  release(slot);
  wishes.insert(wishes.begin(), wish);
}

void Take::release(plan::Slot slot) {
  std::erase_if(wishes, [slot](const plan::Wish& w) { return w.slot == slot; });
}

void Take::pin(plan::Slot slot, bool pinned) {
  for (plan::Wish& w : wishes)
    if (w.slot == slot) w.pinned = pinned;
}

const plan::Wish* Take::wished(plan::Slot slot) const {
  const auto it =
      std::find_if(wishes.begin(), wishes.end(), [slot](const plan::Wish& w) { return w.slot == slot; });
  return it == wishes.end() ? nullptr : &*it;
}

Take demo_take() {
  Take take;
  take.name = "Boats on the flood tide";
  take.subject = "clouds";
  take.place = standin::tern_quay_place();
  take.start = parse_wall_time("2026-10-09 17:50", take.place.zone);
  take.metered = plan::Metered{1.0 / 125, 8, 100};
  take.light.rule.longest_shutter_s = 4;
  take.light.source.town_lux = 2;  // the quay's lamps
  take.light.source.anchor = ramp::Reading{take.start, ramp::ev_of_exposure(1.0 / 125, 8, 100)};
  take.light.weather.humidity = 0.8;
  take.temperature_c = 11;
  take.wish(plan::Slot::Trail, 0.2);
  take.wish(plan::Slot::ScreenCrossing, 4);
  take.wish(plan::Slot::FieldCrossing, standin::kCloudCrossing_s);
  take.wish(plan::Slot::Fps, 25);
  take.wish(plan::Slot::Clip, 10);
  return take;
}

}  // namespace askcount::take
