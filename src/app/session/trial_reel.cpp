// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/trial_reel.h"

#include <algorithm>
#include <atomic>
#include <condition_variable>
#include <map>
#include <mutex>
#include <set>
#include <thread>

#include "app/style/text.h"
#include "app/widgets/image.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/exposure.h"
#include "forecast/trial.h"

namespace askcount::app {
namespace {

constexpr int kHands = 2;   // threads that shoot
constexpr int kAhead = 40;  // frames

TrialReel::About about_of(const take::Take& take, const simulate::TrialFilm& film) {
  const simulate::TrialPlan& plan = film.plan();
  const simulate::OverMeter over = film.over_meter();
  TrialReel::About about;
  about.fps = plan.fps;
  about.frames = plan.frames;
  about.size = plan.size;
  about.plan =
      say_q("%1, one every %2, shutter %3")
          .arg(to_q(counted(plan.frames, "{} frame", "{} frames")), to_q(format_length(plan.interval_s)),
               to_q(forecast::shutter_words(forecast::exposure_of(take))));
  about.seen = to_q(forecast::trial_words(take, plan));
  about.over = to_q(simulate::over_words(over));
  about.lost = simulate::is_lost(over);
  return about;
}

}  // namespace

/// One film being shot.
struct TrialReel::Shoot {
  take::Take take;
  mutable std::mutex mutex;
  std::condition_variable_any room;
  std::unique_ptr<const simulate::TrialFilm> film;  // once it is worked out
  std::optional<About> about;
  QString trouble;
  long long wanted = 0;
  std::map<long long, QImage> made;
  std::set<long long> making;
  std::atomic<int> at_work{0};
  std::vector<std::jthread> threads;

  /// The next frame that nobody makes yet, counted from the one wanted; −1 where all are there.
  long long next() const {
    const long long frames = film->plan().frames;
    for (long long k = 0; k < std::min<long long>(kAhead, frames); ++k) {
      const long long n = (wanted + k) % frames;
      if (!made.contains(n) && !making.contains(n)) return n;
    }
    return -1;
  }
  void let_go() {
    const long long frames = film->plan().frames;
    std::erase_if(made, [&](const auto& one) {
      return (one.first - wanted + frames) % frames >= kAhead && one.first != (wanted - 1 + frames) % frames;
    });
  }
  void work(const std::stop_token& stop, bool first, const std::function<void()>& tell);
};

void TrialReel::Shoot::work(const std::stop_token& stop, bool first, const std::function<void()>& tell) {
  if (first) {
    try {
      auto shot = std::make_unique<const simulate::TrialFilm>(forecast::trial_of(take));
      const About said = about_of(take, *shot);
      const std::lock_guard lock(mutex);
      film = std::move(shot);
      about = said;
    } catch (const std::exception& e) {
      const std::lock_guard lock(mutex);
      trouble = QString::fromUtf8(e.what());
    }
    room.notify_all();
    tell();
  }
  for (;;) {
    std::unique_lock lock(mutex);
    long long n = -1;
    room.wait(lock, stop, [&] { return !trouble.isEmpty() || (film && (n = next()) >= 0); });
    if (stop.stop_requested() || !trouble.isEmpty()) return;
    making.insert(n);
    lock.unlock();
    const QImage image = image_of(film->frame(n));
    lock.lock();
    making.erase(n);
    made[n] = image;
    let_go();
    const bool waited_for = n == wanted;
    lock.unlock();
    if (waited_for) tell();
  }
}

TrialReel::TrialReel(QObject* parent) : QObject(parent) {}

TrialReel::~TrialReel() {
  leave();
  leaving_.clear();  // waits
}

void TrialReel::leave() {
  std::erase_if(leaving_, [](const auto& s) { return s->at_work == 0; });
  if (!shoot_) return;
  for (auto& thread : shoot_->threads) thread.request_stop();
  shoot_->room.notify_all();
  leaving_.push_back(std::move(shoot_));
  shoot_.reset();
}

void TrialReel::shoot(const take::Take& take) {
  if (shoot_ && take == take_) return;
  leave();
  take_ = take;
  shoot_ = std::make_shared<Shoot>();
  shoot_->take = take;
  shoot_->at_work = kHands;
  const std::weak_ptr<Shoot> weak = shoot_;
  for (int hand = 0; hand < kHands; ++hand)
    shoot_->threads.emplace_back([this, weak, raw = shoot_.get(), hand](const std::stop_token& stop) {
      raw->work(stop, hand == 0, [this, weak] {
        QMetaObject::invokeMethod(
            this,
            [this, weak] {
              if (const auto shoot = weak.lock()) heard(shoot);
            },
            Qt::QueuedConnection);
      });
      --raw->at_work;
    });
}

void TrialReel::heard(const std::shared_ptr<Shoot>& shoot) {
  if (shoot != shoot_) return;
  {
    const std::lock_guard lock(shoot->mutex);
    if (shoot->about) about_ = shoot->about;
    trouble_ = shoot->trouble;
    if (!trouble_.isEmpty()) about_.reset();
  }
  emit changed();
}

QImage TrialReel::picture(long long frame) {
  if (!shoot_) return {};
  QImage image;
  {
    const std::lock_guard lock(shoot_->mutex);
    shoot_->wanted = frame;
    if (const auto found = shoot_->made.find(frame); found != shoot_->made.end()) image = found->second;
  }
  shoot_->room.notify_all();
  return image;
}

int TrialReel::ready_from(long long frame) const {
  if (!shoot_) return 0;
  const std::lock_guard lock(shoot_->mutex);
  if (!shoot_->film) return 0;
  const long long frames = shoot_->film->plan().frames;
  int ready = 0;
  while (ready < std::min<long long>(frames, kAhead) && shoot_->made.contains((frame + ready) % frames))
    ++ready;
  return ready;
}

}  // namespace askcount::app

#include "moc_trial_reel.cpp"
