// SPDX-License-Identifier: GPL-3.0-or-later
#include "take/unknown_keys.h"

#include <fmt/format.h>

#include <map>
#include <nlohmann/json.hpp>

namespace askcount::take {
namespace {

/// How an entry of a list is found again: "name=Cell A", or its place.
std::string identity(const Json& entry, size_t place) {
  for (const char* key : {"name", "slot", "code"})
    if (entry.is_object() && entry.contains(key) && entry[key].is_string())
      return fmt::format("{}={}", key, entry[key].get<std::string>());
  return fmt::format("place={}", place);
}

std::map<std::string, const Json*> entries_of(const Json& list) {
  std::map<std::string, const Json*> entries;
  for (size_t i = 0; i < list.size(); ++i) entries.emplace(identity(list[i], i), &list[i]);
  return entries;
}

}  // namespace

Json unknown_keys(const Json& given, const Json& known) {
  Json rest = nullptr;
  if (given.is_object() && known.is_object()) {
    for (const auto& [key, value] : given.items())
      if (!known.contains(key))
        rest[key] = value;
      else if (Json inner = unknown_keys(value, known[key]); !inner.is_null())
        rest[key] = std::move(inner);
  } else if (given.is_array() && known.is_array()) {
    const auto entries = entries_of(known);
    for (size_t i = 0; i < given.size(); ++i) {
      const std::string name = identity(given[i], i);
      const auto same = entries.find(name);
      if (same == entries.end()) continue;
      if (Json inner = unknown_keys(given[i], *same->second); !inner.is_null()) rest[name] = std::move(inner);
    }
  }
  return rest;
}

void put_unknown_keys(Json& written, const Json& unknown) {
  if (!unknown.is_object()) return;
  if (written.is_object()) {
    for (const auto& [key, value] : unknown.items())
      if (!written.contains(key))
        written[key] = value;
      else
        put_unknown_keys(written[key], value);
  } else if (written.is_array()) {
    for (size_t i = 0; i < written.size(); ++i)
      if (const auto it = unknown.find(identity(written[i], i)); it != unknown.end())
        put_unknown_keys(written[i], *it);
  }
}

}  // namespace askcount::take
