// SPDX-License-Identifier: GPL-3.0-or-later
#include "motion/moving_part.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/error.h"
#include "base/language.h"

namespace askcount::motion {
namespace {

cv::Mat view_of(const image::Coded8& p) {
  return {p.size.height, p.size.width, CV_8UC3, const_cast<std::uint8_t*>(p.rgb.data())};
}

/// How much two pictures differ, channel by channel at its most, noise smoothed away.
cv::Mat difference(const cv::Mat& a, const cv::Mat& b) {
  cv::Mat soft_a, soft_b, d;
  cv::GaussianBlur(a, soft_a, {5, 5}, 1.2);
  cv::GaussianBlur(b, soft_b, {5, 5}, 1.2);
  cv::absdiff(soft_a, soft_b, d);
  std::vector<cv::Mat> parts;
  cv::split(d, parts);
  return cv::max(parts[0], cv::max(parts[1], parts[2]));
}

}  // namespace

MovingPart cut_moving(const Pair& pair, const Motion& motion) {
  const cv::Mat a = view_of(pair.first), b = view_of(pair.second);
  const double scale = static_cast<double>(b.cols) / pair.full.width;
  cv::Mat moved;
  const cv::Matx23d shift(1, 0, motion.dx * scale, 0, 1, motion.dy * scale);
  cv::warpAffine(a, moved, shift, b.size(), cv::INTER_LINEAR, cv::BORDER_REPLICATE);
  const cv::Mat changed = difference(b, a), unlike = difference(b, moved);
  cv::Mat sorted = changed.clone().reshape(1, 1);
  std::uint8_t* const middle = sorted.data + sorted.total() / 2;
  std::nth_element(sorted.data, middle, sorted.data + sorted.total());
  const double floor = std::max(8.0, 4.0 * *middle);
  cv::Mat mask = (changed > floor) & (unlike < changed);
  const int reach = std::max(3, b.cols / 150) | 1;
  const cv::Mat brush = cv::getStructuringElement(cv::MORPH_ELLIPSE, {reach, reach});
  cv::morphologyEx(mask, mask, cv::MORPH_CLOSE, brush);
  cv::morphologyEx(mask, mask, cv::MORPH_OPEN, cv::getStructuringElement(cv::MORPH_ELLIPSE, {3, 3}));
  cv::Mat labels, stats, centres;
  const int n = cv::connectedComponentsWithStats(mask, labels, stats, centres);
  int best = 0;
  for (int i = 1; i < n; ++i)
    if (best == 0 || stats.at<int>(i, cv::CC_STAT_AREA) > stats.at<int>(best, cv::CC_STAT_AREA)) best = i;
  if (best == 0 || stats.at<int>(best, cv::CC_STAT_AREA) < 12)
    throw failed(say("Nothing can be cut out that moves as one."),
                 say("The preview draws a plain shape instead."));
  mask = labels == best;
  cv::dilate(mask, mask, brush);
  cv::GaussianBlur(mask, mask, {0, 0}, reach / 3.0);
  cv::Rect box = cv::boundingRect(mask > 8);
  MovingPart part;
  part.where = {box.x, box.y, box.width, box.height};
  part.picture = image::Coded8({box.width, box.height});
  part.alpha.resize(static_cast<size_t>(box.area()));
  for (int y = 0; y < box.height; ++y) {
    std::copy_n(b.ptr(box.y + y) + std::ptrdiff_t{3} * box.x, 3 * box.width, part.picture.row(y));
    std::copy_n(mask.ptr(box.y + y) + box.x, box.width,
                part.alpha.data() + static_cast<size_t>(y) * box.width);
  }
  return part;
}

}  // namespace askcount::motion
