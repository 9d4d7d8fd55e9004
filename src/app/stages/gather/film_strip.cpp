#include "app/stages/gather/film_strip.h"

#include <algorithm>
#include <cmath>
#include <QMouseEvent>
#include <QPainter>

#include "app/style/style.h"
#include "base/units.h"
#include "plan/rulers.h"

namespace askcount::app {
namespace {

constexpr double kCellWidth = 92, kPictureHeight = 62, kLabel = 17, kSpace = 8;

}  // namespace

FilmStrip::FilmStrip(Session& session, FramePictures& pictures, QWidget* parent)
    : QWidget(parent), session_(session), pictures_(pictures) {
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setMinimumHeight(static_cast<int>(2 * (kPictureHeight + kLabel + kSpace)));
  setObjectName("strip");
  setAccessibleName("The frames, with what was left out");
  connect(&session.frames, &Frames::changed, this, qOverload<>(&QWidget::update));
  connect(&session.playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
  connect(&pictures, &FramePictures::ready, this, qOverload<>(&QWidget::update));
}

std::vector<FilmStrip::Cell> FilmStrip::cells() const {
  std::vector<Cell> list;
  if (!session_.frames.gathered()) return list;
  const gather::Gathered& g = *session_.frames.gathered();
  const int across = std::max(3, static_cast<int>((width() + kSpace) / (kCellWidth + kSpace)));
  const int down = std::max(1, static_cast<int>((height() + kSpace) / (kPictureHeight + kLabel + kSpace)));
  const long long room = static_cast<long long>(across) * down;
  const auto add_dropped = [&](bool before) {
    std::vector<const gather::Dropped*> side;
    for (const gather::Dropped& d : g.dropped)
      if (d.before == before) side.push_back(&d);
    // The ones nearest to the take, where there are more than fit well.
    const size_t most = static_cast<size_t>(across);
    const size_t from = before && side.size() > most ? side.size() - most : 0;
    for (size_t i = from; i < std::min(side.size(), from + most); ++i)
      list.push_back({side[i]->picture, -1, {}, side[i], {}});
  };
  add_dropped(true);
  const size_t before = list.size();
  long long after = 0;
  for (const gather::Dropped& d : g.dropped) after += d.before ? 0 : 1;
  after = std::min<long long>(after, across);
  const auto frames = static_cast<long long>(g.frames->size());
  const long long chosen = std::max(1LL, std::min(frames, room - static_cast<long long>(before) - after));
  for (const long long n : plan::threads(frames, static_cast<int>(chosen)))
    list.push_back({(*g.frames)[static_cast<size_t>(n)], n, QString::number(n + 1), nullptr, {}});
  add_dropped(false);
  const double step = (width() + kSpace) / across;
  for (size_t i = 0; i < list.size(); ++i) {
    const auto column = static_cast<double>(i % static_cast<size_t>(across)),
               row = static_cast<double>(i / static_cast<size_t>(across));
    list[i].at =
        QRectF(column * step, row * (kPictureHeight + kLabel + kSpace), step - kSpace, kPictureHeight);
  }
  return list;
}

void FilmStrip::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
  const Colours& c = colours();
  const std::vector<Cell> all = cells();
  // The frame looked at is marked on the cell that stands for it: the last one not after it.
  const Cell* here = nullptr;
  for (const Cell& cell : all)
    if (cell.frame >= 0 && cell.frame <= session_.playhead.at()) here = &cell;
  for (const Cell& cell : all) {
    const QImage image = pictures_.thumbnail(cell.picture);
    p.fillRect(cell.at, c.column);
    if (!image.isNull()) {
      const QSizeF size = QSizeF(image.size()).scaled(cell.at.size(), Qt::KeepAspectRatioByExpanding);
      QRectF from(0, 0, cell.at.width() * image.width() / size.width(),
                  cell.at.height() * image.height() / size.height());
      from.moveCenter(QPointF(image.width() / 2.0, image.height() / 2.0));
      p.drawImage(cell.at, shown_picture(image), from);
    }
    p.setFont(figure_font(8));
    QString label = cell.label;
    if (cell.dropped) {
      QColor veil = c.paper;
      veil.setAlphaF(0.62F);
      p.fillRect(cell.at, veil);
      p.setPen(QPen(c.warning, 1.6));
      p.setBrush(Qt::NoBrush);
      p.drawRect(cell.at);
      p.drawLine(cell.at.bottomLeft(), cell.at.topRight());
      p.setFont(word_font(8, QFont::DemiBold));
      label = cell.dropped->why == gather::Dropped::Why::Marker      ? "marker"
              : cell.dropped->why == gather::Dropped::Why::Test      ? "test shot"
              : cell.dropped->why == gather::Dropped::Why::Double    ? "second shot"
              : cell.dropped->why == gather::Dropped::Why::Copy      ? "copy"
              : cell.dropped->why == gather::Dropped::Why::ByHand    ? "left out"
                                                                     : "unreadable";
    }
    if (&cell == here) {
      p.setPen(QPen(c.here, 2.4));
      p.setBrush(Qt::NoBrush);
      p.drawRect(cell.at.adjusted(1, 1, -1, -1));
    }
    p.setPen(cell.dropped ? c.warning : &cell == here ? c.ink : c.muted);
    p.drawText(QRectF(cell.at.left(), cell.at.bottom() + 1, cell.at.width(), kLabel), Qt::AlignCenter, label);
  }
}

void FilmStrip::mousePressEvent(QMouseEvent* event) {
  for (const Cell& cell : cells())
    if (cell.at.contains(event->position()) && cell.frame >= 0) session_.playhead.set(cell.frame);
}

}  // namespace askcount::app
