// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/stillness.h"

#include "inspect/series.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace askcount::inspect {
namespace {

constexpr float kTextured = 2.5F;   // codes of deviation that a window needs
constexpr float kSureWhole = 0.3F;  // of a perfect peak, for all of the picture
constexpr float kStayed = 0.35F;    // of that peak, where the picture has not moved
constexpr double kPassBand = 0.11;  // standard deviation of the weight, in cycles a pixel
constexpr size_t kRemembered = 10;  // frames whose movement tells what moves by itself
constexpr double kStands = 0.15;    // pixels a frame: less is still
constexpr double kTrembles = 0.5;   // pixels around that: less is steady
constexpr size_t kReferenceLasts = 40;
constexpr double kGround = 0.25;  // share of the windows that stand, to be the ground
constexpr double kAgree = 0.6;    // pixels from the fit

/// The weight of each frequency of a window, and what they add up to.
struct Weights {
  cv::Mat at;
  double sum = 0;
  explicit Weights(int side) : at(side / 2, side / 2, CV_32F) {
    const int n = side / 2;
    for (int y = 0; y < n; ++y)
      for (int x = 0; x < n; ++x) {
        const double fx = (x < n / 2 ? x : x - n) / static_cast<double>(side);
        const double fy = (y < n / 2 ? y : y - n) / static_cast<double>(side);
        const double w = x == 0 && y == 0 ? 0 : std::exp(-(fx * fx + fy * fy) / (2 * kPassBand * kPassBand));
        at.at<float>(y, x) = static_cast<float>(w);
        sum += w;
      }
  }
};

const Weights& weights(int side) {
  static const std::array<Weights, 4> all{Weights(32), Weights(64), Weights(96), Weights(128)};
  return all[static_cast<size_t>(side / 32 - 1)];
}

/// Of a perfect peak: chance alone makes taller ones in smaller windows.
float sure_for(int side) {
  return side >= 96 ? 0.28F : side >= 64 ? 0.34F : 0.5F;
}

/// Offset of a peak between three neighbouring values.
float between(float before, float at, float after) {
  const auto log = [](float v) { return std::log(std::max(v, 1e-6F)); };
  const float a = log(before), b = log(at), c = log(after), bend = a - 2 * b + c;
  return bend < -1e-6F ? std::clamp(0.5F * (a - c) / bend, -0.5F, 0.5F) : 0;
}

}  // namespace

namespace {

struct Peak {
  float x = 0, y = 0, sure = 0;
  float stayed = 0;  // of a perfect peak, where nothing has moved
};

/// Where the whitened cross-power of two spectra peaks: how far `to` lies from `from`.
Peak peak_of(const cv::Mat& from, const cv::Mat& to, const Weights& weight, cv::Mat& cross, cv::Mat& peak) {
  const int side = from.rows;
  cross.create(side, side, CV_32FC2);
  for (int y = 0; y < side; ++y) {
    const auto *a = from.ptr<cv::Vec2f>(y), *b = to.ptr<cv::Vec2f>(y);
    const float* w = weight.at.ptr<float>(y);
    auto* out = cross.ptr<cv::Vec2f>(y);
    for (int x = 0; x < side; ++x) {
      const float re = b[x][0] * a[x][0] + b[x][1] * a[x][1], im = b[x][1] * a[x][0] - b[x][0] * a[x][1];
      const float by = w[x] / (std::sqrt(re * re + im * im) + 1e-6F);
      out[x] = {re * by, im * by};
    }
  }
  cv::dft(cross, peak, cv::DFT_INVERSE | cv::DFT_REAL_OUTPUT);
  cv::Point at;
  double most = 0;
  cv::minMaxLoc(peak, nullptr, &most, nullptr, &at);
  const auto value = [&](int x, int y) { return peak.at<float>((y + side) % side, (x + side) % side); };
  const float here = static_cast<float>(most);
  float stayed = 0;
  for (int y = -1; y <= 1; ++y)
    for (int x = -1; x <= 1; ++x) stayed = std::max(stayed, value(x, y));
  // Half the frequencies make half the pixels.
  return {2 * (static_cast<float>(at.x <= side / 2 ? at.x : at.x - side) +
               between(value(at.x - 1, at.y), here, value(at.x + 1, at.y))),
          2 * (static_cast<float>(at.y <= side / 2 ? at.y : at.y - side) +
               between(value(at.x, at.y - 1), here, value(at.x, at.y + 1))),
          static_cast<float>(most / weight.sum), static_cast<float>(stayed / weight.sum)};
}

}  // namespace

std::vector<Stillness::Shift> Stillness::shifts(const Windows& from, const Windows& to) const {
  std::vector<Shift> list(from.spectrum.size());
  const Weights& weight = weights(from.side);
  cv::Mat cross, peak;
  for (size_t i = 0; i < list.size(); ++i) {
    if (std::min(from.texture[i], to.texture[i]) < kTextured) continue;
    const Peak p = peak_of(from.spectrum[i], to.spectrum[i], weight, cross, peak);
    list[i] = {p.x, p.y, p.sure};
  }
  return list;
}

