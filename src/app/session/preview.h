// SPDX-License-Identifier: GPL-3.0-or-later
// The film that is looked at as it will be: its frames in memory, and what it is drawn by.
#pragma once

#include <atomic>
#include <future>
#include <memory>
#include <QObject>

#include "app/session/camera_way.h"
#include "app/session/films.h"
#include "render/film_preview.h"

namespace askcount::app {

/// What a preview is drawn by; each is another than the one before.
struct PreviewOf {
  render::FilmOrder order;
  media::Frames frames;
  image::Size frame;                             ///< of the upright frames
  std::unique_ptr<const render::FilmPlan> plan;  ///< of the film at its own size, by the order here
  motion::Steadied steadied;
};

/// Reads nothing until somebody looks. Levelling and steadying are measured on the way where they are not
/// known; until then frames are shown without, and words() says so.
class Preview : public QObject {
  Q_OBJECT
 public:
  Preview(Document& document, Frames& frames, Optics& optics, Levelling& levelling, CameraWay& way,
          Films& films);

  /// Somebody looks from now on, or no more: then memory is given back.
  void look(bool on);
  /// Null where there are no frames, or the take wishes for what cannot be; trouble() says why.
  std::shared_ptr<const PreviewOf> now() const { return now_; }
  std::shared_ptr<render::SmallFrames> small() const { return small_; }
  QString trouble() const { return trouble_; }
  /// What is still missing: "reading: 120 of 300 frames", "measuring the camera's movement: 40 of 300"; empty
  /// where nothing is.
  QString words() const;

 signals:
  void changed();  ///< now() or small()
  void filled();   ///< more frames are there

 private:
  void follow();
  void read_anew();
  void arrived();
  void let_go();
  void measure_way();

  Frames& frames_;
  Optics& optics_;
  Levelling& levelling_;
  CameraWay& way_;
  Films& films_;
  bool looking_ = false;
  std::shared_ptr<const PreviewOf> now_;
  std::shared_ptr<render::SmallFrames> small_;
  media::Frames small_of_;
  std::shared_ptr<const media::FrameSource> through_;
  optics::Wish undone_;
  image::Size measured_film_;
  QString trouble_;
  std::vector<std::future<void>> leaving_;  // frames that are let go, until what is at hand is read
  std::shared_ptr<std::atomic<bool>> waiting_ = std::make_shared<std::atomic<bool>>(false);
};

}  // namespace askcount::app
