// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/film_frames.h"

#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <list>
#include <mutex>

#include "base/error.h"
#include "base/language.h"
#include "image/tone.h"
#include "media/frame_source.h"
#include "media/kind.h"
#include "media/reader.h"

namespace askcount::media {
namespace fs = std::filesystem;
namespace {

constexpr size_t kReaders = 4;     // films kept open, each with what its decoder holds
constexpr int kSmall = 320;        // pixels across that a picture has at least
constexpr long long kAhead = 250;  // pictures further on that are reached sooner by decoding than by seeking

/// Films that are open, for whoever asks for the next picture.
class OpenFilms {
 public:
  struct Reader {
    fs::path film;
    media::FilmReader reader;
    long long next = 0;  ///< the picture that comes next
  };

  /// The reader that gets to a picture soonest, or a new one.
  Reader take(const fs::path& film, long long picture) {
    {
      const std::lock_guard lock(mutex_);
      auto best = idle_.end();
      for (auto it = idle_.begin(); it != idle_.end(); ++it)
        if (it->film == film && it->next <= picture && picture - it->next <= kAhead &&
            (best == idle_.end() || it->next > best->next))
          best = it;
      if (best != idle_.end()) {
        Reader r = std::move(*best);
        idle_.erase(best);
        return r;
      }
    }
    Reader r{film, media::FilmReader(film, 1), 0};
    if (picture > 0) r.reader.seek(picture);
    r.next = picture;
    return r;
  }

  void give_back(Reader reader) {
    std::list<Reader> old;  // closed when the lock is open again
    const std::lock_guard lock(mutex_);
    idle_.push_front(std::move(reader));
    if (idle_.size() > kReaders) old.splice(old.begin(), idle_, std::prev(idle_.end()));
  }

 private:
  std::mutex mutex_;
  std::list<Reader> idle_;
};

OpenFilms& open_films() {
  static OpenFilms films;
  return films;
}

/// A picture of a film, upright and no wider than `width`; of its own size for 0.
image::Coded8 picture_of(const Frame& frame, int width) {
  if (!frame.readable()) throw failed(frame.trouble());
  const Exposure& e = frame.main();
  const fs::path& film = on_disk(e.file());
  const long long picture = picture_in_film(e.file());
  OpenFilms::Reader r = open_films().take(film, picture);
  const image::Size full = image::upright(e.info.size, e.info.orientation);
  image::Size fit;
  if (width > 0 && width < full.width)
    fit = image::upright(
        {width, std::max(1, static_cast<int>(static_cast<long long>(full.height) * width / full.width))},
        e.info.orientation);
  r.reader.pass_to(picture);
  auto shown = r.reader.next(fit);
  if (!shown || r.reader.damaged())
    throw failed(say("{} cannot be read at picture {}: the film ends before it or is damaged there.",
                     film.string(), picture + 1));
  r.next = picture + 1;
  open_films().give_back(std::move(r));
  return image::oriented(*shown, e.info.orientation);
}

}  // namespace

bool is_in_film(const fs::path& file) {
  return !file.has_extension() && kind_of(file) == Kind::Film;
}

fs::path on_disk(const fs::path& file) {
  return is_in_film(file) ? file.parent_path() : file;
}

long long picture_in_film(const fs::path& file) {
  return is_in_film(file) ? std::stoll(file.filename().string()) : -1;
}

long long film_step(const std::vector<Frame>& frames) {
  return frames.size() > 1 ? picture_in_film(frames[1].file()) - picture_in_film(frames[0].file()) : 1;
}

std::string name_of(const fs::path& file) {
  const std::string name = file.filename().string();
  return is_in_film(file) ? file.parent_path().filename().string() + "/" + name : name;
}

std::vector<Exposure> film_frames(const fs::path& film, long long every, double stretch) {
  const media::FilmFacts facts = media::read_film(film);
  if (facts.fps.value() <= 0 || facts.frames <= 0)
    throw bad_input(say("{} does not say how many pictures it has in a second.", film.string()),
                    say("Copy it into a film of an even rate first."));
  using std::chrono::milliseconds;
  CameraTime begun{};
  if (facts.made) {
    begun = std::chrono::time_point_cast<milliseconds>(*facts.made);
  } else {
    const auto changed = fs::last_write_time(film);
    begun = std::chrono::time_point_cast<milliseconds>(std::chrono::file_clock::to_sys(changed)) -
            milliseconds(std::llround(facts.duration_s * stretch * 1000));
  }
  std::vector<Exposure> frames;
  frames.reserve(static_cast<size_t>(facts.frames / every + 1));
  // A film that was cut short by a full card or a pulled cable: what its index tells of more is missing, and
  // is said. An index that is a picture off is no sign of that, nor one beyond all measure.
  constexpr long long kOff = 2, kMostTimes = 100;
  const bool cut_short = facts.indexed > facts.frames + kOff && facts.indexed < kMostTimes * facts.frames;
  const long long all = cut_short ? facts.indexed : facts.frames;
  for (long long n = 0; n < all; n += every) {
    Exposure e;
    e.compressed = film / fmt::format("{:06}", n);
    e.info.captured =
        begun + milliseconds(std::llround(static_cast<double>(n) / facts.fps.value() * stretch * 1000));
    e.info.body = facts.camera;
    e.info.size = facts.size;
    e.info.orientation = facts.orientation;
    if (n >= facts.frames)
      e.trouble = say("{} is cut short: it should have {} pictures and has {}.", film.string(), facts.indexed,
                      facts.frames);
    frames.push_back(std::move(e));
  }
  return frames;
}

long long film_pictures(const fs::path& film) {
  return media::read_film(film).frames;
}

FrameRate film_rate(const fs::path& film) {
  return media::FilmReader(film, 1).fps();
}

Shown FilmSource::read(const Frame& frame, const Want& want) const {
  if (!frame.readable()) throw failed(frame.trouble());  // its size may not be known
  const image::Size full = image::upright(frame.info().size, frame.info().orientation);
  const image::RectF wanted = image::in_pixels(want.part, full);
  // As small as will do: what is wanted of the part, of the whole.
  const double share = std::max(want.at_least.width / wanted.width, want.at_least.height / wanted.height);
  const int width = std::max(static_cast<int>(std::ceil(share * full.width)), kSmall);
  image::Picture picture = picture_of(frame, std::min(width, full.width));
  const image::RectF part = image::in_pixels(want.part, image::size_of(picture));
  return {std::move(picture), part};
}

image::Picture FilmSource::small(const Frame& frame) const {
  return picture_of(frame, kSmall);
}

image::Grey8 FilmSource::grey(const Frame& frame, int width) const {
  return image::grey(picture_of(frame, width));
}

}  // namespace askcount::media
