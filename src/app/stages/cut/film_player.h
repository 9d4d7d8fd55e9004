// SPDX-License-Identifier: GPL-3.0-or-later
// The finished clip, playing at its true frame rate.
#pragma once

#include <filesystem>
#include <list>
#include <memory>
#include <QElapsedTimer>
#include <QTimer>
#include <QWidget>
#include <stop_token>

#include "app/widgets/picture_view.h"
#include "base/frame_rate.h"
#include "media/reader.h"

namespace askcount::app {

/// Pictures are decoded on a thread of their own, a few ahead, and shown when the clip's clock says so. Plays
/// in a loop.
class FilmPlayer : public PictureView {
  Q_OBJECT
 public:
  explicit FilmPlayer(QWidget* parent);
  ~FilmPlayer() override;

  /// Opens a film; its first picture appears once it is read. A film that cannot be played leaves words
  /// instead.
  void open(const std::filesystem::path& file);
  void close(const QString& words);
  bool opened() const { return !file_.empty(); }
  void toggle();
  bool playing() const { return timer_.isActive(); }
  /// The frame on screen, from 0.
  long long frame() const { return frame_; }
  /// Frames a second as they really appeared since play began.
  double shown_rate() const;
  /// Shows a frame once it is read.
  void seek(long long frame);

 signals:
  void moved();

 protected:
  void mousePressEvent(QMouseEvent*) override { toggle(); }
  void hideEvent(QHideEvent*) override { pause(); }

 private:
  struct Picture {
    QImage image;
    long long frame = 0;
  };
  enum class Want { One, All };  // a picture to look at, or the film
  struct Reading;
  void pause();
  void tick();
  void start_reading(long long from, Want want);
  void stop_reading();
  void read(Reading& reading, const std::stop_token& stop, long long from, Want want);
  void arrived(const std::shared_ptr<Reading>& reading, const Picture& picture, FrameRate fps);
  void gone(const std::shared_ptr<Reading>& reading, const QString& trouble);

  std::filesystem::path file_;
  FrameRate fps_;
  QTimer timer_;
  QElapsedTimer clock_;
  long long frame_ = 0, shown_ = 0;
  std::shared_ptr<Reading> reading_;             // at work for what is shown
  std::list<std::shared_ptr<Reading>> leaving_;  // stopped, not yet gone
};

}  // namespace askcount::app
