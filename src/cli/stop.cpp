#include "stop.h"

#include <fcntl.h>
#include <unistd.h>

#include <array>
#include <atomic>
#include <cerrno>
#include <csignal>
#include <thread>

namespace askcount::cli {
namespace {

std::stop_source source;
std::atomic<int> came{0};
std::array<int, 2> wire = {-1, -1};  // from the handler, which may do next to nothing, to a thread that may

void on_signal(int number) {
  const int kept = errno;
  const char byte = static_cast<char>(number);
  [[maybe_unused]] const ssize_t n = ::write(wire[1], &byte, 1);
  errno = kept;
}

void watch() {
  char byte = 0;
  while (::read(wire[0], &byte, 1) == 1) {
    if (came.exchange(byte) != 0) ::_exit(128 + byte);
    source.request_stop();
  }
}

}  // namespace

void listen_for_stop() {
  if (wire[0] >= 0 || ::pipe2(wire.data(), O_CLOEXEC) != 0) return;
  std::thread(watch).detach();
  for (const int number : {SIGINT, SIGTERM, SIGHUP}) {
    struct sigaction before {};
    ::sigaction(number, nullptr, &before);
    if (before.sa_handler == SIG_IGN) continue;
    struct sigaction action {};
    action.sa_handler = on_signal;
    action.sa_flags = SA_RESTART;
    ::sigaction(number, &action, nullptr);
  }
}

std::stop_token stop_token() {
  return source.get_token();
}

int stop_signal() {
  return came;
}

}  // namespace askcount::cli
