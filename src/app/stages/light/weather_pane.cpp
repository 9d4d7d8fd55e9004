// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/light/weather_pane.h"

#include <algorithm>
#include <cmath>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QRegularExpression>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/stages/stage.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/number.h"
#include "base/units.h"
#include "forecast/light.h"
#include "ingest/gather.h"

namespace askcount::app {
namespace {

using take::Take;
QStringList cover_words() {
  return {say_q("clear"), say_q("thinly clouded"), say_q("clouded"), say_q("under dark clouds")};
}
QStringList shows_words() {
  return {say_q("the ground"), say_q("half sky, half ground"), say_q("the lit sky"),
          say_q("what lies away from the sun")};
}
QStringList tripod_words() {
  return {say_q("low"), say_q("tall")};
}
QStringList heater_words() {
  return {say_q("no heater"), say_q("a heater")};
}

/// What was typed and the clock time at its end, "18:05"; that is empty where there is none.
std::pair<std::string, std::string> parted_at_clock(const std::string& typed) {
  static const QRegularExpression ending("^(.*?)(?:,| at)? +([0-9]{1,2}:[0-9]{2}) *$",
                                         QRegularExpression::DotMatchesEverythingOption);
  const QRegularExpressionMatch parts = ending.match(QString::fromStdString(typed));
  if (!parts.hasMatch()) return {typed, {}};
  return {parts.captured(1).toStdString(), parts.captured(2).toStdString()};
}

/// "1/60, f8, iso 100 at 18:05", or an EV.
void say_meter(Take& t, const std::string& text) {
  if (text.empty() || meant(text, "nothing yet")) {
    t.light.source.anchor.reset();
    t.metered.reset();
    return;
  }
  const auto [what, clock] = parted_at_clock(text);
  std::optional<Instant> when;
  if (!clock.empty())
    when = parse_wall_time(format_day(day_of(t.knows_start() ? t.start : now(), t.place.zone)) + " " + clock,
                           t.place.zone);
  if (what.find(',') != std::string::npos) {
    take::meter(t, plan::parse_metered(what), when);
  } else {
    const double ev =
        parse_number(what, -10, 24, say("the meter, an EV or an exposure such as 1/60, f8, iso100 at 18:05"));
    take::meter(t, {64 / std::exp2(ev), 8, 100}, when);
  }
}

}  // namespace

WeatherPane::WeatherPane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 8, 0, 0);
  rows->setSpacing(4);
  make_light();
  rows->addWidget(light_);
  rows->addLayout(make_buttons());
  rows->addSpacing(8);
  make_weather();
  rows->addWidget(weather_);
  rows->addStretch();
  wire_light();
  wire_weather();
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void WeatherPane::make_light() {
  light_ = new Sentence(this, 12);
  light_->add(say_q("The sky is"));
  cover_ = light_->add_slot(say_q("cover of the sky"));
  light_->add(say_q("; a town adds"));
  town_ = light_->add_slot(say_q("light of the town"));
  light_->add(say_q(". The frame shows mostly"));
  shows_ = light_->add_slot(say_q("what the frame shows"));
  light_->add(say_q(". By night it is dark as in a"));
  dark_ = light_->add_slot(say_q("darkness of the place"));
  light_->add(say_q("sky. My own meter read"));
  meter_ = light_->add_slot(say_q("own meter reading"));
  light_->add(say_q(", and the curve comes from"));
  readings_ = light_->add_slot(say_q("where the curve comes from"));
  readings_->setEnabled(false);
  light_->add(".");
}

QLayout* WeatherPane::make_buttons() {
  auto* buttons = new QHBoxLayout;
  buttons->setSpacing(8);
  const auto button = [&](PressButton*& b, const QString& name, auto press) {
    b = new PressButton(name, false, this);
    connect(b, &QPushButton::clicked, this, press);
    buttons->addWidget(b);
  };
  button(csv_, say_q("Meter readings from a CSV…"), [this] { read_csv(); });
  button(frames_, say_q("From an earlier take's frames…"), [this] { read_frames(); });
  button(write_, say_q("Write the curve as CSV…"), [this] { write_csv(); });
  button(forget_, say_q("Back to the model"), [this] {
    session_.document.edit([](Take& t) {
      t.light.source.readings.clear();
      t.light.source.anchor.reset();
      t.metered.reset();
    });
  });
  buttons->addStretch();
  return buttons;
}

