// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/flaws.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <random>

#include "base/error.h"
#include "base/units.h"

namespace askcount::simulate {
namespace {

constexpr double kMostBent_pct = 20, kMostCorners_stops = 4;
constexpr int kMostSpecks = 200, kMostHot = 20000;

}  // namespace

void visit(Fields& f, Flaws& w) {
  f.number("dust", w.dust, 0, kMostSpecks);
  f.number("hot_pixels", w.hot_pixels, 0, kMostHot);
  f.number("bent_pct", w.bent_pct, -kMostBent_pct, kMostBent_pct);
  f.number("corners_stops", w.corners_stops, 0, kMostCorners_stops);
}

void add_flaw(Flaws& flaws, std::string_view text) {
  const size_t equals = text.find('=');
  const std::string word(text.substr(0, equals));
  const auto amount = [&](double most, bool signed_too) {
    const std::string value(equals == std::string_view::npos ? "" : text.substr(equals + 1));
    const bool below = signed_too && value.starts_with('-');
    const double v = parse_positive(value.substr(below), Input::Flaw);
    if (v > most)
      throw bad_value(Input::Flaw, fmt::format("\"{}\" is more than {}.", text, format_number(most, 0)));
    return below ? -v : v;
  };
  if (word == "dust")
    flaws.dust = static_cast<int>(amount(kMostSpecks, false));
  else if (word == "hot")
    flaws.hot_pixels = static_cast<int>(amount(kMostHot, false));
  else if (word == "bent")
    flaws.bent_pct = amount(kMostBent_pct, true);
  else if (word == "corners")
    flaws.corners_stops = amount(kMostCorners_stops, false);
  else
    throw bad_value(Input::Flaw, fmt::format("\"{}\" is none the stand-in has.", text),
                    "It has dust=5, hot=40, bent=-3 and corners=1.");
}

std::vector<Speck> specks(const Flaws& flaws, std::uint64_t seed) {
  std::mt19937_64 random(seed * 131 + 71);
  std::uniform_real_distribution<double> even(0, 1);
  std::vector<Speck> all;
  for (int i = 0; i < flaws.dust; ++i) {
    Speck s;
    s.x = 0.05 + 0.9 * even(random);
    s.y = 0.05 + 0.9 * even(random);
    s.radius = 0.004 + 0.005 * even(random);
    s.stops = 0.12 + 0.25 * even(random);
    all.push_back(s);
  }
  return all;
}

std::vector<HotPlace> hot_places(const Flaws& flaws, image::Size size, std::uint64_t seed) {
  std::mt19937_64 random(seed * 977 + 5);
  std::uniform_int_distribution<int> across(2, std::max(2, size.width - 3)),
      down(2, std::max(2, size.height - 3));
  std::uniform_real_distribution<float> bright(0.05F, 0.5F);
  std::vector<HotPlace> all;
  for (int i = 0; i < flaws.hot_pixels; ++i) {
    HotPlace p;
    p.x = across(random);
    p.y = down(random);
    p.white_per_s = bright(random);
    all.push_back(p);
  }
  return all;
}

void through_glass(const Flaws& flaws, std::uint64_t seed, image::Linear32& seen) {
  const int w = seen.size.width, h = seen.size.height;
  cv::Mat m(h, w, CV_32FC3, seen.rgb.data());
  const double corner = static_cast<double>(w) * w + static_cast<double>(h) * h;
  const auto r2 = [&](double x, double y) {
    const double dx = 2 * x + 1 - w, dy = 2 * y + 1 - h;
    return (dx * dx + dy * dy) / corner;
  };
  if (flaws.bent_pct != 0) {
    cv::Mat map(h, w, CV_32FC2), bent;
    for (int y = 0; y < h; ++y)
      for (int x = 0; x < w; ++x) {
        // What lies at the distance d in the picture comes from the u with u·(1 + k·u²) = d.
        const double d = std::sqrt(r2(x, y)), k = flaws.bent_pct / 100;
        double u = d;
        for (int step = 0; step < 12; ++step) u -= (u * (1 + k * u * u) - d) / (1 + 3 * k * u * u);
        const double in = d > 0 ? u / d : 1;
        map.at<cv::Vec2f>(y, x) = {static_cast<float>((w - 1) / 2.0 + in * (x - (w - 1) / 2.0)),
                                   static_cast<float>((h - 1) / 2.0 + in * (y - (h - 1) / 2.0))};
      }
    cv::remap(m, bent, map, cv::noArray(), cv::INTER_LINEAR, cv::BORDER_REFLECT);
    bent.copyTo(m);
  }
  const std::vector<Speck> dust = specks(flaws, seed);
  if (flaws.corners_stops == 0 && dust.empty()) return;
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      double stops = flaws.corners_stops == 0 ? 0 : flaws.corners_stops * r2(x, y);
      for (const Speck& s : dust) {
        const double d = std::hypot(x + 0.5 - s.x * w, y + 0.5 - s.y * h) / (s.radius * w);
        if (d < 1) stops += s.stops * (1 - d * d) * (1 - d * d);
      }
      if (stops == 0) continue;
      const auto less = static_cast<float>(std::exp2(-stops));
      for (int c = 0; c < 3; ++c) seen.row(y)[3 * x + c] *= less;
    }
}

}  // namespace askcount::simulate
