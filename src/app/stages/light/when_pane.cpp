// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/light/when_pane.h"

#include <QHBoxLayout>
#include <QLabel>

#include "app/stages/slot_wiring.h"
#include "app/stages/stage.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/press_button.h"
#include "base/units.h"
#include "sky/windows.h"

namespace askcount::app {
namespace {

constexpr size_t kNights = 4;
constexpr double kLongest_s = 30 * 86400.0;  // takes for which a day has windows

}  // namespace

WhenPane::WhenPane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("when");
  auto* across = new QHBoxLayout(this);
  across->setContentsMargins(0, 8, 0, 0);
  across->setSpacing(24);
  const auto column = [&](const QString& heading, int stretch) {
    auto* down = new QVBoxLayout;
    down->setSpacing(3);
    down->addWidget(make_heading(heading, this));
    auto* list = new QVBoxLayout;
    list->setSpacing(5);
    down->addLayout(list);
    down->addStretch();
    across->addLayout(down, stretch);
    return list;
  };
  windows_ = column(say_q("This evening, night and morning"), 5);
  nights_ = column(say_q("Best nights for the galaxy in the coming month"), 4);
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void WhenPane::row(QVBoxLayout* into, const advice::Suggestion& suggestion, const QString& press) {
  auto* line = new QWidget(this);
  auto* across = new QHBoxLayout(line);
  across->setContentsMargins(0, 0, 0, 0);
  auto* label = new QLabel(
      QString("<b>%1.</b> %2").arg(to_q(suggestion.title), to_q(suggestion.text).toHtmlEscaped()), line);
  label->setWordWrap(true);
  label->setFont(word_font(9.5));
  label->setTextFormat(Qt::RichText);
  across->addWidget(label, 1);
  if (!press.isEmpty()) {
    auto* button = new PressButton(press, false, line);
    connect(button, &QPushButton::clicked, this, [this, start = *suggestion.start] {
      session_.document.edit([start](take::Take& t) { take::start_at(t, start); });
    });
    across->addWidget(button, 0, Qt::AlignTop);
  }
  into->addWidget(line);
}

void WhenPane::refresh() {
  const auto& sums = session_.document.sums();
  if (!sums || sums->field_s > kLongest_s) return;
  const take::Take& t = session_.document.take();
  if (!t.knows_sky()) {
    asked_ = {};
    show({{say("Where and when?"), say("Set place and day above to see the windows of that night."), {}}}, {},
         "UTC");
    return;
  }
  // Only place, evening and field time matter here.
  const Key key{t.place, advice::evening_of(t), sums->field_s};
  if (key == asked_) return;
  asked_ = key;
  job_.disown();
  struct Found {
    std::vector<advice::Suggestion> windows, nights;
  };
  const auto found = std::make_shared<Found>();
  job_.start({say_q("Looking for windows"),
              [found, t](const Work&) {
                *found = {advice::windows_for(t), advice::nights_for(t, kNights)};
              },
              [this, found, zone = t.place.zone] { show(found->windows, found->nights, zone); },
              [this, key] { return key == asked_; }});
}

void WhenPane::show(const std::vector<advice::Suggestion>& windows,
                    const std::vector<advice::Suggestion>& nights, const std::string& zone) {
  for (QVBoxLayout* list : {windows_, nights_})
    while (QLayoutItem* item = list->takeAt(0)) {
      item->widget()->hide();
      item->widget()->deleteLater();
      delete item;
    }
  for (const advice::Suggestion& s : windows)
    row(windows_, s, s.start ? say_q("Start ") + to_q(format_clock(*s.start, zone)) : QString());
  for (const advice::Suggestion& s : nights) row(nights_, s, s.start ? say_q("Take it") : QString());
}

}  // namespace askcount::app
