// Finished film: what is really in the file, and its pictures for playing.
#pragma once

#include <filesystem>
#include <memory>
#include <optional>
#include <stop_token>
#include <string>

#include "base/frame_rate.h"
#include "image/pixels.h"

namespace askcount::film {

/// What a film file holds, counted and not believed from its header.
struct FilmFacts {
  long long frames = 0;
  double duration_s = 0;
  FrameRate fps;
  image::Size size;
  std::string codec;
};

/// Opens a film and counts its frames. Throws Failed naming the file where it is no film.
FilmFacts read_film(const std::filesystem::path& file);

/// Reads a film's pictures in order.
class FilmReader {
 public:
  /// Throws Failed naming the file.
  explicit FilmReader(const std::filesystem::path& file);
  ~FilmReader();
  FilmReader(FilmReader&&) noexcept;
  FilmReader& operator=(FilmReader&&) noexcept;

  FrameRate fps() const;
  image::Size size() const;
  /// The next picture scaled to `fit` (the film's own size where empty); nothing at the end, or once stopped
  /// (on the way to a frame that was sought many may have to be decoded).
  std::optional<image::Coded8> next(image::Size fit = {}, const std::stop_token& stop = {});
  /// Goes so that the next picture is the one at or just after `frame`.
  void seek(long long frame);

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

}  // namespace askcount::film
