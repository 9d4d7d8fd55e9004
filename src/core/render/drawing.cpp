// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/drawing.h"

#include <algorithm>
#include <cmath>

#include "level/brightness.h"
#include "render/draw_rows.h"

namespace askcount::render {
namespace {

/// Chooses the way in by the kind of picture.
template <typename How, typename Store>
void draw_any(const image::Picture& picture, const How& how, const Developing& developing, Store&& store) {
  with_loading(picture, [&](const auto& load) { draw_rows(how, load, developing, store); });
}

/// Rows go to the film as they come; colour after every second one, or with each.
template <typename Sample>
auto onto_film(const media::FilmFrame& onto) {
  return [&onto](int y, const Coded& above, const Coded& row) {
    const int wide = onto.size.width;
    luma_row(row, onto.matrix, onto.row<Sample>(0, y), wide);
    if (onto.chroma == media::Chroma::Half422)
      chroma_row(row, row, onto.matrix, onto.row<Sample>(1, y), onto.row<Sample>(2, y), wide / 2);
    else if (y % 2 == 1)
      chroma_row(above, row, onto.matrix, onto.row<Sample>(1, y / 2), onto.row<Sample>(2, y / 2), wide / 2);
  };
}

template <typename How>
void draw_film(const image::Picture& picture, const How& how, const FramePlan& plan,
               const media::FilmFrame& onto) {
  const Developing developing(plan, how.to(), top_of(picture));
  if (onto.bits == 10)
    draw_any(picture, how, developing, onto_film<std::uint16_t>(onto));
  else
    draw_any(picture, how, developing, onto_film<std::uint8_t>(onto));
}

}  // namespace

float top_of(const image::Picture& picture) {
  const auto* light = std::get_if<image::Linear32>(&picture);
  return light ? light->top : 1;
}

void draw(const image::Picture& picture, const image::Resampling& how, const FramePlan& plan,
          const media::FilmFrame& onto) {
  draw_film(picture, how, plan, onto);
}

void draw(const image::Picture& picture, const image::Sampling& how, const FramePlan& plan,
          const media::FilmFrame& onto) {
  draw_film(picture, how, plan, onto);
}

namespace {

/// Loads light that lies there at the size it is drawn, four floats a pixel.
class LoadLying {
 public:
  LoadLying(image::Size size, const float* four) : size_(size), four_(four) {}
  void operator()(int y, float* room) const {
    const float* row = four_ + 4 * static_cast<std::ptrdiff_t>(y) * size_.width;
    std::copy(row, row + 4 * static_cast<std::ptrdiff_t>(size_.width), room);
  }

 private:
  image::Size size_;
  const float* four_;
};

}  // namespace

void draw_light(image::Size size, const float* four, const FramePlan& plan, const media::FilmFrame& onto) {
  const Developing developing(plan, size, 1, Developing::Parts::Codes);
  if (onto.bits == 10)
    draw_rows(Lying{size}, LoadLying(size, four), developing, onto_film<std::uint16_t>(onto));
  else
    draw_rows(Lying{size}, LoadLying(size, four), developing, onto_film<std::uint8_t>(onto));
}

image::Coded16 drawn16_light(image::Size size, const float* four, const FramePlan& plan) {
  image::Coded16 out(size);
  draw_rows(Lying{size}, LoadLying(size, four), Developing(plan, size, 1, Developing::Parts::Codes),
            [&](int y, const Coded&, const Coded& row) { picture_row(row, out.row(y), size.width); });
  return out;
}

image::Coded8 drawn(const image::Picture& picture, const image::Resampling& how, const FramePlan& plan) {
  image::Coded8 out(how.to());
  draw_any(picture, how, Developing(plan, how.to(), top_of(picture)),
           [&](int y, const Coded&, const Coded& row) { picture_row(row, out.row(y), out.size.width); });
  return out;
}

image::Coded16 drawn16(const image::Picture& picture, const image::Resampling& how, const FramePlan& plan) {
  image::Coded16 out(how.to());
  draw_any(picture, how, Developing(plan, how.to(), top_of(picture)),
           [&](int y, const Coded&, const Coded& row) { picture_row(row, out.row(y), out.size.width); });
  return out;
}

namespace {

/// The size of a part no larger than fits.
image::Size fitted(const image::RectF& part, image::Size fit) {
  const double scale = std::min({1.0, fit.width / part.width, fit.height / part.height});
  return {std::max(1, static_cast<int>(std::lround(part.width * scale))),
          std::max(1, static_cast<int>(std::lround(part.height * scale)))};
}

}  // namespace

image::Coded8 developed(const media::Shown& shown, const FramePlan& plan, image::Size fit) {
  const image::Size to = fitted(shown.part, fit);
  FramePlan shown_plan = plan;
  if (plan.look.haze > 0 && plan.correction.veil.air <= 0)  // nobody has measured: as this frame alone has it
    shown_plan.correction.veil = image::Veil::of(level::measure_frame(shown.picture, {}));
  if (plan.film.width > 0) shown_plan.density = static_cast<double>(to.width) / plan.film.width;
  return drawn(shown.picture, image::Resampling(image::size_of(shown.picture), shown.part, to), shown_plan);
}

image::Coded8 preview(const media::FrameSource& source, const media::Frame& frame, const FramePlan& plan,
                      image::Size fit) {
  const image::Size full = image::upright(frame.info().size, frame.info().orientation);
  const image::Size wanted = full.width > 0 ? fitted(image::in_pixels(plan.part, full), fit) : fit;
  return developed(source.read(frame, {wanted, plan.part}), plan, fit);
}

const image::Resampling& Resamplings::of(image::Size from, const image::RectF& part) {
  const std::lock_guard lock(mutex_);
  for (const auto& r : made_)
    if (r->fits(from, part, film_)) return *r;
  made_.push_back(std::make_unique<image::Resampling>(from, part, film_));
  return *made_.back();
}

}  // namespace askcount::render
