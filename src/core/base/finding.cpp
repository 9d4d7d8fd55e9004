#include "base/finding.h"

#include <algorithm>

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

void sort_by_severity(Findings& findings) {
  std::stable_sort(findings.begin(), findings.end(),
                   [](const Finding& a, const Finding& b) { return a.severity > b.severity; });
}

}  // namespace askcount
