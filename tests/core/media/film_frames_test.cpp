// SPDX-License-Identifier: GPL-3.0-or-later
// A videos as a source of frames.
#include "media/film_frames.h"

#include "films.h"
#include "forecast/gather.h"
#include "image/tone.h"
#include "ingest/copy.h"
#include "inspect/look.h"
#include "media/kind.h"

namespace askcount::media {
namespace {

using test::Card;
using test::Harm;

class FilmFramesTest : public ::testing::Test {
 protected:
  static void SetUpTestSuite() {
    folder_ = std::make_unique<test::Folder>();
    Card card{.size = {320, 208}, .frames = 90};
    card.harm = [](int n) { return n == 30 ? Harm{.blob = 0.5} : Harm{}; };
    test::write_film(card, film());
  }
  static void TearDownTestSuite() { folder_.reset(); }
  static test::fs::path film() { return *folder_ / "walk.mp4"; }
  static ingest::Gathered gathered(long long step) {
    ingest::Ask ask;
    ask.folders = {film()};
    ask.film_step = step;
    return ingest::gather(ask);
  }

  static std::unique_ptr<test::Folder> folder_;
};
std::unique_ptr<test::Folder> FilmFramesTest::folder_;

TEST(FilmFrames, APictureIsNamedAsIfTheFilmWereAFolder) {
  const test::fs::path one = "/films/walk.MOV/000120";
  EXPECT_TRUE(is_in_film(one));
  EXPECT_EQ(on_disk(one), "/films/walk.MOV");
  EXPECT_EQ(picture_in_film(one), 120);
  EXPECT_EQ(name_of(one), "walk.MOV/000120");
  EXPECT_EQ(kind_of(one), Kind::Film);
  for (const char* other : {"/films/walk.MOV", "/films/000120", "/films/a.jpg/000120", "/films/walk.mov/take",
                            "/films/walk.mov/1.jpg"}) {
    EXPECT_FALSE(is_in_film(other)) << other;
    EXPECT_EQ(on_disk(other), other);
    EXPECT_EQ(picture_in_film(other), -1);
  }
}

TEST_F(FilmFramesTest, EveryThirdPictureIsAFrameAtItsOwnTime) {
  const ingest::Gathered g = gathered(3);
  ASSERT_EQ(g.frames->size(), 30u);
  EXPECT_NEAR(*g.interval_s, 3 / 25.0, 1e-3);
  EXPECT_TRUE(g.missing.empty());
  EXPECT_TRUE(g.dropped.empty());
  const ShotInfo &first = (*g.frames)[0].info(), &last = (*g.frames)[29].info();
  EXPECT_EQ((*last.captured - *first.captured).count(), 87 * 40);
  EXPECT_EQ(first.size, (image::Size{320, 208}));
  // What passes at picture 30 is in frame 11.
  const auto faults = inspect::faults_of(g, inspect::look_at(g.frames, any_source()));
  ASSERT_EQ(faults.size(), 1u);
  EXPECT_EQ(faults[0].kind, inspect::FaultKind::Visitor);
  EXPECT_EQ(faults[0].frame, 10u);
}

TEST_F(FilmFramesTest, EveryPictureIsTheOneThatWasEncoded) {
  const ingest::Gathered g = gathered(1);
  ASSERT_EQ(g.frames->size(), 90u);
  Card card{.size = {320, 208}, .frames = 90};
  // Forwards, backwards and about: always the right one.
  for (const int n : {0, 31, 30, 29, 88, 3, 30}) {
    const Harm harm = n == 30 ? Harm{.blob = 0.5} : Harm{};
    const image::Coded8 want = test::picture_of(card, n, harm);
    const Shown shown = any_source().read((*g.frames)[static_cast<size_t>(n)], {{320, 208}, {}});
    const image::Coded8 got = image::coded(shown.picture);
    ASSERT_EQ(got.size, want.size);
    double off = 0;
    for (size_t i = 0; i < got.rgb.size(); ++i) off += std::abs(double(got.rgb[i]) - double(want.rgb[i]));
    EXPECT_LT(off / static_cast<double>(got.rgb.size()), 4) << n;
  }
  // Small ones come small, and no part is cut from what was asked for.
  const auto grey = any_source().grey((*g.frames)[5], 160);
  EXPECT_EQ(grey.size, (image::Size{160, 104}));
}

TEST_F(FilmFramesTest, IsLevelledAndCutLikeAnyTake) {
  const test::Folder folder;
  render::FilmOrder order;
  order.output = folder / "quick.mp4";
  order.size = {160, 104};
  order.coding.preset = "veryfast";
  const auto made = render::render(gathered(5).frames, any_source(), order);
  EXPECT_EQ(made.facts.frames, 18);
  EXPECT_TRUE(made.unreadable.empty());
  // Never over its own source.
  order.output = film();
  order.guard.force = true;
  EXPECT_EQ(test::error_of([&] { render::render(gathered(5).frames, any_source(), order); }).kind(),
            Error::Kind::BadInput);
  EXPECT_EQ(media::read_film(film()).frames, 90);
}

long long step_of(const take::Take& take, const std::vector<test::fs::path>& sources) {
  ingest::Ask ask;
  ask.folders = sources;
  forecast::read_films(take, ask);
  return ask.film_step;
}

TEST_F(FilmFramesTest, ThePlanSaysHowManyPicturesGoOnAFrame) {
  take::Take take;
  EXPECT_EQ(step_of(take, {film()}), 1) << "nothing is planned";
  take.wish(plan::Slot::Frames, 20);
  take.wish(plan::Slot::Fps, 25);
  take.wish(plan::Slot::Interval, 0.2);
  EXPECT_EQ(step_of(take, {film()}), 5);
  EXPECT_EQ(step_of(take, {folder_->path()}), 1) << "no film";
  take.gather.film_step = 9;
  EXPECT_EQ(step_of(take, {film()}), 9);
}

TEST_F(FilmFramesTest, LiesBesidePicturesAndIsLeftThere) {
  const test::Folder folder;
  test::fs::create_directories(folder / "card");
  test::fs::copy_file(film(), folder / "card/walk.mp4");
  const Error none = test::error_of([&] { ingest::gather(folder / "card"); });
  EXPECT_NE(std::string(none.what()).find("name " + (folder / "card/walk.mp4").string()), std::string::npos)
      << none.what();
  test::write_card({.size = {96, 64}, .frames = 12}, folder / "card");
  const ingest::Gathered g = ingest::gather(folder / "card");
  EXPECT_EQ(g.frames->size(), 12u);
  ASSERT_EQ(g.films.size(), 1u);
  const Findings findings = ingest::judge(g);
  const auto film =
      std::find_if(findings.begin(), findings.end(), [](const Finding& f) { return f.code == "films"; });
  ASSERT_NE(film, findings.end());
  EXPECT_EQ(film->fix, Fix(fix::UseSource{(folder / "card/walk.mp4").string()}));
}

TEST_F(FilmFramesTest, ADamagedFilmSaysSoAndNoHalfPictureComes) {
  const test::Folder folder;
  test::write(folder / "no.mp4", std::string("this is no film"));
  EXPECT_NE(std::string(test::error_of([&] { film_frames(folder / "no.mp4", 1); }).what()).find("no.mp4"),
            std::string::npos);
  const Frame beyond = [] {
    Exposure e;
    e.compressed = film() / "000500";
    e.info.size = {320, 208};
    return Frame(e);
  }();
  EXPECT_THROW(any_source().read(beyond, {}), Error);
  EXPECT_THROW(any_source().grey(beyond, 100), Error);
}

TEST_F(FilmFramesTest, IsCopiedAsOneFile) {
  const test::Folder folder;
  ingest::CopyOrder order;
  order.cards = {film()};
  order.to = folder / "home";
  order.name = "boats-0001";
  const ingest::CopyOutcome done = ingest::copy(order, {}, {});
  ASSERT_EQ(done.files.size(), 1u);
  EXPECT_TRUE(done.checked_twice);
  EXPECT_EQ(test::fs::file_size(folder / "home/walk.mp4"), test::fs::file_size(film()));
}

}  // namespace
}  // namespace askcount::media
