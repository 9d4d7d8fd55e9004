// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/lens_records.h"

#include <fmt/format.h>
#include <lensfun.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <mutex>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"

namespace askcount::optics {

struct LensRecords::Database {
  lfDatabase records;
  std::mutex mutex;  // its searches keep notes
};

namespace {

struct Free {
  void operator()(const void* list) const { lf_free(const_cast<void*>(list)); }
};

constexpr float kFarAway_m = 1000;  // nothing tells how far was focused; it hardly matters
constexpr int kAlikeEnough = 30;    // of 100; a name whose words are all there has more

const lfCamera* camera_of(const lfDatabase& records, const std::string& body) {
  if (body.empty()) return nullptr;
  const std::unique_ptr<const lfCamera*, Free> found(records.FindCamerasExt(nullptr, body.c_str()));
  return found ? found.get()[0] : nullptr;
}

const lfLens* lens_of(const lfDatabase& records, const lfCamera* camera, const std::string& name) {
  const char* asked = name.empty() ? nullptr : name.c_str();
  if (!asked && !camera) return nullptr;
  const std::unique_ptr<const lfLens*, Free> found(records.FindLenses(camera, nullptr, asked));
  if (!found || !found.get()[0]) return nullptr;
  if (asked) return found.get()[0]->Score >= kAlikeEnough ? found.get()[0] : nullptr;
  // A body that tells no lens has a fixed one, or nothing is known: a fixed one's mount is written small.
  const bool fixed = camera->Mount && camera->Mount[0] >= 'a' && camera->Mount[0] <= 'z';
  return fixed && !found.get()[1] ? found.get()[0] : nullptr;
}

LensGrid grid_of(const lfModifier& modifier, image::Size frame, int does) {
  LensGrid grid;
  grid.fringes = (does & LF_MODIFY_TCA) != 0;
  grid.bends = grid.fringes || (does & LF_MODIFY_DISTORTION) != 0;
  grid.darkens = (does & LF_MODIFY_VIGNETTING) != 0;
  if (!grid.bends && !grid.darkens) return grid;
  const double w = frame.width, h = frame.height;
  for (int row = 0; row < LensGrid::kDown; ++row)
    for (int column = 0; column < LensGrid::kAcross; ++column) {
      const auto x = static_cast<float>(LensGrid::across(column) * w - 0.5);
      const auto y = static_cast<float>(LensGrid::down(row) * h - 0.5);
      std::array<float, 6> at = {x, y, x, y, x, y};
      if (grid.bends) modifier.ApplySubpixelGeometryDistortion(x, y, 1, 1, at.data());
      LensGrid::Crossing c;
      for (size_t k = 0; k < 6; k += 2) {
        c.place[k] = static_cast<float>((at[k] + 0.5) / w);
        c.place[k + 1] = static_cast<float>((at[k + 1] + 0.5) / h);
      }
      std::array<float, 3> light = {1, 1, 1};
      if (grid.darkens)
        modifier.ApplyColorModification(light.data(), x, y, 1, 1, LF_CR_3(RED, GREEN, BLUE), sizeof light);
      c.light = light[1];
      grid.crossings.push_back(c);
    }
  return grid;
}

void describe(LensRecord& record, image::Size frame) {
  if (record.grid.crossings.empty()) return;
  const LensGrid::Crossing corner = record.grid.at(1, 1), middle = record.grid.at(0.5, 0.5);
  const auto distance = [&](size_t colour) {
    return std::hypot((static_cast<double>(corner.place[2 * colour]) - 0.5) * frame.width,
                      (static_cast<double>(corner.place[2 * colour + 1]) - 0.5) * frame.height);
  };
  const double right = std::hypot(frame.width, frame.height) / 2;
  record.distortion_pct = 100 * (distance(1) / right - 1);
  record.fringe_pct = 100 * std::abs(distance(0) - distance(2)) / right;
  record.dark_stops = std::log2(static_cast<double>(corner.light / middle.light));
}

}  // namespace

LensRecords::LensRecords() : database_(std::make_unique<Database>()) {
  database_->records.Load();  // none is no failure: there are no records then
}

LensRecords::LensRecords(const std::filesystem::path& file) : database_(std::make_unique<Database>()) {
  require_plain_file(file);
  if (database_->records.Load(file.c_str()) != LF_NO_ERROR)
    throw bad_input(say("{} contains no lens profiles.", file.string()),
                    say("They are XML as lensfun writes it."));
}

LensRecords::~LensRecords() = default;

const LensRecords& LensRecords::installed() {
  static const LensRecords records;
  return records;
}

std::optional<LensRecord> LensRecords::find(const media::ShotInfo& shot, const std::string& name) const {
  if (!shot.focal_mm) return {};
  const std::lock_guard lock(database_->mutex);
  const lfCamera* camera = camera_of(database_->records, shot.body);
  const std::string& asked = name.empty() ? shot.lens : name;
  const lfLens* lens = lens_of(database_->records, camera, asked);
  if (!lens && camera && !asked.empty()) lens = lens_of(database_->records, nullptr, asked);
  if (!lens) return {};
  const image::Size frame = image::upright(shot.size, shot.orientation);
  if (frame.width <= 0 || frame.height <= 0) return {};
  lfModifier modifier(lens, camera ? camera->CropFactor : lens->CropFactor, frame.width, frame.height);
  int wanted = LF_MODIFY_TCA | LF_MODIFY_DISTORTION;
  if (shot.f_number) wanted |= LF_MODIFY_VIGNETTING;
  const int does = modifier.Initialize(lens, LF_PF_F32, static_cast<float>(*shot.focal_mm),
                                       static_cast<float>(shot.f_number.value_or(8)), kFarAway_m, 1,
                                       lens->Type, wanted, false);
  LensRecord record;
  record.name = lf_mlstr_get(lens->Model);
  record.grid = grid_of(modifier, frame, does);
  describe(record, frame);
  return record;
}

std::vector<std::string> LensRecords::like(const std::string& name, Alike alike, size_t most) const {
  std::vector<std::string> names;
  if (name.empty()) return names;
  const std::lock_guard lock(database_->mutex);
  const std::unique_ptr<const lfLens*, Free> found(database_->records.FindLenses(
      nullptr, nullptr, name.c_str(), alike == Alike::Loosely ? LF_SEARCH_LOOSE : 0));
  for (const lfLens** lens = found.get(); lens && *lens && names.size() < most; ++lens) {
    const std::string model = lf_mlstr_get((*lens)->Model);
    if (std::find(names.begin(), names.end(), model) == names.end()) names.push_back(model);
  }
  return names;
}

}  // namespace askcount::optics
