// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/forecast.h"

#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>

#include "base/json.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "plan/budgets.h"

namespace askcount::forecast {
namespace {

using plan::Heard;
using take::Take;

/// What a shot is open for.
struct Opening {
  Seconds open_s = 0, exposed_s = 0;
};

/// Goes through the presses of a take, one after the other.
class Foreseeing {
 public:
  Foreseeing(const Take& take, const ramp::Ramp& ramp, const ExposurePlan& exposure, Detail detail)
      : take_(take),
        ramp_(ramp),
        exposure_(exposure),
        detail_(detail),
        sums_(take.sums()),
        program_(program_of(take, exposure)),
        camera_(limits_of(take)) {
    f_.schedule = schedule_of(take);
    f_.planned = f_.schedule.shots();
    if (detail == Detail::Shots) f_.shots.reserve(static_cast<size_t>(f_.planned));
  }

  Forecast forecast() {
    for (const plan::Schedule::Part& day : f_.schedule.days()) go_through(day);
    if (!ended_) f_.ends_at = f_.planned;
    see_light();
    if (f_.ends_at > 0) f_.ends_s = f_.schedule.at_s(f_.ends_at - 1) + opening(f_.ends_at - 1).open_s;
    f_.film_s = static_cast<double>(std::max(0LL, f_.frames - sums_.extra_shots)) / sums_.fps.value();
    return std::move(f_);
  }

 private:
  const ramp::Exposure& dials(long long press) const {
    if (!exposure_.follows || ramp_.chain.empty()) return exposure_.first;
    return ramp_.chain[std::min(static_cast<size_t>(press), ramp_.chain.size() - 1)];
  }
  Opening opening(long long press) const {
    const Seconds shutter = program_.bulb ? program_.hold_s : dials(press).shutter_s;
    const Seconds exposed = sums_.open_factor * shutter;
    return {exposed + (sums_.exposures - 1) * plan::kBetweenBrackets_s, exposed};
  }
  std::optional<double> meter(long long press) const {
    if (static_cast<size_t>(press) >= ramp_.meter.size() || !exposure_.dials_known) return {};
    return ramp_.meter[static_cast<size_t>(press)];
  }
  void go_through(const plan::Schedule::Part& day);
  void end(End by, long long press);
  void see_light();

