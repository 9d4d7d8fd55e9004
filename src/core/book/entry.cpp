// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/entry.h"

#include <nlohmann/json.hpp>

#include <algorithm>

#include "base/error.h"
#include "base/fields.h"
#include "base/language.h"

namespace askcount::book {
namespace {

constexpr double kMost = 1e12;

void visit(Fields& f, Planned& p) {
  f.number("frames", p.frames, 0, kMost);
  f.number("interval_s", p.interval_s, 0, kMost);
  f.number("fps", p.fps, 0, 1000);
  f.words("shutter", p.shutter);
  f.number("exposures_each", p.exposures_each, 1, 99);
  f.words("program", p.program);
  f.words(f.reading() && f.has("school") ? "school" : "method", p.method);  // its name until book layout 3
  f.maybe_number("ev_from", p.ev_from, -30, 40);
  f.maybe_number("ev_to", p.ev_to, -30, 40);
}

void visit(Fields& f, Gear& g) {
  f.words("body", g.body);
  f.words("lens", g.lens);
  f.words("timer", g.timer);
  f.texts("batteries", g.batteries);
  f.texts("cards", g.cards);
  f.texts("filters", g.filters);
}

void visit(Fields& f, Came& c) {
  f.number("frames", c.frames, 0, kMost);
  f.number("missing", c.missing, 0, kMost);
  f.number("off_beat", c.off_beat, 0, kMost);
  f.number("unreadable", c.unreadable, 0, kMost);
  f.maybe_number("interval_s", c.interval_s, 0, kMost);
  f.number("exposures_each", c.exposures_each, 1, 99);
  f.number("field_s", c.field_s, 0, kMost);
  f.words("folder", c.folder);
  f.words("body", c.body);
}

void visit(Fields& f, Evened& e) {
  f.number("before", e.before, 0, 100);
  f.number("after", e.after, 0, 100);
  f.flag("of_film", e.of_film);
}

void visit(Fields& f, Shot& s) {
  f.flag("standin", s.standin);
  f.number("heard", s.heard, 0, kMost);
  f.number("missed", s.missed, 0, kMost);
  f.number("clicks", s.clicks, 0, kMost);
  f.number("late_clicks", s.late_clicks, 0, kMost);
  f.number("skipped", s.skipped, 0, kMost);
  f.texts("notes", s.notes);
}

void visit(Fields& f, FilmMade& m) {
  f.name("file", m.file);
  f.number("seconds", m.seconds, 0, kMost);
  f.number("fps", m.fps, 0, 1000);
  f.number("width", m.width, 0, 100000);
  f.number("height", m.height, 0, 100000);
  f.words("codec", m.codec);
  f.number("bytes", m.bytes, 0, 1e18);
  f.moment("made", m.made);
}

void visit(Fields& f, Measure& m) {
  f.name("what", m.what);
  f.words("gear", m.gear);
  f.number("value", m.value, -kMost, kMost);
  f.number(f.reading() && f.has("reckoned") ? "reckoned" : "planned", m.planned, -kMost, kMost);
  using Bound = Measure::Bound;
  f.choice("bound", m.bound,
           {{Bound::Exact, bound_word(Bound::Exact)},
            {Bound::AtLeast, bound_word(Bound::AtLeast)},
            {Bound::AtMost, bound_word(Bound::AtMost)}});
  f.maybe_number("temperature_c", m.temperature_c, -100, 100);
  f.maybe_number("humidity", m.humidity, 0, 1);
}

void visit(Fields& f, Words& w) {
  f.choice(
      "verdict", w.verdict,
      {{Verdict::None, ""}, {Verdict::Well, "well"}, {Verdict::Fairly, "fairly"}, {Verdict::Badly, "badly"}});
  f.words("note", w.note);
  f.words("change", w.change);
  f.flag("asked", w.asked);
}

void visit_faults(Fields& f, Entry& e) {
  struct Kind {
    std::string code;
    long long frames = 0;
  };
  std::vector<Kind> list;
  if (e.faults)
    for (const auto& [code, frames] : *e.faults) list.push_back({code, frames});
  if (!f.reading() && !e.faults) return;
  if (f.reading() && !f.has("faults")) return;
  f.list("faults", list, [](Fields& g, Kind& k) {
    g.name("code", k.code);
    g.number("frames", k.frames, 0, kMost);
  });
  e.faults.emplace();
  for (const Kind& k : list) (*e.faults)[k.code] = k.frames;
}

void visit(Fields& f, Entry& e) {
  f.choice("how", e.how, {{How::Take, "take"}, {How::Folder, "folder"}, {How::Hand, "hand"}});
  f.words("file", e.file);
  if (e.told > 0 || f.reading()) f.number("told", e.told, 0, 1e9);
  f.words("name", e.name);
  f.words("subject", e.subject);
  f.part("place", e.place, [](Fields& g, sky::Place& p) {
    g.words("name", p.name);
    g.number("latitude_deg", p.latitude_deg, -90, 90);
    g.number("longitude_deg", p.longitude_deg, -180, 180);
    g.words("zone", p.zone);
    g.number("height_m", p.height_m, -1000, 10000);
  });
  f.moment("start", e.start);
  f.maybe_number("temperature_c", e.temperature_c, -100, 100);
  f.maybe_number("humidity", e.humidity, 0, 1);
  f.part("planned", e.planned, [](Fields& g, Planned& p) { visit(g, p); });
  f.part("gear", e.gear, [](Fields& g, Gear& x) { visit(g, x); });
  f.texts("ticks", e.ticks);
  f.maybe("came", e.came, [](Fields& g, Came& c) { visit(g, c); });
  f.maybe("evened", e.evened, [](Fields& g, Evened& x) { visit(g, x); });
  f.maybe("shot", e.shot, [](Fields& g, Shot& s) { visit(g, s); });
  visit_faults(f, e);
  f.list("films", e.films, [](Fields& g, FilmMade& m) { visit(g, m); });
  f.list("by_frames", e.by_frames, [](Fields& g, Measure& m) { visit(g, m); });
  f.list("by_journal", e.by_journal, [](Fields& g, Measure& m) { visit(g, m); });
  f.part("words", e.words, [](Fields& g, Words& w) { visit(g, w); });
}

}  // namespace

const char* bound_word(Measure::Bound bound) {
  static constexpr const char* words[] = {"exact", "at least", "at most"};
  return words[static_cast<int>(bound)];
}

Measure::Bound bound_of(const std::string& word) {
  for (const auto bound : {Measure::Bound::AtLeast, Measure::Bound::AtMost})
    if (word == bound_word(bound)) return bound;
  return Measure::Bound::Exact;
}

const char* verdict_word(Verdict verdict) {
  static constexpr const char* words[] = {"", "well", "fairly", "badly"};
  return words[static_cast<int>(verdict)];
}

Verdict verdict_of(const std::string& word) {
  for (const Verdict v : {Verdict::None, Verdict::Well, Verdict::Fairly, Verdict::Badly})
    if (word == verdict_word(v)) return v;
  throw bad_input(say("\"{}\" is not a verdict.", word), say("Use well, fairly or badly."));
}

std::optional<long long> Entry::frames() const {
  if (came) return came->frames;
  if (shot && shot->heard > 0) return shot->heard;
  return {};
}

double Entry::field_s() const {
  if (came && came->field_s > 0) return came->field_s;
  return static_cast<double>(std::max(0LL, planned.frames - 1)) * planned.interval_s;
}

double Entry::film_s() const {
  double longest = 0;
  for (const FilmMade& m : films) longest = std::max(longest, m.seconds);
  if (longest > 0) return longest;
  const long long n = frames().value_or(planned.frames);
  return planned.fps > 0 ? static_cast<double>(n) / planned.fps : 0;
}

Entry merged(const Entry& older, const Entry& newer) {
  Entry e = newer;
  e.id = older.id;
  if (!e.came) e.came = older.came, e.by_frames = older.by_frames;
  // What Level works out knows true changes of light from flicker; a film alone does not.
  if (!e.evened || (older.evened && !older.evened->of_film && e.evened->of_film)) e.evened = older.evened;
  if (!e.shot) e.shot = older.shot, e.by_journal = older.by_journal;
  if (!e.faults) e.faults = older.faults;
  if (e.picture.empty()) e.picture = older.picture;
  if (e.words.none()) e.words = older.words;
  e.films = older.films;
  for (const FilmMade& m : newer.films) {
    const auto had =
        std::find_if(e.films.begin(), e.films.end(), [&](const FilmMade& f) { return f.file == m.file; });
    if (had == e.films.end())
      e.films.push_back(m);
    else
      *had = m;
  }
  return e;
}

Json to_json(const Entry& entry) {
  Json json = Json::object();
  Entry copy = entry;
  Fields fields(json);
  visit(fields, copy);
  return json;
}

Entry entry_from_json(const Json& json, const std::string& name) {
  Entry entry;
  Fields fields(json, name);
  visit(fields, entry);
  return entry;
}

std::string to_text(const Entry& entry) {
  return to_json(entry).dump(-1, ' ', false, Json::error_handler_t::replace);
}

Entry entry_from_text(const std::string& text, const std::string& name) {
  return entry_from_json(parse_json(text, name), name);
}

long long Entry::short_of() const {
  const auto there = frames();
  if (!came || !there || planned.frames <= 0) return 0;
  const long long lost = planned.frames - *there - came->missing;
  return lost > std::max(2LL, planned.frames / 100) ? lost : 0;
}

Json answer_json(const Entry& e, bool there) {
  Json films = Json::array(), faults = Json::object();
  std::error_code ec;
  for (const FilmMade& m : e.films)
    films.push_back({{"file", m.file},
                     {"seconds", rounded(m.seconds, 3)},
                     {"fps", rounded(m.fps, 3)},
                     {"width", m.width},
                     {"height", m.height},
                     {"codec", m.codec},
                     {"there", std::filesystem::exists(m.file, ec)}});
  for (const auto& [code, frames] : e.faults.value_or(std::map<std::string, long long>{}))
    faults[code] = frames;
  const auto interval = e.came && e.came->interval_s ? *e.came->interval_s : e.planned.interval_s;
  const int each = e.came ? e.came->exposures_each : e.planned.exposures_each;
  return {{"name", e.name},
          {"place", e.place.name},
          {"start", e.knows_start() ? Json(format_iso(e.start, e.place.zone)) : Json(nullptr)},
          {"frames", e.frames() ? Json(*e.frames()) : Json(nullptr)},
          {"planned_frames", e.planned.frames > 0 ? Json(e.planned.frames) : Json(nullptr)},
          {"interval_s", interval > 0 ? Json(rounded(interval, 3)) : Json(nullptr)},
          {"exposures_each", each},
          {"flicker_before", e.evened ? Json(rounded(e.evened->before, 4)) : Json(nullptr)},
          {"flicker_after", e.evened ? Json(rounded(e.evened->after, 4)) : Json(nullptr)},
          {"films", films},
          {"verdict", verdict_word(e.words.verdict)},
          {"note", e.words.note},
          {"change", e.words.change},
          {"file", e.file},
          {"there", there},
          {"subject", e.subject},
          {"latitude_deg", e.located() ? Json(rounded(e.place.latitude_deg, 5)) : Json(nullptr)},
          {"longitude_deg", e.located() ? Json(rounded(e.place.longitude_deg, 5)) : Json(nullptr)},
          {"zone", e.place.zone},
          {"fps", e.planned.fps > 0 ? Json(rounded(e.planned.fps, 3)) : Json(nullptr)},
          {"field_s", rounded(e.field_s(), 1)},
          {"missing", e.came ? Json(e.came->missing) : Json(nullptr)},
          {"ended_early", e.short_of() > 0 ? Json(e.short_of()) : Json(nullptr)},
          {"faults", faults}};
}

}  // namespace askcount::book
