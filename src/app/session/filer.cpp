// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/filer.h"

namespace askcount::app {

Filer::Filer(const FilerParts& parts)
    : document_(parts.document),
      frames_(parts.frames),
      looking_(parts.looking),
      levelling_(parts.levelling),
      book_(parts.book) {
  constexpr int kSoon_ms = 400;
  timer_.setSingleShot(true);
  timer_.setInterval(kSoon_ms);
  connect(&timer_, &QTimer::timeout, this, &Filer::file_now);
  connect(&document_, &Document::replaced, this, [this] {
    file_now();  // of the one before
    kept_.clear();
  });
  connect(&document_, &Document::saved, this, &Filer::after_saving);
  connect(&frames_, &Frames::changed, this, &Filer::soon);
  connect(&looking_, &Looking::changed, this, [this] {
    if (looking_.complete()) soon();
  });
  connect(&levelling_, &Levelling::changed, this, &Filer::soon);
  connect(&parts.run, &Run::ended, this, &Filer::soon);
  connect(&parts.films.queue, &FilmQueue::made, this,
          [this](const std::shared_ptr<const FilmBatch>& batch, const std::vector<FilmMade>& made) {
            Filing f{batch->take, batch->file, {}, {}, {}, made};
            book_.file(std::move(f));
          });
}

Filer::~Filer() {
  file_now();
}

void Filer::soon() {
  const bool own = !document_.file().empty();
  if (!own && (!frames_.gathered() || !document_.is_kept())) return;
  Filing f{document_.take(), own ? document_.file() : document_.kept_file(), {}, {}, {}, {}};
  if (frames_.gathered() && !frames_.list()->empty()) f.found = frames_.gathered();
  if (f.found && looking_.complete() && looking_.look().frames.size() == frames_.list()->size())
    f.faults = looking_.faults();
  if (f.found && levelling_.evenness() && !levelling_.stale()) f.evenness = levelling_.evenness();
  if (!own) kept_ = f.file;
  waiting_ = std::move(f);
  timer_.start();
}

void Filer::file_now() {
  timer_.stop();
  if (!waiting_) return;
  book_.file(std::move(*waiting_));
  waiting_.reset();
}

void Filer::after_saving() {
  if (!kept_.empty() && !document_.file().empty()) {
    file_now();
    book_.moved(kept_, document_.file());
    kept_.clear();
  }
  soon();
}

}  // namespace askcount::app

#include "moc_filer.cpp"
