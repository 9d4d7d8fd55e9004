// SPDX-License-Identifier: GPL-3.0-or-later
// Films that choose, join, look at and steady their frames: encoded for real, decoded by another program.
#include <cmath>
#include <numeric>

#include "base/files.h"
#include "media/reader.h"
#include "media/sound.h"
#include "painted.h"
#include "render/check.h"
#include "render/estimate.h"
#include "render/render.h"

namespace askcount::render {
namespace {

const image::Size kSize{320, 240};

class CutTest : public ::testing::Test {
 protected:
  FilmOrder order(const char* name = "clip.mkv") const {
    FilmOrder o;
    o.output = folder_ / name;
    o.fps = {25, 1};
    o.size = kSize;
    o.coding = {0, "ultrafast", 8};
    o.levelled = false;
    return o;
  }
  /// Frames of one grey each: 20, 30, 40 and so on.
  static double flat(size_t n, double, double) { return 20 + 10.0 * static_cast<double>(n); }

  FilmOutcome made(const FilmOrder& o, size_t frames, test::Paint paint) const {
    return render(test::Painted::frames(frames, kSize), test::Painted(kSize, std::move(paint)), o);
  }
  /// Luma in the middle of every film frame.
  static std::vector<int> middles(const FilmOrder& o) {
    std::vector<int> out;
    for (const auto& frame : test::film_luma(o.output, o.size))
      out.push_back(frame[static_cast<size_t>(o.size.width * (o.size.height / 2) + o.size.width / 2)]);
    return out;
  }
  static int luma(double code) { return static_cast<int>(std::lround(test::luma_of(code))); }
  static double linear(double code) { return image::linear_of_code()[static_cast<size_t>(code)]; }
  static double code_of(double light) {
    return 255 * (light <= 0.0031308 ? 12.92 * light : 1.055 * std::pow(light, 1 / 2.4) - 0.055);
  }

