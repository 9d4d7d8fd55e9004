// SPDX-License-Identifier: GPL-3.0-or-later
// The film a take wishes for.
#pragma once

#include <filesystem>
#include <memory>
#include <optional>

#include "ingest/gather.h"
#include "level/brightness.h"
#include "optics/mended_source.h"
#include "render/plan.h"
#include "take/take.h"

namespace askcount::films {

/// The frame rate a take says, whether the rest of its plan is known or not.
std::optional<FrameRate> film_rate(const take::Take& take);

/// The rate of one of its films: its own, or the plan's.
std::optional<FrameRate> rate_of(const take::Take& take, const take::FilmWish& film);

/// How the take wants its flicker smoothed, at its frame rate.
level::Smoothing smoothing_of(const take::Take& take);

/// Frames worth an anchor, counted from 0: the first and the last of a take whose light changes, and between
/// them where it has changed by as much again, in brightness or colour; none where it stays.
std::vector<size_t> suggested_anchors(const level::Evenness& evenness);

/// How the take's frames are read: without what lens and sensor did, as it wishes. `folder` is where the
/// take's file lies. Throws as optics::mending_of(); reads the dark frame, so not for a window's own thread.
std::shared_ptr<const optics::MendedSource> source_of(const take::Take& take,
                                                      const std::filesystem::path& folder,
                                                      const media::Frames& frames);

/// The take's looks, with its table of colours. `folder` is where the take's file lies; `frames` (null for
/// none) tell the warmth they were shot with: the middle of what raw files say, daylight where none says.
/// Throws as look::load_cube.
look::Looks looks_of(const take::Take& take, const std::filesystem::path& folder,
                     const media::Frames& frames = {});

/// Every file that a take names (cards, sounds of all its films, tables, pictures): none of its films is
/// written over one.
std::vector<std::filesystem::path> inputs_of(const take::Take& take, const std::filesystem::path& folder);

/// The film to be made of a take's frames, at the plan's frame rate, levelled and developed as it says.
/// Throws BadInput where the rate is not set, and as looks_of().
render::FilmOrder film_order(const take::Take& take, const std::filesystem::path& output,
                             const std::filesystem::path& folder, const media::Frames& frames = {});

/// The same for another of the take's films.
render::FilmOrder film_order(const take::Take& take, const take::FilmWish& wish,
                             const std::filesystem::path& output, const std::filesystem::path& folder,
                             const media::Frames& frames = {});

/// The largest usual size of a film that a frame fills, standing where the frame stands: 3840 × 2160,
/// 1920 × 1080, 1280 × 720, 960 × 540 or 640 × 360; of a smaller frame its own size, in even numbers.
image::Size usual_size_for(image::Size frame);

/// Where frames of the take that was gathered are missing.
std::vector<render::Gap> gaps_of(const ingest::FoundTake& found);

/// Chapters of a film: its beginning, and where the light has changed (suggested_anchors()), named by the
/// clock of their shots and what the light has become: "18:42, darker". None where it stays.
std::vector<media::Chapter> chapters_of(const render::FilmOrder& order, const media::Frames& frames,
                                        const level::Evenness& evenness);

/// Measures the take's light first and orders the film by it: with its gains, and its chapters where the take
/// wishes for them. Nothing happens where neither is needed beforehand. Throws as level::measure().
void order_by_light(render::FilmOrder& order, const take::FilmWish& wish, const media::Frames& frames,
                    const media::FrameSource& source, const Work& work = {});

/// The name a film may really have: `wished`, unless a film is there that Ask Count did not make, then
/// "NAME clip.mp4" beside it, "NAME clip 2.mp4", and so on.
std::filesystem::path film_file(const std::filesystem::path& wished);

}  // namespace askcount::films
