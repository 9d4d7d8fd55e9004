// SPDX-License-Identifier: GPL-3.0-or-later
// The stand-in behind its socket, with a client of our own: bad lines, half lines, floods, and clients that
// leave.
#include <sys/socket.h>

#include <sys/un.h>
#include <sys/wait.h>
#include <nlohmann/json.hpp>

#include <chrono>
#include <csignal>
#include <functional>
#include <thread>

#include "base/json.h"
#include "ingest/gather.h"
#include "simulate/rig_json.h"
#include "support.h"

namespace askcount {
namespace {

/// A client that speaks to the socket and nothing else.
class Client {
 public:
  explicit Client(const std::string& path) {
    for (int tries = 0; tries < 100; ++tries) {
      handle_ = socket(AF_UNIX, SOCK_STREAM, 0);
      sockaddr_un address{};
      address.sun_family = AF_UNIX;
      path.copy(address.sun_path, sizeof(address.sun_path) - 1);
      if (connect(handle_, reinterpret_cast<sockaddr*>(&address), sizeof(address)) == 0) break;
      ::close(handle_);
      handle_ = -1;
      std::this_thread::sleep_for(std::chrono::milliseconds(50));
    }
    timeval patience{20, 0};
    setsockopt(handle_, SOL_SOCKET, SO_RCVTIMEO, &patience, sizeof(patience));
  }
  ~Client() { leave(); }
  Client(const Client&) = delete;
  void leave() {
    if (handle_ >= 0) ::close(handle_);
    handle_ = -1;
  }
  bool send(const std::string& text) {
    return ::send(handle_, text.data(), text.size(), MSG_NOSIGNAL) == static_cast<ssize_t>(text.size());
  }
  Json line() {
    for (;;) {
      if (const size_t end = half_.find('\n'); end != std::string::npos) {
        const Json json = Json::parse(half_.substr(0, end), nullptr, false);
        half_.erase(0, end + 1);
        return json;
      }
      char part[65536];
      const ssize_t n = recv(handle_, part, sizeof(part), 0);
      if (n <= 0) return nullptr;
      half_.append(part, static_cast<size_t>(n));
    }
  }
  /// The answer to a command, events passed over.
  Json ask(const Json& command) {
    send(command.dump() + "\n");
    for (;;) {
      Json json = line();
      if (json.is_null() || !json.contains("event")) return json;
    }
  }
  Json until(const std::string& event) {
    for (;;) {
      Json json = line();
      if (json.is_null() || json.value("event", "") == event) return json;
    }
  }

 private:
  int handle_ = -1;
  std::string half_;
};

class Standin : public ::testing::Test {
 protected:
  void SetUp() override {
    path_ = (folder_ / "s").string();
    pid_ = fork();
    if (pid_ == 0) {
      if (!freopen("/dev/null", "w", stdout)) _exit(1);
      execl(ASKCOUNT_STANDIN, "askcount-standin", "--socket", path_.c_str(), nullptr);
      _exit(127);
    }
  }
  void TearDown() override {
    kill(pid_, SIGTERM);
    waitpid(pid_, nullptr, 0);
  }
  Json rig(long long frames, double scale = 0) {
    simulate::RigSetting s = forecast::rig_of(test::small_take(frames, {120, 80}),
                                              folder_ / ("card" + std::to_string(++cards_)), false);
    s.scale = scale;
    return simulate::to_json(s);
  }

