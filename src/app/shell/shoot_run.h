// A shoot that is under way: against the stand-in through its socket, or beside a real camera by the clock.
// Journal included.
#pragma once

#include <optional>
#include <QObject>
#include <QTimer>

#include "link/standin_link.h"
#include "standin/rig_json.h"
#include "standin/shoot.h"
#include "take/journal.h"

namespace askcount::app {

/// Keeps the journal and works the state out from it, so that a program that was killed comes back where it
/// was.
class ShootRun : public QObject {
  Q_OBJECT
 public:
  explicit ShootRun(QObject* parent = nullptr);

  /// Starts the stand-in, sends the rig, reads it back, compares, and starts. `journal` is begun anew.
  /// trouble() tells what goes wrong.
  void start_standin(const standin::RigSetting& rig, const std::filesystem::path& journal, Seconds interval_s,
                     long long count, bool empty_card_first);
  /// Begins beside a real camera: the first shot is at `first` by the real clock.
  void start_companion(Instant first, Seconds interval_s, long long count,
                       const std::filesystem::path& journal);
  /// Takes up a shoot that a journal says is under way; false where there is none.
  bool take_up(const std::filesystem::path& journal, const std::filesystem::path& card);
  /// The checklist's ticks, put into the journal of the next shoot.
  void remember_ticks(const std::map<std::string, Instant>& ticks) { ticks_ = ticks; }

  const take::ShootState& state() const { return state_; }
  bool active() const { return state_.active; }
  /// The stand-in answered and runs.
  bool connected() const { return link_.is_connected(); }
  const std::optional<Json>& last_event() const { return last_; }
  const std::optional<standin::ShotLanded>& landed() const { return landed_; }
  bool read_back() const { return read_back_; }

  void pause();
  void resume();
  void stop();
  void turn(ramp::Dial dial, bool brighter);
  void swap(const QString& what);
  void change_done(long long click, long long frame, long long planned, bool skipped);
  void note(long long frame, const QString& words);
  void put_at(long long frame);

 signals:
  void changed();
  void shot_landed();
  void fault(QString words);
  void trouble(QString words);
  void ended(bool stopped);

 private:
  void heard(const Json& line);
  void write(Json entry);
  void write_ticks();
  void end(bool stopped);
  void send_rig();

  link::StandinLink link_;
  standin::RigSetting rig_;
  bool empty_first_ = false, taking_up_ = false, read_back_ = false, stopping_ = false;
  take::Journal journal_;
  take::ShootState state_;
  std::vector<Json> lines_;
  std::optional<Json> last_;
  std::optional<standin::ShotLanded> landed_;
  std::map<std::string, Instant> ticks_;
  Seconds interval_s_ = 0;
  long long count_ = 0;
};

}  // namespace askcount::app
