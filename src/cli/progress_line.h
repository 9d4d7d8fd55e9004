// SPDX-License-Identifier: GPL-3.0-or-later
// A progress line on standard error.
#pragma once

#include <chrono>
#include <cstddef>
#include <cstdint>
#include <string>
#include <utility>

namespace askcount::cli {

/// A line on standard error that says how far it is: rewritten in place on a terminal, a line every 5 s
/// elsewhere. Ends its line when it goes out of scope.
class StatusLine {
 public:
  StatusLine();
  ~StatusLine();
  StatusLine(const StatusLine&) = delete;

 protected:
  /// Whether it is time for the next one; always once it is `finished`.
  bool due(bool finished);
  /// Seconds since it began.
  double seconds() const;
  void write(const std::string& line);

 private:
  bool terminal_;
  bool shown_ = false;
  std::chrono::steady_clock::time_point began_, last_;
};

/// "Shooting 120 of 250, 18 a second, 7 s left".
class ProgressLine : public StatusLine {
 public:
  explicit ProgressLine(std::string doing) : doing_(std::move(doing)) {}
  void show(size_t done, size_t total);

 private:
  std::string doing_;
};

/// The same for bytes: "Copying 412 of 750 files, 86 MB a second, 2 min left".
class RateLine : public StatusLine {
 public:
  explicit RateLine(std::string doing) : doing_(std::move(doing)) {}
  void show(std::size_t files_done, std::size_t files, std::uint64_t bytes_done, std::uint64_t bytes);

 private:
  std::string doing_;
};

}  // namespace askcount::cli