void WeatherPane::make_weather() {
  weather_ = new Sentence(this, 12);
  weather_->add(say_q("It is"));
  air_ = weather_->add_slot(say_q("temperature of the air"));
  weather_->add(say_q("with"));
  damp_ = weather_->add_slot(say_q("humidity or dew point"));
  weather_->add(say_q(", cooling by"));
  cooling_ = weather_->add_slot(say_q("cooling"));
  weather_->add(say_q("an hour, wind"));
  wind_ = weather_->add_slot(say_q("wind"));
  weather_->add(say_q(". The tripod stands"));
  tripod_ = weather_->add_slot(say_q("tripod"));
  weather_->add(say_q("and there is"));
  heater_ = weather_->add_slot(say_q("heater"));
  weather_->add(say_q("for the lens."));
}

void WeatherPane::wire_light() {
  wire_choice(session_, shows_, shows_words(),
              [](Take& t, int i) { t.light.source.shows = static_cast<sky::Shows>(i); });
  wire_choice(session_, cover_, cover_words(),
              [](Take& t, int i) { t.light.source.cover = static_cast<sky::Cover>(i); });
  wire(
      session_, light_, town_,
      [](Take& t, const std::string& s) {
        t.light.source.town_lux = meant(s, "no light") ? 0 : parse_number(s, 0, 10000, say("the town"));
      },
      [](Take& t, int n) {
        t.light.source.town_lux = std::clamp(
            t.light.source.town_lux +
                (t.light.source.town_lux < 1 || (n < 0 && t.light.source.town_lux <= 1) ? 0.1 : 1) * n,
            0.0, 10000.0);
      });
  wire(
      session_, light_, dark_,
      [](Take& t, const std::string& s) { t.light.source.sky_mag = sky::parse_darkness(s); },
      [](Take& t, int n) {
        t.light.source.sky_mag = std::clamp(std::round(t.light.source.sky_mag * 10 + n) / 10, 15.0, 23.0);
      });
  QString dark = say_q("By night, at the zenith, in magnitudes a square second of arc:");
  for (const sky::PlaceDarkness& d : sky::place_darknesses())
    dark += QString("\n%1 (%2): %3").arg(say_q(d.word), to_q(format_number(d.mag, 1)), say_q(d.means));
  dark_->set_why(dark);
  wire(session_, light_, meter_, say_meter);
}

void WeatherPane::wire_weather() {
  wire(
      session_, weather_, air_,
      [](Take& t, const std::string& s) { t.temperature_c = parse_number(s, -60, 60, say("the air")); },
      [](Take& t, int n) { t.temperature_c = std::clamp(t.temperature_c + n, -60.0, 60.0); });
  wire(
      session_, weather_, damp_,
      [](Take& t, const std::string& s) {
        auto& w = t.light.weather;
        w.humidity.reset();
        w.dew_point_c.reset();
        if (meant(s, "unknown")) return;
        if (s.find('%') != std::string::npos)
          w.humidity = parse_number(s, 1, 100, say("humidity")) / 100;
        else
          w.dew_point_c = parse_number(s, -60, 60, say("the dew point (or humidity with a %)"));
      },
      [](Take& t, int n) {
        auto& w = t.light.weather;
        if (w.dew_point_c)
          *w.dew_point_c += n;
        else
          w.humidity = std::clamp(w.humidity.value_or(0.7) + 0.01 * n, 0.01, 1.0);
      });
  wire(
      session_, weather_, cooling_,
      [](Take& t, const std::string& s) {
        t.light.weather.cooling_c_per_hour = parse_number(s, 0, 30, say("cooling"));
      },
      [](Take& t, int n) {
        t.light.weather.cooling_c_per_hour =
            std::clamp(t.light.weather.cooling_c_per_hour + 0.5 * n, 0.0, 30.0);
      });
  wire(
      session_, weather_, wind_,
      [](Take& t, const std::string& s) {
        t.light.weather.wind_m_s = parse_number(s, 0, 100, say("the wind"));
      },
      [](Take& t, int n) {
        t.light.weather.wind_m_s = std::clamp(t.light.weather.wind_m_s + n, 0.0, 100.0);
      });
  wire_choice(session_, tripod_, tripod_words(),
              [](Take& t, int i) { t.light.weather.tall_tripod = i == 1; });
  wire_choice(session_, heater_, heater_words(), [](Take& t, int i) { t.light.weather.heater = i == 1; });
}

