// SPDX-License-Identifier: GPL-3.0-or-later
// The command while it runs: waited for, told to stop, and what it leaves.
#pragma once

#include <sys/wait.h>
#include <unistd.h>

#include <chrono>
#include <csignal>
#include <functional>
#include <sstream>
#include <thread>

#include "askcount.h"

namespace askcount {

/// `askcount` with these arguments, as a process of its own; killed where the test ends before it does.
class Running {
 public:
  explicit Running(const std::string& arguments) {
    pid_ = fork();
    if (pid_ == 0) {
      const std::string line =
          "exec " ASKCOUNT_COMMAND " " + arguments + " >/dev/null 2>'" + said_file().string() + "'";
      execl("/bin/sh", "sh", "-c", line.c_str(), nullptr);
      _exit(127);
    }
  }
  ~Running() {
    if (pid_ <= 0) return;
    ::kill(pid_, SIGKILL);
    waitpid(pid_, nullptr, 0);
  }
  Running(const Running&) = delete;

  /// Until something is so; false where the program ended, or a minute went by, before.
  bool until(const std::function<bool()>& so) {
    for (int i = 0; i < 3000; ++i) {
      if (so()) return true;
      int status = 0;
      if (waitpid(pid_, &status, WNOHANG) == pid_) {
        exit_ = WIFEXITED(status) ? WEXITSTATUS(status) : -WTERMSIG(status);
        pid_ = 0;
        return false;
      }
      std::this_thread::sleep_for(std::chrono::milliseconds(20));
    }
    return false;
  }
  void send(int signal) { ::kill(pid_, signal); }
  /// How it ended; a signal's number below zero.
  int wait() {
    if (pid_ > 0) {
      int status = 0;
      waitpid(pid_, &status, 0);
      exit_ = WIFEXITED(status) ? WEXITSTATUS(status) : -WTERMSIG(status);
      pid_ = 0;
    }
    return exit_;
  }
  /// Whether it has said what it does when this signal comes.
  bool hears(int signal) const {
    std::ifstream status("/proc/" + std::to_string(pid_) + "/status");
    for (std::string line; std::getline(status, line);)
      if (line.starts_with("SigCgt:"))
        return (std::stoull(line.substr(7), nullptr, 16) >> (signal - 1) & 1) != 0;
    return false;
  }
  /// Seconds of work its processors have done for it.
  double worked_s() const {
    std::ifstream stat("/proc/" + std::to_string(pid_) + "/stat");
    std::string line;
    std::getline(stat, line);
    std::istringstream fields(line.substr(std::min(line.size(), line.rfind(')') + 2)));
    std::string field;
    for (int i = 0; i < 11; ++i) fields >> field;  // of state, parents, faults
    double user = 0, system = 0;
    fields >> user >> system;
    return (user + system) / static_cast<double>(sysconf(_SC_CLK_TCK));
  }
  std::string said() const {
    std::ifstream in(said_file());
    return {std::istreambuf_iterator<char>(in), {}};
  }

 private:
  test::fs::path said_file() const { return folder_ / "said"; }

  test::Folder folder_;
  pid_t pid_ = 0;
  int exit_ = -1;
};

/// Files below a folder that are called so.
inline long long count_files(const test::fs::path& folder, const std::string& ending) {
  long long n = 0;
  std::error_code ec;
  for (test::fs::recursive_directory_iterator it(folder, ec), end; !ec && it != end; it.increment(ec))
    n += it->path().extension() == ending ? 1 : 0;
  return n;
}

}  // namespace askcount
