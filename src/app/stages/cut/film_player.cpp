// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/cut/film_player.h"

#include <condition_variable>
#include <deque>
#include <mutex>
#include <thread>

#include "app/style/text.h"
#include "app/widgets/image.h"
#include "base/error.h"

namespace askcount::app {
namespace {

constexpr size_t kFramesAhead = 6;
constexpr int kShownWidth = 960;
constexpr int kFilmTick_ms = 4;
constexpr int kLate = 2;  // frames the decoder may lag before the clip's clock waits for it

image::Size shown_size(image::Size full) {
  const double scale = std::min(1.0, static_cast<double>(kShownWidth) / full.width);
  return {static_cast<int>(full.width * scale), static_cast<int>(full.height * scale)};
}

}  // namespace

/// One go through the film, on a thread of its own.
struct FilmPlayer::Reading : std::enable_shared_from_this<Reading> {
  std::filesystem::path file;
  std::mutex mutex;
  std::condition_variable_any room;
  std::deque<Picture> ahead;
  std::jthread thread;
};

FilmPlayer::FilmPlayer(QWidget* parent) : PictureView(parent) {
  setCursor(Qt::PointingHandCursor);
  setObjectName("player");
  setAccessibleName(say_q("The clip; click or press Space to play"));
  timer_.setTimerType(Qt::PreciseTimer);
  timer_.setInterval(kFilmTick_ms);
  connect(&timer_, &QTimer::timeout, this, &FilmPlayer::tick);
}

FilmPlayer::~FilmPlayer() {
  stop_reading();
  for (const auto& reading : leaving_)
    if (reading->thread.joinable()) reading->thread.join();
}

void FilmPlayer::close(const QString& text) {
  pause();
  stop_reading();
  file_.clear();
  set({}, text);
}

void FilmPlayer::open(const std::filesystem::path& file) {
  pause();
  file_ = file;
  frame_ = 0;
  start_reading(0, Want::One);
  emit moved();
}

void FilmPlayer::stop_reading() {
  if (!reading_) return;
  reading_->thread.request_stop();
  reading_->room.notify_all();
  leaving_.push_back(std::move(reading_));
  reading_.reset();
}

void FilmPlayer::start_reading(long long from, Want want) {
  stop_reading();
  reading_ = std::make_shared<Reading>();
  reading_->file = file_;
  reading_->thread = std::jthread([this, from, want, reading = reading_](const std::stop_token& stop) {
    QString trouble;
    try {
      read(*reading, stop, from, want);
    } catch (const std::exception& e) {
      if (want == Want::One) trouble = QString::fromUtf8(e.what());
      // Gone while it played: the last picture stays.
    }
    QMetaObject::invokeMethod(
        this, [this, reading, trouble] { gone(reading, trouble); }, Qt::QueuedConnection);
  });
}

void FilmPlayer::gone(const std::shared_ptr<Reading>& reading, const QString& trouble) {
  if (reading->thread.joinable()) reading->thread.join();
  leaving_.remove(reading);
  if (reading != reading_ || trouble.isEmpty()) return;
  close(trouble);
  emit moved();
}

void FilmPlayer::read(Reading& reading, const std::stop_token& stop, long long from, Want want) {
  long long frame = from, number = 0;
  media::FilmReader reader(reading.file);
  const image::Size size = shown_size(reader.size());
  if (from > 0) reader.seek(from);
  while (!stop.stop_requested()) {
    auto picture = reader.next(size, stop);
    if (stop.stop_requested()) return;
    if (!picture) {  // from the start again
      if (number == 0) throw failed(reading.file.string() + say(" has no such picture."));
      reader = media::FilmReader(reading.file);
      frame = 0;
      continue;
    }
    ++number;
    Picture next{image_of(*picture), frame++};
    if (want == Want::One) {
      QMetaObject::invokeMethod(
          this,
          [this, from = reading.shared_from_this(), next, fps = reader.fps()] { arrived(from, next, fps); },
          Qt::QueuedConnection);
      return;
    }
    std::unique_lock lock(reading.mutex);
    reading.room.wait(lock, stop, [&] { return reading.ahead.size() < kFramesAhead; });
    if (stop.stop_requested()) return;
    reading.ahead.push_back(std::move(next));
  }
}

void FilmPlayer::arrived(const std::shared_ptr<Reading>& reading, const Picture& picture, FrameRate fps) {
  if (reading != reading_) return;
  fps_ = fps;
  frame_ = picture.frame;
  set(picture.image);
  emit moved();
}

void FilmPlayer::toggle() {
  if (playing()) {
    pause();
  } else if (opened()) {
    start_reading(frame_, Want::All);
    shown_ = 0;
    clock_.start();
    timer_.start();
  }
  emit moved();
}

void FilmPlayer::pause() {
  if (!playing()) return;
  timer_.stop();
  stop_reading();
  emit moved();
}

void FilmPlayer::seek(long long frame) {
  if (!opened() || frame == frame_) return;
  pause();
  start_reading(frame, Want::One);
}

double FilmPlayer::shown_rate() const {
  const double seconds = static_cast<double>(clock_.elapsed()) / 1000;
  return playing() && seconds > 0.5 ? static_cast<double>(shown_) / seconds : 0;
}

void FilmPlayer::tick() {
  const auto due = static_cast<long long>(static_cast<double>(clock_.elapsed()) / 1000 * fps_.value());
  if (due < shown_) return;
  std::unique_lock lock(reading_->mutex);
  if (reading_->ahead.empty()) {  // the decoder lags: the clip's clock waits rather than frames being dropped
    if (due > shown_ + kLate) {
      lock.unlock();
      clock_.restart();
      shown_ = 0;
    }
    return;
  }
  const Picture next = std::move(reading_->ahead.front());
  reading_->ahead.pop_front();
  lock.unlock();
  reading_->room.notify_one();
  ++shown_;
  frame_ = next.frame;
  set(next.image);
  emit moved();
}

}  // namespace askcount::app

#include "moc_film_player.cpp"
