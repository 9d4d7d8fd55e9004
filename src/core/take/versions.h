// SPDX-License-Identifier: GPL-3.0-or-later
// The versions of the take format, and how older ones become this one.
#pragma once

#include <string>

#include "base/json.h"

namespace askcount::take {

/// The format that is written. 1: the first. 2: two card slots that are filled one after the other are told
/// as "turn", as the command has it. 3: "school" of the light is "method", "eye_stops" of the optics
/// "vignetting_stops".
inline constexpr int kFormat = 3;

/// A take's JSON as this version has it: older ones are brought up, step by step. Throws BadInput, naming
/// `name`, for what is no take and for formats that are newer; those are left alone.
Json of_this_version(Json take, const std::string& name);

}  // namespace askcount::take
