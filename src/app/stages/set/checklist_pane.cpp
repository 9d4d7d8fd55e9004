// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/set/checklist_pane.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QLabel>

#include "advice/checklist.h"
#include "app/stages/slot_wiring.h"
#include "app/stages/stage.h"
#include "app/style/style.h"

namespace askcount::app {

ChecklistPane::ChecklistPane(Session& session, QWidget* parent) : QScrollArea(parent), session_(session) {
  setObjectName("checklist");
  setWidgetResizable(true);
  setFrameShape(QFrame::NoFrame);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  viewport()->setAutoFillBackground(false);
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void ChecklistPane::refresh() {
  const take::Take& t = session_.document.take();
  const auto items = advice::checklist_of(t);
  QString key = QString::number(static_cast<int>(current_lighting()));
  for (const advice::CheckItem& i : items)
    key += to_q(i.what) + to_q(i.why) +
           (t.ticks.contains(i.code) ? to_q(format_clock(t.ticks.at(i.code), t.place.zone, true)) : "-");
  if (key == shown_) return;
  shown_ = key;
  const QWidget* focused = widget() ? widget()->focusWidget() : nullptr;
  const QString had = focused && focused->hasFocus() ? focused->objectName() : QString();
  auto* list = new QWidget;
  list->setAutoFillBackground(false);
  auto* grid = new QGridLayout(list);
  grid->setContentsMargins(0, 6, 10, 6);
  grid->setHorizontalSpacing(16);
  grid->setVerticalSpacing(4);
  grid->setColumnStretch(1, 1);
  int row = 0;
  std::string group;
  for (const advice::CheckItem& i : items) {
    if (i.group != group) grid->addWidget(make_heading(to_q(i.group), list), row++, 0, 1, 3);
    group = i.group;
    auto* box = new QCheckBox(to_q(i.what), list);
    box->setObjectName("check " + to_q(i.code));
    box->setFont(word_font(10.5, QFont::DemiBold));
    box->setChecked(t.ticks.contains(i.code));
    connect(box, &QCheckBox::toggled, this, [this, code = i.code](bool on) {
      // The list is built anew by the edit: leave the box's own signal first.
      QMetaObject::invokeMethod(
          this,
          [this, code, on] {
            session_.document.edit([&](take::Take& take) {
              if (on)
                take.ticks[code] = now();
              else
                take.ticks.erase(code);
            });
          },
          Qt::QueuedConnection);
    });
    auto* why = new QLabel(to_q(i.why), list);
    why->setWordWrap(true);
    why->setFont(word_font(9.5));
    why->setForegroundRole(QPalette::PlaceholderText);
    auto* when = new QLabel(
        t.ticks.contains(i.code) ? to_q(format_clock(t.ticks.at(i.code), t.place.zone)) : QString(), list);
    when->setFont(figure_font(9));
    grid->addWidget(box, row, 0);
    grid->addWidget(why, row, 1);
    grid->addWidget(when, row++, 2);
  }
  grid->setRowStretch(row, 1);
  setWidget(list);
  list->setAutoFillBackground(false);
  if (!had.isEmpty())
    if (QWidget* w = list->findChild<QWidget*>(had)) w->setFocus();
}

}  // namespace askcount::app
