// The open take: changed in one place, undone, and saved by itself.
#pragma once

#include <cstdint>
#include <filesystem>
#include <functional>
#include <optional>
#include <QObject>
#include <QString>
#include <QTimer>
#include <vector>

#include "app/session/saver.h"
#include "ramp/ramp.h"
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
  /// The take's ramp by hand, worked out when first asked for; null where the wishes are too few or the shots
  /// too many.
  const ramp::Ramp* ramp() const;

  /// Changes the take as one step that can be undone. Changes that leave it as it was are no step. Changes
  /// that follow each other with the same `drag` (not empty) become one step, until end_drag().
  void edit(const std::function<void(take::Take&)>& change, const QString& drag = {});
  void end_drag() { drag_.clear(); }
  void undo();
  void redo();
  bool can_undo() const { return !undo_.empty(); }
  bool can_redo() const { return !redo_.empty(); }

  /// Puts another take in the place of the open one, which is written first; `file` is where it came from,
  /// empty where it has none. Throws nothing.
  void put_down(take::Take take, const std::filesystem::path& file);
  /// Which take is open: grows with every put_down(). What was made from one does not fit another.
  std::uint64_t generation() const { return generation_; }

  /// Writes the take to `file`, or where it came from, on a thread of its own; saved() tells how it went.
  /// With a new name the take is that file's from then on, if it could be written.
  void save(const std::filesystem::path& file = {});
  /// Waits until what was to be written is, and was told.
  void wait_until_saved();
  const std::filesystem::path& file() const { return file_; }
  /// "Saved 18:02", "Kept 18:02, has no file yet", "Not saved" or empty: how the last saving went.
  QString saved_words() const { return saved_words_; }

  /// A path of the take, as it is from here.
  std::filesystem::path beside(const std::string& path) const;
  std::filesystem::path card() const { return beside(take_.card); }
  std::filesystem::path film_file() const;
  std::filesystem::path journal_file() const;

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

  take::Take take_;
  plan::Solution solution_;
  std::optional<plan::Sums> sums_;
  mutable std::optional<ramp::Ramp> ramp_;
  mutable bool ramp_asked_ = false;
  std::vector<take::Take> undo_, redo_;
  QString drag_;
  std::uint64_t generation_ = 1;
  std::filesystem::path file_;
  QTimer autosave_;
  QString saved_words_;
  Saver saver_;
};

}  // namespace askcount::app
