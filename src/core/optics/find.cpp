// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/find.h"

#include <utility>

#include "optics/hot_pixels.h"
#include "optics/spots.h"

namespace askcount::optics {

Found find(const media::Frames& frames, const Work& work) {
  Found found;
  found.hot = find_hot_pixels(frames, work);
  found.spots = find_spots(frames, *media::source_with({found.hot, nullptr}), work);
  return found;
}

void put(Wish& wish, Found found) {
  wish.spots = std::move(found.spots);
  wish.hot = std::move(found.hot);
  wish.looked = true;
}

void forget(Wish& wish) {
  put(wish, {});
  wish.looked = false;
}

}  // namespace askcount::optics
