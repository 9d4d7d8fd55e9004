// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/pace.h"

#include <algorithm>
#include <filesystem>

#include "base/median.h"

namespace askcount::ingest {
namespace {

constexpr size_t kEnoughLate = 3;                   // shots, to tell a busy camera from a hand that came late
constexpr double kClockTells_s = 0.3;               // a coarser clock does not show when a shot was late
constexpr double kJitter_s = 0.05, kJitter = 0.03;  // of an interval: so much a timer may wander by itself

}  // namespace

std::optional<Seconds> open_s(const media::Frame& frame) {
  double sum = 0;
  for (const media::Exposure& e : frame.exposures) {
    if (!e.info.shutter_s) return {};
    sum += *e.info.shutter_s;
  }
  return sum;
}

double megabytes_of(const media::Exposure& exposure) {
  double bytes = 0;
  for (const std::filesystem::path& file : {exposure.raw, exposure.compressed}) {
    std::error_code ec;
    if (file.empty()) continue;
    if (const auto size = std::filesystem::file_size(file, ec); !ec) bytes += static_cast<double>(size);
  }
  return bytes / 1e6;
}

double megabytes_of(const media::Frame& frame) {
  double sum = 0;
  for (const media::Exposure& e : frame.exposures) sum += megabytes_of(e);
  return sum;
}

double usual_megabytes(const std::vector<media::Frame>& frames) {
  std::vector<double> some;
  const size_t step = std::max<size_t>(1, frames.size() / 9);
  for (size_t n = 0; n < frames.size(); n += step) some.push_back(megabytes_of(frames[n]));
  return some.empty() ? 0 : median(std::move(some));
}

Busy busy_of(const FoundTake& found) {
  Busy busy;
  if (!found.interval_s || found.clock_s > kClockTells_s) return busy;
  for (const OffBeat& o : found.off_beat) {
    if (o.seconds <= std::max({found.clock_s, kJitter_s, kJitter * *found.interval_s}) || o.frame == 0)
      continue;
    const media::Frame &before = (*found.frames)[o.frame - 1], &late = (*found.frames)[o.frame];
    const auto open = open_s(before);
    if (!open || !before.info().captured || !late.info().captured) continue;
    const double gap = media::seconds_of(*late.info().captured) - media::seconds_of(*before.info().captured);
    if (gap <= *open || gap > 3 * *found.interval_s) continue;
    if (busy.gaps.empty()) busy.first = o.frame;
    busy.gaps.push_back(gap);
    busy.free_s.push_back(gap - *open);
  }
  if (busy.gaps.size() < kEnoughLate) busy = {};
  return busy;
}

}  // namespace askcount::ingest
