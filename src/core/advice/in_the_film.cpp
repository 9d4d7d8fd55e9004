// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/in_the_film.h"

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "forecast/light.h"
#include "forecast/night.h"
#include "sky/ambient.h"
#include "sky/events.h"
#include "sky/weather.h"

namespace askcount::advice {
namespace {

using sky::Body;
using take::Take;

constexpr Seconds kYear_s = 366 * 86400.0;
constexpr double kDark_deg = -12;   // the sun, where stars are seen
constexpr double kAllOfIt = 0.995;  // of the film is all of it
constexpr double kHalfOfIt = 0.5;

const char* name_of(Body body) {
  static constexpr const char* names[] = {to_say("The sun"), to_say("The moon"), to_say("The galaxy's core")};
  return names[static_cast<int>(body)];
}

/// A take laid over the sky.
class Film {
 public:
  Film(const Take& take, const ramp::Ramp& ramp)
      : take_(take),
        ramp_(ramp),
        schedule_(forecast::schedule_of(take)),
        from_(schedule_.at(0)),
        end_(later(from_, schedule_.field_s(take.sums().shutter_s))),
        sky_(sky::ephemeris_for(from_, end_)) {}

  Findings findings() {
    subject();
    lost_light();
    moon();
    lamps();
    return std::move(list_);
  }

 private:
  /// "20:14", with its day where it is another than the first shot's.
  std::string clock(Instant at) const {
    const std::string words = format_clock(at, take_.place.zone);
    const Day day = day_of(at, take_.place.zone);
    return day == day_of(from_, take_.place.zone) ? words : day_words(day) + ", " + words;
  }
  /// Shots before a moment.
  long long shots_to(Instant at) const {
    return std::clamp(schedule_.press_at(seconds_between(from_, at)) + 1, 0LL, schedule_.shots());
  }
  double share(long long shots) const {
    return static_cast<double>(shots) / static_cast<double>(std::max(1LL, schedule_.shots()));
  }
  static std::string percent(double share) { return format_number(100 * share, 0) + " %"; }
  /// As many frames of film as there are shots to an end.
  std::optional<Fix> end_after(long long shots) const {
    const long long frames = shots - take_.sums().extra_shots;
    return frames >= 25 ? std::optional<Fix>(fix::SetSlot{plan::Slot::Frames, static_cast<double>(frames)})
                        : std::nullopt;
  }
  /// The whole take earlier or later by this much, where the first shot is then still by night.
  std::optional<Fix> start_moved(Seconds by) const {
    const Instant start = later(from_, by);
    const Instant from = std::min(start, from_);
    if (!take_.work.always()) return {};
    const auto sky = sky::ephemeris_for(from, later(from, 86400));
    if (sky->at(Body::Sun, start, take_.place).altitude_deg > kDark_deg) return {};
    return fix::StartAt{std::chrono::floor<std::chrono::minutes>(start), take_.place.zone};
  }

  std::vector<sky::Passage> passages(Body body, const sky::Move& move) const {
    return sky::passages_of(*sky_, body, take_.place, {move, forecast::optics_of(take_), take_.light.horizon},
                            {from_, end_});
  }
  double in_frame(const std::vector<sky::Passage>& passages) const {
    long long shots = 0;
    for (const sky::Passage& p : passages)
      shots += (p.at_end ? schedule_.shots() : shots_to(p.to)) - (p.at_start ? 0 : shots_to(p.from));
    return share(shots);
  }

  void subject();
  std::optional<Fix> aim_for(Body body, double now) const;
  void lost_light();
  void moon();
  void lamps();
  void add(const char* code, Severity severity, std::string title, std::string text,
           std::optional<Fix> fix = {}) {
    list_.push_back({code, severity, std::move(title), std::move(text), std::move(fix)});
  }

