// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/estimate.h"

#include <algorithm>
#include <chrono>
#include <cmath>

#include "media/reader.h"
#include "motion/camera_path.h"
#include "render/film_plan.h"
#include "render/render.h"

namespace askcount::render {
namespace {

constexpr size_t kShort = 8, kLong = 36;  // film frames of a sample: at the ends, and in the middle
constexpr size_t kLooked = 12;            // frames that are followed where a film is steadied

double seconds_of(const std::function<void()>& work) {
  const auto began = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
}

/// Bytes of a picture of each kind, each sample with the same say.
struct Pictures {
  double key = 0, other = 0, sound = 0;  // sound for a picture's time
  int keys = 0, others = 0, sounds = 0;
  void add(const media::FilmWeights& w) {
    const size_t all = w.keys + w.others;
    if (w.keys > 0) key += w.key_bytes / static_cast<double>(w.keys), ++keys;
    if (w.others > 0) other += w.other_bytes / static_cast<double>(w.others), ++others;
    if (all > 0) sound += w.sound_bytes / static_cast<double>(all), ++sounds;
  }
  double bytes_of(size_t frames) const {
    const double k = key / std::max(1, keys), o = others > 0 ? other / others : k;
    const double many_keys = others > 0 ? std::ceil(static_cast<double>(frames) / media::kFromKeyToKey)
                                        : static_cast<double>(frames);
    return many_keys * k + (static_cast<double>(frames) - many_keys) * o +
           sound / std::max(1, sounds) * static_cast<double>(frames);
  }
};

}  // namespace

Estimate estimate(const media::Frames& frames, const media::FrameSource& source,
                  std::span<const FilmOrder> given, const Work& work) {
  std::vector<FilmOrder> orders(given.begin(), given.end());
  Estimate out;
  std::vector<size_t> lengths;
  for (const FilmOrder& order : orders) lengths.push_back(timeline_of(order, frames->size()).frames());
  const size_t longest = *std::max_element(lengths.begin(), lengths.end());
  if (longest <= 2 * kLong) {
    std::vector<media::FilmWeights> all;
    out.seconds = seconds_of([&] { all = weigh_excerpts(frames, source, orders, work); });
    for (const media::FilmWeights& w : all)
      out.bytes.push_back(w.key_bytes + w.other_bytes + w.sound_bytes + w.rest_bytes);
    return out;
  }
  // What has to be known of all frames before the first is drawn is counted on from a few.
  for (size_t n = 0; n < orders.size(); ++n) {
    FilmOrder& order = orders[n];
    if (order.steady != motion::Mode::None && order.path.empty()) {
      const std::vector<size_t> shown = frames_shown(order, frames->size());
      const size_t many = std::min(kLooked, shown.size());
      const std::vector<size_t> few(shown.begin(), shown.begin() + static_cast<long>(many));
      out.seconds += static_cast<double>(shown.size()) / static_cast<double>(many) * seconds_of([&] {
                       motion::measure_path(frames, few, source, order.size.width, {{}, work.stop});
                     });
      order.steady = motion::Mode::None;
      order.crisp = order.crisp || order.views.empty();  // through a map, as it will be
    }
    if (levels_on_the_way(order) && order.choice.way != render::Way::Forward)
      order.corrections.resize(frames->size());
  }
  std::vector<Pictures> pictures(orders.size());
  std::vector<double> seconds;
  for (const auto& [share, count] : {std::pair{1.0 / 6, kShort}, {0.5, kLong}, {5.0 / 6, kShort}}) {
    for (size_t n = 0; n < orders.size(); ++n) {
      const size_t many = std::min(count, lengths[n]);
      const auto first = static_cast<size_t>(share * static_cast<double>(lengths[n]));
      orders[n].excerpt = {std::min(first, lengths[n] - many), many};
    }
    std::vector<media::FilmWeights> weights;
    seconds.push_back(seconds_of([&] { weights = weigh_excerpts(frames, source, orders, work); }));
    for (size_t n = 0; n < orders.size(); ++n) pictures[n].add(weights[n]);
    work.report(seconds.size(), 3);
  }
  const double begun = std::min(seconds[0], seconds[2]);
  const double pace = std::max(0.0, seconds[1] - begun) / static_cast<double>(kLong - kShort);
  out.seconds += begun + pace * static_cast<double>(longest - kShort);
  for (size_t n = 0; n < orders.size(); ++n) out.bytes.push_back(pictures[n].bytes_of(lengths[n]));
  return out;
}

}  // namespace askcount::render
