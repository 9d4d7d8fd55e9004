// SPDX-License-Identifier: GPL-3.0-or-later
#include "injector.h"

#include <dlfcn.h>
#include <fcntl.h>
#include <signal.h>
#include <sys/mman.h>
#include <sys/sendfile.h>
#include <sys/stat.h>
#include <sys/syscall.h>
#include <sys/uio.h>
#include <unistd.h>

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <climits>
#include <cstdarg>
#include <cstdio>
#include <cstring>
#include <map>
#include <mutex>
#include <set>

namespace askcount::faults {
namespace {

/// What parent and child both see.
struct Shared {
  std::atomic<int> calls[kCalls.size()];
  std::atomic<int> happened, acknowledged, unsynced;
  char unsynced_first[PATH_MAX];
};

Shared& shared() {
  static auto* const there = static_cast<Shared*>(
      ::mmap(nullptr, sizeof(Shared), PROT_READ | PROT_WRITE, MAP_SHARED | MAP_ANONYMOUS, -1, 0));
  return *there;
}

char watched[PATH_MAX] = "";
size_t watched_length = 0;
bool fault_set = false;
Fault fault;
std::atomic<bool> full = false;        // no room from here on
std::atomic<bool> breaks_off = false;  // half was written: the next write fails

Disk disk;
std::atomic<int> reads_since = 0;

/// What is on the disk for good: content by inode as it was when it was synced last, folders with names that
/// were not.
struct Shadow {
  std::mutex mutex;
  std::map<ino_t, std::pair<off_t, long long>> content;
  std::set<std::string> names;
};
Shadow& shadow() {
  static auto* const there = new Shadow;  // outlives whatever writes last
  return *there;
}

std::pair<off_t, long long> state_of(const struct stat& there) {
  return {there.st_size, there.st_mtim.tv_sec * 1000000000LL + there.st_mtim.tv_nsec};
}

bool is_hidden(const std::string& path) {
  return path.find("/.", watched_length - 1) != std::string::npos;
}

void would_be_lost(const std::string& what) {
  if (shared().unsynced++ == 0) std::snprintf(shared().unsynced_first, PATH_MAX, "%s", what.c_str());
}

std::string path_of(int fd) {
  char link[64], path[PATH_MAX];
  std::snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
  const ssize_t n = ::syscall(SYS_readlinkat, AT_FDCWD, link, path, sizeof path - 1);
  return {path, static_cast<size_t>(std::max<ssize_t>(n, 0))};
}

/// A file or folder was synced.
void note_synced(int fd) {
  struct stat there {};
  if (::fstat(fd, &there) != 0) return;
  const std::string path = path_of(fd);
  const std::lock_guard lock(shadow().mutex);
  if (S_ISDIR(there.st_mode))
    shadow().names.erase(path);
  else
    shadow().content[there.st_ino] = state_of(there);
}

/// A visible name was made, or taken by what had another.
void note_named(const char* name, bool renamed) {
  const std::string path = std::filesystem::absolute(name).string();
  if (!path.starts_with(watched) || is_hidden(path) || path.ends_with("-journal")) return;
  struct stat there {};
  if (::lstat(path.c_str(), &there) != 0) return;
  const std::lock_guard lock(shadow().mutex);
  shadow().names.insert(std::filesystem::path(path).parent_path().string());
  const auto synced = shadow().content.find(there.st_ino);
  if (renamed && S_ISREG(there.st_mode) &&
      (synced == shadow().content.end() || synced->second != state_of(there)))
    would_be_lost(path + ", as it took its name");
}

[[noreturn]] void die() {
  ::kill(::getpid(), SIGKILL);
  for (;;) ::pause();
}

bool below(const char* path) {
  if (watched_length == 0 || path == nullptr) return false;
  if (path[0] == '/') return std::strncmp(path, watched, watched_length) == 0;
  char here[PATH_MAX];
  return ::getcwd(here, sizeof here) != nullptr && std::strncmp(here, watched, watched_length) == 0;
}

bool below(int fd) {
  if (watched_length == 0 || fd < 0) return false;
  char link[64], path[PATH_MAX];
  std::snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
  const ssize_t n = ::syscall(SYS_readlinkat, AT_FDCWD, link, path, sizeof path - 1);
  if (n <= 0) return false;
  path[n] = '\0';
  return std::strncmp(path, watched, watched_length) == 0;
}

/// Whether the descriptor is open for writing.
bool writes(int fd) {
  const int flags = ::fcntl(fd, F_GETFL);
  return flags >= 0 && (flags & O_ACCMODE) != O_RDONLY;
}

enum class Now { Goes, Half, NoRoom, Error };

/// Counts a call, and says what becomes of it.
Now count(Call call) {
  const int number = shared().calls[static_cast<size_t>(call)]++;
  if (full && can_fail(call, Way::NoRoom)) return Now::NoRoom;
  if (call == Call::Write && breaks_off.exchange(false)) return Now::Error;
  if (!fault_set || fault.call != call || fault.number != number) return Now::Goes;
  shared().happened = 1;
  if (fault.way == Way::Error && call == Call::Write) breaks_off = true;
  if (fault.way == Way::Error) return call == Call::Write ? Now::Half : Now::Error;
  if (fault.way == Way::NoRoom) full = true;
  if (call == Call::Write) return Now::Half;
  if (fault.way == Way::Death) die();
  return Now::NoRoom;
}

int refuse(Now now) {
  errno = now == Now::Error ? EIO : ENOSPC;
  return -1;
}

/// After half of a write: the program dies, or is told how much went.
ssize_t after_half(ssize_t written) {
  if (fault.way == Way::Death) die();
  if (written > 0) return written;
  breaks_off = false;
  errno = fault.way == Way::NoRoom ? ENOSPC : EIO;
  return -1;
}

}  // namespace

const char* word(Call call) {
  static constexpr const char* words[] = {"create", "write", "sync", "rename", "read", "close"};
  return words[static_cast<size_t>(call)];
}

const char* word(Way way) {
  static constexpr const char* words[] = {"no room", "error", "death"};
  return words[static_cast<size_t>(way)];
}

bool can_fail(Call call, Way way) {
  return way != Way::NoRoom || call == Call::Create || call == Call::Write || call == Call::Sync;
}

void watch(const std::filesystem::path& folder, const Fault* what) {
  const std::string path = folder.string() + "/";
  std::strncpy(watched, path.c_str(), sizeof watched - 1);
  watched_length = path.size();
  fault_set = what != nullptr;
  if (what) fault = *what;
  full = false;
  breaks_off = false;
  disk = {};
  const std::lock_guard lock(shadow().mutex);
  shadow().content.clear();
  shadow().names.clear();
  if (folder.empty()) return;
  for (const auto& e : std::filesystem::recursive_directory_iterator(folder))
    if (struct stat there{}; ::lstat(e.path().c_str(), &there) == 0)
      shadow().content[there.st_ino] = state_of(there);
}

void make_disk(const Disk& wanted) {
  disk = wanted;
  reads_since = 0;
}

void settle() {
  const std::string folder(watched, watched_length > 0 ? watched_length - 1 : 0);
  const std::lock_guard lock(shadow().mutex);
  for (const std::string& names : shadow().names) would_be_lost("the names in " + names);
  for (const auto& e : std::filesystem::recursive_directory_iterator(folder)) {
    struct stat there {};
    const std::string path = e.path().string();
    if (is_hidden(path) || path.ends_with("-journal") || ::lstat(path.c_str(), &there) != 0 ||
        !S_ISREG(there.st_mode))
      continue;
    const auto synced = shadow().content.find(there.st_ino);
    if (synced == shadow().content.end() || synced->second != state_of(there)) would_be_lost(path);
  }
}

const Counted& counted() {
  static Counted now;
  for (size_t i = 0; i < kCalls.size(); ++i) now.calls[i] = shared().calls[i];
  now.happened = shared().happened;
  now.acknowledged = shared().acknowledged;
  now.unsynced = shared().unsynced;
  now.unsynced_first = shared().unsynced_first;
  return now;
}

void acknowledge() {
  ++shared().acknowledged;
}

void reset() {
  for (auto& c : shared().calls) c = 0;
  shared().happened = 0;
  shared().acknowledged = 0;
  shared().unsynced = 0;
  shared().unsynced_first[0] = '\0';
}

}  // namespace askcount::faults

