// SPDX-License-Identifier: GPL-3.0-or-later
#include "motion/motion.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

#include "base/error.h"
#include "base/language.h"
#include "image/tone.h"
#include "media/frame_source.h"
#include "motion/moving_part.h"

namespace askcount::motion {
namespace {

constexpr int kWorkingWidth = 1500;
constexpr int kSmallest = 64;           // pixels, either way
constexpr double kLeastMove_px = 0.75;  // at the working width
constexpr double kLeastShare = 2e-4;    // of the picture that must move
constexpr double kSmallMove_px = 40;    // of the full picture, that is measured there again
constexpr int kPartWide_px = 1600, kPartHigh_px = 1200;
constexpr double kLongWay_px = 14;  // that is measured in pictures of half the size
constexpr double kAlike = 0.5;      // an arrow against the move most of it shares
constexpr double kPi = 3.14159265358979;

cv::Mat grey_of(const image::Coded8& p) {
  const cv::Mat rgb(p.size.height, p.size.width, CV_8UC3, const_cast<std::uint8_t*>(p.rgb.data()));
  cv::Mat grey;
  cv::cvtColor(rgb, grey, cv::COLOR_RGB2GRAY);
  return grey;
}

/// How well a move explains the second picture by the first, judged on both at a reduced size.
class Ballot {
 public:
  Ballot(const cv::Mat& a, const cv::Mat& b, const cv::Mat& mask, int reduction) : reduction_(reduction) {
    const cv::Size size(a.cols / reduction, a.rows / reduction);
    cv::resize(a, a_, size, 0, 0, cv::INTER_AREA);
    cv::resize(b, b_, size, 0, 0, cv::INTER_AREA);
    cv::resize(mask, mask_, size, 0, 0, cv::INTER_NEAREST);
    cv::absdiff(a_, b_, still_);
  }

  /// How much worse it does if all moved by `v` (pixels of the unreduced size) than if nothing had: every
  /// pixel of the mask votes from -1 (explained) to 1, so that a few still edges cannot outvote a soft sky.
  double left(cv::Point2d v) const {
    constexpr double kFull = 6;  // grey levels that make a whole vote
    cv::Mat moved, vote;
    const cv::Mat shift = (cv::Mat_<double>(2, 3) << 1, 0, -v.x / reduction_, 0, 1, -v.y / reduction_);
    cv::warpAffine(b_, moved, shift, b_.size(), cv::INTER_LINEAR, cv::BORDER_REPLICATE);
    cv::absdiff(a_, moved, moved);
    cv::scaleAdd(still_, -1, moved, vote);
    cv::max(cv::min(vote, kFull), -kFull, vote);
    return cv::mean(vote, mask_)[0] / kFull;
  }

  /// The move near `from` that does best, by ever smaller steps.
  cv::Point2d refined(cv::Point2d from, double first_step, double last_step) const {
    double best = left(from);
    double step = first_step;
    while (step >= last_step) {
      bool better = false;
      for (const auto& [x, y] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
        const cv::Point2d to = from + cv::Point2d(x * step, y * step);
        const double then = left(to);
        if (then >= best - 1e-4) continue;
        from = to;
        best = then;
        better = true;
      }
      if (!better) step /= 2;
    }
    return from;
  }

