#include "link/end_when_told.h"

#include <fcntl.h>
#include <unistd.h>

#include <csignal>
#include <QCoreApplication>
#include <QSocketNotifier>

namespace askcount::link {
namespace {

int wire[2] = {-1, -1};  // from the signal's handler, which may do next to nothing, to the loop

void on_signal(int number) {
  const char byte = static_cast<char>(number);
  [[maybe_unused]] const ssize_t n = ::write(wire[1], &byte, 1);
}

}  // namespace

void end_when_told(QCoreApplication& app) {
  if (wire[0] >= 0 || ::pipe2(wire, O_CLOEXEC | O_NONBLOCK) != 0) return;
  auto* notifier = new QSocketNotifier(wire[0], QSocketNotifier::Read, &app);
  QObject::connect(notifier, &QSocketNotifier::activated, &app, [] { QCoreApplication::quit(); });
  for (const int number : {SIGINT, SIGTERM, SIGHUP}) {
    struct sigaction before {};
    ::sigaction(number, nullptr, &before);
    if (before.sa_handler == SIG_IGN) continue;  // as under nohup
    struct sigaction action {};
    action.sa_handler = on_signal;
    action.sa_flags = SA_RESTART;
    ::sigaction(number, &action, nullptr);
  }
}

}  // namespace askcount::link
