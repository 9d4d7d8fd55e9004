// SPDX-License-Identifier: GPL-3.0-or-later
// Films: encoded for real, decoded by another program and measured.
#include "render/render.h"

#include <sys/resource.h>

#include <atomic>
#include <cmath>
#include <csignal>

#include "base/files.h"
#include "image/tone.h"
#include "level/brightness.h"
#include "media/jpeg.h"
#include "media/metadata.h"
#include "render/drawing.h"
#include "support.h"

namespace askcount::render {
namespace {

class RenderTest : public ::testing::Test {
 protected:
  static void SetUpTestSuite() {
    shot_ = new test::Folder;
    simulate::shoot(forecast::shoot_order(test::small_take(60, {480, 320}, 60), *shot_ / "card"));
  }
  static void TearDownTestSuite() { delete shot_; }

  static media::Frames frames() { return ingest::gather(*shot_ / "card").frames; }

  FilmOrder order() const {
    FilmOrder o;
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
  FilmOrder o = order();
  size_t last = 0;
  const FilmOutcome outcome = render(frames(), media::any_source(), o,
                                     {[&](size_t done, size_t total) {
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
  render(frames(), media::any_source(), o);
  EXPECT_GT(level::flicker(test::film_stops(o.output, 320, 180)), 0.08);
}

TEST_F(RenderTest, IsTheSameWithGainsKnownBefore) {
  FilmOrder o = order();
  render(frames(), media::any_source(), o);
  const auto on_the_way = test::film_stops(o.output, 320, 180);
  o.corrections =
      level::even_out(frames(), level::measure(frames(), media::any_source(), o.size)).corrections;
  render(frames(), media::any_source(), o);
  const auto before = test::film_stops(o.output, 320, 180);
  for (size_t n = 0; n < 60; ++n) EXPECT_NEAR(on_the_way[n], before[n], 0.02) << n;
}

/// A scene that stands, its light off by what is said of each frame; counts how often a frame is read.
class Flickering : public media::FrameSource {
 public:
  Flickering(image::Size size, std::vector<double> stops) : size_(size), stops_(std::move(stops)) {}

  media::Frames frames() const {
    std::vector<media::Frame> all;
    for (size_t n = 0; n < stops_.size(); ++n) {
      media::Exposure e;
      e.compressed = fmt::format("F{:04}.JPG", n);
      e.info.size = size_;
      e.info.iso = 100;
      all.emplace_back(e);
    }
    return media::frames_of(std::move(all));
  }
  bool gives_light(const media::Frame&) const override { return false; }
  media::Shown read(const media::Frame& frame, const media::Want& want) const override {
    reads_.fetch_add(1);
    const size_t n = std::stoul(frame.file().stem().string().substr(1));
    image::Coded8 p(size_);
    std::array<std::uint8_t, 256> row{};  // the same ramp of light in every row
    for (size_t i = 0; i < row.size(); ++i)
      row[i] = static_cast<std::uint8_t>(
          255 * image::code_of_linear(
                    static_cast<float>(0.4 * std::exp2(stops_[n]) * (0.2 + static_cast<double>(i) / 400))) +
          0.5);
    for (int x = 0; x < 3 * size_.width; ++x)
      p.rgb[static_cast<size_t>(x)] = row[static_cast<size_t>(x / 3 * 255 / size_.width)];
    for (int y = 1; y < size_.height; ++y) std::copy_n(p.row(0), 3 * size_.width, p.row(y));
    return {std::move(p), image::in_pixels(want.part, size_)};
  }
  image::Picture small(const media::Frame& frame) const override { return read(frame, {}).picture; }
  int reads() const { return reads_; }

 private:
  image::Size size_;
  std::vector<double> stops_;
  mutable std::atomic<int> reads_ = 0;
};

TEST_F(RenderTest, ReadsTwiceWhatWouldBeTooMuchToHold) {
  std::vector<double> stops;
  for (int n = 0; n < 40; ++n) stops.push_back(0.15 * std::sin(2.1 * n));
  FilmOrder o = order();
  o.coding.preset = "ultrafast";
  o.smoothing.reach = 40;
  for (const bool large : {false, true}) {
    // All forty are held for a levelling that looks so far ahead: large ones are more than 200 MiB.
    const image::Size size = large ? image::Size{1600, 900} : image::Size{320, 180};
    const Flickering source(size, stops);
    o.size = size;
    const FilmOutcome outcome = render(source.frames(), source, o);
    EXPECT_EQ(source.reads(), large ? 80 : 40);
    EXPECT_NEAR(outcome.flicker_before, 0.1, 0.02);
    EXPECT_LT(level::flicker(test::film_stops(o.output, size.width, size.height)), 0.008) << size.width;
  }
}

TEST_F(RenderTest, KeepsExactFrameRates) {
  FilmOrder o = order();
  o.fps = {24000, 1001};
  o.output = folder_ / "clip.mov";
  const FilmOutcome outcome = render(frames(), media::any_source(), o);
  EXPECT_EQ(outcome.facts.fps, (FrameRate{24000, 1001}));
  EXPECT_NEAR(outcome.facts.duration_s, 60 * 1001 / 24000.0, 0.002);
}

TEST_F(RenderTest, NeighboursStandInForFramesThatCannotBeRead) {
  const test::fs::path card = folder_ / "card";
  test::fs::copy(*shot_ / "card", card, test::fs::copy_options::recursive);
  const FilmOrder o = order();
  const media::Frames there = ingest::gather(card).frames;
  for (const size_t n : {0, 30, 31, 59}) test::fs::resize_file((*there)[n].file(), 3000);
  const FilmOutcome outcome = render(there, media::any_source(), o);
  EXPECT_EQ(outcome.facts.frames, 60);
  ASSERT_EQ(outcome.unreadable.size(), 4u);
  EXPECT_NE(outcome.unreadable[1].find((*there)[30].file().filename().string()), std::string::npos);
  EXPECT_LT(level::flicker(test::film_stops(o.output, 320, 180)), 0.02);
}

TEST_F(RenderTest, LeavesNothingWhenStoppedOrBroken) {
  FilmOrder o = order();
  render(frames(), media::any_source(), o);  // the film that was there before
  const std::string before = read_file(o.output);
  std::stop_source stop;
  const Error stopped = test::error_of([&] {
    render(frames(), media::any_source(), o,
           {[&](size_t done, size_t) {
              if (done == 5) stop.request_stop();
            },
            stop.get_token()});
  });
  EXPECT_EQ(stopped.kind(), Error::Kind::Cancelled);
  EXPECT_TRUE(read_file(o.output) == before);
  EXPECT_EQ(folder_.names(), std::vector<std::string>{"clip.mp4"});
}

/// No file may become longer than this one may: as on a disk that is nearly full.
TEST_F(RenderTest, OnADiskThatFillsUpTheFilmThatWasThereStays) {
  FilmOrder o = order();
  render(frames(), media::any_source(), o);
  const std::string before = read_file(o.output);
  rlimit old{};
  getrlimit(RLIMIT_FSIZE, &old);
  const auto was = std::signal(SIGXFSZ, SIG_IGN);
  for (const size_t room : {before.size() / 2, size_t{600}, size_t{1}}) {
    const rlimit small = {room, old.rlim_max};
    setrlimit(RLIMIT_FSIZE, &small);
    const Error e = test::error_of([&] { render(frames(), media::any_source(), o); });
    setrlimit(RLIMIT_FSIZE, &old);
    EXPECT_EQ(e.kind(), Error::Kind::Failed) << e.what();
    EXPECT_NE(std::string(e.what()).find("clip.mp4"), std::string::npos) << e.what();
    EXPECT_TRUE(read_file(o.output) == before);
    EXPECT_EQ(folder_.names(), std::vector<std::string>{"clip.mp4"});
  }
  std::signal(SIGXFSZ, was);
}

/// Frames of other sizes among the rest: each is drawn by its own, none squashed, and the light is the same.
TEST_F(RenderTest, FramesOfSeveralSizesMakeOneFilm) {
  image::Coded8 wide(image::Size{480, 320}), small(image::Size{240, 160}), tall(image::Size{320, 480});
  for (image::Coded8* p : {&wide, &small, &tall})
    for (int y = 0; y < p->size.height; ++y)
      for (int x = 0; x < p->size.width; ++x) {
        // A disc of half the shorter side in the middle: it stays round in every one.
        const double side = std::min(p->size.width, p->size.height), dx = x + 0.5 - p->size.width / 2.0,
                     dy = y + 0.5 - p->size.height / 2.0;
        const bool in = std::hypot(dx, dy) < side / 8;
        for (int c = 0; c < 3; ++c) p->row(y)[3 * x + c] = in ? 220 : 60;
      }
  test::fs::create_directories(folder_ / "card");
  std::vector<media::Frame> list;
  for (int n = 0; n < 6; ++n) {
    media::ShotInfo info;
    info.captured = media::CameraTime(std::chrono::milliseconds(1791568200000LL + 10000 * n));
    const image::Coded8& p = n == 2 ? small : n == 4 ? tall : wide;
    const test::fs::path file = folder_ / fmt::format("card/A_{:04}.jpg", n + 1);
    test::write(file, media::with_metadata(media::encode_jpeg(p, 95), info, {}));
    list.push_back(media::frame_of(file));
  }
  FilmOrder o = order();
  o.levelled = false;
  const FilmOutcome outcome = render(media::frames_of(std::move(list)), media::any_source(), o);
  EXPECT_EQ(outcome.facts.frames, 6);
  test::run("ffmpeg -v error -i '" + o.output.string() + "' -pix_fmt gray -f rawvideo '" +
            (folder_ / "grey").string() + "'");
  const std::string grey = read_file(folder_ / "grey");
  ASSERT_EQ(grey.size(), size_t{6} * 320 * 180);
  for (size_t n = 0; n < 6; ++n) {
    int across = 0, down = 0;
    for (size_t x = 0; x < 320; ++x)
      across += static_cast<unsigned char>(grey[n * 57600 + 90 * 320 + x]) > 130;
    for (size_t y = 0; y < 180; ++y)
      down += static_cast<unsigned char>(grey[n * 57600 + y * 320 + 160]) > 130;
    EXPECT_GT(across, 20) << n;
    EXPECT_NEAR(across, down, 3) << "frame " << n << " is squashed";
  }
}

TEST_F(RenderTest, RefusesWhatCannotBeMade) {
  const auto refused = [](const FilmOrder& o, const char* named) {
    const Error e = test::error_of([&] { render(frames(), media::any_source(), o); });
    EXPECT_EQ(e.kind(), Error::Kind::BadInput);
    EXPECT_NE(std::string(e.what()).find(named), std::string::npos) << e.what();
  };
  FilmOrder o = order();
  o.size = {321, 180};
  refused(o, "321x180");
  o = order();
  o.output = folder_ / "clip.gif";
  refused(o, "clip.gif");
  o = order();
  o.output = folder_ / "absent/clip.mp4";
  refused(o, "absent");
  o = order();
  o.corrections.assign(59, 1.0);  // of another take
  refused(o, "59 frames");
  o = order();
  o.coding.bits = 12;
  refused(o, "12 bits");
  const Error none = test::error_of([&] { render(media::frames_of({}), media::any_source(), order()); });
  EXPECT_NE(std::string(none.what()).find("no frames"), std::string::npos);
}

TEST_F(RenderTest, StopsWhereNeighboursWouldMakeTheFilm) {
  const test::fs::path card = folder_ / "card";
  test::fs::copy(*shot_ / "card", card, test::fs::copy_options::recursive);
  const FilmOrder o = order();
  const media::Frames there = ingest::gather(card).frames;
  for (size_t n = 20; n < 20 + kMostInARow; ++n) test::fs::resize_file((*there)[n].file(), 3000);
  const FilmOutcome outcome = render(there, media::any_source(), o);
  EXPECT_EQ(outcome.unreadable.size(), static_cast<size_t>(kMostInARow));
  EXPECT_NEAR(outcome.stood_in_share(), kMostInARow / 60.0, 1e-9);
  const std::string before = read_file(o.output);
  const auto refused = [&](size_t first, size_t last, const char* words) {
    try {
      render(there, media::any_source(), o);
      ADD_FAILURE() << "a film was made of neighbours";
    } catch (const TooManyUnreadable& e) {
      EXPECT_EQ(e.first(), first);
      EXPECT_EQ(e.last(), last);
      EXPECT_NE(std::string(e.what()).find(words), std::string::npos) << e.what();
    }
    EXPECT_TRUE(read_file(o.output) == before) << "the old film stays";
    EXPECT_EQ(folder_.names(), (std::vector<std::string>{"card", "card.truth.json", "clip.mp4"}));
  };
  test::fs::copy(*shot_ / "card.truth.json", folder_ / "card.truth.json");
  // A row at the beginning is told whole, so that one knows where to begin instead.
  for (size_t n = 0; n < 16; ++n) test::fs::resize_file((*there)[n].file(), 3000);
  refused(0, 15, "Frames 1 to 16");
  // Not in a row, but more than a tenth.
  test::fs::remove_all(card);
  test::fs::copy(*shot_ / "card", card, test::fs::copy_options::recursive);
  for (size_t n = 3; n < 60; n += 8) test::fs::resize_file((*there)[n].file(), 3000);
  refused(51, 51, "10 %");
}

TEST_F(RenderTest, ACardThatIsPulledLeavesTheOldFilm) {
  const test::fs::path card = folder_ / "card";
  test::fs::copy(*shot_ / "card", card, test::fs::copy_options::recursive);
  const FilmOrder o = order();
  const media::Frames there = ingest::gather(card).frames;
  render(there, media::any_source(), o);
  const std::string before = read_file(o.output);
  const Error e = test::error_of([&] {
    render(there, media::any_source(), o,
           {[&](size_t done, size_t) {
              if (done == 8) test::fs::rename(card, folder_ / "pulled");
            },
            {}});
  });
  EXPECT_EQ(e.kind(), Error::Kind::Failed);
  EXPECT_NE(std::string(e.what()).find("pulled"), std::string::npos) << e.what();
  EXPECT_TRUE(read_file(o.output) == before);
  EXPECT_EQ(folder_.names(), (std::vector<std::string>{"clip.mp4", "pulled"}));
}

TEST_F(RenderTest, WritesOnlyOverFilmsOfItsOwn) {
  FilmOrder o = order();
  test::run("ffmpeg -v error -f lavfi -i testsrc=d=0.2:s=64x64 -y " + o.output.string());  // a wedding, say
  const std::string theirs = read_file(o.output);
  const auto kind = [&] { return test::error_of([&] { render(frames(), media::any_source(), o); }).kind(); };
  EXPECT_EQ(kind(), Error::Kind::BadInput);
  EXPECT_TRUE(read_file(o.output) == theirs);
  EXPECT_EQ(films::film_file(o.output), folder_ / "clip clip.mp4");
  // Said twice, it may go; from then on it is ours.
  o.guard.force = true;
  render(frames(), media::any_source(), o);
  o.guard.force = false;
  EXPECT_TRUE(media::made_by_us(o.output));
  EXPECT_EQ(films::film_file(o.output), o.output);
  render(frames(), media::any_source(), o);
  for (const char* name : {"clip.mov", "clip.mkv"}) {
    o.output = folder_ / name;
    render(frames(), media::any_source(), o);
    EXPECT_TRUE(media::made_by_us(o.output)) << name;
  }
  // A photograph never goes, whatever is said and whatever it is called.
  o.output = folder_ / "film.mp4";
  test::fs::copy_file((*frames())[0].file(), o.output);
  o.guard.force = true;
  EXPECT_EQ(kind(), Error::Kind::BadInput);
}

/// Two films of other shapes, rates and depths from one reading are what each would have been alone.
TEST_F(RenderTest, MakesSeveralFilmsFromOneReading) {
  FilmOrder wide = order(), tall = order();
  tall.output = folder_ / "tall.mkv";
  tall.size = {180, 320};
  tall.fps = {50, 1};
  tall.coding.bits = 10;
  const FilmOrder orders[] = {wide, tall};
  const auto outcomes = render(frames(), media::any_source(), orders);
  ASSERT_EQ(outcomes.size(), 2u);
  EXPECT_EQ(outcomes[1].facts.size, (image::Size{180, 320}));
  EXPECT_NEAR(outcomes[1].facts.duration_s, 60 / 50.0, 0.02);
  const test::Said probe =
      test::run("ffprobe -v error -show_entries stream=pix_fmt -of default=nw=1 " + tall.output.string());
  EXPECT_NE(probe.out.find("yuv420p10le"), std::string::npos) << probe.out;
  const auto both_wide = test::film_stops(wide.output, 320, 180),
             both_tall = test::film_stops(tall.output, 180, 320);
  render(frames(), media::any_source(), wide);
  render(frames(), media::any_source(), tall);
  const auto alone_wide = test::film_stops(wide.output, 320, 180),
             alone_tall = test::film_stops(tall.output, 180, 320);
  for (size_t n = 0; n < 60; ++n) {
    EXPECT_NEAR(both_wide[n], alone_wide[n], 0.01) << n;
    EXPECT_NEAR(both_tall[n], alone_tall[n], 0.01) << n;
  }
  EXPECT_LT(level::flicker(both_tall), 0.01);
  EXPECT_EQ(folder_.names(), (std::vector<std::string>{"clip.mp4", "tall.mkv"}));
}

/// What the window shows of a frame is what the film will have of it.
TEST_F(RenderTest, PreviewsAreTheFilmSmaller) {
  const FilmOrder o = order();
  const media::Frames there = frames();
  const auto gains = level::even_out(there, level::measure(there, media::any_source(), o.size)).corrections;
  render(there, media::any_source(), o);
  media::FilmReader reader(o.output);
  std::vector<image::Coded8> film;
  while (auto p = reader.next()) film.push_back(std::move(*p));
  for (const size_t n : {0, 29, 59}) {
    const FramePlan plan = plan_of(o, n, {480, 320}, {gains[n]});
    const image::Coded8 shown = preview(media::any_source(), (*there)[n], plan, {320, 320});
    ASSERT_EQ(shown.size, (image::Size{320, 180}));
    double apart = 0;
    for (size_t i = 0; i < shown.rgb.size(); ++i) apart += std::abs(shown.rgb[i] - film[n].rgb[i]);
    EXPECT_LT(apart / static_cast<double>(shown.rgb.size()), 4) << n;
  }
}

/// A white disc on black, photographed 3:2, must stay a disc in any film.
TEST(Crop, SquashesNothing) {
  const test::Folder folder;
  const image::Size size{600, 400};
  for (int n = 0; n < 3; ++n) {
    image::Coded8 p(size);
    for (int y = 0; y < size.height; ++y)
      for (int x = 0; x < size.width; ++x)
        for (int c = 0; c < 3; ++c) p.row(y)[3 * x + c] = std::hypot(x - 299.5, y - 199.5) < 90 ? 220 : 10;
    const auto bytes = media::encode_jpeg(p, 95);
    test::write(folder / ("d" + std::to_string(n) + ".jpg"), bytes);
  }
  for (const image::Size shape : {image::Size{320, 180}, {180, 320}, {200, 200}, {1280, 720}}) {
    FilmOrder o;
    o.output = folder / "disc.mp4";
    o.size = shape;
    o.coding = {5, "veryfast"};
    render(ingest::gather(folder.path()).frames, media::any_source(), o);
    media::FilmReader reader(o.output);
    const auto p = reader.next();
    ASSERT_TRUE(p);
    double across = 0, down = 0;
    for (int x = 0; x < shape.width; ++x) across += p->row(shape.height / 2)[3 * x + 1] > 115;
    for (int y = 0; y < shape.height; ++y) down += p->row(y)[3 * (shape.width / 2) + 1] > 115;
    const image::RectF part = image::in_pixels(image::part_of_shape(size, shape), size);
    EXPECT_NEAR(across, std::min(180.0, part.width) * shape.width / part.width, 2.1);
    EXPECT_NEAR(across, down, 2.1);
    // The tones arrive as they were.
    EXPECT_NEAR(p->row(shape.height / 2)[3 * (shape.width / 2)], 220, 3);
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
  std::vector<image::Coded8> all;
  media::FilmReader reader(film);
  while (auto p = reader.next()) all.push_back(std::move(*p));
  ASSERT_EQ(all.size(), 50u);
  for (const long long n : {33, 7, 49, 0}) {
    media::FilmReader at(film);
    at.seek(n);
    const auto p = at.next();
    ASSERT_TRUE(p);
    EXPECT_EQ(p->rgb, all[static_cast<size_t>(n)].rgb) << n;
  }
  std::ofstream(folder / "no.mp4") << "no film";
  EXPECT_NE(
      std::string(test::error_of([&] { media::FilmReader no(folder / "no.mp4"); }).what()).find("no.mp4"),
      std::string::npos);
}

/// Frames whose colours wander by a tenth of a stop, and the film made of them.
TEST_F(RenderTest, HoldsColoursThatWander) {
  std::mt19937 random(8);
  std::normal_distribution<double> off(0, 0.1), grain(0, 2);
  std::vector<double> red_in;
  test::fs::create_directories(folder_ / "in");
  for (int n = 0; n < 60; ++n) {
    const double tint[] = {std::exp2(off(random)), 1, std::exp2(off(random))};
    image::Coded8 picture({320, 180});
    for (int y = 0; y < 180; ++y)
      for (int x = 0; x < 320; ++x)
        for (int c = 0; c < 3; ++c) {
          const double light = (0.06 + 0.001 * (c == 0 ? x : c == 1 ? y : 320 - x)) * tint[c];
          // With the grain of a sensor: flat tones would all be rounded the same way.
          picture.row(y)[3 * x + c] = static_cast<std::uint8_t>(
              std::lround(255 * image::code_of_linear(static_cast<float>(light)) + grain(random)));
        }
    red_in.push_back(std::log2(tint[0]));
    media::ShotInfo info;
    info.captured = media::CameraTime(std::chrono::milliseconds(1760000000000 + 5000LL * n));
    test::write(folder_ / fmt::format("in/W_{:04}.JPG", n + 1),
                media::with_metadata(media::encode_jpeg(picture, 95), info, {}));
  }
  ASSERT_GT(level::flicker(red_in), 0.07);
  FilmOrder o = order();
  o.coding.quality = 10;
  render(ingest::gather(folder_ / "in").frames, media::any_source(), o);
  std::vector<double> red, blue;
  for (const auto& [r, g, b] : test::film_light(o.output, 320, 180))
    red.push_back(std::log2(r / g)), blue.push_back(std::log2(b / g));
  ASSERT_EQ(red.size(), 60u);
  EXPECT_LT(level::flicker(red), 0.004);
  EXPECT_LT(level::flicker(blue), 0.004);
}

}  // namespace
}  // namespace askcount::render
