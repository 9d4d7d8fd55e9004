#include "render/developing.h"

#include <algorithm>
#include <cmath>

#include "look/colour.h"
#include "look/tones.h"

namespace askcount::render {

Developing::Developing(const FramePlan& plan, image::Size size, double density)
    : width_(size.width), cube_(plan.cube), gains_(static_cast<size_t>(size.width)) {
  const level::Correction& correction = plan.correction;
  const image::Gain& gain = correction.gain;
  const look::Matrix colours = look::colour_matrix(plan.look, plan.as_shot_k);
  mixes_ = colours != look::kIdentity;
  if (plan.look.haze > 0 && correction.veil.air > 0) {
    lift_.emplace(correction.veil.lifted(plan.look.haze), size.width, size.height);
    air_ = correction.veil.air;
  }
  // What happens before the tables keeps the colours apart by itself.
  const bool before = !correction.flat() || mixes_ || lift_;
  if (before) {
    field_.emplace(correction.field, size.width, size.height);
    if (!correction.red_field.flat() || !correction.blue_field.flat()) {
      red_.emplace(correction.red_field, size.width, size.height);
      blue_.emplace(correction.blue_field, size.width, size.height);
      for (auto* gains : {&red_gains_, &blue_gains_}) gains->resize(gains_.size());
    }
    tint_ = {static_cast<float>(gain.red / gain.green), 1, static_cast<float>(gain.blue / gain.green), 1};
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
  coding(before ? gain.green : gain.red);
  if (!before && !gain.alike()) {
    coding(gain.green);
    coding(gain.blue);
  }
  // A pixel of a smaller picture has the mean of the film's: what is crisp there is less so here.
  crispness_ = static_cast<float>(plan.look.crispness * density * density);
}

void Developing::lighten(float* row, int y) const {
  if (!field_) return;
  field_->row(y, gains_.data());
  if (red_) {
    red_->row(y, red_gains_.data());
    blue_->row(y, blue_gains_.data());
    gain_row(row, gains_.data(), red_gains_.data(), blue_gains_.data(), tint_, width_);
  } else {
    gain_row(row, gains_.data(), tint_, width_);
  }
  if (lift_) {
    lift_->row(y, gains_.data());
    lift_row(row, gains_.data(), air_, width_);
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
