// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/cut/film_words.h"

#include "app/style/text.h"
#include "base/error.h"
#include "base/language.h"
#include "base/number.h"
#include "base/units.h"

namespace askcount::app {
namespace {

constexpr long long kTrails[] = {1, 2, 4, 8, 16};
constexpr media::Purpose kPurposes[] = {media::Purpose::Web, media::Purpose::Editor, media::Purpose::Keep,
                                        media::Purpose::Phone};

}  // namespace

QString every_words(long long every) {
  if (every == 1) return say_q("every frame");
  const long long ten = every % 100, one = ten >= 11 && ten <= 13 ? 0 : every % 10;
  return one == 1   ? say_q("every {}st frame", every)
         : one == 2 ? say_q("every {}nd frame", every)
         : one == 3 ? say_q("every {}rd frame", every)
                    : say_q("every {}th frame", every);
}

QString pace_words(const take::FilmWish& film) {
  const auto& speed = film.choice.speed;
  if (speed.size() > 1) return say_q("along a curve");
  if (speed.empty() || speed.front().times == 1) return say_q("as shot");
  return say_q("{} × as fast", format_number(speed.front().times, 3));
}

QStringList steady_words() {
  return {say_q("as the camera stood"), say_q("without knocks"), say_q("standing still"),
          say_q("walking smoothly")};
}

QStringList between_words() {
  return {say_q("repeated"), say_q("blended"), say_q("made by motion")};
}

QStringList way_words() {
  return {say_q("forwards"), say_q("backwards"), say_q("to and fro")};
}

QStringList trail_words() {
  return {say_q("as shot"),     say_q("of 2 frames"),  say_q("of 4 frames"),
          say_q("of 8 frames"), say_q("of 16 frames"), say_q("bright throughout")};
}

QString trail_word(const take::FilmWish& film) {
  if (film.choice.bright < 0) return trail_words().back();
  if (film.choice.bright > 0) return say_q("bright for %1 frames").arg(film.choice.bright);
  return film.choice.trail == 1 ? trail_words().front() : say_q("of %1 frames").arg(film.choice.trail);
}

void set_trail(take::FilmWish& film, int choice) {
  const bool bright = choice == static_cast<int>(std::size(kTrails));
  film.choice.bright = bright ? render::kAllFrames : 0;
  film.choice.trail = bright ? 1 : kTrails[choice];
}

QStringList purpose_words() {
  return {say_q("the web"), say_q("an editor"), say_q("to keep"), say_q("a phone")};
}

QString purpose_word(const take::FilmWish& film) {
  for (int n = 0; n < purpose_words().size(); ++n) {
    const media::Usual usual = media::usual_for(kPurposes[n]);
    media::Coding like = usual.coding;
    if (!media::facts_of(like.codec).has_quality) like.quality = film.coding.quality;
    if (like == film.coding && film.ending == usual.ending) return purpose_words()[n];
  }
  return coding_words(film.coding);
}

void set_purpose(take::FilmWish& film, int choice) {
  const media::Usual usual = media::usual_for(kPurposes[choice]);
  film.coding = usual.coding;
  film.ending = usual.ending;
}

QStringList kernel_words() {
  return {say_q("smoothly"), say_q("crisply")};
}

QStringList clock_words() {
  return {say_q("no clock"), say_q("the time"), say_q("the date"), say_q("date and time"),
          say_q("the elapsed time")};
}

QString clock_word(const take::FilmWish& film) {
  const render::Written& w = film.written;
  if (w.elapsed && (w.time || w.date)) return say_q("date, time and elapsed time");
  return clock_words()[w.elapsed ? 4 : (w.time ? 1 : 0) + (w.date ? 2 : 0)];
}

void set_clock(take::FilmWish& film, int choice) {
  film.written.time = choice == 1 || choice == 3;
  film.written.date = choice == 2 || choice == 3;
  film.written.elapsed = choice == 4;
}

QString scale_word(const take::FilmWish& film) {
  if (film.written.scale.empty()) return say_q("no scale");
  return QString::fromStdString(film.written.scale + " = " + format_number(film.written.scale_share, 3));
}

void set_scale(take::FilmWish& film, const std::string& text) {
  if (text.empty() || meant(text, "no scale")) {
    film.written.scale.clear();
    return;
  }
  const size_t at = text.find('=');
  const QString words = QString::fromStdString(text.substr(0, at)).trimmed();
  std::string_view value = std::string_view(text).substr(at == std::string::npos ? text.size() : at + 1);
  while (value.starts_with(' ')) value.remove_prefix(1);
  const double share = take_number(value).value_or(0);
  if (words.isEmpty() || !value.empty() || !(share > 0 && share <= 1))
    throw bad_input(say("For the scale, write what it measures and its share of the frame's width."),
                    say("For example: 1 m = 0.2."));
  film.written.scale = words.toStdString();
  film.written.scale_share = share;
}

QStringList says_words() {
  return {say_q("nothing about the take"), say_q("its title"), say_q("its title and place")};
}

QString says_word(const take::FilmWish& film) {
  return film.said.place ? says_words()[2] : says_words()[film.said.title ? 1 : 0];
}

void set_says(take::FilmWish& film, int choice) {
  film.said.title = choice > 0;
  film.said.place = choice > 1;
}

QStringList chapter_words() {
  return {say_q("none|chapters"), say_q("where the light changes")};
}

QStringList report_words() {
  return {say_q("no report"), say_q("a report")};
}

QString coding_words(const media::Coding& coding) {
  QString words = media::facts_of(coding.codec).words;
  if (coding.bits == 10) words += say_q(", 10 bits");
  if (coding.chroma == media::Chroma::Half422) words += ", 4:2:2";
  return words;
}

}  // namespace askcount::app
