// SPDX-License-Identifier: GPL-3.0-or-later
// What may be written where: photographs, inputs, other people's files, links, pipes.
#include "base/output.h"

#include <sys/stat.h>

#include <thread>

#include "base/files.h"
#include "base/json.h"
#include "forecast/light.h"
#include "media/encoder.h"
#include "media/jpeg.h"
#include "paper/calendar.h"
#include "paper/cards.h"
#include "paper/light_strip.h"
#include "simulate/raw.h"
#include "support.h"

namespace askcount {
namespace {

constexpr FileKind kAllKinds[] = {FileKind::Take,     FileKind::Kit,    FileKind::Table,
                                  FileKind::Calendar, FileKind::Sheet,  FileKind::Picture,
                                  FileKind::Film,     FileKind::Record, FileKind::Frame};

class OutputTest : public ::testing::Test {
 protected:
  /// Refused as an output of any kind, and unchanged.
  void refused_as_all(const std::string& name, bool force) {
    const std::string before = read_file(folder_ / name);
    for (const FileKind kind : kAllKinds) {
      const Error e = test::error_of([&] {
        write_file_atomically({folder_ / name, kind, {{}, force}}, "new");
      });
      EXPECT_EQ(e.kind(), Error::Kind::BadInput) << name;
      EXPECT_NE(std::string(e.what()).find(name), std::string::npos) << e.what();
      EXPECT_TRUE(read_file(folder_ / name) == before) << name;
    }
  }
  test::Folder folder_;
};

TEST_F(OutputTest, NeverGoesOverAPhotograph) {
  const media::Bytes jpeg = media::encode_jpeg(image::Coded8({32, 24}), 80);
  test::write(folder_ / "wedding.jpg", jpeg);
  test::write(folder_ / "wedding.askcount", jpeg);  // whatever it is called
  image::Linear32 seen({32, 24});
  simulate::write_raw(seen, {}, {}, folder_ / "wedding.dng");
  test::write(folder_ / "wedding.heic", std::string("\0\0\0\x18"
                                                    "ftypheic\0\0\0\0",
                                                    16));
  test::write(folder_ / "wedding.RAF", std::string("a raw file of a kind of its own"));
  for (const char* name : {"wedding.jpg", "wedding.askcount", "wedding.dng", "wedding.heic", "wedding.RAF"}) {
    EXPECT_TRUE(is_photograph(folder_ / name)) << name;
    refused_as_all(name, false);
    refused_as_all(name, true);
  }
}

TEST_F(OutputTest, GoesOnlyOverItsOwnKind) {
  const take::Take take = test::small_take(20);
  const auto ramp = forecast::ramp_of(take);
  save_take(take, folder_ / "a.askcount");
  write_file_atomically({folder_ / "kit.json", FileKind::Kit}, plan::to_json(take.kit).dump(2));
  write_file_atomically({folder_ / "clicks.csv", FileKind::Table}, paper::ramp_csv(take, ramp));
  write_file_atomically({folder_ / "light.csv", FileKind::Table},
                        ramp::csv_of(forecast::curve_of(take, ramp), take.place.zone));
  paper::write_calendar(take, folder_ / "c.ics");
  paper::write_plan_sheet(take, folder_ / "p.pdf");
  paper::write_light_strip(take, 300, folder_ / "l.png");
  const std::pair<const char*, FileKind> ours[] = {
      {"a.askcount", FileKind::Take}, {"kit.json", FileKind::Kit},   {"clicks.csv", FileKind::Table},
      {"light.csv", FileKind::Table}, {"c.ics", FileKind::Calendar}, {"p.pdf", FileKind::Sheet},
      {"l.png", FileKind::Picture}};
  for (const auto& [name, kind] : ours) {
    EXPECT_EQ(written_kind(folder_ / name), kind) << name;
    for (const FileKind other : kAllKinds) {
      const Output output{folder_ / name, other};
      if (other == kind)
        EXPECT_NO_THROW(check_output(output)) << name;
      else
        EXPECT_THROW(check_output(output), Error) << name;
      if (other == kind || other == FileKind::Frame) continue;
      EXPECT_NO_THROW(check_output({folder_ / name, other, {{}, true}})) << name << ": said twice";
    }
  }
}

TEST_F(OutputTest, LeavesFilesOfOtherProgramsAlone) {
  test::write(folder_ / "notes.txt", std::string("time to go"));
  test::write(folder_ / "ticket.pdf", std::string("%PDF-1.4 of another program"));
  test::write(folder_ / "a.png", std::string("\x89PNG of another program"));
  test::write(folder_ / "holidays.ics", std::string("BEGIN:VCALENDAR\nPRODID:another\n"));
  test::write(folder_ / "data.csv", std::string("a,b\n1,2\n"));
  for (const char* name : {"notes.txt", "ticket.pdf", "a.png", "holidays.ics", "data.csv"}) {
    EXPECT_FALSE(written_kind(folder_ / name)) << name;
    refused_as_all(name, false);
  }
  write_file_atomically({folder_ / "notes.txt", FileKind::Table, {{}, true}}, "mine now");
  EXPECT_EQ(read_file(folder_ / "notes.txt"), "mine now");
  // An empty one was made for this (mktemp), and goes.
  test::write(folder_ / "empty", std::string());
  write_file_atomically({folder_ / "empty", FileKind::Sheet}, "%PDF-");
}

TEST_F(OutputTest, NeverGoesOverItsOwnInput) {
  save_take(test::small_take(20), folder_ / "a.askcount");
  test::fs::create_hard_link(folder_ / "a.askcount", folder_ / "same.askcount");
  test::fs::create_symlink("a.askcount", folder_ / "link.askcount");
  for (const char* name : {"a.askcount", "same.askcount", "link.askcount"}) {
    const Output output{folder_ / name, FileKind::Take, {{folder_ / "a.askcount"}, true}};
    EXPECT_EQ(test::error_of([&] { check_output(output); }).kind(), Error::Kind::BadInput) << name;
  }
}

TEST_F(OutputTest, LinksStayLinksAndPermissionsStay) {
  save_take(test::small_take(20), folder_ / "real.askcount");
  test::fs::permissions(folder_ / "real.askcount",
                        test::fs::perms::owner_read | test::fs::perms::owner_write);
  test::fs::create_symlink("real.askcount", folder_ / "link.askcount");
  save_take(test::small_take(30), folder_ / "link.askcount");
  EXPECT_TRUE(test::fs::is_symlink(folder_ / "link.askcount"));
  EXPECT_EQ(take::load_take(folder_ / "real.askcount").sums().frames, 30);
  EXPECT_EQ(test::fs::status(folder_ / "real.askcount").permissions(),
            test::fs::perms::owner_read | test::fs::perms::owner_write);
  test::fs::permissions(folder_ / "real.askcount", test::fs::perms::owner_read);
  EXPECT_EQ(test::error_of([&] { save_take(test::small_take(40), folder_ / "link.askcount"); }).kind(),
            Error::Kind::BadInput);
}

TEST_F(OutputTest, RefusesPipesFoldersAndNoName) {
  ASSERT_EQ(mkfifo((folder_ / "pipe").c_str(), 0600), 0);
  test::fs::create_directory(folder_ / "folder");
  for (const test::fs::path& file : {folder_ / "pipe", folder_ / "folder", test::fs::path("/dev/null"),
                                     folder_ / "folder/", folder_ / "absent/x"}) {
    const Error e = test::error_of([&] { write_file_atomically({file, FileKind::Take, {{}, true}}, "{}"); });
    EXPECT_EQ(e.kind(), Error::Kind::BadInput) << file;
  }
  // Nor is a pipe read: it would never end.
  EXPECT_EQ(test::error_of([&] { read_file(folder_ / "pipe"); }).kind(), Error::Kind::BadInput);
  EXPECT_THROW(media::read_shot_info(folder_ / "pipe"), Error);
  EXPECT_THROW(media::read_bytes(folder_ / "pipe"), Error);
  EXPECT_THROW(media::read_film(folder_ / "pipe"), Error);
}

/// A person's own files with the names of passing ones are not touched, and many may write at once.
TEST_F(OutputTest, ManyWritersLeaveOneWholeFile) {
  test::write(folder_ / "a.json.part", std::string("mine"));
  test::fs::create_symlink("a.json.part", folder_ / ".a.json.part");
  std::vector<std::jthread> writers;
  for (int i = 0; i < 8; ++i)
    writers.emplace_back([this, i] {
      const std::string text = "{\"writer\": \"" + std::string(20000, static_cast<char>('a' + i)) + "\"}";
      for (int n = 0; n < 20; ++n)
        write_file_atomically({folder_ / "a.json", FileKind::Record}, text, Flush::No);
    });
  writers.clear();
  EXPECT_EQ(read_json(folder_ / "a.json")["writer"].get<std::string>().size(), 20000u);
  EXPECT_EQ(read_file(folder_ / "a.json.part"), "mine");
  EXPECT_EQ(folder_.names(), (std::vector<std::string>{".a.json.part", "a.json", "a.json.part"}));
}

TEST_F(OutputTest, OfTwoFramesOfOneNameTheFirstStays) {
  TemporaryFile one({folder_ / "QUAY0001.JPG", FileKind::Frame}),
      two({folder_ / "QUAY0001.JPG", FileKind::Frame});
  test::write(one.path(), std::string("first"));
  test::write(two.path(), std::string("second"));
  one.put_in_place();
  EXPECT_THROW(two.put_in_place(), Error);
  EXPECT_EQ(read_file(folder_ / "QUAY0001.JPG"), "first");
}

/// Everything that writes goes through base/files: nothing else in the sources opens a file to write.
TEST(Outputs, GoThroughOnePlace) {
  const std::regex opens(
      R"(std::ofstream|fopen\(|QSaveFile|QIODevice::Write|remove_all|O_TRUNC|\.save\(QString)");
  // What may: the place itself with its passing folders, and the record of a card (into a file of its
  // making).
  const std::set<std::string> may = {"core/base/files.cpp", "core/base/passing.cpp", "core/simulate/card.h"};
  const test::fs::path sources = test::fs::path(ASKCOUNT_SOURCE) / "src";
  int looked = 0;
  for (const auto& entry : test::fs::recursive_directory_iterator(sources)) {
    const std::string ending = entry.path().extension().string();
    if (ending != ".cpp" && ending != ".h") continue;
    ++looked;
    const std::string name = entry.path().lexically_relative(sources).generic_string();
    std::smatch found;
    const std::string text = read_file(entry.path());
    if (std::regex_search(text, found, opens) && !may.contains(name))
      ADD_FAILURE() << name << " writes by itself: " << found.str();
  }
  EXPECT_GT(looked, 200);
}

}  // namespace
}  // namespace askcount
