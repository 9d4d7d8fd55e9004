// The render beside what no one can avoid (decoder and encoder alone) and beside the ffmpeg command line, on
// one machine in one run:  render_bench FOLDER [FRAMES]  with a folder of 24-megapixel JPEG frames.
//
// Prints processor time and wall time of each, their ratios, and the peak memory of the render.

#include <fmt/format.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <chrono>
#include <cstdlib>
#include <filesystem>
#include <functional>

#include "base/process.h"
#include "gather/gather.h"
#include "level/brightness.h"
#include "render/drawing.h"
#include "render/render.h"
#include "source/jpeg.h"

namespace {

using namespace askcount;

struct Cost {
  double wall_s = 0, cpu_s = 0;
  double peak_mib = 0;
};

/// Runs `work` in a process of its own and measures it. Threads do not survive the fork: what uses the
/// scheduler runs the askcount command instead.
Cost measured(const std::function<void()>& work) {
  const auto began = std::chrono::steady_clock::now();
  const pid_t child = fork();
  if (child == 0) {
    try {
      work();
      _exit(0);
    } catch (const std::exception& e) {
      fmt::print(stderr, "{}\n", e.what());
      _exit(1);
    }
  }
  int status = 0;
  rusage used{};
  wait4(child, &status, 0, &used);
  if (status != 0) std::exit(1);
  const auto seconds = [](const timeval& t) {
    return static_cast<double>(t.tv_sec) + static_cast<double>(t.tv_usec) / 1e6;
  };
  return {std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count(),
          seconds(used.ru_utime) + seconds(used.ru_stime), static_cast<double>(used.ru_maxrss) / 1024};
}

void say(const char* what, const Cost& c, size_t frames) {
  fmt::print("{:34} {:7.2f} s wall {:7.2f} s processor {:6.1f} ms a frame  peak {:5.0f} MiB\n", what,
             c.wall_s, c.cpu_s, 1000 * c.cpu_s / static_cast<double>(frames), c.peak_mib);
}

}  // namespace

int main(int argc, char** argv) {
  if (argc < 2) {
    fmt::print(stderr, "usage: render_bench FOLDER [FRAMES]\n");
    return 2;
  }
  give_back_large_buffers();
  const std::filesystem::path folder = argv[1];
  const auto out = std::filesystem::temp_directory_path() / "askcount-bench";
  std::filesystem::create_directories(out);
  std::vector<source::Frame> frames = *gather::gather(folder).frames;
  if (argc > 2) frames.resize(std::min<size_t>(frames.size(), static_cast<size_t>(std::atoi(argv[2]))));
  const size_t n = frames.size();
  render::FilmOrder order;
  order.output = out / "render.mp4";
  const image::Size full = frames[0].info().size;
  const image::RectF crop = image::in_pixels(render::film_part(full, order.size), full);
  const int eighths = source::decoding_eighths(crop, order.size);
  fmt::print("{} frames of {}x{}, decoded at {}/8\n", n, full.width, full.height, eighths);

  const auto decode_all = [&](int at) {
    for (const auto& f : frames) source::decode_jpeg(source::read_bytes(f.file()), at, f.file().string());
  };
  const Cost decode = measured([&] { decode_all(eighths); });
  say("decoder alone", decode, n);
  const std::string askcount =
      (std::filesystem::read_symlink("/proc/self/exe").parent_path() / "../src/askcount").string();
  const auto run = [](const std::string& command) {
    return measured([&] { execlp("sh", "sh", "-c", command.c_str(), nullptr); });
  };
  const auto links = out / "links";  // the frames in order, numbered, for both programs
  std::filesystem::remove_all(links);
  std::filesystem::create_directories(links);
  for (size_t i = 0; i < n; ++i)
    std::filesystem::create_symlink(std::filesystem::absolute(frames[i].file()),
                                    links / fmt::format("{:05}.jpg", i));
  const Cost render = run(fmt::format("exec {} cut {} -o {} --fps 25 2>/dev/null >&2", askcount,
                                      links.string(), order.output.string()));
  // The encoder alone, on the very pictures the render made.
  const Cost encode = measured([&] {
    film::Encoder encoder(out / "encode.mp4", out / "encode.mp4", order.size, order.fps, order.coding);
    film::FilmReader film(order.output);
    std::vector<std::unique_ptr<film::FrameBuffer>> buffers;
    const image::Resampling flat(
        order.size, {0, 0, static_cast<double>(order.size.width), static_cast<double>(order.size.height)},
        order.size);
    while (auto picture = film.next()) {
      buffers.push_back(std::make_unique<film::FrameBuffer>(order.size));
      render::draw(std::move(*picture), flat, {}, buffers.back()->film());
    }
    for (auto& b : buffers) encoder.add(*b);
    encoder.finish();
  });
  const Cost reading = measured([&] {
    film::FilmReader film(order.output);
    const image::Resampling flat(
        order.size, {0, 0, static_cast<double>(order.size.width), static_cast<double>(order.size.height)},
        order.size);
    std::vector<std::unique_ptr<film::FrameBuffer>> buffers;
    while (auto picture = film.next()) {
      buffers.push_back(std::make_unique<film::FrameBuffer>(order.size));
      render::draw(std::move(*picture), flat, {}, buffers.back()->film());
    }
  });
  const Cost encode_only = {encode.wall_s - reading.wall_s, encode.cpu_s - reading.cpu_s,
                            encode.peak_mib - reading.peak_mib};
  say("encoder alone", encode_only, n);
  say("render (decode, level, encode)", render, n);
  fmt::print("render : (decoder + encoder) = {:.3f} in processor time\n",
             render.cpu_s / (decode.cpu_s + encode_only.cpu_s));

  const Cost measure = run(fmt::format("exec {} level {} 2>/dev/null >&2", askcount, links.string()));
  const Cost eighth = measured([&] { decode_all(1); });
  say("decoder alone at 1/8", eighth, n);
  say("brightness measured", measure, n);
  fmt::print("brightness at {:.2f} of the decoder's speed at 1/8 (processor time)\n",
             eighth.cpu_s / measure.cpu_s);

  const std::string command = fmt::format(
      "ffmpeg -v error -y -framerate 25 -i {}/%05d.jpg -vf crop={}:{},deflicker,scale={}:{} -pix_fmt yuv420p "
      "-c:v libx264 "
      "-preset medium -crf 18 {}",
      links.string(), std::lround(crop.width), std::lround(crop.height), order.size.width, order.size.height,
      (out / "ffmpeg.mp4").string());
  const Cost ffmpeg = run("exec " + command);
  say("ffmpeg command line", ffmpeg, n);
  fmt::print("render is {:.2f} times as fast as the ffmpeg command line (wall)\n",
             ffmpeg.wall_s / render.wall_s);

  const auto flicker_of = [](const std::filesystem::path& file) {
    film::FilmReader film(file);
    std::vector<double> stops;
    while (auto p = film.next({960, 540})) stops.push_back(level::measure_frame(std::move(*p), {}).stops());
    return level::flicker(stops);
  };
  const double ours = flicker_of(order.output), theirs = flicker_of(out / "ffmpeg.mp4");
  fmt::print("flicker left: {:.4f} stops, ffmpeg deflicker {:.4f} stops\n", ours, theirs);
  std::filesystem::remove_all(out);
  return 0;
}
