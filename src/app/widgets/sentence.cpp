// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/sentence.h"

#include <cmath>
#include <QAccessible>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QMenu>
#include <QPainter>
#include <QToolTip>
#include <QWheelEvent>

#include "app/style/style.h"
#include "app/style/text.h"

namespace askcount::app {
namespace {

constexpr int kSide = 4;
constexpr int kPinRoom = 9;  // room beside a slot's words

/// Letters are keys of the window (L is the lamp everywhere) but where words are what is typed.
bool begins_a_value(const QString& typed) {
  return !typed.isEmpty() && (typed[0].isDigit() || QString("-\u2212+.,/").contains(typed[0]));
}

}  // namespace

QFont SlotField::font_of_slot() const {
  return word_font(points_, QFont::Bold);
}

SlotField::SlotField(const QString& name, double points, QWidget* parent) : QWidget(parent), points_(points) {
  setFocusPolicy(Qt::StrongFocus);
  setCursor(Qt::IBeamCursor);
  setAccessibleName(name);
  setObjectName(name);
  setToolTip(name + say_q(": type, or step with the arrows"));
  say_keys();
}

void SlotField::set(const QString& text, Kind kind, const QString& typed) {
  typed_ = typed;
  if (text == text_ && kind == kind_) return;
  text_ = text;
  kind_ = kind;
  QAccessibleValueChangeEvent told(this, text_);
  QAccessible::updateAccessibility(&told);
  updateGeometry();
  update();
}

void SlotField::set_points(double points) {
  points_ = points;
  updateGeometry();
  update();
}

void SlotField::set_pinned(bool pinned) {
  if (pinned == pinned_) return;
  pinned_ = pinned;
  updateGeometry();
  update();
}

void SlotField::set_removable() {
  keys_.add(Qt::Key_Delete, say_q("Take this phrase away"), [this] { emit removed(); });
}

int SlotField::base_line() const {
  return QFontMetrics(font_of_slot()).ascent() + 3;
}

QSize SlotField::sizeHint() const {
  const QFontMetrics m(font_of_slot());
  const int typed = editor_ ? m.horizontalAdvance(editor_->text() + "  ") : 0;
  return {std::max({m.horizontalAdvance(text_), typed, 24}) + 2 * kSide + (pinned_ ? kPinRoom : 0),
          m.height() + 6};
}

void SlotField::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Colours& c = colours();
  QColor ink = c.ink, under = c.muted;
  if (kind_ == Kind::Film) ink = under = c.film;
  if (kind_ == Kind::Field) ink = under = c.field;
  const int base = base_line();
  if (kind_ == Kind::Proposed) {
    p.setPen(QPen(c.answer, 2, Qt::DotLine));
    p.drawRect(QRect(1, 3, width() - 3, height() - 7));
  } else if (kind_ == Kind::Answer) {
    p.fillRect(QRect(0, 2, width(), height() - 5), c.answer);
    ink = c.answer_ink;
  } else {
    const bool dotted = kind_ == Kind::Open || kind_ == Kind::Plain;
    p.setPen(QPen(kind_ == Kind::Open ? c.stop : under, 2, dotted ? Qt::DotLine : Qt::SolidLine));
    p.drawLine(kSide - 2, base + 6, width() - kSide + 2 - (pinned_ ? kPinRoom : 0), base + 6);
  }
  if (!editor_) {
    p.setFont(font_of_slot());
    p.setPen(kind_ == Kind::Open ? c.stop : ink);
    p.drawText(kSide, base, text_);
  }
  if (pinned_) {  // a pin through the upper right corner
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(c.ink, 1.6));
    p.drawLine(QPointF(width() - 6.5, 6), QPointF(width() - 6.5, 13));
    p.setBrush(c.ink);
    p.drawEllipse(QPointF(width() - 6.5, 4.5), 3.2, 3.2);
    p.setRenderHint(QPainter::Antialiasing, false);
  }
  if (hasFocus() || editor_) {
    p.setPen(QPen(c.field, 2));
    p.setBrush(Qt::NoBrush);
    p.drawRect(rect().adjusted(1, 1, -1, -1));
  }
}

