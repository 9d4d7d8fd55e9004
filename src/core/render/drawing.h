// SPDX-License-Identifier: GPL-3.0-or-later
// From a decoded frame to a film frame or a picture in one go: linear light, size, brightness, coding.
#pragma once

#include <memory>
#include <mutex>
#include <vector>

#include "image/resample.h"
#include "media/frame_buffer.h"
#include "media/frame_source.h"
#include "render/plan.h"

namespace askcount::render {

/// Draws a picture onto a film frame of the resampling's size, 8 or 10 bits as the frame has them. The
/// picture is of the size the resampling is from. Safe from several threads at once.
void draw(const image::Picture& picture, const image::Resampling& how, const FramePlan& plan,
          const media::FilmFrame& onto);

/// The same through a map.
void draw(const image::Picture& picture, const image::Sampling& how, const FramePlan& plan,
          const media::FilmFrame& onto);

/// Codes light that is levelled already and has the film frame's size, four floats a pixel.
void draw_light(image::Size size, const float* four, const FramePlan& plan, const media::FilmFrame& onto);

/// The same in 16 bits, as a picture.
image::Coded16 drawn16_light(image::Size size, const float* four, const FramePlan& plan);

/// The most light there can be in a picture.
float top_of(const image::Picture& picture);

/// The same as an 8-bit picture: what the window shows.
image::Coded8 drawn(const image::Picture& picture, const image::Resampling& how, const FramePlan& plan);

/// The same in 16 bits, for other programs.
image::Coded16 drawn16(const image::Picture& picture, const image::Resampling& how, const FramePlan& plan);

/// What was read of a frame as the film will show it, no larger than `fit` in either direction: `plan` says
/// what is done to its light; its part is what was read.
image::Coded8 developed(const media::Shown& shown, const FramePlan& plan, image::Size fit);

/// A frame as the film will show it, no larger than `fit` in either direction. Throws as FrameSource::read.
image::Coded8 preview(const media::FrameSource& source, const media::Frame& frame, const FramePlan& plan,
                      image::Size fit);

/// The resamplings of one film by what they read; frames of one take nearly always share one. Safe from
/// several threads at once.
class Resamplings {
 public:
  explicit Resamplings(image::Size film) : film_(film) {}
  const image::Resampling& of(image::Size from, const image::RectF& part);

 private:
  image::Size film_;
  std::mutex mutex_;
  std::vector<std::unique_ptr<image::Resampling>> made_;
};

}  // namespace askcount::render
