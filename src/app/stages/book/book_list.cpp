// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/book/book_list.h"

#include <algorithm>
#include <cmath>
#include <QKeyEvent>
#include <QPainter>
#include <QPolygonF>
#include <QScrollBar>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/language.h"
#include "base/units.h"
#include "book/clocks.h"

namespace askcount::app {
namespace {

constexpr int kGap = 8, kPad = 12;
constexpr int kPicture = 108;

QString went_words(book::Verdict v) {
  const QString words[] = {"", say_q("went well"), say_q("went fairly"), say_q("went badly")};
  return words[static_cast<int>(v)];
}

QString said_words(const book::Words& w) {
  QString words = to_q(w.note);
  if (!w.change.empty())
    words += (words.isEmpty() ? say_q("Next time: ") : say_q(" Next time: ")) + to_q(w.change);
  return words;
}

}  // namespace

void draw_verdict(QPainter& p, book::Verdict verdict, const QPointF& m) {
  const Colours& c = colours();
  p.save();
  p.setRenderHint(QPainter::Antialiasing);
  switch (verdict) {
    case book::Verdict::None:
      break;
    case book::Verdict::Well:
      p.setPen(QPen(c.ok, 3, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
      p.drawPolyline(QPolygonF({m + QPointF(-7, 0), m + QPointF(-2, 5), m + QPointF(7, -6)}));
      break;
    case book::Verdict::Fairly:
      p.setPen(Qt::NoPen);
      p.setBrush(c.warning);
      p.drawPolygon(QPolygonF({m + QPointF(0, -8), m + QPointF(8, 7), m + QPointF(-8, 7)}));
      break;
    case book::Verdict::Badly:
      p.setPen(QPen(c.stop, 3.2, Qt::SolidLine, Qt::RoundCap));
      p.drawLine(m + QPointF(-6, -6), m + QPointF(6, 6));
      p.drawLine(m + QPointF(6, -6), m + QPointF(-6, 6));
      break;
  }
  p.restore();
}

BookList::BookList(BookKeeper& book, QWidget* parent) : QAbstractScrollArea(parent), book_(book) {
  setFrameShape(QFrame::NoFrame);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setObjectName("book list");
  say_keys();
  setAccessibleName(say_q("Takes in the book"));
  setFocusPolicy(Qt::StrongFocus);
  viewport()->setAutoFillBackground(false);
  connect(&book, &BookKeeper::picture_there, viewport(), qOverload<>(&QWidget::update));
}

int BookList::row_height() const {
  const int words = QFontMetrics(word_font(11.5, QFont::Bold)).lineSpacing() +
                    2 * QFontMetrics(word_font(9.5)).lineSpacing() + 6;
  return std::max(72, words) + 2 * kPad;
}

int BookList::index_of(long long id) const {
  const auto it = std::find_if(rows().begin(), rows().end(), [id](const book::Row& r) { return r.id == id; });
  return it == rows().end() ? -1 : static_cast<int>(it - rows().begin());
}

void BookList::refresh() {
  if (index_of(chosen_) < 0) {
    chosen_ = rows().empty() ? 0 : rows().front().id;
    emit chosen_changed();
  }
  if (index_of(second_) < 0) second_ = 0;
  arrange();
}

void BookList::arrange() {
  const int step = row_height() + kGap;
  const int whole = static_cast<int>(rows().size()) * step - kGap;
  verticalScrollBar()->setRange(0, std::max(0, whole - viewport()->height()));
  verticalScrollBar()->setPageStep(viewport()->height());
  verticalScrollBar()->setSingleStep(step / 2);
  viewport()->update();
}

void BookList::resizeEvent(QResizeEvent* event) {
  QAbstractScrollArea::resizeEvent(event);
  arrange();
  if (const int n = index_of(chosen_); n >= 0) show_row(n);
}

void BookList::choose(long long id) {
  if (id == chosen_ || index_of(id) < 0) return;
  chosen_ = id;
  if (second_ == chosen_) second_ = 0;
  show_row(index_of(id));
  viewport()->update();
  emit chosen_changed();
}

void BookList::show_row(int index) {
  const int step = row_height() + kGap, top = index * step;
  QScrollBar* bar = verticalScrollBar();
  if (top < bar->value())
    bar->setValue(top);
  else if (top + row_height() > bar->value() + viewport()->height())
    bar->setValue(top + row_height() - viewport()->height());
}

void BookList::step(int by, bool second) {
  if (rows().empty()) return;
  const int last = static_cast<int>(rows().size()) - 1;
  const int from = index_of(second && second_ != 0 ? second_ : chosen_);
  const int to = std::clamp(from + by, 0, last);
  const long long id = rows()[static_cast<size_t>(to)].id;
  if (!second) return choose(id);
  second_ = id == chosen_ ? 0 : id;
  show_row(to);
  viewport()->update();
  emit chosen_changed();
}

void BookList::mousePressEvent(QMouseEvent* event) {
  const int index = (event->pos().y() + verticalScrollBar()->value()) / (row_height() + kGap);
  if (index < 0 || index >= static_cast<int>(rows().size())) return;
  const long long id = rows()[static_cast<size_t>(index)].id;
  if (event->modifiers() & (Qt::ControlModifier | Qt::ShiftModifier)) {
    second_ = id == chosen_ || id == second_ ? 0 : id;
    viewport()->update();
    emit chosen_changed();
  } else {
    choose(id);
  }
}

void BookList::mouseDoubleClickEvent(QMouseEvent* event) {
  mousePressEvent(event);
  if (chosen_ != 0) emit opened(chosen_);
}

void BookList::say_keys() {
  const auto page = [this] { return std::max(1, viewport()->height() / (row_height() + kGap)); };
  const auto all = [this] { return static_cast<int>(rows().size()); };
  const auto add = [&](Qt::Key key, const QString& words, std::function<int()> by) {
    keys_.add(key, words, [this, by] { step(by(), false); });
    keys_.add(
        key, {}, [this, by] { step(by(), true); }, Qt::ShiftModifier);
  };
  add(Qt::Key_Up, say_q("To the take above; with Shift, for the second of two"), [] { return -1; });
  add(Qt::Key_Down, say_q("To the take below; with Shift, for the second of two"), [] { return 1; });
  add(Qt::Key_PageUp, say_q("A page up"), [page] { return -page(); });
  add(Qt::Key_PageDown, say_q("A page down"), [page] { return page(); });
  add(Qt::Key_Home, say_q("To the first take"), [all] { return -all(); });
  add(Qt::Key_End, say_q("To the last take"), all);
  const auto open = [this] {
    if (chosen_ != 0) emit opened(chosen_);
  };
  keys_.add(Qt::Key_Return, say_q("Open it"), open);
  keys_.add(Qt::Key_Enter, {}, open);
}

void BookList::keyPressEvent(QKeyEvent* event) {
  if (!keys_.pressed(*event)) event->ignore();
}

void BookList::paintEvent(QPaintEvent*) {
  QPainter p(viewport());
  p.setRenderHint(QPainter::Antialiasing);
  if (rows().empty()) {
    p.setPen(colours().muted);
    p.setFont(word_font(11));
    p.drawText(viewport()->rect(), Qt::AlignCenter, say_q("No take in the book matches."));
    return;
  }
  const int step = row_height() + kGap, scrolled = verticalScrollBar()->value();
  const int last = static_cast<int>(rows().size()) - 1;
  for (int n = scrolled / step; n <= std::min(last, (scrolled + viewport()->height()) / step); ++n) {
    const auto i = static_cast<size_t>(n);
    const bool there = i >= book_.shelf().there.size() || book_.shelf().there[i];
    draw(p, rows()[i], there, QRectF(0, n * step - scrolled, viewport()->width() - 2, row_height()));
  }
}

void BookList::draw(QPainter& p, const book::Row& row, bool there, const QRectF& at) {
  const Colours& c = colours();
  p.setPen(Qt::NoPen);
  p.setBrush(c.card);
  p.drawRoundedRect(at, 3, 3);
  if (row.id == chosen_ || row.id == second_) {
    p.fillRect(QRectF(at.left(), at.top(), row.id == chosen_ ? 5 : 2, at.height()), c.ink);
    if (row.id == chosen_ && hasFocus()) {
      p.setPen(QPen(c.field, 1.5));
      p.setBrush(Qt::NoBrush);
      p.drawRoundedRect(at.adjusted(1, 1, -1, -1), 3, 3);
    }
  }
  const QRectF picture(at.left() + kPad + 2, at.center().y() - 36, kPicture, 72);
  if (const std::string* bytes = book_.picture(row.id); bytes && !bytes->empty()) {
    QImage& image = pictures_[row.id];
    if (image.isNull())
      image =
          QImage::fromData(reinterpret_cast<const uchar*>(bytes->data()), static_cast<int>(bytes->size()));
    const QImage shown = shown_picture(image);
    const double scale = std::max(picture.width() / shown.width(), picture.height() / shown.height());
    const QSizeF part(picture.width() / scale, picture.height() / scale);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(
        picture, shown,
        QRectF(QPointF((shown.width() - part.width()) / 2, (shown.height() - part.height()) / 2), part));
    if (pictures_.size() > 500) pictures_.clear();
  } else {
    p.fillRect(picture, c.paper);
  }
  const double left = picture.right() + 16;
  // Figures take the room they need; words and clocks share the rest.
  const double what = QFontMetrics(word_font(9)).horizontalAdvance(say_q("flicker")) + 14;
  const double numbers =
      at.right() - 44 - what - QFontMetrics(figure_font(9)).horizontalAdvance("0.000 to <0.001") - 4;
  const double clocks = left + (numbers - left) * 0.53;
  const auto line = [&](double x, double y, double right, const QString& words, const QFont& font,
                        const QColor& ink) {
    p.setFont(font);
    p.setPen(ink);
    const QFontMetrics m(font);
    p.drawText(QPointF(x, y + m.ascent()), m.elidedText(words, Qt::ElideRight, static_cast<int>(right - x)));
    return y + m.lineSpacing();
  };
  double y = at.top() + kPad;
  y = line(left, y, clocks - 16, to_q(row.name), word_font(11.5, QFont::Bold), c.ink);
  y = line(left, y, clocks - 16, to_q(book::where_and_when(row)), word_font(9.5), c.muted) + 6;
  line(left, y, clocks - 16, there ? said_words(row.words) : say_q("▲ Its file is not where it was."),
       word_font(9.5), c.ink);
  draw_clocks(p, row, QRectF(clocks, at.top() + kPad, numbers - clocks - 22, at.height() - 2 * kPad));
  const double end = at.right() - 44;
  const double figures = numbers + what;
  double ny = at.top() + kPad + 2;
  const auto fact = [&](const QString& what, const std::string& figure) {
    if (figure.empty()) return;
    line(numbers, ny, figures, what, word_font(9), c.muted);
    ny = line(figures, ny, end, to_q(figure), figure_font(9), c.ink) + 4;
  };
  fact(say_q("frames"), book::frames_words(row));
  fact(say_q("flicker"), book::flicker_words(row));
  if (row.words.verdict != book::Verdict::None) {
    line(numbers, ny, end, went_words(row.words.verdict), word_font(9), c.muted);
    draw_verdict(p, row.words.verdict, {at.right() - 24, at.top() + kPad + 12});
  }
}

void BookList::draw_clocks(QPainter& p, const book::Row& row, const QRectF& at) {
  const Colours& c = colours();
  const book::Clocks clocks = book::clocks_of(row);
  const auto x = [&](double share) { return at.left() + share * at.width(); };
  const double top = at.top() + 4, film = at.top() + 36;
  p.fillRect(QRectF(at.left(), top + 2, at.width(), 6), c.paper);
  const double least = 3;
  const QRectF field(x(clocks.field_from), top, std::max(least, x(clocks.field_to) - x(clocks.field_from)),
                     10);
  const QRectF shown(x(clocks.film_from), film, std::max(least, x(clocks.film_to) - x(clocks.film_from)), 8);
  QColor fan = c.film;
  fan.setAlphaF(0.35F);
  p.setPen(QPen(fan, 1));
  for (int n = 0; n <= 6; ++n)
    p.drawLine(QPointF(field.left() + field.width() * n / 6, field.bottom() + 1),
               QPointF(shown.left() + shown.width() * n / 6, shown.top()));
  if (clocks.tints.empty() || current_lighting() == Lighting::Lamp) {
    p.setBrush(c.field_fill);
  } else {
    QLinearGradient light(field.topLeft(), field.topRight());
    for (size_t n = 0; n < clocks.tints.size(); ++n) {
      const auto& [r, g, b] = clocks.tints[n];
      light.setColorAt(static_cast<double>(n) / static_cast<double>(clocks.tints.size() - 1),
                       QColor(r, g, b));
    }
    p.setBrush(light);
  }
  p.setPen(QPen(c.field, 1));
  p.drawRect(field);
  p.fillRect(shown, c.film_fill);
  p.setFont(figure_font(9));
  p.setPen(c.film);
  const QString length =
      row.film_s > 0 ? to_q(format_length(row.film_s, row.film_s < 10 ? 1 : 0)) : QString();
  const QFontMetrics m(p.font());
  const double wide = m.horizontalAdvance(length);
  const double lx = shown.right() + 8 + wide <= at.right() ? shown.right() + 8 : shown.left() - 8 - wide;
  p.drawText(QPointF(lx, film + 4 + m.ascent() / 2.0 - 1), length);
  p.setFont(figure_font(7.5));
  p.setPen(c.muted);
  const double by = at.bottom();
  p.drawText(QRectF(at.left(), by - 12, at.width(), 12), Qt::AlignLeft, to_q(clocks.from));
  p.drawText(QRectF(at.left(), by - 12, at.width(), 12), Qt::AlignHCenter, to_q(clocks.middle));
  p.drawText(QRectF(at.left(), by - 12, at.width(), 12), Qt::AlignRight, to_q(clocks.to));
}

}  // namespace askcount::app

#include "moc_book_list.cpp"
