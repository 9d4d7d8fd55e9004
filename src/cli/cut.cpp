// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include <cmath>
#include <filesystem>
#include <memory>
#include <numeric>

#include "advice/film_advice.h"
#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"
#include "book/learn.h"
#include "filing.h"
#include "film_answer.h"
#include "film_options.h"
#include "films/film.h"
#include "films/finish.h"
#include "gathering.h"
#include "ingest/gather.h"
#include "media/reader.h"
#include "progress_line.h"
#include "render/estimate.h"
#include "render/film_plan.h"
#include "render/film_preview.h"
#include "render/level_ahead.h"
#include "render/picture_file.h"
#include "stop.h"
#include "take/take.h"

namespace askcount::cli {

Answer film_answer(const render::FilmOutcome& o, const std::filesystem::path& film) {
  Answer answer;
  answer.json = films::film_json(o, film);
  answer.words = fmt::format("{}: {} in {} at {}, {}x{}, made in {}.\n", film.string(),
                             counted(o.facts.frames, "{} frame", "{} frames"),
                             format_length(o.facts.duration_s), frame_rate_words(o.facts.fps),
                             o.facts.size.width, o.facts.size.height, format_length(o.seconds_taken, 1));
  if (o.steadied)
    answer.words +=
        fmt::format("Steadied: {} px from frame to frame before, {} after; {} % is cropped at the edges.\n",
                    format_number(o.steadied->jitter_before, 2), format_number(o.steadied->jitter_after, 2),
                    format_number(100 * o.steadied->edge, 1));
  if (o.made > 0)
    answer.words += fmt::format("Made between others: {}.\n",
                                counted(static_cast<long long>(o.made), "{} frame", "{} frames"));
  if (!o.unreadable.empty())
    answer.words += fmt::format("Neighbours stand in for {} ({} % of the film; at most {} % may).\n",
                                counted(static_cast<long long>(o.unreadable.size()), "{} frame", "{} frames"),
                                format_number(100 * o.stood_in_share(), 1),
                                format_number(100 * render::kMostStandIns, 0));
  for (const std::string& trouble : o.unreadable) answer.words += "A neighbour stands in: " + trouble + "\n";
  return answer;
}

render::FilmOutcome render_shown(const media::Frames& frames, const render::FilmOrder& order,
                                 const media::FrameSource& source) {
  ProgressLine line("Rendering");
  return render::render(frames, source, order,
                        {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
}

namespace {

struct CutOptions : GatheringAsked {
  FilmAsked film;
  std::vector<std::string> more;  // --film
  std::string look;
  bool as_shot = false, force = false, estimate = false;
};

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
void write_glimpse(const FilmAsked& asked, const render::FilmOrder& order, const media::Frames& frames,
                   std::shared_ptr<const media::FrameSource> source) {
  const auto [file, at] = file_at(asked.glimpse, "--glimpse");
  const image::Size frame = render::size_of_take(*frames);
  render::FilmPreview film(order, frames, frame, order.size,
                           render::known_steadied(order, frames->size(), frame));
  const auto n = static_cast<size_t>(std::llround(at * order.fps.value()));
  if (n >= film.frames())
    throw bad_input(fmt::format("--glimpse {} is after the end of the film.", asked.glimpse),
                    "Name an earlier time.");
  render::SmallFrames::Limits limits;
  limits.width = std::max(frame.width, order.size.width);
  render::SmallFrames small(frames, std::move(source), limits);
  small.want(film.needed_for(n));
  small.wait();
  const render::FilmPreview::Drawn drawn = film.draw(n, small);
  if (drawn.picture.empty()) throw failed("Not one of the frames it needs can be read.");
  render::write_picture(drawn.picture, file);
}

/// Told before anything is made: a name that is no picture's, or is taken.
void require_new_picture(const std::filesystem::path& file) {
  render::format_named(file);
  check_output({file, FileKind::Frame});
}

/// Films, their takes and their frames, made ready and made.
Answer cut_verb(const CutOptions& asked) {
  const bool real_time = std::any_of(asked.folders.begin(), asked.folders.end(), [](const std::string& f) {
    std::error_code ec;
    return std::filesystem::is_regular_file(f, ec);
  });
  CutOptions with = asked;
  if (real_time) {  // pictures of a film are chosen as they are gathered
    with.every = asked.film.every;
    with.film.every.reset();
  }
  const Gathering gathering = gathering_of(with);
  std::vector<FilmAsked> all;
  if (!asked.film.output.empty()) all.push_back(with.film);
  for (const std::string& text : asked.more) all.push_back(other_film(text, with.film));
  const take::Take take = gathering.take && !asked.as_shot ? *gathering.take : take::Take{};
  const take::FilmWish base = gathering.take ? gathering.take->film : take::FilmWish{};
  if (!asked.film.output.empty() && asked.more.empty() && gathering.take)
    for (const take::FilmWish& more : gathering.take->more_films) {
      FilmAsked other;
      other.output =
          (std::filesystem::path(asked.film.output).parent_path() / (more.name + "." + more.ending)).string();
      all.push_back(other);
    }
  if (all.empty() && asked.film.still.empty())
    throw bad_input("There is no film to write.", "Add -o FILE, or --film NAME=OPTIONS.");
  // Everything that can be wrong is told before the frames are looked at.
  std::vector<take::FilmWish> wishes;
  for (size_t n = 0; n < all.size(); ++n) {
    const bool from_take = n > 0 && asked.more.empty() && gathering.take;
    take::FilmWish wish = wish_of(all[n], from_take ? gathering.take->more_films[n - 1] : base);
    if (gathering.take && !wish.sound.empty() && all[n].sound.empty())
      wish.sound = (gathering.folder / wish.sound).string();
    const auto rate = wish.fps ? wish.fps : gathering.take ? films::film_rate(*gathering.take) : std::nullopt;
    if (!rate) throw bad_input("The frame rate is missing.", "Add --fps 25, or --take with the plan.");
    wish.fps = rate;
    media::check_coding(all[n].output, wish.size, wish.coding);
    media::check_film_output({all[n].output, FileKind::Film, {{asked.take, wish.sound}, asked.force}});
    render::check_choice(wish.choice, 0);
    if (!wish.sound.empty()) media::check_sound({wish.sound, wish.sound_from_s, 0, 0});
    if (!all[n].poster.empty()) require_new_picture(file_at(all[n].poster, "--poster").first);
    if (all[n].report || wish.report)
      check_output({all[n].output + ".json", FileKind::Record, {{}, asked.force}});
    wishes.push_back(wish);
  }
  for (size_t n = 0; n < all.size(); ++n)
    for (size_t m = 0; m < n; ++m)
      if (std::filesystem::path(all[n].output).lexically_normal() ==
          std::filesystem::path(all[m].output).lexically_normal())
        throw bad_input(fmt::format("Two films are to be called {}.", all[n].output),
                        "Name one differently.");
  if (!asked.film.still.empty()) require_new_picture(asked.film.still);
  if (!asked.film.glimpse.empty()) require_new_picture(file_at(asked.film.glimpse, "--glimpse").first);
  std::vector<look::Anchor> anchors;
  if (!asked.as_shot && !asked.look.empty()) anchors = look::load_looks(asked.look);
  const ingest::Gathered gathered = gather_shown(gathering.ask);
  const media::Frames frames = gathered.frames;
  const auto source = films::source_of(take, gathering.folder, frames);
  std::vector<render::FilmOrder> made;
  const auto order_of = [&](const take::FilmWish& wish, const std::string& output, const FilmAsked& film) {
    take::FilmWish own = wish;
    own.sound.clear();
    render::FilmOrder order = films::film_order(take, own, output, gathering.folder, frames);
    order.extras.sound = {wish.sound, wish.sound_from_s, wish.fade_in_s, wish.fade_out_s};
    if (wish.said.title && gathering.take) order.extras.title = gathering.take->name;
    if (!film.place.empty()) order.extras.place = film.place;
    order.levelled = !asked.as_shot;
    order.gaps = films::gaps_of(gathered);
    if (!asked.as_shot && !asked.look.empty()) order.looks.anchors = anchors;
    order.guard = {{asked.take, wish.sound}, asked.force};
    return order;
  };
  for (size_t n = 0; n < all.size(); ++n) made.push_back(order_of(wishes[n], all[n].output, all[n]));
  Answer answer;
  if (!asked.film.still.empty()) {
    take::FilmWish wish = wish_of(asked.film, base);
    if (!wish.fps) wish.fps = FrameRate{25, 1};
    const render::FilmOrder order = order_of(wish, "", asked.film);
    ProgressLine line("Adding up");
    const image::Coded16 picture = render::render_still(
        frames, *source, order, wish.choice.bright != 0 ? render::Still::Brightest : render::Still::Mean,
        {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
    render::write_picture(picture, render::format_named(asked.film.still), 95, {}, asked.film.still);
    answer.json["still"] = asked.film.still;
    answer.words +=
        fmt::format("{}: one picture, {}x{}.\n", asked.film.still, picture.size.width, picture.size.height);
  }
  if (made.empty()) return answer;
  if (asked.estimate) return estimate_shown(frames, *source, made);
  if (!asked.film.glimpse.empty()) {
    render::FilmOrder order = made.front();
    measure_first(order, frames, *source);
    write_glimpse(asked.film, order, frames, source);
    answer.json["glimpse"] = file_at(asked.film.glimpse, "--glimpse").first;
    answer.words +=
        fmt::format("{}: the film as it will be.\n", file_at(asked.film.glimpse, "--glimpse").first);
    return answer;
  }
  std::vector<films::BesideFilm> beside;
  for (size_t n = 0; n < made.size(); ++n) {
    beside.push_back(films::beside_film(wishes[n], made[n].output));
    beside.back().guard = {{}, asked.force};
    if (!all[n].poster.empty())
      std::tie(beside.back().poster, beside.back().poster_s) = file_at(all[n].poster, "--poster");
    beside.back().report |= all[n].report;
    films::order_by_light(made[n], wishes[n], frames, *source, {{}, stop_token()});
  }
  try {
    ProgressLine line("Rendering");
    const auto outcomes =
        render::render(frames, *source, std::span<const render::FilmOrder>(made),
                       {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
    Findings findings = ingest::judge(gathered);
    std::erase_if(findings, [](const Finding& f) { return f.severity == Severity::Ok; });
    Json films = Json::array();
    std::vector<render::FilmCheck> checks;
    image::Size frame;
    for (const media::Frame& f : *frames)
      if (f.readable() && frame.width == 0) frame = image::upright(f.info().size, f.info().orientation);
    for (size_t n = 0; n < outcomes.size(); ++n) {
      Answer one = film_answer(outcomes[n], made[n].output);
      if (gathering.take)
        if (auto f = advice::other_rate(*gathering.take, made[n].fps, outcomes[n].facts.frames))
          findings.push_back(*f);
      if (auto f = advice::soft_view(made[n].views, made[n].size, frame)) findings.push_back(*f);
      const films::Finished finished = finish_shown(made[n], frames->size(), outcomes[n], beside[n]);
      one.json = films::film_json(outcomes[n], made[n].output, finished);
      one.words += fmt::format("{} bytes.\n", format_count(static_cast<long long>(finished.check.bytes)));
      findings.insert(findings.end(), finished.findings.begin(), finished.findings.end());
      checks.push_back(finished.check);
      films.push_back(one.json);
      answer.words += one.words;
      if (n == 0)
        for (const auto& [key, value] : one.json.items()) answer.json[key] = value;
    }
    if (gathering.take)
      file_take(*gathering.take, asked.take, [&](book::Entry& e) {
        book::learn(e, *gathering.take, gathered);
        for (size_t n = 0; n < outcomes.size(); ++n)
          book::learn(e, made[n].output, outcomes[n], checks[n], now());
        e.picture = book::picture_of(frames);
      });
    answer.json["films"] = films;
    // A film of a take that is not whole says so.
    answer.json["findings"] = to_json(findings);
    answer.words += words_of(findings);
    return answer;
  } catch (const render::TooManyUnreadable& e) {
    // Frames counted from 1: the last that is whole before them, and the first after.
    const int first = asked.film.from.value_or(1);
    const int to = asked.film.to.value_or(static_cast<int>(frames->size()));
    const int before = static_cast<int>(e.first());
    const int after = static_cast<int>(e.last()) + 2;
    std::string options;
    if (after <= to) options = fmt::format("--from {}", after);
    if (before >= first) options += fmt::format("{}--to {}", options.empty() ? "" : " or ", before);
    throw failed(e.what(), options.empty() ? "" : fmt::format("To leave them out add {}.", options));
  }
}

}  // namespace

void add_cut(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "cut", "Level the frames and encode them as film");
  const auto asked = std::make_shared<CutOptions>();
  verb.add_option("folder", asked->folders, "The cards or folders, or a video").required();
  add_brackets(verb, asked->brackets);
  verb.add_option("-o,--output", asked->film.output,
                  "The film to write (.mp4, .mov, .mkv, .webm, .webp or .gif)");
  verb.add_option("--film", asked->more,
                  "One more film from the same frames, with its own options over those here: "
                  "tall.mp4=\"--size 1080x1920 --for phone\"")
      .called("NAME=OPTIONS");
  verb.add_option(
      "--take", asked->take,
      "The take: its plan gives the frame rate, and what you decided about its frames and films is applied");
  add_film_options(verb, asked->film);
  verb.add_option("--glimpse", asked->film.glimpse,
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
