// SPDX-License-Identifier: GPL-3.0-or-later
// The open take: changed in one place, undone, and saved by itself.
#pragma once

#include <cstdint>
#include <filesystem>
#include <functional>
#include <memory>
#include <optional>
#include <QLockFile>
#include <QObject>
#include <QString>
#include <QTimer>
#include <vector>

#include "app/session/saver.h"
#include "forecast/forecast.h"
#include "forecast/place_picture.h"
#include "forecast/shoot.h"
#include "take/take.h"

namespace askcount::app {

/// The one place through which the take is changed. What follows from it without looking at a picture (the
/// sums, the ramp) is worked out here too, once for all who ask.
class Document : public QObject {
  Q_OBJECT
 public:
  explicit Document(QObject* parent = nullptr);
  /// Writes what is not written yet.
  ~Document() override;

  const take::Take& take() const { return take_; }
  /// The sums, where the wishes are enough.
  const std::optional<plan::Sums>& sums() const { return sums_; }
  const plan::Solution& solution() const { return solution_; }
  /// The take's exposures by its method, worked out when first asked for; null where the wishes are too few,
  /// the light is not known or the shots are too many.
  const ramp::Ramp* ramp() const;
  /// The same where the light is not known, too: the shutter then stands.
  const ramp::Ramp* ramp_in_any_case() const { return exposure() ? &*ramp_ : nullptr; }
  /// Its one exposure plan, known where the wishes are enough; without a light the shutter stands.
  const std::optional<forecast::ExposurePlan>& exposure() const;
  /// When its presses come, and what becomes of them; worked out when first asked for. Only where the wishes
  /// are enough.
  const forecast::Forecast& forecast() const;
  const plan::Schedule& schedule() const { return forecast().schedule; }
  /// What goes behind its skyline when, worked out when first asked for.
  const std::vector<sky::Behind>& behind() const;
  /// What its timer is told. Only where the wishes are enough.
  timer::Program program() const { return forecast::program_of(take_, *exposure()); }

  /// Changes the take as one step that can be undone. Changes that leave it as it was are no step. Changes
  /// that follow each other with the same `drag` (not empty) become one step, until end_drag().
  void edit(const std::function<void(take::Take&)>& change, const QString& drag = {});
  void end_drag() { drag_.clear(); }
  void undo();
  void redo();
  bool can_undo() const { return !undo_.empty(); }
  bool can_redo() const { return !redo_.empty(); }

  /// Where a take came from.
  struct Origin {
    std::filesystem::path file;     ///< empty where it has none
    std::string content;            ///< what that file held when it was read
    std::filesystem::path unsaved;  ///< the file an earlier session kept it in, where it has no other
  };
  /// Puts another take in the place of the open one, which is written first. Throws nothing. One whose file
  /// is open in another window is only to look at: look_only().
  void put_down(take::Take take, const Origin& origin);
  /// The take is open in another window: edits are refused, until it is saved under another name.
  bool look_only() const { return !lock_; }
  /// Which take is open: grows with every put_down(). What was made from one does not fit another.
  std::uint64_t generation() const { return generation_; }

  /// Writes the take to `file`, or where it came from, on a thread of its own; saved() tells how it went.
  /// With a name given the take is that file's from then on, if it could be written, whatever was there;
  /// without one a file that another program changed meanwhile is left alone.
  void save(const std::filesystem::path& file = {});
  /// Waits until what was to be written is, and was told.
  void wait_until_saved();
  const std::filesystem::path& file() const { return file_; }
  /// Where it is kept while it has no file, and whether anything is there yet.
  const std::filesystem::path& kept_file() const { return unsaved_; }
  bool is_kept() const;
  /// "Saved 18:02", "Kept 18:02, has no file yet", "Not saved" or empty: how the last saving went.
  QString saved_words() const { return saved_words_; }

  /// A path of the take, as it is from here.
  std::filesystem::path beside(const std::string& path) const;
  std::filesystem::path card() const { return beside(take_.card); }
  /// The name its film is to have: beside the take; while that has no file, where the desktop keeps films.
  std::filesystem::path film_file() const;
  /// The journal of its newest shoot, and one for a new shoot.
  std::filesystem::path journal_file() const;
  std::filesystem::path next_journal() const;

 signals:
  void changed();   ///< the take is another, or says something else
  void replaced();  ///< another take was put down; changed() follows
  void saved();     ///< saved_words() says something new
  void trouble(QString words);

 private:
  void work_out();
  void after_edit();
  void autosave();
  void heard(const Saved& saved, std::uint64_t generation, bool renamed);
  void lock(const std::filesystem::path& file);

  take::Take take_;
  plan::Solution solution_;
  std::optional<plan::Sums> sums_;
  mutable std::optional<ramp::Ramp> ramp_;
  mutable std::optional<forecast::ExposurePlan> exposure_;
  mutable std::optional<forecast::Forecast> forecast_;
  mutable bool ramp_asked_ = false;
  mutable std::optional<std::vector<sky::Behind>> behind_;
  std::vector<take::Take> undo_, redo_;
  QString drag_;
  std::uint64_t generation_ = 1;
  std::filesystem::path file_, unsaved_;  // the second is its own, whether anything was written there or not
  std::filesystem::path saving_to_;       // under another name, and not heard of yet; empty otherwise
  bool again_ = false;                    // edited meanwhile
  std::unique_ptr<QLockFile> lock_;       // of the one it is saved in
  QTimer autosave_;
  QString saved_words_;
  Saver saver_;
};

}  // namespace askcount::app
