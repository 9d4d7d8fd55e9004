#include <fmt/format.h>

#include <map>
#include <memory>

#include "base/error.h"
#include "base/units.h"
#include "take/take.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

/// The options of `askcount count`.
struct Asked {
  std::map<plan::Slot, std::string> slots;
  std::string writing, name, subject, save;
};

std::string words_of_sums(const plan::Sums& s) {
  std::string words = fmt::format(
      "Shoot {}, one every {}, shutter {}, for {}.\nThe gap between shots is {}. The film runs {} at {}, {} times faster.\n",
      counted(s.frames, "frame"), format_length(s.interval_s), format_shutter(s.shutter_s), format_length(s.field_s),
      format_length(s.gap_s), format_length(s.clip_s), frame_rate_words(s.fps), format_number(s.speed_up, 1));
  if (s.step)
    words += fmt::format("The subject moves {} of the frame's width a frame and crosses the screen in {}.\n",
                         format_number(*s.step * 100, 2) + " %", format_length(*s.screen_crossing_s, 1));
  return words;
}

Answer count(const Asked& asked) {
  take::Take take;
  std::vector<plan::Wish> wishes;
  for (const auto& [slot, text] : asked.slots)
    if (!text.empty()) wishes.push_back({slot, plan::parse_slot(slot, text), true});
  take.wishes = wishes;
  if (!asked.name.empty()) take.name = asked.name;
  if (!asked.subject.empty()) take.subject = asked.subject;
  if (!asked.writing.empty()) take.pace.writing_s = parse_length(asked.writing, "--writing");
  const plan::Solution solution = take.solution();
  if (!solution.conflicts.empty()) throw bad_input(plan::conflict_words(solution.conflicts.front(), wishes));
  const plan::Sums sums = plan::sums_of(solution);
  const Findings findings = plan::judge(sums, take.pace);
  if (!asked.save.empty()) {
    std::filesystem::path file = asked.save;
    if (file.extension() != ".askcount") throw bad_input(fmt::format("\"{}\" must end in .askcount.", asked.save));
    const take::Take demo = take::demo_take();  // where and when the stand-in shoots
    take.place = demo.place;
    take.start = demo.start;
    take::save_take(take, file);
  }
  Answer answer;
  answer.json = plan::to_json(sums);
  answer.json["findings"] = to_json(findings);
  answer.words = words_of_sums(sums) + words_of(findings);
  return answer;
}

}  // namespace

void add_count(CLI::App& app, Chosen& chosen) {
  CLI::App* verb = add_verb(app, chosen, "count", "Count what the field must give for a wished clip");
  const auto asked = std::make_shared<Asked>();
  static constexpr std::pair<plan::Slot, const char*> helps[] = {
      {plan::Slot::Clip, "Length of the film (10s, 2 min)"},
      {plan::Slot::Fps, "Frame rate of the film (25, 24000/1001)"},
      {plan::Slot::Frames, "Frames in the film"},
      {plan::Slot::Interval, "Start of one shot to the start of the next"},
      {plan::Slot::Field, "Time in the field, first shot to last"},
      {plan::Slot::SpeedUp, "Field seconds in one film second"},
      {plan::Slot::FieldCrossing, "The subject crosses the frame in the field"},
      {plan::Slot::ScreenCrossing, "The subject crosses the screen"},
      {plan::Slot::Step, "Movement from frame to frame, share of the width"},
      {plan::Slot::Trail, "Motion blur as a share of the interval"},
      {plan::Slot::Shutter, "How long one exposure is open"},
      {plan::Slot::Gap, "End of a shot to the start of the next"}};
  for (const auto& [slot, help] : helps)
    verb->add_option(std::string("--") + plan::slot_word(slot), asked->slots[slot], help);
  verb->add_option("--writing", asked->writing, "How long the camera is busy after an exposure (0.6 s)");
  verb->add_option("--name", asked->name, "Name of the take");
  verb->add_option("--subject", asked->subject, "What moves");
  verb->add_option("--save", asked->save, "Write a take (.askcount) with these sums");
  verb->callback([&chosen, asked] { chosen.run = [asked] { return count(*asked); }; });
}

}  // namespace askcount::cli
