// SPDX-License-Identifier: GPL-3.0-or-later
// Curves of made-up light, levelled, held against those that were kept. How well it levels is tested in
// levelling_test.cpp, part_flicker_test.cpp, colour_wander_test.cpp and gradual_test.cpp.
#include <cmath>

#include "dice.h"
#include "kept.h"
#include "level/brightness.h"
#include "level/field_light.h"
#include "level/levelling.h"
#include "support.h"

namespace askcount::level {
namespace {

using image::Luminance;
using test::Dice;

/// Frames in a light that wanders, clicks, flickers in all or in part, changes colour and is lit by lamps.
struct Curve {
  std::vector<std::optional<Luminance>> lights;
  std::vector<media::Frame> frames;

  explicit Curve(Dice& dice) {
    const int count = dice.whole(12, 120);
    const double slope = dice.between(-0.03, 0.03), flicker = dice.one_of<double>({0, 0.02, 0.15}),
                 upper = dice.chance(0.4) ? 0.1 : 0, colour = dice.chance(0.4) ? dice.between(0.01, 0.08) : 0,
                 haze = dice.chance(0.2) ? 0.02 : 0;
    const int lamp = dice.chance(0.4) ? dice.whole(5, count) : count,
              flash = dice.chance(0.3) ? dice.whole(8, count) : count,
              cloud = dice.chance(0.4) ? dice.whole(5, count) : count;
    std::vector<double> own(Luminance::kParts);
    for (double& v : own) v = 1.5 * dice.normal();
    double iso = 100;
    for (int n = 0; n < count; ++n) {
      if (dice.chance(0.06)) iso *= std::exp2(dice.whole(-2, 2) / 3.0);
      media::Exposure e;
      e.compressed = "/card/" + std::to_string(n) + ".JPG";
      e.info.iso = iso;
      if (dice.chance(0.9)) e.info.shutter_s = 1.0 / 64;
      frames.emplace_back(e);
      if (dice.chance(0.03)) {
        lights.emplace_back();
        continue;
      }
      const double all = slope * n + flicker * dice.normal() + std::log2(iso / 100) + (n == flash ? 1.5 : 0) +
                         (n >= cloud ? -std::min(1.0, (n - cloud) / 12.0) : 0);
      const double top = upper * dice.normal(), red = colour * dice.normal();
      Luminance l;
      double mean = 0;
      for (int p = 0; p < Luminance::kParts; ++p) {
        const auto i = static_cast<size_t>(p);
        const double s = std::min(-0.02, -4 + own[i] + all + (p < Luminance::kParts / 3 ? top : 0) +
                                             (n >= lamp && p % 16 > 11 ? 2 : 0) + 0.01 * dice.normal());
        l.parts[i] = static_cast<float>(s);
        l.red[i] = static_cast<float>(0.3 + red + 0.005 * dice.normal());
        l.blue[i] = static_cast<float>(-0.2 - red / 2 + 0.005 * dice.normal());
        l.darkest[i] = static_cast<float>(0.3 * std::exp2(s) + haze * n / count);
        mean += std::exp2(s) / Luminance::kParts;
        for (size_t c = 0; c < 3; ++c) {
          const double v = std::exp2(s + (c == 0 ? l.red[i] : c == 2 ? l.blue[i] : 0));
          const auto bin = static_cast<size_t>(image::Histogram::bin_of(static_cast<float>(v)));
          l.tones[c].count[bin] += 100;
          l.tones[c].light[bin] += static_cast<float>(100 * v);
        }
      }
      l.mean = mean;
      l.samples = 100 * Luminance::kParts;
      if (dice.chance(0.1)) l.white = {500, 800, 300};
      lights.emplace_back(l);
    }
  }

  Luminances luminances() const {
    Luminances list;
    for (const auto& l : lights) list.push_back(l ? std::make_unique<Luminance>(*l) : nullptr);
    return list;
  }
};

Smoothing smoothing_of(Dice& dice, size_t frames) {
  Smoothing s;
  s.reach = dice.whole(3, 20);
  s.join_reach = dice.whole(5, 40);
  s.strength = dice.chance(0.3) ? dice.between(0.2, 1) : 1;
  s.parts = dice.chance(0.8);
  if (dice.chance(0.3))
    for (int p = 0; p < Luminance::kParts; ++p) s.measured.push_back(p % 16 < 9);
  if (dice.chance(0.3)) s.smooth.push_back(static_cast<size_t>(dice.whole(1, static_cast<int>(frames) - 1)));
  if (dice.chance(0.3)) s.keep.push_back(static_cast<size_t>(dice.whole(1, static_cast<int>(frames) - 1)));
  return s;
}

Json json_of(const std::vector<Change>& changes) {
  Json list = Json::array();
  for (const Change& c : changes) list.push_back({c.frame, c.stops, c.flash, c.frames});
  return list;
}

TEST(KeptLevel, CurvesOfMadeUpLight) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 60; ++seed) {
    Dice dice(seed);
    const Curve curve(dice);
    const Smoothing smoothing = smoothing_of(dice, curve.frames.size());
    const Luminances luminances = curve.luminances();
    const Evenness e = even_out(media::frames_of(curve.frames), luminances, smoothing);
    Json frames = Json::array();
    for (size_t n = 0; n < e.frames.size(); n += 9) {
      const Levelled& l = e.frames[n];
      const Correction& c = e.corrections[n];
      frames.push_back({l.as_shot, l.target, l.red, l.blue, l.field.stops[1], l.field.stops[4],
                        l.red_field.stops[4], l.blue_field.stops[4], l.veil.air, l.veil.thick.stops[0],
                        c.gain.red, c.gain.green, c.gain.blue, e.after[n], e.red_after[n], e.blue_after[n]});
    }
    Json clicks = Json::array();
    for (const Click& c : e.clicks) clicks.push_back({c.frame, c.recorded, c.measured});
    kept.push_back({{"frames", frames},
                    {"clicks", clicks},
                    {"kept", json_of(e.kept)},
                    {"smoothed", json_of(e.smoothed)},
                    {"late", e.late_clicks},
                    {"held", e.held},
                    {"raised", e.raised_most},
                    {"flicker", {e.flicker_before, e.flicker_after, e.colour_before, e.colour_after}},
                    {"zones", {e.zones_before, e.zones_after}},
                    {"judged", to_json(judge(e))}});
  }
  test::hold(kept, "core/levelled");
}

TEST(KeptLevel, LightAfterAGain) {
  Json kept = Json::array();
  for (unsigned seed = 101; seed <= 120; ++seed) {
    Dice dice(seed);
    const Curve curve(dice);
    const Luminance& l = **std::find_if(curve.lights.begin(), curve.lights.end(),
                                        [](const auto& one) { return one.has_value(); });
    const image::Gain tint{static_cast<float>(dice.between(0.8, 1.2)), 1,
                           static_cast<float>(dice.between(0.8, 1.2))};
    const image::Gain gain = image::gain_for(l, l.stops() + dice.between(-3, 3), tint);
    Correction c;
    c.gain = gain;
    c.field.stops[4] = static_cast<float>(dice.between(-0.4, 0.4));
    c.red_field.stops[1] = static_cast<float>(dice.between(-0.2, 0.2));
    kept.push_back({gain.red, gain.green, gain.blue, l.mean_after(gain), field_gain(l, c),
                    light_after_fields(l, c, 30), l.clipped(), l.mean_colour()[0], l.mean_colour()[2],
                    image::gain_for(l, l.stops() + 2.0)});
  }
  test::hold(kept, "core/gains");
}

}  // namespace
}  // namespace askcount::level
