// SPDX-License-Identifier: GPL-3.0-or-later
// The span: the field clock and the film clock with threads between. On every stage, on one axis with every
// chart.
#pragma once

#include <QWidget>
#include <vector>

#include "app/session/session.h"
#include "plan/rulers.h"

namespace askcount::app {

/// Draws the two clocks of the open take and lets the person scrub: drag anywhere on it, or Left and Right.
class Span : public QWidget {
  Q_OBJECT
 public:
  explicit Span(Session& session, QWidget* parent = nullptr);

  QSize sizeHint() const override { return {1280, kHeight}; }
  /// What was really shot, from Gather on; otherwise the plan.
  void show_shot(bool shot);
  static constexpr int kHeight = 112;

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;

 private:
  struct Geometry {
    double left = 96, right = 0;
    plan::Ruler field;
    double start = 0;  // the first shot, seconds of its day
    double film_left = 0, film_right = 0;
    double field_x(double seconds_of_day) const {
      return left + (seconds_of_day - field.from) / (field.to - field.from) * (right - left);
    }
  };
  /// What the two clocks show.
  struct Shown {
    Instant first;
    double field_s = 0, interval_s = 0, clip_s = 0;
    long long frames = 0;
    FrameRate fps;
  };
  /// The plan, or the frames that were gathered; nothing where there is neither.
  std::optional<Shown> shown() const;
  Geometry geometry(const Shown& shown) const;
  /// Where plan and frames differ.
  QString differs() const;
  /// Field second of a frame, from the first shot.
  double frame_second(const Shown& shown, long long frame) const;
  long long frame_at(const Shown& shown, double second) const;
  void scrub_to(const QPointF& place);
  void remember_sky(const Shown& shown, const Geometry& g);
  /// Where a frame stands on each clock.
  double film_x(const Shown& sums, const Geometry& g, long long frame) const;
  double field_at(const Shown& sums, const Geometry& g, long long frame) const;
  void paint_names(QPainter& p);
  void paint_field(QPainter& p, const Shown& sums, const Geometry& g);
  void paint_threads(QPainter& p, const Shown& sums, const Geometry& g);
  void paint_film(QPainter& p, const Shown& sums, const Geometry& g);
  void paint_speed(QPainter& p, const Shown& sums, const Geometry& g);
  void paint_here(QPainter& p, const Shown& sums, const Geometry& g);
  void paint_sky_marks(QPainter& p, const Geometry& g);
  void paint_clicks(QPainter& p, const Shown& sums, const Geometry& g);

  Session& session_;
  bool shot_ = false;
  struct Sky {
    double from = 0, to = 0;
    Instant day;
    sky::Place place;
    std::vector<double> altitudes;
    struct Mark {
      double second;  // of the day
      QString words;
      bool strong;  // what most takes turn on: sun up and sun down
    };
    std::vector<Mark> marks;
  } sky_;
};

}  // namespace askcount::app
