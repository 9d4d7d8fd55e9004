// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/learn.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "book/measure.h"
#include "book/paths.h"
#include "forecast/exposure.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "image/tone.h"
#include "journal/journal.h"
#include "media/frame_source.h"
#include "media/jpeg.h"
#include "media/position.h"
#include "sky/weather.h"

namespace askcount::book {
namespace fs = std::filesystem;
namespace {

std::vector<std::string> names_of(const auto& list) {
  std::vector<std::string> names;
  for (const auto& one : list) names.push_back(one.name);
  return names;
}

Planned planned_of(const take::Take& t) {
  const InEnglish kept;
  Planned p;
  p.exposures_each = static_cast<int>(t.shot.brackets);
  if (!t.solution().complete()) {
    if (const plan::Wish* fps = t.wished(plan::Slot::Fps)) p.fps = fps->value;
    return p;
  }
  const plan::Sums sums = t.sums();
  p.frames = plan::shots_of(sums);
  p.interval_s = forecast::schedule_of(t).interval_s();
  p.fps = sums.fps.value();
  const ramp::Ramp ramp = forecast::ramp_in_any_case(t);
  const forecast::ExposurePlan exposure = forecast::exposure_of(t, ramp);
  if (!ramp.ev.empty()) {
    p.method = ramp::method_word(t.light.method);
    p.ev_from = ramp.ev.front();
    p.ev_to = ramp.ev.back();
  }
  p.shutter = forecast::shutter_words(exposure);
  const timer::Program program = forecast::program_of(t, exposure);
  p.program =
      fmt::format("{} times, one every {}", format_count(program.count), format_length(program.interval_s));
  return p;
}

/// Relative humidity, 0 to 1; from the dew point where that is what was said (the share of the vapour that
/// air of the temperature can hold, Magnus as sky::dew_point_c()).
std::optional<double> humidity_of(const take::Take& t) {
  const sky::Weather& w = t.light.weather;
  if (w.humidity) return w.humidity;
  if (!w.dew_point_c) return {};
  const auto vapour = [](double c) { return std::exp(17.62 * c / (243.12 + c)); };
  return std::clamp(vapour(*w.dew_point_c) / vapour(t.temperature_c), 0.0, 1.0);
}

}  // namespace

Entry entry_of(const take::Take& take, const fs::path& file) {
  Entry e;
  e.file = whole_path(file).string();
  e.name = take.name;
  e.subject = take.subject;
  e.place = take.place;
  e.start = take.start;
  e.temperature_c = take.temperature_c;
  e.humidity = humidity_of(take);
  e.planned = planned_of(take);
  if (take.knows_kit()) {
    e.gear = {take.body().name,
              take.kit.lenses.empty() ? "" : take.lens().name,
              "",
              names_of(take.kit.batteries),
              names_of(take.kit.cards),
              names_of(take.kit.filters)};
  }
  if (take.knows_timer()) e.gear.timer = take.timer_model().name;
  for (const auto& [code, at] : take.ticks) e.ticks.push_back(code);
  const std::vector<Json> lines = journal::read_journal(journal::newest_journal(file));
  if (!lines.empty()) learn(e, take, lines);
  return e;
}

Entry entry_of(const ingest::FoundTake& found, const fs::path& folder) {
  Entry e;
  e.how = How::Folder;
  e.file = whole_path(folder).string();
  e.name = whole_path(folder).filename().string();
  if (found.frames->empty()) return e;
  const media::Frame& first = found.frames->front();
  e.gear.body = first.info().body;
  e.gear.lens = first.info().lens;
  if (const auto at = media::read_position(first.file())) {
    e.place.latitude_deg = at->latitude_deg;
    e.place.longitude_deg = at->longitude_deg;
    e.place.height_m = at->height_m;
    e.place.name = sky::format_coordinates(at->latitude_deg, at->longitude_deg);
  }
  if (const auto start = found.start()) {
    // The camera's clock, by the zone it names; where it names none it is taken as the place's own.
    const auto ahead = std::chrono::minutes(first.info().zone_min.value_or(0));
    e.start = Instant(start->time_since_epoch()) - ahead;
  }
  learn(e, take::Take{}, found);
  e.planned.exposures_each = e.came->exposures_each;
  return e;
}

void learn(Entry& entry, const take::Take& take, const ingest::FoundTake& found) {
  Came c;
  const auto& frames = *found.frames;
  c.frames = static_cast<long long>(frames.size());
  for (const ingest::Missing& m : found.missing) c.missing += m.frames;
  c.off_beat = static_cast<long long>(found.off_beat.size());
  c.unreadable = std::count_if(frames.begin(), frames.end(), [](const auto& f) { return !f.readable(); });
  c.interval_s = found.interval_s;
  c.exposures_each = static_cast<int>(found.exposures_each);
  if (const auto from = found.start(), to = found.end(); from && to)
    c.field_s = media::seconds_of(*to) - media::seconds_of(*from);
  if (!frames.empty()) {
    c.folder = whole_path(frames.front().file().parent_path()).string();
    c.body = frames.front().info().body;
  }
  entry.came = c;
  entry.by_frames = measures_of(take, entry, found);
}

void learn(Entry& entry, const std::vector<inspect::Fault>& faults) {
  entry.faults.emplace();
  for (const inspect::Fault& f : faults) {
    const bool hole = f.kind == inspect::FaultKind::Missing;
    (*entry.faults)[inspect::fault_word(f.kind)] +=
        hole ? std::max(1LL, std::llround(f.amount)) : static_cast<long long>(f.last - f.frame) + 1;
  }
}

void learn(Entry& entry, const level::Evenness& evenness) {
  entry.evened = Evened{evenness.most_before(), evenness.most_after()};
}

void learn(Entry& entry, const fs::path& film, const render::FilmOutcome& outcome,
           const render::FilmCheck& check, Instant made) {
  const media::FilmFacts& f = outcome.facts;
  entry.films.push_back({whole_path(film).string(), f.duration_s, f.fps.value(), f.size.width, f.size.height,
                         f.codec, static_cast<double>(check.bytes), made});
  if (outcome.flicker_before > 0 && !entry.evened)
    entry.evened = Evened{outcome.flicker_before, check.whole_flicker, true};
}

image::Coded8 shrunk(const image::Coded8& picture, image::Size within) {
  const double scale = std::min({1.0, within.width / static_cast<double>(picture.size.width),
                                 within.height / static_cast<double>(picture.size.height)});
  if (scale >= 1) return picture;
  image::Coded8 small(image::Size{std::max(1, static_cast<int>(std::lround(picture.size.width * scale))),
                                  std::max(1, static_cast<int>(std::lround(picture.size.height * scale)))});
  const cv::Mat from(picture.size.height, picture.size.width, CV_8UC3,
                     const_cast<std::uint8_t*>(picture.rgb.data()));
  cv::Mat to(small.size.height, small.size.width, CV_8UC3, small.rgb.data());
  cv::resize(from, to, to.size(), 0, 0, cv::INTER_AREA);
  return small;
}

std::string picture_of(const media::Frames& frames) {
  constexpr image::Size kWithin{216, 144};
  constexpr int kQuality = 82;
  for (const std::size_t share : {2, 3, 4, 1}) {
    if (frames->empty()) break;
    const media::Frame& f = (*frames)[std::min(frames->size() - 1, frames->size() / share)];
    if (!f.readable()) continue;
    try {
      const image::Coded8 small = image::coded(media::any_source().small(f));
      const media::Bytes jpeg = media::encode_jpeg(shrunk(small, kWithin), kQuality);
      return {reinterpret_cast<const char*>(jpeg.data()), jpeg.size()};
    } catch (const Error&) {
      // Another frame is looked at.
    }
  }
  return {};
}

}  // namespace askcount::book
