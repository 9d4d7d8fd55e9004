// SPDX-License-Identifier: GPL-3.0-or-later
// The film as it will be against the film as it is: what is drawn from memory, and what was encoded and
// decoded.
#include "render/film_preview.h"

#include <atomic>
#include <cmath>

#include "media/reader.h"
#include "painted.h"
#include "render/render.h"

namespace askcount::render {
namespace {

const image::Size kFrameSize{320, 240};

/// A texture that goes to the right, some lighter from frame to frame.
double moving(size_t n, double x, double y) {
  return 0.6 * test::texture(x - 3.0 * static_cast<double>(n), y) + 4.0 * static_cast<double>(n);
}

/// Its small pictures are a quarter as wide, in a frame of another shape with black above and below.
class Sketched : public test::Painted {
 public:
  using Painted::Painted;
  image::Picture small(const media::Frame& frame) const override {
    const image::Coded8 all = std::get<image::Coded8>(read(frame, {}).picture);
    image::Coded8 out(image::Size{kFrameSize.width / 4, kFrameSize.height / 4 + 20});
    std::fill(out.rgb.begin(), out.rgb.end(), std::uint8_t{0});
    for (int y = 0; y < kFrameSize.height / 4; ++y)
      for (int x = 0; x < 3 * out.size.width; ++x) out.row(y + 10)[x] = all.row(4 * y + 2)[x / 3 * 12];
    return out;
  }
};

/// Waits for nothing: holds whole frames back until they are let through.
class Held : public Sketched {
 public:
  using Sketched::Sketched;
  media::Shown read(const media::Frame& frame, const media::Want& want) const override {
    if (want.at_least.width > 0) {
      reads_.fetch_add(1);
      held_.wait(true);
    }
    return Sketched::read(frame, want);
  }
  void let_through() {
    held_ = false;
    held_.notify_all();
  }
  int reads() const { return reads_; }

 private:
  mutable std::atomic<bool> held_ = true;
  mutable std::atomic<int> reads_ = 0;
};

class PreviewTest : public ::testing::Test {
 protected:
  render::FilmOrder order() const {
    render::FilmOrder o;
    o.output = folder_ / "clip.mkv";
    o.fps = {25, 1};
    o.size = kFrameSize;
    o.coding = {0, "ultrafast", 8};
    o.levelled = false;
    return o;
  }

  /// The greatest mean difference of codes between a film's frames and what the preview draws of them.
  double differs(const render::FilmOrder& o, size_t many, std::shared_ptr<const media::FrameSource> source,
                 const std::vector<size_t>& looked_at, motion::Steadied steadied = {}) const {
    const auto frames = test::Painted::frames(many, kFrameSize);
    render::render(frames, *source, o);
    std::vector<image::Coded8> film;
    media::FilmReader reader(o.output);
    while (auto p = reader.next()) film.push_back(std::move(*p));
    SmallFrames small(frames, source, {.width = kFrameSize.width});
    FilmPreview preview(o, frames, kFrameSize, kFrameSize, std::move(steadied));
    EXPECT_EQ(preview.frames(), film.size());
    EXPECT_EQ(preview.size(), o.size);
    small.want(preview.wanted_from(0));
    small.wait();
    double most = 0;
    for (const size_t n : looked_at) {
      const FilmPreview::Drawn drawn = preview.draw(n, small);
      EXPECT_EQ(drawn.known, Known::Whole) << n;
      if (drawn.picture.size != film.at(n).size) return 1e9;
      double sum = 0;
      for (size_t i = 0; i < film[n].rgb.size(); ++i)
        sum += std::abs(static_cast<double>(film[n].rgb[i]) - drawn.picture.rgb[i]);
      most = std::max(most, sum / static_cast<double>(film[n].rgb.size()));
    }
    return most;
  }
  double differs(const render::FilmOrder& o, const std::vector<size_t>& looked_at) const {
    return differs(o, 12, std::make_shared<Sketched>(kFrameSize, moving), looked_at);
  }

