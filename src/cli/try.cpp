// SPDX-License-Identifier: GPL-3.0-or-later
// askcount try: ten test frames judged against the plan before the take begins.
#include <fmt/format.h>

#include <memory>

#include "forecast/tried.h"
#include "progress_line.h"
#include "stop.h"
#include "take/fix.h"
#include "take_options.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct TryOptions {
  std::vector<std::string> folders;
  std::string take;
  SaveAsked save;
};

Answer try_verb(const TryOptions& asked) {
  check_save(asked.save);
  take::Take take = take::load_take(asked.take);
  ProgressLine line("Looking at");
  const std::vector<std::filesystem::path> folders(asked.folders.begin(), asked.folders.end());
  const forecast::Tried tried = forecast::try_frames(
      take, folders, {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
  for (const Fix& f : tried.learnt) take = take::with_fix(take, f);
  save(asked.save, take, {}, asked.take);
  Answer answer{to_json(tried), {}};
  for (const forecast::TriedLine& l : forecast::lines_of(tried))
    answer.words +=
        fmt::format("{:22} {:18} {}\n", l.what, l.is, l.planned.empty() ? "" : "planned " + l.planned);
  answer.words += words_of(tried.findings);
  answer.words += tried.start() ? "Start.\n" : "Change that first.\n";
  return answer;
}

}  // namespace

void add_try(Command& app, Chosen& chosen) {
  const auto asked = std::make_shared<TryOptions>();
  const Verb verb = add_verb(app, chosen, "try", "Judge a few test frames against a take's plan");
  verb.add_option("card", asked->folders, "The card or folder with the test frames; the newest are judged")
      .required();
  verb.add_option("--take", asked->take, "The take (.askcount)").required();
  add_save(verb, asked->save);
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return try_verb(*asked); };
  });
}

}  // namespace askcount::cli
