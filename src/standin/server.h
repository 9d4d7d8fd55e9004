// SPDX-License-Identifier: GPL-3.0-or-later
// The stand-in behind a local socket: line-delimited JSON, as docs/standin.md says.
#pragma once

#include <deque>

#include <map>
#include <memory>
#include <nlohmann/json.hpp>
#include <QElapsedTimer>
#include <QLocalServer>
#include <QLocalSocket>
#include <QTimer>
#include <thread>

#include "simulate/rig_json.h"

namespace askcount::standin_program {

/// Serves any number of clients; one rig, one run at a time. A client that goes, sends nonsense, half lines
/// or floods is answered or dropped and disturbs neither the run nor the others.
class Server : public QObject {
  Q_OBJECT
 public:
  /// Ends the program after `idle_s` seconds without a client and without a run; 0 for never.
  /// With `stop_alone` a run ends when its last client goes.
  Server(int idle_s, bool stop_alone);
  ~Server() override;
  /// Listens on a socket of this name (a path, or a name in the folder for temporary files). Only a socket
  /// that nobody answers on is replaced: never a file, a link or a folder. False where it cannot; `why` says
  /// it.
  bool listen(const QString& name, QString* why);

 private:
  struct Client {
    QByteArray half;        // of a line that has not ended yet
    bool skipping = false;  // the rest of a line that was too long
  };
  void welcome();
  void read(QLocalSocket* socket);
  void answer(QLocalSocket* socket, const QByteArray& line);
  Json carry_out(const Json& command);
  void send(QLocalSocket* socket, const Json& json);
  void tell(const simulate::RigEvent& event);
  void start();
  void finish(const Json& done);
  Json status() const;

  void left_alone();

  QLocalServer server_;
  QString path_;  // of the socket
  bool stop_alone_ = false;
  std::map<QLocalSocket*, Client> clients_;
  simulate::RigSetting setting_;
  std::unique_ptr<simulate::Rig> rig_;
  std::jthread thread_;
  bool running_ = false;
  std::deque<Json> events_;  // the last ones, for clients that come back
  long long told_ = 0;
  Json outcome_;
  QTimer idle_;
};

}  // namespace askcount::standin_program
