// SPDX-License-Identifier: GPL-3.0-or-later
#include "timer/face.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"

namespace askcount::timer {
namespace {

// What one step of each digit of "hh:mm:ss.t" is worth, in tenths of a second.
constexpr int kTenths[] = {360000, 36000, 6000, 600, 100, 10, 1};

}  // namespace

Face::Face(const Timer& timer) : timer_(timer) {
  time_ = std::max(1.0, timer.smallest_step_s);
  if (timer.holds) hold_ = std::max(1.0, timer.smallest_step_s);
}

std::vector<Face::Field> Face::fields() const {
  if (timer_.holds) return {Field::Delay, Field::Hold, Field::Time, Field::Count, Field::Sound};
  return {Field::Delay, Field::Time, Field::Count, Field::Sound};
}

double& Face::value_of(Field field) {
  switch (field) {
    case Field::Delay:
      return delay_;
    case Field::Hold:
      return hold_;
    case Field::Time:
      return time_;
    case Field::Count:
      return count_;
    case Field::Sound:
      break;
  }
  return sound_;
}

int Face::digits(Field field) const {
  if (field == Field::Sound) return 1;
  if (field == Field::Count) return static_cast<int>(std::to_string(timer_.max_count).size());
  return timer_.smallest_step_s < 1 ? 7 : 6;
}

void Face::change(int by) {
  const Field field = fields()[at_];
  double& v = value_of(field);
  if (field == Field::Sound) {
    v = v > 0 ? 0 : 1;
  } else if (field == Field::Count) {
    const double unit = std::pow(10, digits(field) - 1 - digit_);
    v = std::clamp(v + by * unit, timer_.endless ? 0.0 : 1.0, static_cast<double>(timer_.max_count));
  } else {
    const double unit = kTenths[digit_] / 10.0;
    v = std::clamp(std::round((v + by * unit) * 10) / 10, 0.0, timer_.longest_s);
  }
}

void Face::press(Key key) {
  if (key == Key::Lock) {
    locked_ = !locked_;
    return;
  }
  if (key == Key::Lamp) {
    lamp_ = !lamp_;
    return;
  }
  if (locked_) return;
  if (key == Key::Start) {
    running_ = !running_;
    setting_ = false;
    return;
  }
  if (running_) return;
  const size_t n = fields().size();
  if (key == Key::Set) {
    setting_ = !setting_;
    digit_ = std::max(0, digits(fields()[at_]) - (fields()[at_] == Field::Count ? 1
                                                  : timer_.smallest_step_s < 1  ? 2
                                                                                : 1));
  } else if (!setting_) {
    if (key == Key::Right || key == Key::Down) at_ = (at_ + 1) % n;
    if (key == Key::Left || key == Key::Up) at_ = (at_ + n - 1) % n;
  } else if (key == Key::Left || key == Key::Right) {
    digit_ = std::clamp(digit_ + (key == Key::Right ? 1 : -1), 0, digits(fields()[at_]) - 1);
  } else {
    change(key == Key::Up ? 1 : -1);
  }
}

const std::string& Face::word_of(Field field) const {
  const plan::TimerWords& w = timer_.words;
  switch (field) {
    case Field::Delay:
      return w.delay;
    case Field::Hold:
      return w.hold;
    case Field::Time:
      return w.time;
    case Field::Count:
      return w.count;
    case Field::Sound:
      break;
  }
  return w.sound;
}

std::string Face::shown(Field field) const {
  const double v = value_of(field);
  if (field == Field::Sound) return v > 0 ? say("on|a sound") : say("off|a sound");
  if (field == Field::Count)
    return v == 0 ? say("endless") : fmt::format("{:0{}}", static_cast<long long>(v), digits(field));
  return timer_digits(v, timer_.smallest_step_s);
}

std::vector<FaceField> Face::all() const {
  std::vector<FaceField> list;
  for (const Field field : fields()) list.push_back({word_of(field), shown(field), list.size() == at_});
  return list;
}

void Face::choose(size_t field) {
  if (!locked_ && !running_ && !setting_ && field < fields().size()) at_ = field;
}

FaceLines Face::lines() const {
  const Field field = fields()[at_];
  FaceLines l;
  l.field = fmt::format("{}  {}/{}", word_of(field), at_ + 1, fields().size());
  l.value = shown(field);
  if (setting_)
    l.digit = field == Field::Sound || field == Field::Count
                  ? digit_
                  : digit_ + (digit_ > 1) + (digit_ > 3) + (digit_ > 5);  // past the colons and the point
  l.state = running_ ? say("running") : locked_ ? say("locked") : "";
  if (running_ && locked_) l.state = say("running, locked");
  l.lamp = lamp_;
  return l;
}

Keyed Face::keyed() const {
  return {delay_, timer_.holds ? hold_ : 0, time_, static_cast<long long>(count_), sound_ > 0};
}

}  // namespace askcount::timer
