// SPDX-License-Identifier: GPL-3.0-or-later
// Pictures in memory.
#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <new>
#include <utility>
#include <variant>
#include <vector>

#include "image/big_blocks.h"

namespace askcount::image {

/// Width and height in pixels.
struct Size {
  int width = 0;
  int height = 0;
  bool operator==(const Size&) const = default;
  double shape() const { return height ? static_cast<double>(width) / height : 0; }
};

/// A part of a picture, in its pixels.
struct Rect {
  int x = 0, y = 0, width = 0, height = 0;
  bool operator==(const Rect&) const = default;
};

/// A part of a picture that need not fall on pixels; in pixels, or as shares (0 to 1) of width and height.
struct RectF {
  double x = 0, y = 0, width = 1, height = 1;
  bool operator==(const RectF&) const = default;
};

/// Of vectors that do not write zeros over memory about to be written anyway, and whose memory serves again.
template <typename T>
struct Unfilled : std::allocator<T> {
  T* allocate(std::size_t n) {
    if (n * sizeof(T) < kBigBlock) return std::allocator<T>::allocate(n);
    return static_cast<T*>(take_big_block(n * sizeof(T)));
  }
  void deallocate(T* place, std::size_t n) {
    if (n * sizeof(T) < kBigBlock) return std::allocator<T>::deallocate(place, n);
    give_big_block(place, n * sizeof(T));
  }
  template <typename U>
  struct rebind {  // NOLINT(readability-identifier-naming): the name allocators must have
    using other = Unfilled<U>;
  };
  template <typename U>
  void construct(U* place) {
    ::new (static_cast<void*>(place)) U;
  }
  template <typename U, typename... Args>
  void construct(U* place, Args&&... args) {
    ::new (static_cast<void*>(place)) U(std::forward<Args>(args)...);
  }
};

/// Pixels that a picture may have: more is damage, whatever its file says.
inline constexpr std::int64_t kMostPixels = std::int64_t{1} << 29;

/// How many pixels a picture of that size has. Throws Failed for one that is too large, before anything is
/// allocated.
std::size_t pixels_in(Size size);

/// Red, green and blue of every pixel, rows from the top without gaps. A new one has no defined content.
template <typename Sample>
struct Pixels {
  Size size;
  std::vector<Sample, Unfilled<Sample>> rgb;

  Pixels() = default;
  explicit Pixels(Size s) : size(s), rgb(pixels_in(s) * 3) {}
  bool empty() const { return rgb.empty(); }
  const Sample* row(int y) const { return rgb.data() + static_cast<size_t>(y) * size.width * 3; }
  Sample* row(int y) { return rgb.data() + static_cast<size_t>(y) * size.width * 3; }
};

/// sRGB-coded, 8 bits a colour.
struct Coded8 : Pixels<std::uint8_t> {
  using Pixels::Pixels;
};

/// sRGB-coded, 16 bits a colour.
struct Coded16 : Pixels<std::uint16_t> {
  using Pixels::Pixels;
};

/// Scene-linear light; 1.0 is the white of the coding.
struct Linear32 : Pixels<float> {
  using Pixels::Pixels;
  /// The most light there can be. What is beyond 1 is bent below white when it is drawn (Shoulder), after it
  /// was levelled.
  float top = 1;
};

/// sRGB-coded luma, 8 bits, rows from the top without gaps.
struct Grey8 {
  Size size;
  std::vector<std::uint8_t, Unfilled<std::uint8_t>> luma;

  Grey8() = default;
  explicit Grey8(Size s) : size(s), luma(pixels_in(s)) {}
  bool empty() const { return luma.empty(); }
  const std::uint8_t* row(int y) const { return luma.data() + static_cast<size_t>(y) * size.width; }
  std::uint8_t* row(int y) { return luma.data() + static_cast<size_t>(y) * size.width; }
};

/// A picture as its source has it.
using Picture = std::variant<Coded8, Linear32>;

/// Its width and height.
Size size_of(const Picture& picture);

/// The largest part of `from` with the shape of `to`, in the middle, as shares; all of it where either is
/// empty. Nothing is ever squashed.
RectF part_of_shape(Size from, Size to);

/// A part given as shares in the pixels of a picture of this size.
RectF in_pixels(const RectF& share, Size size);

/// The pixels that lie in a part given in pixels, at least one.
Rect whole_pixels(const RectF& part, Size size);

/// Width and height once turned as the EXIF orientation 1 to 8 asks.
Size upright(Size stored, int orientation);

/// A copy turned as the EXIF orientation 1 to 8 asks; others leave it as it is.
Coded8 oriented(const Coded8& picture, int orientation);
Linear32 oriented(const Linear32& picture, int orientation);
Picture oriented(Picture picture, int orientation);  // not copied where it stays as it is
Grey8 oriented(const Grey8& picture, int orientation);

}  // namespace askcount::image
