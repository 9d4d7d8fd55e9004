// SPDX-License-Identifier: GPL-3.0-or-later
// A finding's one action, carried out on a take.
#pragma once

#include "base/mend.h"
#include "take/take.h"

namespace askcount::take {

/// A copy of the take with the mend carried out. Throws BadInput as Take::wish would, and for a timer that
/// the kit does not have.
Take mended(const Take& take, const Mend& mend);

}  // namespace askcount::take
