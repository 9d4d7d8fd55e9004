// SPDX-License-Identifier: GPL-3.0-or-later
// What is found about a take, and the one action that puts a finding right.
#include <fmt/format.h>

#include <memory>

#include "advice/by_stage.h"
#include "advice/gather_advice.h"
#include "base/error.h"
#include "base/language.h"
#include "book/kit.h"
#include "filing.h"
#include "films/film.h"
#include "forecast/gather.h"
#include "gathering.h"
#include "journal/journal.h"
#include "journal/state.h"
#include "progress_line.h"
#include "stop.h"
#include "take/edit.h"
#include "take/fix.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct FindingsAsked {
  std::string take, stage, book;
  std::vector<std::string> cards;
};
struct FixOptions : FindingsAsked {
  std::string code;
};

/// All that can be known of a take, of its frames and of its films, as far as its stage needs it.
struct Knowing {
  advice::Known known;
  journal::ShootState shoot;
  std::optional<ingest::Gathered> gathered;
  inspect::Look look;
  level::Evenness evenness;
  std::optional<render::Timeline> timeline;

  Knowing(const take::Take& take, const FindingsAsked& asked);
  Knowing(const Knowing&) = delete;

 private:
  void know_book(const take::Take& take, const FindingsAsked& asked);
  void know_frames(const take::Take& take, const FindingsAsked& asked);
  void know_light(const take::Take& take, const FindingsAsked& asked);
  void know_film(const take::Take& take, const FindingsAsked& asked);
};

Knowing::Knowing(const take::Take& take, const FindingsAsked& asked) {
  const auto wants = [&](std::initializer_list<const char*> stages) {
    return asked.stage.empty() ||
           std::any_of(stages.begin(), stages.end(), [&](const char* s) { return asked.stage == s; });
  };
  if (wants({"ask", "book"})) know_book(take, asked);
  const auto journal = journal::newest_journal(asked.take);
  if (wants({"shoot"}) && std::filesystem::exists(journal)) {
    shoot = journal::state_of(journal::read_journal(journal));
    known.shoot = &shoot;
  }
  if (wants({"gather", "level", "cut"})) know_frames(take, asked);
  if (wants({"level"})) know_light(take, asked);
  if (wants({"cut"})) know_film(take, asked);
}

void Knowing::know_book(const take::Take& take, const FindingsAsked& asked) {
  const std::filesystem::path file = book_file(asked.book);
  if (!std::filesystem::exists(file)) return;
  const auto book = open_book(file);
  known.kit = book::judge(book::kit_facts(book->measures(), take.kit), take.kit, take.light.turning_s);
  known.mistakes = book::judge_mistakes(book->mistakes(), take.again);
  known.practice = book::judge_practice(book->scores());
}

void Knowing::know_frames(const take::Take& take, const FindingsAsked& asked) {
  GatheringAsked cards{asked.cards, asked.take, {}, {}};
  if (cards.folders.empty() && !take.card.empty()) {
    const auto card = std::filesystem::path(asked.take).parent_path() / take.card;
    if (std::filesystem::exists(card)) cards.folders = {card.string()};
  }
  if (cards.folders.empty()) return;
  gathered = gather_shown(gathering_of(cards).ask);
  look = look_at_frames(*gathered, asked.take);
  const auto faults =
      inspect::faults_of(*gathered, look, forecast::planned_of(take, gathered->frames->size()));
  known.frames = {&*gathered, &look, advice::open_faults(take, *gathered, faults),
                  advice::began_by_journal(asked.take)};
}

