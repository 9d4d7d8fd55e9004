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
  standin::shoot(orders::shoot_order(test::small_take(120, {300, 200}, 40), folder / "card"));
  const auto frames = gather::gather(folder / "card").frames;
  ASSERT_EQ(frames->size(), 120u);
  for (const MeasuredFrom from : {MeasuredFrom::Frames, MeasuredFrom::Thumbnails}) {
    const Evenness e = even_out(frames, measure(frames, source::any_source(), {1920, 1080}, from));
    EXPECT_GT(e.flicker_before, 0.08);
    EXPECT_LT(e.flicker_after, 0.01);
    EXPECT_LT(worst_step(e.after), 0.05);
    EXPECT_GT(e.clicks.size(), 10u);
  }
}

}  // namespace
}  // namespace askcount::level
