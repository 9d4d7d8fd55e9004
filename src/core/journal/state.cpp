// SPDX-License-Identifier: GPL-3.0-or-later
#include "journal/state.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>

#include "base/language.h"

namespace askcount::journal {
namespace {

constexpr long long kMostFrames = 1000000;

/// Milliseconds of universal time; those of no century are 1970.
Instant moment(const Json& entry, const char* key) {
  constexpr long long kYear2400_ms = 13569465600000;
  const long long ms = entry.value(key, 0LL);
  return Instant(std::chrono::milliseconds(ms > 0 && ms < kYear2400_ms ? ms : 0));
}

double number(const Json& entry, const char* key, double otherwise, double most) {
  const double value = entry.value(key, otherwise);
  return value >= 0 && value <= most ? value : otherwise;
}

/// The frame an entry names, within what a take can have; `otherwise` where it names none.
long long frame_in(const Json& entry, long long otherwise) {
  return std::clamp(entry.value("frame", otherwise), -1LL, kMostFrames);
}

std::optional<ramp::Dial> dial_of(const std::string& word) {
  if (word == "shutter") return ramp::Dial::Shutter;
  if (word == "aperture") return ramp::Dial::Aperture;
  if (word == "iso") return ramp::Dial::Iso;
  return {};
}

/// The dials an entry names; nothing where they cannot be.
std::optional<ramp::Exposure> dials_in(const Json& e) {
  const ramp::Exposure x{e.value("shutter_s", 0.0), e.value("f_number", 0.0), e.value("iso", 0.0)};
  const bool good = x.shutter_s > 1e-7 && x.shutter_s < 1e5 && x.f_number > 0.3 && x.f_number < 1000 &&
                    x.iso > 0.1 && x.iso < 1e8;
  return good ? std::optional(x) : std::nullopt;
}

/// The days of a take by hours of work, [frame, seconds] each; none where they are not told or go backwards.
std::vector<ShootState::Run> runs_in(const Json& entry) {
  std::vector<ShootState::Run> runs;
  for (const Json& one : entry.value("runs", Json::array())) {
    const ShootState::Run run{one.at(0).get<long long>(), one.at(1).get<double>()};
    const bool on = runs.empty() ? run.first == 0 && run.from_s == 0
                                 : run.first > runs.back().first && run.from_s > runs.back().from_s;
    if (!on || run.first > kMostFrames || !(run.from_s < 1e10)) return {};
    runs.push_back(run);
  }
  return runs;
}

}  // namespace

Seconds ShootState::at_s(long long frame) const {
  const auto next = std::upper_bound(runs.begin(), runs.end(), frame,
                                     [](long long n, const Run& r) { return n < r.first; });
  if (next == runs.begin()) return static_cast<double>(frame) * interval_s;
  const Run& run = *(next - 1);
  return run.from_s + static_cast<double>(frame - run.first) * interval_s;
}

long long ShootState::frame_at(Instant now) const {
  if (real_interval_s() <= 0) return shots - 1;
  const double field_s = seconds_between(first, paused ? *paused : now) * scale;
  const auto next = std::upper_bound(runs.begin(), runs.end(), field_s + 1e-9 * interval_s,
                                     [](double s, const Run& r) { return s < r.from_s; });
  const Run run = next == runs.begin() ? Run{} : *(next - 1);
  const long long last = next == runs.end() ? count - 1 : next->first - 1;  // of that day
  const auto into = static_cast<long long>(std::floor((field_s - run.from_s) / interval_s + 1e-9));
  return std::clamp(run.first + into, -1LL, std::min(last, count - 1));
}

std::optional<Seconds> ShootState::next_shot_in(Instant now) const {
  const double real = real_interval_s();
  if (real <= 0 || !active) return {};
  const long long frame = frame_at(now);
  if (frame >= count - 1) return {};
  return std::max(0.0, seconds_between(paused ? *paused : now, later(first, at_s(frame + 1) / scale)));
}

ShootState state_of(const std::vector<Json>& journal) {
  ShootState s;
  for (const Json& e : journal) {
    const std::string what = e["what"].is_string() ? e["what"].get<std::string>() : "";
    try {
      if (what == "start") {
        s = {};
        s.active = true;
        s.standin = e.value("standin", false);
        s.socket = e.value("socket", "");
        s.scale = number(e, "scale", 1, 1e6);
        s.first = moment(e, "first_ms");
        s.interval_s = number(e, "interval_s", 0, 1e7);
        s.runs = runs_in(e);
        s.first_dials = dials_in(e);
        s.count = std::clamp(e.value("count", 0LL), 0LL, kMostFrames);
      } else if (what == "shot") {
        s.last_event = std::max(s.last_event, e.value("number", 0LL));
        s.shots = std::max(s.shots, frame_in(e, -1) + 1);
      } else if (what == "missed") {
        s.last_event = std::max(s.last_event, e.value("number", 0LL));
        ++s.missed;
      } else if (what == "turn") {
        const auto dial = dial_of(e.value("dial", ""));
        if (dial)
          s.turns.push_back({frame_in(e, 0),
                             *dial,
                             std::clamp(e.value("thirds", 0), -60, 60),
                             e.value("planned", false),
                             {},
                             moment(e, "at")});
      } else if (what == "dials") {
        if (const auto dials = dials_in(e)) {
          s.turns.push_back({frame_in(e, 0), ramp::Dial::Shutter, 0, false, dials, moment(e, "at")});
          if (e.value("filters_off", false)) s.filters_off = frame_in(e, 0);
        }
      } else if (what == "skip") {
        s.skipped.push_back(frame_in(e, 0));
      } else if (what == "meter") {
        const double ev = e.value("ev100", 99.0);
        if (ev > -20 && ev < 30) s.readings.push_back({frame_in(e, 0), ev});
      } else if (what == "change") {  // as journals of format 1 have it: by the plan's own number
        s.notes.push_back(
            {frame_in(e, 0),
             e.value("skipped", false) ? say("A planned click was skipped") : say("A planned click was done"),
             ""});
      } else if (what == "note") {
        s.last_event = std::max(s.last_event, e.value("number", 0LL));
        s.notes.push_back({frame_in(e, 0), e.value("words", ""), e.value("fault", "")});
      } else if (what == "put") {  // "I am at frame N": that frame is now
        const auto frame = static_cast<long long>(number(e, "frame", 0, 1e6));
        s.first = later(moment(e, "at"), s.scale > 0 ? -s.at_s(frame) / s.scale : 0);
      } else if (what == "pause" && !s.paused) {
        s.paused = moment(e, "at");
      } else if (what == "resume" && s.paused) {
        s.first += moment(e, "at") - *s.paused;
        s.paused.reset();
      } else if (what == "end") {
        s.active = false;
      }
    } catch (const Json::exception&) {
      // A line that says something else than it should is passed over.
    }
  }
  return s;
}

}  // namespace askcount::journal
