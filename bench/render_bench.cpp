// SPDX-License-Identifier: GPL-3.0-or-later
// The render beside what no one can avoid (decoder and encoder alone) and beside the plain line (ffmpeg; for
// raw frames LibRaw's own half-size developer before it), on one machine in one run: render_bench FOLDER
// [FRAMES]  with a folder of 24-megapixel JPEG or raw frames.
//
// Prints processor time and wall time of each, their ratios, and the peak memory of the render.

#include <fmt/format.h>
#include <libraw/libraw.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <chrono>
#include <cstdlib>
#include <filesystem>
#include <functional>
#include <memory>
#include <thread>
#include <vector>

#include "base/process.h"
#include "ingest/gather.h"
#include "level/brightness.h"
#include "media/jpeg.h"
#include "media/kind.h"
#include "render/drawing.h"
#include "render/render.h"

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

/// The plain way to see raw frames: LibRaw's developer at half size with the camera's white, as PPM pictures
/// one after the other on standard output.
int develop_plainly(const std::filesystem::path& folder) {
  const media::Frames frames = ingest::gather(folder).frames;
  for (const media::Frame& f : *frames) {
    LibRaw raw;
    raw.imgdata.params.half_size = 1;
    raw.imgdata.params.use_camera_wb = 1;
    raw.imgdata.params.no_auto_bright = 1;
    if (raw.open_file(f.file().c_str()) != 0 || raw.unpack() != 0 || raw.dcraw_process() != 0) return 1;
    libraw_processed_image_t* made = raw.dcraw_make_mem_image();
    if (!made) return 1;
    fmt::print("P6\n{} {}\n255\n", made->width, made->height);
    std::fwrite(made->data, 1, made->data_size, stdout);
    LibRaw::dcraw_clear_mem(made);
  }
  return 0;
}

/// The frames of a folder, and where what is made of them goes.
struct Bench {
  std::filesystem::path out = std::filesystem::temp_directory_path() / "askcount-bench";
  std::filesystem::path links = out / "links";  // the frames in order, numbered, for both programs
  std::vector<media::Frame> frames;
  render::FilmOrder order;
  image::RectF crop;
  bool raw = false;
  std::string askcount;

  Bench(const std::filesystem::path& folder, size_t most) : frames(*ingest::gather(folder).frames) {
    frames.resize(std::min(frames.size(), most));
    order.output = out / "render.mp4";
    const image::Size full = frames[0].info().size;
    crop = image::in_pixels(render::film_part(full, order.size), full);
    raw = media::kind_of(frames[0].file()) == media::Kind::Raw;
    askcount = (std::filesystem::read_symlink("/proc/self/exe").parent_path() / "../src/askcount").string();
    std::filesystem::remove_all(links);
    std::filesystem::create_directories(links);
    for (size_t i = 0; i < frames.size(); ++i)
      std::filesystem::create_symlink(std::filesystem::absolute(frames[i].file()),
                                      links / fmt::format("{:05}{}", i, raw ? ".dng" : ".jpg"));
  }

  /// On as many threads as the render has: two that share a core take more processor time than one alone.
  void on_all_threads(const std::function<void(const media::Frame&)>& what) const {
    std::vector<std::jthread> threads;
    const size_t many = std::max(1U, std::thread::hardware_concurrency());
    for (size_t t = 0; t < many; ++t)
      threads.emplace_back([&, t, many] {
        for (size_t i = t; i < frames.size(); i += many) what(frames[i]);
      });
  }
  void decode_all(int eighths) const {
    on_all_threads([eighths](const media::Frame& f) {
      media::decode_jpeg(media::read_bytes(f.file()), eighths, f.file().string());
    });
  }
  Cost run(const std::string& command) const {
    return measured([&] { execlp("sh", "sh", "-c", command.c_str(), nullptr); });
  }
  /// What the FFmpeg command line does with the film's frames.
  std::string filters(double scale) const {
    return fmt::format(
        "crop={}:{},deflicker,scale={}:{} -pix_fmt yuv420p -c:v libx264 -preset medium -crf 18 {}",
        std::lround(crop.width * scale), std::lround(crop.height * scale), order.size.width,
        order.size.height, (out / "ffmpeg.mp4").string());
  }
};

Cost decoding(const Bench& b) {
  return measured([&] {
    if (!b.raw) return b.decode_all(media::decoding_eighths(b.crop, b.order.size));
    b.on_all_threads([](const media::Frame& f) {
      const auto one = std::make_unique<LibRaw>();
      if (one->open_file(f.file().c_str()) != 0 || one->unpack() != 0) _exit(1);
    });
  });
}

