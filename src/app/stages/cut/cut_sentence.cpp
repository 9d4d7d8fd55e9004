// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/cut/cut_sentence.h"

#include <algorithm>
#include <cmath>

#include "app/stages/cut/film_words.h"
#include "app/stages/slot_wiring.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/number.h"
#include "base/units.h"
#include "films/film.h"
#include "plan/nudge.h"

namespace askcount::app {
namespace {

constexpr int kBestQuality = 0, kWorstQuality = 40;
constexpr int kLargest = 8192;

struct Shape {
  const char* words;
  image::Size size;
};
constexpr Shape kShapes[] = {
    {"1920 × 1080", {1920, 1080}}, {"1280 × 720", {1280, 720}},   {"3840 × 2160", {3840, 2160}},
    {"6144 × 3456", {6144, 3456}}, {"7680 × 4320", {7680, 4320}}, {"1080 × 1920", {1080, 1920}},
    {"1080 × 1080", {1080, 1080}}, {"1080 × 1350", {1080, 1350}}, {"2048 × 858", {2048, 858}}};

QString size_words(image::Size s) {
  return QString("%1 × %2").arg(s.width).arg(s.height);
}

/// "1920 x 1080" or "1920×1080" as a size; even sides up to the largest there is.
image::Size size_in(const std::string& text) {
  QString digits = QString::fromStdString(text);
  digits.replace(QChar(0xD7), 'x');
  const QStringList parts = digits.remove(' ').split('x', Qt::SkipEmptyParts, Qt::CaseInsensitive);
  const auto side = [&](qsizetype n) {
    const std::string said = parts.size() == 2 ? parts[n].toStdString() : std::string();
    std::string_view rest = said;
    const double value = take_number(rest).value_or(0);
    return rest.empty() && value <= kLargest ? static_cast<int>(value) : 0;
  };
  const int w = side(0), h = side(1);
  if (w < 16 || h < 16 || w > kLargest || h > kLargest || w % 2 || h % 2)
    throw bad_input(say("For the size, write two even numbers from 16 to 8192."),
                    say("For example: 1920 × 1080."));
  return {w, h};
}

/// The frame's own shape within the largest size.
image::Size own_size(image::Size frame) {
  const double scale = std::min(1.0, static_cast<double>(kLargest) / std::max(frame.width, frame.height));
  const auto even = [&](int side) { return std::max(16, 2 * static_cast<int>(side * scale / 2)); };
  return {even(frame.width), even(frame.height)};
}

QString seconds_word(double s) {
  return QString::fromStdString(format_number(s, 2)) + " s";
}

/// Runs a change and shows why it cannot be where it throws.
void guarded(Sentence* sentence, const std::function<void()>& change) {
  try {
    change();
    sentence->complain({});
  } catch (const Error& e) {
    sentence->complain(QString::fromUtf8(e.what()));
  }
}

}  // namespace

CutSentence::CutSentence(Session& session, QWidget* parent) : FilmSentence(session, 13, parent) {
  add(say_q("Make"));
  length_ = add_slot(say_q("length of the film"));
  length_->setEnabled(false);
  add(say_q("of frames"));
  first_ = add_slot(say_q("first frame"));
  add(say_q("to|a frame"));
  last_ = add_slot(say_q("last frame"));
  add(say_q("at|a frame rate"));
  fps_ = add_slot(say_q("frame rate of the film"));
  add(",");
  every_ = add_slot(say_q("every nth frame"));
  add(",");
  way_ = add_slot(say_q("which way it goes"));
  add(",");
  pace_ = add_slot(say_q("how fast it goes"));
  add(say_q(", frames between"));
  between_ = add_slot(say_q("what is between frames"));
  add(",");
  steady_ = add_slot(say_q("how camera movement is treated"));
  add(say_q(", trails"));
  trail_ = add_slot(say_q("length of the trails"));
  add(say_q(", the view"));
  view_ = add_slot(say_q("the part of the frame"));
  view_->setEnabled(false);
  add(say_q("; in"));
  size_ = add_slot(say_q("size of the film"));
  add(say_q("for|a purpose"));
  purpose_ = add_slot(say_q("what it is for"));
  add(say_q(", quality"));
  quality_ = add_slot(say_q("quality, lower is better"));
  add(".");
  wire_frames();
  wire_pace();
  wire_shape();
}

void FilmSentence::wire_film(SlotField* slot, std::function<void(Wish&, const std::string&)> set,
                             std::function<void(Wish&, int)> nudge) {
  const Films& films = session_.films;
  wire(
      session_, this, slot,
      [&films, set](take::Take& t, const std::string& text) { set(films.wish_in(t), text); },
      nudge ? std::function<void(take::Take&, int)>(
                  [&films, nudge](take::Take& t, int n) { nudge(films.wish_in(t), n); })
            : nullptr);
}

void FilmSentence::wire_film_choice(SlotField* slot, const QStringList& words,
                                    std::function<void(Wish&, int)> set) {
  wire_choice(session_, slot, words,
              [this, set](take::Take& t, int n) { set(session_.films.wish_in(t), n); });
}

void CutSentence::wire_frames() {
  // The plan's rate, until the film says its own; where nobody has planned it is the plan's that is said.
  const auto set_rate = [this](take::Take& t, double fps) {
    if (session_.document.sums()) {
      const FrameRate rate = nearest_frame_rate(fps);
      std::optional<FrameRate>& own = session_.films.wish_in(t).fps;
      own = rate;
      if (const auto plan = films::film_rate(t); plan && *plan == rate) own.reset();
    } else {
      t.wish(plan::Slot::Fps, fps);
    }
  };
  wire(
      session_, this, fps_,
      [set_rate](take::Take& t, const std::string& text) {
        set_rate(t, plan::parse_slot(plan::Slot::Fps, text));
      },
      [this, set_rate](take::Take& t, int n) {
        if (const auto rate = films::rate_of(t, session_.films.wish_in(t)))
          set_rate(t, plan::nudged(plan::Slot::Fps, rate->value(), n));
      });
  wire_film(
      first_,
      [this](Wish& film, const std::string& text) {
        const long long last = film.choice.last > 0 ? film.choice.last : count();
        film.choice.first =
            std::llround(parse_number(text, 1, static_cast<double>(last), say("first frame")));
      },
      [this](Wish& film, int n) {
        const long long last = film.choice.last > 0 ? film.choice.last : count();
        film.choice.first = std::clamp<long long>(film.choice.first + n, 1, last);
      });
  const auto set_last = [this](Wish& film, long long last) {
    last = std::clamp<long long>(last, film.choice.first, count());
    film.choice.last = last == count() ? 0 : last;  // the last there is, however many come
  };
  wire_film(
      last_,
      [this, set_last](Wish& film, const std::string& text) {
        set_last(film, std::llround(parse_number(text, static_cast<double>(film.choice.first),
                                                 static_cast<double>(count()), say("last frame"))));
      },
      [this, set_last](Wish& film, int n) {
        set_last(film, (film.choice.last > 0 ? film.choice.last : count()) + n);
      });
  wire_film(
      every_,
      [this](Wish& film, const std::string& text) {
        film.choice.every = meant(text, "every frame")
                                ? 1
                                : std::llround(parse_number(text, 1, static_cast<double>(count()), "every"));
      },
      [this](Wish& film, int n) {
        film.choice.every = std::clamp<long long>(film.choice.every + n, 1, count());
      });
}

void CutSentence::wire_pace() {
  const auto set_pace = [](Wish& film, double times) {
    film.choice.speed.clear();
    if (times != 1) film.choice.speed = {{0, times}};
  };
  wire_film(
      pace_,
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
  wire_film_choice(between_, between_words(),
                   [](Wish& film, int n) { film.choice.between = static_cast<render::Between>(n); });
  wire_film_choice(way_, way_words(),
                   [](Wish& film, int n) { film.choice.way = static_cast<render::Way>(n); });
  wire_film_choice(steady_, steady_words(),
                   [](Wish& film, int n) { film.steady = static_cast<motion::Mode>(n); });
  wire_film_choice(trail_, trail_words(), [](Wish& film, int n) { set_trail(film, n); });
}

void CutSentence::wire_shape() {
  wire_film_choice(purpose_, purpose_words(), [](Wish& film, int n) { set_purpose(film, n); });
  const auto set_size = [this](Wish& film, image::Size size) {
    film.size = size;
    // Views stay in the frame, whatever shape they have now.
    const image::Size frame = session_.films.frame_size();
    for (render::ViewAnchor& a : film.views) a.view = render::held_within(a.view, frame, size);
  };
  wire_film(
      size_, [set_size](Wish& film, const std::string& text) { set_size(film, size_in(text)); },
      [this, set_size](Wish& film, int n) {
        std::vector<image::Size> sizes;
        for (const Shape& s : kShapes) sizes.push_back(s.size);
        sizes.push_back(own_size(session_.films.frame_size()));
        const auto at = std::find(sizes.begin(), sizes.end(), film.size);
        const auto many = static_cast<long>(sizes.size());
        const long next = at == sizes.end() ? 0 : ((at - sizes.begin() - n) % many + many) % many;
        set_size(film, sizes[static_cast<size_t>(next)]);
      });
  wire_film(
      quality_,
      [](Wish& film, const std::string& text) {
        film.coding.quality = static_cast<int>(
            std::lround(parse_number(text, kBestQuality, kWorstQuality, say("quality (lower is better)"))));
      },
      [](Wish& film, int n) {
        film.coding.quality = std::clamp(film.coding.quality + n, kBestQuality, kWorstQuality);
      });
}

void CutSentence::show_wish() {
  const take::Take& t = session_.document.take();
  const Wish& film = session_.films.wish();
  using Kind = SlotField::Kind;
  const auto& timeline = session_.films.timeline();
  const auto rate = films::rate_of(t, film);
  length_->set(timeline && rate ? QString::fromStdString(
                                      format_length(static_cast<double>(timeline->frames()) / rate->value()))
                                : say_q("a film"),
               Kind::Answer);
  const auto number = [](SlotField* slot, long long n) {
    slot->set(QString::fromStdString(format_count(n)), Kind::Film, QString::number(n));
  };
  number(first_, film.choice.first);
  number(last_, film.choice.last > 0 ? film.choice.last : count());
  fps_->set(rate ? QString::fromStdString(frame_rate_words(*rate)) : say_q("frames a second"),
            rate ? Kind::Film : Kind::Open, rate ? QString() : QString(" "));
  every_->set(every_words(film.choice.every), Kind::Plain, QString::number(film.choice.every));
  way_->set(way_words()[static_cast<int>(film.choice.way)], Kind::Plain);
  pace_->set(pace_words(film), Kind::Plain);
  between_->set(between_words()[static_cast<int>(film.choice.between)], Kind::Plain);
  steady_->set(steady_words()[static_cast<int>(film.steady)], Kind::Plain);
  trail_->set(trail_word(film), Kind::Plain);
  view_->set(film.views.empty()      ? say_q("whole")
             : film.views.size() > 1 ? say_q("moving")
                                     : say_q("set"),
             Kind::Film);
  size_->set(size_words(film.size), Kind::Film);
  purpose_->set(purpose_word(film), Kind::Film);
  quality_->set(QString::number(film.coding.quality), Kind::Film);
  reflow();
}

BesideSentence::BesideSentence(Session& session, QWidget* parent) : FilmSentence(session, 10, parent) {
  add_slots();
  wire_times();
  wire_choices();
  wire_texts();
}

void BesideSentence::add_slots() {
  add(say_q("Faded in over"));
  fade_in_ = add_slot(say_q("fade in"));
  add(say_q("and out over"));
  fade_out_ = add_slot(say_q("fade out"));
  add(say_q(", held"));
  hold_first_ = add_slot(say_q("how long the first picture stands"));
  add(say_q("at its start and"));
  hold_last_ = add_slot(say_q("how long the last picture stands"));
  add(say_q("at its end, drawn"));
  kernel_ = add_slot(say_q("how it is resampled"));
  add(say_q("; under it"));
  sound_ = add_slot(say_q("sound"));
  add(say_q("from|in the sound"));
  sound_from_ = add_slot(say_q("where in the sound it begins"));
  add(say_q("; written in:"));
  text_ = add_slot(say_q("a line of text"));
  text_->take_words();
  add(",");
  clock_ = add_slot(say_q("a clock"));
  add(",");
  scale_ = add_slot(say_q("a scale"));
  add(say_q("; its metadata say"));
  says_ = add_slot(say_q("what its metadata say of the take"));
  add(",");
  words_ = add_slot(say_q("a description in its metadata"));
  words_->take_words();
  add(say_q(", by"));
  author_ = add_slot(say_q("author"));
  author_->take_words();
  add(say_q(", chapters"));
  chapters_ = add_slot(say_q("chapters"));
  add(say_q("; beside it"));
  poster_ = add_slot(say_q("a poster picture"));
  add(say_q("and"));
  report_ = add_slot(say_q("a report"));
  add(".");
}

void BesideSentence::wire_times() {
  const auto seconds = [this](SlotField* slot, double Wish::*into, const QString& name) {
    wire_film(
        slot,
        [into, name](Wish& film, const std::string& text) {
          film.*into = parse_number(text, 0, 60, name.toStdString());
        },
        [into](Wish& film, int n) {
          film.*into = std::clamp(std::round((film.*into + 0.1 * n) * 10) / 10, 0.0, 60.0);
        });
  };
  seconds(fade_in_, &Wish::fade_in_s, say_q("fade in"));
  seconds(fade_out_, &Wish::fade_out_s, say_q("fade out"));
  const auto held = [this](SlotField* slot, double render::Choice::*into) {
    wire_film(
        slot,
        [into](Wish& film, const std::string& text) {
          film.choice.*into = parse_number(text, 0, 600, say("how long it stands"));
        },
        [into](Wish& film, int n) {
          film.choice.*into = std::clamp(std::round((film.choice.*into + 0.5 * n) * 10) / 10, 0.0, 600.0);
        });
  };
  held(hold_first_, &render::Choice::still_first_s);
  held(hold_last_, &render::Choice::still_last_s);
}

void BesideSentence::wire_choices() {
  wire_film_choice(kernel_, kernel_words(), [](Wish& film, int n) { film.crisp = n == 1; });
  wire_film_choice(clock_, clock_words(), [](Wish& film, int n) { set_clock(film, n); });
  wire_film_choice(says_, says_words(), [](Wish& film, int n) { set_says(film, n); });
  wire_film_choice(chapters_, chapter_words(), [](Wish& film, int n) { film.said.chapters = n == 1; });
  wire_film_choice(report_, report_words(), [](Wish& film, int n) { film.report = n == 1; });
  connect(sound_, &SlotField::committed, this,
          [this](const QString& text) { choose_sound(text.trimmed().toStdString()); });
}

void BesideSentence::wire_texts() {
  wire_film(sound_from_, [](Wish& film, const std::string& text) {
    film.sound_from_s = parse_number(text, 0, 36000, say("where the sound begins"));
  });
  wire_film(text_, [](Wish& film, const std::string& text) {
    film.written.text = meant(text, "no text") ? std::string() : text;
  });
  wire_film(scale_, [](Wish& film, const std::string& text) { set_scale(film, text); });
  wire_film(words_, [](Wish& film, const std::string& text) {
    film.said.words = meant(text, "no description") ? std::string() : text;
  });
  wire_film(author_, [](Wish& film, const std::string& text) {
    film.said.author = meant(text, "no author") ? std::string() : text;
  });
  wire_film(
      poster_,
      [](Wish& film, const std::string& text) {
        film.poster_s.reset();
        if (!text.empty() && !meant(text, "no poster"))
          film.poster_s = parse_number(text, 0, 36000, say("the poster"));
      },
      [](Wish& film, int n) {
        film.poster_s = std::max(0.0, std::round((film.poster_s.value_or(0) + 0.5 * n) * 10) / 10);
      });
}

/// A file that is none, or has no sound, is told at once.
void BesideSentence::choose_sound(const std::string& typed) {
  guarded(this, [&] {
    std::string sound = meant(typed, "no sound") ? std::string() : typed;
    if (!sound.empty()) {
      const std::filesystem::path folder = session_.document.file().parent_path();
      media::check_sound({folder / sound, 0, 0, 0});
      // Beside the take it goes along with it.
      const auto beside = (folder / sound).lexically_relative(folder);
      if (!beside.empty() && *beside.begin() != "..") sound = beside.string();
    }
    session_.films.edit([&](Wish& film) { film.sound = sound; });
  });
}

void BesideSentence::show_wish() {
  const Wish& film = session_.films.wish();
  using Kind = SlotField::Kind;
  const auto plain = [](SlotField* slot, const QString& words, const QString& typed = {}) {
    slot->set(words, Kind::Plain, typed);
  };
  const auto or_none = [](const std::string& text, const QString& none) {
    return text.empty() ? QString(none) : QString::fromStdString(text);
  };
  plain(fade_in_, seconds_word(film.fade_in_s));
  plain(fade_out_, seconds_word(film.fade_out_s));
  plain(hold_first_, seconds_word(film.choice.still_first_s));
  plain(hold_last_, seconds_word(film.choice.still_last_s));
  plain(kernel_, kernel_words()[film.crisp ? 1 : 0]);
  plain(sound_,
        film.sound.empty() ? say_q("no sound")
                           : QString::fromStdString(std::filesystem::path(film.sound).filename().string()),
        film.sound.empty() ? QString(" ") : QString::fromStdString(film.sound));
  plain(sound_from_, seconds_word(film.sound_from_s));
  plain(text_, or_none(film.written.text, say_q("no text")), or_none(film.written.text, " "));
  plain(clock_, clock_word(film));
  plain(scale_, scale_word(film), film.written.scale.empty() ? QString(" ") : scale_word(film));
  plain(says_, says_word(film));
  plain(words_, or_none(film.said.words, say_q("no description")), or_none(film.said.words, " "));
  plain(author_, or_none(film.said.author, say_q("no author")), or_none(film.said.author, " "));
  plain(chapters_, chapter_words()[film.said.chapters ? 1 : 0]);
  plain(poster_,
        film.poster_s ? say_q("a poster at {}", seconds_word(*film.poster_s).toStdString())
                      : say_q("no poster"),
        film.poster_s ? QString::fromStdString(format_number(*film.poster_s, 2)) : QString(" "));
  plain(report_, report_words()[film.report ? 1 : 0]);
  reflow();
}

}  // namespace askcount::app

#include "moc_cut_sentence.cpp"
