// The whole line for one take: shoot, gather, level, cut.
#pragma once

#include "cut/render.h"
#include "standin/shoot.h"
#include "take/take.h"

namespace askcount::take {

/// What the stand-in is to do for a take. Throws BadInput where the take's wishes are too few.
standin::ShootOrder shoot_order(const Take& take, const std::filesystem::path& card);

/// The stand-in's rig for a take: its program, its camera, a hand that follows the light. With `limits` the
/// kit's battery, card and buffer end and the cold counts; without, everything lasts. Throws as shoot_order.
standin::RigSetting rig_of(const Take& take, const std::filesystem::path& card, bool limits);

/// The film to be made from gathered frames, as the take wishes it.
cut::CutOrder cut_order(const Take& take, std::vector<gather::Frame> frames,
                        const std::filesystem::path& output);

}  // namespace askcount::take
