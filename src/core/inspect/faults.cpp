#include "inspect/faults.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include <map>

#include "base/language.h"
#include "base/units.h"
#include "media/film_frames.h"

namespace askcount::inspect {

const char* remedy_word(Remedy remedy) {
  static constexpr const char* words[] = {"",           "leave_out", "neighbours", "make",
                                          "shift_back", "lift_haze", "level",      "end_before"};
  return words[static_cast<int>(remedy)];
}

const char* remedy_button(Remedy remedy) {
  static constexpr const char* words[] = {"",
                                          to_say("Leave it out"),
                                          to_say("Neighbours stand in"),
                                          to_say("Make them from neighbours"),
                                          to_say("Shift it back in Cut"),
                                          to_say("Lift the haze in Level"),
                                          to_say("Level evens it out"),
                                          to_say("End the take before")};
  return words[static_cast<int>(remedy)];
}

std::vector<Fault> faults_of(const ingest::FoundTake& take, const Look& look, const Planned& planned) {
  std::vector<Fault> all;
  const auto add = [&](std::vector<Fault> more) { all.insert(all.end(), more.begin(), more.end()); };
  add(beat_faults(take));
  add(file_faults(take, look));
  const std::vector<Fault> dew = clear_faults(take, look);
  std::vector<Fault> still = still_faults(take, look);
  std::vector<Fault> pictures = picture_faults(look, still);
  // Dew takes the fine detail with it: said once.
  constexpr long kNear = 10;  // frames
  std::erase_if(pictures, [&](const Fault& f) {
    return (f.code == "soft" || f.code == "hunting") &&
           std::any_of(dew.begin(), dew.end(),
                       [&](const Fault& d) { return f.frame + kNear > d.frame && f.frame < d.last + kNear; });
  });
  // Blur and veil move nothing: what seems to move in them is no wind.
  Stretches unclear;
  for (const Fault& f : pictures)
    if (f.code == "hunting" || (f.code == "soft" && f.last > f.frame + 8))
      unclear.emplace_back(f.frame, f.last);
  for (const Fault& f : dew) unclear.emplace_back(f.frame, f.last);
  if (!unclear.empty()) still = still_faults(take, look, unclear);
  add(std::move(still));
  add(std::move(pictures));
  add(dew);
  add(exposure_faults(take, look, planned));
  add(setting_faults(take));
  add(place_faults(take, look, all));
  std::stable_sort(all.begin(), all.end(), [](const Fault& a, const Fault& b) { return a.frame < b.frame; });
  return all;
}

namespace {

/// What several faults of one code are called: one, and many, counted as frames or as what they are.
struct Title {
  const char *one, *many;
  bool of_frames = false;
};
const std::map<std::string, Title> kTitles = {
    {"late", {to_say("Late at frame {}"), to_say("{} came late"), true}},
    {"early", {to_say("Early at frame {}"), to_say("{} came early"), true}},
    {"missing", {to_say("Missing after frame {}"), to_say("Missing in {} places")}},
    {"double", {to_say("A second shot at frame {}"), to_say("{} with a second shot")}},
    {"bump", {to_say("Bumped at frame {}"), to_say("Bumped {} times")}},
    {"swing", {to_say("Knocked at frame {}"), to_say("Knocked {} times")}},
    {"sinking", {to_say("Sinking from frame {}"), to_say("Sinking {} times")}},
    {"wind", {to_say("Wind from frame {}"), to_say("Wind {} times")}},
    {"soft", {to_say("Not sharp: frame {}"), to_say("{} not sharp"), true}},
    {"hunting", {to_say("The focus hunts from frame {}"), to_say("The focus hunts {} times")}},
    {"dew", {to_say("Dew from frame {}"), to_say("Dew {} times")}},
    {"visitor", {to_say("Something passed at frame {}"), to_say("Something passed {} times")}},
    {"dark", {to_say("Dark: frame {}"), to_say("{} dark"), true}},
    {"blank", {to_say("Blank: frame {}"), to_say("{} blank"), true}},
    {"clipped", {to_say("White without detail from frame {}"), to_say("White without detail {} times")}},
    {"click_off", {to_say("A click is off at frame {}"), to_say("{} clicks are off")}},
    {"setting_changed", {to_say("A setting changed at frame {}"), to_say("Settings changed {} times")}},
    {"truncated", {to_say("Cut short: frame {}"), to_say("{} cut short"), true}},
    {"unreadable", {to_say("Unreadable: frame {}"), to_say("{} unreadable"), true}},
    {"size_differs", {to_say("Another size at frame {}"), to_say("Another size in {} places")}}};

/// The one action that mends a fault, where there is one to press here.
void offer(const ingest::FoundTake& take, const Fault& fault, Finding& finding) {
  const auto name = [&](size_t n) { return media::name_of((*take.frames)[n].file()); };
  if (fault.remedy == Remedy::Neighbours && fault.frame == fault.last)
    finding.mend = Mend{"stand-in", 1, name(fault.frame)};
  else if (fault.remedy == Remedy::EndBefore && fault.frame > 0)
    finding.mend = Mend{"until", 1, name(fault.frame - 1)};
  if (finding.mend) finding.fix = say(remedy_button(fault.remedy));
}

}  // namespace

Findings judge(const ingest::FoundTake& take, const Look& look, const std::vector<Fault>& faults) {
  Findings list;
  std::map<std::string, std::vector<const Fault*>> by_code;
  std::vector<std::string> order;
  for (const Fault& f : faults) {
    if (f.code == "missing" || f.code == "double") continue;  // the gathering says these
    if (by_code[f.code].empty()) order.push_back(f.code);
    by_code[f.code].push_back(&f);
  }
  for (const std::string& code : order) {
    const auto& same = by_code[code];
    const Title& title = kTitles.at(code);
    const Fault& first = *same.front();
    const auto count = static_cast<long long>(same.size());
    const std::string many = title.of_frames ? counted(count, "{} frame", "{} frames") : format_count(count);
    const std::string number = format_count(static_cast<long long>(first.frame) + 1);
    list.push_back({code,
                    first.severity,
                    count == 1 ? filled(say(title.one), title.one, fmt::make_format_args(number))
                               : filled(say(title.many), title.many, fmt::make_format_args(many)),
                    count == 1 ? first.text : say("The first is frame {}: {}", number, first.text),
                    "",
                    {}});
    if (count == 1) offer(take, first, list.back());
  }
  if (list.empty() && !look.frames.empty())
    list.push_back({"all_well",
                    Severity::Ok,
                    say("Every frame is well"),
                    say("{} looked at: still, sharp, clear and alike.",
                        counted(static_cast<long long>(take.frames->size()), "{} frame", "{} frames")),
                    "",
                    {}});
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::inspect
