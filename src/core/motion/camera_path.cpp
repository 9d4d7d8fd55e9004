// SPDX-License-Identifier: GPL-3.0-or-later
#include "motion/camera_path.h"

#include <tbb/parallel_pipeline.h>

#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

#include "base/error.h"
#include "base/language.h"
#include "motion/rigid_fit.h"

namespace askcount::motion {
namespace {

constexpr int kAcross = 12, kDown = 9, kPerCell = 3;  // where corners are looked for
constexpr size_t kLongest = 96;                       // frames that one stands for
constexpr double kKept = 0.45;                        // share of corners that must still be there
constexpr int kWindow = 21, kLevels = 4, kFewLevels = 2;
constexpr double kStillShare = 0.12;  // of the corners, that what stands must have
constexpr double kStillSlope = 0.12;  // pixels a frame: what goes on faster does not stand

/// Local contrast made alike: light that changes, and a gain that falls off to one side, leave no trace.
cv::Mat evened(const image::Grey8& grey) {
  const cv::Mat in(grey.size.height, grey.size.width, CV_8U, const_cast<std::uint8_t*>(grey.luma.data()));
  const int side = std::max(9, grey.size.width / 32) | 1;
  cv::Mat light, mean, square, out;
  in.convertTo(light, CV_32F);
  cv::boxFilter(light, mean, CV_32F, {side, side});
  cv::boxFilter(light.mul(light), square, CV_32F, {side, side});
  cv::Mat spread = square - mean.mul(mean);
  cv::max(spread, 0.0, spread);
  cv::sqrt(spread, spread);
  cv::Mat even = (light - mean) / (spread + 4.0) * 48.0 + 128.0;
  even.convertTo(out, CV_8U);
  return out;
}

/// Not much wider than is wanted: what is finer takes time and tells no more.
image::Grey8 narrowed(image::Grey8 grey, int width) {
  if (grey.size.width <= width * 3 / 2) return grey;
  image::Grey8 out({width, std::max(1, static_cast<int>(std::lround(static_cast<double>(grey.size.height) *
                                                                    width / grey.size.width)))});
  const cv::Mat from(grey.size.height, grey.size.width, CV_8U, grey.luma.data());
  cv::Mat to(out.size.height, out.size.width, CV_8U, out.luma.data());
  cv::resize(from, to, to.size(), 0, 0, cv::INTER_AREA);
  return out;
}

/// Corners spread over all of the picture: the best few of every part of it.
std::vector<cv::Point2f> corners_of(const cv::Mat& picture) {
  cv::Mat strength;
  cv::cornerMinEigenVal(picture, strength, 5);
  double strongest = 0;
  cv::minMaxLoc(strength, nullptr, &strongest);
  std::vector<cv::Point2f> corners;
  const int border = kWindow / 2;
  const double apart = std::max(6.0, picture.cols / 110.0);
  for (int down = 0; down < kDown; ++down)
    for (int across = 0; across < kAcross; ++across) {
      const cv::Rect cell(border + (picture.cols - 2 * border) * across / kAcross,
                          border + (picture.rows - 2 * border) * down / kDown,
                          (picture.cols - 2 * border) / kAcross, (picture.rows - 2 * border) / kDown);
      if (cell.width < 2 || cell.height < 2) continue;
      cv::Mat here = strength(cell).clone();
      for (int k = 0; k < kPerCell; ++k) {
        double best = 0;
        cv::Point at;
        cv::minMaxLoc(here, nullptr, &best, nullptr, &at);
        if (best < 0.002 * strongest || best <= 0) break;
        corners.emplace_back(static_cast<float>(cell.x + at.x), static_cast<float>(cell.y + at.y));
        cv::circle(here, at, static_cast<int>(apart), cv::Scalar(0), cv::FILLED);
      }
    }
  return corners;
}

struct Seen {  // by one frame
  bool there = false;
  std::vector<cv::Point2f> at;
  std::vector<bool> found;
};

}  // namespace

image::Affine to_frame(const Pose& pose, image::Size frame) {
  return image::Affine::turned(pose.turn_deg, frame.width / 2.0, frame.height / 2.0, pose.dx * frame.width,
                               pose.dy * frame.width);
}

struct CameraPath::Parts {
  std::vector<RigidFit> poses;  // of all frames, in pixels looked at, about the picture's middle
  image::Size size;
  // The frame that stands for its neighbours, and what they see of its corners.
  std::vector<cv::Mat> key;
  std::vector<cv::Point2f> corners;
  RigidFit key_pose;
  std::vector<Seen> seen;
  RigidFit last;                     // against the key, of the frame before
  std::vector<cv::Point2f> last_at;  // where each corner was then: clouds and ground go different ways
  // The very first one, which later ones are held against as long as they are alike.
  std::vector<cv::Mat> first;
  std::vector<cv::Point2f> first_corners;

