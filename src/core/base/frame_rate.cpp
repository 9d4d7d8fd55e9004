// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/frame_rate.h"

#include <fmt/format.h>

#include <cmath>
#include <numeric>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount {
namespace {

FrameRate checked(FrameRate rate, std::string_view shown, const Called& name) {
  if (rate.num <= 0 || rate.den <= 0 || rate.value() < 1 || rate.value() > 1000)
    throw bad_value(name, say("\"{}\" is not a frame rate between 1 and 1000.", shown),
                    say("Use 24, 25, 30, 60 or one like 24000/1001."));
  const int common = std::gcd(rate.num, rate.den);
  return {rate.num / common, rate.den / common};
}

}  // namespace

FrameRate nearest_frame_rate(double fps) {
  const std::string shown = format_number(fps, 3);
  if (!(fps > 0.5 && fps < 2000)) return checked({0, 1}, shown, say("Frame rate"));
  const double whole = std::round(fps);
  if (std::abs(fps - whole) < 1e-9) return checked({static_cast<int>(whole), 1}, shown, say("Frame rate"));
  const double up = std::ceil(fps);
  if (std::abs(up * 1000 / 1001 - fps) < 0.002)
    return checked({static_cast<int>(up) * 1000, 1001}, shown, say("Frame rate"));
  return checked({static_cast<int>(std::lround(fps * 1000)), 1000}, shown, say("Frame rate"));
}

FrameRate parse_frame_rate(std::string_view text, const Called& name) {
  std::string clean(text);
  const std::string local = say("{} fps", "");
  for (const std::string& unit : {std::string("fps"), local.substr(local.find_first_not_of(' '))})
    if (const auto at = clean.find(unit); at != std::string::npos) clean.erase(at);
  const auto slash = clean.find('/');
  if (slash != std::string::npos) {
    const long long num = parse_count(clean.substr(0, slash), name);
    const long long den = parse_count(clean.substr(slash + 1), name);
    if (num > 1000000 || den > 10000) return checked({0, 1}, text, name);
    return checked({static_cast<int>(num), static_cast<int>(den)}, text, name);
  }
  const double value = parse_positive(clean, name);
  if (value < 1 || value > 1000) return checked({0, 1}, text, name);
  return nearest_frame_rate(value);
}

std::string format_frame_rate(const FrameRate& rate) {
  return rate.den == 1 ? std::to_string(rate.num) : fmt::format("{}/{}", rate.num, rate.den);
}

std::string frame_rate_words(const FrameRate& rate) {
  return say("{} fps", format_number(rate.value(), 3));
}

}  // namespace askcount
