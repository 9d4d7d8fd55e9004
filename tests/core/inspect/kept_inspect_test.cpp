// SPDX-License-Identifier: GPL-3.0-or-later
// The judgements of a few hundred made-up takes, held against those that were kept: every limit of the audit
// lies between two of them. What a fault is, and where, is tested in audit_test.cpp.
#include <cmath>

#include "dice.h"
#include "inspect/faults.h"
#include "inspect/lanes.h"
#include "kept.h"
#include "support.h"

namespace askcount::inspect {
namespace {

using test::Dice;

Json json_of(const std::vector<Fault>& faults) {
  Json list = Json::array();
  for (const Fault& f : faults)
    list.push_back(Json::array({fault_word(f.kind), f.frame, f.last, f.amount, f.unit,
                                static_cast<int>(severity_of(f.kind)), f.text, remedy_word(f.remedy)}));
  return list;
}

/// Frames that a camera shot every few seconds, its dials turned now and then.
ingest::FoundTake take_of(Dice& dice, size_t frames) {
  ingest::FoundTake take;
  take.interval_s = dice.one_of<double>({1, 6, 20, 300});
  take.clock_s = dice.one_of<double>({0.02, 1});
  std::vector<media::Frame> list;
  double at_s = 1e9, iso = 100, f = 8, shutter = 1.0 / 60;
  const double turns = dice.between(0, 0.06), uneven = dice.one_of<double>({0.001, 0.02});
  for (size_t n = 0; n < frames; ++n) {
    media::Exposure e;
    e.compressed = "/card/FLD_" + std::to_string(1000 + n) + ".JPG";
    at_s += *take.interval_s * (1 + uneven * dice.normal());
    e.info.captured = media::CameraTime(std::chrono::milliseconds(std::llround(at_s * 1000)));
    if (dice.chance(turns)) iso *= std::exp2(dice.whole(-3, 3) / 3.0);
    if (dice.chance(turns / 3)) f *= std::exp2(dice.whole(-4, 4) / 6.0);
    if (dice.chance(turns)) shutter *= std::exp2(dice.whole(-3, 3) / 3.0);
    e.info.iso = std::round(std::clamp(iso, 50.0, 12800.0));
    e.info.f_number = std::clamp(std::round(f * 10) / 10, 1.4, 22.0);
    e.info.shutter_s = shutter;
    e.info.size = {6000, 4000};
    if (dice.chance(0.004)) e.info.focal_mm = 35;
    if (dice.chance(0.004)) e.info.settings = "white balance=auto;focus=" + std::to_string(dice.whole(0, 3));
    if (dice.chance(0.004)) e.info.size = {4000, 6000};
    if (dice.chance(0.01)) take.off_beat.push_back({n, *take.interval_s * dice.between(-0.4, 0.6)});
    if (dice.chance(0.004))
      take.missing.push_back(
          {n, dice.whole(1, 4), dice.chance(0.7) ? *take.interval_s * dice.whole(2, 5) : 0});
    list.emplace_back(std::move(e));
  }
  take.frames = media::frames_of(std::move(list));
  return take;
}

/// What a look may see: noise as it is, and up to three things that happen, from hardly to plainly.
class Seen {
 public:
  Seen(Dice& dice, size_t frames) : dice_(dice), look_{} {
    const double texture = dice.one_of<double>({-4, -6, -9, -11.2}), fine = dice.between(-9, -6);
    Parts own{};
    for (float& p : own) p = static_cast<float>(dice.normal());
    const double noise = dice.one_of<double>({0.03, 0.1, 0.3}), still = dice.one_of<double>({0.3, 1.5});
    double x = 0, y = 0;
    const double drift = dice.chance(0.2) ? dice.between(0.5, 8) : 0;
    for (size_t n = 0; n < frames; ++n) {
      Measures m;
      m.stops = static_cast<float>(-3 + 0.3 * noise * dice.normal());
      m.code = 90, m.spread = 40;
      m.points = static_cast<float>(4 + noise * dice.normal());
      m.clipped = static_cast<float>(0.02 * dice.unit());
      m.odd = static_cast<float>(0.001 * dice.unit());
      for (size_t p = 0; p < kParts; ++p) {
        m.coarse[p] =
            static_cast<float>(texture + 0.5 * static_cast<double>(own[p]) + 0.3 * noise * dice.normal());
        m.fine[p] = static_cast<float>(fine + 0.5 * static_cast<double>(own[p]) + noise * dice.normal());
        m.light[p] = static_cast<float>(-3 + 0.1 * dice.normal());
      }
      const double dx = drift + still * 0.3 * dice.normal(), dy = still * 0.3 * dice.normal();
      x += n > 0 ? drift : 0;
      m.x = static_cast<float>(x + still * dice.normal()),
      m.y = static_cast<float>(y + still * dice.normal());
      m.step_x = static_cast<float>(n > 0 ? dx : 0), m.step_y = static_cast<float>(n > 0 ? dy : 0);
      m.held_by = m.step_held_by = n > 0 ? static_cast<float>(dice.between(0.7, 1)) : 0;
      look_.frames.push_back(m);
    }
  }

