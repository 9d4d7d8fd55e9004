// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/files.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cctype>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <fstream>

#include "base/error.h"
#include "base/language.h"
#include "base/passing.h"

namespace askcount {
namespace fs = std::filesystem;

namespace {

constexpr std::uintmax_t kLongestDocument = 256u << 20;  // no document of ours comes near it

}  // namespace

void require_plain_file(const fs::path& file) {
  std::error_code ec;
  const fs::file_status status = fs::status(file, ec);
  if (!fs::exists(status)) throw bad_input(say("{} does not exist.", file.string()), say("Check the name."));
  if (fs::is_directory(status)) throw bad_input(say("{} is a folder, not a file.", file.string()));
  if (!fs::is_regular_file(status))
    throw bad_input(say("{} is not a regular file.", file.string()),
                    say("Copy what it gives into a file first."));
}

std::string read_file(const fs::path& file) {
  require_plain_file(file);
  std::error_code ec;
  if (const std::uintmax_t size = fs::file_size(file, ec); !ec && size > kLongestDocument)
    throw bad_input(say("{} is far too large to be a document.", file.string()));
  std::ifstream in(file, std::ios::binary | std::ios::ate);
  if (!in) throw bad_input(say("{} cannot be opened: {}.", file.string(), std::strerror(errno)));
  std::string content(static_cast<size_t>(in.tellg()), '\0');
  in.seekg(0);
  if (!in.read(content.data(), static_cast<std::streamsize>(content.size())))
    throw bad_input(say("{} cannot be read: {}.", file.string(), std::strerror(errno)));
  return content;
}

namespace {

Error cannot_write(const fs::path& file, int why) {
  return failed(say("{} cannot be written: {}.", file.string(), std::strerror(why)),
                say("Nothing was changed; save it somewhere else or make room."));
}

/// What a file's name leads to in the end, links followed; the name itself where there is nothing yet.
fs::path led_to(const fs::path& file) {
  std::error_code ec;
  if (!fs::is_symlink(file, ec)) return file;
  fs::path real = fs::weakly_canonical(file, ec);
  return ec ? file : real;
}

/// Renames only where nothing has the name; false, and errno says why, where it cannot.
bool take_free_name(const fs::path& from, const fs::path& to) {
  // A hard link is refused where the name is taken. Cards know no links: there the rename itself is asked to.
  // Where only the old name cannot be taken away the file is in its place all the same.
  if (::link(from.c_str(), to.c_str()) == 0) return ::unlink(from.c_str()), true;
  const auto knows_none = [] { return errno == EPERM || errno == EOPNOTSUPP || errno == ENOSYS; };
  if (!knows_none()) return false;
  if (::renameat2(AT_FDCWD, from.c_str(), AT_FDCWD, to.c_str(), RENAME_NOREPLACE) == 0) return true;
  if (errno != EINVAL && !knows_none()) return false;
  // Some disks know neither: an empty file of ours takes the name, and is then replaced.
  const int fd = ::open(to.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0666);
  if (fd < 0) return false;
  ::close(fd);
  if (::rename(from.c_str(), to.c_str()) == 0) return true;
  const int why = errno;
  ::unlink(to.c_str());
  errno = why;
  return false;
}

fs::path folder_of(const fs::path& file) {
  return file.parent_path().empty() ? fs::path(".") : file.parent_path();
}

}  // namespace

TemporaryFile::TemporaryFile(const Output& output)
    : target_(led_to(output.file)), fresh_(output.kind == FileKind::Frame) {
  check_output(output);
  std::error_code ec;
  if (const fs::path folder = target_.parent_path(); !folder.empty() && !fs::is_directory(folder, ec))
    throw bad_input(
        say("There is no folder {} to write {} to.", folder.string(), target_.filename().string()),
        say("Make it first, or name another."));
  const fs::path folder = folder_of(target_);
  if (!fresh_) remove_passing_folders(folder);
  passing_ = std::make_unique<PassingFolder>(folder);
  if (!passing_->made()) throw cannot_write(target_, passing_->why());
  path_ = passing_->path() / target_.filename();
  const int fd = ::open(path_.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0666);
  if (fd < 0) throw cannot_write(target_, errno);
  if (struct stat there{}; ::stat(target_.c_str(), &there) == 0) ::fchmod(fd, there.st_mode & 07777);
  ::close(fd);
}

TemporaryFile::~TemporaryFile() = default;

void TemporaryFile::put_in_place(Flush flush) {
  if (flush == Flush::Yes && !sync_content(path_)) throw cannot_write(target_, errno);
  const bool placed = fresh_ ? take_free_name(path_, target_) : ::rename(path_.c_str(), target_.c_str()) == 0;
  if (!placed) throw cannot_write(target_, errno);
  if (flush == Flush::Yes) sync_names(folder_of(target_));
  passing_.reset();
}

bool write_all(int handle, std::string_view bytes) {
  while (!bytes.empty()) {
    const ssize_t n = ::write(handle, bytes.data(), bytes.size());
    if (n < 0 && errno == EINTR) continue;
    if (n == 0) errno = ENOSPC;
    if (n <= 0) return false;
    bytes.remove_prefix(static_cast<size_t>(n));
  }
  return true;
}

void TemporaryFile::fill(std::string_view content) {
  const int fd = ::open(path_.c_str(), O_WRONLY | O_TRUNC | O_CLOEXEC | O_NOFOLLOW);
  if (fd < 0) throw cannot_write(target_, errno);
  const bool written = write_all(fd, content);
  const int why = errno;
  const bool closed = ::close(fd) == 0;
  if (!written || !closed) throw cannot_write(target_, written ? errno : why);
}

void write_file_atomically(const Output& output, std::string_view content, Flush flush) {
  TemporaryFile part(output);
  part.fill(content);
  part.put_in_place(flush);
}

void fill_waiting_file(const Output& output, std::string_view content) {
  const int fd = ::open(output.file.c_str(), O_WRONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK);
  struct stat there {};
  if (fd < 0 || ::fstat(fd, &there) != 0 || !S_ISREG(there.st_mode) || there.st_size != 0) {
    if (fd >= 0) ::close(fd);
    return write_file_atomically(output, content);
  }
  bool filled = write_all(fd, content);
  int why = errno;
  if (!filled && ::ftruncate(fd, 0) != 0) why = errno;
  if (::close(fd) != 0 && filled) {
    filled = false;
    why = errno;
    if (::truncate(output.file.c_str(), 0) != 0) why = errno;
  }
  if (!filled) throw cannot_write(output.file, why);
}

TemporaryFolder::TemporaryFolder(const fs::path& target) {
  const fs::path folder = folder_of(target);
  remove_passing_folders(folder);
  passing_ = std::make_unique<PassingFolder>(folder);
  if (!passing_->made())
    throw bad_input(say("Nothing can be written to the folder {}.", folder.string()), say("Name another."));
}

void require_folder(const fs::path& folder) {
  std::error_code ec;
  if (!fs::exists(folder, ec))
    throw bad_input(say("The folder {} does not exist.", folder.string()), say("Check the name."));
  if (!fs::is_directory(folder, ec)) throw bad_input(say("{} is a file, not a folder.", folder.string()));
  fs::directory_iterator probe(folder, ec);
  if (ec) throw bad_input(say("The folder {} cannot be read: {}.", folder.string(), ec.message()));
}

bool natural_less(std::string_view a, std::string_view b) {
  size_t i = 0, j = 0;
  const auto digit = [](char c) { return std::isdigit(static_cast<unsigned char>(c)) != 0; };
  while (i < a.size() && j < b.size()) {
    if (digit(a[i]) && digit(b[j])) {
      size_t ie = i, je = j;
      while (ie < a.size() && digit(a[ie])) ++ie;
      while (je < b.size() && digit(b[je])) ++je;
      while (i + 1 < ie && a[i] == '0') ++i;
      while (j + 1 < je && b[j] == '0') ++j;
      if (ie - i != je - j) return ie - i < je - j;
      const int order = a.substr(i, ie - i).compare(b.substr(j, je - j));
      if (order != 0) return order < 0;
      i = ie;
      j = je;
    } else {
      if (a[i] != b[j]) return a[i] < b[j];
      ++i;
      ++j;
    }
  }
  return a.size() - i < b.size() - j;
}

}  // namespace askcount
