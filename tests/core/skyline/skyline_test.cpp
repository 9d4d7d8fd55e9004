// SPDX-License-Identifier: GPL-3.0-or-later
// A picture of the place under the sky: lens, aim, skyline, what goes behind it, and what is drawn.
#include "skyline/photograph.h"

#include <cmath>
#include <random>

#include "advice/light_advice.h"
#include "forecast/light.h"
#include "forecast/place_picture.h"
#include "simulate/camera.h"
#include "simulate/card.h"
#include "simulate/gannet_head.h"
#include "simulate/tern_quay.h"
#include "sky/events.h"
#include "sky/panorama.h"
#include "skyline/laid.h"
#include "skyline/overlay.h"
#include "skyline/skyline.h"
#include "support.h"

namespace askcount::skyline {
namespace {

using sky::Body;
constexpr sky::Optics kWide{24, 36, 24, 0};

double turned(double a, double b) {
  return std::abs(std::remainder(a - b, 360));
}

TEST(OutlookAim, IsFoundFromOneKnownLight) {
  std::mt19937 random(3);
  std::uniform_real_distribution<double> even(-1, 1);
  for (int k = 0; k < 200; ++k) {
    const sky::Aim aim{180 + 179 * even(random), 50 * even(random), 20 * even(random)};
    const sky::FramePoint at{0.45 * even(random), 0.45 * even(random)};
    const sky::Direction known = sky::direction_of(at, aim, kWide);
    const sky::Aim found = aim_by(known, at, kWide, aim.roll_deg);
    EXPECT_LT(turned(found.bearing_deg, aim.bearing_deg), 1e-6);
    EXPECT_NEAR(found.tilt_deg, aim.tilt_deg, 1e-6);
    EXPECT_LT(turned(bearing_by(known.azimuth_deg, at, kWide, aim.tilt_deg, aim.roll_deg), aim.bearing_deg),
              1e-6);
  }
  // Far off the middle to the side nothing can stand near the zenith.
  EXPECT_EQ(test::error_of([] { aim_by({89, 180}, {0.45, 0}, kWide); }).kind(), Error::Kind::BadInput);
  EXPECT_NEAR(true_bearing(252, -4), 248, 1e-12);
  EXPECT_NEAR(true_bearing(2, -4), 358, 1e-12);
}

TEST(OutlookOptics, ComeFromWhatTheFileSays) {
  media::ShotInfo info;
  info.size = {4000, 3000};
  EXPECT_FALSE(optics_for(info, info.size, 36));
  // 26 mm "on 35 mm film" by the diagonal of 4:3: the width that goes with it is 43.27 × 0.8.
  info.focal_mm = 5.1;
  info.focal_35mm = 26;
  EXPECT_NEAR(optics_for(info, info.size, 36)->across_deg(),
              2 * std::atan(43.2666 * 0.8 / 2 / 26) * 180 / M_PI, 1e-6);
  // Upright the same lens sees as much down as it did across.
  EXPECT_NEAR(optics_for(info, {3000, 4000}, 36)->down_deg(),
              optics_for(info, {4000, 3000}, 36)->across_deg(), 1e-9);
  // Without it the sensor counts: the file's own, else the body's.
  info.focal_35mm.reset();
  info.focal_mm = 16;
  EXPECT_NEAR(optics_for(info, info.size, 23.5)->across_deg(), 2 * std::atan(23.5 / 2 / 16) * 180 / M_PI,
              1e-9);
  info.sensor_width_mm = 17.3;
  EXPECT_NEAR(optics_for(info, info.size, 23.5)->across_deg(), 2 * std::atan(17.3 / 2 / 16) * 180 / M_PI,
              1e-9);
}

TEST(Metadata, KeepsFocalLengthAndCompass) {
  const test::Folder folder;
  media::ShotInfo info;
  info.focal_mm = 5.1;
  info.focal_35mm = 26;
  info.bearing_deg = 247.25;
  info.bearing_magnetic = true;
  test::write(folder / "a.jpg",
              media::with_metadata(media::encode_jpeg(image::Coded8({32, 24}), 90), info, {}));
  const media::ShotInfo read = media::read_shot_info(folder / "a.jpg");
  EXPECT_NEAR(*read.focal_mm, 5.1, 1e-6);
  EXPECT_NEAR(*read.focal_35mm, 26, 1e-6);
  EXPECT_NEAR(*read.bearing_deg, 247.25, 1e-6);
  EXPECT_TRUE(read.bearing_magnetic);
  test::write(folder / "b.jpg", media::encode_jpeg(image::Coded8({32, 24}), 90));
  const media::ShotInfo none = media::read_shot_info(folder / "b.jpg");
  EXPECT_FALSE(none.focal_mm || none.focal_35mm || none.bearing_deg || none.sensor_width_mm);
}

void disc(image::Coded8& p, double x, double y, double r, std::uint8_t code = 255) {
  for (int v = 0; v < p.size.height; ++v)
    for (int u = 0; u < p.size.width; ++u)
      if (std::hypot(u + 0.5 - x, v + 0.5 - y) < r)
        for (int c = 0; c < 3; ++c) p.row(v)[3 * u + c] = code;
}

TEST(OutlookLight, FindsSunAndMoonAndNothingElse) {
  image::Coded8 p({600, 400});
  for (auto& code : p.rgb) code = 120;
  EXPECT_FALSE(find_light(p));
  disc(p, 413, 122, 9, 240);
  EXPECT_FALSE(find_light(p)) << "bright, not burnt out";
  disc(p, 413, 122, 9);
  for (int x = 0; x < 600; ++x)  // a reflection is long, not round
    for (int y = 300; y < 306; ++y)
      for (int c = 0; c < 3; ++c) p.row(y)[3 * x + c] = 255;
  const auto found = find_light(p);
  ASSERT_TRUE(found);
  EXPECT_NEAR(found->x, 413.0 / 600 - 0.5, 0.002);
  EXPECT_NEAR(found->y, 0.5 - 122.0 / 400, 0.002);
  for (auto& code : p.rgb) code = 255;
  EXPECT_FALSE(find_light(p)) << "all of it";
}

/// The headland under a full moon that stands in the frame, as a camera at the place takes it.
struct MoonPicture {
  sky::Place place = simulate::scene_place("Gannet Head");
  Instant at = parse_wall_time("2026-08-28 22:30", "Atlantic/Canary");
  sky::Aim aim;
  image::Coded8 picture;
  MoonPicture() {
    const auto sky = sky::ephemeris_for(at, at);
    const sky::Direction moon = sky->at(Body::Moon, at, place);
    aim = {std::fmod(moon.azimuth_deg + 350, 360), moon.altitude_deg - 8, 0};
    simulate::SceneSetting setting{.size = {900, 600}};
    setting.aim = aim;
    simulate::CameraSettings camera;
    camera.noise = 0;
    picture = simulate::develop(simulate::GannetHead(setting).seen(at, 1), {1, 2.8, 400}, 0, camera, 1);
  }
  Photograph photograph() const {
    Photograph p{picture, {}, picture.size};
    p.info.size = picture.size;
    p.info.focal_mm = p.info.focal_35mm = 24;
    p.info.captured = simulate::camera_clock(at, "Atlantic/Canary");
    return p;
  }
};

TEST(OutlookLight, TheMoonInAPictureSaysWhereItLooks) {
  const MoonPicture m;
  const auto light = find_light(m.picture);
  ASSERT_TRUE(light);
  const auto sky = sky::ephemeris_for(m.at, m.at);
  const sky::Aim found = aim_by(sky->at(Body::Moon, m.at, m.place), *light, kWide);
  EXPECT_LT(turned(found.bearing_deg, m.aim.bearing_deg), 0.3);
  EXPECT_NEAR(found.tilt_deg, m.aim.tilt_deg, 0.3);
}

/// A street of roofs against a bright, clouded sky: the height of its skyline in every column.
std::vector<double> roofs(int w, int h) {
  std::vector<double> top(static_cast<size_t>(w));
  for (int x = 0; x < w; ++x) {
    const double u = static_cast<double>(x) / w;
    double y = 0.62 + 0.03 * std::sin(6 * u);                        // far hills
    if (u > 0.15 && u < 0.33) y = 0.40;                              // a flat roof with walls
    if (u > 0.45 && u < 0.70) y = 0.35 + 1.2 * std::abs(u - 0.575);  // a gable
    if (u > 0.80 && u < 0.86) y = 0.22;                              // a tower
    top[static_cast<size_t>(x)] = y * h;
  }
  return top;
}

image::Coded8 street(int w, int h, bool night) {
  image::Coded8 p({w, h});
  std::mt19937 random(9);
  std::normal_distribution<double> noise(0, night ? 5 : 2);
  const auto top = roofs(w, h);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      const double u = static_cast<double>(x) / w, v = static_cast<double>(y) / h;
      const bool land = y > top[static_cast<size_t>(x)];
      double light = night ? 34 - 10 * (1 - v) : 190 + 30 * v + 14 * std::sin(9 * u + 5 * std::sin(7 * v));
      if (land)
        light = (night ? 6 : 70) + ((x / 12 + y / 15) % 2 ? (night ? 5 : 12) : 0) +
                (night && (x % 37 < 4) && (y % 29 < 5) ? 190 : 0);
      for (int c = 0; c < 3; ++c)
        p.row(y)[3 * x + c] = static_cast<std::uint8_t>(
            std::clamp(light * (c == 2 && !land ? 1.1 : 1.0) + noise(random), 0.0, 255.0));
    }
  if (night)
    for (int k = 0; k < 300; ++k) {  // stars
      const int x = static_cast<int>(random() % static_cast<unsigned>(w)),
                y = static_cast<int>(random() % static_cast<unsigned>(h / 5));
      for (int c = 0; c < 3; ++c) p.row(y)[3 * x + c] = 230;
    }
  return p;
}

class Skyline : public ::testing::TestWithParam<std::tuple<int, bool>> {};

TEST_P(Skyline, IsFoundAlongHillsRoofsAndTowers) {
  const auto [w, night] = GetParam();
  const int h = w * 2 / 3;
  const auto found = skyline_of(street(w, h, night));
  ASSERT_EQ(found.size(), static_cast<size_t>(std::min(w, 1200)));
  const auto truth = roofs(w, h);
  int off = 0;
  for (size_t x = 0; x < found.size(); ++x) {
    const double there = truth[x * truth.size() / found.size()] / h;
    off += std::abs(found[x] - there) > 0.012 ? 1 : 0;  // half a degree of 24 mm
  }
  EXPECT_LT(off, static_cast<int>(found.size()) * 3 / 100) << "columns, most of them at walls";
}
INSTANTIATE_TEST_SUITE_P(SizesAndLight, Skyline,
                         ::testing::Combine(::testing::Values(500, 1100, 2400), ::testing::Bool()));

TEST(Skyline, IsThatOfTheHarboursHills) {
  const simulate::TernQuay quay({.size = {900, 600}});
  const auto p = simulate::develop(quay.seen(parse_wall_time("2026-10-09 18:30", "Europe/London"), 0.1),
                                   {1.0 / 60, 5.6, 200}, 0, {}, 1);
  const auto found = skyline_of(p);
  // Corners of the far hills, away from masts and houses.
  for (const auto& [x, y] : {std::pair{0.03, 0.495}, std::pair{0.17, 0.455}, std::pair{0.34, 0.518},
                             std::pair{0.88, 0.51}, std::pair{0.96, 0.488}})
    EXPECT_NEAR(found[static_cast<size_t>(x * static_cast<double>(found.size()))], y, 0.012) << x;
}

TEST(Traced, ReplacesWhatThePictureShowsAndNothingElse) {
  const View view{kWide, {350, 10, 0}};
  // A straight line at the picture's middle: 10° up there, less to the sides.
  const std::vector<double> middle(800, 0.5);
  const std::vector<sky::HorizonPoint> before = {{90, 7}, {180, 3}, {355, 40}};
  const auto horizon = traced(middle, view, before);
  EXPECT_NEAR(sky::horizon_at(horizon, 350), 10, 0.1);
  const sky::Direction side = sky::direction_of({0.4, 0}, view.aim, kWide);
  EXPECT_NEAR(sky::horizon_at(horizon, side.azimuth_deg), side.altitude_deg, 0.12);
  EXPECT_NEAR(sky::horizon_at(horizon, 90), 7, 1e-9);
  EXPECT_NEAR(sky::horizon_at(horizon, 135), 5, 1e-9);
  EXPECT_NEAR(sky::horizon_at(horizon, 180), 3, 1e-9);
  EXPECT_LT(horizon.size(), 60u) << "as few points as it needs";
  EXPECT_TRUE(std::is_sorted(horizon.begin(), horizon.end(),
                             [](const auto& a, const auto& b) { return a.bearing_deg < b.bearing_deg; }));
  // Traced again it is the same.
  const auto again = traced(middle, view, horizon);
  EXPECT_NEAR(sky::horizon_at(again, 350), 10, 0.1);
  EXPECT_NEAR(sky::horizon_at(again, 135), 5, 0.05);
  EXPECT_EQ(traced({}, view, before), before);
}

TEST(Traced, IsMendedByHandWhereItIsWrong) {
  const View view{kWide, {200, 10, 0}};
  std::vector<double> line(800);
  for (size_t x = 0; x < line.size(); ++x) line[x] = 0.5 + 0.02 * std::sin(static_cast<double>(x) / 9);
  auto horizon = traced(line, view);
  const double beside = sky::horizon_at(horizon, 203);
  sky::raise(horizon, 200.2, 14.26);
  EXPECT_NEAR(sky::horizon_at(horizon, 200.2), 14.3, 1e-9);
  EXPECT_NEAR(sky::horizon_at(horizon, 203), beside, 1e-9);
}

TEST(Behind, IsWhenTheBodyMeetsTheSkyline) {
  const sky::Place quay = simulate::tern_quay_place();
  const Instant noon = parse_wall_time("2026-10-09 12:00", quay.zone),
                night = parse_wall_time("2026-10-10 00:00", quay.zone);
  const auto sky = sky::ephemeris_for(noon, night);
  // Level: the sun's middle passes 0°.
  const auto level = sky::behind(*sky, Body::Sun, quay, {}, noon, night);
  ASSERT_EQ(level.size(), 1u);
  EXPECT_TRUE(level[0].goes);
  EXPECT_NEAR(sky->at(Body::Sun, level[0].at, quay).altitude_deg, 0, 0.005);
  // A house of 16° from 225° to 235°: behind, out again, and at last down.
  const std::vector<sky::HorizonPoint> house = {{224.9, 0}, {225, 16}, {235, 16}, {235.1, 0}};
  const auto three = sky::behind(*sky, Body::Sun, quay, house, noon, night);
  ASSERT_EQ(three.size(), 3u);
  EXPECT_TRUE(three[0].goes);
  EXPECT_NEAR(three[0].where.altitude_deg, 16, 0.02);
  EXPECT_FALSE(three[1].goes);
  EXPECT_NEAR(three[1].where.azimuth_deg, 235, 0.15);
  EXPECT_LT(std::abs(seconds_between(three[2].at, level[0].at)), 1);
  EXPECT_EQ(sky::behind_words(three[0], quay.zone).substr(0, 33), "The sun goes behind the skyline a");
  // A mast of a tenth of a degree is not worth a word: the sun passes in less than a minute.
  EXPECT_EQ(
      sky::behind(*sky, Body::Sun, quay, {{229.9, 0}, {229.95, 30}, {230.05, 30}, {230.1, 0}}, noon, night)
          .size(),
      1u);
  EXPECT_TRUE(sky::behind(*sky, Body::Sun, quay, house, night, noon).empty());
}

TEST(Behind, IsSaidOfATakeWhoseSkylineIsKnown) {
  take::Take t = take::demo_take();
  EXPECT_TRUE(forecast::behind_of(t).empty());
  t.light.horizon = {{240, 3}, {270, 3}};
  const auto all = forecast::behind_of(t);
  ASSERT_FALSE(all.empty());
  EXPECT_TRUE(
      std::is_sorted(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.at < b.at; }));
  for (const sky::Behind& b : all) EXPECT_NE(b.body, Body::Moon) << "2 % of it are lit";
  const Findings findings = advice::light_advice(t, forecast::ramp_of(t));
  const auto said = std::find_if(findings.begin(), findings.end(),
                                 [](const Finding& f) { return f.code == "behind_skyline"; });
  ASSERT_NE(said, findings.end());
  EXPECT_NE(said->title.find("The sun goes behind the skyline at 18:0"), std::string::npos) << said->title;
}

