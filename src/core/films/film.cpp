// SPDX-License-Identifier: GPL-3.0-or-later
#include "films/film.h"

#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "look/suggest.h"
#include "render/film_plan.h"
#include "render/level_ahead.h"

namespace askcount::films {

std::optional<FrameRate> film_rate(const take::Take& take) {
  const auto fps = take.solution()[plan::Slot::Fps];
  return fps ? std::optional(nearest_frame_rate(*fps)) : std::nullopt;
}

std::optional<FrameRate> rate_of(const take::Take& take, const take::FilmWish& film) {
  return film.fps ? film.fps : film_rate(take);
}

level::Smoothing smoothing_of(const take::Take& take) {
  const take::LevelWish& w = take.level;
  level::Smoothing s;
  s.reach = level::Smoothing::frames_of(w.reach_s, film_rate(take).value_or(FrameRate{25, 1}).value());
  s.strength = w.strength;
  s.parts = w.parts;
  if (!w.measured.empty()) s.measured.assign(image::Luminance::kParts, false);
  for (const double part : w.measured) s.measured[static_cast<size_t>(part) - 1] = true;
  for (const double frame : w.smooth) s.smooth.push_back(static_cast<size_t>(frame) - 1);
  for (const double frame : w.keep) s.keep.push_back(static_cast<size_t>(frame) - 1);
  return s;
}

std::vector<size_t> suggested_anchors(const level::Evenness& e) {
  std::vector<std::array<double, 3>> light;
  for (size_t n = 0; n < e.after.size(); ++n) light.push_back({e.after[n], e.red_after[n], e.blue_after[n]});
  return look::suggest_anchors(light);
}

std::shared_ptr<const optics::MendedSource> source_of(const take::Take& take,
                                                      const std::filesystem::path& folder,
                                                      const media::Frames& frames) {
  return std::make_shared<optics::MendedSource>(
      optics::mending_of(take.optics, optics::shot_of(frames), folder));
}

look::Looks looks_of(const take::Take& take, const std::filesystem::path& folder,
                     const media::Frames& frames) {
  look::Looks looks;
  std::vector<double> whites;
  if (frames)
    for (const media::Frame& f : *frames)
      if (f.info().white_k && f.main().compressed.empty()) whites.push_back(*f.info().white_k);
  if (!whites.empty()) {
    std::nth_element(whites.begin(), whites.begin() + static_cast<long>(whites.size() / 2), whites.end());
    looks.as_shot_k = whites[whites.size() / 2];
  }
  looks.anchors = take.look.anchors;
  if (!take.look.cube.empty())
    looks.cube = std::make_shared<const look::Cube>(look::load_cube(folder / take.look.cube));
  return looks;
}

std::vector<std::filesystem::path> inputs_of(const take::Take& take, const std::filesystem::path& folder) {
  std::vector<std::filesystem::path> files;
  const auto add = [&](const std::string& file) {
    if (!file.empty()) files.push_back(folder / file);
  };
  add(take.card);
  for (const std::string& card : take.gather.more_cards) add(card);
  add(take.film.sound);
  for (const take::FilmWish& film : take.more_films) add(film.sound);
  add(take.look.cube);
  add(take.optics.dark_frame);
  add(take.light.outlook.picture);
  for (const std::string& picture : take.test_pictures) add(picture);
  return files;
}

render::FilmOrder film_order(const take::Take& take, const take::FilmWish& wish,
                             const std::filesystem::path& output, const std::filesystem::path& folder,
                             const media::Frames& frames) {
  render::FilmOrder order;
  static_cast<render::Film&>(order) = wish;
  order.output = output;
  const auto rate = rate_of(take, wish);
  if (!rate) throw bad_input(say("The film's frame rate is not set."), say("For example: 25 fps."));
  order.fps = *rate;
  order.smoothing = smoothing_of(take);
  order.looks = looks_of(take, folder, frames);
  if (!wish.sound.empty())
    order.extras.sound = {folder / wish.sound, wish.sound_from_s, wish.fade_in_s, wish.fade_out_s};
  if (wish.said.title) order.extras.title = take.name;
  if (wish.said.place) order.extras.place = take.place.name;
  order.extras.words = wish.said.words;
  order.extras.author = wish.said.author;
  order.guard.inputs = inputs_of(take, folder);
  return order;
}

render::FilmOrder film_order(const take::Take& take, const std::filesystem::path& output,
                             const std::filesystem::path& folder, const media::Frames& frames) {
  return film_order(take, take.film, output, folder, frames);
}

image::Size usual_size_for(image::Size frame) {
  const bool stands = frame.height > frame.width;
  for (const image::Size usual :
       {image::Size{3840, 2160}, {1920, 1080}, {1280, 720}, {960, 540}, {640, 360}}) {
    const image::Size size = stands ? image::Size{usual.height, usual.width} : usual;
    if (size.width <= frame.width && size.height <= frame.height) return size;
  }
  return {std::max(2, frame.width / 2 * 2), std::max(2, frame.height / 2 * 2)};
}

std::vector<render::Gap> gaps_of(const ingest::FoundTake& found) {
  std::vector<render::Gap> gaps;
  for (const ingest::Missing& m : found.missing) gaps.push_back({m.after, m.frames});
  return gaps;
}

namespace {

/// What the light has become since another frame, whichever change is seen most.
std::string change_words(const level::Evenness& e, size_t from, size_t to) {
  const double light = e.after[to] - e.after[from];
  const double warmth = (e.red_after[to] - e.blue_after[to]) - (e.red_after[from] - e.blue_after[from]);
  constexpr double kColourAgainstLight = 2.5;  // what suggest_anchors() takes for alike
  if (std::abs(warmth) * kColourAgainstLight > std::abs(light))
    return warmth > 0 ? say("warmer") : say("cooler");
  return light > 0 ? say("lighter") : say("darker");
}

}  // namespace

std::vector<media::Chapter> chapters_of(const render::FilmOrder& order, const media::Frames& frames,
                                        const level::Evenness& evenness) {
  const std::vector<size_t> anchors = suggested_anchors(evenness);
  if (anchors.size() < 2) return {};
  const render::Timeline timeline = render::timeline_of(order, frames->size());
  const auto clock = [&](size_t frame) -> std::string {
    const auto& captured = (*frames)[frame].info().captured;
    if (!captured) return say("Frame {}", frame + 1);
    const auto seconds = std::chrono::floor<std::chrono::seconds>(*captured);
    const std::chrono::hh_mm_ss time(seconds - std::chrono::floor<std::chrono::days>(seconds));
    return fmt::format("{:02}:{:02}", time.hours().count(), time.minutes().count());
  };
  std::vector<media::Chapter> chapters;
  size_t last = static_cast<size_t>(timeline.take_place(0));
  chapters.push_back({0, clock(last)});
  constexpr double kShortest_s = 0.5;
  const double length = static_cast<double>(timeline.frames()) / order.fps.value();
  for (size_t n = 1; n < timeline.frames(); ++n) {
    const auto before = static_cast<size_t>(timeline.take_place(n - 1)),
               now = static_cast<size_t>(timeline.take_place(n));
    const size_t low = std::min(before, now), high = std::max(before, now);
    const bool passes = std::any_of(anchors.begin(), anchors.end(),
                                    [&](size_t a) { return a > low && a <= high && a != last; });
    const double at = static_cast<double>(n) / order.fps.value();
    if (!passes || at - chapters.back().at_s < kShortest_s || length - at < kShortest_s) continue;
    chapters.push_back({at, fmt::format("{}, {}", clock(now), change_words(evenness, last, now))});
    last = now;
  }
  return chapters;
}

void order_by_light(render::FilmOrder& order, const take::FilmWish& wish, const media::Frames& frames,
                    const media::FrameSource& source, const Work& work) {
  if (!wish.said.chapters || !order.extras.chapters.empty()) return;
  order.extras.chapters = chapters_of(order, frames, render::level_ahead(order, frames, source, work));
}

std::filesystem::path film_file(const std::filesystem::path& wished) {
  std::filesystem::path file = wished;
  std::error_code ec;
  for (int n = 1;
       std::filesystem::exists(std::filesystem::symlink_status(file, ec)) && !media::made_by_us(file); ++n)
    file = wished.parent_path() / (wished.stem().string() + (n > 1 ? " clip " + std::to_string(n) : " clip") +
                                   wished.extension().string());
  return file;
}

}  // namespace askcount::films
