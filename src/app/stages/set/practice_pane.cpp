// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/set/practice_pane.h"

#include <nlohmann/json.hpp>

#include <cmath>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QVBoxLayout>
#include <QWheelEvent>

#include "app/session/keeping.h"
#include "app/stages/slot_wiring.h"
#include "app/stages/stage.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/press_button.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/shoot.h"
#include "timer/keyed.h"

namespace askcount::app {
namespace {

using timer::Key;
constexpr double kSide = 20, kWheel = 92, kKeyWide = 86, kKeyHigh = 34;

}  // namespace

TimerFace::TimerFace(QWidget* parent)
    : QWidget(parent), face_(std::make_unique<timer::Face>(plan::shipped_timers().front())) {
  setObjectName("timer face");
  say_keys();
  setAccessibleName(say_q("A timer to practise on"));
  setFocusPolicy(Qt::StrongFocus);
  setMinimumWidth(640);
  setFixedHeight(136);
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

QRectF TimerFace::wheel() const {
  return {width() - kSide - kKeyWide - 16 - kWheel, (height() - kWheel) / 2.0, kWheel, kWheel};
}

QRectF TimerFace::key_place(Key key) const {
  const double gap = 12, top = (height() - 2 * kKeyHigh - gap) / 2.0;
  return {width() - kSide - kKeyWide, key == Key::Start ? top : top + kKeyHigh + gap, kKeyWide, kKeyHigh};
}

QRectF TimerFace::field_place(size_t field) const {
  const QRectF bar(kSide, 22, wheel().left() - 2 * kSide, height() - 44.0);
  const double wide = bar.width() / static_cast<double>(face_->all().size());
  return {bar.left() + static_cast<double>(field) * wide, bar.top(), wide, bar.height()};
}

void TimerFace::paint_fields(QPainter& p) {
  const Colours& c = colours();
  const timer::FaceLines l = face_->lines();
  const bool lamp = current_lighting() == Lighting::Lamp;
  const auto fields = face_->all();
  const QRectF first = field_place(0), last = field_place(fields.size() - 1);
  const QColor glass = lamp     ? c.column
                       : l.lamp ? QColor(0xF4, 0xEC, 0xCF)
                                : QColor(0xDF, 0xE3, 0xE4),
               ink = lamp ? c.ink : QColor(0x1B, 0x24, 0x28);
  p.setPen(Qt::NoPen);
  p.setBrush(glass);
  p.drawRect(QRectF(first.topLeft(), last.bottomRight()));
  for (size_t i = 0; i < fields.size(); ++i) {
    const QRectF at = field_place(i);
    const bool set = fields[i].front && l.digit >= 0;
    if (fields[i].front)
      p.fillRect(at.adjusted(3, 3, -3, -3),
                 set ? (lamp ? c.card : QColor(0xFF, 0xFF, 0xFF)) : glass.darker(108));
    if (i > 0) p.fillRect(QRectF(at.left() - 0.7, at.top() + 8, 1.4, at.height() - 16), glass.darker(130));
    p.setPen(ink);
    p.setFont(word_font(10, fields[i].front ? QFont::Bold : QFont::DemiBold));
    p.drawText(at.adjusted(0, 12, 0, 0), Qt::AlignHCenter | Qt::AlignTop, to_q(fields[i].word));
    const QString value = to_q(fields[i].value);
    p.setFont(figure_font(value.size() > 8 ? 12 : 14, true));
    const QFontMetricsF m(p.font());
    const double x = at.center().x() - m.horizontalAdvance(value) / 2, y = at.bottom() - 20;
    p.drawText(QPointF(x, y), value);
    if (set && l.digit < value.size())
      p.fillRect(
          QRectF(x + m.horizontalAdvance(value.left(l.digit)), y + 4, m.horizontalAdvance(value[l.digit]), 3),
          ink);
  }
  p.setPen(lamp ? c.ink : c.card);
  p.setFont(word_font(8.5));
  p.drawText(QRectF(kSide, 3, 300, 18), Qt::AlignLeft | Qt::AlignVCenter, to_q(l.state));
}

void TimerFace::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  p.setPen(QPen(hasFocus() ? c.field : c.line, hasFocus() ? 2.4 : 1.4));
  p.setBrush(c.land);
  p.drawRoundedRect(QRectF(rect()).adjusted(2, 2, -2, -2), 8, 8);
  paint_fields(p);
  // The wheel: pressed to open a field, turned to change it.
  const QRectF w = wheel();
  p.setPen(Qt::NoPen);
  p.setBrush(c.card);
  p.drawEllipse(w);
  p.setPen(QPen(c.line, 1.6));
  for (int i = 0; i < 36; ++i) {
    const double a = (i * 10 + turned_) * 3.14159265 / 180, r = kWheel / 2;
    p.drawLine(w.center() + QPointF(std::cos(a), std::sin(a)) * (r - 7),
               w.center() + QPointF(std::cos(a), std::sin(a)) * (r - 2));
  }
  p.setBrush(c.paper);
  p.drawEllipse(w.center(), kWheel / 2 - 15, kWheel / 2 - 15);
  p.setPen(c.ink);
  p.setFont(word_font(9, QFont::DemiBold));
  p.drawText(w, Qt::AlignCenter, face_->lines().digit >= 0 ? say_q("close|a cover") : say_q("open|a cover"));
  for (const Key key : {Key::Start, Key::Lock}) {
    const QRectF at = key_place(key);
    p.setPen(Qt::NoPen);
    p.setBrush(key == Key::Start ? c.field : c.card);
    p.drawRoundedRect(at, 4, 4);
    p.setPen(key == Key::Start ? (current_lighting() == Lighting::Lamp ? c.paper : c.on_fill) : c.ink);
    p.setFont(word_font(10, QFont::DemiBold));
    p.drawText(at, Qt::AlignCenter,
               key == Key::Start ? (face_->running() ? say_q("Stop") : say_q("Start"))
               : face_->locked() ? say_q("Unlock")
                                 : say_q("Lock"));
  }
}

void TimerFace::turn(int steps) {
  const bool setting = face_->lines().digit >= 0;
  turned_ += steps * 5;
  press(steps > 0 ? (setting ? Key::Up : Key::Right) : setting ? Key::Down : Key::Left);
}

void TimerFace::mousePressEvent(QMouseEvent* event) {
  setFocus();
  for (const Key k : {Key::Start, Key::Lock})
    if (key_place(k).contains(event->position())) return press(k);
  if (wheel().contains(event->position())) return press(Key::Set);
  for (size_t i = 0; i < face_->all().size(); ++i)
    if (field_place(i).contains(event->position())) {
      face_->choose(i);
      update();
    }
}

void TimerFace::wheelEvent(QWheelEvent* event) {
  if (const int by = event->angleDelta().y(); by != 0) turn(by > 0 ? 1 : -1);
  event->accept();
}

void TimerFace::say_keys() {
  const auto add = [this](Qt::Key key, const QString& words, Key pressed) {
    keys_.add(key, words, [this, pressed] { press(pressed); });
  };
  add(Qt::Key_Return, say_q("The timer's set key"), Key::Set);
  add(Qt::Key_Enter, {}, Key::Set);
  add(Qt::Key_Left, say_q("Its left key"), Key::Left);
  add(Qt::Key_Right, say_q("Its right key"), Key::Right);
  add(Qt::Key_Up, say_q("Its up key"), Key::Up);
  add(Qt::Key_Down, say_q("Its down key"), Key::Down);
  add(Qt::Key_S, say_q("Its start and stop key"), Key::Start);
  add(Qt::Key_K, say_q("Its lock"), Key::Lock);
  add(Qt::Key_G, say_q("Its lamp"), Key::Lamp);
}

void TimerFace::keyPressEvent(QKeyEvent* event) {
  if (!keys_.pressed(*event)) QWidget::keyPressEvent(event);
}

PracticePane::PracticePane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* down = new QVBoxLayout(this);
  down->setContentsMargins(0, 10, 0, 0);
  face_ = new TimerFace(this);
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
  down->addWidget(face_);
  auto* keys = new QLabel(
      say_q(
          "Press the wheel to open a field (Return), turn it to change it (up, down), left and right for the "
          "digit. S starts, K locks, G lights it."),
      this);
  keys->setFont(word_font(9));
  keys->setForegroundRole(QPalette::PlaceholderText);
  down->addWidget(keys);
  auto* again = new PressButton(say_q("Begin again"), false, this);
  down->addWidget(again, 0, Qt::AlignLeft);
  down->addSpacing(6);
  down->addWidget(make_heading(say_q("What you set"), this));
  down->addWidget(verdict_);
  down->addStretch();
  down->addWidget(best_);
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
    return task_->setText(say_q("Say on Ask what you want first; then there is something to program."));
  const auto lines = timer::program_lines(session_.document.program());
  QStringList parts;
  for (const timer::ProgramLine& l : lines)
    if ((t.holds || l.field != "hold") && l.field != "each")
      parts << QString("%1 <b>%2</b>")
                   .arg(to_q(l.word),
                        to_q(l.field == "delay" && l.value.size() < 6 ? l.value + ":00" : l.value));
  task_->setText(say_q("Set it to: ") + parts.join(", ") + say_q(". Then start it and lock it."));
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
  if (face_->face().keyed() == timer::Face(model).keyed()) {
    verdict_->setText(say_q("Nothing yet."));
    return;
  }
  try {
    const auto o =
        timer::what_happens(face_->face().keyed(), model,
                            forecast::camera_of(t, program, *session_.document.ramp_in_any_case(),
                                                *session_.document.exposure(), face_->face().keyed().hold_s),
                            forecast::sums_at_once(t, program), program.start_clock);
    text = say_q("%1 every %2, %3 open; %4 from first opening to last closing.")
               .arg(to_q(counted(o.shots, "{} shot", "{} shots")), to_q(format_length(o.interval_s)),
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
    session_.book.keep({"timer", model.name, rounded(seconds, 1), now()});
    verdict_->setText(text + say_q("<br><b>Done in %1.</b>").arg(to_q(format_length(seconds, 1))));
  }
  double best = 0;
  int times = 0;
  for (const book::Score& s : session_.book.shelf().scores)
    if (s.kind == "timer" && s.of == model.name)
      ++times, best = best == 0 ? s.value : std::min(best, s.value);
  best_->setText(times == 0 ? say_q("Not yet done right on this timer. The time counts from the first key.")
                            : say_q("Done right %1 times on this timer, the fastest in %2.")
                                  .arg(times)
                                  .arg(to_q(format_length(best, 1))));
}

}  // namespace askcount::app

#include "moc_practice_pane.cpp"
