// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/output.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <string_view>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount {
namespace fs = std::filesystem;
namespace {

constexpr size_t kLooked = 64 << 10;  // bytes looked at, at either end
constexpr std::string_view kMark = "Ask Count";
constexpr std::string_view kManifestMark = "# Copied by Ask Count";

/// The first and the last bytes of a plain file; both empty where it is none or cannot be read.
struct Ends {
  std::string head, tail;
};

Ends ends_of(const fs::path& file) {
  Ends ends;
  const int fd = ::open(file.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC);
  if (fd < 0) return ends;
  struct stat there {};
  if (::fstat(fd, &there) == 0 && S_ISREG(there.st_mode)) {
    const auto read = [fd](off_t from, size_t length) {
      std::string bytes(length, '\0');
      const ssize_t n = ::pread(fd, bytes.data(), length, from);
      bytes.resize(n > 0 ? static_cast<size_t>(n) : 0);
      return bytes;
    };
    const auto size = static_cast<size_t>(there.st_size);
    ends.head = read(0, std::min(size, kLooked));
    ends.tail = read(static_cast<off_t>(size - std::min(size, kLooked)), std::min(size, kLooked));
  }
  ::close(fd);
  return ends;
}

bool is_photograph(std::string_view head, const fs::path& file) {
  using namespace std::string_view_literals;
  if (head.starts_with("\xFF\xD8\xFF"sv) || head.starts_with("II*\0"sv) || head.starts_with("MM\0*"sv))
    return true;
  if (head.size() >= 12 && head.substr(4, 4) == "ftyp") {
    const std::string_view brand = head.substr(8, 4);
    for (const std::string_view still :
         {"heic", "heix", "heim", "heis", "mif1", "msf1", "avif", "avis", "crx "})
      if (brand == still) return true;
  }
  const std::string ending = lowered(file.extension().string());
  static constexpr std::array kEndings = {".jpg",  ".jpeg", ".jpe", ".tif", ".tiff", ".dng", ".heic", ".heif",
                                          ".avif", ".raw",  ".raf", ".rwl", ".rw2",  ".x3f", ".mrw",  ".orf",
                                          ".cr2",  ".cr3",  ".nef", ".arw", ".pef",  ".srw", ".iiq",  ".3fr"};
  return !head.empty() &&
         std::any_of(kEndings.begin(), kEndings.end(), [&](const char* e) { return ending == e; });
}

std::optional<FileKind> written_kind(const Ends& ends) {
  using namespace std::string_view_literals;
  const std::string_view head = ends.head;
  const auto has = [](std::string_view text, std::string_view what) { return text.find(what) != text.npos; };
  const bool marked = has(head, kMark) || has(ends.tail, kMark);
  if (head.starts_with(kManifestMark)) return FileKind::Manifest;
  if (head.starts_with("frame,file,time,shutter_s"sv)) return FileKind::Table;
  if (head.starts_with("time,frame,what,"sv) || head.starts_with("time,ev100"sv)) return FileKind::Table;
  if (has(head, "LUT_3D_SIZE")) return marked ? std::optional(FileKind::ColourTable) : std::nullopt;
  if (head.starts_with("%PDF-"sv)) return marked ? std::optional(FileKind::Sheet) : std::nullopt;
  if (head.starts_with("name,place,start,frames,planned_frames"sv)) return FileKind::Table;
  if (head.starts_with("<!doctype html>"sv)) return marked ? std::optional(FileKind::Page) : std::nullopt;
  if (head.starts_with("BEGIN:VCALENDAR"sv)) return marked ? std::optional(FileKind::Calendar) : std::nullopt;
  if (head.starts_with("\x89PNG"sv)) return marked ? std::optional(FileKind::Picture) : std::nullopt;
  if (head.size() >= 8 && head.substr(4, 4) == "ftyp") return FileKind::Film;
  if (head.starts_with("\x1A\x45\xDF\xA3"sv)) return FileKind::Film;
  const size_t first = head.find_first_not_of(" \t\r\n");
  if (first == head.npos || (head[first] != '{' && head[first] != '[')) return {};
  if (has(head, "\"askcount-look\"")) return FileKind::Look;
  if (has(head, "\"askcount_kit\"") && !has(head, "\"askcount\"")) return FileKind::Kit;
  if (has(head, "\"askcount\"")) return FileKind::Take;
  // The latter two as they were before they had a mark.
  if (has(head, "\"askcount_report\"") ||
      (has(head, "\"duration_s\"") && has(ends.tail, "\"check_findings\"")) ||
      (head.starts_with("{\"scene\": "sv) && has(ends.tail, "\"missed\": [")))
    return FileKind::Report;
  return FileKind::Record;
}

/// What a kind is called, in the order of FileKind.
constexpr std::array kWords = {to_say("a take"),
                               to_say("a kit"),
                               to_say("a table of Ask Count"),
                               to_say("a calendar of Ask Count"),
                               to_say("a sheet of Ask Count"),
                               to_say("a picture of Ask Count"),
                               to_say("a film"),
                               to_say("a JSON document"),
                               to_say("a report of Ask Count"),
                               to_say("a frame"),
                               to_say("a list of copied files"),
                               to_say("a file of looks"),
                               to_say("a colour table of Ask Count"),
                               to_say("a page of Ask Count")};

}  // namespace

bool is_photograph(const fs::path& file) {
  return is_photograph(ends_of(file).head, file);
}

std::optional<FileKind> written_kind(const fs::path& file) {
  return written_kind(ends_of(file));
}

void check_output(const Output& output) {
  const std::string name = output.file.string();
  struct stat there {};
  if (output.file.filename().empty())
    throw bad_input(say("\"{}\" is not a file name.", name), say("Name the file that is to be written."));
  if (::stat(output.file.c_str(), &there) != 0) {
    if (::lstat(output.file.c_str(), &there) == 0)
      throw bad_input(say("{} is a link that leads to nothing.", name),
                      say("Name another file, or take the link away."));
    return;
  }
  if (S_ISDIR(there.st_mode)) throw bad_input(say("{} is a folder.", name), say("Name a file."));
  if (!S_ISREG(there.st_mode)) throw bad_input(say("{} is not a regular file.", name), say("Name another."));
  if (output.kind == FileKind::Frame)
    throw bad_input(say("{} already exists.", name),
                    say("Name another file, or an empty folder for a card."));
  for (const fs::path& input : output.guard.inputs) {
    struct stat in {};
    if (::stat(input.c_str(), &in) == 0 && in.st_dev == there.st_dev && in.st_ino == there.st_ino)
      throw bad_input(say("{} is what this is made from; it cannot be written over.", name),
                      say("Name another file; it was not changed."));
  }
  const Ends ends = ends_of(output.file);
  if (is_photograph(ends.head, output.file))
    throw bad_input(say("{} is a photograph.", name), say("Name another file; it was not changed."));
  if ((there.st_mode & 0222) == 0)
    throw bad_input(say("{} may not be written to: it is read-only.", name),
                    say("Name another file; it was not changed."));
  if (there.st_size == 0 || output.guard.force) return;
  const auto kind = written_kind(ends);
  if (kind == output.kind) return;
  throw bad_input(say("{} already exists and is {}.", name,
                      kind ? say(kWords[static_cast<size_t>(*kind)]) : say("not a file Ask Count made")),
                  say("Name another file, or move that one away first; it was not changed."));
}

}  // namespace askcount
