#include "plan/kit.h"

#include <fmt/format.h>

#include <cmath>
#include <functional>

#include "base/error.h"

namespace askcount::plan {
namespace {

/// Goes over the fields of one entry, to write them or to read them: each is named once, with its range.
class Fields {
 public:
  explicit Fields(Json& into) : write_(&into) {}
  Fields(const Json& from, std::string name, std::string path) : read_(&from), name_(std::move(name)), path_(std::move(path)) {
    if (!from.is_object()) throw bad_input(fmt::format("{}: {} must be an object.", name_, path_));
  }

  void words(const char* key, std::string& value) {
    if (write_) (*write_)[key] = value;
    else if (const Json* j = find(key)) {
      if (!j->is_string() || j->get<std::string>().empty()) fail(key, "must be a name");
      value = j->get<std::string>();
    } else if (std::string(key) == "name") {
      fail(key, "is missing");
    }
  }

  template <typename Number>
  void number(const char* key, Number& value, double low, double high) {
    if (write_) {
      (*write_)[key] = value;
      return;
    }
    const Json* j = find(key);
    if (!j) return;
    if (!j->is_number()) fail(key, "must be a number");
    const double v = j->get<double>();
    if (!(v >= low && v <= high)) fail(key, fmt::format("must be from {} to {}", format_number(low, 3), format_number(high, 3)));
    if (std::is_integral_v<Number> && v != std::floor(v)) fail(key, "must be whole");
    value = static_cast<Number>(v);
  }

  void flag(const char* key, bool& value) {
    if (write_) (*write_)[key] = value;
    else if (const Json* j = find(key)) {
      if (!j->is_boolean()) fail(key, "must be true or false");
      value = j->get<bool>();
    }
  }

 private:
  const Json* find(const char* key) const {
    const auto it = read_->find(key);
    return it == read_->end() || it->is_null() ? nullptr : &*it;
  }
  [[noreturn]] void fail(const char* key, const std::string& why) const {
    throw bad_input(fmt::format("{}: \"{}.{}\" {}.", name_, path_, key, why));
  }

