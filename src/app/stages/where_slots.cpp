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
  for (const sky::Place& p : known_places())
    if (p.name == text) {
      t.place = p;
      return;
    }
  std::optional<std::pair<double, double>> at;
  try {
    at = sky::parse_coordinates(text);
  } catch (const Error&) {  // then it is a name
    if (!t.place.known())
      throw bad_input(say("Where is \"{}\"?", text),
                      say("Write its coordinates, like 56.1 N 5.5 W; it can be named after that."));
  }
  if (at) {
    std::tie(t.place.latitude_deg, t.place.longitude_deg) = *at;
    t.place.name = sky::format_coordinates(at->first, at->second);
  } else {
    t.place.name = text;
    keep_place(t.place);
  }
}

}  // namespace

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

void wire_start(Session& session, Sentence* sentence, SlotField* slot) {
  wire(
      session, sentence, slot,
      [](Take& t, const std::string& text) {
        static const QRegularExpression day_and_clock("^(.*?)[, ]*(\\d{1,2}:\\d{2}(?::\\d{2})?)$");
        const QString typed = to_q(text).trimmed();
        if (typed.isEmpty()) {
          t.start = {};
        } else if (const auto parts = day_and_clock.match(typed); parts.hasMatch() && !typed.contains('T')) {
          const Day day = parts.captured(1).isEmpty()
                              ? day_of(t.knows_start() ? t.start : now(), t.place.zone)
                              : read_day(parts.captured(1));
          take::start_at(
              t, parse_wall_time(format_day(day) + " " + parts.captured(2).toStdString(), t.place.zone));
        } else if (typed.contains('T') || typed.contains('+')) {
          take::start_at(t, parse_instant(text, t.place.zone));
        } else {
          take::start_at(t, parse_wall_time(format_day(read_day(typed)) + " 12:00", t.place.zone));
        }
      },
      [](Take& t, int n) {
        take::start_at(t, t.knows_start() ? later(t.start, 60.0 * n) : now() + std::chrono::hours(1));
      });
}

void show_start(const Take& t, SlotField* slot) {
  using Kind = SlotField::Kind;
  if (t.knows_start())
    slot->set(shown_day(day_of(t.start, t.place.zone)) + ", " + to_q(format_clock(t.start, t.place.zone)),
              Kind::Field);
  else
    slot->set(say_q("a day and time"), Kind::Plain, " ");
  slot->set_why(say_q("The first shot, by the clocks of the place: 2026-10-09 17:50, or a time alone."));
}

}  // namespace askcount::app
