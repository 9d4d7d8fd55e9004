// SPDX-License-Identifier: GPL-3.0-or-later
// A book of made-up takes: what it lists, adds up, learns and prints, held against what was kept. What is
// right is tested in book_test.cpp and book_again_test.cpp.
#include <cmath>

#include "advice/checklist.h"
#include "book/again.h"
#include "book/beside.h"
#include "book/book.h"
#include "book/clocks.h"
#include "book/kit.h"
#include "book/measure.h"
#include "book/tables.h"
#include "dice.h"
#include "kept.h"
#include "support.h"

namespace askcount::book {
namespace {

using test::Dice;

Entry entry_of_dice(Dice& dice, int n) {
  Entry e;
  e.how = dice.one_of<How>({How::Take, How::Folder, How::Hand});
  e.file = e.how == How::Hand ? "" : fmt::format("/nowhere/take {}.askcount", n);
  e.name = fmt::format("{} {}", dice.one_of<std::string>({"Boats", "Night", "Jar", "Street", "Roof"}), n);
  e.subject = dice.one_of<std::string>({"boats", "stars", "plants growing", "traffic", ""});
  if (dice.chance(0.8))
    e.place = {dice.one_of<std::string>({"Tern Quay", "Gannet Head", "Window sill"}),
               dice.chance(0.8) ? dice.between(-60, 60) : 0, dice.chance(0.8) ? dice.between(-170, 170) : 0,
               "Europe/London", 0};
  if (dice.chance(0.9)) e.start = Instant(std::chrono::minutes(29454480 + dice.whole(0, 700000)));
  if (dice.chance(0.6)) e.temperature_c = dice.between(-10, 25);
  if (dice.chance(0.6)) e.humidity = dice.between(0.4, 1);
  e.planned = {dice.whole(20, 900),
               dice.one_of<double>({1, 8, 20, 600}),
               25,
               "1/125 s to 4 s",
               dice.chance(0.2) ? 3 : 1,
               "every 20 s",
               "hand",
               dice.between(5, 14),
               dice.between(-4, 5)};
  e.gear = {"Field 1", "Lens 24", dice.one_of<std::string>({"Plain", "Clock"}), {"A", "B"}, {"Card 1"}, {}};
  if (dice.chance(0.7)) {
    e.came.emplace();
    e.came->frames = e.planned.frames - dice.whole(0, 40);
    e.came->missing = dice.whole(0, 5);
    e.came->off_beat = dice.whole(0, 3);
    e.came->interval_s = e.planned.interval_s * dice.between(0.99, 1.01);
    e.came->field_s =
        static_cast<double>(e.came->frames) * e.planned.interval_s * (dice.chance(0.1) ? 40 : 1);
    e.came->body = "Field 1";
  }
  if (dice.chance(0.5)) e.evened = Evened{dice.between(0.02, 0.3), dice.between(0, 0.02), dice.chance(0.5)};
  if (dice.chance(0.6))
    e.shot = Shot{dice.chance(0.3),
                  e.planned.frames,
                  dice.whole(0, 9),
                  dice.whole(0, 40),
                  dice.whole(0, 6),
                  dice.whole(0, 3),
                  {}};
  if (dice.chance(0.6))
    e.faults = {{"dew", dice.whole(0, 30)}, {"late", dice.whole(0, 3)}, {"bump", dice.whole(0, 2)}};
  if (dice.chance(0.5))
    e.films = {{fmt::format("/nowhere/film {}.mp4", n), dice.between(2, 90), 25, 1920, 1080, "h264",
                1e6 * dice.between(1, 90), e.start}};
  const auto measure = [&](const char* what, const char* gear, double value, double planned) {
    if (dice.chance(0.5))
      e.by_journal.push_back({what, gear, value, planned,
                              dice.one_of<Measure::Bound>({Measure::Bound::Exact, Measure::Bound::Exact,
                                                           Measure::Bound::AtLeast, Measure::Bound::AtMost}),
                              e.temperature_c, e.humidity});
  };
  measure("battery", dice.one_of<std::string>({"A", "B"}).c_str(), dice.between(300, 900), 560);
  measure("battery hours", "A", dice.between(1, 6), 4.5);
  measure("writing", "Field 1", dice.between(0.2, 1.5), 0.6);
  measure("buffer", "Field 1", dice.between(200, 900), 600);
  measure("card", "Card 1", dice.between(20, 120), 90);
  measure("drift", e.gear.timer.c_str(), dice.between(-2, 4), 0);
  measure("dials", "", dice.between(1, 5), 2);
  measure("late clicks", "", dice.whole(0, 5), 20);
  measure("releases", "Field 1", dice.whole(100, 900), 0);
  if (dice.chance(0.6))
    e.words = {dice.one_of<Verdict>({Verdict::Well, Verdict::Fairly, Verdict::Badly}), "A note on it",
               dice.chance(0.5) ? "Earlier" : "", true};
  if (const auto dew = dew_of(e)) e.by_frames.push_back(*dew);
  return e;
}

TEST(KeptBook, ListsMeasuresMistakesAndTables) {
  const test::Folder folder;
  Book book(Book::file_in(folder.path()));
  Dice dice(1);
  std::vector<Entry> entries;
  for (int n = 1; n <= 48; ++n) entries.push_back(entry_of_dice(dice, n));
  book.file(entries);
  Json kept = Json::array();
  for (const std::vector<std::string>& said : {std::vector<std::string>{},
                                               {"place=Tern Quay"},
                                               {"month=3"},
                                               {"subject=boats", "verdict=well"},
                                               {"note"},
                                               {"verdict=none"}}) {
    const Listing list = book.list(query_of(said));
    kept.push_back({list.rows.size(), list.frames, list.film_s});
  }
  for (const Row& row : book.list().rows) {
    const Clocks c = clocks_of(row);
    Json tints = Json::array();
    for (size_t i = 0; i < c.tints.size(); i += 5) tints.push_back(c.tints[i]);
    kept.push_back({row.name, where_and_when(row), frames_words(row), flicker_words(row), row.field_s,
                    row.film_s, row.sun_from_deg.value_or(-99), row.sun_to_deg.value_or(-99), c.field_from,
                    c.field_to, c.film_from, c.film_to, c.day, c.from, c.middle, c.to, tints});
  }
  const auto facts = kit_facts(book.measures(), plan::demo_kit());
  for (const KitFact& f : facts) kept.push_back(answer_json(f));
  kept.push_back(to_json(judge(facts, plan::demo_kit(), 2)));
  kept.push_back(book.mistakes());
  kept.push_back(to_json(judge_mistakes(book.mistakes(), {{"dew", 2}})));
  std::vector<Score> scores;
  for (int i = 0; i < 7; ++i)
    scores.push_back({i % 2 ? "timer" : "dusk", i % 3 ? "Plain" : "Clock", dice.between(10, 90),
                      Instant(std::chrono::hours(480000 + i))});
  kept.push_back(to_json(judge_practice(scores)));
  for (size_t i = 0; i + 1 < entries.size(); i += 7) {
    for (const Line& line : lines_of({entries[i], entries[i + 1]}))
      kept.push_back({line.group, line.what, line.each, line.differ});
    kept.push_back(to_json(merged(entries[i], entries[i + 1])));
    kept.push_back(answer_json(entries[i], false));
  }
  kept.push_back(csv_of(entries));
  test::hold(kept, "core/book");
}

TEST(KeptBook, TakesDoneAgain) {
  Json kept = Json::array();
  for (unsigned seed = 101; seed <= 112; ++seed) {
    Dice dice(seed);
    sky::Place place;
    place.name = "Somewhere";
    place.latitude_deg = dice.between(-60, 60);
    place.longitude_deg = dice.between(-170, 170);
    const Instant then = Instant(std::chrono::minutes(29454480 + dice.whole(0, 500000)));
    for (const sky::Body body : {sky::Body::Sun, sky::Body::Moon, sky::Body::Core})
      for (const Again& a : again(body, then, place, then + std::chrono::hours(24 * 20), 300))
        kept.push_back({seed, static_cast<int>(body),
                        std::chrono::duration<double>(a.at - then).count() / 3600, a.off_deg, a.moon_lit});
  }
  // To the second of arc and a few seconds of time, as the sky is searched.
  test::hold(kept, "core/again", test::Held::Drawn);
}

}  // namespace
}  // namespace askcount::book
