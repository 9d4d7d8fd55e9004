// SPDX-License-Identifier: GPL-3.0-or-later
// Files written whole, names in order, findings in order, reasons in words.
#include "base/files.h"

#include "base/finding.h"
#include "base/json.h"
#include "plan/why.h"
#include "support.h"

namespace askcount {
namespace {

TEST(Files, AreWrittenWholeOrNotAtAll) {
  const test::Folder folder;
  write_file_atomically({folder / "a", FileKind::Record}, "{}");
  write_file_atomically({folder / "a", FileKind::Record}, std::string(100000, 'x'));
  EXPECT_EQ(read_file(folder / "a").size(), 100000u);
  EXPECT_EQ(folder.names(), std::vector<std::string>{"a"});
  test::fs::create_directory(folder / "b");  // a folder stands where the file should go
  const Error e = test::error_of([&] { write_file_atomically({folder / "b", FileKind::Record}, "two"); });
  EXPECT_EQ(e.kind(), Error::Kind::BadInput);
  EXPECT_NE(std::string(e.what()).find((folder / "b").string()), std::string::npos);
  EXPECT_EQ(folder.names(), (std::vector<std::string>{"a", "b"}));
  EXPECT_EQ(test::error_of([&] { read_file(folder / "b"); }).kind(), Error::Kind::BadInput);
  EXPECT_EQ(test::error_of([&] { require_folder(folder / "a"); }).kind(), Error::Kind::BadInput);
}

TEST(Files, FillOnesThatAreWaitedFor) {
  const test::Folder folder;
  test::write(folder / "a", std::string());
  std::ifstream held(folder / "a");
  fill_waiting_file({folder / "a", FileKind::Record}, "{}");
  EXPECT_EQ(std::string(std::istreambuf_iterator<char>(held), {}), "{}") << "through what was open before";
  fill_waiting_file({folder / "a", FileKind::Record}, "[1]");  // no longer empty: replaced as ever
  EXPECT_EQ(read_file(folder / "a"), "[1]");
  fill_waiting_file({folder / "b", FileKind::Record}, "{}");
  EXPECT_EQ(folder.names(), (std::vector<std::string>{"a", "b"}));
  // What is not ours stays.
  test::write(folder / "notes.txt", std::string("mine"));
  EXPECT_EQ(test::error_of([&] {
              fill_waiting_file({folder / "notes.txt", FileKind::Picture}, "x");
            }).kind(),
            Error::Kind::BadInput);
  EXPECT_EQ(read_file(folder / "notes.txt"), "mine");
}

TEST(Files, WhatADeadProgramLeftIsRemovedAndWhatIsAtWorkStays) {
  const test::Folder folder;
  const test::fs::path dead = test::left_by_a_dead_program(folder.path(), "film/frame.jpg");
  ASSERT_TRUE(test::fs::exists(dead / "film/frame.jpg"));
  {
    const TemporaryFile at_work({folder / "a.json", FileKind::Record});
    const TemporaryFolder too(folder / "a.json");
    test::write(too.path() / "x", std::string("x"));
    write_file_atomically({folder / "a.json", FileKind::Record}, "{}");
    EXPECT_TRUE(test::fs::exists(at_work.path())) << "somebody is writing it";
    EXPECT_TRUE(test::fs::exists(too.path() / "x"));
    EXPECT_FALSE(test::fs::exists(dead));
  }
  EXPECT_EQ(folder.names(), std::vector<std::string>{"a.json"});
  EXPECT_EQ(test::error_of([&] { TemporaryFolder(folder / "none/film.mp4"); }).kind(), Error::Kind::BadInput);
}

/// A name proves nothing: only what says in itself that it is ours goes.
TEST(Files, NothingIsRemovedForItsNameAlone) {
  const test::Folder folder;
  const std::vector<std::string> theirs = {".a.json.0123456789",
                                           ".IMG_0001.JPG.abcdefghij",
                                           ".a.json.abcdefghij/IMG_0001.JPG",
                                           ".askcount-writing-abcdefghij/IMG_0001.JPG",
                                           ".askcount-writing-0123456789/.askcount-writing",
                                           ".askcount-writing-0123456789/deep/IMG_0002.JPG",
                                           ".askcount-writing"};
  for (const std::string& name : theirs) {
    test::fs::create_directories((folder / name).parent_path());
    test::write(folder / name, std::string("\xff\xd8\xff a photograph"));
  }
  // A folder that says it is ours by a link is theirs too.
  test::fs::create_directory(folder / "photos");
  test::write(folder / "photos/wedding.jpg", std::string("mine"));
  test::fs::create_directory_symlink(folder / "photos", folder / ".askcount-writing-zzzzzzzzzz");
  write_file_atomically({folder / "a.json", FileKind::Record}, "{}");
  { const TemporaryFolder passing(folder / "a.json"); }
  remove_passing_folders(folder.path());
  for (const std::string& name : theirs) EXPECT_TRUE(test::fs::exists(folder / name)) << name;
  EXPECT_TRUE(test::fs::exists(folder / "photos/wedding.jpg"));
}

TEST(Files, AreOrderedAsPeopleCount) {
  std::vector<std::string> names = {"f10.jpg", "f9.jpg", "f1.jpg",   "f010.jpg",         "a2/f1",
                                    "a10/f1",  "f",      "f100.jpg", "101QUAY/QUAY0001", "100QUAY/QUAY9999"};
  std::sort(names.begin(), names.end(), [](const auto& a, const auto& b) { return natural_less(a, b); });
  EXPECT_EQ(names[0], "100QUAY/QUAY9999");
  EXPECT_EQ(names[1], "101QUAY/QUAY0001");
  EXPECT_EQ(names[2], "a2/f1");
  EXPECT_EQ(names[3], "a10/f1");
  EXPECT_EQ(names.back(), "f100.jpg");
  for (const auto& a : names)
    for (const auto& b : names) EXPECT_FALSE(natural_less(a, b) && natural_less(b, a)) << a << " " << b;
}

TEST(Findings, StandStopsFirst) {
  Findings list = {{"a", Severity::Ok, "", ""},
                   {"b", Severity::Stop, "", ""},
                   {"c", Severity::Warning, "", "", fix::RunEndless{}},
                   {"d", Severity::Stop, "", ""}};
  sort_by_severity(list);
  std::string order;
  for (const Finding& f : list) order += f.code;
  EXPECT_EQ(order, "bdca");
  const Json json = to_json(list);
  EXPECT_EQ(json[0]["severity"], "stop");
  EXPECT_TRUE(json[0]["fix"].is_null());
  EXPECT_EQ(json[2]["fix"], "Set it to endless");
  EXPECT_EQ(json[2]["mend"]["do"], "run_endless");
}

TEST(Why, HasAReasonForEverySlotWithThisTakesNumbers) {
  const take::Take take = take::demo_take();
  const plan::Solution s = take.solution();
  for (const plan::Slot slot : plan::kAllSlots) {
    ASSERT_TRUE(s[slot]) << plan::slot_word(slot);
    EXPECT_GT(plan::why_words(slot, s).size(), 20u) << plan::slot_word(slot);
  }
  EXPECT_NE(plan::why_words(plan::Slot::Interval, s).find("33 min 20 s ÷ 4 s"), std::string::npos)
      << plan::why_words(plan::Slot::Interval, s);
  EXPECT_NE(plan::why_words(plan::Slot::Clip, s).find("You said 10 s"), std::string::npos);
  EXPECT_NE(plan::why_words(plan::Slot::Shutter, s).find("0.2 × 20 s"), std::string::npos)
      << plan::why_words(plan::Slot::Shutter, s);
  EXPECT_NE(plan::why_words(plan::Slot::Interval, plan::solve({})).find("Say the frame rate"),
            std::string::npos);
  EXPECT_EQ(plan::why_words(plan::Slot::Interval, plan::solve({})).find("--"), std::string::npos)
      << "the window has no options";
}

}  // namespace
}  // namespace askcount
