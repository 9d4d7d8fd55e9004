// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/ask/ways_pane.h"

#include <algorithm>
#include <cmath>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"
#include "plan/measures.h"
#include "plan/ways.h"

namespace askcount::app {
namespace {

constexpr double kHead = 24, kNames = 92;
constexpr int kColumns = 4;

}  // namespace

WaysPane::WaysPane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("ways");
  say_keys();
  setAccessibleName(say_q("Ways to get the clip, and what other intervals would make of it"));
  setFocusPolicy(Qt::StrongFocus);
  connect(&session.document, &Document::changed, this, qOverload<>(&QWidget::update));
}

std::vector<double> WaysPane::intervals() const {
  return plan::nearby_intervals(session_.document.sums()->interval_s);
}

QRectF WaysPane::column(int i) const {
  const double left = split() + 20 + kNames - 20, wide = (width() - left) / kColumns;
  return {left + i * wide, 8, wide, height() - 8.0};
}

void WaysPane::paintEvent(QPaintEvent*) {
  QPainter p(this);
  if (!session_.document.sums()) return;
  const Colours& c = colours();
  const take::Take& t = session_.document.take();
  const plan::Sums& s = *session_.document.sums();
  const auto cell = [&](QRectF at, const QString& text, const QColor& ink, const QFont& font,
                        int align = Qt::AlignLeft) {
    p.setPen(ink);
    p.setFont(font);
    p.drawText(at, align | Qt::AlignVCenter | Qt::TextWordWrap, text);
  };
  // Ways: a row each.
  const auto ways = plan::ways_of(s, t.shot, t.body(), t.film.size.width);
  const QStringList heads = {say_q("Film"), say_q("Data"), say_q("Pixels, crop"), say_q("Speed later"),
                             say_q("Changing light")};
  const double widths[] = {0.13, 0.12, 0.2, 0.19, 0.36}, names = 104, table = split() - names - 16;
  double x = names;
  for (int i = 0; i < 5; ++i) {
    cell({x, 8, widths[i] * table, kHead}, heads[i], c.muted, word_font(8.5));
    x += widths[i] * table;
  }
  const double row = std::min(70.0, (height() - kHead - 10) / 3.0);
  for (size_t i = 0; i < ways.size(); ++i) {
    const plan::Way& w = ways[i];
    const double top = 8 + kHead + static_cast<double>(i) * row;
    p.fillRect(QRectF(0, top, split() - 8, row - 4), c.card);
    QString name = to_q(w.name);
    name[0] = name[0].toUpper();
    cell({8, top, names - 10, row - 4}, name, c.ink, word_font(9, QFont::DemiBold));
    const QString values[] = {to_q(format_length(w.film_s, 1)),
                              to_q(format_number(w.data_gb, w.data_gb < 10 ? 1 : 0)) + " GB",
                              QString("%1, %2 ×").arg(w.pixels_across).arg(to_q(format_number(w.crop, 1))),
                              to_q(w.told.empty() ? w.retime : w.retime + "; " + w.told), to_q(w.light)};
    x = names;
    for (int k = 0; k < 5; ++k) {
      cell({x, top, widths[k] * table - 6, row - 4}, values[k], c.ink,
           k < 3 ? figure_font(8.5) : word_font(8.5));
      x += widths[k] * table;
    }
  }
  // Four intervals, a column each.
  const auto table_of = plan::what_if(t.wishes, intervals(), t.shape());
  const QStringList lines = {say_q("Interval"), say_q("Frames"), say_q("Field time"),
                             say_q("Film"),     say_q("Step"),   say_q("Motion")};
  const double high = std::min(27.0, (height() - 12.0) / 6);
  for (int k = 0; k < lines.size(); ++k)
    cell({split() + 8, 8 + k * high, kNames, high}, lines[k], c.muted, word_font(8.5));
  for (int i = 0; i < static_cast<int>(table_of.size()); ++i) {
    const QRectF at = column(i);
    const bool now = std::abs(table_of[static_cast<size_t>(i)].interval_s - s.interval_s) < 1e-9;
    p.fillRect(QRectF(at.left(), at.top(), at.width() - 4, 6 * high), c.card);
    if (now) p.fillRect(QRectF(at.left(), at.top(), at.width() - 4, high), c.answer);
    if (hasFocus() && i == at_) {
      p.setPen(QPen(c.field, 2));
      p.drawRect(QRectF(at.left() + 1, at.top() + 1, at.width() - 6, 6 * high - 2));
    }
    const plan::Solution& v = table_of[static_cast<size_t>(i)].solution;
    QStringList values = {to_q(format_length(table_of[static_cast<size_t>(i)].interval_s))};
    if (v.complete()) {
      const auto step = v[plan::Slot::Step], screen = v[plan::Slot::ScreenCrossing];
      values << to_q(format_count(std::llround(*v[plan::Slot::Frames])))
             << to_q(format_length(*v[plan::Slot::Field] < 3600
                                       ? *v[plan::Slot::Field]
                                       : std::round(*v[plan::Slot::Field] / 60) * 60))
             << to_q(format_length(*v[plan::Slot::Clip], 1))
             << (step ? to_q(format_number(*step * 100, 2)) + " %" : QString("–"))
             << (step && screen ? say_q(plan::motion_word(*screen, *step, v[plan::Slot::Trail].value_or(0.5)))
                                : QString("–"));
    }
    for (int k = 0; k < values.size(); ++k)
      cell({at.left() + 6, at.top() + k * high, at.width() - 12, high}, values[k],
           k == 0 && now ? c.answer_ink : c.ink, k == 5 ? word_font(8.5) : figure_font(8.5, k == 0));
  }
}

void WaysPane::mousePressEvent(QMouseEvent* event) {
  if (!session_.document.sums()) return;
  for (int i = 0; i < kColumns; ++i)
    if (column(i).contains(event->position())) {
      at_ = i;
      const double use = intervals()[static_cast<size_t>(i)];
      session_.document.edit([&](take::Take& t) { t.wish(plan::Slot::Interval, use); });
      return;
    }
}

void WaysPane::say_keys() {
  const auto step = [this](int by) {
    at_ = std::clamp(at_ + by, 0, kColumns - 1);
    update();
  };
  keys_.add(Qt::Key_Left, say_q("To the shorter interval"), [step] { step(-1); });
  keys_.add(Qt::Key_Right, say_q("To the longer interval"), [step] { step(1); });
  keys_.add(Qt::Key_Return, say_q("Take this interval"), [this] {
    const double use = intervals()[static_cast<size_t>(at_)];
    session_.document.edit([&](take::Take& t) { t.wish(plan::Slot::Interval, use); });
  });
}

void WaysPane::keyPressEvent(QKeyEvent* event) {
  if (!session_.document.sums() || !keys_.pressed(*event)) QWidget::keyPressEvent(event);
}

}  // namespace askcount::app
