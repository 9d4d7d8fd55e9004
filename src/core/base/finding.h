// What Ask Count noticed about a take: a judgement with, where possible, one action that mends it.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace askcount {

/// A caution is none of the plan's faults: the usual care for eyes, hands and other people.
enum class Severity { Caution, Ok, Warning, Stop };

/// The word used in JSON: "caution", "ok", "warning" or "stop".
std::string severity_word(Severity severity);

/// One change of a take that mends a finding: the word of what changes ("interval", "trail", …, or one of
/// those that take/mend.h names) and its new value in its own unit (seconds, frames, share). For a slot 0
/// takes back what was said.
struct Mend {
  std::string slot;
  double value = 0;
  std::string file = {};  ///< the frame it is about, by its file's name; empty for none
  double with = 0;        ///< a second number, where one is not enough
  bool operator==(const Mend&) const = default;
};

/// A judgement. `code` is stable and for programs; `title` is a few words; `text` says what to do and why;
/// `fix` names the action that mends it and is empty where there is none; `mend` is that action.
struct Finding {
  std::string code;
  Severity severity = Severity::Ok;
  std::string title;
  std::string text;
  std::string fix;
  std::optional<Mend> mend;
  bool operator==(const Finding&) const = default;
};

using Findings = std::vector<Finding>;

/// Stops first, then warnings, then what is well, cautions last; otherwise in the order they were found.
void sort_by_severity(Findings& findings);

}  // namespace askcount
