// SPDX-License-Identifier: GPL-3.0-or-later
#include "progress_line.h"

#include <fmt/format.h>
#include <unistd.h>

#include "base/process.h"
#include "base/units.h"

namespace askcount::cli {

using Clock = std::chrono::steady_clock;

StatusLine::StatusLine() : terminal_(isatty(STDERR_FILENO) != 0), began_(Clock::now()), last_(began_) {}

StatusLine::~StatusLine() {
  if (shown_ && terminal_) complain("\n");
}

bool StatusLine::due(bool finished) {
  const auto now = Clock::now();
  const auto wait = terminal_ ? std::chrono::milliseconds(100) : std::chrono::milliseconds(5000);
  if (now - last_ < wait && !finished) return false;
  last_ = now;
  return shown_ = true;
}

double StatusLine::seconds() const {
  return std::chrono::duration<double>(last_ - began_).count();
}

void StatusLine::write(const std::string& line) {
  complain(fmt::format("{}{}{}", terminal_ ? "\r\033[K" : "", line, terminal_ ? "" : "\n"));
}

void ProgressLine::show(size_t done, size_t total) {
  if (!due(done == total)) return;
  const double rate = seconds() > 0 ? static_cast<double>(done) / seconds() : 0;
  std::string line = fmt::format("{} {} of {}", doing_, done, total);
  if (seconds() > 0.5 && rate > 0)
    line += fmt::format(", {} a second, {} left", format_number(rate, rate < 10 ? 1 : 0),
                        format_length(static_cast<double>(total - done) / rate, 0));
  write(line);
}

void RateLine::show(std::size_t files_done, std::size_t files, std::uint64_t bytes_done,
                    std::uint64_t bytes) {
  if (!due(files_done == files)) return;
  const double rate = seconds() > 0 ? static_cast<double>(bytes_done) / seconds() : 0;
  std::string line = fmt::format("{} {} of {} files", doing_, files_done, files);
  if (seconds() > 0.5 && rate > 0)
    line += fmt::format(", {} MB a second, {} left", format_number(rate / 1e6, 0),
                        format_length(static_cast<double>(bytes - bytes_done) / rate, 0));
  write(line);
}

}  // namespace askcount::cli
