// Large buffers go back to the system when they are let go of.
#include "base/memory.h"

#include <gtest/gtest.h>
#include <malloc.h>

#include <memory>
#include <vector>

namespace askcount {
namespace {

constexpr size_t kMebibyte = size_t{1} << 20;

TEST(Memory, LargeBuffersGoBackEvenAfterLargerOnes) {
  give_back_large_buffers();
  const auto held = [] { return mallinfo2().hblkhd; };  // bytes asked of the system one buffer at a time
  { const std::vector<char> larger(24 * kMebibyte); }   // would raise the size from which that is done
  const size_t before = held();
  {
    const std::vector<char> picture(10 * kMebibyte);
    EXPECT_GE(held(), before + picture.size());
  }
  EXPECT_EQ(held(), before);
}

}  // namespace
}  // namespace askcount
