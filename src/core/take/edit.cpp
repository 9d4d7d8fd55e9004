// SPDX-License-Identifier: GPL-3.0-or-later
#include "take/edit.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <chrono>
#include <thread>

#include "base/error.h"
#include "base/language.h"

namespace askcount::take {
namespace {

constexpr auto kLongest = std::chrono::seconds(30);
constexpr auto kBetween = std::chrono::milliseconds(10);

/// Whether an open file is still the one of that name: a program that saves puts another in its place.
bool still_named(int handle, const std::filesystem::path& file) {
  struct stat held {
  }, named{};
  return ::fstat(handle, &held) == 0 && ::stat(file.c_str(), &named) == 0 && held.st_dev == named.st_dev &&
         held.st_ino == named.st_ino;
}

}  // namespace

Hold::Hold(const std::filesystem::path& file) {
  const auto until = std::chrono::steady_clock::now() + kLongest;
  for (;;) {
    handle_ = ::open(file.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC);
    if (handle_ < 0) return;
    if (::flock(handle_, LOCK_EX | LOCK_NB) == 0) {
      if (still_named(handle_, file)) return;
    } else if (errno != EWOULDBLOCK) {
      return;  // a disk without locks
    }
    ::close(handle_);
    handle_ = -1;
    if (std::chrono::steady_clock::now() > until)
      throw failed(say("{} is being changed by another program.", file.string()),
                   say("Try again when that is done; it was not changed."));
    std::this_thread::sleep_for(kBetween);
  }
}

Hold::~Hold() {
  if (handle_ >= 0) ::close(handle_);
}

Edited::Edited(std::filesystem::path file) : file_(std::move(file)), hold_(file_) {
  take = load_take(file_);
}

void Edited::save(const Guard& guard) const {
  save_take(take, file_, guard);
}

}  // namespace askcount::take
