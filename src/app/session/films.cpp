// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/films.h"

#include <algorithm>
#include <cmath>
#include <memory>

#include "app/style/text.h"
#include "base/error.h"
#include "films/film.h"
#include "forecast/ended_early.h"
#include "render/anchors.h"
#include "render/picture_file.h"

namespace askcount::app {

Films::Films(Document& document, Frames& frames, Levelling& levelling, CameraWay& way, QObject* parent)
    : QObject(parent), document_(document), frames_(frames), levelling_(levelling), way_(way) {
  connect(&document, &Document::replaced, this, [this] {
    at_ = 0;
    shown_.clear();
    emit changed();
    look();
  });
  connect(&document, &Document::changed, this, &Films::follow);
  connect(&queue, &FilmQueue::trouble, this, &Films::trouble);
  connect(&queue, &FilmQueue::changed, this, &Films::changed);
  connect(&queue, &FilmQueue::made, this,
          [this](const std::shared_ptr<const FilmBatch>& batch, const std::vector<FilmMade>& films) {
            if (batch->generation != document_.generation()) return;
            for (size_t n = 0; n < films.size(); ++n)
              shown_[batch->names[n]] = {films[n].file, films[n].outcome.facts, films[n].outcome,
                                         films[n].finished};
            ++number_;
            emit changed();
          });
}

int Films::count() const {
  return 1 + static_cast<int>(document_.take().more_films.size());
}

void Films::choose(int film) {
  film = std::clamp(film, 0, count() - 1);
  if (film == at_) return;
  at_ = film;
  emit changed();
}

const take::FilmWish& Films::wish_of(int film) const {
  const take::Take& t = document_.take();
  return film == 0 ? t.film : t.more_films[static_cast<size_t>(film) - 1];
}

take::FilmWish& Films::wish_in(take::Take& take) const {
  return at_ == 0 || static_cast<size_t>(at_) > take.more_films.size()
             ? take.film
             : take.more_films[static_cast<size_t>(at_) - 1];
}

void Films::edit(const std::function<void(take::FilmWish&)>& change, const QString& drag) {
  document_.edit([&](take::Take& t) { change(wish_in(t)); }, drag);
}

double Films::tolerance_s() const {
  return 0.5 / films::rate_of(document_.take(), wish()).value_or(FrameRate{25, 1}).value();
}

void Films::set_view(double at_s, const render::View& view, const QString& drag) {
  std::vector<render::ViewAnchor> anchors = wish().views;
  const image::Size frame = frame_size(), film = wish().size;
  render::set_anchor(anchors, render::ViewAnchor{at_s, render::held_within(view, frame, film)},
                     tolerance_s());
  render::check_views(anchors, frame, film);
  edit([&](take::FilmWish& film_wish) { film_wish.views = anchors; }, drag);
}

void Films::set_speed(double at_s, double times, const QString& drag) {
  render::Choice choice = wish().choice;
  times = std::clamp(times, render::kSlowest, render::kFastest);
  render::set_anchor(choice.speed, render::SpeedAnchor{at_s, times}, tolerance_s());
  if (choice.speed.size() == 1 && times == 1) choice.speed.clear();
  render::check_choice(choice, static_cast<long long>(frames_.list()->size()));
  edit([&](take::FilmWish& film) { film.choice = choice; }, drag);
}

void Films::add() {
  take::FilmWish film = wish();
  const auto taken = [this](const std::string& name) {
    for (int n = 1; n < count(); ++n)
      if (wish_of(n).name == name) return true;
    return false;
  };
  const std::string stem = document_.film_file().stem().string();
  for (int n = 2; film.name.empty() || taken(film.name); ++n) film.name = stem + " " + std::to_string(n);
  document_.edit([&](take::Take& t) { t.more_films.push_back(film); });
  choose(count() - 1);
}

void Films::remove() {
  if (count() == 1) return;
  const int gone = at_;
  document_.edit([gone](take::Take& t) {
    if (gone == 0) {  // the next becomes the take's own
      t.film = t.more_films.front();
      t.film.name.clear();
      t.more_films.erase(t.more_films.begin());
    } else {
      t.more_films.erase(t.more_films.begin() + gone - 1);
    }
  });
  at_ = std::min(at_, count() - 1);
  emit changed();
}

void Films::rename(const QString& name) {
  const std::string to = name.trimmed().toStdString();
  if (at_ == 0 || to == wish().name) return;
  bool taken = to == document_.film_file().stem().string();
  for (int n = 1; n < count(); ++n) taken |= n != at_ && wish_of(n).name == to;
  if (!take::is_film_name(to)) {
    emit trouble(
        say_q("A film's name becomes a file name: it cannot be empty, start with a dot or contain a slash."));
  } else if (taken) {
    emit trouble(say_q("This take already has a film called ") + name.trimmed() + ".");
  } else {
    edit([&](take::FilmWish& film) { film.name = to; });
    emit changed();
  }
}

/// After undo there may be fewer.
void Films::follow() {
  if (at_ < count()) return;
  at_ = count() - 1;
  emit changed();
}

std::filesystem::path Films::wished_file(int film) const {
  const std::filesystem::path own = document_.film_file();
  if (film == 0) return own;
  const take::FilmWish& wish = wish_of(film);
  return own.parent_path() / (wish.name + "." + wish.ending);
}

const Films::Shown& Films::shown() const {
  static const Shown none;
  const auto found = shown_.find(wish().name);
  return found == shown_.end() ? none : found->second;
}

std::filesystem::path Films::file() const {
  return shown().file.empty() ? wished_file(at_) : shown().file;
}

const std::optional<render::Timeline>& Films::timeline() const {
  Gone now{wish(), frames_.list(), films::rate_of(document_.take(), wish())};
  if (gone_through_ == now) return timeline_;
  timeline_.reset();
  if (!now.frames->empty() && now.fps) try {
      timeline_.emplace(now.wish.choice, static_cast<long long>(now.frames->size()), *now.fps, gaps());
    } catch (const Error&) {
      timeline_.reset();
    }
  gone_through_ = std::move(now);
  return timeline_;
}

long long Films::take_frame(long long film_frame) const {
  const auto& t = timeline();
  if (!t || film_frame < 0) return std::max(0LL, film_frame);
  const size_t at = std::min(static_cast<size_t>(film_frame), t->frames() - 1);
  return static_cast<long long>(t->take_place(at) + 1e-9);
}

long long Films::film_frame(long long take_frame) const {
  const auto& t = timeline();
  if (!t) return take_frame;
  size_t best = 0;
  double least = 1e18;
  for (size_t n = 0; n < t->frames(); ++n)
    if (const double off = std::abs(t->take_place(n) - static_cast<double>(take_frame)); off < least)
      least = off, best = n;
  return static_cast<long long>(best);
}

void Films::look() {
  reading_.disown();
  if (document_.file().empty()) return;
  const auto found = std::make_shared<std::map<std::string, Shown>>();
  std::vector<std::pair<std::string, std::filesystem::path>> wished;
  for (int n = 0; n < count(); ++n) wished.emplace_back(wish_of(n).name, wished_file(n));
  reading_.start(
      {say_q("Looking at the films"),
       [found, wished](const Work&) {
         for (const auto& [name, file] : wished) {
           std::error_code ec;
           Shown shown{films::film_file(file), {}, {}, {}};
           if (std::filesystem::exists(shown.file, ec)) shown.facts = media::read_film(shown.file);
           if (shown.facts && shown.facts->frames > 0) (*found)[name] = shown;
         }
       },
       [this, found] {
         for (const auto& [name, shown] : *found) shown_.try_emplace(name, shown);
         if (!found->empty()) ++number_;
         emit changed();
       },
       [this, generation = document_.generation()] { return generation == document_.generation(); }});
}

render::FilmOrder Films::order_of(int film) const {
  render::FilmOrder order = films::film_order(document_.take(), wish_of(film), wished_file(film),
                                              document_.file().parent_path(), frames_.list());
  if (way_.path()) order.path = *way_.path();
  order.gaps = gaps();
  if (!levelling_.evenness() || levelling_.stale()) return order;
  order.corrections = levelling_.evenness()->corrections;
  if (wish_of(film).said.chapters)
    order.extras.chapters = films::chapters_of(order, frames_.list(), *levelling_.evenness());
  // Measured over a film of another shape.
  if (const image::Size measured = levelling_.measured_film();
      std::abs(measured.shape() - order.size.shape()) > 1e-6)
    order.corrected_part = render::film_part(frame_size(), measured);
  return order;
}

/// Where films of a take without a file go; of one that has a file, it is the file's.
void Films::make_folder() const {
  std::error_code ec;
  if (document_.file().empty()) std::filesystem::create_directories(document_.film_file().parent_path(), ec);
}

void Films::make() {
  if (!frames_.gathered()) return;
  make_folder();
  FilmBatch batch;
  try {
    for (int n = 0; n < count(); ++n) {
      batch.orders.push_back(order_of(n));
      batch.names.push_back(wish_of(n).name);
      batch.wishes.push_back(wish_of(n));
    }
  } catch (const Error& e) {
    emit trouble(QString::fromUtf8(e.what()));
    return;
  }
  batch.generation = document_.generation();
  batch.take = document_.take();
  if (const auto& found = frames_.gathered())
    if (const auto ended = forecast::ended_early(batch.take, *found))
      batch.about.push_back(forecast::judge(batch.take, *ended));
  batch.folder = document_.file().parent_path();
  batch.file = document_.file().empty() ? document_.kept_file() : document_.file();
  batch.frames = frames_.list();
  queue.add(std::move(batch));
}

void Films::make_still(Job& job) {
  if (!frames_.gathered() || job.running()) return;
  make_folder();
  render::FilmOrder order;
  try {
    order = order_of(at_);
  } catch (const Error& e) {
    emit trouble(QString::fromUtf8(e.what()));
    return;
  }
  std::filesystem::path file = wished_file(at_);
  file.replace_filename(file.stem().string() + " still.png");
  for (int n = 2; std::filesystem::exists(file); ++n)
    file.replace_filename(wished_file(at_).stem().string() + " still " + std::to_string(n) + ".png");
  const auto kind = order.choice.bright != 0 ? render::Still::Brightest : render::Still::Mean;
  job.start({say_q("Making one still"),
             [order, kind, file, take = document_.take(), folder = document_.file().parent_path(),
              frames = frames_.list()](const Work& work) {
               const auto source = films::source_of(take, folder, frames);
               const image::Coded16 picture = render::render_still(frames, *source, order, kind, work);
               render::write_picture(picture, render::Format::Png16, 95, {}, file);
             },
             [this, file] {
               emit told(QString::fromStdString(file.filename().string()) + say_q(" is beside the take."));
             },
             {}});
}

std::vector<render::Gap> Films::gaps() const {
  return frames_.gathered() ? films::gaps_of(*frames_.gathered()) : std::vector<render::Gap>();
}

image::Size Films::frame_size() const {
  return render::size_of_take(*frames_.list());
}

bool Films::making() const {
  const FilmBatch* batch = queue.at_work();
  return batch && batch->generation == document_.generation();
}

}  // namespace askcount::app

#include "moc_films.cpp"
