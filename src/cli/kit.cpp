// SPDX-License-Identifier: GPL-3.0-or-later
// askcount kit: what the person owns, as photographs tell it, and what is still to be asked.
#include <fmt/format.h>

#include <memory>

#include "base/error.h"
#include "base/number.h"
#include "forecast/kit_from.h"
#include "forecast/kit_questions.h"
#include "take/edit.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct KitOptions {
  std::string file, take;
  std::vector<std::string> from, answers;
};

/// A kit from photographs: the one that was given, or a usual one, with what they tell.
Answer kit_told(const KitOptions& asked) {
  const plan::Kit known = asked.file.empty() ? forecast::usual_kit() : plan::load_kit(asked.file);
  const forecast::ToldByPhotographs told = forecast::kit_from({asked.from.begin(), asked.from.end()}, known);
  Json json = plan::to_json(told.kit);
  json["told"] = told.told;
  json["taken_until_said"] = told.taken;
  return {json, json.dump(2) + "\n"};
}

/// What a take's sums still ask of its kit, after photographs and answers were put into it.
Answer kit_of_take(const KitOptions& asked) {
  take::Edited edited(asked.take);
  forecast::ToldByPhotographs told;
  const take::Take before = edited.take;
  if (!asked.from.empty())
    edited.take = forecast::with_photographs(edited.take, {asked.from.begin(), asked.from.end()}, &told);
  for (const std::string& answer : asked.answers) {
    const size_t at = answer.find('=');
    if (at == std::string::npos)
      throw bad_input(fmt::format("\"{}\" is no answer.", answer), "Write it like writing_s=0.8.");
    const std::string key = answer.substr(0, at);
    edited.take = forecast::answered(edited.take, key, parse_number(answer.substr(at + 1), -1e12, 1e12, key));
  }
  if (!(edited.take == before)) edited.save();
  Answer answer;
  answer.json = {{"told", told.told}, {"questions", Json::array()}};
  for (const std::string& words : told.told) answer.words += fmt::format("told: {}\n", words);
  for (const forecast::KitQuestion& q : forecast::kit_questions(edited.take)) {
    answer.json["questions"].push_back({{"key", q.key},
                                        {"ask", q.ask},
                                        {"where", q.where},
                                        {"taken", q.taken},
                                        {"matters", q.matters},
                                        {"unit", q.unit},
                                        {"value", rounded(q.value, 3)},
                                        {"frames_apart", q.frames_apart}});
    answer.words += fmt::format("{} ({})\n  {} {} {}\n", q.ask, q.key, q.where, q.taken, q.matters);
  }
  if (answer.json["questions"].empty())
    answer.words += edited.take.knows_kit() ? "Nothing is asked: what is not known changes nothing here.\n"
                                            : "The take has no kit: begin with --from FILES.\n";
  return answer;
}

}  // namespace

void add_kit(Command& app, Chosen& chosen) {
  const Verb verb =
      add_verb(app, chosen, "kit", "Print a kit to start from, check one, or ask what is missing");
  const auto asked = std::make_shared<KitOptions>();
  verb.add_option("file", asked->file, "A kit to check (JSON)");
  verb.add_option("--from", asked->from,
                  "Photographs or folders of them: body, lenses, file sizes and numbers as they tell");
  verb.add_option(
      "--take", asked->take,
      "The take whose kit is meant: what its sums still ask; --from and --answer are put into it");
  verb.add_option("--answer", asked->answers, "Answer a question: writing_s=0.8 (may be repeated)");
  verb.callback([&chosen, asked] {
    chosen.run = [asked] {
      if (!asked->take.empty()) return kit_of_take(*asked);
      if (!asked->answers.empty())
        throw bad_input("--answer needs --take.", "Name the take whose kit it is.");
      if (!asked->from.empty()) return kit_told(*asked);
      const Json json = plan::to_json(asked->file.empty() ? plan::demo_kit() : plan::load_kit(asked->file));
      return Answer{json, json.dump(2) + "\n"};
    };
  });
}

}  // namespace askcount::cli
