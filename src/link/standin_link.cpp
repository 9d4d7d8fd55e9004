// SPDX-License-Identifier: GPL-3.0-or-later
#include "link/standin_link.h"

#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include <QCoreApplication>
#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QProcess>
#include <QTimer>
#include <QUuid>

#include "base/error.h"
#include "base/language.h"

namespace askcount::link {
namespace {

constexpr int kTryEvery_ms = 60;
constexpr qsizetype kLongestLine = 8 << 20;

QString spoken(const std::string& text) {
  return QString::fromStdString(text);
}

}  // namespace

QString standin_program() {
  const QDir here(QCoreApplication::applicationDirPath());
  // The tests' programs lie in a folder beside.
  for (const char* place : {"askcount-standin", "../src/askcount-standin"})
    if (QFile::exists(here.filePath(place))) return here.filePath(place);
  return "askcount-standin";
}

StandinLink::StandinLink(QObject* parent) : QObject(parent) {
  connect(&socket_, &QLocalSocket::connected, this, [this] {
    tries_left_ = 0;
    emit connected();
  });
  connect(&socket_, &QLocalSocket::readyRead, this, &StandinLink::read);
  connect(&socket_, &QLocalSocket::disconnected, this,
          [this] { emit lost(spoken(say("The stand-in's line was cut."))); });
  connect(&socket_, &QLocalSocket::errorOccurred, this, [this] {
    if (tries_left_ > 0)
      QTimer::singleShot(kTryEvery_ms, this, &StandinLink::try_again);
    else if (!is_connected() && socket_.error() != QLocalSocket::PeerClosedError)
      emit lost(spoken(say("The stand-in does not answer.")));
  });
}

StandinLink::~StandinLink() {
  close();
}

QString StandinLink::launch(Alone alone) {
  const QString name =
      QDir::temp().filePath("askcount-" + QUuid::createUuid().toString(QUuid::Id128).left(12));
  QProcess program;
  program.setProgram(standin_program());
  QStringList arguments = {"--socket", name, "--idle", "20"};
  if (alone == Alone::Stops) arguments << "--stop-alone";
  program.setArguments(arguments);
  program.setStandardOutputFile(QProcess::nullDevice());
  program.setStandardErrorFile(QProcess::nullDevice());
  if (!program.startDetached()) {
    name_ = name;
    emit lost(spoken(say("The stand-in cannot be started: {}.", standin_program().toStdString())));
    return name;
  }
  connect_to(name);
  return name;
}

void StandinLink::connect_to(const QString& socket, int ms) {
  name_ = socket;
  half_.clear();
  tries_left_ = std::max(1, ms / kTryEvery_ms);
  try_again();
}

void StandinLink::try_again() {
  if (tries_left_ <= 0 || is_connected()) return;
  --tries_left_;
  socket_.abort();
  socket_.connectToServer(name_);
}

void StandinLink::close() {
  tries_left_ = 0;
  waiting_.clear();
  half_.clear();
  socket_.blockSignals(true);
  socket_.abort();
  socket_.blockSignals(false);
}

void StandinLink::ask(Json command, const Reply& reply) {
  const long long id = next_id_++;
  command["id"] = id;
  if (reply) waiting_[id] = reply;
  socket_.write(QByteArray::fromStdString(command.dump()) + '\n');
  socket_.flush();
}

void StandinLink::give_up(const QString& why) {
  close();
  emit lost(why);
}

void StandinLink::read() {
  half_ += socket_.readAll();
  for (qsizetype end = 0; (end = half_.indexOf('\n')) >= 0;) {
    const QByteArray line = half_.left(end);
    half_.remove(0, end + 1);
    try {
      hear(line);
    } catch (const std::exception& e) {
      return give_up(spoken(say("What answers on \"{}\" speaks another language than a stand-in ({}).",
                                name_.toStdString(), e.what())));
    }
    if (!is_connected() && half_.isEmpty()) return;  // closed by who heard it
  }
  if (half_.size() > kLongestLine)
    give_up(spoken(say("What answers on \"{}\" sends lines without an end.", name_.toStdString())));
}

void StandinLink::hear(const QByteArray& line) {
  Json json;
  try {
    json = parse_json({line.constData(), static_cast<size_t>(line.size())}, "The line");
  } catch (const Error&) {
    return;
  }
  if (!json.is_object()) return;
  if (json.contains("event")) {
    emit event(json);
  } else if (json.contains("id") && json["id"].is_number_integer()) {
    const auto it = waiting_.find(json["id"].get<long long>());
    if (it == waiting_.end()) return;
    const Reply reply = it->second;
    waiting_.erase(it);
    reply(json);
  }
}

Json StandinLink::call(Json command, int ms) {
  std::optional<Json> answer;
  ask(std::move(command), [&answer](const Json& json) { answer = json; });
  QElapsedTimer clock;
  clock.start();
  while (!answer && clock.elapsed() < ms && is_connected())
    QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents | QEventLoop::ExcludeUserInputEvents, 20);
  if (!answer) throw failed(say("The stand-in does not answer."), say("Is it still running?"));
  if (!answer->contains("ok") || !(*answer)["ok"].is_boolean())
    throw failed(say("What answers on \"{}\" is not a stand-in.", name_.toStdString()),
                 say("Start askcount-standin, or name no socket."));
  if (!(*answer)["ok"].get<bool>())
    throw bad_input(answer->contains("error") && (*answer)["error"].is_string()
                        ? (*answer)["error"].get<std::string>()
                        : say("The stand-in refused."));
  return *answer;
}

void StandinLink::wait_connected(int ms) {
  QElapsedTimer clock;
  clock.start();
  while (!is_connected() && clock.elapsed() < ms)
    QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents, 20);
  if (!is_connected())
    throw failed(say("The stand-in cannot be reached on \"{}\".", name_.toStdString()),
                 say("Start askcount-standin, or name no socket."));
}

}  // namespace askcount::link

// Here, so that JSON is compiled once for both.
#include "moc_standin_link.cpp"
