// SPDX-License-Identifier: GPL-3.0-or-later
#include "film_answer.h"

#include <fmt/format.h>

#include "base/units.h"
#include "films/finish.h"
#include "progress_line.h"
#include "stop.h"

namespace askcount::cli {

Answer film_answer(const render::FilmOutcome& o, const std::filesystem::path& film) {
  Answer answer;
  answer.json = films::film_json(o, film);
  answer.words = fmt::format("{}: {} in {} at {}, {}x{}, made in {}.\n", film.string(),
                             counted(o.facts.frames, "{} frame", "{} frames"),
                             format_length(o.facts.duration_s), frame_rate_words(o.facts.fps),
                             o.facts.size.width, o.facts.size.height, format_length(o.seconds_taken, 1));
  if (o.steadied)
    answer.words +=
        fmt::format("Steadied: {} px from frame to frame before, {} after; {} % is cropped at the edges.\n",
                    format_number(o.steadied->jitter_before, 2), format_number(o.steadied->jitter_after, 2),
                    format_number(100 * o.steadied->edge, 1));
  if (o.made > 0)
    answer.words += fmt::format("Made between others: {}.\n",
                                counted(static_cast<long long>(o.made), "{} frame", "{} frames"));
  if (!o.unreadable.empty())
    answer.words += fmt::format("Neighbours stand in for {} ({} % of the film; at most {} % may).\n",
                                counted(static_cast<long long>(o.unreadable.size()), "{} frame", "{} frames"),
                                format_number(100 * o.stood_in_share(), 1),
                                format_number(100 * render::kMostStandIns, 0));
  for (const std::string& trouble : o.unreadable) answer.words += "A neighbour stands in: " + trouble + "\n";
  return answer;
}

render::FilmOutcome render_shown(const media::Frames& frames, const render::FilmOrder& order,
                                 const media::FrameSource& source) {
  ProgressLine line("Rendering");
  return render::render(frames, source, order,
                        {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
}

}  // namespace askcount::cli
