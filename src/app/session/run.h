// SPDX-License-Identifier: GPL-3.0-or-later
// A shoot that is under way: against the stand-in through its socket, or beside a real camera by the clock.
// Journal included.
#pragma once

#include <map>
#include <optional>
#include <QObject>

#include "advice/shoot_advice.h"
#include "app/session/journal_writer.h"
#include "journal/state.h"
#include "link/standin_link.h"
#include "simulate/rig_json.h"
#include "simulate/shoot.h"

namespace askcount::app {

/// How a shoot is begun.
struct RunPlan {
  std::filesystem::path journal;  ///< a new one, of the take
  Seconds interval_s = 0;
  long long count = 0;
  std::vector<journal::ShootState::Run> runs;  ///< of a take by hours of work, otherwise empty
  std::map<std::string, Instant> ticks;        ///< of the checklist, told to the journal
  std::optional<ramp::Exposure> dials;         ///< what they are set to at the start
};

/// Keeps the journal and works the state out from it, so that a program that was killed comes back where it
/// was.
class Run : public QObject {
  Q_OBJECT
 public:
  explicit Run(QObject* parent = nullptr);
  ~Run() override;

  /// Starts the stand-in, sends the rig, reads it back, compares, and starts. A new journal
  /// is begun once it has. trouble() tells what goes wrong.
  void start_standin(const simulate::RigSetting& rig, const RunPlan& plan);
  /// Begins beside a real camera: the first shot is at `first` by the real clock.
  void start_companion(Instant first, const RunPlan& plan);
  /// Takes up a shoot that a journal says is under way; nothing happens where there is none.
  void take_up(const std::filesystem::path& journal, const std::filesystem::path& card);
  /// Lets go of the shoot without ending it, as when the program ends: it goes on, and its journal says so.
  void leave();

  const journal::ShootState& state() const { return state_; }
  bool active() const { return state_.active; }
  /// The stand-in answered and runs.
  bool connected() const { return link_.is_connected(); }
  /// What the stand-in told last of its battery, card and buffer.
  const std::optional<advice::Live>& live() const { return live_; }
  /// The newest shot that landed on the card.
  const std::optional<simulate::ShotLanded>& landed() const { return landed_; }
  bool read_back() const { return read_back_; }

  void pause();
  void resume();
  void stop();
  /// "battery", "card" or "power": of the stand-in, or noted beside a real camera.
  void swap(const QString& what);
  /// A click of a hand before `frame`, asked for or not; the stand-in's dial turns with it.
  void turn(long long frame, const ramp::Click& click, bool planned);
  /// The dials as they stand before `frame`, whatever was turned; `filters_off` where the filters came off
  /// with it.
  void set_dials(long long frame, const ramp::Exposure& dials, bool filters_off);
  void skip(long long frame);
  /// What the meter says at `frame`, in EV at ISO 100.
  void metered(long long frame, double ev);
  void note(long long frame, const QString& words);
  void put_at(long long frame);

  /// Waits until everything that was told is on the disk.
  void wait_until_written() { journal_.wait(); }

 signals:
  void changed();
  void shot_landed();
  void fault(QString words);
  void trouble(QString words);
  void ended(bool stopped);

 private:
  void begin(const RunPlan& plan);
  void send_rig();
  void start_sent();
  bool refused(const Json& reply);
  void heard(const Json& line);
  void heard_shot(const Json& line);
  void write(Json entry);
  void write_start(bool standin, Instant first, double scale);
  void end(bool stopped);

  link::StandinLink link_;
  JournalWriter journal_;
  simulate::RigSetting rig_;
  RunPlan plan_;
  bool begun_ = false;  // the journal has its start
  bool taking_up_ = false, read_back_ = false, stopping_ = false;
  journal::ShootState state_;
  std::vector<Json> lines_;
  std::optional<advice::Live> live_;
  std::optional<simulate::ShotLanded> landed_;
};

}  // namespace askcount::app
