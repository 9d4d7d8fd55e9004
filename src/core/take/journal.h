// The journal of a shoot: every event on disk as it happens, and the state that follows from it.
#pragma once

#include <filesystem>
#include <fstream>
#include <optional>
#include <string>
#include <vector>

#include "take/light.h"

namespace askcount::take {

/// A file of lines, one JSON object each, only ever added to. Each line is on disk when append() returns.
class Journal {
 public:
  Journal() = default;
  ~Journal();
  Journal(Journal&& other) noexcept;
  Journal& operator=(Journal&& other) noexcept;

  /// Opens for adding; the file is made where it is missing. Throws Failed naming it.
  void open(const std::filesystem::path& file);
  void close();
  bool is_open() const { return handle_ >= 0; }
  /// Adds a line with the time ("at", ISO, universal) and flushes it to the disk. Throws Failed.
  void append(Json entry);

 private:
  int handle_ = -1;
  std::filesystem::path file_;
};

/// The lines of a journal that can be read; a half line at the end (the power went) is left out. Empty where
/// there is no file.
std::vector<Json> read_journal(const std::filesystem::path& file);

/// Beside the take: NAME.journal.
std::filesystem::path journal_file(const std::filesystem::path& take_file);

/// How a shoot stands, worked out from its journal alone: kill the program, and the next one knows it all.
struct ShootState {
  bool active = false;     ///< begun and not ended
  bool standin = false;    ///< otherwise beside a real camera
  std::string socket;      ///< of the stand-in
  double scale = 1;        ///< field seconds a real second; 0 as fast as it can
  Instant first;           ///< real moment of frame 0 (moved by pauses and by being put right)
  Seconds interval_s = 0;  ///< field seconds
  long long count = 0;
  std::optional<Instant> paused;  ///< since when
  long long last_event = 0;       ///< number of the stand-in's last event that was seen
  long long shots = 0;            ///< frames the stand-in told
  long long missed = 0;
  struct Change {
    long long click = 0;  ///< which of the ramp's clicks
    long long frame = 0;  ///< before which it was done
    long long planned = 0;
    bool skipped = false;
    Instant at;
  };
  std::vector<Change> changes;
  struct Note {
    long long frame = 0;
    std::string words;
    std::string fault;  ///< its word, where it is one
  };
  std::vector<Note> notes;

  /// Real seconds from frame to frame.
  Seconds real_interval_s() const { return scale > 0 ? interval_s / scale : 0; }
  /// The frame the camera is at (from 0; −1 before the first), by the clock, or by what was told where it
  /// runs as fast as it can.
  long long frame_at(Instant now) const;
  /// Real seconds to the next shot; nothing when it is over or runs as fast as it can.
  std::optional<Seconds> next_shot_in(Instant now) const;
};

ShootState state_of(const std::vector<Json>& journal);

/// The ramp's clicks that are still to be done at a frame: planned ones keep their frames; one that is late
/// is due at once, and those behind it keep at least `frames_apart_late` from each other.
struct Due {
  long long click = 0;  ///< its place in the ramp
  long long frame = 0;  ///< before which it is to be done now
  long long late = 0;   ///< frames behind its plan
};
std::vector<Due> due_clicks(const ramp::Ramp& ramp, const ShootState& state, long long frame,
                            const ramp::RampRule& rule);

}  // namespace askcount::take
