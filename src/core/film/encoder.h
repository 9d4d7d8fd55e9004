// Film written through the FFmpeg libraries.
#pragma once

#include <filesystem>
#include <memory>
#include <string>

#include "base/frame_rate.h"
#include "base/output.h"
#include "film/frame_buffer.h"

namespace askcount::film {

/// How film is encoded: H.264 by x264.
struct Coding {
  int quality = 18;  ///< constant rate factor, 0 (lossless) to 51
  std::string preset = "medium";
  int bits = 8;  ///< 8 or 10 for every colour
  Chroma chroma = Chroma::Half420;
  bool operator==(const Coding&) const = default;
};

/// Writes one film. The container follows the name it is to have (`named`: .mp4, .mov or .mkv); it is written
/// to `file`. Not safe from several threads at once. Throws BadInput for a size, rate, depth or name it
/// cannot do, Failed where the disk or the encoder gives up.
class Encoder {
 public:
  Encoder(const std::filesystem::path& file, const std::filesystem::path& named, image::Size size,
          FrameRate fps, const Coding& coding);
  ~Encoder();
  Encoder(const Encoder&) = delete;
  Encoder& operator=(const Encoder&) = delete;

  /// The next frame. What it holds may be drawn over once this returns.
  void add(FrameBuffer& frame);
  /// Writes what is still inside and closes the file.
  void finish();

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

/// Whether a film carries our mark: Ask Count made it. False for what is no film.
bool made_by_us(const std::filesystem::path& film);

/// Throws as check_output(), and BadInput where a film is there that Ask Count did not make (unless forced).
void check_film_output(const Output& output);

/// Throws BadInput unless film of this name, size (even, 16 to 8192 pixels) and depth can be written.
void check_film(const std::filesystem::path& named, image::Size size, int bits = 8);

}  // namespace askcount::film
