// Films: encoded for real, decoded by another program and measured.
#include "cut/render.h"

#include <cmath>

#include "level/brightness.h"
#include "support.h"

namespace askcount::cut {
namespace {

class RenderTest : public ::testing::Test {
 protected:
  static void SetUpTestSuite() {
    shot_ = new test::Folder;
    standin::shoot(take::shoot_order(test::small_take(60, {480, 320}, 60), *shot_ / "card"));
  }
  static void TearDownTestSuite() { delete shot_; }

  CutOrder order() const {
    CutOrder o;
    o.frames = gather::gather(*shot_ / "card").frames;
    o.output = folder_ / "clip.mp4";
    o.fps = {25, 1};
    o.size = {320, 180};
    o.coding.preset = "veryfast";
    return o;
  }

  static test::Folder* shot_;
  test::Folder folder_;
};

test::Folder* RenderTest::shot_ = nullptr;

TEST_F(RenderTest, WritesWhatWasOrderedWithItsFlickerGone) {
  CutOrder o = order();
  size_t last = 0;
  const CutOutcome outcome = render(o, {[&](size_t done, size_t total) {
                                          EXPECT_EQ(done, last + 1);
                                          EXPECT_EQ(total, 60u);
                                          last = done;
                                        },
                                        {}});
  EXPECT_EQ(last, 60u);
  EXPECT_EQ(outcome.facts.frames, 60);
  EXPECT_EQ(outcome.facts.codec, "h264");
  EXPECT_GT(outcome.flicker_before, 0.08);
  EXPECT_EQ(folder_.names(), std::vector<std::string>{"clip.mp4"});
  const auto stops = test::film_stops(o.output, 320, 180);
  ASSERT_EQ(stops.size(), 60u);
  EXPECT_LT(level::flicker(stops), 0.01);
  const test::Said probe = test::run(
      "ffprobe -v error -count_frames -show_entries "
      "stream=codec_name,width,height,avg_frame_rate,sample_aspect_ratio,nb_read_frames,color_range,color_"
      "space,duration -of default=nw=1 " +
      o.output.string());
  for (const char* fact : {"codec_name=h264", "width=320", "height=180", "avg_frame_rate=25/1",
                           "nb_read_frames=60", "color_space=bt709", "color_range=tv", "duration=2.4"})
    EXPECT_NE(probe.out.find(fact), std::string::npos) << fact << "\n" << probe.out;
  // As shot, the flicker is all there.
  o.levelled = false;
  render(o);
  EXPECT_GT(level::flicker(test::film_stops(o.output, 320, 180)), 0.08);
}

TEST_F(RenderTest, IsTheSameWithGainsKnownBefore) {
  CutOrder o = order();
  render(o);
  const auto on_the_way = test::film_stops(o.output, 320, 180);
  o.gains = level::even_out(o.frames, level::measure(o.frames, o.size)).gains;
  render(o);
  const auto before = test::film_stops(o.output, 320, 180);
  for (size_t n = 0; n < 60; ++n) EXPECT_NEAR(on_the_way[n], before[n], 0.02) << n;
}

TEST_F(RenderTest, KeepsExactFrameRates) {
  CutOrder o = order();
  o.fps = {24000, 1001};
  o.output = folder_ / "clip.mov";
  const CutOutcome outcome = render(o);
  EXPECT_EQ(outcome.facts.fps, (FrameRate{24000, 1001}));
  EXPECT_NEAR(outcome.facts.duration_s, 60 * 1001 / 24000.0, 0.002);
}

TEST_F(RenderTest, NeighboursStandInForFramesThatCannotBeRead) {
  const test::fs::path card = folder_ / "card";
  test::fs::copy(*shot_ / "card", card, test::fs::copy_options::recursive);
  CutOrder o = order();
  o.frames = gather::gather(card).frames;
  for (const size_t n : {0, 30, 31, 59}) test::fs::resize_file(o.frames[n].file, 3000);
  const CutOutcome outcome = render(o);
  EXPECT_EQ(outcome.facts.frames, 60);
  ASSERT_EQ(outcome.unreadable.size(), 4u);
  EXPECT_NE(outcome.unreadable[1].find(o.frames[30].file.filename().string()), std::string::npos);
  EXPECT_LT(level::flicker(test::film_stops(o.output, 320, 180)), 0.02);
}

TEST_F(RenderTest, LeavesNothingWhenStoppedOrBroken) {
  CutOrder o = order();
  std::ofstream(o.output) << "the film that was there before";
  std::stop_source stop;
  const Error stopped = test::error_of([&] {
    render(o, {[&](size_t done, size_t) {
                 if (done == 5) stop.request_stop();
               },
               stop.get_token()});
  });
  EXPECT_EQ(stopped.kind(), Error::Kind::Cancelled);
  EXPECT_EQ(test::fs::file_size(o.output), 30u);
  EXPECT_EQ(folder_.names(), std::vector<std::string>{"clip.mp4"});
  // A disk that fills up.
  CutOrder full = order();
  full.output = "/dev/full/clip.mp4";
  EXPECT_EQ(test::error_of([&] { render(full); }).kind(), Error::Kind::BadInput);
}

TEST_F(RenderTest, RefusesWhatCannotBeMade) {
  const auto refused = [](const CutOrder& o, const char* named) {
    const Error e = test::error_of([&] { render(o); });
    EXPECT_EQ(e.kind(), Error::Kind::BadInput);
    EXPECT_NE(std::string(e.what()).find(named), std::string::npos) << e.what();
  };
  CutOrder o = order();
  o.size = {321, 180};
  refused(o, "321x180");
  o = order();
  o.output = folder_ / "clip.gif";
  refused(o, "clip.gif");
  o = order();
  o.output = folder_ / "absent/clip.mp4";
  refused(o, "absent");
  o = order();
  o.frames.clear();
  refused(o, "no frames");
}

/// A white disc on black, photographed 3:2, must stay a disc in any film.
TEST(Crop, SquashesNothing) {
  const test::Folder folder;
  const picture::Size size{600, 400};
  for (int n = 0; n < 3; ++n) {
    picture::Picture8 p(size);
    for (int y = 0; y < size.height; ++y)
      for (int x = 0; x < size.width; ++x)
        for (int c = 0; c < 3; ++c) p.row(y)[3 * x + c] = std::hypot(x - 299.5, y - 199.5) < 90 ? 220 : 10;
    const auto bytes = picture::encode_jpeg(p, 95);
    std::ofstream(folder / ("d" + std::to_string(n) + ".jpg"), std::ios::binary)
        .write(reinterpret_cast<const char*>(bytes.data()), static_cast<long>(bytes.size()));
  }
  for (const picture::Size film : {picture::Size{320, 180}, {180, 320}, {200, 200}, {1280, 720}}) {
    CutOrder o;
    o.frames = gather::scan(folder.path()).frames;
    o.output = folder / "disc.mp4";
    o.size = film;
    o.coding = {5, "veryfast"};
    render(o);
    FilmReader reader(o.output);
    const auto p = reader.next();
    ASSERT_TRUE(p);
    double across = 0, down = 0;
    for (int x = 0; x < film.width; ++x) across += p->row(film.height / 2)[3 * x + 1] > 115;
    for (int y = 0; y < film.height; ++y) down += p->row(y)[3 * (film.width / 2) + 1] > 115;
    const picture::Rect part = picture::crop_to_shape(size, film);
    EXPECT_NEAR(across, std::min(180.0, part.width * 1.0) * film.width / part.width, 2.1);
    EXPECT_NEAR(across, down, 2.1);
    // The tones arrive as they were.
    EXPECT_NEAR(p->row(film.height / 2)[3 * (film.width / 2)], 220, 3);
    EXPECT_NEAR(p->row(2)[3 * 2], 10, 3);
  }
}

TEST(Film, ReadsInOrderAndSeeks) {
  const test::Folder folder;
  const std::string film = (folder / "bars.mp4").string();
  ASSERT_EQ(
      test::run("ffmpeg -v error -f lavfi -i testsrc=size=160x120:rate=25 -frames:v 50 -pix_fmt yuv420p " +
                film)
          .exit,
      0);
  std::vector<picture::Picture8> all;
  FilmReader reader(film);
  while (auto p = reader.next()) all.push_back(std::move(*p));
  ASSERT_EQ(all.size(), 50u);
  for (const long long n : {33, 7, 49, 0}) {
    FilmReader at(film);
    at.seek(n);
    const auto p = at.next();
    ASSERT_TRUE(p);
    EXPECT_EQ(p->rgb, all[static_cast<size_t>(n)].rgb) << n;
  }
  std::ofstream(folder / "no.mp4") << "no film";
  EXPECT_NE(std::string(test::error_of([&] { FilmReader no(folder / "no.mp4"); }).what()).find("no.mp4"),
            std::string::npos);
}

}  // namespace
}  // namespace askcount::cut
