// SPDX-License-Identifier: GPL-3.0-or-later
#include "cut_films.h"

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

#include "base/error.h"
#include "films/film.h"
#include "media/reader.h"
#include "render/picture_file.h"

namespace askcount::cli {
namespace fs = std::filesystem;
namespace {

/// Told before anything is made: a name that is no picture's, or is taken.
void require_new_picture(const fs::path& file) {
  render::format_named(file);
  check_output({file, FileKind::Frame});
}

/// Whether the frames are pictures of a video: every nth is chosen as they are gathered.
bool of_video(const CutAsked& asked) {
  return std::any_of(asked.folders.begin(), asked.folders.end(), [](const std::string& folder) {
    std::error_code ec;
    return fs::is_regular_file(folder, ec);
  });
}

take::FilmWish wished(const FilmSaid& said, const take::FilmWish& base, const CutAsked& asked) {
  take::FilmWish wish = said.over(base);
  if (of_video(asked)) wish.choice.every = base.choice.every;
  return wish;
}

/// All films: those named, or where one alone is, the take's others beside it.
std::vector<Cutting::Film> films_of(const CutAsked& asked, const std::optional<take::Take>& take) {
  const take::FilmWish base = take ? take->film : take::FilmWish{};
  std::vector<Cutting::Film> films;
  if (!asked.film.output.empty()) films.push_back({asked.film, wished(asked.film, base, asked)});
  for (const std::string& text : asked.more) {
    const FilmSaid said = other_film(text, asked.film);
    films.push_back({said, wished(said, base, asked)});
  }
  if (asked.film.output.empty() || !asked.more.empty() || !take) return films;
  for (const take::FilmWish& wish : take->more_films) {
    FilmSaid said;
    said.output = (fs::path(asked.film.output).parent_path() / (wish.name + "." + wish.ending)).string();
    films.push_back({said, wished(said, wish, asked)});
  }
  return films;
}

/// What the films are made from, of all of them: none is written over it.
std::vector<fs::path> inputs_of(const Cutting& cutting, const CutAsked& asked) {
  std::vector<fs::path> files = films::inputs_of(cutting.take, cutting.gathering.folder);
  files.push_back(asked.take);
  for (const std::string& folder : asked.folders) files.emplace_back(folder);
  for (const Cutting::Film& film : cutting.films)
    if (!film.wish.sound.empty()) files.push_back(cutting.gathering.folder / film.wish.sound);
  return files;
}

void check_film(const Cutting::Film& film, const CutAsked& asked, const Cutting& cutting) {
  const fs::path& folder = cutting.gathering.folder;
  const std::vector<fs::path> inputs = inputs_of(cutting, asked);
  const std::string& output = film.said.output;
  const take::FilmWish& wish = film.wish;
  const std::string sound = wish.sound.empty() ? "" : (folder / wish.sound).string();
  media::check_coding(output, wish.size, wish.coding);
  media::check_film_output({output, FileKind::Film, {inputs, asked.force}});
  render::check_choice(wish.choice, 0);
  if (!sound.empty()) media::check_sound({sound, wish.sound_from_s, 0, 0});
  if (!film.said.poster.empty()) require_new_picture(file_at(film.said.poster, "--poster").first);
  if (wish.report) check_output({output + ".json", FileKind::Report, {inputs, asked.force}});
}

void check_names(const std::vector<Cutting::Film>& films) {
  for (size_t n = 0; n < films.size(); ++n)
    for (size_t m = 0; m < n; ++m)
      if (fs::path(films[n].said.output).lexically_normal() ==
          fs::path(films[m].said.output).lexically_normal())
        throw bad_input(fmt::format("Two films are to be called {}.", films[n].said.output),
                        "Name one differently.");
}

}  // namespace

Cutting cutting_of(const CutAsked& asked) {
  CutAsked with = asked;
  if (of_video(asked) && asked.film.said.contains("--every"))
    with.every = static_cast<int>(asked.film.over({}).choice.every);
  Cutting cutting;
  cutting.gathering = gathering_of(with);
  if (cutting.gathering.take) cutting.take = *cutting.gathering.take;
  if (asked.as_shot) cutting.take.level = {}, cutting.take.look = {}, cutting.take.optics = {};
  cutting.films = films_of(asked, cutting.gathering.take);
  if (cutting.films.empty() && asked.still.empty())
    throw bad_input("There is no film to write.", "Add -o FILE, or --film NAME=OPTIONS.");
  for (Cutting::Film& film : cutting.films) {
    if (!film.wish.fps && cutting.gathering.take) film.wish.fps = films::film_rate(cutting.take);
    if (!film.wish.fps)
      throw bad_input("The frame rate is missing.", "Add --fps 25, or --take with the plan.");
  }
  for (const Cutting::Film& film : cutting.films) check_film(film, asked, cutting);
  check_names(cutting.films);
  if (!asked.still.empty()) require_new_picture(asked.still);
  if (!asked.glimpse.empty()) require_new_picture(file_at(asked.glimpse, "--glimpse").first);
  if (!asked.as_shot && !asked.look.empty()) cutting.looks = look::load_looks(asked.look);
  return cutting;
}

render::FilmOrder order_of(const Cutting& cutting, const Cutting::Film& film, const CutAsked& asked,
                           const ingest::Gathered& gathered) {
  render::FilmOrder order =
      films::film_order(cutting.take, film.wish, film.said.output, cutting.gathering.folder, gathered.frames);
  if (!film.said.place.empty()) order.extras.place = film.said.place;
  order.levelled = !asked.as_shot;
  order.gaps = films::gaps_of(gathered);
  if (!cutting.looks.empty()) order.looks.anchors = cutting.looks;
  order.guard = {inputs_of(cutting, asked), asked.force};
  return order;
}

render::FilmOrder still_order(const Cutting& cutting, const CutAsked& asked,
                              const ingest::Gathered& gathered) {
  Cutting::Film film{asked.film, wished(asked.film, cutting.take.film, asked)};
  film.said.output.clear();
  if (!film.wish.fps) film.wish.fps = FrameRate{25, 1};
  return order_of(cutting, film, asked, gathered);
}

films::BesideFilm beside_of(const Cutting::Film& film, const CutAsked& asked) {
  films::BesideFilm beside = films::beside_film(film.wish, film.said.output);
  beside.guard = {{}, asked.force};
  if (!film.said.poster.empty())
    std::tie(beside.poster, beside.poster_s) = file_at(film.said.poster, "--poster");
  return beside;
}

}  // namespace askcount::cli
