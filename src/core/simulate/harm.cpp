// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/harm.h"

#include <cmath>
#include <opencv2/imgproc.hpp>

namespace askcount::simulate {

void apply_harm(const FrameHarm& h, image::Linear32& seen) {
  if (h.none()) return;
  cv::Mat m(seen.size.height, seen.size.width, CV_32FC3, seen.rgb.data());
  const double w = seen.size.width;
  if (h.shift_x != 0 || h.shift_y != 0) {
    const cv::Matx23d shift(1, 0, h.shift_x * w, 0, 1, h.shift_y * w);
    cv::Mat moved;
    cv::warpAffine(m, moved, shift, m.size(), cv::INTER_LINEAR, cv::BORDER_REFLECT);
    moved.copyTo(m);
  }
  if (h.blur * w > 0.2) cv::GaussianBlur(m, m, {0, 0}, h.blur * w, 0, cv::BORDER_REFLECT);
  if (h.haze > 0) {
    const cv::Scalar mean = cv::mean(m);
    m = m * (1 - h.haze) + cv::Scalar(mean[0], mean[1], mean[2]) * h.haze;
  }
  if (h.stops != 0 || h.red_stops != 0 || h.blue_stops != 0)
    cv::multiply(
        m,
        cv::Scalar(std::exp2(h.stops + h.red_stops), std::exp2(h.stops), std::exp2(h.stops + h.blue_stops)),
        m);
}

}  // namespace askcount::simulate
