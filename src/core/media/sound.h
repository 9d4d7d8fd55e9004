// SPDX-License-Identifier: GPL-3.0-or-later
// Sound laid under a film: read from any file, faded and cut to the film's length.
#pragma once

#include <cstdint>
#include <filesystem>
#include <memory>
#include <vector>

namespace askcount::media {

/// What is laid under a film.
struct Sound {
  std::filesystem::path file;  ///< empty for none
  double from_s = 0;           ///< where in the file it begins
  double fade_in_s = 0, fade_out_s = 0;
  bool operator==(const Sound&) const = default;
};

/// Throws BadInput naming the file where there is no sound in it that can be read.
void check_sound(const Sound& sound);

/// Sound in two channels of 48,000 samples a second, read piece by piece. Not safe from several threads.
class SoundReader {
 public:
  static constexpr int kRate = 48000;
  /// `length_s` is the film's: what is longer is cut, faded out before; what is shorter is faded out at its
  /// own end where that is known. Throws as check_sound().
  SoundReader(const Sound& sound, double length_s);
  ~SoundReader();
  SoundReader(const SoundReader&) = delete;
  SoundReader& operator=(const SoundReader&) = delete;

  /// The next samples, left then right of each, up to this many of both; fewer at the end.
  std::vector<float> next(size_t samples);

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

/// How loud the sound is in each of this many equal pieces of the film: root mean square of both channels
/// with its fades, 0 to 1. Throws as check_sound().
std::vector<float> sound_levels(const Sound& sound, double length_s, size_t pieces);

}  // namespace askcount::media
