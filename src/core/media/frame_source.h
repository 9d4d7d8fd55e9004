// SPDX-License-Identifier: GPL-3.0-or-later
// Where pictures come from: one way to ask for a frame, whatever kind of file it lies in.
#pragma once

#include <memory>

#include "image/pixels.h"
#include "media/frame.h"
#include "media/sensor_care.h"

namespace askcount::media {

/// What is wanted of a frame.
struct Want {
  /// Pixels that `part` is to have at least, where the file has them; {} for as few as come cheaply.
  image::Size at_least;
  /// The part that will be looked at, as shares of the upright frame. More may be given.
  image::RectF part;
};

/// A frame, or a part of it, upright.
struct Shown {
  image::Picture picture;
  image::RectF part;  ///< where the wanted part lies, in pixels of `picture`
};

/// A kind of file. All functions are const and safe from several threads at once.
class FrameSource {
 public:
  virtual ~FrameSource() = default;

  /// The frame no smaller than wanted, or as large as the file has it. Throws Failed naming the file where it
  /// cannot be read whole; no half picture is ever returned.
  virtual Shown read(const Frame& frame, const Want& want) const = 0;

  /// The frame for looking at: quickly, as the camera shows it. What read() gives, but of a raw file the
  /// picture embedded in it, where there is one. Throws as read().
  virtual Shown preview(const Frame& frame, const Want& want) const { return read(frame, want); }

  /// The brightness of the whole frame as preview() shows it, at least `width` pixels wide where the file has
  /// them: for looking at every frame of a take. Throws as read().
  virtual image::Grey8 grey(const Frame& frame, int width) const;

  /// Whether read() gives the frame as linear light just as large as wanted, or larger; codes otherwise.
  virtual bool gives_light(const Frame& frame) const = 0;

  /// The frame very small, from its embedded thumbnail where there is one. Throws as read().
  virtual image::Picture small(const Frame& frame) const = 0;
};

/// JPEG: scaled by the decoder to the eighth just above what is wanted, and only the rows that are.
class CompressedSource : public FrameSource {
 public:
  bool gives_light(const Frame&) const override { return false; }
  Shown read(const Frame& frame, const Want& want) const override;
  image::Grey8 grey(const Frame& frame, int width) const override;
  image::Picture small(const Frame& frame) const override;
};

/// Raw: developed by LibRaw with the camera's white, linear, in the primaries of BT.709; half the size, not
/// interpolated, where that is enough. `care` is undone before.
class RawSource : public FrameSource {
 public:
  explicit RawSource(SensorCare care = {}) : care_(std::move(care)) {}
  bool gives_light(const Frame&) const override { return true; }
  Shown read(const Frame& frame, const Want& want) const override;
  Shown preview(const Frame& frame, const Want& want) const override;
  image::Picture small(const Frame& frame) const override;

 private:
  SensorCare care_;
};

/// TIFF, PNG and HEIF: always whole. 8 bits a colour stay codes, more become linear light.
class StillSource : public FrameSource {
 public:
  bool gives_light(const Frame& frame) const override;
  Shown read(const Frame& frame, const Want& want) const override;
  image::Picture small(const Frame& frame) const override;
};

/// A picture of a video, no smaller than wanted. Reading on in a film is quick, going about in it
/// is not.
class FilmSource : public FrameSource {
 public:
  bool gives_light(const Frame&) const override { return false; }
  Shown read(const Frame& frame, const Want& want) const override;
  image::Grey8 grey(const Frame& frame, int width) const override;
  image::Picture small(const Frame& frame) const override;
};

/// The source that reads every kind of file there is one for, by the ending of its name; and one that takes
/// care of what the sensor of raw files does by itself.
std::unique_ptr<const FrameSource> source_with(SensorCare care);
const FrameSource& any_source();

}  // namespace askcount::media
