// SPDX-License-Identifier: GPL-3.0-or-later
// The film before the shoot: what a plan does wrong is seen in it, by known truth.
#include "simulate/trial_film.h"

#include <cmath>

#include "forecast/light.h"
#include "forecast/trial.h"
#include "image/luminance.h"
#include "image/tone.h"
#include "media/reader.h"
#include "simulate/alum_jar.h"
#include "simulate/gannet_head.h"
#include "simulate/reel.h"
#include "simulate/ropewalk.h"
#include "simulate/smear.h"
#include "simulate/tern_quay.h"
#include "support.h"

namespace askcount::simulate {
namespace {

using plan::Slot;
using take::Take;

/// The harbour's dusk by a method, without the aperture's own flicker.
Take dusk(ramp::Method method) {
  Take t = take::demo_take();
  t.light.method = method;
  t.stand_in.camera.aperture_spread_stops = 0;
  t.stand_in.camera.noise = 0;
  return t;
}

double mean_code(const image::Coded8& p) {
  double sum = 0;
  for (const auto v : p.rgb) sum += v;
  return sum / static_cast<double>(p.rgb.size());
}

double mean_difference(const image::Coded8& a, const image::Coded8& b) {
  double sum = 0;
  for (size_t i = 0; i < a.rgb.size(); ++i) sum += std::abs(a.rgb[i] - b.rgb[i]);
  return sum / static_cast<double>(a.rgb.size());
}

TEST(Smear, KeepsTheLightOfAShapeHoweverFarItGoes) {
  const simulate::Smear bar({{{0, 0}, {10, 0}, {10, 4}, {0, 4}}}, 10, 4);
  for (const double way : {0.0, 0.3, 3.0, 25.0, 400.0}) {
    double covered = 0;
    for (int x = -20; x < 600; ++x) covered += static_cast<double>(bar.share(x, 2, 20, 20 + way));
    EXPECT_NEAR(covered, 10, 1e-3) << way;
    double back = 0;
    for (int x = -20; x < 600; ++x) back += static_cast<double>(bar.share(x, 2, 20 + way, 20));
    EXPECT_NEAR(back, covered, 1e-9) << way;
  }
  // Halfway in the open while it goes its own width: the middle of the way is covered all the time at most.
  EXPECT_NEAR(static_cast<double>(bar.share(29, 1, 20, 30)), 0.95, 0.01);
  EXPECT_NEAR(static_cast<double>(bar.share(21, 1, 20, 30)), 0.15, 0.01);
  EXPECT_EQ(bar.share(45, 1, 20, 30), 0);
}

/// Where the lamps of the near lane's cars leave a trail of light that begins and ends in the picture: its
/// length in pixels; 0 where there is none.
int trail_px(const image::Linear32& night) {
  int longest = 0;
  for (int y = night.size.height * 298 / 400; y < night.size.height * 310 / 400; ++y) {
    int run = 0;
    for (int x = 0; x < night.size.width; ++x) {
      run = night.row(y)[3 * x + 1] > 5 ? run + 1 : 0;
      const bool ends = x + 1 < night.size.width && night.row(y)[3 * (x + 1) + 1] <= 5;
      if (ends && run <= x) longest = std::max(longest, run);
    }
  }
  return longest;
}

int longest_trail_px(const simulate::Ropewalk& street, double open_s) {
  const Instant night = parse_wall_time("2026-10-09 21:00", "Europe/London");
  int longest = 0;
  for (int k = 0; k < 40; ++k)
    longest = std::max(longest, trail_px(street.seen(later(night, 0.7 * k), open_s)));
  return longest;
}

TEST(Ropewalk, CarsLeaveTrailsAsLongAsTheyGo) {
  const image::Size size{600, 400};
  const double px = size.width / simulate::kRopewalk_m * 1.08, lamp_px = 0.24 * px;
  const simulate::Ropewalk street({.size = size}), hasty({.size = size, .haste = 2});
  EXPECT_NEAR(longest_trail_px(street, 0.5), simulate::kDriving_mps * 0.5 * px + lamp_px, 4);
  EXPECT_NEAR(longest_trail_px(street, 0.25), simulate::kDriving_mps * 0.25 * px + lamp_px, 4);
  EXPECT_NEAR(longest_trail_px(hasty, 0.25), simulate::kDriving_mps * 0.5 * px + lamp_px, 6);
}

TEST(Ropewalk, IsLitByDayAndByItsLamps) {
  const simulate::Ropewalk street({.size = {120, 80}});
  const auto at = [&](const char* time, int x, int y) {
    const auto p = street.seen(parse_wall_time(time, "Europe/London"), 0.01);
    return p.row(y)[3 * x + 1];
  };
  EXPECT_GT(at("2026-10-09 12:00", 60, 76) / at("2026-10-09 21:00", 60, 76), 1000);  // the pavement
  EXPECT_GT(at("2026-10-09 21:00", 60, 76), 0.3F);                                   // street lamps
  EXPECT_LT(at("2026-10-09 21:00", 60, 2), 0.05F);                                   // the sky above them
}

TEST(Scenes, StandUnderTheSkyTheyAreToldAndMoveAtTheirHaste) {
  const Instant t = parse_wall_time("2026-10-09 18:20", "Europe/London");
  const simulate::TernQuay own({.size = {480, 60}}), hasty({.size = {480, 60}, .haste = 5});
  const sky::Place far{"Elsewhere", 56.1, 60, "UTC", 0};  // where the sun went down hours ago
  const simulate::TernQuay elsewhere({.size = {480, 60}, .place = far});
  const auto sum = [](const image::Linear32& p) {
    double s = 0;
    for (const float v : p.rgb) s += static_cast<double>(v);
    return s;
  };
  EXPECT_GT(sum(own.seen(t, 0.1)) / sum(elsewhere.seen(t, 0.1)), 100);
  // The hasty clouds change the sky faster.
  const auto moved = [&](const simulate::Scene& scene, double s) {
    const auto a = scene.seen(t, 0.1), b = scene.seen(later(t, s), 0.1);
    std::vector<double> change;
    for (int x = 0; x < 480; ++x)
      change.push_back(static_cast<double>(std::log(a.row(15)[3 * x + 1] / b.row(15)[3 * x + 1])));
    double mean = 0, sum = 0;  // the light falls for all of them alike
    for (const double c : change) mean += c / 480;
    for (const double c : change) sum += std::abs(c - mean);
    return sum;
  };
  EXPECT_GT(moved(hasty, 2), 2.5 * moved(own, 2));
  // A jar's crystals have grown for as long as they were told, at their haste.
  const auto white = [&](const simulate::SceneSetting& setting) {
    const simulate::AlumJar jar(setting);
    const auto p = jar.seen(t, 0.1);
    double n = 0;
    for (size_t i = 0; i < p.rgb.size(); i += 3) n += p.rgb[i + 2] > 45 ? 1 : 0;
    return n;
  };
  const double young = white({.size = {240, 160}, .begins = later(t, -10 * 3600)}),
               old = white({.size = {240, 160}, .begins = later(t, -40 * 3600)}),
               fast = white({.size = {240, 160}, .haste = 4, .begins = later(t, -10 * 3600)});
  EXPECT_GT(old, 2 * young);
  EXPECT_DOUBLE_EQ(fast, old);
}

TEST(TrialFilm, MeetsTheMeterAsTheRampSays) {
  for (const ramp::Method method :
       {ramp::Method::Hand, ramp::Method::Fixed, ramp::Method::AperturePriority}) {
    const Take t = dusk(method);
    const ramp::Ramp ramp = forecast::ramp_of(t);
    const TrialFilm film(forecast::trial_of(t));
    ASSERT_EQ(film.plan().frames, t.sums().frames);
    for (const long long n : {0LL, 100LL, 249LL})
      EXPECT_NEAR(film.over_stops(n), ramp.meter[static_cast<size_t>(n)], 1e-6) << n;
  }
}

TEST(TrialFilm, AFixedExposureDrownsAndAHandFollows) {
  const TrialFilm fixed(forecast::trial_of(dusk(ramp::Method::Fixed))),
      hand(forecast::trial_of(dusk(ramp::Method::Hand)));
  EXPECT_TRUE(is_lost(fixed.over_meter()));
  EXPECT_FALSE(is_lost(hand.over_meter()));
  EXPECT_NE(over_words(fixed.over_meter()).find("Its last frame is"), std::string::npos);
  EXPECT_NE(over_words(fixed.over_meter()).find("drowns"), std::string::npos);
  EXPECT_GT(mean_code(fixed.frame(0)), 60);
  EXPECT_LT(mean_code(fixed.frame(249)), 4);
  for (const long long n : {0LL, 80LL, 160LL, 249LL}) {
    EXPECT_GT(mean_code(hand.frame(n)), 60) << n;
    EXPECT_LT(mean_code(hand.frame(n)), 190) << n;
  }
}

TEST(TrialFilm, FlickersAsTheApertureDoes) {
  Take still = dusk(ramp::Method::Hand), restless = still;
  restless.stand_in.camera.aperture_spread_stops = 0.12;
  const TrialFilm a(forecast::trial_of(still)), b(forecast::trial_of(restless));
  double steps = 0;
  for (long long n = 10; n < 16; ++n) {
    const image::Rect all{0, 0, a.plan().size.width, a.plan().size.height};
    const double off =
        image::measure_luminance(b.frame(n), all).stops() - image::measure_luminance(a.frame(n), all).stops();
    EXPECT_NEAR(off, simulate::aperture_error(restless.stand_in.camera, static_cast<std::uint64_t>(n)), 0.05)
        << n;
    steps += std::abs(off);
  }
  EXPECT_GT(steps, 0.1);
}

Take night_of_stars(double shutter_s) {
  Take t;
  t.subject = "milky way";
  t.place = {"Gannet Head", 28.3, -16.6, "Atlantic/Canary", 210};
  t.start = parse_wall_time("2026-08-12 23:30", t.place.zone);
  t.wish(Slot::Clip, 2);
  t.wish(Slot::Fps, 24);
  t.wish(Slot::Interval, 400);
  t.wish(Slot::Shutter, shutter_s);
  t.stand_in.camera.noise = 0;
  return t;
}

TEST(TrialFilm, StarsBecomeDashesAndTheCoreLeavesTheFrame) {
  TrialPlan points = forecast::trial_of(night_of_stars(5)), dashes = forecast::trial_of(night_of_stars(300));
  EXPECT_EQ(points.scene, "Gannet Head");
  // The same light on the sensor, and no faster lens: only the time differs.
  dashes.chain = {{300, 2.8, 100}};
  points.chain = {{5, 2.8, 6000}};
  points.ev = dashes.ev = {};
  const TrialFilm a(points), b(dashes);
  // How many pixels a star that stands out of its neighbourhood covers, in the mean.
  const auto star_px = [](const image::Coded8& p) {
    const auto& linear = image::linear_of_code();
    const int w = p.size.width, h = p.size.height * 3 / 5;
    std::vector<int> lit(static_cast<size_t>(w) * h);
    for (int y = 8; y < h; ++y)
      for (int x = 12; x < w - 12; ++x)
        lit[static_cast<size_t>(y) * w + x] =
            linear[p.row(y)[3 * x + 1]] -
                std::max(linear[p.row(y)[3 * (x - 12) + 1]], linear[p.row(y)[3 * (x + 12) + 1]]) >
            0.15F;
    int pixels = 0, groups = 0;
    std::vector<int> stack;
    for (int i = 0; i < w * h; ++i) {
      if (lit[static_cast<size_t>(i)] != 1) continue;
      ++groups;
      stack.push_back(i);
      lit[static_cast<size_t>(i)] = 2;
      while (!stack.empty()) {
        const int at = stack.back();
        stack.pop_back();
        ++pixels;
        for (int dy = -1; dy <= 1; ++dy)
          for (int dx = -1; dx <= 1; ++dx) {
            const int to = at + dy * w + dx;
            if (to < 0 || to >= w * h || lit[static_cast<size_t>(to)] != 1) continue;
            lit[static_cast<size_t>(to)] = 2;
            stack.push_back(to);
          }
      }
    }
    return groups > 10 ? static_cast<double>(pixels) / groups : 0;
  };
  EXPECT_GT(star_px(a.frame(0)), 1);
  EXPECT_GT(star_px(b.frame(0)), 2 * star_px(a.frame(0)));
  // Over five hours the core sets: where it stood the sky is darker by then.
  const sky::Optics optics{24, 36, 20.25, 0};
  const auto ephemeris = sky::ephemeris_for(points.start, later(points.start, 6 * 3600));
  const auto core = [&](long long n) {
    return sky::project(
        ephemeris->at(sky::Body::Core, later(points.start, static_cast<double>(n) * 400), points.place),
        simulate::kGannetAim, optics);
  };
  ASSERT_TRUE(core(0));
  const int x = static_cast<int>((0.5 + core(0)->x) * 480), y = static_cast<int>((0.5 - core(0)->y) * 270);
  ASSERT_TRUE(x > 20 && x < 460 && y > 20 && y < 200);
  EXPECT_TRUE(!core(47) || !sky::inside(*core(47), optics, true));
  const auto around = [&](const image::Coded8& p) {
    double sum = 0;
    for (int v = y - 15; v < y + 15; ++v)
      for (int u = x - 15; u < x + 15; ++u) sum += p.row(v)[3 * u + 1];
    return sum / 900;
  };
  EXPECT_GT(around(a.frame(0)), 1.2 * around(a.frame(47)));
}

TEST(TrialFilm, TheHeadTurns) {
  Take t = dusk(ramp::Method::Hand);
  t.light.move = {{240, 9, 0}, {260, 9, 0}, false};
  TrialPlan plan = forecast::trial_of(t);
  plan.interval_s = 0.01;  // nothing else moves
  plan.frames = 3;
  plan.ev = {};
  plan.chain = {{1.0 / 125, 8, 100}};
  const TrialFilm film(plan);
  const auto a = film.frame(0), b = film.frame(1), c = film.frame(2);
  const double px = 20 / plan.across_deg * plan.size.width;
  // The best match of the hills' row says by how much.
  const auto shift = [&](const image::Coded8& from, const image::Coded8& to) {
    double least = 1e99;
    int best = 0;
    for (int d = 0; d < 2 * px; ++d) {
      double sum = 0;
      for (int y = 120; y < 200; y += 5)
        for (int x = 0; x + d < from.size.width; ++x)
          sum += std::abs(from.row(y)[3 * (x + d) + 1] - to.row(y)[3 * x + 1]);
      sum /= from.size.width - d;
      if (sum < least) least = sum, best = d;
    }
    return best;
  };
  EXPECT_NEAR(shift(a, c), px, 2);
  EXPECT_NEAR(shift(a, b), px / 2, 2);
}

TEST(TrialFilm, HurriedPeopleJumpAndCalmOnesDoNot) {
  Take calm;
  calm.subject = "people in the market";
  calm.wish(Slot::Clip, 4);
  calm.wish(Slot::Fps, 25);
  calm.wish(Slot::Interval, 0.1);
  calm.wish(Slot::Shutter, 0.05);
  calm.stand_in.camera.aperture_spread_stops = 0;
  Take hurried = calm;
  hurried.wish(Slot::Interval, 10);
  EXPECT_EQ(forecast::scene_for(calm), "The Ropewalk");
  const TrialFilm a(forecast::trial_of(calm)), b(forecast::trial_of(hurried));
  double little = 0, much = 0;
  for (long long n = 20; n < 30; ++n) {
    little += mean_difference(a.frame(n), a.frame(n + 1));
    much += mean_difference(b.frame(n), b.frame(n + 1));
  }
  EXPECT_GT(much, 1.3 * little);
}

TEST(TrialPlan, GoesWithTheSubjectAndItsPace) {
  const auto with = [](const char* subject, double crossing_s) {
    Take t;
    t.subject = subject;
    t.wish(Slot::Clip, 10);
    t.wish(Slot::Fps, 25);
    t.wish(Slot::Interval, 5);
    if (crossing_s > 0) t.wish(Slot::FieldCrossing, crossing_s);
    return t;
  };
  EXPECT_EQ(forecast::trial_of(with("rain clouds", 0)).scene, "Tern Quay");
  EXPECT_EQ(forecast::trial_of(with("seedlings", 0)).scene, "The alum jar");
  EXPECT_EQ(forecast::trial_of(with("a construction site", 0)).scene, "The Ropewalk");
  EXPECT_EQ(forecast::trial_of(with("star trails", 0)).scene, "Gannet Head");
  EXPECT_EQ(forecast::trial_of(with("a thing nobody knows", 0)).scene, "Tern Quay");
  EXPECT_DOUBLE_EQ(forecast::trial_of(with("clouds", 0)).haste, 1);
  EXPECT_DOUBLE_EQ(forecast::trial_of(with("clouds", 500)).haste, simulate::kCloudCrossing_s / 500);
  EXPECT_DOUBLE_EQ(forecast::trial_of(with("cars", 10)).haste,
                   simulate::kRopewalk_m / simulate::kDriving_mps / 10);
  const Take t = with("clouds", 500);
  EXPECT_EQ(forecast::trial_words(t, forecast::trial_of(t)),
            "the clouds over Tern Quay, across the frame in 8 min 20 s");
  const Take own = with("clouds", 0), demo = take::demo_take();
  EXPECT_EQ(forecast::trial_words(own, forecast::trial_of(own)),
            "the clouds over Tern Quay, at their own pace");
  EXPECT_EQ(forecast::trial_words(demo, forecast::trial_of(demo)),
            "the clouds over Tern Quay, across the frame in 33 min 20 s");
  EXPECT_THROW(forecast::trial_of(Take{}), Error);
  // The film's shape is kept.
  Take tall = t;
  tall.film.size = {1080, 1920};
  EXPECT_EQ(forecast::trial_of(tall).size, (image::Size{152, 270}));
  EXPECT_EQ(forecast::trial_of(t).size, (image::Size{480, 270}));
}

TEST(TrialPlan, LeavesSpareShotsOut) {
  Take t = dusk(ramp::Method::Hand);
  const TrialPlan before = forecast::trial_of(t);
  t.spare = 10;
  const TrialPlan after = forecast::trial_of(t);
  EXPECT_EQ(after.frames, before.frames);
  EXPECT_EQ(after.start, later(before.start, 10 * t.sums().interval_s));
  EXPECT_NEAR(after.ev.front(), before.ev[10], 1e-4);
}

TEST(Reel, IsEncodedAtItsTrueRateAndTwoGoByOneClock) {
  const test::Folder folder;
  TrialPlan plan = forecast::trial_of(dusk(ramp::Method::Hand));
  plan.size = {96, 54};
  plan.frames = 20;
  TrialPlan other = plan;
  other.fps = FrameRate{50, 1};
  other.frames = 60;
  const TrialFilm film(plan), beside(other);
  const media::FilmFacts one = write_reel(film, nullptr, folder / "one.mp4", {}, {});
  EXPECT_EQ(one.frames, 20);
  EXPECT_NEAR(one.duration_s, 0.8, 1e-3);
  EXPECT_EQ(one.size, plan.size);
  const media::FilmFacts two = write_reel(film, &beside, folder / "two.mp4", {}, {});
  EXPECT_EQ(two.frames, 30);  // 1.2 s at 25 fps
  EXPECT_EQ(two.size, (image::Size{96 + 8 + 96, 54}));
  // Decoded, each half is the frame it should be: of the second, every other one.
  media::FilmReader reader(folder / "two.mp4");
  reader.seek(10);
  const auto decoded = reader.next();
  ASSERT_TRUE(decoded);
  const auto half = [&](int x0) {
    image::Coded8 p({96, 54});
    for (int y = 0; y < 54; ++y) std::copy_n(decoded->row(y) + 3 * x0, 3 * 96, p.row(y));
    return p;
  };
  EXPECT_LT(mean_difference(half(0), film.frame(10)), 6);
  EXPECT_LT(mean_difference(half(104), beside.frame(20)), 6);
  EXPECT_EQ(frame_at(plan, 0.4), 10);
  EXPECT_EQ(frame_at(other, 0.4), 20);
  EXPECT_EQ(frame_at(plan, 99), 19);
}

TEST(Reel, LeavesNothingWhereItIsStopped) {
  const test::Folder folder;
  TrialPlan plan = forecast::trial_of(dusk(ramp::Method::Hand));
  plan.size = {96, 54};
  const TrialFilm film(plan);
  std::stop_source stop;
  EXPECT_EQ(test::error_of([&] {
              write_reel(film, nullptr, folder / "film.mp4", {},
                         {[&](size_t done, size_t) {
                            if (done == 5) stop.request_stop();
                          },
                          stop.get_token()});
            }).kind(),
            Error::Kind::Cancelled);
  EXPECT_TRUE(folder.names().empty());
}

}  // namespace
}  // namespace askcount::simulate
