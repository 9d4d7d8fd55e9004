// SPDX-License-Identifier: GPL-3.0-or-later
// What the stand-in's scenes look like and how its camera and rig behave, and how a shaken path is made
// steady, held against what was kept. What is right is tested in standin_test.cpp, rig_test.cpp and
// steady_test.cpp.
#include <cmath>

#include "dice.h"
#include "kept.h"
#include "made_up.h"
#include "motion/steadying.h"
#include "simulate/camera.h"
#include "simulate/rig.h"
#include "simulate/scene.h"
#include "simulate/shoot.h"
#include "support.h"

namespace askcount {
namespace {

using test::Dice;
using test::Held;

/// Log2 of the light of each colour in a grid of 4 × 3 parts.
Json parts_of(const image::Linear32& p) {
  Json list = Json::array();
  for (const double mean : test::means_of_parts(p)) list.push_back(std::log2(mean + 1e-6));
  return list;
}

TEST(KeptStandIn, ScenesAtMadeUpMoments) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 32; ++seed) {
    Dice dice(seed);
    const std::string name = simulate::scene_names()[seed % 4];
    simulate::SceneSetting setting{.size = {72, 48}};
    setting.haste = dice.chance(0.3) ? dice.between(0.5, 8) : 1;
    if (dice.chance(0.4))
      setting.aim = sky::Aim{dice.between(0, 360), dice.between(-5, 40), dice.between(-5, 5)};
    if (dice.chance(0.3)) setting.across_deg = dice.between(20, 90);
    const auto scene = simulate::make_scene(name, setting);
    const Instant at = simulate::scene_start(name) + std::chrono::seconds(dice.whole(0, 86400));
    kept.push_back(parts_of(scene->seen(at, dice.one_of<double>({0.002, 0.5, 4, 20}))));
  }
  test::hold(kept, "core/scenes", Held::Drawn);
}

TEST(KeptStandIn, ExposuresOfACamera) {
  Json kept = Json::array();
  for (unsigned seed = 101; seed <= 130; ++seed) {
    Dice dice(seed);
    image::Linear32 seen({60, 40});
    for (int y = 0; y < 40; ++y)
      for (int x = 0; x < 60; ++x)
        for (int c = 0; c < 3; ++c)
          seen.row(y)[3 * x + c] = static_cast<float>(std::exp2(4 + 0.1 * x - 0.05 * y + 0.3 * c));
    simulate::CameraSettings settings;
    settings.noise = dice.chance(0.5) ? dice.between(0, 2) : 0;
    settings.seed = seed;
    settings.aperture_spread_stops = dice.between(0, 0.3);
    const ramp::Exposure exposure{std::exp2(dice.between(-9, -2)), std::exp2(dice.between(1, 4)),
                                  100 * std::exp2(dice.between(0, 5))};
    const image::Coded8 picture =
        simulate::develop(seen, exposure, simulate::aperture_error(settings, seed), settings, seed);
    double sum = 0, square = 0;
    for (const auto v : picture.rgb) sum += v, square += static_cast<double>(v) * v;
    const auto n = static_cast<double>(picture.rgb.size());
    kept.push_back({simulate::aperture_error(settings, seed), sum / n,
                    std::sqrt(std::max(0.0, square / n - sum * sum / n / n)),
                    simulate::flashing_s(dice.between(0, 10), dice.between(0, 20), dice.between(1, 8),
                                         dice.between(0.1, 1))});
  }
  test::hold(kept, "core/exposures", Held::Drawn);
}

