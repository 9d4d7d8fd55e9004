#include "app/stages/set/practice_pane.h"

#include <nlohmann/json.hpp>

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QVBoxLayout>

#include "app/session/keeping.h"
#include "app/stages/slot_wiring.h"
#include "app/stages/stage.h"
#include "app/style/style.h"
#include "app/widgets/press_button.h"
#include "base/error.h"
#include "base/units.h"
#include "orders/shoot.h"
#include "timer/keyed.h"

namespace askcount::app {
namespace {

using timer::Key;
struct KeyShown {
  Key key;
  const char* word;
  int row, column;
};
// Four rows below the display: the arrows in a cross, the others beside it.
constexpr KeyShown kKeys[] = {{Key::Up, "▲", 0, 1},      {Key::Left, "◀", 1, 0},
                              {Key::Set, "set", 1, 1},   {Key::Right, "▶", 1, 2},
                              {Key::Down, "▼", 2, 1},    {Key::Lock, "lock", 0, 3},
                              {Key::Lamp, "lamp", 1, 3}, {Key::Start, "start", 2, 3}};

}  // namespace

TimerFace::TimerFace(QWidget* parent)
    : QWidget(parent), face_(std::make_unique<timer::Face>(plan::shipped_timers().front())) {
  setObjectName("timer face");
  setAccessibleName("A timer to practise on");
  setFocusPolicy(Qt::StrongFocus);
  setFixedWidth(330);
  setFixedHeight(320);
}

void TimerFace::put(const plan::Timer& timer) {
  face_ = std::make_unique<timer::Face>(timer);
  update();
}

void TimerFace::press(Key key) {
  face_->press(key);
  update();
  emit pressed();
}

QRectF TimerFace::key_place(Key key) const {
  const double wide = 62, high = 34, left = 26, top = height() - 3 * (high + 8) - 14;
  for (const KeyShown& k : kKeys)
    if (k.key == key)
      return {left + k.column * (wide + 8) + (k.column == 3 ? 6 : 0), top + k.row * (high + 8), wide, high};
  return {};
}

void TimerFace::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  p.setPen(QPen(hasFocus() ? c.field : c.line, hasFocus() ? 2.4 : 1.4));
  p.setBrush(c.land);
  p.drawRoundedRect(QRectF(rect()).adjusted(2, 2, -2, -2), 20, 20);
  const QRectF display(22, 18, width() - 44, key_place(Key::Up).top() - 36);
  const timer::FaceLines l = face_->lines();
  const bool lit = l.lamp || current_lighting() == Lighting::Lamp;
  p.setPen(Qt::NoPen);
  p.setBrush(current_lighting() == Lighting::Lamp ? c.column
             : lit                                ? QColor(0xD6, 0xE7, 0xC4)
                                                  : QColor(0xAE, 0xBC, 0xA6));
  p.drawRoundedRect(display, 5, 5);
  const QColor ink = current_lighting() == Lighting::Lamp ? c.ink : QColor(0x1B, 0x24, 0x1C);
  p.setPen(ink);
  p.setFont(word_font(11, QFont::Bold));
  p.drawText(display.adjusted(12, 8, -12, 0), Qt::AlignLeft | Qt::AlignTop, to_q(l.field));
  p.setFont(word_font(9.5));
  p.drawText(display.adjusted(12, 9, -12, 0), Qt::AlignRight | Qt::AlignTop, to_q(l.state));
  p.setFont(figure_font(25, true));
  const QFontMetricsF m(p.font());
  const QString value = to_q(l.value);
  const double x = display.left() + 12, y = display.bottom() - 16;
  p.drawText(QPointF(x, y), value);
  if (l.digit >= 0 && l.digit < value.size()) {
    const double from = x + m.horizontalAdvance(value.left(l.digit)),
                 wide = m.horizontalAdvance(value[l.digit]);
    p.fillRect(QRectF(from, y + 4, wide, 3), ink);
  }
  for (const KeyShown& k : kKeys) {
    const QRectF at = key_place(k.key);
    p.setPen(Qt::NoPen);
    p.setBrush(k.key == Key::Start ? c.field : c.card);
    p.drawRoundedRect(at, 15, 15);
    p.setPen(k.key == Key::Start ? (current_lighting() == Lighting::Lamp ? c.paper : c.on_fill) : c.ink);
    p.setFont(word_font(10, QFont::DemiBold));
    p.drawText(at, Qt::AlignCenter, k.key == Key::Start && face_->running() ? "stop" : k.word);
  }
}

void TimerFace::mousePressEvent(QMouseEvent* event) {
  setFocus();
  for (const KeyShown& k : kKeys)
    if (key_place(k.key).contains(event->position())) press(k.key);
}

