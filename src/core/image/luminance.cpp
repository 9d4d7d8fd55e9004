// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/luminance.h"

#include <algorithm>
#include <bit>
#include <cmath>

#include "image/shoulder.h"
#include "image/tone.h"

namespace askcount::image {
namespace {

constexpr double kBlack = -20;  // stops
constexpr std::array<double, 3> kWeights = {0.2126, 0.7152, 0.0722};
constexpr double kMostPixels = 600000;
constexpr int kFirstStop = -16;
constexpr float kBright = 1;
constexpr double kDarkest = 0.002, kLightest = 0.8;  // mean light of a part that its colour can be told by

/// Light added up.
struct Sum {
  float red = 0, green = 0, blue = 0;
};

/// Counts the samples of coded pictures by their code: the tones follow from that at the end.
class CodeCounter {
 public:
  void add(const std::uint8_t* rgb, Sum& sum) {
    const std::uint8_t r = rgb[0], g = rgb[1], b = rgb[2];
    ++counts_[0][r];
    ++counts_[1][g];
    ++counts_[2][b];
    sum.red += linear_[r];
    sum.green += linear_[g];
    sum.blue += linear_[b];
  }
  void finish(Luminance& out) const {
    for (size_t colour = 0; colour < 3; ++colour) {
      for (size_t code = 0; code < 256; ++code) {
        const auto bin = static_cast<size_t>(Histogram::bin_of(linear_[code]));
        out.tones[colour].count[bin] += counts_[colour][code];
        out.tones[colour].light[bin] += static_cast<float>(counts_[colour][code]) * linear_[code];
      }
      out.white[colour] = counts_[colour][254] + counts_[colour][255];
    }
  }

 private:
  const std::array<float, 256>& linear_ = linear_of_code();
  std::array<std::array<std::uint32_t, 256>, 3> counts_{};
};

/// The same for linear light.
class LightCounter {
 public:
  explicit LightCounter(Luminance& out)
      : out_(out), shoulder_(out.top), white_(out.top > 1 ? 0.999F * out.top : 1) {}
  void add(const float* rgb, Sum& sum) {
    for (size_t colour = 0; colour < 3; ++colour) {
      const auto bin = static_cast<size_t>(Histogram::bin_of(rgb[colour]));
      ++out_.tones[colour].count[bin];
      out_.tones[colour].light[bin] += rgb[colour];
      if (rgb[colour] >= white_) ++out_.white[colour];
    }
    const bool bends = out_.top > 1;
    sum.red += bends ? shoulder_(rgb[0]) : rgb[0];
    sum.green += bends ? shoulder_(rgb[1]) : rgb[1];
    sum.blue += bends ? shoulder_(rgb[2]) : rgb[2];
  }