std::optional<Stillness::Fit> Stillness::large_shift(const Windows& from, const Windows& to) {
  cv::Mat cross, peak;
  const Peak p = peak_of(from.whole, to.whole, weights(Windows::kWhole), cross, peak);
  const double x = static_cast<double>(p.x) * to.size.width / Windows::kWhole,
               y = static_cast<double>(p.y) * to.size.height / Windows::kWhole;
  // Where a part of the picture stays as it was, something moves in it.
  if (p.sure < kSureWhole || p.stayed > kStayed * p.sure || std::hypot(x, y) < 0.2 * to.side) return {};
  Fit f;
  f.x = x;
  f.y = y;
  f.share = 0.5;
  f.windows = 2;
  return f;
}

std::vector<size_t> Stillness::usable(const Windows& w, const std::vector<Shift>& s) const {
  std::vector<size_t> list;
  for (size_t i = 0; i < s.size(); ++i)
    if (s[i].sure >= sure_for(w.side) && std::abs(s[i].x) < static_cast<float>(w.side) * 0.45F &&
        std::abs(s[i].y) < static_cast<float>(w.side) * 0.45F)
      list.push_back(i);
  return list;
}

std::vector<size_t> Stillness::still_among(const std::vector<size_t>& windows, bool& known) const {
  std::vector<size_t> still, fresh;
  for (const size_t i : windows) {
    std::vector<double> x, y;
    for (const cv::Point2f& p : moved_[i])
      x.push_back(static_cast<double>(p.x)), y.push_back(static_cast<double>(p.y));
    if (x.size() < 4)
      fresh.push_back(i);
    else if (std::hypot(median(x), median(y)) < kStands && std::hypot(spread(x), spread(y)) < kTrembles)
      still.push_back(i);
  }
  // Where nothing is known to stand, all are asked.
  known = still.size() >= 2;
  if (!known) return windows;
  if (still.size() < 4) still.insert(still.end(), fresh.begin(), fresh.end());
  return still;
}

Stillness::Fit Stillness::fit(const Windows& w, const std::vector<Shift>& s, const std::vector<size_t>& which,
                              const Fit& expected) {
  Fit best;
  if (which.empty()) return best;
  const cv::Point2f centre(static_cast<float>(w.size.width) / 2, static_cast<float>(w.size.height) / 2);
  const auto agreeing = [&](const Fit& f) {
    std::vector<size_t> in;
    for (const size_t i : which) {
      const cv::Point2f r = w.middle[i] - centre;
      const double dx = static_cast<double>(s[i].x) - f.x + f.turn * static_cast<double>(r.y);
      const double dy = static_cast<double>(s[i].y) - f.y - f.turn * static_cast<double>(r.x);
      if (std::hypot(dx, dy) < kAgree) in.push_back(i);
    }
    return in;
  };
  std::vector<double> x, y;
  for (const size_t i : which)
    x.push_back(static_cast<double>(s[i].x)), y.push_back(static_cast<double>(s[i].y));
  Fit start;
  start.x = median(x);
  start.y = median(y);
  // Candidates: the median, each window alone, and each pair of windows that are far apart (for a turn).
  std::vector<Fit> candidates{start};
  for (const size_t i : which)
    candidates.push_back({static_cast<double>(s[i].x), static_cast<double>(s[i].y)});
  for (size_t a = 0; a < which.size(); ++a)
    for (size_t b = a + 1; b < which.size(); b += 2) {
      const size_t i = which[a], j = which[b];
      const cv::Point2f r = w.middle[j] - w.middle[i];
      const double far = static_cast<double>(r.x * r.x + r.y * r.y);
      if (far < 200.0 * 200.0) continue;
      const double ex = static_cast<double>(s[j].x - s[i].x), ey = static_cast<double>(s[j].y - s[i].y);
      Fit f;
      f.turn = (static_cast<double>(r.x) * ey - static_cast<double>(r.y) * ex) / far;
      if (std::abs(f.turn) * std::sqrt(far) < 0.8 || std::abs(f.turn) > 0.1) continue;
      const cv::Point2f from = w.middle[i] - centre;
      f.x = static_cast<double>(s[i].x) + f.turn * static_cast<double>(from.y);
      f.y = static_cast<double>(s[i].y) - f.turn * static_cast<double>(from.x);
      candidates.push_back(f);
    }
  std::vector<size_t> in, ground = agreeing(expected);
  // A turn must gather more of them: it has more ways to please a few.
  size_t most = 0;
  for (const Fit& c : candidates) {
    auto now = agreeing(c);
    const size_t worth = c.turn != 0 ? (now.size() < 5 ? 0 : now.size() - 2) : now.size();
    if (worth > most) most = worth, in = std::move(now), best = c;
  }
  // Ground that stays where it was outweighs a sky full of moving things; not nearly all of the picture.
  const auto all = static_cast<double>(which.size()), standing = static_cast<double>(ground.size());
  const bool outvoted = static_cast<double>(most) > 0.6 * all && static_cast<double>(most) >= 1.8 * standing;
  if (ground.size() >= 2 && standing >= kGround * all && !outvoted) in = std::move(ground), best = expected;
  // The mean of those that agree; the turn stays where it takes one to make them.
  double sx = 0, sy = 0;
  for (const size_t i : in) {
    const cv::Point2f r = w.middle[i] - centre;
    sx += static_cast<double>(s[i].x) + best.turn * static_cast<double>(r.y);
    sy += static_cast<double>(s[i].y) - best.turn * static_cast<double>(r.x);
  }
  if (!in.empty()) {
    best.x = sx / static_cast<double>(in.size());
    best.y = sy / static_cast<double>(in.size());
  }
  best.windows = in.size();
  best.share = static_cast<double>(in.size()) / static_cast<double>(which.size());
  best.expected = best.turn == expected.turn && std::hypot(best.x - expected.x, best.y - expected.y) < kAgree;
  return best;
}