  const Take& take_;
  const ramp::Ramp& ramp_;
  const plan::Schedule schedule_;
  const Instant from_, end_;
  const std::shared_ptr<const sky::Ephemeris> sky_;
  Findings list_;
};

/// Where it stands in the middle of the take, with room for the land below.
std::optional<Fix> Film::aim_for(Body body, double now) const {
  const Instant middle = from_ + (end_ - from_) / 2;
  const sky::Direction d = sky_->at(body, middle, take_.place);
  if (d.altitude_deg < 1) return {};
  const double room = 0.2 * forecast::optics_of(take_).down_deg();
  const sky::Aim aim{std::round(std::fmod(d.azimuth_deg + 360, 360)),
                     std::round(std::min(80.0, d.altitude_deg - room)), 0};
  const sky::Move move{aim, aim, false};
  return in_frame(passages(body, move)) > now + 0.05
             ? std::optional<Fix>(fix::AimAt{aim.bearing_deg, aim.tilt_deg})
             : std::nullopt;
}

void Film::subject() {
  if (!take_.light.knows_aim()) return;
  const Body body = forecast::body_to_keep(take_);
  const std::string name = say(name_of(body));
  const auto stays = passages(body, take_.light.move);
  const double left = in_frame(stays);
  if (stays.empty())
    return add("subject_not_in_frame", Severity::Warning, say("{} is never in the frame", name),
               say("Drag the frame to where it passes, or choose another time."), aim_for(body, 0));
  const sky::Passage &first = stays.front(), &last = stays.back();
  if (left >= kAllOfIt)
    return add("subject_stays", Severity::Ok, say("{} stays in the frame", name),
               say("From the first shot to the last."));
  std::string text = first.at_start ? say("In the frame until {}", clock(first.to))
                                    : say("It enters at {}", clock(first.from));
  if (!first.at_start) text += first.at_end ? say(" and stays") : say(" and leaves at {}", clock(first.to));
  if (stays.size() > 1)
    text += last.at_end ? say(", comes back at {}", clock(last.from))
                        : say(", and again from {} to {}", clock(last.from), clock(last.to));
  text += say(": in {} of the film.", percent(left));
  // The sun may well leave: that is what evenings are for. Stars and moon are what the film is of.
  const bool meant = body != Body::Sun;
  std::optional<Fix> help;
  if (meant) {
    if (!last.at_end && first.at_start && body == Body::Core)
      help = start_moved(-seconds_between(last.to, end_) - 60);
    if (!help) help = aim_for(body, left);
    if (!help && !last.at_end && stays.size() == 1 && first.at_start) help = end_after(shots_to(last.to));
  }
  add("subject_passes", meant && left < kHalfOfIt ? Severity::Warning : Severity::Ok,
      say("{} passes the frame", name), text, help);
}

void Film::lost_light() {
  if (ramp_.meter.empty() || ramp_.meter.size() < static_cast<size_t>(schedule_.shots())) return;
  const auto lost = [](double m) { return m > ramp::kClips_stops || m < ramp::kDrowns_stops; };
  const auto first = std::find_if(ramp_.meter.begin(), ramp_.meter.end(), lost);
  if (first == ramp_.meter.end()) return;
  const auto n = static_cast<long long>(first - ramp_.meter.begin());
  const auto good = std::count_if(ramp_.meter.begin(), ramp_.meter.end(), [&](double m) { return !lost(m); });
  const bool burnt = *first > 0;
  // A light that comes back is not ended by.
  const bool for_good = good <= n;
  const Instant at = schedule_.at(n);
  const bool dawn = burnt && sky_->at(Body::Sun, later(at, 300), take_.place).altitude_deg >
                                 sky_->at(Body::Sun, at, take_.place).altitude_deg;
  add(burnt ? "light_burns" : "light_drowns", Severity::Warning,
      burnt ? (dawn ? say("Dawn burns it out from {}", clock(at)) : say("It burns out from {}", clock(at)))
            : say("Too dark to see from {}", clock(at)),
      say("At frame {} the meter stands {} stops {}: {} of the film can be seen.", format_count(n + 1),
          format_number(std::abs(*first), 1), burnt ? say("over") : say("under"), percent(share(good))),
      for_good ? end_after(n) : std::nullopt);
}

void Film::moon() {
  if (take_.lamp || schedule_.pauses()) return;
  for (const sky::Crossing& c : sky::moon_crossings(*sky_, take_.place, from_, end_)) {
    if (sky_->at(Body::Sun, c.at, take_.place).altitude_deg > sky::kCivil_deg) continue;
    const long long shots = shots_to(c.at);
    const double lit = sky_->moon(c.at).lit;
    const bool stars = forecast::body_to_keep(take_) == Body::Core;
    const std::string lights = say("{} % of it is lit.", format_number(100 * lit, 0));
    if (c.rising)
      add("moon_rises", stars && lit > 0.15 ? Severity::Warning : Severity::Ok,
          say("The moon rises at {}", clock(c.at)),
          say("From frame {} on, {} of the film, it lights land and sky. {}", format_count(shots + 1),
              percent(1 - share(shots)), lights),
          stars && lit > 0.15 ? start_moved(-seconds_between(c.at, end_) - 60) : std::nullopt);
    else
      add("moon_sets", Severity::Ok, say("The moon sets at {}", clock(c.at)),
          say("Until frame {}, for {} of the film, it lights land and sky. {}", format_count(shots),
              percent(share(shots)), lights));
    if (stars && c.rising && lit > 0.15 && !list_.back().fix) list_.back().fix = end_after(shots);
  }
}

void Film::lamps() {
  if (take_.light.source.town_lux <= 0 || seconds_between(from_, end_) > 86400.0) return;
  const auto change = sky::lamps_change(*sky_, take_.place, take_.light.source.cover, from_, end_);
  if (!change) return;
  const long long before = shots_to(change->from);
  add("town_lamps", Severity::Ok,
      change->on ? say("The town's lamps come on") : say("The town's lamps go out"),
      say("One after the other from {} to {}, from frame {} on: the ramp counts them in, up to {} lux. They "
          "are on "
          "in {} of the film.",
          clock(change->from), clock(change->to), format_count(before + 1),
          format_number(take_.light.source.town_lux, 1),
          percent(change->on ? 1 - share(before) : share(before))));
}

}  // namespace

Findings in_the_film(const Take& take, const ramp::Ramp& ramp) {
  if (!take.knows_sky() || !take.solution().complete() || take.sums().field_s > kYear_s) return {};
  return Film(take, ramp).findings();
}

}  // namespace askcount::advice
