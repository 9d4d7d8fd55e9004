// SPDX-License-Identifier: GPL-3.0-or-later
// How a film plays before it is made, from the first press:
//   preview_bench FOLDER [FPS]
// Prints, from the moment frames are first wanted: when the first picture is there, when a look at every
// frame is, and when all are read whole; then plays two rounds of the film by its clock as the window does,
// from the first press with nothing in memory, and prints pictures shown a second and how many of them were
// sharp; and the most memory the process had.
#include <fmt/format.h>
#include <sys/resource.h>

#include <chrono>
#include <thread>

#include "ingest/gather.h"
#include "render/film_preview.h"

using namespace askcount;
using Clock = std::chrono::steady_clock;

namespace {

double since(Clock::time_point began) {
  return std::chrono::duration<double>(Clock::now() - began).count();
}

}  // namespace

int main(int argc, char** argv) {
  if (argc < 2 || argc > 3) {
    fmt::print(stderr, "usage: preview_bench FOLDER [FPS]\n");
    return 2;
  }
  const ingest::Gathered g = ingest::gather(argv[1]);
  render::FilmOrder order;
  order.fps = argc == 3 ? nearest_frame_rate(std::stod(argv[2])) : FrameRate{25, 1};
  order.corrections.resize(g.frames->size());
  const image::Size frame = render::size_of_take(*g.frames);
  const std::shared_ptr<const media::FrameSource> source = media::source_with({});
  render::FilmPreview film(order, g.frames, frame, {720, 720});
  render::SmallFrames small(g.frames, source, {});
  const double fps = order.fps.value();
  const auto count = static_cast<long long>(film.frames());
  const auto began = Clock::now();
  small.want(film.wanted_from(0));
  double first = 0, glanced = 0, whole = 0;
  bool sharp = false;
  for (int round = 0; round < 3; ++round) {
    const auto played = Clock::now();
    long long shown = 0, whole_shown = 0;
    sharp = film.keeps_up_whole(0, small);
    for (long long n = 0; n < count; ++n) {
      n = std::max(n, static_cast<long long>(since(played) * fps));
      if (n >= count) break;
      if (!sharp && n % 25 == 0) sharp = film.keeps_up_whole(static_cast<std::size_t>(n), small);
      const auto drawn =
          film.draw(static_cast<std::size_t>(n), small, sharp ? render::Known::Whole : render::Known::Glance);
      if (!drawn.picture.empty()) {
        if (first == 0) first = since(began);
        ++shown;
        whole_shown += drawn.known == render::Known::Whole;
      }
      const auto filled = small.filled();
      if (glanced == 0 && filled.glanced == filled.wanted) glanced = since(began);
      if (whole == 0 && filled.whole == filled.wanted) whole = since(began);
      std::this_thread::sleep_until(
          played + std::chrono::duration_cast<Clock::duration>(std::chrono::duration<double>((n + 1) / fps)));
    }
    fmt::print("round {}: {} of {} frames shown, {} of them sharp, {:.1f} pictures a second of {:.1f}\n",
               round + 1, shown, count, whole_shown, static_cast<double>(shown) / since(played), fps);
  }
  const auto filled = small.filled();
  fmt::print(
      "first picture after {:.2f} s, a look at every frame after {:.2f} s, all whole after {:.1f} s ({} of "
      "{})\n",
      first, glanced, whole, filled.whole, filled.wanted);
  rusage use{};
  getrusage(RUSAGE_SELF, &use);
  fmt::print("{} MiB at most\n", use.ru_maxrss / 1024);
  return 0;
}
