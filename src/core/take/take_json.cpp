// SPDX-License-Identifier: GPL-3.0-or-later
// The take as JSON: each field is named once, for writing and for reading.
#include <fmt/format.h>

#include "base/error.h"
#include "base/fields.h"
#include "base/files.h"
#include "base/language.h"
#include "image/luminance.h"
#include "simulate/scene.h"
#include "take/film_json.h"
#include "take/light_json.h"
#include "take/take.h"
#include "take/unknown_keys.h"
#include "take/versions.h"

namespace askcount::take {
namespace {

constexpr double kEver = 1e12;
constexpr double kMostFrames = 1e7;

void visit(Fields& f, sky::Place& p) {
  f.words("name", p.name);
  f.number("latitude_deg", p.latitude_deg, -90, 90);
  f.number("longitude_deg", p.longitude_deg, -180, 180);
  f.words("zone", p.zone);
  if (f.reading()) try {
      wall_time({}, p.zone);
    } catch (const Error& e) {
      f.fail("zone", say("cannot be \"{}\": {}", p.zone, e.what()));
    }
  f.number("height_m", p.height_m, -500, 9000);
}

void visit(Fields& f, plan::Wish& w) {
  std::string word = f.reading() ? "" : plan::slot_word(w.slot);
  f.name("slot", word);
  if (f.reading()) {
    const auto slot = plan::slot_of_word(word);
    if (!slot) f.fail("slot", say("cannot be \"{}\": there is no such slot", word));
    w.slot = *slot;
  }
  f.number("value", w.value, -kEver, kEver);
  f.flag("pinned", w.pinned);
  if (!f.reading()) return;
  try {
    plan::check_slot(w.slot, w.value);
  } catch (const Error&) {
    f.fail("value", say("cannot stand for \"{}\"", word));
  }
}

void visit(Fields& f, plan::Metered& m) {
  f.number("shutter_s", m.shutter_s, 1e-7, 1e6);
  f.number("f_number", m.f_number, 0.3, 1000);
  f.number("iso", m.iso, 0.1, 1e8);
}

void visit(Fields& f, plan::Measure& m) {
  using plan::MotionWay;
  f.choice(
      "way", m.way,
      {{MotionWay::Stopwatch, "stopwatch"}, {MotionWay::Pictures, "pictures"}, {MotionWay::Speed, "speed"}});
  f.number("crossing_s", m.crossing_s, 1e-3, kEver);
  f.number("spread_s", m.spread_s, 0, kEver);
  f.number("taps", m.taps, 1, 10000);
}

void visit_shot(Fields& f, Take& t) {
  using plan::CardUse;
  f.number("brackets", t.shot.brackets, 1, 9);
  f.number("bracket_stops", t.shot.bracket_stops, 0, 5);
  f.flag("dark_frames", t.shot.dark_frames);
  f.flag("raw", t.shot.raw);
  f.flag("compressed", t.shot.compressed);
  f.choice("cards", t.shot.cards,
           {{CardUse::InTurn, "turn"}, {CardUse::Both, "both"}, {CardUse::Split, "split"}});
  f.number("turning_s", t.shot.turning_s, 0, 3600);
  f.number("lock_s", t.shot.lock_s, 0, 3600);
  f.number("spare", t.spare, 0, 100000);
}

/// A place that is not set is null.
void visit_place(Fields& f, Take& t) {
  std::optional<sky::Place> place = t.place.known() ? std::optional(t.place) : std::nullopt;
  f.maybe("place", place, [](Fields& g, sky::Place& p) { visit(g, p); });
  if (!f.reading()) return;
  t.place = place.value_or(sky::Place{});
  if (place) sky::check_place(t.place);
  const bool somewhere = t.place.located();
  if (!t.place.known() && somewhere)  // one without a name goes by its coordinates
    t.place.name = sky::format_coordinates(t.place.latitude_deg, t.place.longitude_deg);
}

/// The wall clock at the start holds; its offset is for people and worked out anew from the zone.
void visit_start(Fields& f, Take& t) {
  std::string text = f.reading() || !t.knows_start() ? "" : format_iso(t.start, t.place.zone);
  f.words("start", text);
  if (!f.reading() || text.empty()) return;
  constexpr size_t kWall = 19;  // "2026-10-09T17:50:00"
  try {
    parse_instant(text, t.place.zone);
    t.start = parse_wall_time(text.substr(0, kWall), t.place.zone);
  } catch (const Error& e) {
    f.fail("start", say("cannot be \"{}\": {}", text, e.what()));
  }
}

void visit(Fields& f, StandInWish& s) {
  f.words("scene", s.scene);
  if (f.reading() && !s.scene.empty()) try {
      s.scene = simulate::scene_named(s.scene);
    } catch (const Error& e) {
      f.fail("scene", e.what());
    }
  f.size("frame_size", s.frame_size.width, s.frame_size.height, 16, 20000);
  visit(f, s.camera);
}

/// Ticks are a list in the file and a map in memory.
void visit_ticks(Fields& f, Take& t) {
  struct Tick {
    std::string code;
    Instant at;
  };
  std::vector<Tick> ticks;
  for (const auto& [code, at] : t.ticks) ticks.push_back({code, at});
  f.list("ticks", ticks, [](Fields& g, Tick& tick) {
    g.name("code", tick.code);
    g.moment("at", tick.at);
  });
  for (const Tick& tick : ticks) t.ticks[tick.code] = tick.at;
}

/// Likewise.
void visit_again(Fields& f, Take& t) {
  struct Again {
    std::string code;
    long long takes = 0;
  };
  std::vector<Again> list;
  for (const auto& [code, takes] : t.again) list.push_back({code, takes});
  f.list("again", list, [](Fields& g, Again& a) {
    g.name("code", a.code);
    g.number("takes", a.takes, 1, 1e6);
  });
  for (const Again& a : list) t.again[a.code] = a.takes;
}

void visit(Fields& f, Take& t) {
  f.words("name", t.name);
  f.words("subject", t.subject);
  visit_place(f, t);
  visit_start(f, t);
  f.list("wishes", t.wishes, [](Fields& g, plan::Wish& w) { visit(g, w); });
  for (size_t i = 0; f.reading() && i < t.wishes.size(); ++i)
    for (size_t k = 0; k < i; ++k)
      if (t.wishes[i].slot == t.wishes[k].slot)
        f.fail("wishes", say("has the slot \"{}\" twice", plan::slot_word(t.wishes[i].slot)));
  f.part("shot", t, visit_shot);
  f.part("light", t.light, [](Fields& g, LightPlan& l) { visit(g, l); });
  f.maybe("metered", t.metered, [](Fields& g, plan::Metered& m) { visit(g, m); });
  f.part("outing", t, [](Fields& g, Take& u) {
    g.number("temperature_c", u.temperature_c, -60, 60);
    g.flag("cold_counts", u.cold_counts);
    g.flag("external_power", u.external_power);
    g.flag("lamp", u.lamp);
    g.number("disk_free_gb", u.disk_free_gb, 0, 1e9);
    std::string work = plan::work_text(u.work);
    g.words("work", work);
    if (g.reading()) u.work = plan::parse_work(work);
  });
  f.part("focus", t.focus, [](Fields& g, FocusWish& w) {
    g.number("distance_m", w.distance_m, 0.001, 1e9);
    g.number("declination_deg", w.declination_deg, -90, 90);
    g.number("magnification", w.magnification, 0, 100);
    g.number("grows_mm_per_hour", w.grows_mm_per_hour, 0, 1e6);
  });
  f.part("slider", t.slider, [](Fields& g, plan::Slider& s) {
    g.number("travel_m", s.travel_m, 0, 100);
    g.number("settling_s", s.settling_s, 0, 60);
    g.number("nearest_m", s.nearest_m, 0.01, 1e6);
  });
  f.list("measures", t.measures, [](Fields& g, plan::Measure& m) { visit(g, m); });
  f.texts("test_pictures", t.test_pictures);
  if (f.reading() && !t.test_pictures.empty() && t.test_pictures.size() != 2)
    f.fail("test_pictures", say("must be two files, or none"));
  f.words("timer", t.timer);
  f.part("program", t, [](Fields& g, Take& u) {
    g.choice("start_by", u.start_by,
             {{StartBy::Clock, "clock"}, {StartBy::Delay, "delay"}, {StartBy::Now, "now"}});
    g.number("delay_s", u.delay_s, 0, 360000);
    g.flag("endless", u.endless);
  });
  f.part("film", t.film, [](Fields& g, FilmWish& film) { visit(g, film); });
  f.list("more_films", t.more_films, [](Fields& g, FilmWish& film) { visit(g, film); });
  f.part("stand_in", t.stand_in, [](Fields& g, StandInWish& w) { visit(g, w); });
  visit_ticks(f, t);
  visit_again(f, t);
  f.words("card", t.card);
  f.part("gather", t.gather, [](Fields& g, GatherWish& w) {
    g.texts("more_cards", w.more_cards);
    g.number("choose", w.choose, 0, 100000);
    g.numbers("join", w.join, 1, 100000);
    g.texts("keep", w.keep);
    g.texts("leave_out", w.leave_out);
    g.texts("stand_in", w.stand_in);
    g.texts("fine", w.fine);
    g.words("from", w.from);
    g.words("until", w.until);
    g.number("clock_s", w.clock_s, -1e10, 1e10);
    g.number("film_step", w.film_step, 0, 10000000);
  });
  f.part("level", t.level, [](Fields& g, LevelWish& w) {
    g.number("reach_s", w.reach_s, 0.01, 60);
    g.number("strength", w.strength, 0, 1);
    g.flag("parts", w.parts);
    using media::Blend;
    g.choice("brackets", w.brackets,
             {{Blend::Merged, "merged"}, {Blend::Fused, "fused"}, {Blend::Middle, "middle"}});
    g.numbers("measured", w.measured, 1, image::Luminance::kParts);
    g.numbers("smooth", w.smooth, 1, kMostFrames);
    g.numbers("keep", w.keep, 1, kMostFrames);
  });
  f.part("optics", t.optics, [](Fields& g, optics::Wish& w) { visit(g, w); });
}

}  // namespace

Json to_json(const Take& take) {
  Json json = {{"askcount", kFormat}};
  Take t = take;
  Fields fields(json);
  visit(fields, t);
  json["kit"] = t.knows_kit() ? plan::to_json(t.kit) : Json(nullptr);
  if (t.card.empty()) json["card"] = nullptr;
  if (const plan::Solution s = t.solution(); s.complete())
    json["sums"] = plan::to_json(plan::sums_of(s, t.shape()));
  json["look"] = {{"anchors", look::to_json(t.look.anchors)}, {"cube", t.look.cube}};
  if (!t.unknown.empty()) put_unknown_keys(json, Json::parse(t.unknown));
  return json;
}

Take take_from_json(const Json& given, const std::string& name) {
  const Json json = of_this_version(given, name);
  Fields fields(json, name);
  Take t;
  t.wishes.clear();
  try {
    visit(fields, t);
  } catch (const Error& e) {
    if (std::string_view(e.what()).find(name) != std::string_view::npos) throw;
    throw bad_input(fmt::format("{}: {}", name, e.what()));
  }
  if (fields.has("look")) {
    fields.part("look", t.look, [](Fields& g, LookWish& w) { g.words("cube", w.cube); });
    if (const Json& look = json["look"]; look.contains("anchors"))
      t.look.anchors = look::anchors_from_json(look["anchors"], name);
  }
  if (fields.has("kit") && !json["kit"].is_null()) t.kit = plan::kit_from_json(json["kit"], name);
  Json known = to_json(t);
  known["sums"] = nullptr;  // worked out anew, whatever the file says
  if (const Json unknown = unknown_keys(json, known); !unknown.is_null()) t.unknown = unknown.dump();
  return t;
}

Take load_take(const std::filesystem::path& file) {
  return take_from_json(read_json(file), file.string());
}

std::string to_text(const Take& take) {
  return to_json(take).dump(2) + "\n";
}

void save_take(const Take& take, const std::filesystem::path& file, const Guard& guard) {
  write_file_atomically({file, FileKind::Take, guard}, to_text(take));
}

}  // namespace askcount::take
