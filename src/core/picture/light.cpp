#include "picture/light.h"

#include <algorithm>
#include <cmath>

#include "picture/tone.h"

namespace askcount::picture {
namespace {

constexpr double kBlack = -20;  // stops
constexpr std::array<double, 3> kWeights = {0.2126, 0.7152, 0.0722};

}  // namespace

double FrameLight::stops() const {
  return mean > 0 ? std::max(kBlack, std::log2(mean)) : kBlack;
}

double FrameLight::mean_after(double gain) const {
  const GainCurve curve(gain);
  const auto& linear = linear_of_code();
  double sum = 0;
  for (size_t code = 0; code < 256; ++code) {
    const double weight =
        kWeights[0] * tones[0][code] + kWeights[1] * tones[1][code] + kWeights[2] * tones[2][code];
    if (weight > 0) sum += weight * static_cast<double>(curve(linear[code]));
  }
  return samples ? sum / samples : 0;
}

double FrameLight::clipped() const {
  std::uint32_t most = 0;
  for (const auto& t : tones) most = std::max(most, t[254] + t[255]);
  return samples ? static_cast<double>(most) / samples : 0;
}

FrameLight measure_light(const Picture8& picture, const Rect& where) {
  FrameLight light;
  if (where.width <= 0 || where.height <= 0) return light;
  const auto& linear = linear_of_code();
  const double pixels = static_cast<double>(where.width) * where.height;
  const int every =
      std::max(1, static_cast<int>(std::ceil(pixels / 600000)));  // rows; each row is read whole
  std::array<double, FrameLight::kBlocks> sums{};
  std::array<std::uint32_t, FrameLight::kBlocks> counts{};
  for (int y = every / 2; y < where.height; y += every) {
    const std::uint8_t* p = picture.row(where.y + y) + 3 * where.x;
    const int down = y * FrameLight::kDown / where.height;
    for (int across = 0; across < FrameLight::kAcross; ++across) {
      const int from = across * where.width / FrameLight::kAcross,
                to = (across + 1) * where.width / FrameLight::kAcross;
      float row_sum = 0;
      for (int x = from; x < to; ++x) {
        const std::uint8_t r = p[3 * x], g = p[3 * x + 1], b = p[3 * x + 2];
        ++light.tones[0][r];
        ++light.tones[1][g];
        ++light.tones[2][b];
        row_sum += luminance(linear[r], linear[g], linear[b]);
      }
      const auto block = static_cast<size_t>(down * FrameLight::kAcross + across);
      sums[block] += static_cast<double>(row_sum);
      counts[block] += static_cast<std::uint32_t>(to - from);
    }
  }
  double total = 0;
  for (size_t b = 0; b < sums.size(); ++b) {
    total += sums[b];
    light.samples += counts[b];
    const double mean = counts[b] ? sums[b] / counts[b] : 0;
    light.blocks[b] = static_cast<float>(mean > 0 ? std::max(kBlack, std::log2(mean)) : kBlack);
  }
  light.mean = light.samples ? total / light.samples : 0;
  return light;
}

double gain_for(const FrameLight& light, double target_stops) {
  const double plain = std::clamp(target_stops - light.stops(), -6.0, 6.0);
  if (light.mean <= 0) return 1;
  double low = plain - 0.5, high = plain + 0.5;
  const double wanted = std::exp2(light.stops() + plain);
  for (int i = 0; i < 18; ++i) {
    const double middle = (low + high) / 2;
    (light.mean_after(std::exp2(middle)) < wanted ? low : high) = middle;
  }
  return std::exp2((low + high) / 2);
}

}  // namespace askcount::picture
