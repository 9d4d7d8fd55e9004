// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/develop.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <mutex>
#include <optional>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/passing.h"
#include "base/units.h"
#include "level/brightness.h"
#include "media/film_frames.h"
#include "render/drawing.h"

namespace askcount::render {
namespace {

namespace fs = std::filesystem;

/// FNV-1a over all that makes a picture what it is.
class Key {
 public:
  void add(const std::string& text) {
    for (const char c : text) hash_ = (hash_ ^ static_cast<unsigned char>(c)) * 1099511628211ULL;
  }
  template <typename Number>
  void number(Number v) {
    add(fmt::format("{:.5g},", static_cast<double>(v)));
  }
  std::string text() const { return fmt::format("{:016x}", hash_); }

 private:
  std::uint64_t hash_ = 14695981039346656037ULL;
};

struct Piece {
  size_t index = 0;
  render::FramePlan plan;
  image::Size size;
  fs::path file;
  std::string mark;
};

std::string mark_for(const Piece& p, const media::Frame& frame, const Order& order) {
  Key key;
  key.add(media::name_of(frame.file()));
  key.add(ending_of(order.format));
  const level::Correction& c = p.plan.correction;
  for (const double v : {c.gain.red, c.gain.green, c.gain.blue}) key.number(v);
  for (const image::Field* field : {&c.field, &c.red_field, &c.blue_field})
    for (const float v : field->stops) key.number(v);
  for (const look::Lane& lane : look::lanes()) key.number(p.plan.look.*lane.value);
  for (const int v : {p.size.width, p.size.height, order.quality, static_cast<int>(frame.blend)})
    key.number(v);
  if (p.plan.cube) key.add(p.plan.cube->name);
  return "Ask Count, development " + key.text();
}

Piece piece_of(const media::Frames& frames, size_t n, const Order& order, const level::Evenness& evenness) {
  render::FilmOrder film;
  const media::Frame& frame = (*frames)[n];
  const image::Size full = media::upright_size(frame);
  film.size = order.size.width > 0 ? order.size : full;
  film.looks = order.looks;
  film.first_frame = order.first_frame;
  Piece p;
  p.index = n;
  p.plan = render::plan_of(film, n, full,
                           evenness.corrections.empty() ? level::Correction() : evenness.corrections[n]);
  p.size = film.size;
  p.file = order.folder / fmt::format("{:05}.{}", static_cast<long long>(n) + order.first_frame + 1,
                                      ending_of(order.format));
  p.mark = mark_for(p, frame, order);
  return p;
}

void write(const Piece& p, const media::Shown& shown, const media::Frame& frame, const Order& order) {
  const image::Resampling how(image::size_of(shown.picture), shown.part, p.size);
  media::ShotInfo info = frame.info();
  info.orientation = 1;  // it is upright now
  info.software = p.mark;
  write_picture(render::drawn16(shown.picture, how, p.plan), order.format, order.quality, info, p.file);
}

}  // namespace

Outcome develop(const media::Frames& frames, const media::FrameSource& source, const Order& order,
                const Work& work) {
  if (!frames || frames->empty()) throw bad_input(say("There are no frames to develop."));
  if (make_folders(order.folder))
    throw bad_input(say("{} is no folder and cannot be made one.", order.folder.string()),
                    say("Name another after -o."));
  std::error_code ec;
  level::Evenness evenness;
  if (order.levelled)
    evenness = level::even_out(
        frames, level::measure(frames, source, order.size, level::MeasuredFrom::Frames, {{}, work.stop}),
        order.smoothing, {{}, work.stop});
  Outcome outcome;
  std::vector<Piece> pieces;
  std::uintmax_t bytes = 0;
  for (size_t n = 0; n < frames->size(); ++n) {
    if (!(*frames)[n].shown()) {
      outcome.unreadable.push_back((*frames)[n].readable()
                                       ? (*frames)[n].file().string() + say(" is set aside, as you asked.")
                                       : (*frames)[n].trouble());
      continue;
    }
    Piece p = piece_of(frames, n, order, evenness);
    if (fs::exists(fs::symlink_status(p.file, ec))) {
      const std::string mark = mark_of(p.file, order.format);
      if (mark == p.mark) {
        ++outcome.there_already;
        continue;
      }
      const bool ours = mark.starts_with("Ask Count, development");
      throw bad_input(
          say("{} already exists{}.", p.file.string(),
              ours ? say(" and was developed otherwise") : say(", and Ask Count did not develop it")),
          say("Name another folder; nothing was written."));
    }
    const std::int64_t pixels = std::int64_t{p.size.width} * p.size.height;
    if (pixels <= image::kMostPixels)  // what claims more cannot be read, and takes no room
      bytes += bytes_at_most(order.format, p.size, order.quality);
    pieces.push_back(std::move(p));
  }
  remove_passing_folders(order.folder);  // of a development that died
  const fs::space_info space = fs::space(order.folder, ec);
  if (!ec && space.available < bytes)
    throw failed(say("{} may take {} GB, and {} GB are free on {}.",
                     counted(static_cast<long long>(pieces.size()), "{} picture", "{} pictures"),
                     format_number(static_cast<double>(bytes) / 1e9, 1),
                     format_number(static_cast<double>(space.available) / 1e9, 1), order.folder.string()),
                 say("Make room, name another folder, or a smaller --size."));
  std::mutex reporting;
  size_t done = 0;
  tbb::parallel_for(size_t{0}, pieces.size(), [&](size_t i) {
    if (work.stop.stop_requested()) return;
    const media::Frame& frame = (*frames)[pieces[i].index];
    std::string trouble;
    std::optional<media::Shown> shown;
    try {
      shown = source.read(frame, {pieces[i].size, pieces[i].plan.part});
    } catch (const Error& e) {
      trouble = e.what();
    }
    // One frame that cannot be read leaves a gap; a disk that cannot be written ends it all.
    if (shown) write(pieces[i], *shown, frame, order);
    const std::lock_guard lock(reporting);
    if (trouble.empty())
      ++outcome.written;
    else
      outcome.unreadable.push_back(trouble);
    work.report(++done, pieces.size());
  });
  if (work.stop.stop_requested())
    throw cancelled(say("Stopped after {}; the same command goes on from there.",
                        counted(static_cast<long long>(outcome.written), "{} picture", "{} pictures")));
  return outcome;
}

}  // namespace askcount::render
