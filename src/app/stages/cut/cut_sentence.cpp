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

}  // namespace

CutSentence::CutSentence(Session& session, QWidget* parent) : Sentence(parent, 13), session_(session) {
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
  size_ = add_slot(say_q("size of the film"));
  add(",");
  add(say_q("for|a purpose"));
  purpose_ = add_slot(say_q("what it is for"));
  add_pace_parts();
  add_view_part();
  add_time_parts();
  add_way_of_frames();
  add_sound_part();
  add_written_parts();
  add_beside_parts();
  add_said_parts();
  add(".");
  wire_frames();
  wire_shape();
  connect(this, &Sentence::phrase_added, this, [this](int phrase) {
    if (const auto& first = parts_[static_cast<size_t>(phrase)].first) session_.films.edit(first);
  });
}

void CutSentence::wire_film(SlotField* slot, std::function<void(Wish&, const std::string&)> set,
                            std::function<void(Wish&, int)> nudge) {
  const Films& films = session_.films;
  wire(
      session_, this, slot,
      [&films, set](take::Take& t, const std::string& text) { set(films.wish_in(t), text); },
      nudge ? std::function<void(take::Take&, int)>(
                  [&films, nudge](take::Take& t, int n) { nudge(films.wish_in(t), n); })
            : nullptr);
}

void CutSentence::wire_film_choice(SlotField* slot, const QStringList& words,
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
}

std::vector<int> CutSentence::lanes() const {
  std::vector<int> lanes;
  for (size_t n = 0; n < parts_.size(); ++n) {
    const int lane = parts_[n].lane;
    if (lane >= 0 && has_phrase(static_cast<int>(n)) &&
        std::find(lanes.begin(), lanes.end(), lane) == lanes.end())
      lanes.push_back(lane);
  }
  std::sort(lanes.begin(), lanes.end());
  return lanes;
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
  size_->set(size_words(film.size), Kind::Film);
  purpose_->set(purpose_word(film), Kind::Film);
  for (size_t n = 0; n < parts_.size(); ++n) {
    parts_[n].show(film);
    set_said(static_cast<int>(n), parts_[n].said(film));
  }
  reflow();
}

}  // namespace askcount::app

#include "moc_cut_sentence.cpp"
