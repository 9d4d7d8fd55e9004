// SPDX-License-Identifier: GPL-3.0-or-later
// What a film may say besides: the phrases of its sentence, each with the word that offers it.
#include <algorithm>
#include <cmath>
#include <filesystem>

#include "app/stages/cut/cut_sentence.h"
#include "app/stages/cut/film_lanes.h"
#include "app/stages/cut/film_words.h"
#include "app/stages/slot_wiring.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/number.h"
#include "base/units.h"
#include "media/sound.h"

namespace askcount::app {
namespace {

constexpr int kBestQuality = 0, kWorstQuality = 40;
constexpr double kFirstFade_s = 0.5, kFirstHold_s = 1, kLongestFade_s = 60, kLongestHold_s = 600;
constexpr double kFirstView_pct = 80, kLeastView_pct = 5;

using Kind = SlotField::Kind;

const take::FilmWish& usual() {
  static const take::FilmWish wish;
  return wish;
}

QString seconds_words(double s) {
  return QString::fromStdString(format_number(s, 2)) + " s";
}

double stepped_s(double s, double step, int n, double most) {
  return std::clamp(std::round((s + step * n) * 10) / 10, 0.0, most);
}

}  // namespace

SlotField* CutSentence::add_part(const QString& word, const QString& before, const QString& name,
                                 const QString& after, Part part, std::function<void(Wish&)> unsaid) {
  begin_phrase(word);
  add(",");
  add(before);
  SlotField* slot = add_slot(name);
  add(after);
  end_phrase([this, unsaid] { session_.films.edit(unsaid); }, part.first != nullptr);
  parts_.push_back(std::move(part));
  return slot;
}

/// How fast it goes, steadied or not, with trails or without.
void CutSentence::add_pace_parts() {
  const auto set_pace = [](Wish& film, double times) {
    film.choice.speed.clear();
    if (times != 1) film.choice.speed = {{0, times}};
  };
  SlotField* pace =
      add_part(say_q("speed|of a film"), {}, say_q("how fast it goes"), {},
               {FilmLanes::Speed, [](const Wish& film) { return !film.choice.speed.empty(); }, {}, {}},
               [set_pace](Wish& film) { set_pace(film, 1); });
  parts_.back().show = [pace](const Wish& film) { pace->set(pace_words(film), Kind::Plain); };
  wire_film(
      pace,
      [set_pace](Wish& film, const std::string& text) {
        if (meant(text, "along a curve")) return;
        set_pace(film, meant(text, "as shot")
                           ? 1
                           : parse_number(text, render::kSlowest, render::kFastest, say("speed")));
      },
      [set_pace](Wish& film, int n) {
        const double now = film.choice.speed.empty() ? 1 : film.choice.speed.front().times;
        set_pace(film, std::clamp(now * std::exp2(n), render::kSlowest, render::kFastest));
      });
  SlotField* steady = add_part(say_q("steadied"), {}, say_q("how camera movement is treated"), {},
                               {FilmLanes::Still,
                                [](const Wish& film) { return film.steady != usual().steady; },
                                {},
                                [](Wish& film) { film.steady = static_cast<motion::Mode>(1); }},
                               [](Wish& film) { film.steady = usual().steady; });
  parts_.back().show = [steady](const Wish& film) {
    steady->set(steady_words()[static_cast<int>(film.steady)], Kind::Plain);
  };
  wire_film_choice(steady, steady_words(),
                   [](Wish& film, int n) { film.steady = static_cast<motion::Mode>(n); });
  SlotField* trail =
      add_part(say_q("trails"), say_q("trails|of a film"), say_q("length of the trails"), {},
               {FilmLanes::Trail,
                [](const Wish& film) { return film.choice.trail != 1 || film.choice.bright != 0; },
                {},
                [](Wish& film) { set_trail(film, 2); }},
               [](Wish& film) { set_trail(film, 0); });
  parts_.back().show = [trail](const Wish& film) { trail->set(trail_word(film), Kind::Plain); };
  wire_film_choice(trail, trail_words(), [](Wish& film, int n) { set_trail(film, n); });
}

/// Which of the frames, which way round, and what is between them.
void CutSentence::add_way_of_frames() {
  SlotField* between =
      add_part(say_q("frames between"), say_q("frames between"), say_q("what is between frames"), {},
               {-1,
                [](const Wish& film) { return film.choice.between != usual().choice.between; },
                {},
                [](Wish& film) { film.choice.between = static_cast<render::Between>(1); }},
               [](Wish& film) { film.choice.between = usual().choice.between; });
  parts_.back().show = [between](const Wish& film) {
    between->set(between_words()[static_cast<int>(film.choice.between)], Kind::Plain);
  };
  wire_film_choice(between, between_words(),
                   [](Wish& film, int n) { film.choice.between = static_cast<render::Between>(n); });
  SlotField* way = add_part(say_q("backwards"), {}, say_q("which way it goes"), {},
                            {-1,
                             [](const Wish& film) { return film.choice.way != usual().choice.way; },
                             {},
                             [](Wish& film) { film.choice.way = static_cast<render::Way>(1); }},
                            [](Wish& film) { film.choice.way = usual().choice.way; });
  parts_.back().show = [way](const Wish& film) {
    way->set(way_words()[static_cast<int>(film.choice.way)], Kind::Plain);
  };
  wire_film_choice(way, way_words(),
                   [](Wish& film, int n) { film.choice.way = static_cast<render::Way>(n); });
  SlotField* every = add_part(say_q("every nth frame"), {}, say_q("every nth frame"), {},
                              {-1,
                               [](const Wish& film) { return film.choice.every != 1; },
                               {},
                               [](Wish& film) { film.choice.every = 2; }},
                              [](Wish& film) { film.choice.every = 1; });
  parts_.back().show = [every](const Wish& film) {
    every->set(every_words(film.choice.every), Kind::Plain, QString::number(film.choice.every));
  };
  wire_film(
      every,
      [this](Wish& film, const std::string& text) {
        film.choice.every = meant(text, "every frame")
                                ? 1
                                : std::llround(parse_number(text, 1, static_cast<double>(count()), "every"));
      },
      [this](Wish& film, int n) {
        film.choice.every = std::clamp<long long>(film.choice.every + n, 1, count());
      });
}

/// The part of the frame that is seen.
void CutSentence::add_view_part() {
  // Where it does not move: a share of the width around the middle of what it was.
  const auto set_width = [this](Wish& film, double pct) {
    if (film.views.size() > 1)
      throw bad_input(say("The view moves."),
                      say("Change it on the picture, or take the phrase away first."));
    render::View view = film.views.empty() ? render::View{} : film.views.front().view;
    view.width = pct / 100;
    film.views = {{0, render::held_within(view, session_.films.frame_size(), film.size)}};
    if (pct >= 100) film.views.clear();
  };
  const auto width = [](const Wish& film) {
    return film.views.empty() ? 100.0 : 100 * film.views.front().view.width;
  };
  SlotField* view = add_part(say_q("view"), say_q("the view"), say_q("the part of the frame"), {},
                             {FilmLanes::View,
                              [](const Wish& film) { return !film.views.empty(); },
                              {},
                              [set_width](Wish& film) { set_width(film, kFirstView_pct); }},
                             [](Wish& film) { film.views.clear(); });
  parts_.back().show = [view, width](const Wish& film) {
    const std::string pct = format_number(width(film), 0);
    view->set(film.views.empty()      ? say_q("whole")
              : film.views.size() > 1 ? say_q("moving")
                                      : say_q("{} % of the width", pct),
              Kind::Plain, film.views.size() > 1 ? QString() : to_q(pct));
  };
  wire_film(
      view,
      [set_width](Wish& film, const std::string& text) {
        if (meant(text, "moving")) return;
        set_width(film, meant(text, "whole")
                            ? 100
                            : parse_number(text, kLeastView_pct, 100, say("the view's share of the width")));
      },
      [set_width, width](Wish& film, int n) {
        set_width(film, std::clamp(std::round(width(film)) + n, kLeastView_pct, 100.0));
      });
}

/// Fades, and pictures that stand.
void CutSentence::add_time_parts() {
  const auto fade = [this](const QString& word, const QString& before, const QString& name,
                           double Wish::*into) {
    SlotField* slot = add_part(word, before, name, {},
                               {FilmLanes::Fade,
                                [into](const Wish& film) { return film.*into > 0; },
                                {},
                                [into](Wish& film) { film.*into = kFirstFade_s; }},
                               [into](Wish& film) { film.*into = 0; });
    parts_.back().show = [slot, into](const Wish& film) {
      slot->set(seconds_words(film.*into), Kind::Plain);
    };
    wire_film(
        slot,
        [into, name](Wish& film, const std::string& text) {
          film.*into = parse_number(text, 0, kLongestFade_s, name.toStdString());
        },
        [into](Wish& film, int n) { film.*into = stepped_s(film.*into, 0.1, n, kLongestFade_s); });
  };
  fade(say_q("fade in"), say_q("fading in over"), say_q("fade in"), &Wish::fade_in_s);
  fade(say_q("fade out"), say_q("fading out over"), say_q("fade out"), &Wish::fade_out_s);
  const auto held = [this](const QString& word, const QString& before, const QString& name,
                           double render::Choice::*into) {
    SlotField* slot = add_part(word, before, name, {},
                               {-1,
                                [into](const Wish& film) { return film.choice.*into > 0; },
                                {},
                                [into](Wish& film) { film.choice.*into = kFirstHold_s; }},
                               [into](Wish& film) { film.choice.*into = 0; });
    parts_.back().show = [slot, into](const Wish& film) {
      slot->set(seconds_words(film.choice.*into), Kind::Plain);
    };
    wire_film(
        slot,
        [into](Wish& film, const std::string& text) {
          film.choice.*into = parse_number(text, 0, kLongestHold_s, say("how long it stands"));
        },
        [into](Wish& film, int n) {
          film.choice.*into = stepped_s(film.choice.*into, 0.5, n, kLongestHold_s);
        });
  };
  held(say_q("hold the start"), say_q("the first picture held for"),
       say_q("how long the first picture stands"), &render::Choice::still_first_s);
  held(say_q("hold the end"), say_q("the last picture held for"), say_q("how long the last picture stands"),
       &render::Choice::still_last_s);
}

void CutSentence::add_sound_part() {
  begin_phrase(say_q("sound"));
  add(",");
  add(say_q("with the sound"));
  SlotField* sound = add_slot(say_q("sound"));
  add(say_q("from|in the sound"));
  SlotField* from = add_slot(say_q("where in the sound it begins"));
  end_phrase([this] { session_.films.edit([](Wish& film) { film.sound.clear(); }); });
  parts_.push_back({FilmLanes::Sound,
                    [](const Wish& film) { return !film.sound.empty(); },
                    [sound, from](const Wish& film) {
                      const std::filesystem::path file = film.sound;
                      sound->set(
                          film.sound.empty() ? say_q("a file of sound") : to_q(file.filename().string()),
                          Kind::Plain, film.sound.empty() ? QString(" ") : to_q(film.sound));
                      from->set(seconds_words(film.sound_from_s), Kind::Plain);
                    },
                    {}});
  sound->take_words();
  connect(sound, &SlotField::committed, this,
          [this](const QString& text) { choose_sound(text.trimmed().toStdString()); });
  wire_film(from, [](Wish& film, const std::string& text) {
    film.sound_from_s = parse_number(text, 0, 36000, say("where the sound begins"));
  });
}

/// A file that is none, or has no sound, is told at once.
void CutSentence::choose_sound(const std::string& typed) {
  try {
    std::string sound = meant(typed, "no sound") ? std::string() : typed;
    if (!sound.empty()) {
      const std::filesystem::path folder = session_.document.file().parent_path();
      media::check_sound({folder / sound, 0, 0, 0});
      // Beside the take it goes along with it.
      const auto beside = (folder / sound).lexically_relative(folder);
      if (!beside.empty() && *beside.begin() != "..") sound = beside.string();
    }
    session_.films.edit([&](Wish& film) { film.sound = sound; });
    complain({});
  } catch (const Error& e) {
    complain(QString::fromUtf8(e.what()));
  }
}

/// What is written into the picture.
void CutSentence::add_written_parts() {
  SlotField* text = add_part(say_q("title"), say_q("titled"), say_q("a line of text"), {},
                             {-1, [](const Wish& film) { return !film.written.text.empty(); }, {}, {}},
                             [](Wish& film) { film.written.text.clear(); });
  text->take_words();
  parts_.back().show = [text](const Wish& film) {
    const std::string& words = film.written.text;
    text->set(words.empty() ? say_q("a line of text") : to_q(words), Kind::Plain,
              words.empty() ? QString(" ") : to_q(words));
  };
  wire_film(text, [](Wish& film, const std::string& typed) { film.written.text = typed; });
  SlotField* clock = add_part(say_q("clock"), say_q("showing"), say_q("a clock"), {},
                              {-1,
                               [](const Wish& film) { return clock_word(film) != clock_word(usual()); },
                               {},
                               [](Wish& film) { set_clock(film, 1); }},
                              [](Wish& film) { set_clock(film, 0); });
  parts_.back().show = [clock](const Wish& film) { clock->set(clock_word(film), Kind::Plain); };
  wire_film_choice(clock, clock_words(), [](Wish& film, int n) { set_clock(film, n); });
  SlotField* scale = add_part(say_q("scale"), say_q("with the scale"), say_q("a scale"), {},
                              {-1, [](const Wish& film) { return !film.written.scale.empty(); }, {}, {}},
                              [](Wish& film) { film.written.scale.clear(); });
  parts_.back().show = [scale](const Wish& film) {
    const bool none = film.written.scale.empty();
    scale->set(none ? say_q("1 m = a share of the width") : scale_word(film), Kind::Plain,
               none ? QString(" ") : scale_word(film));
  };
  wire_film(scale, [](Wish& film, const std::string& typed) { set_scale(film, typed); });
}

/// How it is drawn and coded, and what lies beside it.
void CutSentence::add_beside_parts() {
  SlotField* quality =
      add_part(say_q("quality"), say_q("quality"), say_q("quality, lower is better"), {},
               {-1, [](const Wish& film) { return film.coding.quality != usual().coding.quality; }, {}, {}},
               [](Wish& film) { film.coding.quality = usual().coding.quality; });
  parts_.back().show = [quality](const Wish& film) {
    quality->set(QString::number(film.coding.quality), Kind::Plain);
  };
  wire_film(
      quality,
      [](Wish& film, const std::string& text) {
        film.coding.quality = static_cast<int>(
            std::lround(parse_number(text, kBestQuality, kWorstQuality, say("quality (lower is better)"))));
      },
      [](Wish& film, int n) {
        film.coding.quality = std::clamp(film.coding.quality + n, kBestQuality, kWorstQuality);
      });
  SlotField* kernel = add_part(say_q("crisp"), say_q("scaled"), say_q("how it is resampled"), {},
                               {-1,
                                [](const Wish& film) { return film.crisp != usual().crisp; },
                                {},
                                [](Wish& film) { film.crisp = true; }},
                               [](Wish& film) { film.crisp = usual().crisp; });
  parts_.back().show = [kernel](const Wish& film) {
    kernel->set(kernel_words()[film.crisp ? 1 : 0], Kind::Plain);
  };
  wire_film_choice(kernel, kernel_words(), [](Wish& film, int n) { film.crisp = n == 1; });
  SlotField* poster =
      add_part(say_q("poster"), say_q("a poster at"), say_q("a poster picture"), say_q("beside it"),
               {-1,
                [](const Wish& film) { return film.poster_s.has_value(); },
                {},
                [](Wish& film) { film.poster_s = 0; }},
               [](Wish& film) { film.poster_s.reset(); });
  parts_.back().show = [poster](const Wish& film) {
    poster->set(seconds_words(film.poster_s.value_or(0)), Kind::Plain);
  };
  wire_film(
      poster,
      [](Wish& film, const std::string& text) {
        film.poster_s = parse_number(text, 0, 36000, say("the poster"));
      },
      [](Wish& film, int n) { film.poster_s = stepped_s(film.poster_s.value_or(0), 0.5, n, 36000); });
  SlotField* report =
      add_part(say_q("report"), {}, say_q("a report"), say_q("beside it"),
               {-1, [](const Wish& film) { return film.report; }, {}, [](Wish& film) { film.report = true; }},
               [](Wish& film) { film.report = false; });
  parts_.back().show = [report](const Wish& film) {
    report->set(report_words()[film.report ? 1 : 0], Kind::Plain);
  };
  wire_film_choice(report, report_words(), [](Wish& film, int n) { film.report = n == 1; });
}

/// What it says of itself, in its own data.
void CutSentence::add_said_parts() {
  const auto line = [this](const QString& word, const QString& before, const QString& name,
                           std::string take::SaidWish::*into) {
    SlotField* slot = add_part(word, before, name, {},
                               {-1, [into](const Wish& film) { return !(film.said.*into).empty(); }, {}, {}},
                               [into](Wish& film) { (film.said.*into).clear(); });
    slot->take_words();
    parts_.back().show = [slot, into, name](const Wish& film) {
      const std::string& words = film.said.*into;
      slot->set(words.empty() ? name : to_q(words), Kind::Plain, words.empty() ? QString(" ") : to_q(words));
    };
    wire_film(slot, [into](Wish& film, const std::string& typed) { film.said.*into = typed; });
  };
  line(say_q("author"), say_q("by|an author"), say_q("author"), &take::SaidWish::author);
  line(say_q("description"), say_q("described as"), say_q("a description in its metadata"),
       &take::SaidWish::words);
  SlotField* says = add_part(
      say_q("metadata"), say_q("with"), say_q("what its metadata say of the take"), say_q("in its metadata"),
      {-1,
       [](const Wish& film) { return says_word(film) != says_word(usual()); },
       {},
       [](Wish& film) { set_says(film, 2); }},
      [](Wish& film) { film.said.title = usual().said.title, film.said.place = usual().said.place; });
  parts_.back().show = [says](const Wish& film) { says->set(says_word(film), Kind::Plain); };
  wire_film_choice(says, says_words(), [](Wish& film, int n) { set_says(film, n); });
  SlotField* chapters = add_part(say_q("chapters"), say_q("chapters"), say_q("chapters"), {},
                                 {-1,
                                  [](const Wish& film) { return film.said.chapters; },
                                  {},
                                  [](Wish& film) { film.said.chapters = true; }},
                                 [](Wish& film) { film.said.chapters = false; });
  parts_.back().show = [chapters](const Wish& film) {
    chapters->set(chapter_words()[film.said.chapters ? 1 : 0], Kind::Plain);
  };
  wire_film_choice(chapters, chapter_words(), [](Wish& film, int n) { film.said.chapters = n == 1; });
}

}  // namespace askcount::app