 private:
  int reduction_;
  cv::Mat a_, b_, mask_, still_;
};

/// The vector most of the moving ones gather around.
cv::Point2d gathered(const std::vector<cv::Point2f>& vectors) {
  std::vector<float> xs, ys;
  for (const auto& v : vectors) {
    xs.push_back(v.x);
    ys.push_back(v.y);
  }
  const auto middle = [](std::vector<float>& v) {
    std::nth_element(v.begin(), v.begin() + static_cast<long>(v.size() / 2), v.end());
    return static_cast<double>(v[v.size() / 2]);
  };
  cv::Point2d at(middle(xs), middle(ys));
  for (int round = 0; round < 12; ++round) {
    const double reach = std::max(1.0, (round < 6 ? 0.4 : 0.15) * std::hypot(at.x, at.y));
    cv::Point2d sum(0, 0);
    double n = 0;
    for (const auto& v : vectors)
      if (std::hypot(v.x - at.x, v.y - at.y) < reach) {
        sum += cv::Point2d(v.x, v.y);
        ++n;
      }
    if (n == 0) break;
    at = sum * (1 / n);
  }
  return at;
}

/// Where dense flow found something moving.
struct Flowing {
  std::vector<cv::Point2f> vectors;  // in pixels of the reduced picture
  std::vector<Arrow> places;         // in pixels of the working picture
};

/// Dense flow at 1 / `reduction` of the working size: vectors that move, have a slope of brightness to hold
/// on to, and lead back to where they came from.
Flowing flowing(const cv::Mat& a, const cv::Mat& b, int reduction, double least_slope) {
  cv::Mat small_a, small_b, flow, back, gx, gy;
  cv::resize(a, small_a, {a.cols / reduction, a.rows / reduction}, 0, 0, cv::INTER_AREA);
  cv::resize(b, small_b, small_a.size(), 0, 0, cv::INTER_AREA);
  const auto dis = cv::DISOpticalFlow::create(cv::DISOpticalFlow::PRESET_MEDIUM);
  dis->calc(small_a, small_b, flow);
  dis->calc(small_b, small_a, back);
  cv::Sobel(small_a, gx, CV_32F, 1, 0);
  cv::Sobel(small_a, gy, CV_32F, 0, 1);
  Flowing f;
  for (int y = 2; y < small_a.rows - 2; ++y)
    for (int x = 2; x < small_a.cols - 2; ++x) {
      const cv::Point2f v = flow.at<cv::Point2f>(y, x);
      if (std::hypot(v.x, v.y) < kLeastMove_px) continue;
      if (std::hypot(gx.at<float>(y, x), gy.at<float>(y, x)) < least_slope) continue;
      const int u = std::clamp(static_cast<int>(std::lround(x + v.x)), 0, small_a.cols - 1);
      const int w = std::clamp(static_cast<int>(std::lround(y + v.y)), 0, small_a.rows - 1);
      const cv::Point2f r = back.at<cv::Point2f>(w, u);
      if (std::hypot(v.x + r.x, v.y + r.y) > 1 + 0.1 * std::hypot(v.x, v.y)) continue;
      f.vectors.push_back(v);
      const double k = reduction;
      f.places.push_back({x * k, y * k, v.x * k, v.y * k});
    }
  return f;
}

/// Both in grey, the second as bright as the first.
std::pair<cv::Mat, cv::Mat> levelled(const cv::Mat& first, cv::Mat second) {
  const double level_a = cv::mean(first)[0], level_b = cv::mean(second)[0];
  if (level_b > 1) second.convertTo(second, -1, level_a / level_b);
  return {first, second};
}

/// A picture without its slow slopes of light, which may change from one to the next: less itself, softened
/// in an eighth of its size.
cv::Mat without_slopes(const cv::Mat& picture, double softness) {
  cv::Mat slope, detail;
  cv::resize(picture, slope, {std::max(8, picture.cols / 8), std::max(8, picture.rows / 8)}, 0, 0,
             cv::INTER_AREA);
  cv::GaussianBlur(slope, slope, {0, 0}, softness);
  cv::resize(slope, slope, picture.size(), 0, 0, cv::INTER_LINEAR);
  cv::subtract(picture, slope, detail, cv::noArray(), CV_32F);
  return detail;
}

/// Two pictures as least squares see them: detail without the slow slopes of light, and where they differ.
struct Details {
  cv::Mat a, b, still;
  float noise;

  Details(const cv::Mat& first, const cv::Mat& second) : a(of(first)), b(of(second)), still(cv::abs(b - a)) {
    cv::Mat levels;
    still.convertTo(levels, CV_8U, 4);
    std::uint8_t* const middle = levels.data + levels.total() / 2;
    std::nth_element(levels.data, middle, levels.data + levels.total());
    noise = std::max(0.75F, static_cast<float>(*middle) / 4);
  }

