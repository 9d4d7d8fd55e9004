// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/cut/queue_pane.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/press_button.h"

namespace askcount::app {

/// How far the batch at work is, in a bar and in words.
class QueuePane::Bar : public QWidget {
 public:
  Bar(FilmQueue& queue, QWidget* parent) : QWidget(parent), queue_(queue) {
    setObjectName("pace");
    setMinimumWidth(220);
    setFixedHeight(22);
    connect(&queue, &FilmQueue::progressed, this, qOverload<>(&QWidget::update));
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    const Colours& c = colours();
    const Job& job = queue_.job();
    const QRectF all(0, height() - 6, width(), 5);
    p.fillRect(all, c.card);
    if (job.total() > 0)
      p.fillRect(
          QRectF(all.left(), all.top(),
                 all.width() * static_cast<double>(job.done_count()) / static_cast<double>(job.total()),
                 all.height()),
          c.film_fill);
    p.setFont(word_font(9));
    p.setPen(c.ink);
    QString words = say_q("%1 of %2 frames").arg(job.done_count()).arg(job.total());
    if (queue_.paused())
      words += say_q(", paused");
    else if (!job.pace().isEmpty())
      words += ", " + job.pace();
    p.drawText(QRectF(0, 0, width(), height() - 6), Qt::AlignVCenter | Qt::AlignLeft,
               job.total() > 0 ? words : say_q("starting"));
  }

 private:
  FilmQueue& queue_;
};

QueuePane::QueuePane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  rows_ = new QVBoxLayout(this);
  rows_->setContentsMargins(0, 0, 0, 0);
  rows_->setSpacing(4);
  refresh_when_seen(this, [this] { refresh(); }).on(session.films.queue, &FilmQueue::changed);
  connect(&session.films.queue, &FilmQueue::changed, this, &QueuePane::refresh);
  refresh();
}

void QueuePane::refresh() {
  while (QLayoutItem* item = rows_->takeAt(0)) {
    if (item->widget()) {
      item->widget()->hide();
      item->widget()->deleteLater();
    }
    delete item;
  }
  FilmQueue& queue = session_.films.queue;
  bool first = true;
  for (const FilmQueue::Entry& entry : queue.entries()) {
    auto* line = new QWidget(this);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    auto* title = new QLabel(entry.title, line);
    title->setFont(word_font(9.5));
    title->setToolTip(entry.folder);
    row->addWidget(title);
    const auto press = [&](const QString& words, const QString& name, std::function<void()> act) {
      auto* button = new PressButton(words, false, line);
      button->setObjectName(name);
      // The line goes with the press: not before the press is over.
      connect(button, &QPushButton::clicked, this, act, Qt::QueuedConnection);
      row->addWidget(button);
    };
    if (first) {
      row->addWidget(new Bar(queue, line), 1);
      press(queue.paused() ? say_q("Go on") : say_q("Pause"), "pause",
            [&queue] { queue.set_paused(!queue.paused()); });
    } else {
      auto* waits = new QLabel(say_q("waiting"), line);
      waits->setFont(word_font(9));
      row->addWidget(waits, 1);
      if (entry.id != queue.entries()[1].id)
        press(say_q("Move up"), QString("sooner %1").arg(entry.id),
              [&queue, id = entry.id] { queue.earlier(id); });
    }
    press(say_q("Cancel"), first ? QString("cancel") : QString("cancel %1").arg(entry.id),
          [&queue, id = entry.id] { queue.cancel(id); });
    rows_->addWidget(line);
    first = false;
  }
  setVisible(!queue.entries().empty());
}

}  // namespace askcount::app

#include "moc_queue_pane.cpp"
