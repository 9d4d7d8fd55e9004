// SPDX-License-Identifier: GPL-3.0-or-later
// A film's choices as the words of the sentence, and back.
#pragma once

#include <QString>
#include <QStringList>

#include "take/film_wish.h"

namespace askcount::app {

/// Every nth frame: "every frame", "every 2nd frame".
QString every_words(long long every);
/// How fast: "as shot", "2 × as fast", "along a curve" where there are several anchors.
QString pace_words(const take::FilmWish& film);
/// What the camera's movement becomes, in the order of motion::Mode.
QStringList steady_words();
/// What is between frames, in the order of render::Between.
QStringList between_words();
/// Which way it goes, in the order of render::Way.
QStringList way_words();
/// Trails: "as shot", "of 4 frames", "bright throughout".
QStringList trail_words();
QString trail_word(const take::FilmWish& film);
void set_trail(take::FilmWish& film, int choice);
/// What it is for, in the order of media::Purpose, and one more for a coding of one's own.
QStringList purpose_words();
QString purpose_word(const take::FilmWish& film);
void set_purpose(take::FilmWish& film, int choice);
/// Pixels between pixels: calm or crisp.
QStringList kernel_words();
/// Which clock is written in.
QStringList clock_words();
QString clock_word(const take::FilmWish& film);
void set_clock(take::FilmWish& film, int choice);
/// "1 m on 0.2 of the frame", and what was typed of it: "1 m = 0.2". Throws BadInput.
QString scale_word(const take::FilmWish& film);
void set_scale(take::FilmWish& film, const std::string& text);
/// What it says of the take in its own data.
QStringList says_words();
QString says_word(const take::FilmWish& film);
void set_says(take::FilmWish& film, int choice);
QStringList chapter_words();
QStringList report_words();
/// "H.264", "ProRes, 10 bits, 4:2:2".
QString coding_words(const media::Coding& coding);

}  // namespace askcount::app
