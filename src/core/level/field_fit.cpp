// SPDX-License-Identifier: GPL-3.0-or-later
#include "level/field_fit.h"

#include <algorithm>
#include <cmath>
#include <Eigen/Cholesky>
#include <numbers>
#include <vector>

#include "level/smoothing.h"

namespace askcount::level {
namespace {

using image::Field;
using image::Luminance;

constexpr size_t kAcross = Luminance::kAcross, kDown = Luminance::kDown, kParts = Luminance::kParts;
constexpr size_t kTerms = Field::kTerms, kTermsAcross = Field::kAcross, kTermsDown = Field::kDown;
constexpr int kRounds = 4;
constexpr double kRidge = 0.01;        // of the weight all parts have in one term
constexpr double kOfSpread = 1.4826;   // a normal spread by the median of its absolute values
constexpr double kTukey = 4.685;       // spreads beyond which a value counts nothing
constexpr double kLeastSpread = 1e-6;  // added to it, so that values which fit wholly are not divided by 0

// Products of two cosines are sums of cosines of up to twice the order: cos a cos b = (cos(a − b) + cos(a +
// b))/2.
constexpr size_t kOrdersAcross = 2 * kTermsAcross - 1, kOrdersDown = 2 * kTermsDown - 1;

template <size_t kOrders, size_t kPlaces>
using Cosines = std::array<std::array<double, kPlaces>, kOrders>;
using Terms = Eigen::Matrix<double, kTerms, 1>;
using Matrix = Eigen::Matrix<double, kTerms, kTerms>;
using Values = std::array<double, kParts>;
template <size_t kOver, size_t kUpTo>
using Moments = std::array<std::array<double, kUpTo>, kOver>;  // orders down by orders across

/// cos(π order (place + ½)/places): the cosines of a Field at the middles of the parts.
template <size_t kOrders, size_t kPlaces>
Cosines<kOrders, kPlaces> cosines() {
  Cosines<kOrders, kPlaces> all{};
  for (size_t k = 0; k < kOrders; ++k)
    for (size_t i = 0; i < kPlaces; ++i)
      all[k][i] =
          std::cos(std::numbers::pi * static_cast<double>(k) * (static_cast<double>(i) + 0.5) / kPlaces);
  return all;
}

const auto& across() {
  static const auto all = cosines<kOrdersAcross, kAcross>();
  return all;
}

const auto& down() {
  static const auto all = cosines<kOrdersDown, kDown>();
  return all;
}

/// The sums of the values times the cosines of each order down and across.
template <size_t kOver, size_t kUpTo>
Moments<kOver, kUpTo> moments(const Values& values) {
  Moments<kOver, kUpTo> out{};
  for (size_t y = 0; y < kDown; ++y) {
    std::array<double, kUpTo> row{};
    for (size_t m = 0; m < kUpTo; ++m)
      for (size_t x = 0; x < kAcross; ++x) row[m] += values[y * kAcross + x] * across()[m][x];
    for (size_t n = 0; n < kOver; ++n)
      for (size_t m = 0; m < kUpTo; ++m) out[n][m] += down()[n][y] * row[m];
  }
  return out;
}

/// Σ weight · term j · term k, for all k up to j: the lower half.
Matrix products(const Values& weight) {
  const auto sums = moments<kOrdersDown, kOrdersAcross>(weight);
  Matrix a = Matrix::Zero();
  for (size_t j = 0; j < kTerms; ++j)
    for (size_t k = 0; k <= j; ++k) {
      const size_t ja = j % kTermsAcross, ka = k % kTermsAcross, jd = j / kTermsAcross, kd = k / kTermsAcross;
      const size_t less_a = std::max(ja, ka) - std::min(ja, ka), less_d = jd - kd;
      a(j, k) =
          (sums[less_d][less_a] + sums[less_d][ja + ka] + sums[jd + kd][less_a] + sums[jd + kd][ja + ka]) / 4;
    }
  return a;
}

/// The field's values at all parts.
Values field_values(const Terms& terms) {
  Values out{};
  for (size_t y = 0; y < kDown; ++y)
    for (size_t k = 0; k < kTermsAcross; ++k) {
      double row = 0;
      for (size_t j = 0; j < kTermsDown; ++j) row += terms[j * kTermsAcross + k] * down()[j][y];
      for (size_t x = 0; x < kAcross; ++x) out[y * kAcross + x] += row * across()[k][x];
    }
  return out;
}

}  // namespace

FieldFit fit_field(const std::array<float, Luminance::kParts>& values) {
  FieldFit out;
  Values value{}, weight{};
  size_t known = 0;
  for (size_t p = 0; p < kParts; ++p)
    if (values[p] < Luminance::kUnknown) value[p] = static_cast<double>(values[p]), weight[p] = 1, ++known;
  if (known < FieldFit::kFewestParts) return out;
  const Values is_known = weight;
  const double of_freedom = static_cast<double>(known) / static_cast<double>(known - kTerms);
  Eigen::LLT<Matrix> factor;
  Terms terms;
  double spread = 0;
  for (int round = 0; round < kRounds; ++round) {
    Matrix a = products(weight);
    a.diagonal().array() += kRidge * static_cast<double>(known) / 4 + 1e-9;
    if (factor.compute(a).info() != Eigen::Success) return out;
    Values weighted{};
    for (size_t p = 0; p < kParts; ++p) weighted[p] = weight[p] * value[p];
    const auto sums = moments<kTermsDown, kTermsAcross>(weighted);
    for (size_t k = 0; k < kTerms; ++k) terms[k] = sums[k / kTermsAcross][k % kTermsAcross];
    factor.solveInPlace(terms);
    const Values fitted = field_values(terms);
    Values apart{};
    std::vector<double> sorted;
    sorted.reserve(known);
    for (size_t p = 0; p < kParts; ++p) {
      apart[p] = std::abs(value[p] - fitted[p]);
      if (is_known[p] > 0) sorted.push_back(apart[p]);
    }
    spread = kOfSpread * median_of(sorted) * std::sqrt(of_freedom);
    for (size_t p = 0; p < kParts; ++p) {
      const double u = apart[p] / (kTukey * spread + kLeastSpread);
      weight[p] = u < 1 ? is_known[p] * (1 - u * u) * (1 - u * u) : 0;
    }
  }
  const Matrix inverse = factor.matrixL().solve(Matrix::Identity());
  const Terms chance = spread * spread * inverse.colwise().squaredNorm().transpose();
  std::copy(terms.begin(), terms.end(), out.terms.begin());
  std::copy(chance.begin(), chance.end(), out.chance.begin());
  out.good = true;
  return out;
}

}  // namespace askcount::level
