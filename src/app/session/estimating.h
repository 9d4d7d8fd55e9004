// SPDX-License-Identifier: GPL-3.0-or-later
// What the take's films will take, told before they are made.
#pragma once

#include <optional>
#include <QObject>
#include <QTimer>

#include "app/session/films.h"
#include "app/session/job.h"
#include "render/estimate.h"

namespace askcount::app {

/// Samples the films some time after the last change, while nothing else needs the machine: not while films
/// are made, nor while one plays.
class Estimating : public QObject {
  Q_OBJECT
 public:
  Estimating(Document& document, Frames& frames, Films& films, QObject* parent = nullptr);

  /// Somebody wants to know, and the machine is free; or no more.
  void want(bool on);
  /// Nothing where it is not known for the films as they are wished now.
  const std::optional<render::Estimate>& now() const { return now_; }
  /// "about 2 min and 310 MB"; "sampling" while it is being told; empty where nobody wants to know.
  QString words() const;

 signals:
  void changed();

 private:
  struct Key {
    std::vector<take::FilmWish> wishes;
    media::Frames frames;
    bool operator==(const Key&) const = default;
  };
  Key key() const;
  void follow();
  void start();

  Document& document_;
  Frames& frames_;
  Films& films_;
  Job job_;
  QTimer settle_;
  bool wanted_ = false;
  std::optional<render::Estimate> now_;
  Key of_;
};

/// "310 MB", "4.2 MB", "90 kB".
QString bytes_words(double bytes);

}  // namespace askcount::app
