#include "render/render.h"

#include <fmt/format.h>
#include <tbb/parallel_pipeline.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <memory>

#include "base/error.h"
#include "base/files.h"
#include "base/units.h"
#include "level/brightness.h"
#include "render/drawing.h"
#include "render/queue.h"
#include "source/film_frames.h"
#include "source/kind.h"

namespace askcount::render {
namespace {

constexpr size_t kInFlight = 4;
// Decoded frames held while the levelling looks ahead: codes, and linear light, which costs more to read
// twice.
constexpr size_t kHeldBytes = 200u << 20, kHeldLinearBytes = 500u << 20;
constexpr size_t kNoMore = SIZE_MAX;

image::Size full_size(const source::Frame& frame) {
  return image::upright(frame.info().size, frame.info().orientation);
}

/// What all films together need of a frame: the part that holds all their parts, dense enough for each.
source::Want want_of(std::span<const FilmOrder> orders, image::Size full) {
  image::RectF all = film_part(full, orders.front().size);
  double density = 0;  // film pixels for one of the frame
  for (const FilmOrder& order : orders) {
    const image::RectF part = film_part(full, order.size);
    const double right = std::max(all.x + all.width, part.x + part.width);
    const double below = std::max(all.y + all.height, part.y + part.height);
    all.x = std::min(all.x, part.x);
    all.y = std::min(all.y, part.y);
    all.width = right - all.x;
    all.height = below - all.y;
    density = std::max(density, order.size.width / std::max(1.0, part.width * full.width));
  }
  const auto pixels = [density](double length) { return static_cast<int>(std::lround(length * density)); };
  return {{pixels(all.width * full.width), pixels(all.height * full.height)}, all};
}

/// Where a part of the frame lies in what was read of it, in pixels of the picture.
image::RectF place_in(const source::Shown& shown, const image::RectF& read, const image::RectF& part) {
  const double across = shown.part.width / read.width, down = shown.part.height / read.height;
  return {shown.part.x + (part.x - read.x) * across, shown.part.y + (part.y - read.y) * down,
          part.width * across, part.height * down};
}

/// A frame that films show. Throws as FrameSource::read, and Failed for one that stands aside.
source::Shown read_shown(const source::FrameSource& source, const source::Frame& frame,
                         const source::Want& want) {
  if (frame.stands_aside) throw failed(fmt::format("{} stands aside by your wish.", frame.file().string()));
  return source.read(frame, want);
}

Decoded decode(const source::FrameSource& source, const source::Frame& frame, size_t index,
               std::span<const FilmOrder> orders) {
  Decoded out;
  out.index = index;
  out.full = full_size(frame);
  const source::Want want = want_of(orders, out.full);
  out.part = want.part;
  try {
    source::Shown shown = read_shown(source, frame, want);
    const image::Size size = image::size_of(shown.picture);
    for (const FilmOrder& order : orders)
      if (levels_on_the_way(order)) {
        const image::RectF part = place_in(shown, want.part, film_part(out.full, order.size));
        out.luminance.push_back(image::measure_luminance(shown.picture, image::whole_pixels(part, size)));
      }
    out.shown = std::make_shared<const source::Shown>(std::move(shown));
  } catch (const std::exception& e) {  // whatever a file holds: one cannot stop the rest
    std::error_code ec;
    const std::filesystem::path folder = source::on_disk(frame.file()).parent_path();
    if (!folder.empty() && !std::filesystem::is_directory(folder, ec))
      throw failed(fmt::format("The folder {} is gone: the card was pulled.", folder.string()),
                   "Put it back and make the film again; the one that was there stays.");
    out.trouble = e.what();
    out.luminance.clear();
  }
  return out;
}

/// How far a row of frames that cannot be read goes on.
size_t last_unreadable(const source::Frames& frames, const source::FrameSource& source, size_t from) {
  size_t last = from;
  for (size_t n = from + 1; n < frames->size(); ++n) try {
      read_shown(source, (*frames)[n], {});
      return last;
    } catch (const std::exception&) {
      last = n;
    }
  return last;
}

void check(const source::Frames& frames, const FilmOrder& order) {
  if (!frames || frames->empty()) throw bad_input("There are no frames to make a film of.");
  film::check_film(order.output, order.size, order.coding.bits);
  if (order.coding.quality < 0 || order.coding.quality > 51)
    throw bad_input(fmt::format("Quality {} is not between 0 and 51.", order.coding.quality));
  if (!order.corrections.empty() && order.corrections.size() != frames->size())
    throw bad_input(fmt::format("The levelling is of {}, the take has {}.",
                                counted(static_cast<long long>(order.corrections.size()), "frame"),
                                format_count(static_cast<long long>(frames->size()))),
                    "Level the take again.");
  film::check_film_output({order.output, FileKind::Film, order.guard});
  std::error_code ec;
  for (const source::Frame& f : *frames)
    for (const source::Exposure& e : f.exposures)
      if (std::filesystem::equivalent(source::on_disk(e.file()), order.output, ec))
        throw bad_input(fmt::format("{} is one of the frames.", order.output.string()), "Name another file.");
}

/// Whether the levelling's look ahead would hold more of decoded frames than there is room for.
bool too_much_to_hold(const source::Frames& frames, const source::FrameSource& source,
                      std::span<const FilmOrder> orders) {
  for (const source::Frame& f : *frames) {
    if (!f.readable() || f.info().size.width <= 0) continue;
    const image::Size full = full_size(f);
    const source::Want want = want_of(orders, full);
    int reach = 0;
    for (const FilmOrder& order : orders) reach = std::max(reach, order.smoothing.reach);
    const size_t held = static_cast<size_t>(reach) + 3 + kInFlight;
    if (source::kind_of(f.file()) == source::Kind::Raw)  // just as large as wanted
      return held * static_cast<size_t>(want.at_least.width) * static_cast<size_t>(want.at_least.height) * 3 *
                 sizeof(float) >
             kHeldLinearBytes;
    // Read at the eighth above what is wanted, all the width of it.
    const double eighths =
        std::min(8.0, std::ceil(8.0 * want.at_least.width / std::max(1.0, want.part.width * full.width)));
    const double scale = eighths / 8;
    const double pixels = full.width * scale * want.part.height * full.height * scale;
    if (source.gives_light(f))
      return held * static_cast<size_t>(pixels) * 3 * sizeof(float) > kHeldLinearBytes;
    return held * static_cast<size_t>(pixels) * 3 > kHeldBytes;
  }
  return false;
}

void check_written(const FilmOrder& order, size_t count, const film::FilmFacts& facts) {
  const auto frames = static_cast<long long>(count);
  const double tick = 1 / order.fps.value();
  if (facts.frames != frames || !(facts.size == order.size) ||
      std::abs(facts.duration_s - static_cast<double>(frames) * tick) > 0.6 * tick ||
      std::abs(facts.fps.value() - order.fps.value()) > 0.001)
    throw failed(
        fmt::format("{} was written but does not hold what was ordered: {} frames of {}x{} at {} for {}.",
                    order.output.string(), facts.frames, facts.size.width, facts.size.height,
                    format_frame_rate(facts.fps), format_length(facts.duration_s)),
        "Render it again, elsewhere if the disk is full.");
}

/// One film while it is made.
struct Making {
  explicit Making(const FilmOrder& o)
      : order(o),
        part({o.output, FileKind::Film, o.guard}),
        resamplings(o.size),
        encoder(part.path(), o.output, o.size, o.fps, o.coding) {}
  const FilmOrder& order;
  TemporaryFile part;
  Resamplings resamplings;
  film::Encoder encoder;
};

/// Film frames that can be drawn into again: no more of them exist than are in flight.
class Buffers {
 public:
  explicit Buffers(const FilmOrder& order) : size_(order.size), bits_(order.coding.bits) {}
  std::unique_ptr<film::FrameBuffer> take() {
    {
      const std::lock_guard lock(mutex_);
      if (!free_.empty()) {
        auto buffer = std::move(free_.back());
        free_.pop_back();
        return buffer;
      }
    }
    return std::make_unique<film::FrameBuffer>(size_, bits_);
  }
  void give(std::unique_ptr<film::FrameBuffer> buffer) {
    const std::lock_guard lock(mutex_);
    free_.push_back(std::move(buffer));
  }

