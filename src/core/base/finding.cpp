// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/finding.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace askcount {

std::string severity_word(Severity severity) {
  switch (severity) {
    case Severity::Stop:
      return "stop";
    case Severity::Warning:
      return "warning";
    case Severity::Caution:
      return "caution";
    case Severity::Ok:
      break;
  }
  return "ok";
}

Json to_json(const Findings& findings) {
  Json list = Json::array();
  for (const Finding& f : findings)
    list.push_back({{"code", f.code},
                    {"severity", severity_word(f.severity)},
                    {"title", f.title},
                    {"text", f.text},
                    {"fix", f.fix ? Json(words(*f.fix)) : Json(nullptr)},
                    {"mend", f.fix ? to_json(*f.fix) : Json(nullptr)}});
  return list;
}

void sort_by_severity(Findings& findings) {
  std::stable_sort(findings.begin(), findings.end(),
                   [](const Finding& a, const Finding& b) { return a.severity > b.severity; });
}

}  // namespace askcount
