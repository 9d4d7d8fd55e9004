// SPDX-License-Identifier: GPL-3.0-or-later
// The journal written beside the window: each line is synced to the disk, and that may take its time.
#pragma once

#include <filesystem>
#include <QObject>
#include <QString>

#include "app/session/worker.h"
#include "journal/journal.h"

namespace askcount::app {

/// Adds lines to a journal in the order they come, on a thread of its own. Destroying it writes what still
/// waits.
class JournalWriter : public QObject {
  Q_OBJECT
 public:
  explicit JournalWriter(QObject* parent = nullptr);

  /// Lines go to this file from now on.
  void open(const std::filesystem::path& file);
  /// The line gets the time of now; it is on the disk soon. Returns it with its time.
  Json append(Json entry);
  /// Waits until every line is on the disk.
  void wait() { worker_.wait(); }

 signals:
  void trouble(QString words);

 private:
  void write(const std::filesystem::path& file, Json entry);

  std::filesystem::path file_, open_;  // where lines go; what journal_ writes to
  journal::Journal journal_;           // of the worker
  Worker worker_;                      // last: it uses the rest
};

}  // namespace askcount::app
