// SPDX-License-Identifier: GPL-3.0-or-later
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
/// without a window. What answers need not be a stand-in: replies and events are objects, nothing more is
/// known of them; what is no object, or endless, is dropped. What a handler of an event or a reply throws
/// ends the line, and lost() says why: it never goes through Qt's loop.
class StandinLink : public QObject {
  Q_OBJECT
 public:
  using Reply = std::function<void(const Json&)>;

  explicit StandinLink(QObject* parent = nullptr);
  /// Lets go in silence.
  ~StandinLink() override;

  /// Whether a stand-in that was launched goes on shooting once nobody is connected any more.
  enum class Alone { GoesOn, Stops };
  /// Starts a stand-in of its own (the program beside this one) under a new name and connects; it ends by
  /// itself once nobody needs it. connected() or lost() tells. Returns the socket's name.
  QString launch(Alone alone = Alone::GoesOn);
  /// Connects to one that runs; tries for `ms` milliseconds.
  void connect_to(const QString& socket, int ms = 5000);
  bool is_connected() const { return socket_.state() == QLocalSocket::ConnectedState; }
  const QString& name() const { return name_; }
  void close();

  /// Sends a command; `reply` gets the answer, which has "ok" and where that is false "error".
  void ask(Json command, const Reply& reply = {});
  /// The same and waits for the answer. Throws Failed where none comes within `ms` or what comes is no
  /// answer, BadInput with the stand-in's own words where it refuses.
  Json call(Json command, int ms = 10000);
  /// Connects and waits. Throws Failed.
  void wait_connected(int ms = 8000);

 signals:
  void connected();
  void lost(QString why);
  void event(askcount::Json line);

 private:
  void read();
  void hear(const QByteArray& line);
  void give_up(const QString& why);
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
