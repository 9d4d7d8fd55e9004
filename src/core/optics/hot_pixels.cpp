// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/hot_pixels.h"

#include <algorithm>
#include <map>

#include "base/error.h"
#include "base/language.h"
#include "media/kind.h"

namespace askcount::optics {
namespace {

constexpr size_t kLongExposures = 7;
constexpr double kNearlyAll = 0.7;
constexpr float kStandsOut = 3;     // times the brightest of its own colour around it
constexpr float kOthers = 2;        // times the brightest of the other colours beside it
constexpr float kAtLeast = 0.006F;  // of the range: below that it is noise
constexpr size_t kMostHot = 20000;

std::vector<size_t> frames_to_look_at(const std::vector<media::Frame>& frames) {
  std::vector<size_t> raws;
  double longest = 0;
  for (size_t n = 0; n < frames.size(); ++n)
    if (read_from_raw(frames[n])) {
      raws.push_back(n);
      longest = std::max(longest, frames[n].info().shutter_s.value_or(0));
    }
  std::erase_if(raws, [&](size_t n) { return frames[n].info().shutter_s.value_or(0) < longest / 2; });
  std::vector<size_t> spread;
  for (size_t i = 0; i < std::min(kLongExposures, raws.size()); ++i)
    spread.push_back(
        raws[i * (raws.size() - 1) / std::max<size_t>(1, std::min(kLongExposures, raws.size()) - 1)]);
  return spread;
}

/// Whether the place stands out alone.
bool stands_out(const media::SensorValues& v, int x, int y, float least) {
  const auto light = [&](int px, int py) { return static_cast<float>(v.row(py)[px]) - v.black; };
  const float own = light(x, y);
  for (int dy = -2; dy <= 2; ++dy)
    for (int dx = -2; dx <= 2; ++dx) {
      if (dx == 0 && dy == 0) continue;
      const bool same = dx % 2 == 0 && dy % 2 == 0, beside = std::abs(dx) <= 1 && std::abs(dy) <= 1;
      if (!same && !beside) continue;
      const float other = light(x + dx, y + dy);
      if (own - other < least || own < (same ? kStandsOut : kOthers) * other) return false;
    }
  return true;
}

}  // namespace

bool read_from_raw(const media::Frame& frame) {
  return frame.readable() && frame.main().compressed.empty() &&
         media::kind_of(frame.file()) == media::Kind::Raw;
}

std::vector<media::SensorPlace> find_hot_pixels(const media::Frames& frames, const Work& work) {
  if (!frames) return {};
  const std::vector<size_t> chosen = frames_to_look_at(*frames);
  std::map<std::pair<int, int>, std::pair<int, float>> seen;  // row and column: how often, how bright in all
  image::Size size;
  int looked = 0;
  for (size_t i = 0; i < chosen.size(); ++i) {
    if (work.stop.stop_requested()) throw cancelled(say("The search for hot pixels was stopped."));
    media::SensorValues v;
    try {
      v = media::read_mosaic((*frames)[chosen[i]].file());
    } catch (const Error&) {
      continue;
    }
    if (looked > 0 && !(v.size == size)) continue;
    size = v.size;
    ++looked;
    const float least = kAtLeast * (v.white - v.black);
    const auto limit = static_cast<std::uint16_t>(v.black + least);
    for (int y = 2; y < v.size.height - 2; ++y) {
      const std::uint16_t* row = v.row(y);
      for (int x = 2; x < v.size.width - 2; ++x) {
        // Nearly all places fail here: cheaply.
        if (row[x] < limit || row[x] < row[x - 2] || row[x] < row[x + 2]) continue;
        if (!stands_out(v, x, y, least)) continue;
        auto& place = seen[{y, x}];
        ++place.first;
        place.second += static_cast<float>(row[x]);
      }
    }
    work.report(i + 1, chosen.size());
  }
  std::vector<std::pair<float, media::SensorPlace>> hot;
  for (const auto& [at, place] : seen)
    if (looked >= 3 && place.first >= kNearlyAll * looked)
      hot.push_back({place.second, {at.second, at.first}});
  if (hot.size() > kMostHot) {
    std::nth_element(hot.begin(), hot.begin() + kMostHot, hot.end(),
                     [](const auto& a, const auto& b) { return a.first > b.first; });
    hot.resize(kMostHot);
  }
  std::sort(hot.begin(), hot.end(), [](const auto& a, const auto& b) {
    return std::pair(a.second.y, a.second.x) < std::pair(b.second.y, b.second.x);
  });
  std::vector<media::SensorPlace> places;
  for (const auto& h : hot) places.push_back(h.second);
  return places;
}

}  // namespace askcount::optics
