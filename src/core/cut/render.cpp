#include "cut/render.h"

#include <fmt/format.h>
#include <tbb/parallel_pipeline.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <deque>
#include <memory>
#include <mutex>

#include "base/error.h"
#include "base/files.h"
#include "base/units.h"
#include "level/brightness.h"

namespace askcount::cut {
namespace {

constexpr size_t kInFlight = 4;
constexpr size_t kHeldBytes = 200u << 20;  // decoded frames held while the levelling looks ahead

/// A frame decoded at the scale the film needs.
struct Decoded {
  size_t index = 0;
  std::shared_ptr<const picture::Picture8> picture;  // null where it could not be read
  std::unique_ptr<picture::FrameLight> light;
  std::string trouble;
};

/// A frame ready to be drawn: picture and what to multiply its light by.
struct Due {
  std::shared_ptr<const picture::Picture8> picture;
  double gain = 1;
};

picture::Size upright(const picture::ShotInfo& info) {
  return info.orientation >= 5 ? picture::Size{info.size.height, info.size.width} : info.size;
}

Decoded decode(const CutOrder& order, size_t index, bool measured) {
  Decoded out;
  out.index = index;
  const gather::Frame& frame = order.frames[index];
  const std::string name = frame.file.string();
  try {
    if (!frame.readable()) throw failed(frame.trouble);
    const picture::Bytes bytes = picture::read_bytes(frame.file);
    picture::ShotInfo info = frame.info;
    info.size = picture::jpeg_size(bytes, name);
    const int eighths =
        picture::decoding_eighths(picture::crop_to_shape(upright(info), order.size), order.size);
    picture::Picture8 picture;
    if (info.orientation > 1) {
      picture = picture::oriented(picture::decode_jpeg(bytes, eighths, name), info.orientation);
    } else {  // only the rows that the film shows
      const picture::Rect shown =
          picture::crop_to_shape(picture::scaled_size(info.size, eighths), order.size);
      picture = picture::decode_jpeg(bytes, eighths, name, {shown.y, shown.height});
    }
    if (measured)
      out.light = std::make_unique<picture::FrameLight>(level::measure_frame(picture, order.size));
    out.picture = std::make_shared<const picture::Picture8>(std::move(picture));
  } catch (const Error& e) {
    out.trouble = e.what();
  }
  return out;
}

/// Frames in order, each let go once the levelling has seen far enough ahead.
class Desk {
 public:
  Desk(const CutOrder& order, bool look_ahead)
      : order_(order),
        leveller_(level::exposures_of(order.frames), order.smoothing),
        look_ahead_(look_ahead) {}

  size_t lookahead() const { return look_ahead_ ? leveller_.lookahead() : 1; }

  /// Takes the next decoded frame (null when there are no more) and gives the one that is due, if any.
  std::shared_ptr<Due> pass(std::shared_ptr<Decoded> in) {
    if (in) {
      if (look_ahead_) leveller_.add(in->light.get());
      if (!in->trouble.empty()) troubles_.push_back(in->trouble);
      held_.push_back(std::move(in));
      if (held_.size() <= lookahead()) return {};
    }
    if (held_.empty()) return {};
    const std::shared_ptr<Decoded> frame = held_.front();
    held_.pop_front();
    auto due = std::make_shared<Due>();
    due->picture = frame->picture;
    const picture::FrameLight* light = frame->light.get();
    double stand_in_gain = order_.gains.empty() ? 1 : order_.gains[frame->index];
    if (!due->picture) {  // the neighbour nearest in time stands in, at this frame's own brightness
      const auto next =
          std::find_if(held_.begin(), held_.end(), [](const auto& h) { return h->picture != nullptr; });
      const bool use_next =
          !last_ || (next != held_.end() && (*next)->index - frame->index < frame->index - last_->index);
      const std::shared_ptr<Decoded>& from = use_next && next != held_.end() ? *next : last_;
      if (!from) throw failed("None of the first frames can be read.", "Gather the take again.");
      due->picture = from->picture;
      light = from->light.get();
      if (!order_.gains.empty()) stand_in_gain = order_.gains[from->index];
    } else {
      last_ = frame;
    }
    if (look_ahead_) {
      const level::Levelled levelled = leveller_.level(frame->index);
      due->gain = light ? picture::gain_for(*light, levelled.target) : 1;
      as_shot_.push_back(levelled.as_shot);
    } else {
      due->gain = stand_in_gain;
    }
    return due;
  }

  const std::vector<std::string>& troubles() const { return troubles_; }
  double flicker_before() const { return level::flicker(as_shot_); }

 private:
  const CutOrder& order_;
  level::Leveller leveller_;
  bool look_ahead_;
  std::deque<std::shared_ptr<Decoded>> held_;
  std::shared_ptr<Decoded> last_;
  std::vector<std::string> troubles_;
  std::vector<double> as_shot_;
};

/// Resamplers by the size of what they read; frames of one take nearly always share one.
class Resamplers {
 public:
  explicit Resamplers(picture::Size film) : film_(film) {}
  const Resampler& of(picture::Size from) {
    const std::lock_guard lock(mutex_);
    const picture::Rect part = picture::crop_to_shape(from, film_);
    for (const auto& r : made_)
      if (r->fits(from, part)) return *r;
    made_.push_back(std::make_unique<Resampler>(from, part, film_));
    return *made_.back();
  }

