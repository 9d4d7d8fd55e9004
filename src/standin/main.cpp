// askcount-standin: a simulated timer and camera behind a local socket.

#include <fcntl.h>
#include <fmt/format.h>
#include <unistd.h>

#include <csignal>

#include <QCommandLineParser>
#include <QCoreApplication>
#include <QSocketNotifier>

#include "base/process.h"
#include "standin/server.h"

namespace {

int wire[2] = {-1, -1};  // from the signal's handler, which may do next to nothing, to the program's loop

void on_signal(int number) {
  const char byte = static_cast<char>(number);
  [[maybe_unused]] const ssize_t n = ::write(wire[1], &byte, 1);
}

/// Told to end, it stops its run, closes its record and takes its socket away.
void end_when_told(QCoreApplication& app) {
  if (::pipe2(wire, O_CLOEXEC | O_NONBLOCK) != 0) return;
  auto* notifier = new QSocketNotifier(wire[0], QSocketNotifier::Read, &app);
  QObject::connect(notifier, &QSocketNotifier::activated, &app, [] { QCoreApplication::quit(); });
  for (const int number : {SIGINT, SIGTERM, SIGHUP}) {
    struct sigaction action {};
    action.sa_handler = on_signal;
    action.sa_flags = SA_RESTART;
    ::sigaction(number, &action, nullptr);
  }
}

}  // namespace

int main(int argc, char** argv) {
  askcount::prepare_process();
  QCoreApplication app(argc, argv);
  QCoreApplication::setApplicationName("askcount-standin");
  QCoreApplication::setApplicationVersion(ASKCOUNT_VERSION);
  QCommandLineParser parser;
  parser.setApplicationDescription("A simulated timer and camera behind a local socket (docs/standin.md).");
  parser.addHelpOption();
  parser.addVersionOption();
  const QCommandLineOption socket("socket", "Name of the socket, or a path", "name", "askcount-standin");
  const QCommandLineOption idle("idle", "End after so many seconds with no client and no run; 0 for never",
                                "seconds", "0");
  const QCommandLineOption alone("stop-alone", "Stop a run when its last client goes");
  parser.addOptions({socket, idle, alone});
  parser.process(app);
  bool number = false;
  const int seconds = parser.value(idle).toInt(&number);
  if (!number || seconds < 0) {
    askcount::complain("askcount-standin: --idle wants seconds.\n");
    return 2;
  }
  askcount::standin_program::Server server(seconds, parser.isSet(alone));
  QString why;
  if (!server.listen(parser.value(socket), &why)) {
    askcount::complain(
        fmt::format("askcount-standin: the socket \"{}\" cannot be opened: {}. Name another.\n",
                    parser.value(socket).toStdString(), why.toStdString()));
    return 2;
  }
  end_when_told(app);
  fmt::print("listening on {}\n", parser.value(socket).toStdString());
  std::fflush(stdout);
  return QCoreApplication::exec();
}
