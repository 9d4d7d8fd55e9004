// SPDX-License-Identifier: GPL-3.0-or-later
#include "take/film_json.h"

#include <algorithm>

#include "base/error.h"
#include "base/language.h"

namespace askcount::take {
namespace {

void visit_choice(Fields& f, render::Choice& c) {
  f.number("first", c.first, 1, 1e9);
  f.number("last", c.last, 0, 1e9);
  f.number("every", c.every, 1, 1e6);
  f.choice("way", c.way,
           {{render::Way::Forward, "forward"},
            {render::Way::Backward, "backward"},
            {render::Way::ToAndFro, "to and fro"}});
  f.choice("between", c.between,
           {{render::Between::Repeat, "repeat"},
            {render::Between::Blend, "blend"},
            {render::Between::Motion, "motion"}});
  f.flag("make_missing", c.make_missing);
  f.number("still_first_s", c.still_first_s, 0, 600);
  f.number("still_last_s", c.still_last_s, 0, 600);
  f.number("trail", c.trail, 1, static_cast<double>(render::kLongestTrail));
  f.number("bright", c.bright, -1, 1e9);
  f.list("speed", c.speed, [](Fields& g, render::SpeedAnchor& a) {
    g.number("at_s", a.at_s, 0, 1e6);
    g.number("times", a.times, render::kSlowest, render::kFastest);
  });
}

void visit_view(Fields& f, render::ViewAnchor& a) {
  f.number("at_s", a.at_s, 0, 1e6);
  f.number("x", a.view.x, 0, 1);
  f.number("y", a.view.y, 0, 1);
  f.number("width", a.view.width, 0.01, 1);
  f.number("turn_deg", a.view.turn_deg, -360, 360);
}

void visit_coding(Fields& f, media::Coding& c) {
  static const auto words = [] {
    std::vector<std::pair<media::Codec, const char*>> all;
    for (const media::CodecFacts& codec : media::codecs()) all.emplace_back(codec.codec, codec.name);
    return all;
  }();
  f.choice("codec", c.codec, std::span<const std::pair<media::Codec, const char*>>(words));
  f.number("bits", c.bits, 8, 10);
  f.choice("chroma", c.chroma, {{media::Chroma::Half420, "420"}, {media::Chroma::Half422, "422"}});
}

void visit_rate(Fields& f, std::optional<FrameRate>& fps) {
  std::string words = fps ? format_frame_rate(*fps) : "";
  f.words("fps", words);
  if (f.reading()) fps = words.empty() ? std::nullopt : std::optional(parse_frame_rate(words, "film.fps"));
}

}  // namespace

bool is_film_name(const std::string& name) {
  constexpr size_t kLongest = 120;
  const auto unseen = [](char c) { return static_cast<unsigned char>(c) < ' ' || c == '\x7f'; };
  return !name.empty() && name.size() <= kLongest && name.front() != '.' &&
         name.find('/') == std::string::npos && std::none_of(name.begin(), name.end(), unseen);
}

void visit(Fields& f, FilmWish& film) {
  f.words("name", film.name);
  if (f.reading() && !film.name.empty() && !is_film_name(film.name))
    throw bad_input(say("\"{}\" cannot be a film's name.", film.name),
                    say("It becomes a file name beside the take: no slash in it, and no dot in front."));
  f.size("size", film.size.width, film.size.height, 16, 20000);
  f.number("quality", film.coding.quality, 0, 51);
  f.words("ending", film.ending);
  if (f.reading() && !media::codec_of_ending("film." + film.ending))
    throw bad_input(say("\"{}\" is not a film's file ending.", film.ending),
                    say("Use {}.", media::film_endings()));
  visit_coding(f, film.coding);
  visit_rate(f, film.fps);
  visit_choice(f, film.choice);
  f.list("views", film.views, visit_view);
  f.flag("crisp", film.crisp);
  f.choice("steady", film.steady,
           {{motion::Mode::None, "none"},
            {motion::Mode::Bumps, "bumps"},
            {motion::Mode::All, "all"},
            {motion::Mode::Walk, "walk"}});
  f.number("fade_in_s", film.fade_in_s, 0, 60);
  f.number("fade_out_s", film.fade_out_s, 0, 60);
  f.words("sound", film.sound);
  f.number("sound_from_s", film.sound_from_s, 0, 1e6);
  f.maybe_number("poster_s", film.poster_s, 0, 1e6);
  f.flag("report", film.report);
  f.part("written", film.written, [](Fields& g, render::Written& w) {
    g.words("text", w.text);
    g.flag("time", w.time);
    g.flag("date", w.date);
    g.flag("elapsed", w.elapsed);
    g.words("scale", w.scale);
    g.number("scale_share", w.scale_share, 0.01, 1);
  });
  f.part("said", film.said, [](Fields& g, SaidWish& s) {
    g.flag("title", s.title);
    g.flag("place", s.place);
    g.words("words", s.words);
    g.words("author", s.author);
    g.flag("chapters", s.chapters);
  });
}

}  // namespace askcount::take
