#include "book/beside.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>

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
  if (!e.faults) return "";
  std::string words;
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
    words += fmt::format("{}{} of {} × {}{}", words.empty() ? "" : ", ", format_length(m.seconds, 1), m.width,
                         m.height, std::filesystem::exists(m.file, ec) ? "" : " (not where it was)");
  return words;
}

struct Told {
  const char *group, *what;
  std::string (*say)(const Entry&);
};

const Told kLines[] = {
    {"Plan", "Subject", [](const Entry& e) { return e.subject; }},
    {"Plan", "Place", [](const Entry& e) { return e.place.name; }},
    {"Plan", "First shot",
     [](const Entry& e) {
       if (!e.knows_start()) return std::string();
       const Day day = day_of(e.start, e.place.zone);
       return fmt::format("{} {}, {}", day_words(day), static_cast<int>(day.year()),
                          format_clock(e.start, e.place.zone));
     }},
    {"Plan", "Frames planned", [](const Entry& e) { return count(e.planned.frames); }},
    {"Plan", "Interval planned", [](const Entry& e) { return length(e.planned.interval_s); }},
    {"Plan", "Shutter planned", [](const Entry& e) { return e.planned.shutter; }},
    {"Plan", "Exposures a shot",
     [](const Entry& e) {
       return e.planned.exposures_each > 1 ? format_count(e.planned.exposures_each) : "";
     }},
    {"Plan", "Light",
     [](const Entry& e) {
       if (!e.planned.ev_from || !e.planned.ev_to) return std::string();
       return fmt::format("EV {} to {}, {}", format_number(*e.planned.ev_from, 1),
                          format_number(*e.planned.ev_to, 1),
                          e.planned.school == "hand" ? "followed by hand" : e.planned.school);
     }},
    {"Plan", "Air",
     [](const Entry& e) {
       if (!e.temperature_c) return std::string();
       const std::string damp = e.humidity ? fmt::format(", {} % humid", std::lround(*e.humidity * 100)) : "";
       return fmt::format("{} °C{}", format_number(*e.temperature_c, 0), damp);
     }},
    {"Plan", "The timer was told", [](const Entry& e) { return e.planned.program; }},
    {"Kit", "Body",
     [](const Entry& e) { return e.gear.body.empty() && e.came ? e.came->body : e.gear.body; }},
    {"Kit", "Lens", [](const Entry& e) { return e.gear.lens; }},
    {"Kit", "Timer", [](const Entry& e) { return e.gear.timer; }},
    {"Kit", "Batteries", [](const Entry& e) { return joined(e.gear.batteries); }},
    {"Kit", "Cards", [](const Entry& e) { return joined(e.gear.cards); }},
    {"Kit", "Checklist ticked", [](const Entry& e) { return count(static_cast<long long>(e.ticks.size())); }},
    {"Outcome", "Frames", [](const Entry& e) { return e.frames() ? format_count(*e.frames()) : ""; }},
    {"Outcome", "Missing", [](const Entry& e) { return e.came ? format_count(e.came->missing) : ""; }},
    {"Outcome", "Interval",
     [](const Entry& e) { return e.came && e.came->interval_s ? format_length(*e.came->interval_s) : ""; }},
    {"Outcome", "From first to last", [](const Entry& e) { return e.came ? length(e.came->field_s) : ""; }},
    {"Outcome", "Presses not heard",
     [](const Entry& e) { return e.shot ? format_count(e.shot->missed) : ""; }},
    {"Outcome", "Clicks, and late ones",
     [](const Entry& e) {
       return e.shot && e.shot->clicks > 0 ? fmt::format("{}, {}", e.shot->clicks, e.shot->late_clicks) : "";
     }},
    {"Outcome", "Faults of frames", faults},
    {"Outcome", "Flicker",
     [](const Entry& e) {
       return e.evened ? fmt::format("{} to {}", level::flicker_words(e.evened->before),
                                     level::flicker_words(e.evened->after))
                       : "";
     }},
    {"Outcome", "Films", films},
    {"Outcome", "Journal", [](const Entry& e) { return e.shot ? joined(e.shot->notes) : ""; }},
    {"Said", "It went", [](const Entry& e) { return std::string(verdict_word(e.words.verdict)); }},
    {"Said", "Note", [](const Entry& e) { return e.words.note; }},
    {"Said", "Next time", [](const Entry& e) { return e.words.change; }},
    {"Said", "File", [](const Entry& e) { return e.file; }},
};

}  // namespace

std::vector<Line> lines_of(const std::vector<Entry>& takes) {
  std::vector<Line> lines;
  for (const Told& told : kLines) {
    Line line{told.group, told.what, {}, false};
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
