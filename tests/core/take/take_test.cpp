// SPDX-License-Identifier: GPL-3.0-or-later
// The document: there and back, and what is not one.
#include "take/take.h"

#include "base/files.h"
#include "base/json.h"
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
  take.film.size = {1080, 1920};
  take.film.coding = {22, "medium", 10, media::Chroma::Half422, media::Codec::H265};
  take.film.fps = FrameRate{30000, 1001};
  take.film.choice.first = 12, take.film.choice.last = 241, take.film.choice.every = 2;
  take.film.choice.way = render::Way::ToAndFro;
  take.film.choice.between = render::Between::Motion;
  take.film.choice.speed = {{0, 1}, {5.5, 2}};
  take.film.choice.still_last_s = 1.5;
  take.film.views = {{0, {0.5, 0.5, 0.9, 0}}, {8, {0.4, 0.6, 0.3, -2}}};
  take.film.crisp = true;
  take.film.steady = motion::Mode::Walk;
  take.film.fade_in_s = 0.5;
  take.film.sound = "sea.flac";
  take.film.written = {"Trench 4", true, false, true, "1 m", 0.3};
  take.film.said = {true, false, "From the sea wall", "A. Rower", false};
  take.more_films.resize(1);
  take.more_films[0].name = "for the jetty wall";
  take.more_films[0].ending = "mov";
  take.more_films[0].choice.bright = render::kAllFrames;
  take.card = "card";
  save_take(take, folder / "a.askcount");
  EXPECT_EQ(load_take(folder / "a.askcount"), take);
  EXPECT_EQ(folder.names(), std::vector<std::string>{"a.askcount"});
  const Json json = read_json(folder / "a.askcount");
  EXPECT_EQ(json["sums"]["frames"], 250);
}

/// A file as version 1 wrote it opens as it was meant, and is written as this version.
TEST(Take, OpensWhatVersion1Wrote) {
  const Take t = load_take(test::fs::path(ASKCOUNT_SOURCE) / "tests/data/take_version_1.askcount");
  EXPECT_EQ(t.name, "A take of version 1");
  EXPECT_EQ(t.sums().fps, (FrameRate{24000, 1001}));
  EXPECT_EQ(t.sums().frames, 288);
  EXPECT_EQ(t.sums().extra_shots, 8);
  EXPECT_DOUBLE_EQ(t.sums().interval_s, 9);
  EXPECT_TRUE(t.wished(plan::Slot::Shutter)->pinned);
  EXPECT_EQ(t.shot.brackets, 3);
  EXPECT_EQ(t.shot.cards, plan::CardUse::InTurn);
  EXPECT_TRUE(t.shot.raw && t.shot.compressed);
  EXPECT_DOUBLE_EQ(t.temperature_c, -3);
  EXPECT_TRUE(t.lamp);
  EXPECT_EQ(t.light.clicks.size(), 2u);
  EXPECT_EQ(t.light.clicks[1].dial, ramp::Dial::Iso);
  ASSERT_EQ(t.light.source.readings.size(), 2u);
  EXPECT_DOUBLE_EQ(t.light.source.readings[1].ev, 9.25);
  EXPECT_TRUE(t.light.head_moves());
  EXPECT_EQ(format_iso(t.ticks.at("tripod"), "UTC"), "2026-10-09T15:01:02+00:00");
  EXPECT_EQ(t.film.size, (image::Size{1080, 1920}));
  EXPECT_EQ(t.stand_in.frame_size, (image::Size{1500, 1000}));
  EXPECT_EQ(t.stand_in.scene, "Tern Quay");
  EXPECT_EQ(t.timer, "Tidewatch cable");
  EXPECT_TRUE(t.endless);
  EXPECT_EQ(t.test_pictures.size(), 2u);
  EXPECT_EQ(t.card, "card");
  const Json now = to_json(t);
  EXPECT_EQ(now["askcount"], 3);
  EXPECT_EQ(now["shot"]["cards"], "turn");
  EXPECT_EQ(take_from_json(now, "again"), t);
}

TEST(Take, OpensWhatVersion2CalledOtherwise) {
  Take take = demo_take();
  take.light.method = ramp::Method::AperturePriority;
  take.optics.vignetting_stops = 0.7;
  Json old = Json::parse(to_text(take));
  EXPECT_EQ(old["askcount"], 3);
  old["askcount"] = 2;
  old["light"]["school"] = old["light"]["method"];
  old["light"].erase("method");
  old["optics"]["eye_stops"] = old["optics"]["vignetting_stops"];
  old["optics"].erase("vignetting_stops");
  const test::Folder folder;
  test::write(folder / "old.askcount", old.dump());
  const Take opened = load_take(folder / "old.askcount");
  EXPECT_TRUE(opened == take);
  // Written again it has the new names, and the old ones are gone.
  save_take(opened, folder / "old.askcount");
  const Json now = Json::parse(read_file(folder / "old.askcount"));
  EXPECT_EQ(now["light"]["method"], "aperture priority");
  EXPECT_FALSE(now["light"].contains("school") || now["optics"].contains("eye_stops"));
}

