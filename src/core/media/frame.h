// SPDX-License-Identifier: GPL-3.0-or-later
// A take's frames as they lie on a card or in a folder.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "media/metadata.h"

namespace askcount::media {

/// One opening of the shutter: a raw file, a picture that is ready to be seen (JPEG, TIFF, PNG, HEIF), or
/// both.
struct Exposure {
  std::filesystem::path raw, compressed;        ///< empty where there is none
  std::vector<std::filesystem::path> sidecars;  ///< files of the same name that travel with it
  ShotInfo info;
  std::string trouble;  ///< why it cannot be read; empty where it can

  bool readable() const { return trouble.empty(); }
  /// The file to look at: the compressed one where there is one.
  const std::filesystem::path& file() const { return compressed.empty() ? raw : compressed; }
};

/// What becomes of the exposures of a bracket.
enum class Blend {
  Middle,  ///< the middle one alone, by its light
  Merged,  ///< one linear picture of all
  Fused,   ///< each part from the one that shows it best
};

/// One frame of a take: one exposure, or the exposures of a bracket in the order they were made.
struct Frame {
  std::vector<Exposure> exposures;
  std::size_t middle = 0;  ///< the exposure that stands for the frame
  Blend blend = Blend::Middle;
  bool set_aside = false;  ///< by the person's wish its neighbours stand in for it in films

  Frame() = default;
  explicit Frame(Exposure exposure) { exposures.push_back(std::move(exposure)); }
  /// Of a bracket, in the order they were made; not empty.
  explicit Frame(std::vector<Exposure> bracket);

  /// Whether it is seen as one picture of several.
  bool blends() const { return blend != Blend::Middle && exposures.size() > 1; }
  /// The exposure that stands for the frame: the only one, or the middle one of a bracket by its light.
  const Exposure& main() const { return exposures[middle]; }
  const std::filesystem::path& file() const { return main().file(); }
  const ShotInfo& info() const { return main().info; }
  const std::string& trouble() const { return main().trouble; }
  /// Whether it can be read at all; and whether films are to show it.
  bool readable() const { return main().readable(); }
  bool shown() const { return readable() && !set_aside; }
};

/// Its size as it is looked at: turned as its metadata say.
inline image::Size upright_size(const Frame& frame) {
  return image::upright(frame.info().size, frame.info().orientation);
}

/// The frames of a take in the order they were shot; shared, and never changed once there.
using Frames = std::shared_ptr<const std::vector<Frame>>;

/// A picture file as a frame of one exposure, with its metadata. One that cannot be read says so in its
/// exposure's `trouble`; nothing is thrown.
Frame frame_of(const std::filesystem::path& file);

/// Wraps a list up as Frames.
inline Frames frames_of(std::vector<Frame> list) {
  return std::make_shared<const std::vector<Frame>>(std::move(list));
}

}  // namespace askcount::media
