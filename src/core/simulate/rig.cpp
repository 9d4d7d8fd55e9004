// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/rig.h"

#include <fmt/format.h>
#include <tbb/parallel_pipeline.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <fstream>
#include <limits>
#include <memory>
#include <optional>
#include <random>
#include <thread>

#include "base/error.h"
#include "base/files.h"
#include "base/json.h"
#include "plan/budgets.h"
#include "plan/power.h"
#include "simulate/card.h"
#include "simulate/harm.h"
#include "simulate/raw.h"
#include "simulate/scene.h"

namespace askcount::simulate {
namespace {

constexpr size_t kInFlight = 4;
constexpr char kMarker[] = "marker";

/// One exposure to be made.
struct Exposed {
  Instant start;
  double open_s = 0;
  ramp::Exposure exposure;
  double error_stops = 0;
  double filter_stops = 0;
  FrameHarm harm;
  int number = 0;  // of its file
};

/// What the serial part decided about one press: exposures to make, and what to tell before them.
struct Planned {
  std::vector<RigEvent> before;
  RigEvent shot;
  std::vector<Exposed> exposures;
};

struct Made {
  Planned plan;
  std::vector<std::pair<std::string, media::Bytes>> files;  // relative names; raw ones are written straight
};

/// Sees what was planned and makes its files: of each exposure a raw file, which is written at once, a
/// compressed one, which is kept as bytes, or both.
void make_files(Made& made, const Scene& scene, const RigSetting& s) {
  for (const Exposed& x : made.plan.exposures) {
    const bool marker = made.plan.shot.what == kMarker;
    const auto clock = camera_clock(later(x.start, x.harm.clock_s), s.zone);
    const std::string name = file_stem(x.number);
    const auto at = static_cast<std::uint64_t>(x.number - s.first_number);
    image::Linear32 seen;
    if (!marker && !x.harm.hand) {
      seen = scene.seen(x.start, x.open_s);
      apply_harm(x.harm, seen);
      if (!s.camera.flaws.none()) through_glass(s.camera.flaws, s.camera.seed, seen);
    }
    const double error_stops = x.error_stops - x.filter_stops + s.light_stops;
    if (s.raw && !seen.rgb.empty()) {
      make_folder_of(s.card / (name + ".DNG"));
      write_raw(seen, {x.exposure, error_stops, clock, at}, s.camera, s.card / (name + ".DNG"));
      made.files.emplace_back(name + ".DNG", media::Bytes{});
    }
    if (!s.compressed && !seen.rgb.empty()) continue;
    const image::Coded8 picture =
        seen.rgb.empty() ? marker_picture(s.size) : develop(seen, x.exposure, error_stops, s.camera, at);
    made.files.emplace_back(name + ".JPG", camera_file(picture, x.exposure, clock, s.camera));
  }
}

/// Writes what is not on the card yet; the names of all stand in the event then.
void put_on_card(Made& made, const RigSetting& s) {
  for (const auto& [name, bytes] : made.files) {
    if (!bytes.empty()) {
      make_folder_of(s.card / name);
      const std::string_view content(reinterpret_cast<const char*>(bytes.data()), bytes.size());
      note_written(s.card / name, content);
      write_file_atomically({s.card / name, FileKind::Frame}, content, Flush::No);
    }
    made.plan.shot.files.push_back(name);
  }
}

}  // namespace

/// The state of one run, gone through press by press.
struct Rig::Run {
  const RigSetting& s;
  Rig& rig;
  std::stop_token stop;
  Seconds interval_s = 0, hold_s = 0;
  long long presses = 0;
  std::vector<Fault> faults;
  ramp::Exposure now;
  size_t next_click = 0;
  plan::Schedule schedule;
  plan::CameraState camera;
  double last_at = 0;
  long long press = 0, frame = 0, shots = 0, missed = 0, total = 0;
  int number = 0, test = 0;
  enum class Stage { Tests, FirstMarker, Take, Over } stage = Stage::Tests;
  bool told_dead = false, told_full = false;
  std::chrono::steady_clock::time_point began;
  double halted_s = 0;  // real seconds spent paused