TEST(Take, RefusesAStartThatEndsInGarbage) {
  Json json = to_json(demo_take());
  for (const char* start :
       {"2026-10-09T17:50:00+01:00 or so", "2026-10-09T17:50:00+99:00", "2026-13-09T17:50:00"}) {
    json["start"] = start;
    const Error e = test::error_of([&] { take_from_json(json, "t.askcount"); });
    EXPECT_NE(std::string(e.what()).find("\"start\""), std::string::npos) << e.what();
  }
  json["start"] = "2026-10-09T17:50:00+01:00";
  json["kit"] = nullptr;
  EXPECT_FALSE(take_from_json(json, "t.askcount").knows_kit()) << "no kit is nobody's";
  json["ticks"] = {{{"code", "tripod"}, {"at", "yesterday"}}};
  const Error e = test::error_of([&] { take_from_json(json, "t.askcount"); });
  EXPECT_NE(std::string(e.what()).find("ticks[0].at"), std::string::npos) << e.what();
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
  // Every error names its key.
  refused("{\"askcount\": 2, \"start\": \"2026-10-09T18:14:30+01:00 or so\"}", "\"start\"");
  refused("{\"askcount\": 2, \"place\": {\"zone\": \"Nowhere/Land\"}}", "\"place.zone\"");
  refused("{\"askcount\": 2, \"stand_in\": {\"scene\": \"Mars\"}}", "\"stand_in.scene\"");
  refused("{\"askcount\": 2, \"ticks\": [{\"code\": \"x\", \"at\": \"never\"}]}", "\"ticks[0].at\"");
  refused("{\"askcount\": 2, \"light\": {\"readings\": [{\"at\": \"soon\", \"ev\": 3}]}}",
          "\"light.readings[0].at\"");
  refused("{\"askcount\": 2, \"light\": {\"anchor\": {\"at\": \"then\", \"ev\": 3}}}", "\"light.anchor.at\"");
  refused("{\"askcount\": 2, \"kit\": {\"askcount_kit\": 0, \"bodies\": []}}", "must be the format's number");
  refused("{\"askcount\": 2, \"kit\": {\"askcount_kit\": \"1\", \"bodies\": []}}",
          "must be the format's number");
  refused("{\"askcount\": 2, \"kit\": {\"askcount_kit\": 2}}", "newer");
  refused("{\"askcount\": 2, \"place\": {\"zone\": \"" + std::string(100000, 'z') + "\"}}", "…");
  test::write(folder / "null.askcount", std::string("{\"askcount\": 2, \"kit\": null}"));
  EXPECT_NO_THROW(load_take(folder / "null.askcount"));
  EXPECT_EQ(test::error_of([&] { load_take(folder / "absent.askcount"); }).kind(), Error::Kind::BadInput);
}

/// What a later version, or another program, wrote into a take is still there when this one has saved it.
TEST(Take, KeepsTheKeysItDoesNotKnow) {
  const test::Folder folder;
  Json json = to_json(demo_take());
  json["tide"] = {{"high", "18:40"}};
  json["place"]["bench"] = true;
  json["kit"]["bodies"][0]["colour"] = "black";
  json["kit"]["batteries"][1]["bought"] = 2021;
  json["wishes"][0]["why"] = "the client";
  json["sums"]["luck"] = 7;  // worked out anew: not kept
  test::write(folder / "a.askcount", json.dump());
  Take take = load_take(folder / "a.askcount");
  EXPECT_FALSE(take == demo_take());
  save_take(take, folder / "b.askcount");
  const Json same = read_json(folder / "b.askcount");
  EXPECT_EQ(same["tide"]["high"], "18:40");
  EXPECT_EQ(same["place"]["bench"], true);
  EXPECT_EQ(same["kit"]["bodies"][0]["colour"], "black");
  EXPECT_EQ(same["kit"]["batteries"][1]["bought"], 2021);
  EXPECT_EQ(same["wishes"][0]["why"], "the client");
  EXPECT_FALSE(same["sums"].contains("luck"));
  EXPECT_EQ(load_take(folder / "b.askcount"), take);
  // They go with what they belong to, wherever that has moved, and overwrite nothing.
  std::swap(take.kit.batteries[0], take.kit.batteries[1]);
  take.kit.bodies[0].name = "Another";
  take.place.name = "Elsewhere";
  const Json moved = to_json(take);
  EXPECT_EQ(moved["kit"]["batteries"][0]["bought"], 2021);
  EXPECT_FALSE(moved["kit"]["batteries"][1].contains("bought"));
  EXPECT_FALSE(moved["kit"]["bodies"][0].contains("colour"));
  EXPECT_EQ(moved["place"]["name"], "Elsewhere");
  // The sums of a take that says too little are not kept from when it said more.
  take.wishes.clear();
  take.subject.clear();
  EXPECT_FALSE(to_json(take).contains("sums"));
}

TEST(Take, IsWrittenWholeOrNotAtAll) {
  const test::Folder folder;
  const auto file = folder / "c.askcount";
  save_take(demo_take(), file);
  const auto before = test::fs::file_size(file);
  // A file that somebody locked is refused, and stays.
  test::fs::permissions(file, test::fs::perms::owner_read);
  EXPECT_EQ(test::error_of([&] { save_take(test::small_take(9), file); }).kind(), Error::Kind::BadInput);
  EXPECT_EQ(test::fs::file_size(file), before);
  EXPECT_EQ(load_take(file), demo_take());
  EXPECT_EQ(test::error_of([&] { save_take(demo_take(), folder / "absent/d.askcount"); }).kind(),
            Error::Kind::BadInput);
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
