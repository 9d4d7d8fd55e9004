// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/saver.h"

#include <algorithm>

#include "app/style/text.h"
#include "base/error.h"
#include "base/files.h"

namespace askcount::app {
Saver::Saver(QObject* parent)
    : QObject(parent), thread_([this](const std::stop_token& stop) { work(stop); }) {}

Saver::~Saver() {
  wait();
  thread_.request_stop();
  wake_.notify_all();
}

void Saver::save(const take::Take& take, const std::filesystem::path& file,
                 const std::filesystem::path& second, bool over, std::function<void(const Saved&)> done) {
  const std::lock_guard lock(mutex_);
  std::erase_if(waiting_, [&](const Request& r) {
    over = over || (r.file == file && r.over);
    return r.file == file;
  });
  waiting_.push_back({take, file, second, over, std::move(done)});
  wake_.notify_all();
}

void Saver::opened(const std::filesystem::path& file, std::string content) {
  const std::lock_guard lock(mutex_);
  known_[file] = std::move(content);
}

Saved Saver::written(const Request& r) {
  Saved saved{r.file, {}, false, false};
  try {
    std::error_code ec;
    if (!r.over && std::filesystem::exists(r.file, ec)) {
      const std::string there = read_file(r.file);
      const std::lock_guard lock(mutex_);
      const auto known = known_.find(r.file);
      saved.changed = known == known_.end() || known->second != there;
    }
    if (saved.changed)
      throw failed(r.file.string() + say(" was changed by another program."),
                   say("It was left as it is. Ctrl+Shift+S saves yours beside it, or over it."));
    std::string text = take::to_text(r.take);
    write_file_atomically({r.file, FileKind::Take}, text);
    opened(r.file, std::move(text));
    return saved;
  } catch (const std::exception& e) {
    saved.trouble = QString::fromUtf8(e.what());
  }
  if (r.second.empty()) return saved;
  try {
    take::save_take(r.take, r.second);
    saved.copy = true;
  } catch (const std::exception&) {
    // The first trouble is what there is to say.
  }
  return saved;
}

void Saver::wait() {
  std::unique_lock lock(mutex_);
  idle_.wait(lock, [this] { return waiting_.empty() && !busy_; });
}

void Saver::work(const std::stop_token& stop) {
  for (;;) {
    std::unique_lock lock(mutex_);
    if (!wake_.wait(lock, stop, [this] { return !waiting_.empty(); })) return;
    const Request request = std::move(waiting_.front());
    waiting_.pop_front();
    busy_ = true;
    lock.unlock();
    const Saved saved = written(request);
    if (request.done)
      QMetaObject::invokeMethod(
          this, [done = request.done, saved] { done(saved); }, Qt::QueuedConnection);
    lock.lock();
    busy_ = false;
    idle_.notify_all();
  }
}

}  // namespace askcount::app
