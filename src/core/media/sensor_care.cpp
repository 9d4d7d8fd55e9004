// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/sensor_care.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/error.h"
#include "base/language.h"
#include "media/kind.h"

namespace askcount::media {
namespace {

namespace fs = std::filesystem;

constexpr float kDark = 0.01F;      // of the range from black to white: half of a dark frame lies below
constexpr int kFull = 2;            // a place that is lit by half of the range tells nothing any more
constexpr size_t kMostFrames = 64;  // of a folder: more than that change nothing

std::vector<fs::path> raw_files_in(const fs::path& folder) {
  std::vector<fs::path> files;
  std::error_code ec;
  for (const auto& entry : fs::directory_iterator(folder, ec))
    if (entry.is_regular_file(ec) && kind_of(entry.path()) == Kind::Raw) files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  if (files.empty())
    throw bad_input(say("{} has no raw file.", folder.string()),
                    say("A dark frame is a raw file shot with the cap on, or a folder of some."));
  if (files.size() > kMostFrames) files.resize(kMostFrames);
  return files;
}

void require_dark(const SensorValues& frame, const fs::path& file) {
  const float limit = frame.black + kDark * (frame.white - frame.black);
  const auto lit =
      static_cast<size_t>(std::count_if(frame.values.begin(), frame.values.end(),
                                        [limit](std::uint16_t v) { return static_cast<float>(v) > limit; }));
  if (2 * lit > frame.values.size())
    throw bad_input(say("{} is not dark.", file.string()),
                    say("Shoot it with the cap on, at the shutter and ISO of the take."));
}

}  // namespace

DarkFrame read_dark_frame(const fs::path& given) {
  std::error_code ec;
  const std::vector<fs::path> files =
      fs::is_directory(given, ec) ? raw_files_in(given) : std::vector<fs::path>{given};
  DarkFrame mean;
  std::vector<std::uint32_t> sums;
  for (const fs::path& file : files) {
    SensorValues one = read_mosaic(file);
    require_dark(one, file);
    if (sums.empty()) {
      sums.assign(one.values.size(), 0);
      mean.size = one.size;
      mean.black = one.black;
      mean.white = one.white;
    } else if (!(one.size == mean.size)) {
      throw bad_input(say("{} is {}x{}, {} is {}x{}.", file.string(), one.size.width, one.size.height,
                          files.front().string(), mean.size.width, mean.size.height),
                      say("Dark frames are of one camera."));
    }
    for (size_t i = 0; i < sums.size(); ++i)
      sums[i] += static_cast<std::uint32_t>(std::max(0.0F, static_cast<float>(one.values[i]) - one.black));
  }
  const auto n = static_cast<std::uint32_t>(files.size());
  mean.values.resize(sums.size());
  for (size_t i = 0; i < sums.size(); ++i) mean.values[i] = static_cast<std::uint16_t>((sums[i] + n / 2) / n);
  return mean;
}

namespace {

/// Puts the middle of its neighbours of the same colour into a place.
void fill_in(SensorPlace p, std::uint16_t* values, size_t pitch, image::Size size) {
  std::vector<std::uint16_t> around;
  for (const int dy : {-2, 0, 2})
    for (const int dx : {-2, 0, 2})
      if ((dx != 0 || dy != 0) && p.x + dx >= 0 && p.x + dx < size.width && p.y + dy >= 0 &&
          p.y + dy < size.height)
        around.push_back(values[static_cast<size_t>(p.y + dy) * pitch + static_cast<size_t>(p.x + dx)]);
  if (around.empty()) return;
  std::sort(around.begin(), around.end());
  const size_t n = around.size();
  values[static_cast<size_t>(p.y) * pitch + static_cast<size_t>(p.x)] =
      n % 2 == 1 ? around[n / 2] : static_cast<std::uint16_t>((around[n / 2 - 1] + around[n / 2] + 1) / 2);
}

}  // namespace

void take_care(const SensorCare& care, std::uint16_t* values, size_t pitch, image::Size size, float white) {
  if (care.dark) {
    if (!(care.dark->size == size))
      throw bad_input(say("The dark frame is {}x{}, the frames are {}x{}.", care.dark->size.width,
                          care.dark->size.height, size.width, size.height),
                      say("Take one of the same camera."));
    const auto top = static_cast<int>(white);
    const int full = (top - static_cast<int>(care.dark->black)) / kFull;
    std::vector<SensorPlace> burnt;
    for (int y = 0; y < size.height; ++y) {
      std::uint16_t* row = values + static_cast<size_t>(y) * pitch;
      const std::uint16_t* dark = care.dark->row(y);
      for (int x = 0; x < size.width; ++x) {
        if (dark[x] > full) burnt.push_back({x, y});
        row[x] = static_cast<std::uint16_t>(row[x] >= top ? row[x] : std::max(0, row[x] - dark[x]));
      }
    }
    for (const SensorPlace& p : burnt) fill_in(p, values, pitch, size);
  }
  for (const SensorPlace& p : care.hot)
    if (p.x >= 0 && p.y >= 0 && p.x < size.width && p.y < size.height) fill_in(p, values, pitch, size);
}

}  // namespace askcount::media
