// SPDX-License-Identifier: GPL-3.0-or-later
// Everything that reads what comes from elsewhere, fed with spoiled inputs: it reads them or refuses them in
// words. A few thousand inputs of a fixed seed in the ordinary tests; with ASKCOUNT_FUZZ_SECONDS as many as
// go into that time, each time others (the preset "fuzz" does that, with the sanitizers).
#include <fmt/format.h>
#include <unistd.h>

#include <chrono>
#include <cstdlib>

#include "base/files.h"
#include "mutate.h"
#include "support.h"
#include "targets.h"

namespace askcount::fuzz {
namespace {

constexpr std::uint64_t kSeed = 20261009;
constexpr unsigned kPatience_s =
    30;  // for one input; then the program is ended, and the input is in its file

const std::vector<Target>& all_targets() {
  static const std::vector<Target> all = targets();
  return all;
}

class Fuzz : public testing::TestWithParam<size_t> {
 protected:
  const Target& target() const { return all_targets()[GetParam()]; }

  /// Feeds one input; it lies in a file while that is done, in case the program does not outlive it.
  void feed(const std::string& input, const std::string& which) {
    if (kept_) test::write(fs() / ("fuzz-" + target().name), input);
    ::alarm(kPatience_s);
    try {
      target().feed(input, folder_.path());
      ++read_;
    } catch (const Error&) {
      ++refused_;
    } catch (const std::exception& e) {
      const auto file = fs() / fmt::format("fuzz-{}-{}", target().name, which);
      test::write(file, input);
      ADD_FAILURE() << target().name << ", " << which << ": " << e.what() << "; the input is " << file
                    << ", keep it in tests/data/fuzz/" << target().name;
    }
    ::alarm(0);
  }

  static test::fs::path fs() { return test::fs::temp_directory_path(); }

  test::Folder folder_;
  int read_ = 0, refused_ = 0;
  bool kept_ = false;
};

TEST_P(Fuzz, GoodInputsAreRead) {
  for (const std::string& good : target().corpus) {
    SCOPED_TRACE(target().name);
    try {
      target().feed(good, folder_.path());
    } catch (const Error& e) {
      // A target of several formats refuses the other's words.
      EXPECT_TRUE(target().name == "book" || target().name == "take") << e.what();
    }
  }
}

TEST_P(Fuzz, WhatOnceBrokeItDoesNotAgain) {
  const test::fs::path kept = test::fs::path(ASKCOUNT_SOURCE) / "tests/data/fuzz" / target().name;
  std::error_code ec;
  for (const auto& file : test::fs::directory_iterator(kept, ec))
    feed(read_file(file.path()), file.path().filename().string());
}

TEST_P(Fuzz, SpoiledInputsAreReadOrRefused) {
  const char* seconds = std::getenv("ASKCOUNT_FUZZ_SECONDS");
  const char* said = std::getenv("ASKCOUNT_FUZZ_SEED");
  const std::uint64_t seed = said      ? std::strtoull(said, nullptr, 10)
                             : seconds ? std::random_device()()
                                       : kSeed;
  Mutator inputs(seed, target().corpus, target().words);
  const auto end = std::chrono::steady_clock::now() + std::chrono::seconds(seconds ? std::atoi(seconds) : 0);
  kept_ = seconds != nullptr;
  for (int n = 0; seconds ? std::chrono::steady_clock::now() < end : n < target().times; ++n) {
    feed(inputs.next(), fmt::format("{}-{}", seed, n));
    if (HasFailure()) break;
  }
  fmt::print("{}: seed {}, {} read, {} refused\n", target().name, seed, read_, refused_);
  EXPECT_GT(read_ + refused_, seconds ? 0 : target().times - 1);
  if (!seconds) {
    EXPECT_GT(read_, 0) << "every input is refused: nothing is tried behind the door";
    EXPECT_EQ(refused_ > 0, target().refuses) << "no input is bad enough";
  }
}

INSTANTIATE_TEST_SUITE_P(Targets, Fuzz, testing::Range<size_t>(0, 14),
                         [](const auto& at) { return all_targets()[at.param].name; });

TEST(FuzzTargets, AreAllTried) {
  EXPECT_EQ(all_targets().size(), 14u);
}

}  // namespace
}  // namespace askcount::fuzz