// What the libraries find in place of the system's own. Each does the same by the kernel's own call.
using askcount::faults::Call;
using namespace askcount::faults;  // NOLINT: this is all of it

namespace {

int opened(int folder, const char* path, int flags, mode_t mode) {
  const bool counts = (flags & O_CREAT) != 0 && below(path);
  bool fresh = false;
  if (counts) {
    struct stat there {};
    fresh = ::fstatat(folder, path, &there, AT_SYMLINK_NOFOLLOW) != 0;
    if (fresh)
      if (const Now now = count(Call::Create); now != Now::Goes) return refuse(now);
  }
  const int fd = static_cast<int>(::syscall(SYS_openat, folder, path, flags, mode));
  if (fresh && fd >= 0) note_named(path, false);
  return fd;
}

/// What a disk that errs now and then gave.
ssize_t as_read(int fd, void* bytes, ssize_t n) {
  if (disk.flips_every > 0 && n > 0 && below(fd) && ++reads_since % disk.flips_every == 0)
    static_cast<unsigned char*>(bytes)[n / 2] ^= 1;
  return n;
}

template <typename Whole>
ssize_t written(int fd, size_t length, Whole&& whole) {
  if (!below(fd)) return whole(length);
  switch (const Now now = count(Call::Write)) {
    case Now::Goes:
      return whole(length);
    case Now::Half:
      return after_half(length < 2 ? 0 : whole(length / 2));
    default:
      return refuse(now);
  }
}

template <typename Whole>
ssize_t was_read(int fd, Whole&& whole) {
  if (below(fd))
    if (const Now now = count(Call::Read); now != Now::Goes) return refuse(now);
  return whole();
}

int synced(int fd, long call) {
  if (below(fd))
    if (const Now now = count(Call::Sync); now != Now::Goes) return refuse(now);
  const int result = static_cast<int>(::syscall(call, fd));
  if (result == 0 && watched_length > 0 && (path_of(fd) + "/").starts_with(watched)) note_synced(fd);
  return result;
}

/// Renaming, linking and taking names away.
template <typename Whole>
int renamed(const char* path, Whole&& whole) {
  if (below(path))
    if (const Now now = count(Call::Rename); now != Now::Goes) return refuse(now);
  return whole();
}

/// The same of a name that is taken.
template <typename Whole>
int named(const char* path, Whole&& whole) {
  const int result = renamed(path, whole);
  if (result == 0 && below(path)) {
    const int kept = errno;
    note_named(path, true);
    errno = kept;
  }
  return result;
}

int refused(int why) {
  errno = why;
  return -1;
}

}  // namespace

