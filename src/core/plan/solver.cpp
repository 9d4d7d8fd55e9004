// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/solver.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount::plan {
namespace {

constexpr double kUsualGap_s = 1.5;  // left beside a usual shutter: writing, and a little
constexpr double kHeadSum = 0.1;     // of an interval: nearer to a whole one it is how people count
constexpr double kSlack = 0.005;     // how far a written wish may be off what follows, as a share

// What a product of doubles may be off by, and no more: a billion frames stay a billion.
double slack(double x) {
  return 1e-9 + 1e-15 * std::abs(x);
}
double whole_up(double x) {
  return std::max(1.0, std::ceil(x - slack(x)));
}
double whole_down(double x) {
  return std::floor(x + slack(x));
}

/// The slots known so far, and the rules that make more of them known.
class Board {
 public:
  explicit Board(const ShotShape& shape) : shape_(shape) {}

  std::array<std::optional<double>, kSlots> value;
  std::array<Relation, kSlots> by{};

  void put(Slot slot, double v, Relation relation) {
    auto& place = value[static_cast<size_t>(slot)];
    if (place) return;
    place = v;
    by[static_cast<size_t>(slot)] = relation;
    changed_ = true;
  }

  void spread() {
    do {
      changed_ = false;
      count();
      speed();
      crossing();
      shot();
      field();
    } while (changed_ && sound());
  }

  /// Every value can stand and every relation with all its slots known holds.
  bool consistent() const;

 private:
  const std::optional<double>& at(Slot s) const { return value[static_cast<size_t>(s)]; }
  bool has(Slot a) const { return at(a).has_value(); }
  bool has(Slot a, Slot b) const { return has(a) && has(b); }
  double get(Slot s) const { return *at(s); }
  double length() const { return shape_.open_factor * get(Slot::Shutter) + shape_.extra_s; }
  bool sound() const {
    return std::all_of(value.begin(), value.end(), [](const auto& v) { return !v || std::isfinite(*v); });
  }

  /// a = b × c in all three directions.
  void product(Slot a, Slot b, Slot c, Relation r) {
    if (has(b, c)) put(a, get(b) * get(c), r);
    if (has(a, c)) put(b, get(a) / get(c), r);
    if (has(a, b)) put(c, get(a) / get(b), r);
  }

  void count() {
    if (has(Slot::Clip, Slot::Fps))
      put(Slot::Frames, whole_up(get(Slot::Clip) * get(Slot::Fps)), Relation::Count);
    if (has(Slot::Frames, Slot::Fps)) put(Slot::Clip, get(Slot::Frames) / get(Slot::Fps), Relation::Count);
    if (has(Slot::Frames, Slot::Clip)) put(Slot::Fps, get(Slot::Frames) / get(Slot::Clip), Relation::Count);
  }

  void speed() { product(Slot::SpeedUp, Slot::Interval, Slot::Fps, Relation::SpeedUp); }

  void crossing() {
    product(Slot::FieldCrossing, Slot::SpeedUp, Slot::ScreenCrossing, Relation::Crossing);
    product(Slot::Interval, Slot::Step, Slot::FieldCrossing, Relation::Step);
    if (has(Slot::ScreenCrossing, Slot::Fps))
      put(Slot::Step, 1 / (get(Slot::ScreenCrossing) * get(Slot::Fps)), Relation::ScreenStep);
    if (has(Slot::Step, Slot::Fps))
      put(Slot::ScreenCrossing, 1 / (get(Slot::Step) * get(Slot::Fps)), Relation::ScreenStep);
    if (has(Slot::Step, Slot::ScreenCrossing))
      put(Slot::Fps, 1 / (get(Slot::Step) * get(Slot::ScreenCrossing)), Relation::ScreenStep);
  }

  void shot() {
    product(Slot::Shutter, Slot::Trail, Slot::Interval, Relation::Trail);
    if (has(Slot::Interval, Slot::Shutter)) put(Slot::Gap, get(Slot::Interval) - length(), Relation::Gap);
    if (has(Slot::Gap, Slot::Shutter)) put(Slot::Interval, get(Slot::Gap) + length(), Relation::Gap);
    if (has(Slot::Gap, Slot::Interval))
      put(Slot::Shutter, (get(Slot::Interval) - get(Slot::Gap) - shape_.extra_s) / shape_.open_factor,
          Relation::Gap);
    if (has(Slot::Gap, Slot::Trail) && shape_.open_factor * get(Slot::Trail) < 1)
      put(Slot::Interval, (get(Slot::Gap) + shape_.extra_s) / (1 - shape_.open_factor * get(Slot::Trail)),
          Relation::Gap);
  }