  cv::Point2f middle() const {
    return {static_cast<float>(size.width) / 2, static_cast<float>(size.height) / 2};
  }
  static std::vector<cv::Mat> pyramid(const cv::Mat& picture) {
    std::vector<cv::Mat> levels;
    cv::buildOpticalFlowPyramid(picture, levels, {kWindow, kWindow}, kLevels);
    return levels;
  }
  Seen track(const std::vector<cv::Mat>& from, const std::vector<cv::Point2f>& corners_from,
             const std::vector<cv::Mat>& to, std::vector<cv::Point2f> expected, int levels = kLevels) const {
    Seen s;
    s.there = true;
    s.at = std::move(expected);
    std::vector<std::uint8_t> ok;
    std::vector<float> error;
    if (!corners_from.empty())
      cv::calcOpticalFlowPyrLK(from, to, corners_from, s.at, ok, error, {kWindow, kWindow}, levels,
                               {cv::TermCriteria::COUNT | cv::TermCriteria::EPS, 20, 0.01},
                               cv::OPTFLOW_USE_INITIAL_FLOW, 1e-3);
    s.found.resize(corners_from.size());
    for (size_t i = 0; i < ok.size(); ++i)
      s.found[i] = ok[i] != 0 && error[i] < 20 && s.at[i].x >= 2 && s.at[i].y >= 2 &&
                   s.at[i].x <= static_cast<float>(size.width) - 3 &&
                   s.at[i].y <= static_cast<float>(size.height) - 3;
    return s;
  }
  std::vector<cv::Point2f> all_moved(const std::vector<cv::Point2f>& places, const RigidFit& by) const {
    std::vector<cv::Point2f> out;
    out.reserve(places.size());
    for (const cv::Point2f& p : places) out.push_back(by.of(p, middle()));
    return out;
  }
  void begin(const cv::Mat& picture, const std::vector<cv::Mat>& levels, const RigidFit& pose) {
    key = levels;
    corners = corners_of(picture);
    key_pose = pose;
    seen.clear();
    last = {};
    last_at = corners;
  }
  void settle();
};

/// What is known of all frames since the key: which corners stand, and by them each frame's pose.
void CameraPath::Parts::settle() {
  std::vector<Track> tracks(corners.size());
  for (size_t i = 0; i < corners.size(); ++i) {
    tracks[i].from = corners[i];
    for (size_t n = 0; n < seen.size(); ++n)
      if (seen[n].there && seen[n].found[i]) tracks[i].at.push_back({n + 1, seen[n].at[i]});
  }
  const StandingCorners standing = standing_corners(tracks, seen.size(), kStillShare, kStillSlope);
  for (size_t n = 0; n < seen.size(); ++n) {
    if (!seen[n].there) {
      poses.push_back({});
      continue;
    }
    std::vector<cv::Point2f> from, to;
    for (size_t i = 0; i < corners.size(); ++i)
      if (standing.stands[i] && seen[n].found[i]) {
        from.push_back(corners[i]);
        to.push_back(seen[n].at[i] - standing.drift * static_cast<float>(n + 1));
      }
    RigidFit fit = fit_rigid(from, to, middle());
    if (fit.share > 0)
      fit.share *=
          static_cast<double>(from.size()) / static_cast<double>(std::max<size_t>(1, corners.size()));
    poses.push_back(fit.share > 0 ? fit.after(key_pose) : RigidFit{});
  }
}

CameraPath::CameraPath() : parts_(std::make_unique<Parts>()) {}
CameraPath::~CameraPath() = default;

struct CameraPath::Looked {
  image::Size size;
  cv::Mat picture;
  std::vector<cv::Mat> levels;
};

std::shared_ptr<const CameraPath::Looked> CameraPath::look(const image::Grey8& grey) {
  auto looked = std::make_shared<Looked>();
  looked->size = grey.size;
  if (grey.empty()) return looked;
  looked->picture = evened(grey);
  looked->levels = Parts::pyramid(looked->picture);
  return looked;
}

void CameraPath::add(const Looked& looked) {
  Parts& p = *parts_;
  if (looked.picture.empty()) {
    if (p.key.empty())
      p.poses.push_back({});
    else
      p.seen.emplace_back();
    return;
  }
  if (p.size.width > 0 && !(looked.size == p.size))
    throw failed(say("Frames of several sizes cannot be steadied together."));
  p.size = looked.size;
  const cv::Mat& picture = looked.picture;
  const std::vector<cv::Mat>& levels = looked.levels;
  if (p.key.empty()) {
    p.begin(picture, levels, {0, 0, 0, 1, 0});
    p.first = p.key;
    p.first_corners = p.corners;
    p.poses.push_back({0, 0, 0, 1, 0});
    return;
  }
  Seen s = p.track(p.key, p.corners, levels, p.last_at, kFewLevels);
  const auto agreeing = [&](const Seen& seen) {
    std::vector<cv::Point2f> from, to;
    for (size_t i = 0; i < p.corners.size(); ++i)
      if (seen.found[i]) from.push_back(p.corners[i]), to.push_back(seen.at[i]);
    return fit_rigid(from, to, p.middle());
  };
  RigidFit fit = agreeing(s);
  const auto better = [&](const Seen& again) {
    const RigidFit other = agreeing(again);
    if (other.share > fit.share) s = again, fit = other;
  };
  if (fit.share < 0.5) better(p.track(p.key, p.corners, levels, p.all_moved(p.corners, p.last)));
  if (fit.share < 0.3) {  // further than can be seen from where it was: by all of the picture first
    cv::Mat a, b;
    p.key.front().convertTo(a, CV_32F);
    picture.convertTo(b, CV_32F);
    cv::Mat window;
    cv::createHanningWindow(window, a.size(), CV_32F);
    const cv::Point2d shift = cv::phaseCorrelate(a, b, window);
    better(p.track(p.key, p.corners, levels, p.all_moved(p.corners, {shift.x, shift.y, 0, 0, 0})));
  }
  if (fit.share > 0) p.last = fit;
  const std::vector<cv::Point2f> by_all = p.all_moved(p.corners, p.last);
  for (size_t i = 0; i < p.corners.size(); ++i) p.last_at[i] = s.found[i] ? s.at[i] : by_all[i];
  const auto found = static_cast<double>(std::count(s.found.begin(), s.found.end(), true));
  p.seen.push_back(std::move(s));
  if (found < kKept * static_cast<double>(p.corners.size()) || p.seen.size() >= kLongest) {
    p.settle();
    RigidFit pose = p.poses.back();
    if (pose.share <= 0) pose = p.key_pose;  // lost: as if it had not moved
    // Where the first frame's corners can be found as well, by them: what adds up from key to key is gone.
    const Seen back = p.track(p.first, p.first_corners, levels, p.all_moved(p.first_corners, pose));
    std::vector<cv::Point2f> from, to;
    for (size_t i = 0; i < p.first_corners.size(); ++i)
      if (back.found[i]) from.push_back(p.first_corners[i]), to.push_back(back.at[i]);
    const RigidFit straight = fit_rigid(from, to, p.middle());
    if (straight.share > 0.6 && from.size() > 40 &&
        std::hypot(straight.dx - pose.dx, straight.dy - pose.dy) < 1.0) {
      pose = straight;
      p.poses.back() = straight;
    }
    p.begin(picture, levels, pose);
  }
}

std::vector<Pose> CameraPath::finish() {
  Parts& p = *parts_;
  if (!p.key.empty()) p.settle();
  p.key.clear();
  std::vector<Pose> out;
  for (const RigidFit& f : p.poses)
    out.push_back({f.dx / std::max(1, p.size.width), f.dy / std::max(1, p.size.width), f.turn * 180 / CV_PI,
                   f.share, f.error / std::max(1, p.size.width)});
  // What could not be seen lies between its neighbours.
  for (size_t n = 0; n < out.size();) {
    if (out[n].held_by > 0) {
      ++n;
      continue;
    }
    size_t end = n;
    while (end < out.size() && out[end].held_by <= 0) ++end;
    for (size_t k = n; k < end; ++k) {
      const double share = static_cast<double>(k - n + 1) / static_cast<double>(end - n + 1);
      const Pose before = n > 0 ? out[n - 1] : end < out.size() ? out[end] : Pose{};
      const Pose after = end < out.size() ? out[end] : before;
      out[k] = {before.dx + (after.dx - before.dx) * share, before.dy + (after.dy - before.dy) * share,
                before.turn_deg + (after.turn_deg - before.turn_deg) * share, 0, 0};
    }
    n = end;
  }
  return out;
}

int width_looked_at(int film_width) {
  return std::clamp(static_cast<int>(film_width / 2.6), 700, 1400);
}

std::vector<Pose> measure_path(const media::Frames& frames, const std::vector<size_t>& which,
                               const media::FrameSource& source, int film_width, const Work& work) {
  constexpr size_t kInFlight = 4;
  CameraPath path;
  size_t next = 0, done = 0;
  const int width = width_looked_at(film_width);
  using tbb::filter_mode;
  using LookedPtr = std::shared_ptr<const CameraPath::Looked>;
  tbb::parallel_pipeline(
      kInFlight,
      tbb::make_filter<void, size_t>(filter_mode::serial_in_order, [&](tbb::flow_control& flow) -> size_t {
        if (next >= which.size() || work.stop.stop_requested()) flow.stop();
        return next < which.size() ? which[next++] : 0;
      }) & tbb::make_filter<size_t, LookedPtr>(filter_mode::parallel, [&](size_t n) {
        image::Grey8 grey;
        const media::Frame& frame = (*frames)[n];
        if (!frame.set_aside) try {
            grey = narrowed(source.grey(frame, width), width);
          } catch (const std::exception&) {  // the render names it
          }
        return CameraPath::look(grey);
      }) & tbb::make_filter<LookedPtr, void>(filter_mode::serial_in_order, [&](LookedPtr looked) {
        path.add(*looked);
        work.report(++done, which.size());
      }));
  if (work.stop.stop_requested()) throw cancelled(say("Measuring how the camera moved was stopped."));
  return path.finish();
}

}  // namespace askcount::motion
