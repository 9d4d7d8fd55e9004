// Pictures in memory.
#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <new>
#include <utility>
#include <vector>

namespace askcount::picture {

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

/// A vector that does not write zeros over memory about to be written anyway.
template <typename T>
struct Unfilled : std::allocator<T> {
  template <typename U>
  struct rebind {
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

/// sRGB-coded picture, 8 bits, three bytes a pixel: red, green, blue, rows from the top without gaps. A new
/// one has no defined content.
struct Picture8 {
  Size size;
  std::vector<std::uint8_t, Unfilled<std::uint8_t>> rgb;

  Picture8() = default;
  explicit Picture8(Size s) : size(s), rgb(static_cast<size_t>(s.width) * s.height * 3) {}
  bool empty() const { return rgb.empty(); }
  const std::uint8_t* row(int y) const { return rgb.data() + static_cast<size_t>(y) * size.width * 3; }
  std::uint8_t* row(int y) { return rgb.data() + static_cast<size_t>(y) * size.width * 3; }
};

/// Scene-linear picture, 1.0 is the white of the coding; red, green, blue, rows from the top without gaps.
struct LinearPicture {
  Size size;
  std::vector<float> rgb;

  LinearPicture() = default;
  explicit LinearPicture(Size s) : size(s), rgb(static_cast<size_t>(s.width) * s.height * 3) {}
  const float* row(int y) const { return rgb.data() + static_cast<size_t>(y) * size.width * 3; }
  float* row(int y) { return rgb.data() + static_cast<size_t>(y) * size.width * 3; }
};

/// The largest part of `from` with the shape of `to`, in the middle; even coordinates. Nothing is ever
/// squashed.
Rect crop_to_shape(Size from, Size to);

/// A copy turned as the EXIF orientation 1 to 8 asks; others leave it as it is.
Picture8 oriented(const Picture8& picture, int orientation);

}  // namespace askcount::picture
