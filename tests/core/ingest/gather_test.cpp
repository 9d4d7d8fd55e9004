// SPDX-License-Identifier: GPL-3.0-or-later
// Finding the take among everything on a card.
#include "ingest/gather.h"

#include "base/json.h"
#include "support.h"

namespace askcount::ingest {
namespace {

class GatherTest : public ::testing::Test {
 protected:
  static void SetUpTestSuite() {
    shot_ = new test::Folder;
    simulate::shoot(forecast::shoot_order(test::small_take(40), *shot_ / "card"));
  }
  static void TearDownTestSuite() { delete shot_; }

  void SetUp() override { test::fs::copy(*shot_ / "card", card(), test::fs::copy_options::recursive); }
  test::fs::path card() const { return folder_ / "card"; }
  test::fs::path file(int number) const {
    return card() / "DCIM/100QUAY" / ("QUAY0" + std::to_string(number) + ".JPG");
  }

  static test::Folder* shot_;
  test::Folder folder_;
};

test::Folder* GatherTest::shot_ = nullptr;
constexpr int kFirst = 218;  // after three tests and a marker

TEST_F(GatherTest, FindsTheTakeBetweenItsMarkers) {
  const Gathered g = gather(card());
  ASSERT_EQ(g.frames->size(), 40u);
  EXPECT_EQ(g.frames->front().file(), file(kFirst));
  EXPECT_EQ(g.frames->back().file(), file(kFirst + 39));
  EXPECT_NEAR(*g.interval_s, 20, 0.001);
  EXPECT_TRUE(g.missing.empty());
  ASSERT_EQ(g.dropped.size(), 5u);
  EXPECT_EQ(g.dropped[0].why, Dropped::Why::Test);
  EXPECT_EQ(g.dropped[3].why, Dropped::Why::Marker);
  EXPECT_EQ(g.dropped[4].why, Dropped::Why::Marker);
  EXPECT_FALSE(g.dropped[4].before);
}

TEST_F(GatherTest, FindsMarkersThatKeptTheBeat) {
  // A hand held in front of the first two frames and the last one, the timer running on.
  for (const int n : {kFirst, kFirst + 1, kFirst + 39}) {
    const auto info = media::read_shot_info(file(n));
    const auto bytes =
        simulate::camera_file(simulate::marker_picture({240, 160}),
                              {*info.shutter_s, *info.f_number, *info.iso}, *info.captured, {});
    test::write(file(n), bytes);
  }
  const Gathered g = gather(card());
  ASSERT_EQ(g.frames->size(), 37u);
  EXPECT_EQ(g.frames->front().file(), file(kFirst + 2));
  EXPECT_EQ(g.frames->back().file(), file(kFirst + 38));
}

/// A hand by itself after the last frame, off the beat: dark, even, or over a part of the picture.
TEST_F(GatherTest, AHandAfterTheEndIsItsMarkerAndLeavesNoGap) {
  const auto info = media::read_shot_info(file(kFirst + 39));
  const image::Coded8 picture =
      image::coded(media::any_source().read(media::frame_of(file(kFirst + 38)), {{240, 160}, {}}).picture);
  const auto covered = [&](double across, int value) {
    image::Coded8 hand = picture;
    for (int y = 0; y < hand.size.height; ++y)
      for (int x = 0; x < static_cast<int>(across * hand.size.width); ++x)
        for (int c = 0; c < 3; ++c) hand.row(y)[3 * x + c] = static_cast<unsigned char>(value - 10 * c);
    return hand;
  };
  for (const double seconds : {26.0, 31.0, 33.0, 40.0, 52.0})
    for (const auto& [across, value] : {std::pair{1.0, 22}, std::pair{1.0, 90}, std::pair{0.7, 70}}) {
      const auto at = *info.captured + std::chrono::milliseconds(std::llround(seconds * 1000));
      test::write(file(kFirst + 40),
                  simulate::camera_file(covered(across, value), {*info.shutter_s, *info.f_number, *info.iso},
                                        at, {}));
      const Gathered g = gather(card());
      EXPECT_EQ(g.frames->size(), 40u) << seconds << " s after, " << across;
      EXPECT_TRUE(g.missing.empty()) << seconds << " s after, " << across;
      EXPECT_EQ(g.dropped.back().why, Dropped::Why::Marker) << seconds << " s after, " << across;
    }
  // The same view off the beat is kept, and says nothing of others before it.
  test::write(file(kFirst + 40), simulate::camera_file(picture, {*info.shutter_s, *info.f_number, *info.iso},
                                                       *info.captured + std::chrono::seconds(32), {}));
  const Gathered g = gather(card());
  EXPECT_EQ(g.frames->size(), 41u);
  EXPECT_TRUE(g.missing.empty());
}

TEST_F(GatherTest, CountsWhatIsMissingAndNamesWhatIsBroken) {
  test::fs::remove(file(kFirst + 10));
  test::fs::remove(file(kFirst + 20));
  test::fs::remove(file(kFirst + 21));
  std::ofstream(file(kFirst + 30)) << "not a picture";
  std::ofstream(card() / "notes.txt") << "wind from the west";
  const Gathered g = gather(card());
  ASSERT_EQ(g.frames->size(), 37u);
  ASSERT_EQ(g.missing.size(), 2u);
  EXPECT_EQ(g.missing[0].after, 9u);
  EXPECT_EQ(g.missing[0].frames, 1);
  EXPECT_EQ(g.missing[1].frames, 2);
  EXPECT_NEAR(g.missing[1].seconds, 60, 0.01);
  EXPECT_NEAR(*g.interval_s, 20, 0.001);
  EXPECT_FALSE((*g.frames)[27].readable());
  EXPECT_NE((*g.frames)[27].trouble().find("QUAY0248"), std::string::npos);
  EXPECT_EQ(g.ignored.size(), 1u);
}

TEST_F(GatherTest, OrdersByTimeWhateverTheNames) {
  test::fs::create_directories(card() /
                               "DCIM/099QUAY");  // numbers rolled over into a folder that sorts before
  for (int n = kFirst + 20; n < kFirst + 40; ++n)
    test::fs::rename(file(n), card() / "DCIM/099QUAY" / ("QUAY" + std::to_string(1000 + n) + ".JPG"));
  const Gathered g = gather(card());
  ASSERT_EQ(g.frames->size(), 40u);
  for (size_t i = 1; i < g.frames->size(); ++i)
    EXPECT_GT(*(*g.frames)[i].info().captured, *(*g.frames)[i - 1].info().captured);
}

TEST(Gather, TakesFilesWithoutTimesByNumber) {
  const test::Folder folder;
  for (int n = 1; n <= 12; ++n) {
    if (n == 7) continue;
    image::Coded8 p({64, 48});
    for (size_t i = 0; i < p.rgb.size(); ++i) p.rgb[i] = static_cast<std::uint8_t>(i / 40 % 200);
    const auto bytes = media::encode_jpeg(p, 85);
    test::write(folder / ("f" + std::to_string(n) + ".jpg"), bytes);
  }
  const Gathered g = gather(folder.path());
  ASSERT_EQ(g.frames->size(), 11u);
  EXPECT_EQ((*g.frames)[1].file().filename(), "f2.jpg");  // not f10
  EXPECT_FALSE(g.interval_s);
  ASSERT_EQ(g.missing.size(), 1u);
  EXPECT_EQ(g.missing[0].after, 5u);
}

TEST(Gather, RefusesWhatIsNoCard) {
  const test::Folder folder;
  EXPECT_EQ(test::error_of([&] { gather(folder.path()); }).kind(), Error::Kind::BadInput);
  const Error e = test::error_of([&] { gather(folder / "absent"); });
  EXPECT_NE(std::string(e.what()).find("absent"), std::string::npos);
}

}  // namespace
}  // namespace askcount::ingest
