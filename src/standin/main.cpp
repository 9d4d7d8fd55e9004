// SPDX-License-Identifier: GPL-3.0-or-later
// askcount-standin: a simulated timer and camera behind a local socket.

#include <fmt/format.h>

#include <QCommandLineParser>
#include <QCoreApplication>

#include "base/process.h"
#include "link/end_when_told.h"
#include "standin/server.h"

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
  const QCommandLineOption idle("idle", "End after this many seconds with no client and no run; 0 for never",
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
  askcount::link::end_when_told(app);
  fmt::print("listening on {}\n", parser.value(socket).toStdString());
  std::fflush(stdout);
  return QCoreApplication::exec();
}
