// SPDX-License-Identifier: GPL-3.0-or-later
// A trial film for the window: shot beside it, a little ahead of where it is looked at.
#pragma once

#include <list>
#include <memory>
#include <optional>
#include <QImage>
#include <QObject>
#include <QString>

#include "simulate/trial_film.h"
#include "take/take.h"

namespace askcount::app {

/// Frames are made on threads of their own, in the order they will be shown, and only a few are kept: a film
/// of any length needs the same memory.
class TrialReel : public QObject {
  Q_OBJECT
 public:
  /// What there is to say of a film.
  struct About {
    FrameRate fps;
    long long frames = 0;
    image::Size size;
    QString plan;  ///< "250 frames, one every 20 s, shutter 4 s"
    QString seen;  ///< in which scene, at which pace
    QString over;  ///< how far it is from the meter
    bool lost = false;
  };

  explicit TrialReel(QObject* parent = nullptr);
  ~TrialReel() override;

  /// Another plan: the film begins anew. The same one changes nothing.
  void shoot(const take::Take& take);
  /// Nothing until the first of it is worked out; nothing where the wishes are too few, see trouble().
  const std::optional<About>& about() const { return about_; }
  const QString& trouble() const { return trouble_; }
  const take::Take& take() const { return take_; }
  /// The picture of a frame; a null one while it is being made: changed() tells. The frames after it follow.
  QImage picture(long long frame);
  /// How many frames are there in a row from `frame` on, counted round the end.
  int ready_from(long long frame) const;

 signals:
  void changed();

 private:
  struct Shoot;
  void leave();
  void heard(const std::shared_ptr<Shoot>& shoot);

  take::Take take_;
  std::optional<About> about_;
  QString trouble_;
  std::shared_ptr<Shoot> shoot_;               // at work for what is shown
  std::list<std::shared_ptr<Shoot>> leaving_;  // stopped, not yet gone
};

}  // namespace askcount::app
