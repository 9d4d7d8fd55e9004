// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/look.h"

#include <tbb/parallel_pipeline.h>
#include <tbb/task_arena.h>

#include <fmt/format.h>
#include <filesystem>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "inspect/eye.h"
#include "inspect/passing.h"
#include "inspect/stillness.h"
#include "media/film_frames.h"

namespace askcount::inspect {
namespace {

/// A frame on its way.
struct Passed {
  size_t number = 0;
  Seen seen;
  std::string trouble;
};

Passed seen_frame(const media::Frame& frame, const media::FrameSource& source, size_t number) {
  Passed p;
  p.number = number;
  try {
    const image::Grey8 picture = source.grey(frame, kLookedWidth);
    const image::Size full = image::upright(frame.info().size, frame.info().orientation);
    p.seen = see(picture, full.width > 0 ? full.width : picture.size.width);
  } catch (const std::exception& e) {
    std::error_code ec;
    p.trouble = e.what();
    // What says of itself what it is has begun well.
    const bool begun = frame.readable() && frame.info().size.width > 0 &&
                       std::filesystem::file_size(media::on_disk(frame.file()), ec) > 0;
    p.seen.measures.file = begun ? Measures::File::CutShort : Measures::File::Unreadable;
  }
  return p;
}

}  // namespace

Look look_at(const media::Frames& frames, const media::FrameSource& source, const Work& work,
             const Known& known) {
  Look look;
  look.frames.resize(frames->size());
  size_t next = 0, told = 0;
  Stillness stillness;
  Passing passing([&](size_t frame, float odd) {
    look.frames[frame].odd = odd;
    told = frame + 1;
  });
  const auto threads = static_cast<size_t>(tbb::this_task_arena::max_concurrency());
  tbb::parallel_pipeline(
      2 * threads + 2,
      tbb::make_filter<void, size_t>(tbb::filter_mode::serial_in_order,
                                     [&](tbb::flow_control& flow) {
                                       if (next >= frames->size() || work.stop.stop_requested()) flow.stop();
                                       return next++;
                                     }) &
          tbb::make_filter<size_t, std::shared_ptr<Passed>>(
              tbb::filter_mode::parallel,
              [&](size_t n) { return std::make_shared<Passed>(seen_frame((*frames)[n], source, n)); }) &
          tbb::make_filter<std::shared_ptr<Passed>, void>(
              tbb::filter_mode::serial_in_order, [&](std::shared_ptr<Passed> p) {
                Measures& m = look.frames[p->number];
                const float odd = m.odd;
                m = p->seen.measures;
                m.odd = odd;
                // What is white or black all over lies nowhere.
                if (m.seen() && m.clipped < 0.8F && m.spread > 1.6F) {
                  const Position at = stillness.next(p->seen.windows);
                  m.x = static_cast<float>(at.x);
                  m.y = static_cast<float>(at.y);
                  m.turn_deg = static_cast<float>(at.turn_deg);
                  m.held_by = static_cast<float>(at.held_by);
                  m.step_x = static_cast<float>(at.step_x);
                  m.step_y = static_cast<float>(at.step_y);
                  m.step_turn_deg = static_cast<float>(at.step_turn_deg);
                  m.step_held_by = static_cast<float>(at.step_held_by);
                } else {
                  if (!m.seen()) look.troubles.emplace_back(p->number, p->trouble);
                  if (p->number > 0) {
                    m.x = look.frames[p->number - 1].x;
                    m.y = look.frames[p->number - 1].y;
                    m.turn_deg = look.frames[p->number - 1].turn_deg;
                  }
                }
                passing.next(std::move(p->seen.small));
                work.report(p->number + 1, frames->size());
                if (known) known(look, told);
              }));
  if (work.stop.stop_requested())
    throw cancelled(say("Looking at the frames was stopped; nothing was changed."));
  passing.end();
  std::error_code ec;
  long long gone = 0;
  for (const auto& [n, why] : look.troubles)
    gone += std::filesystem::exists(media::on_disk((*frames)[n].file()), ec) ? 0 : 1;
  if (gone > 0)
    throw failed(
        say("{} went away while they were looked at; {} is the first.",
            counted(gone, "{} frame", "{} frames"), (*frames)[look.troubles.front().first].file().string()),
        say("Put the card back and gather again."));
  return look;
}

}  // namespace askcount::inspect
