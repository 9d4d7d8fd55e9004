// SPDX-License-Identifier: GPL-3.0-or-later
// The take's two test pictures: read, their motion found, the moving part cut out.
#pragma once

#include <optional>
#include <QImage>
#include <QObject>

#include "app/session/job.h"
#include "motion/moving_part.h"

namespace askcount::app {

/// Works beside the window, so that other long work is not held up by it.
class TestPictures : public QObject {
  Q_OBJECT
 public:
  explicit TestPictures(QObject* parent = nullptr);

  /// Reads both and finds the motion; changed() tells, trouble() says what went wrong. Nothing where they are
  /// being read, were read already, or could not be: a pair that failed is tried again when it is chosen
  /// anew.
  void load(const std::filesystem::path& first, const std::filesystem::path& second);
  void forget();
  /// The motion between two marks made by hand, in pixels of the full picture. Throws as
  /// motion::motion_marked.
  void mark(double x0, double y0, double x1, double y1);

  const std::optional<motion::Motion>& motion() const { return motion_; }
  bool marked_by_hand() const { return by_hand_; }
  QImage first() const { return first_; }
  QImage second() const { return second_; }
  image::Size full() const { return pair_ ? pair_->full : image::Size{}; }
  /// The moving part with its transparency, and how wide the picture is that it was cut from; null where
  /// there is none.
  QImage part() const { return part_; }
  bool busy() const { return job_.running(); }

 signals:
  void changed();
  void found();  ///< a motion was found or marked
  void trouble(QString words);

 private:
  void take_part();

  Job job_;
  std::filesystem::path files_[2];  // asked for last, whatever came of it
  std::optional<motion::Pair> pair_;
  std::optional<motion::Motion> motion_;
  bool by_hand_ = false;
  QImage first_, second_, part_;
};

}  // namespace askcount::app
