// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/level_ahead.h"

#include "render/film_plan.h"

namespace askcount::render {

level::Evenness level_ahead(FilmOrder& order, const media::Frames& frames, const media::FrameSource& source,
                            const Work& work) {
  const bool views = !order.views.empty();
  level::Evenness evenness = level::even_out(
      frames,
      level::measure(frames, source, views ? image::Size{} : order.size, level::MeasuredFrom::Frames, work),
      order.smoothing, {{}, work.stop});
  if (!levels_on_the_way(order)) return evenness;
  order.corrections = evenness.corrections;
  if (views) order.corrected_part = image::RectF{};
  return evenness;
}

}  // namespace askcount::render
