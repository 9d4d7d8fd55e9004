// SPDX-License-Identifier: GPL-3.0-or-later
// Words as a mask of letters and their dark rim, to be laid over film frames.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

namespace askcount::image {

/// How much of each pixel is covered, 0 to 255; rows from the top without gaps.
struct Lettering {
  int width = 0, height = 0;
  std::vector<std::uint8_t> letters, rim;
};

/// One line in the type that ships; figures all have one width, so that a clock stands still. `pixels` is the
/// letters' height. A line wider than `most` is set smaller. Safe from several threads at once. Throws Failed
/// where there is no memory.
Lettering lettered(const std::string& line, double pixels, double most);

/// A bar of this many pixels with its ends marked.
Lettering bar(int length, double pixels);

}  // namespace askcount::image
