// SPDX-License-Identifier: GPL-3.0-or-later
#include "skyline/skyline.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <opencv2/imgproc.hpp>

namespace askcount::skyline {
namespace {

constexpr int kMostColumns = 1200;
constexpr int kReach = 5;             // rows above and below that are compared
constexpr float kStrongest = 0.25F;   // how much more the strongest edges count than strong ones
constexpr float kOverSky = 1.5F;      // a lamp counts no brighter than the sky by this
constexpr float kDarkSky = 0.35F;     // what an edge counts whose darker side is above
constexpr float kBusy = 0.5F;         // cost of edges above the line, by their strength
constexpr float kStep = 0.006F;       // cost of a row up or down to the next column
constexpr float kJump = 3;            // what a wall costs, however high
constexpr double kBeside_deg = 0.05;  // right outside of the picture

/// The value that a share of all values is no larger than.
template <typename Value>
double share_of(const cv::Mat_<Value>& of, double part) {
  std::vector<Value> all(of.begin(), of.end());
  const auto nth = all.begin() + static_cast<std::ptrdiff_t>(static_cast<double>(all.size() - 1) * part);
  std::nth_element(all.begin(), nth, all.end());
  return static_cast<double>(*nth);
}

/// How strongly each place is an edge between sky above and land below, 0 to about 1.
cv::Mat edges_of(const cv::Mat& rgb) {
  cv::Mat soft;
  // By night lit windows are brighter than any sky, and would be the only edges that count.
  cv::Mat_<std::uint8_t> grey;
  cv::cvtColor(rgb.rowRange(0, std::max(1, rgb.rows / 4)), grey, cv::COLOR_RGB2GRAY);
  const double lamp = 20 + kOverSky * share_of(grey, 0.95);
  cv::Mat capped;
  cv::min(rgb, cv::Scalar::all(lamp), capped);
  cv::medianBlur(capped, soft, 5);  // stars, birds and wires are no skyline
  cv::Mat up, down;
  // Means of some rows above and below each row.
  const cv::Mat box = cv::Mat::ones(kReach, 1, CV_32F) / kReach;
  cv::Mat real;
  soft.convertTo(real, CV_32FC3);
  cv::filter2D(real, up, CV_32F, box, cv::Point(0, kReach - 1), 0, cv::BORDER_REPLICATE);
  cv::filter2D(real, down, CV_32F, box, cv::Point(0, 0), 0, cv::BORDER_REPLICATE);
  cv::Mat_<float> edge(rgb.rows, rgb.cols);
  for (int y = 0; y < rgb.rows; ++y) {
    const int above = std::max(0, y - 1);
    for (int x = 0; x < rgb.cols; ++x) {
      const cv::Vec3f a = up.at<cv::Vec3f>(above, x), b = down.at<cv::Vec3f>(y, x), d = a - b;
      const float far = std::sqrt(d.dot(d));
      const bool sky_above = d[0] + d[1] + d[2] > 0;
      // In a dark picture a small step is as much as a large one in a bright picture.
      const float level = 24 + std::max(a[0] + a[1] + a[2], b[0] + b[1] + b[2]) / 3;
      edge(y, x) = far / level * (sky_above ? 1 : kDarkSky);
    }
  }
  // By the strong ones there are: a hundredth of all pixels.
  double most = 0;
  cv::minMaxLoc(edge, nullptr, &most);
  const auto strong = std::max(static_cast<float>(share_of(edge, 0.99)), static_cast<float>(most) / 10);
  if (most <= 0) return edge;
  // Of rows that all are strong enough the strongest.
  cv::Mat sure = cv::min(edge / strong, 1.0F);
  return (1 - kStrongest) * sure + kStrongest / static_cast<float>(most) * edge;
}

/// The cheapest line through the columns.
std::vector<int> line_through(const cv::Mat& cost) {
  const int h = cost.rows, w = cost.cols;
  std::vector<float> best(static_cast<size_t>(h)), next(best.size());
  std::vector<std::vector<int>> from(static_cast<size_t>(w), std::vector<int>(best.size()));
  for (int y = 0; y < h; ++y) best[static_cast<size_t>(y)] = cost.at<float>(y, 0);
  for (int x = 1; x < w; ++x) {
    std::vector<int>& came = from[static_cast<size_t>(x)];
    const auto cheapest = static_cast<int>(std::min_element(best.begin(), best.end()) - best.begin());
    const float jump = best[static_cast<size_t>(cheapest)] + kJump;
    // Step by step down, then up: each row from its neighbour's cheapest.
    for (int y = 0; y < h; ++y) {
      next[static_cast<size_t>(y)] = best[static_cast<size_t>(y)];
      came[static_cast<size_t>(y)] = y;
    }
    const auto take = [&](int y, int neighbour) {
      const float through = next[static_cast<size_t>(neighbour)] + kStep;
      if (through >= next[static_cast<size_t>(y)]) return;
      next[static_cast<size_t>(y)] = through;
      came[static_cast<size_t>(y)] = came[static_cast<size_t>(neighbour)];
    };
    for (int y = 1; y < h; ++y) take(y, y - 1);
    for (int y = h - 2; y >= 0; --y) take(y, y + 1);
    for (int y = 0; y < h; ++y) {
      float& n = next[static_cast<size_t>(y)];
      if (jump < n) n = jump, came[static_cast<size_t>(y)] = cheapest;
      n += cost.at<float>(y, x);
    }
    std::swap(best, next);
  }
  std::vector<int> line(static_cast<size_t>(w));
  int y = static_cast<int>(std::min_element(best.begin(), best.end()) - best.begin());
  for (int x = w - 1; x >= 0; --x) {
    line[static_cast<size_t>(x)] = y;
    if (x > 0) y = from[static_cast<size_t>(x)][static_cast<size_t>(y)];
  }
  return line;
}

/// Keeps the points a line needs to stay within `tolerance` of all of them.
void simplify(const std::vector<sky::HorizonPoint>& all, size_t first, size_t last, double tolerance,
              std::vector<bool>& keep) {
  std::vector<std::pair<size_t, size_t>> parts = {{first, last}};
  while (!parts.empty()) {
    const auto [a, b] = parts.back();
    parts.pop_back();
    if (b <= a + 1) continue;
    size_t worst = a;
    double off = tolerance;
    for (size_t i = a + 1; i < b; ++i) {
      const double t = (all[i].bearing_deg - all[a].bearing_deg) / (all[b].bearing_deg - all[a].bearing_deg);
      const double d = std::abs(all[i].altitude_deg -
                                (all[a].altitude_deg + t * (all[b].altitude_deg - all[a].altitude_deg)));
      if (d > off) off = d, worst = i;
    }
    if (worst == a) continue;
    keep[worst] = true;
    parts.emplace_back(a, worst);
    parts.emplace_back(worst, b);
  }
}

}  // namespace

std::vector<double> skyline_of(const image::Coded8& picture) {
  const cv::Mat full(picture.size.height, picture.size.width, CV_8UC3,
                     const_cast<std::uint8_t*>(picture.rgb.data()));
  cv::Mat rgb = full;
  if (full.cols > kMostColumns)
    cv::resize(full, rgb, cv::Size(kMostColumns, std::max(8, full.rows * kMostColumns / full.cols)), 0, 0,
               cv::INTER_AREA);
  const cv::Mat edge = edges_of(rgb);
  cv::Mat cost(edge.rows, edge.cols, CV_32F);
  for (int x = 0; x < edge.cols; ++x) {
    float busy = 0;  // the edges passed on the way down, but for the line's own
    for (int y = 0; y < edge.rows; ++y) {
      cost.at<float>(y, x) = (1 - edge.at<float>(y, x)) + busy;
      if (y >= 2 * kReach) {
        const float e = edge.at<float>(y - 2 * kReach, x);
        busy += kBusy * std::max(0.0F, e - 0.25F) / kReach;
      }
    }
  }
  std::vector<double> line;
  const std::vector<int> rows = line_through(cost);
  line.reserve(rows.size());
  for (const int y : rows) line.push_back(static_cast<double>(y) / edge.rows);
  return line;
}

std::vector<sky::HorizonPoint> traced(const std::vector<double>& skyline, const View& view,
                                      const std::vector<sky::HorizonPoint>& horizon, double tolerance_deg) {
  if (skyline.empty()) return horizon;
  // In order of bearings counted from the middle, so that north is no seam.
  std::vector<sky::HorizonPoint> all;
  const double middle = view.aim.bearing_deg;
  for (size_t x = 0; x < skyline.size(); ++x) {
    const sky::FramePoint at{(static_cast<double>(x) + 0.5) / static_cast<double>(skyline.size()) - 0.5,
                             0.5 - skyline[x]};
    const sky::Direction d = sky::direction_of(at, view.aim, view.optics);
    all.push_back({std::remainder(d.azimuth_deg - middle, 360), d.altitude_deg});
  }
  std::sort(all.begin(), all.end(),
            [](const auto& a, const auto& b) { return a.bearing_deg < b.bearing_deg; });
  std::vector<bool> keep(all.size());
  keep.front() = keep.back() = true;
  simplify(all, 0, all.size() - 1, tolerance_deg, keep);
  const auto around = [](double deg) { return std::fmod(deg + 720, 360); };
  const double left = all.front().bearing_deg - kBeside_deg, right = all.back().bearing_deg + kBeside_deg;
  std::vector<sky::HorizonPoint> out;
  for (const sky::HorizonPoint& p : horizon) {
    const double d = std::remainder(p.bearing_deg - middle, 360);
    if (d < left || d > right) out.push_back(p);
  }
  // What was said outside of the picture goes on right beside it.
  out.push_back({around(middle + left), sky::horizon_at(horizon, around(middle + left))});
  out.push_back({around(middle + right), sky::horizon_at(horizon, around(middle + right))});
  for (size_t i = 0; i < all.size(); ++i)
    if (keep[i]) out.push_back({around(middle + all[i].bearing_deg), all[i].altitude_deg});
  std::sort(out.begin(), out.end(),
            [](const auto& a, const auto& b) { return a.bearing_deg < b.bearing_deg; });
  return out;
}

}  // namespace askcount::skyline
