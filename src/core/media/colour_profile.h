// SPDX-License-Identifier: GPL-3.0-or-later
// The colours of a picture whose file says whose they are (ICC), made those of sRGB.
#pragma once

#include <memory>
#include <span>

#include "image/pixels.h"

namespace askcount::media {

/// A profile of three colours that are not those of sRGB. Colours that sRGB has not are cut off at its edge.
/// Const and safe from several threads at once.
class ColourProfile {
 public:
  /// From a file's ICC bytes. Null where there are none, where they are damaged or not of red, green and blue
  /// (the picture is taken as sRGB, as if nothing was said), and where they say what sRGB says, to half a
  /// code.
  static std::shared_ptr<const ColourProfile> of(std::span<const std::uint8_t> icc);

  /// The second space that cameras write (DCF 2.0, "optional colour space", told by R03 in the EXIF): wider
  /// greens, a plain power for coding.
  static std::shared_ptr<const ColourProfile> dcf_optional();

  ~ColourProfile();
  ColourProfile(const ColourProfile&) = delete;

  /// Codes of 8 bits become codes of sRGB, in place.
  void to_srgb(image::Coded8& picture) const;
  /// `n` pixels of three codes of 16 bits become linear light in the primaries of BT.709.
  void to_linear(const std::uint16_t* codes, float* rgb, int n) const;

 private:
  struct Transforms;
  explicit ColourProfile(std::unique_ptr<Transforms> made);
  static std::shared_ptr<const ColourProfile> from(void* profile);
  std::unique_ptr<Transforms> made_;
};

}  // namespace askcount::media
