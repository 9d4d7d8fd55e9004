// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/render.h"

#include <fmt/format.h>
#include <tbb/parallel_pipeline.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <functional>
#include <memory>
#include <optional>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"
#include "level/brightness.h"
#include "media/film_frames.h"
#include "media/kind.h"
#include "render/drawing.h"
#include "render/film_line.h"
#include "render/joining.h"
#include "render/level_ahead.h"
#include "render/queue.h"
#include "render/write_in.h"

namespace askcount::render {
namespace {

constexpr size_t kInFlight = 4;
// Decoded frames held while the levelling looks ahead: codes, and linear light, which costs more to read
// twice.
constexpr size_t kHeldBytes = 200u << 20, kHeldLinearBytes = 500u << 20;
/// What all films together need of a frame: the part that holds all their parts, dense enough for each.
media::Want want_of(const std::vector<Need>& needs, image::Size full) {
  image::RectF all = needs.front().part;
  double density = 0;
  for (const Need& need : needs) {
    all = joined_parts(all, need.part);
    density = std::max(density, need.density);
  }
  const auto pixels = [density](double length) { return static_cast<int>(std::lround(length * density)); };
  return {{pixels(all.width * full.width), pixels(all.height * full.height)}, all};
}

/// A frame that films show. Throws as FrameSource::read, and Failed for one that is set aside.
media::Shown read_shown(const media::FrameSource& source, const media::Frame& frame,
                        const media::Want& want) {
  if (frame.set_aside) throw failed(say("{} is set aside, as you asked.", frame.file().string()));
  return source.read(frame, want);
}

/// A frame read for the films that show it, and measured for those that level on the way.
Decoded decode(const media::FrameSource& source, const media::Frame& frame, size_t index,
               const std::vector<const FilmLine*>& lines, const std::vector<size_t>& places) {
  Decoded out;
  out.index = index;
  out.full = media::upright_size(frame);
  std::vector<Need> needs;
  for (size_t film = 0; film < lines.size(); ++film)
    if (places[film] != Queue::kNone) needs.push_back(lines[film]->plan().need_of(places[film], out.full));
  const media::Want want = want_of(needs, out.full);
  out.part = want.part;
  try {
    media::Shown shown = read_shown(source, frame, want);
    const image::Size size = image::size_of(shown.picture);
    for (size_t film = 0; film < lines.size(); ++film) {
      if (!lines[film]->levels()) continue;
      if (places[film] == Queue::kNone) {
        out.luminance.emplace_back();
        continue;
      }
      const image::RectF part = place_in(shown, want.part, lines[film]->plan().measured_part(out.full));
      out.luminance.push_back(image::measure_luminance(shown.picture, image::whole_pixels(part, size)));
    }
    out.shown = std::make_shared<const media::Shown>(std::move(shown));
  } catch (const std::exception& e) {  // whatever a file holds: one cannot stop the rest
    std::error_code ec;
    const std::filesystem::path folder = media::on_disk(frame.file()).parent_path();
    if (!folder.empty() && !std::filesystem::is_directory(folder, ec))
      throw failed(say("The folder {} is gone: the card was pulled.", folder.string()),
                   say("Put it back and make the film again; the one that was there stays."));
    out.trouble = e.what();
    out.luminance.clear();
  }
  return out;
}

/// How far a row of frames that cannot be read goes on.
size_t last_unreadable(const media::Frames& frames, const media::FrameSource& source, size_t from) {
  size_t last = from;
  for (size_t n = from + 1; n < frames->size(); ++n) try {
      read_shown(source, (*frames)[n], {});
      return last;
    } catch (const std::exception&) {
      last = n;
    }
  return last;
}

void check(const media::Frames& frames, const FilmOrder& order) {
  if (!frames || frames->empty()) throw bad_input(say("There are no frames to make a film of."));
  media::check_coding(order.output, order.size, order.coding);
  media::check_sound(order.extras.sound);
  render::check_choice(order.choice, static_cast<long long>(frames->size()));
  if (order.coding.quality < 0 || order.coding.quality > 51)
    throw bad_input(say("Quality {} is not between 0 and 51.", order.coding.quality));
  if (!order.corrections.empty() && order.corrections.size() != frames->size())
    throw bad_input(say("The levelling is of {}, the take has {}.",
                        counted(static_cast<long long>(order.corrections.size()), "{} frame", "{} frames"),
                        format_count(static_cast<long long>(frames->size()))),
                    say("Level the take again."));
  media::check_film_output({order.output, FileKind::Film, order.guard});
  std::error_code ec;
  for (const media::Frame& f : *frames)
    for (const media::Exposure& e : f.exposures)
      if (std::filesystem::equivalent(media::on_disk(e.file()), order.output, ec))
        throw bad_input(say("{} is one of the frames.", order.output.string()), say("Name another file."));
}

/// Whether a film would hold more of decoded frames than there is room for.
bool too_much_to_hold(const media::Frames& frames, const media::FrameSource& source, const FilmLine& line) {
  for (size_t place = 0; place < line.plan().timeline().sequence().size(); ++place) {
    const media::Frame& f = (*frames)[line.plan().timeline().sequence()[place]];
    if (!f.readable() || f.info().size.width <= 0) continue;
    const image::Size full = media::upright_size(f);
    const media::Want want = want_of({line.plan().need_of(place, full)}, full);
    const size_t held = line.holds() + kInFlight;
    if (media::kind_of(f.file()) == media::Kind::Raw)  // just as large as wanted
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

void check_written(const FilmOrder& order, size_t count, const media::FilmFacts& facts) {
  const auto frames = static_cast<long long>(count);
  const double tick = 1 / order.fps.value();
  // The times of animated pictures are in hundredths of a second.
  const bool loose = media::facts_of(order.coding.codec).animation;
  const double length_off = std::abs(facts.duration_s - static_cast<double>(frames) * tick);
  if (facts.frames != frames || !(facts.size == order.size) || length_off > (loose ? 0.05 : 0.6 * tick) ||
      (!loose && std::abs(facts.fps.value() - order.fps.value()) > 0.001))
    throw failed(say("{} was written but does not hold what was ordered: {} frames of {}x{} at {} for {}.",
                     order.output.string(), facts.frames, facts.size.width, facts.size.height,
                     format_frame_rate(facts.fps), format_length(facts.duration_s)),
                 say("Render it again, elsewhere if the disk is full."));
}

media::Extras extras_of(const FilmOrder& order, const FilmLine& line) {
  media::Extras extras = order.extras;
  extras.length_s = static_cast<double>(line.plan().timeline().frames()) / order.fps.value();
  return extras;
}

/// Film frames that can be drawn into again: no more of them exist than are in flight.
class Buffers {
 public:
  explicit Buffers(const FilmOrder& order)
      : size_(order.size), bits_(order.coding.bits), chroma_(order.coding.chroma) {}
  std::unique_ptr<media::FrameBuffer> take() {
    {
      const std::lock_guard lock(mutex_);
      if (!free_.empty()) {
        auto buffer = std::move(free_.back());
        free_.pop_back();
        return buffer;
      }
    }
    return std::make_unique<media::FrameBuffer>(size_, bits_, chroma_);
  }
  void give(std::unique_ptr<media::FrameBuffer> buffer) {
    const std::lock_guard lock(mutex_);
    free_.push_back(std::move(buffer));
  }

 private:
  image::Size size_;
  int bits_;
  media::Chroma chroma_;
  std::mutex mutex_;
  std::vector<std::unique_ptr<media::FrameBuffer>> free_;
};

/// A film frame that is drawn, or the light of one that trails are still to come to.
struct Drawn {
  std::unique_ptr<media::FrameBuffer> buffer;
  std::unique_ptr<Light> light;
  FramePlan plan, layer;
  bool shown = true;
};

/// One film while it is made.
struct Making {
  Making(const FilmOrder& o, FilmLine& l, const media::Frames& frames, std::unique_ptr<StillLight> s = {})
      : order(o), line(l), resamplings(o.size), buffers(o), still(std::move(s)) {
    if (!still) {
      part.emplace(Output{o.output, FileKind::Film, o.guard});
      encoder.emplace(part->path(), o.output, o.size, o.fps, o.coding, extras_of(o, l));
    }
    if (o.choice.bright != 0) trails.emplace(o.choice.bright);
    if (!o.written.none()) write_in.emplace(o.written, o.size, frames);
  }
  const FilmOrder& order;
  FilmLine& line;
  std::optional<TemporaryFile> part;
  Resamplings resamplings;
  Buffers buffers;
  std::optional<media::Encoder> encoder;
  std::unique_ptr<StillLight> still;  // in the place of both
  std::optional<BrightTrails> trails;
  std::optional<WriteIn> write_in;

  void write(const FramePlan& plan, const media::FilmFrame& onto) {
    if (write_in) write_in->onto(onto, plan.frame, width_seen(plan));
  }
  /// Safe from several threads at once.
  Drawn drawn(const DueFrame& frame);
  /// In the order of the film's frames; whether it is one of them, and not only a trail.
  bool put(Drawn drawn);
};

Drawn Making::drawn(const DueFrame& frame) {
  Drawn d;
  d.shown = frame.shown;
  d.plan = frame.plan;
  d.layer = frame.layers.front().plan;
  if (frame.joining == Joining::Brightest || still) {
    d.light = joined(frame, resamplings);
    return d;
  }
  d.buffer = buffers.take();
  if (frame.joining == Joining::One)
    draw_one(frame, resamplings, d.buffer->film());
  else
    code(*joined(frame, resamplings), frame.plan, d.buffer->film());
  write(d.layer, d.buffer->film());
  return d;
}

bool Making::put(Drawn d) {
  if (still) {
    still->add(*d.light);
    return d.shown;
  }
  if (d.light) {
    trails->pass(*d.light);
    if (!d.shown) return false;
    d.buffer = buffers.take();
    code(*d.light, d.plan, d.buffer->film());
    write(d.layer, d.buffer->film());
  }
  encoder->add(*d.buffer);
  buffers.give(std::move(d.buffer));
  return true;
}

/// Films that go through the take the same way: they are made from one reading.
struct Reading {
  std::vector<size_t> frames;  ///< by their number in the take
  std::vector<size_t> films;   ///< by their place in the orders
};

/// Films that go forward share a reading of all frames any of them shows; others only with their like.
std::vector<Reading> readings_of(const std::vector<std::unique_ptr<FilmLine>>& lines,
                                 const std::vector<FilmOrder>& orders) {
  std::vector<Reading> out;
  Reading forward;
  for (size_t film = 0; film < lines.size(); ++film) {
    const std::vector<size_t>& sequence = lines[film]->plan().timeline().sequence();
    if (orders[film].choice.way == render::Way::Forward) {
      std::vector<size_t> all;
      std::set_union(forward.frames.begin(), forward.frames.end(), sequence.begin(), sequence.end(),
                     std::back_inserter(all));
      forward.frames = std::move(all);
      forward.films.push_back(film);
      continue;
    }
    const auto like =
        std::find_if(out.begin(), out.end(), [&](const Reading& r) { return r.frames == sequence; });
    if (like != out.end())
      like->films.push_back(film);
    else
      out.push_back({sequence, {film}});
  }
  if (!forward.films.empty()) out.insert(out.begin(), std::move(forward));
  return out;
}

/// Goes once through the frames of a reading. `report` is told of every film frame that was encoded.
std::vector<std::string> go_through(const Reading& reading, const media::Frames& frames,
                                    const media::FrameSource& source,
                                    const std::vector<std::unique_ptr<Making>>& all,
                                    const std::function<void()>& report, const Work& work) {
  std::vector<Making*> films;
  std::vector<FilmLine*> lines;
  std::vector<const FilmLine*> const_lines;
  for (const size_t film : reading.films) {
    films.push_back(all[film].get());
    lines.push_back(&films.back()->line);
    const_lines.push_back(lines.back());
  }
  Queue queue(lines, reading.frames);
  struct Token {
    enum class Kind { Frame, More, End } kind = Kind::More;
    size_t number = 0;
    std::shared_ptr<const Decoded> frame;
  };
  using DuePtr = std::shared_ptr<Due>;
  using DrawnPtr = std::shared_ptr<std::vector<std::vector<Drawn>>>;
  size_t next = 0;
  // Film frames that wait go before further frames are read, so that no more is held than must be.
  const auto number = [&](tbb::flow_control& flow) -> Token {
    if (work.stop.stop_requested() || queue.done()) {
      flow.stop();
      return {};
    }
    if (queue.waiting()) return {};
    if (next < reading.frames.size()) return {Token::Kind::Frame, next++, {}};
    return {Token::Kind::End, 0, {}};
  };
  const auto read = [&](Token token) -> Token {
    if (token.kind != Token::Kind::Frame) return token;
    std::vector<size_t> places;
    for (size_t film = 0; film < films.size(); ++film) places.push_back(queue.place_of(film, token.number));
    const size_t index = reading.frames[token.number];
    token.frame =
        std::make_shared<const Decoded>(decode(source, (*frames)[index], index, const_lines, places));
    return token;
  };
  // What is passed on is taken by value: where one of them throws, its frames go with it and not with the
  // pipeline, which forgets them.
  const auto wait = [&](Token token) -> DuePtr {
    return std::make_shared<Due>(token.kind == Token::Kind::Frame
                                     ? queue.pass(token.frame)
                                     : queue.more(token.kind == Token::Kind::End));
  };
  const auto draw_all = [&](DuePtr due) -> DrawnPtr {
    auto drawn = std::make_shared<std::vector<std::vector<Drawn>>>(films.size());
    for (size_t film = 0; film < films.size(); ++film)
      for (const DueFrame& frame : (*due)[film]) (*drawn)[film].push_back(films[film]->drawn(frame));
    return drawn;
  };
  const auto encode = [&](DrawnPtr drawn) {
    for (size_t film = 0; film < films.size(); ++film)
      for (Drawn& d : (*drawn)[film])
        if (films[film]->put(std::move(d))) report();
  };
  using tbb::filter_mode;
  tbb::parallel_pipeline(kInFlight,
                         tbb::make_filter<void, Token>(filter_mode::serial_in_order, number) &
                             tbb::make_filter<Token, Token>(filter_mode::parallel, read) &
                             tbb::make_filter<Token, DuePtr>(filter_mode::serial_in_order, wait) &
                             tbb::make_filter<DuePtr, DrawnPtr>(filter_mode::parallel, draw_all) &
                             tbb::make_filter<DrawnPtr, void>(filter_mode::serial_in_order, encode));
  return queue.troubles();
}

/// How a film is steadied; the camera's path is measured where it is not known.
motion::Steadied steadied_for(const FilmOrder& order, const media::Frames& frames,
                              const media::FrameSource& source, image::Size frame, const Work& work) {
  if (order.steady == motion::Mode::None || !order.path.empty())
    return known_steadied(order, frames->size(), frame);
  FilmOrder known = order;
  const std::vector<size_t> shown = frames_shown(order, frames->size());
  const auto path = motion::measure_path(frames, shown, source, order.size.width, {{}, work.stop});
  known.path.resize(frames->size());
  for (size_t n = 0; n < shown.size(); ++n) known.path[shown[n]] = path[n];
  return known_steadied(known, frames->size(), frame);
}

/// Films that are written and looked at, but do not have their names yet.
struct Nameless {
  std::vector<FilmOrder> orders;
  std::vector<std::unique_ptr<FilmLine>> lines;
  std::vector<std::unique_ptr<Making>> films;
  std::vector<FilmOutcome> outcomes;
};

std::unique_ptr<Nameless> write_films(const media::Frames& frames, const media::FrameSource& source,
                                      std::span<const FilmOrder> given, const Work& work) {
  if (given.empty()) throw bad_input(say("No film was ordered."));
  for (const FilmOrder& order : given) check(frames, order);
  const auto began = std::chrono::steady_clock::now();
  auto out = std::make_unique<Nameless>();
  auto& [orders, lines, films, outcomes] = *out;
  orders.assign(given.begin(), given.end());
  const image::Size frame = size_of_take(*frames);
  outcomes.resize(orders.size());
  for (size_t film = 0; film < orders.size(); ++film) {
    FilmOrder& order = orders[film];
    render::check_views(order.views, frame, order.size);
    const motion::Steadied steadied = steadied_for(order, frames, source, frame, work);
    if (order.steady != motion::Mode::None)
      outcomes[film].steadied = {steadied.jitter_before * frame.width, steadied.jitter_after * frame.width,
                                 steadied.edge};
    lines.push_back(std::make_unique<FilmLine>(order, frames, frame, steadied));
    // Where there is too much to hold, or frames do not come in the order of the take, the levelling is
    // worked out first.
    if (levels_on_the_way(order) &&
        (order.choice.way != render::Way::Forward || too_much_to_hold(frames, source, *lines.back()))) {
      outcomes[film].flicker_before = level_ahead(order, frames, source, {{}, work.stop}).flicker_before;
      lines.back() = std::make_unique<FilmLine>(order, frames, frame, steadied);
    }
  }
  size_t total = 0, written = 0;
  for (size_t film = 0; film < orders.size(); ++film) {
    films.push_back(std::make_unique<Making>(orders[film], *lines[film], frames));
    total += lines[film]->plan().timeline().frames();
  }
  for (const Reading& reading : readings_of(lines, orders)) {
    try {
      const auto found = go_through(
          reading, frames, source, films, [&] { work.report(++written, total); }, work);
      for (const size_t film : reading.films) outcomes[film].unreadable = found;
    } catch (const TooManyUnreadable& e) {
      if (e.last() - e.first() + 1 <= kMostInARow) throw;
      const size_t last = last_unreadable(frames, source, e.last());
      throw TooManyUnreadable(e.first(), last,
                              say("Frames {} to {} cannot be read, and neighbours stand in for no "
                                  "more than {} in a row. The film "
                                  "was not made. {}",
                                  e.first() + 1, last + 1, kMostInARow, e.what()));
    }
    if (work.stop.stop_requested()) throw cancelled(say("The render was stopped; nothing was written."));
  }
  for (size_t film = 0; film < films.size(); ++film) {
    films[film]->encoder->finish();
    FilmOutcome& outcome = outcomes[film];
    outcome.facts = media::read_film(films[film]->part->path());
    check_written(orders[film], lines[film]->plan().timeline().frames(), outcome.facts);
    if (const auto flicker = lines[film]->flicker_before()) outcome.flicker_before = *flicker;
    for (const size_t n : lines[film]->set_aside())
      outcome.set_aside.push_back(media::name_of((*frames)[n].file()));
    outcome.made = lines[film]->made();
  }
  for (FilmOutcome& outcome : outcomes)
    outcome.seconds_taken = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
  return out;
}

}  // namespace

std::vector<FilmOutcome> render(const media::Frames& frames, const media::FrameSource& source,
                                std::span<const FilmOrder> orders, const Work& work) {
  const auto written = write_films(frames, source, orders, work);
  for (const auto& film : written->films) film->part->put_in_place();
  return written->outcomes;
}

std::vector<media::FilmWeights> weigh_excerpts(const media::Frames& frames, const media::FrameSource& source,
                                               std::span<const FilmOrder> orders, const Work& work) {
  const auto written = write_films(frames, source, orders, work);
  std::vector<media::FilmWeights> weights;
  for (const auto& film : written->films) weights.push_back(media::weigh_film(film->part->path()));
  return weights;
}

image::Coded16 render_still(const media::Frames& frames, const media::FrameSource& source,
                            const FilmOrder& given, Still kind, const Work& work) {
  if (!frames || frames->empty()) throw bad_input(say("There are no frames to make a picture of."));
  FilmOrder order = given;
  order.choice.speed.clear();
  order.choice.way = render::Way::Forward;
  order.choice.still_first_s = order.choice.still_last_s = 0;
  order.choice.trail = 1;
  order.choice.bright = 0;
  order.choice.between = render::Between::Repeat;
  order.fade_in_s = order.fade_out_s = 0;
  order.written = {};
  if (order.views.size() > 1) order.views.resize(1);
  const image::Size frame = size_of_take(*frames);
  render::check_views(order.views, frame, order.size);
  const motion::Steadied steadied = steadied_for(order, frames, source, frame, work);
  FilmLine line(order, frames, frame, steadied);
  std::vector<std::unique_ptr<Making>> films;
  films.push_back(std::make_unique<Making>(order, line, frames, std::make_unique<StillLight>(kind)));
  size_t done = 0;
  const size_t total = line.plan().timeline().frames();
  go_through(
      {line.plan().timeline().sequence(), {0}}, frames, source, films, [&] { work.report(++done, total); },
      work);
  if (work.stop.stop_requested()) throw cancelled(say("The picture was stopped; nothing was written."));
  return films.front()->still->picture(plan_of(order, 0, frame, {}));
}

FilmOutcome render(const media::Frames& frames, const media::FrameSource& source, const FilmOrder& order,
                   const Work& work) {
  return render(frames, source, std::span(&order, 1), work).front();
}

}  // namespace askcount::render
