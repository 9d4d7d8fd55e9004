// SPDX-License-Identifier: GPL-3.0-or-later
// Where each file of the cards goes.
#pragma once

#include <cstdint>

#include "ingest/copy.h"

namespace askcount::ingest {

/// A file to be copied.
struct Planned {
  std::filesystem::path from;
  std::filesystem::path name;  ///< below the target
  std::uint64_t bytes = 0;
};

/// "x 2.jpg" of "x.jpg": what a file is called whose name another has; the first keeps it.
std::filesystem::path with_number(const std::filesystem::path& name, int number);

/// Every plain file of the cards with its place below a target; what may not be looked into is named in
/// `unread`. With a pattern pictures and their sidecars are numbered, everything else keeps its folder. Names
/// are different from each other. Throws as copy().
std::vector<Planned> plan_names(const CopyOrder& order, std::vector<std::string>& unread);

}  // namespace askcount::ingest
