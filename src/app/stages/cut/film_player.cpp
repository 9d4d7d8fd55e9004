#include "app/stages/cut/film_player.h"

#include "app/widgets/image.h"
#include "base/error.h"

namespace askcount::app {
namespace {

constexpr size_t kAhead = 6;
constexpr int kShownWidth = 960;

}  // namespace

FilmPlayer::FilmPlayer(QWidget* parent) : PictureView(parent) {
  setCursor(Qt::PointingHandCursor);
  setObjectName("player");
  setAccessibleName("The clip; click or press Space to play");
  timer_.setTimerType(Qt::PreciseTimer);
  timer_.setInterval(4);
  connect(&timer_, &QTimer::timeout, this, &FilmPlayer::tick);
}

FilmPlayer::~FilmPlayer() {
  stop_reading();
}

void FilmPlayer::close(const QString& text) {
  pause();
  stop_reading();
  file_.clear();
  set({}, text);
}

void FilmPlayer::open(const std::filesystem::path& file) {
  pause();
  stop_reading();
  try {
    cut::FilmReader reader(file);
    fps_ = reader.fps();
    const picture::Size full = reader.size();
    const double scale = std::min(1.0, static_cast<double>(kShownWidth) / full.width);
    size_ = {static_cast<int>(full.width * scale), static_cast<int>(full.height * scale)};
    const auto first = reader.next(size_);
    if (!first) throw failed("the film is empty");
    file_ = file;
    frame_ = 0;
    set(image_of(*first));
  } catch (const Error& e) {
    close(QString::fromUtf8(e.what()));
  }
  emit moved();
}

void FilmPlayer::stop_reading() {
  if (!reader_.joinable()) return;
  reader_.request_stop();
  room_.notify_all();
  reader_.join();
  ahead_.clear();
}

void FilmPlayer::start_reading(long long from) {
  stop_reading();
  reader_ = std::jthread([this, from, file = file_, size = size_](const std::stop_token& stop) {
    try {
      long long frame = from, number = 0;
      cut::FilmReader reader(file);
      if (from > 0) reader.seek(from);
      while (!stop.stop_requested()) {
        auto picture = reader.next(size);
        if (!picture) {  // from the start again
          if (number == 0) return;
          reader = cut::FilmReader(file);
          frame = 0;
          continue;
        }
        ++number;
        QImage image = image_of(*picture);
        std::unique_lock lock(mutex_);
        room_.wait(lock, stop, [this] { return ahead_.size() < kAhead; });
        if (stop.stop_requested()) return;
        ahead_.push_back({std::move(image), frame++});
      }
    } catch (const std::exception&) {
      // The film went away while it played: the last picture stays.
    }
  });
}

void FilmPlayer::toggle() {
  if (playing()) {
    pause();
  } else if (opened()) {
    start_reading(frame_);
    first_ = frame_;
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
  try {
    cut::FilmReader reader(file_);
    if (frame > 0) reader.seek(frame);
    if (const auto picture = reader.next(size_)) {
      frame_ = frame;
      set(image_of(*picture));
    }
  } catch (const Error& e) {
    close(QString::fromUtf8(e.what()));
  }
  emit moved();
}

double FilmPlayer::shown_rate() const {
  const double seconds = static_cast<double>(clock_.elapsed()) / 1000;
  return playing() && seconds > 0.5 ? static_cast<double>(shown_) / seconds : 0;
}

void FilmPlayer::tick() {
  const auto due = static_cast<long long>(static_cast<double>(clock_.elapsed()) / 1000 * fps_.value());
  if (due < shown_) return;
  std::unique_lock lock(mutex_);
  if (ahead_.empty()) {  // the decoder is behind: the clip's clock waits rather than frames being dropped
    if (due > shown_ + 2) {
      lock.unlock();
      clock_.restart();
      shown_ = 0;
    }
    return;
  }
  Picture next = std::move(ahead_.front());
  ahead_.pop_front();
  lock.unlock();
  room_.notify_one();
  ++shown_;
  frame_ = next.frame;
  set(next.image);
  emit moved();
}

}  // namespace askcount::app
