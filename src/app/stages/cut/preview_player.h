// SPDX-License-Identifier: GPL-3.0-or-later
// The film as it will be, playing at its true frame rate from the first press, with nothing rendered.
#pragma once

#include <condition_variable>
#include <deque>
#include <memory>
#include <mutex>
#include <QElapsedTimer>
#include <QTimer>
#include <thread>

#include "app/session/session.h"
#include "app/widgets/picture_view.h"

namespace askcount::app {

/// Frames are drawn on a thread of their own, a few ahead of the film's clock. The clock never waits: where
/// frames are not there whole in time all are shown from the small pictures in their files until they are,
/// and what cannot be drawn in time is left out. Plays in a loop.
class PreviewPlayer : public PictureView {
  Q_OBJECT
 public:
  PreviewPlayer(Session& session, QWidget* parent);
  ~PreviewPlayer() override;

  void toggle();
  void pause();
  bool playing() const { return timer_.isActive(); }
  /// The film's frame that is meant to be on screen, and the last that was shown; from 0.
  long long frame() const { return frame_; }
  long long shown() const { return shown_frame_; }
  /// Goes to a frame; it is drawn as soon as it can be, and drawn again when more of it is there.
  void seek(long long frame);
  /// Pictures shown a second since play began; 0 where it does not play.
  double picture_rate() const;
  /// What the last picture was drawn from.
  render::Known known() const { return known_; }

 signals:
  void moved();  ///< frame() or playing()

 protected:
  void mousePressEvent(QMouseEvent*) override { toggle(); }
  void hideEvent(QHideEvent*) override { pause(); }

 private:
  struct Picture {
    QImage image;
    long long number = 0;  // counted on from the first that was played, over the film's end
    long long frame = 0;
    render::Known known = render::Known::Nothing;
  };
  /// What the drawing thread is to do.
  struct Wish {
    std::shared_ptr<const PreviewOf> of;
    std::weak_ptr<render::SmallFrames> small;  // the window never waits for them to go
    long long frame = 0;                       // the one to show, or to play from
    bool play = false;
    std::chrono::steady_clock::time_point began;  // when playing did
    int number = 0;                               // of the wish
  };
  void follow();
  void tick();
  void tell();
  void draw_all(const std::stop_token& stop);
  void draw_one(const Wish& wish, render::FilmPreview& film, const render::SmallFrames& small,
                const std::stop_token& stop);
  /// What a wish is drawn by, no larger than `fit` in either direction.
  struct Drawing {
    std::shared_ptr<const PreviewOf> of;
    int fit = 0;
    std::unique_ptr<render::FilmPreview> film;
    void be_of(const std::shared_ptr<const PreviewOf>& wished, int largest);
  };
  void play(const Wish& wish, Drawing& drawing, render::SmallFrames& small, const std::stop_token& stop);
  bool still_wished(const Wish& wish);
  void arrived(const Picture& picture, int wish);

  Session& session_;
  QTimer timer_;
  QElapsedTimer clock_;
  long long frame_ = 0, shown_frame_ = -1, began_at_ = 0, pictures_ = 0;
  render::Known known_ = render::Known::Nothing;
  FrameRate fps_;
  size_t frames_ = 0;

  std::mutex mutex_;
  std::condition_variable_any wake_;
  Wish wish_;
  std::stop_source hurry_;  // what is drawn for a wish that was given up
  std::deque<Picture> ahead_;
  std::jthread thread_;  // last: it uses all of them
};

}  // namespace askcount::app
