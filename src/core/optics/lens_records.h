// SPDX-License-Identifier: GPL-3.0-or-later
// What others have measured of lenses: the lensfun database.
#pragma once

#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "media/metadata.h"
#include "optics/lens_grid.h"

namespace askcount::optics {

/// A lens's record, at the focal length and aperture of one shot.
struct LensRecord {
  std::string name;
  LensGrid grid;
  double distortion_pct = 0;  ///< at a corner, as grid_by_hand() counts it
  double dark_stops = 0;      ///< by how much a corner is darker
  double fringe_pct = 0;      ///< how far red and blue lie apart at a corner, of its distance from the middle
};

/// A set of records. Const functions are safe from several threads at once.
class LensRecords {
 public:
  /// Those installed with this computer's lensfun, and the person's own (~/.local/share/lensfun). Read once,
  /// when they are first asked for; empty where there are none.
  static const LensRecords& installed();
  /// Those of one file in lensfun's XML. Throws BadInput naming it where it is none.
  explicit LensRecords(const std::filesystem::path& file);
  ~LensRecords();

  /// The record of the lens that a shot was made with, or of `name` where that is not empty. Nothing where
  /// the shot tells no lens (and the body's is not fixed), no record is like it, or the focal length is not
  /// known. What the aperture darkens is left out where that is not known.
  std::optional<LensRecord> find(const media::ShotInfo& shot, const std::string& name = {}) const;
  /// How far a name may be from what was asked: all its words in one of the records', or any of them.
  enum class Alike { Strictly, Loosely };
  /// Names of at most `most` lenses that are like this one, the most alike first.
  std::vector<std::string> like(const std::string& name, Alike alike, size_t most = 8) const;

 private:
  LensRecords();
  struct Database;
  std::unique_ptr<Database> database_;
};

}  // namespace askcount::optics
