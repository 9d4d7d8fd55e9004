// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/process.h"

#include <fcntl.h>
#include <sys/resource.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstdlib>  // says whether it is glibc

#ifdef __GLIBC__
#include <malloc.h>
#endif

namespace askcount {

void give_back_large_buffers() {
#ifdef __GLIBC__
  mallopt(M_MMAP_THRESHOLD, 1 << 20);
#endif
}

void stand_back() {
  constexpr int kStandsBack = 10;
  setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), kStandsBack);
}

void fail_writes_instead_of_dying() {
  std::signal(SIGXFSZ, SIG_IGN);
  std::signal(SIGPIPE, SIG_IGN);
}

namespace {

std::array<int, 2> wire = {-1, -1};

/// All that a handler may do.
void on_signal(int number) {
  const int kept = errno;
  const char byte = static_cast<char>(number);
  [[maybe_unused]] const ssize_t n = ::write(wire[1], &byte, 1);
  errno = kept;
}

}  // namespace

int signal_wire() {
  if (wire[0] >= 0) return wire[0];
  if (::pipe2(wire.data(), O_CLOEXEC) != 0) return -1;
  for (const int number : {SIGINT, SIGTERM, SIGHUP}) {
    struct sigaction before {};
    ::sigaction(number, nullptr, &before);
    if (before.sa_handler == SIG_IGN) continue;
    struct sigaction action {};
    action.sa_handler = on_signal;
    action.sa_flags = SA_RESTART;
    ::sigaction(number, &action, nullptr);
  }
  return wire[0];
}

void complain(const std::string& text) {
  std::fputs(text.c_str(), stderr);
  std::fflush(stderr);
}

void prepare_process() {
  ::setenv("SVT_LOG", "1", 0);  // errors alone: the encoder of AV1 would talk on the terminal
  give_back_large_buffers();
  fail_writes_instead_of_dying();
}

}  // namespace askcount
