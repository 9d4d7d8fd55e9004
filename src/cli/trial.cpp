// SPDX-License-Identifier: GPL-3.0-or-later
// askcount trial: the film a plan would give, before anybody goes out.
#include <fmt/format.h>

#include <memory>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/exposure.h"
#include "forecast/trial.h"
#include "media/encoder.h"
#include "progress_line.h"
#include "simulate/reel.h"
#include "stop.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct TrialAsked {
  std::string take, beside, output;
  bool force = false;
};

/// A plan's trial film, and what there is to say of it.
struct Told {
  std::unique_ptr<const simulate::TrialFilm> film;
  Json json;
  std::string words;
};

Told told(const std::string& file) {
  const take::Take take = take::load_take(file);
  const simulate::TrialPlan plan = forecast::trial_of(take);
  Told t{std::make_unique<const simulate::TrialFilm>(plan), {}, {}};
  const simulate::OverMeter over = t.film->over_meter();
  const forecast::ExposurePlan exposure = forecast::exposure_of(take);
  t.json = {{"take", file},
            {"scene", plan.scene},
            {"seen", forecast::trial_words(take, plan)},
            {"frames", plan.frames},
            {"fps", rounded(plan.fps.value(), 6)},
            {"interval_s", plan.interval_s},
            {"haste", rounded(plan.haste, 4)},
            {"shutter", forecast::shutter_words(exposure)},
            {"first_over_stops", rounded(over.first, 2)},
            {"last_over_stops", rounded(over.last, 2)},
            {"least_over_stops", rounded(over.least, 2)},
            {"most_over_stops", rounded(over.most, 2)},
            {"lost", simulate::is_lost(over)}};
  t.words = fmt::format("{}: {}, {} at {}, one every {}, shutter {}. {}\n", take.name,
                        forecast::trial_words(take, plan), counted(plan.frames, "{} frame", "{} frames"),
                        frame_rate_words(plan.fps), format_length(plan.interval_s),
                        forecast::shutter_words(exposure), simulate::over_words(over));
  return t;
}

Answer trial_verb(const TrialAsked& asked) {
  Guard guard{{asked.take}, asked.force};
  if (!asked.beside.empty()) guard.inputs.emplace_back(asked.beside);
  media::check_film_output({asked.output, FileKind::Film, guard});
  const Told one = told(asked.take);
  Told other;
  if (!asked.beside.empty()) other = told(asked.beside);
  ProgressLine line("Shooting the trial film");
  const media::FilmFacts facts =
      simulate::write_reel(*one.film, other.film.get(), asked.output, guard,
                           {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
  Answer answer;
  answer.json = {{"film", asked.output},
                 {"frames", facts.frames},
                 {"fps", rounded(facts.fps.value(), 6)},
                 {"duration_s", rounded(facts.duration_s, 4)},
                 {"size", fmt::format("{}x{}", facts.size.width, facts.size.height)},
                 {"plans", Json::array({one.json})}};
  answer.words = one.words;
  if (other.film) {
    answer.json["plans"].push_back(other.json);
    answer.words += other.words;
  }
  answer.words +=
      fmt::format("{}: {} in {}, {}x{}.\n", asked.output, counted(facts.frames, "{} frame", "{} frames"),
                  format_length(facts.duration_s), facts.size.width, facts.size.height);
  return answer;
}

}  // namespace

void add_trial(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "trial",
                             "Make a small version of the whole film a plan would give, shot by the stand-in "
                             "in the scene closest to the subject; or two plans side by side.");
  const auto asked = std::make_shared<TrialAsked>();
  verb.add_option("take", asked->take, "The plan (.askcount)").required();
  verb.add_option("-o,--output", asked->output, "The film: .mp4, .mov or .mkv").required().called("FILM");
  verb.add_option("--beside", asked->beside, "Another plan, to its right").called("TAKE");
  add_force(verb, asked->force);
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return trial_verb(*asked); };
  });
}

}  // namespace askcount::cli
