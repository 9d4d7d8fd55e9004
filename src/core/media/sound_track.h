// SPDX-License-Identifier: GPL-3.0-or-later
// The sound of a film that is being written.
#pragma once

extern "C" {
#include <libavformat/avformat.h>
}

#include <memory>

#include "media/sound.h"

namespace askcount::media {

/// Encodes sound into a file whose header is not written yet, by an encoder of the FFmpeg libraries as the
/// tables of codecs and containers name it. The functions that write return an error of the FFmpeg libraries,
/// or 0 and above.
class SoundTrack {
 public:
  /// Throws as SoundReader, and Failed where there is no such encoder.
  SoundTrack(const Sound& sound, double length_s, AVFormatContext& format, const char* encoder);
  ~SoundTrack();
  SoundTrack(const SoundTrack&) = delete;
  SoundTrack& operator=(const SoundTrack&) = delete;

  /// Writes sound up to a moment of the film.
  int write_until(double film_s, AVFormatContext& format);
  int finish(AVFormatContext& format);

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

}  // namespace askcount::media
