// SPDX-License-Identifier: GPL-3.0-or-later
// A piece of work tried with every fault of the disk in turn, each in a process of its own.
#pragma once

#include <functional>
#include <map>
#include <string>

#include "injector.h"

namespace askcount::faults {
namespace fs = std::filesystem;

/// The files below a folder by their names there, with their contents.
using Files = std::map<std::string, std::string>;
Files files_below(const fs::path& folder);

/// How the work ended.
enum class Ended {
  Well,     ///< it returned: what it was to make is there
  Refused,  ///< it threw an Error: what was there before is as it was
  Died      ///< it was killed
};

/// What is looked at when it is over.
struct After {
  fs::path folder;
  Ended ended = Ended::Well;
  int acknowledged = 0;  ///< pieces that were said to be on the disk
  Files before, files;
  Files whole;        ///< as they were after it was done without a fault
  std::string words;  ///< of the error
};

struct Trial {
  /// What lies in the folder before. Run once.
  std::function<void(const fs::path& folder)> prepare;
  /// What is tried. Every file below the folder that it has no business with must be as it was afterwards.
  std::function<void(const fs::path& folder)> work;
  /// Whether a file is one that the work changes or makes.
  std::function<bool(const std::string& name)> makes;
  /// Looks at those, with EXPECT, in a process of its own: each is as it was, or is whole. Where the work
  /// ended well they are all new.
  std::function<void(const After& after)> check;
  /// Whether files that are made may stay there when the work was refused: what was whole by then.
  bool keeps_what_is_whole = false;
  /// Faults of each kind of call and way at most, spread over all of the work.
  int at_most = 25;
  /// Whether the work can be done once more after every fault, and then ends well.
  bool again = true;
  bool again_after_reads = true;  ///< also where a read failed
  /// Whether all of it is on the disk for good once the work has ended well, and nothing took its name
  /// before.
  bool durable = true;
  Disk disk;
};

/// Tries it: once without a fault, then with each of them, and each time looks that
/// - every file that was there before and is not the work's is byte for byte as it was,
/// - nothing half-made is left: none at all where it was refused; after a death only hidden passing files and
///   the journals of databases,
/// - it ended in one of three ways: well, with an Error that names a file, or killed by the fault;
/// and what `check` looks at. Fails the test otherwise.
void try_with_faults(const std::string& name, const Trial& trial);

/// What was tried so far: faults that happened, by trial, call and way.
std::map<std::string, std::map<std::pair<Call, Way>, int>>& tally();

}  // namespace askcount::faults
