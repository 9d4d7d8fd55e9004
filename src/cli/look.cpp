// SPDX-License-Identifier: GPL-3.0-or-later
// askcount look: the looks of a take, set and printed.
#include <fmt/format.h>

#include <memory>

#include "base/error.h"
#include "base/units.h"
#include "films/film.h"
#include "look/anchors.h"
#include "look/cube.h"
#include "look/table.h"
#include "take/edit.h"
#include "take/take.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct LookAsked {
  std::string take, from, to, cube, cube_out;
  std::optional<int> at, like;
  std::array<std::optional<double>, look::kLanes> values;
  bool remove = false, clear = false, force = false;

  bool any_value() const {
    return std::any_of(values.begin(), values.end(), [](const auto& v) { return v.has_value(); });
  }
  bool changes() const { return any_value() || like || remove || clear || !from.empty() || !cube.empty(); }
};

std::string words_of(const look::Look& look) {
  std::string words;
  for (const look::Lane& lane : look::lanes()) {
    const double v = look.*lane.value;
    if (v == lane.neutral) continue;
    const bool sign = lane.least < 0;
    words += fmt::format("{}{} {}{} {}", words.empty() ? "" : ", ", lowered(lane.title),
                         sign && v > 0 ? "+" : "", format_number(v, lane.digits), lane.unit);
  }
  return words.empty() ? "as it was shot" : words;
}

void change(take::Take& take, const LookAsked& asked) {
  std::vector<look::Anchor>& anchors = take.look.anchors;
  if (asked.clear) anchors.clear();
  if (!asked.from.empty()) anchors = look::load_looks(asked.from);
  if (!asked.cube.empty()) {
    if (asked.cube != "none") look::load_cube(asked.cube);
    take.look.cube = asked.cube == "none" ? "" : std::filesystem::absolute(asked.cube).string();
  }
  if (!asked.at) {
    if (asked.any_value() || asked.like || asked.remove)
      throw bad_input("--at was not given: which frame?", "Add --at 118; frames count from 1.");
    return;
  }
  const long long frame = *asked.at - 1;
  if (asked.remove) {
    if (std::none_of(anchors.begin(), anchors.end(), [&](const look::Anchor& a) { return a.frame == frame; }))
      throw bad_input(fmt::format("Frame {} has no anchor.", *asked.at));
    look::remove_anchor(anchors, frame);
    return;
  }
  if (!asked.any_value() && !asked.like) return;
  look::Looks looks;
  looks.anchors = anchors;
  look::Look at = look::look_at(looks, static_cast<double>(asked.like ? *asked.like - 1 : frame));
  for (size_t i = 0; i < look::kLanes; ++i)
    if (asked.values[i]) at.*look::lanes()[i].value = *asked.values[i];
  look::check_look(at, "--at");
  look::set_anchor(anchors, frame, at);
}

Answer look_verb(const LookAsked& asked) {
  take::Take take;
  if (asked.changes()) {
    take::Edited edited(asked.take);
    change(edited.take, asked);
    edited.save();
    take = edited.take;
  } else {
    take = take::load_take(asked.take);
    change(take, asked);
  }
  if (!asked.to.empty()) look::save_looks(take.look.anchors, asked.to, {{asked.take}, asked.force});
  const look::Looks looks = films::looks_of(take, std::filesystem::path(asked.take).parent_path());
  const look::Look at = look::look_at(looks, asked.at ? static_cast<double>(*asked.at - 1) : 0);
  if (!asked.cube_out.empty())
    look::save_cube(look::table_of(at, looks.as_shot_k, take.name), asked.cube_out,
                    {{asked.take}, asked.force});
  Answer answer;
  answer.json = {
      {"take", asked.take}, {"anchors", look::to_json(take.look.anchors)}, {"cube", take.look.cube}};
  if (asked.at) answer.json["at"] = {{"frame", *asked.at}, {"look", look::to_json(at)}};
  for (const look::Anchor& a : take.look.anchors)
    answer.words += fmt::format("frame {:>6}  {}\n", a.frame + 1, words_of(a.look));
  if (take.look.anchors.empty()) answer.words = "No anchors: every frame is as it was shot.\n";
  if (!take.look.cube.empty()) answer.words += fmt::format("then       {}\n", take.look.cube);
  if (asked.at) answer.words += fmt::format("At frame {}: {}.\n", *asked.at, words_of(at));
  return answer;
}

}  // namespace

void add_look(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "look", "Set and print the looks of a take, frame by frame");
  const auto asked = std::make_shared<LookAsked>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  verb.add_option("--at", asked->at, "The frame, counted from 1").between(1, 10000000);
  for (size_t i = 0; i < look::kLanes; ++i) {
    const look::Lane& lane = look::lanes()[i];
    verb.add_option(fmt::format("--{}", lane.key), asked->values[i],
                    fmt::format("{}{}{}, {} to {}", lane.title, *lane.unit ? " in " : "", lane.unit,
                                lane.least, lane.most))
        .between(lane.least, lane.most);
  }
  verb.add_option("--like", asked->like, "Copy the look of frame N").between(1, 10000000);
  verb.add_flag("--remove", asked->remove, "Remove the anchor at that frame");
  verb.add_flag("--clear", asked->clear, "Remove all anchors");
  verb.add_option("--from", asked->from, "Load looks");
  verb.add_option("--to", asked->to, "Save the looks to a file");
  verb.add_option("--cube", asked->cube, "A .cube table that comes last; none for no table");
  verb.add_option("--cube-out", asked->cube_out, "Write the look at that frame as a .cube table");
  add_force(verb, asked->force);
  verb.callback([&chosen, asked] { chosen.run = [asked] { return look_verb(*asked); }; });
}

}  // namespace askcount::cli
