// SPDX-License-Identifier: GPL-3.0-or-later
// One take as the book has it: what was planned, what came of it, what was said of it. Plain values.
#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/instant.h"
#include "base/json.h"
#include "sky/place.h"

namespace askcount::book {

/// Where an entry comes from.
enum class How {
  Take,    ///< a take's own file
  Folder,  ///< frames that were shot without a plan
  Hand     ///< told by the person
};

/// How a take went, by the person's own judgement.
enum class Verdict { None, Well, Fairly, Badly };

/// "", "well", "fairly", "badly"; and back. Throws BadInput for another word.
const char* verdict_word(Verdict verdict);
Verdict verdict_of(const std::string& word);

/// What was planned. Zeros where it was not.
struct Planned {
  long long frames = 0;
  double interval_s = 0, fps = 0;
  std::string shutter;  ///< of the exposure plan, in its words: "1/125 s to 4 s"
  int exposures_each = 1;
  std::string program;                   ///< what the timer was told
  std::string method;                    ///< how the exposure follows the light: "hand"; empty where unknown
  std::optional<double> ev_from, ev_to;  ///< the light at the first and the last shot, EV at ISO 100
  bool operator==(const Planned&) const = default;
};

/// What came along, by name.
struct Gear {
  std::string body, lens, timer;
  std::vector<std::string> batteries, cards, filters;
  bool operator==(const Gear&) const = default;
};

/// One number that a take says of a thing of the kit.
struct Measure {
  enum class Bound {
    Exact,
    AtLeast,  ///< it went on when the take ended
    AtMost    ///< it was enough, and may be less
  };
  std::string what;  ///< see kit.h
  std::string gear;  ///< its name; empty where it is of nothing in particular
  double value = 0;
  double planned = 0;  ///< what the plan had in its place; 0 for nothing
  Bound bound = Bound::Exact;
  std::optional<double> temperature_c, humidity;  ///< it was measured at
  bool operator==(const Measure&) const = default;
};

/// "exact", "at least", "at most"; and back, exact for any other word.
const char* bound_word(Measure::Bound bound);
Measure::Bound bound_of(const std::string& word);

/// What came of it: its frames as they lie in the folder.
struct Came {
  long long frames = 0, missing = 0, off_beat = 0, unreadable = 0;
  std::optional<double> interval_s;
  int exposures_each = 1;
  double field_s = 0;        ///< from the first opening to the last
  std::string folder, body;  ///< the first source; the camera by its own words
  bool operator==(const Came&) const = default;
};

/// Its light.
struct Evened {
  double before = 0, after = 0;  ///< flicker, in stops
  bool of_film = false;          ///< `after` is of a film that was made, true changes of its light among it;
                                 ///< otherwise as Level says
  bool operator==(const Evened&) const = default;
};

/// How the shoot went, by its journal.
struct Shot {
  bool standin = false;
  long long heard = 0, missed = 0;                     ///< presses
  long long clicks = 0, late_clicks = 0, skipped = 0;  ///< of the dials that were asked for
  std::vector<std::string> notes;
  bool operator==(const Shot&) const = default;
};

/// A film that was made.
struct FilmMade {
  std::string file;  ///< absolute
  double seconds = 0, fps = 0;
  int width = 0, height = 0;
  std::string codec;
  double bytes = 0;
  Instant made;
  bool operator==(const FilmMade&) const = default;
};

/// What the person says of it.
struct Words {
  Verdict verdict = Verdict::None;
  std::string note, change;  ///< `change` is the one thing to do differently
  bool asked = false;        ///< the question was put once
  bool operator==(const Words&) const = default;
  bool none() const { return *this == Words{}; }
};

/// An entry. What is not known yet is absent, and filing it again with more keeps what was there.
struct Entry {
  long long id = 0;  ///< in the book; 0 before it is there
  How how = How::Take;
  std::string file;    ///< absolute: the take's, or the folder of its frames; empty for one told by hand
  long long told = 0;  ///< of one told by hand: which one it is in this book, from 1; 0 before it is filed
  std::string name, subject;
  sky::Place place;
  Instant start;                                  ///< of the first shot; the clock's zero where unknown
  std::optional<double> temperature_c, humidity;  ///< planned or met; humidity from 0 to 1
  Planned planned;
  Gear gear;
  std::vector<std::string> ticks;  ///< of the checklist, by code
  std::optional<Came> came;
  std::optional<Evened> evened;
  std::optional<Shot> shot;
  std::optional<std::map<std::string, long long>> faults;  ///< frames by the code of inspect::Fault
  std::vector<FilmMade> films;
  std::vector<Measure> by_frames, by_journal;  ///< of the kit, by who says so
  Words words;
  std::string picture;  ///< JPEG bytes of a small picture; empty for none

  bool knows_start() const { return start != Instant{}; }
  /// Whether it is known where on the globe it was: a place that was told by its name alone has no sky.
  bool located() const { return place.known() && place.located(); }
  /// Frames that came, or where none were gathered those the journal heard; nothing before that.
  std::optional<long long> frames() const;
  /// Shots that it ended too early for: planned, and neither there nor missing in between. 0 for a few.
  long long short_of() const;
  bool operator==(const Entry&) const = default;
  /// Field time: of the frames, or as planned.
  double field_s() const;
  /// The longest film's length, or the planned one's.
  double film_s() const;
};

/// `older` with everything that `newer` knows: its parts go over the older ones, films by their file, words
/// only where the newer has any. The id is the older one's.
Entry merged(const Entry& older, const Entry& newer);

/// As JSON and back, whole but for `picture`. from_json throws BadInput naming `name`.
Json to_json(const Entry& entry);
Entry entry_from_json(const Json& json, const std::string& name);
/// The same as one line of text.
std::string to_text(const Entry& entry);
Entry entry_from_text(const std::string& text, const std::string& name);

/// What `askcount book --json` says of one: name, place, start, frames, planned_frames, interval_s,
/// exposures_each, flicker_before, flicker_after, films, verdict, note, file, and besides: change, subject,
/// latitude_deg, longitude_deg, zone, fps, field_s, missing, faults, there (its file is where it was),
/// ended_early (see Entry::short_of).
Json answer_json(const Entry& entry, bool there);

}  // namespace askcount::book
