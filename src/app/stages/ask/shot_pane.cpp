// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/ask/shot_pane.h"

#include <algorithm>
#include <filesystem>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/language.h"
#include "base/number.h"
#include "base/units.h"
#include "forecast/shoot.h"

namespace askcount::app {
namespace {

QStringList dark_words() {
  return {say_q("off"), say_q("on")};
}
QStringList file_words() {
  return {say_q("raw"), say_q("compressed"), say_q("raw and compressed")};
}
QStringList card_words() {
  return {say_q("in turn"), say_q("both the same"), say_q("raw and compressed apart")};
}
QStringList power_words() {
  return {say_q("batteries"), say_q("outside")};
}
QStringList lamp_words() {
  return {say_q("no lamp"), say_q("the kit's lamps")};
}

}  // namespace

ShotPane::ShotPane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 8, 0, 0);
  rows->setSpacing(4);
  sentence_ = new Sentence(this, 12);
  add_shot();
  sentence_->add_break();
  add_outing();
  add_slider();
  rows->addWidget(sentence_);
  bar_ = new ShotBar(this);
  rows->addWidget(bar_);
  swaps_ = new QLabel(this);
  swaps_->setObjectName("swap plan");
  swaps_->setWordWrap(true);
  swaps_->setFont(word_font(9.5));
  rows->addWidget(swaps_);
  rows->addStretch();
  wire_choices();
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void ShotPane::add_shot() {
  const auto plain = [](double v) { return to_q(format_number(v, 1)); };
  const auto seconds = [](double v) { return v == 0 ? say_q("no time") : to_q(format_length(v)); };
  using take::Take;
  sentence_->add(say_q("Each shot is"));
  number({say_q("exposures a shot"), [](const Take& t) { return t.shot.brackets; },
          [](Take& t, double v) {
            t.shot.brackets = static_cast<int>(v);
            if (v > 1 && t.shot.bracket_stops <= 0) t.shot.bracket_stops = 2;
          },
          1, 1, 9,
          [](double v) { return to_q(counted(static_cast<long long>(v), "{} exposure", "{} exposures")); }});
  sentence_->add(",");
  number({say_q("stops between exposures"), [](const Take& t) { return t.shot.bracket_stops; },
          [](Take& t, double v) { t.shot.bracket_stops = v; }, 1.0 / 3, 0, 5,
          [plain](double v) { return plain(v) + say_q(" stops"); }});
  sentence_->add(say_q("apart. Long-exposure noise reduction is"));
  dark_ = sentence_->add_slot(say_q("long-exposure noise reduction"));
  sentence_->add(say_q(". The camera keeps"));
  files_ = sentence_->add_slot(say_q("files kept"));
  sentence_->add(say_q("files, with cards filled"));
  cards_ = sentence_->add_slot(say_q("how cards are filled"));
  sentence_->add(say_q(". Hands need"));
  number({say_q("time at the dials"), [](const Take& t) { return t.shot.turning_s; },
          [](Take& t, double v) { t.shot.turning_s = v; }, 0.5, 0, 60, seconds});
  sentence_->add(say_q("at the dials, the timer locks the camera for"));
  number({say_q("timer lock"), [](const Take& t) { return t.shot.lock_s; },
          [](Take& t, double v) { t.shot.lock_s = v; }, 0.5, 0, 60, seconds});
  sentence_->add(say_q(". At each end"));
  number({say_q("spare shots"), [](const Take& t) { return static_cast<double>(t.spare); },
          [](Take& t, double v) { t.spare = static_cast<long long>(v); }, 5, 0, 100000,
          [](double v) {
            return v == 0 ? say_q("no spare shot") : counted_q(v, "{} spare shot", "{} spare shots");
          }});
  sentence_->add(say_q("; it is shot"));
  work_ = sentence_->add_slot(say_q("hours of work"));
  sentence_->add(".");
}

void ShotPane::add_outing() {
  const auto plain = [](double v) { return to_q(format_number(v, 1)); };
  using take::Take;
  sentence_->add(say_q("It is"));
  number({say_q("temperature"), [](const Take& t) { return t.temperature_c; },
          [](Take& t, double v) { t.temperature_c = v; }, 1, -60, 60,
          [plain](double v) { return plain(v) + " °C"; }});
  sentence_->add(say_q("out there. Power comes from"));
  power_ = sentence_->add_slot(say_q("power"));
  sentence_->add(say_q(", light from"));
  lamp_ = sentence_->add_slot(say_q("lamp"));
  sentence_->add(say_q(", and the disk at home has"));
  number({say_q("disk at home"), [](const Take& t) { return t.disk_free_gb; },
          [](Take& t, double v) { t.disk_free_gb = v; }, 50, 0, 1e6,
          [](double v) { return v == 0 ? say_q("unknown space") : to_q(format_number(v, 0)) + " GB"; }});
}