  Json* write_ = nullptr;
  const Json* read_ = nullptr;
  std::string name_, path_;
};

void visit(Fields& f, Body& b) {
  f.words("name", b.name);
  f.number("sensor_width_mm", b.sensor_width_mm, 1, 100);
  f.number("sensor_height_mm", b.sensor_height_mm, 1, 100);
  f.number("pixels_across", b.pixels_across, 100, 50000);
  f.number("pixels_down", b.pixels_down, 100, 50000);
  f.number("raw_mb", b.raw_mb, 0.1, 2000);
  f.number("compressed_mb", b.compressed_mb, 0.05, 2000);
  f.number("buffer_mb", b.buffer_mb, 0, 100000);
  f.number("write_mb_s", b.write_mb_s, 0.1, 10000);
  f.number("writing_s", b.writing_s, 0, 60);
  f.number("lowest_iso", b.lowest_iso, 1, 1e6);
  f.number("highest_iso", b.highest_iso, 1, 1e7);
  f.number("shutter_life", b.shutter_life, 0, 1e9);
  f.number("shutter_count", b.shutter_count, 0, 1e9);
  f.number("next_file_number", b.next_file_number, 1, 9999);
  f.number("movie_fps", b.movie_fps, 1, 240);
  f.number("video_mbit_s", b.video_mbit_s, 0.1, 10000);
}
void visit(Fields& f, Lens& l) {
  f.words("name", l.name);
  f.number("focal_mm", l.focal_mm, 1, 5000);
  f.number("widest_f", l.widest_f, 0.5, 64);
  f.number("smallest_f", l.smallest_f, 0.5, 128);
}
void visit(Fields& f, Card& c) {
  f.words("name", c.name);
  f.number("capacity_gb", c.capacity_gb, 0.1, 100000);
  f.number("write_mb_s", c.write_mb_s, 0.1, 10000);
}
void visit(Fields& f, Battery& b) {
  f.words("name", b.name);
  f.number("rated_shots", b.rated_shots, 1, 1e6);
  f.number("powered_hours", b.powered_hours, 0.05, 10000);
}
void visit(Fields& f, Filter& x) {
  f.words("name", x.name);
  f.number("stops", x.stops, 0.1, 30);
  f.flag("polariser", x.polariser);
}

template <typename Entry>
Json written(const std::vector<Entry>& list) {
  Json out = Json::array();
  for (Entry entry : list) {
    Json json;
    Fields fields(json);
    visit(fields, entry);
    out.push_back(json);
  }
  return out;
}

template <typename Entry>
void read_list(const Json& json, const char* key, std::vector<Entry>& into, const std::string& name) {
  const auto it = json.find(key);
  if (it == json.end()) return;
  if (!it->is_array()) throw bad_input(fmt::format("{}: \"{}\" must be a list.", name, key));
  for (size_t i = 0; i < it->size(); ++i) {
    Entry entry;
    Fields fields((*it)[i], name, fmt::format("{}[{}]", key, i));
    visit(fields, entry);
    for (const Entry& other : into)
      if (other.name == entry.name) throw bad_input(fmt::format("{}: there are two {} called \"{}\".", name, key, entry.name));
    into.push_back(std::move(entry));
  }
}

}  // namespace

const Kit& demo_kit() {
  static const Kit kit = [] {
    Kit k;
    Body body;
    body.name = "Stand-in 24";
    body.shutter_count = 300;
    body.next_file_number = 214;
    k.bodies = {body};
    k.lenses = {{"Stand-in 24 mm", 24, 2.8, 22}, {"Stand-in 50 mm", 50, 1.8, 16}};
    k.cards = {{"Shingle 64", 64, 90}};
    k.batteries = {{"Cell A", 600, 4.5}, {"Cell B", 550, 4}};
    k.filters = {{"Grey 3", 3, false}, {"Grey 6", 6, false}, {"Grey 10", 10, false}, {"Polariser", 1.5, true}};
    return k;
  }();
  return kit;
}

Json to_json(const Kit& kit) {
  return {{"askcount_kit", 1},
          {"bodies", written(kit.bodies)},
          {"lenses", written(kit.lenses)},
          {"cards", written(kit.cards)},
          {"batteries", written(kit.batteries)},
          {"filters", written(kit.filters)}};
}

Kit kit_from_json(const Json& json, const std::string& name) {
  if (!json.is_object() || !json.contains("askcount_kit"))
    throw bad_input(fmt::format("{} is not a kit.", name), "A kit begins with the key \"askcount_kit\".");
  if (!json["askcount_kit"].is_number_integer() || json["askcount_kit"].get<long long>() != 1)
    throw bad_input(fmt::format("{} was written by a newer Ask Count.", name), "It was not changed.");
  Kit kit;
  read_list(json, "bodies", kit.bodies, name);
  read_list(json, "lenses", kit.lenses, name);
  read_list(json, "cards", kit.cards, name);
  read_list(json, "batteries", kit.batteries, name);
  read_list(json, "filters", kit.filters, name);
  if (kit.bodies.empty()) throw bad_input(fmt::format("{}: \"bodies\" needs at least one body.", name));
  for (const Body& b : kit.bodies)
    if (b.highest_iso < b.lowest_iso) throw bad_input(fmt::format("{}: \"{}\" has a highest ISO below its lowest.", name, b.name));
  for (const Lens& l : kit.lenses)
    if (l.smallest_f < l.widest_f) throw bad_input(fmt::format("{}: \"{}\" has its smallest aperture wider than its widest.", name, l.name));
  return kit;
}

Kit load_kit(const std::filesystem::path& file) { return kit_from_json(read_json(file), file.string()); }

}  // namespace askcount::plan
