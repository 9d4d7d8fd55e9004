// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/json.h"

#include <fmt/format.h>

#include <cmath>

#include "base/error.h"
#include "base/files.h"
#include "base/json_templates.h"
#include "base/language.h"

template class nlohmann::basic_json<nlohmann::ordered_map>;
template class nlohmann::detail::serializer<askcount::Json>;
template class nlohmann::detail::parser<askcount::Json, askcount::JsonText>;
template class nlohmann::detail::lexer<askcount::Json, askcount::JsonText>;

namespace askcount {

Json parse_json(std::string_view text, const std::string& name) {
  const auto shallow = [&](int depth, Json::parse_event_t event, const Json&) {
    if (depth >= kDeepestJson &&
        (event == Json::parse_event_t::object_start || event == Json::parse_event_t::array_start))
      throw bad_input(say("{} is damaged: it nests more than {} deep.", name, kDeepestJson),
                      say("Restore it from a copy."));
    return true;
  };
  try {
    return Json::parse(text.begin(), text.end(), shallow);
  } catch (const Json::parse_error& e) {
    throw bad_input(say("{} is damaged: it stops being JSON at byte {}.", name, e.byte),
                    say("Restore it from a copy."));
  } catch (const Json::exception&) {
    throw bad_input(say("{} is damaged: it holds a number that is far too large.", name),
                    say("Restore it from a copy."));
  }
}

Json read_json(const std::filesystem::path& file) {
  return parse_json(read_file(file), file.string());
}

double rounded(double value, int decimals) {
  const double scale = std::pow(10.0, decimals);
  return std::round(value * scale) / scale;
}

}  // namespace askcount
