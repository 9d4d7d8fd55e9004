// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/kit.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/error.h"
#include "base/fields.h"
#include "base/language.h"

namespace askcount::plan {
namespace {

void visit(Fields& f, Body& b) {
  f.name("name", b.name);
  f.number("sensor_width_mm", b.sensor_width_mm, 1, 100);
  f.number("sensor_height_mm", b.sensor_height_mm, 1, 100);
  f.number("pixels_across", b.pixels_across, 100, 50000);
  f.number("pixels_down", b.pixels_down, 100, 50000);
  f.number("raw_mb", b.raw_mb, 0.1, 2000);
  f.number("compressed_mb", b.compressed_mb, 0.05, 2000);
  f.number("buffer_mb", b.buffer_mb, 0, 100000);
  f.number("power_w", b.power_w, 0.1, 100);
  f.number("screen_w", b.screen_w, 0, 100);
  f.number("write_mb_s", b.write_mb_s, 0.1, 10000);
  f.number("writing_s", b.writing_s, 0, 60);
  f.number("writing_takes", b.writing_takes, 0, 1e6);
  f.number("card_slots", b.card_slots, 1, 2);
  f.flag("press_each", b.press_each);
  f.number("lowest_iso", b.lowest_iso, 1, 1e6);
  f.number("highest_iso", b.highest_iso, 1, 1e7);
  f.number("shortest_shutter_s", b.shortest_shutter_s, 1e-6, 1);
  f.number("longest_shutter_s", b.longest_shutter_s, 0.1, 3600);
  f.number("shutter_life", b.shutter_life, 0, 1e9);
  f.number("shutter_count", b.shutter_count, 0, 1e9);
  f.number("next_file_number", b.next_file_number, 1, 9999);
  f.number("movie_fps", b.movie_fps, 1, 240);
  f.flag("movie_by_time", b.movie_by_time);
  f.number("video_mbit_s", b.video_mbit_s, 0.1, 10000);
  f.number("video_pixels_across", b.video_pixels_across, 160, 20000);
  f.texts("guessed", b.guessed);
  if (f.reading() && b.highest_iso < b.lowest_iso)
    f.fail("highest_iso", say("of ") + b.name + say(" is below its lowest"));
}
void visit(Fields& f, Lens& l) {
  f.name("name", l.name);
  f.number("focal_mm", l.focal_mm, 1, 5000);
  f.number("widest_f", l.widest_f, 0.5, 64);
  f.number("smallest_f", l.smallest_f, 0.5, 128);
  if (f.reading() && l.smallest_f < l.widest_f)
    f.fail("smallest_f", say("of ") + l.name + say(" is wider than its widest"));
}
void visit(Fields& f, TimerWords& w) {
  f.words("delay", w.delay);
  f.words("hold", w.hold);
  f.words("time", w.time);
  f.words("count", w.count);
  f.words("sound", w.sound);
  f.words("each", w.each);
}
void visit(Fields& f, Timer& t) {
  f.name("name", t.name);
  f.choice("counts", t.counts, {{Counts::Interval, "interval"}, {Counts::Gap, "gap"}});
  f.number("smallest_step_s", t.smallest_step_s, 0.01, 60);
  f.number("longest_s", t.longest_s, 1, 1e7);
  f.numbers("intervals", t.intervals, 0.01, 1e7);
  if (f.reading()) std::sort(t.intervals.begin(), t.intervals.end());
  f.number("max_count", t.max_count, 1, 1e9);
  f.flag("endless", t.endless);
  f.flag("holds", t.holds);
  f.flag("starts_by_clock", t.starts_by_clock);
  f.number("shots_each_time", t.shots_each_time, 1, 99);
  f.flag("movie", t.movie);
  f.number("lock_s", t.lock_s, 0, 60);
  f.part("words", t.words, [](Fields& g, TimerWords& w) { visit(g, w); });
}
void visit(Fields& f, Card& c) {
  f.name("name", c.name);
  f.number("capacity_gb", c.capacity_gb, 0.1, 100000);
  f.number("write_mb_s", c.write_mb_s, 0.1, 10000);
  f.number("by_takes", c.by_takes, 0, 1e6);
}
void visit(Fields& f, Battery& b) {
  f.name("name", b.name);
  f.number("rated_shots", b.rated_shots, 1, 1e6);
  f.number("powered_hours", b.powered_hours, 0.05, 10000);
  f.number("rated_at_c", b.rated_at_c, -40, 60);
  f.number("by_takes", b.by_takes, 0, 1e6);
}
void visit(Fields& f, PowerBank& b) {
  f.name("name", b.name);
  f.number("watt_hours", b.watt_hours, 1, 100000);
  f.number("adapter_loss", b.adapter_loss, 0, 0.9);
  f.number("switches_off_below_w", b.switches_off_below_w, 0, 100);
  f.flag("has_button", b.has_button);
}
void visit(Fields& f, Filter& x) {
  f.name("name", x.name);
  f.number("stops", x.stops, 0.1, 30);
  f.flag("polariser", x.polariser);
}
void visit(Fields& f, Lamp& l) {
  f.name("name", l.name);
  f.number("hours", l.hours, 0.05, 10000);
  f.number("flashes", l.flashes, 0, 1e6);
  f.number("guide_m", l.guide_m, 0, 500);
}

void visit(Fields& f, Kit& kit) {
  const auto list = [&f](const char* key, auto& entries) {
    f.list(key, entries, [](Fields& g, auto& entry) { visit(g, entry); });
    if (!f.reading()) return;
    for (size_t i = 0; i < entries.size(); ++i)
      for (size_t k = 0; k < i; ++k)
        if (entries[i].name == entries[k].name)
          f.fail(key, say("has two {} called \"{}\"", key, entries[i].name));
  };
  list("bodies", kit.bodies);
  list("lenses", kit.lenses);
  list("timers", kit.timers);
  list("cards", kit.cards);
  list("batteries", kit.batteries);
  list("filters", kit.filters);
  list("lamps", kit.lamps);
  list("power_banks", kit.power_banks);
  f.number("heater_w", kit.heater_w, 0, 100);
}

}  // namespace

const std::vector<Timer>& shipped_timers() {
  static const std::vector<Timer> list = {
      {.name = "Built-in interval",
       .counts = Counts::Interval,
       .starts_by_clock = true,
       .words = {"Starts", "Shutter", "Every", "Shots", "Sound"}},
      {.name = "Tidewatch cable",
       .counts = Counts::Gap,
       .max_count = 399,
       .endless = true,
       .holds = true,
       .words = {"Wait", "Open", "Rest", "Times", "Chirp"}},
      {.name = "Tidewatch radio",
       .counts = Counts::Interval,
       .smallest_step_s = 0.1,
       .endless = true,
       .words = {"Hold off", "Press", "Every", "Times", "Chirp"}},
      {.name = "Shingle pocket",
       .counts = Counts::Gap,
       .max_count = 999,
       .holds = true,
       .words = {"First", "Light", "Pause", "Number", "Note"}},
      {.name = "Breakwater",
       .counts = Counts::Interval,
       .endless = true,
       .holds = true,
       .shots_each_time = 9,
       .lock_s = 2,
       .words = {"Begin in", "Keep open", "Beat", "Count", "Tone", "Strokes"}},
  };
  return list;
}

const std::vector<Timer>& timers_of(const Kit& kit) {
  return kit.timers.empty() ? shipped_timers() : kit.timers;
}

const Timer& timer_named(const Kit& kit, const std::string& name) {
  std::string known;
  for (const Timer& t : timers_of(kit)) {
    if (t.name == name) return t;
    known += (known.empty() ? "\"" : ", \"") + t.name + "\"";
  }
  throw bad_input(say("There is no timer \"{}\".", name), say("Use one of ") + known + ".");
}

const Kit& demo_kit() {
  static const Kit kit = [] {
    Kit k;
    Body body;
    body.name = "Stand-in 24";
    body.shutter_count = 300;
    body.next_file_number = 214;
    k.bodies = {body};
    k.lenses = {{"Stand-in 24 mm", 24, 2.8, 22}, {"Stand-in 50 mm", 50, 1.8, 16}};
    k.timers = shipped_timers();
    k.cards = {{"Shingle 64", 64, 90}};
    k.batteries = {{"Cell A", 600, 4.5}, {"Cell B", 550, 4}};
    k.filters = {
        {"Grey 3", 3, false}, {"Grey 6", 6, false}, {"Grey 10", 10, false}, {"Polariser", 1.5, true}};
    k.lamps = {{"Sill lamp", 9}};
    return k;
  }();
  return kit;
}

const Kit& example_kit() {
  static const Kit kit = [] {
    Kit k;
    Body body;
    body.name = "An example body";
    k.bodies = {body};
    k.lenses = {{"An example 24 mm", 24, 2.8, 22}};
    k.timers = shipped_timers();
    k.cards = {{"An example card", 64, 90}};
    k.batteries = {{"An example battery", 500, 4}};
    return k;
  }();
  return kit;
}

std::string by_takes_words(long long takes) {
  return takes > 0 ? say(", by {} of yours", counted(takes, "{} take", "{} takes")) : "";
}

Json to_json(const Kit& kit) {
  Json json = {{"askcount_kit", 1}};
  Kit copy = kit;
  Fields fields(json);
  visit(fields, copy);
  return json;
}

Kit kit_from_json(const Json& json, const std::string& name) {
  if (!json.is_object() || !json.contains("askcount_kit"))
    throw bad_input(say("{} is not a kit.", name), say("A kit begins with the key \"askcount_kit\"."));
  const Json& format = json["askcount_kit"];
  if (!format.is_number_integer() || format.get<long long>() < 1)
    throw bad_input(say("{}: \"askcount_kit\" must be the format's number, 1.", name));
  if (format.get<long long>() > 1)
    throw bad_input(say("{} was written by a newer Ask Count.", name), say("It was not changed."));
  Kit kit;
  Fields fields(json, name);
  visit(fields, kit);
  if (kit.bodies.empty()) throw bad_input(say("{}: \"bodies\" needs at least one body.", name));
  if (kit.timers.empty()) kit.timers = shipped_timers();
  return kit;
}

Kit load_kit(const std::filesystem::path& file) {
  return kit_from_json(read_json(file), file.string());
}

}  // namespace askcount::plan
