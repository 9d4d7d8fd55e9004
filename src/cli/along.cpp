// SPDX-License-Identifier: GPL-3.0-or-later
// askcount along: sheets, a calendar file and a picture to take along.
#include <fmt/format.h>

#include <memory>
#include <set>

#include "base/error.h"
#include "base/files.h"
#include "base/units.h"
#include "forecast/light.h"
#include "paper/calendar.h"
#include "paper/cards.h"
#include "paper/light_strip.h"
#include "verbs.h"

namespace askcount::cli {
namespace fs = std::filesystem;
namespace {

struct AlongAsked {
  std::string take, plan, cues, timer, calendar, light;
  bool force = false;
};

Answer along_verb(const AlongAsked& asked) {
  const take::Take take = take::load_take(asked.take);
  const Guard guard{{asked.take}, asked.force};
  // All of them are looked at before the first is written.
  const std::pair<std::string, FileKind> outputs[] = {{asked.plan, FileKind::Sheet},
                                                      {asked.cues, FileKind::Sheet},
                                                      {asked.timer, FileKind::Sheet},
                                                      {asked.calendar, FileKind::Calendar},
                                                      {asked.light, FileKind::Picture}};
  std::set<fs::path> names;
  for (const auto& [file, kind] : outputs) {
    if (file.empty()) continue;
    check_output({file, kind, guard});
    if (!names.insert(fs::absolute(file).lexically_normal()).second)
      throw bad_input(fmt::format("{} is named twice.", file),
                      "Give each its own name; nothing was written.");
  }
  Answer answer;
  answer.json = Json::object();
  const auto write = [&](const char* key, const std::string& file, const auto& how) {
    if (file.empty()) return;
    how(file);
    answer.json[key] = file;
    answer.words += fmt::format("Written: {}\n", file);
  };
  write("plan", asked.plan, [&](const std::string& f) { paper::write_plan_sheet(take, f, guard); });
  write("cues", asked.cues,
        [&](const std::string& f) { paper::write_cue_card(take, forecast::ramp_of(take), f, guard); });
  write("timer", asked.timer, [&](const std::string& f) { paper::write_timer_card(take, f, guard); });
  write("calendar", asked.calendar, [&](const std::string& f) { paper::write_calendar(take, f, guard); });
  write("light", asked.light, [&](const std::string& f) { paper::write_light_strip(take, 1440, f, guard); });
  if (answer.words.empty())
    throw bad_input("Nothing was asked for.",
                    "Add --plan, --cues, --timer, --calendar or --light with a file name.");
  return answer;
}

}  // namespace

void add_along(Command& app, Chosen& chosen) {
  const Verb verb =
      add_verb(app, chosen, "along", "Write sheets, a calendar file and a picture to take along");
  const auto asked = std::make_shared<AlongAsked>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  verb.add_option("--plan", asked->plan, "The plan (PDF)");
  verb.add_option("--cues", asked->cues, "The cue card of clicks (PDF)");
  verb.add_option("--timer", asked->timer, "The timer's program and the checklist (PDF)");
  verb.add_option("--calendar", asked->calendar, "The window with alarms (iCalendar)");
  verb.add_option("--light", asked->light, "The day's light (PNG)");
  add_force(verb, asked->force);
  verb.callback([&chosen, asked] { chosen.run = [asked] { return along_verb(*asked); }; });
}

}  // namespace askcount::cli
