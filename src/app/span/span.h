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
/// Slim, it has both rulers, the film's below the take, and the thread of the frame looked at alone; while it
/// is dragged it has its full height.
class Span : public QWidget {
  Q_OBJECT
 public:
  explicit Span(Session& session, QWidget* parent = nullptr);

  QSize sizeHint() const override { return {1280, wanted_height()}; }
  /// What was really shot, from Gather on; otherwise the plan.
  void show_shot(bool shot);
  void set_slim(bool slim);
  bool slim() const { return slim_; }
  /// The height it wants now, and the one it keeps in the window's column, in pixels.
  int wanted_height() const { return slim_ && drag_ == Drag::None ? kSlim : kHeight; }
  int kept_height() const { return slim_ ? kSlim : kHeight; }
  static constexpr int kHeight = 112, kSlim = 52;

 signals:
  void height_changed();  ///< wanted_height() or kept_height() did
  void names_pressed();   ///< the names left of the clocks: slim or full

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;

 private:
  enum class Drag { None, Field, Film };
  /// Where its rows lie, from its top.
  struct Rows {
    double field_top, field_height, field_words, film_top, film_height;
    double field_bottom() const { return field_top + field_height; }
    double film_bottom() const { return film_top + film_height; }
  };
  Rows rows() const;
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
  /// Which clock a height belongs to.
  Drag clock_at(double y) const;
  void scrub_to(double x, Drag clock);
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
  bool shot_ = false, slim_ = false;
  Drag pressed_ = Drag::None, drag_ = Drag::None;  // the clock under a press, and once it is dragged
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

/// Its place in the window's column. While the span is taller than that it lies over what is below.
class SpanPlace : public QWidget {
  Q_OBJECT
 public:
  SpanPlace(Session& session, QWidget* parent);
  Span* span() const { return span_; }

 protected:
  void resizeEvent(QResizeEvent* event) override;
  void moveEvent(QMoveEvent* event) override;

 private:
  void lay_out();

  Span* span_;
};

}  // namespace askcount::app
