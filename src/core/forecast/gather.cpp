// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/gather.h"

#include <algorithm>
#include <chrono>
#include <cmath>

#include "forecast/light.h"
#include "media/film_frames.h"
#include "media/kind.h"
#include "simulate/card.h"

namespace askcount::forecast {

ingest::Ask gather_ask(const take::Take& take, std::vector<std::filesystem::path> cards) {
  ingest::Ask ask;
  ask.folders = std::move(cards);
  const take::GatherWish& w = take.gather;
  if (w.choose > 0) ask.choose = static_cast<size_t>(w.choose - 1);
  for (const double n : w.join) ask.join.push_back(static_cast<size_t>(n) - 1);
  ask.keep = w.keep;
  ask.leave_out = w.leave_out;
  ask.stand_in = w.stand_in;
  ask.from = w.from;
  ask.until = w.until;
  ask.clock_s = w.clock_s;
  ask.blend = take.level.brackets;
  if (const plan::Solution s = take.solution(); s.complete()) {
    const plan::Schedule schedule = schedule_of(take);
    ask.interval_s = schedule.interval_s();
    ask.frames = schedule.shots();
    if (schedule.pauses()) ask.days = static_cast<long long>(schedule.parts().size());
    if (take.knows_start()) ask.start = simulate::camera_clock(schedule.at(0), take.place.zone);
  } else if (take.knows_start()) {
    ask.start = simulate::camera_clock(take.start, take.place.zone);
  }
  return ask;
}

void read_films(const take::Take& take, ingest::Ask& ask) {
  ask.film_step = 1;
  ask.film_stretch = 1;
  const auto film =
      std::find_if(ask.folders.begin(), ask.folders.end(), [](const std::filesystem::path& source) {
        std::error_code ec;
        return media::kind_of(source) == media::Kind::Film && std::filesystem::is_regular_file(source, ec);
      });
  if (film == ask.folders.end()) return;
  const bool planned = take.solution().complete();
  if (planned && take.gather.film_step <= 0) {
    const plan::Schedule schedule = schedule_of(take);
    const double pictures = schedule.interval_s() * media::film_rate(*film).value();
    // A camera's own movie is as long as the plan's film: each of its pictures is a frame.
    const auto has = static_cast<double>(media::film_pictures(*film)),
               wanted = static_cast<double>(schedule.shots());
    if (pictures > 1.5 && std::abs(has - wanted) <= std::max(2.0, 0.02 * wanted)) {
      ask.film_stretch = pictures;
      return;
    }
    ask.film_step = std::max(1LL, std::llround(pictures));
  }
  if (take.gather.film_step > 0) ask.film_step = take.gather.film_step;
}

inspect::Planned planned_of(const take::Take& take, std::size_t frames) {
  inspect::Planned planned;
  if (take.light.method != ramp::Method::Hand || !knows_light(take) || !take.solution().complete())
    return planned;
  const ramp::Ramp ramp = ramp_in_any_case(take);
  if (ramp.ev.empty() || ramp.chain.size() < frames) return planned;
  for (size_t n = 0; n < frames; ++n) {
    media::ShotInfo i;
    i.shutter_s = ramp.chain[n].shutter_s;
    i.f_number = ramp.chain[n].f_number;
    i.iso = ramp.chain[n].iso;
    planned.stops.push_back(*media::relative_stops(i));
  }
  return planned;
}

Fix clock_fix(const take::Take& take, media::CameraTime shown, const std::string& right) {
  // Both are wall clocks at the place: no zone comes into it.
  const Instant at = parse_wall_time(right, "UTC");
  const double off = std::chrono::duration<double>(media::CameraTime(at.time_since_epoch()) - shown).count();
  return fix::SetClock{take.gather.clock_s + off};
}

std::optional<double> clock_error_s(const take::Take& take, const ingest::Gathered& found,
                                    const std::optional<Instant>& began) {
  const auto start = found.start();
  if (!start || (!began && !take.knows_start())) return {};
  const media::CameraTime right = simulate::camera_clock(began ? *began : take.start, take.place.zone);
  const double off = std::chrono::duration<double>(right - *start).count();
  if (std::abs(off) <= 2 + found.interval_s.value_or(0)) return {};
  return off;
}

}  // namespace askcount::forecast