  test::Folder folder_;
};

constexpr double kCoding = 1.6;  // codes that colour at half the size and whole numbers cost

TEST_F(PreviewTest, DrawsWhatTheFilmWillShow) {
  render::FilmOrder o = order();
  EXPECT_LT(differs(o, {0, 5, 11}), kCoding);
  o.choice.way = render::Way::Backward;
  o.choice.every = 2;
  o.fade_in_s = 0.12;
  EXPECT_LT(differs(o, {0, 1, 5}), kCoding);
  o = order();
  o.views = {{0, {0.5, 0.5, 1, 0}}, {0.4, {0.4, 0.6, 0.5, 4}}};
  o.views.front().view.width = 0.8;
  EXPECT_LT(differs(o, {0, 6, 11}), kCoding);
  o.views = {{0, {0.3, 0.3, 0.4, 0}}};
  o.crisp = true;
  o.size = {240, 240};
  EXPECT_LT(differs(o, {3}), kCoding);
}

TEST_F(PreviewTest, DrawsFramesBetweenAndTrailsAsTheFilmDoes) {
  render::FilmOrder o = order();
  o.choice.speed = {{0, 0.5}};
  o.choice.between = render::Between::Blend;
  EXPECT_LT(differs(o, {0, 7, 15}), kCoding);
  o.choice.between = render::Between::Motion;
  EXPECT_LT(differs(o, {7, 8}), kCoding);
  o = order();
  o.choice.trail = 4;
  EXPECT_LT(differs(o, {1, 9}), kCoding);
  o = order();
  o.choice.bright = render::kAllFrames;
  EXPECT_LT(differs(o, {4, 11, 2}), kCoding) << "going back as well";
  o.choice.bright = 3;
  o.choice.speed = {{0, 2}};
  EXPECT_LT(differs(o, {0, 1, 5}), 2 * kCoding) << "what was laid before its length is six stops down";
}

TEST_F(PreviewTest, DrawsGainsLooksAndWhatIsWritten) {
  render::FilmOrder o = order();
  for (int n = 0; n < 12; ++n) o.corrections.push_back({image::Gain{n % 2 ? 1.4 : 0.8, 1, 1.1}});
  o.levelled = true;
  look::Look warm;
  warm.light = 0.5;
  o.looks.anchors = {{0, {}}, {11, warm}};
  o.written.text = "Tern Quay, trench 4";
  o.written.elapsed = true;
  o.written.scale = "1 m";
  EXPECT_LT(differs(o, {0, 5, 11}), kCoding);
}

TEST_F(PreviewTest, StandsInForFramesThatCannotBeRead) {
  const auto broken = [](size_t n, double x, double y) { return n == 4 ? -1 : moving(n, x, y); };
  EXPECT_LT(differs(order(), 12, std::make_shared<Sketched>(kFrameSize, broken), {3, 4, 5}), kCoding);
}

TEST_F(PreviewTest, ASmallerPreviewIsTheSameFilm) {
  const auto frames = test::Painted::frames(6, kFrameSize);
  const auto source = std::make_shared<Sketched>(kFrameSize, [](size_t n, double x, double) {
    return x < 160 ? 40 : 60.0 + 20.0 * static_cast<double>(n);
  });
  SmallFrames small(frames, source, {.width = 100});
  render::FilmOrder o = order();
  o.size = {1920, 1080};
  FilmPreview preview(o, frames, kFrameSize, {160, 160});
  EXPECT_EQ(preview.size(), (image::Size{160, 90}));
  EXPECT_EQ(preview_size({1080, 1920}, {160, 160}), (image::Size{90, 160}));
  EXPECT_EQ(preview_size({64, 64}, {160, 160}), (image::Size{64, 64}));
  small.want(preview.wanted_from(0));
  small.wait();
  const image::Coded8 picture = preview.draw(3, small).picture;
  EXPECT_NEAR(picture.row(45)[3 * 20], 40, 2);
  EXPECT_NEAR(picture.row(45)[3 * 140], 120, 2);
}

TEST_F(PreviewTest, ALookAtEveryFrameComesFirst) {
  const auto frames = test::Painted::frames(30, kFrameSize);
  const auto source = std::make_shared<Held>(kFrameSize, moving);
  SmallFrames small(frames, source, {.width = kFrameSize.width, .threads = 2});
  FilmPreview preview(order(), frames, kFrameSize, kFrameSize);
  small.want(preview.wanted_from(10));
  while (source->reads() < 2) std::this_thread::yield();  // both threads are at whole frames by now
  EXPECT_EQ(small.filled().glanced, 30u);
  EXPECT_EQ(small.filled().whole, 0u);
  EXPECT_FALSE(preview.keeps_up_whole(0, small));
  const FilmPreview::Drawn softer = preview.draw(20, small);
  EXPECT_EQ(softer.known, Known::Glance);
  // The bars of the small picture are not in it.
  double dark = 0;
  for (int x = 0; x < kFrameSize.width; ++x) dark += softer.picture.row(1)[3 * x] < 8;
  EXPECT_LT(dark, 0.2 * kFrameSize.width);
  EXPECT_EQ(preview.known(10, small), Known::Glance);
  source->let_through();
  small.wait();
  EXPECT_EQ(small.filled().whole, 30u);
  EXPECT_TRUE(small.filled().resting);
  EXPECT_TRUE(preview.keeps_up_whole(0, small));
  EXPECT_EQ(preview.draw(20, small).known, Known::Whole);
  EXPECT_EQ(preview.draw(20, small, Known::Glance).known, Known::Glance);
}

TEST_F(PreviewTest, KeepsWhatIsWantedNextInTheMemoryItHas) {
  const auto frames = test::Painted::frames(40, kFrameSize);
  const std::size_t each = 3 * 320 * 240;
  SmallFrames small(frames, std::make_shared<test::Painted>(kFrameSize, moving),
                    {.width = kFrameSize.width, .bytes = 12 * each, .threads = 2});
  FilmPreview preview(order(), frames, kFrameSize, kFrameSize);
  const auto held = [&] {
    std::vector<size_t> out;
    for (size_t n = 0; n < 40; ++n)
      if (small.at(n)) out.push_back(n);
    return out;
  };
  for (const size_t from : {0, 20, 35}) {
    small.want(preview.wanted_from(from));
    small.wait();
    EXPECT_LE(held().size(), 12u);
    EXPECT_GE(held().size(), 8u);
    for (size_t k = 0; k < 6; ++k) EXPECT_TRUE(small.at((from + k) % 40)) << from << " and " << k;
  }
}

TEST_F(PreviewTest, MeasuresLightOnTheWay) {
  const auto frames = test::Painted::frames(20, kFrameSize);
  const auto source = std::make_shared<test::Painted>(kFrameSize, moving);
  const image::Size film{320, 180};
  SmallFrames small(frames, source,
                    {.width = kFrameSize.width, .bytes = 5 * 3 * 320 * 240, .threads = 2, .film = film});
  EXPECT_TRUE(small.luminances().empty());
  FilmPreview preview(order(), frames, kFrameSize, kFrameSize);
  small.want(preview.wanted_from(0));
  small.wait();
  const auto measured = small.luminances(), known = level::measure(frames, *source, film);
  ASSERT_EQ(measured.size(), known.size()) << "those that do not fit into memory too";
  for (size_t n = 0; n < known.size(); ++n) EXPECT_DOUBLE_EQ(measured[n]->mean, known[n]->mean) << n;
}

TEST_F(PreviewTest, WantsWhatTheFilmShowsNext) {
  const auto frames = test::Painted::frames(10, kFrameSize);
  render::FilmOrder o = order();
  o.choice.first = 3, o.choice.last = 7;
  o.choice.way = render::Way::Backward;
  const FilmPreview preview(o, frames, kFrameSize, kFrameSize);
  EXPECT_EQ(preview.wanted_from(0), (std::vector<size_t>{6, 5, 4, 3, 2}));
  EXPECT_EQ(preview.wanted_from(2), (std::vector<size_t>{4, 3, 2, 6, 5}));
}

}  // namespace
}  // namespace askcount::render
