// SPDX-License-Identifier: GPL-3.0-or-later
#include "take/versions.h"

#include <fmt/format.h>

#include "base/error.h"
#include "base/fields.h"
#include "base/language.h"

namespace askcount::take {
namespace {

/// From version 1 to 2.
void bring_to_2(Json& take) {
  if (!take.contains("shot") || !take["shot"].is_object()) return;
  Json& shot = take["shot"];
  if (shot.contains("cards") && shot["cards"] == "in turn") shot["cards"] = "turn";
}

void rename(Json& take, const char* part, const char* from, const char* to) {
  if (!take.contains(part) || !take[part].is_object() || !take[part].contains(from)) return;
  Json& inner = take[part];
  inner[to] = inner[from];
  inner.erase(from);
}

/// From version 2 to 3.
void bring_to_3(Json& take) {
  rename(take, "light", "school", "method");
  rename(take, "optics", "eye_stops", "vignetting_stops");
}

}  // namespace

Json of_this_version(Json take, const std::string& name) {
  if (!take.is_object() || !take.contains("askcount"))
    throw bad_input(say("{} is not a take.", name), say("A take begins with the key \"askcount\"."));
  int format = 0;
  Fields(take, name).number("askcount", format, 0, 1e9);
  if (format > kFormat)
    throw bad_input(
        say("{} was written by a newer Ask Count (format {}, this one reads {}).", name, format, kFormat),
        say("Open it with the newer one; it was not changed."));
  if (format < 1) throw bad_input(say("{}: \"askcount\" must be the format's number.", name));
  if (format < 2) bring_to_2(take);
  if (format < 3) bring_to_3(take);
  take["askcount"] = kFormat;
  return take;
}

}  // namespace askcount::take
