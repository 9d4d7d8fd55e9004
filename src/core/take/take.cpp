#include "take/take.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/error.h"
#include "base/files.h"
#include "standin/tern_quay.h"

namespace askcount::take {
namespace {

constexpr int kFormat = 1;

/// Reads the keys of one object; every error names the document and the key.
class Reader {
 public:
  Reader(const Json& json, std::string name, std::string path) : json_(json), name_(std::move(name)), path_(std::move(path)) {
    if (!json.is_object()) throw bad_input(fmt::format("{}: {} must be an object.", name_, path_.empty() ? "it" : path_));
  }

  bool has(const char* key) const { return json_.contains(key) && !json_[key].is_null(); }

  template <typename T>
  void read(const char* key, T& into) const {
    if (!has(key)) return;
    try {
      json_[key].get_to(into);
    } catch (const Json::exception&) {
      throw bad_input(fmt::format("{}: \"{}{}\" has the wrong kind of value.", name_, path_, key));
    }
  }
  void positive(const char* key, double& into) const {
    read(key, into);
    if (!(into > 0)) throw bad_input(fmt::format("{}: \"{}{}\" must be above zero.", name_, path_, key));
  }
  Reader within(const char* key) const { return {json_[key], name_, path_ + key + "."}; }
  const Json& list(const char* key) const {
    if (!json_[key].is_array()) throw bad_input(fmt::format("{}: \"{}{}\" must be a list.", name_, path_, key));
    return json_[key];
  }