  Run(Rig& r, std::stop_token token)
      : s(r.setting_), rig(r), stop(std::move(token)), camera(limits_of(r.setting_)) {
    hold_s = s.timer.holds ? s.hold_s : 0.2;
    interval_s = s.timer.counts == plan::Counts::Gap ? hold_s + s.time_s : s.time_s;
    presses = s.count > 0 ? s.count : kMostShots;
    schedule = plan::Schedule({s.start, s.zone, std::max(1e-3, interval_s), presses, s.work});
    faults = s.faults;
    const auto more = chance_faults(s.chance, presses, s.camera.seed);
    faults.insert(faults.end(), more.begin(), more.end());
    now = s.exposure;
    number = s.first_number;
    total = s.test_shots + presses + (s.markers ? 2 : 0);
    began = std::chrono::steady_clock::now();
  }

  /// Waits until the world has come so far; false once stopped.
  bool wait_until(double field_s) {
    if (s.scale <= 0) {
      while (rig.paused_ && !stop.stop_requested()) std::this_thread::sleep_for(std::chrono::milliseconds(5));
      return !stop.stop_requested();
    }
    for (;;) {
      if (stop.stop_requested()) return false;
      const auto real = std::chrono::steady_clock::now();
      if (rig.paused_) {
        std::this_thread::sleep_for(std::chrono::milliseconds(5));
        halted_s += std::chrono::duration<double>(std::chrono::steady_clock::now() - real).count();
        continue;
      }
      const double left =
          field_s / s.scale - (std::chrono::duration<double>(real - began).count() - halted_s);
      if (left <= 0) return true;
      std::this_thread::sleep_for(std::chrono::duration<double>(std::min(left, 0.02)));
    }
  }

  bool dead() const { return camera.dead(); }
  bool full() const { return camera.full(); }

  /// What a hand has changed since the last press.
  void take_stock(double at) {
    last_at = at;
    if (rig.fresh_battery_.exchange(false)) camera.fresh_power(), told_dead = false;
    if (rig.fresh_card_.exchange(false)) camera.fresh_card(), told_full = false;
    std::erase_if(faults, [&](const Fault& f) {  // once changed they do not come again
      return frame > f.at &&
             ((f.kind == Fault::Kind::Battery && !told_dead) || (f.kind == Fault::Kind::Card && !told_full));
    });
  }

  RigEvent event(RigEvent::Kind kind, double at) const {
    RigEvent e;
    e.kind = kind;
    e.press = press;
    e.start = later(s.start, at);
    e.exposure = now;
    e.battery = camera.power_left();
    e.card = camera.card_full();
    e.buffer = camera.buffer_full();
    e.done = shots;
    e.total = total;
    return e;
  }

  RigEvent fault_event(const Fault& f, double at) const {
    RigEvent e = event(RigEvent::Kind::Fault, at);
    e.index = frame;
    e.what = fault_word(f.kind);
    e.words = fault_words(f);
    return e;
  }

  /// Of the filters that are on at the press at hand.
  double filter_stops() const { return s.filters_off < 0 || press < s.filters_off ? s.filter_stops : 0; }

  /// One exposure's file number; the counter goes from 9999 to 0001, into the next folder.
  int next_number() { return number++; }

  void add_exposures(Planned& p, double at, const ramp::Exposure& middle, const FrameHarm& harm, bool bulb) {
    double from = at;
    for (int k = 0; k < s.brackets; ++k) {
      Exposed x;
      x.exposure = middle;
      x.exposure.shutter_s =
          bulb ? hold_s : middle.shutter_s * std::exp2((k - (s.brackets - 1) / 2.0) * s.bracket_stops);
      x.open_s = x.exposure.shutter_s;
      x.filter_stops = filter_stops();
      x.start = later(s.start, from);
      x.harm = harm;
      x.number = next_number();
      from += x.open_s + plan::kBetweenBrackets_s;
      p.exposures.push_back(x);
    }
  }