  void field() {
    const double extra = static_cast<double>(shape_.extra_shots);
    if (has(Slot::Frames, Slot::Interval) && has(Slot::Shutter))
      put(Slot::Field, (get(Slot::Frames) + extra - 1) * get(Slot::Interval) + length(), Relation::Field);
    if (!has(Slot::Field)) return;
    const double f = get(Slot::Field);
    if (has(Slot::Interval, Slot::Shutter))
      put(Slot::Frames, whole_down((f - length()) / get(Slot::Interval)) + 1 - extra, Relation::Field);
    if (!has(Slot::Frames)) return;
    const double n = get(Slot::Frames) + extra;
    if (has(Slot::Gap))
      put(Slot::Interval, (f + get(Slot::Gap)) / n, Relation::Field);
    else if (has(Slot::Trail))
      put(Slot::Interval, (f - shape_.extra_s) / (n - 1 + shape_.open_factor * get(Slot::Trail)),
          Relation::Field);
    else if (has(Slot::Shutter) && n > 1)
      put(Slot::Interval, (f - length()) / (n - 1), Relation::Field);
    else if (has(Slot::Interval)) {
      // What is left over for the last shot is its length, where that fits into an interval. Frames times
      // interval is a head sum, and says nothing of the shutter.
      const double last = f - (n - 1) * get(Slot::Interval);
      if (last > shape_.extra_s && last < get(Slot::Interval) * (1 - kHeadSum))
        put(Slot::Shutter, (last - shape_.extra_s) / shape_.open_factor, Relation::Field);
    }
  }

