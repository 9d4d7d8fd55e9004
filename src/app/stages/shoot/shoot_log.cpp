// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/shoot/shoot_log.h"

#include <algorithm>
#include <QVBoxLayout>

#include "advice/next_change.h"
#include "app/stages/slot_wiring.h"
#include "app/stages/stage.h"
#include "app/style/style.h"
#include "app/style/text.h"

namespace askcount::app {
namespace {

constexpr size_t kLines = 7;

}  // namespace

ShootLog::ShootLog(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(4);
  rows->addWidget(make_heading(say_q("Changes and notes so far"), this));
  log_ = new QLabel(this);
  log_->setObjectName("shoot log");
  log_->setFont(word_font(9.5));
  log_->setWordWrap(true);
  log_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  log_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Ignored);
  rows->addWidget(log_, 1);
  note_ = new QLineEdit(this);
  note_->setObjectName("note");
  note_->setPlaceholderText(say_q("Note at this frame (N)"));
  note_->setFont(word_font(10));
  rows->addWidget(note_);
  connect(note_, &QLineEdit::returnPressed, this, [this] {
    session_.run.note(std::max(0LL, session_.run.state().frame_at(now())), note_->text());
    note_->clear();
    window()->setFocus();
  });
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.document, &Document::changed)
      .on(session.run, &Run::changed);
  refresh();
}

void ShootLog::refresh() {
  QStringList lines;
  for (const std::string& line :
       advice::log_lines(session_.run.state(), session_.document.take().place.zone, kLines))
    lines << to_q(line);
  const QString text = lines.isEmpty() ? say_q("Nothing yet.") : lines.join('\n');
  if (log_->text() != text) log_->setText(text);
  note_->setEnabled(session_.run.active());
}

}  // namespace askcount::app