 private:
  image::Size size_;
  int bits_;
  std::mutex mutex_;
  std::vector<std::unique_ptr<film::FrameBuffer>> free_;
};

using Drawn = std::vector<std::unique_ptr<film::FrameBuffer>>;  // one a film

}  // namespace

std::vector<FilmOutcome> render(const source::Frames& frames, const source::FrameSource& source,
                                std::span<const FilmOrder> given, const Work& work) {
  if (given.empty()) throw bad_input("No film was ordered.");
  for (const FilmOrder& order : given) check(frames, order);
  const auto began = std::chrono::steady_clock::now();
  std::vector<FilmOrder> orders(given.begin(), given.end());
  if (std::any_of(orders.begin(), orders.end(), levels_on_the_way) &&
      too_much_to_hold(frames, source, orders))
    for (FilmOrder& order : orders)  // too much to hold: the levelling is worked out first
      if (levels_on_the_way(order))
        order.corrections = level::even_out(frames,
                                            level::measure(frames, source, order.size,
                                                           level::MeasuredFrom::Frames, {{}, work.stop}),
                                            order.smoothing)
                                .corrections;
  std::vector<std::unique_ptr<Making>> films;
  std::vector<std::unique_ptr<Buffers>> buffers;
  for (const FilmOrder& order : orders) {
    films.push_back(std::make_unique<Making>(order));
    buffers.push_back(std::make_unique<Buffers>(order));
  }
  Queue queue(frames, orders);
  size_t next = 0, written = 0;
  const size_t total = frames->size();
  using DecodedPtr = std::shared_ptr<Decoded>;
  using DuePtr = std::shared_ptr<Due>;
  using DrawnPtr = std::shared_ptr<Drawn>;
  const auto number = [&](tbb::flow_control& flow) -> size_t {
    const size_t n = next++;
    if (work.stop.stop_requested() || n >= total + queue.lookahead()) flow.stop();
    return n < total ? n : kNoMore;
  };
  const auto read = [&](size_t n) -> DecodedPtr {
    return n == kNoMore ? nullptr : std::make_shared<Decoded>(decode(source, (*frames)[n], n, orders));
  };
  const auto wait = [&](const DecodedPtr& in) -> DuePtr { return queue.pass(in); };
  const auto draw_all = [&](const DuePtr& due) -> DrawnPtr {
    if (!due) return {};
    auto drawn = std::make_shared<Drawn>();
    for (size_t film = 0; film < films.size(); ++film) {
      const FramePlan& plan = due->plans[film];
      drawn->push_back(buffers[film]->take());
      const image::RectF part = place_in(*due->shown, due->part, plan.part);
      draw(due->shown->picture, films[film]->resamplings.of(image::size_of(due->shown->picture), part), plan,
           drawn->back()->film());
    }
    return drawn;
  };
  const auto encode = [&](const DrawnPtr& drawn) {
    if (!drawn) return;
    for (size_t film = 0; film < films.size(); ++film) {
      films[film]->encoder.add(*(*drawn)[film]);
      buffers[film]->give(std::move((*drawn)[film]));
    }
    work.report(++written, total);
  };
  using tbb::filter_mode;
  try {
    tbb::parallel_pipeline(kInFlight,
                           tbb::make_filter<void, size_t>(filter_mode::serial_in_order, number) &
                               tbb::make_filter<size_t, DecodedPtr>(filter_mode::parallel, read) &
                               tbb::make_filter<DecodedPtr, DuePtr>(filter_mode::serial_in_order, wait) &
                               tbb::make_filter<DuePtr, DrawnPtr>(filter_mode::parallel, draw_all) &
                               tbb::make_filter<DrawnPtr, void>(filter_mode::serial_in_order, encode));
  } catch (const TooManyUnreadable& e) {
    if (e.last() - e.first() + 1 <= kMostInARow) throw;
    const size_t last = last_unreadable(frames, source, e.last());
    throw TooManyUnreadable(
        e.first(), last,
        fmt::format(
            "Frames {} to {} cannot be read, and neighbours stand in for no more than {} in a row. The film "
            "was not made. {}",
            e.first() + 1, last + 1, kMostInARow, e.what()));
  }
  if (work.stop.stop_requested()) throw cancelled("The render was stopped; nothing was written.");
  std::vector<FilmOutcome> outcomes;
  for (size_t film = 0; film < films.size(); ++film) {
    films[film]->encoder.finish();
    FilmOutcome outcome;
    outcome.facts = film::read_film(films[film]->part.path());
    check_written(orders[film], total, outcome.facts);
    outcome.flicker_before = queue.flicker_before(film);
    outcome.unreadable = queue.troubles();
    outcomes.push_back(std::move(outcome));
  }
  for (const auto& film : films) film->part.put_in_place();
  for (FilmOutcome& outcome : outcomes)
    outcome.seconds_taken = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
  return outcomes;
}

FilmOutcome render(const source::Frames& frames, const source::FrameSource& source, const FilmOrder& order,
                   const Work& work) {
  return render(frames, source, std::span(&order, 1), work).front();
}

}  // namespace askcount::render