 private:
  Luminance& out_;
  Shoulder shoulder_;
  float white_;
};

/// Rows are read whole, every this many, part by part across.
template <typename Sample, typename Counter>
void measure(const Pixels<Sample>& picture, const Rect& where, Counter& counter, Luminance& out) {
  const double pixels = static_cast<double>(where.width) * where.height;
  const int every = std::max(1, static_cast<int>(std::ceil(pixels / kMostPixels)));
  std::array<std::array<double, 3>, Luminance::kParts> sums{};
  std::array<std::uint32_t, Luminance::kParts> counts{};
  out.darkest.fill(kBright);
  for (int y = every / 2; y < where.height; y += every) {
    const Sample* row = picture.row(where.y + y) + 3 * where.x;
    const int down = y * Luminance::kDown / where.height;
    for (int across = 0; across < Luminance::kAcross; ++across) {
      const int from = across * where.width / Luminance::kAcross;
      const int to = (across + 1) * where.width / Luminance::kAcross;
      Sum sum;
      for (int x = from; x < to; ++x) counter.add(row + 3 * x, sum);
      const auto part = static_cast<size_t>(down) * Luminance::kAcross + static_cast<size_t>(across);
      sums[part][0] += static_cast<double>(sum.red);
      sums[part][1] += static_cast<double>(sum.green);
      sums[part][2] += static_cast<double>(sum.blue);
      counts[part] += static_cast<std::uint32_t>(to - from);
      if (to > from)
        out.darkest[part] = std::min(
            out.darkest[part], std::min({sum.red, sum.green, sum.blue}) / static_cast<float>(to - from));
    }
  }
  double total = 0;
  for (size_t part = 0; part < sums.size(); ++part) {
    const auto& [red, green, blue] = sums[part];
    const double light = kWeights[0] * red + kWeights[1] * green + kWeights[2] * blue;
    total += light;
    out.samples += counts[part];
    if (counts[part] == 0) out.darkest[part] = 0;
    const double mean = counts[part] ? light / counts[part] : 0;
    out.parts[part] = static_cast<float>(mean > 0 ? std::max(kBlack, std::log2(mean)) : kBlack);
    const double most = std::max({red, green, blue}), least = std::min({red, green, blue});
    const bool told = least > kDarkest * counts[part] && most < kLightest * counts[part];
    out.red[part] = told ? static_cast<float>(std::log2(red / green)) : Luminance::kUnknown;
    out.blue[part] = told ? static_cast<float>(std::log2(blue / green)) : Luminance::kUnknown;
  }
  out.mean = out.samples ? total / out.samples : 0;
}

}  // namespace

int Histogram::bin_of(float linear) {
  if (!(linear > 0)) return 0;
  // The exponent is the whole stops; the first four bits of the fraction are sixteenths of what the next stop
  // adds.
  const auto bits = std::bit_cast<std::uint32_t>(linear);
  const int stop = static_cast<int>(bits >> 23) - 127 - kFirstStop;
  if (stop < 0) return 0;
  return std::min(kBins - 1, stop * kPerStop + static_cast<int>(bits >> 19 & 15));
}

std::array<double, 3> Luminance::mean_colour() const {
  std::array<double, 3> out{};
  for (size_t colour = 0; colour < 3; ++colour)
    for (const float light : tones[colour].light)
      out[colour] += static_cast<double>(light) / std::max(1U, samples);
  return out;
}

double Luminance::stops() const {
  return mean > 0 ? std::max(kBlack, std::log2(mean)) : kBlack;
}

double Luminance::mean_after(const Gain& gain) const {
  const std::array<GainCurve, 3> curves{GainCurve(gain.red), GainCurve(gain.green), GainCurve(gain.blue)};
  const Shoulder shoulder(top);
  double sum = 0;
  for (size_t colour = 0; colour < 3; ++colour) {
    const GainCurve& curve = curves[colour];
    const Histogram& h = tones[colour];
    for (size_t bin = 0; bin < h.count.size(); ++bin)
      if (h.count[bin] > 0)
        sum +=
            kWeights[colour] * h.count[bin] *
            static_cast<double>(shoulder(top * curve(h.light[bin] / static_cast<float>(h.count[bin]) / top)));
  }
  return samples ? sum / samples : 0;
}

double Luminance::clipped() const {
  return samples ? static_cast<double>(*std::max_element(white.begin(), white.end())) / samples : 0;
}

Luminance measure_luminance(const Coded8& picture, const Rect& where) {
  Luminance out;
  if (where.width <= 0 || where.height <= 0) return out;
  CodeCounter counter;
  measure(picture, where, counter, out);
  counter.finish(out);
  return out;
}

Luminance measure_luminance(const Linear32& picture, const Rect& where) {
  Luminance out;
  if (where.width <= 0 || where.height <= 0) return out;
  out.top = std::max(1.0F, picture.top);
  LightCounter counter(out);
  measure(picture, where, counter, out);
  return out;
}

Luminance measure_luminance(const Picture& picture, const Rect& where) {
  return std::visit([&](const auto& p) { return measure_luminance(p, where); }, picture);
}

double gain_for(const Luminance& luminance, double target_stops) {
  return gain_for(luminance, target_stops, Gain()).green;
}

Gain gain_for(const Luminance& luminance, double target_stops, const Gain& tint) {
  const double plain = std::clamp(target_stops - luminance.stops(), -6.0, 6.0);
  if (luminance.mean <= 0) return 1;
  double low = plain - 0.5, high = plain + 0.5;
  const double wanted = std::exp2(luminance.stops() + plain);
  for (int i = 0; i < 18; ++i) {
    const double middle = (low + high) / 2;
    (luminance.mean_after(tint.times(std::exp2(middle))) < wanted ? low : high) = middle;
  }
  return tint.times(std::exp2((low + high) / 2));
}

}  // namespace askcount::image