  test::Folder folder_;
  std::string path_;
  pid_t pid_ = 0;
  int cards_ = 0;
};

TEST_F(Standin, ShootsWhatItIsToldAndSaysSo) {
  Client c(path_);
  EXPECT_EQ(c.ask({{"cmd", "hello"}, {"id", 7}})["id"], 7);
  const Json sent = rig(25);
  EXPECT_TRUE(c.ask({{"cmd", "set"}, {"rig", sent}})["ok"].get<bool>());
  EXPECT_EQ(c.ask({{"cmd", "read"}})["rig"], sent);
  EXPECT_TRUE(c.ask({{"cmd", "start"}})["ok"].get<bool>());
  const Json done = c.until("done");
  EXPECT_EQ(done["outcome"]["frames"], 25);
  EXPECT_EQ(ingest::gather(sent["card"].get<std::string>()).frames->size(), 25u);
  // A client that comes later hears what it missed; a full card is not shot over.
  Client later(path_);
  EXPECT_EQ(later.ask({{"cmd", "events"}, {"since", 0}})["events"].size(),
            31u);  // 25 frames, 3 tests, 2 markers, done
  EXPECT_FALSE(later.ask({{"cmd", "start"}})["ok"].get<bool>());
}

TEST_F(Standin, IsNotHurtByNonsense) {
  Client good(path_), bad(path_);
  for (const char* text :
       {"nonsense\n", "{\"cmd\": 5}\n", "[1,2]\n", "{\"cmd\": \"fly\"}\n", "\"\n", "{\"cmd\": \"set\"}\n",
        "{\"cmd\": \"turn\", \"dial\": \"iso\"}\n",
        "{\"cmd\": \"set\", \"rig\": {\"timer\": {\"count\": \"many\"}}}\n", "\xff\xfe\n"}) {
    ASSERT_TRUE(bad.send(text));
    const Json answer = bad.line();
    ASSERT_TRUE(answer.contains("error")) << text;
    EXPECT_FALSE(answer["ok"].get<bool>());
  }
  // Half a line now, the rest later.
  bad.send("{\"cmd\": \"he");
  EXPECT_TRUE(good.ask({{"cmd", "hello"}})["ok"].get<bool>());
  bad.send("llo\"}\n");
  EXPECT_TRUE(bad.line()["ok"].get<bool>());
  // A line without an end, and a flood of commands whose answers nobody reads.
  const std::string endless(200000, 'x');
  for (int i = 0; i < 20 && bad.send(endless); ++i) {
  }
  Client flood(path_);
  std::string many;
  for (int i = 0; i < 5000; ++i) many += "{\"cmd\": \"read\"}\n";
  std::thread sender([&] {
    for (int i = 0; i < 10 && flood.send(many); ++i) {
    }
  });
  EXPECT_TRUE(good.ask({{"cmd", "status"}})["ok"].get<bool>()) << "others get their turn";
  std::this_thread::sleep_for(std::chrono::milliseconds(300));
  flood.leave();
  sender.join();
  EXPECT_TRUE(good.ask({{"cmd", "hello"}})["ok"].get<bool>());
}

TEST_F(Standin, GoesOnWhenItsClientLeaves) {
  const Json sent = rig(60, 100);  // 20 s frames, five a second
  {
    Client c(path_);
    c.ask({{"cmd", "set"}, {"rig", sent}});
    c.ask({{"cmd", "start"}});
    c.until("shot");
    EXPECT_TRUE(c.ask({{"cmd", "pause"}})["ok"].get<bool>());
    EXPECT_TRUE(c.ask({{"cmd", "status"}})["status"]["paused"].get<bool>());
    EXPECT_TRUE(c.ask({{"cmd", "turn"}, {"dial", "iso"}, {"thirds", 2}})["ok"].get<bool>());
    EXPECT_TRUE(c.ask({{"cmd", "resume"}})["ok"].get<bool>());
  }
  Client back(path_);
  Json status;
  for (int tries = 0; tries < 100 && (status.is_null() || status["told"].get<int>() <= 7); ++tries) {
    std::this_thread::sleep_for(std::chrono::milliseconds(50));
    status = back.ask({{"cmd", "status"}})["status"];
  }
  EXPECT_TRUE(status["running"].get<bool>());
  EXPECT_GT(status["told"].get<int>(), 7);
  EXPECT_TRUE(back.ask({{"cmd", "stop"}})["ok"].get<bool>());
  const Json done = back.until("done");
  EXPECT_TRUE(done["outcome"]["stopped"].get<bool>());
  EXPECT_LT(done["outcome"]["frames"].get<int>(), 60);
  const Json truth = read_json(done["outcome"]["truth"].get<std::string>());
  EXPECT_NEAR(truth["shots"].back()["iso"].get<double>(), 100 * std::exp2(2 / 3.0), 1e-6)
      << "the dial was turned two clicks";
}

TEST_F(Standin, StandsNestingAndNumbersWithoutEnd) {
  Client c(path_);
  for (const std::string& text :
       {std::string(200000, '['), std::string("{\"cmd\": \"set\", \"rig\": {\"scale\": 1e999}}"),
        "{\"cmd\": " + std::string(100000, '{')}) {
    ASSERT_TRUE(c.send(text + "\n"));
    EXPECT_FALSE(c.line()["ok"].get<bool>());
  }
  EXPECT_NE(c.ask({{"cmd", "events"}, {"since", "x"}})["error"].get<std::string>().find("wrong kind"),
            std::string::npos);
  EXPECT_TRUE(c.ask({{"cmd", "hello"}})["ok"].get<bool>());
}

/// Whatever has the socket's name: only a socket that nobody answers on may go.
TEST_F(Standin, ReplacesNothingButADeadSocket) {
  EXPECT_TRUE(Client(path_).ask({{"cmd", "hello"}})["ok"].get<bool>());
  const auto told = [](const test::fs::path& name) {
    return test::run(std::string("timeout 5 ") + ASKCOUNT_STANDIN + " --socket '" + name.string() + "'");
  };
  EXPECT_EQ(told(path_).exit, 2) << "somebody answers there";
  EXPECT_TRUE(Client(path_).ask({{"cmd", "hello"}})["ok"].get<bool>()) << "and goes on answering";
  test::write(folder_ / "photo.jpg", std::string("a photograph"));
  test::fs::create_symlink("photo.jpg", folder_ / "link");
  test::fs::create_directory(folder_ / "folder");
  for (const char* name : {"photo.jpg", "link", "folder"}) {
    const test::Said said = told(folder_ / name);
    EXPECT_EQ(said.exit, 2) << name;
    EXPECT_NE(said.err.find(name), std::string::npos) << said.err;
  }
  std::ifstream photo(folder_ / "photo.jpg");
  EXPECT_EQ(std::string(std::istreambuf_iterator<char>(photo), {}), "a photograph");
  EXPECT_TRUE(test::fs::is_symlink(folder_ / "link"));
  // Left over from a crash, it is taken over; told to end, the stand-in takes its own away.
  kill(pid_, SIGKILL);
  waitpid(pid_, nullptr, 0);
  ASSERT_TRUE(test::fs::exists(path_));
  pid_ = fork();
  if (pid_ == 0) {
    if (!freopen("/dev/null", "w", stdout)) _exit(1);
    execl(ASKCOUNT_STANDIN, "askcount-standin", "--socket", path_.c_str(), nullptr);
    _exit(127);
  }
  EXPECT_TRUE(Client(path_).ask({{"cmd", "hello"}})["ok"].get<bool>());
  kill(pid_, SIGTERM);
  int status = 0;
  waitpid(pid_, &status, 0);
  EXPECT_TRUE(WIFEXITED(status) && WEXITSTATUS(status) == 0);
  EXPECT_FALSE(test::fs::exists(path_));
}

TEST_F(Standin, EmptiesOnlyWhatItMarked) {
  Client c(path_);
  const Json sent = rig(5);
  const test::fs::path card = sent["card"].get<std::string>();
  c.ask({{"cmd", "set"}, {"rig", sent}});
  c.ask({{"cmd", "start"}});
  c.until("done");
  test::write(card / "DCIM/100QUAY/MINE.JPG", std::string("mine"));
  const Json emptied = c.ask({{"cmd", "empty"}});
  EXPECT_EQ(emptied["removed"], 10);
  EXPECT_EQ(emptied["kept_count"], 1);
  EXPECT_EQ(emptied["kept"][0], (card / "DCIM/100QUAY/MINE.JPG").string());
  EXPECT_FALSE(c.ask({{"cmd", "start"}})["ok"].get<bool>()) << "nor is it shot over";
}

TEST_F(Standin, OnlyItsOwnerConnects) {
  EXPECT_TRUE(Client(path_).ask({{"cmd", "hello"}})["ok"].get<bool>());
  EXPECT_EQ(test::fs::status(path_).permissions(),
            test::fs::perms::owner_read | test::fs::perms::owner_write);
  if (geteuid() != 0) GTEST_SKIP() << "only root can be somebody else for a while";
  test::fs::permissions(folder_.path(), test::fs::perms::all);  // the folder is not what keeps others out
  const pid_t other = fork();
  if (other == 0) {
    constexpr uid_t kNobody = 65534;
    if (setuid(kNobody) != 0) _exit(3);
    const int handle = socket(AF_UNIX, SOCK_STREAM, 0);
    sockaddr_un address{};
    address.sun_family = AF_UNIX;
    path_.copy(address.sun_path, sizeof(address.sun_path) - 1);
    const bool got_in = connect(handle, reinterpret_cast<sockaddr*>(&address), sizeof(address)) == 0;
    _exit(got_in ? 1 : errno == EACCES ? 0 : 2);
  }
  int status = 0;
  waitpid(other, &status, 0);
  EXPECT_TRUE(WIFEXITED(status));
  EXPECT_EQ(WEXITSTATUS(status), 0);
}

/// Whatever lies in the folder that is to be a card: nothing is written through it to elsewhere.
TEST_F(Standin, FollowsNoLinkOutOfItsCard) {
  test::fs::create_directory(folder_ / "elsewhere");
  test::write(folder_ / "elsewhere/mine.txt", std::string("mine"));
  const auto try_card = [&](const char* name, const char* linked, const test::fs::path& to) {
    const test::fs::path card = folder_ / name;
    test::fs::create_directories((card / linked).parent_path());
    test::fs::create_symlink(to, card / linked);
    Json sent = rig(3);
    sent["card"] = card.string();
    Client c(path_);
    EXPECT_TRUE(c.ask({{"cmd", "set"}, {"rig", sent}})["ok"].get<bool>());
    c.ask({{"cmd", "empty"}});
    if (c.ask({{"cmd", "start"}})["ok"].get<bool>()) {
      EXPECT_TRUE(c.until("done")["outcome"].contains("error")) << name;
    }
    EXPECT_TRUE(test::fs::is_symlink(card / linked)) << name;
  };
  try_card("a", "DCIM", folder_ / "elsewhere");
  try_card("b", "DCIM", folder_ / "not there");
  try_card("c", "DCIM/100QUAY", folder_ / "elsewhere");
  try_card("d", ".askcount-stand-in", folder_ / "elsewhere/mine.txt");
  try_card("e", ".askcount-stand-in", folder_ / "elsewhere/new.txt");
  EXPECT_FALSE(test::fs::exists(folder_ / "not there"));
  std::vector<std::string> names;
  for (const auto& e : test::fs::directory_iterator(folder_ / "elsewhere"))
    names.push_back(e.path().filename().string());
  EXPECT_EQ(names, std::vector<std::string>{"mine.txt"});
  std::ifstream mine(folder_ / "elsewhere/mine.txt");
  EXPECT_EQ(std::string(std::istreambuf_iterator<char>(mine), {}), "mine");
}

/// What answers on a socket need not be a stand-in.
class Impostor {
 public:
  Impostor(const test::fs::path& path, std::function<std::string(const std::string&)> reply) {
    handle_ = socket(AF_UNIX, SOCK_STREAM, 0);
    sockaddr_un address{};
    address.sun_family = AF_UNIX;
    path.string().copy(address.sun_path, sizeof(address.sun_path) - 1);
    bind(handle_, reinterpret_cast<sockaddr*>(&address), sizeof(address));
    listen(handle_, 1);
    thread_ = std::jthread([this, reply = std::move(reply)] {
      const int client = accept(handle_, nullptr, nullptr);
      std::string heard;
      char part[4096];
      for (ssize_t n = 0; (n = recv(client, part, sizeof part, 0)) > 0;) {
        heard.append(part, static_cast<size_t>(n));
        for (size_t end = 0; (end = heard.find('\n')) != std::string::npos; heard.erase(0, end + 1)) {
          const std::string answer = reply(heard.substr(0, end));
          if (::send(client, answer.data(), answer.size(), MSG_NOSIGNAL) < 0) break;
        }
      }
      close(client);
    });
  }
  ~Impostor() {
    shutdown(handle_, SHUT_RDWR);
    close(handle_);
  }

