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

#include <atomic>
#include <cerrno>
#include <climits>
#include <cstdarg>
#include <cstdio>
#include <cstring>

namespace askcount::faults {
namespace {

/// What parent and child both see.
struct Shared {
  std::atomic<int> calls[kCalls.size()];
  std::atomic<int> happened, acknowledged;
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
}

const Counted& counted() {
  static Counted now;
  for (size_t i = 0; i < kCalls.size(); ++i) now.calls[i] = shared().calls[i];
  now.happened = shared().happened;
  now.acknowledged = shared().acknowledged;
  return now;
}

void acknowledge() {
  ++shared().acknowledged;
}

void reset() {
  for (auto& c : shared().calls) c = 0;
  shared().happened = 0;
  shared().acknowledged = 0;
}

}  // namespace askcount::faults

// What the libraries find in place of the system's own. Each does the same by the kernel's own call.
using askcount::faults::Call;
using namespace askcount::faults;  // NOLINT: this is all of it

namespace {

int opened(int folder, const char* path, int flags, mode_t mode) {
  const bool counts = (flags & O_CREAT) != 0 && below(path);
  if (counts) {
    struct stat there {};
    const bool fresh = ::fstatat(folder, path, &there, AT_SYMLINK_NOFOLLOW) != 0;
    if (fresh)
      if (const Now now = count(Call::Create); now != Now::Goes) return refuse(now);
  }
  return static_cast<int>(::syscall(SYS_openat, folder, path, flags, mode));
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
  return static_cast<int>(::syscall(call, fd));
}

/// Renaming, linking and taking names away.
template <typename Whole>
int renamed(const char* path, Whole&& whole) {
  if (below(path))
    if (const Now now = count(Call::Rename); now != Now::Goes) return refuse(now);
  return whole();
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
  return static_cast<int>(::syscall(SYS_mkdirat, AT_FDCWD, path, mode));
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
  return was_read(fd, [&] { return ::syscall(SYS_read, fd, bytes, length); });
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
  return renamed(to, [&] { return static_cast<int>(::syscall(SYS_rename, from, to)); });
}
int renameat2(int from_folder, const char* from, int to_folder, const char* to, unsigned flags) noexcept {
  return renamed(to, [&] {
    return static_cast<int>(::syscall(SYS_renameat2, from_folder, from, to_folder, to, flags));
  });
}
int link(const char* from, const char* to) noexcept {
  return renamed(to,
                 [&] { return static_cast<int>(::syscall(SYS_linkat, AT_FDCWD, from, AT_FDCWD, to, 0)); });
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
