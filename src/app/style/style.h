// SPDX-License-Identifier: GPL-3.0-or-later
// How Ask Count looks: its lights, colours and type. Every widget takes its colours from here and nowhere
// else.
#pragma once

#include <QColor>
#include <QFont>
#include <QImage>
#include <QPainter>

namespace askcount::app {

/// The light the window is read in.
enum class Lighting {
  Day,     ///< light and crisp, readable in sun
  Studio,  ///< neutral dark grey around pictures
  Lamp     ///< red on near black, so that eyes stay dark adapted
};

/// Colours have jobs; nothing else is coloured.
struct Colours {
  QColor paper;       ///< behind the work
  QColor bar;         ///< bar, span and foot
  QColor column;      ///< behind the findings
  QColor card;        ///< a finding, a chart
  QColor ink;         ///< words
  QColor muted;       ///< words that only help
  QColor line;        ///< borders, ticks
  QColor field;       ///< field time, as words and lines
  QColor field_fill;  ///< field time, as areas
  QColor film;        ///< film time, as words and lines
  QColor film_fill;   ///< film time, as areas
  QColor answer;      ///< behind an answer Ask Count worked out
  QColor answer_ink;  ///< the answer itself
  QColor ok, warning, stop;
  QColor here;               ///< the frame looked at
  QColor on_fill;            ///< words on an area of field or film time
  QColor well;               ///< behind curves and pictures
  QColor scene, body, land;  ///< a drawn scene: its sky, what moves in it, what stands
};

const Colours& colours(Lighting lighting);
/// Those of the light the window has now.
const Colours& colours();

/// Whether the colours are those of high contrast: words in black or white (in Lamp light all in its one
/// red), lines that are seen. Holds for every widget painted after the light is set again.
void set_high_contrast(bool high);
bool high_contrast();

Lighting current_lighting();
/// Changes the light for every widget painted from here on.
void set_lighting(Lighting lighting);

/// Loads the fonts that ship with the application. Call once, with the application made.
void load_fonts();

/// Words: Manrope at `points` by the system's font size (9 is small, 10 normal).
QFont word_font(double points = 10, QFont::Weight weight = QFont::Normal);
/// Figures: B612, all of one width.
QFont figure_font(double points = 10, bool bold = false);

/// How much larger type is than what the window was drawn for: 1 to 2 and more, by the desktop's text size.
double type_scale();

/// Draws one line of words with the painter's font in a place that may be narrower than they are: they are
/// set narrower then, to three quarters, and what is still too long ends in "…".
void draw_fitted(QPainter& painter, const QRectF& place, int flags, const QString& words);

/// A picture as the light allows it to be shown: dimmed to red in Lamp light, as it is otherwise.
QImage shown_picture(const QImage& picture);

/// The colour of the sky, for a clear evening, by the sun's altitude in degrees: what the field ruler is
/// tinted with.
QColor sky_tint(double sun_altitude_deg);

}  // namespace askcount::app
