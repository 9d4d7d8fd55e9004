// One interval to scale: shutter open, writing, free; interval and gap both named.
#pragma once

#include <QWidget>

namespace askcount::app {

class ShotBar : public QWidget {
 public:
  explicit ShotBar(QWidget* parent = nullptr);
  /// All in seconds.
  void set(double open_s, double writing_s, double interval_s);
  QSize sizeHint() const override { return {500, 96}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  double open_s_ = 0, writing_s_ = 0, interval_s_ = 0;
};

}  // namespace askcount::app
