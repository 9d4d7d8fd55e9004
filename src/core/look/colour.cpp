// SPDX-License-Identifier: GPL-3.0-or-later
#include "look/colour.h"

#include <algorithm>
#include <cmath>

namespace askcount::look {
namespace {

// IEC 61966-2-1: linear sRGB to XYZ, and back.
constexpr Matrix kToXyz = {{{0.4124564, 0.3575761, 0.1804375},
                            {0.2126729, 0.7151522, 0.0721750},
                            {0.0193339, 0.1191920, 0.9503041}}};
constexpr Matrix kFromXyz = {{{3.2404542, -1.5371385, -0.4985314},
                              {-0.9692660, 1.8760108, 0.0415560},
                              {0.0556434, -0.2040259, 1.0572252}}};
constexpr Matrix kBradford = {
    {{0.8951, 0.2664, -0.1614}, {-0.7502, 1.7135, 0.0367}, {0.0389, -0.0685, 1.0296}}};
constexpr Matrix kFromBradford = {{{0.9869929, -0.1470543, 0.1599627},
                                   {0.4323053, 0.5183603, 0.0492912},
                                   {-0.0085287, 0.0400428, 0.9684867}}};
constexpr std::array<double, 3> kLuminance = {0.2126729, 0.7151522, 0.0721750};

std::array<double, 3> cone_white(double kelvin) {
  const auto [x, y] = white_xy(kelvin);
  return times(kBradford, Triple{x / y, 1, (1 - x - y) / y});
}

/// Rows scaled so that grey keeps its luminance.
Matrix grey_kept(Matrix m) {
  const auto grey = times(m, Triple{1, 1, 1});
  const double light = kLuminance[0] * grey[0] + kLuminance[1] * grey[1] + kLuminance[2] * grey[2];
  for (auto& row : m)
    for (double& v : row) v /= light;
  return m;
}

Matrix cast_matrix(double stops) {
  return {{{1, 0, 0}, {0, std::exp2(-stops), 0}, {0, 0, 1}}};
}

}  // namespace

Matrix times(const Matrix& a, const Matrix& b) {
  Matrix out{};
  for (size_t r = 0; r < 3; ++r)
    for (size_t c = 0; c < 3; ++c)
      for (size_t k = 0; k < 3; ++k) out[r][c] += a[r][k] * b[k][c];
  return out;
}

Triple times(const Matrix& a, const Triple& v) {
  Triple out{};
  for (size_t r = 0; r < 3; ++r)
    for (size_t k = 0; k < 3; ++k) out[r] += a[r][k] * v[k];
  return out;
}

std::array<double, 2> white_xy(double kelvin) {
  const double t = 1000 / std::clamp(kelvin, 1667.0, 25000.0);
  const double x = kelvin <= 4000 ? -0.2661239 * t * t * t - 0.2343589 * t * t + 0.8776956 * t + 0.179910
                                  : -3.0258469 * t * t * t + 2.1070379 * t * t + 0.2226347 * t + 0.240390;
  double y = 0;
  if (kelvin <= 2222)
    y = -1.1063814 * x * x * x - 1.34811020 * x * x + 2.18555832 * x - 0.20219683;
  else if (kelvin <= 4000)
    y = -0.9549476 * x * x * x - 1.37418593 * x * x + 2.09137015 * x - 0.16748867;
  else
    y = 3.0817580 * x * x * x - 5.87338670 * x * x + 3.75112997 * x - 0.37001483;
  return {x, y};
}

Matrix adaptation(double kelvin, double made_for_k) {
  if (kelvin == made_for_k) return kIdentity;
  // The picture shows a light of made_for_k as white: what it showed of that of `kelvin` becomes white
  // instead.
  const auto from = cone_white(kelvin), to = cone_white(made_for_k);
  const Matrix scale = {{{to[0] / from[0], 0, 0}, {0, to[1] / from[1], 0}, {0, 0, to[2] / from[2]}}};
  return grey_kept(times(kFromXyz, times(kFromBradford, times(scale, times(kBradford, kToXyz)))));
}

Matrix colour_matrix(const Look& look, double as_shot_k) {
  Matrix m = kIdentity;
  if (look.warmth_k > 0) m = adaptation(look.warmth_k, as_shot_k);
  if (look.cast != 0) m = grey_kept(times(cast_matrix(look.cast), m));
  if (look.colour != 1) {
    Matrix away{};
    for (size_t r = 0; r < 3; ++r)
      for (size_t c = 0; c < 3; ++c)
        away[r][c] = (1 - look.colour) * kLuminance[c] + (r == c ? look.colour : 0);
    m = times(away, m);
  }
  return m;
}

std::optional<PickedWhite> pick_white(const std::array<double, 3>& rgb, double as_shot_k) {
  if (!(std::min({rgb[0], rgb[1], rgb[2]}) > 0)) return {};
  // The warmer the light taken for white, the bluer... the less blue is left: one crossing.
  const auto red_over_blue = [&](double kelvin) {
    const auto c = times(adaptation(kelvin, as_shot_k), rgb);
    return c[2] > 0 ? c[0] / c[2] : 1e9;
  };
  const Lane& warmth = lanes()[1];
  double low = warmth.least, high = warmth.most;
  if ((red_over_blue(low) - 1) * (red_over_blue(high) - 1) > 0) return {};
  for (int i = 0; i < 40; ++i) {
    const double middle = 2 / (1 / low + 1 / high);
    (red_over_blue(middle) < 1 ? low : high) = middle;
  }
  PickedWhite out;
  out.warmth_k = 2 / (1 / low + 1 / high);
  const auto c = times(adaptation(out.warmth_k, as_shot_k), rgb);
  if (!(c[0] > 0 && c[1] > 0)) return {};
  out.cast = std::log2(c[1] / std::sqrt(c[0] * c[2]));
  if (std::abs(out.cast) > 1) return {};
  return out;
}

}  // namespace askcount::look
