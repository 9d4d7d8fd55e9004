// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/warp.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "image/tone.h"

namespace askcount::optics {
namespace {

constexpr int kBorder = 48;  // places along each side that must be full
constexpr double kMostShown = 1.12, kLeastShown = 0.3;

}  // namespace

struct Warp::Maps {
  std::vector<std::pair<cv::Mat, cv::Mat>> of;  ///< one for all colours or one for each
};

Warp::Warp(LensGrid of, double turn_deg, double vignetting_stops, image::Size size)
    : lens_(std::move(of)), size_(size) {
  const LensGrid& lens = lens_;
  const double radians = turn_deg * 3.14159265358979 / 180;
  cos_ = std::cos(radians);
  sin_ = std::sin(radians);
  const bool moves = lens.bends || turn_deg != 0;
  if (moves) {
    double fits = kLeastShown, beyond = kMostShown;
    for (int step = 0; step < 24; ++step) {
      const double between = (fits + beyond) / 2;
      (full(between) ? fits : beyond) = between;
    }
    shows_ = fits;
  }
  const bool lights = lens.darkens || vignetting_stops != 0;
  if (!moves && !lights) return;
  const int w = size.width, h = size.height;
  std::vector<cv::Mat> maps(moves ? (lens.fringes ? 3 : 1) : 0);
  for (cv::Mat& m : maps) m.create(h, w, CV_32FC2);
  if (lights) light_.resize(static_cast<size_t>(w) * static_cast<size_t>(h));
  const double corner = static_cast<double>(w) * w + static_cast<double>(h) * h;
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      const double u = (x + 0.5) / w, v = (y + 0.5) / h;
      const auto at = turned(u, v, shows_);
      LensGrid::Crossing c;
      if (!lens.crossings.empty())
        c = lens.at(at[0], at[1]);
      else
        for (size_t k = 0; k < 6; ++k) c.place[k] = static_cast<float>(at[k % 2]);
      for (size_t m = 0; m < maps.size(); ++m) {
        const size_t k = maps.size() == 1 ? 2 : 2 * m;  // green stands for all
        maps[m].at<cv::Vec2f>(y, x) = {c.place[k] * static_cast<float>(w) - 0.5F,
                                       c.place[k + 1] * static_cast<float>(h) - 0.5F};
      }
      if (!lights) continue;
      const double dx = (2 * u - 1) * w, dy = (2 * v - 1) * h;
      light_[static_cast<size_t>(y) * w + x] =
          c.light * static_cast<float>(std::exp2(-vignetting_stops * (dx * dx + dy * dy) / corner));
    }
  if (!moves) return;
  const auto fixed_maps = std::make_shared<Maps>();
  for (const cv::Mat& m : maps) {
    std::pair<cv::Mat, cv::Mat> fixed;
    cv::convertMaps(m, cv::noArray(), fixed.first, fixed.second, CV_16SC2);
    fixed_maps->of.push_back(std::move(fixed));
  }
  maps_ = fixed_maps;
}

std::array<double, 2> Warp::turned(double x, double y, double shows) const {
  // A picture turned clockwise shows at a place what lay counter-clockwise of it.
  const double dx = (x - 0.5) * size_.width * shows, dy = (y - 0.5) * size_.height * shows;
  return {0.5 + (dx * cos_ + dy * sin_) / size_.width, 0.5 + (dy * cos_ - dx * sin_) / size_.height};
}

std::array<double, 2> Warp::before(double x, double y) const {
  const auto at = turned(x, y, shows_);
  if (lens_.crossings.empty()) return at;
  const LensGrid::Crossing c = lens_.at(at[0], at[1]);
  return {static_cast<double>(c.place[2]), static_cast<double>(c.place[3])};
}

std::array<double, 2> Warp::after(double x, double y) const {
  std::array<double, 2> at = {x, y};
  constexpr int kSteps = 30;  // each brings it ten times nearer and more
  for (int step = 0; step < kSteps; ++step) {
    const auto back = before(at[0], at[1]);
    at = {at[0] + x - back[0], at[1] + y - back[1]};
  }
  return at;
}

bool Warp::full(double shows) const {
  const auto inside = [&](double x, double y) {
    const auto at = turned(x, y, shows);
    constexpr double kWithin = LensGrid::kMargin;
    if (at[0] < -kWithin || at[0] > 1 + kWithin || at[1] < -kWithin || at[1] > 1 + kWithin) return false;
    if (lens_.crossings.empty()) return at[0] >= 0 && at[0] <= 1 && at[1] >= 0 && at[1] <= 1;
    const LensGrid::Crossing c = lens_.at(at[0], at[1]);
    return std::all_of(c.place.begin(), c.place.end(), [](float p) { return p >= 0 && p <= 1; });
  };
  for (int i = 0; i <= kBorder; ++i) {
    const double along = static_cast<double>(i) / kBorder;
    if (!inside(along, 0) || !inside(along, 1) || !inside(0, along) || !inside(1, along)) return false;
  }
  return true;
}

image::Picture Warp::apply(image::Picture picture) const {
  if (!light_.empty()) picture = image::linear(std::move(picture));
  if (maps_)
    picture = std::visit(
        [&](auto& from) -> image::Picture {
          auto to = std::remove_cvref_t<decltype(from)>(size_);
          if constexpr (std::is_same_v<decltype(to), image::Linear32>) to.top = from.top;
          const int depth = sizeof(from.rgb[0]) == 1 ? CV_8UC3 : CV_32FC3;
          const cv::Mat in(size_.height, size_.width, depth, from.rgb.data());
          cv::Mat out(size_.height, size_.width, depth, to.rgb.data());
          if (maps_->of.size() == 1) {
            cv::remap(in, out, maps_->of[0].first, maps_->of[0].second, cv::INTER_CUBIC,
                      cv::BORDER_REPLICATE);
            return to;
          }
          cv::Mat one, moved;
          for (int c = 0; c < 3; ++c) {
            const auto& map = maps_->of[static_cast<size_t>(c)];
            cv::extractChannel(in, one, c);
            cv::remap(one, moved, map.first, map.second, cv::INTER_CUBIC, cv::BORDER_REPLICATE);
            cv::insertChannel(moved, out, c);
          }
          return to;
        },
        picture);
  if (auto* light = std::get_if<image::Linear32>(&picture)) {
    if (maps_)
      for (float& v : light->rgb) v = std::max(0.0F, v);  // cubic weights swing below
    if (!light_.empty())
      for (size_t i = 0; i < light_.size(); ++i)
        for (size_t c = 0; c < 3; ++c) light->rgb[3 * i + c] *= light_[i];
  }
  return picture;
}

}  // namespace askcount::optics