 private:
  static cv::Mat of(const cv::Mat& picture) {
    cv::Mat soft;
    cv::GaussianBlur(picture, soft, {5, 5}, 1.0);
    soft.convertTo(soft, CV_32F);
    return without_slopes(soft, 6);
  }
};

/// The shift near `from` that lays what moved in a part of the second picture best over the first, by
/// iterated least squares over the pixels that changed and that the shift explains by half; with how much it
/// is to be believed: those pixels, less where much else changed. Nothing where it does not settle.
std::optional<std::pair<cv::Point2d, double>> least_squares(const Details& d, const cv::Rect& part,
                                                            cv::Point2d from) {
  constexpr int kRounds = 12;
  constexpr double kSettled_px = 0.004, kFar = 0.35, kFar_px = 1.5;
  constexpr size_t kLeastPixels = 60;
  const int edge = 4 + static_cast<int>(std::ceil((1 + kFar) * std::max(std::abs(from.x), std::abs(from.y))));
  const cv::Rect inner = part & cv::Rect(edge, edge, d.a.cols - 2 * edge, d.a.rows - 2 * edge);
  if (inner.width < 8 || inner.height < 8) return {};
  const cv::Rect outer(inner.x - edge, inner.y - edge, inner.width + 2 * edge, inner.height + 2 * edge);
  cv::Point2d v = from;
  double belief = 0;
  for (int round = 0; round < kRounds; ++round) {
    cv::Mat over, gx, gy;
    const cv::Mat shift = (cv::Mat_<double>(2, 3) << 1, 0, -v.x, 0, 1, -v.y);
    cv::warpAffine(d.b(outer), over, shift, outer.size(), cv::INTER_CUBIC, cv::BORDER_REPLICATE);
    cv::Scharr(over, gx, CV_32F, 1, 0, 1.0 / 32);
    cv::Scharr(over, gy, CV_32F, 0, 1, 1.0 / 32);
    double xx = 0, xy = 0, yy = 0, xr = 0, yr = 0;
    size_t used = 0, changed = 0;
    for (int y = 0; y < inner.height; ++y) {
      const auto *pa = d.a.ptr<float>(inner.y + y) + inner.x, *ps = d.still.ptr<float>(inner.y + y) + inner.x;
      const auto *po = over.ptr<float>(edge + y) + edge, *px = gx.ptr<float>(edge + y) + edge,
                 *py = gy.ptr<float>(edge + y) + edge;
      for (int x = 0; x < inner.width; ++x) {
        const float left = po[x] - pa[x];
        if (ps[x] < 4 * d.noise) continue;
        ++changed;
        if (std::abs(left) > 0.5F * ps[x]) continue;
        const double gxx = static_cast<double>(px[x]), gyy = static_cast<double>(py[x]),
                     r = static_cast<double>(left);
        xx += gxx * gxx;
        xy += gxx * gyy;
        yy += gyy * gyy;
        xr += gxx * r;
        yr += gyy * r;
        ++used;
      }
    }
    const double det = xx * yy - xy * xy;
    if (used < kLeastPixels || det <= 1e-3 * xx * yy || det <= 0) return {};
    const cv::Point2d step(-(yy * xr - xy * yr) / det, -(xx * yr - xy * xr) / det);
    v += step;
    if (std::hypot(v.x - from.x, v.y - from.y) > std::max(kFar_px, kFar * std::hypot(from.x, from.y)))
      return {};
    const double share = static_cast<double>(used) / static_cast<double>(changed);
    belief = static_cast<double>(used) * share * share;
    if (std::hypot(step.x, step.y) < kSettled_px) break;
  }
  return std::pair{v, belief};
}

/// The shift near `from`, measured in every part of the pictures by itself: what most of them agree on. A
/// reflection or a boat in another part pulls it nowhere. Nothing where it settles nowhere.
std::optional<cv::Point2d> agreed(const cv::Mat& a, const cv::Mat& b, cv::Point2d from) {
  constexpr int kAcross = 6, kDown = 4;
  constexpr double kAgree = 0.04, kAgree_px = 0.3;
  constexpr size_t kLeastAgreeing = 3;
  const Details details(a, b);
  const auto whole = least_squares(details, {0, 0, a.cols, a.rows}, from);
  std::vector<std::pair<cv::Point2d, double>> parts;
  for (int j = 0; j < kDown; ++j)
    for (int i = 0; i < kAcross; ++i) {
      const cv::Rect part(a.cols * i / kAcross, a.rows * j / kDown, a.cols / kAcross, a.rows / kDown);
      if (const auto found = least_squares(details, part, whole ? whole->first : from))
        parts.push_back(*found);
    }
  std::optional<cv::Point2d> best;
  if (whole) best = whole->first;
  double most = 0;
  for (const auto& [at, unused] : parts) {
    const double reach = std::max(kAgree_px, kAgree * std::hypot(at.x, at.y));
    double weight = 0;
    size_t agreeing = 0;
    cv::Point2d sum(0, 0);
    for (const auto& [v, belief] : parts)
      if (std::hypot(v.x - at.x, v.y - at.y) < reach) {
        sum += v * belief;
        weight += belief;
        ++agreeing;
      }
    if (agreeing >= kLeastAgreeing && weight > most) most = weight, best = sum * (1 / weight);
  }
  return best;
}

/// The same, a long way first in smaller pictures, where noise is averaged away and soft subjects have
/// slopes: the larger ones then only make it finer.
std::optional<cv::Point2d> measured(const cv::Mat& a, const cv::Mat& b, cv::Point2d from) {
  constexpr double kFiner = 0.012, kFiner_px = 0.4;
  if (std::hypot(from.x, from.y) < kLongWay_px || std::min(a.cols, a.rows) < 4 * kSmallest)
    return agreed(a, b, from);
  cv::Mat half_a, half_b;
  cv::resize(a, half_a, {a.cols / 2, a.rows / 2}, 0, 0, cv::INTER_AREA);
  cv::resize(b, half_b, half_a.size(), 0, 0, cv::INTER_AREA);
  const cv::Point2d by(static_cast<double>(a.cols) / half_a.cols, static_cast<double>(a.rows) / half_a.rows);
  const auto found = measured(half_a, half_b, {from.x / by.x, from.y / by.y});
  if (!found) return agreed(a, b, from);
  const cv::Point2d coarse(found->x * by.x, found->y * by.y);
  const auto fine = agreed(a, b, coarse);
  const bool near = fine && std::hypot(fine->x - coarse.x, fine->y - coarse.y) <
                                std::max(kFiner_px, kFiner * std::hypot(coarse.x, coarse.y));
  return near ? *fine : coarse;
}

Motion described(double dx, double dy, image::Size full, double seconds) {
  Motion m;
  m.seconds = seconds;
  m.dx = dx;
  m.dy = dy;
  const double length = std::hypot(dx, dy);
  m.px_per_s = length / seconds;
  m.frame_widths_per_s = m.px_per_s / full.width;
  m.direction_deg = std::fmod(std::atan2(-dy, dx) * 180 / kPi + 360, 360);
  const bool level = std::abs(dx) >= std::abs(dy);
  m.crossing_s = level ? full.width / (std::abs(dx) / seconds) : full.height / (std::abs(dy) / seconds);
  return m;
}

/// Measures a motion that is roughly known again, on larger pictures. Where it does not settle near by, it is
/// given back as it was.
Motion refined(const Motion& roughly, const image::Coded8& first, const image::Coded8& second) {
  // Where most of the arrows are: a part is enough, and much faster than all of a large picture.
  cv::Rect part(0, 0, first.size.width, first.size.height);
  if (!roughly.arrows.empty()) {
    std::vector<double> xs, ys;
    for (const Arrow& arrow : roughly.arrows) xs.push_back(arrow.x), ys.push_back(arrow.y);
    const auto middle = [](std::vector<double>& v) {
      std::nth_element(v.begin(), v.begin() + static_cast<long>(v.size() / 2), v.end());
      return static_cast<int>(v[v.size() / 2]);
    };
    part &=
        cv::Rect(middle(xs) - kPartWide_px / 2, middle(ys) - kPartHigh_px / 2, kPartWide_px, kPartHigh_px);
  }
  const auto [a, b] = levelled(grey_of(first)(part), grey_of(second)(part));
  const auto found = measured(a, b, {roughly.dx, roughly.dy});
  if (!found) return roughly;
  Motion m = described(found->x, found->y, first.size, roughly.seconds);
  m.moving_share = roughly.moving_share;
  m.arrows = roughly.arrows;
  return m;
}

}  // namespace

Motion find_motion(const image::Coded8& first, const image::Coded8& second, image::Size full,
                   double seconds) {
  if (!(first.size == second.size))
    throw bad_input(say("The two pictures differ in size."),
                    say("Take both with the same camera and settings."));
  if (first.size.width < kSmallest || first.size.height < kSmallest)
    throw bad_input(
        say("The pictures are {} x {}: too small to measure motion in.", first.size.width, first.size.height),
        say("Give pictures of {} pixels or more either way.", kSmallest));
  const auto [a, b] = levelled(grey_of(first), grey_of(second));
  const double unit = static_cast<double>(full.width) / a.cols;  // full pixels in a working one

  // Where anything changed beyond the noise.
  cv::Mat change, noise_free_a, noise_free_b, changed;
  cv::GaussianBlur(a, noise_free_a, {5, 5}, 1.2);
  cv::GaussianBlur(b, noise_free_b, {5, 5}, 1.2);
  cv::absdiff(noise_free_a, noise_free_b, change);
  cv::Scalar mean, spread;
  cv::meanStdDev(change, mean, spread);
  cv::Mat sorted = change.reshape(1, 1).clone();
  std::uint8_t* const middle = sorted.data + sorted.total() / 2;
  std::nth_element(sorted.data, middle, sorted.data + sorted.total());
  const double floor = std::max(4.0, 5.0 * *middle);
  cv::threshold(change, changed, floor, 255, cv::THRESH_BINARY);

  const cv::Mat detail_a = without_slopes(noise_free_a, 9), detail_b = without_slopes(noise_free_b, 9);
  struct Candidate {
    cv::Point2d move;
    double left;
    std::vector<Arrow> places;
  };
  std::vector<Candidate> candidates;
  const double total = static_cast<double>(a.total());
  const int changed_pixels = cv::countNonZero(changed);
  const Ballot fine(detail_a, detail_b, changed, 2), soft(detail_a, detail_b, changed, 4);
  // Sharp subjects show at the working size, soft ones (clouds) once noise is averaged away in a smaller
  // picture.
  for (const auto& [reduction, least_slope] : {std::pair{1, 12.0}, std::pair{4, 2.5}}) {
    const Flowing f = flowing(noise_free_a, noise_free_b, reduction, least_slope);
    if (static_cast<double>(f.vectors.size()) * reduction * reduction <= kLeastShare * total) continue;
    cv::Point2d v = gathered(f.vectors) * reduction;
    if (reduction > 1) v = soft.refined(v, 16, 0.5);
    v = fine.refined(v, 0.5, 0.1);
    Candidate c{v, fine.left(v), {}};
    for (const Arrow& p : f.places) c.places.push_back({p.x * unit, p.y * unit, p.dx * unit, p.dy * unit});
    candidates.push_back(std::move(c));
  }
  if (changed_pixels > kLeastShare * total) {
    // What changed, less its surroundings, matched with itself at any distance.
    cv::Mat flat_a, flat_b, wide_a, wide_b, mask;
    cv::dilate(changed, mask, cv::getStructuringElement(cv::MORPH_ELLIPSE, {9, 9}));
    cv::GaussianBlur(a, wide_a, {0, 0}, 15);
    cv::GaussianBlur(b, wide_b, {0, 0}, 15);
    cv::subtract(noise_free_a, wide_a, flat_a, mask, CV_32F);
    cv::subtract(noise_free_b, wide_b, flat_b, mask, CV_32F);
    const cv::Point2d v = cv::phaseCorrelate(flat_a, flat_b);
    if (std::hypot(v.x, v.y) >= kLeastMove_px) candidates.push_back({v, fine.left(v), {}});
  }
  if (candidates.empty())
    throw failed(say("Nothing moves between the two pictures."),
                 say("Take them further apart, or mark the subject by hand."));
  const auto best = std::min_element(candidates.begin(), candidates.end(),
                                     [](const Candidate& p, const Candidate& q) { return p.left < q.left; });
  const cv::Point2d move = measured(a, b, best->move).value_or(best->move);
  Motion m = described(move.x * unit, move.y * unit, full, seconds);
  m.moving_share = changed_pixels / total;
  // Only where something changed, and moves as most of it does: what stands still gets no arrow.
  const Candidate& drawn = best->places.empty() ? candidates.front() : *best;
  std::vector<Arrow> moving;
  for (const Arrow& p : drawn.places) {
    const cv::Point at(static_cast<int>(p.x / unit), static_cast<int>(p.y / unit));
    if (changed.at<std::uint8_t>(std::min(at.y, changed.rows - 1), std::min(at.x, changed.cols - 1)) == 0)
      continue;
    if (std::hypot(p.dx - m.dx, p.dy - m.dy) < kAlike * std::hypot(m.dx, m.dy)) moving.push_back(p);
  }
  const size_t stride = std::max<size_t>(1, moving.size() / 160);
  for (size_t i = 0; i < moving.size(); i += stride) m.arrows.push_back(moving[i]);
  return m;
}

Pair read_pair(const std::filesystem::path& a, const std::filesystem::path& b,
               std::optional<double> seconds) {
  // A file that a person names and that cannot be read is theirs to fix.
  const auto given = [](const auto& read) {
    try {
      return read();
    } catch (const Error& e) {
      throw bad_input(e.what());
    }
  };
  const auto info_of = [&](const std::filesystem::path& file) {
    return given([&] { return media::read_shot_info(file); });
  };
  const media::ShotInfo info_a = info_of(a), info_b = info_of(b);
  if (!seconds) {
    if (!info_a.captured || !info_b.captured)
      throw bad_input(say("{} does not say when it was taken.", (info_a.captured ? b : a).string()),
                      say("Say the time between them."));
    seconds = static_cast<double>((*info_b.captured - *info_a.captured).count()) / 1000;
    if (*seconds == 0)
      throw bad_input(say("Both pictures were taken at the same moment by their clocks."),
                      say("Say the time between them."));
  }
  if (*seconds < 0) return read_pair(b, a, -*seconds);
  if (!(info_a.size == info_b.size))
    throw bad_input(say("The two pictures differ in size."),
                    say("Take both with the same camera and settings."));
  const auto read = [&](const std::filesystem::path& file) {
    const media::Want want{{kWorkingWidth, 0}, {}};
    return given([&] { return image::coded(media::any_source().read(media::frame_of(file), want).picture); });
  };
  return {read(a), read(b), image::upright(info_a.size, info_a.orientation), *seconds, a, b};
}

Motion motion_of(const Pair& pair) {
  Motion m = find_motion(pair.first, pair.second, pair.full, pair.seconds);
  // A long way is known well enough from the small ones.
  if (pair.full.width <= pair.first.size.width || pair.file_a.empty() ||
      std::hypot(m.dx, m.dy) > kSmallMove_px)
    return m;
  const auto whole = [&pair](const std::filesystem::path& file) {
    return image::coded(media::any_source().read(media::frame_of(file), {pair.full, {}}).picture);
  };
  return refined(m, whole(pair.file_a), whole(pair.file_b));
}

Motion motion_between(const std::filesystem::path& a, const std::filesystem::path& b,
                      std::optional<double> seconds) {
  return motion_of(read_pair(a, b, seconds));
}

Motion motion_marked(double x0, double y0, double x1, double y1, image::Size full, double seconds) {
  if (!(seconds > 0)) throw bad_input(say("The time between the pictures must be above zero."));
  if (x0 == x1 && y0 == y1)
    throw bad_input(say("The marks are at the same place."), say("Drag from where it was to where it is."));
  return described(x1 - x0, y1 - y0, full, seconds);
}

double frame_widths_per_s(double metres_per_s, double distance_m, double focal_mm, double sensor_width_mm) {
  return focal_mm / sensor_width_mm * metres_per_s / distance_m;
}

}  // namespace askcount::motion
