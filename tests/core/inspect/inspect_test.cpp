// SPDX-License-Identifier: GPL-3.0-or-later
// Every frame looked at: each fault is found where it is, and none where there is none.
#include "cards.h"
#include "ingest/gather.h"
#include "inspect/eye.h"
#include "inspect/faults.h"
#include "inspect/lanes.h"
#include "inspect/look.h"
#include "inspect/passing.h"
#include "inspect/stillness.h"
#include "inspect/store.h"

namespace askcount::inspect {
namespace {

using test::Card;
using test::Harm;

/// "code@frame" of every fault, frames from 1.
std::vector<std::string> found_on(const Card& card) {
  const test::Folder folder;
  test::write_card(card, folder / "card");
  const ingest::Gathered g = ingest::gather(folder / "card");
  std::vector<std::string> list;
  for (const Fault& f : faults_of(g, look_at(g.frames, media::any_source())))
    list.push_back(fmt::format("{}@{}", fault_word(f.kind), f.frame + 1));
  return list;
}

using Words = std::vector<std::string>;

TEST(Audit, FindsNothingOnGoodTakes) {
  for (const int seed : {1, 2, 3})
    EXPECT_EQ(found_on({.frames = 80, .seed = seed, .noise = 1.0 + seed}), Words{});
  // A dusk that falls by three stops, the recorded exposure standing.
  Card dusk{.frames = 80, .seed = 4};
  dusk.harm = [](int n) { return Harm{.gain = std::pow(0.985, n)}; };
  EXPECT_EQ(found_on(dusk), Words{});
}

TEST(Audit, FindsOneFrameThatIsOff) {
  Card card{.frames = 90, .seed = 5};
  card.harm = [](int n) {
    Harm h;
    if (n == 12) h.late_s = 4;
    if (n == 22) h.blob = 0.4;
    if (n == 33) h.blur = 2;
    if (n == 44) h.gain = 0.04;
    if (n == 55) h.cut = true;
    if (n == 66) h.empty = true;
    if (n == 76 || n == 77) h.missing = true;
    return h;
  };
  EXPECT_EQ(found_on(card), (Words{"late@13", "visitor@23", "soft@34", "dark@45", "truncated@56",
                                   "unreadable@67", "missing@76"}));
}

TEST(Audit, TellsABumpFromAKnockAndFromSinking) {
  Card bump{.frames = 70, .seed = 6};
  bump.harm = [](int n) { return n >= 40 ? Harm{.dx = 4, .dy = -2} : Harm{}; };
  EXPECT_EQ(found_on(bump), Words{"bump@41"});
  Card knock{.frames = 70, .seed = 6};
  knock.harm = [](int n) { return n == 30 || n == 31 ? Harm{.dx = -3, .dy = 3} : Harm{}; };
  EXPECT_EQ(found_on(knock), Words{"swing@31"});
  Card sinking{.frames = 80, .seed = 7};
  sinking.harm = [](int n) { return Harm{.dy = 5.0 * n / 80}; };
  const Words found = found_on(sinking);
  ASSERT_EQ(found.size(), 1u);
  EXPECT_TRUE(found[0].starts_with("sinking@")) << fmt::format("{}", fmt::join(found, " "));
}

TEST(Audit, MeasuresHowFarTheCameraMoved) {
  const test::Folder folder;
  Card card{.frames = 24, .seed = 8};
  card.harm = [](int n) { return n >= 12 ? Harm{.dx = 3.5, .dy = 1.5} : Harm{}; };
  test::write_card(card, folder / "card");
  const ingest::Gathered g = ingest::gather(folder / "card");
  const Look look = look_at(g.frames, media::any_source());
  EXPECT_NEAR(look.frames[20].x, 3.5, 0.15);
  EXPECT_NEAR(look.frames[20].y, 1.5, 0.15);
  EXPECT_NEAR(look.frames[12].step_x, 3.5, 0.15);
  EXPECT_NEAR(look.frames[5].x, 0, 0.05);
}

TEST(Audit, FindsDewAndALostFocus) {
  Card dew{.frames = 100, .seed = 9};
  dew.harm = [](int n) { return Harm{.haze = std::clamp((n - 50) / 60.0, 0.0, 0.7)}; };
  const Words damp = found_on(dew);
  ASSERT_EQ(damp.size(), 1u) << fmt::format("{}", fmt::join(damp, " "));
  const int from = std::stoi(damp[0].substr(damp[0].find('@') + 1));
  EXPECT_TRUE(damp[0].starts_with("dew@") && from >= 48 && from <= 56) << damp[0];
  Card focus{.frames = 70, .seed = 10};
  focus.harm = [](int n) { return n >= 45 ? Harm{.blur = 2} : Harm{}; };
  EXPECT_EQ(found_on(focus), Words{"soft@46"});
}

TEST(Audit, FindsDewThatWasWipedOff) {
  Card dew{.frames = 110, .seed = 15};
  dew.harm = [](int n) {
    return n < 40 || n >= 85 ? Harm{} : Harm{.blur = n < 60 ? 0 : 1, .haze = std::min(0.75, (n - 40) / 30.0)};
  };
  const Words found = found_on(dew);
  ASSERT_EQ(found.size(), 1u) << fmt::format("{}", fmt::join(found, " "));
  const int from = std::stoi(found[0].substr(found[0].find('@') + 1));
  EXPECT_TRUE(found[0].starts_with("dew@") && from >= 40 && from <= 45) << found[0];
}

TEST(Audit, FindsDropsInAPartOfThePicture) {
  Card rain{.frames = 90, .seed = 16};
  rain.harm = [](int n) { return Harm{.drops = n >= 50 ? 3 : 0}; };
  EXPECT_EQ(found_on(rain), Words{"dew@51"});
  // What passes there every now and then is life.
  Card walkers{.frames = 90, .seed = 16};
  walkers.harm = [](int n) { return n % 30 < 14 ? Harm{.blob = 0.3, .blob_x = 20 + n % 30 * 25} : Harm{}; };
  for (const std::string& code : found_on(walkers)) EXPECT_FALSE(code.starts_with("dew")) << code;
}

TEST(Audit, FindsAHuntingFocusAndASinkingBehindIt) {
  Card card{.frames = 120, .seed = 17};
  card.harm = [](int n) {
    return Harm{.dy = n > 60 ? -std::min(n - 60, 40) * 0.1 : 0.0,
                .blur = n >= 30 && n < 42 && n % 2 == 0 ? 2 : 0};
  };
  const Words found = found_on(card);
  ASSERT_EQ(found.size(), 2u) << fmt::format("{}", fmt::join(found, " "));
  EXPECT_EQ(found[0], "hunting@31");
  const int from = std::stoi(found[1].substr(found[1].find('@') + 1));
  EXPECT_TRUE(found[1].starts_with("sinking@") && from >= 59 && from <= 66) << found[1];
}

TEST(Audit, AFocusThatComesBackIsLostForSoLong) {
  const test::Folder folder;
  Card card{.frames = 80, .seed = 18};
  card.harm = [](int n) { return Harm{.blur = n >= 30 && n < 44 ? 2 : 0}; };
  test::write_card(card, folder / "card");
  const ingest::Gathered g = ingest::gather(folder / "card");
  const Look look = look_at(g.frames, media::any_source());
  const auto faults = faults_of(g, look);
  ASSERT_EQ(faults.size(), 1u);
  EXPECT_EQ(faults[0].kind, FaultKind::Soft);
  EXPECT_EQ(faults[0].frame, 30u);
  EXPECT_EQ(faults[0].last, 43u);
  // The lane says what the finding says.
  const auto lanes = lanes_of(g, look, look.frames.size());
  EXPECT_NEAR(lanes[2].values[36], 100 * faults[0].amount, 4);
  EXPECT_NEAR(lanes[2].values[10], 100, 4);
}

/// A look whose measures are made up, even but for what `change` does to a frame's.
Look made_up(size_t frames, const std::function<void(size_t, Measures&)>& change) {
  Look look;
  std::mt19937 random(5);
  const auto wander = [&](float by) { return by * (static_cast<float>(random() % 2001) / 1000 - 1); };
  for (size_t n = 0; n < frames; ++n) {
    Measures m;
    m.stops = -3 + wander(0.03F);
    m.code = 90;
    m.spread = 40;
    m.points = 4 + wander(0.2F);
    for (size_t p = 0; p < kParts; ++p) m.fine[p] = -8 + wander(0.05F), m.coarse[p] = -4 + wander(0.02F);
    change(n, m);
    look.frames.push_back(m);
  }
  return look;
}

TEST(PictureFaults, AFrameMuchDarkerThanBothSidesIsDarkWhateverItShows) {
  const auto found = picture_faults(made_up(60,
                                            [](size_t n, Measures& m) {
                                              if (n == 25) m.stops -= 4, m.code = 45;
                                            }),
                                    {});
  ASSERT_EQ(found.size(), 1u);
  EXPECT_EQ(found[0].kind, FaultKind::Dark);
  EXPECT_EQ(found[0].frame, 25u);
  EXPECT_NEAR(found[0].amount, 4, 0.1);
  // A lamp that goes out for good is no fault of a frame.
  EXPECT_TRUE(
      picture_faults(made_up(60, [](size_t n, Measures& m) { m.stops -= n >= 25 ? 4 : 0; }), {}).empty());
}

TEST(PictureFaults, WhiteIsToldWhereItComesAndNotWhereItAlwaysIs) {
  const auto white = [](const std::function<float(size_t)>& share) {
    return picture_faults(made_up(80, [&](size_t n, Measures& m) { m.clipped = share(n); }), {});
  };
  EXPECT_TRUE(white([](size_t n) { return 0.07F + 0.01F * static_cast<float>(n % 3); }).empty());
  const auto flash = white([](size_t n) { return n == 40 ? 0.14F : 0.02F; });
  ASSERT_EQ(flash.size(), 1u);
  EXPECT_EQ(flash[0].frame, 40u);
  // One stretch, though it wavers about the limit.
  EXPECT_EQ(white([](size_t n) { return n < 50 ? 0.01F : n % 2 == 0 ? 0.13F : 0.09F; }).size(), 1u);
}

TEST(PictureFaults, StarsThatNoLongerStandOutAreOutOfFocus) {
  const Look look = made_up(100, [](size_t n, Measures& m) {
    m.coarse.fill(-11.5F);
    m.fine.fill(-3);
    if (n >= 60) m.points -= 1.4F, m.spread = 0.8F;
  });
  const auto found = picture_faults(look, {});
  ASSERT_EQ(found.size(), 1u) << fault_word(found[0].kind);
  EXPECT_EQ(found[0].kind, FaultKind::Soft);
  EXPECT_EQ(found[0].frame, 60u);
  EXPECT_EQ(found[0].last, 99u);
  EXPECT_EQ(found[0].remedy, Remedy::EndBefore);
}

TEST(PlaceFaults, APartThatLeavesFocusBitByBitIsTold) {
  ingest::FoundTake take;
  take.frames = media::frames_of(std::vector<media::Frame>(160, media::Frame(media::Exposure())));
  const auto growing = [](size_t n, Measures& m) {
    // Four parts on the right lose two thirds of their detail from frame 30 on.
    for (const size_t p : {4UL, 5UL, 10UL, 11UL})
      m.fine[p] -= 3.2F * std::clamp((static_cast<float>(n) - 30) / 130, 0.0F, 1.0F);
  };
  const auto found = place_faults(take, made_up(160, growing), {});
  ASSERT_EQ(found.size(), 1u);
  EXPECT_EQ(found[0].kind, FaultKind::Soft);
  EXPECT_GE(found[0].frame, 30u);
  EXPECT_LE(found[0].frame, 70u);
  EXPECT_EQ(found[0].last, 159u);
  EXPECT_NE(found[0].text.find("upper right"), std::string::npos) << found[0].text;
  // Where the light goes meanwhile it says nothing, and neither of what comes and goes.
  EXPECT_TRUE(place_faults(take,
                           made_up(160,
                                   [&](size_t n, Measures& m) {
                                     growing(n, m);
                                     m.stops -= 0.02F * static_cast<float>(n);
                                   }),
                           {})
                  .empty());
  EXPECT_TRUE(place_faults(take,
                           made_up(160,
                                   [](size_t n, Measures& m) {
                                     for (const size_t p : {4UL, 5UL})
                                       m.fine[p] += std::sin(static_cast<float>(n) / 20);
                                   }),
                           {})
                  .empty());
}

TEST(Stillness, WhatRunsThroughAFogIsNoCamera) {
  // Nothing can be seen but two cars, each as far on in every frame.
  Stillness still;
  Position last;
  for (int n = 0; n < 20; ++n) {
    image::Grey8 fog({480, 320});
    std::mt19937 random(static_cast<unsigned>(n));
    for (auto& v : fog.luma) v = static_cast<std::uint8_t>(140 + random() % 2);
    for (const auto& [x, y] : {std::pair(n * 40 % 440, 200), std::pair((n * 40 + 150) % 440, 240)})
      for (int dy = 0; dy < 16; ++dy)
        for (int dx = 0; dx < 36; ++dx)
          fog.luma[static_cast<size_t>(y + dy) * 480 + static_cast<size_t>(x + dx)] =
              static_cast<std::uint8_t>(30 + (dx * 7 + dy * 13) % 60);
    last = still.next(see(fog, 480).windows);
  }
  EXPECT_LT(std::hypot(last.x, last.y), 50) << "one step may be believed, a drive is not";
}

TEST(Audit, NamesSettingsThatChanged) {
  Card card{.frames = 60, .seed = 11};
  card.info = [](int n, media::ShotInfo i) {
    if (n >= 20) i.f_number = 11;
    if (n >= 40) i.focal_mm = 35;
    if (n < 40) i.focal_mm = 24;
    return i;
  };
  EXPECT_EQ(found_on(card), (Words{"setting_changed@21", "setting_changed@41"}));
  Card sizes{.frames = 40, .seed = 12};
  const test::Folder folder;
  test::write_card(sizes, folder / "card");
  Card other = sizes;
  other.size = {320, 214};
  const Harm none;
  media::ShotInfo info = media::read_shot_info(folder / "card/FLD_0018.JPG");
  test::write(folder / "card/FLD_0018.JPG",
              media::with_metadata(media::encode_jpeg(test::picture_of(other, 17, none), 90), info, {}));
  const ingest::Gathered g = ingest::gather(folder / "card");
  const auto faults = file_faults(g, look_at(g.frames, media::any_source()));
  ASSERT_EQ(faults.size(), 1u);
  EXPECT_EQ(faults[0].kind, FaultKind::SizeDiffers);
  EXPECT_EQ(faults[0].frame, 17u);
}

/// A take whose dials stand as they are told, frame by frame.
ingest::FoundTake of_dials(const std::vector<std::array<double, 2>>& f_and_iso) {
  std::vector<media::Frame> frames;
  for (const auto& [f, iso] : f_and_iso) {
    media::Exposure e;
    e.info.f_number = f;
    e.info.iso = iso;
    frames.emplace_back(e);
  }
  ingest::FoundTake take;
  take.frames = media::frames_of(std::move(frames));
  return take;
}

TEST(Audit, DialsAreComparedAsNumbersInEveryLanguage) {
  // ISO from 8,000 over 10,000 and 12,800 to 25,600 is a ramp, however a language writes thousands.
  std::vector<std::array<double, 2>> ramp;
  for (const double iso : {8000.0, 10000.0, 12800.0, 16000.0, 25600.0}) ramp.insert(ramp.end(), 5, {4, iso});
  EXPECT_TRUE(setting_faults(of_dials(ramp)).empty());
  // f/5.6 to f/5.0 and on in sixths, there and back among other clicks: small steps of an aperture in a ramp.
  // Read as whole numbers they would be none, or large ones.
  std::vector<std::array<double, 2>> clicks;
  double iso = 100;
  for (const double f : {5.6, 5.0, 5.6, 6.3, 5.6}) {
    clicks.insert(clicks.end(), 4, {f, iso});
    iso *= 1.26;
    clicks.insert(clicks.end(), 4, {f, std::round(iso)});
  }
  for (const Fault& f : setting_faults(of_dials(clicks))) ADD_FAILURE() << f.text;
  // A whole stop of it at once is a fault, said as it is read.
  const auto stop = setting_faults(of_dials({{5.6, 100}, {5.6, 100}, {8, 100}, {8, 100}}));
  ASSERT_EQ(stop.size(), 1u);
  EXPECT_EQ(stop[0].frame, 2u);
}

TEST(Audit, AClickThatLeadsAwayIsFoundAndARampIsNot) {
  // A light that falls by a stop in thirty frames, and clicks of a third that follow it.
  const auto card = [](int wrong_at) {
    Card c{.frames = 90, .seed = 13};
    const auto clicks = [wrong_at](int n) { return n / 10 + (wrong_at >= 0 && n >= wrong_at ? 3 : 0); };
    c.harm = [clicks](int n) {
      return Harm{.gain = 0.55 * std::pow(2, (-n / 30.0 + clicks(n) / 3.0) / 2.2)};
    };
    c.info = [clicks](int n, media::ShotInfo i) {
      i.iso = std::lround(100 * std::pow(2, clicks(n) / 3.0));
      return i;
    };
    return c;
  };
  EXPECT_EQ(found_on(card(-1)), Words{});
  EXPECT_EQ(found_on(card(45)), Words{"click_off@46"});
}

TEST(Passing, SeesWhatIsInOneFrameAndNotWhatComesToStay) {
  std::vector<float> odd;
  Passing passing([&](size_t, float share) { odd.push_back(share); });
  std::mt19937 random(3);
  for (int n = 0; n < 40; ++n) {
    std::vector<std::uint8_t> small(96 * 64);
    for (size_t i = 0; i < small.size(); ++i)
      small[i] = static_cast<std::uint8_t>(120 + i % 40 + random() % 3);
    const size_t from = n == 15 ? 600 : n >= 28 ? 3000 : small.size();  // one that passes, one that stays
    for (size_t i = from; i < std::min(from + 1000, small.size()); ++i) small[i] = 10;
    passing.next(std::move(small));
  }
  passing.end();
  ASSERT_EQ(odd.size(), 40u);
  EXPECT_NEAR(odd[15], 1000.0 / (96 * 64), 0.02);
  for (size_t n = 0; n < odd.size(); ++n)
    if (n != 15) {
      EXPECT_LT(odd[n], 0.01) << n;
    }
}

TEST(Store, GivesBackWhatItKeptUntilAFileChanges) {
  const test::Folder folder;
  test::write_card({.frames = 12, .seed = 14}, folder / "card");
  const ingest::Gathered g = ingest::gather(folder / "card");
  const Look look = look_at(g.frames, media::any_source());
  const test::fs::path store = store_of(folder / "boats.askcount");
  EXPECT_EQ(store.filename(), "boats.frames");
  EXPECT_FALSE(kept_look(store, g.frames));
  keep_look(store, g.frames, look);
  const auto kept = kept_look(store, g.frames);
  ASSERT_TRUE(kept);
  ASSERT_EQ(kept->frames.size(), 12u);
  EXPECT_EQ(kept->frames[7].stops, look.frames[7].stops);
  EXPECT_EQ(kept->frames[7].fine, look.frames[7].fine);
  // One byte more, and it is another file.
  std::ofstream(folder / "card/FLD_0005.JPG", std::ios::app) << "x";
  EXPECT_FALSE(kept_look(store, g.frames));
  // Damage is no reason to fail, and another program's file none to write over it.
  test::write(store, std::string("SQLite format 3\0nonsense", 24));
  EXPECT_FALSE(kept_look(store, g.frames));
  test::write(folder / "notes.frames", std::string("wind from the west"));
  EXPECT_EQ(test::error_of([&] { keep_look(folder / "notes.frames", g.frames, look); }).kind(),
            Error::Kind::BadInput);
}

TEST(Lanes, TicksStandAtRoundTimes) {
  const test::Folder folder;
  test::write_card({.size = {96, 64}, .frames = 40, .interval_s = 30, .first_ms = 1760000000000},
                   folder / "card");
  const ingest::Gathered g = ingest::gather(folder / "card");
  const auto ticks = ticks_of(g, 6);
  ASSERT_GE(ticks.size(), 3u);
  ASSERT_LE(ticks.size(), 7u);
  for (const Tick& t : ticks) {
    EXPECT_EQ(t.at->time_since_epoch().count() % 300000, 0);
    const double off = static_cast<double>((*(*g.frames)[t.frame].info().captured - *t.at).count()) / 1000;
    EXPECT_GE(off, 0);
    EXPECT_LE(off, 30.1);
  }
  const auto lanes = lanes_of(g, {}, 0);
  ASSERT_EQ(lanes.size(), 6u);
  EXPECT_NEAR(lanes[0].values[5], 0, 0.05);
  EXPECT_TRUE(std::isnan(lanes[1].values[5])) << "not looked at yet";
}

}  // namespace
}  // namespace askcount::inspect
