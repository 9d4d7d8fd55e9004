// SPDX-License-Identifier: GPL-3.0-or-later
// A table of colours: what becomes of every coded red, green and blue.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/output.h"

namespace askcount::look {

/// A three-dimensional table over sRGB codes from 0 to 1, red running fastest.
struct Cube {
  std::string name;        ///< its title or its file's name
  int size = 0;            ///< values along each side, 2 to 129
  std::vector<float> rgb;  ///< 3 × size³
  bool operator==(const Cube&) const = default;

  /// `n` colours (0 to 255) put through the table, between its values by the tetrahedron they lie in.
  void apply(float* red, float* green, float* blue, int n) const;
};

/// Reads a .cube file: LUT_3D_SIZE, or LUT_1D_SIZE (one curve a colour), TITLE, and DOMAIN_MIN and DOMAIN_MAX
/// of 0 and 1. Throws BadInput naming the file and the line for anything else: values that are no numbers,
/// too few of them or too many.
Cube load_cube(const std::filesystem::path& file);

/// Writes a table as .cube. Throws as write_file_atomically.
void save_cube(const Cube& cube, const std::filesystem::path& file, const Guard& guard = {});

}  // namespace askcount::look
