// SPDX-License-Identifier: GPL-3.0-or-later
// The stand-in: its card looks like a camera's, and it did to the frames what its truth says.
#include "simulate/shoot.h"

#include <cmath>

#include "base/dials.h"
#include "base/json.h"
#include "image/luminance.h"
#include "simulate/tern_quay.h"
#include "support.h"

namespace askcount::simulate {
namespace {

ShootOrder order_for(const test::Folder& folder, long long frames) {
  return forecast::shoot_order(test::small_take(frames), folder / "card");
}

TEST(StandIn, ShootsACardLikeACameraDoes) {
  const test::Folder folder;
  const ShootOrder order = order_for(folder, 12);
  long long landed = 0;
  const ShootOutcome outcome = shoot(order, [&](const ShotLanded& s) { EXPECT_EQ(s.done, ++landed); });
  EXPECT_EQ(outcome.frames, 12);
  EXPECT_EQ(outcome.missed, 0);
  const Json truth = read_json(outcome.truth);
  ASSERT_EQ(truth["shots"].size(), 12u + 3 + 2);  // tests before, a marker at either end
  EXPECT_EQ(truth["shots"][0]["what"], "test");
  EXPECT_EQ(truth["shots"][3]["what"], "marker");
  EXPECT_EQ(truth["shots"][16]["what"], "marker");
  std::optional<media::CameraTime> last;
  for (const Json& shot : truth["shots"]) {
    const auto info = media::read_shot_info(order.card / shot["file"].get<std::string>());
    ASSERT_TRUE(info.captured);
    if (last) {
      EXPECT_GT(*info.captured, *last);
    }
    last = info.captured;
    EXPECT_EQ(info.size, (image::Size{240, 160}));
    EXPECT_NEAR(exact_shutter(*info.shutter_s), shot["shutter_s"].get<double>(), 1e-6);
    EXPECT_FALSE(media::read_thumbnail(order.card / shot["file"].get<std::string>()).empty());
    // The camera's clock stands on the quay's summer time.
    EXPECT_EQ(info.captured->time_since_epoch().count(), shot["start_ms"].get<long long>() + 3600000);
  }
}

TEST(StandIn, IsTheSameForTheSameSeedAndRollsItsNumbersOver) {
  const test::Folder a, b;
  ShootOrder order = order_for(a, 6);
  order.first_number = 9996;
  shoot(order);
  EXPECT_TRUE(test::fs::exists(order.card / "DCIM/100QUAY/QUAY9999.JPG"));
  EXPECT_TRUE(test::fs::exists(order.card / "DCIM/101QUAY/QUAY0001.JPG"));
  ShootOrder again = order;
  again.card = b / "card";
  shoot(again);
  EXPECT_EQ(media::read_bytes(order.card / "DCIM/101QUAY/QUAY0003.JPG"),
            media::read_bytes(again.card / "DCIM/101QUAY/QUAY0003.JPG"));
  // A card with pictures is never shot over; emptied of what the stand-in wrote, everything else stays.
  EXPECT_EQ(test::error_of([&] { shoot(order); }).kind(), Error::Kind::BadInput);
  std::ofstream(order.card / "DCIM/100QUAY/MINE.JPG") << "mine";
  empty_card(order.card);
  EXPECT_TRUE(test::fs::exists(order.card / "DCIM/100QUAY/MINE.JPG"));
  EXPECT_FALSE(test::fs::exists(order.card / "DCIM/101QUAY"));
}

TEST(StandIn, MissesShotsWhileItIsBusy) {
  const test::Folder folder;
  take::Take take = test::small_take(10, {48, 32}, 4);
  take.kit.bodies[0].writing_s = 5;  // longer than the interval: every other press finds it busy
  const ShootOutcome outcome = shoot(forecast::shoot_order(take, folder / "card"));
  EXPECT_EQ(outcome.frames, 5);
  EXPECT_EQ(outcome.missed, 5);
}

TEST(StandIn, PutsInTheFlickerItSays) {
  const test::Folder folder;
  ShootOrder order = order_for(folder, 40);
  order.camera.noise = 0;
  const Json truth = read_json(shoot(order).truth);
  std::vector<double> errors;
  for (const Json& shot : truth["shots"]) {
    if (shot["what"] != "frame") continue;
    const double error = shot["aperture_error_stops"], filter = shot["filter_stops"];
    errors.push_back(error);
    if (shot["index"].get<int>() % 13 != 0) continue;
    // The same frame developed without the error differs by just that.
    const TernQuay scene({order.size});
    const ramp::Exposure e{shot["shutter_s"], shot["f_number"], shot["iso"]};
    const auto seen =
        scene.seen(Instant(std::chrono::milliseconds(shot["start_ms"].get<long long>())), e.shutter_s);
    const image::Rect all{0, 0, 240, 160};
    const double with =
        image::measure_luminance(develop(seen, e, error - filter, order.camera, 1), all).stops();
    const double without = image::measure_luminance(develop(seen, e, -filter, order.camera, 1), all).stops();
    EXPECT_NEAR(with - without, error, 0.02);
  }
  double sum = 0;
  for (const double e : errors) sum += e * e;
  EXPECT_NEAR(std::sqrt(sum / static_cast<double>(errors.size())), 0.12, 0.04);
}

/// How far the clouds of one row moved to the right, in pixels, by the best match.
int shift_between(const image::Linear32& a, const image::Linear32& b, int y) {
  int best = 0;
  double least = 1e99;
  for (int d = -20; d <= 60; ++d) {
    double sum = 0;
    for (int x = 60; x < a.size.width - 60; ++x) {
      // Steps from pixel to pixel, relative to the light there: the glow stays where it is, the clouds do
      // not.
      const auto step = [&](const image::Linear32& p, int at) {
        return p.row(y)[3 * at + 1] / p.row(y)[3 * (at - 4) + 1];
      };
      sum += std::pow(step(b, x) - step(a, x - d), 2);
    }
    if (sum < least) least = sum, best = d;
  }
  return best;
}

TEST(TernQuay, CloudsDriftAtTheirKnownSpeed) {
  const TernQuay scene({.size = {600, 400}});
  const Instant t = parse_wall_time("2026-10-09 18:20", tern_quay_place().zone);
  const auto before = scene.seen(t, 0.1), after = scene.seen(t + std::chrono::seconds(100), 0.1);
  for (const int y : {60, 100, 140})
    EXPECT_NEAR(shift_between(before, after, y), 600 * 100 / kCloudCrossing_s, 2) << y;
}

TEST(TernQuay, GoesFromDayIntoNightAndItsLampsComeOn) {
  const TernQuay scene({.size = {120, 80}});
  const Instant noon = parse_wall_time("2026-10-09 12:00", tern_quay_place().zone);
  const auto mean = [&](Instant t) {
    const auto p = scene.seen(t, 0.1);
    double sum = 0;
    for (const float v : p.rgb) sum += static_cast<double>(v);
    return sum / static_cast<double>(p.rgb.size());
  };
  const double day = mean(noon + std::chrono::hours(5)), dusk = mean(noon + std::chrono::hours(7)),
               night = mean(noon + std::chrono::hours(10));
  EXPECT_GT(day / dusk, 20);
  EXPECT_GT(dusk / night, 5);
  const auto lamps = TernQuay::lamp_times(noon);
  ASSERT_EQ(lamps.size(), 9u);
  EXPECT_GT(lamps.back() - lamps.front(), std::chrono::minutes(20));
  EXPECT_TRUE(std::is_sorted(lamps.begin(), lamps.end()));
}

TEST(StandIn, CountsTheFlashesOfAnExposure) {
  EXPECT_DOUBLE_EQ(flashing_s(0, 1, 6, 0.6), 0.6);
  EXPECT_DOUBLE_EQ(flashing_s(0.5, 1, 6, 0.6), 0.1 * 1);
  EXPECT_DOUBLE_EQ(flashing_s(1, 4, 6, 0.6), 0);
  EXPECT_NEAR(flashing_s(5, 20, 6, 0.6), 3 * 0.6 + 0.6, 1e-9);  // at 6, 12, 18 and 24
  EXPECT_NEAR(flashing_s(5.9, 0.4, 6, 0.6), 0.3, 1e-9);
}

}  // namespace
}  // namespace askcount::simulate