void Knowing::know_light(const take::Take& take, const FindingsAsked& asked) {
  if (!gathered) return;
  ProgressLine line("Measuring");
  const auto folder = std::filesystem::path(asked.take).parent_path();
  const auto luminances = level::measure(
      gathered->frames, *films::source_of(take, folder, gathered->frames), {}, level::MeasuredFrom::Frames,
      {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
  evenness = level::even_out(gathered->frames, luminances, films::smoothing_of(take), {{}, stop_token()});
  known.evenness = &evenness;
  known.lens = optics::LensRecords::installed().find(optics::shot_of(gathered->frames), take.optics.lens);
}

void Knowing::know_film(const take::Take& take, const FindingsAsked& asked) {
  advice::KnownFilm film{take.film, {}, nullptr, nullptr, nullptr, {}};
  const auto file = films::film_file(std::filesystem::path(asked.take).replace_extension(take.film.ending));
  if (std::filesystem::exists(file)) film.facts = media::read_film(file);
  if (gathered && !gathered->frames->empty()) {
    film.frame = media::upright_size(gathered->frames->front());
    if (const auto fps = films::rate_of(take, take.film))
      timeline.emplace(take.film.choice, static_cast<long long>(gathered->frames->size()), *fps,
                       films::gaps_of(*gathered));
  }
  if (timeline) film.timeline = &*timeline;
  known.films.push_back(film);
}

Findings findings_asked(const take::Take& take, const FindingsAsked& asked) {
  const Knowing knowing(take, asked);
  if (asked.stage.empty()) return advice::findings_of(take, knowing.known);
  return advice::findings_on(*advice::stage_of_word(asked.stage), take, knowing.known);
}

Answer findings_verb(const FindingsAsked& asked) {
  const take::Take take = take::load_take(asked.take);
  const Findings findings = findings_asked(take, asked);
  return {{{"take", asked.take}, {"findings", to_json(findings)}}, words_of(findings)};
}

Answer fix_verb(const FixOptions& asked) {
  take::Edited edited(asked.take);
  const take::Take take = edited.take;
  std::string known;
  for (const Finding& f : findings_asked(take, asked)) {
    if (!f.fix) continue;
    known += (known.empty() ? "" : ", ") + f.code;
    if (f.code != asked.code) continue;
    const take::Take& after = edited.take = take::with_fix(take, *f.fix);
    edited.save();
    const std::string done = words(*f.fix);
    return {{{"take", asked.take},
             {"code", f.code},
             {"done", done},
             {"mend", to_json(*f.fix)},
             {"findings", to_json(findings_asked(after, asked))}},
            fmt::format("{}: {}. Written to {}.\n", f.title, done, asked.take)};
  }
  throw bad_input(fmt::format("Nothing called \"{}\" can be fixed in {}.", asked.code, asked.take),
                  known.empty() ? "There is nothing to fix." : "There are: " + known + ".");
}

void add_what_is_known(const Verb& verb, FindingsAsked& asked) {
  verb.add_option("--card", asked.cards, "Its cards or folders; by default those it was gathered from");
  std::vector<std::string> stages;
  for (const advice::Stage stage : advice::kAllStages) stages.emplace_back(advice::stage_word(stage));
  verb.add_option("--stage", asked.stage, "Only the findings of this stage").one_of(stages);
  verb.add_option("--book", asked.book, "Another book than your own");
}

}  // namespace

void add_findings(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "findings", "All findings about a take");
  const auto asked = std::make_shared<FindingsAsked>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  add_what_is_known(verb, *asked);
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return findings_verb(*asked); };
  });
}

void add_fix(Command& app, Chosen& chosen) {
  for (const char* name : {"fix", "mend"}) {  // what it was called first: scripts go on
    const Verb verb = add_verb(app, chosen, name, "Apply what a finding offers");
    if (std::string_view(name) != "fix") verb.unlisted();
    const auto asked = std::make_shared<FixOptions>();
    verb.add_option("take", asked->take, "The take (.askcount)").required();
    verb.add_option("code", asked->code, "The finding's code, as findings --json gives it").required();
    add_what_is_known(verb, *asked);
    verb.callback([&chosen, asked] {
      chosen.stoppable = true;
      chosen.run = [asked] { return fix_verb(*asked); };
    });
  }
}

}  // namespace askcount::cli
