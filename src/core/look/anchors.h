// SPDX-License-Identifier: GPL-3.0-or-later
// Anchors: frames whose look the person sets. Between them the values follow a curve that never overshoots.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "base/json.h"
#include "base/output.h"
#include "look/cube.h"
#include "look/look.h"

namespace askcount::look {

/// A frame (counted from 0) with its look.
struct Anchor {
  long long frame = 0;
  Look look;
  bool operator==(const Anchor&) const = default;
};

/// All looks of a take, in the order of their frames.
struct Looks {
  std::vector<Anchor> anchors;
  double as_shot_k = kDaylight;      ///< the warmth that frames have as they were shot
  std::shared_ptr<const Cube> cube;  ///< a table that comes last; null for none
  bool operator==(const Looks&) const = default;

  /// Whether every frame is left as it was shot.
  bool none() const { return anchors.empty() && !cube; }
};

/// The look at a frame: each value by its own monotone cubic through the anchors (Fritsch and Carlson 1980;
/// warmth by its reciprocal, which is even to the eye), the first before them and the last after. A warmth of
/// 0 stays 0 only where no anchor says another.
Look look_at(const Looks& looks, double frame);

/// Sets the look of a frame: its anchor is changed, or a new one put among the others.
void set_anchor(std::vector<Anchor>& anchors, long long frame, const Look& look);
/// Takes a frame's anchor away, if it has one.
void remove_anchor(std::vector<Anchor>& anchors, long long frame);

/// A look as JSON: only the values that are not neutral, by the keys of the lanes.
Json to_json(const Look& look);
/// Throws BadInput naming `where` and the key for what is no look or out of range.
Look look_from_json(const Json& json, const std::string& where);

/// Anchors as a list of {"frame": counted from 1, …values}. Reading throws as look_from_json, and for frames
/// below 1 or told twice.
Json to_json(const std::vector<Anchor>& anchors);
std::vector<Anchor> anchors_from_json(const Json& json, const std::string& where);

/// A file of looks: {"askcount-look": 1, "anchors": […]}. One anchor stands for a look alone. Throws as
/// read_json and anchors_from_json.
std::vector<Anchor> load_looks(const std::filesystem::path& file);
void save_looks(const std::vector<Anchor>& anchors, const std::filesystem::path& file,
                const Guard& guard = {});

}  // namespace askcount::look
