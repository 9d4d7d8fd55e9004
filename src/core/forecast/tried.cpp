// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/tried.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/dials.h"
#include "base/error.h"
#include "base/language.h"
#include "base/median.h"
#include "base/units.h"
#include "forecast/exposure.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "image/pixels.h"
#include "ingest/pace.h"
#include "inspect/faults.h"
#include "inspect/look.h"
#include "inspect/sharp.h"
#include "look/tones.h"
#include "media/frame_source.h"
#include "plan/subject.h"

namespace askcount::forecast {
namespace {

constexpr size_t kFewest = 3;          // frames that show a beat
constexpr double kSameShare = 0.01;    // of an interval
constexpr double kSameDial = 0.2;      // stops
constexpr double kFarOff = 1.5;        // stops from the meter's wish
constexpr double kMuchClipped = 0.03;  // share of the picture
constexpr int kLastNumber = 9999;
constexpr double kHunts = 1.5;       // log2 of the energy of fine detail, from the softest to the sharpest
constexpr double kHeld = 0.6;        // share of the picture that agrees on how it moved
constexpr double kWanders = 0.0006;  // of the width
constexpr double kColours = 0.03;    // stops of red against blue, off a straight line

double middle_of(const inspect::Look& look, float inspect::Measures::*value) {
  std::vector<double> list;
  for (const inspect::Measures& m : look.frames)
    if (m.seen()) list.push_back(static_cast<double>(m.*value));
  return median(std::move(list));
}

/// How far values go from a straight line through them, at most; 0 for fewer than four.
double off_line(const std::vector<double>& v) {
  if (v.size() < 4) return 0;
  const auto n = static_cast<double>(v.size());
  double sx = 0, sy = 0, sxx = 0, sxy = 0;
  for (size_t i = 0; i < v.size(); ++i) {
    const auto x = static_cast<double>(i);
    sx += x, sy += v[i], sxx += x * x, sxy += x * v[i];
  }
  const double slope = (n * sxy - sx * sy) / (n * sxx - sx * sx), from = (sy - slope * sx) / n;
  double most = 0;
  for (size_t i = 0; i < v.size(); ++i)
    most = std::max(most, std::abs(v[i] - from - slope * static_cast<double>(i)));
  return most;
}

double range_of(const std::vector<double>& v) {
  if (v.empty()) return 0;
  const auto [low, high] = std::minmax_element(v.begin(), v.end());
  return *high - *low;
}

/// Log2 of red against blue of every frame that can be read, by their small pictures.
std::vector<double> reds_of(const std::vector<media::Frame>& frames) {
  std::vector<double> list;
  for (const media::Frame& f : frames) {
    if (!f.readable()) continue;
    try {
      const image::Coded8 small = image::coded(media::any_source().small(f));
      double red = 1, blue = 1;
      for (size_t i = 0; i + 2 < small.rgb.size(); i += 3) red += small.rgb[i], blue += small.rgb[i + 2];
      list.push_back(std::log2(red / blue));
    } catch (const Error&) {
      // The look says which file it is.
    }
  }
  return list;
}

/// "QUAY0214" after "QUAY0213.JPG".
std::string next_name(const std::filesystem::path& file) {
  const std::string stem = file.stem().string();
  size_t at = stem.size();
  while (at > 0 && stem[at - 1] >= '0' && stem[at - 1] <= '9') --at;
  const long long number = ingest::number_of(file);
  if (number < 0 || at == stem.size()) return {};
  return stem.substr(0, at) + fmt::format("{:0{}}", number >= kLastNumber ? 1 : number + 1, stem.size() - at);
}

/// Test frames on their way to a judgement.
class Trial {
 public:
  Trial(const take::Take& take, const ingest::FoundTake& found, const inspect::Look& look)
      : take_(take),
        found_(found),
        look_(look),
        frames_(*found.frames),
        ramp_(ramp_in_any_case(take)),
        plan_(exposure_of(take, ramp_)),
        program_(program_of(take, plan_)) {}

  Tried tried() {
    t_.frames = frames_.size();
    t_.planned_interval_s = program_.interval_s;
    t_.exposures_each = found_.exposures_each;
    t_.planned_exposures = take_.kept().movie_mb > 0 ? 1 : take_.shot.brackets;
    beat();
    exposures();
    busy();
    dials();
    light();
    steady();
    counter();
    faults();
    if (t_.start())
      t_.findings.insert(t_.findings.begin(),
                         {"start", Severity::Ok, say("Start"),
                          say("{} as planned.", counted(static_cast<long long>(t_.frames), "{} test frame is",
                                                        "{} test frames are"))});
    sort_by_severity(t_.findings);
    return std::move(t_);
  }

