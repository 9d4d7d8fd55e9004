// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/light/rule_pane.h"

#include <algorithm>
#include <cmath>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/dials.h"
#include "base/error.h"
#include "base/language.h"
#include "base/number.h"
#include "base/units.h"
#include "forecast/light.h"

namespace askcount::app {
namespace {

using ramp::Dial;
using take::Take;

QStringList method_words() {
  return {say_q("by hand"), say_q("not at all: fixed"), say_q("by aperture priority")};
}
QStringList order_words() {
  return {say_q("shutter, aperture, ISO"), say_q("shutter, ISO, aperture"), say_q("aperture, shutter, ISO"),
          say_q("ISO, shutter, aperture")};
}
constexpr std::array<Dial, 3> kOrderOf[] = {{Dial::Shutter, Dial::Aperture, Dial::Iso},
                                            {Dial::Shutter, Dial::Iso, Dial::Aperture},
                                            {Dial::Aperture, Dial::Shutter, Dial::Iso},
                                            {Dial::Iso, Dial::Shutter, Dial::Aperture}};

}  // namespace

RulePane::RulePane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 8, 0, 0);
  rows->setSpacing(6);
  make_sentence();
  rows->addWidget(sentence_);
  rows->addSpacing(6);
  for (QLabel*& label : methods_) {
    label = new QLabel(this);
    label->setWordWrap(true);
    label->setFont(word_font(10));
    label->setTextFormat(Qt::RichText);
    rows->addWidget(label);
  }
  rows->addStretch();
  wire_clicks();
  wire_dials();
  wire_rest();
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void RulePane::make_sentence() {
  sentence_ = new Sentence(this, 12);
  const auto slot = [this](const QString& before, const QString& name) {
    sentence_->add(before);
    return sentence_->add_slot(name);
  };
  method_ = slot(say_q("The exposure follows the light"), say_q("method"));
  apart_ = slot(say_q(": one click of a third at a time, at least"), say_q("frames apart"));
  late_ = slot(say_q("apart, or"), say_q("frames apart when late"));
  low_ = slot(say_q("when late, with the meter between"), say_q("lower end of the band"));
  high_ = slot(say_q("and|a band"), say_q("upper end of the band"));
  order_ = slot(say_q("stops. Light comes from"), say_q("order of the dials"));
  longest_ = slot(say_q("in this order: the shutter up to"), say_q("longest shutter"));
  start_f_ = slot(say_q(", the aperture from"), say_q("aperture to start with"));
  widest_ = slot(say_q("to|apertures"), say_q("widest aperture"));
  iso_ = slot(say_q(", and ISO up to"), say_q("highest ISO"));
  turning_ = slot(say_q(". A hand keeps"), say_q("time for the hand"));
  sentence_->add(say_q("of every interval for itself. It begins with"));
  filters_ = sentence_->add_slot(say_q("filter to begin with"));
  night_ = slot(say_q("on, and the night may look"), say_q("how dark the night may look"));
  sentence_->add(say_q("stops darker than the day."));
}

/// Which dial turns when, and by how much.
void RulePane::wire_clicks() {
  wire_choice(session_, method_, method_words(),
              [](Take& t, int i) { t.light.method = static_cast<ramp::Method>(i); });
  wire_choice(session_, order_, order_words(), [](Take& t, int i) { t.light.rule.order = kOrderOf[i]; });
  const auto whole = [&](SlotField* field, const QString& name, std::function<int&(Take&)> of) {
    wire(
        session_, sentence_, field,
        [=](Take& t, const std::string& text) {
          of(t) = static_cast<int>(parse_number(text, 1, 1000, name.toStdString()));
        },
        [=](Take& t, int n) { of(t) = std::clamp(of(t) + n, 1, 1000); });
  };
  whole(apart_, say_q("frames apart"), [](Take& t) -> int& { return t.light.rule.frames_apart; });
  whole(late_, say_q("frames apart when late"),
        [](Take& t) -> int& { return t.light.rule.frames_apart_late; });
  const auto band = [&](SlotField* field, const QString& name, bool upper) {
    const auto set = [upper](Take& t, double v) {
      auto& r = t.light.rule;
      (upper ? r.high_stops : r.low_stops) = std::clamp(v, -6.0, 6.0);
      if (r.high_stops < r.low_stops + 2.0 / 3)
        (upper ? r.low_stops : r.high_stops) = upper ? r.high_stops - 2.0 / 3 : r.low_stops + 2.0 / 3;
    };
    wire(
        session_, sentence_, field,
        [=](Take& t, const std::string& text) { set(t, parse_number(text, -6, 6, name.toStdString())); },
        [=](Take& t, int n) {
          set(t, std::round(((upper ? t.light.rule.high_stops : t.light.rule.low_stops) + n / 3.0) * 3) / 3);
        });
  };
  band(low_, say_q("the band"), false);
  band(high_, say_q("the band"), true);
}

