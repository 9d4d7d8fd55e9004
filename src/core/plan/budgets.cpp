// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/budgets.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "base/language.h"
#include "plan/camera_state.h"
#include "plan/flash.h"
#include "plan/power.h"

namespace askcount::plan {
namespace {

constexpr double kEndless = std::numeric_limits<double>::infinity();
constexpr int kLastFileNumber = 9999;

Budget budget(const std::string& name, double good_for, const Sums& sums) {
  Budget b;
  b.name = name;
  b.shots = good_for;
  const auto shots = static_cast<double>(shots_of(sums));
  b.share = std::isinf(good_for) ? 0 : good_for > 0 ? shots / good_for : 1e9;
  if (good_for < shots) {
    b.ends_at_frame = static_cast<long long>(good_for);
    b.ends_after_s = std::floor(good_for) * sums.interval_s;
  }
  return b;
}

/// Something that is used up and then changed for the next: a battery, or what is in the card slots together.
struct Piece {
  std::string name;
  double shots = 0;
};

std::vector<Piece> battery_pieces(const Sums& sums, const ShotMake& make, const Kit& kit,
                                  const Outing& outing) {
  std::vector<Piece> list;
  for (const Power& p : power_of(kit, outing))
    list.push_back({p.name, p.shots(sums.interval_s, make.brackets)});
  return list;
}

/// Two slots filled in turn hold the sum; with the same on both, or raw and compressed apart, the smaller
/// decides.
std::vector<Piece> card_pieces(const ShotMake& make, const Kit& kit, const Body& body) {
  const auto shots = [](const Card& c, double mb) {
    return std::floor(c.capacity_gb * 1000 / std::max(0.01, mb));
  };
  const bool split = make.cards == CardUse::Split && make.movie_mb <= 0;
  const double all = shot_mb(make, body), raw = make.brackets * body.raw_mb,
               compressed = make.brackets * body.compressed_mb;
  std::vector<Piece> list;
  for (size_t i = 0; i < kit.cards.size(); ++i) {
    const Card& first = kit.cards[i];
    if (body.card_slots < 2 || i + 1 >= kit.cards.size()) {
      list.push_back({first.name, shots(first, all)});
      continue;
    }
    const Card& second = kit.cards[++i];
    const double a = shots(first, split ? raw : all), b = shots(second, split ? compressed : all);
    list.push_back(
        {first.name + say(" and ") + second.name, make.cards == CardUse::InTurn ? a + b : std::min(a, b)});
  }
  return list;
}

/// ", 14 % less at 11 °C".
std::string cold_words(const Kit& kit, const Outing& outing) {
  const double share = cold_of(outing, kit.batteries.front().rated_at_c);
  if (share > 0.995) return {};
  return say(", {} % less at {} °C", format_number((1 - share) * 100, 0),
             format_number(outing.temperature_c, 0));
}

double sum_of(const std::vector<Piece>& pieces) {
  double sum = 0;
  for (const Piece& p : pieces) sum += p.shots;
  return sum;
}

}  // namespace

long long shots_of(const Sums& sums) {
  return sums.frames + sums.extra_shots;
}

double budget_axis(double shots, double take_shots) {
  if (!(shots > 0)) return 0;
  return std::clamp((std::log10(shots / std::max(1.0, take_shots)) + 1) / 3, 0.0, 1.0);
}

CameraLimits limits_of(const ShotMake& make, const Kit& kit) {
  const Body body = kit.bodies.empty() ? Body{} : kit.bodies.front();
  CameraLimits limits;
  limits.brackets = make.brackets;
  limits.shot_mb = shot_mb(make, body);
  limits.writing_s = body.writing_s;
  limits.dark_frames = make.dark_frames;
  limits.buffer_mb = body.buffer_mb;
  limits.drained_mb_s =
      std::min(body.write_mb_s, kit.cards.empty() ? body.write_mb_s : kit.cards.front().write_mb_s);
  for (const Piece& p : card_pieces(make, kit, body)) limits.cards_mb.push_back(p.shots * limits.shot_mb);
  return limits;
}

Buffering buffering_of(const Sums& sums, const ShotMake& make, const Kit& kit) {
  const Body body = kit.bodies.empty() ? Body{} : kit.bodies.front();
  CameraLimits limits = limits_of(make, kit);
  limits.power.clear();
  limits.cards_mb.clear();
  limits.writing_s = 0;  // busy is another matter
  const long long shots = shots_of(sums);
  Buffering b{shots, 0};
  if (limits.buffer_mb <= 0 || limits.shot_mb <= limits.drained_mb_s * sums.interval_s) return b;
  CameraState camera(limits);
  for (long long n = 0; n < std::min(shots, 1000000LL); ++n)
    if (camera.press(static_cast<double>(n) * sums.interval_s, 0, 0, 0) != Heard::Yes && b.lost++ == 0)
      b.fits = n;
  return b;
}

std::vector<Budget> budgets_of(const Sums& sums, const ShotMake& make, const Kit& kit, const Outing& outing) {
  const Body body = kit.bodies.empty() ? Body{} : kit.bodies.front();
  std::vector<Budget> list;
  const auto add = [&](const std::string& name, double good_for, const std::string& words) {
    list.push_back(budget(name, good_for, sums));
    list.back().words = words;
    list.back().example = name == "timer" ? !outing.timer_known : !outing.kit_known && !std::isinf(good_for);
  };
  const auto count = [](double n) { return format_count(static_cast<long long>(std::min(n, 1e15))); };
  if (outing.external_power && kit.power_banks.empty()) {
    add(to_say("battery"), kEndless, say("external power"));
  } else if (outing.external_power) {
    const double good = sum_of(battery_pieces(sums, make, kit, outing));
    const Seconds lasts = power_of(kit, outing).front().on_s + outing.waiting_s;
    add(to_say("power bank"), good,
        say("feeds {}, to frame {}", format_length(std::round(lasts / 60) * 60), count(good)));
  } else if (!kit.batteries.empty()) {
    const double good = sum_of(battery_pieces(sums, make, kit, outing));
    add(to_say("battery"), good,
        say("{} to frame {}{}{}",
            kit.batteries.size() > 1 ? say("{} last", kit.batteries.size()) : say("lasts"), count(good),
            cold_words(kit, outing), by_takes_words(kit.batteries.front().by_takes)));
  }
  if (!kit.cards.empty()) {
    const double good = sum_of(card_pieces(make, kit, body));
    add(to_say("card"), good,
        say("{} {} frames", kit.cards.size() > 1 ? say("{} hold", kit.cards.size()) : say("holds|a card"),
            count(good)));
  }
  if (const Buffering b = buffering_of(sums, make, kit); b.lost > 0)
    add(to_say("buffer"), static_cast<double>(b.fits),
        say("holds {}, then {} lost", count(static_cast<double>(b.fits)),
            counted(b.lost, "{} shot", "{} shots")));
  if (outing.timer_max_count > 0)
    add(to_say("timer"), static_cast<double>(outing.timer_max_count),
        say("stops at {}", format_count(outing.timer_max_count)));
  else
    add(to_say("timer"), kEndless, outing.timer_each_day ? say("counts anew each day") : say("endless"));
  const double numbers =
      std::floor(static_cast<double>(kLastFileNumber - body.next_file_number + 1) / make.brackets);
  if (make.movie_mb > 0)
    add(to_say("file numbers"), kEndless, say("one file"));
  else
    add(to_say("file numbers"), numbers, say("{} left", count(numbers * make.brackets)));
  if (body.shutter_life > 0) {
    const double left = std::floor(
        static_cast<double>(std::max(0LL, body.shutter_life - body.shutter_count)) / make.brackets);
    const double share =
        100.0 * static_cast<double>(shots_of(sums)) * make.brackets / static_cast<double>(body.shutter_life);
    add(to_say("shutter life"), left,
        say("{} of {}", format_number(share, share < 1 ? 2 : 0) + " %", format_count(body.shutter_life)));
  } else {
    add(to_say("shutter life"), kEndless, say("electronic, does not wear"));
  }
  if (outing.disk_free_gb > 0) {
    const double good = std::floor(outing.disk_free_gb * 1000 / std::max(0.01, shot_mb(make, body)));
    add(to_say("disk"), good, say("room for {}", count(good)));
  }
  if (outing.lamp && flash_of(kit)) {
    double flashes = 0;  // one an exposure, however long it is open
    for (const Lamp& l : kit.lamps) flashes += l.flashes * cold_of(outing);
    const double good = std::floor(flashes / std::max(1, make.brackets));
    add(to_say("lamp"), good, say("flashes {} times", format_count(static_cast<long long>(flashes))));
  } else if (outing.lamp && !kit.lamps.empty()) {
    double hours = 0;
    for (const Lamp& l : kit.lamps) hours += l.hours * cold_of(outing);
    const double good = std::floor(hours * 3600 / sums.interval_s);
    add(to_say("lamp"), good, say("burns {}", format_length(hours * 3600)));
  }
  return list;
}

double shots_with_screen_off(const Budget& battery, const Sums& sums, const Kit& kit, const Outing& outing) {
  if (kit.bodies.empty() || kit.batteries.empty()) return battery.shots;
  const Body& body = kit.bodies.front();
  double rated = 0, hours = 0;
  for (const Battery& b : kit.batteries) {
    rated += b.rated_shots * cold_of(outing, b.rated_at_c);
    hours += b.powered_hours * cold_of(outing, b.rated_at_c);
  }
  if (hours * 3600 / sums.interval_s >= rated || body.screen_w >= body.power_w) return battery.shots;
  return std::min(rated, std::floor(battery.shots * body.power_w / (body.power_w - body.screen_w)));
}

namespace {

/// What is gained by a screen that stays off.
std::string screen_words(const Budget& battery, const Sums& sums, const Kit& kit, const Outing& outing) {
  const double off = shots_with_screen_off(battery, sums, kit, outing);
  if (off < battery.shots + 1)
    return say("Their shots run out before their hours do: a dark screen gains little.");
  return say("With screen, picture review and sounds off they would last to about frame {}.",
             format_count(static_cast<long long>(off)));
}

/// What is said of a budget that ends before the take does.
struct EndWords {
  const char* budget;
  const char* code;
  Severity severity;
  const char* title;  ///< with the frame
  const char* then;   ///< what to do about it
};
constexpr EndWords kEnds[] = {
    {"file numbers", "numbers_roll_over", Severity::Warning, to_say("File numbers roll over at frame {}"),
     to_say("Reset the numbering first, so that the frames sort.")},
    {"timer", "timer_ends", Severity::Stop, to_say("The timer stops at frame {}"),
     to_say("Start it again there, or set it to endless.")},
    {"card", "card_ends", Severity::Stop, to_say("The card is full at frame {}"),
     to_say("Take a larger card, or shoot smaller files.")},
    {"battery", "battery_ends", Severity::Stop, to_say("Batteries run out at frame {}"),
     to_say("Bring more, or power the camera externally (kept dry, and away from mains outdoors).")},
    {"buffer", "buffer_fills", Severity::Stop, to_say("The buffer is full at frame {}"),
     to_say("Use a faster card, smaller files or a longer interval.")},
    {"power bank", "bank_ends", Severity::Stop, to_say("The power bank is empty at frame {}"),
     to_say("Bring another, or switch the heater on later.")},
    {"shutter life", "shutter_worn", Severity::Warning,
     to_say("The shutter passes its rated life at frame {}"),
     to_say("It may go on for long after that, or not.")},
    {"lamp", "lamp_ends", Severity::Stop, to_say("The lamp goes out at frame {}"),
     to_say("Power it externally, or bring more batteries for it.")},
    {"disk", "disk_full", Severity::Warning, to_say("The disk at home is full at frame {}"),
     to_say("Make room before you copy.")}};

/// The one of those that are known which ends first; null where all last.
const Budget* first_to_end(const std::vector<Budget>& budgets) {
  const Budget* first = nullptr;
  for (const Budget& b : budgets)
    if (b.ends_at_frame && !b.example && (!first || *b.ends_at_frame < *first->ends_at_frame)) first = &b;
  return first;
}

Finding end_of(const Budget& b, bool first, const Sums& sums, const ShotMake& make, const Kit& kit,
               const Outing& outing) {
  const auto found =
      std::find_if(std::begin(kEnds), std::end(kEnds), [&](const EndWords& w) { return b.name == w.budget; });
  const EndWords& words = found == std::end(kEnds) ? kEnds[std::size(kEnds) - 1] : *found;
  const long long shots = shots_of(sums);
  const std::string frame = format_count(*b.ends_at_frame), when = format_length(b.ends_after_s);
  const std::string planned = counted(shots, "{} shot is", "{} shots are");
  std::string text = first ? say("{} into the take, before anything else; {} planned.", when, planned)
                           : say("{} into the take; {} planned.", when, planned);
  if (b.name == "buffer")
    text += " " + counted(buffering_of(sums, make, kit).lost, "{} shot is lost.", "{} shots are lost.");
  text += " " + say(words.then);
  if (b.name == "battery") text += " " + screen_words(b, sums, kit, outing);
  return {words.code, words.severity, filled(say(words.title), words.title, fmt::make_format_args(frame)),
          text};
}

/// What has to be changed on the way; how often.
long long judge_swaps(Findings& list, const Sums& sums, const ShotMake& make, const Kit& kit,
                      const Outing& outing) {
  constexpr size_t kMost = 12;
  long long swaps = 0;
  for (const Swap& swap : swaps_of(sums, make, kit, outing)) {
    if (swap.to.empty() || !outing.kit_known) continue;
    ++swaps;
    list.push_back({"swap_" + swap.what, Severity::Warning, say("Change the {} on the way", swap.what),
                    say("{} for {} after frame {}, {} in: {}.", swap.from, swap.to,
                        format_count(swap.at_frame), format_length(swap.after_s), swap.words)});
    if (list.size() > kMost) break;
  }
  return swaps;
}

void judge_banks(Findings& list, const Kit& kit) {
  for (const PowerBank& b : kit.power_banks) {
    if (b.switches_off_below_w > kit.bodies.front().power_w)
      list.push_back(
          {"bank_switches_off", Severity::Stop, b.name + say(" switches itself off"),
           say("Loads under {} W do not keep it on, and the camera draws {} W. Use another, or let the "
               "heater keep it awake.",
               format_number(b.switches_off_below_w, 1), format_number(kit.bodies.front().power_w, 1))});
    if (b.has_button)
      list.push_back({"bank_button", Severity::Warning, say("Press the button of ") + b.name,
                      say("It gives no power before that; check that the camera really runs on it.")});
  }
}

}  // namespace

Findings judge(const std::vector<Budget>& budgets, const Sums& sums, const ShotMake& make, const Kit& kit,
               const Outing& outing) {
  Findings list;
  const Budget* first = first_to_end(budgets);
  for (const Budget& b : budgets)
    if (b.ends_at_frame && !b.example)
      list.push_back(end_of(b, &b == first && budgets.size() > 1, sums, make, kit, outing));
  const long long swaps = judge_swaps(list, sums, make, kit, outing);
  if (outing.kit_known && outing.external_power) judge_banks(list, kit);
  if (!outing.kit_known) {
    std::string words;
    for (const Budget& b : budgets)
      if (b.example) words += (words.empty() ? "" : ", ") + b.name + " " + b.words;
    list.push_back({"budgets_are_examples", Severity::Ok, say("What you bring is not set"),
                    say("By an example kit: ") + words + say(". Set up your kit for your own numbers.")});
  } else if (!first)
    list.push_back(
        {"budgets_last", Severity::Ok, swaps > 0 ? say("You bring enough") : say("Everything lasts"),
         say("{} are covered{}.", counted(shots_of(sums) * make.brackets, "{} exposure", "{} exposures"),
             swaps > 0 ? say(", with ") + counted(swaps, "{} change", "{} changes") + say(" on the way")
                       : "")});
  return list;
}

std::optional<Seconds> longest_interval(const Sums& sums, const Kit& kit, const Outing& outing) {
  if (outing.external_power || kit.batteries.empty()) return {};
  double hours = 0;
  for (const Battery& b : kit.batteries) hours += b.powered_hours * cold_of(outing, b.rated_at_c);
  return hours * 3600 / static_cast<double>(std::max(1LL, shots_of(sums)));
}

std::vector<Swap> swaps_of(const Sums& sums, const ShotMake& make, const Kit& kit, const Outing& outing) {
  constexpr long long kBefore = 2;
  std::vector<Swap> list;
  const long long shots = shots_of(sums);
  // Goes through what comes along, one used up after the other.
  const auto in_turn = [&](const std::string& what, const std::vector<Piece>& pieces,
                           const std::string& how) {
    double ends = 0;
    for (size_t i = 0; i < pieces.size(); ++i) {
      ends += pieces[i].shots;
      if (ends >= static_cast<double>(shots)) return;
      const long long at = std::max(1LL, static_cast<long long>(ends) - kBefore);
      list.push_back({what, pieces[i].name, i + 1 < pieces.size() ? pieces[i + 1].name : "", at,
                      static_cast<double>(at - 1) * sums.interval_s, how});
    }
  };
  if (!outing.external_power)
    in_turn("battery", battery_pieces(sums, make, kit, outing),
            say("right after a shot, one hand on the body and none on the lens; keep the fresh one warm in a "
                "pocket"));
  in_turn("card", card_pieces(make, kit, kit.bodies.empty() ? Body{} : kit.bodies.front()),
          say("right after a shot, once its light is out; open the door without leaning on the tripod"));
  if (outing.timer_max_count > 0)
    for (long long end = outing.timer_max_count; end < shots && list.size() < 1000;
         end += outing.timer_max_count)
      list.push_back({"timer", "", "", end, static_cast<double>(end - 1) * sums.interval_s,
                      say("start the timer again at once, so that no more than one interval is lost")});
  std::stable_sort(list.begin(), list.end(),
                   [](const Swap& a, const Swap& b) { return a.at_frame < b.at_frame; });
  return list;
}

}  // namespace askcount::plan
