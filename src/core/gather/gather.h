// The frames of a take, found among everything on a card or in a folder.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/finding.h"
#include "base/progress.h"
#include "source/frame_source.h"

namespace askcount::gather {

/// A picture that is not part of the take.
struct Dropped {
  enum class Why { Test, Marker, OtherTake, Unreadable, Double };
  std::filesystem::path file;
  Why why = Why::Test;
  bool before = true;  ///< shot before the take; otherwise after it
  std::string text;    ///< the reason, for people
};

/// A hole in the take: `frames` are missing between frame `after` and the next (frames count from 0).
struct Missing {
  size_t after = 0;
  long long frames = 0;
  double seconds = 0;  ///< from that frame's start to the next one's; 0 where only numbers tell
};

/// The take as found.
struct Gathered {
  source::Frames frames = source::frames_of({});  ///< in the order they were shot; never null
  std::optional<double> interval_s;               ///< the usual start to start; nothing without capture times
  std::vector<Missing> missing;
  std::vector<Dropped> dropped;      ///< before and after the take as shot, then second shots of one press
  std::vector<std::string> ignored;  ///< files that are no pictures Ask Count reads
  std::vector<std::string> unread_folders;  ///< that could not be looked into
};

/// The word for a reason in JSON: "test", "marker", "other_take", "unreadable", "double".
std::string why_word(Dropped::Why why);

/// Every picture below a folder with its metadata, by capture time and then by number. Reads no pixels. Files
/// that cannot be read keep their place by number. Throws BadInput where there is no such folder or no
/// picture in it, Failed where it goes away while it is read (the card is pulled).
Gathered scan(const std::filesystem::path& folder, const Work& work = {});

/// scan(), then finds the take: the longest run of even intervals, without the marker frames at its ends and
/// without what was shot before and after. Without capture times all files in number order are the take, less
/// markers.
Gathered gather(const std::filesystem::path& folder, const Work& work = {});

/// What there is to say about it.
Findings judge(const Gathered& gathered);

}  // namespace askcount::gather
