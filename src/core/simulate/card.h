// SPDX-License-Identifier: GPL-3.0-or-later
// The stand-in's card: names of files and folders, and the record of what was done to each.
#pragma once

#include <filesystem>
#include <fstream>
#include <string>
#include <string_view>
#include <vector>

#include "base/files.h"
#include "base/instant.h"
#include "media/metadata.h"
#include "ramp/follow.h"
#include "simulate/fault.h"

namespace askcount::simulate {

struct RigSetting;

/// Throws BadInput where `card` is a file or already has pictures.
void check_empty_card(const std::filesystem::path& card);
void make_folder_of(const std::filesystem::path& file);

/// "DCIM/100QUAY/QUAY0214" of the file number counted on from 1: after 9999 comes 0001 in the next folder.
std::string file_stem(int number);

/// The camera's clock in a zone, as it stands in files.
media::CameraTime camera_clock(Instant at, const std::string& zone);

/// Where the record of a card lies: beside it.
std::filesystem::path truth_file(const std::filesystem::path& card);

/// A card that one shoot writes to: made where it is missing, marked as the stand-in's before anything else
/// is written, and locked as long as this lives.
class CardLock {
 public:
  /// Throws BadInput where another shoot (of whatever program) writes to the card or it is a file, Failed
  /// where it cannot be made.
  explicit CardLock(const std::filesystem::path& card);
  ~CardLock();
  CardLock(const CardLock&) = delete;
  CardLock& operator=(const CardLock&) = delete;

 private:
  int handle_ = -1;
};

/// Whether a stand-in has begun to shoot onto this card, at whatever time: its mark is there.
bool is_standin_card(const std::filesystem::path& card);

/// Notes on the mark of a card what is about to be written to DCIM below it: only what lies there just so is
/// ever emptied. Nothing for a file that lies on no card of the stand-in's. Throws Failed.
void note_written(const std::filesystem::path& file, std::string_view bytes);

/// Whether a shoot onto this card came to its end: its record is there and says so.
bool is_whole(const std::filesystem::path& card);

/// What was done to one picture.
struct ShotRecord {
  std::string file, what;
  long long index = 0;
  Instant start;
  ramp::Exposure exposure;
  double error_stops = 0, filter_stops = 0;
  FrameHarm harm;
};

/// The record, written line by line while the rig runs, so that it never grows in memory, and whole at the
/// end.
class CardRecord {
 public:
  CardRecord(const std::filesystem::path& card, const RigSetting& setting);
  void shot(const ShotRecord& shot);
  void missed(long long press);
  /// Puts it in its place, with whether the shoot was stopped before its end; returns where.
  std::filesystem::path finish(bool stopped);

 private:
  TemporaryFile part_;
  std::ofstream out_;
  bool first_ = true;
  std::vector<long long> missed_;
};

/// What emptying a card did.
struct Emptied {
  long long removed = 0;
  std::vector<std::filesystem::path> kept;  ///< what lies among the pictures and is not the stand-in's
};

/// Removes what a stand-in has shot onto `card`, and, where nothing else lies there, its record. Only plain
/// files below the card's DCIM go that lie there byte for byte as its mark says they were written, and
/// passing folders of a shoot that was killed; no link is followed. Everything else is kept and named: what
/// was developed or retouched, and what has a name of the stand-in's and another content. Throws BadInput
/// where a shoot writes to the card.
Emptied empty_card(const std::filesystem::path& card);

}  // namespace askcount::simulate
