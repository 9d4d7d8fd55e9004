// What there is to say about the frames that were gathered for a take.
#pragma once

#include "gather/gather.h"
#include "take/take.h"

namespace askcount::advice {

/// What the audit found, and whether as many frames are there as were planned.
Findings gather_advice(const take::Take& take, const gather::Gathered& gathered);

}  // namespace askcount::advice
