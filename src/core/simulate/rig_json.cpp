// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/rig_json.h"

#include <fmt/format.h>

#include "base/error.h"
#include "base/fields.h"
#include "ramp/ramp_json.h"
#include "simulate/scene.h"

namespace askcount::simulate {
namespace {

void visit_timer(Fields& f, RigSetting& s) {
  f.words("name", s.timer.name);
  f.choice("counts", s.timer.counts, {{plan::Counts::Interval, "interval"}, {plan::Counts::Gap, "gap"}});
  f.flag("holds", s.timer.holds);
  f.number("delay_s", s.delay_s, 0, 360000);
  f.number("hold_s", s.hold_s, 0, 360000);
  f.number("time_s", s.time_s, 0, 1e7);
  f.number("count", s.count, 0, 100000);
}

void visit_camera(Fields& f, RigSetting& s) {
  f.part("dials", s.exposure, [](Fields& g, ramp::Exposure& e) { ramp::visit(g, e); });
  f.list("clicks", s.clicks, [](Fields& g, ramp::Click& c) { ramp::visit(g, c); });
  f.number("longest_shutter_s", s.rule.longest_shutter_s, 1e-6, 36000);
  f.number("shortest_shutter_s", s.rule.shortest_shutter_s, 1e-7, 36000);
  f.number("widest_f", s.rule.widest_f, 0.5, 128);
  f.number("start_f", s.rule.start_f, 0.5, 128);
  f.number("lowest_iso", s.rule.lowest_iso, 1, 1e7);
  f.number("highest_iso", s.rule.highest_iso, 1, 1e7);
  f.number("filter_stops", s.filter_stops, 0, 40);
  f.number("filters_off", s.filters_off, -1, 1e9);
  f.flag("bulb", s.bulb);
  f.number("shot_mb", s.shot_mb, 0, 1e6);
  f.number("brackets", s.brackets, 1, 9);
  f.number("bracket_stops", s.bracket_stops, 0, 5);
  f.flag("dark_frames", s.dark_frames);
  f.flag("raw", s.raw);
  f.flag("compressed", s.compressed);
  f.flag("auto_white_balance", s.auto_white_balance);
  f.flag("auto_focus", s.auto_focus);
  f.flag("stabiliser", s.stabiliser);
  f.number("writing_s", s.body.writing_s, 0, 600);
  f.number("raw_mb", s.body.raw_mb, 0, 10000);
  f.number("compressed_mb", s.body.compressed_mb, 0, 10000);
  f.number("buffer_mb", s.body.buffer_mb, 0, 1e6);
  f.number("write_mb_s", s.body.write_mb_s, 0.001, 1e6);
  visit(f, s.camera);
  f.size("frame_size", s.size.width, s.size.height, 24, 20000);
  f.number("first_number", s.first_number, 1, 1000000);
  f.number("test_shots", s.test_shots, 0, 99);
  f.flag("markers", s.markers);
}

void visit(Fields& f, RigSetting& s) {
  f.words("scene", s.scene);
  if (f.reading()) s.scene = scene_named(s.scene);
  f.words("zone", s.zone);
  if (f.reading()) wall_time(s.start, s.zone);  // is there such a zone?
  f.moment("start", s.start, s.zone);
  std::string work = plan::work_text(s.work);
  f.words("work", work);
  if (f.reading()) s.work = plan::parse_work(work);
  f.number("latitude_deg", s.place.latitude_deg, -90, 90);
  f.number("longitude_deg", s.place.longitude_deg, -180, 180);
  f.words("place", s.place.name);
  s.place.zone = s.zone;
  f.maybe("aim", s.aim, [](Fields& g, sky::Aim& a) {
    g.number("bearing_deg", a.bearing_deg, -720, 720);
    g.number("tilt_deg", a.tilt_deg, -90, 90);
    g.number("roll_deg", a.roll_deg, -180, 180);
  });
  f.number("haste", s.haste, 1e-4, 1e4);
  f.number("light_stops", s.light_stops, -40, 40);
  f.part("timer", s, visit_timer);
  f.part("camera", s, visit_camera);
  std::string card = s.card.string();
  f.words("card", card);
  s.card = card;
  f.number("card_gb", s.card_gb, 0, 1e12);
  f.number("battery_shots", s.battery.rated_shots, 1, 1e9);
  f.number("battery_hours", s.battery.powered_hours, 0.001, 1e6);
  f.numbers("more_cards_gb", s.more_cards_gb, 0, 1e12);
  f.list("more_batteries", s.more_batteries, [](Fields& g, plan::Battery& b) {
    g.number("shots", b.rated_shots, 1, 1e9);
    g.number("hours", b.powered_hours, 0.001, 1e6);
    g.number("rated_at_c", b.rated_at_c, -60, 60);
  });
  f.number("rated_at_c", s.battery.rated_at_c, -60, 60);
  f.flag("external_power", s.external_power);
  f.number("bank_s", s.bank_s, 0, 1e9);
  f.number("waiting_s", s.waiting_s, 0, 1e9);
  f.number("temperature_c", s.temperature_c, -60, 60);
  f.number("chance", s.chance, 0, 1);
  f.number("scale", s.scale, 0, 1e6);
  std::vector<std::string> faults;
  for (const Fault& x : s.faults)
    faults.push_back(fmt::format("{}@{}={}", fault_word(x.kind), x.at + 1, x.amount));
  f.texts("faults", faults);
  if (!f.reading()) return;
  s.faults.clear();
  for (std::string text : faults) {
    // An amount of 0 stands for none said; parse_fault takes only amounts that say something.
    if (text.ends_with("=0")) text.resize(text.size() - 2);
    s.faults.push_back(parse_fault(text));
  }
}

}  // namespace

Json to_json(const RigSetting& setting) {
  Json json = Json::object();
  RigSetting copy = setting;
  Fields fields(json);
  visit(fields, copy);
  return json;
}

RigSetting rig_from_json(const Json& json, const RigSetting& base) {
  RigSetting s = base;
  Fields fields(json, "The rig");
  visit(fields, s);
  return s;
}

Json to_json(const RigEvent& e, long long number) {
  static constexpr const char* kinds[] = {"shot", "missed", "fault", "done"};
  Json json = {{"event", kinds[static_cast<int>(e.kind)]},
               {"number", number},
               {"index", e.index},
               {"press", e.press},
               {"start", format_iso(e.start, "UTC")},
               {"start_ms", e.start.time_since_epoch().count()},
               {"battery", rounded(e.battery, 4)},
               {"card", rounded(e.card, 6)},
               {"buffer", rounded(e.buffer, 4)},
               {"done", e.done},
               {"total", e.total}};
  if (!e.what.empty()) json["what"] = e.what;
  if (!e.words.empty()) json["words"] = e.words;
  if (!e.files.empty()) json["files"] = e.files;
  if (e.kind == RigEvent::Kind::Shot)
    json["exposure"] = {
        {"shutter_s", e.exposure.shutter_s}, {"f_number", e.exposure.f_number}, {"iso", e.exposure.iso}};
  return json;
}

}  // namespace askcount::simulate
