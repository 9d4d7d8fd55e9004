// SPDX-License-Identifier: GPL-3.0-or-later
// What Ask Count noticed about a take: a judgement with, where possible, one action that fixes it.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/fix.h"

namespace askcount {

/// A caution is none of the plan's faults: the usual care for eyes, hands and other people.
enum class Severity { Caution, Ok, Warning, Stop };

/// The word used in JSON: "caution", "ok", "warning" or "stop".
std::string severity_word(Severity severity);

/// A judgement. `code` is stable and for programs; `title` is a few words; `text` says what to do and why;
/// `fix` is the one action that puts it right, where there is one.
struct Finding {
  std::string code;
  Severity severity = Severity::Ok;
  std::string title;
  std::string text;
  std::optional<Fix> fix = {};
  bool operator==(const Finding&) const = default;
};

using Findings = std::vector<Finding>;

/// The findings as the list every verb prints; `fix` is what the fix's button says, null where there is
/// none.
Json to_json(const Findings& findings);

/// Stops first, then warnings, then what is well, cautions last; otherwise in the order they were found.
void sort_by_severity(Findings& findings);

}  // namespace askcount
