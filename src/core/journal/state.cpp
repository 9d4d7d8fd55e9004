#include "journal/state.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>

namespace askcount::journal {
namespace {

Instant moment(const Json& entry, const char* key) {
  return Instant(std::chrono::milliseconds(entry.value(key, 0LL)));
}

}  // namespace

long long ShootState::frame_at(Instant now) const {
  const double real = real_interval_s();
  if (real <= 0) return shots - 1;
  const Instant at = paused ? *paused : now;
  return std::clamp(static_cast<long long>(std::floor(seconds_between(first, at) / real + 1e-9)), -1LL,
                    count - 1);
}

std::optional<Seconds> ShootState::next_shot_in(Instant now) const {
  const double real = real_interval_s();
  if (real <= 0 || !active) return {};
  const long long frame = frame_at(now);
  if (frame >= count - 1) return {};
  return std::max(
      0.0, seconds_between(paused ? *paused : now, later(first, static_cast<double>(frame + 1) * real)));
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
        s.scale = e.value("scale", 1.0);
        s.first = moment(e, "first_ms");
        s.interval_s = e.value("interval_s", 0.0);
        s.count = e.value("count", 0LL);
      } else if (what == "shot") {
        s.last_event = std::max(s.last_event, e.value("number", 0LL));
        if (e.value("frame", -1LL) >= 0) s.shots = std::max(s.shots, e["frame"].get<long long>() + 1);
      } else if (what == "missed") {
        s.last_event = std::max(s.last_event, e.value("number", 0LL));
        ++s.missed;
      } else if (what == "change") {
        s.changes.push_back({e.value("click", 0LL), e.value("frame", 0LL), e.value("planned", 0LL),
                             e.value("skipped", false), moment(e, "at")});
      } else if (what == "note") {
        s.last_event = std::max(s.last_event, e.value("number", 0LL));
        s.notes.push_back({e.value("frame", 0LL), e.value("words", ""), e.value("fault", "")});
      } else if (what == "put") {  // "I am at frame N": that frame is now
        s.first = later(moment(e, "at"), -static_cast<double>(e.value("frame", 0LL)) * s.real_interval_s());
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
