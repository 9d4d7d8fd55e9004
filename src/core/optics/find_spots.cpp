// SPDX-License-Identifier: GPL-3.0-or-later
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <mutex>
#include <opencv2/imgproc.hpp>

#include "base/error.h"
#include "base/language.h"
#include "image/tone.h"
#include "optics/spots.h"

namespace askcount::optics {
namespace {

constexpr size_t kFrames = 24, kFewest = 5, kMost = 60;
constexpr int kWidth = 1600;          // pixels a frame is looked at with, at least, where it has them
constexpr int kPerStop = 64;          // a difference is kept in nth stops, in 8 bits
constexpr double kSmallest = 0.0022,  // radius, share of the width
    kLargest = 0.014;
constexpr double kGrain = 2;                      // pixels
constexpr double kDarker = 0.05, kDarkest = 0.9;  // stops
constexpr double kLonely = 0.35;                  // of its depth that its surroundings may vary by
constexpr double kSteady = 0.35;                  // of its depth that it may differ by over the take
constexpr double kCertain = 8;                    // times what chance makes
constexpr double kRingIn = 1.45, kRingOut = 2.3;  // radii
constexpr double kFar = 4, kCalm = 0.24;  // radii, and of its depth that most of what lies there varies by
constexpr double kRound = 0.6;            // of a circle around it that it fills
constexpr double kTooDark = 0.005;        // linear: noise alone

/// A frame as stops against its surroundings, in kPerStop-th; −128 where it is too dark or white.
cv::Mat against_surroundings(const image::Grey8& grey) {
  cv::Mat stops(grey.size.height, grey.size.width, CV_32FC1), known(stops.size(), CV_8UC1);
  // Stars and hot pixels are no surroundings: they would darken all that lies around them.
  const cv::Mat codes(stops.size(), CV_8UC1, const_cast<std::uint8_t*>(grey.luma.data()));
  cv::Mat usual, calm = stops.clone();
  cv::medianBlur(codes, usual, 9);
  for (int y = 0; y < grey.size.height; ++y)
    for (int x = 0; x < grey.size.width; ++x) {
      const std::uint8_t code = grey.row(y)[x];
      const float light = image::linear_of_code()[code];
      stops.at<float>(y, x) = std::log2(std::max(static_cast<float>(kTooDark), light));
      const int most = usual.at<std::uint8_t>(y, x) + 4;
      calm.at<float>(y, x) =
          code <= most
              ? stops.at<float>(y, x)
              : std::log2(std::max(static_cast<float>(kTooDark),
                                   image::linear_of_code()[static_cast<size_t>(std::min(255, most))]));
      known.at<std::uint8_t>(y, x) = light > static_cast<float>(kTooDark) && code < 250;
    }
  cv::Mat around, own;
  const double sigma = 1.6 * kLargest * grey.size.width;
  cv::GaussianBlur(calm, around, {}, sigma, sigma, cv::BORDER_REFLECT);
  cv::GaussianBlur(calm, own, {}, kGrain, kGrain, cv::BORDER_REFLECT);  // grain
  cv::Mat out(stops.size(), CV_8SC1);
  for (int y = 0; y < out.rows; ++y)
    for (int x = 0; x < out.cols; ++x)
      out.at<std::int8_t>(y, x) =
          known.at<std::uint8_t>(y, x) == 0
              ? std::int8_t{-128}
              : static_cast<std::int8_t>(std::clamp<long>(
                    std::lround(kPerStop * (own.at<float>(y, x) - around.at<float>(y, x))), -127, 127));
  return out;
}

/// The middle of all frames at each place, in stops, and how far the middle half of them lies apart.
struct Over {
  cv::Mat middle, apart;
};

Over over(const std::vector<cv::Mat>& frames) {
  Over o{cv::Mat(frames[0].size(), CV_32FC1), cv::Mat(frames[0].size(), CV_32FC1)};
  tbb::parallel_for(0, o.middle.rows, [&](int y) {
    std::vector<std::int8_t> values;
    for (int x = 0; x < o.middle.cols; ++x) {
      values.clear();
      for (const cv::Mat& f : frames)
        if (const std::int8_t v = f.at<std::int8_t>(y, x); v != -128) values.push_back(v);
      float middle = 0, apart = 100;
      if (values.size() >= std::max(kFewest, frames.size() / 3)) {
        std::sort(values.begin(), values.end());
        middle = static_cast<float>(values[values.size() / 2]) / kPerStop;
        apart = static_cast<float>(values[values.size() * 3 / 4] - values[values.size() / 4]) / kPerStop;
      }
      o.middle.at<float>(y, x) = middle;
      o.apart.at<float>(y, x) = apart;
    }
  });
  return o;
}

struct Candidate {
  Spot spot;
  double depth = 0;
};

/// A patch that is darker than its surroundings, looked at closely. Each step says whether it may be a spot.
class Patch {
 public:
  Patch(const Over& over, const cv::Mat& local, const cv::Mat& patches, int label, const int* box)
      : o_(over),
        local_(local),
        patches_(patches),
        label_(label),
        x0_(box[cv::CC_STAT_LEFT]),
        y0_(box[cv::CC_STAT_TOP]),
        w_(box[cv::CC_STAT_WIDTH]),
        h_(box[cv::CC_STAT_HEIGHT]),
        area_(box[cv::CC_STAT_AREA]),
        radius_(std::max(w_, h_) / 2.0) {}