TEST(OutlookFor, BelievesWhatIsSaidThenTheLightThenTheCompass) {
  using By = take::Outlook::By;
  const MoonPicture m;
  take::Take t;
  t.place = m.place;
  const Photograph p = m.photograph();
  const take::Outlook by_moon = forecast::outlook_for(t, p, "a.jpg");
  EXPECT_EQ(by_moon.by, By::Moon);
  EXPECT_LT(turned(by_moon.aim.bearing_deg, m.aim.bearing_deg), 0.3);
  EXPECT_EQ(by_moon.size, p.full);
  forecast::OutlookSaid said;
  said.bearing_deg = 12;
  said.tilt_deg = 3;
  EXPECT_EQ(forecast::outlook_for(t, p, "a.jpg", said).by, By::Hand);
  EXPECT_DOUBLE_EQ(forecast::outlook_for(t, p, "a.jpg", said).aim.bearing_deg, 12);
  said = {};
  said.compass_deg = 12;
  t.light.variation_deg = -4;
  EXPECT_DOUBLE_EQ(forecast::outlook_for(t, p, "a.jpg", said).aim.bearing_deg, 8);
  // A light that would have the camera look quite elsewhere than its compass says is a lamp.
  Photograph lamp = p;
  lamp.info.bearing_deg = std::fmod(m.aim.bearing_deg + 120, 360);
  EXPECT_EQ(forecast::outlook_for(t, lamp, "a.jpg").by, By::Compass);
  // Without a place nothing follows from the moon; marked by hand it is an error that says so.
  t.place = {};
  EXPECT_EQ(forecast::outlook_for(t, p, "a.jpg").by, By::Nothing);
  said = {};
  said.light = sky::FramePoint{0.1, 0.1};
  EXPECT_EQ(test::error_of([&] { forecast::outlook_for(t, p, "a.jpg", said); }).kind(),
            Error::Kind::BadInput);
  Photograph bare = p;
  bare.info = {};
  EXPECT_EQ(test::error_of([&] { forecast::outlook_for(t, bare, "a.jpg"); }).kind(), Error::Kind::BadInput);
  said = {};
  said.focal_mm = 50;
  EXPECT_NEAR(forecast::view_of(forecast::outlook_for(t, bare, "a.jpg", said)).optics.across_deg(), 39.6,
              0.1);
}

