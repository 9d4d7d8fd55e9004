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
  Geometry geometry() const;
  /// Field second of a frame, from the first shot.
  double frame_second(long long frame) const;
  void scrub_to(const QPointF& place);
  void remember_sky(const Geometry& g);
  void paint_sky_marks(QPainter& p, const Geometry& g);

  Session& session_;
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
