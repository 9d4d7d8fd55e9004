// SPDX-License-Identifier: GPL-3.0-or-later
// The take's levelling and its looks, worked out from its frames.
#pragma once

#include <memory>
#include <optional>
#include <QObject>

#include "app/session/document.h"
#include "app/session/frames.h"
#include "app/session/job.h"
#include "app/session/optics.h"
#include "level/brightness.h"
#include "render/plan.h"

namespace askcount::app {

/// What was measured, as long as it is of these frames and of the part of them that the film shows. When only
/// the way of smoothing changes, what was measured is levelled anew beside the window and the old stands
/// until then.
class Levelling : public QObject {
  Q_OBJECT
 public:
  Levelling(Document& document, Frames& frames, Optics& optics, Job& job, QObject* parent = nullptr);

  /// Nothing where it has not been measured, or was for other frames or another shape of film.
  const std::optional<level::Evenness>& evenness() const { return evenness_; }
  /// Whether it was measured before lens and sensor were undone as they are now.
  bool stale() const { return evenness_ && measured_through_ != optics_.undone(); }
  /// The size of the film whose part of the frames was measured.
  image::Size measured_film() const { return made_from_.film; }
  /// Takes light that was measured already of these frames, within this film's shape, through optics that
  /// undid this; nothing happens where it is of others by now, or was measured meanwhile.
  void take_in(level::Luminances measured, const media::Frames& frames, image::Size film,
               const optics::Wish& undone);
  /// Measures; changed() tells when it is through. Nothing happens without frames, or while other work goes
  /// on.
  void start();

  /// The take's looks, with its table where it can be read.
  const look::Looks& looks() const { return looks_; }
  /// How the film will show frame n: levelled where that is known, with the take's look. `as_shot` is the
  /// same part of it as it was shot.
  render::FramePlan plan(size_t n, bool as_shot = false) const;

 signals:
  void changed();
  void looks_changed();
  void trouble(QString words);

 private:
  /// What a levelling is made from.
  struct Key {
    media::Frames frames;
    image::Size film;
    level::Smoothing smoothing;
    bool operator==(const Key&) const = default;
    bool measures_as(const Key& other) const { return frames == other.frames && film == other.film; }
  };
  Key now() const;
  void follow();
  void follow_looks();
  void level_anew();

  Document& document_;
  Frames& frames_;
  Optics& optics_;
  Job& job_;
  Job levelling_;  // of what is measured already
  std::optional<level::Evenness> evenness_;
  std::shared_ptr<const level::Luminances> measured_;
  Key made_from_;
  optics::Wish measured_through_;
  look::Looks looks_;
  std::string cube_name_;
  media::Frames looks_frames_;
};

}  // namespace askcount::app
