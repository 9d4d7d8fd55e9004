// SPDX-License-Identifier: GPL-3.0-or-later
// Cards copied: whole, checked, never over anything.
#include "ingest/copy.h"

#include <sys/resource.h>
#include <sys/stat.h>
#include <csignal>

#include "base/output.h"
#include "cards.h"
#include "ingest/digest.h"
#include "media/metadata.h"

namespace askcount::ingest {
namespace {

namespace fs = std::filesystem;

class CopyTest : public ::testing::Test {
 protected:
  void SetUp() override {
    test::write_card({.size = {96, 64}, .frames = 12}, card() / "DCIM/100FIELD");
    test::write(card() / "DCIM/100FIELD/FLD_0003.xmp", std::string("<x/>"));
    test::write(card() / "notes.txt", std::string("wind from the west"));
  }
  fs::path card() const { return folder_ / "card"; }
  CopyOrder order() const {
    CopyOrder o;
    o.cards = {card()};
    o.to = folder_ / "home/boats";
    return o;
  }
  static std::string bytes(const fs::path& file) {
    std::ifstream in(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
  }
  /// Files below a folder, by their place, with their bytes.
  static std::map<std::string, std::string> all(const fs::path& folder) {
    std::map<std::string, std::string> list;
    for (const auto& e : fs::recursive_directory_iterator(folder))
      if (e.is_regular_file()) list[e.path().lexically_relative(folder).generic_string()] = bytes(e.path());
    return list;
  }
  int sha256sum(const fs::path& target) const {
    return test::run(fmt::format("cd '{}' && sha256sum -c --quiet --strict {}", target.string(), kManifest))
        .exit;
  }

  test::Folder folder_;
};

TEST_F(CopyTest, EveryFileArrivesInBothPlacesAndIsListed) {
  const auto before = all(card());
  CopyOrder o = order();
  o.also = folder_ / "second";
  CopyProgress last;
  const CopyOutcome done = copy(o, [&](const CopyProgress& p) { last = p; });
  EXPECT_EQ(done.files.size(), 14u);
  EXPECT_TRUE(done.checked_twice);
  EXPECT_EQ(last.files_done, 14u);
  EXPECT_EQ(last.bytes_done, last.bytes);
  for (const fs::path& target : {o.to, o.also}) {
    auto there = all(target);
    EXPECT_EQ(sha256sum(target), 0);
    there.erase(kManifest);
    EXPECT_EQ(there, before);
  }
  EXPECT_EQ(all(card()), before) << "the card is only read";
  // The times of change go along.
  struct stat from {
  }, to{};
  ::stat((card() / "notes.txt").c_str(), &from);
  ::stat((o.to / "notes.txt").c_str(), &to);
  EXPECT_EQ(from.st_mtim.tv_sec, to.st_mtim.tv_sec);
}

TEST_F(CopyTest, GoesOnWhereItWasStopped) {
  std::stop_source stop;
  EXPECT_EQ(test::error_of([&] {
              copy(
                  order(),
                  [&](const CopyProgress& p) {
                    if (p.files_done >= 3) stop.request_stop();
                  },
                  stop.get_token());
            }).kind(),
            Error::Kind::Cancelled);
  const auto half = all(order().to);
  EXPECT_GE(half.size(), 4u);
  EXPECT_LT(half.size(), 15u);
  EXPECT_EQ(sha256sum(order().to), 0) << "what is there is whole and listed";
  // What a copy that was killed leaves in a passing folder goes.
  const fs::path dead = test::left_by_a_dead_program(order().to / "DCIM/100FIELD", "FLD_0009.JPG");
  const CopyOutcome done = copy(order());
  EXPECT_FALSE(fs::exists(dead));
  EXPECT_TRUE(done.checked_twice);
  EXPECT_GE(
      std::count_if(done.files.begin(), done.files.end(), [](const Copied& c) { return c.there_already; }),
      3);
  auto whole = all(order().to);
  whole.erase(kManifest);
  EXPECT_EQ(whole, all(card()));
}

TEST_F(CopyTest, NeverTouchesADifferentFileOfTheName) {
  fs::create_directories(order().to / "DCIM/100FIELD");
  test::write(order().to / "DCIM/100FIELD/FLD_0002.JPG", std::string("an older picture"));
  const CopyOutcome done = copy(order());
  EXPECT_EQ(bytes(order().to / "DCIM/100FIELD/FLD_0002.JPG"), "an older picture");
  EXPECT_EQ(bytes(order().to / "DCIM/100FIELD/FLD_0002 2.JPG"), bytes(card() / "DCIM/100FIELD/FLD_0002.JPG"));
  EXPECT_EQ(std::count_if(done.files.begin(), done.files.end(), [](const Copied& c) { return c.renamed; }),
            1);
  EXPECT_TRUE(done.checked_twice);
  // Again: the one under its new name is found to be there.
  const CopyOutcome again = copy(order());
  for (const Copied& c : again.files) EXPECT_TRUE(c.there_already) << c.name;
}

TEST_F(CopyTest, NumbersInTheOrderOfCapture) {
  const fs::path other = folder_ / "bracketed";
  test::Card three{.size = {96, 64}, .frames = 12, .interval_s = 10};
  three.info = [](int n, media::ShotInfo i) {
    i.shutter_s = n % 3 == 0 ? 1 / 60.0 : n % 3 == 1 ? 1 / 250.0 : 1 / 15.0;
    i.captured = media::CameraTime(std::chrono::milliseconds(1760000000000 + n / 3 * 20000 + n % 3 * 400));
    return i;
  };
  test::write_card(three, other);
  test::write(other / "FLD_0002.xmp", std::string("<x/>"));
  CopyOrder o = order();
  o.cards = {other};
  o.name = "boats-001";
  const CopyOutcome done = copy(o);
  std::vector<std::string> names;
  for (const auto& [name, content] : all(o.to)) names.push_back(name);
  EXPECT_EQ(names,
            (std::vector<std::string>{"boats-001a.jpg", "boats-001b.jpg", "boats-001b.xmp", "boats-001c.jpg",
                                      "boats-002a.jpg", "boats-002b.jpg", "boats-002c.jpg", "boats-003a.jpg",
                                      "boats-003b.jpg", "boats-003c.jpg", "boats-004a.jpg", "boats-004b.jpg",
                                      "boats-004c.jpg", kManifest}));
  EXPECT_EQ(bytes(o.to / "boats-003b.jpg"), bytes(other / "FLD_0008.JPG"));
  EXPECT_NE(bytes(o.to / kManifest).find("# was " + (other / "FLD_0008.JPG").string()), std::string::npos);
  EXPECT_EQ(sha256sum(o.to), 0);
  EXPECT_TRUE(done.checked_twice);
  o.name = "boats-9";  // one digit is no room for four shots from 9 on
  EXPECT_EQ(test::error_of([&] { copy(o); }).kind(), Error::Kind::BadInput);
}

TEST_F(CopyTest, RefusesWhatWouldHarm) {
  CopyOrder o = order();
  o.to = card() / "copy";
  EXPECT_EQ(test::error_of([&] { copy(o); }).kind(), Error::Kind::BadInput);
  o = order();
  o.cards = {folder_ / "absent"};
  EXPECT_EQ(test::error_of([&] { copy(o); }).kind(), Error::Kind::BadInput);
  o = order();
  fs::create_directories(o.to);
  test::write(o.to / kManifest, std::string("somebody else's list"));
  EXPECT_EQ(test::error_of([&] { copy(o); }).kind(), Error::Kind::BadInput);
  EXPECT_EQ(bytes(o.to / kManifest), "somebody else's list");
}

/// The same place by another name: by links to folders and to files.
TEST_F(CopyTest, RefusesItsOwnCardByWhateverName) {
  fs::create_directory_symlink(card() / "DCIM", folder_ / "linked");
  for (const fs::path& to : {folder_ / "linked", folder_ / "linked/100FIELD/deeper", folder_.path()}) {
    CopyOrder o = order();
    o.to = to;
    EXPECT_EQ(test::error_of([&] { copy(o); }).kind(), Error::Kind::BadInput) << to;
  }
  CopyOrder two = order();
  fs::create_directories(folder_ / "home/boats/below");
  fs::create_directory_symlink(folder_ / "home/boats/below", folder_ / "second");
  two.also = folder_ / "second";
  EXPECT_EQ(test::error_of([&] { copy(two); }).kind(), Error::Kind::BadInput);
  // A file of the card under a second name is no copy of it.
  fs::create_directories(order().to / "DCIM/100FIELD");
  fs::create_hard_link(card() / "DCIM/100FIELD/FLD_0002.JPG", order().to / "DCIM/100FIELD/FLD_0002.JPG");
  const Error e = test::error_of([&] { copy(order()); });
  EXPECT_EQ(e.kind(), Error::Kind::BadInput);
  EXPECT_NE(std::string(e.what()).find("FLD_0002.JPG"), std::string::npos) << e.what();
  EXPECT_EQ(all(card()).size(), 14u);
}

/// All that lies on a card is copied; what cannot be is named, and the card is not said to be safe to empty.
/// Folders that are not there yet, named from the folder one is in.
TEST_F(CopyTest, TwoNamesOfOneNewFolderAreOne) {
  const fs::path before = fs::current_path();
  fs::current_path(folder_.path());
  for (const auto& [to, also] : {std::pair{"new", "./new"}, {"new", "card/../new"}, {"./new/a", "new"}}) {
    CopyOrder order;
    order.cards = {card()};
    order.to = to;
    order.also = also;
    EXPECT_EQ(test::error_of([&] { copy(order); }).kind(), Error::Kind::BadInput) << to << " and " << also;
    EXPECT_FALSE(fs::exists("new"));
  }
  fs::current_path(before);
}

TEST_F(CopyTest, HiddenFilesAreCopiedAndLinksNamed) {
  test::write(card() / "DCIM/100FIELD/.FLD_0009.JPG", std::string("\xff\xd8\xff hidden"));
  fs::create_directories(card() / ".private");
  test::write(card() / ".private/notes.txt", std::string("mine"));
  EXPECT_TRUE(copy(order()).checked_twice);
  EXPECT_EQ(bytes(order().to / ".private/notes.txt"), "mine");
  EXPECT_EQ(bytes(order().to / "DCIM/100FIELD/.FLD_0009.JPG"), "\xff\xd8\xff hidden");
  fs::create_symlink(folder_ / "elsewhere.jpg", card() / "DCIM/link.jpg");
  const CopyOutcome done = copy(order());
  EXPECT_FALSE(done.checked_twice);
  EXPECT_EQ(done.unread, std::vector<std::string>{(card() / "DCIM/link.jpg").string()});
}

TEST_F(CopyTest, AFileThatCannotBeWrittenLeavesNothingHalf) {
  test::write(card() / "DCIM/100FIELD/FLD_0013.JPG", std::string(300000, 'x'));
  rlimit old{};
  getrlimit(RLIMIT_FSIZE, &old);
  const rlimit small{100000, old.rlim_max};
  const auto before = std::signal(SIGXFSZ, SIG_IGN);
  setrlimit(RLIMIT_FSIZE, &small);
  const Error e = test::error_of([&] { copy(order()); });
  setrlimit(RLIMIT_FSIZE, &old);
  std::signal(SIGXFSZ, before);
  EXPECT_EQ(e.kind(), Error::Kind::Failed);
  EXPECT_NE(std::string(e.what()).find("FLD_0013"), std::string::npos) << e.what();
  for (const auto& [name, content] : all(order().to)) {
    EXPECT_EQ(name.find("/."), std::string::npos) << name;
    if (name != kManifest) {
      EXPECT_EQ(content, bytes(card() / name)) << name;
    }
  }
  EXPECT_TRUE(copy(order()).checked_twice);
}

TEST(Digest, IsThatOfThePublishedExamples) {
  // FIPS 180-4, the examples "abc" and one million "a".
  Digest abc;
  abc.add("abc", 3);
  EXPECT_EQ(abc.text(), "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
  Digest many;
  const std::string a(1000, 'a');
  for (int i = 0; i < 1000; ++i) many.add(a.data(), a.size());
  EXPECT_EQ(many.text(), "cdc76e5c9914fb9281a1c7e284d73e67f1809a48a497200e046d39ccc7112cd0");
}

}  // namespace
}  // namespace askcount::ingest
