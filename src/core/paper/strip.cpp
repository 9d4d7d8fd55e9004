// SPDX-License-Identifier: GPL-3.0-or-later
#include "paper/strip.h"

#include <cairo.h>

#include <algorithm>
#include <memory>

#include "image/cairo_png.h"

namespace askcount::paper {
namespace {

constexpr int kStripHigh = 240, kTake = 10, kHour = 9, kSixHours = 18, kAboveCurve = 36, kBelowCurve = 24;
constexpr double kCurve = 3;

struct Destroy {
  void operator()(cairo_t* c) const { cairo_destroy(c); }
  void operator()(cairo_surface_t* s) const { cairo_surface_destroy(s); }
};

void fill(cairo_t* c, double x, double y, double wide, double high, const std::array<std::uint8_t, 3>& rgb) {
  cairo_set_source_rgb(c, rgb[0] / 255.0, rgb[1] / 255.0, rgb[2] / 255.0);
  cairo_rectangle(c, x, y, wide, high);
  cairo_fill(c);
}

void draw_curve(cairo_t* c, const std::vector<double>& values) {
  const auto [low, high] = std::minmax_element(values.begin(), values.end());
  const double room = kStripHigh - kAboveCurve - kBelowCurve, span = std::max(0.1, *high - *low);
  cairo_set_antialias(c, CAIRO_ANTIALIAS_DEFAULT);
  cairo_set_source_rgb(c, 1, 216 / 255.0, 77 / 255.0);
  cairo_set_line_width(c, kCurve);
  for (size_t x = 0; x < values.size(); ++x)
    cairo_line_to(c, static_cast<double>(x) + 0.5,
                  kStripHigh - kBelowCurve - (values[x] - *low) / span * room);
  cairo_stroke(c);
}

}  // namespace

void write_strip(const Strip& strip, const std::filesystem::path& file, const Guard& guard) {
  const auto width = static_cast<int>(strip.sky.size());
  const std::unique_ptr<cairo_surface_t, Destroy> surface(
      cairo_image_surface_create(CAIRO_FORMAT_RGB24, width, kStripHigh));
  const std::unique_ptr<cairo_t, Destroy> cairo(cairo_create(surface.get()));
  cairo_t* c = cairo.get();
  cairo_set_antialias(c, CAIRO_ANTIALIAS_NONE);
  for (int x = 0; x < width; ++x) fill(c, x, 0, 1, kStripHigh, strip.sky[static_cast<size_t>(x)]);
  const double from = std::clamp<double>(strip.from, 0, width), to = std::clamp<double>(strip.to, 0, width);
  fill(c, from, 0, std::max(1.0, to - from), kTake, {0, 114, 124});
  for (int hour = 0; hour <= strip.hours; ++hour) {
    const int tall = hour % 6 == 0 ? kSixHours : kHour;
    fill(c, static_cast<int>(hour / strip.hours * (width - 1)), kStripHigh - tall, 1, tall, {255, 255, 255});
  }
  if (!strip.curve.empty()) draw_curve(c, strip.curve);
  image::write_png(surface.get(), file, guard);
}

}  // namespace askcount::paper
