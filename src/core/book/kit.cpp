// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/kit.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <nlohmann/json.hpp>
#include <set>
#include <tuple>

#include "advice/checklist.h"
#include "base/cold.h"
#include "base/language.h"
#include "base/median.h"
#include "base/units.h"

namespace askcount::book {
namespace {

using Bound = Measure::Bound;

constexpr double kBand_c = 10;         // batteries are told apart by ten degrees
constexpr double kDewFrom = 0.8;       // air that is called damp
constexpr double kSameShare = 0.05;    // two numbers that near are the same
constexpr double kDriftMatters_s = 3;  // in all of a take

const char* unit_of(const std::string& what) {
  static const std::map<std::string, const char*> units = {
      {"battery", "frames"},    {"battery hours", "h"}, {"writing", "s"}, {"buffer", "MB"},
      {"card", "MB/s"},         {"drift", "s/h"},       {"dials", "s"},   {"late clicks", "clicks"},
      {"releases", "releases"}, {"dew", "takes"}};
  const auto it = units.find(what);
  return it == units.end() ? "" : it->second;
}

/// What is put together: the same thing, and batteries in the same band of temperature.
using Group = std::tuple<std::string, std::string, int>;

struct FactWords {
  std::map<long long, std::vector<Measure>> by_take;
};

const plan::Battery* battery_named(const plan::Kit& kit, const std::string& name) {
  for (const plan::Battery& b : kit.batteries)
    if (b.name == name) return &b;
  return nullptr;
}

/// The middle one of the takes, with their spread.
void middle(KitFact& fact, const std::vector<double>& values) {
  fact.takes = static_cast<long long>(values.size());
  fact.value = median(values);
  fact.lowest = *std::min_element(values.begin(), values.end());
  fact.highest = *std::max_element(values.begin(), values.end());
}

/// Sums of all takes: releases, late clicks, dew.
std::optional<KitFact> summed(const Group& group, const FactWords& told) {
  KitFact fact;
  std::tie(fact.what, fact.gear, std::ignore) = group;
  const bool dew = fact.what == "dew";
  for (const auto& [take, list] : told.by_take)
    for (const Measure& m : list) {
      if (dew && m.humidity.value_or(0) < kDewFrom) continue;
      ++fact.takes;
      fact.value += m.value;
      fact.of += dew ? 1 : fact.what == "late clicks" ? m.planned : 0;
      if (fact.what == "releases") fact.planned = std::max(fact.planned, m.planned);
      fact.lowest = fact.takes == 1 ? m.value : std::min(fact.lowest, m.value);
      fact.highest = fact.takes == 1 ? m.value : std::max(fact.highest, m.value);
    }
  fact.humidity = dew ? kDewFrom : 0;
  if (fact.takes == 0) return {};
  return fact;
}

std::optional<KitFact> told_by(const Group& group, const FactWords& told, const plan::Kit& kit) {
  KitFact fact;
  std::tie(fact.what, fact.gear, std::ignore) = group;
  std::vector<double> exact, at_least, at_most, temperatures, rated, planned;
  const plan::Battery* battery = battery_named(kit, fact.gear);
  for (const auto& [take, list] : told.by_take) {
    std::vector<double> own;
    for (const Measure& m : list) {
      if (m.bound == Bound::Exact) own.push_back(m.value);
      if (m.planned > 0) planned.push_back(m.planned);
      if (m.temperature_c) temperatures.push_back(*m.temperature_c);
    }
    if (!own.empty()) {
      exact.push_back(fact.what == "dials" ? *std::max_element(own.begin(), own.end()) : median(own));
      if (battery && list.front().temperature_c)
        rated.push_back(exact.back() / cold_share(*list.front().temperature_c, battery->rated_at_c));
    }
    for (const Measure& m : list) {
      if (m.bound == Bound::AtLeast) at_least.push_back(m.value);
      if (m.bound == Bound::AtMost) at_most.push_back(m.value);
    }
  }
  if (!exact.empty()) {
    middle(fact, exact);
  } else if (!at_least.empty()) {
    middle(fact, at_least);
    fact.value = fact.highest;
    fact.bound = Bound::AtLeast;
  } else if (!at_most.empty()) {
    middle(fact, at_most);
    fact.value = fact.lowest;
    fact.bound = Bound::AtMost;
  } else {
    return {};
  }
  if (!planned.empty()) fact.planned = median(planned);
  // A bound that the plan keeps anyway says nothing.
  if (fact.bound == Bound::AtLeast && !(fact.planned > 0 && fact.value > fact.planned)) return {};
  if (fact.bound == Bound::AtMost && !(fact.value < fact.planned)) return {};
  if (!temperatures.empty() && fact.what.starts_with("battery")) fact.at_c = median(temperatures);
  if (!rated.empty()) fact.rated = median(rated);
  return fact;
}

/// As many digits as such a number deserves.
int decimals_of(const std::string& unit, double value) {
  if (unit == "frames" || unit == "releases" || unit == "takes" || unit == "clicks") return 0;
  return std::abs(value) < 10 ? 1 : 0;
}

std::string number(const KitFact& f, double value) {
  const int decimals = decimals_of(f.unit, value);
  return decimals == 0 ? format_count(std::llround(value)) : format_number(value, decimals);
}

std::string bound_words(Bound bound) {
  return bound == Bound::Exact ? "" : std::string(bound_word(bound)) + " ";
}

std::string title_of(const KitFact& f) {
  const std::string value = bound_words(f.bound) + number(f, f.value);
  if (f.what == "battery")
    return say("{}: {} frames at {} °C", f.gear, value, format_number(f.at_c.value_or(20), 0));
  if (f.what == "battery hours")
    return say("{}: {} h at {} °C", f.gear, value, format_number(f.at_c.value_or(20), 0));
  if (f.what == "writing") return say("Writing takes {} s", value);
  if (f.what == "buffer") return say("The buffer holds {} MB", value);
  if (f.what == "card") return say("{}: {} MB/s", f.gear.empty() ? say("The card") : f.gear, value);
  if (f.what == "drift")
    return std::abs(f.value) < 0.05 ? say("{} keeps its time", f.gear)
                                    : say("{} runs {} s {} an hour", f.gear, number(f, std::abs(f.value)),
                                          f.value > 0 ? say("slow") : say("fast"));
  if (f.what == "dials") return say("A click takes you {} s", value);
  if (f.what == "late clicks")
    return say("{} of {} came late", number(f, f.value),
               counted(std::llround(f.of), "{} click", "{} clicks"));
  if (f.what == "releases") return say("{}: {} releases", f.gear, value);
  return say("Dew came in {} of {}", number(f, f.value),
             counted(std::llround(f.of), "{} damp take", "{} damp takes"));
}

std::string text_of(const KitFact& f) {
  std::string text = f.simulated ? say("In {} of the stand-in", counted(f.takes, "{} take", "{} takes"))
                                 : say("In {}", counted(f.takes, "{} take", "{} takes"));
  if (f.what == "dew")
    return say("Air of {} % and more. The heater belongs on the list there.", std::lround(f.humidity * 100));
  if (f.what == "late clicks") return text + say(", by their journals.");
  if (f.what == "releases" && f.simulated) return text + ".";
  if (f.what == "releases")
    return text + (f.planned > 0
                       ? say(" of the book; the kit says {} in all.", format_count(std::llround(f.planned)))
                       : say(" of the book."));
  const bool spread = f.takes > 1 && number(f, f.lowest) != number(f, f.highest);
  if (spread) text += say(", {} to {}", number(f, f.lowest), number(f, f.highest));
  if (f.what == "dials") text += say(", the slowest of each");
  if (f.planned > 0) text += say(", against {} estimated", number(f, f.planned));
  text += ".";
  if (f.what == "drift" && std::abs(f.value) > 0.05)
    text += std::abs(f.value) * 3 < kDriftMatters_s ? say(" Too little to matter below 3 h.")
                                                    : say(" Read the clock off the frames.");
  return text;
}

bool same(double a, double b) {
  return std::abs(a - b) <= kSameShare * std::max(std::abs(a), std::abs(b));
}

/// The press that brings a fact into the kit; nothing where the kit says so already, or has no such thing.
std::optional<Fix> fix_of(const KitFact& f, const plan::Kit& kit, double turning_s) {
  const auto into = [&](fix::Learn::What what, double value, double had) -> std::optional<Fix> {
    if (value <= 0 || f.simulated || same(value, had)) return {};
    return fix::Learn{what, value, f.gear, f.takes};
  };
  const bool exact = f.bound == Bound::Exact;
  if (f.what == "battery" || f.what == "battery hours") {
    const plan::Battery* b = battery_named(kit, f.gear);
    if (!b || !f.rated || !exact) return {};
    return f.what == "battery"
               ? into(fix::Learn::What::BatteryShots, std::round(*f.rated), b->rated_shots)
               : into(fix::Learn::What::BatteryHours, std::round(*f.rated * 10) / 10, b->powered_hours);
  }
  if (f.what == "writing")
    for (const plan::Body& b : kit.bodies)
      if (b.name == f.gear && (exact || f.value < b.writing_s))
        return into(fix::Learn::What::Writing, std::round(f.value * 100) / 100, b.writing_s);
  if (f.what == "card")
    for (const plan::Card& c : kit.cards)
      if (c.name == f.gear && (exact || f.value > c.write_mb_s))
        return into(fix::Learn::What::CardRate, std::round(f.value * 10) / 10, c.write_mb_s);
  if (f.what == "dials" && turning_s > 0)
    return into(fix::Learn::What::Turning, std::ceil(f.value * 2) / 2, turning_s);
  return {};
}

}  // namespace

std::vector<KitFact> kit_facts(const std::vector<TakeMeasure>& measures, const plan::Kit& kit) {
  std::map<Group, FactWords> groups;
  // What a take of the stand-in says does not count where one of the person's says it too.
  std::set<std::pair<std::string, std::string>> own;
  for (const TakeMeasure& m : measures)
    if (!m.simulated) own.insert({m.measure.what, m.measure.gear});
  for (const TakeMeasure& m : measures) {
    const bool battery = m.measure.what.starts_with("battery");
    if (m.simulated && (battery || own.contains({m.measure.what, m.measure.gear}))) continue;
    const int band = battery && m.measure.temperature_c
                         ? static_cast<int>(std::floor(*m.measure.temperature_c / kBand_c))
                         : 0;
    groups[{m.measure.what, m.measure.gear, band}].by_take[m.take].push_back(m.measure);
  }
  static constexpr const char* order[] = {"battery", "battery hours", "writing",     "buffer", "card",
                                          "drift",   "dials",         "late clicks", "dew",    "releases"};
  std::vector<KitFact> facts;
  for (const char* what : order)
    for (const auto& [group, told] : groups) {
      if (std::get<0>(group) != what) continue;
      const bool sum =
          std::string(what) == "late clicks" || std::string(what) == "dew" || std::string(what) == "releases";
      if (auto fact = sum ? summed(group, told) : told_by(group, told, kit)) {
        fact->unit = unit_of(what);
        fact->simulated = !own.contains({fact->what, fact->gear});
        facts.push_back(std::move(*fact));
      }
    }
  return facts;
}

Findings judge(const std::vector<KitFact>& facts, const plan::Kit& kit, double turning_s) {
  Findings list;
  for (const KitFact& f : facts) {
    Finding finding{"kit_" + f.what, Severity::Ok, title_of(f), text_of(f), fix_of(f, kit, turning_s)};
    std::replace(finding.code.begin(), finding.code.end(), ' ', '_');
    if (finding.fix) {
      const bool worse = f.what.starts_with("battery") || f.what == "card"
                             ? f.planned > 0 && f.value < f.planned
                             : f.planned > 0 && f.value > f.planned;
      if (worse) finding.severity = Severity::Warning;
    }
    if (f.what == "late clicks" && f.value * 10 > f.of) finding.severity = Severity::Warning;
    if (f.what == "dew" && f.value > 0) finding.severity = Severity::Warning;
    list.push_back(std::move(finding));
  }
  return list;
}

Findings judge_mistakes(const std::map<std::string, long long>& mistakes,
                        const std::map<std::string, long long>& again) {
  std::vector<std::pair<long long, std::string>> often;
  for (const auto& [code, takes] : mistakes)
    if (takes > 1) often.emplace_back(takes, code);
  std::stable_sort(often.begin(), often.end(),
                   [](const auto& a, const auto& b) { return a.first > b.first; });
  Findings list;
  for (const auto& [takes, code] : often) {
    const auto item = advice::against(code, takes);
    if (!item) continue;
    const bool there = again.contains(code);
    list.push_back({"mistake_" + code, Severity::Warning, item->why, item->what + ".",
                    there ? std::nullopt : std::optional<Fix>(fix::Remind{code, takes})});
  }
  return list;
}

Findings judge_practice(const std::vector<Score>& scores) {
  Findings list;
  std::map<std::string, std::vector<double>> timers;
  std::vector<double> dusks;
  for (const Score& s : scores) (s.kind == "timer" ? timers[s.of] : dusks).push_back(s.value);
  for (const auto& [timer, seconds] : timers) {
    const double best = *std::min_element(seconds.begin(), seconds.end());
    const std::string tries = seconds.size() > 1
                                  ? say("The first of {} tries took {}, the last {}.", seconds.size(),
                                        format_length(seconds.front(), 0), format_length(seconds.back(), 0))
                                  : say("One try so far.");
    list.push_back({"practice", Severity::Ok, say("{} in {}", timer, format_length(best, 0)), tries});
  }
  if (!dusks.empty())
    list.push_back(
        {"rehearsal", Severity::Ok,
         say("A dusk rehearsed: {} of 100", format_number(*std::max_element(dusks.begin(), dusks.end()), 0)),
         dusks.size() > 1 ? say("{} tries, the first {}, the last {}.", dusks.size(),
                                format_number(dusks.front(), 0), format_number(dusks.back(), 0))
                          : say("One try so far.")});
  return list;
}

Json answer_json(const KitFact& f) {
  const int decimals = f.unit == "s" || f.unit == "s/h" ? 3 : 2;
  return {{"what", f.what},
          {"gear", f.gear},
          {"value", rounded(f.value, decimals)},
          {"unit", f.unit},
          {"takes", f.takes},
          {"spread", rounded(f.highest - f.lowest, decimals)},
          {"lowest", rounded(f.lowest, decimals)},
          {"highest", rounded(f.highest, decimals)},
          {"planned", f.planned > 0 ? Json(rounded(f.planned, decimals)) : Json(nullptr)},
          {"of", f.of > 0 ? Json(f.of) : Json(nullptr)},
          {"simulated", f.simulated},
          {"bound", bound_word(f.bound)},
          {"at_c", f.at_c ? Json(rounded(*f.at_c, 1)) : Json(nullptr)}};
}

}  // namespace askcount::book
