// The stand-in's card: names of files and folders, and the record of what was done to each.
#pragma once

#include <filesystem>
#include <fstream>
#include <string>
#include <vector>

#include "base/files.h"
#include "base/instant.h"
#include "ramp/follow.h"
#include "source/metadata.h"
#include "standin/fault.h"

namespace askcount::standin {

struct RigSetting;

/// Throws BadInput where `card` is a file or already has pictures.
void check_empty_card(const std::filesystem::path& card);
/// Throws Failed where it cannot be made.
void make_card(const std::filesystem::path& card);
void make_folder_of(const std::filesystem::path& file);

/// "DCIM/100QUAY/QUAY0214" of the file number counted on from 1: after 9999 comes 0001 in the next folder.
std::string file_stem(int number);

/// The camera's clock in a zone, as it stands in files.
source::CameraTime camera_clock(Instant at, const std::string& zone);

/// Where the record of a card lies: beside it.
std::filesystem::path truth_file(const std::filesystem::path& card);

/// The record, written line by line while the rig runs, so that it never grows in memory, and whole at the
/// end.
class CardRecord {
 public:
  CardRecord(const std::filesystem::path& card, const RigSetting& setting);
  void shot(const std::string& file, const std::string& what, long long index, Instant start,
            const ramp::Exposure& exposure, double error_stops, const FrameHarm& harm);
  void missed(long long press);
  /// Puts it in its place; returns where.
  std::filesystem::path finish();

 private:
  TemporaryFile part_;
  std::ofstream out_;
  bool first_ = true;
  std::vector<long long> missed_;
};

/// Removes what a stand-in has shot onto `card`, and its record. Touches nothing that it did not write.
void empty_card(const std::filesystem::path& card);

}  // namespace askcount::standin
