// What lies on the desk: the open take, its frames and what was worked out from them.
#pragma once

#include <atomic>
#include <filesystem>
#include <functional>
#include <memory>
#include <optional>
#include <QObject>
#include <QString>
#include <QTimer>
#include <thread>
#include <vector>

#include "app/shell/job.h"
#include "app/shell/shoot_run.h"
#include "app/shell/test_pictures.h"
#include "cut/film.h"
#include "gather/gather.h"
#include "level/brightness.h"
#include "standin/shoot.h"
#include "take/light.h"
#include "take/take.h"

namespace askcount::app {

/// The one place through which the take is changed. Gives undo and redo, saves by itself, and tells every
/// view. Everything worked out from the take's card (frames, evenness, film) lives here too, so that stages
/// share it.
class Desk : public QObject {
  Q_OBJECT
 public:
  explicit Desk(QObject* parent = nullptr);
  ~Desk() override;

  const take::Take& take() const { return take_; }
  /// The sums, where the wishes are enough.
  const std::optional<plan::Sums>& sums() const { return sums_; }
  const plan::Solution& solution() const { return solution_; }

  /// Changes the take as one step that can be undone. Changes that leave it as it was are no step. Changes
  /// that follow each other with the same `drag` (not empty) become one step, until end_drag().
  void edit(const std::function<void(take::Take&)>& change, const QString& drag = {});
  void end_drag() { drag_.clear(); }
  void undo();
  void redo();
  bool can_undo() const { return !undo_.empty(); }
  bool can_redo() const { return !redo_.empty(); }

  /// Opens a take; throws as take::load_take and leaves what was open as it was.
  void open(const std::filesystem::path& file);
  /// Begins a new take. What was open and has no file of its own is put aside, nothing is lost.
  void begin();
  /// Takes up the take that had no file when the last session ended, however it ended; false where there is
  /// none.
  bool recover();
  /// Saves now, to `file` or where it came from; throws as take::save_take.
  void save(const std::filesystem::path& file = {});
  const std::filesystem::path& file() const { return file_; }
  /// "Saved 18:02", "Not saved: …" or empty.
  QString saved_words() const { return saved_words_; }
  std::filesystem::path card() const;
  std::filesystem::path film_file() const;
  std::filesystem::path journal_file() const;

  /// The frame looked at, from 0; every stage shows it.
  long long at() const { return at_; }
  void set_at(long long frame);
  long long frame_count() const;

  /// The take's ramp by hand, worked out when first asked for; null where the wishes are too few or the shots
  /// too many.
  const ramp::Ramp* ramp() const;

  const std::optional<gather::Gathered>& gathered() const { return gathered_; }
  const std::optional<level::Evenness>& evenness() const { return evenness_; }
  /// What the stand-in landed last while it shoots.
  const std::optional<standin::ShotLanded>& landed() const { return run_.landed(); }
  ShootRun& run() { return run_; }
  const ShootRun& run() const { return run_; }
  const std::optional<cut::FilmFacts>& film() const { return film_; }

  TestPictures& tests() { return tests_; }
  /// Two test pictures for the take, absolute or beside it.
  void choose_tests(const std::filesystem::path& first, const std::filesystem::path& second);
  /// A path of the take, as it is from here.
  std::filesystem::path beside(const std::string& path) const;

  Job& job() { return job_; }
  /// How the stand-in shoots from the window.
  struct ShootWish {
    double scale =
        0;  ///< field seconds a real second; 0 as fast as it can, with a hand that follows the light
    bool limits = false;  ///< the kit's battery, card and buffer end
    std::vector<standin::Fault> faults;
  };
  /// Each starts long work; its result arrives by changed().
  void shoot(const ShootWish& wish);
  void shoot() { shoot({}); }
  /// Begins beside a real camera, whose first shot is `after_s` from now.
  void accompany(Seconds after_s);
  void gather();
  void level();
  void cut();

 signals:
  void changed();      ///< the take, or anything worked out from it
  void scrubbed();     ///< another frame is looked at
  void shot_landed();  ///< the stand-in wrote a file
  void saved();        ///< saved_words() says something new
  void trouble(QString words);

 private:
  void after_edit();
  void refresh();
  void autosave();
  void wait_for_saver();
  void forget_frames();
  void put_down(take::Take take, const std::filesystem::path& file);
  void load_tests();
  void level_then(const std::function<void()>& then);

  take::Take take_;
  plan::Solution solution_;
  std::optional<plan::Sums> sums_;
  std::vector<take::Take> undo_, redo_;
  std::filesystem::path file_;
  QTimer autosave_;
  std::atomic<bool> saving_{false};
  std::thread saver_;  // writes while the window goes on: a disk may take seconds to say it has it
  QString saved_words_;
  long long at_ = 0;
  std::optional<gather::Gathered> gathered_;
  std::vector<std::unique_ptr<picture::FrameLight>> lights_;
  std::optional<level::Evenness> evenness_;
  std::optional<cut::FilmFacts> film_;
  QString drag_;
  mutable std::optional<ramp::Ramp> ramp_;
  mutable bool ramp_asked_ = false;
  TestPictures tests_;
  ShootRun run_;
  Job job_;
};

}  // namespace askcount::app
