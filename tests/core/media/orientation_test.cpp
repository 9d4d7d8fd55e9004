// SPDX-License-Identifier: GPL-3.0-or-later
// The eight ways a camera may be held, and metadata read by many threads at once.
#include <exiv2/exiv2.hpp>
#include <thread>

#include "image/pixels.h"
#include "media/frame_source.h"
#include "media/jpeg.h"
#include "media/metadata.h"
#include "support.h"

namespace askcount::media {
namespace {

using image::Coded8;
using image::Size;

/// Four corners told apart by their reds: 10, 20, 30, 40 from the upper left clockwise.
Coded8 corners() {
  Coded8 p(Size{3, 2});
  std::fill(p.rgb.begin(), p.rgb.end(), std::uint8_t{0});
  p.row(0)[0] = 10;
  p.row(0)[6] = 20;
  p.row(1)[6] = 30;
  p.row(1)[0] = 40;
  return p;
}

std::array<int, 4> clockwise(const Coded8& p) {
  const int right = 3 * (p.size.width - 1), low = p.size.height - 1;
  return {p.row(0)[0], p.row(0)[right], p.row(low)[right], p.row(low)[0]};
}

/// By the definition of the tag (TIFF 6.0, Orientation): where the stored picture's row 0 and column 0 are to
/// be seen.
TEST(Orientation, TurnsAndMirrorsAsTheTagSays) {
  const std::map<int, std::array<int, 4>> seen = {
      {1, {10, 20, 30, 40}},  // row 0 top, column 0 left
      {2, {20, 10, 40, 30}},  // top, right
      {3, {30, 40, 10, 20}},  // bottom, right
      {4, {40, 30, 20, 10}},  // bottom, left
      {5, {10, 40, 30, 20}},  // left, top
      {6, {40, 10, 20, 30}},  // right, top
      {7, {30, 20, 10, 40}},  // right, bottom
      {8, {20, 30, 40, 10}},  // left, bottom
  };
  for (const auto& [orientation, corners_seen] : seen) {
    const Coded8 turned = image::oriented(corners(), orientation);
    EXPECT_EQ(clockwise(turned), corners_seen) << orientation;
    EXPECT_EQ(turned.size, orientation >= 5 ? (Size{2, 3}) : (Size{3, 2})) << orientation;
    EXPECT_EQ(image::upright({3, 2}, orientation), turned.size) << orientation;
  }
  for (const int odd : {0, 9, -1}) EXPECT_EQ(clockwise(image::oriented(corners(), odd)), seen.at(1)) << odd;
}

TEST(Orientation, FramesAreReadUpright) {
  const test::Folder folder;
  Coded8 half(Size{64, 32});  // bright on its left
  for (int y = 0; y < 32; ++y)
    for (int x = 0; x < 192; ++x) half.row(y)[x] = x < 96 ? 220 : 20;
  for (int orientation = 1; orientation <= 8; ++orientation) {
    ShotInfo info;
    info.orientation = orientation;
    test::write(folder / "a.jpg", with_metadata(encode_jpeg(half, 95), info, {}));
    const Frame frame = frame_of(folder / "a.jpg");
    const Coded8 seen = std::get<Coded8>(any_source().small(frame));
    const Coded8 wanted = image::oriented(half, orientation);
    ASSERT_EQ(seen.size.width > seen.size.height, wanted.size.width > wanted.size.height) << orientation;
    // The bright half is where it is to be: compared at the middles of the four sides.
    const auto at = [](const Coded8& p, double x, double y) {
      return p.row(static_cast<int>(y * (p.size.height - 1)))[3 * static_cast<int>(x * (p.size.width - 1))];
    };
    for (const auto& [x, y] : {std::pair{0.1, 0.5}, {0.9, 0.5}, {0.5, 0.1}, {0.5, 0.9}})
      EXPECT_NEAR(at(seen, x, y), at(wanted, x, y), 40) << orientation << " at " << x << " " << y;
  }
}

/// The library that reads XMP is not for several threads by itself: read here by eight at once.
TEST(Metadata, IsReadByManyThreadsAtOnce) {
  const test::Folder folder;
  constexpr int kFiles = 6;
  for (int n = 0; n < kFiles; ++n) {
    ShotInfo info;
    info.iso = 100 * (n + 1);
    info.captured = CameraTime(std::chrono::milliseconds(1791568200000LL + 1000 * n));
    const test::fs::path file = folder / fmt::format("{}.jpg", n);
    test::write(file, with_metadata(encode_jpeg(corners(), 90), info, {}));
    const auto image = Exiv2::ImageFactory::open(file.string());
    image->readMetadata();
    image->xmpData()["Xmp.xmp.Rating"] = n % 5 + 1;
    image->writeMetadata();
  }
  std::atomic<int> wrong = 0, read = 0;
  {
    std::vector<std::jthread> readers;
    for (int t = 0; t < 8; ++t)
      readers.emplace_back([&, t] {
        for (int k = 0; k < 60; ++k) {
          const int n = (k + t) % kFiles;
          const ShotInfo info = read_shot_info(folder / fmt::format("{}.jpg", n));
          ++read;
          if (info.iso != 100 * (n + 1) || info.stars != n % 5 + 1) ++wrong;
        }
      });
  }
  EXPECT_EQ(read, 8 * 60);
  EXPECT_EQ(wrong, 0);
}

}  // namespace
}  // namespace askcount::media
