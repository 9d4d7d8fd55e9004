// SPDX-License-Identifier: GPL-3.0-or-later
// The rooms of the house: a file includes only from the rooms its own leans on, and the core knows no
// interface.
#include <map>
#include <regex>
#include <sstream>

#include "support.h"

namespace askcount {
namespace {

const test::fs::path kHouse = ASKCOUNT_SOURCE;

std::string text_of(const test::fs::path& file) {
  std::ifstream in(file);
  return {std::istreambuf_iterator<char>(in), {}};
}

/// What a list of rooms says: every room with all that it may include from, and what it is for.
struct Rooms {
  std::vector<std::string> order;
  std::map<std::string, std::set<std::string>> may;
  std::map<std::string, std::string> purpose;
};

Rooms rooms_in(const std::string& list) {
  Rooms rooms;
  static const std::regex line(R"(^([a-z/]+) \|([a-z/ ]*)\| (.+)$)");
  std::istringstream in(list);
  for (std::string said; std::getline(in, said);) {
    std::smatch m;
    if (!std::regex_match(said, m, line)) continue;
    std::set<std::string> may = {m[1]};
    std::istringstream below(m[2]);
    for (std::string room; below >> room;) {
      if (!rooms.may.contains(room)) throw std::runtime_error(room + " is not below " + m[1].str());
      may.insert(rooms.may.at(room).begin(), rooms.may.at(room).end());
    }
    rooms.order.push_back(m[1]);
    rooms.may[m[1]] = may;
    rooms.purpose[m[1]] = m[3];
  }
  return rooms;
}

/// Includes of a file in a room of the core that reach where they may not.
std::vector<std::string> violations(const Rooms& rooms, const std::string& room, const std::string& text) {
  std::vector<std::string> found;
  static const std::regex include(R"(#include\s*[<"]([^>"]+)[>"])");
  for (std::sregex_iterator it(text.begin(), text.end(), include), end; it != end; ++it) {
    const std::string target = (*it)[1], folder = target.substr(0, target.find('/'));
    const bool interface = target[0] == 'Q' || folder == "app" || folder == "cli" || folder == "CLI";
    if (interface || (rooms.may.contains(folder) && !rooms.may.at(room).contains(folder)))
      found.push_back(target);
  }
  return found;
}

/// The same in the window, whose includes begin with "app/".
std::vector<std::string> window_violations(const Rooms& rooms, const std::string& room,
                                           const std::string& text) {
  std::vector<std::string> found;
  static const std::regex include("#include\\s*\"app/([^\"]+)/[^/\"]+\"");
  for (std::sregex_iterator it(text.begin(), text.end(), include), end; it != end; ++it)
    if (!rooms.may.at(room).contains((*it)[1])) found.push_back((*it)[1]);
  return found;
}

template <typename Check>
int look_through(const test::fs::path& house, const Rooms& rooms, Check&& check) {
  int files = 0;
  for (const auto& entry : test::fs::recursive_directory_iterator(house)) {
    const std::string room = entry.path().parent_path().lexically_relative(house).string();
    if (!entry.is_regular_file() || room == ".") continue;
    EXPECT_TRUE(rooms.may.contains(room)) << room << " is in no list";
    if (rooms.may.contains(room)) {
      EXPECT_EQ(check(rooms, room, text_of(entry.path())), std::vector<std::string>{}) << entry.path();
      ++files;
    }
  }
  return files;
}

const Rooms kCore = rooms_in(text_of(kHouse / "src/core/rooms.txt"));
const Rooms kWindow = rooms_in(text_of(kHouse / "src/app/rooms.txt"));

TEST(Floors, NothingInTheCoreReachesUp) {
  EXPECT_GT(look_through(kHouse / "src/core", kCore, violations), 400);
}

TEST(Floors, NothingInTheWindowReachesUpOrToAnotherStage) {
  EXPECT_GT(look_through(kHouse / "src/app", kWindow, window_violations), 150);
}

// The documents say the same as the lists, word for word and in the same order.
TEST(Floors, TheDocumentsSayTheSame) {
  const std::string documents = text_of(kHouse / "docs/architecture.md");
  for (const Rooms* rooms : {&kCore, &kWindow}) {
    size_t at = 0;
    for (const std::string& room : rooms->order) {
      const size_t row = documents.find("| `" + room + "` | " + rooms->purpose.at(room) + " |", at);
      ASSERT_NE(row, std::string::npos) << room;
      at = row;
    }
  }
}

TEST(Floors, AViolationWouldBeSeen) {
  EXPECT_EQ(violations(kCore, "plan", "#include \"render/render.h\"\n").size(), 1u);
  EXPECT_EQ(violations(kCore, "image", "#include <QImage>\n").size(), 1u);
  EXPECT_EQ(violations(kCore, "plan", "#include \"timer/program.h\"\n").size(), 1u);
  EXPECT_EQ(violations(kCore, "level", "#include \"media/frame.h\"\n#include <vector>\n").size(), 0u);
  EXPECT_EQ(window_violations(kWindow, "widgets", "#include \"app/session/session.h\"\n").size(), 1u);
  EXPECT_EQ(window_violations(kWindow, "stages/cut", "#include \"app/stages/ask/ask_stage.h\"\n").size(), 1u);
  EXPECT_EQ(window_violations(kWindow, "shell", "#include \"app/session/session.h\"\n").size(), 0u);
  EXPECT_THROW(rooms_in("plan | base | the sums\nbase | | what all stand on\n"), std::runtime_error);
}

}  // namespace
}  // namespace askcount
