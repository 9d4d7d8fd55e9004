// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/passing.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <random>
#include <string>
#include <string_view>

#include "base/files.h"

namespace askcount {
namespace fs = std::filesystem;
namespace {

constexpr std::string_view kStem = ".askcount-writing-";
constexpr const char* kMarkFile = ".askcount-writing";
constexpr std::string_view kWritingMark =
    "Ask Count is writing here. If it is not running, this folder can go.\n";
constexpr size_t kHowMany = 10;  // letters behind the stem
constexpr int kTries = 20;

/// Letters nobody else will think of.
std::string passing_letters() {
  static constexpr char kLetters[] = "abcdefghijklmnopqrstuvwxyz0123456789";
  std::random_device random;
  std::string text;
  for (size_t i = 0; i < kHowMany; ++i) text += kLetters[random() % (sizeof(kLetters) - 1)];
  return text;
}

/// Locks what was just made, so that nobody takes it for a dead program's. False where somebody had done so
/// before and removed it: errno says ENOENT. Where a disk knows no locks nobody removes it either.
bool hold(int fd) {
  ::flock(fd, LOCK_EX);
  struct stat there {};
  if (::fstat(fd, &there) != 0) return false;
  errno = ENOENT;
  return there.st_nlink > 0;
}

bool write_mark(const fs::path& folder) {
  const int fd =
      ::open((folder / kMarkFile).c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0666);
  if (fd < 0) return false;
  const bool written = write_all(fd, kWritingMark);
  const int why = errno;
  const bool closed = ::close(fd) == 0;
  if (!written) errno = why;
  return written && closed;
}

/// What stands in a passing folder.
enum class Inside {
  Nothing,  ///< it was killed before the mark, or after all else was gone
  Ours,     ///< our mark, or its beginning where the program died as it wrote it
  Theirs
};

Inside inside(const fs::path& folder) {
  std::error_code ec;
  if (fs::is_empty(folder, ec)) return Inside::Nothing;
  const int fd = ::open((folder / kMarkFile).c_str(), O_RDONLY | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC);
  if (fd < 0) return Inside::Theirs;
  struct stat there {};
  std::string mark(kWritingMark.size() + 1, '\0');
  const bool plain = ::fstat(fd, &there) == 0 && S_ISREG(there.st_mode);
  const ssize_t n = plain ? ::read(fd, mark.data(), mark.size()) : -1;
  ::close(fd);
  if (n < 0) return Inside::Theirs;
  mark.resize(static_cast<size_t>(n));
  const bool whole = mark == kWritingMark;
  const bool begun =
      kWritingMark.starts_with(mark) && std::distance(fs::directory_iterator(folder, ec), {}) == 1;
  return whole || begun ? Inside::Ours : Inside::Theirs;
}

/// The mark goes last: whoever is killed on the way leaves a folder that is known as ours.
void remove_marked(const fs::path& folder) {
  std::error_code ec;
  for (fs::directory_iterator it(folder, ec), end; !ec && it != end; it.increment(ec)) {
    std::error_code odd;
    if (it->path().filename() != kMarkFile) fs::remove_all(it->path(), odd);
  }
  if (std::distance(fs::directory_iterator(folder, ec), {}) == 1) fs::remove(folder / kMarkFile, ec);
  ::rmdir(folder.c_str());
}

/// Removes a passing folder that no program holds.
void remove_dead(const fs::path& folder) {
  const int fd = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC | O_NOFOLLOW);
  if (fd < 0) return;
  if (::flock(fd, LOCK_EX | LOCK_NB) == 0) {
    const Inside what = inside(folder);
    if (what == Inside::Ours) remove_marked(folder);
    if (what == Inside::Nothing) ::rmdir(folder.c_str());
  }
  ::close(fd);
}

}  // namespace

PassingFolder::PassingFolder(const fs::path& within) {
  for (int i = 0; i < kTries && held_ < 0; ++i) {
    path_ = within / (std::string(kStem) + passing_letters());
    if (::mkdir(path_.c_str(), 0700) != 0) {
      why_ = errno;
      if (errno != EEXIST) break;
      continue;
    }
    held_ = ::open(path_.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC | O_NOFOLLOW);
    if (held_ >= 0 && hold(held_) && write_mark(path_)) return;
    why_ = errno;
    if (held_ >= 0) ::close(held_);
    held_ = -1;
    std::error_code ec;
    fs::remove(path_ / kMarkFile, ec);
    ::rmdir(path_.c_str());
    if (why_ != ENOENT) break;  // somebody took it for a dead one between making and locking: another
  }
  path_.clear();
}

PassingFolder::~PassingFolder() {
  if (held_ < 0) return;
  remove_marked(path_);
  ::close(held_);
}

void remove_passing_folders(const fs::path& within) {
  std::error_code ec;
  for (fs::directory_iterator it(within, ec), end; !ec && it != end; it.increment(ec)) {
    const std::string name = it->path().filename().string();
    std::error_code odd;
    if (name.size() == kStem.size() + kHowMany && name.starts_with(kStem) &&
        fs::is_directory(it->symlink_status(odd)))
      remove_dead(it->path());
  }
}

void sync_names(const fs::path& folder) {
  const int fd = ::open(folder.empty() ? "." : folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  if (fd < 0) return;
  ::fsync(fd);
  ::close(fd);
}

std::error_code make_folders(const fs::path& folder) {
  std::error_code ec;
  const fs::path whole = fs::absolute(folder, ec).lexically_normal();
  fs::path there;  // as far as it is made
  for (const fs::path& part : whole) {
    const fs::path above = there;
    there /= part;
    if (part.empty() || fs::is_directory(there, ec)) continue;
    if (::mkdir(there.c_str(), 0777) == 0)
      sync_names(above);
    else if (!fs::is_directory(there, ec))  // and no other made it meanwhile
      return std::make_error_code(static_cast<std::errc>(errno));
  }
  return {};
}

bool sync_content(const fs::path& file) {
  const int fd = ::open(file.c_str(), O_RDONLY | O_CLOEXEC);
  if (fd < 0) return false;
  const bool synced = ::fsync(fd) == 0 || errno == EINVAL || errno == ENOTSUP;  // a disk that knows no sync
  const int why = errno;
  ::close(fd);
  errno = why;
  return synced;
}

}  // namespace askcount
