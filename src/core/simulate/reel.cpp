// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/reel.h"

#include <tbb/parallel_pipeline.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "media/encoder.h"
#include "render/drawing.h"

namespace askcount::simulate {
namespace {

constexpr size_t kFramesAtOnce = 6;
constexpr int kBetween = 8;  // pixels between two films
constexpr int kQuality = 20;

/// A film's pixels into a larger picture.
void lay(const image::Coded8& what, int x, image::Coded8& onto) {
  for (int y = 0; y < what.size.height; ++y)
    std::copy_n(what.row(y), 3 * static_cast<size_t>(what.size.width),
                onto.row(y) + 3 * static_cast<size_t>(x));
}

double length_s(const TrialPlan& film) {
  return static_cast<double>(film.frames) / film.fps.value();
}

}  // namespace

media::FilmFacts write_reel(const TrialFilm& film, const TrialFilm* beside,
                            const std::filesystem::path& output, const Guard& guard, const Work& work) {
  const TrialPlan& plan = film.plan();
  image::Size size = plan.size;
  long long frames = plan.frames;
  if (beside) {
    size = {size.width + kBetween + beside->plan().size.width,
            std::max(size.height, beside->plan().size.height)};
    frames = static_cast<long long>(
        std::ceil(std::max(length_s(plan), length_s(beside->plan())) * plan.fps.value() - 1e-6));
  }
  media::check_coding(output, size, {});
  media::check_film_output({output, FileKind::Film, guard});
  TemporaryFile part({output, FileKind::Film, guard});
  media::Encoder encoder(part.path(), output, size, plan.fps, {kQuality, "veryfast", 8});
  const image::Resampling as_it_is(
      size, {0, 0, static_cast<double>(size.width), static_cast<double>(size.height)}, size);
  long long next = 0, done = 0;
  tbb::parallel_pipeline(
      kFramesAtOnce,
      tbb::make_filter<void, long long>(tbb::filter_mode::serial_in_order,
                                        [&](tbb::flow_control& flow) -> long long {
                                          if (next >= frames || work.stop.stop_requested()) {
                                            flow.stop();
                                            return 0;
                                          }
                                          return next++;
                                        }) &
          tbb::make_filter<long long, std::shared_ptr<media::FrameBuffer>>(
              tbb::filter_mode::parallel,
              [&](long long n) {
                image::Coded8 picture(size);
                if (beside) std::fill(picture.rgb.begin(), picture.rgb.end(), std::uint8_t{0});
                const double seconds = static_cast<double>(n) / plan.fps.value();
                lay(film.frame(frame_at(plan, seconds)), 0, picture);
                if (beside)
                  lay(beside->frame(frame_at(beside->plan(), seconds)), plan.size.width + kBetween, picture);
                auto buffer = std::make_shared<media::FrameBuffer>(size);
                render::draw(picture, as_it_is, {}, buffer->film());
                return buffer;
              }) &
          tbb::make_filter<std::shared_ptr<media::FrameBuffer>, void>(
              tbb::filter_mode::serial_in_order, [&](std::shared_ptr<media::FrameBuffer> buffer) {
                encoder.add(*buffer);
                work.report(static_cast<size_t>(++done), static_cast<size_t>(frames));
              }));
  if (work.stop.stop_requested()) throw cancelled(say("Stopped; no film was written."));
  encoder.finish();
  part.put_in_place();
  return media::read_film(output);
}

}  // namespace askcount::simulate
