// What goes wrong: one exception type for the whole core.
#pragma once

#include <stdexcept>
#include <string>

namespace askcount {

/// Thrown by the core when it cannot go on: what happened, to which file or value, and what to do about it.
/// Judgements about a take are Finding values instead and are never thrown.
class Error : public std::runtime_error {
 public:
  /// BadInput: the person can mend it before anything starts (the command exits 2).
  /// Failed: something broke while working (the command exits 1).
  /// Cancelled: the person stopped it; nothing half-written is left.
  enum class Kind { BadInput, Failed, Cancelled };

  /// `what` is one sentence naming the file or value; `remedy` says what to do, and may be empty. Words of
  /// more than 300 bytes lose their middle.
  Error(Kind kind, const std::string& what, const std::string& remedy = {});

  Kind kind() const { return kind_; }

 private:
  Kind kind_;
};

/// Error for input that cannot be used.
Error bad_input(const std::string& what, const std::string& remedy = {});
/// Error for work that broke off.
Error failed(const std::string& what, const std::string& remedy = {});
/// Error for work the person stopped.
Error cancelled(const std::string& what);

}  // namespace askcount
