// SPDX-License-Identifier: GPL-3.0-or-later
// The ramp's values as JSON, for takes and for the stand-in's socket.
#pragma once

#include "base/fields.h"
#include "ramp/follow.h"
#include "ramp/light.h"

namespace askcount::ramp {

void visit(Fields& fields, Exposure& exposure);
void visit(Fields& fields, Click& click);
void visit(Fields& fields, Reading& reading);
void visit(Fields& fields, RampRule& rule);

}  // namespace askcount::ramp
