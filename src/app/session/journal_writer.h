// SPDX-License-Identifier: GPL-3.0-or-later
// The journal written beside the window: each line is synced to the disk, and that may take its time.
#pragma once

#include <condition_variable>
#include <filesystem>
#include <list>
#include <mutex>
#include <QObject>
#include <QString>
#include <thread>

#include "journal/journal.h"

namespace askcount::app {

/// Adds lines to a journal in the order they come, on a thread of its own. Destroying it writes what still
/// waits.
class JournalWriter : public QObject {
  Q_OBJECT
 public:
  explicit JournalWriter(QObject* parent = nullptr);
  ~JournalWriter() override;

  /// Lines go to this file from now on.
  void open(const std::filesystem::path& file);
  /// The line gets the time of now; it is on the disk soon. Returns it with its time.
  Json append(Json entry);
  /// Waits until every line is on the disk.
  void wait();

 signals:
  void trouble(QString words);

 private:
  struct Line;
  void work(const std::stop_token& stop);

  std::filesystem::path file_;
  std::mutex mutex_;
  std::condition_variable_any wake_, idle_;
  std::list<Line> waiting_;
  bool busy_ = false;
  std::jthread thread_;  // last: it uses the rest
};

}  // namespace askcount::app
