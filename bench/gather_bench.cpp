// SPDX-License-Identifier: GPL-3.0-or-later
// What it costs to find, order and look at frames, beside the decoder alone:
//   gather_bench FOLDER
// Prints, three times over: seconds to list and order; to decode every JPEG at 1/8; to look at every frame;
// and the speed of the look as a share of the decoder's.
#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <chrono>

#include "ingest/gather.h"
#include "inspect/faults.h"
#include "inspect/look.h"
#include "media/jpeg.h"

using namespace askcount;

int main(int argc, char** argv) {
  if (argc != 2) {
    fmt::print(stderr, "usage: gather_bench FOLDER\n");
    return 2;
  }
  const auto seconds = [](const auto& work) {
    const auto began = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
  };
  for (int round = 0; round < 3; ++round) {
    ingest::Gathered g;
    const double listed = seconds([&] { g = ingest::gather(argv[1]); });
    const auto& frames = *g.frames;
    const double decoded = seconds([&] {
      tbb::parallel_for(size_t{0}, frames.size(), [&](size_t i) {
        media::decode_jpeg(media::read_bytes(frames[i].file()), 1, "a frame");
      });
    });
    inspect::Look look;
    const double looked = seconds([&] { look = inspect::look_at(g.frames, media::any_source()); });
    std::vector<inspect::Fault> faults;
    const double judged = seconds([&] { faults = inspect::faults_of(g, look); });
    fmt::print(
        "{} frames: listed {:.2f} s, decoded {:.2f} s, looked at {:.2f} s ({:.2f} of the decoder's speed), "
        "judged {:.3f} s\n",
        frames.size(), listed, decoded, looked, decoded / looked, judged);
  }
  return 0;
}
