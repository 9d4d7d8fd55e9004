// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/level/spread_view.h"

#include <algorithm>
#include <cmath>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"

namespace askcount::app {
namespace {

constexpr float kClips = 0.002F;  // of the picture: less is no word worth
constexpr double kEnd = 10;       // pixels at either end that say what clips

}  // namespace

SpreadView::SpreadView(QWidget* parent) : QWidget(parent) {
  setMinimumHeight(46);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setObjectName("spread");
  setAccessibleName(
      say_q("Spread of tones: how much of the picture is dark, mid-toned and light, by colour"));
}

void SpreadView::set(const image::Spread& spread) {
  spread_ = spread;
  update();
}

void SpreadView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  p.fillRect(rect(), c.well);
  const auto most = static_cast<double>(spread_.most());
  if (most <= 0) return;
  const QRectF box(kEnd, 4, width() - 2 * kEnd, height() - 4);
  const bool lamp = current_lighting() == Lighting::Lamp;
  const std::array<QColor, 3> inks = {QColor(214, 90, 80), QColor(96, 180, 110), QColor(92, 140, 220)};
  p.setCompositionMode(lamp ? QPainter::CompositionMode_SourceOver : QPainter::CompositionMode_Screen);
  for (size_t colour = 0; colour < 3; ++colour) {
    QPolygonF shape;
    shape << box.bottomLeft();
    for (size_t i = 0; i < image::Spread::kBins; ++i) {
      // The square root: a narrow peak does not make all else a line.
      const double high = std::sqrt(static_cast<double>(spread_.share[colour][i]) / most);
      shape << QPointF(box.left() + (static_cast<double>(i) + 0.5) / image::Spread::kBins * box.width(),
                       box.bottom() - high * box.height());
    }
    shape << box.bottomRight();
    QColor ink = lamp ? c.muted : inks[colour];
    ink.setAlpha(lamp ? 90 : 170);
    p.setPen(Qt::NoPen);
    p.setBrush(ink);
    p.drawPolygon(shape);
  }
  p.setCompositionMode(QPainter::CompositionMode_SourceOver);
  p.setFont(word_font(8.5));
  const auto clips = [&](const std::array<float, 3>& share, bool black) {
    const float worst = *std::max_element(share.begin(), share.end());
    if (worst < kClips) return;
    p.fillRect(QRectF(black ? 0 : width() - kEnd + 2, 0, kEnd - 2, height()), c.warning);
    const QString words =
        QString("%1 % %2").arg(QString::fromStdString(format_number(100.0 * static_cast<double>(worst), 1)),
                               black ? say_q("black") : say_q("white"));
    p.setPen(c.warning);
    p.drawText(box.adjusted(2, 0, -2, 0), Qt::AlignTop | (black ? Qt::AlignLeft : Qt::AlignRight), words);
  };
  clips(spread_.black, true);
  clips(spread_.white, false);
}

}  // namespace askcount::app
