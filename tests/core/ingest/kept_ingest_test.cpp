// SPDX-License-Identifier: GPL-3.0-or-later
// Made-up cards put in order and into takes, held against what was kept. What is right is tested in
// takes_test.cpp, gather_test.cpp and bracket_test.cpp.
#include <cmath>

#include "dice.h"
#include "ingest/beat.h"
#include "ingest/shots.h"
#include "ingest/takes.h"
#include "kept.h"
#include "support.h"

namespace askcount::ingest {
namespace {

using media::Exposure;
using test::Dice;

/// A card with a few takes on it, test shots before them, brackets, holes, late and doubled shots, a clock
/// that jumps, and files without a time.
std::vector<Exposure> card_of(Dice& dice) {
  std::vector<Exposure> all;
  double at_s = 1.79e9;
  int number = dice.whole(1, 9990);
  const bool whole = dice.chance(0.3), timed = dice.chance(0.9);
  const auto add = [&](double s, double stops, const std::string& body) {
    Exposure e;
    e.compressed = fmt::format("/absent/{}FIELD/FLD_{:04}.JPG", 100 + all.size() / 400, number);
    number = number % 9999 + 1;
    e.info.body = body;
    e.info.shutter_s = 0.016 * std::exp2(stops);
    e.info.iso = 100;
    e.info.f_number = 8;
    e.info.whole_seconds = whole;
    if (timed && !dice.chance(0.01)) {
      const long long ms = std::llround(s * 1000);
      e.info.captured = media::CameraTime(std::chrono::milliseconds(whole ? ms / 1000 * 1000 : ms));
    }
    if (dice.chance(0.004)) e.trouble = "It is empty.";
    all.push_back(e);
  };
  for (int takes = dice.whole(1, 3); takes > 0; --takes) {
    const std::string body = dice.chance(0.8) ? "Field 1" : "Field 2";
    for (int tests = dice.whole(0, 3); tests > 0; --tests)
      at_s += dice.between(2, 40), add(at_s, dice.between(-2, 2), body);
    at_s += dice.between(3, 600);
    const double interval = dice.one_of<double>({0.9, 2, 5, 7.5, 30, 600});
    const int frames = dice.whole(3, 60), each = dice.chance(0.2) ? dice.whole(2, 5) : 1;
    const double uneven = dice.one_of<double>({0, 0.004, 0.03});
    for (int n = 0; n < frames; ++n) {
      for (int k = 0; k < each; ++k)
        if (!dice.chance(0.01)) add(at_s + k * interval * 0.1, each > 1 ? 2.0 * (k - each / 2) : 0, body);
      if (dice.chance(0.02)) add(at_s + 0.3 * interval, 0, body);
      at_s += interval * (1 + uneven * dice.normal()) +
              (dice.chance(0.03) ? interval * dice.between(0.2, 0.5) : 0);
      if (dice.chance(0.03))
        at_s += interval * dice.whole(1, 12), number += dice.chance(0.7) ? 0 : dice.whole(1, 3);
    }
    if (dice.chance(0.3)) at_s += dice.chance(0.5) ? -3600 : 3600;
    at_s += dice.between(5, 2000);
  }
  return all;
}

Json json_of(const FoundTake& take) {
  Json missing = Json::array(), late = Json::array(), dropped = Json::array(), weak = Json::array();
  for (const Missing& m : take.missing) missing.push_back({m.after, m.frames, m.seconds});
  for (const OffBeat& o : take.off_beat) late.push_back({o.frame, o.seconds});
  for (const Dropped& d : take.dropped)
    dropped.push_back({d.file().filename().string(), why_word(d.why), d.before, d.text});
  for (const Dropped& d : take.weak) weak.push_back({d.file().filename().string(), why_word(d.why), d.text});
  const auto& frames = *take.frames;
  return {{"frames", frames.size()},
          {"from", frames.front().file().filename().string()},
          {"to", frames.back().file().filename().string()},
          {"each", take.exposures_each},
          {"interval", take.interval_s.value_or(-1)},
          {"clock", take.clock_s},
          {"missing", missing},
          {"late", late},
          {"incomplete", take.incomplete},
          {"sessions", take.sessions},
          {"dropped", dropped},
          {"weak", weak},
          {"began", take.start() ? media::seconds_of(*take.start()) : -1},
          {"ended", take.end() ? media::seconds_of(*take.end()) : -1}};
}

TEST(KeptGather, CardsOfMadeUpTakes) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 150; ++seed) {
    Dice dice(seed);
    std::vector<Exposure> card = card_of(dice);
    // As names have them.
    std::sort(card.begin(), card.end(),
              [](const Exposure& a, const Exposure& b) { return a.file() < b.file(); });
    std::vector<ClockNote> notes;
    put_in_order(card, notes);
    Json one = {{"first", number_of(card.front().file())}, {"last", number_of(card.back().file())}};
    for (const ClockNote& n : notes)
      one["clock"].push_back({static_cast<int>(n.what), n.file.filename().string(), n.seconds});
    const std::vector<Shot> shots = shots_of(card);
    one["shots"] = shots.size();
    for (size_t i = 0; i < shots.size(); i += 13) one["some"].push_back({shots[i].first, shots[i].count});
    for (const FoundTake& t : takes_of(card)) one["takes"].push_back(json_of(t));
    kept.push_back(one);
  }
  test::hold(kept, "core/cards");
}

TEST(KeptGather, BeatsAmongMadeUpTimes) {
  Json kept = Json::array();
  for (unsigned seed = 301; seed <= 420; ++seed) {
    Dice dice(seed);
    Times times;
    times.clock_s = dice.one_of<double>({0.02, 1});
    double at = 0;
    for (int runs = dice.whole(1, 3); runs > 0; --runs) {
      const double interval = dice.between(0.5, 40);
      for (int n = dice.whole(2, 25); n > 0; --n) {
        times.at.push_back(at);
        times.unclocked.push_back(dice.chance(0.03) ? 1 : 0);
        if (dice.chance(0.04)) times.at.push_back(at + 0.2 * interval), times.unclocked.push_back(0);
        at += interval * (dice.chance(0.06) ? dice.whole(2, 11) : 1) *
              (1 + dice.one_of<double>({0.002, 0.03, 0.2}) * dice.unit());
      }
      at += dice.between(1, 300);
    }
    Json list = Json::array();
    for (const ingest::Run& run : even_runs(times)) {
      Json steps = Json::array();
      for (const Step& s : run.steps)
        if (s.missing > 0 || std::abs(s.off_s) > 0.05)
          steps.push_back({s.from, s.to, s.interval_s, s.missing, s.off_s});
      list.push_back({run.first, run.last, run.interval_s, run.extra, steps,
                      tolerance_s(run.interval_s, times.clock_s)});
    }
    kept.push_back(list);
  }
  test::hold(kept, "core/beats");
}

}  // namespace
}  // namespace askcount::ingest
