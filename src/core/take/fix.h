// SPDX-License-Identifier: GPL-3.0-or-later
// A finding's one action, carried out on a take.
#pragma once

#include "base/fix.h"
#include "take/take.h"

namespace askcount::take {

/// A copy of the take with the fix carried out. Throws BadInput as Take::wish would, and for a timer that
/// the kit does not have.
Take with_fix(const Take& take, const Fix& fix);

}  // namespace askcount::take
