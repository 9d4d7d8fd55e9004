// SPDX-License-Identifier: GPL-3.0-or-later
#include "take/take.h"

#include <algorithm>
#include <cmath>

#include "plan/hours.h"
#include "plan/movie.h"
#include "plan/proposals.h"
#include "plan/subject.h"
#include "simulate/tern_quay.h"

namespace askcount::take {

Take::Take() = default;
Take::Take(const Take& other) = default;
Take::Take(Take&& other) noexcept = default;
Take& Take::operator=(const Take& other) = default;
Take& Take::operator=(Take&& other) noexcept = default;
Take::~Take() = default;
bool Take::operator==(const Take& other) const = default;

plan::Solution Take::solution() const {
  const plan::Solution said = said_solution();
  if (said.complete() || !says_plan()) return said;
  return solved(plan::proposals_for(said, shape(), {subject, body().writing_s}));
}

plan::Solution Take::said_solution() const {
  return solved({});
}

bool Take::says_plan() const {
  return !subject.empty() || std::any_of(wishes.begin(), wishes.end(),
                                         [](const plan::Wish& w) { return w.slot != plan::Slot::Fps; });
}

plan::Solution Take::solved(const std::vector<plan::Wish>& proposals) const {
  // What was said last holds; then the frame rate, which no other slot may bend; then what is pinned; then
  // the rest.
  std::vector<plan::Wish> order = wishes;
  if (!order.empty()) {
    const auto pins = std::stable_partition(order.begin() + 1, order.end(),
                                            [](const plan::Wish& w) { return w.slot == plan::Slot::Fps; });
    std::stable_partition(pins, order.end(), [](const plan::Wish& w) { return w.pinned; });
  }
  plan::ScheduleWish hours{{}, place.zone, 1, 0, work};
  if (knows_start()) hours.start = start;
  return plan::solve_in_hours(order, shape(), hours, proposals);
}

plan::Schedule Take::schedule(Seconds interval_s, long long shots) const {
  plan::ScheduleWish wish{{}, place.zone, interval_s, shots, work};
  if (knows_start()) wish.start = start;
  return plan::Schedule(wish);
}

plan::ShotShape Take::shape() const {
  constexpr Seconds kUsual_s = 1.0 / 60, kTrails_s = 30;
  plan::ShotShape shape = plan::shape_of(shot, spare);
  const auto kinds = plan::kinds_of(subject);
  if (kinds.empty()) return shape;
  const auto all = [&kinds](bool plan::SubjectKind::*trait) {
    return std::all_of(kinds.begin(), kinds.end(), [trait](const plan::SubjectKind* k) { return k->*trait; });
  };
  if (all(&plan::SubjectKind::points_of_light))
    shape.usual_shutter_s =
        std::min(kTrails_s, std::floor(plan::star_rules(body(), lens(), lens().widest_f).by_500));
  else if (all(&plan::SubjectKind::trails))
    shape.usual_shutter_s = kTrails_s;
  else if (all(&plan::SubjectKind::crisp))
    shape.usual_shutter_s = metered ? metered->shutter_s : kUsual_s;
  return shape;
}

plan::ShotMake Take::kept() const {
  plan::ShotMake make = shot;
  if (knows_timer() && timer_model().movie) make.movie_mb = plan::movie_picture_mb(body());
  return make;
}

const plan::Timer& Take::timer_model() const {
  const auto& timers = plan::timers_of(kit);
  const auto it =
      std::find_if(timers.begin(), timers.end(), [this](const plan::Timer& t) { return t.name == timer; });
  return it == timers.end() ? timers.front() : *it;
}

double Take::focus_m() const {
  if (focus.magnification <= 0) return focus.distance_m;
  return lens().focal_mm / 1000 * (1 + 1 / focus.magnification);
}

Seconds Take::lock_s() const {
  return std::max(shot.lock_s, knows_timer() ? timer_model().lock_s : 0);
}

const plan::Lens& Take::lens() const {
  static const plan::Lens usual;
  const plan::Kit& used = kit_in_use();
  return used.lenses.empty() ? usual : used.lenses.front();
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

void use_lens(Take& take, const std::string& name) {
  auto& lenses = take.kit.lenses;
  const auto it =
      std::find_if(lenses.begin(), lenses.end(), [&](const plan::Lens& l) { return l.name == name; });
  if (it != lenses.end()) std::rotate(lenses.begin(), it, it + 1);
}

void next_lens(Take& take, int steps) {
  auto& lenses = take.kit.lenses;
  if (lenses.size() > 1)
    std::rotate(lenses.begin(), steps < 0 ? lenses.begin() + 1 : lenses.end() - 1, lenses.end());
}

void meter(Take& take, const plan::Metered& metered, std::optional<Instant> at) {
  take.metered = metered;
  take.light.source.anchor.reset();
  if (at)
    take.light.source.anchor =
        ramp::Reading{*at, ramp::ev_of_exposure(metered.shutter_s, metered.f_number, metered.iso)};
}

void count_on(Take& take, long long shots) {
  constexpr long long kNumbers = 9999;
  if (!take.knows_kit() || shots <= 0) return;
  plan::Body& body = take.kit.bodies.front();
  const long long exposures = shots * take.shot.brackets;
  if (body.shutter_life > 0) body.shutter_count += exposures;
  body.next_file_number = static_cast<int>((body.next_file_number - 1 + exposures) % kNumbers + 1);
}

void start_at(Take& take, Instant start) {
  if (take.metered && !take.light.source.anchor && take.knows_start()) meter(take, *take.metered, take.start);
  take.start = std::chrono::floor<std::chrono::minutes>(start);
  take.light.clicks.clear();  // they belonged to another light
}

Take demo_take() {
  Take take;
  take.name = "Boats on the flood tide";
  take.subject = "clouds";
  take.kit = plan::demo_kit();
  take.timer = take.kit.timers.front().name;
  take.light.move = {{248, 9, 0}, {248, 9, 0}, false};
  take.place = simulate::tern_quay_place();
  take.start = parse_wall_time("2026-10-09 17:50", take.place.zone);
  take.metered = plan::Metered{1.0 / 125, 8, 100};
  take.light.bare = true;          // the boats are sharp by day, and draw their trails as the light goes
  take.light.source.town_lux = 2;  // the quay's lamps
  take.light.weather.humidity = 0.8;
  take.temperature_c = 11;
  take.film.size = {1280, 720};  // no larger than its frames
  take.wish(plan::Slot::Trail, 0.2);
  take.wish(plan::Slot::ScreenCrossing, 4);
  take.wish(plan::Slot::FieldCrossing, simulate::kCloudCrossing_s);
  take.wish(plan::Slot::Fps, 25);
  take.wish(plan::Slot::Clip, 10);
  return take;
}

}  // namespace askcount::take
