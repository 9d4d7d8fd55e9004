// SPDX-License-Identifier: GPL-3.0-or-later
#include "journal/journal.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <nlohmann/json.hpp>
#include <sstream>
#include <utility>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount::journal {
namespace {

constexpr size_t kTimeLength = 17;  // of 2026-10-09-175000

}  // namespace

Journal::~Journal() {
  close();
}
Journal::Journal(Journal&& other) noexcept
    : handle_(std::exchange(other.handle_, -1)), file_(std::move(other.file_)), half_(other.half_) {}
Journal& Journal::operator=(Journal&& other) noexcept {
  if (this != &other) {
    close();
    handle_ = std::exchange(other.handle_, -1);
    file_ = std::move(other.file_);
    half_ = other.half_;
  }
  return *this;
}

void Journal::open(const std::filesystem::path& file) {
  close();
  file_ = file;
  half_ = false;
  const auto cannot = [&](int why) {
    close();
    return failed(say("The journal {} cannot be written: {}.", file.string(), std::strerror(why)),
                  say("Save the take where there is room and permission."));
  };
  handle_ = ::open(file.c_str(), O_RDWR | O_CREAT | O_APPEND | O_CLOEXEC | O_NONBLOCK | O_NOFOLLOW, 0644);
  if (handle_ < 0 && errno == ELOOP)
    throw bad_input(say("{} is a link; a journal must be a file of its own.", file.string()),
                    say("Move it away; what it leads to was not changed."));
  struct stat there {};
  if (handle_ < 0 || ::fstat(handle_, &there) != 0) throw cannot(errno);
  char first = '{', last = '\n';
  if (there.st_size > 0 &&
      (::pread(handle_, &first, 1, 0) != 1 || ::pread(handle_, &last, 1, there.st_size - 1) != 1))
    throw cannot(errno);
  if (!S_ISREG(there.st_mode) || first != '{') {
    close();
    throw bad_input(say("{} already exists and is not a journal.", file.string()),
                    say("Move it away; it was not changed."));
  }
  if (last != '\n' && ::write(handle_, "\n", 1) != 1) throw cannot(errno);
  if (there.st_size == 0) sync_names(file.parent_path());  // it may be new
}

void Journal::close() {
  if (handle_ >= 0) ::close(handle_);
  handle_ = -1;
}

void Journal::append(Json entry) {
  if (handle_ < 0) return;
  if (!entry.contains("at")) entry["at"] = now().time_since_epoch().count();
  // Behind half a line that could not be taken back the next begins anew.
  const std::string line =
      (half_ ? "\n" : "") + entry.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n";
  struct stat before {};
  const bool known = ::fstat(handle_, &before) == 0;
  // One write a line: a line is there whole or, after a crash, a half one at the very end.
  const bool whole = write_all(handle_, line);
  if (whole) half_ = false;
  if (whole && ::fdatasync(handle_) == 0) return;
  const int why = errno;
  // What did not fit goes again, so that the next line stands by itself.
  if (!whole && !(known && ::ftruncate(handle_, before.st_size) == 0)) half_ = true;
  throw failed(say("The journal {} cannot be written: {}.", file_.string(), std::strerror(why)),
               say("Is there room?"));
}

std::vector<Json> read_journal(const std::filesystem::path& file) {
  std::vector<Json> list;
  std::error_code ec;
  if (!std::filesystem::exists(file, ec)) return list;
  std::istringstream in(read_file(file));
  for (std::string line; std::getline(in, line);) {
    try {
      Json json = parse_json(line, file.string());
      if (json.is_object() && json.contains("what")) list.push_back(std::move(json));
    } catch (const Error&) {
      // Half a line: the power went.
    }
  }
  return list;
}

namespace {

std::filesystem::path first_journal(const std::filesystem::path& take_file) {
  std::filesystem::path file = take_file;
  return file.replace_extension(".journal");
}

}  // namespace

std::vector<std::filesystem::path> journals_of(const std::filesystem::path& take_file) {
  const std::filesystem::path first = first_journal(take_file);
  const std::string stem = first.stem().string() + ".";
  const std::filesystem::path folder = first.parent_path().empty() ? "." : first.parent_path();
  std::vector<std::filesystem::path> later;
  std::error_code ec;
  for (const auto& entry : std::filesystem::directory_iterator(folder, ec)) {
    const std::string name = entry.path().filename().string();
    const bool of_this = name.starts_with(stem) && name.ends_with(".journal") &&
                         name.size() >= stem.size() + kTimeLength + std::string_view(".journal").size() &&
                         name.find_first_not_of("0123456789-", stem.size()) == name.rfind(".journal");
    if (of_this) later.push_back(first.parent_path() / name);
  }
  std::sort(later.begin(), later.end(),
            [](const auto& a, const auto& b) { return natural_less(a.stem().string(), b.stem().string()); });
  if (std::filesystem::exists(first, ec)) later.insert(later.begin(), first);
  return later;
}

std::filesystem::path newest_journal(const std::filesystem::path& take_file) {
  const std::vector<std::filesystem::path> all = journals_of(take_file);
  return all.empty() ? first_journal(take_file) : all.back();
}

std::filesystem::path new_journal(const std::filesystem::path& take_file, Instant start) {
  std::filesystem::path first = first_journal(take_file);
  std::error_code ec;
  if (!std::filesystem::exists(std::filesystem::symlink_status(first, ec))) return first;
  std::string time = format_iso(start, "UTC").substr(0, 19);  // 2026-10-09T17:50:00
  std::replace(time.begin(), time.end(), 'T', '-');
  std::erase(time, ':');
  for (int n = 1;; ++n) {
    std::filesystem::path file = first.parent_path() / (first.stem().string() + "." + time +
                                                        (n > 1 ? "-" + std::to_string(n) : "") + ".journal");
    if (!std::filesystem::exists(std::filesystem::symlink_status(file, ec))) return file;
  }
}

}  // namespace askcount::journal
