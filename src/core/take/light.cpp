#include "take/light.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/units.h"

namespace askcount::take {
namespace {

std::string clock_of(const Take& take, long long frame, Seconds interval_s) {
  return format_clock(later(take.start, static_cast<double>(frame) * interval_s), take.place.zone);
}

Finding in_frame(const Take& take, const plan::Sums& sums) {
  const Instant end = later(take.start, sums.field_s);
  const auto kept = sky::ephemeris_for(take.start, end);
  const sky::Ephemeris& sky = *kept;
  const auto passages = sky::passages_of(sky, take.light.subject, take.place, take.light.move,
                                         optics_of(take), take.light.horizon, take.start, end);
  static constexpr const char* names[] = {"The sun", "The moon", "The galaxy's core"};
  const std::string name = names[static_cast<int>(take.light.subject)];
  const auto clock = [&](Instant t) { return format_clock(t, take.place.zone); };
  if (passages.empty())
    return {"subject_not_in_frame",
            Severity::Warning,
            name + " is never in the frame",
            "Drag the frame to where it passes, or choose another time.",
            "",
            {}};
  const sky::Passage &first = passages.front(), &last = passages.back();
  if (passages.size() == 1 && first.at_start && last.at_end)
    return {"subject_stays",
            Severity::Ok,
            name + " stays in the frame",
            "From the first shot to the last.",
            "",
            {}};
  std::string text = first.at_start ? fmt::format("In the frame until {}", clock(first.to))
                                    : fmt::format("It enters at {}", clock(first.from));
  if (!first.at_start)
    text += first.at_end ? " and stays" : fmt::format(" and leaves at {}", clock(first.to));
  if (passages.size() > 1)
    text += last.at_end ? fmt::format(", comes back at {}", clock(last.from))
                        : fmt::format(", and again from {} to {}", clock(last.from), clock(last.to));
  return {"subject_passes", Severity::Ok, name + " passes the frame", text + ".", "", {}};
}

}  // namespace

Seconds room_of(const Take& take) {
  const plan::Sums sums = take.sums();
  return std::max(1e-3, sums.interval_s - take.body().writing_s - take.light.turning_s - take.shot.lock_s);
}

ramp::RampRule rule_of(const Take& take) {
  ramp::RampRule rule = take.light.rule;
  const Seconds room = room_of(take);
  rule.longest_shutter_s = rule.longest_shutter_s > 0 ? std::min(rule.longest_shutter_s, room)
                                                      : std::min(room, take.body().longest_shutter_s * 1.07);
  rule.shortest_shutter_s = std::min(std::max(rule.shortest_shutter_s, take.body().shortest_shutter_s / 1.03),
                                     rule.longest_shutter_s);
  rule.widest_f = std::max(rule.widest_f, take.lens().widest_f);
  rule.start_f = std::clamp(rule.start_f, rule.widest_f, std::max(rule.widest_f, take.lens().smallest_f));
  rule.lowest_iso = std::max(rule.lowest_iso, take.body().lowest_iso);
  rule.highest_iso = std::max(rule.lowest_iso, std::min(rule.highest_iso, take.body().highest_iso));
  return rule;
}

ramp::Ramp ramp_of(const Take& take) {
  const plan::Sums sums = take.sums();
  const auto ev = ramp::light_along(take.light.source, take.place, take.start, sums.interval_s,
                                    sums.frames + sums.extra_shots);
  return ramp::ramp_by_hand(ev, rule_of(take), sums.interval_s, take.light.clicks);
}

std::vector<ramp::Reading> readings_of(const std::vector<gather::Frame>& frames, const std::string& zone) {
  std::vector<ramp::Reading> list;
  for (const gather::Frame& f : frames) {
    const auto stops = picture::exposure_stops(f.info);
    if (!stops || !f.info.captured) continue;
    const std::string wall = format_iso(Instant(f.info.captured->time_since_epoch()), "UTC").substr(0, 19);
    list.push_back({parse_wall_time(wall, zone), -*stops});
  }
  if (list.size() < 2)
    throw bad_input("Fewer than two frames say when and how they were exposed.",
                    "Choose the folder of a take whose frames still have their metadata.");
  std::stable_sort(list.begin(), list.end(),
                   [](const ramp::Reading& a, const ramp::Reading& b) { return a.at < b.at; });
  return list;
}

std::vector<ramp::Reading> curve_of(const Take& take, const ramp::Ramp& ramp) {
  const Seconds interval = take.sums().interval_s;
  const auto stride = std::max<size_t>(1, static_cast<size_t>(60 / interval));
  std::vector<ramp::Reading> list;
  for (size_t n = 0; n < ramp.ev.size(); n += stride)
    list.push_back({later(take.start, static_cast<double>(n) * interval), ramp.ev[n]});
  return list;
}

sky::Optics optics_of(const Take& take) {
  return {take.lens().focal_mm, take.body().sensor_width_mm, take.body().sensor_height_mm,
          take.film.size.shape()};
}

void start_at(Take& take, Instant start) {
  take.start = std::chrono::floor<std::chrono::minutes>(start);
  take.light.clicks.clear();  // they belonged to another light
}

Findings cautions(const Take& take) {
  Findings list;
  const auto sums = take.solution().complete() ? std::optional(take.sums()) : std::nullopt;
  const Instant end = later(take.start, sums ? std::min(sums->field_s, 86400.0) : 3600);
  const auto kept = sky::ephemeris_for(take.start, end);
  const sky::Ephemeris& sky = *kept;
  const sky::Move& move = take.light.move;
  const auto sun = sky::passages_of(sky, sky::Body::Sun, take.place, move, optics_of(take),
                                    take.light.horizon, take.start, end);
  if (!sun.empty())
    list.push_back(
        {"sun_in_frame",
         Severity::Stop,
         "Never look at the sun through an optical finder",
         fmt::format("It is in the frame {} {}. Frame with the screen, cap the lens while you wait; a long "
                     "lens on the sun can burn shutter and sensor.",
                     sun.front().at_end ? "from" : "until",
                     format_clock(sun.front().at_end ? sun.front().from : sun.front().to, take.place.zone)),
         "",
         {}});
  double darkest = 90;
  for (int i = 0; i <= 8; ++i)
    darkest = std::min(
        darkest, sky.at(sky::Body::Sun, take.start + (end - take.start) * i / 8, take.place).altitude_deg);
  if (darkest < -4)
    list.push_back(
        {"dark_edges",
         Severity::Warning,
         "It gets dark while you are there",
         "Walk the place in daylight: know where edges, steps and the tide are, tell somebody where you are "
         "and when you come back. Keep to what is allowed there. Stay with the gear, and off the edge.",
         "",
         {}});
  if (take.temperature_c < 5 && !(take.light.weather.humidity || take.light.weather.dew_point_c))
    list.push_back({"cold_hands",
                    Severity::Warning,
                    "Cold",
                    "Dress for hours of standing, keep spare batteries warm, and stop when fingers go numb.",
                    "",
                    {}});
  return list;
}

Findings light_advice(const Take& take, const ramp::Ramp& ramp) {
  const plan::Sums sums = take.sums();
  Findings list = cautions(take);
  const auto add = [&list](const Findings& more) { list.insert(list.end(), more.begin(), more.end()); };
  if (sums.field_s < 366 * 86400.0) list.push_back(in_frame(take, sums));
  if (take.light.school == ramp::School::Hand) {
    add(ramp::judge(ramp, rule_of(take), sums.interval_s, room_of(take), !take.light.clicks.empty(),
                    [&](long long n) { return clock_of(take, n, sums.interval_s); }));
  } else {
    for (const ramp::SchoolOutcome& o : ramp::compare(ramp, rule_of(take), sums.interval_s, room_of(take)))
      if (o.school == take.light.school)
        list.push_back({o.works ? "school_works" : "school_fails",
                        o.works ? Severity::Ok : Severity::Warning,
                        o.title,
                        o.text,
                        "",
                        {}});
  }
  const auto dew = sky::dew_after_s(take.light.weather, take.temperature_c, sums.field_s);
  add(sky::judge(take.light.weather, take.temperature_c, take.lens().focal_mm, sums.field_s,
                 dew ? format_clock(later(take.start, *dew), take.place.zone) : ""));
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::take
