#include "app/widgets/slot_wiring.h"

#include <QEvent>
#include <QRegularExpression>

#include "base/error.h"
#include "base/units.h"

namespace askcount::app {
namespace {

class WhenSeen : public QObject {
 public:
  WhenSeen(Desk& desk, QWidget* pane, std::function<void()> refresh)
      : QObject(pane), pane_(pane), refresh_(std::move(refresh)) {
    pane->installEventFilter(this);
    connect(&desk, &Desk::changed, this, [this] {
      if (pane_->isVisible()) refresh_();
    });
  }
  bool eventFilter(QObject*, QEvent* event) override {
    if (event->type() == QEvent::Show) refresh_();
    return false;
  }

 private:
  QWidget* pane_;
  std::function<void()> refresh_;
};

}  // namespace

void refresh_when_seen(Desk& desk, QWidget* pane, std::function<void()> refresh) {
  new WhenSeen(desk, pane, std::move(refresh));
}

double number_in(const std::string& text, double low, double high, const std::string& name) {
  static const QRegularExpression digits("[-\u2212]?[0-9]+([.,][0-9]+)?");
  const auto found = digits.match(to_q(text));
  const double v = found.captured().replace(',', '.').replace(QChar(0x2212), '-').toDouble();
  if (!found.hasMatch() || v < low || v > high)
    throw bad_input("For " + name + ", write a number from " + format_number(low, 2) + " to " +
                    format_number(high, 1) + ".");
  return v;
}

void wire(Desk& desk, Sentence* sentence, SlotField* slot,
          std::function<void(take::Take&, const std::string&)> set,
          std::function<void(take::Take&, int)> nudge) {
  const auto guarded = [&desk, sentence](const std::function<void(take::Take&)>& change) {
    try {
      desk.edit(change);
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

void wire_choice(Desk& desk, SlotField* slot, const QStringList& words,
                 std::function<void(take::Take&, int)> set) {
  slot->set_choices(words);
  const auto choose = [&desk, set](int index) { desk.edit([&](take::Take& t) { set(t, index); }); };
  QObject::connect(slot, &SlotField::committed, slot, [choose, words](const QString& word) {
    if (const auto at = words.indexOf(word); at >= 0) choose(static_cast<int>(at));
  });
  QObject::connect(slot, &SlotField::nudged, slot, [choose, words, slot](int steps) {
    const auto n = words.size();
    choose(static_cast<int>(((words.indexOf(slot->text()) - steps) % n + n) % n));
  });
}

}  // namespace askcount::app