  Look happen(int things) {
    for (int i = 0; i < things; ++i) happen_once();
    return look_;
  }

 private:
  size_t from(size_t margin) {
    return static_cast<size_t>(
        dice_.whole(static_cast<int>(margin), static_cast<int>(look_.frames.size() - margin)));
  }
  template <class Change>
  void over(size_t begin, size_t count, Change change) {
    for (size_t n = begin; n < std::min(begin + count, look_.frames.size()); ++n)
      change(look_.frames[n], static_cast<double>(n - begin));
  }
  std::vector<size_t> place(size_t count) {
    std::vector<size_t> parts;
    const auto first = static_cast<size_t>(dice_.whole(0, kParts - 1));
    for (size_t k = 0; k < count; ++k) parts.push_back((first + k) % kParts);
    return parts;
  }

  void happen_once() {
    const size_t all = look_.frames.size(), begin = from(12);
    const auto some = static_cast<size_t>(dice_.whole(1, 4)),
               long_time = static_cast<size_t>(dice_.whole(10, 60));
    const double by = dice_.between(0.2, 3);
    const auto f = [](double v) { return static_cast<float>(v); };
    switch (dice_.whole(0, 13)) {
      case 0:
        return over(begin, some,
                    [&](Measures& m, double) { m.stops -= f(1 + by), m.code = f(60 - 15 * by); });
      case 1:
        return over(begin, some, [&](Measures& m, double) { m.spread = f(by / 1.5); });
      case 2:
        return over(begin, some, [&](Measures& m, double) { m.odd = f(0.002 * std::exp2(2 * by)); });
      case 3:
        return over(begin, some, [&](Measures& m, double) {
          for (float& v : m.fine) v -= f(by);
        });
      case 4:
        return over(begin, all, [&](Measures& m, double) {
          for (float& v : m.fine) v -= f(by);
        });
      case 5:
        return over(begin, long_time, [&](Measures& m, double) {
          for (float& v : m.fine) v -= f(by);
        });
      case 6:
        return over(begin, all, [&](Measures& m, double k) {
          for (float& v : m.coarse) v -= f(std::min(by, k / 15));
          for (float& v : m.fine) v -= f(1.3 * std::min(by, k / 15));
        });
      case 7:
        return over(begin, long_time, [&](Measures& m, double k) {
          const double veil = std::min({1.5 * by, k / 6, (static_cast<double>(long_time) - k) / 2});
          for (float& v : m.coarse) v -= f(0.6 * veil);
          for (float& v : m.fine) v -= f(veil);
        });
      case 8:
        return over(begin, some, [&](Measures& m, double) { m.clipped += f(0.07 * by); });
      case 9: {
        look_.frames[begin].step_x += f(4 * by);
        return over(begin, all, [&](Measures& m, double) { m.x += f(4 * by); });
      }
      case 10: {
        look_.frames[begin].step_y += f(5 * by);
        if (begin + some < all) look_.frames[begin + some].step_y -= f(5 * by);
        return over(begin, some, [&](Measures& m, double) { m.y += f(5 * by); });
      }
      case 11:
        return over(0, all, [&](Measures& m, double k) { m.y += f(6 * by * k / static_cast<double>(all)); });
      case 12:
        return over(begin, long_time, [&](Measures& m, double k) {
          m.step_x += f(3 * by * std::sin(2.4 * k)), m.x += f(3 * by * std::sin(2.4 * k));
        });
      default: {
        const auto parts = place(static_cast<size_t>(dice_.whole(2, 9)));
        const bool slow = dice_.chance(0.4);
        return over(slow ? 10 : begin, all, [&](Measures& m, double k) {
          for (const size_t p : parts)
            m.fine[p] -= f(slow ? 1.5 * by * std::min(1.0, k / static_cast<double>(all)) : 2 * by);
        });
      }
    }
  }