Position Stillness::next(const std::shared_ptr<const Windows>& w) {
  const bool fits = first_ && first_->side == w->side && first_->size == w->size && w->side > 0;
  if (!fits) {  // the first frame, or one of another size: everything begins anew where it was
    at_first_ = at_before_;
    at_first_.held_by = 0;
    at_before_ = at_first_;
    first_ = before_ = w;
    since_first_ = 0;
    moved_.assign(w->spectrum.size(), {});
    return at_before_;
  }
  const std::vector<Shift> step = shifts(*before_, *w),
                           whole = first_ == before_ ? step : shifts(*first_, *w);
  const std::vector<size_t> step_windows = usable(*w, step), whole_windows = usable(*w, whole);
  const double degree = std::numbers::pi / 180;
  const Fit stays, as_before{(at_before_.x - at_first_.x) / w->scale, (at_before_.y - at_first_.y) / w->scale,
                             (at_before_.turn_deg - at_first_.turn_deg) * degree};
  bool known = false, known_whole = false;
  const std::vector<size_t> step_still = still_among(step_windows, known),
                            whole_still = still_among(whole_windows, known_whole);
  const Fit by_step = fit(*w, step, step_still, stays), by_whole = fit(*w, whole, whole_still, as_before);
  const auto from = [&](const Position& p, const Fit& f) {
    return Position{p.x + f.x * w->scale, p.y + f.y * w->scale, p.turn_deg + f.turn / degree,
                    f.expected ? 1 : f.share};
  };
  // Windows that are known to stand are believed in twos, others in threes.
  const size_t unknown_least = w->spectrum.size() >= 12 ? 3 : 2;
  const auto good = [&](const Fit& f, bool of_still) {
    return f.windows >= (of_still ? 2 : unknown_least) && (f.share >= 0.5 || f.expected);
  };
  Position here = at_before_;
  here.held_by = 0;
  here.step_x = here.step_y = here.step_turn_deg = here.step_held_by = 0;
  if (good(by_whole, known_whole) && by_whole.windows * 2 >= by_step.windows) {
    here = from(at_first_, by_whole);
    large_in_row_ = 0;
  } else if (good(by_step, known)) {
    here = from(at_before_, by_step);
    large_in_row_ = 0;
  } else if (const auto large = large_shift(*before_, *w)) {
    // A camera is knocked once; what goes on so from frame to frame moves in the picture.
    if (large_in_row_++ == 0) {
      before_large_ = at_before_;
      here = from(at_before_, *large);  // its share is a half: enough to be believed
    } else {
      here = before_large_;
      here.held_by = here.step_x = here.step_y = here.step_turn_deg = here.step_held_by = 0;
    }
  }
  if (good(by_step, known)) {
    here.step_x = by_step.x * w->scale;
    here.step_y = by_step.y * w->scale;
    here.step_turn_deg = by_step.turn / degree;
    here.step_held_by = by_step.expected ? 1 : by_step.share;
  } else if (here.held_by > 0) {
    here.step_x = here.x - at_before_.x;
    here.step_y = here.y - at_before_.y;
    here.step_turn_deg = here.turn_deg - at_before_.turn_deg;
    here.step_held_by = here.held_by;
  }
  if (good(by_step, known))
    for (const size_t i : step_windows) {
      moved_[i].emplace_back(step[i].x - static_cast<float>(by_step.x),
                             step[i].y - static_cast<float>(by_step.y));
      if (moved_[i].size() > kRemembered) moved_[i].pop_front();
    }
  before_ = w;
  at_before_ = here;
  if (++since_first_ >= kReferenceLasts || whole_windows.size() * 2 < step_windows.size()) {
    first_ = w;
    at_first_ = here;
    since_first_ = 0;
  }
  return here;
}

}  // namespace askcount::inspect
