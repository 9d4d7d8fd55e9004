// The finished clip, playing at its true frame rate.
#pragma once

#include <condition_variable>
#include <deque>
#include <filesystem>
#include <mutex>
#include <QElapsedTimer>
#include <QTimer>
#include <QWidget>
#include <thread>

#include "app/widgets/picture_view.h"
#include "cut/film.h"

namespace askcount::app {

/// Pictures are decoded on a thread of their own, a few ahead, and shown when the clip's clock says so. Plays
/// in a loop.
class FilmPlayer : public PictureView {
  Q_OBJECT
 public:
  explicit FilmPlayer(QWidget* parent);
  ~FilmPlayer() override;

  /// Opens a film and shows its first picture. A film that cannot be played leaves words instead.
  void open(const std::filesystem::path& file);
  void close(const QString& words);
  bool opened() const { return !file_.empty(); }
  void toggle();
  bool playing() const { return timer_.isActive(); }
  /// The frame on screen, from 0.
  long long frame() const { return frame_; }
  /// Frames a second as they really appeared since play began.
  double shown_rate() const;
  void seek(long long frame);

 signals:
  void moved();

 protected:
  void mousePressEvent(QMouseEvent*) override { toggle(); }
  void hideEvent(QHideEvent*) override { pause(); }

 private:
  struct Picture {
    QImage image;
    long long frame;
  };
  void pause();
  void tick();
  void start_reading(long long from);
  void stop_reading();

  std::filesystem::path file_;
  FrameRate fps_;
  picture::Size size_;
  QTimer timer_;
  QElapsedTimer clock_;
  long long frame_ = 0, first_ = 0, shown_ = 0;
  std::jthread reader_;
  std::mutex mutex_;
  std::condition_variable_any room_;
  std::deque<Picture> ahead_;
};

}  // namespace askcount::app
