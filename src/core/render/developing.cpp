#include "render/developing.h"

#include <algorithm>
#include <cmath>

#include "look/colour.h"
#include "look/tones.h"

namespace askcount::render {

Developing::Developing(const FramePlan& plan, image::Size size, double density, float top)
    : width_(size.width), top_(top), cube_(plan.cube), gains_(static_cast<size_t>(size.width), 1.0F) {
  const level::Correction& correction = plan.correction;
  const image::Gain& gain = correction.gain;
  const look::Matrix colours = look::colour_matrix(plan.look, plan.as_shot_k);
  mixes_ = colours != look::kIdentity;
  if (plan.look.haze > 0 && correction.veil.air > 0) {
    lift_.emplace(correction.veil.lifted(plan.look.haze), size.width, size.height);
    air_ = correction.veil.air;
    lift_gains_.resize(gains_.size());
  }
  // What happens before the tables keeps the colours apart by itself.
  const bool beyond = top_ > 1;
  before_ = !correction.flat() || mixes_ || lift_ || beyond;
  if (before_) {
    if (!correction.field.flat()) field_.emplace(correction.field, size.width, size.height);
    if (!correction.red_field.flat() || !correction.blue_field.flat()) {
      red_.emplace(correction.red_field, size.width, size.height);
      blue_.emplace(correction.blue_field, size.width, size.height);
      for (auto* gains : {&red_gains_, &blue_gains_}) gains->resize(gains_.size());
    }
    // Where light goes beyond white the gain of the whole comes before it is bent.
    const double all = beyond ? 1 : gain.green;
    tint_ = {static_cast<float>(gain.red / all), static_cast<float>(gain.green / all),
             static_cast<float>(gain.blue / all), 1};
    if (beyond) air_ = std::min(1.0F, air_ * static_cast<float>(gain.green));
    for (size_t c = 0; c < 3; ++c)
      for (size_t r = 0; r < 3; ++r) mix_[c][r] = static_cast<float>(colours[r][c]);
  }
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
  crispness_ = static_cast<float>(plan.look.crispness * density * density);
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
    bend_row(row, gains_.data(), red, blue, tint_, top_, width_);
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
}

}  // namespace askcount::render
