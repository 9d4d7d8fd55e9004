// SPDX-License-Identifier: GPL-3.0-or-later
// A videos as a source: every nth of its pictures is an exposure.
//
// A picture of a film is named as if the film were a folder: `walk.mov/000120` is its picture 120, counted
// from 0. What lies on the disk is the film.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/frame_rate.h"
#include "media/frame.h"

namespace askcount::media {

/// Whether a path names a picture of a film. Goes by the name; nothing is opened.
bool is_in_film(const std::filesystem::path& file);

/// The file on the disk that a picture lies in: the film for a picture of one, otherwise itself.
std::filesystem::path on_disk(const std::filesystem::path& file);

/// The number of a picture of a film, from 0; −1 for what is none.
long long picture_in_film(const std::filesystem::path& file);

/// How many pictures of their film there are from one frame to the next; 1 for fewer than two frames.
long long film_step(const std::vector<Frame>& frames);

/// What a picture is called among others: its file's name, or `walk.mov/000120`.
std::string name_of(const std::filesystem::path& file);

/// Every `every`th picture of a film (1 or more), beginning with its first, as exposures. Each was captured
/// at the film's own time of making plus its number by the film's own rate; where the film does not say when
/// it was made, the file's last change is taken for its end. Throws Failed naming the film where it cannot be
/// read, BadInput where it has no rate.
std::vector<Exposure> film_frames(const std::filesystem::path& film, long long every, double stretch = 1);

/// How many pictures a film has. Throws as film_frames().
long long film_pictures(const std::filesystem::path& film);

/// The rate a film was recorded at. Throws as film_frames().
FrameRate film_rate(const std::filesystem::path& film);

}  // namespace askcount::media
