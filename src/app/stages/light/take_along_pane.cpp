// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/light/take_along_pane.h"

#include <QFileDialog>
#include <QGridLayout>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/press_button.h"
#include "base/error.h"
#include "base/files.h"
#include "paper/calendar.h"
#include "paper/cards.h"
#include "paper/light_strip.h"

namespace askcount::app {

TakeAlongPane::TakeAlongPane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 10, 0, 0);
  auto* grid = new QGridLayout;
  grid->setHorizontalSpacing(16);
  grid->setVerticalSpacing(7);
  grid->setColumnStretch(1, 1);
  int row = 0;
  const auto entry = [&](const QString& name, const QString& ending, const QString& what,
                         std::function<void(const std::filesystem::path&)> how) {
    auto* button = new PressButton(name, false, this);
    connect(button, &QPushButton::clicked, this,
            [=, this] { write(name.toLower().remove("…"), ending, how); });
    auto* label = new QLabel(what, this);
    label->setFont(word_font(9.5));
    label->setForegroundRole(QPalette::PlaceholderText);
    grid->addWidget(button, row, 0);
    grid->addWidget(label, row++, 1);
  };
  const auto ramp = [this]() -> const ramp::Ramp& {
    if (!session_.document.ramp())
      throw bad_input(say("There is no ramp yet."), say("Say on Ask what you want."));
    return *session_.document.ramp();
  };
  entry(say_q("Plan…"), ".pdf",
        say_q("One page: the count, the timer's program, the light, what runs out, and care."),
        [this](const auto& f) { paper::write_plan_sheet(session_.document.take(), f); });
  entry(say_q("Cue card…"), ".pdf",
        say_q("One page: every click by clock and frame, large enough for a dim red lamp."),
        [this, ramp](const auto& f) { paper::write_cue_card(session_.document.take(), ramp(), f); });
  entry(say_q("Timer card…"), ".pdf",
        say_q("One page: the five settings in the timer's own words, and the checklist."),
        [this](const auto& f) { paper::write_timer_card(session_.document.take(), f); });
  entry(say_q("Clicks…"), ".csv", say_q("The ramp as a table."), [this, ramp](const auto& f) {
    write_file_atomically({f, FileKind::Table}, paper::ramp_csv(session_.document.take(), ramp()));
  });
  entry(say_q("Calendar entry…"), ".ics",
        say_q("The window with alarms: the day before, setting out, ten minutes to go, every change."),
        [this](const auto& f) { paper::write_calendar(session_.document.take(), f); });
  entry(say_q("The day's light…"), ".png",
        say_q("Noon to noon as a picture: the sky's colour, the EV, the take."),
        [this](const auto& f) { paper::write_light_strip(session_.document.take(), 1440, f); });
  rows->addLayout(grid);
  said_ = new QLabel(this);
  said_->setObjectName("along said");
  said_->setFont(word_font(9.5));
  said_->setWordWrap(true);
  rows->addWidget(said_);
  rows->addStretch();
}

void TakeAlongPane::write(const QString& what, const QString& ending,
                          const std::function<void(const std::filesystem::path&)>& how) {
  const QString folder = session_.document.file().empty()
                             ? QString()
                             : to_q(session_.document.file().parent_path().string()) + "/";
  QString file = QFileDialog::getSaveFileName(
      this, say_q("Write the ") + what, folder + to_q(session_.document.take().name) + " " + what + ending,
      "*" + ending);
  if (file.isEmpty()) return;
  if (!file.endsWith(ending)) file += ending;
  QPalette ink = said_->palette();
  try {
    how(file.toStdString());
    ink.setColor(QPalette::WindowText, colours().ok);
    said_->setText(say_q("Written to ") + file + ".");
  } catch (const Error& e) {
    ink.setColor(QPalette::WindowText, colours().stop);
    said_->setText(QString::fromUtf8(e.what()));
  }
  said_->setPalette(ink);
}

}  // namespace askcount::app
