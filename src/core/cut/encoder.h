// Film written through the FFmpeg libraries.
#pragma once

#include <filesystem>
#include <memory>

#include "base/frame_rate.h"
#include "cut/resample.h"

namespace askcount::cut {

/// How film is encoded: H.264 by x264.
struct Coding {
  int quality = 18;  ///< constant rate factor, 0 (lossless) to 51
  std::string preset = "medium";
  bool operator==(const Coding&) const = default;
};

/// A frame buffer the encoder can take without copying.
class FrameBuffer {
 public:
  explicit FrameBuffer(picture::Size size);
  ~FrameBuffer();
  FrameBuffer(const FrameBuffer&) = delete;
  FilmFrame film() const;

 private:
  friend class Encoder;
  struct Data;
  std::unique_ptr<Data> data_;
};

/// Writes one film. The container follows the name it is to have (`named`: .mp4, .mov or .mkv); it is written
/// to `file`. Not safe from several threads at once. Throws BadInput for a size, rate or name it cannot do,
/// Failed where the disk or the encoder gives up.
class Encoder {
 public:
  Encoder(const std::filesystem::path& file, const std::filesystem::path& named, picture::Size size,
          FrameRate fps, const Coding& coding);
  ~Encoder();
  Encoder(const Encoder&) = delete;

  /// The next frame. Its buffer belongs to the encoder from here on.
  void add(FrameBuffer& frame);
  /// Writes what is still inside and closes the file.
  void finish();

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

/// Throws BadInput unless film of this name and size can be written (even, 16 to 8192 pixels).
void check_film(const std::filesystem::path& named, picture::Size size);

}  // namespace askcount::cut