void SlotField::begin(const QString& first) {
  if (editor_) return;
  editor_ = new QLineEdit(!first.isEmpty() ? first : typed_.isEmpty() ? text_ : typed_, this);
  editor_->setFont(font_of_slot());
  editor_->setFrame(false);
  editor_->setAccessibleName(accessibleName());
  editor_->setStyleSheet("background: transparent; padding: 0");
  editor_->installEventFilter(this);
  if (first.isEmpty()) editor_->selectAll();
  connect(editor_, &QLineEdit::textChanged, this, [this] {
    updateGeometry();
    emit edited();
    editor_->setGeometry(rect().adjusted(kSide - 2, 1, 0, -2));
  });
  emit edited();
  editor_->setGeometry(rect().adjusted(kSide - 2, 1, 0, -2));
  editor_->show();
  editor_->setFocus();
  update();
}

void SlotField::end(bool keep) {
  if (!editor_) return;
  QLineEdit* editor = editor_;
  editor_ = nullptr;
  const QString typed = editor->text().trimmed();
  editor->removeEventFilter(this);
  editor->hide();
  editor->setParent(nullptr);
  editor->deleteLater();
  emit edited();
  update();
  if (keep && typed != (typed_.isEmpty() ? text_ : typed_)) emit committed(typed);
}

void SlotField::show_choices() {
  QMenu menu(this);
  menu.setFont(word_font(11));
  for (const QString& choice : choices_) {
    QAction* action = menu.addAction(choice);
    action->setCheckable(true);
    action->setChecked(choice == text_);
  }
  if (const QAction* chosen = menu.exec(mapToGlobal(QPoint(0, height())))) emit committed(chosen->text());
}

bool SlotField::eventFilter(QObject* watched, QEvent* event) {
  if (watched != editor_) return false;
  if (event->type() == QEvent::KeyPress) {
    const auto* key = static_cast<QKeyEvent*>(event);
    if (key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) {
      end(true);
      setFocus();
      return true;
    }
    if (key->key() == Qt::Key_Escape) {
      end(false);
      setFocus();
      return true;
    }
    if (key->key() == Qt::Key_Up || key->key() == Qt::Key_Down) {
      end(true);
      setFocus();
      emit nudged(key->key() == Qt::Key_Up ? 1 : -1);
      return true;
    }
  }
  if (event->type() == QEvent::FocusOut && static_cast<QFocusEvent*>(event)->reason() != Qt::PopupFocusReason)
    end(true);
  return false;
}

void SlotField::mousePressEvent(QMouseEvent* event) {
  setFocus();
  if (event->button() == Qt::RightButton) {
    emit pin_pressed();
    return;
  }
  if (choices_.isEmpty())
    begin();
  else
    show_choices();
}

void SlotField::say_keys() {
  const auto open = [this] { choices_.isEmpty() ? begin() : show_choices(); };
  keys_.add(Qt::Key_Return, say_q("Change it: type, or choose"), open);
  keys_.add(Qt::Key_Enter, {}, open);
  keys_.add(Qt::Key_F2, {}, open);
  keys_.add(Qt::Key_Up, say_q("One step up"), [this] { emit nudged(1); });
  keys_.add(Qt::Key_Down, say_q("One step down"), [this] { emit nudged(-1); });
  keys_.add(Qt::Key_PageUp, say_q("Ten steps up"), [this] { emit nudged(10); });
  keys_.add(Qt::Key_PageDown, say_q("Ten steps down"), [this] { emit nudged(-10); });
  keys_.add(
      Qt::Key_P, say_q("Pin it, or let it go"), [this] { emit pin_pressed(); }, Qt::ControlModifier);
  keys_.add(Qt::Key_Question, say_q("Why it is what it is"),
            [this] { QToolTip::showText(mapToGlobal(QPoint(0, height())), toolTip(), this); });
}

void SlotField::keyPressEvent(QKeyEvent* event) {
  if (keys_.pressed(*event)) return;
  const bool word = words_ && !event->text().isEmpty() && event->text()[0].isLetter();
  if (choices_.isEmpty() && (word || begins_a_value(event->text())) &&
      !(event->modifiers() & (Qt::ControlModifier | Qt::AltModifier)))
    begin(event->text());
  else
    QWidget::keyPressEvent(event);
}

