// SPDX-License-Identifier: GPL-3.0-or-later
#include "films/finish.h"

#include <fmt/format.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"
#include "media/reader.h"
#include "render/film_plan.h"
#include "render/picture_file.h"
#include "render/timeline.h"

namespace askcount::films {
namespace {

/// Frames of a film that repeat the one before as it was ordered.
std::vector<bool> stills_of(const render::FilmOrder& order, size_t take_frames) {
  const render::Timeline timeline = render::timeline_of(order, take_frames);
  const bool repeats = order.choice.between == render::Between::Repeat;
  std::vector<bool> still(timeline.frames(), false);
  for (size_t n = 1; n < timeline.frames(); ++n) {
    const double before = timeline.place(n - 1), place = timeline.place(n);
    still[n] = place == before || (repeats && std::floor(place) == std::floor(before));
  }
  return still;
}

void write_poster(const std::filesystem::path& film, const BesideFilm& beside) {
  media::FilmReader reader(film);
  reader.seek(std::llround(beside.poster_s * reader.fps().value()));
  const auto picture = reader.next();
  if (!picture)
    throw bad_input(say("The poster's moment, {} s, is after the end of {}.",
                        format_number(beside.poster_s, 2), film.string()),
                    say("Name an earlier one."));
  render::write_picture(*picture, beside.poster);
}

}  // namespace

Json film_json(const render::FilmOutcome& o, const std::filesystem::path& film) {
  Json json = {{"film", film.string()},
               {"frames", o.facts.frames},
               {"duration_s", rounded(o.facts.duration_s, 4)},
               {"size", fmt::format("{}x{}", o.facts.size.width, o.facts.size.height)},
               {"codec", o.facts.codec},
               {"fps", rounded(o.facts.fps.value(), 6)},
               {"seconds_taken", rounded(o.seconds_taken, 2)},
               {"unreadable", o.unreadable},
               {"made", o.made},
               {"stood_in", o.unreadable.size()},
               {"stood_in_share", rounded(o.stood_in_share(), 4)}};
  if (o.steadied)
    json["steadied"] = {{"jitter_before", rounded(o.steadied->jitter_before, 3)},
                        {"jitter_after", rounded(o.steadied->jitter_after, 3)},
                        {"edge", rounded(o.steadied->edge, 4)}};
  if (o.facts.sound_s > 0) json["sound_s"] = rounded(o.facts.sound_s, 2);
  return json;
}

Json film_json(const render::FilmOutcome& outcome, const std::filesystem::path& film,
               const Finished& finished) {
  Json json = film_json(outcome, film);
  const render::FilmCheck& c = finished.check;
  json["bytes"] = c.bytes;
  json["checked"] = {
      {"decoded", c.decoded},
      {"black", c.black},
      {"repeated", c.repeated},
      {"flicker", {rounded(c.flicker[0], 5), rounded(c.flicker[1], 5), rounded(c.flicker[2], 5)}},
      {"sound_s", rounded(c.facts.sound_s, 2)}};
  json["check_findings"] = to_json(finished.findings);
  if (!finished.poster.empty()) json["poster"] = finished.poster.string();
  return json;
}

BesideFilm beside_film(const take::FilmWish& wish, const std::filesystem::path& film) {
  BesideFilm beside;
  beside.report = wish.report;
  if (!wish.poster_s) return beside;
  // Pictures are never written over: that of a film made again lies beside the one before.
  beside.poster = film.parent_path() / (film.stem().string() + " poster.jpg");
  for (int n = 2; std::filesystem::exists(beside.poster); ++n)
    beside.poster.replace_filename(fmt::format("{} poster {}.jpg", film.stem().string(), n));
  beside.poster_s = *wish.poster_s;
  return beside;
}

void check_beside(const BesideFilm& beside, const render::FilmOrder& order, size_t take_frames) {
  if (!beside.poster.empty()) {
    const auto frames = static_cast<long long>(render::timeline_of(order, take_frames).frames());
    if (std::llround(beside.poster_s * order.fps.value()) >= frames)
      throw bad_input(say("The poster's moment, {} s, is after the end of {}.",
                          format_number(beside.poster_s, 2), order.output.string()),
                      say("Name an earlier one; the film is {} long.",
                          format_length(static_cast<double>(frames) / order.fps.value(), 1)));
    render::format_named(beside.poster);  // throws where it is no picture's name
  }
  if (!beside.report) return;
  std::filesystem::path report = order.output;
  report += ".json";
  check_output({report, FileKind::Report, beside.guard});
}

Finished finish_film(const render::FilmOrder& order, size_t take_frames, const render::FilmOutcome& outcome,
                     const BesideFilm& beside, const Work& work) {
  Finished out;
  out.check = render::check_film(order.output, work);
  out.findings = render::judge(out.check, order, stills_of(order, take_frames));
  out.findings.insert(out.findings.end(), beside.about.begin(), beside.about.end());
  if (!beside.poster.empty()) {
    try {
      write_poster(order.output, beside);
      out.poster = beside.poster;
    } catch (const Error& e) {
      if (e.kind() == Error::Kind::Cancelled) throw;
      out.findings.push_back(
          {"poster_failed", Severity::Warning, say("The poster was not written"), e.what()});
    }
  }
  if (!beside.report) return out;
  out.report = order.output;
  out.report += ".json";
  Json json = {{"askcount_report", "film"}};
  json.update(film_json(outcome, order.output, out));
  write_file_atomically({out.report, FileKind::Report, beside.guard}, json.dump(2) + "\n");
  return out;
}

}  // namespace askcount::films
