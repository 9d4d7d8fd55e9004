// SPDX-License-Identifier: GPL-3.0-or-later
// Cards copied so that they may be emptied afterwards.
#pragma once

#include <cstdint>
#include <filesystem>
#include <functional>
#include <stop_token>
#include <string>
#include <vector>

namespace askcount::ingest {

/// What is to be copied where.
struct CopyOrder {
  std::vector<std::filesystem::path> cards;  ///< each with everything below it; a film by itself
  std::filesystem::path to;                  ///< made where it is missing
  std::filesystem::path also;                ///< a second copy, from the same reading; empty for none
  /// Numbered names in the order of capture: "boats-0001" counts from 1 in four digits; exposures of one shot
  /// share a number and get letters, raw and ready pictures of one exposure share all but the ending. Empty
  /// keeps names and folders as they are on the card.
  std::string name;
};

/// How far it is.
struct CopyProgress {
  std::size_t files = 0, files_done = 0;
  std::uint64_t bytes = 0, bytes_done = 0;  ///< of the cards
};

/// Called as it goes on, never from two threads at once.
using Told = std::function<void(const CopyProgress&)>;

/// One file's way.
struct Copied {
  std::filesystem::path from;
  std::filesystem::path name;  ///< below the target, as it is there now
  std::string sha256;
  std::uint64_t bytes = 0;
  bool there_already = false;  ///< an equal one was there
  bool renamed = false;        ///< a different one had its name
};

/// What came of it.
struct CopyOutcome {
  std::vector<Copied> files;  ///< in the order of their new names' places on the cards
  std::uint64_t bytes = 0;    ///< of all of them
  double seconds = 0;
  std::vector<std::filesystem::path> manifests;  ///< one in each target
  /// Every file was read twice from the card and compared as it lies on the disk, and at the end found on the
  /// card unchanged and in each target under its name and of its length.
  bool checked_twice = false;
  std::vector<std::string> unread;  ///< folders that cannot be read, links and pipes; not checked then
};

/// Copies all that lies on the cards, hidden files too. Each file is read, written in a passing folder beside
/// each target, flushed, read back from the disk, compared by SHA-256 and only then given its name; then it
/// is read from the card once more, and compared again. Its time of change is kept. A file that is there
/// already and equal is passed over; a different one of that name is never touched: the new one gets " 2" and
/// so on. Where it was stopped or died it goes on: what is whole is compared and passed over, passing
/// folders it left are removed. The manifest ("copied.sha256") is written in any case, for what is whole, and
/// is read by `sha256sum -c`; names that were changed stand in it as remarks.
///
/// Throws BadInput where there is no such card, nothing on it, a target within a card (by whatever name:
/// folders are known by device and inode), a pattern without room for all, or not enough room (said before
/// anything is written); Failed naming the file where one cannot be read or written or reads back
/// differently; Cancelled where it was stopped. Nothing half-written is left under a file's name. Photographs
/// are only read.
CopyOutcome copy(const CopyOrder& order, const Told& told = {}, const std::stop_token& stop = {});

/// The name of a target's list of what was copied.
inline constexpr const char* kManifest = "copied.sha256";

}  // namespace askcount::ingest
