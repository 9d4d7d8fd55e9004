// SPDX-License-Identifier: GPL-3.0-or-later
// What several tests need: folders that go away, small takes, other programs' answers.
#pragma once

#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <random>
#include <set>
#include <string>

#include "base/error.h"
#include "base/passing.h"
#include "films/film.h"
#include "forecast/shoot.h"
#include "ingest/gather.h"
#include "render/render.h"
#include "simulate/shoot.h"

namespace askcount::test {

namespace fs = std::filesystem;

/// A new folder, gone with everything in it at the end of the test.
class Folder {
 public:
  Folder() {
    std::string name = (fs::temp_directory_path() / "askcount-test-XXXXXX").string();
    path_ = mkdtemp(name.data());
  }
  ~Folder() {
    std::error_code ec;
    fs::remove_all(path_, ec);
  }
  Folder(const Folder&) = delete;
  fs::path operator/(const fs::path& name) const { return path_ / name; }
  const fs::path& path() const { return path_; }
  /// Names of the files right in it, sorted.
  std::vector<std::string> names() const {
    std::vector<std::string> list;
    for (const auto& e : fs::directory_iterator(path_)) list.push_back(e.path().filename().string());
    std::sort(list.begin(), list.end());
    return list;
  }

 private:
  fs::path path_;
};

/// Writes bytes or text to a file, whatever was there.
template <typename Bytes>
void write(const fs::path& file, const Bytes& bytes) {
  std::ofstream(file, std::ios::binary)
      .write(reinterpret_cast<const char*>(std::data(bytes)), static_cast<std::streamsize>(std::size(bytes)));
}

struct Said {
  int exit = -1;
  std::string out, err;
};

/// Runs a command line; standard error is kept apart.
inline Said run(const std::string& command) {
  const Folder folder;
  Said said;
  const std::string line = command + " 2>" + (folder / "err").string();
  FILE* pipe = popen(line.c_str(), "r");
  std::array<char, 4096> part{};
  size_t n = 0;
  while ((n = fread(part.data(), 1, part.size(), pipe)) > 0) said.out.append(part.data(), n);
  const int status = pclose(pipe);
  said.exit = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
  std::ifstream err(folder / "err");
  said.err.assign(std::istreambuf_iterator<char>(err), {});
  return said;
}

/// The kind of Error that something throws, and its words; fails the test where it throws none.
template <typename Do>
Error error_of(Do&& what) {
  try {
    what();
  } catch (const Error& e) {
    return e;
  }
  ADD_FAILURE() << "nothing was thrown";
  return Error(Error::Kind::Failed, "");
}

/// The demo's harbour at another size and length, quick to shoot.
inline take::Take small_take(long long frames, image::Size size = {240, 160}, double interval_s = 20) {
  take::Take take = take::demo_take();
  take.wishes.clear();
  take.wish(plan::Slot::Trail, 0.2);
  take.wish(plan::Slot::Interval, interval_s);
  take.wish(plan::Slot::Fps, 25);
  take.wish(plan::Slot::Frames, static_cast<double>(frames));
  take.stand_in.frame_size = size;
  take.film.size = {192, 108};
  return take;
}

/// Brightness (log2 of mean linear luminance) of every frame of a film, read by the ffmpeg program and not by
/// us.
inline std::vector<std::array<double, 3>> film_light(const fs::path& film, int width, int height) {
  const std::string command = "ffmpeg -v error -i '" + film.string() + "' -pix_fmt rgb24 -f rawvideo -";
  FILE* pipe = popen(command.c_str(), "r");
  std::vector<unsigned char> frame(static_cast<size_t>(width) * height * 3);
  std::vector<std::array<double, 3>> light;
  const auto linear = [](int code) {
    const double v = code / 255.0;
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
  };
  while (fread(frame.data(), 1, frame.size(), pipe) == frame.size()) {
    std::array<double, 3> sum{};
    for (size_t i = 0; i < frame.size(); ++i) sum[i % 3] += linear(frame[i]);
    for (double& s : sum) s /= static_cast<double>(width) * height;
    light.push_back(sum);
  }
  pclose(pipe);
  return light;
}

/// The same as log2 of the mean luminance.
inline std::vector<double> film_stops(const fs::path& film, int width, int height) {
  std::vector<double> stops;
  for (const auto& [r, g, b] : film_light(film, width, height))
    stops.push_back(std::log2(0.2126 * r + 0.7152 * g + 0.0722 * b));
  return stops;
}

/// A passing folder as a program leaves it that is killed while it writes `name` (with its folders) there.
inline fs::path left_by_a_dead_program(const fs::path& within, const std::string& name) {
  std::array<int, 2> wire{};
  if (::pipe(wire.data()) != 0) throw std::runtime_error("no pipe");
  const pid_t child = ::fork();
  if (child == 0) {
    const PassingFolder passing(within);
    fs::create_directories((passing.path() / name).parent_path());
    write(passing.path() / name, std::string("half"));
    const std::string path = passing.path().string();
    [[maybe_unused]] const ssize_t n = ::write(wire[1], path.data(), path.size());
    ::_exit(0);
  }
  int status = 0;
  ::waitpid(child, &status, 0);
  std::array<char, 4096> path{};
  const ssize_t n = ::read(wire[0], path.data(), path.size());
  ::close(wire[0]);
  ::close(wire[1]);
  return std::string(path.data(), static_cast<size_t>(std::max<ssize_t>(n, 0)));
}

}  // namespace askcount::test