void TimerFace::keyPressEvent(QKeyEvent* event) {
  switch (event->key()) {
    case Qt::Key_Return:
    case Qt::Key_Enter:
      press(Key::Set);
      break;
    case Qt::Key_Left:
      press(Key::Left);
      break;
    case Qt::Key_Right:
      press(Key::Right);
      break;
    case Qt::Key_Up:
      press(Key::Up);
      break;
    case Qt::Key_Down:
      press(Key::Down);
      break;
    case Qt::Key_S:
      press(Key::Start);
      break;
    case Qt::Key_K:
      press(Key::Lock);
      break;
    case Qt::Key_G:
      press(Key::Lamp);
      break;
    default:
      QWidget::keyPressEvent(event);
  }
}

PracticePane::PracticePane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* across = new QHBoxLayout(this);
  across->setContentsMargins(0, 10, 0, 0);
  across->setSpacing(26);
  face_ = new TimerFace(this);
  across->addWidget(face_, 0, Qt::AlignTop);
  auto* down = new QVBoxLayout;
  task_ = new QLabel(this);
  task_->setObjectName("practice task");
  verdict_ = new QLabel(this);
  verdict_->setObjectName("practice verdict");
  best_ = new QLabel(this);
  for (QLabel* l : {task_, verdict_, best_}) {
    l->setWordWrap(true);
    l->setFont(word_font(l == task_ ? 12 : 10.5));
    l->setTextFormat(Qt::RichText);
  }
  best_->setForegroundRole(QPalette::PlaceholderText);
  down->addWidget(task_);
  auto* again = new PressButton("Begin again", false, this);
  down->addWidget(again, 0, Qt::AlignLeft);
  down->addSpacing(6);
  down->addWidget(make_heading("What you told it", this));
  down->addWidget(verdict_);
  down->addStretch();
  down->addWidget(best_);
  across->addLayout(down, 1);
  connect(again, &QPushButton::clicked, this, &PracticePane::begin);
  connect(face_, &TimerFace::pressed, this, &PracticePane::judge);
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void PracticePane::begin() {
  face_->put(session_.document.take().timer_model());
  counting_ = false;
  judge();
  face_->setFocus();
}

void PracticePane::refresh() {
  const plan::Timer& t = session_.document.take().timer_model();
  if (timer_ != to_q(t.name) || !(face_->face().timer() == t)) {
    timer_ = to_q(t.name);
    begin();
  }
  if (!session_.document.sums())
    return task_->setText("Say on Ask what you want, then there is something to programme.");
  const auto lines = timer::program_lines(session_.document.program());
  QStringList parts;
  for (const timer::ProgramLine& l : lines)
    if (t.holds || l.field != "hold")
      parts << QString("%1 <b>%2</b>")
                   .arg(to_q(l.word),
                        to_q(l.field == "delay"
                                 ? timer::timer_digits(session_.document.program().delay_s, t.smallest_step_s)
                                 : l.value));
  task_->setText("Tell it: " + parts.join(", ") + ". Then start it and lock it.");
  judge();
}

void PracticePane::judge() {
  if (!session_.document.sums()) return;
  const take::Take& t = session_.document.take();
  const plan::Timer& model = t.timer_model();
  const timer::Program program = session_.document.program();
  if (!counting_ && face_->face().keyed() != timer::Face(model).keyed()) {
    counting_ = true;
    clock_.start();
  }
  QString text;
  bool right = false;
  try {
    const auto o = timer::what_happens(
        face_->face().keyed(), model,
        timer::camera_for(program, t.body().writing_s, orders::cycle_of(t, program.shutter.longest_s).dark_s,
                          face_->face().keyed().hold_s),
        *session_.document.sums());
    text = QString("%1 every %2, %3 open; %4 from first opening to last closing.")
               .arg(to_q(counted(o.shots, "shot")), to_q(format_length(o.interval_s)),
                    to_q(format_length(o.open_s)), to_q(format_length(o.field_s)));
    right = true;
    for (const Finding& f : o.findings) {
      right = right && f.severity == Severity::Ok;
      text += QString("<br>%1 <b>%2.</b> %3")
                  .arg(f.severity == Severity::Ok        ? "✓"
                       : f.severity == Severity::Warning ? "▲"
                                                         : "✕",
                       to_q(f.title), to_q(f.text));
    }
  } catch (const Error& e) {
    text = QString::fromUtf8(e.what());
  }
  verdict_->setText(text);
  if (right && face_->face().running() && counting_) {
    counting_ = false;
    const double seconds = static_cast<double>(clock_.elapsed()) / 1000;
    keep_score("practice", {{"timer", model.name}, {"seconds", rounded(seconds, 1)}});
    verdict_->setText(text + QString("<br><b>Done in %1.</b>").arg(to_q(format_length(seconds, 1))));
  }
  double best = 0;
  int times = 0;
  for (const Json& s : scores("practice"))
    if (s.value("timer", "") == model.name)
      ++times, best = best == 0 ? s["seconds"].get<double>() : std::min(best, s["seconds"].get<double>());
  best_->setText(times == 0 ? "Not yet done right on this timer. The time counts from the first key."
                            : QString("Done right %1 times on this timer, the fastest in %2.")
                                  .arg(times)
                                  .arg(to_q(format_length(best, 1))));
}

}  // namespace askcount::app
