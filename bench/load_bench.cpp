// SPDX-License-Identifier: GPL-3.0-or-later
// A very long take through Gather, Level and Cut, with the memory it takes:
//   load_bench FOLDER [FRAMES] [DAYS]
// Writes FRAMES (32,000) small frames over DAYS (5) into FOLDER/card where they are not there yet, then
// prints for each stage the seconds and the most memory of the process so far.
#include <fmt/format.h>
#include <sys/resource.h>

#include <chrono>
#include <cmath>
#include <fstream>

#include "base/process.h"
#include "ingest/gather.h"
#include "level/brightness.h"
#include "media/jpeg.h"
#include "media/metadata.h"
#include "render/render.h"

using namespace askcount;
namespace fs = std::filesystem;

namespace {

/// Frames of a slow evening with flicker: six pictures, each shown at many moments.
void write_card(const fs::path& card, long long frames, double days) {
  std::vector<media::Bytes> pictures;
  for (int n = 0; n < 6; ++n) {
    image::Coded8 p(image::Size{240, 160});
    for (int y = 0; y < 160; ++y)
      for (int x = 0; x < 720; ++x)
        p.row(y)[x] = static_cast<std::uint8_t>(70 + 3 * n + 5 * ((x / 45 + y / 20) % 9));
    pictures.push_back(media::encode_jpeg(p, 85));
  }
  const double interval_ms = days * 86400000 / static_cast<double>(frames);
  for (long long n = 0; n < frames; ++n) {
    const fs::path folder = card / fmt::format("DCIM/{}QUAY", 100 + n / 9999);
    if (n % 9999 == 0) fs::create_directories(folder);
    const fs::path file = folder / fmt::format("QUAY{:04}.JPG", n % 9999 + 1);
    media::ShotInfo info;
    info.captured = media::CameraTime(
        std::chrono::milliseconds(1791568200000LL + std::llround(interval_ms * static_cast<double>(n))));
    info.shutter_s = 0.01;
    info.f_number = 8;
    info.iso = 100;
    info.size = {240, 160};
    const media::Bytes bytes = media::with_metadata(pictures[static_cast<size_t>(n * 7 % 6)], info, {});
    std::ofstream(file, std::ios::binary)
        .write(reinterpret_cast<const char*>(bytes.data()), static_cast<std::streamsize>(bytes.size()));
  }
}

template <typename Work>
void timed(const char* what, const Work& work) {
  const auto began = std::chrono::steady_clock::now();
  const std::string said = work();
  const double took = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
  rusage use{};
  getrusage(RUSAGE_SELF, &use);
  fmt::print("{:8} {:7.2f} s, at most {:5} MB: {}\n", what, took, use.ru_maxrss / 1024, said);
}

}  // namespace

int main(int argc, char** argv) {
  prepare_process();
  if (argc < 2) {
    fmt::print(stderr, "usage: load_bench FOLDER [FRAMES] [DAYS]\n");
    return 2;
  }
  const fs::path folder = argv[1], card = folder / "card";
  const long long count = argc > 2 ? std::atoll(argv[2]) : 32000;
  const double days = argc > 3 ? std::atof(argv[3]) : 5;
  if (!fs::exists(card)) write_card(card, count, days);
  ingest::Gathered found;
  timed("gather", [&] {
    found = ingest::gather(card);
    return fmt::format("{} frames, one every {:.3f} s", found.frames->size(), found.interval_s.value_or(0));
  });
  level::Luminances light;
  timed("measure", [&] {
    light = level::measure(found.frames, media::any_source(), {}, level::MeasuredFrom::Frames);
    return fmt::format("{} frames", found.frames->size());
  });
  level::Evenness even;
  timed("level", [&] {
    even = level::even_out(found.frames, light, {});
    return fmt::format("flicker {:.3f} stops before, {:.3f} after", even.flicker_before, even.flicker_after);
  });
  timed("cut", [&] {
    render::FilmOrder order;
    order.output = folder / "film.mp4";
    order.size = {192, 108};
    order.coding = {24, "ultrafast", 8};
    order.corrections = even.corrections;
    const render::FilmOutcome made = render::render(found.frames, media::any_source(), order);
    return fmt::format("{} frames of film", made.facts.frames);
  });
  return 0;
}
