// SPDX-License-Identifier: GPL-3.0-or-later
// Faults of the disk, put under everything that reads or writes below one folder: the program's own calls and
// those of the libraries it uses (SQLite, FFmpeg, libarchive, the standard library).
//
// The functions of the system that open, read, write, sync, rename and close are defined in this program, so
// that every library finds these before the system's. Each counts the calls that touch the folder; one of
// them, by number, fails.
#pragma once

#include <array>
#include <filesystem>
#include <string>
#include <vector>

namespace askcount::faults {

/// What is asked of the disk.
enum class Call { Create, Write, Sync, Rename, Read, Close };
inline constexpr std::array kCalls = {Call::Create, Call::Write, Call::Sync,
                                      Call::Rename, Call::Read,  Call::Close};
const char* word(Call call);

/// How it fails.
enum class Way {
  NoRoom,  ///< half of it fits, then nothing more does: not there, and not in any later call that needs room
  Error,   ///< this one call, with an error of the device; of a write half goes first. All after it go well
  Death    ///< the program is killed there and then; of what it was writing half is on the disk
};
inline constexpr std::array kWays = {Way::NoRoom, Way::Error, Way::Death};
const char* word(Way way);

/// Whether a call can fail that way: no reading, closing or renaming needs room.
bool can_fail(Call call, Way way);

/// One fault: the `number`th call (from 0) of that kind below the folder.
struct Fault {
  Call call = Call::Write;
  Way way = Way::Error;
  int number = 0;
};

/// Counts the calls that touch files below `folder` from now on, in this process. With a fault, that one
/// happens. All threads are counted together.
void watch(const std::filesystem::path& folder, const Fault* fault = nullptr);

/// How a disk may be besides.
struct Disk {
  int flips_every = 0;      ///< one bit of every so manyth read from it is wrong; 0 for none
  bool knows_links = true;  ///< false: no hard links, and no rename that never replaces, as exFAT by FUSE
};
void make_disk(const Disk& disk);

/// What a power cut would take now: files whose content was not synced since it was written last, folders
/// whose names were not synced since one was made or taken in them, and files that took a visible name before
/// their content was synced. What is hidden does not count. To be called by the process that was watched.
void settle();

/// How often each was called since watch(), in the order of kCalls; and whether the fault has happened. Both
/// are kept where the parent of a forked process sees them.
struct Counted {
  std::array<int, kCalls.size()> calls{};
  int happened = 0;
  int acknowledged = 0;  ///< see acknowledge()
  int unsynced = 0;      ///< what a power cut would take, see settle()
  std::string unsynced_first;
};
const Counted& counted();

/// Says that one more piece of work is on the disk, as far as the program can know: from here on it must not
/// be lost.
void acknowledge();

/// Forgets what was counted. To be called by the parent, before it forks.
void reset();

}  // namespace askcount::faults
