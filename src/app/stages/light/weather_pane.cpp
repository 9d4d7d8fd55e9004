#include "app/stages/light/weather_pane.h"

#include <algorithm>
#include <cmath>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/stages/stage.h"
#include "base/error.h"
#include "base/files.h"
#include "base/units.h"
#include "gather/gather.h"
#include "orders/light.h"

namespace askcount::app {
namespace {

using take::Take;
const QStringList kCover = {"clear", "thinly clouded", "clouded", "under dark clouds"};
const QStringList kShows = {"the ground", "half sky, half ground", "the lit sky",
                            "what lies away from the sun"};
const QStringList kTripod = {"low", "tall"};
const QStringList kHeater = {"no heater", "a heater"};

}  // namespace

WeatherPane::WeatherPane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 8, 0, 0);
  rows->setSpacing(4);
  light_ = new Sentence(this, 12);
  light_->add("The sky is");
  cover_ = light_->add_slot("cover of the sky");
  light_->add("; a town adds");
  town_ = light_->add_slot("light of the town");
  light_->add(". The frame shows mostly");
  shows_ = light_->add_slot("what the frame shows");
  light_->add(". By night it is dark as in a");
  dark_ = light_->add_slot("darkness of the place");
  light_->add("sky. My own meter read");
  meter_ = light_->add_slot("own meter reading");
  light_->add(", and the curve comes from");
  readings_ = light_->add_slot("where the curve comes from");
  readings_->setEnabled(false);
  light_->add(".");
  rows->addWidget(light_);
  auto* buttons = new QHBoxLayout;
  buttons->setSpacing(8);
  const auto button = [&](PressButton*& b, const char* name, auto press) {
    b = new PressButton(name, false, this);
    connect(b, &QPushButton::clicked, this, press);
    buttons->addWidget(b);
  };
  button(csv_, "Real readings from a CSV…", [this] { read_csv(); });
  button(frames_, "From an earlier take's frames…", [this] { read_frames(); });
  button(write_, "Write the curve as CSV…", [this] { write_csv(); });
  button(forget_, "Back to the model", [this] {
    session_.document.edit([](Take& t) {
      t.light.source.readings.clear();
      t.light.source.anchor.reset();
      t.metered.reset();
    });
  });
  buttons->addStretch();
  rows->addLayout(buttons);
  rows->addSpacing(8);
  weather_ = new Sentence(this, 12);
  weather_->add("It is");
  air_ = weather_->add_slot("temperature of the air");
  weather_->add("with");
  damp_ = weather_->add_slot("humidity or dew point");
  weather_->add(", cooling by");
  cooling_ = weather_->add_slot("cooling");
  weather_->add("an hour, wind");
  wind_ = weather_->add_slot("wind");
  weather_->add(". The tripod stands");
  tripod_ = weather_->add_slot("tripod");
  weather_->add("and there is");
  heater_ = weather_->add_slot("heater");
  weather_->add("for the lens.");
  rows->addWidget(weather_);
  rows->addStretch();
  wire_choice(session, shows_, kShows,
              [](Take& t, int i) { t.light.source.shows = static_cast<sky::Shows>(i); });
  wire_choice(session, cover_, kCover,
              [](Take& t, int i) { t.light.source.cover = static_cast<sky::Cover>(i); });
  wire(
      session, light_, town_,
      [](Take& t, const std::string& s) {
        t.light.source.town_lux = s.find("no") == 0 ? 0 : number_in(s, 0, 10000, "the town");
      },
      [](Take& t, int n) {
        t.light.source.town_lux = std::clamp(
            t.light.source.town_lux +
                (t.light.source.town_lux < 1 || (n < 0 && t.light.source.town_lux <= 1) ? 0.1 : 1) * n,
            0.0, 10000.0);
      });
  wire(
      session, light_, dark_,
      [](Take& t, const std::string& s) { t.light.source.sky_mag = sky::parse_darkness(s); },
      [](Take& t, int n) {
        t.light.source.sky_mag = std::clamp(std::round(t.light.source.sky_mag * 10 + n) / 10, 15.0, 23.0);
      });
  QString dark = "By night, at the zenith, in magnitudes a square second of arc:";
  for (const sky::PlaceDarkness& d : sky::place_darknesses())
    dark += QString("\n%1 (%2): %3").arg(d.word, to_q(format_number(d.mag, 1)), d.means);
  dark_->set_why(dark);
  // "1/60, f8, iso 100 at 18:05", or an EV.
  wire(session, light_, meter_, [](Take& t, const std::string& text) {
    if (text.empty() || text.find("nothing") == 0) {
      t.light.source.anchor.reset();
      t.metered.reset();
      return;
    }
    const size_t at = text.rfind(" at ");
    const bool timed = at != std::string::npos && text.find(':', at) != std::string::npos;
    const std::string what = timed ? text.substr(0, at) : text;
    std::optional<Instant> when;
    if (timed)
      when = parse_wall_time(
          format_day(day_of(t.knows_start() ? t.start : now(), t.place.zone)) + " " + text.substr(at + 4),
          t.place.zone);
    if (what.find(',') != std::string::npos) {
      std::string plain = what;
      if (const size_t in = plain.find(" at "); in != std::string::npos) plain.replace(in, 4, ", ");
      take::meter(t, plan::parse_metered(plain), when);
    } else {
      const double ev =
          number_in(what, -10, 24, "the meter, an EV or an exposure such as 1/60, f8, iso100 at 18:05");
      take::meter(t, {64 / std::exp2(ev), 8, 100}, when);
    }
  });
  wire(
      session, weather_, air_,
      [](Take& t, const std::string& s) { t.temperature_c = number_in(s, -60, 60, "the air"); },
      [](Take& t, int n) { t.temperature_c = std::clamp(t.temperature_c + n, -60.0, 60.0); });
  wire(
      session, weather_, damp_,
      [](Take& t, const std::string& s) {
        auto& w = t.light.weather;
        w.humidity.reset();
        w.dew_point_c.reset();
        if (s.find("un") == 0) return;
        if (s.find('%') != std::string::npos)
          w.humidity = number_in(s, 1, 100, "humidity") / 100;
        else
          w.dew_point_c = number_in(s, -60, 60, "the dew point (or humidity with a %)");
      },
      [](Take& t, int n) {
        auto& w = t.light.weather;
        if (w.dew_point_c)
          *w.dew_point_c += n;
        else
          w.humidity = std::clamp(w.humidity.value_or(0.7) + 0.01 * n, 0.01, 1.0);
      });
  wire(
      session, weather_, cooling_,
      [](Take& t, const std::string& s) {
        t.light.weather.cooling_c_per_hour = number_in(s, 0, 30, "cooling");
      },
      [](Take& t, int n) {
        t.light.weather.cooling_c_per_hour =
            std::clamp(t.light.weather.cooling_c_per_hour + 0.5 * n, 0.0, 30.0);
      });
  wire(
      session, weather_, wind_,
      [](Take& t, const std::string& s) { t.light.weather.wind_m_s = number_in(s, 0, 100, "the wind"); },
      [](Take& t, int n) {
        t.light.weather.wind_m_s = std::clamp(t.light.weather.wind_m_s + n, 0.0, 100.0);
      });
  wire_choice(session, tripod_, kTripod, [](Take& t, int i) { t.light.weather.tall_tripod = i == 1; });
  wire_choice(session, heater_, kHeater, [](Take& t, int i) { t.light.weather.heater = i == 1; });
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void WeatherPane::read_csv() {
  const QString file = QFileDialog::getOpenFileName(this, "Real readings", {}, "Readings (*.csv)");
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
  const QString folder = QFileDialog::getExistingDirectory(this, "The folder with an earlier take's frames");
  if (folder.isEmpty()) return;
  const auto readings = std::make_shared<std::vector<ramp::Reading>>();
  session_.job.start(
      {"Reading earlier exposures",
       [readings, folder = folder.toStdString(), zone = session_.document.take().place.zone](
           const Work& work) { *readings = orders::readings_of(*gather::gather(folder, work).frames, zone); },
       [this, readings] { session_.document.edit([&](Take& t) { t.light.source.readings = *readings; }); },
       [this, generation = session_.document.generation()] {
         return generation == session_.document.generation();
       }});
}

