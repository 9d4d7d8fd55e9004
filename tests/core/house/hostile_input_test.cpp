// SPDX-License-Identifier: GPL-3.0-or-later
// Input made to break things: each is refused in words, or passed over; none stops the rest.
#include <fmt/format.h>
#include <sys/fsuid.h>

#include <thread>

#include "base/files.h"
#include "base/json.h"
#include "journal/journal.h"
#include "journal/state.h"
#include "level/brightness.h"
#include "media/jpeg.h"
#include "motion/motion.h"
#include "plan/kit.h"
#include "simulate/card.h"
#include "simulate/rig_json.h"
#include "support.h"

namespace askcount {
namespace {

namespace fs = std::filesystem;

std::string nested(int deep, const char* open, const char* close) {
  std::string text;
  for (int i = 0; i < deep; ++i) text += open;
  for (int i = 0; i < deep; ++i) text += close;
  return text;
}

TEST(HostileJson, NumbersWithoutEndAndNestingWithoutEnd) {
  EXPECT_EQ(parse_json("{\"a\": [1, 2.5]}", "it")["a"][1], 2.5);
  EXPECT_NO_THROW(parse_json(nested(kDeepestJson, "[", "]"), "it"));
  for (const std::string& text : std::vector<std::string>{
           "{\"a\": 1e999}", "{\"a\": 1" + std::string(400, '0') + "}", "{\"a\": -1e400}",
           nested(kDeepestJson + 1, "[", "]"), nested(200000, "[", "]"), nested(200000, "{\"a\":", ""),
           std::string(200000, '['), std::string("{\"a\": nan}"), std::string("\xFF\xFE"), std::string()}) {
    const Error e = test::error_of([&] { parse_json(text, "sky.askcount"); });
    EXPECT_EQ(e.kind(), Error::Kind::BadInput);
    EXPECT_NE(std::string(e.what()).find("sky.askcount"), std::string::npos) << e.what();
  }
}

TEST(HostileJson, TakesKitsAndRigsWithNumbersThatCannotBe) {
  const test::Folder folder;
  const std::string good = take::to_json(test::small_take(20)).dump();
  int refused = 0;
  for (const char* number : {"1e999", "-1e999", "1e308", "-1", "1e19", "\"5\"", "[]", "{}", "true"})
    for (const char* key :
         {"temperature_c", "delay_s", "size", "raw_mb", "value", "brackets", "latitude_deg"}) {
      std::string text = good;
      const size_t at = text.find(fmt::format("\"{}\":", key));
      ASSERT_NE(at, std::string::npos) << key;
      const size_t from = at + std::string(key).size() + 3;
      text.replace(from, text.find_first_of(",}", from) - from, number);
      test::write(folder / "a.askcount", text);
      try {
        take::load_take(folder / "a.askcount").solution();
      } catch (const Error& e) {
        ++refused;
        EXPECT_EQ(e.kind(), Error::Kind::BadInput);
        EXPECT_NE(std::string(e.what()).find("a.askcount"), std::string::npos) << e.what();
      }
    }
  EXPECT_GT(refused, 50);
}

TEST(HostileJson, ListsWithoutEndAndPicturesBeyondMemory) {
  const Json good = take::to_json(test::small_take(20));
  const auto refused = [](const Json& json, const char* key) {
    const Error e = test::error_of([&] { take::take_from_json(json, "t.askcount"); });
    EXPECT_EQ(e.kind(), Error::Kind::BadInput);
    EXPECT_NE(std::string(e.what()).find(key), std::string::npos) << e.what();
  };
  Json json = good;
  for (int i = 0; i < 200000; ++i) json["kit"]["batteries"].push_back({{"name", fmt::format("Cell {}", i)}});
  refused(json, "batteries");
  json = good;
  json["kit"]["batteries"] = Json::array();
  for (int i = 0; i < 9000; ++i)
    json["kit"]["batteries"].push_back({{"name", fmt::format("Cell {}", i)}, {"bought", i}});
  const take::Take many = take::take_from_json(json, "t.askcount");
  EXPECT_EQ(take::to_json(many)["kit"]["batteries"][8999]["bought"], 8999);
  json = good;
  json["stand_in"]["frame_size"] = {20000, 20000};
  refused(json, "frame_size");
  json = good;
  json["card"] = std::string("card\0/else", 10);
  refused(json, "card");
}

/// The run that hung: test shots without end. Whatever is in range runs and can be stopped.
TEST(HostileJson, ARigWithEveryNumberAtItsEdgeStops) {
  const test::Folder folder;
  simulate::RigSetting rig = forecast::rig_of(test::small_take(3, {24, 24}), folder / "card", false);
  Json json = simulate::to_json(rig);
  json["camera"]["test_shots"] = 99;
  rig = simulate::rig_from_json(json, rig);
  EXPECT_EQ(simulate::Rig(rig).run({}, {}).frames, 3);
  json["camera"]["test_shots"] = 100;
  EXPECT_THROW(simulate::rig_from_json(json, rig), Error);
  json["camera"]["test_shots"] = 45;
  json["timer"]["count"] = 100000;
  json["card"] = (folder / "other").string();
  rig = simulate::rig_from_json(json, rig);
  std::stop_source stop;
  long long shots = 0;
  const auto outcome = simulate::Rig(rig).run(
      [&](const simulate::RigEvent&) {
        if (++shots == 60) stop.request_stop();
      },
      stop.get_token());
  EXPECT_TRUE(outcome.stopped);
  EXPECT_LT(shots, 80);
}

/// A JPEG whose entry `tag` says that it holds nothing.
media::Bytes with_empty_entry(std::uint16_t tag) {
  media::ShotInfo info;
  info.iso = 200;
  info.shutter_s = 0.01;
  info.f_number = 8;
  info.captured = media::CameraTime(std::chrono::milliseconds(1760000000000));
  media::Bytes bytes = media::with_metadata(media::encode_jpeg(image::Coded8({48, 32}), 85), info, {});
  for (size_t i = 12; i + 8 < bytes.size() && i < 2000; ++i)
    if (bytes[i] == (tag & 0xFF) && bytes[i + 1] == tag >> 8 && bytes[i + 4] == 1 && bytes[i + 5] == 0) {
      bytes[i + 4] = 0;  // the count, little-endian
      return bytes;
    }
  ADD_FAILURE() << "the entry was not found";
  return bytes;
}

TEST(HostilePictures, OneEmptyEntryStopsNothing) {
  const test::Folder folder;
  simulate::shoot(forecast::shoot_order(test::small_take(24, {96, 64}), folder / "card"));
  const size_t frames = ingest::gather(folder / "card").frames->size();
  int n = 0;
  for (const std::uint16_t tag : {0x8827, 0x0112, 0x829A, 0x829D}) {  // ISO, orientation, shutter, f-number
    const fs::path file = folder / "card/DCIM/100QUAY" / fmt::format("ODD{}.JPG", ++n);
    test::write(file, with_empty_entry(tag));
    EXPECT_NO_THROW(media::read_shot_info(file)) << tag;
  }
  EXPECT_FALSE(media::read_shot_info(folder / "card/DCIM/100QUAY/ODD1.JPG").iso);
  EXPECT_EQ(media::read_shot_info(folder / "card/DCIM/100QUAY/ODD2.JPG").orientation, 1);
  const ingest::Gathered g = ingest::gather(folder / "card");
  EXPECT_EQ(g.frames->size(), frames);
  EXPECT_EQ(level::measure(g.frames, media::any_source(), {}).size(), frames);
}

/// Bytes changed at random, all over the file: never anything but a picture or an Error.
TEST(HostilePictures, ChangedBytesAreReadOrRefused) {
  const test::Folder folder;
  simulate::shoot(forecast::shoot_order(test::small_take(2, {96, 64}), folder / "card"));
  const media::Bytes good = media::read_bytes((*ingest::gather(folder / "card").frames)[0].file());
  std::mt19937 random(7);
  int read = 0, refused = 0;
  for (int n = 0; n < 400; ++n) {
    media::Bytes bytes = good;
    const size_t reach = n % 2 ? bytes.size() : 600;  // the metadata, or everywhere
    for (int k = 0; k <= n % 9; ++k) bytes[random() % reach] = static_cast<std::uint8_t>(random());
    if (n % 5 == 0) bytes.resize(random() % bytes.size());
    const fs::path file = folder / "x.jpg";
    test::write(file, bytes);
    try {
      const media::Frame frame = media::frame_of(file);
      media::any_source().small(frame);
      media::any_source().read(frame, {{48, 32}, {}});
      ++read;
    } catch (const Error&) {
      ++refused;
    }
  }
  EXPECT_GT(read, 10);
  EXPECT_GT(refused, 50);
}

TEST(HostileFolders, WhatCannotBeReadIsSaid) {
  const test::Folder folder;
  simulate::shoot(forecast::shoot_order(test::small_take(30, {96, 64}), folder / "card"));
  const media::Frames frames = ingest::gather(folder / "card").frames;
  const auto codes = [](const ingest::Gathered& g) {
    std::set<std::string> list;
    for (const Finding& f : ingest::judge(g)) list.insert(f.code);
    return list;
  };
  EXPECT_TRUE(codes(ingest::gather(folder / "card")).contains("no_gaps"));
  // The last frames are damage: nobody may say that none is missing, or call them test shots.
  for (size_t n = 26; n < 30; ++n) test::write((*frames)[n].file(), std::string("no picture"));
  const ingest::Gathered g = ingest::gather(folder / "card");
  EXPECT_FALSE(codes(g).contains("no_gaps"));
  EXPECT_TRUE(codes(g).contains("ends_unreadable") || codes(g).contains("frames_unreadable"));
  for (const Finding& f : ingest::judge(g)) {
    EXPECT_TRUE(f.code != "left_out" || f.text.find("7 test shots") == std::string::npos) << f.text;
  }
  // Nothing that can be read is no even take.
  std::vector<media::Frame> none;
  for (size_t n = 26; n < 30; ++n) none.push_back(media::frame_of((*frames)[n].file()));
  EXPECT_EQ(test::error_of([&] { level::measure(media::frames_of(none), media::any_source(), {}); }).kind(),
            Error::Kind::Failed);
}

TEST(HostileFolders, AFolderThatGoesAwayIsNoShorterTake) {
  const test::Folder folder;
  simulate::shoot(forecast::shoot_order(test::small_take(60, {96, 64}), folder / "card"));
  const Error e = test::error_of([&] {
    ingest::gather(folder / "card", {[&](size_t done, size_t) {
                                       if (done == 5) fs::rename(folder / "card", folder / "pulled");
                                     },
                                     {}});
  });
  EXPECT_EQ(e.kind(), Error::Kind::Failed);
  EXPECT_NE(std::string(e.what()).find("went away"), std::string::npos) << e.what();
}

TEST(HostileFolders, AFolderThatMayNotBeReadIsNamed) {
  const test::Folder folder;
  simulate::shoot(forecast::shoot_order(test::small_take(10, {96, 64}), folder / "card"));
  fs::create_directory(folder / "card/DCIM/101QUAY");
  fs::permissions(folder / "card/DCIM/101QUAY", fs::perms::none);
  // Root may read everything: as nobody, in this thread, it may not.
  fs::permissions(folder.path(), fs::perms(0755));
  const bool root = geteuid() == 0;
  if (root) setfsuid(65534);
  ingest::Gathered g = ingest::gather(folder / "card");
  if (root) setfsuid(0);
  EXPECT_EQ(g.unread_folders, std::vector<std::string>{(folder / "card/DCIM/101QUAY").string()});
  g.interval_s = 20;
  const Findings findings = ingest::judge(g);
  EXPECT_EQ(std::count_if(findings.begin(), findings.end(),
                          [](const Finding& f) { return f.code == "folders_unread"; }),
            1);
  EXPECT_EQ(
      std::count_if(findings.begin(), findings.end(), [](const Finding& f) { return f.code == "no_gaps"; }),
      0);
  fs::permissions(folder / "card/DCIM/101QUAY", fs::perms::owner_all);
}

TEST(HostileJournals, LinesOfNonsenseLeaveAState) {
  const test::Folder folder;
  test::write(
      folder / "a.journal",
      std::string("{\"what\":\"start\",\"interval_s\":1e300,\"scale\":-5,\"count\":-9,\"first_ms\":9e18}\n"
                  "{\"what\":\"put\",\"frame\":1e300,\"at\":-9e18}\n{\"what\":5}\n[1]\nnonsense\n") +
          std::string(100000, '[') + "\n{\"what\":\"shot\",\"frame\":3,\"number\":2}\n{\"what\":\"sho");
  const journal::ShootState s = journal::state_of(journal::read_journal(folder / "a.journal"));
  EXPECT_TRUE(s.active);
  EXPECT_EQ(s.shots, 4);
  EXPECT_GE(s.count, 0);
  EXPECT_EQ(s.interval_s, 0);
  s.frame_at(now());
  s.next_shot_in(now());
}

TEST(HostilePictures, MotionSaysWhatIsWrongWithThem) {
  const test::Folder folder;
  test::write(folder / "one.jpg", media::encode_jpeg(image::Coded8({1, 1}), 90));
  test::write(folder / "none.jpg", std::string("no picture"));
  for (const char* name : {"one.jpg", "none.jpg", "absent.jpg"}) {
    const Error e = test::error_of([&] { motion::motion_between(folder / name, folder / name, 5); });
    EXPECT_EQ(e.kind(), Error::Kind::BadInput) << name;
    EXPECT_EQ(std::string(e.what()).find("OpenCV"), std::string::npos) << e.what();
  }
}

}  // namespace
}  // namespace askcount
