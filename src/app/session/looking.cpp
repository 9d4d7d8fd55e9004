// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/looking.h"

#include <chrono>
#include <QMetaObject>
#include <QPointer>

#include "advice/gather_advice.h"
#include "base/error.h"
#include "forecast/gather.h"
#include "inspect/store.h"

namespace askcount::app {

Looking::Looking(Document& document, Frames& frames, QObject* parent)
    : QObject(parent), document_(document), frames_(frames) {
  connect(&frames, &Frames::changed, this, &Looking::frames_changed);
  connect(&document, &Document::changed, this, [this] {
    if (frames_.gathered() && of_ == frames_.list() && fine_ != document_.take().gather.fine) filter();
  });
}

Looking::~Looking() {
  stop();
}

void Looking::stop() {
  if (!running_) return;
  running_->thread.request_stop();
  if (running_->thread.joinable()) running_->thread.join();
  running_.reset();
}

void Looking::frames_changed() {
  if (!frames_.gathered()) {
    stop();
    of_.reset();
    look_ = {};
    seen_.clear();
    troubles_.clear();
    known_ = 0;
    faults_.clear();
    all_faults_.clear();
    lanes_.clear();
    trouble_.clear();
    emit changed();
    return;
  }
  const media::Frames now = frames_.list();
  if (now == of_) return;
  // What was ever looked at is known, wherever it stands now.
  if (of_ && known_ == of_->size())
    for (std::size_t n = 0; n < known_; ++n) seen_[(*of_)[n].file().string()] = look_.frames[n];
  for (const auto& [n, why] : look_.troubles)
    if (of_ && n < of_->size()) troubles_[(*of_)[n].file().string()] = why;
  inspect::Look look;
  for (const media::Frame& f : *now) {
    const auto at = seen_.find(f.file().string());
    if (at == seen_.end()) break;
    if (const auto why = troubles_.find(at->first); why != troubles_.end())
      look.troubles.emplace_back(look.frames.size(), why->second);
    look.frames.push_back(at->second);
  }
  const bool whole = look.frames.size() == now->size();
  const bool was_running = running_ != nullptr;
  stop();
  trouble_.clear();
  const std::size_t known = whole ? now->size() : 0;
  if (!whole) look.troubles.clear();
  look.frames.resize(now->size());
  const ingest::Gathered& g = *frames_.gathered();
  std::vector<inspect::Fault> faults =
      whole ? inspect::faults_of(g, look, forecast::planned_of(document_.take(), now->size()))
            : inspect::beat_faults(g);
  take_over(now, std::move(look), known, std::move(faults));
  if (was_running && !whole) start();
}

void Looking::start() {
  if (running_ || complete() || !frames_.gathered() || frames_.list()->empty() || !trouble_.isEmpty()) return;
  const media::Frames frames = frames_.list();
  const std::filesystem::path store =
      document_.file().empty() ? std::filesystem::path() : inspect::store_of(document_.file());
  const auto running = std::make_shared<Running>();
  running->frames = frames;
  running_ = running;
  const QPointer<Looking> self(this);
  const auto tell = [self, running](inspect::Look look, std::size_t known, std::vector<inspect::Fault> faults,
                                    const QString& trouble, bool ended) {
    QMetaObject::invokeMethod(
        self.data(),
        [self, running = std::weak_ptr<Running>(running), look = std::move(look), known,
         faults = std::move(faults), trouble, ended]() mutable {
          const auto still = running.lock();
          if (!self || !still || self->running_ != still) return;
          if (ended) {
            self->trouble_ = trouble;
            if (still->thread.joinable()) still->thread.join();  // telling was the last thing it did
            self->running_.reset();
          }
          self->take_over(still->frames, std::move(look), known, std::move(faults));
        },
        Qt::QueuedConnection);
  };
  const ingest::FoundTake take = *frames_.gathered();
  const inspect::Planned planned = forecast::planned_of(document_.take(), frames->size());
  running->thread = std::jthread([frames, store, tell, take, planned](const std::stop_token& stop) {
    using Clock = std::chrono::steady_clock;
    try {
      if (!store.empty())
        if (auto kept = inspect::kept_look(store, frames)) {
          std::vector<inspect::Fault> faults = inspect::faults_of(take, *kept, planned);
          tell(std::move(*kept), frames->size(), std::move(faults), {}, true);
          return;
        }
      auto last = Clock::now();
      inspect::Look look = inspect::look_at(frames, media::any_source(), {{}, stop},
                                            [&](const inspect::Look& so_far, std::size_t known) {
                                              if (Clock::now() - last < std::chrono::milliseconds(400))
                                                return;
                                              last = Clock::now();
                                              tell(so_far, known, inspect::beat_faults(take), {}, false);
                                            });
      QString trouble;
      if (!store.empty()) try {
          inspect::keep_look(store, frames, look);
        } catch (const Error& e) {  // it is only looked at again next time
          trouble = QString::fromStdString(e.what());
        }
      std::vector<inspect::Fault> faults = inspect::faults_of(take, look, planned);
      tell(std::move(look), frames->size(), std::move(faults), trouble, true);
    } catch (const std::exception& e) {
      if (!stop.stop_requested())
        tell({}, 0, inspect::beat_faults(take), QString::fromStdString(e.what()), true);
    }
  });
}

void Looking::take_over(const media::Frames& of, inspect::Look look, std::size_t known,
                        std::vector<inspect::Fault> faults) {
  of_ = of;
  look_ = std::move(look);
  look_.frames.resize(of->size());
  known_ = known;
  all_faults_ = std::move(faults);
  if (frames_.gathered()) lanes_ = inspect::lanes_of(*frames_.gathered(), look_, known_);
  filter();
}

void Looking::filter() {
  if (!frames_.gathered()) return;
  fine_ = document_.take().gather.fine;
  faults_ = advice::open_faults(document_.take(), *frames_.gathered(), all_faults_);
  emit changed();
}

}  // namespace askcount::app
