// SPDX-License-Identifier: GPL-3.0-or-later
// The stand-in's card: what it may remove, and who may write to it.
#include "simulate/card.h"

#include <sys/stat.h>

#include <thread>

#include "base/files.h"
#include "base/json.h"
#include "ingest/copy.h"
#include "media/jpeg.h"
#include "support.h"

namespace askcount::simulate {
namespace {

namespace fs = std::filesystem;

class CardTest : public ::testing::Test {
 protected:
  fs::path card() const { return folder_ / "card"; }
  void shoot_card(long long frames = 5) {
    shoot(forecast::shoot_order(test::small_take(frames, {48, 32}), card()));
  }
  static void photograph(const fs::path& file) {
    fs::create_directories(file.parent_path());
    media::ShotInfo info;
    info.body = "A real camera";
    test::write(file, media::with_metadata(media::encode_jpeg(image::Coded8({32, 24}), 80), info, {}));
  }
  test::Folder folder_;
};

TEST_F(CardTest, OnlyWhatTheStandInMarkedGoes) {
  shoot_card();
  EXPECT_TRUE(is_standin_card(card()));
  const fs::path pictures = card() / "DCIM/100QUAY";
  photograph(pictures / "QUAY0500.JPG");       // among its own, named as its own
  photograph(folder_ / "photos/wedding.jpg");  // elsewhere, led to by a link
  fs::create_symlink(folder_ / "photos/wedding.jpg", pictures / "QUAY0501.JPG");
  fs::create_directory_symlink(folder_ / "photos", card() / "DCIM/102QUAY");
  test::write(pictures / "notes.txt", std::string("mine"));
  const Emptied done = empty_card(card());
  EXPECT_EQ(done.removed, 5 + 3 + 2);  // frames, tests, markers
  std::set<std::string> kept;
  for (const fs::path& file : done.kept) kept.insert(file.filename().string());
  EXPECT_EQ(kept, (std::set<std::string>{"102QUAY", "QUAY0500.JPG", "QUAY0501.JPG", "notes.txt"}));
  EXPECT_TRUE(fs::exists(pictures / "QUAY0500.JPG"));
  EXPECT_TRUE(fs::is_symlink(pictures / "QUAY0501.JPG"));
  EXPECT_TRUE(fs::exists(folder_ / "photos/wedding.jpg"));
  EXPECT_TRUE(fs::exists(truth_file(card()))) << "its record goes with the last picture";
}

/// The record lists files anywhere: it is not believed.
TEST_F(CardTest, NoListIsBelieved) {
  shoot_card();
  photograph(folder_ / "photos/wedding.jpg");
  photograph(folder_ / "photos/wedding.DNG");
  Json record = read_json(truth_file(card()));
  for (const std::string& file :
       {std::string("../photos/wedding.jpg"), (folder_ / "photos/wedding.jpg").string()}) {
    Json shot = record["shots"][0];
    shot["file"] = file;
    record["shots"].push_back(shot);
  }
  test::write(truth_file(card()), record.dump());
  EXPECT_TRUE(empty_card(card()).kept.empty());
  EXPECT_TRUE(fs::exists(folder_ / "photos/wedding.jpg"));
  EXPECT_TRUE(fs::exists(folder_ / "photos/wedding.DNG"));
  EXPECT_FALSE(fs::exists(card() / "DCIM"));
  // A record that is none is left alone, and stops nothing.
  shoot_card();
  test::write(truth_file(card()), std::string("damaged"));
  EXPECT_TRUE(empty_card(card()).kept.empty());
  EXPECT_TRUE(fs::exists(truth_file(card())));
}

/// Names and metadata of the stand-in do not make a picture its own: only the bytes it wrote do.
TEST_F(CardTest, WhatWasDevelopedOrRetouchedOnTheCardStays) {
  shoot_card();
  const fs::path pictures = card() / "DCIM/100QUAY";
  std::vector<fs::path> shots;
  for (const auto& entry : fs::directory_iterator(pictures)) shots.push_back(entry.path());
  std::sort(shots.begin(), shots.end());
  ASSERT_GE(shots.size(), 2u);
  const fs::path first = shots[0], second = shots[1];
  const std::string shot = read_file(first);
  // Retouched in its place, its metadata kept.
  std::string retouched = read_file(second);
  retouched[retouched.size() / 2] ^= 1;
  test::write(second, retouched);
  // Developed beside it, under a name of its own, with the camera's mark in it.
  test::write(pictures / "QUAY0001-print.JPG", shot);
  const Emptied done = empty_card(card());
  std::set<std::string> kept;
  for (const fs::path& file : done.kept) kept.insert(file.filename().string());
  EXPECT_EQ(kept, (std::set<std::string>{"QUAY0001-print.JPG", second.filename().string()}));
  EXPECT_EQ(read_file(second), retouched);
  EXPECT_FALSE(fs::exists(first));
}

/// A copy of a card is no card: what was copied is not emptied.
TEST_F(CardTest, ACopyOfItIsNotEmptied) {
  shoot_card();
  ingest::CopyOrder order;
  order.cards = {card()};
  order.to = folder_ / "copy";
  ASSERT_TRUE(ingest::copy(order).checked_twice);
  EXPECT_FALSE(is_standin_card(folder_ / "copy"));
  EXPECT_EQ(empty_card(folder_ / "copy").removed, 0);
}

/// Somebody's own file beside the card is no record of it.
TEST_F(CardTest, SomebodysOwnTruthIsNotWrittenOver) {
  const std::string theirs = "{\"truth\": \"mine\"}";
  test::write(truth_file(card()), theirs);
  EXPECT_EQ(test::error_of([&] { shoot_card(); }).kind(), Error::Kind::BadInput);
  EXPECT_EQ(read_file(truth_file(card())), theirs);
  empty_card(card());
  EXPECT_EQ(read_file(truth_file(card())), theirs);
}

TEST_F(CardTest, NothingIsLeftInFoldersThatAreNoCards) {
  photograph(card() / "DCIM/100REAL/IMG_0001.JPG");
  const Emptied done = empty_card(card());
  EXPECT_EQ(done.removed, 0);
  ASSERT_EQ(done.kept.size(), 1u);
  EXPECT_FALSE(is_standin_card(card()));
  int files = 0;
  for (const auto& entry : fs::recursive_directory_iterator(card())) files += entry.is_regular_file();
  EXPECT_EQ(files, 1) << "no mark is left in other people's folders";
  EXPECT_EQ(test::error_of([&] { shoot_card(); }).kind(), Error::Kind::BadInput);
  // A link where the pictures should be is not gone through.
  const fs::path linked = folder_ / "linked";
  fs::create_directories(linked);
  fs::create_directory_symlink(card() / "DCIM", linked / "DCIM");
  EXPECT_EQ(empty_card(linked).kept.size(), 1u);
  EXPECT_TRUE(fs::exists(card() / "DCIM/100REAL/IMG_0001.JPG"));
}

TEST_F(CardTest, AShootThatWasKilledLeavesACardThatCanBeUsedAgain) {
  shoot_card();
  const fs::path pictures = card() / "DCIM/100QUAY";
  // As a kill leaves it: a half frame and a half record in their passing folders, no record.
  const fs::path frame = test::left_by_a_dead_program(pictures, "QUAY0230.JPG");
  const fs::path record = test::left_by_a_dead_program(folder_.path(), "card.truth.json");
  fs::remove(truth_file(card()));
  EXPECT_TRUE(empty_card(card()).kept.empty());
  EXPECT_FALSE(fs::exists(frame));
  EXPECT_FALSE(fs::exists(record));
  shoot_card(6);
  EXPECT_EQ(ingest::gather(card()).frames->size(), 6u);
}

TEST_F(CardTest, TwoShootsDoNotShareACard) {
  {
    const CardLock lock(card());
    EXPECT_EQ(test::error_of([&] { CardLock second(card()); }).kind(), Error::Kind::BadInput);
    EXPECT_EQ(test::error_of([&] { shoot_card(); }).kind(), Error::Kind::BadInput);
    EXPECT_EQ(test::error_of([&] { empty_card(card()); }).kind(), Error::Kind::BadInput);
  }
  std::atomic<int> well = 0, refused = 0;
  std::vector<std::jthread> shoots;
  for (int i = 0; i < 4; ++i)
    shoots.emplace_back([&] {
      try {
        shoot_card(20);
        ++well;
      } catch (const Error& e) {
        refused += e.kind() == Error::Kind::BadInput;
      }
    });
  shoots.clear();
  EXPECT_EQ(well, 1);
  EXPECT_EQ(refused, 3);
  EXPECT_EQ(ingest::gather(card()).frames->size(), 20u);
  test::write(folder_ / "file", std::string("mine"));
  EXPECT_THROW(CardLock(folder_ / "file"), Error);
  EXPECT_THROW(CardLock("/proc/nowhere"), Error);
}

/// Every file tells whose it is, the raw ones too.
TEST_F(CardTest, EveryPictureCarriesTheMark) {
  RigSetting rig = forecast::rig_of(test::small_take(3, {64, 48}), card(), false);
  rig.raw = true;
  Rig(rig).run({}, {});
  int looked = 0;
  for (const auto& entry : fs::recursive_directory_iterator(card() / "DCIM")) {
    if (!entry.is_regular_file()) continue;
    EXPECT_EQ(media::read_shot_info(entry.path()).software, kSoftware) << entry.path();
    ++looked;
  }
  EXPECT_EQ(looked, 3 * 2 + 3 * 2 + 2);
  EXPECT_EQ(empty_card(card()).removed, looked);
}

}  // namespace
}  // namespace askcount::simulate
