// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/document.h"

#include <QCoreApplication>
#include <QRegularExpression>
#include <QStandardPaths>
#include <QTime>

#include "app/session/keeping.h"
#include "app/style/text.h"
#include "base/error.h"
#include "forecast/light.h"
#include "journal/journal.h"

namespace askcount::app {
namespace fs = std::filesystem;
namespace {

constexpr size_t kUndoSteps = 200;
constexpr int kAutosave_ms = 800;

}  // namespace

Document::Document(QObject* parent) : QObject(parent) {
  autosave_.setSingleShot(true);
  autosave_.setInterval(kAutosave_ms);
  connect(&autosave_, &QTimer::timeout, this, &Document::autosave);
  unsaved_ = new_unsaved_file();
  lock(unsaved_);
  work_out();
}

Document::~Document() {
  blockSignals(true);
  if (autosave_.isActive()) autosave();
}

const std::vector<sky::Behind>& Document::behind() const {
  if (!behind_) behind_ = forecast::behind_of(take_);
  return *behind_;
}

const ramp::Ramp* Document::ramp() const {
  exposure();
  return ramp_ && !ramp_->ev.empty() ? &*ramp_ : nullptr;
}

const std::optional<forecast::ExposurePlan>& Document::exposure() const {
  if (ramp_asked_) return exposure_;
  ramp_asked_ = true;
  if (!sums_) return exposure_;
  try {
    ramp_ = forecast::ramp_of(take_);
  } catch (const Error&) {  // too long to follow: the stage says so
    ramp_ = forecast::ramp_without_light(take_);
  }
  exposure_ = forecast::exposure_of(take_, *ramp_);
  return exposure_;
}

const forecast::Forecast& Document::forecast() const {
  if (!forecast_) {
    const forecast::ExposurePlan& plan = *exposure();
    forecast_ = forecast::forecast_of(take_, *ramp_, plan);
  }
  return *forecast_;
}

void Document::work_out() {
  ramp_.reset();
  forecast_.reset();
  exposure_.reset();
  ramp_asked_ = false;
  behind_.reset();
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
  if (look_only()) {
    emit trouble(say_q("This take is open in another window. Ctrl+Shift+S saves it under another name."));
    emit changed();  // whatever was typed shows the take again
    return;
  }
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

void Document::lock(const fs::path& file) {
  lock_.reset();  // of the one before
  lock_ = lock_of(file);
}

void Document::put_down(take::Take take, const Origin& origin) {
  if (autosave_.isActive() || again_) {
    // What was edited while it was being saved elsewhere goes there too.
    if (!saving_to_.empty())
      saver_.save(take_, saving_to_, unsaved_, true, {});
    else
      autosave();
  }
  autosave_.stop();
  saving_to_.clear();
  again_ = false;
  ++generation_;
  take_ = std::move(take);
  file_ = origin.file;
  unsaved_ = origin.unsaved.empty() ? new_unsaved_file() : origin.unsaved;
  lock(file_.empty() ? unsaved_ : file_);
  if (!origin.content.empty()) saver_.opened(file_.empty() ? unsaved_ : file_, origin.content);
  undo_.clear();
  redo_.clear();
  drag_.clear();
  saved_words_ = look_only() ? say_q("Open in another window: view only") : QString();
  work_out();
  emit replaced();
  emit changed();
}

void Document::save(const fs::path& file) {
  autosave_.stop();
  if (look_only() && file.empty())
    return emit trouble(say_q("This take is open in another window: save it there."));
  const fs::path to = file.empty() ? file_ : file;
  if (!file.empty()) saving_to_ = file;
  saver_.save(take_, to, {}, !file.empty(),
              [this, generation = generation_](const Saved& s) { heard(s, generation, true); });
}

void Document::autosave() {
  autosave_.stop();
  if (!saving_to_.empty()) {  // whose file it is then is not known yet
    again_ = true;
    return;
  }
  const bool unsaved = file_.empty();
  // A second place, so that nothing is lost where the first cannot be written.
  saver_.save(take_, unsaved ? unsaved_ : file_, unsaved ? fs::path() : unsaved_, false,
              [this, generation = generation_](const Saved& s) { heard(s, generation, false); });
}

void Document::heard(const Saved& saved, std::uint64_t generation, bool renamed) {
  if (!saved.trouble.isEmpty()) emit trouble(saved.trouble);
  if (generation != generation_) return;  // of a take that is put away
  if (renamed) saving_to_.clear();
  const QString clock = QTime::currentTime().toString("HH:mm");
  std::error_code ec;
  if (saved.trouble.isEmpty() && saved.file != unsaved_)
    fs::remove(unsaved_, ec);  // what it held is in the file now
  if (!saved.trouble.isEmpty()) {
    saved_words_ = saved.copy      ? say_q("Not saved there; a copy is kept")
                   : saved.changed ? say_q("Not saved: changed by another program")
                                   : say_q("Not saved");
  } else if (renamed) {
    const bool moved = file_ != saved.file;
    if (moved) lock(saved.file);
    file_ = saved.file;
    remember_take(saved.file);
    saved_words_ = say_q("Saved ") + clock;
    if (moved) emit changed();
  } else {
    saved_words_ =
        file_.empty() ? say_q("Kept ") + clock + say_q(", not saved to a file yet") : say_q("Saved ") + clock;
  }
  if (renamed && std::exchange(again_, false)) autosave();
  emit this->saved();
}

void Document::wait_until_saved() {
  if (autosave_.isActive()) autosave();
  for (int i = 0; i < 2; ++i) {  // an edit that waited for a saving elsewhere is saved after it
    saver_.wait();
    QCoreApplication::sendPostedEvents(&saver_);
  }
}

fs::path Document::beside(const std::string& path) const {
  const fs::path p = path;
  return path.empty() || p.is_absolute() || file_.empty() ? p : file_.parent_path() / p;
}

bool Document::is_kept() const {
  std::error_code ec;
  return fs::exists(unsaved_, ec);
}

fs::path Document::journal_file() const {
  return journal::newest_journal(file_.empty() ? unsaved_ : file_);
}

fs::path Document::next_journal() const {
  return journal::new_journal(file_.empty() ? unsaved_ : file_, now());
}

fs::path Document::film_file() const {
  fs::path file = file_;  // beside the take
  if (file.empty()) {
    // Where people look for films, under the take's name and when it was begun: no other take's is met there.
    QString name = QString::fromStdString(take_.name).replace('/', '-');
    while (name.startsWith('.')) name.remove(0, 1);
    static const QRegularExpression begun("\\d{4}-\\d{2}-\\d{2} [\\d.]{8}");
    const auto at = begun.match(QString::fromStdString(unsaved_.stem().string()));
    if (at.hasMatch()) name += " " + at.captured();
    const fs::path films = QStandardPaths::writableLocation(QStandardPaths::MoviesLocation).toStdString();
    file = films / (name.toStdString() + ".");
  }
  return file.replace_extension("." + take_.film.ending);
}

}  // namespace askcount::app

#include "moc_document.cpp"