  const Take& take_;
  const ramp::Ramp& ramp_;
  const ExposurePlan& exposure_;
  const Detail detail_;
  const plan::Sums sums_;
  const timer::Program program_;
  plan::CameraState camera_;
  Forecast f_;
  bool ended_ = false;
};

void Foreseeing::end(End by, long long press) {
  if (ended_) return;
  ended_ = true;
  f_.ends_by = by;
  f_.ends_at = press;
}

void Foreseeing::go_through(const plan::Schedule::Part& day) {
  ForecastDay d{day.date, day.from_s, day.from_s, day.shots, 0};
  const long long limit = take_.knows_timer() && !program_.endless ? program_.timer.max_count : 0;
  for (long long k = 0; k < day.shots; ++k) {
    const long long press = day.first + k;
    const Seconds at = day.from_s + static_cast<double>(k) * f_.schedule.interval_s();
    const Opening o = opening(press);
    // A timer that has counted to its end does not press; each day of work it is started again.
    const long long run = f_.schedule.pauses() ? k : press;
    const bool pressed = limit <= 0 || run < limit;
    const Heard heard =
        pressed ? camera_.press(at, o.open_s, o.exposed_s, f_.schedule.interval_s()) : Heard::Busy;
    if (!pressed && !f_.schedule.pauses()) end(End::Timer, press);
    if (heard == Heard::Power) end(take_.external_power ? End::Bank : End::Battery, press);
    if (heard == Heard::Card) end(End::Card, press);
    if (heard == Heard::Yes) {
      ++d.frames;
      d.until_s = at + o.open_s;
    } else if (!ended_) {
      if (f_.lost++ == 0) f_.first_lost = press, f_.lost_to = heard;
    }
    if (detail_ == Detail::Shots)
      f_.shots.push_back(
          {at, dials(press), exposure_.dials_known, pressed, heard, meter(press), camera_.left()});
    else if (ended_)
      break;
  }
  f_.frames += d.frames;
  f_.days.push_back(d);
}

/// Frames at the end of which nothing is seen: the light, or the lamp, ends the take before.
void Foreseeing::see_light() {
  long long seen = f_.ends_at;
  while (seen > 0) {
    const auto m = meter(seen - 1);
    if (!m || (*m <= ramp::kClips_stops && *m >= ramp::kDrowns_stops)) break;
    --seen;
  }
  if (take_.lamp && take_.knows_kit())
    for (const plan::Budget& b : budgets_of(take_, sums_))
      if (b.name == "lamp" && b.ends_at_frame) seen = std::min(seen, *b.ends_at_frame);
  if (seen == f_.ends_at) return;
  f_.ends_by = End::Light;
  f_.ends_at = seen;
}

}  // namespace

const char* end_word(End end) {
  static constexpr const char* kWords[] = {"plan", "battery", "power bank", "card", "timer", "light"};
  return kWords[static_cast<int>(end)];
}

plan::CameraLimits limits_of(const Take& take) {
  const plan::Kit& kit = take.kit_in_use();
  plan::CameraLimits limits = plan::limits_of(take.kept(), kit);
  if (take.knows_kit()) {
    limits.power = plan::power_of(kit, outing_of(take));
  } else {  // an example's buffer, batteries and cards end nothing
    limits.buffer_mb = 0;
    limits.cards_mb.clear();
  }
  return limits;
}

Forecast forecast_of(const Take& take, Detail detail) {
  const ramp::Ramp ramp = ramp_in_any_case(take);
  return forecast_of(take, ramp, exposure_of(take, ramp), detail);
}

Forecast forecast_of(const Take& take, const ramp::Ramp& ramp, const ExposurePlan& exposure, Detail detail) {
  return Foreseeing(take, ramp, exposure, detail).forecast();
}

namespace {

Json moment_json(const Take& take, Seconds at_s) {
  return take.knows_start() ? Json(format_iso(later(take.start, at_s), take.place.zone)) : Json(nullptr);
}

Json shots_json(const Take& take, const Forecast& f) {
  Json list = Json::array();
  size_t day = 0;
  for (size_t n = 0; n < f.shots.size(); ++n) {
    const Shot& s = f.shots[n];
    while (day + 1 < f.days.size() && s.at_s >= f.days[day + 1].from_s - 1e-6) ++day;
    const bool heard = s.heard == Heard::Yes;
    list.push_back(
        {{"n", n + 1},
         {"at", moment_json(take, s.at_s)},
         {"at_s", rounded(s.at_s, 3)},
         {"day", day + 1},
         {"shutter_s", rounded(s.exposure.shutter_s, 6)},
         {"f_number", s.dials_known ? Json(rounded(s.exposure.f_number, 2)) : Json(nullptr)},
         {"iso", s.dials_known ? Json(rounded(s.exposure.iso, 0)) : Json(nullptr)},
         {"heard", heard},
         {"lost_to", heard ? Json(nullptr) : Json(s.pressed ? plan::heard_word(s.heard) : "timer")},
         {"meter_stops", s.meter_stops ? Json(rounded(*s.meter_stops, 2)) : Json(nullptr)},
         {"left", rounded(s.left, 4)}});
  }
  return list;
}

}  // namespace

Json to_json(const Take& take, const Forecast& f) {
  Json days = Json::array();
  for (const ForecastDay& d : f.days)
    days.push_back({{"date", d.date ? Json(format_day(*d.date)) : Json(nullptr)},
                    {"from", moment_json(take, d.from_s)},
                    {"until", moment_json(take, d.until_s)},
                    {"from_s", rounded(d.from_s, 3)},
                    {"until_s", rounded(d.until_s, 3)},
                    {"shots", d.shots},
                    {"frames", d.frames}});
  Json json = {{"planned", f.planned},
               {"frames", f.frames},
               {"lost", f.lost},
               {"first_lost_frame", f.first_lost ? Json(*f.first_lost + 1) : Json(nullptr)},
               {"lost_to", f.first_lost ? Json(plan::heard_word(f.lost_to)) : Json(nullptr)},
               {"ends_by", end_word(f.ends_by)},
               {"ends", moment_json(take, f.ends_s)},
               {"ends_after_s", rounded(f.ends_s, 3)},
               {"ends_at_frame", f.ends_at},
               {"film_s", rounded(f.film_s, 3)},
               {"interval_s", rounded(f.schedule.interval_s(), 6)},
               {"days", days}};
  if (!f.shots.empty()) json["shots"] = shots_json(take, f);
  return json;
}

std::string end_words(const Take& take, const Forecast& f) {
  if (f.ends_by == End::Plan && f.lost == 0) return {};
  const auto when = [&](Seconds s) {
    return take.knows_start() ? say("at {}", format_clock(later(take.start, s), take.place.zone))
                              : say("after {}", format_length(std::round(s)));
  };
  std::string words =
      say("{} of {} come", format_count(f.frames), counted(f.planned, "{} frame", "{} frames"));
  if (f.lost > 0)
    words += say(": from frame {} on the camera is still busy at {}", format_count(*f.first_lost + 1),
                 counted(f.lost, "{} press", "{} presses"));
  switch (f.ends_by) {
    case End::Plan:
      break;
    case End::Battery:
      words += say("; the batteries are empty {}", when(f.ends_s));
      break;
    case End::Bank:
      words += say("; the power bank is empty {}", when(f.ends_s));
      break;
    case End::Card:
      words += say("; the card is full {}", when(f.ends_s));
      break;
    case End::Timer:
      words += say("; the timer has counted to its end {}", when(f.ends_s));
      break;
    case End::Light:
      words += say("; nothing is seen on them after frame {}, {}", format_count(f.ends_at), when(f.ends_s));
      break;
  }
  return words + ".";
}

}  // namespace askcount::forecast
