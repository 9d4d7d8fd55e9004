// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/light/outlook_pane.h"

#include <algorithm>
#include <cmath>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/number.h"
#include "base/units.h"
#include "skyline/skyline.h"

namespace askcount::app {
namespace {

using take::Outlook, take::Take;

constexpr int kLines = 4;  // of what goes behind the skyline

QString degrees(double v) {
  return to_q(format_number(v, 1)) + "°";
}

}  // namespace

OutlookPane::OutlookPane(Session& session, Panorama& panorama, QWidget* parent)
    : QWidget(parent), session_(session), panorama_(panorama) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 8, 0, 0);
  rows->setSpacing(8);
  make_sentence();
  rows->addWidget(sentence_);
  rows->addLayout(make_buttons());
  behind_ = new QLabel(this);
  behind_->setObjectName("behind the skyline");
  behind_->setWordWrap(true);
  behind_->setFont(word_font(10));
  rows->addWidget(behind_);
  rows->addStretch();
  wire_aim();
  wire_lens_and_compass();
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.document, &Document::changed)
      .on(session.outlook, &OutlookPicture::changed);
}

void OutlookPane::make_sentence() {
  sentence_ = new Sentence(this, 12);
  sentence_->add(say_q("Under the sky lies"));
  picture_ = sentence_->add_slot(say_q("picture of the place"));
  picture_->setEnabled(false);
  sentence_->add(say_q("; its middle faces"));
  bearing_ = sentence_->add_slot(say_q("bearing of the picture"));
  sentence_->add(say_q(", tilted"));
  tilt_ = sentence_->add_slot(say_q("tilt of the picture"));
  sentence_->add(say_q(", rolled"));
  roll_ = sentence_->add_slot(say_q("roll of the picture"));
  sentence_->add(say_q(", known"));
  known_ = sentence_->add_slot(say_q("how the aim is known"));
  known_->setEnabled(false);
  sentence_->add(say_q(". It was taken with"));
  focal_ = sentence_->add_slot(say_q("focal length of the picture"));
  sentence_->add(say_q(". By a compass its middle faces"));
  compass_ = sentence_->add_slot(say_q("compass bearing of the picture"));
  sentence_->add(say_q(", with a variation of"));
  variation_ = sentence_->add_slot(say_q("variation"));
  sentence_->add(".");
}

QLayout* OutlookPane::make_buttons() {
  auto* line = new QHBoxLayout;
  line->setSpacing(8);
  choose_ = new PressButton(say_q("Choose a picture…"), false, this);
  mark_ = new PressButton(say_q("Mark the sun or moon in it"), false, this);
  trace_ = new PressButton(say_q("Trace its skyline"), false, this);
  level_ = new PressButton(say_q("Level the skyline"), false, this);
  away_ = new PressButton(say_q("Take it away"), false, this);
  for (PressButton* b : {choose_, mark_, trace_, level_, away_}) line->addWidget(b);
  line->addStretch();
  connect(choose_, &QPushButton::clicked, this, &OutlookPane::choose);
  connect(trace_, &QPushButton::clicked, this, &OutlookPane::trace);
  connect(level_, &QPushButton::clicked, this,
          [this] { session_.document.edit([](Take& t) { t.light.horizon.clear(); }); });
  connect(away_, &QPushButton::clicked, this,
          [this] { session_.document.edit([](Take& t) { t.light.outlook = {}; }); });
  connect(mark_, &QPushButton::clicked, this, [this] {
    sentence_->complain({});
    panorama_.mark_next();
    refresh();
  });
  connect(&panorama_, &Panorama::marked, this, [this](double x, double y) {
    forecast::OutlookSaid said;
    said.light = sky::FramePoint{x, y};
    said.roll_deg = session_.document.take().light.outlook.aim.roll_deg;
    say_again(said);
    refresh();
  });
  return line;
}

/// The aim of its middle, typed or stepped by half degrees.
void OutlookPane::wire_aim() {
  const auto wire_one = [this](SlotField* slot, const QString& name, double sky::Aim::*part, double low,
                               double high, bool known_by_hand) {
    const auto put = [part, known_by_hand](Take& t, double to) {
      t.light.outlook.aim.*part = to;
      if (known_by_hand) t.light.outlook.by = Outlook::By::Hand;
    };
    const bool round = part == &sky::Aim::bearing_deg;
    const auto within = [round, low, high](double v) {
      return round ? std::fmod(v + 720, 360) : std::clamp(v, low, high);
    };
    wire(
        session_, sentence_, slot,
        [=](Take& t, const std::string& text) {
          put(t, within(parse_number(text, low, high, name.toStdString())));
        },
        [=](Take& t, int n) { put(t, within(t.light.outlook.aim.*part + 0.5 * n)); });
  };
  wire_one(bearing_, say_q("the bearing"), &sky::Aim::bearing_deg, -360, 360, true);
  wire_one(tilt_, say_q("the tilt"), &sky::Aim::tilt_deg, -89, 89, true);
  wire_one(roll_, say_q("the roll"), &sky::Aim::roll_deg, -90, 90, false);
}

