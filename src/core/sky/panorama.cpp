// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/panorama.h"

#include <algorithm>
#include <cmath>

namespace askcount::sky {
namespace {

constexpr double kRoomAcross = 1.5;                 // of the frame's width
constexpr double kLeast_deg = 12, kMost_deg = 330;  // shown across
constexpr double kWhole_deg = 350;                  // never more than this
constexpr double kLand_deg = -4, kSky_deg = 6, kAbove_deg = 3, kBelow_deg = 2;
constexpr double kGrid_deg = 5, kLevel_deg = 15, kTracedAgain_deg = 0.5;

double around(double deg) {
  return std::fmod(deg + 720, 360);
}

}  // namespace

double Panorama::x_of(double azimuth) const {
  return width / 2.0 + std::remainder(azimuth - middle_deg, 360.0) * per_degree;
}

Direction Panorama::direction_at(double x, double y) const {
  return {low_deg + (height - y) / per_degree, around(middle_deg + (x - width / 2.0) / per_degree)};
}

Panorama panorama_for(const Move& move, const Optics& o, int width, int height, double foot) {
  const double swing = std::remainder(move.to.bearing_deg - move.from.bearing_deg, 360.0);
  const double high = std::max(move.from.tilt_deg, move.to.tilt_deg) + o.down_deg() / 2;
  const double low = std::min(move.from.tilt_deg, move.to.tilt_deg) - o.down_deg() / 2;
  const double bottom = std::min(low - kBelow_deg, kLand_deg);
  const double tall = std::max(high + kAbove_deg, kSky_deg) - bottom;
  const double across = std::clamp(o.across_deg() * kRoomAcross + std::abs(swing), kLeast_deg, kMost_deg);
  Panorama p{width, height, move.from.bearing_deg + swing / 2, 0, 0};
  p.per_degree = std::max(std::min(width / across, (height - foot / 2) / tall), width / kWhole_deg);
  const double spare = height / p.per_degree - tall;
  p.low_deg = std::min(bottom - spare * 0.3, -foot / p.per_degree);
  return p;
}

void turn(Move& move, bool end, double bearing, double tilt, double roll) {
  const bool still = move.from == move.to;
  Aim& aim = end && !still ? move.to : move.from;
  aim.bearing_deg = around(aim.bearing_deg + bearing);
  aim.tilt_deg = std::clamp(aim.tilt_deg + tilt, -89.0, 89.0);
  aim.roll_deg = std::clamp(aim.roll_deg + roll, -90.0, 90.0);
  if (still) move.to = move.from;
}

void raise(std::vector<HorizonPoint>& horizon, double bearing, double altitude) {
  const auto away = [&](const HorizonPoint& p) {
    return std::abs(std::remainder(p.bearing_deg - bearing, 360));
  };
  if (std::count_if(horizon.begin(), horizon.end(),
                    [&](const HorizonPoint& p) { return away(p) < kGrid_deg / 2; }) > 1) {
    // One that was traced: what lies right there is corrected, in its own fineness.
    const double fine = std::clamp(std::round(altitude * 10) / 10, -5.0, 60.0);
    std::erase_if(horizon, [&](const HorizonPoint& p) { return away(p) < kTracedAgain_deg; });
    horizon.push_back({around(bearing), fine});
    std::sort(horizon.begin(), horizon.end(),
              [](const HorizonPoint& a, const HorizonPoint& b) { return a.bearing_deg < b.bearing_deg; });
    return;
  }
  const double at = std::fmod(std::round(bearing / kGrid_deg) * kGrid_deg, 360);
  const double to = std::clamp(std::round(altitude * 2) / 2, -5.0, 60.0);
  if (horizon.empty())
    for (int i = 0; i * kLevel_deg < 360; ++i) horizon.push_back({i * kLevel_deg, 0});
  const auto it = std::find_if(horizon.begin(), horizon.end(),
                               [&](const HorizonPoint& p) { return std::abs(p.bearing_deg - at) < 0.1; });
  if (it != horizon.end())
    it->altitude_deg = to;
  else
    horizon.push_back({at, to});
  std::sort(horizon.begin(), horizon.end(),
            [](const HorizonPoint& a, const HorizonPoint& b) { return a.bearing_deg < b.bearing_deg; });
}

}  // namespace askcount::sky
