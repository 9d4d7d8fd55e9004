// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/journal_writer.h"

#include <nlohmann/json.hpp>

#include "base/error.h"
#include "base/instant.h"

namespace askcount::app {

JournalWriter::JournalWriter(QObject* parent) : QObject(parent) {}

void JournalWriter::open(const std::filesystem::path& file) {
  file_ = file;
}

Json JournalWriter::append(Json entry) {
  entry["at"] = now().time_since_epoch().count();
  worker_.add([this, file = file_, entry] { write(file, entry); });
  return entry;
}

void JournalWriter::write(const std::filesystem::path& file, Json entry) {
  try {
    if (!journal_.is_open() || open_ != file) journal_.open(open_ = file);
    journal_.append(std::move(entry));
  } catch (const Error& e) {
    journal_.close();
    QMetaObject::invokeMethod(
        this, [this, why = QString::fromUtf8(e.what())] { emit trouble(why); }, Qt::QueuedConnection);
  }
}

}  // namespace askcount::app

#include "moc_journal_writer.cpp"