void SlotField::wheelEvent(QWheelEvent* event) {
  const int turn = event->angleDelta().y();
  if (turn != 0) emit nudged(turn > 0 ? 1 : -1);
  event->accept();
}

void SlotField::set_why(const QString& why) {
  const bool same = why == toolTip();
  setToolTip(why);
  if (!same && (hasFocus() || editor_)) emit asked_why(why);
}

void SlotField::focusInEvent(QFocusEvent*) {
  emit asked_why(toolTip());
  update();
}

void SlotField::focusOutEvent(QFocusEvent*) {
  if (!editor_) emit asked_why({});
  update();
}

Sentence::Sentence(QWidget* parent, double points) : QWidget(parent), points_(points) {
  QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Minimum);
  policy.setHeightForWidth(true);
  setSizePolicy(policy);
}

void Sentence::set_points(double points) {
  if (points == points_) return;
  points_ = points;
  for (const Piece& piece : pieces_)
    if (piece.slot) piece.slot->set_points(points);
  reflow();
}

void Sentence::add(const QString& text) {
  for (const QString& word : text.split(' ', Qt::SkipEmptyParts))
    pieces_.push_back({word, nullptr, false, building_});
}

int Sentence::begin_phrase(const QString& word) {
  phrases_.push_back({word, {}, false, false, false});
  return building_ = static_cast<int>(phrases_.size()) - 1;
}

void Sentence::end_phrase(std::function<void()> take_away, bool says_at_once) {
  phrases_[static_cast<size_t>(building_)].take_away = std::move(take_away);
  phrases_[static_cast<size_t>(building_)].says_at_once = says_at_once;
  for (const Piece& piece : pieces_) {
    if (!piece.slot || piece.phrase != building_) continue;
    piece.slot->set_removable();
    piece.slot->hide();
    connect(piece.slot, &SlotField::removed, this, [this, phrase = building_] { this->take_away(phrase); });
  }
  building_ = -1;
}

bool Sentence::has_phrase(int phrase) const {
  const Phrase& p = phrases_[static_cast<size_t>(phrase)];
  return p.said || p.added;
}

bool Sentence::is_there(const Piece& piece) const {
  return piece.phrase < 0 || has_phrase(piece.phrase);
}

void Sentence::show_phrase(int phrase) {
  for (const Piece& piece : pieces_)
    if (piece.slot && piece.phrase == phrase) piece.slot->setVisible(has_phrase(phrase));
  reflow();
  emit phrases_changed();
}

void Sentence::set_said(int phrase, bool said) {
  Phrase& p = phrases_[static_cast<size_t>(phrase)];
  if (p.said == said) return;
  const bool had = has_phrase(phrase);
  p.said = said;
  if (said && p.says_at_once) p.added = false;
  // It does not go away under a hand that drags its value.
  if (!said && QGuiApplication::mouseButtons() != Qt::NoButton) p.added = true;
  if (had != has_phrase(phrase)) show_phrase(phrase);
}

void Sentence::add_phrase(int phrase) {
  Phrase& p = phrases_[static_cast<size_t>(phrase)];
  p.added = !p.said;
  show_phrase(phrase);
  for (const Piece& piece : pieces_)
    if (piece.slot && piece.phrase == phrase) {
      piece.slot->setFocus(Qt::OtherFocusReason);
      break;
    }
  emit phrase_added(phrase);
}

void Sentence::take_away(int phrase) {
  // The focus goes to the slot before it, or else to the one after.
  SlotField* next = nullptr;
  bool passed = false;
  for (const Piece& piece : pieces_) {
    if (piece.phrase == phrase) passed = true;
    if (!piece.slot || piece.phrase == phrase || !is_there(piece)) continue;
    if (!passed || !next) next = piece.slot;
  }
  phrases_[static_cast<size_t>(phrase)].added = false;
  if (next) next->setFocus(Qt::OtherFocusReason);
  phrases_[static_cast<size_t>(phrase)].take_away();
  show_phrase(phrase);
}

QStringList Sentence::phrase_words() const {
  QStringList words;
  for (const Phrase& p : phrases_) words << p.word;
  return words;
}

