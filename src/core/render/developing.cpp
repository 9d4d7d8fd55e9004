// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/developing.h"

#include <algorithm>
#include <cmath>

#include "look/colour.h"
#include "look/tones.h"

namespace askcount::render {

namespace {

/// The rows of a field that is over the plan's part of the frame.
image::FieldRows rows_of(const image::Field& field, const FramePlan& plan, image::Size size) {
  if (!plan.map) return {field, size.width, size.height};
  // Places of the film, then of the frame, then of the part; all in shares but the first.
  const double w = plan.frame_size.width * plan.part.width, h = plan.frame_size.height * plan.part.height;
  const image::Affine drawn = image::Affine::scaled(static_cast<double>(plan.film.width) / size.width,
                                                    static_cast<double>(plan.film.height) / size.height);
  const image::Affine shares = image::Affine::scaled(1 / w, 1 / h)
                                   .after(image::Affine::shifted(-plan.part.x * plan.frame_size.width,
                                                                 -plan.part.y * plan.frame_size.height));
  return {field, size.width, size.height, shares.after(plan.map->after(drawn))};
}

}  // namespace

Developing::Developing(const FramePlan& plan, image::Size size, float top, Parts parts)
    : width_(size.width),
      top_(parts == Parts::Codes ? 1 : top),
      fade_(parts == Parts::Light ? 1 : plan.fade),
      cube_(plan.cube),
      gains_(static_cast<size_t>(size.width), 1.0F) {
  // What is joined has its gains and its haze done already.
  static const level::Correction none;
  const level::Correction& correction = parts == Parts::Codes ? none : plan.correction;
  const image::Gain& gain = correction.gain;
  const look::Matrix colours =
      parts == Parts::Light ? look::kIdentity : look::colour_matrix(plan.look, plan.as_shot_k);
  mixes_ = colours != look::kIdentity;
  if (plan.look.haze > 0 && correction.veil.air > 0) {
    lift_.emplace(rows_of(correction.veil.lifted(plan.look.haze), plan, size));
    air_ = correction.veil.air;
    lift_gains_.resize(gains_.size());
  }
  // What happens before the tables keeps the colours apart by itself.
  const bool beyond = top_ > 1;
  const bool in_light = beyond || parts == Parts::Light;  // all gains come before the tables
  before_ = !correction.flat() || mixes_ || lift_ || in_light;
  if (before_) {
    if (!correction.field.flat()) field_.emplace(rows_of(correction.field, plan, size));
    if (!correction.red_field.flat() || !correction.blue_field.flat()) {
      red_.emplace(rows_of(correction.red_field, plan, size));
      blue_.emplace(rows_of(correction.blue_field, plan, size));
      for (auto* gains : {&red_gains_, &blue_gains_}) gains->resize(gains_.size());
    }
    // Where light goes beyond white the gain of the whole comes before it is bent.
    const double all = in_light ? 1 : gain.green;
    tint_ = {static_cast<float>(gain.red / all), static_cast<float>(gain.green / all),
             static_cast<float>(gain.blue / all), 1};
    if (in_light) air_ = std::min(1.0F, air_ * static_cast<float>(gain.green));
    for (size_t c = 0; c < 3; ++c)
      for (size_t r = 0; r < 3; ++r) mix_[c][r] = static_cast<float>(colours[r][c]);
  }
  if (parts == Parts::Light) return;
  const look::ToneCurve tones(plan.look);
  const auto coding = [&](double by) {
    const image::GainCurve curve(by);
    codings_.push_back(tones.none() ? image::CodingTable(curve).take()
                                    : image::CodingTable([&](float linear) {
                                        return static_cast<float>(tones(static_cast<double>(curve(linear))));
                                      }).take());
  };
  coding(beyond ? 1 : before_ ? gain.green : gain.red);
  if (!before_ && !gain.alike()) {
    coding(gain.green);
    coding(gain.blue);
  }
  // A pixel of a smaller picture has the mean of the film's: what is crisp there is less so here.
  crispness_ = static_cast<float>(plan.look.crispness * plan.density * plan.density);
}

void Developing::lighten(float* row, int y) const {
  if (!before_) return;
  if (field_) field_->row(y, gains_.data());
  const float *red = nullptr, *blue = nullptr;
  if (red_) {
    red_->row(y, red_gains_.data());
    blue_->row(y, blue_gains_.data());
    red = red_gains_.data();
    blue = blue_gains_.data();
  }
  if (top_ > 1) {
    bend_row(row, {gains_.data(), red, blue}, tint_, top_, width_);
  } else if (red) {
    gain_row(row, gains_.data(), red, blue, tint_, width_);
  } else {
    gain_row(row, gains_.data(), tint_, width_);
  }
  if (lift_) {
    lift_->row(y, lift_gains_.data());
    lift_row(row, lift_gains_.data(), air_, width_);
  }
  if (mixes_) mix_row(row, mix_, width_);
}

std::array<const float*, 3> Developing::tables() const {
  return {codings_.front().data(), codings_[codings_.size() / 2].data(), codings_.back().data()};
}

void Developing::colour(const Coded& row) const {
  if (cube_) cube_->apply(row.r, row.g, row.b, width_);
  if (fade_ < 1)
    for (float* codes : {row.r, row.g, row.b})
      for (int x = 0; x < width_; ++x) codes[x] *= fade_;
}

}  // namespace askcount::render