  bool is_round() const {
    const int wide = o_.middle.cols;
    if (radius_ < kSmallest * wide || radius_ > kLargest * wide || std::min(w_, h_) < 0.6 * std::max(w_, h_))
      return false;
    if (area_ < kRound * 3.14159 * radius_ * radius_) return false;
    return x0_ != 0 && y0_ != 0 && x0_ + w_ != wide && y0_ + h_ != o_.middle.rows;
  }

  /// Its depth and its middle.
  bool is_dark() {
    double sum = 0, sx = 0, sy = 0;
    for (int y = y0_; y < y0_ + h_; ++y)
      for (int x = x0_; x < x0_ + w_; ++x) {
        if (patches_.at<int>(y, x) != label_) continue;
        const double d = -static_cast<double>(local_.at<float>(y, x));
        if (d > depth_) depth_ = d, apart_ = static_cast<double>(o_.apart.at<float>(y, x));
        sum += d, sx += d * x, sy += d * y;
      }
    if (sum <= 0 || depth_ < kDarker || depth_ > kDarkest) return false;
    cx_ = sx / sum, cy_ = sy / sum;
    return true;
  }

  /// Its surroundings, from a little outside: even but for a slope, and none of them nearly as dark.
  bool stands_alone() {
    std::vector<cv::Vec3d> places;
    std::vector<double> ring, restless;
    each([&](int x, int y, double d) {
      if (d < kRingIn || d > kRingOut) return;
      places.emplace_back(1, x - cx_, y - cy_);
      ring.push_back(static_cast<double>(o_.middle.at<float>(y, x)));
      restless.push_back(static_cast<double>(o_.apart.at<float>(y, x)));
    });
    if (ring.size() < 24 || is_one_of_many()) return false;
    // Waves and clouds that pass behind a spot pass around it too; a thing in another light than its
    // surroundings changes against them.
    std::nth_element(restless.begin(), restless.begin() + static_cast<long>(restless.size() / 2),
                     restless.end());
    if (apart_ > kSteady * depth_ + 1.4 * restless[restless.size() / 2]) return false;
    cv::solve(cv::Mat(static_cast<int>(places.size()), 3, CV_64FC1, places.data()),
              cv::Mat(static_cast<int>(ring.size()), 1, CV_64FC1, ring.data()), slope_, cv::DECOMP_SVD);
    std::vector<double> rest;
    for (size_t i = 0; i < ring.size(); ++i) rest.push_back(ring[i] - slope_.dot(places[i]));
    std::sort(rest.begin(), rest.end());
    const auto share = [&](double part) {
      return rest[static_cast<size_t>(part * static_cast<double>(rest.size() - 1))];
    };
    spread_ = (share(0.84) - share(0.16)) / 2;
    return share(0.9) - share(0.1) <= kLonely * depth_ + 0.5 / kPerStop;
  }

  /// Softly darker inwards, and more than chance makes of as large a patch, whose grain is as wide as it was
  /// smoothed.
  bool is_soft() {
    std::array<double, 3> profile{}, counts{};  // mean depth near the middle, half way and at the edge
    each([&](int x, int y, double d) {
      if (d > 1.15) return;
      const size_t k = d < 0.4 ? 0 : d < 0.8 ? 1 : 2;
      profile[k] += slope_[0] + slope_[1] * (x - cx_) + slope_[2] * (y - cy_) -
                    static_cast<double>(o_.middle.at<float>(y, x));
      ++counts[k];
    });
    for (size_t k = 0; k < 3; ++k) profile[k] /= std::max(1.0, counts[k]);
    if (!(profile[0] >= profile[1] && profile[1] > profile[2])) return false;
    const double grain = spread_ / std::sqrt(std::max(1.0, area_ / (4 * 3.14159 * kGrain * kGrain)));
    depth_ = profile[0];
    return depth_ >= kDarker && depth_ >= kCertain * grain;
  }

  Candidate candidate() const {
    const int wide = o_.middle.cols;
    return {{(cx_ + 0.5) / wide, (cy_ + 0.5) / o_.middle.rows, 1.25 * radius_ / wide}, depth_};
  }

 private:
  /// Calls `look` with each place of it and its ring, and how far that is from its middle, in its radii.
  void each(auto&& look) const {
    const int reach = static_cast<int>(std::ceil(kRingOut * radius_)) + 1;
    for (int y = std::max(0, static_cast<int>(cy_) - reach);
         y <= std::min(o_.middle.rows - 1, static_cast<int>(cy_) + reach); ++y)
      for (int x = std::max(0, static_cast<int>(cx_) - reach);
           x <= std::min(o_.middle.cols - 1, static_cast<int>(cx_) + reach); ++x)
        look(x, y, std::hypot(x - cx_, y - cy_) / radius_);
  }

