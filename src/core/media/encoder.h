// SPDX-License-Identifier: GPL-3.0-or-later
// Film written through the FFmpeg libraries.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "base/frame_rate.h"
#include "base/output.h"
#include "media/coding.h"
#include "media/frame_buffer.h"
#include "media/sound.h"

namespace askcount::media {

/// A place of a film that players can jump to.
struct Chapter {
  double at_s = 0;
  std::string title;
  bool operator==(const Chapter&) const = default;
};

/// What a film carries besides its pictures.
struct Extras {
  double length_s = 0;  ///< of the film; needed for sound and chapters
  Sound sound;
  std::string title, words, place, author;  ///< said in the film's own metadata; empty for not
  std::vector<Chapter> chapters;            ///< in order; empty for none
};

/// Writes one film. The container follows the ending of the name it is to have (`named`); it is written to
/// `file`. Not safe from several threads at once. Throws BadInput as check_coding() and check_sound(), and
/// for sound where the container holds none; Failed where the disk or the encoder gives up.
class Encoder {
 public:
  Encoder(const std::filesystem::path& file, const std::filesystem::path& named, image::Size size,
          FrameRate fps, const Coding& coding, const Extras& extras = {});
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

}  // namespace askcount::media