TEST(KeptStandIn, RigsByMadeUpSettings) {
  Json kept = Json::array();
  for (unsigned seed = 201; seed <= 226; ++seed) {
    Dice dice(seed);
    const test::Folder folder;
    simulate::RigSetting s;
    s.card = folder / "card";
    s.scene = dice.one_of<std::string>(simulate::scene_names());
    s.start = simulate::scene_start(s.scene);
    s.size = {24, 16};
    s.timer.counts = dice.chance(0.5) ? plan::Counts::Gap : plan::Counts::Interval;
    s.delay_s = dice.between(0, 20);
    s.hold_s = dice.chance(0.3) ? dice.between(1, 6) : 0;
    s.bulb = s.hold_s > 0 && dice.chance(0.6);
    s.time_s = dice.between(1, 12);
    s.count = dice.whole(4, 22);
    s.exposure = {std::exp2(dice.whole(-18, 9) / 3.0), 8, 100};
    for (int i = dice.whole(0, 3); i > 0; --i)
      s.clicks.push_back({dice.whole(1, 20), dice.one_of<ramp::Dial>({ramp::Dial::Shutter, ramp::Dial::Iso}),
                          dice.chance(0.7)});
    std::sort(s.clicks.begin(), s.clicks.end(),
              [](const auto& a, const auto& b) { return a.frame < b.frame; });
    if (dice.chance(0.3)) s.filter_stops = 6, s.filters_off = dice.whole(2, 12);
    if (dice.chance(0.3)) s.brackets = 3;
    s.dark_frames = dice.chance(0.2);
    s.body.buffer_mb = dice.between(30, 200);
    s.body.write_mb_s = dice.between(2, 60);
    s.body.writing_s = dice.between(0.2, 3);
    s.card_gb = dice.chance(0.3) ? dice.between(0.05, 0.4) : 64;
    s.battery.powered_hours = dice.chance(0.3) ? dice.between(0.005, 0.05) : 4;
    s.temperature_c = dice.between(-15, 25);
    s.chance = dice.chance(0.3) ? 0.1 : 0;
    s.first_number = dice.one_of<int>({1, 214, 9995});
    s.test_shots = dice.whole(0, 2);
    s.markers = dice.chance(0.4);
    Json events = Json::array();
    simulate::Rig rig(s);
    const simulate::RigOutcome outcome = rig.run(
        [&](const simulate::RigEvent& e) {
          events.push_back({static_cast<int>(e.kind), e.index, e.press, e.files.size(),
                            e.files.empty() ? "" : e.files.front(), e.what, e.exposure.shutter_s,
                            e.exposure.iso, std::chrono::duration<double>(e.start - s.start).count(),
                            e.battery, e.card, e.buffer});
        },
        {});
    kept.push_back({{"events", events},
                    {"frames", outcome.frames},
                    {"missed", outcome.missed},
                    {"ended", outcome.stopped}});
  }
  // Sizes of files are of the encoder's making: what hangs on them is held to a thousandth.
  test::hold(kept, "core/rigs", Held::Drawn);
}

TEST(KeptStandIn, MeteredLightOfItsScenes) {
  Json kept = Json::array();
  for (const std::string& name : simulate::scene_names())
    kept.push_back(simulate::metered_light(name, simulate::scene_start(name), 900, 24));
  test::hold(kept, "core/metered");
}

TEST(KeptSteady, PathsByMadeUpHands) {
  Json kept = Json::array();
  for (unsigned seed = 301; seed <= 400; ++seed) {
    Dice dice(seed);
    std::vector<motion::Pose> path;
    const double wind = dice.one_of<double>({0, 0.0004, 0.004}), sink = dice.between(-2e-5, 2e-5),
                 walk = dice.chance(0.3) ? 0.002 : 0, error = dice.one_of<double>({0.00002, 0.0005});
    double bump = 0;
    for (int n = 0; n < dice.whole(30, 160); ++n) {
      if (dice.chance(0.02)) bump += dice.between(-0.02, 0.02);
      motion::Pose pose;
      pose.dx = wind * dice.normal() + walk * n + bump;
      pose.dy = wind * dice.normal() + sink * n + bump / 3;
      pose.turn_deg = 40 * wind * dice.normal() + (dice.chance(0.01) ? 0.4 : 0);
      pose.held_by = dice.chance(0.05) ? 0 : 0.9;
      pose.error = error;
      path.push_back(pose);
    }
    const auto mode = dice.one_of<motion::Mode>({motion::Mode::Bumps, motion::Mode::All, motion::Mode::Walk});
    const motion::Steadied s =
        motion::steadied(path, mode, dice.one_of<double>({1.5, 16.0 / 9, 0.66}), dice.whole(3, 30));
    Json some = Json::array();
    for (size_t n = 0; n < s.corrections.size(); n += 11)
      some.push_back({s.corrections[n].dx, s.corrections[n].dy, s.corrections[n].turn_deg});
    kept.push_back({some, s.edge, s.jitter_before, s.jitter_after, motion::bumps_of(path)});
  }
  test::hold(kept, "core/steadied");
}

}  // namespace
}  // namespace askcount
