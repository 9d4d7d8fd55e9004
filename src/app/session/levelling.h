// The take's levelling, worked out from its frames.
#pragma once

#include <optional>
#include <QObject>

#include "app/session/document.h"
#include "app/session/frames.h"
#include "app/session/job.h"
#include "level/brightness.h"

namespace askcount::app {

/// What was measured, as long as it is of these frames and of the part of them that the film shows.
class Levelling : public QObject {
  Q_OBJECT
 public:
  Levelling(Document& document, Frames& frames, Job& job, QObject* parent = nullptr);

  /// Nothing where it has not been measured, or was for other frames or another shape of film.
  const std::optional<level::Evenness>& evenness() const { return evenness_; }
  /// Measures; changed() tells when it is through. Nothing happens without frames, or while other work goes
  /// on.
  void start();

 signals:
  void changed();

 private:
  /// What a levelling is made from.
  struct Key {
    source::Frames frames;
    image::Size film;
    bool operator==(const Key&) const = default;
  };
  Key now() const { return {frames_.list(), document_.take().film.size}; }
  void drop_if_other();

  Document& document_;
  Frames& frames_;
  Job& job_;
  std::optional<level::Evenness> evenness_;
  Key made_from_;
};

}  // namespace askcount::app
