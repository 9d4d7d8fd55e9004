#include "plan/budgets.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

namespace askcount::plan {
namespace {

constexpr double kEndless = std::numeric_limits<double>::infinity();
constexpr int kLastFileNumber = 9999;

Budget budget(const std::string& name, double good_for, const Sums& sums) {
  Budget b;
  b.name = name;
  b.shots = good_for;
  const auto shots = static_cast<double>(shots_of(sums));
  b.share = std::isinf(good_for) ? 0 : good_for > 0 ? shots / good_for : 1e9;
  if (good_for < shots) {
    b.ends_at_frame = static_cast<long long>(good_for);
    b.ends_after_s = std::floor(good_for) * sums.interval_s;
  }
  return b;
}

double battery_shots(const Battery& battery, const Sums& sums, const ShotMake& make, double temperature_c) {
  const double cold = cold_share(temperature_c);
  return std::min(battery.rated_shots * cold / make.brackets, battery.powered_hours * 3600 * cold / sums.interval_s);
}

}  // namespace

long long shots_of(const Sums& sums) { return sums.frames + sums.extra_shots; }

double cold_share(double temperature_c) { return std::clamp(1 - 0.015 * (20 - temperature_c), 0.3, 1.0); }

std::vector<Budget> budgets_of(const Sums& sums, const ShotMake& make, const Kit& kit, const Outing& outing) {
  const Body body = kit.bodies.empty() ? Body{} : kit.bodies.front();
  std::vector<Budget> list;
  const auto add = [&](const std::string& name, double good_for, const std::string& words) {
    list.push_back(budget(name, good_for, sums));
    list.back().words = words;
  };
  const auto count = [](double n) { return format_count(static_cast<long long>(std::min(n, 1e15))); };
  if (outing.external_power) {
    add("battery", kEndless, "external power");
  } else if (!kit.batteries.empty()) {
    double good = 0;
    for (const Battery& b : kit.batteries) good += std::floor(battery_shots(b, sums, make, outing.temperature_c));
    add("battery", good, fmt::format("{} to frame {}", kit.batteries.size() > 1 ? fmt::format("{} last", kit.batteries.size()) : "lasts", count(good)));
  }
  if (!kit.cards.empty()) {
    const double good = std::floor(kit.cards.front().capacity_gb * 1000 / std::max(0.01, shot_mb(make, body)));
    add("card", good, fmt::format("holds {} frames", count(good)));
  }
  if (outing.timer_max_count > 0)
    add("timer", static_cast<double>(outing.timer_max_count), fmt::format("stops at {}", format_count(outing.timer_max_count)));
  else
    add("timer", kEndless, "endless");
  const double numbers = std::floor(static_cast<double>(kLastFileNumber - body.next_file_number + 1) / make.brackets);
  add("file numbers", numbers, fmt::format("{} left", count(numbers * make.brackets)));
  if (body.shutter_life > 0) {
    const double left = std::floor(static_cast<double>(std::max(0LL, body.shutter_life - body.shutter_count)) / make.brackets);
    const double share = 100.0 * static_cast<double>(shots_of(sums)) * make.brackets / static_cast<double>(body.shutter_life);
    add("shutter life", left, fmt::format("{} of {}", format_number(share, share < 1 ? 2 : 0) + " %", format_count(body.shutter_life)));
  } else {
    add("shutter life", kEndless, "electronic, does not wear");
  }
  if (outing.disk_free_gb > 0) {
    const double good = std::floor(outing.disk_free_gb * 1000 / std::max(0.01, shot_mb(make, body)));
    add("disk", good, fmt::format("room for {}", count(good)));
  }
  return list;
}

Findings judge(const std::vector<Budget>& budgets, const Sums& sums, const ShotMake& make, const Kit& kit, const Outing& outing) {
  Findings list;
  const Budget* first = nullptr;
  for (const Budget& b : budgets)
    if (b.ends_at_frame && (!first || *b.ends_at_frame < *first->ends_at_frame)) first = &b;
  const long long shots = shots_of(sums);
  for (const Budget& b : budgets) {
    if (!b.ends_at_frame) continue;
    const std::string where = fmt::format("after frame {} of {}, {} in", format_count(*b.ends_at_frame), format_count(shots), format_length(b.ends_after_s));
    const std::string lead = &b == first && budgets.size() > 1 ? "It is the first to end, " : "It ends ";
    if (b.name == "file numbers")
      list.push_back({"numbers_roll_over", Severity::Warning, "File numbers roll over",
                      lead + where + ". Reset the numbering first, so that the frames sort.", "", {}});
    else if (b.name == "timer")
      list.push_back({"timer_ends", Severity::Stop, "The timer stops too early", lead + where + ". Start it again there, or set it to endless.", "", {}});
    else if (b.name == "card")
      list.push_back({"card_ends", Severity::Stop, "The card fills up", lead + where + ". Take a larger card, or keep smaller files.", "", {}});
    else if (b.name == "battery")
      list.push_back({"battery_ends", Severity::Stop, "The batteries end first", lead + where + ". Bring more, or power the camera from outside (dry, and away from mains outdoors).", "", {}});
    else if (b.name == "shutter life")
      list.push_back({"shutter_worn", Severity::Warning, "The shutter passes what it was made for", lead + where + ".", "", {}});
    else
      list.push_back({"disk_full", Severity::Warning, "The disk at home is too small", lead + where + ". Make room before you copy.", "", {}});
  }
  // When to change batteries, where several come along.
  if (!outing.external_power && kit.batteries.size() > 1) {
    const double first_one = std::floor(battery_shots(kit.batteries.front(), sums, make, outing.temperature_c));
    if (first_one < static_cast<double>(shots))
      list.push_back({"swap_battery", Severity::Warning, "Change the battery on the way",
                      fmt::format("{} is good to frame {}: change it a few frames before, right after a shot, holding the body and not the lens.",
                                  kit.batteries.front().name, format_count(static_cast<long long>(first_one))), "", {}});
  }
  if (!first)
    list.push_back({"budgets_last", Severity::Ok, "Everything lasts", fmt::format("{} are covered.", counted(shots * make.brackets, "exposure")), "", {}});
  return list;
}

std::vector<Way> ways_of(const Sums& sums, const ShotMake& make, const Body& body) {
  const double seconds = static_cast<double>(sums.frames) * sums.interval_s;
  return {{"stills by timer", sums.clip_s, static_cast<double>(shots_of(sums)) * shot_mb(make, body) / 1000,
           fmt::format("{} × {} pixels, room to crop, any frame rate later, follows changing light.", body.pixels_across, body.pixels_down)},
          {"camera's own movie", static_cast<double>(sums.frames) / body.movie_fps, static_cast<double>(sums.frames) * 0.0008 * body.video_mbit_s / 100 * 25 / body.movie_fps,
           fmt::format("The same shots make {} at its own {} fps; the rate cannot be changed later, nor the light evened out from raw.",
                       format_length(static_cast<double>(sums.frames) / body.movie_fps, 1), format_number(body.movie_fps, 2))},
          {"video sped up", sums.clip_s, seconds * body.video_mbit_s / 8000,
           fmt::format("{} of video played {} times faster: no long shutters, video pixels only, and the battery of filming.", format_length(seconds),
                       format_number(sums.speed_up, 0))}};
}

}  // namespace askcount::plan
