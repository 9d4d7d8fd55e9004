// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "ingest/gather.h"
#include "media/film_frames.h"

namespace askcount::ingest {

namespace {

/// Frames that have lost their time because it was not believed.
size_t wrong_times(const Gathered& g) {
  return static_cast<size_t>(std::count_if(g.clock.begin(), g.clock.end(), [](const ClockNote& n) {
    return n.what == ClockNote::What::NotBelieved;
  }));
}

/// Whether one could be a session of the other.
bool goes_on(const FoundTake& a, const FoundTake& b) {
  return a.interval_s && b.interval_s && std::abs(*a.interval_s - *b.interval_s) <= 0.06 * *a.interval_s &&
         a.exposures_each == b.exposures_each && !a.frames->empty() && !b.frames->empty() &&
         a.frames->front().info().body == b.frames->front().info().body;
}

/// What of the take is not there or not readable.
struct Counts {
  long long lost = 0, unreadable = 0, unread_beside = 0, timed = 0, timeless = 0;
};

long long left_out(const Gathered& g, Dropped::Why why) {
  return std::count_if(g.dropped.begin(), g.dropped.end(), [&](const Dropped& d) { return d.why == why; });
}

Counts counts_of(const Gathered& g) {
  Counts n;
  for (const Missing& m : g.missing) n.lost += m.frames;
  for (const media::Frame& f : *g.frames) {
    n.unreadable += f.readable() ? 0 : 1;
    if (f.readable()) (f.info().captured ? n.timed : n.timeless) += 1;
  }
  n.unread_beside = left_out(g, Dropped::Why::Unreadable);
  return n;
}

void judge_gaps(Findings& list, const Gathered& g, const Counts& n) {
  const std::vector<media::Frame>& frames = *g.frames;
  if (n.lost > 0)
    list.push_back({"frames_missing", Severity::Warning,
                    counted(n.lost, "{} frame", "{} frames") + say(" missing"),
                    say("The first after frame {}. The film jumps there.",
                        format_count(static_cast<long long>(g.missing[0].after) + 1))});
  else if (n.unread_beside + n.unreadable == 0 && g.unread_folders.empty())
    list.push_back(
        {"no_gaps", Severity::Ok,
         g.interval_s || n.timed == 0 ? say("No frame is missing") : say("Uneven times"),
         g.interval_s  ? say("{}, one every {}.",
                             counted(static_cast<long long>(frames.size()), "{} frame", "{} frames"),
                             format_length(*g.interval_s))
         : n.timed > 0 ? say("{}, at uneven times: without a steady interval, missing ones cannot be told.",
                             counted(static_cast<long long>(frames.size()), "{} frame", "{} frames"))
                       : say("{} in number order; they carry no capture times.",
                             counted(static_cast<long long>(frames.size()), "{} frame", "{} frames"))});
}

void judge_unreadable(Findings& list, const Gathered& g, const Counts& n) {
  if (n.unread_beside > 0)
    list.push_back(
        {"ends_unreadable", Severity::Warning,
         counted(n.unread_beside, "{} picture", "{} pictures") + say(" beside the take cannot be read"),
         say("{} is the first. They may be frames of it: its first or last ones would be missing.",
             std::find_if(g.dropped.begin(), g.dropped.end(),
                          [](const Dropped& d) { return d.why == Dropped::Why::Unreadable; })
                 ->file()
                 .filename()
                 .string())});
  if (!g.unread_folders.empty())
    list.push_back(
        {"folders_unread", Severity::Warning,
         counted(static_cast<long long>(g.unread_folders.size()), "{} folder", "{} folders") +
             say(" cannot be looked into"),
         say("{}: frames in it are missing here. Check its permissions.", g.unread_folders.front())});
  if (n.unreadable > 0)
    list.push_back({"frames_unreadable", Severity::Warning,
                    counted(n.unreadable, "{} frame", "{} frames") + say(" cannot be read"),
                    say("Their neighbours stand in for them in the film: five in a row at most, and one in "
                        "ten in all.")});
}

void judge_left_out(Findings& list, const Gathered& g) {
  if (g.dropped.empty()) return;
  std::string what;
  const auto add = [&](Dropped::Why why, const Countable& what_of) {
    if (const long long n = left_out(g, why); n > 0) what += (what.empty() ? "" : ", ") + counted(n, what_of);
  };
  add(Dropped::Why::Marker, to_say("{} marker", "{} markers"));
  add(Dropped::Why::Test, to_say("{} test shot", "{} test shots"));
  add(Dropped::Why::Double, to_say("{} second shot of one press", "{} second shots of one press"));
  add(Dropped::Why::Unreadable, to_say("{} picture that cannot be read", "{} pictures that cannot be read"));
  add(Dropped::Why::Copy, to_say("{} picture there twice", "{} pictures there twice"));
  add(Dropped::Why::ByHand, to_say("{} picture left out by you", "{} pictures left out by you"));
  list.push_back(
      {"left_out", Severity::Ok,
       counted(static_cast<long long>(g.dropped.size()), "{} picture left out", "{} pictures left out"),
       say("{}. The files stay where they are.", what)});
}

void judge_others(Findings& list, const Gathered& g) {
  if (g.takes.size() < 2) return;
  std::string others;
  for (size_t i = 0; i < g.takes.size(); ++i)
    if (i != g.chosen)
      others += (others.empty() ? "" : ", ") +
                counted(static_cast<long long>(g.takes[i].frames->size()), "{} frame", "{} frames") +
                (g.takes[i].interval_s ? say(" every ") + format_length(*g.takes[i].interval_s) : "");
  list.push_back({"several_takes", Severity::Ok,
                  counted(static_cast<long long>(g.takes.size()), "{} take", "{} takes"),
                  say("This is take {}. {} Also there: {}.", g.chosen + 1, g.why_chosen, others)});
  // Sessions of one beat are offered to be joined.
  for (size_t i = 0; i < g.takes.size(); ++i)
    if (i != g.chosen && goes_on(g.takes[g.chosen], g.takes[i]))
      list.push_back({"session", Severity::Warning, say("Take {} has the same interval", i + 1),
                      say("{}, {}. A battery, a card or a night between them?",
                          counted(static_cast<long long>(g.takes[i].frames->size()), "{} frame", "{} frames"),
                          i < g.chosen ? say("before this one") : say("after this one")),
                      fix::JoinTakes{static_cast<long long>(g.chosen + 1), static_cast<long long>(i + 1)}});
}

void judge_beside(Findings& list, const Gathered& g) {
  if (!g.films.empty())
    list.push_back({"films", Severity::Ok,
                    counted(static_cast<long long>(g.films.size()), "{} video", "{} videos"),
                    say("{} is beside the pictures and is left alone.",
                        std::filesystem::path(g.films.front()).filename().string()),
                    fix::UseSource{g.films.front()}});
  if (!g.weak.empty())
    list.push_back({"kept_in_doubt", Severity::Warning,
                    counted(static_cast<long long>(g.weak.size()), "{} picture", "{} pictures") +
                        say(" kept, but doubtful"),
                    say("{}: {} Leave it out where it is a test shot.", media::name_of(g.weak.front().file()),
                        g.weak.front().text),
                    fix::LeaveOut{media::name_of(g.weak.front().file())}});
  if (!g.incomplete.empty())
    list.push_back({"brackets_incomplete", Severity::Warning,
                    counted(static_cast<long long>(g.incomplete.size()), "{} bracket", "{} brackets") +
                        say(" incomplete"),
                    say("Frame {} is the first with fewer than {} exposures.",
                        format_count(static_cast<long long>(g.incomplete.front()) + 1), g.exposures_each)});
}

void judge_clock(Findings& list, const Gathered& g, const Counts& n) {
  for (const ClockNote& note : g.clock) {
    const std::string name = note.file.filename().string();
    if (note.what == ClockNote::What::SetBack)
      list.push_back({"clock_set_back", Severity::Warning, say("The camera's clock was set back"),
                      say("From {} on it was {} behind; the frames are ordered by number.", name,
                          format_length(note.seconds))});
  }
  if (const auto wrong = static_cast<long long>(wrong_times(g)); wrong > 0)
    list.push_back(
        {"times_wrong", Severity::Warning, counted(wrong, "{} file", "{} files") + say(" with a wrong time"),
         say("{} is the first: its time does not fit between its neighbours. They are ordered by number.",
             g.clock.front().file.filename().string())});
  if (n.timed > 0 && n.timeless > static_cast<long long>(wrong_times(g)))
    list.push_back({"times_missing", Severity::Warning,
                    counted(n.timeless, "{} frame", "{} frames") + say(" without a time"),
                    say("They are ordered by number.")});
}

void judge_sizes(Findings& list, const std::vector<media::Frame>& frames) {
  const auto differs = std::find_if(frames.begin(), frames.end(), [&](const media::Frame& f) {
    return f.readable() && !(f.info().size == frames.front().info().size) && frames.front().readable();
  });
  if (differs != frames.end())
    list.push_back(
        {"sizes_differ", Severity::Warning, say("Frames of different size"),
         say("{} is {} × {}; the take began with {} × {}. Each is cropped to the film's shape.",
             media::name_of(differs->file()), differs->info().size.width, differs->info().size.height,
             frames.front().info().size.width, frames.front().info().size.height)});
}

}  // namespace

Findings judge(const Gathered& g) {
  Findings list;
  const Counts n = counts_of(g);
  judge_gaps(list, g, n);
  judge_unreadable(list, g, n);
  judge_left_out(list, g);
  judge_others(list, g);
  judge_beside(list, g);
  judge_clock(list, g, n);
  judge_sizes(list, *g.frames);
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::ingest
