// SPDX-License-Identifier: GPL-3.0-or-later
#include "skyline/photograph.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "image/tone.h"
#include "media/frame_source.h"

namespace askcount::skyline {
namespace {

constexpr double kRad = 3.14159265358979323846 / 180;
constexpr double kDiagonal_mm = 43.2666;  // of 36 × 24 mm
constexpr int kNearlyWhite = 250;         // a sun or moon that is worth looking for has burnt out
constexpr double kLargest = 0.05;         // of the picture

/// A place of the frame as a direction before the camera: right, up, forward, rolled level.
std::array<double, 3> level(const sky::FramePoint& at, const sky::Optics& o, double roll_deg) {
  const double x = at.x * o.sensor_width_mm / o.focal_mm, y = at.y * o.sensor_height_mm / o.focal_mm;
  const double r = roll_deg * kRad, length = std::sqrt(x * x + y * y + 1);
  return {(std::cos(r) * x + std::sin(r) * y) / length, (-std::sin(r) * x + std::cos(r) * y) / length,
          1 / length};
}

/// How far to the right of the camera's bearing it then lies.
double right_of_middle_deg(const std::array<double, 3>& v, double tilt_deg) {
  const double t = tilt_deg * kRad;
  return std::atan2(v[0], v[2] * std::cos(t) - v[1] * std::sin(t)) / kRad;
}

}  // namespace

Photograph read_photograph(const std::filesystem::path& file, int longest_side) {
  Photograph p;
  const media::Frame frame = media::frame_of(file);
  p.info = frame.info();
  p.full = image::upright(p.info.size, p.info.orientation);
  const double fit =
      std::min(1.0, static_cast<double>(longest_side) / std::max({1, p.full.width, p.full.height}));
  const media::Want want{
      {static_cast<int>(std::ceil(p.full.width * fit)), static_cast<int>(std::ceil(p.full.height * fit))},
      {}};
  p.picture = image::coded(media::any_source().read(frame, want).picture);
  if (const int side = std::max(p.picture.size.width, p.picture.size.height); side > longest_side) {
    const double by = static_cast<double>(longest_side) / side;
    image::Coded8 small({std::max(1, static_cast<int>(std::lround(p.picture.size.width * by))),
                         std::max(1, static_cast<int>(std::lround(p.picture.size.height * by)))});
    const cv::Mat from(p.picture.size.height, p.picture.size.width, CV_8UC3, p.picture.rgb.data());
    cv::Mat to(small.size.height, small.size.width, CV_8UC3, small.rgb.data());
    cv::resize(from, to, to.size(), 0, 0, cv::INTER_AREA);
    p.picture = std::move(small);
  }
  return p;
}

sky::Optics optics_for(double focal_mm, double long_side_mm, image::Size upright) {
  const double per_px = long_side_mm / std::max(upright.width, upright.height);
  return {focal_mm, upright.width * per_px, upright.height * per_px, 0};
}

std::optional<sky::Optics> optics_for(const media::ShotInfo& info, image::Size upright,
                                      double body_long_side_mm) {
  if (info.focal_35mm) {
    const double per_px = kDiagonal_mm / std::hypot(upright.width, upright.height);
    return sky::Optics{*info.focal_35mm, upright.width * per_px, upright.height * per_px, 0};
  }
  if (!info.focal_mm) return {};
  double long_side = body_long_side_mm;
  if (info.sensor_width_mm && info.size.width > 0)
    long_side = *info.sensor_width_mm * std::max(info.size.width, info.size.height) / info.size.width;
  return optics_for(*info.focal_mm, long_side, upright);
}

std::optional<sky::FramePoint> find_light(const image::Coded8& picture) {
  const int w = picture.size.width, h = picture.size.height;
  if (w < 8 || h < 8) return {};
  const cv::Mat rgb(h, w, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb.data()));
  cv::Mat grey, bright, labels, stats, centres;
  cv::cvtColor(rgb, grey, cv::COLOR_RGB2GRAY);
  double most = 0;
  cv::minMaxLoc(grey, nullptr, &most);
  if (most < kNearlyWhite) return {};
  cv::threshold(grey, bright, kNearlyWhite - 1, 255, cv::THRESH_BINARY);
  const int count = cv::connectedComponentsWithStats(bright, labels, stats, centres);
  int best = -1;
  double rank = 0;
  for (int i = 1; i < count; ++i) {
    const double area = stats.at<int>(i, cv::CC_STAT_AREA);
    // A disc fills three quarters of the square around it; a bank of cloud, a wall or a reflection on water
    // does not.
    const double wide = stats.at<int>(i, cv::CC_STAT_WIDTH), high = stats.at<int>(i, cv::CC_STAT_HEIGHT);
    const double round = area / (std::max(wide, high) * std::max(wide, high));
    if (area > kLargest * w * h || round < 0.5) continue;
    if (area * round > rank) rank = area * round, best = i;
  }
  if (best < 0) return {};
  return sky::FramePoint{(centres.at<double>(best, 0) + 0.5) / w - 0.5,
                         0.5 - (centres.at<double>(best, 1) + 0.5) / h};
}

sky::Aim aim_by(const sky::Direction& known, const sky::FramePoint& at, const sky::Optics& optics,
                double roll_deg) {
  const auto v = level(at, optics, roll_deg);
  // Its height over level: v_up cos t + v_forward sin t = sin altitude.
  const double reach = std::hypot(v[1], v[2]), up = std::sin(known.altitude_deg * kRad);
  if (std::abs(up) > reach)
    throw bad_input(say("Nothing {}° up can stand there in the picture, however the camera is tilted.",
                        format_number(known.altitude_deg, 1)),
                    say("Check the time of the picture, its focal length, and which light was marked."));
  const double tilt = (std::asin(up / reach) - std::atan2(v[1], v[2])) / kRad;
  const double bearing = known.azimuth_deg - right_of_middle_deg(v, tilt);
  return {std::fmod(bearing + 720, 360), tilt, roll_deg};
}

double bearing_by(double known_deg, const sky::FramePoint& at, const sky::Optics& optics, double tilt_deg,
                  double roll_deg) {
  return std::fmod(known_deg - right_of_middle_deg(level(at, optics, roll_deg), tilt_deg) + 720, 360);
}

double true_bearing(double compass_deg, double variation_deg) {
  return std::fmod(compass_deg + variation_deg + 720, 360);
}

}  // namespace askcount::skyline
