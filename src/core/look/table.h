// SPDX-License-Identifier: GPL-3.0-or-later
// A look as a table of colours, for other programs.
#pragma once

#include <string>

#include "look/cube.h"
#include "look/look.h"

namespace askcount::look {

/// All a look does to a colour by itself (not haze and crispness, which go by the picture), 33 values a side.
Cube table_of(const Look& look, double as_shot_k, const std::string& name);

}  // namespace askcount::look
