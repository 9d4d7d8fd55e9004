// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/frame.h"

#include <algorithm>

#include "media/kind.h"

namespace askcount::media {

Frame::Frame(std::vector<Exposure> bracket) : exposures(std::move(bracket)) {
  std::vector<std::pair<double, size_t>> by_light;
  for (size_t i = 0; i < exposures.size(); ++i)
    if (const auto stops = relative_stops(exposures[i].info)) by_light.emplace_back(*stops, i);
  if (by_light.size() < exposures.size()) {  // not known of all: the middle one as they came
    middle = exposures.size() / 2;
    return;
  }
  std::sort(by_light.begin(), by_light.end());
  middle = by_light[by_light.size() / 2].second;
}

Frame frame_of(const std::filesystem::path& file) {
  Exposure exposure;
  (kind_of(file) == Kind::Raw ? exposure.raw : exposure.compressed) = file;
  try {
    exposure.info = read_shot_info(file);
  } catch (const std::exception& e) {
    exposure.trouble = e.what();
  }
  return Frame(std::move(exposure));
}

}  // namespace askcount::media
