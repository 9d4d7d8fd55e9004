// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/beside.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>

#include "base/language.h"
#include "base/units.h"
#include "level/brightness.h"

namespace askcount::book {
namespace {

std::string joined(const std::vector<std::string>& words) {
  return fmt::format("{}", fmt::join(words, ", "));
}

std::string count(long long n) {
  return n > 0 ? format_count(n) : "";
}
std::string length(double s) {
  return s > 0 ? format_length(s) : "";
}

/// Codes as people read them: "click_off" is "click off".
std::string faults(const Entry& e) {
  std::string words;
  if (const long long lost = e.short_of(); lost > 0)
    words = say("ended {} early", counted(lost, "{} frame", "{} frames"));
  if (!e.faults) return words;
  for (const auto& [code, frames] : *e.faults) {
    std::string name = code;
    std::replace(name.begin(), name.end(), '_', ' ');
    words += fmt::format("{}{} {}", words.empty() ? "" : ", ", name, format_count(frames));
  }
  return words.empty() ? "none" : words;
}

std::string films(const Entry& e) {
  std::string words;
  std::error_code ec;
  for (const FilmMade& m : e.films)
    words += say("{}{} of {} × {}{}", words.empty() ? "" : ", ", format_length(m.seconds, 1), m.width,
                 m.height, std::filesystem::exists(m.file, ec) ? "" : say(" (not where it was)"));
  return words;
}

/// What the book keeps in English, as the language spoken has it: "1/125 s to 4 s", "250 times, one every 20
/// s".
std::string said_again(const std::string& kept) {
  static const std::string times = " times, one every ", to = " to ";
  const auto number = [](const std::string& text) {
    std::string out;
    for (const char c : text)
      out += c == '.' ? language().point : c == ',' ? language().thousands : std::string(1, c);
    return out;
  };
  if (const size_t at = kept.find(times); at != std::string::npos)
    return say("{} times, one every {}", number(kept.substr(0, at)), number(kept.substr(at + times.size())));
  if (const size_t at = kept.find(to); at != std::string::npos)
    return say("{} to {}", number(kept.substr(0, at)), number(kept.substr(at + to.size())));
  return number(kept);
}

struct Side {
  const char *group, *what;
  std::string (*say)(const Entry&);
};

const Side kLines[] = {
    {to_say("Plan"), to_say("Subject"), [](const Entry& e) { return e.subject; }},
    {to_say("Plan"), to_say("Place"), [](const Entry& e) { return e.place.name; }},
    {to_say("Plan"), to_say("First shot"),
     [](const Entry& e) {
       if (!e.knows_start()) return std::string();
       const Day day = day_of(e.start, e.place.zone);
       return fmt::format("{} {}, {}", day_words(day), static_cast<int>(day.year()),
                          format_clock(e.start, e.place.zone));
     }},
    {to_say("Plan"), to_say("Frames planned"), [](const Entry& e) { return count(e.planned.frames); }},
    {to_say("Plan"), to_say("Interval planned"), [](const Entry& e) { return length(e.planned.interval_s); }},
    {to_say("Plan"), to_say("Shutter planned"), [](const Entry& e) { return said_again(e.planned.shutter); }},
    {to_say("Plan"), to_say("Exposures a shot"),
     [](const Entry& e) {
       return e.planned.exposures_each > 1 ? format_count(e.planned.exposures_each) : "";
     }},
    {to_say("Plan"), to_say("Light"),
     [](const Entry& e) {
       if (!e.planned.ev_from || !e.planned.ev_to) return std::string();
       return say("EV {} to {}, {}", format_number(*e.planned.ev_from, 1), format_number(*e.planned.ev_to, 1),
                  e.planned.method == "hand" ? to_say("followed by hand") : e.planned.method);
     }},
    {to_say("Plan"), to_say("Air"),
     [](const Entry& e) {
       if (!e.temperature_c) return std::string();
       const std::string damp = e.humidity ? say(", {} % humid", std::lround(*e.humidity * 100)) : "";
       return fmt::format("{} °C{}", format_number(*e.temperature_c, 0), damp);
     }},
    {to_say("Plan"), to_say("The timer was set to"),
     [](const Entry& e) { return said_again(e.planned.program); }},
    {to_say("Kit"), to_say("Body"),
     [](const Entry& e) { return e.gear.body.empty() && e.came ? e.came->body : e.gear.body; }},
    {to_say("Kit"), to_say("Lens"), [](const Entry& e) { return e.gear.lens; }},
    {to_say("Kit"), to_say("Timer"), [](const Entry& e) { return e.gear.timer; }},
    {to_say("Kit"), to_say("Batteries"), [](const Entry& e) { return joined(e.gear.batteries); }},
    {to_say("Kit"), to_say("Cards"), [](const Entry& e) { return joined(e.gear.cards); }},
    {to_say("Kit"), to_say("Checklist ticked"),
     [](const Entry& e) { return count(static_cast<long long>(e.ticks.size())); }},
    {to_say("Outcome"), to_say("Frames"),
     [](const Entry& e) { return e.frames() ? format_count(*e.frames()) : ""; }},
    {to_say("Outcome"), to_say("Missing"),
     [](const Entry& e) { return e.came ? format_count(e.came->missing) : ""; }},
    {to_say("Outcome"), to_say("Interval"),
     [](const Entry& e) { return e.came && e.came->interval_s ? format_length(*e.came->interval_s) : ""; }},
    {to_say("Outcome"), to_say("From first to last"),
     [](const Entry& e) { return e.came ? length(e.came->field_s) : ""; }},
    {to_say("Outcome"), to_say("Presses missed"),
     [](const Entry& e) { return e.shot ? format_count(e.shot->missed) : ""; }},
    {to_say("Outcome"), to_say("Clicks, and late ones"),
     [](const Entry& e) {
       return e.shot && e.shot->clicks > 0 ? fmt::format("{}, {}", e.shot->clicks, e.shot->late_clicks) : "";
     }},
    {to_say("Outcome"), to_say("Faults of frames"), faults},
    {to_say("Outcome"), to_say("Flicker"),
     [](const Entry& e) {
       return e.evened ? say("{} to {}", level::flicker_words(e.evened->before),
                             level::flicker_words(e.evened->after))
                       : "";
     }},
    {to_say("Outcome"), to_say("Films"), films},
    {to_say("Outcome"), to_say("Journal"),
     [](const Entry& e) { return e.shot ? joined(e.shot->notes) : ""; }},
    {to_say("Said"), to_say("It went"),
     [](const Entry& e) { return std::string(verdict_word(e.words.verdict)); }},
    {to_say("Said"), to_say("Note"), [](const Entry& e) { return e.words.note; }},
    {to_say("Said"), to_say("Next time"), [](const Entry& e) { return e.words.change; }},
    {to_say("Said"), to_say("File"), [](const Entry& e) { return e.file; }},
};

}  // namespace

std::vector<Line> lines_of(const std::vector<Entry>& takes) {
  std::vector<Line> lines;
  for (const Side& told : kLines) {
    Line line{say(told.group), say(told.what), {}, false};
    for (const Entry& e : takes) line.each.push_back(told.say(e));
    if (std::all_of(line.each.begin(), line.each.end(), [](const std::string& s) { return s.empty(); }))
      continue;
    line.differ = std::any_of(line.each.begin(), line.each.end(),
                              [&](const std::string& s) { return s != line.each[0]; });
    lines.push_back(std::move(line));
  }
  return lines;
}

}  // namespace askcount::book