void OutlookPane::wire_lens_and_compass() {
  wire(
      session_, sentence_, focal_,
      [](Take& t, const std::string& text) {
        t.light.outlook.focal_mm = parse_number(text, 1, 5000, say("the focal length"));
      },
      [](Take& t, int n) {
        t.light.outlook.focal_mm = std::clamp(t.light.outlook.focal_mm + n, 1.0, 5000.0);
      });
  wire(session_, sentence_, compass_, [](Take& t, const std::string& text) {
    t.light.outlook.aim.bearing_deg =
        skyline::true_bearing(parse_number(text, 0, 360, say("the compass")), t.light.variation_deg);
    t.light.outlook.by = Outlook::By::Compass;
  });
  const auto set_variation = [](Take& t, double to) {
    Outlook& o = t.light.outlook;
    if (o.by == Outlook::By::Compass)  // what the compass said stays
      o.aim.bearing_deg = skyline::true_bearing(o.aim.bearing_deg, to - t.light.variation_deg);
    t.light.variation_deg = to;
  };
  wire(
      session_, sentence_, variation_,
      [set_variation](Take& t, const std::string& text) {
        set_variation(t, parse_number(text, -180, 180, say("the variation")));
      },
      [set_variation](Take& t, int n) {
        set_variation(t, std::clamp(t.light.variation_deg + n, -180.0, 180.0));
      });
}

void OutlookPane::choose() {
  const QString file = QFileDialog::getOpenFileName(this, say_q("A picture taken at the place"), {},
                                                    say_q("JPEG (*.jpg *.jpeg *.JPG *.JPEG)"));
  if (file.isEmpty()) return;
  try {
    session_.lay_under(file.toStdString());
    sentence_->complain({});
  } catch (const Error& e) {
    sentence_->complain(QString::fromUtf8(e.what()));
  }
}

void OutlookPane::say_again(const forecast::OutlookSaid& said) {
  const auto* photograph = session_.outlook.photograph();
  if (!photograph) return;
  try {
    const Take& t = session_.document.take();
    forecast::OutlookSaid all = said;
    all.focal_mm = t.light.outlook.focal_mm;
    all.long_side_mm = t.light.outlook.long_side_mm;
    const Outlook o = forecast::outlook_for(t, *photograph, t.light.outlook.picture, all);
    session_.document.edit([&](Take& next) { next.light.outlook = o; });
    sentence_->complain({});
  } catch (const Error& e) {
    sentence_->complain(QString::fromUtf8(e.what()).section(say_q(". Say"), 0, 0) + ".");
  }
}

void OutlookPane::trace() {
  if (!session_.outlook.photograph()) return;
  const Take& t = session_.document.take();
  const auto horizon =
      skyline::traced(session_.outlook.skyline(), forecast::view_of(t.light.outlook), t.light.horizon);
  session_.document.edit([&](Take& next) { next.light.horizon = horizon; });
}

void OutlookPane::refresh() {
  using Kind = SlotField::Kind;
  const Take& t = session_.document.take();
  const Outlook& o = t.light.outlook;
  const bool there = !o.picture.empty(), read = session_.outlook.photograph() != nullptr;
  picture_->set(
      there ? to_q(std::filesystem::path(o.picture).filename().string()) : say_q("no picture of the place"),
      Kind::Plain);
  bearing_->set(there ? degrees(o.aim.bearing_deg) : QString("–"), Kind::Plain);
  tilt_->set(there ? degrees(o.aim.tilt_deg) : QString("–"), Kind::Plain);
  roll_->set(there ? degrees(o.aim.roll_deg) : QString("–"), Kind::Plain);
  known_->set(there ? to_q(forecast::known_words(o.by)) : QString("–"), there ? Kind::Answer : Kind::Plain);
  focal_->set(there ? to_q(format_number(o.focal_mm, 1)) + " mm" : QString("–"), Kind::Plain);
  compass_->set(
      there ? degrees(skyline::true_bearing(o.aim.bearing_deg, -t.light.variation_deg)) : QString("–"),
      Kind::Plain);
  variation_->set((t.light.variation_deg > 0 ? "+" : "") + degrees(t.light.variation_deg), Kind::Plain);
  for (SlotField* slot : {bearing_, tilt_, roll_, focal_, compass_}) slot->setEnabled(there);
  mark_->setEnabled(read);
  trace_->setEnabled(read);
  mark_->setText(panorama_.marks() ? say_q("Now click it in the panorama")
                                   : say_q("Mark the sun or moon in it"));
  level_->setVisible(!t.light.horizon.empty());
  away_->setVisible(there);
  QStringList lines;
  for (const sky::Behind& b : session_.document.behind()) lines << to_q(sky::behind_words(b, t.place.zone));
  if (lines.size() > kLines) lines = lines.mid(0, kLines);
  behind_->setText(
      !lines.isEmpty() ? lines.join("\n")
      : there
          ? say_q("Hold Ctrl and drag to move the picture under the sky. Drag the skyline to fix it.")
          : QString(say_q(
                "A picture you took there: sun, moon and galaxy are drawn over its real hills and roofs, and "
                "when they go behind them is said.")));
  sentence_->reflow();
}

}  // namespace askcount::app

#include "moc_outlook_pane.cpp"