  /// Drift of what was left on automatic, slow and the same for the same seed.
  void drift(FrameHarm& harm, long long n) const {
    const auto wave = [&](double period, double phase) {
      return std::sin(static_cast<double>(n) / period + phase + static_cast<double>(s.camera.seed));
    };
    if (s.auto_white_balance)
      harm.red_stops += 0.18 * wave(9, 0) + 0.1 * wave(2.3, 1),
          harm.blue_stops -= 0.2 * wave(11, 0.7) + 0.1 * wave(1.9, 2);
    if (s.stabiliser) harm.shift_x += 0.0012 * wave(3.1, 0.3), harm.shift_y += 0.0012 * wave(2.7, 1.9);
    if (s.auto_focus) harm.blur += std::max(0.0, 0.004 * wave(4.3, 0.9));
  }

  /// A shot besides the take's: a test, or a marker.
  Planned lone_shot(const char* what, double at, const ramp::Exposure& exposure);
  std::optional<Planned> next();
  struct Trouble {
    bool here = false, skip = false, twice = false;
  };
  static plan::CameraLimits limits_of(const RigSetting& s);
  plan::Heard hear(double at);
  void turn_dials();
  Trouble meet_faults(Planned& p, double at);
  void tell_ends(Planned& p, double at);
  void miss(Planned& p, double at, const char* why, const Trouble& trouble);
  void shoot(Planned& p, double at, bool twice);
  std::optional<Planned> next_press();
};

Planned Rig::Run::lone_shot(const char* what, double at, const ramp::Exposure& exposure) {
  Planned p;
  Exposed x;
  x.exposure = exposure;
  x.open_s = exposure.shutter_s;
  x.filter_stops = filter_stops();
  x.start = later(s.start, at);
  x.harm.hand = std::string_view(what) == kMarker;
  x.number = next_number();
  p.exposures = {x};
  p.shot = event(RigEvent::Kind::Shot, at);
  p.shot.what = what;
  p.shot.exposure = exposure;
  p.shot.done = ++shots;
  return p;
}

std::optional<Planned> Rig::Run::next() {
  if (stop.stop_requested()) return {};
  if (stage == Stage::Tests) {  // a stop either side while looking for the exposure
    if (test < s.test_shots) {
      const double at = -210.0 + 37.0 * test + 11.0 * (test % 2);
      ramp::Exposure e = now;
      e.shutter_s *= std::exp2(std::clamp(test - 1, -1, 1));
      ++test;
      return lone_shot("test", at, e);
    }
    stage = Stage::FirstMarker;
  }
  if (stage == Stage::FirstMarker) {
    stage = Stage::Take;
    last_at = 0;
    if (s.markers) return lone_shot(kMarker, -24.3, now);
  }
  if (stage == Stage::Take) {
    if (auto p = next_press()) return p;
    if (stop.stop_requested()) return {};
    stage = Stage::Over;
    if (s.markers && !dead() && !full() && frame > 0)
      return lone_shot(kMarker, last_at + interval_s * 1.6 + 3.1, now);
  }
  return {};
}

/// The hand turns the dials before the shot: by the plan, and as somebody told it meanwhile.
void Rig::Run::turn_dials() {
  const auto turn = [this](ramp::Dial dial, bool brighter) {
    if (const auto turned = ramp::clicked(now, dial, brighter, s.rule)) now = *turned;
  };
  for (; next_click < s.clicks.size() && s.clicks[next_click].frame <= press; ++next_click)
    turn(s.clicks[next_click].dial, s.clicks[next_click].brighter);
  const std::lock_guard guard(rig.turns_lock_);
  for (; !rig.turns_.empty(); rig.turns_.pop_front())
    turn(rig.turns_.front().first, rig.turns_.front().second);
}

plan::CameraLimits Rig::Run::limits_of(const RigSetting& s) {
  plan::Kit kit;
  kit.batteries = {s.battery};
  const bool attended = s.scale > 0;  // a hand changes them
  if (!attended) kit.batteries.insert(kit.batteries.end(), s.more_batteries.begin(), s.more_batteries.end());
  plan::Outing outing;
  outing.temperature_c = s.temperature_c;
  outing.waiting_s = s.waiting_s;
  plan::CameraLimits limits;
  limits.brackets = s.brackets;
  limits.shot_mb =
      s.shot_mb > 0 ? s.shot_mb
                    : s.brackets * ((s.raw ? s.body.raw_mb : 0) + (s.compressed ? s.body.compressed_mb : 0));
  limits.writing_s = s.body.writing_s;
  limits.dark_frames = s.dark_frames;
  limits.buffer_mb = s.body.buffer_mb;
  limits.drained_mb_s = s.body.write_mb_s;
  if (!s.external_power)
    limits.power = plan::power_of(kit, outing);
  else if (s.bank_s > 0)
    limits.power = {{"", std::numeric_limits<double>::infinity(), s.bank_s}};
  limits.cards_mb = {s.card_gb * 1000};
  for (const double gb : s.more_cards_gb)
    if (!attended) limits.cards_mb.push_back(gb * 1000);
  return limits;
}

/// What goes wrong at this press, told in the plan.
Rig::Run::Trouble Rig::Run::meet_faults(Planned& p, double at) {
  Trouble trouble;
  for (const Fault& f : faults) {
    if (f.at != frame || (told_dead && f.kind == Fault::Kind::Battery) ||
        (told_full && f.kind == Fault::Kind::Card))
      continue;
    p.before.push_back(fault_event(f, at));
    trouble.here = true;
    trouble.skip = trouble.skip || f.kind == Fault::Kind::Skip;
    trouble.twice = trouble.twice || f.kind == Fault::Kind::Double;
    if (f.kind == Fault::Kind::Battery) camera.end_power(), told_dead = true;
    if (f.kind == Fault::Kind::Card) camera.end_card(), told_full = true;
  }
  trouble.here = trouble.here ||
                 std::any_of(faults.begin(), faults.end(), [this](const Fault& f) { return f.at == frame; });
  return trouble;
}

/// Batteries and cards that have run out are told once.
void Rig::Run::tell_ends(Planned& p, double at) {
  if (dead() && !told_dead) p.before.push_back(fault_event({Fault::Kind::Battery, frame, 0}, at));
  if (full() && !told_full) p.before.push_back(fault_event({Fault::Kind::Card, frame, 0}, at));
  told_dead = dead();
  told_full = full();
}

/// What the camera makes of the press at hand.
plan::Heard Rig::Run::hear(double at) {
  double exposed = 0;
  for (int k = 0; k < s.brackets; ++k)
    exposed += s.bulb ? hold_s : now.shutter_s * std::exp2((k - (s.brackets - 1) / 2.0) * s.bracket_stops);
  return camera.press(at, exposed + plan::kBetweenBrackets_s * (s.brackets - 1), exposed, interval_s);
}

void Rig::Run::miss(Planned& p, double at, const char* why, const Trouble& trouble) {
  if (trouble.skip || trouble.here || (!dead() && !full())) ++frame;  // a fault is used up
  RigEvent e = event(RigEvent::Kind::Missed, at);
  e.index = press;
  e.what = why;
  p.before.push_back(e);
  ++missed;
  ++press;
  // Dead batteries and full cards miss every press: told in one go, unless somebody may come with a fresh
  // one.
  if ((dead() || full()) && s.scale <= 0) {
    missed += presses - press;
    press = presses;
  }
}

void Rig::Run::shoot(Planned& p, double at, bool twice) {
  FrameHarm harm = harm_at(faults, frame);
  drift(harm, frame);
  for (int times = twice ? 2 : 1; times > 0; --times)
    add_exposures(p, at + (twice && times == 1 ? 0.7 : 0), now, harm, s.bulb);
  for (Exposed& x : p.exposures) x.error_stops = aperture_error(s.camera, static_cast<std::uint64_t>(press));
  p.shot = event(RigEvent::Kind::Shot, at);
  p.shot.index = press;
  p.shot.what = "frame";
  p.shot.done = ++shots;
  ++frame;
  ++press;
}

std::optional<Planned> Rig::Run::next_press() {
  Planned p;
  const auto only_missed = [&p] {
    p.shot.kind = RigEvent::Kind::Missed;
    return p;
  };
  while (press < presses) {
    const double at = schedule.at_s(press);
    if (!wait_until(at + (s.scale > 0 ? s.delay_s : 0))) return {};
    take_stock(at);
    turn_dials();
    const Trouble trouble = meet_faults(p, at);
    // A press that the timer skips does not reach the camera.
    const plan::Heard heard = trouble.skip ? plan::Heard::Yes : hear(at);
    tell_ends(p, at);
    const char* why = heard != plan::Heard::Yes ? plan::heard_word(heard) : trouble.skip ? "skip" : nullptr;
    if (why) {
      miss(p, at, why, trouble);
      if (s.scale > 0) return only_missed();
      continue;
    }
    shoot(p, at, trouble.twice);
    return p;
  }
  if (!p.before.empty()) return only_missed();
  return {};
}

Rig::Rig(RigSetting setting) : setting_(std::move(setting)) {}

void Rig::turn(ramp::Dial dial, int thirds) {
  const std::lock_guard guard(turns_lock_);
  for (int i = 0; i < std::min(30, std::abs(thirds)); ++i) turns_.emplace_back(dial, thirds > 0);
}

RigOutcome Rig::run(const std::function<void(const RigEvent&)>& event, const std::stop_token& stop) {
  check_empty_card(setting_.card);
  if (setting_.count > kMostShots)
    throw bad_input(
        fmt::format("The stand-in shoots no more than {} shots, not {}.", kMostShots, setting_.count),
        "Ask for a shorter clip.");
  if (!setting_.raw && !setting_.compressed)
    throw bad_input("Neither raw nor compressed files are kept.", "Keep one of them.");
  const std::unique_ptr<Scene> scene =
      make_scene(setting_.scene, {setting_.size, setting_.place, setting_.aim, 0, setting_.haste});
  const CardLock lock(setting_.card);
  check_empty_card(setting_.card);  // somebody may have been faster
  Run run(*this, stop);
  if (run.interval_s <= 0) throw bad_input("The timer was told no time between shots.");
  CardRecord record(setting_.card, setting_);
  RigOutcome outcome;
  const RigSetting& s = setting_;
  const auto press = [&](tbb::flow_control& flow) -> std::shared_ptr<Made> {
    auto planned = run.next();
    if (!planned) {
      flow.stop();
      return {};
    }
    auto made = std::make_shared<Made>();
    made->plan = std::move(*planned);
    return made;
  };
  const auto make = [&](std::shared_ptr<Made> made) {
    make_files(*made, *scene, s);
    return made;
  };
  const auto land = [&](std::shared_ptr<Made> made) {
    Planned& p = made->plan;
    for (const RigEvent& e : p.before) {
      if (e.kind == RigEvent::Kind::Missed) record.missed(e.press);
      if (event) event(e);
    }
    if (p.shot.kind != RigEvent::Kind::Shot) return;
    put_on_card(*made, s);
    for (const Exposed& x : p.exposures)
      record.shot({file_stem(x.number) + (s.compressed || x.harm.hand ? ".JPG" : ".DNG"), p.shot.what,
                   p.shot.index, x.start, x.exposure, x.error_stops, x.filter_stops, x.harm});
    if (p.shot.what == "frame") ++outcome.frames;
    if (!made->files.empty()) outcome.folder = (s.card / made->files.back().first).parent_path();
    if (event) event(p.shot);
  };
  using MadePtr = std::shared_ptr<Made>;
  using tbb::filter_mode;
  tbb::parallel_pipeline(kInFlight, tbb::make_filter<void, MadePtr>(filter_mode::serial_in_order, press) &
                                        tbb::make_filter<MadePtr, MadePtr>(filter_mode::parallel, make) &
                                        tbb::make_filter<MadePtr, void>(filter_mode::serial_in_order, land));
  outcome.missed = run.missed;
  outcome.stopped = stop.stop_requested() || run.dead() || run.full();
  outcome.truth = record.finish(stop.stop_requested());
  if (event) {
    RigEvent done = run.event(RigEvent::Kind::Done, run.last_at);
    done.done = run.shots;
    event(done);
  }
  return outcome;
}

}  // namespace askcount::simulate
