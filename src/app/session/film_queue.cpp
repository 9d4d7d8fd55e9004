// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/film_queue.h"

#include <algorithm>
#include <condition_variable>
#include <mutex>

#include "app/style/text.h"
#include "base/language.h"
#include "base/units.h"
#include "films/film.h"

namespace askcount::app {

namespace {

films::Finished finished(const FilmBatch& batch, size_t n, const render::FilmOrder& order,
                         const render::FilmOutcome& outcome, const Work& work) {
  films::BesideFilm beside = films::beside_film(batch.wishes[n], order.output);
  beside.about = batch.about;
  return films::finish_film(order, batch.frames->size(), outcome, beside, work);
}

}  // namespace

class FilmQueue::Gate {
 public:
  bool paused() const {
    const std::lock_guard lock(mutex_);
    return paused_;
  }
  void set(bool paused) {
    const std::lock_guard lock(mutex_);
    paused_ = paused;
    open_.notify_all();
  }
  void pass(const std::stop_token& stop) {
    std::unique_lock lock(mutex_);
    ++standing_;
    open_.wait(lock, stop, [this] { return !paused_; });
    --standing_;
  }
  bool held() const {
    const std::lock_guard lock(mutex_);
    return paused_ && standing_ > 0;
  }

 private:
  mutable std::mutex mutex_;
  std::condition_variable_any open_;
  bool paused_ = false;
  int standing_ = 0;  // that wait
};

FilmQueue::FilmQueue(QObject* parent) : QObject(parent), gate_(std::make_shared<Gate>()) {
  connect(&job_, &Job::progressed, this, &FilmQueue::progressed);
  connect(&job_, &Job::ended, this, [this](const QString& words, bool cancelled) {
    entries_.erase(entries_.begin());
    batches_.erase(batches_.begin());
    if (!words.isEmpty() && !cancelled) emit trouble(words);
    next();
    emit changed();
  });
}

FilmQueue::~FilmQueue() {
  blockSignals(true);
  disconnect(&job_, nullptr, this, nullptr);
}

bool FilmQueue::held() const {
  return gate_->held();
}

bool FilmQueue::paused() const {
  return gate_->paused();
}

int FilmQueue::add(FilmBatch batch) {
  const QString name = batch.take.name.empty() ? say_q("A take") : QString::fromStdString(batch.take.name);
  const auto many = static_cast<long long>(batch.orders.size());
  entries_.push_back(
      {++last_id_,
       many == 1 ? name : name + ", " + QString::fromStdString(counted(many, "{} film", "{} films")),
       QString::fromStdString(batch.orders.front().output.parent_path().string())});
  batches_.push_back(std::make_shared<const FilmBatch>(std::move(batch)));
  if (!job_.running()) next();
  emit changed();
  return last_id_;
}

void FilmQueue::next() {
  if (batches_.empty()) {
    gate_->set(false);
    return;
  }
  const auto batch = batches_.front();
  const auto films = std::make_shared<std::vector<FilmMade>>();
  job_.start({say_q("Making the film"),
              [batch, films, gate = gate_](const Work& work) {
                const auto source = films::source_of(batch->take, batch->folder, batch->frames);
                std::vector<render::FilmOrder> orders = batch->orders;
                for (size_t n = 0; n < orders.size(); ++n) {
                  orders[n].output = films::film_file(orders[n].output);
                  films::check_beside(films::beside_film(batch->wishes[n], orders[n].output), orders[n],
                                      batch->frames->size());
                  films::order_by_light(orders[n], batch->wishes[n], batch->frames, *source, {{}, work.stop});
                }
                const Work gated{[&](size_t done, size_t total) {
                                   gate->pass(work.stop);
                                   work.report(done, total);
                                 },
                                 work.stop};
                const auto outcomes =
                    render::render(batch->frames, *source, std::span<const render::FilmOrder>(orders), gated);
                for (size_t n = 0; n < outcomes.size(); ++n)
                  films->push_back({orders[n].output, outcomes[n],
                                    finished(*batch, n, orders[n], outcomes[n], {{}, work.stop})});
              },
              [this, batch, films] { emit made(batch, *films); },
              {}});
}

void FilmQueue::cancel(int id) {
  const auto at = std::find_if(entries_.begin(), entries_.end(), [id](const Entry& e) { return e.id == id; });
  if (at == entries_.end()) return;
  if (at == entries_.begin()) {
    job_.cancel();
    return;
  }
  batches_.erase(batches_.begin() + (at - entries_.begin()));
  entries_.erase(at);
  emit changed();
}

void FilmQueue::earlier(int id) {
  for (size_t n = 2; n < entries_.size(); ++n)
    if (entries_[n].id == id) {
      std::swap(entries_[n], entries_[n - 1]);
      std::swap(batches_[n], batches_[n - 1]);
      emit changed();
      return;
    }
}

void FilmQueue::set_paused(bool paused) {
  if (entries_.empty() || paused == gate_->paused()) return;
  gate_->set(paused);
  emit changed();
}

}  // namespace askcount::app

#include "moc_film_queue.cpp"
