// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/joining.h"

#include <algorithm>
#include <cmath>

#include "motion/made_frame.h"
#include "render/draw_rows.h"
#include "render/drawing.h"

namespace askcount::render {
namespace {

constexpr double kTrailStops = 6;  // a trail's end against its beginning

/// Calls `use` with the way a layer's picture is seen: resampled where the film shows a part of it upright,
/// through a map otherwise.
template <typename Use>
void with_way(const Layer& layer, Resamplings& resamplings, const Use& use) {
  const media::Shown& shown = *layer.from->shown;
  const image::Size size = image::size_of(shown.picture);
  if (!layer.plan.map) {
    use(resamplings.of(size, place_in(shown, layer.from->part, layer.plan.part)));
    return;
  }
  const image::Affine map = picture_map(*layer.from, *layer.plan.map);
  if (map.straight())  // rows and columns apart: a good deal quicker
    use(image::Resampling(size, map, layer.plan.film, layer.plan.kernel));
  else
    use(image::Sampling(size, map, layer.plan.film, layer.plan.kernel));
}

/// The rows of a layer's light, levelled, from the top.
template <typename Take>
void light_rows(const Layer& layer, Resamplings& resamplings, Take&& take) {
  const media::Shown& shown = *layer.from->shown;
  const Developing developing(layer.plan, layer.plan.film, top_of(shown.picture), Developing::Parts::Light);
  with_way(layer, resamplings, [&](const auto& how) {
    with_loading(shown.picture, [&](const auto& load) {
      rows_through(how, load, [&](int y, float* row) {
        developing.lighten(row, y);
        take(y, row);
      });
    });
  });
}

image::Linear32 three_of(const Layer& layer, Resamplings& resamplings) {
  image::Linear32 out(layer.plan.film);
  light_rows(layer, resamplings, [&](int y, const float* row) {
    float* o = out.row(y);
    for (int x = 0; x < out.size.width; ++x)
      for (int c = 0; c < 3; ++c) o[3 * x + c] = row[4 * x + c];
  });
  return out;
}

}  // namespace

void draw_one(const DueFrame& frame, Resamplings& resamplings, const media::FilmFrame& onto) {
  const Layer& layer = frame.layers.front();
  with_way(layer, resamplings,
           [&](const auto& how) { draw(layer.from->shown->picture, how, layer.plan, onto); });
}

std::unique_ptr<Light> joined(const DueFrame& frame, Resamplings& resamplings) {
  auto light = std::make_unique<Light>(frame.plan.film);
  const int n = 4 * light->size.width;
  if (frame.joining == Joining::Motion) {
    const image::Linear32 a = three_of(frame.layers[0], resamplings),
                          b = three_of(frame.layers[1], resamplings);
    const image::Linear32 between = motion::Between(a, b).at(frame.share);
    for (int y = 0; y < light->size.height; ++y) {
      const float* in = between.row(y);
      float* out = light->row(y);
      for (int x = 0; x < light->size.width; ++x) {
        for (int c = 0; c < 3; ++c) out[4 * x + c] = in[3 * x + c];
        out[4 * x + 3] = 0;
      }
    }
    return light;
  }
  bool first = true;
  const bool brightest = frame.joining == Joining::Brightest;
  for (const Layer& layer : frame.layers) {
    const float w = brightest ? 1 : layer.weight;
    light_rows(layer, resamplings, [&](int y, const float* row) {
      float* out = light->row(y);
      if (first)
        for (int i = 0; i < n; ++i) out[i] = w * row[i];
      else if (brightest)
        for (int i = 0; i < n; ++i) out[i] = std::max(out[i], row[i]);
      else
        for (int i = 0; i < n; ++i) out[i] += w * row[i];
    });
    first = false;
  }
  return light;
}

void code(const Light& light, const FramePlan& plan, const media::FilmFrame& onto) {
  draw_light(light.size, light.four.data(), plan, onto);
}

BrightTrails::BrightTrails(long long length)
    : fall_(length < 0 ? 1 : static_cast<float>(std::exp2(-kTrailStops / static_cast<double>(length)))) {}

void BrightTrails::pass(Light& light) {
  if (!held_) {
    held_ = std::make_unique<Light>(light);
    return;
  }
  for (size_t i = 0; i < light.four.size(); ++i) {
    const float all = std::max(light.four[i], held_->four[i] * fall_);
    light.four[i] = held_->four[i] = all;
  }
}

void StillLight::add(const Light& light) {
  ++many_;
  if (!sum_) {
    sum_ = std::make_unique<Light>(light);
    return;
  }
  for (size_t i = 0; i < light.four.size(); ++i)
    sum_->four[i] =
        kind_ == Still::Brightest ? std::max(sum_->four[i], light.four[i]) : sum_->four[i] + light.four[i];
}

image::Coded16 StillLight::picture(const FramePlan& plan) const {
  Light all = *sum_;
  if (kind_ == Still::Mean)
    for (float& v : all.four) v /= static_cast<float>(many_);
  return drawn16_light(all.size, all.four.data(), plan);
}

}  // namespace askcount::render