TEST(OutlookFor, IsKeptInTheTake) {
  take::Take t = take::demo_take();
  t.light.variation_deg = -4.5;
  t.light.outlook = {"quay.jpg", {6000, 4000}, 35, 23.5, {248, 3, 1}, take::Outlook::By::Sun};
  EXPECT_EQ(take::take_from_json(take::to_json(t), "t"), t);
}

TEST(Laid, ShowsEachDirectionOfThePicture) {
  image::Coded8 p({360, 240});
  for (int y = 0; y < 240; ++y)
    for (int x = 0; x < 360; ++x) {
      p.row(y)[3 * x] = static_cast<std::uint8_t>(x / 2);
      p.row(y)[3 * x + 1] = static_cast<std::uint8_t>(y);
    }
  const View view{kWide, {2, 12, 7}};
  const sky::Panorama panorama{900, 300, 0, -15, 8};
  const Laid laid = laid_under(p, view, panorama);
  int covered = 0;
  for (int y = 3; y < 300; y += 11)
    for (int x = 3; x < 900; x += 13) {
      const std::uint8_t* rgba = laid.rgba.data() + 4 * (static_cast<size_t>(y) * 900 + x);
      const auto at = sky::project(panorama.direction_at(x + 0.5, y + 0.5), view.aim, view.optics);
      ASSERT_EQ(rgba[3] == 255, at && sky::inside(*at, view.optics, true)) << x << " " << y;
      if (rgba[3] != 255) continue;
      ++covered;
      EXPECT_NEAR(rgba[0], (at->x + 0.5) * 180, 1);
      EXPECT_NEAR(rgba[1], (0.5 - at->y) * 240, 1);
    }
  EXPECT_GT(covered, 300);
}