void WeatherPane::read_csv() {
  const QString file =
      QFileDialog::getOpenFileName(this, say_q("Meter readings"), {}, say_q("Readings (*.csv)"));
  if (file.isEmpty()) return;
  try {
    const auto readings = ramp::readings_of_csv(read_file(file.toStdString()),
                                                session_.document.take().place.zone, file.toStdString());
    session_.document.edit([&](Take& t) { t.light.source.readings = readings; });
    light_->complain({});
  } catch (const Error& e) {
    light_->complain(QString::fromUtf8(e.what()));
  }
}

void WeatherPane::read_frames() {
  const QString folder =
      QFileDialog::getExistingDirectory(this, say_q("The folder with an earlier take's frames"));
  if (folder.isEmpty()) return;
  const auto readings = std::make_shared<std::vector<ramp::Reading>>();
  session_.job.start(
      {say_q("Reading earlier exposures"),
       [readings, folder = folder.toStdString(),
        zone = session_.document.take().place.zone](const Work& work) {
         *readings = forecast::readings_of(*ingest::gather(folder, work).frames, zone);
       },
       [this, readings] { session_.document.edit([&](Take& t) { t.light.source.readings = *readings; }); },
       [this, generation = session_.document.generation()] {
         return generation == session_.document.generation();
       }});
}

void WeatherPane::write_csv() {
  if (!session_.document.ramp()) return;
  QString file = QFileDialog::getSaveFileName(this, say_q("Write the curve"), {}, say_q("Readings (*.csv)"));
  if (file.isEmpty()) return;
  if (!file.endsWith(".csv")) file += ".csv";
  try {
    write_file_atomically(
        {file.toStdString(), FileKind::Table},
        ramp::csv_of(forecast::curve_of(session_.document.take(), *session_.document.ramp()),
                     session_.document.take().place.zone));
    light_->complain({});
  } catch (const Error& e) {
    light_->complain(QString::fromUtf8(e.what()));
  }
}

void WeatherPane::refresh() {
  using Kind = SlotField::Kind;
  const Take& t = session_.document.take();
  const ramp::LightSource& s = t.light.source;
  cover_->set(cover_words()[static_cast<int>(s.cover)], Kind::Plain);
  town_->set(s.town_lux > 0 ? to_q(format_number(s.town_lux, 1)) + " lx" : say_q("no light"), Kind::Plain);
  const QString at = s.anchor          ? to_q(format_clock(s.anchor->at, t.place.zone))
                     : t.knows_start() ? to_q(format_clock(t.start, t.place.zone))
                                       : QString();
  meter_->set(t.metered  ? to_q(plan::metered_words(*t.metered)) + (at.isEmpty() ? "" : ", " + at)
              : s.anchor ? say_q("EV %1 at %2").arg(to_q(format_number(s.anchor->ev, 1)), at)
                         : say_q("nothing yet"),
              Kind::Plain, t.metered || s.anchor ? QString() : " ");
  shows_->set(shows_words()[static_cast<int>(s.shows)], Kind::Plain);
  dark_->set(to_q(sky::darkness_words(s.sky_mag)), Kind::Plain);
  readings_->set(!s.readings.empty() ? counted_q(s.readings.size(), "{} meter reading", "{} meter readings")
                 : s.anchor || t.metered ? say_q("sun and moon, moved to the meter")
                                         : say_q("sun and moon"),
                 Kind::Answer);
  readings_->setToolTip(say_q(
      "Illuminance by the altitude of sun and moon and the moon's phase, from US Naval Observatory Circular "
      "171; by night the sky's own luminance: its glow, the place, moonlight by Krisciunas and Schaefer "
      "(1991)."));
  air_->set(to_q(format_number(t.temperature_c, 1)) + " °C", Kind::Plain);
  const sky::Weather& w = t.light.weather;
  damp_->set(w.dew_point_c ? say_q("a dew point of ") + to_q(format_number(*w.dew_point_c, 1)) + " °C"
             : w.humidity  ? to_q(format_number(*w.humidity * 100, 0)) + say_q(" % humidity")
                           : say_q("unknown humidity"),
             Kind::Plain);
  cooling_->set(to_q(format_number(w.cooling_c_per_hour, 1)) + " °C", Kind::Plain);
  wind_->set(to_q(format_number(w.wind_m_s, 0)) + " m/s", Kind::Plain);
  tripod_->set(tripod_words()[w.tall_tripod], Kind::Plain);
  heater_->set(heater_words()[w.heater], Kind::Plain);
  forget_->setEnabled(s.anchor || t.metered || !s.readings.empty());
  write_->setEnabled(session_.document.ramp());
  light_->reflow();
  weather_->reflow();
}

}  // namespace askcount::app
