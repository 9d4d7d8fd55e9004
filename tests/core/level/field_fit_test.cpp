// SPDX-License-Identifier: GPL-3.0-or-later
// A field fitted to parts, against fields that are known and against the sums done the long way.
#include <cmath>
#include <random>

#include "image/part_terms.h"
#include "level/field_fit.h"
#include "support.h"

namespace askcount::level {
namespace {

using image::Field;
using image::Luminance;
using Parts = std::array<float, Luminance::kParts>;
constexpr size_t kTerms = Field::kTerms, kFitted = Luminance::kParts;

std::array<double, kTerms> some_terms(unsigned seed) {
  std::mt19937 random(seed);
  std::normal_distribution<double> normal(0, 0.1);
  std::array<double, kTerms> terms{};
  for (double& t : terms) t = normal(random);
  return terms;
}

Parts parts_of(const std::array<double, kTerms>& terms) {
  Parts parts{};
  for (size_t p = 0; p < kFitted; ++p) {
    double sum = 0;
    for (size_t k = 0; k < kTerms; ++k) sum += terms[k] * image::part_terms()[p][k];
    parts[p] = static_cast<float>(sum);
  }
  return parts;
}

/// The weights of the terms in the normal equations: how far the ridge pulls each towards nothing.
double held_by_ridge(size_t k) {
  const double weight = static_cast<double>(kFitted) * (k % Field::kAcross == 0 ? 1 : 0.5) *
                        (k / Field::kAcross == 0 ? 1 : 0.5);
  return weight / (weight + 0.01 * static_cast<double>(kFitted) / 4);
}

TEST(FieldFit, FindsEveryTermOfAFieldThatIsThere) {
  const auto terms = some_terms(1);
  const FieldFit fit = fit_field(parts_of(terms));
  ASSERT_TRUE(fit.good);
  // Without the slight ridge they would come back exactly: with it, within 1 or 4 parts in a hundred.
  for (size_t k = 0; k < kTerms; ++k) EXPECT_NEAR(fit.terms[k], terms[k] * held_by_ridge(k), 0.01) << k;
}

TEST(FieldFit, OneTermAloneGoesIntoNoOther) {
  for (size_t k = 0; k < kTerms; ++k) {
    std::array<double, kTerms> terms{};
    terms[k] = 0.3;
    const FieldFit fit = fit_field(parts_of(terms));
    for (size_t other = 0; other < kTerms; ++other)
      EXPECT_NEAR(fit.terms[other], other == k ? 0.3 : 0, 0.015) << k << " in " << other;
  }
}

TEST(FieldFit, PartsThatDoSomethingOfTheirOwnCountNothing) {
  const auto terms = some_terms(2);
  const FieldFit clean = fit_field(parts_of(terms));
  Parts parts = parts_of(terms);
  for (size_t p = 5; p < kFitted; p += 11) parts[p] += 2;  // boats, lamps: nine in a hundred
  const FieldFit fit = fit_field(parts);
  ASSERT_TRUE(fit.good);
  for (size_t k = 0; k < kTerms; ++k) EXPECT_NEAR(fit.terms[k], clean.terms[k], 0.02) << k;
}

TEST(FieldFit, ToldTheVarianceThatChanceGives) {
  // 2,000 fields of noise alone: the terms' variance is what the fit says it is, on average.
  std::mt19937 random(3);
  std::normal_distribution<float> noise(0, 0.05F);
  std::array<double, kTerms> square{}, told{};
  constexpr int kTimes = 2000;
  for (int i = 0; i < kTimes; ++i) {
    Parts parts{};
    for (float& p : parts) p = noise(random);
    const FieldFit fit = fit_field(parts);
    for (size_t k = 0; k < kTerms; ++k) {
      square[k] += fit.terms[k] * fit.terms[k] / kTimes;
      told[k] += fit.chance[k] / kTimes;
    }
  }
  for (size_t k = 0; k < kTerms; ++k) EXPECT_NEAR(told[k] / square[k], 1, 0.2) << k;
  // And what it says is by the field's noise: variance over the weight of the term.
  EXPECT_NEAR(told[0], 0.05 * 0.05 / kFitted, 0.05 * 0.05 / kFitted * 0.2);
  EXPECT_NEAR(told[kTerms - 1] / told[0], 4, 0.5)
      << "a term of cosines both ways has a quarter of the weight";
}

TEST(FieldFit, NeedsSixtyParts) {
  Parts parts = parts_of(some_terms(4));
  for (size_t p = FieldFit::kFewestParts; p < kFitted; ++p) parts[p] = Luminance::kUnknown;
  const FieldFit fit = fit_field(parts);
  EXPECT_TRUE(fit.good);
  for (const double t : fit.terms) EXPECT_LT(std::abs(t), 2) << "it does not run away where no part tells";
  parts[0] = Luminance::kUnknown;
  EXPECT_FALSE(fit_field(parts).good);
}

TEST(FieldFit, UnknownPartsAreNotZeros) {
  // A field that is 0.2 everywhere, told by every other part.
  Parts parts{};
  for (size_t p = 0; p < kFitted; ++p) parts[p] = (p + p / 16) % 2 == 0 ? 0.2F : Luminance::kUnknown;
  const FieldFit fit = fit_field(parts);
  ASSERT_TRUE(fit.good);
  EXPECT_NEAR(fit.terms[0], 0.2, 0.01);
  for (size_t k = 1; k < kTerms; ++k) EXPECT_NEAR(fit.terms[k], 0, 0.01) << k;
}

}  // namespace
}  // namespace askcount::level
