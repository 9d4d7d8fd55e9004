#include "take/journal.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cmath>
#include <cstring>

#include "base/error.h"

namespace askcount::take {
namespace {

Instant now_ms() {
  return std::chrono::floor<std::chrono::milliseconds>(std::chrono::system_clock::now());
}

Instant moment(const Json& entry, const char* key) {
  return Instant(std::chrono::milliseconds(entry.value(key, 0LL)));
}

}  // namespace

Journal::~Journal() {
  close();
}
Journal::Journal(Journal&& other) noexcept
    : handle_(std::exchange(other.handle_, -1)), file_(std::move(other.file_)) {}
Journal& Journal::operator=(Journal&& other) noexcept {
  if (this != &other) {
    close();
    handle_ = std::exchange(other.handle_, -1);
    file_ = std::move(other.file_);
  }
  return *this;
}

void Journal::open(const std::filesystem::path& file) {
  close();
  file_ = file;
  handle_ = ::open(file.c_str(), O_WRONLY | O_CREAT | O_APPEND | O_CLOEXEC, 0644);
  if (handle_ < 0)
    throw failed(fmt::format("The journal {} cannot be written: {}.", file.string(), std::strerror(errno)),
                 "Save the take where there is room and permission.");
}

void Journal::close() {
  if (handle_ >= 0) ::close(handle_);
  handle_ = -1;
}

void Journal::append(Json entry) {
  if (handle_ < 0) return;
  entry["at"] = now_ms().time_since_epoch().count();
  const std::string line = entry.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n";
  // One write a line: a line is there whole or, after a crash, a half one at the very end.
  if (::write(handle_, line.data(), line.size()) != static_cast<ssize_t>(line.size()) ||
      ::fdatasync(handle_) != 0)
    throw failed(fmt::format("The journal {} cannot be written: {}.", file_.string(), std::strerror(errno)),
                 "Is there room?");
}

std::vector<Json> read_journal(const std::filesystem::path& file) {
  std::vector<Json> list;
  std::ifstream in(file);
  for (std::string line; std::getline(in, line);) {
    Json json = Json::parse(line, nullptr, false);
    if (!json.is_discarded() && json.is_object() && json.contains("what")) list.push_back(std::move(json));
  }
  return list;
}

std::filesystem::path journal_file(const std::filesystem::path& take_file) {
  std::filesystem::path file = take_file;
  return file.replace_extension(".journal");
}

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

std::vector<Due> due_clicks(const ramp::Ramp& ramp, const ShootState& state, long long frame,
                            const ramp::RampRule& rule) {
  std::vector<Due> list;
  long long last = -1000000;
  for (const ShootState::Change& c : state.changes)
    if (!c.skipped) last = std::max(last, c.frame);
  for (size_t i = 0; i < ramp.steps.size(); ++i) {
    const auto click = static_cast<long long>(i);
    if (std::any_of(state.changes.begin(), state.changes.end(),
                    [&](const ShootState::Change& c) { return c.click == click; }))
      continue;
    const long long planned = ramp.steps[i].click.frame;
    long long due = std::max(planned, frame + 1);
    if (due > planned || !list.empty())
      due = std::max(due, std::max(planned, last + (list.empty() && last < -1000
                                                        ? 0
                                                        : static_cast<long long>(rule.frames_apart_late))));
    if (list.empty() && planned <= frame) due = std::max(frame + 1, last + rule.frames_apart_late);
    list.push_back({click, due, due - planned});
    last = due;
  }
  return list;
}

}  // namespace askcount::take
