// SPDX-License-Identifier: GPL-3.0-or-later
// Things done one after another beside the window.
#include "app/session/worker.h"

#include <gtest/gtest.h>

#include <latch>
#include <vector>

namespace askcount::app {
namespace {

TEST(Worker, DoesThingsInTheirOrder) {
  std::vector<int> done;
  Worker worker;
  for (int n = 0; n < 200; ++n) worker.add([&done, n] { done.push_back(n); });
  worker.wait();
  ASSERT_EQ(done.size(), 200u);
  for (int n = 0; n < 200; ++n) EXPECT_EQ(done[static_cast<size_t>(n)], n);
}

TEST(Worker, OfThoseWithOneNameOnlyTheNewestThatWaitsIsDone) {
  std::vector<std::string> done;
  std::latch begun(1), go_on(1);
  Worker worker;
  worker.add(
      [&] {
        begun.count_down();
        go_on.wait();
        done.emplace_back("a, at work");
      },
      "a");
  begun.wait();
  worker.add([&] { done.emplace_back("a, old"); }, "a");
  worker.add([&] { done.emplace_back("b"); }, "b");
  worker.add([&] { done.emplace_back("a, new"); }, "a");
  worker.add([&] { done.emplace_back("without a name"); });
  worker.add([&] { done.emplace_back("without one too"); });
  go_on.count_down();
  worker.wait();
  EXPECT_EQ(done,
            (std::vector<std::string>{"a, at work", "b", "a, new", "without a name", "without one too"}));
}

TEST(Worker, DoesWhatStillWaitsBeforeItGoes) {
  int done = 0;
  {
    Worker worker;
    for (int n = 0; n < 50; ++n) worker.add([&done] { ++done; });
  }
  EXPECT_EQ(done, 50);
}

TEST(Worker, AThingMayAskForAnother) {
  int done = 0;
  {
    Worker worker;
    worker.add([&] { worker.add([&] { worker.add([&] { ++done; }); }); });
    worker.wait();
  }
  EXPECT_EQ(done, 1);
}

}  // namespace
}  // namespace askcount::app
