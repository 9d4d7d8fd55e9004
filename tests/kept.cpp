// SPDX-License-Identifier: GPL-3.0-or-later
#include "kept.h"

#include <fmt/format.h>
#include <gtest/gtest.h>

#include <cmath>
#include <cstdlib>
#include <set>

#include "base/files.h"
#include "base/json.h"
#include "support.h"

namespace askcount::test {
namespace {

/// Of the world and not of the sums (time, files, the lenses there are records of): neither kept nor
/// compared.
bool passes(const std::string& key) {
  static const std::set<std::string> words = {"seconds_taken", "seconds", "bytes",    "made",
                                              "book",          "sha256",  "took_s",   "thumbnail",
                                              "changed",       "ticked",  "mb_per_s", "like"};
  return words.contains(key);
}

/// Finds where two answers differ.
void differences(const Json& kept, const Json& now, Held held, const std::string& at,
                 std::vector<std::string>& list) {
  if (list.size() > 20) return;
  if (kept.is_number() && now.is_number()) {
    const double a = kept, b = now;
    const double room = held == Held::Exactly ? 1e-6 * std::max(std::abs(a), 1e-3)
                        : held == Held::Drawn ? 1e-3 * std::max(std::abs(a), 1.0)
                                              : 0.02 * std::max(std::abs(a), 0.5);
    if (!(std::abs(a - b) <= room)) list.push_back(fmt::format("{}: {} was {}", at, b, a));
  } else if (kept.type() != now.type()) {
    list.push_back(fmt::format("{}: {} was {}", at, now.dump(), kept.dump()));
  } else if (kept.is_object()) {
    for (const auto& [key, value] : kept.items()) {
      if (passes(key)) continue;
      if (!now.contains(key))
        list.push_back(fmt::format("{}/{} is gone", at, key));
      else
        differences(value, now[key], held, at + "/" + key, list);
    }
    for (const auto& [key, value] : now.items())
      if (!kept.contains(key) && !passes(key)) list.push_back(fmt::format("{}/{} is new", at, key));
  } else if (kept.is_array()) {
    if (kept.size() != now.size())
      list.push_back(fmt::format("{}: {} of them, there were {}", at, now.size(), kept.size()));
    for (size_t i = 0; i < std::min(kept.size(), now.size()); ++i)
      differences(kept[i], now[i], held, fmt::format("{}/{}", at, i), list);
  } else if (kept.is_string()) {
    const bool number_in_it = kept.get<std::string>().find_first_of("0123456789") != std::string::npos;
    if (kept != now && !(held == Held::Measured && number_in_it))
      list.push_back(fmt::format("{}: {} was {}", at, now.dump(), kept.dump()));
  } else if (kept != now) {
    list.push_back(fmt::format("{}: {} was {}", at, now.dump(), kept.dump()));
  }
}

/// What is kept of an answer: numbers to their seventh digit.
Json to_keep(const Json& json) {
  if (json.is_array()) {
    Json list = Json::array();
    for (const Json& one : json) list.push_back(to_keep(one));
    return list;
  }
  if (json.is_number_float()) return Json::parse(fmt::format("{:.7g}", json.get<double>()));
  if (!json.is_object()) return json;
  Json object = Json::object();
  for (const auto& [key, value] : json.items())
    if (!passes(key)) object[key] = to_keep(value);
  return object;
}

constexpr const char* kElsewhere = "…";

/// Takes the sentences out of an answer, by where they stand in it: numbers and words of one kind stay.
void part(Json& json, const Json::json_pointer& at, Json& prose) {
  if (json.is_structured()) {
    for (auto one = json.begin(); one != json.end(); ++one)
      part(*one, json.is_array() ? at / static_cast<size_t>(one - json.begin()) : at / one.key(), prose);
  } else if (json.is_string() && json.get<std::string>().find(' ') != std::string::npos) {
    prose[at.to_string()] = json;
    json = kElsewhere;
  }
}

fs::path file_of(const std::string& name, const char* ending) {
  return fs::path(ASKCOUNT_SOURCE) / "tests/data/answers" / (name + ending);
}

/// Writes an answer: NAME.json with a value a line, NAME.words.json with its sentences by their places.
void keep(Json json, const std::string& name) {
  Json prose = Json::object();
  part(json, Json::json_pointer(), prose);
  const fs::path kept = file_of(name, ".json"), words = file_of(name, ".words.json");
  fs::create_directories(kept.parent_path());
  test::write(kept, json.dump(1) + "\n");
  fs::remove(words);
  if (!prose.empty()) test::write(words, prose.dump(1) + "\n");
}

Json kept_answer(const std::string& name) {
  Json json = read_json(file_of(name, ".json"));
  const fs::path words = file_of(name, ".words.json");
  if (!fs::exists(words)) return json;
  const Json prose = read_json(words);
  for (const auto& [at, text] : prose.items()) json[Json::json_pointer(at)] = text;
  return json;
}

}  // namespace

void hold(const Json& now, const std::string& name, Held held) {
  if (std::getenv("ASKCOUNT_KEEP_ANSWERS") != nullptr) return keep(to_keep(now), name);
  ASSERT_TRUE(fs::exists(file_of(name, ".json"))) << name << ": not kept yet; see kept.h";
  std::vector<std::string> list;
  differences(kept_answer(name), now, held, "", list);
  EXPECT_TRUE(list.empty()) << name << ":\n  " << fmt::format("{}", fmt::join(list, "\n  "));
}

}  // namespace askcount::test
