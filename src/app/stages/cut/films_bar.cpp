// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/cut/films_bar.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"

namespace askcount::app {
namespace {

constexpr double kGap = 18, kHeight = 24;

}  // namespace

FilmNames::FilmNames(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setFocusPolicy(Qt::StrongFocus);
  setObjectName("films");
  say_keys();
  setAccessibleName(say_q("The take's films; double-click renames one"));
  setToolTip(say_q("Double-click a name to change it"));
  setCursor(Qt::PointingHandCursor);
}

QString FilmNames::name(int film) const {
  const std::string& own = session_.films.wish_of(film).name;
  return own.empty() ? QString::fromStdString(session_.document.film_file().stem().string())
                     : QString::fromStdString(own);
}

QRectF FilmNames::place(int film) const {
  const QFontMetricsF metrics(word_font(10, QFont::DemiBold));
  double x = 0;
  for (int n = 0; n < film; ++n) x += metrics.horizontalAdvance(name(n)) + kGap;
  return {x, 0, metrics.horizontalAdvance(name(film)), kHeight};
}

QSize FilmNames::sizeHint() const {
  return {static_cast<int>(place(session_.films.count() - 1).right()) + 8, static_cast<int>(kHeight)};
}

void FilmNames::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Colours& c = colours();
  for (int n = 0; n < session_.films.count(); ++n) {
    const bool here = n == session_.films.at();
    const QRectF at = place(n);
    p.setFont(word_font(10, here ? QFont::DemiBold : QFont::Normal));
    p.setPen(here ? c.ink : c.muted);
    p.drawText(at.adjusted(0, 0, 4, -3), Qt::AlignVCenter | Qt::AlignLeft, name(n));
    if (here) p.fillRect(QRectF(at.left(), kHeight - 3, at.width(), 2), c.film_fill);
    if (here && hasFocus()) {
      p.setPen(QPen(c.field, 1.4));
      p.drawRoundedRect(at.adjusted(-4, 1, 4, -1), 3, 3);
    }
  }
}

void FilmNames::mousePressEvent(QMouseEvent* event) {
  for (int n = 0; n < session_.films.count(); ++n)
    if (place(n).adjusted(-kGap / 2, 0, kGap / 2, 0).contains(event->position())) session_.films.choose(n);
}

void FilmNames::mouseDoubleClickEvent(QMouseEvent*) {
  rename();
}

void FilmNames::say_keys() {
  keys_.add(Qt::Key_Left, say_q("To the film before"),
            [this] { session_.films.choose(session_.films.at() - 1); });
  keys_.add(Qt::Key_Right, say_q("To the next film"),
            [this] { session_.films.choose(session_.films.at() + 1); });
  keys_.add(Qt::Key_Return, say_q("Rename it"), [this] { rename(); });
  keys_.add(Qt::Key_Enter, {}, [this] { rename(); });
}

void FilmNames::keyPressEvent(QKeyEvent* event) {
  if (!keys_.pressed(*event)) QWidget::keyPressEvent(event);
}

void FilmNames::rename() {
  if (session_.films.at() == 0) return;  // the take's own is called as the take
  auto* editor = new QLineEdit(this);
  editor->setObjectName("typed");
  editor->setText(name(session_.films.at()));
  const QRectF at = place(session_.films.at());
  editor->setGeometry(static_cast<int>(at.left()) - 4, 0, std::max(110, static_cast<int>(at.width()) + 24),
                      static_cast<int>(kHeight));
  editor->selectAll();
  editor->show();
  editor->setFocus();
  connect(editor, &QLineEdit::editingFinished, editor, [this, editor] {
    const QString text = editor->text().trimmed();
    editor->deleteLater();
    editor->disconnect(this);
    editor->blockSignals(true);
    session_.films.rename(text);
  });
}

FilmsBar::FilmsBar(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  names_ = new FilmNames(session, this);
  row->addWidget(names_);
  auto* more = new PressButton(say_q("Another film"), false, this);
  more->setObjectName("another film");
  row->addSpacing(10);
  row->addWidget(more);
  fewer_ = new PressButton(say_q("Leave it out"), false, this);
  fewer_->setObjectName("leave film out");
  row->addWidget(fewer_);
  row->addStretch(1);
  connect(more, &QPushButton::clicked, this, [this] { session_.films.add(); });
  connect(fewer_, &QPushButton::clicked, this, [this] { session_.films.remove(); });
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.document, &Document::changed)
      .on(session.films, &Films::changed);
  refresh();
}

void FilmsBar::refresh() {
  fewer_->setVisible(session_.films.count() > 1);
  names_->updateGeometry();
  names_->update();
}

}  // namespace askcount::app

#include "moc_films_bar.cpp"
