// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/dials.h"

#include <array>
#include <cmath>

#include "base/units.h"

namespace askcount {
namespace {

// The engraved thirds from 1 second down to 1/10 and the faster ones, as every dial has them.
constexpr std::array kShutterMarks = {
    30.0,      25.0,     20.0,     15.0,      13.0,     10.0,     8.0,       6.0,       5.0,      4.0,
    3.2,       2.5,      2.0,      1.6,       1.3,      1.0,      0.8,       0.6,       0.5,      0.4,
    0.3,       1 / 4.0,  1 / 5.0,  1 / 6.0,   1 / 8.0,  1 / 10.0, 1 / 13.0,  1 / 15.0,  1 / 20.0, 1 / 25.0,
    1 / 30.0,  1 / 40.0, 1 / 50.0, 1 / 60.0,  1 / 80.0, 1 / 100., 1 / 125.,  1 / 160.,  1 / 200., 1 / 250.,
    1 / 320.,  1 / 400., 1 / 500., 1 / 640.,  1 / 800., 1 / 1e3,  1 / 1250., 1 / 1600., 1 / 2e3,  1 / 2500.,
    1 / 3200., 1 / 4e3,  1 / 5e3,  1 / 6400., 1 / 8e3};
constexpr int kThirdsOfFirstShutter = 15;  // 30 s stands for 2^5
constexpr std::array kApertureMarks = {1.0, 1.1, 1.2, 1.4, 1.6, 1.8, 2.0,  2.2,  2.5, 2.8, 3.2,
                                       3.5, 4.0, 4.5, 5.0, 5.6, 6.3, 7.1,  8.0,  9.0, 10., 11.,
                                       13., 14., 16., 18., 20., 22., 25.0, 29.0, 32.};
constexpr std::array kIsoMarks = {50.,    64.,   80.,   100.,   125.,  160.,  200.,   250.,  320.,
                                  400.,   500.,  640.,  800.,   1000., 1250., 1600.,  2000., 2500.,
                                  3200.,  4000., 5000., 6400.,  8000., 1e4,   12800., 16e3,  20e3,
                                  25600., 32e3,  40e3,  51200., 64e3,  80e3,  102400.};

/// The mark at a place of thirds, or the value itself where the marks do not reach.
template <size_t N>
double mark_at(const std::array<double, N>& marks, long place, double value) {
  return place >= 0 && place < static_cast<long>(N) ? marks[static_cast<size_t>(place)] : value;
}

/// The exact third nearest to a mark, where the mark is within a twelfth of a stop of what is engraved there.
/// `thirds` is where the value lies, in thirds of a stop; `exact` gives the value of whole thirds.
template <typename Exact, typename Mark>
double snapped(double value, double thirds, Exact exact, Mark mark, double stops_per_log2) {
  for (const double n : {std::round(thirds), std::floor(thirds), std::ceil(thirds)})
    if (std::abs(std::log2(value / mark(n))) * stops_per_log2 < 0.03) return exact(n);
  const double n = std::round(thirds);
  return std::abs(thirds - n) / 3 < 1.0 / 36 ? exact(n) : value;
}

}  // namespace

double exact_shutter(double s) {
  const auto exact = [](double n) { return std::exp2(n / 3); };
  const auto mark = [&](double n) {
    return mark_at(kShutterMarks, kThirdsOfFirstShutter - static_cast<long>(n), exact(n));
  };
  return snapped(s, std::log2(s) * 3, exact, mark, 1);
}

double exact_f_number(double f) {
  const auto exact = [](double n) { return std::exp2(n / 6); };
  const auto mark = [&](double n) { return mark_at(kApertureMarks, static_cast<long>(n), exact(n)); };
  return snapped(f, std::log2(f) * 6, exact, mark, 2);
}

double exact_iso(double iso) {
  const auto exact = [](double n) { return 100 * std::exp2(n / 3); };
  const auto mark = [&](double n) { return mark_at(kIsoMarks, static_cast<long>(n) + 3, exact(n)); };
  return snapped(iso, std::log2(iso / 100) * 3, exact, mark, 1);
}

double marked_shutter(double s) {
  return mark_at(kShutterMarks, kThirdsOfFirstShutter - std::lround(std::log2(s) * 3), s);
}
double marked_f_number(double f) {
  return mark_at(kApertureMarks, std::lround(std::log2(f) * 6), f);
}
double marked_iso(double iso) {
  return mark_at(kIsoMarks, std::lround(std::log2(iso / 100) * 3) + 3, iso);
}

std::string dial_shutter_words(double seconds) {
  const double mark = marked_shutter(seconds);
  return format_shutter(std::abs(exact_shutter(mark) / seconds - 1) < 0.01 ? mark : seconds);
}

}  // namespace askcount
