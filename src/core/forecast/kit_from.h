// SPDX-License-Identifier: GPL-3.0-or-later
// A kit as the person's own photographs tell it.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "plan/kit.h"

namespace askcount::forecast {

/// What photographs say of the camera that took them.
struct ToldByPhotographs {
  plan::Kit kit;                   ///< the one that was given, with a body and lenses as told in front
  std::vector<std::string> told;   ///< in words: "body Stand-in 24", "raw files of 28 MB"
  std::vector<std::string> taken;  ///< what no photograph says, with what is taken until somebody says it
};

/// Body, lenses, sensor, pixels, file sizes (their middle), the next file number, and the apertures and
/// shutters that were seen, from the metadata of photographs (files or folders; several tell more). Of
/// several bodies the one with the most pictures. What no metadata has stays as `known` (a kit with at least
/// one body) has it. Throws BadInput where no picture says which body took it, and as take_inventory().
ToldByPhotographs kit_from(const std::vector<std::filesystem::path>& photographs, const plan::Kit& known);

}  // namespace askcount::forecast
