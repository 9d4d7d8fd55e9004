#include "advice/film_advice.h"

#include <fmt/format.h>

#include <cmath>

#include "base/units.h"
#include "render/plan.h"
#include "render/render.h"

namespace askcount::advice {
namespace {

void add_made(Findings& list, const take::Take& take, const film::FilmFacts& made) {
  list.push_back({"film_checked",
                  Severity::Ok,
                  "Checked after writing",
                  fmt::format("{} in {} at {}, {} × {}, H.264.", counted(made.frames, "frame"),
                              format_length(made.duration_s), frame_rate_words(made.fps), made.size.width,
                              made.size.height),
                  "",
                  {}});
  const bool other_rate = take.solution().complete() && !(made.fps == take.sums().fps);
  if (!(made.size == take.film.size) || other_rate)
    list.push_back({"film_outdated",
                    Severity::Warning,
                    "Made with other settings",
                    "Make the clip again to have it as the sentence says.",
                    "",
                    {}});
}

void add_crop(Findings& list, image::Size frame, image::Size film) {
  const image::RectF part = render::film_part(frame, film);
  list.push_back({"crop",
                  Severity::Ok,
                  "Cropped, not squashed",
                  fmt::format("The film shows the middle {} % of the frame.",
                              format_number(100 * part.width * part.height, 0)),
                  "",
                  {}});
  const auto across = static_cast<int>(std::lround(part.width * frame.width));
  if (across < film.width)
    list.push_back(
        {"enlarged",
         Severity::Warning,
         "The film is larger than the frame",
         fmt::format("The frame has {} pixels across for {}. It will look soft.", across, film.width),
         "",
         {}});
}

}  // namespace

Findings film_advice(const take::Take& take, const std::optional<film::FilmFacts>& made, long long stood_in,
                     image::Size frame) {
  Findings list;
  if (made) add_made(list, take, *made);
  if (made && stood_in > 0 && made->frames > 0)
    list.push_back(
        {"neighbours_stand_in",
         Severity::Warning,
         fmt::format("Neighbours stand in for {}", counted(stood_in, "frame")),
         fmt::format(
             "They cannot be read: {} % of the film. No more than {} % may be made so.",
             format_number(100.0 * static_cast<double>(stood_in) / static_cast<double>(made->frames), 1),
             format_number(100 * render::kMostStandIns, 0)),
         "",
         {}});
  if (frame.width > 0) add_crop(list, frame, take.film.size);
  list.push_back({"fps_of_plan",
                  Severity::Ok,
                  "The plan's frame rate",
                  "The film runs at the rate the frames were counted for.",
                  "",
                  {}});
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::advice
