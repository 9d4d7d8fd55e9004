// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/cut/preview_player.h"

#include <algorithm>
#include <chrono>
#include <cmath>

#include "app/style/text.h"
#include "app/widgets/image.h"
#include "base/error.h"

namespace askcount::app {
namespace {

constexpr int kTick_ms = 4;
constexpr size_t kAhead = 4;                // pictures drawn ahead of the clock
constexpr int kFit = 720, kLeastFit = 300;  // pixels of the longer side
constexpr double kTooLong = 0.85;           // of a picture's time: what takes longer to draw is drawn smaller
constexpr long long kLookAgain = 25;  // pictures after which it is asked anew whether sharp ones keep up
constexpr long long kWantAnew = 12;   // and which frames are wanted next

}  // namespace

PreviewPlayer::PreviewPlayer(Session& session, QWidget* parent) : PictureView(parent), session_(session) {
  setCursor(Qt::PointingHandCursor);
  setObjectName("preview");
  setAccessibleName(say_q("The film as it will be; click or press Space to play"));
  timer_.setTimerType(Qt::PreciseTimer);
  timer_.setInterval(kTick_ms);
  connect(&timer_, &QTimer::timeout, this, &PreviewPlayer::tick);
  connect(&session.preview, &Preview::changed, this, &PreviewPlayer::follow);
  connect(&session.preview, &Preview::filled, this, [this] {
    // What is on screen is drawn again until it is all there.
    if (!playing() && known_ != render::Known::Whole) tell();
  });
  thread_ = std::jthread([this](const std::stop_token& stop) { draw_all(stop); });
}

PreviewPlayer::~PreviewPlayer() {
  thread_.request_stop();
  hurry_.request_stop();
  wake_.notify_all();
  thread_.join();
}

/// Another film, or the same in another way: what plays goes on from where it is.
void PreviewPlayer::follow() {
  const auto of = session_.preview.now();
  if (!of) {
    pause();
    known_ = render::Known::Nothing;
    shown_frame_ = -1;
    frames_ = 0;
    tell();
    set({}, session_.preview.trouble());
    emit moved();
    return;
  }
  const bool played = playing();
  fps_ = of->order.fps;
  frames_ = session_.films.timeline() ? session_.films.timeline()->frames() : 0;
  frame_ = std::clamp(frame_, 0LL, std::max(0LL, static_cast<long long>(frames_) - 1));
  known_ = render::Known::Nothing;
  if (played) {
    began_at_ = frame_;
    pictures_ = 0;
    clock_.start();
  }
  tell();
  emit moved();
}

/// Gives the drawing thread its next wish.
void PreviewPlayer::tell() {
  {
    const std::lock_guard lock(mutex_);
    hurry_.request_stop();
    hurry_ = std::stop_source();
    ahead_.clear();
    wish_ = {session_.preview.now(),           session_.preview.small(), frame_, playing(),
             std::chrono::steady_clock::now(), wish_.number + 1};
  }
  wake_.notify_all();
}

void PreviewPlayer::toggle() {
  if (playing()) {
    pause();
    return;
  }
  if (frames_ == 0) return;
  began_at_ = frame_;
  pictures_ = 0;
  clock_.start();
  timer_.start();
  tell();
  emit moved();
}

void PreviewPlayer::pause() {
  if (!playing()) return;
  timer_.stop();
  tell();
  emit moved();
}

void PreviewPlayer::seek(long long frame) {
  frame = std::clamp(frame, 0LL, std::max(0LL, static_cast<long long>(frames_) - 1));
  if (playing()) pause();
  if (frame == frame_) return;
  frame_ = frame;
  tell();
  emit moved();
}

double PreviewPlayer::picture_rate() const {
  const double seconds = static_cast<double>(clock_.elapsed()) / 1000;
  return playing() && seconds > 0.2 ? static_cast<double>(pictures_) / seconds : 0;
}

void PreviewPlayer::tick() {
  const auto due = static_cast<long long>(static_cast<double>(clock_.elapsed()) / 1000 * fps_.value());
  const long long before = frame_;
  frame_ = (began_at_ + due) % static_cast<long long>(std::max<size_t>(1, frames_));
  std::optional<Picture> next;
  {
    const std::lock_guard lock(mutex_);
    while (!ahead_.empty() && ahead_.front().number <= due) {
      next = std::move(ahead_.front());
      ahead_.pop_front();
    }
  }
  if (next) {
    wake_.notify_all();
    ++pictures_;
    shown_frame_ = next->frame;
    known_ = next->known;
    set(next->image);
  }
  if (frame_ != before) emit moved();
}

bool PreviewPlayer::still_wished(const Wish& wish) {
  const std::lock_guard lock(mutex_);
  return wish_.number == wish.number;
}

void PreviewPlayer::draw_all(const std::stop_token& stop) {
  int done = 0;
  Drawing drawing;
  while (!stop.stop_requested()) {
    Wish wish;
    std::stop_token hurry;
    {
      std::unique_lock lock(mutex_);
      wake_.wait(lock, stop, [&] { return wish_.number != done; });
      if (stop.stop_requested()) return;
      wish = wish_;
      hurry = hurry_.get_token();
    }
    done = wish.number;
    const std::shared_ptr<render::SmallFrames> small = wish.small.lock();
    if (!wish.of || !small) {
      drawing = {};
      continue;
    }
    try {
      // A picture to look at is as fine as it can be; one of a film as fine as keeps up.
      if (wish.of != drawing.of) drawing.fit = kFit;
      drawing.be_of(wish.of, wish.play ? drawing.fit : kFit);
      small->want(drawing.film->wanted_from(static_cast<size_t>(wish.frame)));
      if (wish.play)
        play(wish, drawing, *small, hurry);
      else
        draw_one(wish, *drawing.film, *small, hurry);
    } catch (const std::exception&) {
      drawing = {};  // told where it was ordered; the last picture stays
    }
  }
}

void PreviewPlayer::Drawing::be_of(const std::shared_ptr<const PreviewOf>& wished, int largest) {
  const image::Size size = render::preview_size(wished->order.size, {largest, largest});
  if (film && of == wished && film->size() == size) return;
  film = std::make_unique<render::FilmPreview>(wished->order, wished->frames, wished->frame,
                                               image::Size{largest, largest}, wished->steadied);
  of = wished;
}

void PreviewPlayer::draw_one(const Wish& wish, render::FilmPreview& film, const render::SmallFrames& small,
                             const std::stop_token& stop) {
  const auto n = static_cast<size_t>(wish.frame);
  if (n >= film.frames()) return;
  const auto drawn = film.draw(n, small, render::Known::Whole, stop);
  if (drawn.picture.empty()) return;
  QMetaObject::invokeMethod(
      this,
      [this, picture = Picture{image_of(drawn.picture), 0, wish.frame, drawn.known}, number = wish.number] {
        arrived(picture, number);
      },
      Qt::QueuedConnection);
}

void PreviewPlayer::arrived(const Picture& picture, int wish) {
  {
    const std::lock_guard lock(mutex_);
    if (wish != wish_.number) return;
  }
  shown_frame_ = picture.frame;
  known_ = picture.known;
  set(picture.image);
  emit moved();
}

void PreviewPlayer::play(const Wish& wish, Drawing& drawing, render::SmallFrames& small,
                         const std::stop_token& stop) {
  const auto count = static_cast<long long>(drawing.film->frames());
  const double tick = 1 / drawing.film->fps().value();
  double taken = 0;  // seconds for a picture, of late
  bool sharp = drawing.film->keeps_up_whole(static_cast<size_t>(wish.frame), small);
  for (long long number = 0; !stop.stop_requested(); ++number) {
    {
      std::unique_lock lock(mutex_);
      wake_.wait(lock, stop, [&] { return ahead_.size() < kAhead || wish_.number != wish.number; });
      if (wish_.number != wish.number) return;
    }
    render::FilmPreview& film = *drawing.film;
    const auto before = std::chrono::steady_clock::now();
    const double gone = std::chrono::duration<double>(before - wish.began).count();
    // What is due already is too late to be drawn.
    number = std::max(number, static_cast<long long>(gone * film.fps().value()) + (number > 0 ? 1 : 0));
    const long long frame = (wish.frame + number) % count;
    if (number % kWantAnew == 0) small.want(film.wanted_from(static_cast<size_t>(frame)));
    if (!sharp && (number % kLookAgain == 0 || frame == 0))
      sharp = film.keeps_up_whole(static_cast<size_t>(frame), small);
    const auto drawn = film.draw(static_cast<size_t>(frame), small,
                                 sharp ? render::Known::Whole : render::Known::Glance, stop);
    const double this_one = std::chrono::duration<double>(std::chrono::steady_clock::now() - before).count();
    taken = taken > 0 ? 0.8 * taken + 0.2 * this_one : 0.5 * this_one;
    if (taken > kTooLong * tick && drawing.fit > kLeastFit) {
      drawing.fit = std::max(kLeastFit, drawing.fit * 3 / 4);
      drawing.be_of(wish.of, drawing.fit);
      taken = 0;
    }
    if (drawn.picture.empty()) continue;
    const std::lock_guard lock(mutex_);
    if (wish_.number != wish.number) return;
    ahead_.push_back({image_of(drawn.picture), number, frame, drawn.known});
  }
}

}  // namespace askcount::app

#include "moc_preview_player.cpp"
