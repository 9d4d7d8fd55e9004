// A progress line on standard error.
#pragma once

#include <chrono>
#include <cstddef>
#include <cstdint>
#include <string>

namespace askcount::cli {

/// "Shooting 120 of 250, 18 a second, 7 s left": rewritten in place on a terminal, a line every 5 s
/// elsewhere. Ends its line when it goes out of scope.
class ProgressLine {
 public:
  explicit ProgressLine(std::string doing);
  ~ProgressLine();
  ProgressLine(const ProgressLine&) = delete;
  void show(size_t done, size_t total);

 private:
  std::string doing_;
  bool terminal_;
  bool shown_ = false;
  std::chrono::steady_clock::time_point began_, last_;
};

/// The same for bytes: "Copying 412 of 750 files, 86 MB a second, 2 min left".
class RateLine {
 public:
  explicit RateLine(std::string doing);
  ~RateLine();
  RateLine(const RateLine&) = delete;
  void show(std::size_t files_done, std::size_t files, std::uint64_t bytes_done, std::uint64_t bytes);

 private:
  std::string doing_;
  bool terminal_;
  bool shown_ = false;
  std::chrono::steady_clock::time_point began_, last_;
};

}  // namespace askcount::cli
