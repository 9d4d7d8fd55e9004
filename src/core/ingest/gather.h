// SPDX-License-Identifier: GPL-3.0-or-later
// The takes among everything on the cards, and the one that is meant.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/finding.h"
#include "base/progress.h"
#include "ingest/inventory.h"
#include "media/frame_source.h"

namespace askcount::ingest {

/// A picture that is not part of a take it lies beside. It can always be taken back (Ask::keep).
struct Dropped {
  enum class Why {
    Test,        ///< off the take's beat, before or after it
    Marker,      ///< of something else altogether: a hand, a card
    Unreadable,  ///< beside the take
    Double,      ///< a second shot of one press
    Copy,        ///< the same file again, on another card
    ByHand       ///< left out by the person
  };
  media::Frame picture;
  Why why = Why::Test;
  bool before = true;  ///< shot before the take; otherwise after it or within
  std::string text;    ///< the reason, for people

  const std::filesystem::path& file() const { return picture.file(); }
};

/// A hole in the take: `frames` are missing between frame `after` and the next (frames count from 0).
struct Missing {
  size_t after = 0;
  long long frames = 0;
  double seconds = 0;  ///< from that frame's start to the next one's; 0 where only numbers tell
};

/// A frame that came off the beat.
struct OffBeat {
  size_t frame = 0;
  double seconds = 0;  ///< later than it ought to; below zero earlier
};

/// One take as found on the cards.
struct FoundTake {
  media::Frames frames = media::frames_of({});  ///< in the order they were shot; never null
  size_t exposures_each = 1;                    ///< of most of its frames
  std::optional<double> interval_s;             ///< the usual start to start; nothing without capture times
  double clock_s = 0.02;                        ///< how far off its times may be
  std::vector<Missing> missing;
  std::vector<OffBeat> off_beat;
  std::vector<size_t> incomplete;  ///< frames that lack exposures of their bracket
  std::vector<size_t> sessions;    ///< frames from which on another session goes on, after a pause
  std::vector<Dropped> dropped;    ///< in the order they were shot
  std::vector<Dropped> weak;       ///< kept, though something speaks against them

  /// When its first frame began and its last one did, by the camera's clock; nothing without capture times.
  std::optional<media::CameraTime> start() const;
  std::optional<media::CameraTime> end() const;
};

/// What is to be gathered.
struct Ask {
  std::vector<std::filesystem::path> folders;  ///< cards and folders, each with all below it; videos
  long long film_step = 1;                     ///< of a video every nth picture is a frame
  double film_stretch = 1;        ///< of a camera's own time-lapse movie: field seconds in one of its seconds
  std::optional<size_t> choose;   ///< this take, counted from 0 as they are found
  std::vector<size_t> join;       ///< these takes as one
  std::vector<std::string> keep;  ///< names of files that are frames, whatever speaks against it
  std::vector<std::string> leave_out;      ///< names of files that are not
  std::vector<std::string> stand_in;       ///< names of files whose neighbours stand in for them
  std::string from, until;                 ///< names of the files the take begins and ends with, where said
  std::optional<double> interval_s;        ///< the plan's
  std::optional<long long> frames;         ///< the plan's
  long long days = 1;                      ///< the plan's, by hours of work
  std::optional<media::CameraTime> start;  ///< the plan's or the journal's, by the clock at the place
  double clock_s = 0;                      ///< what is to be added to the camera's clock for the right time
  media::Blend blend = media::Blend::Middle;  ///< what becomes of brackets
};

/// All that was found.
struct Gathered : FoundTake {               ///< the take that is meant
  std::vector<FoundTake> takes;             ///< all of them, in the order they were shot; at least one
  size_t chosen = 0;                        ///< which one is meant
  std::string why_chosen;                   ///< for people
  std::vector<std::string> films;           ///< videos beside it; left there
  std::vector<std::string> ignored;         ///< files that are no pictures Ask Count reads
  std::vector<std::string> unread_folders;  ///< that could not be looked into
  std::vector<ClockNote> clock;             ///< what of the camera's clock was not believed
};

/// Everything that lies on the cards, before anything was decided about it.
struct Found {
  std::vector<FoundTake> takes;
  std::vector<media::Frame> copies;  ///< the same pictures again, on another card
  std::vector<std::string> films, ignored, unread_folders;
  std::vector<ClockNote> clock;
};

/// The word for a reason in JSON: "test", "marker", "unreadable", "double", "copy", "by_hand".
std::string why_word(Dropped::Why why);

/// Finds every take, with the plan as a first guess (see by_plan()): cameras are told apart; a take is an
/// even run of shots with what belongs to it. Where nothing has times all pictures of a folder are one, by
/// number. A hole stays within a take as long as the beat and the scene behind it are the same and it is no
/// pause. Test shots, markers and second shots of one press are dropped where they are sure, kept and named
/// in `weak` where they are not. Looks at a few embedded pictures, never at whole ones. Throws as
/// take_inventory(), and BadInput for a take that is not there.
Gathered gather(const Ask& ask, const Work& work = {});

/// The part of it that reads the cards: `folders`, `film_step` and `clock_s` of what is asked; and the part
/// that decides, which is quick and reads nothing.
Found find(const Ask& ask, const Work& work = {});
Gathered decided(const Found& found, const Ask& ask);

/// The same for one folder and nothing planned.
Gathered gather(const std::filesystem::path& folder, const Work& work = {});

/// What there is to say about the take that is meant, and about what lies beside it.
Findings judge(const Gathered& gathered);

}  // namespace askcount::ingest