  test::Folder folder_;
};

TEST_F(CutTest, ShowsTheFramesItsTimelineSays) {
  FilmOrder o = order();
  o.choice.first = 2, o.choice.last = 8, o.choice.every = 2;
  o.choice.way = render::Way::ToAndFro;
  o.choice.still_last_s = 0.08;
  made(o, 12, flat);
  EXPECT_EQ(middles(o), (std::vector<int>{luma(30), luma(50), luma(70), luma(90), luma(70), luma(50),
                                          luma(30), luma(30), luma(30)}));
  o = order();
  o.choice.way = render::Way::Backward;
  made(o, 4, flat);
  EXPECT_EQ(middles(o), (std::vector<int>{luma(50), luma(40), luma(30), luma(20)}));
  o = order();
  o.choice.speed = {{0, 0.5}};
  const FilmOutcome repeated = made(o, 3, flat);
  EXPECT_EQ(middles(o), (std::vector<int>{luma(20), luma(20), luma(30), luma(30), luma(40)}));
  EXPECT_EQ(repeated.made, 0u);
}

TEST_F(CutTest, BlendsInLinearLight) {
  FilmOrder o = order();
  o.choice.speed = {{0, 0.5}};
  o.choice.between = render::Between::Blend;
  const auto steps = [](size_t n, double, double) { return n == 0 ? 20.0 : 220.0; };
  EXPECT_EQ(made(o, 2, steps).made, 1u);
  const double mean = code_of((linear(20) + linear(220)) / 2);
  EXPECT_GT(mean, 160) << "brighter than the mean of the codes";
  EXPECT_NEAR(middles(o)[1], test::luma_of(mean), 1.01);
  o = order();
  o.choice.trail = 3;
  made(o, 5, flat);
  const auto trails = middles(o);
  ASSERT_EQ(trails.size(), 5u);
  EXPECT_NEAR(trails[4], test::luma_of(code_of((linear(40) + linear(50) + linear(60)) / 3)), 1.01);
  EXPECT_EQ(trails[0], luma(20)) << "there is nothing before the first";
}

/// A star that goes ten pixels a frame over a dark sky.
double star(size_t n, double x, double y) {
  return std::abs(x - 35 - 10.0 * static_cast<double>(n)) < 4 && std::abs(y - 120) < 4 ? 250 : 20;
}

TEST_F(CutTest, BrightTrailsGrowAndATailFades) {
  FilmOrder o = order();
  o.choice.bright = render::kAllFrames;
  made(o, 12, star);
  auto frames = test::film_luma(o.output, kSize);
  const auto at = [&](size_t frame, size_t n) {
    return frames[frame][static_cast<size_t>(kSize.width) * 120 + 35 + 10 * n];
  };
  for (size_t n = 0; n < 12; ++n) EXPECT_NEAR(at(11, n), luma(250), 3) << n;
  EXPECT_NEAR(at(4, 5), luma(20), 2) << "not before it has come there";
  o.choice.bright = 6;
  o.choice.speed = {{0, 2}};
  made(o, 12, star);
  frames = test::film_luma(o.output, kSize);
  ASSERT_EQ(frames.size(), 6u);
  EXPECT_NEAR(at(5, 10), luma(250), 3);
  EXPECT_GT(at(5, 7), at(5, 5) + 5) << "and those passed over leave their light too";
  EXPECT_NEAR(at(5, 0), luma(20), 14) << "six stops down it is gone";
}

TEST_F(CutTest, OnePictureOfAllFrames) {
  const auto frames = test::Painted::frames(12, kSize);
  const test::Painted source(kSize, star);
  const image::Coded16 bright = render_still(frames, source, order(), Still::Brightest);
  const image::Coded16 mean = render_still(frames, source, order(), Still::Mean);
  const auto code = [](const image::Coded16& p, int x, int y) { return p.row(y)[3 * x + 1] / 257.0; };
  for (int n = 0; n < 12; ++n) EXPECT_NEAR(code(bright, 35 + 10 * n, 120), 250, 2) << n;
  EXPECT_NEAR(code(bright, 200, 30), 20, 1);
  EXPECT_NEAR(code(mean, 75, 120), code_of((linear(250) + 11 * linear(20)) / 12), 2);
}

TEST_F(CutTest, FramesThatCannotBeReadAreMadeFromThoseBesideThem) {
  const auto broken = [](size_t n, double x, double y) { return n == 3 || n == 4 ? -1 : flat(n, x, y); };
  FilmOrder o = order();
  const FilmOutcome near = made(o, 8, broken);
  EXPECT_EQ(near.unreadable.size(), 2u);
  EXPECT_EQ(near.made, 2u);
  EXPECT_EQ(middles(o)[3], luma(40));
  EXPECT_EQ(middles(o)[4], luma(70)) << "the one after is nearer";
  o.choice.between = render::Between::Blend;
  EXPECT_EQ(made(o, 8, broken).made, 2u);
  EXPECT_NEAR(middles(o)[3], test::luma_of(code_of(linear(40) + (linear(70) - linear(40)) / 3)), 1.01);
  EXPECT_NEAR(middles(o)[4], test::luma_of(code_of(linear(40) + (linear(70) - linear(40)) * 2 / 3)), 1.01);
  EXPECT_THROW(made(o, 8, [](size_t n, double, double) { return n < 6 ? -1.0 : 50.0; }), TooManyUnreadable);
}

TEST_F(CutTest, MotionIsShownHalfWay) {
  FilmOrder o = order();
  o.choice.speed = {{0, 0.5}};
  o.choice.between = render::Between::Motion;
  const auto moving = [](size_t n, double x, double y) {
    return test::texture(x - 6.0 * static_cast<double>(n), y);
  };
  EXPECT_EQ(made(o, 3, moving).made, 2u);
  const auto frames = test::film_luma(o.output, kSize);
  ASSERT_EQ(frames.size(), 5u);
  double sum = 0, blend = 0;
  for (int y = 40; y < 200; ++y)
    for (int x = 40; x < 280; ++x) {
      const auto at = static_cast<size_t>(y * kSize.width + x);
      sum += std::abs(frames[1][at] - test::luma_of(test::texture(x + 0.5 - 3, y + 0.5)));
      blend += std::abs((frames[0][at] + frames[2][at]) / 2.0 -
                        test::luma_of(test::texture(x + 0.5 - 3, y + 0.5)));
    }
  EXPECT_LT(sum, 0.4 * blend);
}

TEST_F(CutTest, AViewShowsItsPartAndKeepsTheLightEven) {
  FilmOrder o = order();
  o.size = {160, 120};
  o.views = {{0, {0.25, 0.25, 0.5, 0}}};
  made(o, 2, [](size_t, double x, double y) { return test::texture(x, y); });
  auto frames = test::film_luma(o.output, o.size);
  for (int y = 5; y < 115; y += 11)
    for (int x = 5; x < 155; x += 13)
      ASSERT_NEAR(frames[0][static_cast<size_t>(y * 160 + x)], test::luma_of(test::texture(x + 0.5, y + 0.5)),
                  6);
  // It goes to the lower right, a little in every frame.
  o.views = {{0, {0.25, 0.25, 0.5, 0}}, {0.4, {0.75, 0.75, 0.5, 0}}};
  made(o, 11, [](size_t, double x, double) { return x * 0.6; });
  std::vector<int> across = middles(o);
  ASSERT_EQ(across.size(), 11u);
  for (size_t n = 1; n < 11; ++n) EXPECT_GE(across[n], across[n - 1]);
  EXPECT_NEAR(across.back() - across.front(), 160 * 0.6 * 219 / 255, 2);
  // Flicker of the lower third alone, levelled on the way, goes wherever the view is.
  o.levelled = true;
  o.views = {{0, {0.5, 0.5, 0.9, 3}}, {1, {0.5, 0.6, 0.6, -3}}};
  const auto lower = [](size_t n, double x, double y) {
    return (y > 160 && n % 2 == 1 ? 0.93 : 1.0) * (90 + 0.4 * (test::texture(x, y) - 128));
  };
  made(o, 40, lower);
  frames = test::film_luma(o.output, o.size);
  double worst = 0;
  for (size_t n = 6; n < 34; ++n) {
    double below = 0;
    for (int k = -1; k <= 1; ++k)
      for (size_t i = 160 * 110; i < 160 * 120; ++i)
        below += (k == 0 ? 2 : -1) * frames[n + static_cast<size_t>(k + 1) - 1][i] / 1600.0;
    worst = std::max(worst, std::abs(below) / 2);
  }
  EXPECT_LT(worst, 1.4) << "of six codes that were put in";
}

TEST_F(CutTest, WhatIsDoneToPartsOfTheFrameGoesWithTheView) {
  // Half a stop from the upper edge to the lower, known before; the film sees the lower right, turned.
  level::Correction correction;
  correction.field.stops[image::Field::kAcross] = -0.25;  // cos(πy): +0.25 below
  FilmOrder o = order();
  o.levelled = true;
  o.corrections.assign(3, correction);
  for (const double turn : {0.0, 5.0}) {
    o.views = {{0, {0.65, 0.65, 0.5, turn}}};
    made(o, 3, [](size_t, double, double) { return 100; });
    const auto frames = test::film_luma(o.output, kSize);
    const image::Affine map = render::film_to_frame(o.views[0].view, kSize, kSize);
    for (const int y : {10, 120, 230})
      for (const int x : {10, 160, 310}) {
        const auto [u, v] = map(x + 0.5, y + 0.5);
        const double light = linear(100) * std::exp2(correction.field.at(u / kSize.width, v / kSize.height));
        EXPECT_NEAR(frames[1][static_cast<size_t>(y * kSize.width + x)], test::luma_of(code_of(light)), 1.2)
            << x << ", " << y << ", turned by " << turn;
      }
  }
}

TEST_F(CutTest, SteadiedFilmStandsWhereTheCameraDidNot) {
  std::mt19937 draw(11);
  std::normal_distribution<double> hand(0, 1.2);
  std::vector<double> dx, dy;
  for (int n = 0; n < 24; ++n) dx.push_back(hand(draw)), dy.push_back(hand(draw));
  const auto shaken = [&](size_t n, double x, double y) { return test::texture(x - dx[n], y - dy[n]); };
  FilmOrder o = order();
  o.coding.quality = 2;
  made(o, 24, shaken);
  const auto change = [](const std::vector<std::vector<int>>& frames) {
    double sum = 0;
    for (size_t n = 1; n < frames.size(); ++n)
      for (size_t i = 320 * 60; i < 320 * 180; i += 7) sum += std::abs(frames[n][i] - frames[n - 1][i]);
    return sum / static_cast<double>(frames.size() - 1);
  };
  const double before = change(test::film_luma(o.output, kSize));
  o.steady = motion::Mode::All;
  const FilmOutcome outcome = made(o, 24, shaken);
  ASSERT_TRUE(outcome.steadied.has_value());
  EXPECT_NEAR(outcome.steadied->jitter_before, 1.2 * 2, 0.6);
  EXPECT_LT(outcome.steadied->jitter_after, 0.1);
  EXPECT_GT(outcome.steadied->edge, 0.005);
  EXPECT_LT(change(test::film_luma(o.output, kSize)), 0.15 * before);
}

TEST_F(CutTest, SeveralFilmsOfOneReadingAreEachAsAlone) {
  size_t reads = 0;
  std::mutex mutex;
  const auto counting = [&](size_t n, double x, double y) {
    if (x == 0 && y == 0) {
      const std::lock_guard lock(mutex);
      ++reads;
    }
    return flat(n, x, y);
  };
  std::vector<FilmOrder> orders = {order("a.mkv"), order("b.mkv"), order("c.mkv")};
  orders[1].choice.every = 3;
  orders[1].size = {160, 160};
  orders[2].choice.first = 4, orders[2].choice.speed = {{0, 0.5}};
  const auto outcomes = render(test::Painted::frames(10, kSize), test::Painted(kSize, counting),
                               std::span<const FilmOrder>(orders));
  EXPECT_EQ(reads, 10u) << "every frame once";
  ASSERT_EQ(outcomes.size(), 3u);
  EXPECT_EQ(outcomes[0].facts.frames, 10);
  EXPECT_EQ(middles(orders[1]), (std::vector<int>{luma(20), luma(50), luma(80), luma(110)}));
  EXPECT_EQ(outcomes[2].facts.frames, 13);
  EXPECT_EQ(middles(orders[2]).back(), luma(110));
}

TEST_F(CutTest, FadesAndWordsAreInThePictures) {
  FilmOrder o = order();
  o.size = {480, 270};
  o.fade_in_s = 0.2, o.fade_out_s = 0.2;
  made(o, 20, [](size_t, double, double) { return 128; });
  const auto faded = middles(o);
  EXPECT_EQ(faded.front(), 16);
  EXPECT_EQ(faded.back(), 16);
  EXPECT_EQ(faded[10], luma(128));
  EXPECT_GT(faded[3], faded[2]);
  o = order();
  o.size = {480, 270};
  o.written.text = "Tern Quay";
  o.written.elapsed = true;
  made(o, 3, [](size_t, double, double) { return 128; });
  const auto frames = test::film_luma(o.output, o.size);
  const auto bright = [&](size_t frame, int left, int right) {
    int many = 0;
    for (int y = 230; y < 270; ++y)
      for (int x = left; x < right; ++x)
        many += frames[frame][static_cast<size_t>(y * 480 + x)] > 165 ? 1 : 0;
    return many;
  };
  EXPECT_GT(bright(0, 0, 160), 60) << "the words";
  EXPECT_GT(bright(0, 320, 480), 60) << "the clock";
  EXPECT_EQ(bright(0, 180, 300), 0);
  size_t differ = 0;
  for (size_t i = 0; i < frames[0].size(); ++i) differ += std::abs(frames[0][i] - frames[1][i]) > 40 ? 1 : 0;
  EXPECT_GT(differ, 10u) << "ten seconds later";
  EXPECT_LT(differ, 400u);
}

TEST_F(CutTest, WhatCannotBeIsSaidAndNothingIsLeft) {
  const auto refused = [&](const FilmOrder& o, const char* named) {
    try {
      made(o, 10, flat);
      ADD_FAILURE() << named;
    } catch (const Error& e) {
      EXPECT_EQ(e.kind(), Error::Kind::BadInput) << e.what();
      EXPECT_NE(std::string(e.what()).find(named), std::string::npos) << e.what();
    }
    EXPECT_TRUE(folder_.names().empty());
  };
  FilmOrder o = order();
  o.choice.last = 11;
  refused(o, "10 frames");
  o = order();
  o.views = {{0, {0.1, 0.5, 0.5, 0}}};
  refused(o, "outside the frame");
  o = order("a.mp4");
  o.coding.codec = media::Codec::Ffv1;
  refused(o, "cannot hold FFV1");
  o = order("a.mov");
  o.coding.codec = media::Codec::ProRes;
  refused(o, "8 bits");
  o = order();
  o.extras.sound.file = ASKCOUNT_SOURCE "/CMakeLists.txt";
  refused(o, "CMakeLists.txt");
}

TEST_F(CutTest, AFinishedFilmIsDecodedAndLookedAt) {
  FilmOrder o = order();
  made(o, 20, [](size_t n, double x, double y) {
    if (n == 7) return 0.0;                                  // the cap was on
    const size_t shown = n == 13 ? 12 : n;                   // a frame copied twice
    const double lamp = y > 160 && n % 2 == 0 ? 1.06 : 1.0;  // the lower third flickers
    return lamp * (60 + 0.5 * test::texture(x + 2.0 * static_cast<double>(shown), y));
  });
  FilmCheck check = check_film(o.output);
  EXPECT_EQ(check.decoded, 20);
  EXPECT_EQ(check.bytes, test::fs::file_size(o.output));
  EXPECT_EQ(check.black, std::vector<long long>{7});
  EXPECT_EQ(check.repeated.size(), 0u) << "the lamp was on in one of them";
  EXPECT_GT(check.flicker[2], 3 * check.flicker[0] + 0.02);
  Findings found = judge(check, o, {});
  ASSERT_EQ(found.size(), 1u);
  EXPECT_EQ(found[0].code, "film_black");
  EXPECT_NE(found[0].text.find("Of the film: 8."), std::string::npos) << found[0].text;
  made(o, 6, [](size_t n, double x, double y) {
    return test::texture(x + (n == 3 ? 2.0 : static_cast<double>(n)), y);
  });
  check = check_film(o.output);
  EXPECT_EQ(check.repeated, std::vector<long long>{3});
  EXPECT_EQ(judge(check, o, {}).front().code, "film_repeats");
  EXPECT_TRUE(judge(check, o, {false, false, false, true}).empty()) << "it was to stand there";
  // Cut off in the middle, as a disk that fills leaves it.
  test::fs::resize_file(o.output, test::fs::file_size(o.output) / 2);
  const FilmCheck broken = check_film(o.output);
  EXPECT_LT(broken.decoded, 6);
}

struct Make {
  const char* name;
  media::Coding coding;
  const char* facts;
};

class CodecTest : public CutTest, public ::testing::WithParamInterface<Make> {};

TEST_P(CodecTest, HoldsThePicturesTheSoundAndTheTags) {
  const Make& make = GetParam();
  FilmOrder o = order(make.name);
  o.coding = make.coding;
  o.coding.preset = "veryfast";
  o.coding.quality = 12;
  const bool film = make.coding.codec != media::Codec::Gif;
  if (film) {
    const auto wav = folder_ / "under.wav";
    test::run("ffmpeg -v error -f lavfi -i sine=440:duration=3 '" + wav.string() + "'");
    o.extras.sound = {wav, 0.5, 0.1, 0.1};
    o.extras.title = "Boats on the flood tide";
  }
  const FilmOutcome outcome = made(o, 20, [](size_t n, double x, double y) {
    return 0.7 * test::texture(x + static_cast<double>(n), y) + 30;
  });
  EXPECT_EQ(outcome.facts.frames, 20);
  const test::Said probe = test::run(
      "ffprobe -v error -count_frames -select_streams v -show_entries "
      "stream=codec_name,pix_fmt,nb_read_frames,width,height,color_space,color_range,sample_aspect_ratio:"
      "format_tags="
      "title -of default=nw=1 '" +
      o.output.string() + "'");
  std::stringstream facts(make.facts);
  for (std::string fact; facts >> fact;)
    EXPECT_NE(probe.out.find(fact), std::string::npos) << fact << "\n" << probe.out;
  EXPECT_NE(probe.out.find("nb_read_frames=20"), std::string::npos) << probe.out;
  const auto frames = test::film_luma(o.output, kSize);
  ASSERT_EQ(frames.size(), 20u);
  if (film) {
    EXPECT_NE(probe.out.find("Boats on the flood tide"), std::string::npos) << probe.out;
    EXPECT_NEAR(outcome.facts.sound_s, 0.8, 0.06) << "cut to the film's length";
    double off = 0;
    for (size_t i = 0; i < frames[10].size(); i += 3) {
      const auto x = static_cast<double>(i % 320) + 0.5, y = static_cast<double>(i / 320) + 0.5;
      off += std::abs(frames[10][i] - test::luma_of(0.7 * test::texture(x + 10, y) + 30));
    }
    EXPECT_LT(off / (320 * 240 / 3), 2.5) << "codes off the truth";
  }
}

using media::Chroma;
using media::Codec;
INSTANTIATE_TEST_SUITE_P(
    All, CodecTest,
    ::testing::Values(Make{"a.mp4", {12, "", 8, Chroma::Half420, Codec::H264}, "h264 yuv420p bt709 =tv"},
                      Make{"a.mov", {12, "", 10, Chroma::Half422, Codec::H264}, "h264 yuv422p10le bt709"},
                      Make{"b.mp4", {12, "", 10, Chroma::Half420, Codec::H265}, "hevc yuv420p10le bt709"},
                      Make{"c.mkv", {12, "", 8, Chroma::Half420, Codec::Av1}, "av1 yuv420p bt709"},
                      Make{"d.webm", {12, "", 8, Chroma::Half420, Codec::Vp9}, "vp9 yuv420p bt709"},
                      Make{"e.mov", {12, "", 10, Chroma::Half422, Codec::ProRes}, "prores yuv422p10le bt709"},
                      Make{"f.mov", {12, "", 8, Chroma::Half422, Codec::DnxHr}, "dnxhd yuv422p bt709"},
                      Make{"g.mkv", {12, "", 10, Chroma::Half422, Codec::Ffv1}, "ffv1 yuv422p10le bt709"},
                      Make{"h.gif", {12, "", 8, Chroma::Half420, Codec::Gif}, "gif width=320"}),
    [](const auto& given) {
      return std::string(media::facts_of(given.param.coding.codec).name) + std::to_string(given.index);
    });

TEST_F(CutTest, AnimatedWebPHoldsEveryFrameAndItsTime) {
  FilmOrder o = order("a.webp");
  o.coding = {20, "", 8, Chroma::Half420, Codec::WebP};
  const FilmOutcome outcome = made(
      o, 15, [](size_t n, double x, double y) { return test::texture(x + 3.0 * static_cast<double>(n), y); });
  EXPECT_EQ(outcome.facts.frames, 15);
  EXPECT_NEAR(outcome.facts.duration_s, 0.6, 0.02);
  EXPECT_EQ(outcome.facts.size, kSize);
  EXPECT_EQ(read_file(o.output).substr(8, 4), "WEBP");
}

TEST_F(CutTest, SoundIsLoudWhereItIs) {
  const auto wav = folder_ / "half.wav";
  test::run("ffmpeg -v error -f lavfi -i 'sine=440:d=2' -af 'volume=enable=lt(t\\,1):volume=0' -y '" +
            wav.string() + "'");
  const auto levels = media::sound_levels({wav, 0, 0, 0}, 2, 8);
  ASSERT_EQ(levels.size(), 8u);
  for (size_t n = 0; n < 3; ++n) EXPECT_LT(levels[n], 0.002) << n;
  for (size_t n = 5; n < 7; ++n) EXPECT_NEAR(levels[n], 0.125 / 2, 0.01) << n;
  const auto faded = media::sound_levels({wav, 1, 0, 1}, 1, 4);
  EXPECT_GT(faded[0], 2 * faded[3]);
  EXPECT_THROW(media::sound_levels({folder_ / "none.wav", 0, 0, 0}, 2, 8), Error);
}

TEST_F(CutTest, MissingFramesAreMadeOfTheirNeighbours) {
  FilmOrder o = order();
  o.gaps = {{2, 1}};
  o.choice.between = render::Between::Blend;
  const FilmOutcome outcome = made(o, 5, flat);
  const auto seen = middles(o);
  ASSERT_EQ(seen.size(), 6u);
  EXPECT_EQ(outcome.made, 1u);
  EXPECT_EQ(seen[2], luma(40));
  EXPECT_EQ(seen[4], luma(50));
  EXPECT_NEAR(seen[3], test::luma_of(code_of((linear(40) + linear(50)) / 2)), 1.01);
  o.choice.between = render::Between::Repeat;
  EXPECT_EQ(made(o, 5, flat).made, 1u);
  EXPECT_EQ(middles(o)[3], luma(40));
}

TEST_F(CutTest, AnExcerptIsThatPartOfTheFilm) {
  FilmOrder o = order();
  o.choice.way = render::Way::Backward;
  o.fade_out_s = 0.2;
  made(o, 20, flat);
  const auto all = middles(o);
  o.excerpt = {12, 8};
  made(o, 20, flat);
  const auto part = middles(o);
  ASSERT_EQ(part.size(), 8u);
  EXPECT_EQ(part, std::vector<int>(all.begin() + 12, all.end())) << "fades and all";
}

/// Told from samples, against the film itself; and nothing is left.
TEST_F(CutTest, EstimatesWhatFilmsWillTake) {
  const auto grainy = [](size_t n, double x, double y) {
    std::minstd_rand random(static_cast<unsigned>(x + 331 * y + 77773 * static_cast<double>(n)) + 1);
    random.discard(3);
    return test::texture(x, y) + static_cast<double>(random() % 13) + 0.2 * static_cast<double>(n);
  };
  const auto frames = test::Painted::frames(130, kSize);
  const test::Painted source(kSize, grainy);
  FilmOrder small = order("small.mp4"), editor = order("editor.mov"), large = order("large.mkv");
  small.coding = {24, "veryfast", 8};
  editor.coding = media::usual_for(media::Purpose::Editor).coding;
  large.coding.codec = media::Codec::Ffv1;
  const std::vector<FilmOrder> orders = {small, editor, large};
  const Estimate e = estimate(frames, source, orders);
  EXPECT_TRUE(folder_.names().empty()) << "nothing is left";
  EXPECT_GT(e.seconds, 0);
  render(frames, source, std::span<const FilmOrder>(orders));
  for (size_t n = 0; n < orders.size(); ++n) {
    const auto bytes = static_cast<double>(test::fs::file_size(orders[n].output));
    EXPECT_NEAR(e.bytes.at(n) / bytes, 1, 0.2) << orders[n].output;
  }
  // A short one is made whole to tell.
  const auto few = test::Painted::frames(30, kSize);
  const Estimate exact = estimate(few, source, std::span(orders).subspan(1, 1));
  render(few, source, orders[1]);
  EXPECT_NEAR(exact.bytes.at(0) / static_cast<double>(test::fs::file_size(editor.output)), 1, 0.01);
}

}  // namespace
}  // namespace askcount::render