extern "C" {

int open(const char* path, int flags, ...) {
  va_list more;
  va_start(more, flags);
  const mode_t mode = (flags & (O_CREAT | O_TMPFILE)) != 0 ? va_arg(more, mode_t) : 0;
  va_end(more);
  return opened(AT_FDCWD, path, flags, mode);
}
int open64(const char* path, int flags, ...) {
  va_list more;
  va_start(more, flags);
  const mode_t mode = (flags & (O_CREAT | O_TMPFILE)) != 0 ? va_arg(more, mode_t) : 0;
  va_end(more);
  return opened(AT_FDCWD, path, flags, mode);
}
int openat(int folder, const char* path, int flags, ...) {
  va_list more;
  va_start(more, flags);
  const mode_t mode = (flags & (O_CREAT | O_TMPFILE)) != 0 ? va_arg(more, mode_t) : 0;
  va_end(more);
  return opened(folder, path, flags, mode);
}
int openat64(int folder, const char* path, int flags, ...) {
  va_list more;
  va_start(more, flags);
  const mode_t mode = (flags & (O_CREAT | O_TMPFILE)) != 0 ? va_arg(more, mode_t) : 0;
  va_end(more);
  return opened(folder, path, flags, mode);
}
int creat(const char* path, mode_t mode) {
  return opened(AT_FDCWD, path, O_CREAT | O_WRONLY | O_TRUNC, mode);
}
int mkdir(const char* path, mode_t mode) noexcept {
  if (below(path))
    if (const Now now = count(Call::Create); now != Now::Goes) return refuse(now);
  const int result = static_cast<int>(::syscall(SYS_mkdirat, AT_FDCWD, path, mode));
  if (result == 0 && below(path)) note_named(path, false);
  return result;
}

// As programs call them that were built with checks of their buffers.
int __open_2(const char* path, int flags) {
  return opened(AT_FDCWD, path, flags, 0);
}
int __open64_2(const char* path, int flags) {
  return opened(AT_FDCWD, path, flags, 0);
}
ssize_t __read_chk(int fd, void* bytes, size_t length, size_t) {
  return ::read(fd, bytes, length);
}
ssize_t __pread_chk(int fd, void* bytes, size_t length, off_t at, size_t) {
  return ::pread(fd, bytes, length, at);
}
ssize_t __pread64_chk(int fd, void* bytes, size_t length, off64_t at, size_t) {
  return ::pread64(fd, bytes, length, at);
}

ssize_t write(int fd, const void* bytes, size_t length) {
  return written(fd, length, [&](size_t n) { return ::syscall(SYS_write, fd, bytes, n); });
}
ssize_t pwrite(int fd, const void* bytes, size_t length, off_t at) {
  return written(fd, length, [&](size_t n) { return ::syscall(SYS_pwrite64, fd, bytes, n, at); });
}
ssize_t pwrite64(int fd, const void* bytes, size_t length, off64_t at) {
  return written(fd, length, [&](size_t n) { return ::syscall(SYS_pwrite64, fd, bytes, n, at); });
}
ssize_t writev(int fd, const struct iovec* parts, int count_of) {
  size_t length = 0;
  for (int i = 0; i < count_of; ++i) length += parts[i].iov_len;
  return written(fd, length, [&](size_t n) -> ssize_t {
    if (n == length) return ::syscall(SYS_writev, fd, parts, count_of);
    return ::syscall(SYS_write, fd, parts[0].iov_base, std::min(n, parts[0].iov_len));
  });
}
ssize_t sendfile(int to, int from, off_t* at, size_t length) noexcept {
  return written(to, length, [&](size_t n) { return ::syscall(SYS_sendfile, to, from, at, n); });
}
ssize_t sendfile64(int to, int from, off64_t* at, size_t length) noexcept {
  return written(to, length, [&](size_t n) { return ::syscall(SYS_sendfile, to, from, at, n); });
}
ssize_t copy_file_range(int from, off64_t* from_at, int to, off64_t* to_at, size_t length, unsigned flags) {
  return written(to, length, [&](size_t n) {
    return ::syscall(SYS_copy_file_range, from, from_at, to, to_at, n, flags);
  });
}
int ftruncate(int fd, off_t length) noexcept {
  if (below(fd))
    if (const Now now = count(Call::Rename); now != Now::Goes) return refuse(now);
  return static_cast<int>(::syscall(SYS_ftruncate, fd, length));
}
int ftruncate64(int fd, off64_t length) noexcept {
  return ::ftruncate(fd, length);
}

ssize_t read(int fd, void* bytes, size_t length) {
  return as_read(fd, bytes, was_read(fd, [&] { return ::syscall(SYS_read, fd, bytes, length); }));
}
ssize_t pread(int fd, void* bytes, size_t length, off_t at) {
  return was_read(fd, [&] { return ::syscall(SYS_pread64, fd, bytes, length, at); });
}
ssize_t pread64(int fd, void* bytes, size_t length, off64_t at) {
  return was_read(fd, [&] { return ::syscall(SYS_pread64, fd, bytes, length, at); });
}

// The streams of C write and read by calls inside the library, which are not to be caught.
size_t fwrite(const void* bytes, size_t size, size_t n, FILE* file) {
  static const auto real = reinterpret_cast<decltype(&::fwrite)>(::dlsym(RTLD_NEXT, "fwrite"));
  const ssize_t went = written(::fileno(file), size * n, [&](size_t length) -> ssize_t {
    return static_cast<ssize_t>(length == size * n ? size * real(bytes, size, n, file)
                                                   : real(bytes, 1, length, file));
  });
  return went < 0 || size == 0 ? 0 : static_cast<size_t>(went) / size;
}
size_t fread(void* bytes, size_t size, size_t n, FILE* file) {
  static const auto real = reinterpret_cast<decltype(&::fread)>(::dlsym(RTLD_NEXT, "fread"));
  if (below(::fileno(file)) && count(Call::Read) != Now::Goes) return 0;
  return real(bytes, size, n, file);
}
int fclose(FILE* file) {
  static const auto real = reinterpret_cast<decltype(&::fclose)>(::dlsym(RTLD_NEXT, "fclose"));
  const int fd = ::fileno(file);
  const bool fails = below(fd) && writes(fd) && count(Call::Close) != Now::Goes;
  const int result = real(file);
  if (fails) errno = EIO;
  return fails ? EOF : result;
}

int fsync(int fd) {
  return synced(fd, SYS_fsync);
}
int fdatasync(int fd) {
  return synced(fd, SYS_fdatasync);
}

int rename(const char* from, const char* to) noexcept {
  return named(to, [&] { return static_cast<int>(::syscall(SYS_rename, from, to)); });
}
int renameat2(int from_folder, const char* from, int to_folder, const char* to, unsigned flags) noexcept {
  if (!disk.knows_links && flags != 0 && below(to)) return refused(EINVAL);
  return named(to, [&] {
    return static_cast<int>(::syscall(SYS_renameat2, from_folder, from, to_folder, to, flags));
  });
}
int link(const char* from, const char* to) noexcept {
  if (!disk.knows_links && below(to)) return refused(EPERM);
  return named(to, [&] { return static_cast<int>(::syscall(SYS_linkat, AT_FDCWD, from, AT_FDCWD, to, 0)); });
}
int unlink(const char* path) noexcept {
  return renamed(path, [&] { return static_cast<int>(::syscall(SYS_unlinkat, AT_FDCWD, path, 0)); });
}

int close(int fd) {
  const bool fails = below(fd) && writes(fd) && count(Call::Close) != Now::Goes;
  const int result = static_cast<int>(::syscall(SYS_close, fd));  // it is closed all the same
  return fails ? refuse(Now::Error) : result;
}

}  // extern "C"
