// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/saver.h"

#include <algorithm>

#include "app/style/text.h"
#include "base/error.h"
#include "base/files.h"
#include "take/edit.h"

namespace askcount::app {

Saver::Saver(QObject* parent) : QObject(parent) {}

void Saver::save(const take::Take& take, const std::filesystem::path& file,
                 const std::filesystem::path& second, bool over, std::function<void(const Saved&)> done) {
  if (over) {
    const std::lock_guard lock(mutex_);
    over_.insert(file);
  }
  const auto write = [this, request = Request{take, file, second}, done = std::move(done)] {
    const Saved saved = written(request);
    if (!done) return;
    QMetaObject::invokeMethod(
        this, [done, saved] { done(saved); }, Qt::QueuedConnection);
  };
  worker_.add(write, file.string());
}

void Saver::opened(const std::filesystem::path& file, std::string content) {
  const std::lock_guard lock(mutex_);
  known_[file] = std::move(content);
}

Saved Saver::written(const Request& r) {
  Saved saved{r.file, {}, false, false};
  const auto may_go_over = [&] {
    const std::lock_guard lock(mutex_);
    return over_.erase(r.file) > 0;
  };
  try {
    std::error_code ec;
    const take::Hold hold(r.file);  // no verb changes it between looking and writing
    if (!may_go_over() && std::filesystem::exists(r.file, ec)) {
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

}  // namespace askcount::app

#include "moc_saver.cpp"
