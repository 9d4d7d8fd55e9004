// SPDX-License-Identifier: GPL-3.0-or-later
// A take's frames kept small in memory, so that its film can be played before it is made.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "level/brightness.h"
#include "media/frame_source.h"
#include "render/decoded.h"

namespace askcount::render {

/// How much of a frame is there.
enum class Known {
  Nothing,
  Glance,  ///< the small picture that lies in its file: quickly there, and softer
  Whole    ///< read as the film reads it
};

/// Reads frames on threads of its own in the order they are wanted, and keeps as many as its memory holds:
/// those that are wanted last go first. All of it is safe from any thread.
class SmallFrames {
 public:
  struct Limits {
    int width = 720;                             ///< pixels across that a frame is to have at least
    std::size_t bytes = std::size_t{640} << 20;  ///< of pictures that are kept
    int threads = 0;                             ///< 0 for as many as the machine has
    image::Size film = {};                       ///< its shape is what light is measured within
  };
  /// `arrived` is called from the reading threads after every picture that came.
  SmallFrames(media::Frames frames, std::shared_ptr<const media::FrameSource> source, const Limits& limits,
              std::function<void()> arrived = {});
  /// Stops reading and waits for what is at hand.
  ~SmallFrames();
  SmallFrames(const SmallFrames&) = delete;
  SmallFrames& operator=(const SmallFrames&) = delete;

  /// The frames (from 0) in the order they will be wanted. A first look at each of the next is read before
  /// any is read whole.
  void want(std::vector<std::size_t> order);

  /// What is there of a frame; null where it is not. The whole one where there is one and `most` allows it.
  std::shared_ptr<const render::Decoded> at(std::size_t frame, Known most = Known::Whole) const;
  Known known(std::size_t frame) const;

  /// How far it is with what is wanted.
  struct Filled {
    std::size_t wanted = 0, glanced = 0, whole = 0;  ///< frames; those that cannot be read count as whole
    bool resting = false;                            ///< nothing more is read: all is there, or no more fits
    double rate = 0;  ///< frames read whole in a second, of late; 0 while it is not known
  };
  Filled filled() const;

  /// Waits until nothing more is read.
  void wait() const;

  /// The light of all frames of the take, once each has been read whole, whether it is still kept or not:
  /// what level::measure() would give (null for those that cannot be read). Empty before.
  level::Luminances luminances() const;

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

}  // namespace askcount::render
