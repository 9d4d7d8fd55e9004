// SPDX-License-Identifier: GPL-3.0-or-later
// Finished film: what is really in the file, and its pictures for playing.
#pragma once

#include <filesystem>
#include <memory>
#include <optional>
#include <stop_token>
#include <string>

#include "base/frame_rate.h"
#include "base/instant.h"
#include "image/pixels.h"

namespace askcount::media {

/// What a film file holds, counted and not believed from its header.
struct FilmFacts {
  long long frames = 0;   ///< that can be found in it
  long long indexed = 0;  ///< that it should have by its own index or length; more where it is cut short
  double duration_s = 0;
  FrameRate fps;
  image::Size size;     ///< as stored
  int orientation = 1;  ///< how it is to be turned upright, as EXIF 1 to 8
  std::string codec;
  double sound_s = 0;           ///< length of its sound; 0 for none
  std::string camera;           ///< that recorded it, where it says so
  std::optional<Instant> made;  ///< when its recording began, where it says so
};

/// Opens a film and counts its frames. Throws Failed naming the file where it is no film.
FilmFacts read_film(const std::filesystem::path& file);

/// What the pictures and the sound of a film take in its file.
struct FilmWeights {
  std::size_t keys = 0, others = 0;  ///< pictures that stand by themselves, and those that need others
  double key_bytes = 0, other_bytes = 0;
  double sound_bytes = 0, rest_bytes = 0;  ///< the rest is what holds it together
};

/// Weighs a film. Throws as read_film(); of animated WebP every picture counts as a key.
FilmWeights weigh_film(const std::filesystem::path& file);

/// The FFmpeg libraries say nothing on the terminal: what is wrong is said by whoever asked them.
void quieten_film_libraries();

/// Reads a film's pictures in order.
class FilmReader {
 public:
  /// Decodes on this many threads. Throws Failed naming the file.
  explicit FilmReader(const std::filesystem::path& file, int threads = 2);
  ~FilmReader();
  FilmReader(FilmReader&&) noexcept;
  FilmReader& operator=(FilmReader&&) noexcept;

  FrameRate fps() const;
  image::Size size() const;
  /// The next picture as stored, in the codes of sRGB's primaries, scaled to `fit` (the film's own size where
  /// empty); nothing at the end, or once stopped (on the way to a frame that was sought many may have to be
  /// decoded).
  std::optional<image::Coded8> next(image::Size fit = {}, const std::stop_token& stop = {});
  /// Goes so that the next picture is the one at or just after `frame`.
  void seek(long long frame);
  /// The same for a frame further on, by decoding what lies between.
  void pass_to(long long frame);
  /// Whether the picture that was read last was made up by the decoder in part, for its data are damaged.
  bool damaged() const;

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

}  // namespace askcount::media