SlotField* Sentence::add_slot(const QString& name) {
  auto* slot = new SlotField(name, points_, this);
  connect(slot, &SlotField::edited, this, &Sentence::reflow);
  connect(slot, &SlotField::asked_why, this, [this](const QString& why) {
    why_ = why;
    if (!hint_.isEmpty()) update();
  });
  pieces_.push_back({{}, slot, false, building_});
  return slot;
}

void Sentence::add_break() {
  pieces_.push_back({{}, nullptr, true, building_});
}

void Sentence::keep_why_line(const QString& hint) {
  hint_ = hint;
  reflow();
}

void Sentence::complain(const QString& text) {
  if (complaint_ == text) return;
  complaint_ = text;
  reflow();
}

void Sentence::reflow() {
  const int before = heights_.contains(width()) ? heights_[width()] : -1;
  heights_.clear();
  lay_out(width(), true);
  if (height_at(width()) != before) updateGeometry();
  update();
}

int Sentence::lay_out(int width, bool move) const {
  const QFontMetrics plain(word_font(points_));
  const int space = plain.horizontalAdvance(' ');
  const int line = static_cast<int>(plain.height() * 1.27);
  if (move) placed_.clear();
  int x = 0, base = plain.ascent() + 4;
  QString last = ":";  // nothing comes before the first piece
  for (const Piece& piece : pieces_) {
    if (!is_there(piece) || (piece.words == "," && last == ":")) continue;
    last = piece.words;
    if (piece.line_break) {
      x = 0;
      base += line;
      continue;
    }
    if (piece.slot && piece.slot->testAttribute(Qt::WA_WState_ExplicitShowHide) && piece.slot->isHidden())
      continue;
    const int w = piece.slot ? piece.slot->sizeHint().width() : plain.horizontalAdvance(piece.words);
    // Marks of punctuation stay with the slot before them.
    const bool mark = !piece.slot && (piece.words == "." || piece.words == "," || piece.words == ":");
    const int before = x == 0 || mark ? 0 : piece.slot ? space - 2 : space;
    if (x > 0 && x + before + w > width && !mark) {
      x = 0;
      base += line;
    } else {
      x += before;
    }
    if (move) {
      if (piece.slot)
        piece.slot->setGeometry(QRect(QPoint(x, base - piece.slot->base_line()), piece.slot->sizeHint()));
      else
        placed_.push_back({{x, base}, piece.words});
    }
    x += w;
  }
  int height = base + plain.descent() + 10;
  if (!hint_.isEmpty()) height += QFontMetrics(word_font(9.5)).height() + 4;
  if (!complaint_.isEmpty())
    height += QFontMetrics(word_font(10))
                  .boundingRect(QRect(0, 0, width, 1000), Qt::TextWordWrap, complaint_)
                  .height() +
              6;
  return height;
}

int Sentence::height_at(int width) const {
  const auto known = heights_.find(width);
  if (known != heights_.end()) return known->second;
  return heights_[width] = lay_out(width, false);
}

int Sentence::heightForWidth(int width) const {
  return height_at(width);
}
QSize Sentence::sizeHint() const {
  return {600, height_at(std::max(600, width()))};
}
void Sentence::resizeEvent(QResizeEvent*) {
  lay_out(width(), true);
}

void Sentence::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setFont(word_font(points_));
  p.setPen(colours().ink);
  for (const Placed& word : placed_) p.drawText(word.at, word.words);
  p.setFont(word_font(9.5));
  int below = 0;
  if (!hint_.isEmpty() && complaint_.isEmpty()) {
    p.setPen(why_.isEmpty() ? colours().muted : colours().ink);
    const int h = p.fontMetrics().height();
    p.drawText(QRect(0, height() - h - 4, width(), h), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(why_.isEmpty() ? hint_ : QString(why_).replace('\n', ' '),
                                          Qt::ElideRight, width()));
  } else if (!hint_.isEmpty()) {
    below = p.fontMetrics().height() + 4;
  }
  if (complaint_.isEmpty()) return;
  p.setFont(word_font(10));
  p.setPen(colours().stop);
  const int h =
      p.fontMetrics().boundingRect(QRect(0, 0, width(), 1000), Qt::TextWordWrap, complaint_).height();
  p.drawText(QRect(0, height() - h - 2 - below, width(), h), Qt::TextWordWrap, complaint_);
}

}  // namespace askcount::app

#include "moc_sentence.cpp"
