// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/likeness.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <mutex>
#include <unordered_map>

#include "base/error.h"
#include "base/median.h"
#include "media/film_frames.h"
#include "media/frame_source.h"

namespace askcount::ingest {

namespace {

/// Layouts that were looked at in this run, by file, size and time of writing: a raw file without an embedded
/// picture takes long to be seen, and the ends of takes are looked at more than once.
class Seen {
 public:
  static std::string key_of(const std::filesystem::path& file) {
    std::error_code ec;
    const auto size = std::filesystem::file_size(file, ec);
    const auto time = std::filesystem::last_write_time(file, ec).time_since_epoch().count();
    return ec ? std::string() : fmt::format("{}|{}|{}", file.string(), size, time);
  }
  std::optional<Layout> find(const std::string& key) {
    const std::lock_guard lock(mutex_);
    const auto at = layouts_.find(key);
    return key.empty() || at == layouts_.end() ? std::nullopt : std::optional(at->second);
  }
  void put(const std::string& key, const Layout& layout) {
    const std::lock_guard lock(mutex_);
    if (layouts_.size() >= kMost) layouts_.clear();
    if (!key.empty()) layouts_[key] = layout;
  }

 private:
  static constexpr size_t kMost = 2000;
  std::mutex mutex_;
  std::unordered_map<std::string, Layout> layouts_;
};

}  // namespace

std::optional<Layout> layout_of(const media::Frame& frame) {
  static Seen seen;
  if (!frame.readable()) return {};
  const std::string key = Seen::key_of(media::on_disk(frame.file()));
  const bool own_file = media::on_disk(frame.file()) == frame.file();
  if (own_file)
    if (auto layout = seen.find(key)) return layout;
  try {
    const image::Picture picture = media::any_source().small(frame);
    const image::Size size = image::size_of(picture);
    const Layout layout = image::measure_luminance(picture, {0, 0, size.width, size.height}).parts;
    if (own_file) seen.put(key, layout);
    return layout;
  } catch (const Error&) {
    return {};
  }
}

double correlation(const Layout& a, const Layout& b) {
  // Deep shadows are noise: nothing below −11 stops tells one scene from another.
  constexpr float kFloor = -11;
  const auto stops = [](float v) { return static_cast<double>(v < kFloor ? kFloor : v); };
  double ma = 0, mb = 0;
  for (size_t i = 0; i < a.size(); ++i) ma += stops(a[i]), mb += stops(b[i]);
  ma /= static_cast<double>(a.size());
  mb /= static_cast<double>(b.size());
  double ab = 0, aa = 0, bb = 0;
  for (size_t i = 0; i < a.size(); ++i) {
    ab += (stops(a[i]) - ma) * (stops(b[i]) - mb);
    aa += (stops(a[i]) - ma) * (stops(a[i]) - ma);
    bb += (stops(b[i]) - mb) * (stops(b[i]) - mb);
  }
  return aa > 0 && bb > 0 ? ab / std::sqrt(aa * bb) : 0;
}

namespace {

/// How far apart two layouts are, in stops: as a whole, and root mean square in parts besides.
struct Apart {
  double whole = 0, parts = 0;
};

Apart apart(const Layout& a, const Layout& b) {
  constexpr float kFloor = -9;  // what is darker differs by chance
  std::array<double, image::Luminance::kParts> d{};
  Apart out;
  for (size_t i = 0; i < a.size(); ++i) {
    d[i] = std::max(a[i], kFloor) - std::max(b[i], kFloor);
    out.whole += d[i] / static_cast<double>(d.size());
  }
  for (const double v : d) out.parts += (v - out.whole) * (v - out.whole) / static_cast<double>(d.size());
  return {std::abs(out.whole), std::sqrt(out.parts)};
}

}  // namespace

bool is_unlike(const Layout& one, const std::vector<Layout>& beside) {
  constexpr double kFar = 3;                            // times what neighbours differ by,
  constexpr double kLeastWhole = 1, kLeastParts = 0.6;  // and at least so many stops
  if (beside.size() < 2) return false;
  std::vector<double> whole, parts;
  for (size_t i = 0; i + 1 < beside.size(); ++i) {
    const Apart step = apart(beside[i], beside[i + 1]);
    whole.push_back(step.whole), parts.push_back(step.parts);
  }
  const Apart here = apart(one, beside.front());
  return here.whole > std::max(kLeastWhole, kFar * median(whole)) ||
         here.parts > std::max(kLeastParts, kFar * median(parts));
}

bool is_blank(const Layout& layout) {
  const auto [low, high] = std::minmax_element(layout.begin(), layout.end());
  return *high - *low < 0.1F || *high < -10;
}

}  // namespace askcount::ingest
