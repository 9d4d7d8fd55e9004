#include "base/json.h"

#include <nlohmann/json.hpp>

#include <fmt/format.h>

#include <cmath>

#include "base/error.h"
#include "base/files.h"

namespace askcount {

Json read_json(const std::filesystem::path& file) {
  const std::string text = read_file(file);
  try {
    return Json::parse(text);
  } catch (const Json::parse_error& e) {
    throw bad_input(fmt::format("{} is damaged: it stops being JSON at byte {}.", file.string(), e.byte),
                    "Restore it from a copy.");
  }
}

Json to_json(const Findings& findings) {
  Json list = Json::array();
  for (const Finding& f : findings)
    list.push_back({{"code", f.code},
                    {"severity", severity_word(f.severity)},
                    {"title", f.title},
                    {"text", f.text},
                    {"fix", f.fix.empty() ? Json(nullptr) : Json(f.fix)}});
  return list;
}

double rounded(double value, int decimals) {
  const double scale = std::pow(10.0, decimals);
  return std::round(value * scale) / scale;
}

}  // namespace askcount
