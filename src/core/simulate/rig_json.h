// SPDX-License-Identifier: GPL-3.0-or-later
// A rig's setting and its events as JSON: what goes over the stand-in's socket. docs/standin.md says how.
#pragma once

#include "base/json.h"
#include "simulate/rig.h"

namespace askcount::simulate {

Json to_json(const RigSetting& setting);
/// Reads a setting over `base`: absent fields keep its values. Throws BadInput naming the field.
RigSetting rig_from_json(const Json& json, const RigSetting& base);

Json to_json(const RigEvent& event, long long number);

}  // namespace askcount::simulate
