// SPDX-License-Identifier: GPL-3.0-or-later
#include "standin/server.h"

#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/un.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <nlohmann/json.hpp>
#include <QCoreApplication>
#include <QDir>
#include <QFile>

#include "base/error.h"
#include "simulate/card.h"

namespace askcount::standin_program {
namespace {

constexpr qsizetype kLongestLine = 1 << 20;
constexpr int kLinesAtOnce = 64;         // of one client, before others get their turn
constexpr qint64 kMostUnread = 8 << 20;  // a client that does not read is dropped
constexpr size_t kKept = 4000;           // events for clients that come back
constexpr int kMostClients = 32;

Json refused(const std::string& why) {
  return {{"ok", false}, {"error", why}};
}

}  // namespace

Server::Server(int idle_s, bool stop_alone) : stop_alone_(stop_alone) {
  idle_.setSingleShot(true);
  idle_.setInterval(idle_s * 1000);
  connect(&idle_, &QTimer::timeout, this, [this] {
    if (clients_.empty() && !running_) QCoreApplication::quit();
  });
  if (idle_s > 0) idle_.start();
  connect(&server_, &QLocalServer::newConnection, this, &Server::welcome);
}

Server::~Server() {
  for (auto& [socket, client] : clients_) socket->disconnect(this);
  if (thread_.joinable()) {
    thread_.request_stop();
    thread_.join();
  }
  server_.close();
  struct stat there {};
  const QByteArray file = QFile::encodeName(path_);
  if (!path_.isEmpty() && ::lstat(file.constData(), &there) == 0 && S_ISSOCK(there.st_mode))
    ::unlink(file.constData());
}

bool Server::listen(const QString& name, QString* why) {
  const QString path = name.startsWith('/') ? name : QDir::temp().filePath(name);
  const QByteArray file = QFile::encodeName(path);
  sockaddr_un address{};
  address.sun_family = AF_UNIX;
  if (file.isEmpty() || file.size() >= static_cast<qsizetype>(sizeof address.sun_path)) {
    *why = "the name is too long for a socket";
    return false;
  }
  std::memcpy(address.sun_path, file.constData(), static_cast<size_t>(file.size()));
  const auto* to = reinterpret_cast<const sockaddr*>(&address);
  struct stat there {};
  if (::lstat(file.constData(), &there) == 0) {
    if (!S_ISSOCK(there.st_mode)) {
      *why = "something of that name already exists and is not a socket";
      return false;
    }
    // One left over from a crash is taken over; one that answers is not.
    const int probe = ::socket(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC | SOCK_NONBLOCK, 0);
    const bool nobody = ::connect(probe, to, sizeof address) != 0 && errno == ECONNREFUSED;
    ::close(probe);
    if (!nobody) {
      *why = "somebody answers on it already";
      return false;
    }
    ::unlink(file.constData());
  }
  // Bound here and not by Qt, which renames its socket over whatever has that name.
  const int handle = ::socket(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC | SOCK_NONBLOCK, 0);
  const mode_t mask = ::umask(0177);
  const bool bound =
      handle >= 0 && ::bind(handle, to, sizeof address) == 0 && ::listen(handle, kMostClients) == 0;
  *why = QString::fromLocal8Bit(std::strerror(errno));
  ::umask(mask);
  if (bound && server_.listen(handle)) {
    path_ = path;
    return true;
  }
  if (handle >= 0) ::close(handle);
  return false;
}

void Server::left_alone() {
  if (!clients_.empty()) return;
  if (stop_alone_ && running_) thread_.request_stop();
  if (idle_.interval() > 0) idle_.start();
}

void Server::welcome() {
  while (QLocalSocket* socket = server_.nextPendingConnection()) {
    if (clients_.size() >= kMostClients) {
      socket->write(QByteArray::fromStdString(refused("Too many clients.").dump()) + '\n');
      socket->disconnectFromServer();
      connect(socket, &QLocalSocket::disconnected, socket, &QObject::deleteLater);
      continue;
    }
    clients_[socket] = {};
    connect(socket, &QLocalSocket::readyRead, this, [this, socket] { read(socket); });
    connect(socket, &QLocalSocket::disconnected, this, [this, socket] {
      clients_.erase(socket);
      socket->deleteLater();
      left_alone();
    });
  }
}

void Server::read(QLocalSocket* socket) {
  const auto it = clients_.find(socket);
  if (it == clients_.end()) return;
  Client& client = it->second;
  for (int lines = 0; lines < kLinesAtOnce; ++lines) {
    if (!clients_.contains(socket)) return;
    if (!socket->canReadLine()) {
      // Half a line: kept until the rest comes, but no longer than a line may be.
      client.half += socket->readAll();
      if (client.half.size() > kLongestLine) {
        client.half.clear();
        if (!client.skipping) send(socket, refused("The line is longer than 1 MiB: it was left out."));
        client.skipping = true;
      }
      return;
    }
    const QByteArray line = client.half + socket->readLine();
    client.half.clear();
    if (client.skipping) {
      client.skipping = false;
      continue;
    }
    if (line.size() > kLongestLine)
      send(socket, refused("The line is longer than 1 MiB: it was left out."));
    else if (!line.trimmed().isEmpty())
      answer(socket, line.trimmed());
  }
  if (clients_.contains(socket) && socket->bytesAvailable() > 0)
    QMetaObject::invokeMethod(
        this, [this, socket] { read(socket); }, Qt::QueuedConnection);
}

void Server::send(QLocalSocket* socket, const Json& json) {
  if (!clients_.contains(socket) || socket->state() != QLocalSocket::ConnectedState) return;
  if (socket->bytesToWrite() > kMostUnread) {
    socket->abort();
    return;
  }
  socket->write(QByteArray::fromStdString(json.dump(-1, ' ', false, Json::error_handler_t::replace)) + '\n');
}

void Server::answer(QLocalSocket* socket, const QByteArray& line) {
  Json reply;
  Json id = nullptr;
  try {
    Json command;
    try {
      command = parse_json({line.constData(), static_cast<size_t>(line.size())}, "The line");
    } catch (const Error&) {
      return send(socket, refused("The line is not valid JSON."));
    }
    if (!command.is_object() || !command.contains("cmd") || !command["cmd"].is_string()) {
      reply = refused("A line must be an object with \"cmd\".");
    } else {
      if (command.contains("id")) id = command["id"];
      reply = carry_out(command);
    }
  } catch (const Json::exception&) {
    reply = refused("A value of the line is of the wrong kind.");
  } catch (const Error& e) {
    reply = refused(e.what());
  } catch (const std::exception& e) {
    reply = refused(e.what());
  }
  if (!id.is_null()) reply["id"] = id;
  send(socket, reply);
}

Json Server::status() const {
  Json json = {{"running", running_}, {"paused", rig_ && rig_->paused()}, {"told", told_}};
  if (!events_.empty()) json["last"] = events_.back();
  if (!outcome_.is_null()) json["outcome"] = outcome_;
  return json;
}

Json Server::carry_out(const Json& command) {
  const std::string cmd = command["cmd"];
  const auto words = [&](const char* key) {
    if (!command.contains(key) || !command[key].is_string())
      throw bad_input(std::string("\"") + cmd + "\" wants \"" + key + "\".");
    return command[key].get<std::string>();
  };
  Json ok = {{"ok", true}};
  if (cmd == "hello") {
    ok["program"] = "askcount-standin";
    ok["protocol"] = 1;
    ok["status"] = status();
  } else if (cmd == "set") {
    if (running_) throw bad_input("It is running: stop it before setting it again.");
    if (!command.contains("rig")) throw bad_input("\"set\" wants \"rig\".");
    setting_ = simulate::rig_from_json(command["rig"], setting_);
    ok["rig"] = simulate::to_json(setting_);
  } else if (cmd == "read") {
    ok["rig"] = simulate::to_json(setting_);
  } else if (cmd == "empty") {
    if (running_) throw bad_input("It is running: stop it before emptying the card.");
    const simulate::Emptied done = simulate::empty_card(setting_.card);
    ok["removed"] = done.removed;
    ok["kept_count"] = done.kept.size();
    ok["kept"] = Json::array();
    for (size_t i = 0; i < std::min<size_t>(done.kept.size(), 20); ++i)
      ok["kept"].push_back(done.kept[i].string());
  } else if (cmd == "start") {
    if (running_) throw bad_input("It is running already.");
    simulate::check_empty_card(setting_.card);
    start();
  } else if (cmd == "pause" || cmd == "resume" || cmd == "stop") {
    if (!running_) throw bad_input("Nothing is running.");
    if (cmd == "pause")
      rig_->pause();
    else if (cmd == "resume")
      rig_->resume();
    else
      thread_.request_stop();
  } else if (cmd == "turn") {
    if (!rig_ || !running_) throw bad_input("Nothing is running.");
    const std::string dial = words("dial");
    const auto which = dial == "shutter"    ? ramp::Dial::Shutter
                       : dial == "aperture" ? ramp::Dial::Aperture
                       : dial == "iso"      ? ramp::Dial::Iso
                                            : throw bad_input("\"dial\" is shutter, aperture or iso.");
    if (!command.contains("thirds") || !command["thirds"].is_number_integer())
      throw bad_input("\"turn\" wants \"thirds\", a whole number, brighter above zero.");
    rig_->turn(which, std::clamp(command["thirds"].get<int>(), -60, 60));
  } else if (cmd == "swap") {
    if (!rig_ || !running_) throw bad_input("Nothing is running.");
    const std::string what = words("what");
    if (what == "battery")
      rig_->swap_battery();
    else if (what == "card")
      rig_->swap_card();
    else
      throw bad_input("\"what\" is battery or card.");
  } else if (cmd == "status") {
    ok["status"] = status();
  } else if (cmd == "events") {
    const long long since = command.value("since", 0LL);
    ok["events"] = Json::array();
    for (const Json& e : events_)
      if (e["number"].get<long long>() > since) ok["events"].push_back(e);
    ok["lost"] = std::max(0LL, events_.empty() ? 0 : events_.front()["number"].get<long long>() - 1 - since);
  } else if (cmd == "quit") {
    QMetaObject::invokeMethod(
        this, [] { QCoreApplication::quit(); }, Qt::QueuedConnection);
  } else {
    throw bad_input(
        "There is no command \"" + cmd + "\".",
        "It knows hello, set, read, empty, start, pause, resume, stop, turn, swap, status, events, quit.");
  }
  return ok;
}

void Server::start() {
  if (thread_.joinable()) thread_.join();
  rig_ = std::make_unique<simulate::Rig>(setting_);
  running_ = true;
  events_.clear();
  told_ = 0;
  outcome_ = nullptr;
  thread_ = std::jthread([this](const std::stop_token& stop) {
    Json done;
    try {
      const simulate::RigOutcome o = rig_->run(
          [this](const simulate::RigEvent& e) {
            QMetaObject::invokeMethod(
                this, [this, e] { tell(e); }, Qt::QueuedConnection);
          },
          stop);
      done = {{"frames", o.frames},
              {"missed", o.missed},
              {"stopped", o.stopped},
              {"folder", o.folder.string()},
              {"truth", o.truth.string()}};
    } catch (const Error& e) {
      done = {{"error", e.what()}, {"bad_input", e.kind() == Error::Kind::BadInput}};
    } catch (const std::exception& e) {
      done = {{"error", e.what()}};
    }
    QMetaObject::invokeMethod(
        this, [this, done] { finish(done); }, Qt::QueuedConnection);
  });
}

void Server::tell(const simulate::RigEvent& event) {
  if (event.kind == simulate::RigEvent::Kind::Done) return;  // finish() tells it with the outcome
  events_.push_back(simulate::to_json(event, ++told_));
  if (events_.size() > kKept) events_.pop_front();
  const Json line = events_.back();
  std::vector<QLocalSocket*> all;
  for (const auto& [socket, client] : clients_) all.push_back(socket);
  for (QLocalSocket* socket : all) send(socket, line);
}

void Server::finish(const Json& done) {
  running_ = false;
  outcome_ = done;
  Json line = {{"event", "done"}, {"number", ++told_}};
  line["outcome"] = done;
  events_.push_back(line);
  std::vector<QLocalSocket*> all;
  for (const auto& [socket, client] : clients_) all.push_back(socket);
  for (QLocalSocket* socket : all) send(socket, line);
  if (clients_.empty() && idle_.interval() > 0) idle_.start();
}

}  // namespace askcount::standin_program

// Here, so that JSON is compiled once for both.
#include "moc_server.cpp"