/// The pictures the render made, drawn into buffers as it draws them.
std::vector<std::unique_ptr<media::FrameBuffer>> buffers_of(const render::FilmOrder& order) {
  media::FilmReader film(order.output);
  std::vector<std::unique_ptr<media::FrameBuffer>> buffers;
  const image::Resampling flat(
      order.size, {0, 0, static_cast<double>(order.size.width), static_cast<double>(order.size.height)},
      order.size);
  while (auto picture = film.next()) {
    buffers.push_back(std::make_unique<media::FrameBuffer>(order.size));
    render::draw(std::move(*picture), flat, {}, buffers.back()->film());
  }
  return buffers;
}

/// The encoder alone, on the very pictures the render made: with what it takes to read them, less that.
Cost encoding(const Bench& b) {
  const Cost both = measured([&] {
    media::Encoder encoder(b.out / "encode.mp4", b.out / "encode.mp4", b.order.size, b.order.fps,
                           b.order.coding);
    for (auto& buffer : buffers_of(b.order)) encoder.add(*buffer);
    encoder.finish();
  });
  const Cost reading = measured([&] { buffers_of(b.order); });
  return {both.wall_s - reading.wall_s, both.cpu_s - reading.cpu_s, both.peak_mib - reading.peak_mib};
}

double flicker_of(const std::filesystem::path& file) {
  media::FilmReader film(file);
  std::vector<double> stops;
  while (auto p = film.next({960, 540})) stops.push_back(level::measure_frame(std::move(*p), {}).stops());
  return level::flicker(stops);
}

void against_plain_raw(const Bench& b, const Cost& render) {
  const std::string self = std::filesystem::read_symlink("/proc/self/exe").string();
  const Cost plain = b.run(
      fmt::format("{} --plainly {} | ffmpeg -v error -y -framerate 25 -f image2pipe -c:v ppm -i - -vf {}",
                  self, b.links.string(), b.filters(0.5)));
  say("LibRaw at half size, then ffmpeg", plain, b.frames.size());
  fmt::print("render is {:.2f} times as fast as that (wall)\n", plain.wall_s / render.wall_s);
}

void against_ffmpeg(const Bench& b, const Cost& render) {
  const size_t n = b.frames.size();
  const Cost measure = b.run(fmt::format("exec {} level {} 2>/dev/null >&2", b.askcount, b.links.string()));
  const Cost eighth = measured([&] { b.decode_all(1); });
  say("decoder alone at 1/8", eighth, n);
  say("brightness measured", measure, n);
  fmt::print("brightness at {:.2f} of the decoder's speed at 1/8 (processor time)\n",
             eighth.cpu_s / measure.cpu_s);
  const Cost ffmpeg = b.run(fmt::format("exec ffmpeg -v error -y -framerate 25 -i {}/%05d.jpg -vf {}",
                                        b.links.string(), b.filters(1)));
  say("ffmpeg command line", ffmpeg, n);
  fmt::print("render is {:.2f} times as fast as the ffmpeg command line (wall)\n",
             ffmpeg.wall_s / render.wall_s);
  fmt::print("flicker left: {:.4f} stops, ffmpeg deflicker {:.4f} stops\n", flicker_of(b.order.output),
             flicker_of(b.out / "ffmpeg.mp4"));
}

}  // namespace

int main(int argc, char** argv) {
  if (argc == 3 && std::string(argv[1]) == "--plainly") return develop_plainly(argv[2]);
  if (argc < 2) {
    fmt::print(stderr, "usage: render_bench FOLDER [FRAMES]\n");
    return 2;
  }
  give_back_large_buffers();
  const Bench b(argv[1], argc > 2 ? static_cast<size_t>(std::atoi(argv[2])) : std::string::npos);
  const size_t n = b.frames.size();
  const image::Size full = b.frames[0].info().size;
  fmt::print("{} frames of {}x{}, {}\n", n, full.width, full.height,
             b.raw ? "raw" : fmt::format("decoded at {}/8", media::decoding_eighths(b.crop, b.order.size)));
  const Cost decode = decoding(b);
  say(b.raw ? "unpacking alone" : "decoder alone", decode, n);
  const Cost render = b.run(fmt::format("exec {} cut {} -o {} --fps 25 2>/dev/null >&2", b.askcount,
                                        b.links.string(), b.order.output.string()));
  const Cost encode = encoding(b);
  say("encoder alone", encode, n);
  say("render (decode, level, encode)", render, n);
  fmt::print("render : (decoder + encoder) = {:.3f} in processor time\n",
             render.cpu_s / (decode.cpu_s + encode.cpu_s));
  if (b.raw)
    against_plain_raw(b, render);
  else
    against_ffmpeg(b, render);
  std::filesystem::remove_all(b.out);
  return 0;
}
