// The floors of the house: a file includes only from floors below its own, and the core knows no interface.
#include <map>
#include <regex>

#include "support.h"

namespace askcount {
namespace {

const std::map<std::string, int> kFloors = {
    {"base", 1},   {"plan", 2},    {"sky", 2},     {"timer", 2},   {"print", 2},   {"image", 2},
    {"ramp", 3},   {"motion", 3},  {"source", 3},  {"standin", 4}, {"gather", 4},  {"copy", 4},
    {"optics", 4}, {"audit", 5},   {"level", 5},   {"steady", 5},  {"cut", 4},     {"between", 3},
    {"look", 5},   {"develop", 7}, {"preview", 7}, {"render", 6},  {"film", 3},    {"outlook", 4},
    {"trial", 7},  {"take", 7},    {"advice", 8},  {"sheets", 8},  {"journal", 8}, {"orders", 8},
    {"book", 8},   {"pack", 8}};

// Neighbours on one floor that may lean on each other, one way only.
const std::set<std::pair<std::string, std::string>> kLeans = {
    {"timer", "plan"},    {"motion", "source"},  {"copy", "gather"},   {"source", "film"},
    {"advice", "orders"}, {"advice", "journal"}, {"sheets", "advice"}, {"sheets", "orders"},
    {"book", "orders"},   {"book", "advice"},    {"book", "journal"},  {"pack", "book"},
    {"pack", "advice"}};

std::vector<std::string> violations(const std::string& folder, const std::string& text) {
  std::vector<std::string> found;
  static const std::regex include(R"(#include\s*[<"]([^>"]+)[>"])");
  for (std::sregex_iterator it(text.begin(), text.end(), include), end; it != end; ++it) {
    const std::string target = (*it)[1];
    if (target[0] == 'Q' || target.starts_with("app/") || target.starts_with("CLI/")) found.push_back(target);
    const auto floor = kFloors.find(target.substr(0, target.find('/')));
    if (floor == kFloors.end() || floor->first == folder) continue;
    if (floor->second >= kFloors.at(folder) && !kLeans.contains({folder, floor->first}))
      found.push_back(target);
  }
  return found;
}

TEST(Floors, NothingInTheCoreReachesUp) {
  int files = 0;
  for (const auto& entry :
       test::fs::recursive_directory_iterator(test::fs::path(ASKCOUNT_SOURCE) / "src/core")) {
    if (!entry.is_regular_file()) continue;
    const std::string folder = entry.path().parent_path().filename().string();
    ASSERT_TRUE(kFloors.contains(folder)) << folder << " is on no floor";
    std::ifstream in(entry.path());
    const std::string text{std::istreambuf_iterator<char>(in), {}};
    EXPECT_EQ(violations(folder, text), std::vector<std::string>{}) << entry.path();
    ++files;
  }
  EXPECT_GT(files, 40);
}

// Inside the window the same rule holds.
const std::map<std::string, int> kWindowFloors = {{"style", 1}, {"widgets", 2}, {"session", 3},
                                                  {"span", 4},  {"stages", 5},  {"shell", 6}};

std::vector<std::string> window_violations(const std::string& folder, const std::string& text) {
  std::vector<std::string> found;
  static const std::regex include("#include\\s*\"app/([a-z]+)/[^\"]+\"");
  for (std::sregex_iterator it(text.begin(), text.end(), include), end; it != end; ++it) {
    if (kWindowFloors.at((*it)[1]) > kWindowFloors.at(folder)) found.push_back((*it)[0]);
  }
  return found;
}

TEST(Floors, NothingInTheWindowReachesUp) {
  int files = 0;
  const auto app = test::fs::path(ASKCOUNT_SOURCE) / "src/app";
  for (const auto& entry : test::fs::recursive_directory_iterator(app)) {
    if (!entry.is_regular_file() || entry.path().parent_path() == app) continue;
    const std::string folder = entry.path().lexically_relative(app).begin()->string();
    ASSERT_TRUE(kWindowFloors.contains(folder)) << folder << " is on no floor";
    std::ifstream in(entry.path());
    const std::string text{std::istreambuf_iterator<char>(in), {}};
    EXPECT_EQ(window_violations(folder, text), std::vector<std::string>{}) << entry.path();
    ++files;
  }
  EXPECT_GT(files, 60);
}

TEST(Floors, AViolationWouldBeSeen) {
  EXPECT_EQ(violations("plan", "#include \"render/render.h\"\n").size(), 1u);
  EXPECT_EQ(violations("image", "#include <QImage>\n").size(), 1u);
  EXPECT_EQ(violations("plan", "#include \"timer/program.h\"\n").size(), 1u);
  EXPECT_EQ(window_violations("widgets", "#include \"app/session/session.h\"\n").size(), 1u);
  EXPECT_EQ(window_violations("shell", "#include \"app/session/session.h\"\n").size(), 0u);
  EXPECT_EQ(violations("level", "#include \"source/frame.h\"\n#include <vector>\n").size(), 0u);
}

}  // namespace
}  // namespace askcount
