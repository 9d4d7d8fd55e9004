#include "app/stages/cut/film_words.h"

#include "base/units.h"

namespace askcount::app {
namespace {

constexpr long long kTrails[] = {1, 2, 4, 8, 16};
constexpr film::Purpose kPurposes[] = {film::Purpose::Web, film::Purpose::Editor, film::Purpose::Keep,
                                       film::Purpose::Phone};

}  // namespace

QString every_words(long long every) {
  if (every == 1) return "every frame";
  const long long ten = every % 100, one = every % 10;
  const char* end = ten >= 11 && ten <= 13 ? "th"
                    : one == 1             ? "st"
                    : one == 2             ? "nd"
                    : one == 3             ? "rd"
                                           : "th";
  return QString("every %1%2 frame").arg(every).arg(end);
}

QString pace_words(const take::FilmWish& film) {
  const auto& speed = film.choice.speed;
  if (speed.size() > 1) return "along a curve";
  if (speed.empty() || speed.front().times == 1) return "as shot";
  return QString::fromStdString(format_number(speed.front().times, 3)) + QString::fromUtf8(" × as fast");
}

const QStringList& steady_words() {
  static const QStringList words = {"as the camera stood", "without knocks", "standing still",
                                    "walking smoothly"};
  return words;
}

const QStringList& between_words() {
  static const QStringList words = {"repeated", "blended", "made by motion"};
  return words;
}

const QStringList& way_words() {
  static const QStringList words = {"forwards", "backwards", "to and fro"};
  return words;
}

const QStringList& trail_words() {
  static const QStringList words = {"as shot",     "of 2 frames",  "of 4 frames",
                                    "of 8 frames", "of 16 frames", "bright for good"};
  return words;
}

QString trail_word(const take::FilmWish& film) {
  if (film.choice.bright < 0) return trail_words().back();
  if (film.choice.bright > 0) return QString("bright for %1 frames").arg(film.choice.bright);
  return film.choice.trail == 1 ? trail_words().front() : QString("of %1 frames").arg(film.choice.trail);
}

void set_trail(take::FilmWish& film, int choice) {
  const bool bright = choice == static_cast<int>(std::size(kTrails));
  film.choice.bright = bright ? cut::kAllFrames : 0;
  film.choice.trail = bright ? 1 : kTrails[choice];
}

const QStringList& purpose_words() {
  static const QStringList words = {"the web", "an editor", "to keep", "a phone"};
  return words;
}

QString purpose_word(const take::FilmWish& film) {
  for (int n = 0; n < purpose_words().size(); ++n) {
    const film::Usual usual = film::usual_for(kPurposes[n]);
    film::Coding like = usual.coding;
    if (film::facts_of(like.codec).codec != film::Codec::H264) like.quality = film.coding.quality;
    if (like == film.coding && film.ending == usual.ending) return purpose_words()[n];
  }
  return coding_words(film.coding);
}

void set_purpose(take::FilmWish& film, int choice) {
  const film::Usual usual = film::usual_for(kPurposes[choice]);
  film.coding = usual.coding;
  film.ending = usual.ending;
}

QString coding_words(const film::Coding& coding) {
  QString words = film::facts_of(coding.codec).words;
  if (coding.bits == 10) words += ", 10 bits";
  if (coding.chroma == film::Chroma::Half422) words += ", 4:2:2";
  return words;
}

}  // namespace askcount::app
