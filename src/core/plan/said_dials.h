// SPDX-License-Identifier: GPL-3.0-or-later
// Aperture and ISO as people write them.
#pragma once

#include <optional>
#include <string_view>

namespace askcount::plan {

struct SaidDials {
  std::optional<double> f_number, iso;
};

/// Reads "f/4, ISO 800", "f4" or "iso 800", in any order. Throws BadInput where something else stands there,
/// or nothing does.
SaidDials parse_dials(std::string_view text);

}  // namespace askcount::plan
