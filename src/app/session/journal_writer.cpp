// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/journal_writer.h"

#include <nlohmann/json.hpp>

#include "base/error.h"
#include "base/instant.h"

namespace askcount::app {

struct JournalWriter::Line {
  std::filesystem::path file;
  Json entry;
};

JournalWriter::JournalWriter(QObject* parent)
    : QObject(parent), thread_([this](const std::stop_token& stop) { work(stop); }) {}

JournalWriter::~JournalWriter() {
  wait();
  thread_.request_stop();
  wake_.notify_all();
}

void JournalWriter::open(const std::filesystem::path& file) {
  file_ = file;
}

Json JournalWriter::append(Json entry) {
  entry["at"] = now().time_since_epoch().count();
  const std::lock_guard lock(mutex_);
  waiting_.push_back({file_, entry});
  wake_.notify_all();
  return entry;
}

void JournalWriter::wait() {
  std::unique_lock lock(mutex_);
  idle_.wait(lock, [this] { return waiting_.empty() && !busy_; });
}

void JournalWriter::work(const std::stop_token& stop) {
  journal::Journal journal;
  std::filesystem::path open;  // what `journal` writes to
  for (;;) {
    std::unique_lock lock(mutex_);
    if (!wake_.wait(lock, stop, [this] { return !waiting_.empty(); })) return;
    Line line = std::move(waiting_.front());
    waiting_.pop_front();
    busy_ = true;
    lock.unlock();
    try {
      if (!journal.is_open() || open != line.file) journal.open(open = line.file);
      journal.append(std::move(line.entry));
    } catch (const Error& e) {
      journal.close();
      QMetaObject::invokeMethod(
          this, [this, why = QString::fromUtf8(e.what())] { emit trouble(why); }, Qt::QueuedConnection);
    }
    lock.lock();
    busy_ = false;
    idle_.notify_all();
  }
}

}  // namespace askcount::app
