// SPDX-License-Identifier: GPL-3.0-or-later
// Long work beside the window.
#include "app/session/job.h"

#include <atomic>
#include <QSignalSpy>
#include <QTest>

#include "base/error.h"
#include "support.h"

namespace askcount::app {
namespace {

/// Work that goes on until it is told to stop.
std::function<void(const Work&)> endless(std::atomic<int>& stopped) {
  return [&stopped](const Work& work) {
    while (!work.stop.stop_requested()) QTest::qSleep(2);
    ++stopped;
    throw cancelled("Stopped.");
  };
}

TEST(Job, TellsHowItWent) {
  Job job;
  QSignalSpy ended(&job, &Job::ended), progressed(&job, &Job::progressed);
  bool done = false;
  ASSERT_TRUE(job.start({"Counting",
                         [](const Work& work) {
                           for (size_t i = 1; i <= 100; ++i) work.report(i, 100);
                         },
                         [&] { done = true; },
                         {}}));
  EXPECT_EQ(job.doing(), "Counting");
  ASSERT_TRUE(ended.wait(5000));
  EXPECT_TRUE(done);
  EXPECT_TRUE(ended[0][0].toString().isEmpty());
  EXPECT_EQ(job.done_count(), 100u) << "the last progress arrives";
  ASSERT_TRUE(job.start(
      {"Failing", [](const Work&) { throw failed("The card was pulled."); }, [&] { done = false; }, {}}));
  ASSERT_TRUE(ended.wait(5000));
  EXPECT_EQ(ended[1][0].toString(), "The card was pulled.");
  EXPECT_TRUE(done) << "done is not for work that failed";
}

TEST(Job, DropsAResultThatIsNoLongerWanted) {
  Job job;
  QSignalSpy ended(&job, &Job::ended);
  bool wanted = true, done = false;
  std::atomic<bool> go{false};
  job.start({"Working",
             [&](const Work&) {
               while (!go) QTest::qSleep(2);
             },
             [&] { done = true; }, [&] { return wanted; }});
  wanted = false;
  go = true;
  ASSERT_TRUE(ended.wait(5000));
  EXPECT_FALSE(done);
}

TEST(Job, LetsGoAndStartsAnotherAtOnce) {
  std::atomic<int> stopped{0};
  Job job;
  bool wanted = true, late = false, done = false;
  ASSERT_TRUE(job.start({"First", endless(stopped), [&] { late = true; }, [&] { return wanted; }}));
  EXPECT_FALSE(job.start({"Second", [](const Work&) {}, {}, {}})) << "one at a time";
  job.review();
  EXPECT_TRUE(job.running()) << "still wanted";
  wanted = false;
  job.review();
  EXPECT_FALSE(job.running());
  ASSERT_TRUE(job.start({"Second", [](const Work&) {}, [&] { done = true; }, {}}));
  EXPECT_TRUE(QTest::qWaitFor([&] { return done && stopped == 1; }, 5000));
  EXPECT_FALSE(late);
}

TEST(Job, StopsWhatRunsWhenItGoes) {
  std::atomic<int> stopped{0};
  {
    Job job;
    job.start({"One", endless(stopped), {}, {}});
    job.disown();
    job.start({"Two", endless(stopped), {}, {}});
  }
  EXPECT_EQ(stopped, 2);
}

}  // namespace
}  // namespace askcount::app
