// SPDX-License-Identifier: GPL-3.0-or-later
// The fields of a take's light, for writing and reading.
#pragma once

#include "base/fields.h"
#include "take/take.h"

namespace askcount::take {

void visit(Fields& fields, LightPlan& light);

}  // namespace askcount::take