  ShotShape shape_;
  bool changed_ = false;
};

bool near(double a, double b) {
  return std::abs(a - b) <= kSlack * std::max(std::abs(a), std::abs(b));
}

bool Board::consistent() const {
  for (const Slot s : kAllSlots) {
    if (!has(s)) continue;
    const double v = get(s);
    // A gap below zero is a judgement (the interval is too short), not a contradiction.
    if (!std::isfinite(v) || (s != Slot::Gap && v <= 0)) return false;
    if (s == Slot::Fps && (v < 0.999 || v > 1000.5)) return false;
  }
  const auto product_holds = [this](Slot a, Slot b, Slot c) {
    return !has(a) || !has(b, c) || near(get(a), get(b) * get(c));
  };
  if (has(Slot::Clip, Slot::Fps) && has(Slot::Frames)) {
    const double n = get(Slot::Frames), exact = get(Slot::Clip) * get(Slot::Fps);
    if (n != whole_up(exact) && std::abs(n - exact) > 0.01) return false;
  }
  if (!product_holds(Slot::SpeedUp, Slot::Interval, Slot::Fps)) return false;
  if (!product_holds(Slot::FieldCrossing, Slot::SpeedUp, Slot::ScreenCrossing)) return false;
  if (!product_holds(Slot::Interval, Slot::Step, Slot::FieldCrossing)) return false;
  if (has(Slot::Step, Slot::Fps) && has(Slot::ScreenCrossing) &&
      !near(1, get(Slot::Step) * get(Slot::Fps) * get(Slot::ScreenCrossing)))
    return false;
  if (!product_holds(Slot::Shutter, Slot::Trail, Slot::Interval)) return false;
  if (has(Slot::Field, Slot::Frames) && has(Slot::Interval) && !has(Slot::Shutter)) {
    // From the first opening to the last: a frame more or less is how people count.
    const double whole =
        (get(Slot::Frames) + static_cast<double>(shape_.extra_shots) - 1) * get(Slot::Interval);
    if (get(Slot::Field) < whole - get(Slot::Interval) || get(Slot::Field) > whole + 2 * get(Slot::Interval))
      return false;
  }
  if (has(Slot::Shutter, Slot::Interval)) {
    if (has(Slot::Gap) &&
        std::abs(get(Slot::Gap) - (get(Slot::Interval) - length())) > kSlack * get(Slot::Interval))
      return false;
    if (has(Slot::Field, Slot::Frames)) {
      const double whole =
          (get(Slot::Frames) + static_cast<double>(shape_.extra_shots) - 1) * get(Slot::Interval) + length();
      if (std::abs(get(Slot::Field) - whole) > get(Slot::Interval) * (1 + kSlack)) return false;
    }
  }
  return true;
}

Board board_of(const std::vector<Wish>& wishes, const ShotShape& shape) {
  Board board(shape);
  for (const Wish& w : wishes) board.put(w.slot, w.value, Relation::Wished);
  board.spread();
  return board;
}

/// The wishes held that, left out, would let `wish` in; all of them where no single one would.
Conflict conflict_of(const Wish& wish, const std::vector<Wish>& held, const ShotShape& shape) {
  Conflict conflict;
  conflict.wish = wish.slot;
  for (size_t i = held.size(); i-- > 0;) {
    std::vector<Wish> fewer = held;
    fewer.erase(fewer.begin() + static_cast<long>(i));
    fewer.push_back(wish);
    if (board_of(fewer, shape).consistent()) conflict.because_of.push_back(held[i].slot);
  }
  if (conflict.because_of.empty())
    for (const Wish& k : held) conflict.because_of.push_back(k.slot);
  conflict.would_be = board_of(held, shape).value[static_cast<size_t>(wish.slot)];
  return conflict;
}

/// The same with the shutter that is assumed where it stays open, if one can be.
Board with_usual_shutter(const Board& board, const ShotShape& shape, double assumed_trail) {
  if (board.value[static_cast<size_t>(Slot::Shutter)]) return board;
  Board assumed = board;
  const auto& interval = board.value[static_cast<size_t>(Slot::Interval)];
  if (shape.usual_shutter_s > 0)
    assumed.put(Slot::Shutter,
                interval ? std::min(shape.usual_shutter_s, std::max(*interval / 2, *interval - kUsualGap_s))
                         : shape.usual_shutter_s,
                Relation::Assumed);
  else
    // Of a bracket all exposures together: the whole shot is to fit.
    assumed.put(Slot::Trail, assumed_trail / std::max(1.0, shape.open_factor), Relation::Assumed);
  assumed.spread();
  return assumed.consistent() ? assumed : board;
}

/// Where the interval follows from a field time: the same with a round interval, if one is within a frame of
/// it. "20 min" is meant as shots × interval as often as from the first opening to the last closing.
std::optional<Board> with_round_interval(const Board& board, const std::vector<Wish>& held,
                                         const ShotShape& shape) {
  const auto at = [&board](Slot s) { return board.value[static_cast<size_t>(s)]; };
  if (board.by[static_cast<size_t>(Slot::Interval)] != Relation::Field || !at(Slot::Frames)) return {};
  const double exact = *at(Slot::Interval),
               shots = *at(Slot::Frames) + static_cast<double>(shape.extra_shots);
  for (const double unit : {1.0, 0.5, 0.1}) {
    const double round = std::round(exact / unit) * unit;
    if (round < unit || std::abs(round - exact) < 1e-9 || std::abs(round - exact) * (shots - 1) > exact)
      continue;
    Board more(shape);
    for (const Wish& w : held) more.put(w.slot, w.value, Relation::Wished);
    more.put(Slot::Interval, round, Relation::Field);
    for (const Slot s : {Slot::Shutter, Slot::Trail})  // what was assumed stays assumed
      if (board.by[static_cast<size_t>(s)] == Relation::Assumed) more.put(s, *at(s), Relation::Assumed);
    more.spread();
    if (more.consistent()) return more;
  }
  return {};
}

}  // namespace

bool Solution::complete() const {
  return (*this)[Slot::Frames] && (*this)[Slot::Fps] && (*this)[Slot::Interval] && (*this)[Slot::Shutter];
}

