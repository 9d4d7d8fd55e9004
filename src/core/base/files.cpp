// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/files.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cctype>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <fstream>
#include <random>

#include "base/error.h"
#include "base/language.h"

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

constexpr size_t kLongestStem = 200;  // bytes of a name, so that the letters still fit
constexpr size_t kHowMany = 10;       // letters behind it

/// What a passing name begins with. Hidden, so that nobody takes it for a film or a take.
std::string passing_stem(const std::string& target) {
  return "." + target.substr(0, kLongestStem) + ".";
}

/// Letters nobody else will think of.
std::string passing_letters() {
  static constexpr char kLetters[] = "abcdefghijklmnopqrstuvwxyz0123456789";
  std::random_device random;
  std::string text;
  for (size_t i = 0; i < kHowMany; ++i) text += kLetters[random() % (sizeof(kLetters) - 1)];
  return text;
}

/// Renames only where nothing has the name; false, and errno says why, where it cannot.
bool take_free_name(const fs::path& from, const fs::path& to) {
  // A hard link is refused where the name is taken. Cards know no links: there the rename itself is asked to.
  // Where only the old name cannot be taken away the file is in its place all the same.
  if (::link(from.c_str(), to.c_str()) == 0) return ::unlink(from.c_str()), true;
  const bool no_links = errno == EPERM || errno == EOPNOTSUPP;
  return no_links && ::renameat2(AT_FDCWD, from.c_str(), AT_FDCWD, to.c_str(), RENAME_NOREPLACE) == 0;
}

/// Brings to the disk which names a folder has, so that a file keeps its new one when the power goes. Not all
/// disks can; the file has its name either way.
void flush_names_of(const fs::path& folder) {
  const int fd = ::open(folder.empty() ? "." : folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  if (fd < 0) return;
  ::fsync(fd);
  ::close(fd);
}

fs::path folder_of(const fs::path& file) {
  return file.parent_path().empty() ? fs::path(".") : file.parent_path();
}

/// Locks what was just made, so that nobody takes it for a dead program's. False where somebody had done so
/// before and removed it. Where a disk knows no locks nobody removes it either.
bool hold(int fd) {
  ::flock(fd, LOCK_EX);
  struct stat there {};
  return ::fstat(fd, &there) == 0 && there.st_nlink > 0;
}

/// Removes a passing file or folder that no program holds.
void remove_dead(const fs::path& path) {
  const int fd = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK);
  if (fd < 0) return;
  std::error_code ec;
  if (::flock(fd, LOCK_EX | LOCK_NB) == 0) fs::remove_all(path, ec);
  ::close(fd);
}

constexpr int kTries = 20;

}  // namespace

TemporaryFile::TemporaryFile(const Output& output)
    : target_(led_to(output.file)), fresh_(output.kind == FileKind::Frame) {
  check_output(output);
  std::error_code ec;
  if (const fs::path folder = target_.parent_path(); !folder.empty() && !fs::is_directory(folder, ec))
    throw bad_input(
        say("There is no folder {} to write {} to.", folder.string(), target_.filename().string()),
        say("Make it first, or name another."));
  if (!fresh_) remove_passing_files(folder_of(target_), {target_.filename().string()});
  const std::string stem = passing_stem(target_.filename().string());
  int fd = -1;
  for (int i = 0; i < kTries && fd < 0; ++i) {
    path_ = target_.parent_path() / (stem + passing_letters());
    fd = ::open(path_.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0666);
    if (fd < 0 && errno != EEXIST) break;
    if (fd >= 0 && !hold(fd)) {
      ::close(fd);
      fd = -1;
    }
  }
  if (fd < 0) {
    const int why = errno;
    path_.clear();
    throw cannot_write(target_, why);
  }
  if (struct stat there{}; ::stat(target_.c_str(), &there) == 0) ::fchmod(fd, there.st_mode & 07777);
  held_ = fd;
}

TemporaryFile::~TemporaryFile() {
  std::error_code ec;
  if (!path_.empty()) fs::remove(path_, ec);
  if (held_ >= 0) ::close(held_);
}

void TemporaryFile::put_in_place() {
  const bool placed = fresh_ ? take_free_name(path_, target_) : ::rename(path_.c_str(), target_.c_str()) == 0;
  if (!placed) throw cannot_write(target_, errno);
  path_.clear();
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

void TemporaryFile::fill(std::string_view content, Flush flush) {
  const int fd = ::open(path_.c_str(), O_WRONLY | O_TRUNC | O_CLOEXEC | O_NOFOLLOW);
  if (fd < 0) throw cannot_write(target_, errno);
  if (!write_all(fd, content)) {
    const int why = errno;
    ::close(fd);
    throw cannot_write(target_, why);
  }
  const bool flushed = flush == Flush::No || ::fsync(fd) == 0;
  const int why = errno;
  if (::close(fd) != 0 || !flushed) throw cannot_write(target_, why);
}

void write_file_atomically(const Output& output, std::string_view content, Flush flush) {
  TemporaryFile part(output);
  part.fill(content, flush);
  const fs::path folder = part.target().parent_path();
  part.put_in_place();
  if (flush == Flush::Yes) flush_names_of(folder);
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
  remove_passing_files(folder, {target.filename().string()});
  for (int i = 0; i < kTries && held_ < 0; ++i) {
    path_ = folder / (passing_stem(target.filename().string()) + passing_letters());
    if (::mkdir(path_.c_str(), 0700) != 0) {
      if (errno != EEXIST) break;
      continue;
    }
    held_ = ::open(path_.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC | O_NOFOLLOW);
    if (held_ >= 0 && !hold(held_)) {
      ::close(held_);
      held_ = -1;
    }
  }
  if (held_ < 0)
    throw bad_input(say("Nothing can be written to the folder {}.", folder.string()), say("Name another."));
}

TemporaryFolder::~TemporaryFolder() {
  std::error_code ec;
  fs::remove_all(path_, ec);
  ::close(held_);
}

void remove_passing_files(const fs::path& folder, const std::set<std::string>& targets) {
  std::set<std::string> stems;
  for (const std::string& target : targets) stems.insert(passing_stem(target));
  std::error_code ec;
  for (fs::directory_iterator it(folder, ec), end; !ec && it != end; it.increment(ec)) {
    const std::string name = it->path().filename().string();
    std::error_code odd;
    const fs::file_status what = it->symlink_status(odd);
    if (name.size() > kHowMany && stems.contains(name.substr(0, name.size() - kHowMany)) &&
        (fs::is_regular_file(what) || fs::is_directory(what)))
      remove_dead(it->path());
  }
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
