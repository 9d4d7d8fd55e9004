// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include <cmath>
#include <filesystem>
#include <memory>
#include <numeric>

#include "advice/by_stage.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "book/learn.h"
#include "cut_films.h"
#include "filing.h"
#include "film_answer.h"
#include "films/film.h"
#include "forecast/ended_early.h"
#include "ingest/gather.h"
#include "progress_line.h"
#include "render/estimate.h"
#include "render/film_plan.h"
#include "render/film_preview.h"
#include "render/level_ahead.h"
#include "render/picture_file.h"
#include "stop.h"

namespace askcount::cli {
namespace {

using Orders = std::vector<render::FilmOrder>;
using Source = std::shared_ptr<const media::FrameSource>;

films::Finished finish_shown(const render::FilmOrder& order, size_t take_frames,
                             const render::FilmOutcome& outcome, const films::BesideFilm& beside) {
  ProgressLine line("Checking");
  return films::finish_film(order, take_frames, outcome, beside,
                            {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
}

/// "310 MB", "4.2 MB", "90 kB".
std::string size_words(double bytes) {
  if (bytes >= 1e7) return fmt::format("{} MB", format_number(bytes / 1e6, 0));
  if (bytes >= 1e6) return fmt::format("{} MB", format_number(bytes / 1e6, 1));
  return fmt::format("{} kB", format_number(bytes / 1e3, 0));
}

/// What films would take; nothing is made.
Answer estimate_shown(const media::Frames& frames, const media::FrameSource& source,
                      const std::vector<render::FilmOrder>& orders) {
  ProgressLine line("Estimating");
  const render::Estimate e = render::estimate(
      frames, source, orders, {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
  Answer answer;
  Json films = Json::array();
  double all = 0;
  for (size_t n = 0; n < orders.size(); ++n) {
    films.push_back({{"film", orders[n].output.string()}, {"bytes", std::llround(e.bytes[n])}});
    answer.words += fmt::format("{}: about {}.\n", orders[n].output.string(), size_words(e.bytes[n]));
    all += e.bytes[n];
  }
  answer.json["estimate"] = {
      {"bytes", std::llround(all)}, {"seconds", rounded(e.seconds, 1)}, {"films", films}};
  answer.words += fmt::format("About {} to make.\n", format_length(e.seconds, e.seconds < 10 ? 1 : 0));
  return answer;
}

/// What a single picture cannot find out on the way: the gains of all frames, and the camera's path.
void measure_first(render::FilmOrder& order, const media::Frames& frames, const media::FrameSource& source) {
  ProgressLine line("Measuring");
  const Work work{[&](size_t done, size_t total) { line.show(done, total); }, stop_token()};
  if (render::levels_on_the_way(order)) render::level_ahead(order, frames, source, work);
  if (order.steady == motion::Mode::None) return;
  std::vector<size_t> all(frames->size());
  std::iota(all.begin(), all.end(), size_t{0});
  order.path = motion::measure_path(frames, all, source, order.size.width, work);
}

/// A film's picture at a moment as it will be, drawn without making it.
void write_glimpse(const std::string& said, const render::FilmOrder& order, const media::Frames& frames,
                   std::shared_ptr<const media::FrameSource> source) {
  const auto [file, at] = file_at(said, "--glimpse");
  const image::Size frame = render::size_of_take(*frames);
  render::FilmPreview film(order, frames, frame, order.size,
                           render::known_steadied(order, frames->size(), frame));
  const auto n = static_cast<size_t>(std::llround(at * order.fps.value()));
  if (n >= film.frames())
    throw bad_input(fmt::format("--glimpse {} is after the end of the film.", said), "Name an earlier time.");
  render::SmallFrames::Limits limits;
  limits.width = std::max(frame.width, order.size.width);
  render::SmallFrames small(frames, std::move(source), limits);
  small.want(film.needed_for(n));
  small.wait();
  const render::FilmPreview::Drawn drawn = film.draw(n, small);
  if (drawn.picture.empty()) throw failed("Not one of the frames it needs can be read.");
  render::write_picture(drawn.picture, file);
}

void show_still(const render::FilmOrder& order, const std::string& file, const media::Frames& frames,
                const media::FrameSource& source, Answer& answer) {
  ProgressLine line("Adding up");
  const image::Coded16 picture = render::render_still(
      frames, source, order, order.choice.bright != 0 ? render::Still::Brightest : render::Still::Mean,
      {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
  render::write_picture(picture, render::format_named(file), 95, {}, file);
  answer.json["still"] = file;
  answer.words += fmt::format("{}: one picture, {}x{}.\n", file, picture.size.width, picture.size.height);
}

void show_glimpse(render::FilmOrder order, const std::string& said, const media::Frames& frames,
                  const Source& source, Answer& answer) {
  measure_first(order, frames, *source);
  write_glimpse(said, order, frames, source);
  const std::string file = file_at(said, "--glimpse").first;
  answer.json["glimpse"] = file;
  answer.words += fmt::format("{}: the film as it will be.\n", file);
}

/// What is told of the films once they are there, and what the book learns of them.
class Telling {
 public:
  Telling(const Cutting& cutting, const CutAsked& asked, const ingest::Gathered& gathered)
      : cutting_(cutting), asked_(asked), gathered_(gathered) {}

  void film(const render::FilmOrder& order, const render::FilmOutcome& outcome,
            const films::BesideFilm& beside, Answer& answer) {
    Answer one = film_answer(outcome, order.output);
    films::BesideFilm told = beside;
    if (cutting_.gathering.take)
      if (const auto ended = forecast::ended_early(cutting_.take, gathered_))
        told.about.push_back(forecast::judge(cutting_.take, *ended));
    const films::Finished finished = finish_shown(order, gathered_.frames->size(), outcome, told);
    one.json = films::film_json(outcome, order.output, finished);
    one.words += fmt::format("{} bytes.\n", format_count(static_cast<long long>(finished.check.bytes)));
    made_.push_back({order.output, outcome, finished, render::timeline_of(order, gathered_.frames->size())});
    if (films_.empty())
      for (const auto& [key, value] : one.json.items()) answer.json[key] = value;
    films_.push_back(one.json);
    answer.words += one.words;
  }

  void finish(Answer& answer) const {
    if (const std::optional<take::Take>& take = cutting_.gathering.take)
      file_take(*take, asked_.take, [&](book::Entry& e) {
        book::learn(e, *take, gathered_);
        for (const Made& made : made_) book::learn(e, made.file, made.outcome, made.finished.check, now());
        e.picture = book::picture_of(gathered_.frames);
      });
    answer.json["films"] = films_;
    const Findings findings = this->findings();
    answer.json["findings"] = to_json(findings);
    answer.words += words_of(findings);
  }

 private:
  struct Made {
    std::filesystem::path file;
    render::FilmOutcome outcome;
    films::Finished finished;
    render::Timeline timeline;
  };
  /// What there is to say on Cut; and where the take is not whole, that it is not.
  Findings findings() const {
    Findings list = ingest::judge(gathered_);
    advice::Known known;
    if (cutting_.gathering.take) known.frames.gathered = &gathered_;
    for (size_t n = 0; n < made_.size(); ++n)
      known.films.push_back({cutting_.films[n].wish, made_[n].outcome.facts, &made_[n].outcome,
                             &made_[n].finished, &made_[n].timeline,
                             render::size_of_take(*gathered_.frames)});
    const Findings of_films = advice::findings_on(advice::Stage::Cut, cutting_.take, known);
    list.insert(list.end(), of_films.begin(), of_films.end());
    std::erase_if(list, [](const Finding& f) { return f.severity == Severity::Ok; });
    return list;
  }
  const Cutting& cutting_;
  const CutAsked& asked_;
  const ingest::Gathered& gathered_;
  std::vector<Made> made_;
  Json films_ = Json::array();
};

/// How to leave out frames that cannot be read: counted from 1, to the last that is whole before them or from
/// the first after.
std::string leaving_out(const render::TooManyUnreadable& e, const render::Choice& choice, size_t frames) {
  const long long to = choice.last > 0 ? choice.last : static_cast<long long>(frames);
  const auto before = static_cast<long long>(e.first()), after = static_cast<long long>(e.last()) + 2;
  std::string options;
  if (after <= to) options = fmt::format("--from {}", after);
  if (before >= choice.first) options += fmt::format("{}--to {}", options.empty() ? "" : " or ", before);
  return options.empty() ? "" : fmt::format("To leave them out add {}.", options);
}

void make_films(const Cutting& cutting, const CutAsked& asked, const ingest::Gathered& gathered,
                Orders orders, const media::FrameSource& source, Answer& answer) {
  std::vector<films::BesideFilm> beside;
  for (size_t n = 0; n < orders.size(); ++n) {
    beside.push_back(beside_of(cutting.films[n], asked));
    films::check_beside(beside.back(), orders[n], gathered.frames->size());
    films::order_by_light(orders[n], cutting.films[n].wish, gathered.frames, source, {{}, stop_token()});
  }
  std::vector<render::FilmOutcome> outcomes;
  try {
    ProgressLine line("Rendering");
    outcomes = render::render(gathered.frames, source, std::span<const render::FilmOrder>(orders),
                              {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
  } catch (const render::TooManyUnreadable& e) {
    throw failed(e.what(), leaving_out(e, orders.front().choice, gathered.frames->size()));
  }
  Telling telling(cutting, asked, gathered);
  for (size_t n = 0; n < orders.size(); ++n) telling.film(orders[n], outcomes[n], beside[n], answer);
  telling.finish(answer);
}

Answer cut_verb(const CutAsked& asked) {
  const Cutting cutting = cutting_of(asked);
  const ingest::Gathered gathered = gather_shown(cutting.gathering.ask);
  const media::Frames frames = gathered.frames;
  const Source source = films::source_of(cutting.take, cutting.gathering.folder, frames);
  Orders orders;
  for (const Cutting::Film& film : cutting.films) orders.push_back(order_of(cutting, film, asked, gathered));
  Answer answer;
  if (!asked.still.empty())
    show_still(still_order(cutting, asked, gathered), asked.still, frames, *source, answer);
  if (orders.empty()) return answer;
  if (asked.estimate) return estimate_shown(frames, *source, orders);
  if (!asked.glimpse.empty())
    show_glimpse(orders.front(), asked.glimpse, frames, source, answer);
  else
    make_films(cutting, asked, gathered, std::move(orders), *source, answer);
  return answer;
}

}  // namespace

void add_cut(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "cut", "Level the frames and encode them as film");
  const auto asked = std::make_shared<CutAsked>();
  verb.add_option("folder", asked->folders, "The cards or folders, or a video").required();
  add_brackets(verb, asked->brackets);
  verb.add_option("-o,--output", asked->film.output,
                  fmt::format("The film to write ({})", media::film_endings(".")));
  verb.add_option("--film", asked->more,
                  "One more film from the same frames, with its own options over those here: "
                  "tall.mp4=\"--size 1080x1920 --for phone\"")
      .called("NAME=OPTIONS");
  verb.add_option(
      "--take", asked->take,
      "The take: its plan gives the frame rate, and what you decided about its frames and films is applied");
  add_film_options(verb, asked->film);
  verb.add_option("--still", asked->still,
                  "Also one picture of all frames (.png, .tif or .jpg): their mean, or with --trails bright "
                  "each place at its brightest");
  verb.add_option("--glimpse", asked->glimpse,
                  "A picture of the film as it will be at a given time; nothing is made")
      .called("FILE[@S]");
  verb.add_flag("--estimate", asked->estimate, "Estimate size and time; nothing is made");
  verb.add_option("--look", asked->look, "A file of looks, instead of the take's own");
  verb.add_flag("--as-shot", asked->as_shot, "Leave frames as shot: no levelling, no look");
  add_force(verb, asked->force);
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return cut_verb(*asked); };
  });
}

}  // namespace askcount::cli
