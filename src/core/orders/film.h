// The film a take wishes for.
#pragma once

#include <filesystem>
#include <optional>

#include "render/plan.h"
#include "take/take.h"

namespace askcount::orders {

/// The frame rate a take says, whether the rest of its plan is known or not.
std::optional<FrameRate> film_rate(const take::Take& take);

/// The film to be made of a take's frames, at the plan's frame rate. Throws BadInput where nobody has said
/// it.
render::FilmOrder film_order(const take::Take& take, const std::filesystem::path& output);

/// The name a film may really have: `wished`, unless a film is there that Ask Count did not make, then
/// "NAME clip.mp4" beside it, "NAME clip 2.mp4", and so on.
std::filesystem::path film_file(const std::filesystem::path& wished);

}  // namespace askcount::orders
