// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/slot_wiring.h"

#include <QEvent>

#include "app/style/text.h"
#include "base/error.h"
#include "base/units.h"

namespace askcount::app {

WhenSeen::WhenSeen(QWidget* pane, std::function<void()> refresh)
    : QObject(pane), pane_(pane), refresh_(std::move(refresh)) {
  pane->installEventFilter(this);
}

void WhenSeen::heard() {
  if (pane_->isVisible()) refresh_();
}

bool WhenSeen::eventFilter(QObject*, QEvent* event) {
  if (event->type() == QEvent::Show) refresh_();
  if (event->type() == QEvent::PaletteChange) heard();  // texts carry colours
  return false;
}

WhenSeen& refresh_when_seen(QWidget* pane, std::function<void()> refresh) {
  return *new WhenSeen(pane, std::move(refresh));
}

void wire(Session& session, Sentence* sentence, SlotField* slot,
          std::function<void(take::Take&, const std::string&)> set,
          std::function<void(take::Take&, int)> nudge) {
  const auto guarded = [&session, sentence](const std::function<void(take::Take&)>& change) {
    try {
      session.document.edit(change);
      sentence->complain({});
    } catch (const Error& e) {
      sentence->complain(QString::fromUtf8(e.what()));
    }
  };
  QObject::connect(slot, &SlotField::committed, sentence, [guarded, set](const QString& text) {
    guarded([&](take::Take& t) { set(t, text.toStdString()); });
  });
  if (nudge)
    QObject::connect(slot, &SlotField::nudged, sentence,
                     [guarded, nudge](int steps) { guarded([&](take::Take& t) { nudge(t, steps); }); });
}

void wire_words(SlotField* slot, const QStringList& words, std::function<void(int)> set) {
  slot->set_choices(words);
  QObject::connect(slot, &SlotField::committed, slot, [set, words](const QString& word) {
    if (const auto at = words.indexOf(word); at >= 0) set(static_cast<int>(at));
  });
  QObject::connect(slot, &SlotField::nudged, slot, [set, words, slot](int steps) {
    const auto n = words.size();
    set(static_cast<int>(((words.indexOf(slot->text()) - steps) % n + n) % n));
  });
}

void wire_choice(Session& session, SlotField* slot, const QStringList& words,
                 std::function<void(take::Take&, int)> set) {
  wire_words(slot, words,
             [&session, set](int index) { session.document.edit([&](take::Take& t) { set(t, index); }); });
}

}  // namespace askcount::app
