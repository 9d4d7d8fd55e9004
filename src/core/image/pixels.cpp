// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/pixels.h"

#include <algorithm>
#include <cmath>
#include <opencv2/core.hpp>
#include <type_traits>

#include "base/error.h"
#include "base/language.h"

namespace askcount::image {

std::size_t pixels_in(Size size) {
  const std::int64_t all = std::int64_t{size.width} * size.height;
  if (size.width < 0 || size.height < 0 || all > kMostPixels)
    throw failed(say("A picture of {} × {} pixels is too large to be read.", size.width, size.height));
  return static_cast<std::size_t>(all);
}

Size size_of(const Picture& picture) {
  return std::visit([](const auto& p) { return p.size; }, picture);
}

RectF part_of_shape(Size from, Size to) {
  RectF part;
  const double have = from.shape(), wanted = to.shape();
  if (have <= 0 || wanted <= 0) return part;
  part.width = std::min(1.0, wanted / have);
  part.height = std::min(1.0, have / wanted);
  part.x = (1 - part.width) / 2;
  part.y = (1 - part.height) / 2;
  return part;
}

RectF in_pixels(const RectF& share, Size size) {
  return {share.x * size.width, share.y * size.height, share.width * size.width, share.height * size.height};
}

Rect whole_pixels(const RectF& part, Size size) {
  const auto span = [](double from, double length, int most) {
    const int first = std::clamp(static_cast<int>(std::lround(from)), 0, std::max(0, most - 1));
    const int end = std::clamp(static_cast<int>(std::lround(from + length)), first + 1, std::max(1, most));
    return std::pair(first, end - first);
  };
  const auto [x, width] = span(part.x, part.width, size.width);
  const auto [y, height] = span(part.y, part.height, size.height);
  return {x, y, width, height};
}

Size upright(Size stored, int orientation) {
  return orientation >= 5 && orientation <= 8 ? Size{stored.height, stored.width} : stored;
}

namespace {

template <class Pixels>
Pixels turned_to(const Pixels& in, int orientation, int type) {
  if (orientation <= 1 || orientation > 8) return in;
  const bool turned = orientation >= 5;
  Pixels out(upright(in.size, orientation));
  if constexpr (std::is_same_v<Pixels, Linear32>) out.top = in.top;
  const cv::Mat from(in.size.height, in.size.width, type,
                     const_cast<void*>(static_cast<const void*>(in.row(0))));
  cv::Mat to(out.size.height, out.size.width, type, out.row(0));
  // 5 to 8 are 1 to 4 with rows and columns exchanged first; what is left is a flip.
  constexpr int kNone = 2, kAcross = 1, kDown = 0, kBoth = -1;
  constexpr int kFlip[] = {kNone, kAcross, kBoth, kDown, kNone, kAcross, kBoth, kDown};
  const cv::Mat straight = turned ? cv::Mat(from.t()) : from;
  const int flip = kFlip[orientation - 1];
  if (flip == kNone)
    straight.copyTo(to);
  else
    cv::flip(straight, to, flip);
  return out;
}

}  // namespace

Coded8 oriented(const Coded8& picture, int orientation) {
  return turned_to(picture, orientation, CV_8UC3);
}

Linear32 oriented(const Linear32& picture, int orientation) {
  return turned_to(picture, orientation, CV_32FC3);
}

Grey8 oriented(const Grey8& picture, int orientation) {
  return turned_to(picture, orientation, CV_8UC1);
}

Picture oriented(Picture picture, int orientation) {
  if (orientation <= 1 || orientation > 8) return picture;
  return std::visit([&](const auto& p) { return Picture(oriented(p, orientation)); }, picture);
}

}  // namespace askcount::image
