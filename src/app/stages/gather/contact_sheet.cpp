// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/gather/contact_sheet.h"

#include <algorithm>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollBar>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"

namespace askcount::app {
namespace {

constexpr double kCellWidth = 92, kPictureHeight = 62, kLabel = 17, kSpace = 8;
constexpr double kRow = kPictureHeight + kLabel + kSpace;

QString reason(const ingest::Dropped& dropped) {
  switch (dropped.why) {
    case ingest::Dropped::Why::Marker:
      return say_q("marker");
    case ingest::Dropped::Why::Test:
      return say_q("test shot");
    case ingest::Dropped::Why::Double:
      return say_q("second shot");
    case ingest::Dropped::Why::Copy:
      return say_q("copy");
    case ingest::Dropped::Why::ByHand:
      return say_q("left out");
    default:
      return say_q("unreadable");
  }
}

}  // namespace

ContactSheet::ContactSheet(Session& session, FramePictures& pictures, QWidget* parent)
    : QAbstractScrollArea(parent), session_(session), pictures_(pictures) {
  setFrameShape(QFrame::NoFrame);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setMinimumHeight(static_cast<int>(2 * kRow));
  setObjectName("strip");
  setAccessibleName(say_q("All frames, with what was left out"));
  viewport()->setAutoFillBackground(false);
  connect(&session.frames, &Frames::changed, this, &ContactSheet::arrange);
  connect(&session.playhead, &Playhead::moved, this, &ContactSheet::follow);
  connect(&pictures, &FramePictures::ready, viewport(), qOverload<>(&QWidget::update));
  arrange();
}

const ingest::Dropped* ContactSheet::chosen() const {
  const auto& g = session_.frames.gathered();
  return chosen_ && g && *chosen_ < g->dropped.size() ? &g->dropped[*chosen_] : nullptr;
}

void ContactSheet::arrange() {
  cells_.clear();
  cell_of_frame_.clear();
  chosen_.reset();
  if (const auto& g = session_.frames.gathered()) {
    // Left-out pictures by time among the frames; those without one before or after all of them.
    std::vector<std::pair<std::size_t, std::size_t>> left_out;  // before which frame, which
    for (std::size_t d = 0; d < g->dropped.size(); ++d) {
      const ingest::Dropped& one = g->dropped[d];
      std::size_t at = one.before ? 0 : g->frames->size();
      if (const auto& t = one.picture.exposures.front().info.captured)
        at = static_cast<std::size_t>(std::upper_bound(g->frames->begin(), g->frames->end(), *t,
                                                       [](const auto& when, const media::Frame& f) {
                                                         const auto& other =
                                                             f.exposures.front().info.captured;
                                                         return other && when < *other;
                                                       }) -
                                      g->frames->begin());
      left_out.emplace_back(at, d);
    }
    std::stable_sort(left_out.begin(), left_out.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    auto next = left_out.begin();
    for (std::size_t n = 0; n <= g->frames->size(); ++n) {
      for (; next != left_out.end() && next->first == n; ++next) cells_.push_back({-1, next->second});
      if (n == g->frames->size()) break;
      cell_of_frame_.push_back(cells_.size());
      cells_.push_back({static_cast<long long>(n), 0});
    }
  }
  const int rows = (static_cast<int>(cells_.size()) + across() - 1) / across();
  verticalScrollBar()->setRange(0, std::max(0, static_cast<int>(rows * kRow) - viewport()->height()));
  verticalScrollBar()->setPageStep(viewport()->height());
  verticalScrollBar()->setSingleStep(static_cast<int>(kRow));
  viewport()->update();
}

void ContactSheet::resizeEvent(QResizeEvent* event) {
  QAbstractScrollArea::resizeEvent(event);
  const auto chosen = chosen_;
  arrange();
  chosen_ = chosen;
}

void ContactSheet::follow() {
  chosen_.reset();
  const auto n = static_cast<std::size_t>(session_.playhead.at());
  if (n < cell_of_frame_.size()) {
    const QRectF at = place(cell_of_frame_[n]);
    const int scrolled = verticalScrollBar()->value();
    if (at.top() < 0)
      verticalScrollBar()->setValue(scrolled + static_cast<int>(at.top()));
    else if (at.bottom() + kLabel > viewport()->height())
      verticalScrollBar()->setValue(scrolled + static_cast<int>(at.bottom() + kLabel) - viewport()->height());
  }
  viewport()->update();
}

int ContactSheet::across() const {
  return std::max(3, static_cast<int>((viewport()->width() + kSpace) / (kCellWidth + kSpace)));
}

QRectF ContactSheet::place(std::size_t cell) const {
  const double step = (viewport()->width() + kSpace) / across();
  const auto column = static_cast<double>(cell % static_cast<std::size_t>(across())),
             row = static_cast<double>(cell / static_cast<std::size_t>(across()));
  return {column * step, row * kRow - verticalScrollBar()->value(), step - kSpace, kPictureHeight};
}

void ContactSheet::draw(QPainter& p, const Cell& cell, const QRectF& at) const {
  const Colours& c = colours();
  const ingest::Gathered& g = *session_.frames.gathered();
  const bool frame = cell.frame >= 0;
  const media::Frame& picture =
      frame ? (*g.frames)[static_cast<std::size_t>(cell.frame)] : g.dropped[cell.dropped].picture;
  const QImage image = pictures_.thumbnail(picture);
  p.fillRect(at, c.column);
  if (!image.isNull()) {
    const QSizeF size = QSizeF(image.size()).scaled(at.size(), Qt::KeepAspectRatioByExpanding);
    QRectF from(0, 0, at.width() * image.width() / size.width(),
                at.height() * image.height() / size.height());
    from.moveCenter(QPointF(image.width() / 2.0, image.height() / 2.0));
    p.drawImage(at, shown_picture(image), from);
  }
  QString label = QString::fromStdString(format_count(cell.frame + 1));
  p.setFont(figure_font(8));
  const bool aside = frame && picture.set_aside;
  if (!frame || aside) {
    QColor veil = c.paper;
    veil.setAlphaF(0.62F);
    p.fillRect(at, veil);
    p.setPen(QPen(c.warning, 1.6));
    p.setBrush(Qt::NoBrush);
    p.drawRect(at);
    if (!frame) p.drawLine(at.bottomLeft(), at.topRight());
    if (!frame) {
      p.setFont(word_font(8, QFont::DemiBold));
      label = reason(g.dropped[cell.dropped]);
    }
  }
  const bool here = frame ? !chosen_ && cell.frame == session_.playhead.at() : chosen_ == cell.dropped;
  if (here) {
    p.setPen(QPen(c.here, 2.4));
    p.setBrush(Qt::NoBrush);
    p.drawRect(at.adjusted(1, 1, -1, -1));
  }
  const bool faulty = frame && std::any_of(session_.looking.faults().begin(), session_.looking.faults().end(),
                                           [&](const inspect::Fault& f) {
                                             return static_cast<long long>(f.frame) == cell.frame &&
                                                    inspect::severity_of(f.kind) != Severity::Ok;
                                           });
  if (faulty) {
    p.setPen(Qt::NoPen);
    p.setBrush(c.warning);
    const QPointF top(at.right() - 9, at.top() + 4);
    p.drawPolygon(QPolygonF({top, top + QPointF(6, 10), top + QPointF(-6, 10)}));
  }
  p.setPen(!frame ? c.warning : here ? c.ink : c.muted);
  p.drawText(QRectF(at.left(), at.bottom() + 1, at.width(), kLabel), Qt::AlignCenter, label);
}

void ContactSheet::paintEvent(QPaintEvent*) {
  QPainter p(viewport());
  p.fillRect(viewport()->rect(), colours().paper);
  if (!session_.frames.gathered()) return;
  p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
  const auto columns = static_cast<std::size_t>(across());
  const std::size_t first = static_cast<std::size_t>(verticalScrollBar()->value() / kRow) * columns;
  for (std::size_t i = first; i < cells_.size(); ++i) {
    const QRectF at = place(i);
    if (at.top() > viewport()->height()) break;
    draw(p, cells_[i], at);
  }
}

void ContactSheet::mousePressEvent(QMouseEvent* event) {
  for (std::size_t i = 0; i < cells_.size(); ++i) {
    const QRectF at = place(i);
    if (at.top() > viewport()->height()) break;
    if (!at.contains(event->position())) continue;
    if (cells_[i].frame >= 0) {
      session_.playhead.set(cells_[i].frame);
      chosen_.reset();
    } else {
      chosen_ = cells_[i].dropped;
    }
    viewport()->update();
    emit chosen_changed();
    return;
  }
}

}  // namespace askcount::app

#include "moc_contact_sheet.cpp"
