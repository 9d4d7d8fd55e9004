#include "take/unknown_keys.h"

#include <fmt/format.h>

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

const Json* entry_of(const Json& list, const std::string& wanted) {
  for (size_t i = 0; i < list.size(); ++i)
    if (identity(list[i], i) == wanted) return &list[i];
  return nullptr;
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
    for (size_t i = 0; i < given.size(); ++i) {
      const std::string name = identity(given[i], i);
      const Json* same = entry_of(known, name);
      if (!same) continue;
      if (Json inner = unknown_keys(given[i], *same); !inner.is_null()) rest[name] = std::move(inner);
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
