// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/big_blocks.h"

#include <algorithm>
#include <bit>
#include <deque>
#include <mutex>
#include <new>

namespace askcount::image {
namespace {

constexpr std::size_t kMostKept = std::size_t{32} << 20;

struct Kept {
  void* block;
  std::size_t bytes;
};

class Shelf {
 public:
  void* take(std::size_t bytes) {
    const std::lock_guard lock(mutex_);
    // The newest of its size: what was used last is nearest to the processor.
    const auto it =
        std::find_if(kept_.rbegin(), kept_.rend(), [&](const Kept& k) { return k.bytes == bytes; });
    if (it == kept_.rend()) return nullptr;
    void* block = it->block;
    all_ -= bytes;
    kept_.erase(std::next(it).base());
    return block;
  }
  void give(void* block, std::size_t bytes) {
    if (bytes > kMostKept) return ::operator delete(block);
    const std::lock_guard lock(mutex_);
    kept_.push_back({block, bytes});
    all_ += bytes;
    while (all_ > kMostKept) {
      ::operator delete(kept_.front().block);
      all_ -= kept_.front().bytes;
      kept_.pop_front();
    }
  }

 private:
  std::mutex mutex_;
  std::deque<Kept> kept_;
  std::size_t all_ = 0;
};

/// Never taken down: pictures that last as long as the program are given back after everything else.
Shelf& shelf() {
  static Shelf& one = *new Shelf;
  return one;
}

/// Rounded up to an eighth of its power of two, so that blocks of nearly one size fit each other.
std::size_t rounded(std::size_t bytes) {
  const std::size_t step = std::max<std::size_t>(1, std::bit_floor(bytes) / 8);
  return (bytes + step - 1) / step * step;
}

}  // namespace

void* take_big_block(std::size_t bytes) {
  void* kept = shelf().take(rounded(bytes));
  return kept ? kept : ::operator new(rounded(bytes));
}

void give_big_block(void* block, std::size_t bytes) noexcept {
  try {
    shelf().give(block, rounded(bytes));
  } catch (...) {  // no memory to remember it by
    ::operator delete(block);
  }
}

}  // namespace askcount::image