void ShotPane::add_slider() {
  const auto plain = [](double v) { return to_q(format_number(v, 1)); };
  using take::Take;
  sentence_->add(say_q("free. A slider goes"));
  number({say_q("slider's travel"), [](const Take& t) { return t.slider.travel_m; },
          [](Take& t, double v) { t.slider.travel_m = std::round(v * 100) / 100; }, 0.1, 0, 100,
          [](double v) { return v == 0 ? say_q("nowhere") : to_q(format_number(v, 2)) + " m"; }});
  sentence_->add(say_q("past things"));
  number({say_q("nearest thing"), [](const Take& t) { return t.slider.nearest_m; },
          [](Take& t, double v) { t.slider.nearest_m = std::max(0.1, v); }, 0.5, 0.1, 1e6,
          [plain](double v) { return plain(v) + " m"; }});
  sentence_->add(say_q("off and settles in"));
  number({say_q("settling"), [](const Take& t) { return t.slider.settling_s; },
          [](Take& t, double v) { t.slider.settling_s = v; }, 0.1, 0, 60,
          [plain](double v) { return plain(v) + " s"; }});
  sentence_->add(".");
}

void ShotPane::wire_choices() {
  using take::Take;
  wire_choice(session_, dark_, dark_words(), [](Take& t, int i) { t.shot.dark_frames = i == 1; });
  wire_choice(session_, files_, file_words(),
              [](Take& t, int i) { t.shot.raw = i != 1, t.shot.compressed = i != 0; });
  wire_choice(session_, cards_, card_words(), [](Take& t, int i) {
    t.shot.cards = static_cast<plan::CardUse>(i);
    if (i == 2) t.shot.raw = t.shot.compressed = true;
  });
  wire_choice(session_, power_, power_words(), [](Take& t, int i) { t.external_power = i == 1; });
  wire(session_, sentence_, work_, [](Take& t, const std::string& text) { t.work = plan::parse_work(text); });
  wire_choice(session_, lamp_, lamp_words(), [](Take& t, int i) { t.lamp = i == 1; });
}

SlotField* ShotPane::number(const Number& n) {
  SlotField* slot = sentence_->add_slot(n.name);
  numbers_[slot] = n;
  wire(
      session_, sentence_, slot,
      [n](take::Take& t, const std::string& text) {
        const double v = parse_number(text, n.low, n.high, n.name.toStdString());
        n.set(t, n.step >= 1 && n.low >= 0 ? std::round(v) : v);
      },
      [n](take::Take& t, int by) { n.set(t, std::clamp(n.get(t) + by * n.step, n.low, n.high)); });
  return slot;
}

void ShotPane::refresh() {
  using Kind = SlotField::Kind;
  const take::Take& t = session_.document.take();
  for (const auto& [slot, n] : numbers_) slot->set(n.words(n.get(t)), Kind::Plain);
  dark_->set(dark_words()[t.shot.dark_frames], Kind::Plain);
  files_->set(file_words()[t.shot.raw && t.shot.compressed ? 2 : t.shot.raw ? 0 : 1], Kind::Plain);
  cards_->set(card_words()[static_cast<int>(t.shot.cards)], Kind::Plain);
  power_->set(power_words()[t.external_power], Kind::Plain);
  lamp_->set(lamp_words()[t.lamp], Kind::Plain);
  work_->set(to_q(plan::work_words(t.work)), Kind::Plain, to_q(plan::work_text(t.work)));
  sentence_->reflow();
  bar_->setVisible(session_.document.sums().has_value());
  if (!session_.document.sums()) return swaps_->clear();
  const plan::Sums& s = *session_.document.sums();
  const plan::ShotCycle cycle = forecast::cycle_of(
      t, session_.document.exposure()->offered ? session_.document.exposure()->longest_s : s.shutter_s);
  bar_->set(cycle.open_s, cycle.shortest_interval_s() - cycle.open_s, s.interval_s);
  QStringList lines;
  for (const plan::Swap& w : forecast::swaps_of(t, s)) {
    if (lines.size() >= 4) break;
    const QString what = w.what == "timer" ? say_q("start the timer again")
                         : w.to.empty()    ? say_q("the last ") + to_q(w.what) + say_q(" ends")
                                           : say_q("change ") + to_q(w.from) + say_q(" for ") + to_q(w.to);
    lines << say_q("Frame %1, %2: %3")
                 .arg(to_q(format_count(w.at_frame)),
                      to_q(format_clock(later(t.start, w.after_s), t.place.zone)), what);
  }
  swaps_->setText(lines.isEmpty() ? say_q("Nothing has to be changed on the way.")
                                  : say_q("On the way: ") + lines.join(";  ") + ".");
}

}  // namespace askcount::app
