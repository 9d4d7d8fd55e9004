// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/book/hand_dialog.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/stages/where_slots.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/frame_rate.h"
#include "base/units.h"
#include "book/told.h"

namespace askcount::app {

HandDialog::HandDialog(const Session& session, QWidget* parent) : QDialog(parent), session_(session) {
  setObjectName("by hand");
  setWindowTitle(say_q("A take entered by hand"));
  auto* down = new QVBoxLayout(this);
  auto* form = new QFormLayout;
  down->addLayout(form);
  name_ = line("name", say_q("Name"), say_q("Fog bank"));
  subject_ = line("subject", say_q("Subject"), say_q("fog"));
  place_ = line("place", say_q("Place"), "Gannet Head");
  start_ = line("start", say_q("First shot"), shown_moment(now(), session.document.take().place.zone));
  frames_ = line("frames", say_q("Frames"), to_q(format_count(300)));
  interval_ = line("interval", say_q("Interval"), to_q(format_length(5, 0)));
  fps_ = line("fps", say_q("Frame rate of the film"), to_q(format_number(25, 0)));
  for (QLineEdit* edit : {name_, subject_, place_, start_, frames_, interval_, fps_})
    form->addRow(edit->accessibleName(), edit);
  said_ = new QLabel(this);
  said_->setObjectName("refused");
  said_->setWordWrap(true);
  QPalette stop = said_->palette();
  stop.setColor(QPalette::WindowText, colours().stop);
  said_->setPalette(stop);
  said_->setMinimumHeight(2 * QFontMetrics(said_->font()).lineSpacing());
  down->addWidget(said_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel, this);
  buttons->addButton(say_q("Add it to the book"), QDialogButtonBox::AcceptRole);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  down->addWidget(buttons);
  setMinimumWidth(static_cast<int>(440 * type_scale()));
}

QLineEdit* HandDialog::line(const char* name, const QString& label, const QString& like) {
  auto* edit = new QLineEdit(this);
  edit->setObjectName(name);
  edit->setAccessibleName(label);
  edit->setPlaceholderText(like);
  return edit;
}

book::Entry HandDialog::read() {
  book::Told told;
  const auto text = [this](QLineEdit* edit) {
    reading_ = edit;
    return edit->text().trimmed().toStdString();
  };
  told.zone = session_.document.take().place.zone;
  if (const std::string place = text(place_); !place.empty()) {
    const sky::Place at = place_like(place);
    told.place = at.name;
    if (at.located()) {
      told.latitude_deg = at.latitude_deg;
      told.longitude_deg = at.longitude_deg;
      if (!at.zone.empty()) told.zone = at.zone;
    }
  }
  told.subject = text(subject_);
  if (const std::string start = text(start_); !start.empty())
    told.start = read_start(start_->text().trimmed(), now(), told.zone);
  if (const std::string n = text(frames_); !n.empty()) told.frames = parse_count(n, "frames");
  if (const std::string s = text(interval_); !s.empty()) told.interval_s = parse_length(s, "the interval");
  if (const std::string n = text(fps_); !n.empty()) told.fps = parse_frame_rate(n, "the frame rate").value();
  told.name = text(name_);
  return book::entry_by_hand(told);
}

void HandDialog::accept() {
  try {
    entry_ = read();
    QDialog::accept();
  } catch (const Error& e) {
    said_->setText(QString::fromUtf8(e.what()));
    reading_->setFocus();
    reading_->selectAll();
  }
}

}  // namespace askcount::app

#include "moc_hand_dialog.cpp"
