// SPDX-License-Identifier: GPL-3.0-or-later
#include "look/anchors.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"
#include "look/monotone.h"

namespace askcount::look {
namespace {

constexpr int kFormat = 1;
constexpr double kMostFrames = 1e7;

auto place_of(std::vector<Anchor>& anchors, long long frame) {
  return std::lower_bound(anchors.begin(), anchors.end(), frame,
                          [](const Anchor& a, long long f) { return a.frame < f; });
}

/// JSON knows no digits: what a double would spell out is cut to what was set.
double tidy(double v) {
  return std::round(v * 1e6) / 1e6;
}

void add_values(const Look& look, Json& json) {
  for (const Lane& lane : lanes())
    if (const double value = tidy(look.*lane.value); value != lane.neutral) json[lane.key] = value;
}

}  // namespace

Look look_at(const Looks& looks, double frame) {
  const std::vector<Anchor>& anchors = looks.anchors;
  if (anchors.empty()) return {};
  if (anchors.size() == 1) return anchors.front().look;
  std::vector<double> x, y(anchors.size());
  for (const Anchor& a : anchors) x.push_back(static_cast<double>(a.frame));
  Look out;
  for (const Lane& lane : lanes()) {
    const auto value = [&](size_t i) { return anchors[i].look.*lane.value; };
    if (std::all_of(anchors.begin(), anchors.end(),
                    [&](const Anchor& a) { return a.look.*lane.value == value(0); })) {
      out.*lane.value = value(0);
      continue;
    }
    const bool warmth = lane.value == &Look::warmth_k;
    for (size_t i = 0; i < y.size(); ++i)
      y[i] = warmth ? 1e6 / (value(i) > 0 ? value(i) : looks.as_shot_k) : value(i);
    const double at = Monotone(x, y)(frame);
    out.*lane.value = warmth ? 1e6 / at : at;
  }
  return out;
}

void set_anchor(std::vector<Anchor>& anchors, long long frame, const Look& look) {
  const auto at = place_of(anchors, frame);
  if (at != anchors.end() && at->frame == frame)
    at->look = look;
  else
    anchors.insert(at, Anchor{frame, look});
}

void remove_anchor(std::vector<Anchor>& anchors, long long frame) {
  std::erase_if(anchors, [&](const Anchor& a) { return a.frame == frame; });
}

Json to_json(const Look& look) {
  Json json = Json::object();
  add_values(look, json);
  return json;
}

Look look_from_json(const Json& json, const std::string& where) {
  if (!json.is_object()) throw bad_input(where + say(": a look is a list of values by their names."));
  Look look;
  for (const auto& [key, value] : json.items()) {
    if (key == "frame") continue;
    const auto lane =
        std::find_if(lanes().begin(), lanes().end(), [&](const Lane& l) { return key == l.key; });
    if (lane == lanes().end()) {
      std::string known;
      for (const Lane& l : lanes()) known += (known.empty() ? "" : ", ") + std::string(l.key);
      throw bad_input(say("{}: \"{}\" is not a value of a look.", where, key),
                      say("There are: ") + known + ".");
    }
    if (!value.is_number()) throw bad_input(say("{}: \"{}\" must be a number.", where, key));
    look.*lane->value = value.get<double>();
  }
  check_look(look, where.c_str());
  return look;
}

Json to_json(const std::vector<Anchor>& anchors) {
  Json list = Json::array();
  for (const Anchor& a : anchors) {
    Json one = {{"frame", a.frame + 1}};
    add_values(a.look, one);
    list.push_back(std::move(one));
  }
  return list;
}

std::vector<Anchor> anchors_from_json(const Json& json, const std::string& where) {
  if (!json.is_array()) throw bad_input(where + say(": anchors are a list."));
  std::vector<Anchor> anchors;
  for (const Json& one : json) {
    const Json* number = one.is_object() && one.contains("frame") ? &one["frame"] : nullptr;
    if (!number || !number->is_number() ||
        !(number->get<double>() >= 1 && number->get<double>() <= kMostFrames) ||
        number->get<double>() != std::floor(number->get<double>()))
      throw bad_input(where + say(": every anchor says its \"frame\", a whole number from 1 on."));
    const auto frame = static_cast<long long>(number->get<double>()) - 1;
    const std::string name = say("{}, frame {}", where, frame + 1);
    if (std::any_of(anchors.begin(), anchors.end(), [&](const Anchor& a) { return a.frame == frame; }))
      throw bad_input(name + say(" is given twice."));
    set_anchor(anchors, frame, look_from_json(one, name));
  }
  return anchors;
}

std::vector<Anchor> load_looks(const std::filesystem::path& file) {
  const Json json = read_json(file);
  if (!json.is_object() || !json.contains("askcount-look"))
    throw bad_input(file.string() + say(" is not a file of looks."),
                    say("It begins with \"askcount-look\": 1 and has \"anchors\"."));
  if (json["askcount-look"] != kFormat)
    throw bad_input(file.string() + say(" is from a newer version."), say("Update Ask Count to read it."));
  if (!json.contains("anchors")) throw bad_input(file.string() + say(" has no \"anchors\"."));
  return anchors_from_json(json["anchors"], file.string());
}

void save_looks(const std::vector<Anchor>& anchors, const std::filesystem::path& file, const Guard& guard) {
  const Json json = {{"askcount-look", kFormat}, {"anchors", to_json(anchors)}};
  write_file_atomically({file, FileKind::Look, guard}, json.dump(2) + "\n");
}

}  // namespace askcount::look