/// How far each dial goes.
void RulePane::wire_dials() {
  wire(
      session_, sentence_, longest_,
      [](Take& t, const std::string& text) {
        t.light.rule.longest_shutter_s = 0;
        t.wish(plan::Slot::Shutter, parse_length(text, say("The longest shutter")));
        t.light.bare = t.light.filters.empty();  // how far it may go is no wish for filters
      },
      [](Take& t, int n) {
        const Seconds now = forecast::rule_of(t).longest_shutter_s;
        t.light.rule.longest_shutter_s = 0;
        t.light.bare = t.light.filters.empty();
        t.wish(plan::Slot::Shutter, std::clamp(now * std::exp2(n / 3.0), 0.01, 3600.0));
      });
  const auto aperture = [](double& f, int n) { f = std::clamp(f * std::exp2(n / 6.0), 0.9, 45.0); };
  wire(
      session_, sentence_, start_f_,
      [](Take& t, const std::string& text) {
        t.light.rule.start_f = exact_f_number(parse_number(text, 0.9, 45, say("the aperture")));
      },
      [aperture](Take& t, int n) { aperture(t.light.rule.start_f, n); });
  wire(
      session_, sentence_, widest_,
      [](Take& t, const std::string& text) {
        t.light.rule.widest_f = exact_f_number(parse_number(text, 0.9, 45, say("the aperture")));
      },
      [aperture](Take& t, int n) { aperture(t.light.rule.widest_f, n); });
  wire(
      session_, sentence_, iso_,
      [](Take& t, const std::string& text) {
        t.light.rule.highest_iso = exact_iso(parse_number(text, 25, 1e6, "ISO"));
      },
      [](Take& t, int n) {
        t.light.rule.highest_iso = std::clamp(t.light.rule.highest_iso * std::exp2(n / 3.0), 25.0, 1e6);
      });
}

void RulePane::wire_rest() {
  connect(filters_, &SlotField::committed, this, [this](const QString& name) {
    session_.document.edit([&](Take& t) {
      t.light.bare = meant(name, "no filter");
      t.light.filters = t.light.bare ? std::vector<std::string>{} : std::vector{name.toStdString()};
      t.light.clicks.clear();
    });
  });
  const auto number = [&](SlotField* field, const QString& name, double low, double high, double step,
                          std::function<double&(Take&)> of) {
    wire(
        session_, sentence_, field,
        [=](Take& t, const std::string& text) { of(t) = parse_number(text, low, high, name.toStdString()); },
        [=](Take& t, int n) { of(t) = std::clamp(of(t) + n * step, low, high); });
  };
  number(night_, say_q("the night"), 0, 6, 1.0 / 3,
         [](Take& t) -> double& { return t.light.rule.night_stops; });
  number(turning_, say_q("the hand"), 0, 600, 0.5, [](Take& t) -> double& {
    t.light.turning_takes = 0;  // typed now
    return t.light.turning_s;
  });
}

void RulePane::refresh() {
  using Kind = SlotField::Kind;
  const Take& t = session_.document.take();
  const ramp::RampRule& r = t.light.rule;
  const auto signed_stops = [](double v) {
    return v == 0 ? QString("0") : QString(v < 0 ? "−" : "+") + to_q(format_number(std::abs(v), 1));
  };
  method_->set(method_words()[static_cast<int>(t.light.method)], Kind::Plain);
  apart_->set(to_q(counted(r.frames_apart, "{} frame", "{} frames")), Kind::Plain);
  late_->set(to_q(std::to_string(r.frames_apart_late)), Kind::Plain);
  low_->set(signed_stops(r.low_stops), Kind::Plain);
  high_->set(signed_stops(r.high_stops), Kind::Plain);
  QString order = say_q("an order of its own");
  for (int i = 0; i < 4; ++i)
    if (kOrderOf[i] == r.order) order = order_words()[i];
  order_->set(order, Kind::Plain);
  longest_->set(
      session_.document.sums() ? to_q(dial_shutter_words(forecast::rule_of(t).longest_shutter_s))
                               : QString("?"),
      session_.document.sums() && session_.document.sums()->trail_assumed ? Kind::Answer : Kind::Plain);
  night_->set(to_q(format_number(r.night_stops, 1)), Kind::Plain);
  QString on;
  const auto worn = session_.document.sums() ? forecast::on_the_lens(t).filters : t.light.filters;
  for (const std::string& f : worn) on += (on.isEmpty() ? "" : " + ") + to_q(f);
  filters_->set(on.isEmpty() ? say_q("no filter") : on, worn == t.light.filters ? Kind::Plain : Kind::Answer);
  QStringList filters = {say_q("no filter")};
  for (const plan::Filter& f : t.kit.filters) filters << to_q(f.name);
  filters_->set_choices(filters);
  start_f_->set("f/" + to_q(format_number(marked_f_number(r.start_f), 1)), Kind::Plain);
  widest_->set("f/" + to_q(format_number(marked_f_number(r.widest_f), 1)), Kind::Plain);
  iso_->set(to_q(format_number(marked_iso(r.highest_iso), 0)), Kind::Plain);
  turning_->set(to_q(format_number(t.light.turning_s, 1)) + " s", Kind::Plain);
  turning_->set_why(say_q("Kept free in every interval for a hand at the dials") +
                    to_q(plan::by_takes_words(t.light.turning_takes)) + ".");
  sentence_->reflow();
  for (QLabel* label : methods_) label->clear();
  if (!session_.document.sums() || !session_.document.ramp()) return;
  size_t i = 0;
  for (const ramp::MethodOutcome& o : forecast::methods_of(t)) {
    const QString mark = o.works ? "✓" : "✕";
    methods_[i++]->setText(say_q("%1&nbsp; <b>%2.</b> %3 Longest shutter %4.")
                               .arg(mark, to_q(o.title), to_q(o.text).toHtmlEscaped(),
                                    to_q(format_shutter(marked_shutter(o.longest_s)))));
  }
}

}  // namespace askcount::app
