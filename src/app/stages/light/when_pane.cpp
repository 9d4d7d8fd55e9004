#include "app/stages/light/when_pane.h"

#include <QHBoxLayout>
#include <QLabel>

#include "app/look/look.h"
#include "app/stages/stage.h"
#include "app/widgets/press_button.h"
#include "app/widgets/slot_wiring.h"
#include "base/units.h"
#include "sky/windows.h"

namespace askcount::app {
namespace {

constexpr int kDays = 30;
constexpr size_t kNights = 4;

}  // namespace

WhenPane::WhenPane(Desk& desk, QWidget* parent) : QWidget(parent), desk_(desk) {
  setObjectName("when");
  auto* across = new QHBoxLayout(this);
  across->setContentsMargins(0, 8, 0, 0);
  across->setSpacing(24);
  const auto column = [&](const char* heading, int stretch) {
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
  windows_ = column("This evening, night and morning", 5);
  nights_ = column("Best nights for the galaxy in the coming month", 4);
  refresh_when_seen(desk, this, [this] { refresh(); });
  refresh();
}

void WhenPane::row(QVBoxLayout* into, const QString& title, const QString& text, Instant start,
                   const QString& press) {
  auto* line = new QWidget(this);
  auto* across = new QHBoxLayout(line);
  across->setContentsMargins(0, 0, 0, 0);
  auto* label = new QLabel(QString("<b>%1.</b> %2").arg(title, text.toHtmlEscaped()), line);
  label->setWordWrap(true);
  label->setFont(words(9.5));
  label->setTextFormat(Qt::RichText);
  across->addWidget(label, 1);
  if (!press.isEmpty()) {
    auto* button = new PressButton(press, false, line);
    connect(button, &QPushButton::clicked, this,
            [this, start] { desk_.edit([start](take::Take& t) { take::start_at(t, start); }); });
    across->addWidget(button, 0, Qt::AlignTop);
  }
  into->addWidget(line);
}

void WhenPane::refresh() {
  if (!desk_.sums() || desk_.sums()->field_s > 30 * 86400.0) return;
  const take::Take& t = desk_.take();
  const Day day =
      day_of(t.start - std::chrono::hours(wall_time(t.start, t.place.zone).hour < 11 ? 12 : 0), t.place.zone);
  // Only place, evening and field time matter here.
  const QString key = QString("%1 %2 %3 %4 %5")
                          .arg(t.place.latitude_deg)
                          .arg(t.place.longitude_deg)
                          .arg(to_q(t.place.zone), to_q(format_day(day)))
                          .arg(desk_.sums()->field_s);
  if (key == shown_) return;
  shown_ = key;
  for (QVBoxLayout* list : {windows_, nights_})
    while (QLayoutItem* item = list->takeAt(0)) {
      item->widget()->hide();
      item->widget()->deleteLater();
      delete item;
    }
  std::vector<std::string> missing;
  for (const sky::Window& w : sky::windows_of(day, t.place, desk_.sums()->field_s, &missing)) {
    QString name = to_q(w.kind);
    name[0] = name[0].toUpper();
    const Instant end = later(w.start, desk_.sums()->field_s);
    const auto sky = sky::ephemeris_for(w.start, end);
    QString text = to_q(w.reason) + QString(" First frame: %1; last, at %2: %3.")
                                        .arg(to_q(sky::look_words(*sky, w.start, t.place)),
                                             to_q(format_clock(end, t.place.zone)),
                                             to_q(sky::look_words(*sky, end, t.place)));
    if (!w.fits)
      text +=
          QString(" Your %1 are longer than this window.").arg(to_q(format_length(desk_.sums()->field_s)));
    else if (w.kind == "day into night" && end < w.to - std::chrono::minutes(5))
      text += QString(" It ends before the blue light is gone: all of it takes %1.")
                  .arg(to_q(format_length(std::round(seconds_between(w.start, w.to) / 60) * 60)));
    row(windows_, name, text, w.start, "Start " + to_q(format_clock(w.start, t.place.zone)));
  }
  for (const std::string& why : missing) row(windows_, "Not tonight", to_q(why), {}, {});
  const auto nights = sky::best_nights(day, kDays, t.place);
  for (size_t i = 0; i < nights.size() && i < kNights; ++i) {
    const sky::Night& n = nights[i];
    row(nights_, to_q(day_words(n.day)),
        QString("%1 of darkness with the core up, from %2; moon %3 lit.")
            .arg(to_q(format_length(std::round(n.dark_s / 60) * 60)),
                 to_q(format_clock(n.from, t.place.zone)), to_q(format_number(n.moon_lit * 100, 0)) + " %"),
        n.from, "Take it");
  }
  if (nights.empty())
    row(nights_, "None", "In the coming month it is never dark here with the moon down and the core 10° up.",
        {}, {});
}

}  // namespace askcount::app
