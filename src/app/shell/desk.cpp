#include "app/shell/desk.h"

#include <algorithm>
#include <QTime>

#include "app/shell/keeping.h"
#include "base/error.h"
#include "cut/render.h"
#include "take/make.h"

namespace askcount::app {
namespace fs = std::filesystem;

constexpr size_t kUndoSteps = 200;
constexpr int kAutosave_ms = 800;

Desk::Desk(QObject* parent) : QObject(parent), take_(take::demo_take()) {
  autosave_.setSingleShot(true);
  autosave_.setInterval(kAutosave_ms);
  connect(&autosave_, &QTimer::timeout, this, &Desk::autosave);
  connect(&job_, &Job::ended, this, [this](const QString& words, bool cancelled) {
    if (!words.isEmpty() && !cancelled) emit trouble(words);
    emit changed();
  });
  connect(&run_, &ShootRun::changed, this, &Desk::changed);
  connect(&run_, &ShootRun::shot_landed, this, &Desk::shot_landed);
  connect(&run_, &ShootRun::trouble, this, &Desk::trouble);
  connect(&run_, &ShootRun::ended, this, [this] {
    if (run_.state().standin && !card().empty()) gather();
  });
  connect(&tests_, &TestPictures::trouble, this, &Desk::trouble);
  connect(&tests_, &TestPictures::changed, this, &Desk::changed);
  refresh();
}

Desk::~Desk() {
  tests_.blockSignals(true);
  run_.blockSignals(true);
  blockSignals(true);  // the window is half gone
  job_.blockSignals(true);
  wait_for_saver();
  if (autosave_.isActive()) autosave();
  wait_for_saver();
}

const ramp::Ramp* Desk::ramp() const {
  if (!ramp_asked_) {
    ramp_asked_ = true;
    try {
      if (sums_) ramp_ = take::ramp_of(take_);
    } catch (const Error&) {
      // Too long to follow: the stage says so.
    }
  }
  return ramp_ ? &*ramp_ : nullptr;
}

void Desk::refresh() {
  ramp_.reset();
  ramp_asked_ = false;
  solution_ = take_.solution();
  sums_ = solution_.complete() ? std::optional(plan::sums_of(solution_, take_.shape())) : std::nullopt;
  at_ = std::clamp(at_, 0LL, std::max(0LL, frame_count() - 1));
}

void Desk::after_edit() {
  refresh();
  load_tests();
  autosave_.start();
  emit changed();
}

void Desk::edit(const std::function<void(take::Take&)>& change, const QString& drag) {
  take::Take next = take_;
  change(next);
  if (next == take_) return;
  if (drag.isEmpty() || drag != drag_) undo_.push_back(take_);
  drag_ = drag;
  if (undo_.size() > kUndoSteps) undo_.erase(undo_.begin());
  redo_.clear();
  take_ = std::move(next);
  after_edit();
}

void Desk::undo() {
  if (undo_.empty()) return;
  drag_.clear();
  redo_.push_back(take_);
  take_ = undo_.back();
  undo_.pop_back();
  after_edit();
}

void Desk::redo() {
  if (redo_.empty()) return;
  undo_.push_back(take_);
  take_ = redo_.back();
  redo_.pop_back();
  after_edit();
}

void Desk::put_down(take::Take take, const fs::path& file) {
  if (autosave_.isActive()) {
    autosave_.stop();
    wait_for_saver();
    autosave();
  }
  wait_for_saver();
  take_ = std::move(take);
  file_ = file;
  undo_.clear();
  redo_.clear();
  at_ = 0;
  saved_words_.clear();
  forget_frames();
  refresh();
  load_tests();
}

void Desk::open(const fs::path& file) {
  put_down(take::load_take(file), file);
  remember_take(file);
  if (!run_.active())
    run_.take_up(journal_file(), card());  // a shoot that was under way when the program ended
  std::error_code ec;
  if (fs::exists(film_file(), ec)) try {
      film_ = cut::read_film(film_file());
    } catch (const Error&) {
      film_.reset();
    }
  emit changed();
}

void Desk::begin() {
  take::Take fresh;
  fresh.place = take_.place;
  fresh.kit = take_.kit;
  fresh.timer = take_.timer;
  fresh.start =
      std::chrono::floor<std::chrono::minutes>(std::chrono::system_clock::now()) + std::chrono::hours(1);
  put_down(std::move(fresh), {});
  put_unsaved_aside();
  emit changed();
}

bool Desk::recover() {
  std::error_code ec;
  if (!fs::exists(unsaved_file(), ec)) return false;
  put_down(take::load_take(unsaved_file()), {});
  emit changed();
  return true;
}

void Desk::save(const fs::path& file) {
  wait_for_saver();
  const fs::path to = file.empty() ? file_ : file;
  take::save_take(take_, to);
  std::error_code ec;
  if (file_.empty()) fs::remove(unsaved_file(), ec);
  file_ = to;
  remember_take(to);
  saved_words_ = "Saved " + QTime::currentTime().toString("HH:mm");
  autosave_.stop();
  emit changed();
}

void Desk::wait_for_saver() {
  if (saver_.joinable()) saver_.join();
}

void Desk::autosave() {
  if (saving_) return autosave_.start();  // the disk is still busy with the last one
  wait_for_saver();
  saving_ = true;
  saver_ = std::thread([this, take = take_, file = file_] {
    QString words, why;
    const QString clock = QTime::currentTime().toString("HH:mm");
    try {
      take::save_take(take, file.empty() ? unsaved_file() : file);
      words = file.empty() ? "Kept " + clock + ", has no file yet" : "Saved " + clock;
    } catch (const Error& e) {
      why = QString::fromUtf8(e.what());
      words = "Not saved";
      // A second place, so that nothing is lost where the first cannot be written.
      if (!file.empty()) try {
          take::save_take(take, unsaved_file());
          words = "Not saved there, a copy is kept";
        } catch (const Error&) {
        }
    }
    saving_ = false;
    QMetaObject::invokeMethod(this, [this, words, why] {
      saved_words_ = words;
      if (!why.isEmpty()) emit trouble(why);
      emit saved();
    });
  });
}

fs::path Desk::beside(const std::string& path) const {
  const fs::path p = path;
  return path.empty() || p.is_absolute() || file_.empty() ? p : file_.parent_path() / p;
}

fs::path Desk::card() const {
  return beside(take_.card);
}

void Desk::choose_tests(const fs::path& first, const fs::path& second) {
  edit([&](take::Take& t) { t.test_pictures = {first.string(), second.string()}; });
  load_tests();
}

void Desk::load_tests() {
  if (take_.test_pictures.size() != 2) return tests_.forget();
  tests_.load(beside(take_.test_pictures[0]), beside(take_.test_pictures[1]));
}

fs::path Desk::journal_file() const {
  return take::journal_file(file_.empty() ? unsaved_file() : file_);
}

fs::path Desk::film_file() const {
  fs::path file = file_.empty() ? fs::path("clip.mp4") : file_;
  return file.replace_extension(".mp4");
}

long long Desk::frame_count() const {
  if (gathered_) return static_cast<long long>(gathered_->frames.size());
  return sums_ ? sums_->frames : 0;
}

void Desk::set_at(long long frame) {
  frame = std::clamp(frame, 0LL, std::max(0LL, frame_count() - 1));
  if (frame == at_) return;
  at_ = frame;
  emit scrubbed();
}

void Desk::forget_frames() {
  gathered_.reset();
  lights_.clear();
  evenness_.reset();
  film_.reset();
}

void Desk::shoot(const ShootWish& wish) {
  if (job_.running() || run_.active() || !sums_) return;
  if (take_.card.empty()) edit([](take::Take& t) { t.card = "card"; });
  try {
    const fs::path card = fs::absolute(this->card());
    standin::RigSetting rig = take::rig_of(take_, card, wish.limits);
    rig.scale = wish.scale;
    rig.faults = wish.faults;
    if (wish.scale > 0) rig.clicks.clear();  // the person's own hand turns the dials
    forget_frames();
    emit changed();
    run_.remember_ticks(take_.ticks);
    run_.start_standin(rig, journal_file(), take_.program().interval_s, take_.program().count, true);
  } catch (const Error& e) {
    emit trouble(QString::fromUtf8(e.what()));
  }
}

void Desk::accompany(Seconds after_s) {
  if (run_.active() || !sums_) return;
  try {
    const Instant now = std::chrono::floor<std::chrono::milliseconds>(std::chrono::system_clock::now());
    run_.remember_ticks(take_.ticks);
    run_.start_companion(later(now, after_s), take_.program().interval_s, take_.program().count,
                         journal_file());
  } catch (const Error& e) {
    emit trouble(QString::fromUtf8(e.what()));
  }
}

void Desk::gather() {
  const fs::path card = this->card();
  if (job_.running() || card.empty()) return;
  const auto found = std::make_shared<gather::Gathered>();
  job_.start(
      "Reading the card", [found, card](const Work& work) { *found = gather::gather(card, work); },
      [this, found] {
        gathered_ = std::move(*found);
        evenness_.reset();
        refresh();
        emit changed();
      });
}

void Desk::level_then(const std::function<void()>& then) {
  if (job_.running() || !gathered_) return;
  using Lights = std::vector<std::unique_ptr<picture::FrameLight>>;
  const auto lights = std::make_shared<Lights>();
  const auto evenness = std::make_shared<level::Evenness>();
  const auto frames = std::make_shared<std::vector<gather::Frame>>(gathered_->frames);
  const picture::Size film = take_.film.size;
  job_.start(
      "Measuring brightness",
      [=](const Work& work) {
        *lights = level::measure(*frames, film, level::Source::Frames, work);
        *evenness = level::even_out(*frames, *lights);
      },
      [this, lights, evenness, then] {
        lights_ = std::move(*lights);
        evenness_ = std::move(*evenness);
        emit changed();
        if (then) then();
      });
}

void Desk::level() {
  level_then({});
}

void Desk::cut() {
  if (job_.running() || !gathered_ || !sums_) return;
  cut::CutOrder order = take::cut_order(take_, gathered_->frames, film_file());
  if (evenness_) order.gains = evenness_->gains;
  const auto facts = std::make_shared<cut::FilmFacts>();
  job_.start(
      "Making the clip", [order, facts](const Work& work) { *facts = cut::render(order, work).facts; },
      [this, facts] {
        film_ = *facts;
        emit changed();
      });
}

}  // namespace askcount::app
