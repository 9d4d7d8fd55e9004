#include "app/stages/set/checklist_pane.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QLabel>

#include "app/look/look.h"
#include "app/stages/stage.h"
#include "app/widgets/slot_wiring.h"
#include "take/checklist.h"

namespace askcount::app {

ChecklistPane::ChecklistPane(Desk& desk, QWidget* parent) : QScrollArea(parent), desk_(desk) {
  setObjectName("checklist");
  setWidgetResizable(true);
  setFrameShape(QFrame::NoFrame);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  viewport()->setAutoFillBackground(false);
  refresh_when_seen(desk, this, [this] { refresh(); });
  refresh();
}

void ChecklistPane::refresh() {
  const take::Take& t = desk_.take();
  const auto items = take::checklist_of(t);
  QString key = QString::number(static_cast<int>(current_light()));
  for (const take::CheckItem& i : items)
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
  for (const take::CheckItem& i : items) {
    if (i.group != group) grid->addWidget(make_heading(to_q(i.group), list), row++, 0, 1, 3);
    group = i.group;
    auto* box = new QCheckBox(to_q(i.what), list);
    box->setObjectName("check " + to_q(i.code));
    box->setFont(words(10.5, QFont::DemiBold));
    box->setChecked(t.ticks.contains(i.code));
    connect(box, &QCheckBox::toggled, this, [this, code = i.code](bool on) {
      // The list is built anew by the edit: leave the box's own signal first.
      QMetaObject::invokeMethod(
          this,
          [this, code, on] {
            desk_.edit([&](take::Take& take) {
              if (on)
                take.ticks[code] =
                    std::chrono::floor<std::chrono::milliseconds>(std::chrono::system_clock::now());
              else
                take.ticks.erase(code);
            });
          },
          Qt::QueuedConnection);
    });
    auto* why = new QLabel(to_q(i.why), list);
    why->setWordWrap(true);
    why->setFont(words(9.5));
    why->setForegroundRole(QPalette::PlaceholderText);
    auto* when = new QLabel(
        t.ticks.contains(i.code) ? to_q(format_clock(t.ticks.at(i.code), t.place.zone)) : QString(), list);
    when->setFont(figures(9));
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
