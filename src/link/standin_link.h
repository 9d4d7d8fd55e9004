// A line to the stand-in's socket, for the window and the command.
#pragma once

#include <functional>
#include <map>
#include <QLocalSocket>
#include <QObject>
#include <QString>

#include "base/json.h"

namespace askcount::link {

/// Sends commands and hands out replies and events. Never blocks, but for call(), which is for programs
/// without a window.
class StandinLink : public QObject {
  Q_OBJECT
 public:
  using Reply = std::function<void(const Json&)>;

  explicit StandinLink(QObject* parent = nullptr);

  /// Starts a stand-in of its own (the program beside this one) under a new name and connects; it ends by
  /// itself once nobody needs it. connected() or lost() tells. Returns the socket's name.
  QString launch();
  /// Connects to one that runs; tries for `ms` milliseconds.
  void connect_to(const QString& socket, int ms = 5000);
  bool is_connected() const { return socket_.state() == QLocalSocket::ConnectedState; }
  const QString& name() const { return name_; }
  void close();

  /// Sends a command; `reply` gets the answer, which has "ok" and where that is false "error".
  void ask(Json command, const Reply& reply = {});
  /// The same and waits for the answer. Throws Failed where none comes within `ms`, BadInput with the
  /// stand-in's own words where it refuses.
  Json call(Json command, int ms = 10000);
  /// Connects and waits. Throws Failed.
  void wait_connected(int ms = 8000);

 signals:
  void connected();
  void lost(QString why);
  void event(askcount::Json line);

 private:
  void read();
  void try_again();

  QLocalSocket socket_;
  QString name_;
  QByteArray half_;
  long long next_id_ = 1;
  std::map<long long, Reply> waiting_;
  int tries_left_ = 0;
};

/// Where the stand-in's program is: beside this one.
QString standin_program();

}  // namespace askcount::link
