// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/card.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>
#include <zlib.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <nlohmann/json.hpp>
#include <optional>
#include <set>

#include "base/error.h"
#include "base/files.h"
#include "base/json.h"
#include "base/passing.h"
#include "simulate/rig.h"

namespace askcount::simulate {
namespace fs = std::filesystem;
namespace {

constexpr int kFolderLimit = 9999;
constexpr const char* kMarkFile = ".askcount-stand-in";  // hidden in the card's folder
constexpr std::string_view kMark = "{\"askcount_stand_in_card\": 1}\n";

/// A file below a card, as its mark lists it: "DCIM/100QUAY/QUAY0001.JPG 123456 0a1b2c3d".
std::string line_of(const std::string& name, std::string_view bytes) {
  const auto sum = ::crc32_z(0, reinterpret_cast<const Bytef*>(bytes.data()), bytes.size());
  return fmt::format("{} {} {:08x}\n", name, bytes.size(), sum);
}

/// The files the stand-in wrote, by its mark.
std::set<std::string> written_lines(const fs::path& card) {
  std::set<std::string> lines;
  if (!is_standin_card(card)) return lines;
  std::ifstream in(card / kMarkFile);
  for (std::string line; std::getline(in, line);) lines.insert(line + "\n");
  return lines;
}

/// The record of a card.
bool is_record(const fs::path& file) {
  std::error_code ec;
  return fs::is_regular_file(fs::symlink_status(file, ec)) && written_kind(file) == FileKind::Report;
}

}  // namespace

void check_empty_card(const fs::path& card) {
  std::error_code ec;
  if (card.empty()) throw bad_input("No folder was named for the card.");
  if (fs::exists(card, ec) && !fs::is_directory(card, ec))
    throw bad_input(fmt::format("{} is a file; the card must be a folder.", card.string()));
  if (fs::exists(card / "DCIM", ec))
    throw bad_input(fmt::format("The card {} already has pictures on it.", card.string()),
                    "Name an empty folder; nothing was written.");
}

CardLock::CardLock(const fs::path& card) {
  std::error_code ec;
  fs::create_directories(card, ec);
  if (ec) throw failed(fmt::format("The card {} cannot be made: {}.", card.string(), ec.message()));
  const fs::path mark = card / kMarkFile;
  handle_ = ::open(mark.c_str(), O_RDWR | O_CREAT | O_NOFOLLOW | O_CLOEXEC, 0666);
  struct stat there {};
  if (handle_ < 0 || ::fstat(handle_, &there) != 0 || !S_ISREG(there.st_mode)) {
    const int why = errno;
    if (handle_ >= 0) ::close(handle_);
    throw failed(fmt::format("The card {} cannot be written to: {}.", card.string(), std::strerror(why)),
                 "Is there room, and may it be written to?");
  }
  if (::flock(handle_, LOCK_EX | LOCK_NB) != 0) {
    ::close(handle_);
    throw bad_input(fmt::format("A stand-in is shooting onto the card {} already.", card.string()),
                    "Wait for it, or name another folder.");
  }
  std::error_code odd;
  const bool afresh = there.st_size == 0 || (!fs::exists(card / "DCIM", odd) && is_standin_card(card));
  if (afresh && (::ftruncate(handle_, 0) != 0 || !write_all(handle_, kMark))) {
    ::close(handle_);
    throw failed(fmt::format("The card {} cannot be written to.", card.string()), "Is there room?");
  }
}

CardLock::~CardLock() {
  ::close(handle_);
}

bool is_standin_card(const fs::path& card) {
  std::error_code ec;
  const fs::path mark = card / kMarkFile;
  if (!fs::is_regular_file(fs::symlink_status(mark, ec))) return false;
  std::ifstream in(mark, std::ios::binary);
  std::string head(kMark.size(), '\0');
  in.read(head.data(), static_cast<std::streamsize>(head.size()));
  return head == kMark;
}

void note_written(const fs::path& file, std::string_view bytes) {
  const fs::path folder = file.parent_path(), pictures = folder.parent_path(), card = pictures.parent_path();
  const std::string line =
      line_of((pictures.filename() / folder.filename() / file.filename()).generic_string(), bytes);
  const int mark = ::open((card / kMarkFile).c_str(), O_WRONLY | O_APPEND | O_NOFOLLOW | O_CLOEXEC);
  if (mark < 0) return;  // no card of the stand-in's: what lies there is never emptied
  const bool written = write_all(mark, line);
  if (::close(mark) != 0 || !written)
    throw failed(fmt::format("The card {} cannot be written to.", card.string()), "Is there room?");
}

void make_folder_of(const fs::path& file) {
  std::error_code ec;
  fs::create_directories(file.parent_path(), ec);
  if (ec)
    throw failed(fmt::format("The folder {} cannot be made: {}.", file.parent_path().string(), ec.message()));
}

std::string file_stem(int number) {
  const int zero = number - 1;
  return fmt::format("DCIM/{}QUAY/QUAY{:04}", 100 + zero / kFolderLimit, zero % kFolderLimit + 1);
}

media::CameraTime camera_clock(Instant at, const std::string& zone) {
  return at + wall_time(at, zone).offset;
}

fs::path truth_file(const fs::path& card) {
  fs::path beside = card.lexically_normal();
  if (beside.filename().empty()) beside = beside.parent_path();
  return beside.string() + ".truth.json";
}

namespace {

/// The flaws with where each lies.
Json flaws_of(const RigSetting& s) {
  Json json;
  Flaws flaws = s.camera.flaws;
  Fields fields(json);
  visit(fields, flaws);
  json["specks"] = Json::array();
  for (const Speck& p : specks(flaws, s.camera.seed))
    json["specks"].push_back({{"x", p.x}, {"y", p.y}, {"radius", p.radius}, {"stops", p.stops}});
  json["hot"] = Json::array();
  for (const HotPlace& p : hot_places(flaws, s.size, s.camera.seed)) json["hot"].push_back({p.x, p.y});
  return json;
}

}  // namespace

CardRecord::CardRecord(const fs::path& card, const RigSetting& s)
    : part_({truth_file(card), FileKind::Report}), out_(part_.path()) {
  if (!out_) throw failed(fmt::format("{} cannot be written.", part_.target().string()));
  out_ << fmt::format(
      "{{\"askcount_report\": \"card\", \"scene\": {}, \"aperture_spread_stops\": {}, \"flaws\": {}, "
      "\"shots\": [",
      Json(s.scene).dump(), s.camera.aperture_spread_stops, flaws_of(s).dump());
}

void CardRecord::shot(const ShotRecord& shot) {
  Json json = {{"file", shot.file},
               {"what", shot.what},
               {"index", shot.index},
               {"start_ms", shot.start.time_since_epoch().count()},
               {"aperture_error_stops", shot.error_stops},
               {"filter_stops", shot.filter_stops},
               {"shutter_s", shot.exposure.shutter_s},
               {"f_number", shot.exposure.f_number},
               {"iso", shot.exposure.iso}};
  const FrameHarm& harm = shot.harm;
  if (!harm.none() || harm.clock_s != 0)
    json["harm"] = {{"shift_x", harm.shift_x},     {"shift_y", harm.shift_y},       {"blur", harm.blur},
                    {"haze", harm.haze},           {"stops", harm.stops},           {"clock_s", harm.clock_s},
                    {"red_stops", harm.red_stops}, {"blue_stops", harm.blue_stops}, {"hand", harm.hand}};
  out_ << (first_ ? "\n" : ",\n") << json.dump();
  first_ = false;
}

void CardRecord::missed(long long press) {
  missed_.push_back(press);
}

fs::path CardRecord::finish(bool stopped) {
  out_ << "],\n\"missed\": " << Json(missed_).dump() << ", \"stopped\": " << (stopped ? "true" : "false")
       << "}\n";
  out_.flush();
  const bool well = static_cast<bool>(out_);
  out_.close();
  if (!well) throw failed(fmt::format("{} cannot be written.", part_.target().string()), "Is there room?");
  part_.put_in_place();
  return part_.target();
}

bool is_whole(const fs::path& card) {
  const fs::path truth = truth_file(card);
  if (!is_record(truth)) return false;
  try {
    const Json record = read_json(truth);
    return record.is_object() && !record.value("stopped", false);
  } catch (const std::exception&) {
    return false;  // damaged
  }
}

namespace {

/// A picture of the card that lies there as the stand-in wrote it, byte for byte.
bool is_ours(const fs::path& card, const fs::path& file, const std::set<std::string>& written) {
  std::error_code ec;
  if (written.empty() || !fs::is_regular_file(fs::symlink_status(file, ec))) return false;
  try {
    return written.contains(line_of(file.lexically_relative(card).generic_string(), read_file(file)));
  } catch (const Error&) {
    return false;
  }
}

}  // namespace

Emptied empty_card(const fs::path& card) {
  Emptied done;
  std::error_code ec;
  const fs::path pictures = card / "DCIM";
  if (!fs::exists(fs::symlink_status(card, ec))) return done;
  std::optional<CardLock> lock;
  if (is_standin_card(card)) lock.emplace(card);  // no mark is left in other people's folders
  if (fs::is_directory(fs::symlink_status(pictures, ec))) {
    const std::set<std::string> written = written_lines(card);
    std::vector<fs::path> files, folders{pictures};
    for (const fs::directory_entry& entry : fs::recursive_directory_iterator(pictures, ec))
      if (fs::is_directory(entry.symlink_status(ec))) folders.push_back(entry.path());
    for (const fs::path& folder : folders) remove_passing_folders(folder);  // of a shoot that was killed
    for (const fs::directory_entry& entry : fs::recursive_directory_iterator(pictures, ec))
      if (!fs::is_directory(entry.symlink_status(ec))) files.push_back(entry.path());
    for (const fs::path& file : files)
      if (is_ours(card, file, written) && fs::remove(file, ec))
        ++done.removed;
      else
        done.kept.push_back(file);
    std::sort(done.kept.begin(), done.kept.end());
    for (auto folder = folders.rbegin(); folder != folders.rend(); ++folder)
      fs::remove(*folder, ec);  // only if nothing is left in it
  } else if (fs::exists(fs::symlink_status(pictures, ec))) {
    done.kept.push_back(pictures);
  }
  // The record beside the card, whole or as a shoot that was killed left it.
  const fs::path truth = truth_file(card);
  if (done.kept.empty() && is_record(truth)) fs::remove(truth, ec);
  remove_passing_folders(truth.parent_path().empty() ? fs::path(".") : truth.parent_path());
  return done;
}

}  // namespace askcount::simulate
