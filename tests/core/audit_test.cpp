// Every frame looked at: each fault is found where it is, and none where there is none.
#include "audit/faults.h"
#include "audit/lanes.h"
#include "audit/look.h"
#include "audit/passing.h"
#include "audit/store.h"
#include "cards.h"
#include "gather/gather.h"

namespace askcount::audit {
namespace {

using test::Card;
using test::Harm;

/// "code@frame" of every fault, frames from 1.
std::vector<std::string> found_on(const Card& card) {
  const test::Folder folder;
  test::write_card(card, folder / "card");
  const gather::Gathered g = gather::gather(folder / "card");
  std::vector<std::string> list;
  for (const Fault& f : faults_of(g, look_at(g.frames, source::any_source())))
    list.push_back(fmt::format("{}@{}", f.code, f.frame + 1));
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
  const gather::Gathered g = gather::gather(folder / "card");
  const Look look = look_at(g.frames, source::any_source());
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

TEST(Audit, NamesSettingsThatChanged) {
  Card card{.frames = 60, .seed = 11};
  card.info = [](int n, source::ShotInfo i) {
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
  source::ShotInfo info = source::read_shot_info(folder / "card/FLD_0018.JPG");
  test::write(folder / "card/FLD_0018.JPG",
              source::with_metadata(source::encode_jpeg(test::picture_of(other, 17, none), 90), info, {}));
  const gather::Gathered g = gather::gather(folder / "card");
  const auto faults = file_faults(g, look_at(g.frames, source::any_source()));
  ASSERT_EQ(faults.size(), 1u);
  EXPECT_EQ(faults[0].code, "size_differs");
  EXPECT_EQ(faults[0].frame, 17u);
}

TEST(Audit, AClickThatLeadsAwayIsFoundAndARampIsNot) {
  // A light that falls by a stop in thirty frames, and clicks of a third that follow it.
  const auto card = [](int wrong_at) {
    Card c{.frames = 90, .seed = 13};
    const auto clicks = [wrong_at](int n) { return n / 10 + (wrong_at >= 0 && n >= wrong_at ? 3 : 0); };
    c.harm = [clicks](int n) {
      return Harm{.gain = 0.55 * std::pow(2, (-n / 30.0 + clicks(n) / 3.0) / 2.2)};
    };
    c.info = [clicks](int n, source::ShotInfo i) {
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
  const gather::Gathered g = gather::gather(folder / "card");
  const Look look = look_at(g.frames, source::any_source());
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
  const gather::Gathered g = gather::gather(folder / "card");
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
}  // namespace askcount::audit
