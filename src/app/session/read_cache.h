// SPDX-License-Identifier: GPL-3.0-or-later
// What was read of frames, remembered: the one cache of pictures of the window's stages. (The film that plays
// has its own, render::SmallFrames, which knows what it will want next.)
#pragma once

#include <algorithm>
#include <functional>
#include <QCache>
#include <QObject>
#include <QSet>
#include <QString>
#include <QThreadPool>

namespace askcount::app {

/// Values by their key, read on a thread of its own; the last ones are kept. For the thread of its owner.
template <class Value>
class ReadCache {
 public:
  /// `kib_of` says how large a value is, of `most_kib` in all. What waits is dropped once more than
  /// `most_waiting` wait: it was scrubbed past. `ready` is called in the owner's thread for every value that
  /// has come.
  ReadCache(QObject* owner, int most_kib, int most_waiting, std::function<int(const Value&)> kib_of,
            std::function<void()> ready)
      : owner_(owner),
        most_waiting_(most_waiting),
        kib_of_(std::move(kib_of)),
        ready_(std::move(ready)),
        values_(most_kib) {
    pool_.setMaxThreadCount(1);
  }
  ~ReadCache() {
    pool_.clear();
    pool_.waitForDone();
  }
  ReadCache(const ReadCache&) = delete;
  ReadCache& operator=(const ReadCache&) = delete;

  /// Null, and `read` is called on the thread, where it is not there yet. `read` must not throw.
  const Value* wanted(const QString& key, std::function<Value()> read) {
    if (const Value* value = values_.object(key)) return value;
    if (waiting_.contains(key)) return nullptr;
    if (waiting_.size() > most_waiting_) {
      pool_.clear();
      waiting_.clear();
    }
    waiting_.insert(key);
    pool_.start([this, key, read = std::move(read), generation = generation_] {
      Value value = read();
      QMetaObject::invokeMethod(
          owner_,
          [this, key, generation, value = std::move(value)] {
            if (generation != generation_) return;
            waiting_.remove(key);
            values_.insert(key, new Value(value), std::max(1, kib_of_(value)));
            ready_();
          },
          Qt::QueuedConnection);
    });
    return nullptr;
  }
  void forget() {
    pool_.clear();
    ++generation_;
    waiting_.clear();
    values_.clear();
  }

 private:
  QObject* owner_;
  int most_waiting_;
  std::function<int(const Value&)> kib_of_;
  std::function<void()> ready_;
  QCache<QString, Value> values_;
  QSet<QString> waiting_;
  int generation_ = 0;
  QThreadPool pool_;  // last: it uses the rest
};

}  // namespace askcount::app
