// The whole line for one take: shoot, gather, level, cut.
#pragma once

#include "cut/render.h"
#include "standin/shoot.h"
#include "take/take.h"

namespace askcount::take {

/// What the stand-in is to do for a take. Throws BadInput where the take's wishes are too few.
standin::ShootOrder shoot_order(const Take& take, const std::filesystem::path& card);

/// The film to be made from gathered frames, as the take wishes it.
cut::CutOrder cut_order(const Take& take, std::vector<gather::Frame> frames, const std::filesystem::path& output);

}  // namespace askcount::take