  Dice& dice_;
  Look look_;
};

TEST(KeptAudit, JudgementsOfMadeUpTakes) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 240; ++seed) {
    Dice dice(seed);
    const auto frames = static_cast<size_t>(dice.whole(40, 170));
    const ingest::FoundTake take = take_of(dice, frames);
    const Look look = Seen(dice, frames).happen(dice.whole(1, 3));
    Json one = json_of(picture_faults(look, still_faults(take, look)));
    for (const Json& f : json_of(still_faults(take, look))) one.push_back(f);
    for (const Json& f : json_of(clear_faults(take, look))) one.push_back(f);
    for (const Json& f : json_of(place_faults(take, look, {}))) one.push_back(f);
    kept.push_back(one);
  }
  test::hold(kept, "core/audit");
}

TEST(KeptAudit, FindingsOfMadeUpTakes) {
  Json kept = Json::array();
  for (unsigned seed = 1001; seed <= 1080; ++seed) {
    Dice dice(seed);
    const auto frames = static_cast<size_t>(dice.whole(20, 200));
    const ingest::FoundTake take = take_of(dice, frames);
    Look look = Seen(dice, frames).happen(dice.whole(0, 2));
    // The light follows the dials, but for a cloud now and then.
    for (size_t n = 0; n < frames; ++n)
      look.frames[n].stops +=
          static_cast<float>(*media::relative_stops((*take.frames)[n].info()) -
                             *media::relative_stops((*take.frames)[0].info()) + 0.02 * dice.normal());
    Planned planned;
    if (dice.chance(0.5))
      for (size_t n = 0; n < frames; ++n)
        planned.stops.push_back(*media::relative_stops((*take.frames)[n].info()) +
                                (dice.chance(0.02) ? dice.between(-1.5, 1.5) : 0));
    const auto faults = faults_of(take, look, planned);
    kept.push_back({{"faults", json_of(faults)}, {"findings", to_json(judge(take, look, faults))}});
  }
  test::hold(kept, "core/audit_findings");
}

TEST(KeptAudit, LanesAndTicksOfMadeUpTakes) {
  Json kept = Json::array();
  for (unsigned seed = 2001; seed <= 2012; ++seed) {
    Dice dice(seed);
    const auto frames = static_cast<size_t>(dice.whole(9, 60));
    const ingest::FoundTake take = take_of(dice, frames);
    const Look look = Seen(dice, frames).happen(1);
    Json lanes = Json::array();
    for (const Lane& lane : lanes_of(take, look, frames - 3)) {
      Json values = Json::array();
      for (size_t n = 0; n < lane.values.size(); n += 5)
        values.push_back(std::isnan(lane.values[n]) ? Json(nullptr) : Json(lane.values[n]));
      lanes.push_back({lane.name, lane.unit, lane.low, lane.high, values});
    }
    Json ticks = Json::array();
    for (const int most : {3, 8})
      for (const Tick& t : ticks_of(take, most))
        ticks.push_back({t.frame, t.at ? media::seconds_of(*t.at) : -1, t.with_seconds});
    kept.push_back({{"lanes", lanes}, {"ticks", ticks}});
  }
  test::hold(kept, "core/audit_lanes");
}

}  // namespace
}  // namespace askcount::inspect
