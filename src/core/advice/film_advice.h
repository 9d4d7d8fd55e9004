// What there is to say about the film of a take.
#pragma once

#include <optional>

#include "film/reader.h"
#include "take/take.h"

namespace askcount::advice {

/// What is in the finished film (nothing where there is none), whether it still is what the take wishes, for
/// how many of its frames neighbours stand in, how much of frames of size `frame` (upright, {} where there
/// are none) it shows, and its frame rate.
Findings film_advice(const take::Take& take, const std::optional<film::FilmFacts>& made, long long stood_in,
                     image::Size frame);

}  // namespace askcount::advice
