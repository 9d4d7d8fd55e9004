// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/screen_reader.h"

#include <QAbstractScrollArea>
#include <QAccessible>
#include <QAccessibleWidget>

#include "app/shell/stage_bar.h"
#include "app/widgets/sentence.h"

namespace askcount::app {
namespace {

class SpokenSlot : public QAccessibleWidget {
 public:
  explicit SpokenSlot(SlotField* slot)
      : QAccessibleWidget(slot, QAccessible::EditableText, slot->accessibleName()) {}
  QString text(QAccessible::Text what) const override {
    const auto* slot = static_cast<const SlotField*>(widget());
    if (what == QAccessible::Value) return slot->text();
    return what == QAccessible::Help ? slot->toolTip() : QAccessibleWidget::text(what);
  }
};

class SpokenStages : public QAccessibleWidget {
 public:
  explicit SpokenStages(StageBar* bar)
      : QAccessibleWidget(bar, QAccessible::PageTabList, bar->accessibleName()) {}
  QString text(QAccessible::Text what) const override {
    return what == QAccessible::Value ? static_cast<const StageBar*>(widget())->current_words()
                                      : QAccessibleWidget::text(what);
  }
};

/// Asked for the class of an object first, then for those it is made from.
QAccessibleInterface* spoken(const QString& key, QObject* object) {
  auto* widget = qobject_cast<QWidget*>(object);
  if (!widget || !key.startsWith("askcount::app::") || key != widget->metaObject()->className())
    return nullptr;
  if (auto* slot = qobject_cast<SlotField*>(widget)) return new SpokenSlot(slot);
  if (auto* bar = qobject_cast<StageBar*>(widget)) return new SpokenStages(bar);
  if (widget->accessibleName().isEmpty()) return nullptr;
  const QMetaObject* made_from = widget->metaObject()->superClass();
  if (made_from == &QWidget::staticMetaObject) return new QAccessibleWidget(widget, QAccessible::Graphic);
  if (made_from == &QAbstractScrollArea::staticMetaObject)
    return new QAccessibleWidget(widget, QAccessible::List);
  return nullptr;
}

}  // namespace

void tell_screen_readers() {
  static const bool once = [] {
    QAccessible::installFactory(spoken);
    return true;
  }();
  static_cast<void>(once);
}

}  // namespace askcount::app