  /// Where all is as lively as the spot itself it is one leaf of many.
  bool is_one_of_many() const {
    std::vector<float> lively;
    const int further = static_cast<int>(kFar * radius_);
    for (int y = std::max(0, static_cast<int>(cy_) - further);
         y <= std::min(o_.middle.rows - 1, static_cast<int>(cy_) + further); ++y)
      for (int x = std::max(0, static_cast<int>(cx_) - further);
           x <= std::min(o_.middle.cols - 1, static_cast<int>(cx_) + further); ++x)
        if (std::hypot(x - cx_, y - cy_) > kRingIn * radius_)
          lively.push_back(std::abs(local_.at<float>(y, x)));
    const auto most = lively.begin() + static_cast<long>(0.8 * static_cast<double>(lively.size()));
    std::nth_element(lively.begin(), most, lively.end());
    return static_cast<double>(*most) > kCalm * depth_;
  }

  const Over& o_;
  const cv::Mat &local_, &patches_;
  const int label_, x0_, y0_, w_, h_, area_;
  const double radius_;
  double depth_ = 0, apart_ = 0, cx_ = 0, cy_ = 0;
  cv::Vec3d slope_;    // of its surroundings
  double spread_ = 0;  // of what they are without it
};

/// A patch that is darker, where it is a spot.
std::optional<Candidate> candidate(const Over& o, const cv::Mat& local, const cv::Mat& patches, int label,
                                   const int* box) {
  Patch patch(o, local, patches, label, box);
  if (!patch.is_round() || !patch.is_dark() || !patch.stands_alone() || !patch.is_soft()) return {};
  return patch.candidate();
}

}  // namespace

std::vector<Spot> find_spots(const media::Frames& frames, const media::FrameSource& source,
                             const Work& work) {
  std::vector<size_t> readable;
  for (size_t n = 0; frames && n < frames->size(); ++n)
    if ((*frames)[n].shown()) readable.push_back(n);
  if (frames && !frames->empty() && readable.empty())
    throw failed(say("None of the frames can be read: there is nothing to look at."));
  if (readable.size() < kFewest) return {};
  const size_t count = std::min(kFrames, readable.size());
  std::vector<cv::Mat> seen;
  std::mutex mutex;
  size_t done = 0;
  tbb::parallel_for(size_t{0}, count, [&](size_t i) {
    if (work.stop.stop_requested()) return;
    cv::Mat one;
    try {
      one = against_surroundings(source.grey(
          (*frames)[readable[i * (readable.size() - 1) / std::max<size_t>(1, count - 1)]], kWidth));
    } catch (const Error&) {
    }
    const std::lock_guard lock(mutex);
    if (!one.empty() && (seen.empty() || seen[0].size() == one.size())) seen.push_back(one);
    work.report(++done, count);
  });
  if (work.stop.stop_requested()) throw cancelled(say("The search for spots was stopped."));
  if (seen.size() < kFewest)
    throw failed(
        say("Of {} frames that were looked at only {} can be read: too few to tell dust from the view.",
            count, seen.size()));
  const Over o = over(seen);
  std::vector<Candidate> found;
  // Small spots and large ones stand out against surroundings of their own size, faint ones and strong ones
  // at a threshold of their own.
  for (const double radius : {0.0035, 0.006, 0.009, 0.013}) {
    cv::Mat local, patches, stats, middles;
    cv::GaussianBlur(o.middle, local, {}, 2 * radius * o.middle.cols);
    local = o.middle - local;
    for (const double darker : {0.03, 0.06, 0.12, 0.24}) {
      const cv::Mat dark = local < -darker;
      const int n = cv::connectedComponentsWithStats(dark, patches, stats, middles, 8, CV_32S);
      for (int label = 1; label < n; ++label) {
        const auto c = candidate(o, local, patches, label, stats.ptr<int>(label));
        if (!c) continue;
        const auto same = std::find_if(found.begin(), found.end(), [&](const Candidate& other) {
          return std::hypot(other.spot.x - c->spot.x, (other.spot.y - c->spot.y) / o.middle.cols *
                                                          o.middle.rows) < other.spot.radius + c->spot.radius;
        });
        if (same == found.end())
          found.push_back(*c);
        else if (c->spot.radius > same->spot.radius)
          same->spot = c->spot;  // the whole of it
      }
    }
  }
  std::sort(found.begin(), found.end(),
            [](const Candidate& a, const Candidate& b) { return a.depth > b.depth; });
  if (found.size() > kMost) found.resize(kMost);
  std::vector<Spot> spots;
  for (const Candidate& c : found) spots.push_back(c.spot);
  return spots;
}

}  // namespace askcount::optics
