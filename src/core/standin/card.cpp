#include "standin/card.h"

#include <nlohmann/json.hpp>

#include <fmt/format.h>

#include <set>

#include "base/error.h"
#include "base/files.h"
#include "base/json.h"
#include "standin/rig.h"

namespace askcount::standin {
namespace fs = std::filesystem;
namespace {

constexpr int kFolderLimit = 9999;

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

void make_card(const fs::path& card) {
  std::error_code ec;
  fs::create_directories(card, ec);
  if (ec) throw failed(fmt::format("The card {} cannot be made: {}.", card.string(), ec.message()));
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

source::CameraTime camera_clock(Instant at, const std::string& zone) {
  return at + wall_time(at, zone).offset;
}

fs::path truth_file(const fs::path& card) {
  fs::path beside = card.lexically_normal();
  if (beside.filename().empty()) beside = beside.parent_path();
  return beside.string() + ".truth.json";
}

CardRecord::CardRecord(const fs::path& card, const RigSetting& s)
    : part_(truth_file(card)), out_(part_.path()) {
  if (!out_) throw failed(fmt::format("{} cannot be written.", part_.target().string()));
  out_ << fmt::format("{{\"scene\": {}, \"aperture_spread_stops\": {}, \"shots\": [", Json(s.scene).dump(),
                      s.camera.aperture_spread_stops);
}

void CardRecord::shot(const std::string& file, const std::string& what, long long index, Instant start,
                      const ramp::Exposure& e, double error_stops, const FrameHarm& harm) {
  Json json = {{"file", file},
               {"what", what},
               {"index", index},
               {"start_ms", start.time_since_epoch().count()},
               {"aperture_error_stops", error_stops},
               {"shutter_s", e.shutter_s},
               {"f_number", e.f_number},
               {"iso", e.iso}};
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

fs::path CardRecord::finish() {
  out_ << "],\n\"missed\": " << Json(missed_).dump() << "}\n";
  out_.flush();
  const bool well = static_cast<bool>(out_);
  out_.close();
  if (!well) throw failed(fmt::format("{} cannot be written.", part_.target().string()), "Is there room?");
  part_.put_in_place();
  return part_.target();
}

void empty_card(const fs::path& card) {
  std::error_code ec;
  const fs::path truth = truth_file(card);
  if (!fs::exists(truth, ec)) return;
  const Json record = read_json(truth);
  std::set<fs::path> folders;
  for (const Json& shot : record.at("shots")) {
    const fs::path file = card / shot.at("file").get<std::string>();
    fs::remove(file, ec);
    fs::path other = file;
    for (const char* ending : {".JPG", ".DNG"}) fs::remove(other.replace_extension(ending), ec);
    folders.insert(file.parent_path());
  }
  for (const fs::path& folder : folders) fs::remove(folder, ec);  // only if nothing else is in it
  fs::remove(card / "DCIM", ec);
  fs::remove(truth, ec);
}

}  // namespace askcount::standin
