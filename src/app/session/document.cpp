#include "app/session/document.h"

#include <QCoreApplication>
#include <QTime>

#include "app/session/keeping.h"
#include "base/error.h"
#include "journal/journal.h"
#include "orders/light.h"

namespace askcount::app {
namespace fs = std::filesystem;
namespace {

constexpr size_t kUndoSteps = 200;
constexpr int kAutosave_ms = 800;

}  // namespace

Document::Document(QObject* parent) : QObject(parent), take_(take::demo_take()) {
  autosave_.setSingleShot(true);
  autosave_.setInterval(kAutosave_ms);
  connect(&autosave_, &QTimer::timeout, this, &Document::autosave);
  work_out();
}

Document::~Document() {
  blockSignals(true);
  if (autosave_.isActive()) autosave();
}

const ramp::Ramp* Document::ramp() const {
  if (!ramp_asked_) {
    ramp_asked_ = true;
    try {
      if (sums_) ramp_ = orders::ramp_of(take_);
    } catch (const Error&) {
      // Too long to follow: the stage says so.
    }
  }
  return ramp_ ? &*ramp_ : nullptr;
}

void Document::work_out() {
  ramp_.reset();
  ramp_asked_ = false;
  solution_ = take_.solution();
  sums_ = solution_.complete() ? std::optional(plan::sums_of(solution_, take_.shape())) : std::nullopt;
}

void Document::after_edit() {
  work_out();
  autosave_.start();
  emit changed();
}

void Document::edit(const std::function<void(take::Take&)>& change, const QString& drag) {
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

void Document::undo() {
  if (undo_.empty()) return;
  drag_.clear();
  redo_.push_back(take_);
  take_ = undo_.back();
  undo_.pop_back();
  after_edit();
}

void Document::redo() {
  if (redo_.empty()) return;
  undo_.push_back(take_);
  take_ = redo_.back();
  redo_.pop_back();
  after_edit();
}

void Document::put_down(take::Take take, const fs::path& file) {
  if (autosave_.isActive()) autosave();
  ++generation_;
  take_ = std::move(take);
  file_ = file;
  undo_.clear();
  redo_.clear();
  drag_.clear();
  saved_words_.clear();
  work_out();
  emit replaced();
  emit changed();
}

void Document::save(const fs::path& file) {
  autosave_.stop();
  const fs::path to = file.empty() ? file_ : file;
  saver_.save(take_, to, {},
              [this, generation = generation_](const Saved& s) { heard(s, generation, true); });
}

void Document::autosave() {
  autosave_.stop();
  const bool unsaved = file_.empty();
  // A second place, so that nothing is lost where the first cannot be written.
  saver_.save(take_, unsaved ? unsaved_file() : file_, unsaved ? fs::path() : unsaved_file(),
              [this, generation = generation_](const Saved& s) { heard(s, generation, false); });
}

void Document::heard(const Saved& saved, std::uint64_t generation, bool renamed) {
  if (!saved.trouble.isEmpty()) emit trouble(saved.trouble);
  if (generation != generation_) return;  // of a take that is put away
  const QString clock = QTime::currentTime().toString("HH:mm");
  if (!saved.trouble.isEmpty()) {
    saved_words_ = saved.copy ? "Not saved there, a copy is kept" : "Not saved";
  } else if (renamed) {
    std::error_code ec;
    if (file_.empty()) fs::remove(unsaved_file(), ec);
    const bool moved = file_ != saved.file;
    file_ = saved.file;
    remember_take(saved.file);
    saved_words_ = "Saved " + clock;
    if (moved) emit changed();
  } else {
    saved_words_ = file_.empty() ? "Kept " + clock + ", has no file yet" : "Saved " + clock;
  }
  emit this->saved();
}

void Document::wait_until_saved() {
  if (autosave_.isActive()) autosave();
  saver_.wait();
  QCoreApplication::sendPostedEvents(&saver_);
}

fs::path Document::beside(const std::string& path) const {
  const fs::path p = path;
  return path.empty() || p.is_absolute() || file_.empty() ? p : file_.parent_path() / p;
}

fs::path Document::journal_file() const {
  return journal::journal_file(file_.empty() ? unsaved_file() : file_);
}

fs::path Document::film_file() const {
  fs::path file = file_.empty() ? fs::path("clip.mp4") : file_;
  return file.replace_extension(".mp4");
}

}  // namespace askcount::app
