// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/where_slots.h"

#include <algorithm>

#include "app/session/keeping.h"
#include "app/session/languages.h"
#include "app/stages/slot_wiring.h"
#include "app/style/text.h"
#include "base/error.h"

namespace askcount::app {
namespace {

using take::Take;

void say_place(Take& t, const std::string& text) {
  const sky::Place at = place_like(text);
  if (!at.zone.empty()) {
    t.place = at;
  } else if (at.located()) {
    t.place.latitude_deg = at.latitude_deg;
    t.place.longitude_deg = at.longitude_deg;
    t.place.name = at.name;
  } else if (t.place.known()) {
    t.place.name = text;
    keep_place(t.place);
  } else {
    throw bad_input(say("Where is \"{}\"?", text),
                    say("Write its coordinates, like 56.1 N 5.5 W; it can be named after that."));
  }
}

}  // namespace

sky::Place place_like(const std::string& text) {
  for (const sky::Place& p : known_places())
    if (p.name == text) return p;
  sky::Place place;
  place.zone.clear();
  place.name = text;
  try {
    std::tie(place.latitude_deg, place.longitude_deg) = sky::parse_coordinates(text);
    place.name = sky::format_coordinates(place.latitude_deg, place.longitude_deg);
  } catch (const Error&) {
    // Then it is a name.
  }
  return place;
}

void wire_place(Session& session, Sentence* sentence, SlotField* slot) {
  wire(
      session, sentence, slot,
      [](Take& t, const std::string& text) {
        if (text.empty())
          t.place = {};
        else
          say_place(t, text);
      },
      [](Take& t, int n) {
        const auto places = known_places();
        const auto at = std::find_if(places.begin(), places.end(),
                                     [&](const sky::Place& p) { return p.name == t.place.name; }) -
                        places.begin();
        const auto count = static_cast<long>(places.size());
        t.place = places[static_cast<size_t>(((at - n) % count + count) % count)];
      });
}

void show_place(const Take& t, SlotField* slot) {
  slot->set(t.place.known() ? to_q(t.place.name) : say_q("a place"),
            t.place.known() ? SlotField::Kind::Field : SlotField::Kind::Plain,
            t.place.known() ? QString() : " ");
  slot->set_why(say_q("Where the camera stands: a place you have named, or coordinates like 56.1 N 5.5 W."));
}

QString shown_moment(Instant at, const std::string& zone) {
  return shown_day(day_of(at, zone)) + ", " + to_q(format_clock(at, zone));
}

Instant read_start(const QString& typed, Instant near, const std::string& zone) {
  static const QRegularExpression day_and_clock("^(.*?)[, ]*(\\d{1,2}:\\d{2}(?::\\d{2})?)$");
  if (const auto parts = day_and_clock.match(typed); parts.hasMatch() && !typed.contains('T')) {
    const Day day = parts.captured(1).isEmpty() ? day_of(near, zone) : read_day(parts.captured(1));
    return parse_wall_time(format_day(day) + " " + parts.captured(2).toStdString(), zone);
  }
  if (typed.contains('T') || typed.contains('+')) return parse_instant(typed.toStdString(), zone);
  return parse_wall_time(format_day(read_day(typed)) + " 12:00", zone);
}

void wire_start(Session& session, Sentence* sentence, SlotField* slot) {
  wire(
      session, sentence, slot,
      [](Take& t, const std::string& text) {
        const QString typed = to_q(text).trimmed();
        if (typed.isEmpty())
          t.start = {};
        else
          take::start_at(t, read_start(typed, t.knows_start() ? t.start : now(), t.place.zone));
      },
      [](Take& t, int n) {
        take::start_at(t, t.knows_start() ? later(t.start, 60.0 * n) : now() + std::chrono::hours(1));
      });
}

void show_start(const Take& t, SlotField* slot) {
  using Kind = SlotField::Kind;
  if (t.knows_start())
    slot->set(shown_moment(t.start, t.place.zone), Kind::Field);
  else
    slot->set(say_q("a day and time"), Kind::Plain, " ");
  slot->set_why(say_q("The first shot, by the place's own clock: 2026-10-09 17:50, or just a time."));
}

}  // namespace askcount::app
