// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/big_picture.h"

#include <algorithm>
#include <QApplication>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QScreen>

#include "app/stages/stage.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"

namespace askcount::app {
namespace {

constexpr int kLine = 34;  // pixels below the picture
constexpr int kSide = 18;

}  // namespace

/// The playhead along the film, and the words.
class BigPicture::Line : public QWidget {
 public:
  Line(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("big line");
    setCursor(Qt::SizeHorCursor);
    connect(&session.playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
  }
  void say(const QString& words) {
    words_ = words;
    setAccessibleName(words);
    update();
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    const Colours& c = colours();
    p.fillRect(rect(), c.bar);
    const QRectF film(kSide, 4, width() - 2 * kSide, 4);
    p.fillRect(film, c.film_fill);
    const auto n = static_cast<double>(std::max(1LL, session_.playhead.count()));
    const double x = film.left() + (static_cast<double>(session_.playhead.at()) + 0.5) / n * film.width();
    p.fillRect(QRectF(x - 1.5, 0, 3, 12), c.here);
    p.setFont(word_font(9.5));
    const QString number = say_q("Frame %1 of %2")
                               .arg(to_q(format_count(session_.playhead.at() + 1)),
                                    to_q(format_count(session_.playhead.count())));
    const QString keys = say_q("Esc back · F11 whole screen");
    const QRect words(kSide, 13, width() - 2 * kSide, kLine - 14);
    p.setPen(c.muted);
    p.drawText(words, Qt::AlignVCenter | Qt::AlignRight, keys);
    p.setPen(c.ink);
    const QString all = words_.isEmpty() ? number : number + "   " + words_;
    p.drawText(words, Qt::AlignVCenter | Qt::AlignLeft,
               p.fontMetrics().elidedText(all, Qt::ElideRight,
                                          words.width() - p.fontMetrics().horizontalAdvance(keys) - 24));
  }
  void mousePressEvent(QMouseEvent* event) override { go_to(event->position().x()); }
  void mouseMoveEvent(QMouseEvent* event) override {
    if (event->buttons() & Qt::LeftButton) go_to(event->position().x());
  }

 private:
  void go_to(double x) {
    const double share = (x - kSide) / std::max(1, width() - 2 * kSide);
    session_.playhead.set(static_cast<long long>(share * static_cast<double>(session_.playhead.count())));
  }

  Session& session_;
  QString words_;
};

BigPicture::BigPicture(Session& session, QWidget* main)
    : QWidget(nullptr, Qt::Window), session_(session), main_(main), line_(new Line(session, this)) {
  setObjectName("big picture");
  setWindowTitle(say_q("Ask Count: the picture"));
  setMinimumSize(480, 360);
  connect(&session.playhead, &Playhead::moved, this, &BigPicture::refresh);
}

BigPicture::~BigPicture() {
  give_back();
}

void BigPicture::give_back() {
  if (place_) place_->take_back();
  place_ = nullptr;
}

void BigPicture::open(Stage* stage, As as) {
  if (!stage->picture()) return;
  as_ = as;
  if (actions().isEmpty()) addActions(main_->actions());
  show_stage(stage);
  if (as == As::WholeScreen) {
    showFullScreen();
  } else {
    // On another screen, where there is one.
    const QList<QScreen*> screens = QApplication::screens();
    QScreen* other = main_->screen();
    for (QScreen* s : screens)
      if (s != main_->screen()) other = s;
    const QRect room = other->availableGeometry();
    showNormal();
    setGeometry(QRect(room.topLeft() + QPoint(40, 40), room.size() * 0.8));
  }
  activateWindow();
  setFocus();
}

void BigPicture::show_stage(Stage* stage) {
  if (stage_ == stage) return refresh();
  give_back();
  stage_ = stage;
  place_ = stage ? stage->picture() : nullptr;
  if (!place_) return close_picture();
  QWidget* picture = place_->lend();
  picture->setParent(this);
  lay_out();
  picture->show();
  refresh();
}

void BigPicture::close_picture() {
  give_back();
  stage_ = nullptr;
  if (!isHidden()) {
    hide();
    main_->activateWindow();
  }
}

void BigPicture::whole_screen_or_back() {
  if (as_ == As::WholeScreen) return close_picture();
  isFullScreen() ? showNormal() : showFullScreen();
}

void BigPicture::refresh() {
  if (stage_) line_->say(stage_->picture_words());
}

void BigPicture::lay_out() {
  if (place_) place_->picture()->setGeometry(0, 0, width(), height() - kLine);
  line_->setGeometry(0, height() - kLine, width(), kLine);
}

void BigPicture::resizeEvent(QResizeEvent*) {
  lay_out();
}

void BigPicture::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), colours(current_lighting() == Lighting::Lamp ? Lighting::Lamp : Lighting::Studio).well);
}

void BigPicture::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape) return close_picture();
  if (event->key() == Qt::Key_F11) return whole_screen_or_back();
  QApplication::sendEvent(main_, event);
}

void BigPicture::keyReleaseEvent(QKeyEvent* event) {
  QApplication::sendEvent(main_, event);
}

void BigPicture::closeEvent(QCloseEvent* event) {
  close_picture();
  event->accept();
}

}  // namespace askcount::app

#include "moc_big_picture.cpp"
