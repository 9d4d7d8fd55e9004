// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/small_frames.h"

#include <algorithm>
#include <chrono>
#include <condition_variable>
#include <deque>
#include <limits>
#include <mutex>
#include <optional>
#include <thread>

#include "base/process.h"

namespace askcount::render {
namespace {

using Picture = std::shared_ptr<const render::Decoded>;
using Clock = std::chrono::steady_clock;

constexpr std::size_t kNever = std::numeric_limits<std::size_t>::max();
constexpr std::size_t kGlances = 1500;  // wanted next that are looked at before any is read whole
constexpr std::size_t kOfLate = 24;     // frames that the rate is of

std::size_t bytes_of(const Picture& p) {
  if (!p || !p->shown) return 0;
  const image::Size size = image::size_of(p->shown->picture);
  const std::size_t each = std::holds_alternative<image::Linear32>(p->shown->picture) ? 12 : 3;
  return each * static_cast<std::size_t>(size.width) * static_cast<std::size_t>(size.height);
}

/// A picture of all of a frame.
Picture decoded(std::size_t index, image::Size full, media::Shown shown) {
  auto out = std::make_shared<render::Decoded>();
  out->index = index;
  out->full = full;
  out->shown = std::make_shared<const media::Shown>(std::move(shown));
  return out;
}

}  // namespace

struct SmallFrames::Parts {
  struct Slot {
    Picture glance, whole;
    bool glanced = false, failed = false, at_hand = false;
    bool crowded_out = false;  // by those wanted sooner, until something else is wanted
    std::size_t rank = kNever;
  };
  struct Task {
    std::size_t frame = 0;
    Known what = Known::Nothing;
    bool keep = true;
  };

  /// What pictures of a kind take.
  struct Size {
    std::size_t many = 0, bytes = 0;
    std::size_t mean() const { return many > 0 ? bytes / many : 0; }
    void add(std::size_t more) { ++many, bytes += more; }
  };

  media::Frames frames;
  std::shared_ptr<const media::FrameSource> source;
  Limits limits;
  std::function<void()> arrived;

  mutable std::mutex mutex;
  mutable std::condition_variable_any wake, rest;
  std::vector<Slot> slots;
  std::vector<std::size_t> wanted;
  std::size_t bytes = 0, at_hand = 0;
  Size glance_size, whole_size;
  std::deque<Clock::time_point> late;  // when the last whole ones were there
  level::Luminances light;
  std::size_t unmeasured = 0;
  std::vector<std::jthread> threads;

  image::Size full_of(std::size_t n) const {
    const media::ShotInfo& info = (*frames)[n].info();
    return image::upright(info.size, info.orientation);
  }

  /// The kept frame that is wanted last; kNever where none is kept.
  std::size_t last_kept() const {
    std::size_t last = kNever;
    for (std::size_t n = 0; n < slots.size(); ++n)
      if ((slots[n].whole || slots[n].glance) && (last == kNever || slots[n].rank >= slots[last].rank))
        last = n;
    return last;
  }

  /// Whether another picture of a frame of this rank has room.
  bool has_room(std::size_t rank, const Size& size) const {
    if (bytes + size.mean() * (at_hand + 1) <= limits.bytes) return true;
    const std::size_t last = last_kept();
    return last != kNever && slots[last].rank > rank;
  }

  std::optional<Task> next() const {
    const std::size_t near = std::min(wanted.size(), kGlances);
    for (std::size_t k = 0; k < near; ++k) {
      const Slot& s = slots[wanted[k]];
      if (s.glance || s.whole || s.glanced || s.failed || s.at_hand || s.crowded_out) continue;
      if (!has_room(s.rank, glance_size)) break;
      return Task{wanted[k], Known::Glance};
    }
    for (const std::size_t n : wanted) {
      const Slot& s = slots[n];
      if (s.whole || s.at_hand || s.failed || s.crowded_out) continue;
      if (!has_room(s.rank, whole_size)) break;
      return Task{n, Known::Whole};
    }
    if (unmeasured > 0 && !wanted.empty())
      for (std::size_t n = 0; n < slots.size(); ++n)
        if (!light[n] && !slots[n].failed && !slots[n].at_hand) return Task{n, Known::Whole, false};
    return {};
  }

  void make_room() {
    while (bytes > limits.bytes) {
      const std::size_t last = last_kept();
      if (last == kNever) return;
      Slot& s = slots[last];
      bytes -= bytes_of(s.whole) + bytes_of(s.glance);
      s.whole.reset();
      s.glance.reset();
      s.glanced = false;
      s.crowded_out = true;
    }
  }

  /// Null where the frame cannot be read or is set aside: neighbours stand in, as in the film.
  Picture read(const Task& task) const {
    const media::Frame& frame = (*frames)[task.frame];
    const image::Size full = full_of(task.frame);
    try {
      if (!frame.shown()) return {};
      if (task.what == Known::Whole) {
        const image::Size least = {limits.width,
                                   static_cast<int>(limits.width / std::max(0.05, full.shape()))};
        return decoded(task.frame, full, source->read(frame, {least, {}}));
      }
      image::Picture small = source->small(frame);
      const image::Size size = image::size_of(small);
      // Bars that make another shape of it are not the frame's.
      const image::RectF part = image::in_pixels(image::part_of_shape(size, full), size);
      return decoded(task.frame, full, {std::move(small), part});
    } catch (const std::exception&) {
      return {};
    }
  }

