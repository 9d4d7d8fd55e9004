#include "app/stages/set/set_stage.h"

#include <QPainter>
#include <QVBoxLayout>

#include "app/look/look.h"
#include "base/units.h"

namespace askcount::app {

ProgramCard::ProgramCard(Desk& desk, QWidget* parent) : QWidget(parent), desk_(desk) {
  setMinimumHeight(250);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setAccessibleName("The timer's program");
  connect(&desk, &Desk::changed, this, qOverload<>(&QWidget::update));
}

void ProgramCard::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Colours& c = colours();
  p.fillRect(rect(), c.card);
  if (!desk_.sums()) return;
  const auto lines = timer::program_lines(desk_.take().program(), *desk_.sums());
  const double row = height() / static_cast<double>(lines.size());
  const double value_left = 190, why_left = 420;
  for (size_t i = 0; i < lines.size(); ++i) {
    const QRectF band(0, static_cast<double>(i) * row, width(), row);
    if (i > 0) {
      p.setPen(c.line);
      p.drawLine(band.topLeft(), band.topRight());
    }
    const auto text = [](const std::string& s) { return QString::fromStdString(s); };
    p.setPen(c.muted);
    p.setFont(words(13));
    p.drawText(band.adjusted(22, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, text(lines[i].name));
    p.setFont(figures(19, true));
    const bool interval = lines[i].name == "Interval" || lines[i].name == "Gap" || lines[i].name == "Count";
    const double w = p.fontMetrics().horizontalAdvance(text(lines[i].value));
    if (interval) {  // what Ask Count worked out for this timer
      p.fillRect(QRectF(value_left - 8, band.center().y() - p.fontMetrics().height() / 2.0 - 2, w + 16, p.fontMetrics().height() + 4), c.answer);
      p.setPen(c.answer_ink);
    } else {
      p.setPen(c.ink);
    }
    p.drawText(QRectF(value_left, band.top(), why_left - value_left, row), Qt::AlignVCenter | Qt::AlignLeft, text(lines[i].value));
    p.setPen(c.ink);
    p.setFont(words(10));
    p.drawText(QRectF(why_left, band.top(), width() - why_left - 16, row), Qt::AlignVCenter | Qt::AlignLeft | Qt::TextWordWrap,
               text(lines[i].why));
  }
}

SetStage::SetStage(Desk& desk, QWidget* parent) : Stage(desk, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(26, 22, 26, 14);
  rows->setSpacing(8);
  sentence_ = new Sentence(this);
  sentence_->add("My timer is the");
  timer_ = sentence_->add_slot("timer");
  QStringList names;
  for (const plan::Timer& t : plan::shipped_timers()) names << QString::fromStdString(t.name);
  timer_->set_choices(names);
  sentence_->add(". It counts the");
  counts_ = sentence_->add_slot("what the timer counts");
  counts_->setEnabled(false);
  sentence_->add(".");
  rows->addWidget(sentence_);
  rows->addWidget(make_heading("Tell it this, from the top", this));
  rows->addWidget(new ProgramCard(desk, this), 1);
  rows->addSpacing(10);
  rows->addWidget(make_heading("What it then does", this));
  shot_ = new ShotBar(this);
  rows->addWidget(shot_);
  connect(timer_, &SlotField::committed, this, [this](const QString& name) {
    desk_.edit([&](take::Take& t) { t.timer = name.toStdString(); });
  });
  connect(timer_, &SlotField::nudged, this, [this, names](int steps) {
    const qsizetype n = names.size();
    const qsizetype at = ((names.indexOf(timer_->text()) - steps) % n + n) % n;
    desk_.edit([&](take::Take& t) { t.timer = names[at].toStdString(); });
  });
  connect(&desk, &Desk::changed, this, &SetStage::refresh);
  refresh();
}

void SetStage::refresh() {
  const plan::Timer& model = desk_.take().timer_model();
  timer_->set(QString::fromStdString(model.name), SlotField::Kind::Plain);
  counts_->set(model.counts == timer::Counts::Interval ? "interval" : "gap", SlotField::Kind::Answer);
  sentence_->reflow();
  if (!desk_.sums()) return;
  const timer::Program p = desk_.take().program();
  shot_->set(p.interval_s - p.gap_s, desk_.take().body().writing_s, p.interval_s);
}

Findings SetStage::findings() const {
  if (!desk_.sums()) return {};
  Findings list = timer::judge(desk_.take().program(), *desk_.sums());
  list.push_back({"edges", Severity::Warning, "Walk the place in daylight",
                  "Know where the edge of the quay is before it gets dark, and what the tide does. Keep to what is allowed "
                  "there.",
                  "", {}});
  return list;
}

QString SetStage::foot() const {
  const plan::Timer& m = desk_.take().timer_model();
  return QString("Steps of %1, %2").arg(QString::fromStdString(format_length(m.smallest_step_s)),
                                        m.max_count > 0 ? QString("at most %1 shots").arg(QString::fromStdString(format_count(m.max_count)))
                                                        : QString("endless"));
}

}  // namespace askcount::app
