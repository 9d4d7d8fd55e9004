// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/looking.h"

#include <chrono>
#include <memory>
#include <optional>
#include <QMetaObject>

#include "advice/gather_advice.h"
#include "base/error.h"
#include "forecast/gather.h"
#include "inspect/store.h"

namespace askcount::app {
namespace {

using Clock = std::chrono::steady_clock;
constexpr auto kEvery = std::chrono::milliseconds(400);  // what is known so far is shown

}  // namespace

Looking::Looking(Document& document, Frames& frames, QObject* parent)
    : QObject(parent), document_(document), frames_(frames) {
  connect(&frames, &Frames::changed, this, &Looking::frames_changed);
  connect(&document, &Document::changed, this, [this] {
    if (frames_.gathered() && of_ == frames_.list() && fine_ != document_.take().gather.fine) filter();
  });
}

void Looking::forget() {
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
}

void Looking::frames_changed() {
  if (!frames_.gathered()) {
    job_.disown();
    forget();
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
  const bool was_running = running();
  job_.disown();
  trouble_.clear();
  const std::size_t known = whole ? now->size() : 0;
  if (!whole) look.troubles.clear();
  look.frames.resize(now->size());
  const ingest::Gathered& g = *frames_.gathered();
  std::vector<inspect::Fault> faults =
      whole ? inspect::faults_of(g, look, forecast::planned_of(document_.take(), now->size()))
            : inspect::beat_faults(g);
  take_over(now, {std::move(look), known, std::move(faults)});
  if (was_running && !whole) start();
}

void Looking::start() {
  if (running() || complete() || !frames_.gathered() || frames_.list()->empty() || !trouble_.isEmpty())
    return;
  const media::Frames frames = frames_.list();
  const std::filesystem::path store =
      document_.file().empty() ? std::filesystem::path() : inspect::store_of(document_.file());
  const ingest::FoundTake take = *frames_.gathered();
  const inspect::Planned planned = forecast::planned_of(document_.take(), frames->size());
  struct Ended {
    Known known;
    QString trouble;
  };
  const auto ended = std::make_shared<Ended>();
  const auto so_far = [this, frames, take, last = Clock::now()](const inspect::Look& look,
                                                                std::size_t known) mutable {
    if (Clock::now() - last < kEvery) return;
    last = Clock::now();
    QMetaObject::invokeMethod(
        this,
        [this, frames, known = Known{look, known, inspect::beat_faults(take)}]() mutable {
          if (running() && of_ == frames) take_over(frames, std::move(known));
        },
        Qt::QueuedConnection);
  };
  const auto work = [frames, store, take, planned, so_far, ended](const Work& job) {
    try {
      std::optional<inspect::Look> look = store.empty() ? std::nullopt : inspect::kept_look(store, frames);
      if (!look) {
        look = inspect::look_at(frames, media::any_source(), {{}, job.stop}, so_far);
        if (!store.empty()) try {
            inspect::keep_look(store, frames, *look);
          } catch (const Error& e) {  // it is only looked at again next time
            ended->trouble = QString::fromUtf8(e.what());
          }
      }
      ended->known = {*look, frames->size(), inspect::faults_of(take, *look, planned)};
    } catch (const std::exception& e) {
      ended->known = {{}, 0, inspect::beat_faults(take)};
      ended->trouble = QString::fromUtf8(e.what());
    }
  };
  job_.start({{},
              work,
              [this, frames, ended] {
                trouble_ = ended->trouble;
                take_over(frames, std::move(ended->known));
              },
              [this, frames] { return frames_.gathered() && frames_.list() == frames; }});
}

void Looking::take_over(const media::Frames& of, Known known) {
  of_ = of;
  look_ = std::move(known.look);
  look_.frames.resize(of->size());
  known_ = known.frames;
  all_faults_ = std::move(known.faults);
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

#include "moc_looking.cpp"
