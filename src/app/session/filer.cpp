// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/filer.h"

namespace askcount::app {

Filer::Filer(Document& document, Frames& frames, Looking& looking, Levelling& levelling, Films& films,
             Run& run, BookKeeper& book, QObject* parent)
    : QObject(parent),
      document_(document),
      frames_(frames),
      looking_(looking),
      levelling_(levelling),
      book_(book) {
  constexpr int kSoon_ms = 400;
  timer_.setSingleShot(true);
  timer_.setInterval(kSoon_ms);
  connect(&timer_, &QTimer::timeout, this, &Filer::file_now);
  connect(&document, &Document::replaced, this, [this] {
    file_now();  // of the one before
    kept_.clear();
  });
  connect(&document, &Document::saved, this, &Filer::after_saving);
  connect(&frames, &Frames::changed, this, &Filer::soon);
  connect(&looking, &Looking::changed, this, [this] {
    if (looking_.complete()) soon();
  });
  connect(&levelling, &Levelling::changed, this, &Filer::soon);
  connect(&run, &Run::ended, this, &Filer::soon);
  connect(&films.queue, &FilmQueue::made, this,
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
