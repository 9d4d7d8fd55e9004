// SPDX-License-Identifier: GPL-3.0-or-later
// Frames that are painted by a function when they are read: what they show is known to a part of a pixel.
#pragma once

#include <functional>

#include "image/tone.h"
#include "media/frame_source.h"
#include "support.h"

namespace askcount::test {

/// Grey codes (0 to 255) of a place in pixels of frame n.
using Paint = std::function<double(size_t n, double x, double y)>;

/// Reads what is painted, of the whole frame at its own size; a frame with a negative code at its corner
/// cannot be read.
class Painted : public media::FrameSource {
 public:
  Painted(image::Size size, Paint paint) : size_(size), paint_(std::move(paint)) {}

  static media::Frames frames(size_t many, image::Size size) {
    std::vector<media::Frame> all;
    for (size_t n = 0; n < many; ++n) {
      media::Exposure e;
      e.compressed = fmt::format("P{:04}.JPG", n);
      e.info.size = size;
      e.info.captured =
          media::CameraTime{} + std::chrono::hours(24 * 365 * 50) + std::chrono::seconds(10 * n);
      media::Frame f;
      f.exposures = {e};
      all.push_back(f);
    }
    return std::make_shared<const std::vector<media::Frame>>(std::move(all));
  }

  bool gives_light(const media::Frame&) const override { return false; }
  media::Shown read(const media::Frame& frame, const media::Want& want) const override {
    const size_t n = std::stoul(frame.file().stem().string().substr(1));
    if (paint_(n, 0, 0) < 0) throw failed(frame.file().string() + " is broken.");
    image::Coded8 p(size_);
    for (int y = 0; y < size_.height; ++y)
      for (int x = 0; x < size_.width; ++x)
        for (int c = 0; c < 3; ++c)
          p.row(y)[3 * x + c] =
              static_cast<std::uint8_t>(std::clamp(paint_(n, x + 0.5, y + 0.5), 0.0, 255.0) + 0.5);
    return {p, image::in_pixels(want.part, size_)};
  }
  image::Picture small(const media::Frame& frame) const override { return read(frame, {}).picture; }

 private:
  image::Size size_;
  Paint paint_;
};

/// A texture without an edge that repeats: the same at every scale of a few pixels and more.
inline double texture(double x, double y) {
  double v = 0;
  for (const double s : {5.3, 8.9, 14.7, 31.0})
    v += std::sin(x / s + 1.7 * std::sin(y / (1.3 * s))) * std::cos(y / s - 0.8 * std::sin(x / (1.9 * s)));
  return 128 + 28 * v;
}

/// Luma of a film's frames as the coding has it (16 to 235), decoded by another program; rows from the top.
inline std::vector<std::vector<int>> film_luma(const fs::path& film, image::Size size) {
  const fs::path raw = film.string() + ".grey";
  run("ffmpeg -v error -y -i '" + film.string() + "' -pix_fmt yuv444p -f rawvideo '" + raw.string() + "'");
  std::ifstream in(raw, std::ios::binary);
  const size_t pixels = static_cast<size_t>(size.width) * static_cast<size_t>(size.height);
  std::vector<char> bytes(3 * pixels);
  std::vector<std::vector<int>> frames;
  while (in.read(bytes.data(), static_cast<long>(bytes.size()))) {
    std::vector<int> luma(pixels);
    for (size_t i = 0; i < pixels; ++i) luma[i] = static_cast<unsigned char>(bytes[i]);
    frames.push_back(std::move(luma));
  }
  fs::remove(raw);
  return frames;
}

/// The luma a grey code has in film.
inline double luma_of(double code) {
  return 16 + code * 219 / 255;
}

}  // namespace askcount::test
