// SPDX-License-Identifier: GPL-3.0-or-later
// A film frame as encoders take it.
#pragma once

#include <cstdint>
#include <memory>

#include "image/pixels.h"

namespace askcount::media {

/// How many colour samples there are: one for two by two pixels, or for two beside each other.
enum class Chroma { Half420, Half422 };

/// How red, green and blue become luma and differences: ITU-R BT.709, or BT.601 for film of the size of
/// standard definition, which players take to be so whatever its tags say.
enum class Matrix { Bt709, Bt601 };

/// BT.601 for 480 to 576 lines of at most 768 pixels.
inline Matrix matrix_of(image::Size film) {
  return film.height >= 480 && film.height <= 576 && film.width <= 768 ? Matrix::Bt601 : Matrix::Bt709;
}

/// Y′CbCr of BT.709's primaries, limited range, 8 bits in a byte or 10 in two. Width and height are even.
struct FilmFrame {
  image::Size size;
  int bits = 8;
  Chroma chroma = Chroma::Half420;
  Matrix matrix = Matrix::Bt709;
  std::uint8_t* plane[3] = {};
  int stride[3] = {};  ///< bytes from row to row

  /// A row of a plane; Sample is std::uint8_t for 8 bits, std::uint16_t for 10.
  template <typename Sample>
  Sample* row(int which, int y) const {
    return reinterpret_cast<Sample*>(plane[which] + static_cast<std::ptrdiff_t>(y) * stride[which]);
  }
};

/// Memory for one film frame that the encoder takes without copying, and that can be drawn into again once
/// the encoder has it.
class FrameBuffer {
 public:
  /// `bits` is 8 or 10. Throws Failed where there is no memory.
  explicit FrameBuffer(image::Size size, int bits = 8, Chroma chroma = Chroma::Half420);
  ~FrameBuffer();
  FrameBuffer(const FrameBuffer&) = delete;
  FrameBuffer& operator=(const FrameBuffer&) = delete;
  FilmFrame film() const;

 private:
  friend class Encoder;
  struct Data;
  std::unique_ptr<Data> data_;
};

}  // namespace askcount::media
