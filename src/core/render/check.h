// SPDX-License-Identifier: GPL-3.0-or-later
// A finished film opened again and looked at from its first frame to its last.
#pragma once

#include <array>
#include <filesystem>
#include <vector>

#include "base/finding.h"
#include "base/progress.h"
#include "media/reader.h"
#include "render/plan.h"

namespace askcount::render {

/// What was seen in a film that was decoded whole. Frames count from 0.
struct FilmCheck {
  media::FilmFacts facts;
  long long decoded = 0;            ///< frames that came out
  std::vector<long long> black;     ///< that show nothing at all
  std::vector<long long> repeated;  ///< that are the one before once more
  std::array<double, 3>
      flicker{};             ///< of the thirds from the top, in stops (level::flicker); black ones apart
  double whole_flicker = 0;  ///< of the whole picture, likewise
  std::uintmax_t bytes = 0;
};

/// Decodes the film. Throws Failed naming it where it cannot be read, Cancelled when stopped. Animated WebP
/// is only counted: the FFmpeg libraries of Debian 12 do not decode it.
FilmCheck check_film(const std::filesystem::path& film, const Work& work = {});

/// What of it is not as it was ordered: `expected_still` are frames that were to repeat the one before, and
/// black ones within its fades are none to speak of. Empty where all is well.
Findings judge(const FilmCheck& check, const FilmOrder& order, const std::vector<bool>& expected_still);

}  // namespace askcount::render
