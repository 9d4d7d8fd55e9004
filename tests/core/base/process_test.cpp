// SPDX-License-Identifier: GPL-3.0-or-later
// What the programs set up first: large buffers go back, and a full disk is an error.
#include "base/process.h"

#include <malloc.h>
#include <sys/resource.h>
#include <unistd.h>

#include <thread>

#include <memory>
#include <vector>

#include "base/files.h"
#include "support.h"

namespace askcount {
namespace {

constexpr size_t kMebibyte = size_t{1} << 20;

TEST(Process, LargeBuffersGoBackEvenAfterLargerOnes) {
#ifdef __SANITIZE_ADDRESS__
  GTEST_SKIP() << "the sanitizer has an allocator of its own";
#endif
  give_back_large_buffers();
  const auto held = [] { return mallinfo2().hblkhd; };  // bytes asked of the system one buffer at a time
  // Larger than anything other tests may have left free, and never touched: no memory is used.
  void* volatile seen = nullptr;  // so that no compiler leaves them out
  const auto buffer = [&seen](size_t size) {
    std::unique_ptr<char[]> bytes(new char[size]);
    seen = bytes.get();
    return bytes;
  };
  buffer(1024 * kMebibyte).reset();  // would raise the size from which that is done
  const size_t before = held();
  {
    const auto picture = buffer(512 * kMebibyte);
    EXPECT_GE(held(), before + 512 * kMebibyte);
  }
  EXPECT_EQ(held(), before);
}

/// The disk ends in the middle of a film: an error, and nothing half-written.
TEST(Process, AFileThatMayGrowNoMoreIsAnError) {
  const test::Folder folder;
  const std::string before = "{\"whole\": true}";
  write_file_atomically({folder / "a.json", FileKind::Record}, before);
  fail_writes_instead_of_dying();
  rlimit kept{};
  getrlimit(RLIMIT_FSIZE, &kept);
  const rlimit small{10000, kept.rlim_max};
  setrlimit(RLIMIT_FSIZE, &small);
  Error e(Error::Kind::Cancelled, "");
  try {
    write_file_atomically({folder / "a.json", FileKind::Record}, std::string(50000, 'x'));
  } catch (const Error& thrown) {
    e = thrown;
  }
  setrlimit(RLIMIT_FSIZE, &kept);
  EXPECT_EQ(e.kind(), Error::Kind::Failed);
  EXPECT_NE(std::string(e.what()).find("a.json"), std::string::npos) << e.what();
  EXPECT_EQ(read_file(folder / "a.json"), before);
  EXPECT_EQ(folder.names(), std::vector<std::string>{"a.json"});
}

TEST(Process, BackgroundThreadsGiveWayAndTheOthersDoNot) {
  const auto niceness = [] { return getpriority(PRIO_PROCESS, static_cast<id_t>(gettid())); };
  const int before = niceness();
  int of_thread = -1, of_its_own = -1;
  std::jthread([&] {
    stand_back();
    of_thread = niceness();
    std::jthread([&] { of_its_own = niceness(); });
  }).join();
  EXPECT_EQ(of_thread, std::max(before, 10));
  EXPECT_EQ(of_its_own, of_thread) << "what it begins gives way too";
  EXPECT_EQ(niceness(), before) << "nobody else does";
}

}  // namespace
}  // namespace askcount