 private:
  int handle_ = -1;
  std::jthread thread_;
};

TEST_F(Standin, AnImpostorDoesNotBringTheCommandDown) {
  Json timer;
  const auto played = [&timer](const std::string& line, const std::string& once_started) {
    const Json asked = Json::parse(line);
    if (asked["cmd"] == "set") timer = asked["rig"]["timer"];
    const Json reply = {{"id", asked["id"]},
                        {"ok", true},
                        {"program", "askcount-standin"},
                        {"protocol", 1},
                        {"rig", {{"timer", timer}}}};
    return reply.dump() + "\n" + (asked["cmd"] == "start" ? once_started : std::string());
  };
  const std::function<std::string(const std::string&)> replies[] = {
      [](const std::string&) { return std::string("5\n[1]\nnull\n{\"id\": 1, \"ok\": \"yes\"}\n"); },
      [](const std::string&) { return fmt::format("{}\n{}\n", std::string(300000, '['), "{\"id\": 1}"); },
      [](const std::string&) { return std::string("{\"id\": 1, \"ok\": true, \"program\": 7}\n"); },
      // Two that play along, then send events that are none.
      [&](const std::string& line) { return played(line, "{\"event\": \"shot\", \"done\": \"x\"}\n"); },
      [&](const std::string& line) { return played(line, "{\"event\": \"done\"}\n"); }};
  save_take(test::small_take(5, {48, 32}), folder_ / "t.askcount");
  int n = 0;
  for (const auto& reply : replies) {
    const test::fs::path path = folder_ / ("i" + std::to_string(++n));
    const Impostor impostor(path, reply);
    const test::Said said =
        test::run(std::string(ASKCOUNT_COMMAND) + " shoot '" + (folder_ / "t.askcount").string() +
                  "' --card '" + (folder_ / "never").string() + "' --socket '" + path.string() + "'");
    EXPECT_EQ(said.exit, 1) << n << said.err;
    EXPECT_NE(said.err.find("askcount: "), std::string::npos) << said.err;
  }
}

}  // namespace
}  // namespace askcount
