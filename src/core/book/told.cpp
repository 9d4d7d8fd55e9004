// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/told.h"

#include "base/error.h"
#include "base/language.h"

namespace askcount::book {
namespace {

template <typename Number>
void require_positive(const std::optional<Number>& n, const char* what) {
  if (n && !(*n > 0)) throw bad_input(say("{} must be more than 0.", say(what)));
}

}  // namespace

void tell(Entry& entry, const Told& told) {
  require_positive(told.frames, to_say("Frames"));
  require_positive(told.planned, to_say("Planned frames"));
  require_positive(told.interval_s, to_say("Interval"));
  require_positive(told.fps, to_say("Frame rate"));
  sky::Place place = entry.place;
  if (!told.place.empty()) place.name = told.place;
  if (!told.zone.empty()) place.zone = told.zone;
  if (told.latitude_deg) place.latitude_deg = *told.latitude_deg;
  if (told.longitude_deg) place.longitude_deg = *told.longitude_deg;
  if (place.known()) sky::check_place(place);
  entry.place = place;
  if (!told.name.empty()) entry.name = told.name;
  if (!told.subject.empty()) entry.subject = told.subject;
  if (told.start) entry.start = *told.start;
  if (told.interval_s) entry.planned.interval_s = *told.interval_s;
  if (told.planned) entry.planned.frames = *told.planned;
  if (told.fps) entry.planned.fps = *told.fps;
  if (told.frames) {
    if (!entry.came) entry.came.emplace();
    entry.came->frames = *told.frames;
    if (entry.planned.interval_s > 0) {
      entry.came->interval_s = entry.planned.interval_s;
      entry.came->field_s = static_cast<double>(*told.frames - 1) * entry.planned.interval_s;
    }
  }
  if (told.verdict) entry.words.verdict = *told.verdict;
  if (told.note) entry.words.note = *told.note;
  if (told.change) entry.words.change = *told.change;
}

Entry entry_by_hand(const Told& told) {
  if (told.name.empty()) throw bad_input(say("A take in the book needs a name."), say("Give it a name."));
  Entry entry;
  entry.how = How::Hand;
  tell(entry, told);
  return entry;
}

}  // namespace askcount::book