 private:
  void add(const char* code, Severity severity, std::string title, std::string text,
           std::optional<Fix> fix = {}) {
    t_.findings.push_back({code, severity, std::move(title), std::move(text), std::move(fix)});
  }
  void beat();
  void judge_beat(Seconds kept, Seconds off);
  void exposures();
  void busy();
  void dials();
  void light();
  void steady();
  void counter();
  void faults();
  /// Seconds a shot of these frames was open.
  Seconds open() const {
    std::vector<double> list;
    for (const media::Frame& f : frames_)
      if (const auto s = ingest::open_s(f)) list.push_back(*s);
    return median(std::move(list));
  }

  const take::Take& take_;
  const ingest::FoundTake& found_;
  const inspect::Look& look_;
  const std::vector<media::Frame>& frames_;
  const ramp::Ramp ramp_;
  const ExposurePlan plan_;
  const timer::Program program_;
  Tried t_;
};

void Trial::beat() {
  const auto first = found_.start(), last = found_.end();
  if (frames_.size() < kFewest || !first || !last) {
    add("beat_unknown", Severity::Warning, say("Too few to tell the interval"),
        say("{} with a time: shoot ten, one after the other, as the timer will.",
            counted(static_cast<long long>(frames_.size()), "{} frame", "{} frames")));
    return;
  }
  // By the steps that most of them take: a press that was not heard now and then is another matter.
  std::vector<double> steps;
  for (size_t n = 1; n < frames_.size(); ++n) {
    const auto &a = frames_[n - 1].exposures.front().info.captured,
               &b = frames_[n].exposures.front().info.captured;
    if (a && b) steps.push_back(media::seconds_of(*b) - media::seconds_of(*a));
  }
  const double usual = median(steps);
  if (usual <= 0) return;
  double span = 0, count = 0;
  for (const double s : steps) span += s, count += std::max(1.0, std::round(s / usual));
  const Seconds kept = span / count, off = found_.clock_s / count;
  t_.interval_s = kept;
  judge_beat(kept, std::max(off, kSameShare * program_.interval_s));
}

void Trial::judge_beat(Seconds kept, Seconds off) {
  const Seconds planned = program_.interval_s, open_for = open();
  const auto is = [&](Seconds s) { return s > 0 && std::abs(kept - s) <= off; };
  const bool gap_timer = program_.timer.counts == timer::Counts::Gap;
  const double every = std::round(kept / planned);
  const bool fits = open_for + take_.body().writing_s <= planned;
  const std::string is_one =
      say("One frame every {}, planned is {}.", format_length(kept, 2), format_length(planned));
  const auto learn_counts = [&](bool gap) -> std::optional<Fix> {
    if (!take_.knows_timer() || gap == gap_timer) return {};
    t_.learnt.push_back(fix::Learn{fix::Learn::What::CountsGap, gap ? 1.0 : 0.0, program_.timer.name, 1});
    return t_.learnt.back();
  };
  if (is(planned)) {
    t_.beat = Beat::AsPlanned;
    add("beat", Severity::Ok, say("One frame every {}", format_length(planned)), say("As planned."));
  } else if (program_.timer.holds && is(planned + program_.hold_s) && program_.hold_s > 2 * off) {
    t_.beat = Beat::CountsGap;  // from the end of its own hold
    add("beat_counts_gap", Severity::Stop, say("The interval was counted from the end of the shot"),
        is_one + " " + say("Key in {}, and it is.", format_length(planned - program_.hold_s)),
        learn_counts(true));
  } else if (is(planned + open_for) && open_for > 2 * off && (fits || !is(every * planned))) {
    t_.beat = Beat::CountsGap;  // from the closing of the camera's own shutter
    add("beat_counts_gap", Severity::Stop, say("The interval was counted from the end of the shot"),
        is_one + " " +
            (planned > open_for ? say("Key in {}, and it is.", format_length(planned - open_for))
                                : say("It leaves no gap: a longer interval or a shorter shutter.")));
  } else if (gap_timer && is(program_.setting_s) && planned - program_.setting_s > 2 * off) {
    t_.beat = Beat::CountsShort;
    add("beat_counts_interval", Severity::Stop, say("The gap was counted from start to start"),
        is_one + " " + say("Key in {}, and it is.", format_length(planned)), learn_counts(false));
  } else if (is(planned - open_for) && open_for > 2 * off) {
    t_.beat = Beat::CountsShort;
    add("beat_counts_interval", Severity::Stop, say("The gap was counted from start to start"),
        is_one + " " + say("Key in {}, and it is.", format_length(program_.setting_s)));
  } else if (every >= 2 && is(every * planned)) {
    t_.beat = Beat::EveryNth;
    t_.every = std::llround(every);
    add("beat_missed", Severity::Stop, say("Not every press was heard"),
        say("One frame every {}, planned is {}: {}, for the camera was busy. Take {}, a shorter shutter or "
            "smaller files, and look whether long-exposure noise reduction is off.",
            format_length(kept, 2), format_length(planned), plan::heard_words(t_.every), format_length(kept)),
        fix::SetSlot{Slot::Interval, std::round(kept * 10) / 10});
  } else {
    t_.beat = Beat::Other;
    const double longer = static_cast<double>(std::max(0LL, program_.count - 1)) * (kept - planned);
    add("beat_differs", Severity::Stop, say("Not the interval of the plan"),
        is_one + " " +
            say("The take would end {} {}. Read the timer's setting back, or plan with this one.",
                format_length(std::round(std::abs(longer))), longer > 0 ? say("later") : say("sooner")),
        fix::SetSlot{Slot::Interval, std::round(kept * 10) / 10});
  }
}

void Trial::exposures() {
  const auto each = static_cast<int>(t_.exposures_each);
  if (each == t_.planned_exposures) return;
  add("exposures_differ", Severity::Stop, say("{} a shot", counted(each, "{} exposure", "{} exposures")),
      say("Planned: {}. {}", t_.planned_exposures,
          t_.planned_exposures > 1 ? say("Set the camera to a bracket on one press.")
                                   : say("Set the camera to single shots, without brackets.")));
}

void Trial::busy() {
  const Seconds open_for = open();
  const double writing = take_.body().writing_s;
  const ingest::Busy late = ingest::busy_of(found_);
  if (!late.free_s.empty()) {
    t_.busy_s = median(late.free_s);
    t_.busy_at_most = false;
  } else if (t_.interval_s && open_for > 0 && *t_.interval_s > open_for) {
    t_.busy_s = *t_.interval_s - open_for;
    t_.busy_at_most = true;
  }
  if (!t_.busy_s || t_.planned_exposures > 1) return;
  const Seconds shutter = plan_.longest_s, needed = shutter + *t_.busy_s;
  if (!t_.busy_at_most && needed > program_.interval_s)
    add("busy", Severity::Stop, say("Busy for {} after a shot", format_length(*t_.busy_s, 1)),
        say("With {} that is more than the interval of {}. A longer interval, a shorter shutter or smaller "
            "files.{}",
            dial_shutter_words(shutter), format_length(program_.interval_s),
            *t_.busy_s > 0.8 * open_for && *t_.busy_s < 1.3 * open_for + 1 && open_for > 1
                ? say(" It is about as long as the shutter: long-exposure noise reduction may be on.")
                : ""));
  // An upper bound says something only where it is below what is planned with.
  if (!take_.knows_kit() || (t_.busy_at_most && *t_.busy_s >= writing)) return;
  if (frames_.front().info().body != take_.body().name && !frames_.front().info().body.empty()) return;
  if (std::abs(*t_.busy_s - writing) < 0.05 * writing) return;
  t_.learnt.push_back(
      fix::Learn{fix::Learn::What::Writing, std::round(*t_.busy_s * 100) / 100, take_.body().name, 1});
}

void Trial::dials() {
  const media::ShotInfo& i = frames_.back().info();
  t_.exposure = {i.shutter_s.value_or(0), i.f_number.value_or(0), i.iso.value_or(0)};
  const bool by_camera = program_.shutter.by_camera;
  long long changes = 0;
  for (size_t n = 1; n < frames_.size(); ++n) {
    const auto a = media::relative_stops(frames_[n - 1].info()), b = media::relative_stops(frames_[n].info());
    changes += a && b && std::abs(*a - *b) > 0.1 ? 1 : 0;
  }
  // A single click is a hand's.
  t_.by_itself = changes > 1 && changes * 5 > static_cast<long long>(frames_.size());
  if (t_.by_itself && !by_camera)
    add("exposure_automatic", Severity::Stop, say("The exposure changes by itself"),
        say("{} in {}: set the camera to manual exposure, ISO too.",
            counted(changes, "{} change", "{} changes"),
            counted(static_cast<long long>(frames_.size()), "{} frame", "{} frames")));
  const auto differs = [](double a, double b) {
    return a > 0 && b > 0 && std::abs(std::log2(a / b)) > kSameDial;
  };
  const ramp::Exposure& want = plan_.first;
  std::string words;
  const auto say_one = [&words](const std::string& is, const std::string& wanted) {
    words += (words.empty() ? "" : " ") + say("{}, planned is {}.", is, wanted);
  };
  // A shutter that nobody asked for and no light gave is none to be held against.
  const bool told = plan_.dials_known || !take_.sums().trail_assumed;
  if (told && !by_camera && !t_.by_itself && !program_.bulb &&
      differs(exact_shutter(t_.exposure.shutter_s), exact_shutter(want.shutter_s)))
    say_one(dial_shutter_words(exact_shutter(t_.exposure.shutter_s)), dial_shutter_words(want.shutter_s));
  if (plan_.dials_known) {
    if (differs(std::pow(exact_f_number(t_.exposure.f_number), 2), std::pow(want.f_number, 2)))
      say_one(ramp::dial_words(ramp::Dial::Aperture, t_.exposure),
              ramp::dial_words(ramp::Dial::Aperture, want));
    if (!t_.by_itself && differs(exact_iso(t_.exposure.iso), want.iso))
      say_one(ramp::dial_words(ramp::Dial::Iso, t_.exposure), ramp::dial_words(ramp::Dial::Iso, want));
  }
  if (!words.empty()) add("dials_differ", Severity::Warning, say("The dials are not the plan's"), words);
  std::string automatic;
  for (const auto& [sign, name] : {std::pair{"white balance=auto", to_say("white balance")}})
    if (i.settings.find(sign) != std::string::npos) automatic += say(name);
  if (!automatic.empty())
    add("left_automatic", Severity::Warning, say("Left on automatic: {}", automatic),
        say("It changes from frame to frame. Fix it."));
}

void Trial::light() {
  const bool seen = std::any_of(look_.frames.begin(), look_.frames.end(),
                                [](const inspect::Measures& m) { return m.seen(); });
  if (!seen) {
    add("not_readable", Severity::Stop, say("No test frame can be read"), say("Shoot them anew."));
    return;
  }
  double wish = 0;  // what the plan's first shot is over the meter
  if (!ramp_.meter.empty() && plan_.dials_known && follows(take_, ramp_.ev)) wish = ramp_.meter.front();
  t_.meter_stops = middle_of(look_, &inspect::Measures::stops) - std::log2(look::kMidGrey) - wish;
  t_.clipped = middle_of(look_, &inspect::Measures::clipped);
  t_.sharp = inspect::is_sharp(look_);
  const double off = std::abs(*t_.meter_stops);
  const std::string stops = format_number(off, 1);
  if (off > kFarOff)
    add("exposure_off", Severity::Warning,
        *t_.meter_stops > 0 ? say("{} stops brighter than a meter wants", stops)
                            : say("{} stops darker than a meter wants", stops),
        say("Right for snow, a silhouette or the night; otherwise meter again before you start."));
  else
    add("exposure", Severity::Ok,
        say("Exposed within {} stops of the meter", format_number(std::max(0.1, off), 1)),
        say("Of the whole picture's mean."));
  if (t_.clipped > kMuchClipped)
    add("clipped", Severity::Warning, say("{} % of the picture is white", std::lround(t_.clipped * 100)),
        say("What is clipped stays clipped: a third or two darker, unless it is the sun or a lamp."));
  if (t_.sharp == false)
    add("not_sharp", Severity::Stop, say("Not sharp"),
        say("Focus anew by the magnified screen, then to manual, then tape the ring."));
  else if (t_.sharp == true)
    add("sharp", Severity::Ok, say("Sharp"), say("At 1,400 pixels across; look at one at full size too."));
}

/// What was left on automatic shows in pictures of one place a few seconds apart.
void Trial::steady() {
  std::vector<double> fine, x, y;
  for (const inspect::Measures& m : look_.frames) {
    if (!m.seen()) continue;
    fine.push_back(inspect::fineness(m));
    if (fine.size() == 1 || m.held_by >= kHeld)
      x.push_back(static_cast<double>(m.x)), y.push_back(static_cast<double>(m.y));
  }
  t_.hunts = range_of(fine) > kHunts;
  if (t_.hunts)
    add("focus_hunts", Severity::Stop, say("The sharpness comes and goes"),
        say("Automatic focus was on, or the ring was touched: focus, switch to manual, tape the ring."));
  // Stars wander by themselves.
  const bool stars =
      body_to_keep(take_) == sky::Body::Core || plan::any_kind(take_.subject, &plan::SubjectKind::trails);
  const double width = media::upright_size(frames_.front()).width;
  t_.wanders_px = std::max(range_of(x), range_of(y));
  if (!stars && t_.wanders_px > std::max(1.0, kWanders * width))
    add("picture_wanders", Severity::Warning, say("The picture wanders"),
        t_.hunts ? say("Focus that hunts moves it; switch stabilisation off too.")
                 : say("By {} pixels in {}: switch stabilisation off, and see that the tripod stands firm.",
                       format_number(t_.wanders_px, 1),
                       counted(static_cast<long long>(frames_.size()), "{} frame", "{} frames")));
  if (off_line(reds_of(frames_)) > kColours)
    add("colours_change", Severity::Warning, say("The colours change from frame to frame"),
        say("White balance is on automatic, or a lamp flickers: set a fixed one."));
}

void Trial::counter() {
  t_.frame_mb = ingest::usual_megabytes(frames_);
  t_.next_file = next_name(frames_.back().exposures.back().file());
  const plan::ShotMake make = take_.kept();
  if (take_.knows_kit() && !take_.kit.cards.empty() && t_.frame_mb > 0) {
    double used = 0;
    for (const media::Frame& f : frames_) used += ingest::megabytes_of(f);
    for (const ingest::Dropped& d : found_.dropped) used += ingest::megabytes_of(d.picture);
    t_.shots_left = std::max(
        0LL, static_cast<long long>((take_.kit.cards.front().capacity_gb * 1000 - used) / t_.frame_mb));
  }
  const long long needed = program_.count;
  if (t_.shots_left) {
    const std::string text =
        say("{} MB a shot: the camera's counter should show about {}; the take needs {}.",
            format_number(t_.frame_mb, 1), format_count(*t_.shots_left), format_count(needed));
    if (*t_.shots_left < needed && take_.kit.cards.size() < 2)
      add("card_ends", Severity::Stop, say("The card is too small for these files"), text);
    else
      add("counter", Severity::Ok, say("Room for {}", counted(*t_.shots_left, "{} shot", "{} shots")), text);
  }
  const double planned_mb = plan::shot_mb(make, take_.body());
  if (take_.knows_kit() && planned_mb > 0 && t_.frame_mb > 1.3 * planned_mb)
    add("files_larger", Severity::Warning, say("Larger files than planned"),
        say("{} MB a shot, planned are {}: raw, compressed or both?", format_number(t_.frame_mb, 1),
            format_number(planned_mb, 1)));
}

void Trial::faults() {
  for (const inspect::Fault& f : inspect::faults_of(found_, look_)) {
    using inspect::FaultKind;
    // What the beat, the dials and the light say above is not said twice; what passes by is nobody's mistake.
    if (f.kind == FaultKind::Missing || f.kind == FaultKind::Late || f.kind == FaultKind::ClickOff ||
        f.kind == FaultKind::Clipped || f.kind == FaultKind::Visitor ||
        inspect::severity_of(f.kind) < Severity::Warning)
      continue;
    if ((t_.hunts || t_.sharp == false) && (f.kind == FaultKind::Soft || f.kind == FaultKind::Hunting))
      continue;
    add(inspect::fault_word(f.kind), inspect::severity_of(f.kind), inspect::title_of(f.kind, 1, f.frame),
        f.text);
  }
}

const char* beat_word(Beat beat) {
  static constexpr const char* words[] = {"unknown",        "as planned",          "every nth",
                                          "counts the gap", "counts the interval", "other"};
  return words[static_cast<int>(beat)];
}

}  // namespace

bool Tried::start() const {
  return std::none_of(findings.begin(), findings.end(),
                      [](const Finding& f) { return f.severity >= Severity::Warning; });
}

Tried tried(const take::Take& take, const ingest::FoundTake& found, const inspect::Look& look) {
  if (found.frames->empty())
    throw bad_input(say("There is no picture to judge."), say("Shoot ten test frames."));
  return Trial(take, found, look).tried();
}

Tried try_frames(const take::Take& take, const std::vector<std::filesystem::path>& folders,
                 const Work& work) {
  take.sums();  // says what is missing before anything is read
  ingest::Ask ask;
  ask.folders = folders;
  const ingest::Found found = ingest::find(ask, work);
  ask.choose = found.takes.size() - 1;
  ingest::FoundTake newest = ingest::decided(found, ask);
  // A few pictures after a take are no take, but they are the newest.
  std::vector<media::Frame> after;
  for (const ingest::Dropped& d : newest.dropped)
    if (!d.before && d.why != ingest::Dropped::Why::Copy && d.why != ingest::Dropped::Why::Double)
      after.push_back(d.picture);
  if (after.size() >= kFewest || newest.frames->empty()) {
    const double clock = newest.clock_s;
    newest = {};
    newest.frames = media::frames_of(std::move(after));
    newest.clock_s = clock;
  }
  if (newest.frames->empty())
    throw bad_input(say("There is no picture to judge."), say("Shoot ten test frames."));
  return tried(take, newest, inspect::look_at(newest.frames, media::any_source(), work));
}

std::vector<TriedLine> lines_of(const Tried& t) {
  std::vector<TriedLine> list;
  const std::string unknown = say("not known");
  list.push_back({say("Interval"), t.interval_s ? format_length(*t.interval_s, 2) : unknown,
                  format_length(t.planned_interval_s)});
  list.push_back({say("Exposures a shot"), format_count(static_cast<long long>(t.exposures_each)),
                  format_count(t.planned_exposures)});
  if (t.busy_s)
    list.push_back({say("Busy after a shot"),
                    t.busy_at_most ? say("every press was heard") : format_length(*t.busy_s, 1), ""});
  if (t.meter_stops) {
    const std::string stops = format_number(std::abs(*t.meter_stops), 1);
    list.push_back({say("Against the meter"),
                    stops == format_number(0, 1) ? say("just as it wants")
                    : *t.meter_stops > 0         ? say("{} stops brighter", stops)
                                                 : say("{} stops darker", stops),
                    ""});
  }
  list.push_back({say("Focus"),
                  t.hunts    ? say("comes and goes")
                  : !t.sharp ? say("look yourself")
                  : *t.sharp ? say("sharp")
                             : say("not sharp"),
                  ""});
  list.push_back({say("White without detail"), say("{} %", format_number(t.clipped * 100, 1)), ""});
  if (!t.next_file.empty()) list.push_back({say("The next file"), t.next_file, ""});
  if (t.shots_left) list.push_back({say("The camera's counter"), format_count(*t.shots_left), ""});
  return list;
}

Json to_json(const Tried& t) {
  const auto maybe = [](const auto& v, int decimals) {
    return v ? Json(rounded(*v, decimals)) : Json(nullptr);
  };
  const auto dial = [](double v, int decimals) { return v > 0 ? Json(rounded(v, decimals)) : Json(nullptr); };
  Json learnt = Json::array();
  for (const Fix& f : t.learnt) learnt.push_back(askcount::to_json(f));
  return {{"verdict", t.start() ? "start" : "change"},
          {"frames", t.frames},
          {"interval_s", maybe(t.interval_s, 3)},
          {"planned_interval_s", rounded(t.planned_interval_s, 3)},
          {"beat", beat_word(t.beat)},
          {"heard_every", t.every},
          {"exposures_each", t.exposures_each},
          {"planned_exposures_each", t.planned_exposures},
          {"busy_s", maybe(t.busy_s, 2)},
          {"busy_at_most", t.busy_s ? Json(t.busy_at_most) : Json(nullptr)},
          {"shutter_s", dial(t.exposure.shutter_s, 6)},
          {"f_number", dial(t.exposure.f_number, 1)},
          {"iso", dial(t.exposure.iso, 0)},
          {"exposure_changes", t.by_itself},
          {"meter_stops", maybe(t.meter_stops, 2)},
          {"sharp", t.sharp ? Json(*t.sharp) : Json(nullptr)},
          {"focus_hunts", t.hunts},
          {"wanders_px", rounded(t.wanders_px, 2)},
          {"clipped", rounded(t.clipped, 4)},
          {"frame_mb", rounded(t.frame_mb, 2)},
          {"counter",
           {{"next_file", t.next_file.empty() ? Json(nullptr) : Json(t.next_file)},
            {"shots_left", t.shots_left ? Json(*t.shots_left) : Json(nullptr)}}},
          {"findings", askcount::to_json(t.findings)},
          {"learnt", learnt}};
}

}  // namespace askcount::forecast
