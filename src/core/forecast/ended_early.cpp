// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/ended_early.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "forecast/light.h"
#include "ingest/pace.h"
#include "plan/budgets.h"
#include "plan/kit.h"

namespace askcount::forecast {
namespace {

constexpr double kSameInterval = 0.06;
constexpr double kNear = 0.15;  // of the presses: a forecast is no closer than that

/// What so many presses are the end of.
End cause_of(const take::Take& take, const ingest::FoundTake& found, long long reached) {
  const Forecast f = forecast_of(take);
  const auto near = [reached](double at) {
    return std::abs(static_cast<double>(reached) - at) <= std::max(3.0, kNear * at);
  };
  if (f.ends_by != End::Plan && f.ends_by != End::Light && near(static_cast<double>(f.ends_at)))
    return f.ends_by;
  for (const plan::Timer& t : plan::timers_of(take.kit))
    if (t.max_count > 0 && std::abs(reached - t.max_count) <= 1 &&
        (t.name == take.timer_model().name || !take.knows_timer()))
      return End::Timer;
  double megabytes = 0;
  for (const media::Frame& frame : *found.frames) megabytes += ingest::megabytes_of(frame);
  for (const plan::Card& c : take.kit.cards)
    if (megabytes > 0.9 * c.capacity_gb * 1000) return End::Card;
  return End::Plan;
}

std::string cause_words(End by) {
  switch (by) {
    case End::Battery:
      return say("The battery was most likely empty: by the forecast it ends about there.");
    case End::Bank:
      return say("The power bank was most likely empty: by the forecast it ends about there.");
    case End::Card:
      return say("The card was most likely full.");
    case End::Timer:
      return say("The timer had most likely counted to its end.");
    case End::Plan:
    case End::Light:
      break;
  }
  return say("A battery, a full card, the timer's count or a loose cable: look which.");
}

}  // namespace

std::optional<EndedEarly> ended_early(const take::Take& take, const ingest::FoundTake& found) {
  if (!take.solution().complete() || found.frames->size() < 5) return {};
  EndedEarly e;
  e.frames = static_cast<long long>(found.frames->size());
  e.reached = e.frames;
  for (const ingest::Missing& m : found.missing) e.reached += m.frames;
  e.planned = plan::shots_of(take.sums());
  const long long harmless = std::max(2LL, e.planned / 100);
  if (e.reached >= e.planned - harmless) return {};
  const double interval = schedule_of(take).interval_s();
  if (found.interval_s && std::abs(*found.interval_s - interval) > kSameInterval * interval) return {};
  e.last = found.end();
  e.by = cause_of(take, found, e.reached);
  return e;
}

Finding judge(const take::Take& take, const EndedEarly& e) {
  const plan::Sums sums = take.sums();
  const double fps = sums.fps.value();
  std::string when;
  if (e.last) {
    const auto clock = std::chrono::duration_cast<std::chrono::minutes>(
        e.last->time_since_epoch() - std::chrono::floor<std::chrono::days>(e.last->time_since_epoch()));
    when =
        say(" at {} by the camera's clock", fmt::format("{}:{:02}", clock.count() / 60, clock.count() % 60));
  }
  std::string text =
      say("It ends{}, after {} of {} shots. ", when, format_count(e.reached), format_count(e.planned));
  text += cause_words(e.by) + " ";
  text += say("The film will be {} long, not {}. ", format_length(static_cast<double>(e.frames) / fps, 1),
              format_length(static_cast<double>(e.planned) / fps, 1));
  text += say(
      "Tonight: if the tripod still stands, put that right and shoot the other {} from here, with the same "
      "frame and the same settings; both join into one take.",
      format_count(e.planned - e.reached));
  return {"ended_early", Severity::Warning,
          say("The take ended early: {} of {}", format_count(e.frames),
              counted(e.planned, "{} frame", "{} frames")),
          text};
}

}  // namespace askcount::forecast
