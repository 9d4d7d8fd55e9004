// SPDX-License-Identifier: GPL-3.0-or-later
// What lens and sensor did to the frames, undone: against lenses, specks and hot places that are known.
#include "optics/mended_source.h"

#include <cmath>

#include "image/tone.h"
#include "optics/hot_pixels.h"
#include "optics/judge.h"
#include "optics/spots.h"
#include "raws.h"
#include "simulate/camera.h"
#include "simulate/flaws.h"
#include "simulate/raw.h"

namespace askcount::optics {
namespace {

using image::Linear32;
using image::Size;

/// Soft waves in every direction: interpolation hardly harms them.
Linear32 waves(Size size, double turned_deg = 0) {
  Linear32 p(size);
  const double a = turned_deg * 3.14159265 / 180;
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x) {
      const double dx = x + 0.5 - size.width / 2.0, dy = y + 0.5 - size.height / 2.0;
      const double u = dx * std::cos(a) + dy * std::sin(a), v = dy * std::cos(a) - dx * std::sin(a);
      for (int c = 0; c < 3; ++c)
        p.row(y)[3 * x + c] =
            static_cast<float>(0.3 + 0.1 * std::sin(u / (9 + c)) + 0.1 * std::cos(v / (11 + c)));
    }
  return p;
}

/// The largest difference of two pictures, but for the outermost tenth.
double apart(const Linear32& a, const Linear32& b) {
  double most = a.size == b.size ? 0 : 1000;
  for (int y = a.size.height / 10; most < 1000 && y < a.size.height * 9 / 10; ++y)
    for (int x = 3 * (a.size.width / 10); x < 3 * (a.size.width * 9 / 10); ++x)
      most = std::max(most, std::abs(static_cast<double>(a.row(y)[x] - b.row(y)[x])));
  return most;
}

constexpr Size kSize = {480, 320};

TEST(Optics, ALensIsUndoneByItsTwoValues) {
  for (const double bent : {-6.0, 3.0}) {
    const LensGrid lens = grid_by_hand(bent, 1.2, kSize);
    EXPECT_NEAR(static_cast<double>(lens.at(1, 1).place[2]), 0.5 + 0.5 * (1 + bent / 100), 1e-5);
    EXPECT_NEAR(static_cast<double>(lens.at(1, 0).light), std::exp2(1.2), 0.01);
    Linear32 shot = waves(kSize);
    simulate::Flaws flaws;
    flaws.bent_pct = bent;
    flaws.corners_stops = 1.2;
    simulate::through_glass(flaws, 1, shot);
    EXPECT_GT(apart(shot, waves(kSize)), 0.1);  // it did something
    const Warp warp(lens, 0, 0, kSize);
    const Linear32 corrected = std::get<Linear32>(warp.apply(shot));
    // What was right comes back where it belongs; all of it is as much larger or smaller as fills the frame.
    double most = 0;
    const Linear32 right = waves(kSize);
    for (double y = 0.1; y < 0.9; y += 0.01)
      for (double x = 0.1; x < 0.9; x += 0.01) {
        const double u = 0.5 + (x - 0.5) / warp.enlarges(), v = 0.5 + (y - 0.5) / warp.enlarges();
        const auto value = [&](const Linear32& p, double px, double py) {
          const double fx = px * p.size.width - 0.5, fy = py * p.size.height - 0.5;
          const int ix = static_cast<int>(fx), iy = static_cast<int>(fy);
          const double a = fx - ix, b = fy - iy;
          const auto v2 = [&](int dx, int dy) {
            return static_cast<double>(p.row(iy + dy)[3 * (ix + dx) + 1]);
          };
          return (1 - b) * ((1 - a) * v2(0, 0) + a * v2(1, 0)) + b * ((1 - a) * v2(0, 1) + a * v2(1, 1));
        };
        most = std::max(most, std::abs(value(corrected, x, y) - value(right, u, v)));
      }
    EXPECT_LT(most, 0.016) << bent;
  }
}

TEST(Optics, AHorizonIsTurnedLevelAndNothingEmptyShows) {
  // The waves as a camera that leans counter-clockwise sees them are corrected by as much clockwise.
  const Warp warp({}, 5, 0, kSize);
  Linear32 shot = waves(kSize, -5);
  const Linear32 level = std::get<Linear32>(warp.apply(shot));
  EXPECT_GT(warp.enlarges(), 1.05);
  EXPECT_LT(warp.enlarges(), 1.2);
  const int x = kSize.width / 2 + 60, y = kSize.height / 2 + 31;
  const auto right = [&](double px, double py) {
    return 0.3 + 0.1 * std::sin((px + 0.5 - kSize.width / 2.0) / warp.enlarges() / 10) +
           0.1 * std::cos((py + 0.5 - kSize.height / 2.0) / warp.enlarges() / 12);
  };
  EXPECT_NEAR(static_cast<double>(level.row(y)[3 * x + 1]), right(x, y), 0.004);
  for (const double u : {0.0, 0.5, 1.0})
    for (const double v : {0.0, 0.5, 1.0}) {
      const auto at = warp.before(u, v);
      EXPECT_TRUE(at[0] > -1e-6 && at[0] < 1 + 1e-6 && at[1] > -1e-6 && at[1] < 1 + 1e-6) << u << v;
    }
  // A picture that nothing is done to is the same to the bit, and codes stay codes.
  image::Coded8 codes(kSize);
  std::fill(codes.rgb.begin(), codes.rgb.end(), std::uint8_t{77});
  EXPECT_EQ(std::get<image::Coded8>(Warp({}, 0, 0, kSize).apply(codes)).rgb, codes.rgb);
  EXPECT_TRUE(std::holds_alternative<image::Coded8>(warp.apply(codes)));
  // Corners for the eye are light: in the middle all of it, at a corner half.
  const auto darker = std::get<Linear32>(Warp({}, 0, 1, kSize).apply(codes));
  const float middle = darker.row(kSize.height / 2)[3 * (kSize.width / 2)], corner = darker.row(0)[0];
  EXPECT_NEAR(static_cast<double>(std::log2(corner / middle)), -1, 0.01);
}

/// Records of two lenses that nobody makes.
test::fs::path records(const test::Folder& folder) {
  test::write(folder / "quay.xml", std::string_view(R"(<!DOCTYPE lensdatabase SYSTEM "lensfun-database.dtd">
<lensdatabase>
  <mount><name>Quay</name></mount>
  <camera><maker>Tern</maker><model>Tern Quay One</model><mount>Quay</mount><cropfactor>1</cropfactor></camera>
  <lens><maker>Tern</maker><model>Tern 20mm f/2.8</model><mount>Quay</mount><cropfactor>1</cropfactor>
    <calibration>
      <distortion model="poly3" focal="20" k1="-0.02"/>
      <tca model="linear" focal="20" kr="1.001" kb="0.999"/>
      <vignetting model="pa" focal="20" aperture="4" distance="1000" k1="-0.4" k2="0" k3="0"/>
    </calibration></lens>
  <lens><maker>Tern</maker><model>Tern 50mm f/1.4</model><mount>Quay</mount><cropfactor>1</cropfactor>
    <calibration><distortion model="poly3" focal="50" k1="0.01"/></calibration></lens>
</lensdatabase>)"));
  return folder / "quay.xml";
}

media::ShotInfo shot_with(const std::string& lens, double focal) {
  media::ShotInfo shot;
  shot.body = "Tern Quay One";
  shot.lens = lens;
  shot.focal_mm = focal;
  shot.f_number = 4;
  shot.size = {1500, 1000};
  return shot;
}

TEST(Optics, ALensIsKnownByItsRecord) {
  const test::Folder folder;
  const LensRecords known(records(folder));
  const auto wide = known.find(shot_with("Tern 20mm f/2.8", 20));
  ASSERT_TRUE(wide);
  EXPECT_EQ(wide->name, "Tern 20mm f/2.8");
  // Poly3: Rd = Ru·(1 − k1 + k1·Ru²) with 1 at half the shorter side, so a corner of 3:2 is at √(1 + 2.25);
  // what it makes larger or smaller everywhere is not counted.
  const double corner = 1 - -0.02 + -0.02 * (1 + 2.25);
  EXPECT_NEAR(wide->distortion_pct, 100 * (corner - 1), 0.05);
  EXPECT_NEAR(wide->dark_stops, -std::log2(1 - 0.4), 0.02);  // 1 at a corner
  EXPECT_NEAR(wide->fringe_pct, 0.2, 0.02);
  EXPECT_TRUE(wide->grid.bends && wide->grid.darkens && wide->grid.fringes);
  const auto corner_of = wide->grid.at(1, 1);
  EXPECT_GT(corner_of.place[0], corner_of.place[4]);  // red lies further out
  const auto normal = known.find(shot_with("Tern 50mm f/1.4", 50));
  ASSERT_TRUE(normal);
  EXPECT_FALSE(normal->grid.darkens);  // nothing is known of it
  EXPECT_EQ(words_of(*normal), "pincushion of 2.3 %");
  EXPECT_EQ(words_of(*wide), "barrel of 4.5 %, corners 0.7 stops darker, fringes");
  // By another name; by none; without a focal length.
  EXPECT_TRUE(known.find(shot_with("", 20), "Tern 20mm f/2.8"));
  EXPECT_FALSE(known.find(shot_with("", 20)));
  EXPECT_FALSE(known.find(shot_with("Gannet 300mm f/8 Mirror", 300)));
  media::ShotInfo no_focal = shot_with("Tern 20mm f/2.8", 20);
  no_focal.focal_mm.reset();
  EXPECT_FALSE(known.find(no_focal));
  EXPECT_EQ(known.like("Tern 20mm", LensRecords::Alike::Strictly, 1),
            std::vector<std::string>{"Tern 20mm f/2.8"});
  EXPECT_TRUE(known.like("Gannet 20mm", LensRecords::Alike::Strictly).empty());
  EXPECT_FALSE(known.like("Gannet 20mm", LensRecords::Alike::Loosely).empty());
  test::write(folder / "no.xml", std::string_view("not XML"));
  EXPECT_EQ(test::error_of([&] { LensRecords(folder / "no.xml"); }).kind(), Error::Kind::BadInput);

  Wish wish;
  wish.by = By::Record;
  const Error none =
      test::error_of([&] { mending_of(wish, shot_with("Gannet 300mm f/8 Mirror", 300), {}, &known); });
  EXPECT_NE(std::string(none.what()).find("Gannet 300mm"), std::string::npos);
  EXPECT_TRUE(mending_of(wish, shot_with("Tern 20mm f/2.8", 20), {}, &known).lens.bends);
  Findings said = judge({}, {}, wide);
  ASSERT_EQ(said.size(), 1u);
  EXPECT_EQ(said[0].code, "lens_known");
  EXPECT_EQ(said[0].fix, Fix(fix::UndoLens{}));
}

TEST(Optics, FringesAreLaidOverEachOther) {
  const test::Folder folder;
  const auto lens = LensRecords(records(folder)).find(shot_with("Tern 20mm f/2.8", 20));
  ASSERT_TRUE(lens);
  // A grey picture as that lens takes it: each colour from where the record says it was put.
  LensGrid only = lens->grid;
  const Size size = {900, 600};
  const Warp warp(only, 0, 0, size);
  const Linear32 corrected = std::get<Linear32>(warp.apply(waves(size)));
  // Colours that were together are apart by as much: the lens drew them so, had they come out together.
  const auto at = only.at(0.9, 0.5);
  EXPECT_NEAR(static_cast<double>(at.place[0] - at.place[4]), 0.4 * 0.002, 0.0002);
  EXPECT_EQ(corrected.size, size);
}

/// A card of raw frames of an even evening sky with flaws.
struct RawCard {
  explicit RawCard(const simulate::Flaws& flaws, double shutter_s, int frames, const Linear32& seen) {
    settings.flaws = flaws;
    settings.aperture_spread_stops = 0;
    settings.seed = 5;
    for (int n = 0; n < frames; ++n) {
      const auto file = folder / ("R" + std::to_string(1000 + n) + ".DNG");
      simulate::write_raw(seen, {{shutter_s, 8, 100}, 0, {}, static_cast<std::uint64_t>(n)}, settings, file);
      list.push_back(media::frame_of(file));
    }
  }
  test::Folder folder;
  simulate::CameraSettings settings;
  std::vector<media::Frame> list;
};

Linear32 even(Size size, float light) {
  Linear32 p(size);
  std::fill(p.rgb.begin(), p.rgb.end(), light);
  return p;
}

TEST(Optics, HotPixelsAreFoundOverTheTakeAndGo) {
  simulate::Flaws flaws;
  flaws.hot_pixels = 30;
  Linear32 seen = even({240, 160}, 0.4F);
  for (int k = -1; k <= 1; ++k)  // a lamp stands still too, but no lens draws one as small as a place
    for (int j = -1; j <= 1; ++j)
      for (int c = 0; c < 3; ++c) seen.row(80 + k)[3 * (120 + j) + c] = 4;
  const RawCard card(flaws, 4, 5, seen);
  std::set<std::pair<int, int>> truth, found;
  for (const auto& p : simulate::hot_places(flaws, {240, 160}, card.settings.seed)) truth.insert({p.x, p.y});
  const auto frames = media::frames_of(card.list);
  const auto hot = find_hot_pixels(frames);
  for (const auto& p : hot) found.insert({p.x, p.y});
  EXPECT_EQ(found, truth);
  EXPECT_TRUE(may_be_hot(frames));
  EXPECT_EQ(judge({}, frames, {}).front().code, "hot_pixels_not_looked_for");

  // Developed at half the size and at full size they stand out, and with care they do not.
  for (const Size size : {Size{120, 80}, {240, 160}}) {
    const auto brightest = [&](const media::FrameSource& from) {
      const auto p = std::get<Linear32>(from.read(card.list[0], {size, {0, 0, 1, 0.4}}).picture);
      return *std::max_element(p.rgb.begin(), p.rgb.end());
    };
    Mending mending;
    mending.sensor.hot = hot;
    const float before = brightest(media::any_source()), after = brightest(MendedSource(mending));
    EXPECT_GT(before, 3 * after) << size.width;
  }
}

TEST(Optics, ADarkFrameTakesOffWhatTheSensorShowsInTheDark) {
  simulate::Flaws flaws;
  flaws.hot_pixels = 60;
  const RawCard card(flaws, 2, 1, even({240, 160}, 0.4F));
  const RawCard dark(flaws, 2, 3, even({240, 160}, 0));
  Wish wish;
  wish.dark_frame = dark.folder.path().string();
  const MendedSource with(mending_of(wish, card.list[0].info(), {}));
  const auto picture = [&](const media::FrameSource& from) {
    return std::get<Linear32>(from.read(card.list[0], {{240, 160}, {}}).picture);
  };
  const Linear32 raw = picture(media::any_source()), corrected = picture(with);
  const float usual = raw.row(3)[3 * 3];
  const auto stands_out = [&](const Linear32& p) {
    return std::count_if(p.rgb.begin(), p.rgb.end(), [&](float v) { return v > 1.5F * usual; });
  };
  EXPECT_GT(stands_out(raw), 60);
  EXPECT_EQ(stands_out(corrected), 0);
  // A frame that is lit, one of another size and a folder without any are refused.
  for (const auto& file : {card.folder.path(), card.list[0].file()}) {
    wish.dark_frame = file.string();
    EXPECT_EQ(test::error_of([&] { mending_of(wish, {}, {}); }).kind(), Error::Kind::BadInput);
  }
  const RawCard small(flaws, 2, 1, even({120, 80}, 0));
  wish.dark_frame = small.list[0].file().string();
  const MendedSource other(mending_of(wish, {}, {}));
  EXPECT_EQ(test::error_of([&] { picture(other); }).kind(), Error::Kind::BadInput);
  const test::Folder empty;
  wish.dark_frame = empty.path().string();
  EXPECT_EQ(test::error_of([&] { mending_of(wish, {}, {}); }).kind(), Error::Kind::BadInput);
}

TEST(Optics, DustIsFoundWhereverItLiesInTheSkyAndHealed) {
  simulate::Flaws flaws;
  flaws.dust = 5;
  simulate::CameraSettings settings;
  settings.seed = 3;
  const test::Folder folder;
  std::vector<media::Frame> list;
  const Size size = {900, 600};
  const auto sky = [&](int n) {  // clouds that drift, growing darker
    Linear32 p(size);
    for (int y = 0; y < size.height; ++y)
      for (int x = 0; x < size.width; ++x)
        for (int c = 0; c < 3; ++c)
          p.row(y)[3 * x + c] = static_cast<float>(
              std::exp2(-0.1 * n) * (2 + 0.3 * std::sin((x + 23 * n) / 70.0) * std::cos((y + 9 * n) / 50.0)));
    return p;
  };
  for (int n = 0; n < 10; ++n) {
    Linear32 seen = sky(n);
    simulate::through_glass(flaws, settings.seed, seen);
    const auto picture = simulate::develop(seen, {4, 8, 100}, 0, settings, static_cast<std::uint64_t>(n));
    const auto file = folder / ("S" + std::to_string(100 + n) + ".JPG");
    test::write(file, media::encode_jpeg(picture, 92));
    list.push_back(media::frame_of(file));
  }
  const auto truth = simulate::specks(flaws, settings.seed);
  const auto spots = find_spots(media::frames_of(list), media::any_source());
  ASSERT_EQ(spots.size(), truth.size());
  Wish wish;
  wish.spots = spots;
  const MendedSource corrected(mending_of(wish, list[0].info(), {}));
  settings.noise = 0;
  const auto right = simulate::develop(sky(4), {4, 8, 100}, 0, settings, 4);
  const auto as_shot = image::coded(media::any_source().read(list[4], {size, {}}).picture);
  const auto healed = image::coded(corrected.read(list[4], {size, {}}).picture);
  for (const auto& t : truth) {
    EXPECT_TRUE(std::any_of(spots.begin(), spots.end(), [&](const Spot& s) {
      return std::hypot(s.x - t.x, (s.y - t.y) * size.height / size.width) < 0.003;
    }));
    const auto mean = [&](const image::Coded8& p) {
      double sum = 0;
      for (int dy = -2; dy <= 2; ++dy)
        for (int dx = -2; dx <= 2; ++dx)
          sum +=
              p.row(static_cast<int>(t.y * size.height) + dy)[3 * (static_cast<int>(t.x * size.width) + dx)];
      return sum / 25;
    };
    EXPECT_LT(mean(as_shot), mean(right) - 3);  // codes
    EXPECT_NEAR(mean(healed), mean(right), 1.6);
  }
  // Frames without any have none, and a few frames tell nothing.
  EXPECT_TRUE(find_spots(media::frames_of({list[0], list[1]}), media::any_source()).empty());
  std::stop_source stop;
  stop.request_stop();
  EXPECT_EQ(test::error_of([&] {
              find_spots(media::frames_of(list), media::any_source(), {{}, stop.get_token()});
            }).kind(),
            Error::Kind::Cancelled);
}

TEST(Optics, AMendedFrameIsTheSameWhicheverPartOfItIsWanted) {
  const test::Folder folder;
  test::write(folder / "A.JPG", media::encode_jpeg(image::coded(waves({960, 640})), 97));
  const media::Frame frame = media::frame_of(folder / "A.JPG");
  Wish wish;
  wish.by = By::Hand;
  wish.distortion_pct = -3;
  wish.turn_deg = 1.5;
  const MendedSource corrected(mending_of(wish, frame.info(), {}));
  const media::Shown whole = corrected.read(frame, {{480, 320}, {}});
  const media::Shown part = corrected.read(frame, {{240, 160}, {0.25, 0.25, 0.5, 0.5}});
  EXPECT_EQ(image::size_of(whole.picture), image::size_of(part.picture));
  EXPECT_EQ(std::get<image::Coded8>(whole.picture).rgb, std::get<image::Coded8>(part.picture).rgb);
  EXPECT_NEAR(part.part.x, 0.25 * image::size_of(part.picture).width, 1e-9);
  EXPECT_FALSE(corrected.gives_light(frame));
  EXPECT_EQ(image::size_of(corrected.preview(frame, {{480, 0}, {}}).picture).width, 480);
}

TEST(Optics, AWishComesBackAsItWasWrittenAndOddOnesAreRefused) {
  Wish wish;
  wish.by = By::Hand;
  wish.distortion_pct = -2.5;
  wish.turn_deg = 0.4;
  wish.spots = {{0.1, 0.2, 0.004}};
  wish.hot = {{12, 7}, {3000, 2000}};
  wish.looked = true;
  Json json;
  Fields out(json);
  visit(out, wish);
  Wish back;
  Fields in(json, "take");
  visit(in, back);
  EXPECT_EQ(back, wish);
  for (const auto& [key, value] : std::vector<std::pair<const char*, Json>>{
           {"turn_deg", 45}, {"by", "magic"}, {"hot", {1, 2, 3}}, {"distortion_pct", -50}}) {
    Json odd = json;
    odd[key] = value;
    Fields fields(odd, "take");
    EXPECT_NE(std::string(test::error_of([&] { visit(fields, back); }).what()).find(key), std::string::npos);
  }
}

}  // namespace
}  // namespace askcount::optics