Solution solve(const std::vector<Wish>& wishes, const ShotShape& shape, double assumed_trail,
               const std::vector<Wish>& proposals) {
  Solution solution;
  std::vector<Wish> held;
  for (const Wish& wish : wishes) {
    check_slot(wish.slot, wish.value);
    std::vector<Wish> more = held;
    more.push_back(wish);
    const Board board = board_of(more, shape);
    const bool said =
        std::any_of(held.begin(), held.end(), [&](const Wish& k) { return k.slot == wish.slot; });
    if (!said && board.consistent()) {
      held.push_back(wish);
      solution.held.push_back(wish.slot);
    } else if (wish.pinned) {
      solution.conflicts.push_back(conflict_of(wish, held, shape));
    } else {
      solution.gave_way.push_back(wish.slot);
    }
  }
  Board board = board_of(held, shape);
  // A slot that the usual shutter leads to needs no proposal.
  for (const Wish& w : proposals)
    if (!with_usual_shutter(board, shape, assumed_trail).value[static_cast<size_t>(w.slot)]) {
      Board more = board;
      more.put(w.slot, w.value, Relation::Proposed);
      more.spread();
      if (more.consistent()) board = more;
    }
  board = with_usual_shutter(board, shape, assumed_trail);
  if (const auto round = with_round_interval(board, held, shape)) board = *round;
  solution.values = board.value;
  solution.by = board.by;
  for (const Wish& k : held) solution.asked[static_cast<size_t>(k.slot)] = k.value;
  if (solution.complete()) {  // say what will really be: whole frames decide the lengths
    auto& v = solution.values;
    const double n = *solution[Slot::Frames], t = *solution[Slot::Interval];
    v[static_cast<size_t>(Slot::Clip)] = n / *solution[Slot::Fps];
    v[static_cast<size_t>(Slot::Field)] = (n + static_cast<double>(shape.extra_shots) - 1) * t +
                                          shape.open_factor * *solution[Slot::Shutter] + shape.extra_s;
  }
  return solution;
}

std::string missing_words(const Solution& s, Naming naming) {
  const auto name = [naming](Slot slot) {
    return naming == Naming::Options ? std::string("--") + slot_word(slot) : slot_name(slot);
  };
  const std::string verb = naming == Naming::Options ? "Add" : say("Say");
  if (!s[Slot::Fps])
    return say("The frame rate is open. {} {}, or {} together with {}.", verb, name(Slot::Fps),
               name(Slot::Clip), name(Slot::Frames));
  if (!s[Slot::Frames] && !s[Slot::Interval])
    return say(
        "Too little to count from: the number of frames and the interval are open. {} {} or {}, and {} "
        "or {}.",
        verb, name(Slot::Clip), name(Slot::Frames), name(Slot::Interval), name(Slot::Field));
  if (!s[Slot::Frames])
    return say("The number of frames is open. {} {}, {} or {}.", verb, name(Slot::Clip), name(Slot::Frames),
               name(Slot::Field));
  if (!s[Slot::Interval])
    return say("The interval is open. {} {}, {}, {}, or {} with {}.", verb, name(Slot::Interval),
               name(Slot::Field), name(Slot::SpeedUp), name(Slot::FieldCrossing), name(Slot::ScreenCrossing));
  if (!s[Slot::Shutter])
    return say("The shutter is open. {} {}, {} or {}.", verb, name(Slot::Trail), name(Slot::Shutter),
               name(Slot::Gap));
  return {};
}

std::string conflict_words(const Conflict& conflict, const std::vector<Wish>& wishes, Naming naming) {
  const auto said = [&](Slot slot) {
    std::string name = naming == Naming::Options ? std::string("--") + slot_word(slot) : slot_name(slot);
    for (const Wish& w : wishes)
      if (w.slot == slot)
        return name + (naming == Naming::Options ? " " : say(" of ")) + format_slot(slot, w.value);
    return name;
  };
  std::string others;
  for (auto it = conflict.because_of.rbegin(); it != conflict.because_of.rend(); ++it)
    others += (others.empty() ? "" : (std::next(it) == conflict.because_of.rend() ? say(" and ") : ", ")) +
              said(*it);
  std::string line = say("{} contradicts {}", said(conflict.wish), others);
  if (naming == Naming::Words) line[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(line[0])));
  if (conflict.would_be && *conflict.would_be > 0)
    line += say(", which ask for {}", format_slot(conflict.wish, *conflict.would_be));
  line += say(". Leave one of them out.");
  // Where lengths do not add up the sum is shown.
  const auto value = [&](Slot slot) -> std::optional<double> {
    for (const Wish& w : wishes)
      if (w.slot == slot) return w.value;
    return {};
  };
  std::optional<double> frames = value(Slot::Frames);
  if (!frames && value(Slot::Clip) && value(Slot::Fps))
    frames = whole_up(*value(Slot::Clip) * *value(Slot::Fps));
  const bool of_field = conflict.wish == Slot::Field ||
                        std::find(conflict.because_of.begin(), conflict.because_of.end(), Slot::Field) !=
                            conflict.because_of.end();
  if (of_field && frames && *frames > 1 && value(Slot::Interval))
    line += say(" {} × {} is {} and the last shot.", format_count(static_cast<long long>(*frames) - 1),
                format_slot(Slot::Interval, *value(Slot::Interval)),
                format_length((*frames - 1) * *value(Slot::Interval)));
  return line;
}

}  // namespace askcount::plan
