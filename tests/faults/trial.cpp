// SPDX-License-Identifier: GPL-3.0-or-later
#include "trial.h"

#include <fmt/format.h>
#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cstdio>
#include <fstream>

#include "base/error.h"
#include "support.h"

namespace askcount::faults {
namespace {

constexpr int kRefused = 10, kOtherwise = 20;

/// What a child says of its error, read by the parent.
fs::path words_file(const fs::path& folder) {
  return folder.string() + ".words";
}

/// Does it in a process of its own. Returns its status as waitpid() has it.
int in_child(const fs::path& folder, const std::function<void()>& what) {
  std::fflush(nullptr);
  const pid_t child = ::fork();
  if (child == 0) {
    int code = 0;
    std::string words;
    try {
      what();
    } catch (const Error& e) {
      code = kRefused;
      words = e.what();
    } catch (const std::exception& e) {
      code = kOtherwise;
      words = e.what();
    }
    watch({});  // what follows is not the work's
    std::ofstream(words_file(folder)) << words;
    ::_exit(code);
  }
  int status = 0;
  ::waitpid(child, &status, 0);
  return status;
}

std::string words_of(const fs::path& folder) {
  std::ifstream in(words_file(folder));
  return {std::istreambuf_iterator<char>(in), {}};
}

bool is_hidden(const std::string& name) {
  return fs::path(name).filename().string().starts_with(".") || name.find("/.") != std::string::npos ||
         name.starts_with(".");
}

/// Where names cannot be taken away the passing file stays: it is hidden, and the next copy removes it.
bool name_may_stay(const Fault* fault) {
  return fault && fault->call == Call::Rename && fault->way == Way::Error;
}

/// What SQLite takes up when it next opens the file, or leaves empty.
bool is_database_journal(const std::string& name) {
  return name.ends_with("-journal");
}

class Tried {
 public:
  Tried(std::string name, const Trial& trial) : name_(std::move(name)), trial_(trial) {}

  void all() {
    const fs::path before = home_ / "before";
    fs::create_directories(before);
    ASSERT_EQ(in_child(before, [&] { trial_.prepare(before); }), 0) << name_ << ": " << words_of(before);
    before_ = files_below(before);
    reset();
    run(nullptr, "without a fault");
    whole_ = files_below(home_ / "now");
    const Counted whole = counted();
    for (const Call call : kCalls)
      for (const Way way : kWays) {
        if (!can_fail(call, way)) continue;
        const int calls = whole.calls[static_cast<size_t>(call)];
        const int tries = std::min(calls, trial_.at_most);
        for (int n = 0; n < tries; ++n) {
          // The first and the last are among them.
          const Fault fault{call, way, tries < 2 ? 0 : static_cast<int>(1LL * n * (calls - 1) / (tries - 1))};
          reset();
          run(&fault, fmt::format("{} {} of {}, {}", word(call), fault.number, calls, word(way)));
          if (counted().happened) ++tally()[name_][{call, way}];
          if (testing::Test::HasFatalFailure() || failures() > had_ + 8)
            return;  // enough to see what is wrong
        }
      }
  }

 private:
  static int failures() {
    return testing::UnitTest::GetInstance()->current_test_info()->result()->total_part_count();
  }
  const int had_ = failures();

  /// One time: from a fresh copy of the folder.
  void run(const Fault* fault, const std::string& which) {
    SCOPED_TRACE(name_ + ": " + which);
    const fs::path folder = home_ / "now";
    fs::remove_all(folder);
    fs::copy(home_ / "before", folder, fs::copy_options::recursive);
    const int status = in_child(folder, [&] {
      watch(folder, fault);
      make_disk(trial_.disk);
      trial_.work(folder);
      if (!fault) settle();
    });
    if (!fault && trial_.durable) {
      EXPECT_EQ(counted().unsynced, 0) << "a power cut would take " << counted().unsynced_first;
    }
    look(folder, status, fault);
    if (fault && trial_.again && (trial_.again_after_reads || fault->call != Call::Read)) {
      SCOPED_TRACE("and once more, without a fault");
      const int once_more = in_child(folder, [&] { trial_.work(folder); });
      EXPECT_EQ(once_more, 0) << words_of(folder);
      if (once_more == 0) look(folder, once_more, nullptr);
    }
  }

  void look(const fs::path& folder, int status, const Fault* fault) {
    After after;
    after.folder = folder;
    after.before = before_;
    after.words = words_of(folder);
    if (WIFSIGNALED(status)) {
      EXPECT_EQ(WTERMSIG(status), SIGKILL) << "it ended by another signal";
      EXPECT_TRUE(fault && fault->way == Way::Death) << "nobody killed it";
      after.ended = Ended::Died;
    } else if (WEXITSTATUS(status) != 0) {
      EXPECT_EQ(WEXITSTATUS(status), kRefused) << "thrown as what it is not: " << after.words;
      EXPECT_TRUE(fault) << after.words;
      after.ended = Ended::Refused;
      EXPECT_NE(after.words.find(folder.string()), std::string::npos)
          << "it does not say which file: " << after.words;
    }
    after.acknowledged = counted().acknowledged;
    after.whole = whole_;
    after.files = files_below(folder);
    for (const auto& [name, content] : before_) {
      if (trial_.makes(name)) continue;
      const auto now = after.files.find(name);
      if (now == after.files.end())
        ADD_FAILURE() << name << " is gone";
      else
        EXPECT_TRUE(now->second == content) << name << " was changed";
    }
    for (const auto& [name, content] : after.files) {
      if (before_.contains(name)) continue;
      if (is_database_journal(name)) continue;
      if (trial_.makes(name)) {
        EXPECT_TRUE(after.ended != Ended::Refused || trial_.keeps_what_is_whole)
            << name << " is there though the work was refused";
      } else if (is_hidden(name)) {
        EXPECT_TRUE(after.ended == Ended::Died || name_may_stay(fault)) << name << " was left";
      } else {
        ADD_FAILURE() << name << " came from nowhere";
      }
    }
    // What it looks with may begin threads, and a process with threads is not to be forked.
    const int checked = in_child(folder, [&] {
      const int had = failures();
      trial_.check(after);
      if (failures() > had) throw std::runtime_error("what was looked at is told above");
    });
    EXPECT_EQ(checked, 0) << words_of(folder);
  }

  std::string name_;
  const Trial& trial_;
  test::Folder home_;
  Files before_, whole_;
};

}  // namespace

Files files_below(const fs::path& folder) {
  Files files;
  for (const auto& e : fs::recursive_directory_iterator(folder)) {
    if (!e.is_regular_file()) continue;
    std::ifstream in(e.path(), std::ios::binary);
    files[e.path().lexically_relative(folder).generic_string()].assign(std::istreambuf_iterator<char>(in),
                                                                       {});
  }
  return files;
}

void try_with_faults(const std::string& name, const Trial& trial) {
  Tried(name, trial).all();
}

std::map<std::string, std::map<std::pair<Call, Way>, int>>& tally() {
  static std::map<std::string, std::map<std::pair<Call, Way>, int>> all;
  return all;
}

}  // namespace askcount::faults
