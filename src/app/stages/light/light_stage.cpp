// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/light/light_stage.h"
#include "advice/by_stage.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "advice/light_advice.h"
#include "app/session/keeping.h"
#include "app/session/languages.h"
#include "app/stages/light/outlook_pane.h"
#include "app/stages/light/rule_pane.h"
#include "app/stages/light/take_along_pane.h"
#include "app/stages/light/weather_pane.h"
#include "app/stages/light/when_pane.h"
#include "app/stages/slot_wiring.h"
#include "app/stages/where_slots.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/language.h"
#include "base/number.h"
#include "base/units.h"
#include "forecast/light.h"
#include "sky/events.h"
#include "sky/windows.h"

namespace askcount::app {
namespace {

QStringList keep_words() {
  return {say_q("the sun"), say_q("the moon"), say_q("the galaxy's core")};
}
QStringList eased_words() {
  return {say_q("evenly"), say_q("easing in and out")};
}
using take::Take;

Instant start_or_now(const Take& t) {
  return t.knows_start() ? t.start : now();
}

}  // namespace

LightStage::LightStage(Session& session, QWidget* parent) : Stage(session, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(26, 12, 26, 10);
  rows->setSpacing(4);
  make_place();
  rows->addWidget(place_);
  make_aim();
  auto* line = new QHBoxLayout;
  line->addWidget(aim_, 1);
  search_ = new PressButton(say_q("Find the move that keeps it"), false, this);
  line->addWidget(search_, 0, Qt::AlignTop);
  rows->addLayout(line);
  panorama_ = new Panorama(session, this);
  rows->addWidget(panorama_, 4);
  auto* pages = new Pages(this);
  auto* tabs = new WordTabs("light pages", this);
  auto* ramp_page = new QWidget(pages);
  auto* ramp_rows = new QVBoxLayout(ramp_page);
  ramp_rows->setContentsMargins(0, 6, 0, 0);
  ramp_rows->addWidget(new RampChart(session, ramp_page));
  tabs->add(say_q("How the exposure follows"), ramp_page, pages);
  tabs->add(say_q("Rule and methods"), new RulePane(session, pages), pages);
  tabs->add(say_q("When"), new WhenPane(session, pages), pages);
  tabs->add(say_q("Light and weather"), new WeatherPane(session, pages), pages);
  tabs->add(say_q("Your picture"), new OutlookPane(session, *panorama_, pages), pages);
  tabs->add(say_q("Take along"), new TakeAlongPane(session, pages), pages);
  rows->addWidget(tabs);
  rows->addWidget(pages, 5);
  connect(search_, &QPushButton::clicked, this, [this] {
    if (!session_.document.sums()) return;
    const Take& t = session_.document.take();
    if (!t.knows_sky()) return aim_->complain(say_q("Say above where and when."));
    if (session_.document.sums()->field_s > 7 * 86400.0)
      return aim_->complain(say_q("No head turns for more than a week."));
    const Instant end = later(t.start, session_.document.sums()->field_s);
    const auto sky = sky::ephemeris_for(t.start, end);
    const auto move = sky::move_that_keeps(*sky, forecast::body_to_keep(t), t.place, forecast::optics_of(t),
                                           {t.start, end}, t.light.move.eased);
    if (!move)
      return aim_->complain(
          say_q("No move of the head keeps it in the frame from the first shot to the last: it is below the "
                "horizon, or crosses too fast."));
    aim_->complain({});
    session_.document.edit([&](Take& next) { next.light.move = *move; });
  });
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void LightStage::resizeEvent(QResizeEvent* event) {
  // The panorama is tall where the sentences and the pages below leave it the room.
  constexpr int kTall = 264, kLow = 190, kBelow = 310;  // tabs, pages and what lies between
  const int above = place_->heightForWidth(width() - 52) + aim_->heightForWidth(aim_->width());
  panorama_->setMinimumHeight(std::clamp(height() - above - kBelow, kLow, kTall));
  Stage::resizeEvent(event);
}

void LightStage::make_place() {
  place_ = new Sentence(this, 12);
  place_->add(say_q("At|a place"));
  name_ = place_->add_slot(say_q("place"));
  name_->take_words();
  place_->add(",");
  coordinates_ = place_->add_slot(say_q("coordinates"));
  coordinates_->take_words();
  place_->add(say_q(", by the clocks of"));
  zone_ = place_->add_slot(say_q("time zone"));
  zone_->take_words();
  place_->add(say_q(", on"));
  date_ = place_->add_slot(say_q("date"));
  place_->add(say_q("with the first shot at"));
  time_ = place_->add_slot(say_q("first shot"));
  place_->add(".");
  wire_place(session_, place_, name_);
  wire(session_, place_, coordinates_, [](Take& t, const std::string& text) {
    std::tie(t.place.latitude_deg, t.place.longitude_deg) = sky::parse_coordinates(text);
    if (!t.place.known()) t.place.name = sky::format_coordinates(t.place.latitude_deg, t.place.longitude_deg);
    keep_place(t.place);
  });
  wire(session_, place_, zone_, [](Take& t, const std::string& text) {
    const WallTime before = wall_time(t.start, t.place.zone);
    t.place.zone = text;
    sky::check_place(t.place);
    if (t.knows_start())
      t.start = at_wall_time(before.day, before.clock, text);  // the clock on the wall stays what it was
    keep_place(t.place);
  });
  const auto at_day = [](Take& t, const Day& day) {
    const auto clock = t.knows_start() ? wall_time(t.start, t.place.zone).clock : std::chrono::hours(18);
    take::start_at(t, at_wall_time(day, clock, t.place.zone));
    t.light.clicks.clear();
  };
  wire(
      session_, place_, date_,
      [at_day](Take& t, const std::string& text) { at_day(t, read_day(QString::fromStdString(text))); },
      [at_day](Take& t, int n) { at_day(t, day_after(day_of(start_or_now(t), t.place.zone), n)); });
  wire(
      session_, place_, time_,
      [](Take& t, const std::string& text) {
        take::start_at(
            t, parse_wall_time(format_day(day_of(start_or_now(t), t.place.zone)) + " " + text, t.place.zone));
      },
      [](Take& t, int n) { take::start_at(t, later(start_or_now(t), 60.0 * n)); });
}

void LightStage::aim_slot(SlotField*& slot, const QString& name, int which, double low, double high) {
  slot = aim_->add_slot(name);
  const auto set = [this, which](Take& t, double v) {
    sky::Move& m = t.light.move;
    const bool still = !t.light.head_moves();
    sky::Aim& a = panorama_->aims_end() && !still ? m.to : m.from;
    (which == 0   ? a.bearing_deg
     : which == 1 ? a.tilt_deg
                  : a.roll_deg) = which == 0 ? std::fmod(v + 720, 360) : v;
    if (still) m.to = m.from;
  };
  wire(
      session_, aim_, slot,
      [=](Take& t, const std::string& text) {
        const bool compass =
            which == 0 && to_q(text).trimmed().endsWith('M', Qt::CaseInsensitive);  // magnetic
        const double v = parse_number(text, low, high, name.toStdString());
        set(t, compass ? skyline::true_bearing(v, t.light.variation_deg) : v);
      },
      [=, this](Take& t, int n) {
        const sky::Aim& a = panorama_->aims_end() ? t.light.move.to : t.light.move.from;
        const double v = std::round(which == 0 ? a.bearing_deg : which == 1 ? a.tilt_deg : a.roll_deg) + n;
        set(t, which == 0 ? v : std::clamp(v, low, high));
      });
}

void LightStage::make_aim() {
  aim_ = new Sentence(this, 12);
  aim_->add(say_q("The camera faces"));
  aim_slot(bearing_, say_q("bearing"), 0, 0, 360);
  aim_->add(say_q(", tilted"));
  aim_slot(tilt_, say_q("tilt"), 1, -89, 89);
  aim_->add(say_q(", rolled"));
  aim_slot(roll_, say_q("roll"), 2, -90, 90);
  aim_->add(say_q("with the"));
  lens_ = aim_->add_slot(say_q("lens in use"));
  aim_->add(say_q("; the head"));
  head_ = aim_->add_slot(say_q("head"));
  eased_ = aim_->add_slot(say_q("how it moves"));
  aim_->add(say_q(". Keep"));
  keep_ = aim_->add_slot(say_q("what stays in the frame"));
  aim_->add(say_q("in it."));
  connect(lens_, &SlotField::nudged, this,
          [this](int n) { session_.document.edit([n](Take& t) { take::next_lens(t, n); }); });
  connect(lens_, &SlotField::committed, this, [this](const QString& name) {
    session_.document.edit([&](Take& t) { take::use_lens(t, name.toStdString()); });
  });
  head_->set_choices({say_q("stands still"), say_q("moves: aim its start"), say_q("moves: aim its end")});
  const auto head = [this](int which) {
    panorama_->aim_end(which == 2);
    session_.document.edit([which](Take& t) {
      sky::Move& m = t.light.move;
      if (which == 0)
        m.to = m.from;
      else if (!t.light.head_moves())
        m.to.bearing_deg = std::fmod(m.from.bearing_deg + 20, 360);
    });
    refresh();
  };
  connect(head_, &SlotField::committed, this, [head](const QString& word) {
    head(meant(word, "stands still") ? 0 : meant(word, "moves: aim its start") ? 1 : 2);
  });
  connect(head_, &SlotField::nudged, this, [this, head](int n) {
    const int now = !session_.document.take().light.head_moves() ? 0 : panorama_->aims_end() ? 2 : 1;
    head(((now - n) % 3 + 3) % 3);
  });
  wire_choice(session_, eased_, eased_words(), [](Take& t, int i) { t.light.move.eased = i == 1; });
  wire_choice(session_, keep_, keep_words(),
              [](Take& t, int i) { t.light.subject = static_cast<sky::Body>(i); });
}

void LightStage::refresh() {
  using Kind = SlotField::Kind;
  const Take& t = session_.document.take();
  QStringList places;
  for (const sky::Place& p : known_places()) places << to_q(p.name);
  name_->set_choices(places);
  name_->set(t.place.known() ? to_q(t.place.name) : say_q("a place"),
             t.place.known() ? Kind::Field : Kind::Open);
  coordinates_->set(t.place.known()
                        ? to_q(sky::format_coordinates(t.place.latitude_deg, t.place.longitude_deg))
                        : say_q("latitude and longitude"),
                    t.place.known() ? Kind::Plain : Kind::Open, t.place.known() ? QString() : " ");
  zone_->set(to_q(t.place.zone), Kind::Plain);
  date_->set(t.knows_start() ? shown_day(day_of(t.start, t.place.zone)) : say_q("a day"),
             t.knows_start() ? Kind::Field : Kind::Open, t.knows_start() ? QString() : " ");
  time_->set(t.knows_start() ? to_q(format_clock(t.start, t.place.zone)) : say_q("a time"),
             t.knows_start() ? Kind::Field : Kind::Open, t.knows_start() ? QString() : " ");
  const bool moves = t.light.head_moves(), end = moves && panorama_ && panorama_->aims_end();
  const sky::Aim& aim = end ? t.light.move.to : t.light.move.from;
  const auto degrees = [](double v) { return to_q(format_number(v, 1)) + "°"; };
  bearing_->set(degrees(aim.bearing_deg), Kind::Plain);
  tilt_->set(degrees(aim.tilt_deg), Kind::Plain);
  roll_->set(degrees(aim.roll_deg), Kind::Plain);
  QStringList lenses;
  for (const plan::Lens& l : t.kit.lenses) lenses << to_q(l.name);
  lens_->set_choices(lenses);
  lens_->set(to_q(t.lens().name.empty() ? "24 mm" : t.lens().name), Kind::Plain);
  head_->set(!moves ? say_q("stands still")
             : end  ? say_q("moves: aim its end")
                    : say_q("moves: aim its start"),
             Kind::Plain);
  eased_->set(eased_words()[t.light.move.eased], Kind::Plain);
  eased_->setVisible(moves);
  keep_->set(keep_words()[static_cast<int>(forecast::body_to_keep(t))], Kind::Plain);
  place_->reflow();
  aim_->reflow();
}

QString LightStage::findings_title() const {
  if (!session_.document.take().knows_sky()) return say_q("Light");
  return say_q("Light at %1, %2")
      .arg(to_q(session_.document.take().place.name),
           to_q(day_words(day_of(session_.document.take().start, session_.document.take().place.zone))));
}

const sky::DayEvents& LightStage::events() const {
  const Take& t = session_.document.take();
  const Day day = day_of(t.start, t.place.zone);
  if (!events_ || !(events_->first == t.place) || events_->second.day != day)
    events_ = {t.place, sky::events_of(day, t.place)};
  return events_->second;
}

Stage::Facts LightStage::facts() const {
  const Take& t = session_.document.take();
  if (!t.knows_sky()) return {};
  const sky::DayEvents& events = this->events();
  const bool evening = wall_time(t.start, t.place.zone).hour() >= 11;
  Facts list;
  const auto add = [&](const char* key, const QString& words) {
    const auto at = events[key];
    list.push_back({words, at ? to_q(format_clock(*at, t.place.zone)) : QString("–"),
                    at ? QString() : to_q(events.reasons.count(key) ? events.reasons.at(key) : "")});
  };
  if (evening) {
    add("golden_from", say_q("Golden light from"));
    add("sunset", say_q("Sun down"));
    add("blue_to", say_q("Blue light until"));
    add("astronomical_dusk", say_q("Fully dark"));
  } else {
    add("astronomical_dawn", say_q("First light"));
    add("morning_blue_from", say_q("Blue light from"));
    add("sunrise", say_q("Sun up"));
    add("morning_golden_to", say_q("Golden light until"));
  }
  add("moonrise", say_q("Moon, {} % lit, rises", format_number(events.moon_lit * 100, 0)));
  add("moonset", say_q("Moon sets"));
  add("core_transit", say_q("Galaxy's core highest"));
  return list;
}

Findings LightStage::findings() const {
  return advice::findings_on(advice::Stage::Light, session_.document.take(), known_plan());
}

QString LightStage::foot() const {
  if (!session_.document.sums() || !session_.document.ramp() || !session_.document.take().knows_sky())
    return {};
  const Take& t = session_.document.take();
  const auto sky = sky::ephemeris_for(t.start, later(t.start, session_.document.sums()->field_s));
  return say_q("First frame %1: %2.  Last frame %3: %4.")
      .arg(to_q(format_clock(t.start, t.place.zone)), to_q(sky::look_words(*sky, t.start, t.place)),
           to_q(format_clock(later(t.start, session_.document.sums()->field_s), t.place.zone)),
           to_q(sky::look_words(*sky, later(t.start, session_.document.sums()->field_s), t.place)));
}

std::optional<EmptyNote> LightStage::empty() const {
  if (session_.document.sums()) return {};
  return no_plan(say_q("The light is laid over a plan: how many frames, how far apart."));
}

}  // namespace askcount::app

#include "moc_light_stage.cpp"