TEST(DrawOver, PutsSunSkylineAndPoleWhereTheyAre) {
  const test::Folder folder;
  Photograph p;
  p.picture = image::Coded8({900, 600});
  for (auto& code : p.picture.rgb) code = 0;
  p.full = p.picture.size;
  Overlay o;
  o.place = simulate::tern_quay_place();
  o.from = parse_wall_time("2026-10-09 15:00", o.place.zone);
  o.to = parse_wall_time("2026-10-09 20:00", o.place.zone);
  o.view = {kWide, {240, 12, 0}};
  o.horizon = {{200, 2}, {300, 2}};
  draw_over(p, o, folder / "over.png");
  const auto pixels = [&] {
    const test::Said said =
        test::run("ffmpeg -v error -i " + (folder / "over.png").string() + " -f rawvideo -pix_fmt rgb24 -");
    EXPECT_EQ(said.out.size(), 900u * 600 * 3);
    return said.out;
  }();
  const auto at = [&](const sky::Direction& d) {
    const auto f = sky::project(d, o.view.aim, o.view.optics);
    const int x = static_cast<int>((f->x + 0.5) * 900), y = static_cast<int>((0.5 - f->y) * 600);
    const auto* c =
        reinterpret_cast<const std::uint8_t*>(pixels.data()) + 3 * (static_cast<size_t>(y) * 900 + x);
    return std::array<int, 3>{c[0], c[1], c[2]};
  };
  const auto sky = sky::ephemeris_for(o.from, o.to);
  const auto sun = at(sky->at(Body::Sun, parse_wall_time("2026-10-09 16:20", o.place.zone), o.place));
  EXPECT_GT(sun[0], 200);
  EXPECT_GT(sun[1], 150);
  EXPECT_LT(sun[2], 120);
  const auto line = at({2, 250});
  EXPECT_GT(line[1], 150);
  EXPECT_LT(line[0], line[1]);
  const auto empty = at({25, 215});
  EXPECT_LT(empty[0] + empty[1] + empty[2], 30);
  // Behind the skyline the path is only hinted at.
  const auto below = at(sky->at(Body::Sun, parse_wall_time("2026-10-09 18:34", o.place.zone), o.place));
  EXPECT_LT(below[0], 150);
  EXPECT_EQ(written_kind(folder / "over.png"), FileKind::Picture);
  // The pole: due north, as high as the place's latitude.
  EXPECT_DOUBLE_EQ(pole_of(o.place).altitude_deg, 56.1);
  EXPECT_DOUBLE_EQ(pole_of({"South", -33, 18, "UTC", 0}).azimuth_deg, 180);
}

}  // namespace
}  // namespace askcount::skyline