void WeatherPane::write_csv() {
  if (!session_.document.ramp()) return;
  QString file = QFileDialog::getSaveFileName(this, "Write the curve", {}, "Readings (*.csv)");
  if (file.isEmpty()) return;
  if (!file.endsWith(".csv")) file += ".csv";
  try {
    write_file_atomically({file.toStdString(), FileKind::Table},
                          ramp::csv_of(orders::curve_of(session_.document.take(), *session_.document.ramp()),
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
  cover_->set(kCover[static_cast<int>(s.cover)], Kind::Plain);
  town_->set(s.town_lux > 0 ? to_q(format_number(s.town_lux, 1)) + " lux" : "no light", Kind::Plain);
  const QString at = s.anchor          ? to_q(format_clock(s.anchor->at, t.place.zone))
                     : t.knows_start() ? to_q(format_clock(t.start, t.place.zone))
                                       : QString();
  meter_->set(t.metered  ? to_q(plan::metered_words(*t.metered)) + (at.isEmpty() ? "" : " at " + at)
              : s.anchor ? QString("EV %1 at %2").arg(to_q(format_number(s.anchor->ev, 1)), at)
                         : "nothing yet",
              Kind::Plain, t.metered || s.anchor ? QString() : " ");
  shows_->set(kShows[static_cast<int>(s.shows)], Kind::Plain);
  dark_->set(to_q(sky::darkness_words(s.sky_mag)), Kind::Plain);
  readings_->set(!s.readings.empty()
                     ? to_q(counted(static_cast<long long>(s.readings.size()), "real reading"))
                 : s.anchor || t.metered ? "sun and moon, moved to the meter"
                                         : "sun and moon",
                 Kind::Answer);
  readings_->setToolTip(
      "Illuminance by the altitude of sun and moon and the moon's phase, from US Naval Observatory Circular "
      "171; by night the sky's own luminance: its glow, the place, moonlight by Krisciunas and Schaefer "
      "(1991).");
  air_->set(to_q(format_number(t.temperature_c, 1)) + " °C", Kind::Plain);
  const sky::Weather& w = t.light.weather;
  damp_->set(w.dew_point_c ? "a dew point of " + to_q(format_number(*w.dew_point_c, 1)) + " °C"
             : w.humidity  ? to_q(format_number(*w.humidity * 100, 0)) + " % humidity"
                           : "unknown humidity",
             Kind::Plain);
  cooling_->set(to_q(format_number(w.cooling_c_per_hour, 1)) + " °C", Kind::Plain);
  wind_->set(to_q(format_number(w.wind_m_s, 0)) + " m/s", Kind::Plain);
  tripod_->set(kTripod[w.tall_tripod], Kind::Plain);
  heater_->set(kHeater[w.heater], Kind::Plain);
  forget_->setEnabled(s.anchor || t.metered || !s.readings.empty());
  write_->setEnabled(session_.document.ramp());
  light_->reflow();
  weather_->reflow();
}

}  // namespace askcount::app