 private:
  picture::Size film_;
  std::mutex mutex_;
  std::vector<std::unique_ptr<Resampler>> made_;
};

void check(const CutOrder& order) {
  if (order.frames.empty()) throw bad_input("There are no frames to make a film of.");
  check_film(order.output, order.size);
  if (order.coding.quality < 0 || order.coding.quality > 51)
    throw bad_input(fmt::format("Quality {} is not between 0 and 51.", order.coding.quality));
  const std::filesystem::path folder = order.output.parent_path().empty() ? "." : order.output.parent_path();
  std::error_code ec;
  if (!std::filesystem::is_directory(folder, ec))
    throw bad_input(fmt::format("There is no folder {} to write the film to.", folder.string()));
  for (const gather::Frame& f : order.frames)
    if (std::filesystem::equivalent(f.file, order.output, ec))
      throw bad_input(fmt::format("{} is one of the frames.", order.output.string()), "Name another file.");
}

/// What the levelling's look ahead would hold of decoded frames, in bytes.
size_t held_bytes(const CutOrder& order) {
  for (const gather::Frame& f : order.frames) {
    if (!f.readable() || f.info.size.width <= 0) continue;
    const picture::Size full = upright(f.info);
    const picture::Size at = picture::scaled_size(
        full, picture::decoding_eighths(picture::crop_to_shape(full, order.size), order.size));
    const size_t look = static_cast<size_t>(order.smoothing.reach) + 3 + kInFlight;
    return look * static_cast<size_t>(at.width) * static_cast<size_t>(at.height) * 3;
  }
  return 0;
}

void check_written(const CutOrder& order, const FilmFacts& facts) {
  const auto frames = static_cast<long long>(order.frames.size());
  if (facts.frames != frames || !(facts.size == order.size) ||
      std::abs(facts.duration_s - static_cast<double>(frames) / order.fps.value()) >
          0.6 / order.fps.value() ||
      std::abs(facts.fps.value() - order.fps.value()) > 0.001)
    throw failed(
        fmt::format("{} was written but does not hold what was ordered: {} frames of {}x{} at {} for {}.",
                    order.output.string(), facts.frames, facts.size.width, facts.size.height,
                    format_frame_rate(facts.fps), format_length(facts.duration_s)),
        "Render it again, elsewhere if the disk is full.");
}

}  // namespace

CutOutcome render(const CutOrder& given, const Work& work) {
  check(given);
  const auto began = std::chrono::steady_clock::now();
  CutOrder order = given;
  if (order.levelled && order.gains.empty() && held_bytes(order) > kHeldBytes) {
    const auto lights = level::measure(order.frames, order.size, level::Source::Frames, {{}, work.stop});
    order.gains = level::even_out(order.frames, lights, order.smoothing).gains;
  }
  const bool look_ahead = order.levelled && order.gains.empty();
  const std::filesystem::path part = part_name(order.output);
  RemoveUnlessKept guard(part);
  Desk desk(order, look_ahead);
  Resamplers resamplers(order.size);
  Encoder encoder(part, order.output, order.size, order.fps, order.coding);
  size_t next = 0, written = 0;
  const size_t total = order.frames.size();
  using DecodedPtr = std::shared_ptr<Decoded>;
  using DuePtr = std::shared_ptr<Due>;
  using BufferPtr = std::shared_ptr<FrameBuffer>;
  constexpr size_t kNoMore = SIZE_MAX;
  tbb::parallel_pipeline(
      kInFlight,
      tbb::make_filter<void, size_t>(tbb::filter_mode::serial_in_order,
                                     [&](tbb::flow_control& flow) -> size_t {
                                       const size_t n = next++;
                                       if (work.stop.stop_requested() || n >= total + desk.lookahead())
                                         flow.stop();
                                       return n < total ? n : kNoMore;
                                     }) &
          tbb::make_filter<size_t, DecodedPtr>(tbb::filter_mode::parallel,
                                               [&](size_t n) -> DecodedPtr {
                                                 if (n == kNoMore) return {};
                                                 return std::make_shared<Decoded>(
                                                     decode(order, n, look_ahead));
                                               }) &
          tbb::make_filter<DecodedPtr, DuePtr>(tbb::filter_mode::serial_in_order,
                                               [&](const DecodedPtr& in) { return desk.pass(in); }) &
          tbb::make_filter<DuePtr, BufferPtr>(
              tbb::filter_mode::parallel,
              [&](const DuePtr& due) -> BufferPtr {
                if (!due) return {};
                auto buffer = std::make_shared<FrameBuffer>(order.size);
                resamplers.of(due->picture->size).draw(*due->picture, due->gain, buffer->film());
                return buffer;
              }) &
          tbb::make_filter<BufferPtr, void>(tbb::filter_mode::serial_in_order, [&](const BufferPtr& buffer) {
            if (!buffer) return;
            encoder.add(*buffer);
            work.report(++written, total);
          }));
  if (work.stop.stop_requested()) throw cancelled("The render was stopped; nothing was written.");
  encoder.finish();
  CutOutcome outcome;
  outcome.facts = read_film(part);
  check_written(order, outcome.facts);
  std::error_code ec;
  std::filesystem::rename(part, order.output, ec);
  if (ec) throw failed(fmt::format("{} cannot be written: {}.", order.output.string(), ec.message()));
  guard.keep();
  outcome.flicker_before = desk.flicker_before();
  outcome.unreadable = desk.troubles();
  outcome.seconds_taken = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
  return outcome;
}

}  // namespace askcount::cut