  /// A small picture that is all that would be read anyway: files without one are read themselves.
  bool serves_whole(const Picture& picture) const {
    return picture && picture->shown->part.width >= limits.width &&
           !source->gives_light((*frames)[picture->index]);
  }

  void take_in(const Task& task, Picture picture, std::unique_ptr<image::Luminance> measured) {
    Slot& s = slots[task.frame];
    if (task.what == Known::Glance) {
      s.glanced = true;
      if (!picture || s.whole) return;
      glance_size.add(bytes_of(picture));
      bytes += bytes_of(picture);
      s.glance = std::move(picture);
      return;
    }
    if (!light[task.frame]) --unmeasured;
    if (!picture) {
      s.failed = true;
      return;
    }
    if (!light[task.frame]) light[task.frame] = std::move(measured);
    late.push_back(Clock::now());
    if (late.size() > kOfLate) late.pop_front();
    whole_size.add(bytes_of(picture));
    if (!task.keep) return;
    bytes += bytes_of(picture);
    bytes -= bytes_of(s.glance);
    s.glance.reset();
    s.whole = std::move(picture);
  }

  void work(const std::stop_token& stop) {
    // Whoever draws the film goes before whoever fills the memory.
    stand_back();
    std::unique_lock lock(mutex);
    while (!stop.stop_requested()) {
      std::optional<Task> task = next();
      if (!task) {
        rest.notify_all();
        if (late.size() > 1) late.clear();  // the rate is of reading, not of resting
        wake.wait(lock, stop, [&] { return next().has_value(); });
        continue;
      }
      slots[task->frame].at_hand = true;
      ++at_hand;
      const bool unlit = !light[task->frame];
      lock.unlock();
      Picture picture = read(*task);
      if (task->what == Known::Glance && serves_whole(picture)) task->what = Known::Whole;
      std::unique_ptr<image::Luminance> measured;
      if (picture && unlit && task->what == Known::Whole)
        measured =
            std::make_unique<image::Luminance>(level::measure_frame(picture->shown->picture, limits.film));
      lock.lock();
      slots[task->frame].at_hand = false;
      --at_hand;
      take_in(*task, std::move(picture), std::move(measured));
      make_room();
      if (!arrived) continue;
      lock.unlock();
      arrived();
      lock.lock();
    }
  }
};

SmallFrames::SmallFrames(media::Frames frames, std::shared_ptr<const media::FrameSource> source,
                         const Limits& limits, std::function<void()> arrived)
    : parts_(std::make_unique<Parts>()) {
  Parts& p = *parts_;
  p.frames = std::move(frames);
  p.source = std::move(source);
  p.limits = limits;
  p.arrived = std::move(arrived);
  p.slots.resize(p.frames->size());
  p.light.resize(p.frames->size());
  p.unmeasured = p.frames->size();
  const auto many = limits.threads > 0 ? static_cast<unsigned>(limits.threads)
                                       : std::max(1U, std::thread::hardware_concurrency());
  for (unsigned n = 0; n < many; ++n)
    p.threads.emplace_back([&p](const std::stop_token& stop) { p.work(stop); });
}

SmallFrames::~SmallFrames() {
  for (std::jthread& t : parts_->threads) t.request_stop();
  parts_->wake.notify_all();
}

void SmallFrames::want(std::vector<std::size_t> order) {
  const std::lock_guard lock(parts_->mutex);
  for (Parts::Slot& s : parts_->slots) {
    s.rank = kNever;
    s.crowded_out = false;
  }
  for (std::size_t k = 0; k < order.size(); ++k) {
    std::size_t& rank = parts_->slots[order[k]].rank;
    rank = std::min(rank, k);
  }
  parts_->wanted = std::move(order);
  parts_->wake.notify_all();
}

Picture SmallFrames::at(std::size_t frame, Known most) const {
  const std::lock_guard lock(parts_->mutex);
  const Parts::Slot& s = parts_->slots[frame];
  if (most == Known::Whole && s.whole) return s.whole;
  return s.glance ? s.glance : s.whole;  // a whole one serves for a look at it too
}

Known SmallFrames::known(std::size_t frame) const {
  const std::lock_guard lock(parts_->mutex);
  const Parts::Slot& s = parts_->slots[frame];
  return s.whole || s.failed ? Known::Whole : s.glance ? Known::Glance : Known::Nothing;
}

SmallFrames::Filled SmallFrames::filled() const {
  const Parts& p = *parts_;
  const std::lock_guard lock(p.mutex);
  Filled f;
  for (std::size_t n = 0; n < p.slots.size(); ++n) {
    const Parts::Slot& s = p.slots[n];
    if (s.rank == kNever) continue;
    ++f.wanted;
    if (s.whole || s.failed) ++f.whole;
    if (s.whole || s.failed || s.glance) ++f.glanced;
  }
  f.resting = p.at_hand == 0 && !p.next();
  if (p.late.size() > 4)
    f.rate = static_cast<double>(p.late.size() - 1) /
             std::max(1e-3, std::chrono::duration<double>(p.late.back() - p.late.front()).count());
  return f;
}

void SmallFrames::wait() const {
  std::unique_lock lock(parts_->mutex);
  parts_->rest.wait(lock, [&] { return parts_->at_hand == 0 && !parts_->next(); });
}

level::Luminances SmallFrames::luminances() const {
  const std::lock_guard lock(parts_->mutex);
  if (parts_->unmeasured > 0) return {};
  level::Luminances out;
  for (const auto& l : parts_->light)
    out.push_back(l ? std::make_unique<image::Luminance>(*l) : std::unique_ptr<image::Luminance>());
  return out;
}

}  // namespace askcount::render
