// SPDX-License-Identifier: GPL-3.0-or-later
// Developed sequences: read back by other eyes, gone on with, never over anything.
#include "render/develop.h"

#include <cmath>

#include "cards.h"
#include "level/brightness.h"
#include "media/frame_source.h"
#include "support.h"

namespace askcount::render {
namespace {

class DevelopTest : public testing::Test {
 protected:
  void SetUp() override {
    test::Card card{.size = {150, 100}, .frames = 12};
    test::write_card(card, folder_ / "card");
    frames_ = ingest::gather(folder_ / "card").frames;
    ASSERT_EQ(frames_->size(), 12u);
  }
  Order order(Format format) {
    Order o;
    o.folder = folder_ / ending_of(format);
    o.format = format;
    o.size = {120, 80};
    return o;
  }
  test::fs::path file(const Order& o, int n) {
    return o.folder / fmt::format("{:05}.{}", n, ending_of(o.format));
  }
  test::Folder folder_;
  media::Frames frames_;
};

TEST_F(DevelopTest, EveryFormatHoldsTheSamePictureWithItsTime) {
  const Order eight = order(Format::Jpeg);
  develop(frames_, media::any_source(), eight);
  const auto of_jpeg = media::any_source().read(media::frame_of(file(eight, 4)), {{120, 80}, {}}).picture;
  for (const Format format : {Format::Tiff16, Format::Png16}) {
    const Order o = order(format);
    EXPECT_EQ(develop(frames_, media::any_source(), o).written, 12u);
    const media::Frame back = media::frame_of(file(o, 4));
    ASSERT_TRUE(back.readable()) << back.trouble();
    EXPECT_EQ(back.info().captured, (*frames_)[3].info().captured);
    EXPECT_EQ(back.info().shutter_s, (*frames_)[3].info().shutter_s);
    const auto picture = media::any_source().read(back, {{120, 80}, {}}).picture;
    ASSERT_EQ(image::size_of(picture), (image::Size{120, 80}));
    EXPECT_NEAR(level::measure_frame(picture, {}).stops(), level::measure_frame(of_jpeg, {}).stops(), 0.03);
  }
  // OpenEXR by another program: linear light, so its mean is the light itself.
  const Order exr = order(Format::Exr);
  develop(frames_, media::any_source(), exr);
  const std::string said =
      test::run("ffprobe -v error -show_entries stream=width,height,pix_fmt -of csv=p=0 " +
                file(exr, 4).string())
          .out;
  EXPECT_NE(said.find("120,80"), std::string::npos) << said;
}

TEST_F(DevelopTest, CarriesALookAndTheProfile) {
  Order plain = order(Format::Png16), dark = plain;
  dark.folder = folder_ / "dark";
  look::Look look;
  look.light = -1;
  look::set_anchor(dark.looks.anchors, 0, look);
  develop(frames_, media::any_source(), plain);
  develop(frames_, media::any_source(), dark);
  const auto stops = [&](const Order& o) {
    return level::measure_frame(media::any_source().read(media::frame_of(file(o, 2)), {}).picture, {})
        .stops();
  };
  EXPECT_NEAR(stops(plain) - stops(dark), 1, 0.05);
  std::ifstream in(file(plain, 1), std::ios::binary);
  const std::string bytes{std::istreambuf_iterator<char>(in), {}};
  EXPECT_NE(bytes.find("iCCP"), std::string::npos);
}

TEST_F(DevelopTest, GoesOnWhereItWasStoppedAndWritesOverNothing) {
  const Order o = order(Format::Jpeg);
  develop(frames_, media::any_source(), o);
  test::fs::remove(file(o, 5));
  const Outcome again = develop(frames_, media::any_source(), o);
  EXPECT_EQ(again.written, 1u);
  EXPECT_EQ(again.there_already, 11u);
  // Another development in the same folder is refused before anything is written.
  Order other = o;
  other.quality = 60;
  test::fs::remove(file(o, 12));
  EXPECT_THROW(develop(frames_, media::any_source(), other), Error);
  EXPECT_FALSE(test::fs::exists(file(o, 12)));
  // So is a file of the person's.
  test::write(file(o, 12), std::string("mine"));
  EXPECT_THROW(develop(frames_, media::any_source(), o), Error);
  EXPECT_EQ(test::fs::file_size(file(o, 12)), 4u);
}

TEST_F(DevelopTest, LeavesOutWhatCannotBeReadAndKeepsTheNumbers) {
  std::vector<media::Frame> list = *frames_;
  test::write(list[6].file(), std::string("no picture"));
  const Order o = order(Format::Jpeg);
  const Outcome outcome = develop(media::frames_of(list), media::any_source(), o);
  EXPECT_EQ(outcome.written, 11u);
  EXPECT_EQ(outcome.unreadable.size(), 1u);
  EXPECT_FALSE(test::fs::exists(file(o, 7)));
  EXPECT_TRUE(test::fs::exists(file(o, 8)));
}

}  // namespace
}  // namespace askcount::render
