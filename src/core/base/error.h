// SPDX-License-Identifier: GPL-3.0-or-later
// What goes wrong: one exception type for the whole core.
#pragma once

#include <optional>
#include <stdexcept>
#include <string>

#include "base/about.h"

namespace askcount {

/// Thrown by the core when it cannot go on: what happened, to which file or value, and what to do about it.
/// Judgements about a take are Finding values instead and are never thrown.
class Error : public std::runtime_error {
 public:
  /// BadInput: the person can fix it before anything starts (the command exits 2).
  /// Failed: something broke while working (the command exits 1).
  /// Cancelled: the person stopped it; nothing half-written is left.
  enum class Kind { BadInput, Failed, Cancelled };

  /// `what` is one sentence naming the file or value; `remedy` says what to do, and may be empty. Words of
  /// more than 300 bytes lose their middle.
  Error(Kind kind, const std::string& what, const std::string& remedy = {});

  /// The same of a value that was given: "The interval", then `rest`: "\"soon\" is not a length of time."
  Error(Kind kind, const Called& called, const std::string& rest, const std::string& remedy);

  Kind kind() const { return kind_; }
  /// What it is about, where that is one value that was given, and its words after the value's name.
  const std::optional<About>& about() const { return about_; }
  const std::string& rest() const { return rest_; }

 private:
  Kind kind_;
  std::optional<About> about_;
  std::string rest_;
};

/// Error for input that cannot be used.
Error bad_input(const std::string& what, const std::string& remedy = {});
/// The same for a value that was given: see Error.
Error bad_value(const Called& called, const std::string& rest, const std::string& remedy = {});
/// Error for work that broke off.
Error failed(const std::string& what, const std::string& remedy = {});
/// Error for work the person stopped.
Error cancelled(const std::string& what);

}  // namespace askcount