 private:
  const Json& json_;
  std::string name_, path_;
};

picture::Size read_size(const Reader& r, const char* key, picture::Size size, const std::string& name) {
  if (!r.has(key)) return size;
  std::vector<int> two{size.width, size.height};
  r.read(key, two);
  if (two.size() != 2 || two[0] < 16 || two[1] < 16 || two[0] > 20000 || two[1] > 20000)
    throw bad_input(fmt::format("{}: \"{}\" must be a width and a height.", name, key));
  return {two[0], two[1]};
}

}  // namespace

plan::Solution Take::solution() const {
  // What was said last holds; then the frame rate, which no other slot may bend; then what is pinned; then the rest.
  std::vector<plan::Wish> order = wishes;
  if (!order.empty()) {
    const auto pins = std::stable_partition(order.begin() + 1, order.end(),
                                            [](const plan::Wish& w) { return w.slot == plan::Slot::Fps; });
    std::stable_partition(pins, order.end(), [](const plan::Wish& w) { return w.pinned; });
  }
  return plan::solve(order, shape());
}

plan::ShotCycle Take::cycle(Seconds shutter_s) const {
  return plan::cycle_of(shot, body(), kit.cards.empty() ? nullptr : &kit.cards.front(), shutter_s);
}

plan::Outing Take::outing() const {
  return {temperature_c, external_power, timer::timer_named(timer).max_count, 0};
}

timer::Program Take::program() const { return timer::program_for(sums(), timer::timer_named(timer)); }

void Take::wish(plan::Slot slot, double value) {
  plan::Wish wish{slot, value, false};
  if (const plan::Wish* old = wished(slot)) wish.pinned = old->pinned;
  release(slot);
  wishes.insert(wishes.begin(), wish);
}

void Take::release(plan::Slot slot) {
  std::erase_if(wishes, [slot](const plan::Wish& w) { return w.slot == slot; });
}

void Take::pin(plan::Slot slot, bool pinned) {
  for (plan::Wish& w : wishes)
    if (w.slot == slot) w.pinned = pinned;
}

const plan::Wish* Take::wished(plan::Slot slot) const {
  const auto it = std::find_if(wishes.begin(), wishes.end(), [slot](const plan::Wish& w) { return w.slot == slot; });
  return it == wishes.end() ? nullptr : &*it;
}

Take demo_take() {
  Take take;
  take.name = "Boats on the flood tide";
  take.subject = "clouds";
  take.place = standin::tern_quay_place();
  take.start = parse_wall_time("2026-10-09 17:50", take.place.zone);
  take.metered = plan::Metered{1.0 / 125, 8, 100};
  take.wish(plan::Slot::Trail, 0.2);
  take.wish(plan::Slot::ScreenCrossing, 4);
  take.wish(plan::Slot::FieldCrossing, standin::kCloudCrossing_s);
  take.wish(plan::Slot::Fps, 25);
  take.wish(plan::Slot::Clip, 10);
  return take;
}

Json to_json(const Take& t) {
  Json wishes = Json::array();
  for (const plan::Wish& w : t.wishes)
    wishes.push_back({{"slot", plan::slot_word(w.slot)}, {"value", w.value}, {"pinned", w.pinned}});
  Json json = {{"askcount", kFormat},
               {"name", t.name},
               {"subject", t.subject},
               {"place",
                {{"name", t.place.name},
                 {"latitude_deg", t.place.latitude_deg},
                 {"longitude_deg", t.place.longitude_deg},
                 {"zone", t.place.zone}}},
               {"start", format_iso(t.start, t.place.zone)},
               {"wishes", wishes},
               {"kit", plan::to_json(t.kit)},
               {"shot",
                {{"brackets", t.shot.brackets},
                 {"bracket_stops", t.shot.bracket_stops},
                 {"dark_frames", t.shot.dark_frames},
                 {"raw", t.shot.raw},
                 {"compressed", t.shot.compressed},
                 {"turning_s", t.shot.turning_s},
                 {"lock_s", t.shot.lock_s},
                 {"spare", t.spare}}},
               {"metered", t.metered ? Json{{"shutter_s", t.metered->shutter_s}, {"f_number", t.metered->f_number}, {"iso", t.metered->iso}}
                                     : Json(nullptr)},
               {"outing", {{"temperature_c", t.temperature_c}, {"external_power", t.external_power}}},
               {"timer", t.timer},
               {"film", {{"size", {t.film.size.width, t.film.size.height}}, {"quality", t.film.quality}}},
               {"stand_in",
                {{"frame_size", {t.frame_size.width, t.frame_size.height}},
                 {"aperture_spread_stops", t.camera.aperture_spread_stops},
                 {"noise", t.camera.noise},
                 {"quality", t.camera.quality},
                 {"seed", t.camera.seed}}},
               {"card", t.card.empty() ? Json(nullptr) : Json(t.card)}};
  if (const plan::Solution s = t.solution(); s.complete()) json["sums"] = plan::to_json(plan::sums_of(s, t.shape()));
  return json;
}

Take take_from_json(const Json& json, const std::string& name) {
  if (!json.is_object() || !json.contains("askcount"))
    throw bad_input(fmt::format("{} is not a take.", name), "A take begins with the key \"askcount\".");
  const Reader top(json, name, "");
  int format = 0;
  top.read("askcount", format);
  if (format > kFormat)
    throw bad_input(fmt::format("{} was written by a newer Ask Count (format {}, this one reads {}).", name, format, kFormat),
                    "Open it with the newer one; it was not changed.");
  if (format < 1) throw bad_input(fmt::format("{}: \"askcount\" must be the format's number.", name));
  Take t;
  t.wishes.clear();
  top.read("name", t.name);
  top.read("subject", t.subject);
  if (top.has("place")) {
    const Reader place = top.within("place");
    place.read("name", t.place.name);
    place.read("latitude_deg", t.place.latitude_deg);
    place.read("longitude_deg", t.place.longitude_deg);
    place.read("zone", t.place.zone);
  }
  sky::check_place(t.place);
  if (top.has("start")) {
    std::string start;
    top.read("start", start);
    t.start = parse_wall_time(start.substr(0, 19), t.place.zone);
  }
  if (top.has("wishes"))
    for (const Json& entry : top.list("wishes")) {
      const Reader w(entry, name, "wishes.");
      std::string word;
      plan::Wish wish;
      w.read("slot", word);
      const auto slot = plan::slot_of_word(word);
      if (!slot) throw bad_input(fmt::format("{}: there is no slot \"{}\".", name, word));
      wish.slot = *slot;
      w.read("value", wish.value);
      w.read("pinned", wish.pinned);
      try {
        plan::check_slot(wish.slot, wish.value);
      } catch (const Error& e) {
        throw bad_input(fmt::format("{}: {}", name, e.what()));
      }
      if (t.wished(wish.slot)) throw bad_input(fmt::format("{}: the slot \"{}\" is wished for twice.", name, word));
      t.wishes.push_back(wish);
    }
  if (top.has("kit")) t.kit = plan::kit_from_json(json["kit"], name);
  if (top.has("shot")) {
    const Reader shot = top.within("shot");
    shot.read("brackets", t.shot.brackets);
    shot.read("bracket_stops", t.shot.bracket_stops);
    shot.read("dark_frames", t.shot.dark_frames);
    shot.read("raw", t.shot.raw);
    shot.read("compressed", t.shot.compressed);
    shot.read("turning_s", t.shot.turning_s);
    shot.read("lock_s", t.shot.lock_s);
    shot.read("spare", t.spare);
    if (t.shot.brackets < 1 || t.shot.brackets > 9 || !(t.shot.bracket_stops >= 0 && t.shot.bracket_stops <= 5) || t.spare < 0 ||
        t.spare > 100000 || !(t.shot.turning_s >= 0) || !(t.shot.lock_s >= 0))
      throw bad_input(fmt::format("{}: \"shot\" has a value out of range.", name));
  }
  if (top.has("metered")) {
    const Reader metered = top.within("metered");
    t.metered.emplace();
    metered.positive("shutter_s", t.metered->shutter_s);
    metered.positive("f_number", t.metered->f_number);
    metered.positive("iso", t.metered->iso);
  }
  if (top.has("outing")) {
    const Reader outing = top.within("outing");
    outing.read("temperature_c", t.temperature_c);
    outing.read("external_power", t.external_power);
  }
  top.read("timer", t.timer);
  timer::timer_named(t.timer);
  if (top.has("film")) {
    const Reader film = top.within("film");
    t.film.size = read_size(film, "size", t.film.size, name);
    film.read("quality", t.film.quality);
  }
  if (top.has("stand_in")) {
    const Reader s = top.within("stand_in");
    t.frame_size = read_size(s, "frame_size", t.frame_size, name);
    s.read("aperture_spread_stops", t.camera.aperture_spread_stops);
    s.read("noise", t.camera.noise);
    s.read("quality", t.camera.quality);
    s.read("seed", t.camera.seed);
  }
  top.read("card", t.card);
  return t;
}

Take load_take(const std::filesystem::path& file) { return take_from_json(read_json(file), file.string()); }

void save_take(const Take& take, const std::filesystem::path& file) {
  write_file_atomically(file, to_json(take).dump(2) + "\n");
}

}  // namespace askcount::take
