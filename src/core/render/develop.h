// SPDX-License-Identifier: GPL-3.0-or-later
// Frames developed into a numbered sequence of pictures, for an editor.
#pragma once

#include <filesystem>
#include <vector>

#include "base/progress.h"
#include "level/levelling.h"
#include "look/anchors.h"
#include "media/frame_source.h"
#include "render/picture_file.h"

namespace askcount::render {

struct Order {
  std::filesystem::path folder;  ///< made where it is not there
  Format format = Format::Jpeg;
  int quality = 95;  ///< of JPEG, 1 to 100
  image::Size size;  ///< its shape is cropped from the middle; {} for all of the frame at its own size
  bool levelled = true;
  level::Smoothing smoothing;
  look::Looks looks;
  long long first_frame = 0;  ///< the take's frame that the first is
};

struct Outcome {
  size_t written = 0, there_already = 0;
  std::vector<std::string> unreadable;  ///< frames that could not be read: their numbers stay free
};

/// Develops every frame as FOLDER/00001.jpg and on, numbered as in the take, levelled and with its look.
/// Pictures of the same development that are there already are kept: what was stopped goes on. Throws
/// BadInput, before anything is written, where another file has the name of one of them, or one that was
/// developed otherwise; Failed where there is not enough room on the disk, and as level::measure(); Cancelled
/// when stopped, with what is done left in place.
Outcome develop(const media::Frames& frames, const media::FrameSource& source, const Order& order,
                const Work& work = {});

}  // namespace askcount::render
