// SPDX-License-Identifier: GPL-3.0-or-later
// Film frames as red, green and blue, for the codecs of moving pictures that are no film.
#pragma once

extern "C" {
#include <libavutil/frame.h>
}

#include <functional>
#include <memory>

#include "base/frame_rate.h"
#include "image/pixels.h"

namespace askcount::media {

/// Turns frames of a film into those animated WebP and GIF take: full colours, or a palette of 255 of each
/// picture's own. Times are in thousandths and hundredths of a second.
class Coloured {
 public:
  using Take = std::function<void(AVFrame*)>;
  /// Throws Failed where the FFmpeg libraries cannot.
  Coloured(image::Size size, AVPixelFormat from, FrameRate fps, bool palette);
  ~Coloured();
  Coloured(const Coloured&) = delete;
  Coloured& operator=(const Coloured&) = delete;

  AVPixelFormat format() const;
  AVRational time_base() const;
  /// A frame whose time counts frames; `take` gets what comes out.
  void add(const AVFrame* frame, const Take& take);
  void finish(const Take& take);

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

}  // namespace askcount::media
