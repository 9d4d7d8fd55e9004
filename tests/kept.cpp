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

/// A list with a line for each in it, so that differences are read; anything else indented.
std::string lines_of(const Json& json) {
  if (!json.is_array()) return json.dump(1);
  std::string lines;
  for (const Json& one : json) lines += (lines.empty() ? "[\n" : ",\n") + one.dump();
  return lines + "\n]";
}

}  // namespace

void hold(const Json& now, const std::string& name, Held held) {
  const test::fs::path kept = test::fs::path(ASKCOUNT_SOURCE) / "tests/data/answers" / (name + ".json");
  if (std::getenv("ASKCOUNT_KEEP_ANSWERS") != nullptr) {
    test::fs::create_directories(kept.parent_path());
    test::write(kept, lines_of(to_keep(now)) + "\n");
    return;
  }
  ASSERT_TRUE(test::fs::exists(kept)) << kept << ": see the head of this file";
  std::vector<std::string> list;
  differences(read_json(kept), now, held, "", list);
  EXPECT_TRUE(list.empty()) << name << ":\n  " << fmt::format("{}", fmt::join(list, "\n  "));
}

}  // namespace askcount::test
