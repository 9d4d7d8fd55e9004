// The document: there and back, and what is not one.
#include "take/take.h"

#include "support.h"
#include "timer/program.h"

namespace askcount::take {
namespace {

TEST(Take, ComesBackAsItWasSaved) {
  const test::Folder folder;
  Take take = demo_take();
  take.name = "Ebb \"and\" flow, Übung";
  take.pin(plan::Slot::Clip, true);
  take.timer = "Tidewatch cable";
  take.film = {{1080, 1920}, 22};
  take.card = "card";
  save_take(take, folder / "a.askcount");
  EXPECT_EQ(load_take(folder / "a.askcount"), take);
  EXPECT_EQ(folder.names(), std::vector<std::string>{"a.askcount"});
  const Json json = read_json(folder / "a.askcount");
  EXPECT_EQ(json["sums"]["frames"], 250);
}

TEST(Take, RefusesWhatItCannotReadByName) {
  const test::Folder folder;
  const auto refused = [&](const std::string& text, const char* word) {
    std::ofstream(folder / "b.askcount") << text;
    const Error e = test::error_of([&] { load_take(folder / "b.askcount"); });
    EXPECT_EQ(e.kind(), Error::Kind::BadInput);
    EXPECT_NE(std::string(e.what()).find("b.askcount"), std::string::npos) << e.what();
    EXPECT_NE(std::string(e.what()).find(word), std::string::npos) << e.what();
  };
  refused("{\"askcount\": 1, \"na", "damaged");
  refused("", "damaged");
  refused("[1, 2]", "not a take");
  refused("{\"name\": \"x\"}", "not a take");
  refused("{\"askcount\": 7}", "newer");
  refused("{\"askcount\": 1, \"name\": 5}", "name");
  refused("{\"askcount\": 1, \"wishes\": {}}", "wishes");
  refused("{\"askcount\": 1, \"wishes\": [{\"slot\": \"clipp\", \"value\": 1}]}", "clipp");
  refused("{\"askcount\": 1, \"wishes\": [{\"slot\": \"clip\", \"value\": -1}]}", "clip");
  refused("{\"askcount\": 1, \"film\": {\"size\": [1920]}}", "size");
  EXPECT_EQ(test::error_of([&] { load_take(folder / "absent.askcount"); }).kind(), Error::Kind::BadInput);
}

TEST(Take, IsWrittenWholeOrNotAtAll) {
  const test::Folder folder;
  const auto file = folder / "c.askcount";
  save_take(demo_take(), file);
  const auto before = test::fs::file_size(file);
  // A file that somebody locked is refused, and stays.
  test::fs::permissions(file, test::fs::perms::owner_read);
  EXPECT_EQ(test::error_of([&] { save_take(test::small_take(9), file); }).kind(), Error::Kind::Failed);
  EXPECT_EQ(test::fs::file_size(file), before);
  EXPECT_EQ(load_take(file), demo_take());
  EXPECT_EQ(test::error_of([&] { save_take(demo_take(), folder / "absent/d.askcount"); }).kind(),
            Error::Kind::Failed);
}

TEST(Take, HoldsWhatWasSaidLastAndWhatIsPinned) {
  Take take = demo_take();
  take.wish(plan::Slot::Interval, 10);
  EXPECT_DOUBLE_EQ(take.sums().interval_s, 10);
  take.wish(plan::Slot::Clip, 20);
  EXPECT_EQ(take.sums().frames, 500);
  take.wish(plan::Slot::Field, 3600);  // the interval gives way, as nothing is pinned but what was said last
  EXPECT_NEAR(take.sums().field_s, 3600, take.sums().interval_s);
  EXPECT_EQ(take.sums().frames, 500);
  take.pin(plan::Slot::Clip, true);
  take.wish(plan::Slot::Frames, 100);
  EXPECT_EQ(take.solution().conflicts.size(), 1u);
}

}  // namespace
}  // namespace askcount::take
