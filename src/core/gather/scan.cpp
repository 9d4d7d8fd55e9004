#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cctype>
#include <mutex>

#include "base/error.h"
#include "base/files.h"
#include "base/units.h"
#include "gather/gather.h"

namespace askcount::gather {
namespace fs = std::filesystem;
namespace {

bool is_picture(const fs::path& file) {
  std::string ext = file.extension().string();
  std::transform(ext.begin(), ext.end(), ext.begin(), [](unsigned char c) { return std::tolower(c); });
  return ext == ".jpg" || ext == ".jpeg";
}

bool is_hidden(const fs::path& file) {
  return file.filename().string().starts_with('.');
}

/// By time, then by number. A file without a time stands after the one before it in number order.
void order(std::vector<source::Frame>& frames) {
  std::sort(frames.begin(), frames.end(), [](const source::Frame& a, const source::Frame& b) {
    return natural_less(a.file().generic_string(), b.file().generic_string());
  });
  std::vector<std::pair<std::optional<source::CameraTime>, size_t>> keys(frames.size());
  std::optional<source::CameraTime> last;
  for (size_t i = 0; i < frames.size(); ++i) {
    if (frames[i].info().captured) last = frames[i].info().captured;
    keys[i] = {last, i};
  }
  std::stable_sort(keys.begin(), keys.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  std::vector<source::Frame> sorted;
  sorted.reserve(frames.size());
  for (const auto& key : keys) sorted.push_back(std::move(frames[key.second]));
  frames = std::move(sorted);
}

}  // namespace

namespace {

/// What lies in a folder and those below it; links to folders are not followed.
void list(const fs::path& folder, std::vector<fs::path>& files, Gathered& found) {
  std::error_code ec;
  fs::directory_iterator it(folder, ec);
  std::vector<fs::path> below;
  for (const fs::directory_iterator end; !ec && it != end; it.increment(ec)) {
    std::error_code odd;
    if (fs::is_directory(it->symlink_status(odd))) {
      below.push_back(it->path());
    } else if (it->is_regular_file(odd) && !is_hidden(it->path())) {
      if (is_picture(it->path()))
        files.push_back(it->path());
      else
        found.ignored.push_back(it->path().string());
    }
  }
  if (ec) found.unread_folders.push_back(folder.string());
  for (const fs::path& next : below) list(next, files, found);
}

/// Throws where pictures that were listed are not there any more.
void require_still_there(const fs::path& folder, const std::vector<source::Frame>& frames) {
  std::error_code ec;
  long long gone = 0;
  for (const source::Frame& f : frames) gone += !f.readable() && !fs::exists(f.file(), ec) ? 1 : 0;
  if (gone > 0 || !fs::is_directory(folder, ec))
    throw failed(fmt::format("The folder {} went away while it was read: {} of {} are gone.", folder.string(),
                             gone, counted(static_cast<long long>(frames.size()), "picture")),
                 "Put the card back and gather again.");
}

}  // namespace

Gathered scan(const fs::path& folder, const Work& work) {
  require_folder(folder);
  std::vector<fs::path> files;
  Gathered found;
  list(folder, files, found);
  if (files.empty())
    throw bad_input(fmt::format("There are no JPEG pictures in {}.", folder.string()),
                    "Name the card or the folder the frames are in.");
  std::vector<source::Frame> frames(files.size());
  std::mutex reporting;
  size_t done = 0;
  tbb::parallel_for(size_t{0}, files.size(), [&](size_t i) {
    if (work.stop.stop_requested()) return;
    frames[i] = source::frame_of(files[i]);
    const std::lock_guard lock(reporting);
    work.report(++done, files.size());
  });
  if (work.stop.stop_requested()) throw cancelled("Gathering was stopped; nothing was changed.");
  require_still_there(folder, frames);
  order(frames);
  found.frames = source::frames_of(std::move(frames));
  return found;
}

}  // namespace askcount::gather
