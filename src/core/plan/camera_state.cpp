// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/camera_state.h"

#include <algorithm>
#include <cmath>

namespace askcount::plan {
namespace {

constexpr double kWhole = 1e-6;

double share_of(double part, double whole) {
  return std::isinf(whole) || whole <= 0 ? 0 : std::clamp(part / whole, 0.0, 1.0);
}

}  // namespace

const char* heard_word(Heard heard) {
  static constexpr const char* kWords[] = {"yes", "busy", "buffer", "battery", "card"};
  return kWords[static_cast<int>(heard)];
}

CameraState::CameraState(CameraLimits limits) : limits_(std::move(limits)) {}

Heard CameraState::press(Seconds at, Seconds open_s, Seconds exposed_s, Seconds on_s) {
  if (limits_.buffer_mb > 0 && drained_at_s_ > -1e17)
    waiting_mb_ = std::max(0.0, waiting_mb_ - (at - drained_at_s_) * limits_.drained_mb_s);
  drained_at_s_ = at;
  // What does not last through this shot is changed before it.
  const double exposures = limits_.brackets;
  while (!dead() && !limits_.power.empty()) {
    const Power& p = limits_.power[power_at_];
    if (exposures_ + exposures <= p.exposures * (1 + kWhole) && on_s_ + on_s <= p.on_s * (1 + kWhole)) break;
    ++power_at_;
    exposures_ = on_s_ = 0;
  }
  while (!full() && !limits_.cards_mb.empty()) {
    if (card_mb_ + limits_.shot_mb <= limits_.cards_mb[card_at_] * (1 + kWhole)) break;
    ++card_at_;
    card_mb_ = 0;
  }
  if (dead()) return Heard::Power;
  on_s_ += on_s;
  if (full()) return Heard::Card;
  if (at < busy_until_s_ - kWhole) return Heard::Busy;
  if (limits_.buffer_mb > 0 &&
      waiting_mb_ + limits_.shot_mb > std::max(limits_.buffer_mb, limits_.shot_mb) + kWhole)
    return Heard::Buffer;
  waiting_mb_ += limits_.buffer_mb > 0 ? limits_.shot_mb : 0;
  card_mb_ += limits_.shot_mb;
  exposures_ += exposures;
  busy_until_s_ = at + open_s + (limits_.dark_frames ? exposed_s : 0) + limits_.writing_s;
  return Heard::Yes;
}

double CameraState::power_left() const {
  if (dead()) return 0;
  if (limits_.power.empty()) return 1;
  const Power& p = limits_.power[power_at_];
  return 1 - std::max(share_of(exposures_, p.exposures), share_of(on_s_, p.on_s));
}

double CameraState::left() const {
  double left = 1;
  const auto of_all = [&left](size_t at, size_t all, double used) {
    if (all > 0)
      left = std::min(left, std::max(0.0, 1 - (static_cast<double>(at) + used) / static_cast<double>(all)));
  };
  of_all(power_at_, limits_.power.size(), dead() ? 0 : 1 - power_left());
  of_all(card_at_, limits_.cards_mb.size(), full() ? 0 : card_full());
  return left;
}

double CameraState::card_full() const {
  if (full()) return 1;
  return limits_.cards_mb.empty() ? 0 : share_of(card_mb_, limits_.cards_mb[card_at_]);
}

double CameraState::buffer_full() const {
  return limits_.buffer_mb > 0 ? share_of(waiting_mb_, limits_.buffer_mb) : 0;
}

void CameraState::fresh_power() {
  no_power_ = false;
  if (dead()) power_at_ = limits_.power.size() - 1;
  exposures_ = on_s_ = 0;
}

void CameraState::fresh_card() {
  no_card_ = false;
  if (full()) card_at_ = limits_.cards_mb.size() - 1;
  card_mb_ = 0;
}

}  // namespace askcount::plan
