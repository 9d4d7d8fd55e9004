// SPDX-License-Identifier: GPL-3.0-or-later
// Levelling against curves whose truth is known.
#include "level/levelling.h"

#include <cmath>
#include <random>

#include "level/brightness.h"
#include "support.h"

namespace askcount::level {
namespace {

using image::Luminance;

/// Curves made to order: scene light, clicks, flicker and a lamp in one corner.
struct Made {
  std::vector<double> truth;  // stops of the mean without flicker and clicks
  std::vector<std::optional<double>> exposures;
  std::vector<Luminance> lights;

  std::vector<const Luminance*> pointers() const {
    std::vector<const Luminance*> p;
    for (const Luminance& l : lights) p.push_back(&l);
    return p;
  }
  std::vector<double> stops() const {
    std::vector<double> s;
    for (const Luminance& l : lights) s.push_back(l.stops());
    return s;
  }
};

struct Recipe {
  int frames = 200;
  double fall = 0.03;    // stops a frame
  int click_every = 11;  // frames from click to click; 0 for none
  double click = 1.0 / 3;
  double flicker = 0.12;
  int lamp_at = -1;
  double lamp_share = 0;  // light the lamp adds, as a share of the mean
  bool recorded = true;
};

Made make(const Recipe& r) {
  Made made;
  std::mt19937 random(11);
  std::normal_distribution<double> off(0, r.flicker);
  double exposure = 0;
  for (int n = 0; n < r.frames; ++n) {
    if (r.click_every > 0 && n > 0 && n % r.click_every == 0) exposure += r.click;
    const double scene = -2 - r.fall * n;
    const double gain = std::exp2(scene + exposure + off(random));
    Luminance light;
    double mean = 0;
    for (size_t b = 0; b < light.parts.size(); ++b) {
      double block = gain * (0.5 + static_cast<double>(b % 7) / 6);
      if (r.lamp_at >= 0 && n >= r.lamp_at && b < 6)
        block += gain * r.lamp_share * static_cast<double>(light.parts.size()) / 6;
      light.parts[b] = static_cast<float>(std::log2(block));
      mean += block / static_cast<double>(light.parts.size());
    }
    light.mean = mean;
    made.truth.push_back(scene);
    made.exposures.push_back(r.recorded ? std::optional(exposure) : std::nullopt);
    made.lights.push_back(light);
  }
  return made;
}

std::vector<double> targets(const Made& made) {
  std::vector<double> t;
  for (const Levelled& l : level_all(made.pointers(), made.exposures)) t.push_back(l.target);
  return t;
}

double worst_step(const std::vector<double>& v) {
  double worst = 0;
  for (size_t i = 2; i < v.size(); ++i) worst = std::max(worst, std::abs(v[i] - 2 * v[i - 1] + v[i - 2]));
  return worst;
}

TEST(Flicker, IsTheSpreadAroundALocalQuadratic) {
  std::vector<double> curve;
  for (int n = 0; n < 300; ++n) curve.push_back(1 + 0.03 * n - 0.0002 * n * n);
  EXPECT_LT(flicker(curve), 1e-6);
  std::mt19937 random(5);
  std::normal_distribution<double> off(0, 0.1);
  for (double& v : curve) v += off(random);
  // A quadratic over 11 frames takes up the share (its weight at the middle, 0.2075) of independent noise.
  EXPECT_NEAR(flicker(curve), 0.1 * std::sqrt(1 - 0.2075), 0.01);
  std::vector<double> one(41, 0.0);
  one[20] = 1;
  EXPECT_NEAR(flicker(one), std::sqrt((1 - 0.2075) / 41), 0.02);
}

TEST(Levelling, RemovesFlickerAndJoinsClicks) {
  const Made made = make({});
  EXPECT_GT(flicker(made.stops()), 0.09);
  const std::vector<double> after = targets(made);
  EXPECT_LT(flicker(after), 0.003);
  EXPECT_LT(worst_step(after), 0.02);
  const auto clicks = find_clicks(made.stops(), made.exposures);
  ASSERT_EQ(clicks.size(), 18u);
  double shown = 0;
  for (const Click& c : clicks) shown += c.measured / c.recorded / 18;
  EXPECT_NEAR(shown, 1, 0.25);
}

TEST(Levelling, JoinsClicksTheRecordHasWrongOrNotAtAll) {
  Made wrong = make({.click = 0.45});  // the aperture ring moved further than it says
  for (size_t n = 0; n < wrong.exposures.size(); ++n) wrong.exposures[n] = *wrong.exposures[n] / 0.45 / 3;
  for (const Made& made : {wrong, make({.recorded = false})}) {
    const std::vector<double> after = targets(made);
    EXPECT_LT(flicker(after), 0.006);
    EXPECT_LT(worst_step(after), 0.03);
  }
}

TEST(Levelling, KeepsALampThatComesOn) {
  const Made made = make({.flicker = 0.12, .lamp_at = 90, .lamp_share = 0.15});
  const std::vector<double> after = targets(made);
  const double step = std::log2(1.15);
  // The change arrives in the one frame it happened in, as large as it was.
  EXPECT_NEAR(after[90] - after[89], step, 0.06);
  EXPECT_LT(std::abs(after[89] - after[85]), 0.2);
  EXPECT_LT(std::abs(after[95] - after[90]), 0.2);
  Leveller leveller(made.exposures);
  for (const Luminance& l : made.lights) leveller.add(&l);
  for (size_t n = 0; n < made.lights.size(); ++n) {
    leveller.level(n);
    EXPECT_EQ(leveller.local_change(n) != 0, n == 90) << n;
  }
  // The same step shared by the whole picture is flicker of the camera's making: smoothed.
  Made shared = make({.frames = 200, .click_every = 0});
  for (size_t n = 90; n < 200; ++n) {
    shared.lights[n].mean *= 1.15;
    for (float& b : shared.lights[n].parts) b += static_cast<float>(step);
  }
  const std::vector<double> smooth = targets(shared);
  EXPECT_LT(std::abs(smooth[90] - smooth[89]), 0.06);
}

TEST(Levelling, KeepsAFlashWithoutDarkeningTheRest) {
  Made made = make({.click_every = 0, .flicker = 0.02});
  made.lights[70].mean *= 1.4;  // headlights sweep one corner
  made.lights[70].parts[3] += 4;
  const auto levelled = level_all(made.pointers(), made.exposures);
  EXPECT_NEAR(levelled[70].correction(), levelled[69].correction(), 0.08);
}

TEST(Levelling, FollowsTrueChangesOfLight) {
  Recipe recipe{.frames = 300, .fall = 0.05, .flicker = 0.05};
  const Made made = make(recipe);
  const std::vector<double> after = targets(made);
  double joined = 0;
  for (const auto& e : made.exposures) joined += *e / 300;
  double mean_truth = 0, mean_after = 0;
  for (int n = 0; n < 300; ++n)
    mean_truth += made.truth[static_cast<size_t>(n)] / 300, mean_after += after[static_cast<size_t>(n)] / 300;
  EXPECT_NEAR(mean_after, mean_truth + joined, 0.03);
}

TEST(Levelling, IsTheSameFrameByFrameAsAllAtOnce) {
  const Made made = make({.lamp_at = 60, .lamp_share = 0.2});
  const auto whole = level_all(made.pointers(), made.exposures);
  Leveller stream(made.exposures);
  size_t due = 0;
  for (size_t n = 0; n < made.lights.size() + stream.lookahead(); ++n) {
    if (n < made.lights.size()) stream.add(&made.lights[n]);
    if (n < stream.lookahead()) continue;
    EXPECT_DOUBLE_EQ(stream.level(due).target, whole[due].target) << due;
    ++due;
  }
  EXPECT_EQ(due, made.lights.size());
}

TEST(Levelling, BridgesFramesThatCannotBeRead) {
  const Made made = make({});
  auto pointers = made.pointers();
  pointers[0] = pointers[50] = pointers[51] = pointers[199] = nullptr;
  const auto levelled = level_all(pointers, made.exposures);
  for (const size_t n : {0, 50, 51, 199}) EXPECT_NEAR(levelled[n].target, targets(made)[n], 0.12) << n;
}

TEST(Levelling, StandsShortTakes) {
  for (const int frames : {1, 2, 3, 7}) {
    const Made made = make({.frames = frames});
    EXPECT_EQ(level_all(made.pointers(), made.exposures).size(), static_cast<size_t>(frames));
  }
}

/// The stand-in's own take: its recorded spread of 0.12 stops goes in, no more than 0.01 comes out, from the
/// frames and from their thumbnails.
TEST(Levelling, EvensOutTheStandInsDusk) {
  const test::Folder folder;
  simulate::shoot(forecast::shoot_order(test::small_take(120, {300, 200}, 40), folder / "card"));
  const auto frames = ingest::gather(folder / "card").frames;
  ASSERT_EQ(frames->size(), 120u);
  for (const MeasuredFrom from : {MeasuredFrom::Frames, MeasuredFrom::Thumbnails}) {
    const Evenness e = even_out(frames, measure(frames, media::any_source(), {1920, 1080}, from));
    EXPECT_GT(e.flicker_before, 0.08);
    EXPECT_LT(e.flicker_after, 0.01);
    EXPECT_LT(worst_step(e.after), 0.05);
    EXPECT_GT(e.clicks.size(), 10u);
  }
}

/// Colours that wander by 0.1 stops against green; from `bus_from` on something red fills a part for a while.
std::vector<Luminance> wandering(int frames, int bus_from = -1) {
  std::vector<Luminance> lights;
  std::mt19937 random(21);
  std::normal_distribution<double> off(0, 0.1), noise(0, 0.003);
  for (int n = 0; n < frames; ++n) {
    Luminance l;
    l.mean = 0.2;
    const double red = off(random) + 0.004 * n, blue = off(random);
    for (size_t part = 0; part < l.parts.size(); ++part) {
      const bool bus = bus_from >= 0 && n >= bus_from && n < bus_from + 5 && part % 16 < 5;
      l.parts[part] = -2;
      l.red[part] = static_cast<float>(0.3 + red + noise(random) + (bus ? 2 : 0));
      l.blue[part] = static_cast<float>(-0.2 + blue + noise(random) - (bus ? 1.5 : 0));
      if (part < 60) l.red[part] = l.blue[part] = Luminance::kUnknown;  // a white sky
    }
    lights.push_back(l);
  }
  return lights;
}

std::vector<Levelled> levelled(const std::vector<Luminance>& lights) {
  std::vector<const Luminance*> pointers;
  for (const Luminance& l : lights) pointers.push_back(&l);
  return level_all(pointers, std::vector<std::optional<double>>(lights.size(), 0.0));
}

TEST(Colours, ThatWanderAreHeldAndASunsetGoesOn) {
  const auto lights = wandering(120);
  const auto out = levelled(lights);
  std::vector<double> red, blue, before;
  for (size_t n = 0; n < lights.size(); ++n) {
    before.push_back(lights[n].red[100]);
    red.push_back(lights[n].red[100] + out[n].red);
    blue.push_back(lights[n].blue[100] + out[n].blue);
    EXPECT_NEAR(std::log2(out[n].tint().red), out[n].red, 1e-9);
  }
  EXPECT_GT(flicker(before), 0.07);
  EXPECT_LT(flicker(red), 0.006) << "what is left is the part's own noise";
  EXPECT_LT(flicker(blue), 0.006);
  EXPECT_NEAR((red[105] - red[15]) / 90, 0.004, 0.0012) << "a slow change is the light's";
}

TEST(Colours, WhatPassesInThePictureTintsNothing) {
  const auto plain = levelled(wandering(80)), with = levelled(wandering(80, 40));
  for (size_t n = 0; n < plain.size(); ++n) {
    EXPECT_NEAR(with[n].red, plain[n].red, 0.004) << n;
    EXPECT_NEAR(with[n].blue, plain[n].blue, 0.004) << n;
  }
}

TEST(Colours, OfADarkPictureAreLeftAlone) {
  auto lights = wandering(30);
  for (Luminance& l : lights) l.red.fill(Luminance::kUnknown), l.blue.fill(Luminance::kUnknown);
  for (const Levelled& l : levelled(lights)) EXPECT_EQ(l.tint(), image::Gain());
}

TEST(Exposures, OfALensWithoutContactsCountByWhatIsThere) {
  std::vector<media::Frame> frames;
  for (int n = 0; n < 6; ++n) {
    media::Exposure e;
    e.info.shutter_s = n < 3 ? 1 / 60.0 : 1 / 30.0;
    e.info.iso = 100;
    if (n == 4) e.info.shutter_s.reset(), e.info.iso.reset();
    frames.emplace_back(e);
  }
  const auto stops = exposures_of(frames);
  EXPECT_NEAR(*stops[3] - *stops[2], 1, 1e-6);
  EXPECT_FALSE(stops[4]);
  // An f-number that one frame lacks is no click of six stops.
  for (size_t n = 0; n < frames.size(); ++n)
    if (n != 2) frames[n].exposures[0].info.f_number = 8;
  const auto filled = exposures_of(frames);
  EXPECT_NEAR(*filled[2] - *filled[1], 0, 1e-6);
  EXPECT_NEAR(*filled[3] - *filled[2], 1, 1e-6);
}

TEST(Levelling, StopsWhenToldAndSaysHowFarItIs) {
  const Made made = make({});
  std::vector<media::Frame> frames(made.lights.size());
  for (media::Frame& f : frames) f = media::Frame(media::Exposure());
  Luminances luminances;
  for (const Luminance& l : made.lights) luminances.push_back(std::make_unique<Luminance>(l));
  size_t told = 0;
  std::stop_source stop;
  const Work work{[&](size_t done, size_t total) {
                    EXPECT_EQ(done, told++);
                    EXPECT_EQ(total, made.lights.size());
                    if (done == 50) stop.request_stop();
                  },
                  stop.get_token()};
  EXPECT_EQ(test::error_of([&] { even_out(media::frames_of(frames), luminances, {}, work); }).kind(),
            Error::Kind::Cancelled);
  EXPECT_EQ(told, 51u) << "not a frame more";
}

}  // namespace
}  // namespace askcount::level
