// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/style/style.h"

#include <algorithm>

#include <QApplication>
#include <QFontDatabase>
#include <QPalette>
#include "sky/tint.h"

namespace askcount::app {
namespace {

Lighting lighting_now = Lighting::Day;

const Colours kDay = {
    .paper = {0xEE, 0xF1, 0xF1},
    .bar = {0xFF, 0xFF, 0xFF},
    .column = {0xE2, 0xE8, 0xEA},
    .card = {0xFF, 0xFF, 0xFF},
    .ink = {0x13, 0x24, 0x2B},
    .muted = {0x52, 0x62, 0x69},
    .line = {0xC3, 0xCE, 0xD2},
    .field = {0x00, 0x72, 0x7C},
    .field_fill = {0x9F, 0xCF, 0xCB},
    .film = {0x8A, 0x2D, 0x6B},
    .film_fill = {0x8A, 0x2D, 0x6B},
    .answer = {0xFF, 0xD8, 0x4D},
    .answer_ink = {0x13, 0x24, 0x2B},
    .ok = {0x23, 0x7A, 0x4B},
    .warning = {0xC0, 0x7A, 0x00},
    .stop = {0xB9, 0x34, 0x2A},
    .here = {0x13, 0x24, 0x2B},
    .on_fill = {0xFF, 0xFF, 0xFF},
    .well = {0xFF, 0xFF, 0xFF},
    .scene = {0xDB, 0xE2, 0xE1},
    .body = {0x5F, 0x77, 0x80},
    .land = {0x35, 0x4F, 0x5A},
};

const Colours kStudio = {
    .paper = {0x2B, 0x30, 0x33},
    .bar = {0x35, 0x3B, 0x3F},
    .column = {0x31, 0x37, 0x3A},
    .card = {0x3C, 0x43, 0x47},
    .ink = {0xEC, 0xEF, 0xF0},
    .muted = {0xA9, 0xB3, 0xB7},
    .line = {0x53, 0x5C, 0x61},
    .field = {0x5C, 0xC3, 0xC4},
    .field_fill = {0x2F, 0x6E, 0x70},
    .film = {0xE0, 0x9B, 0xC9},
    .film_fill = {0x8A, 0x2D, 0x6B},
    .answer = {0xFF, 0xD8, 0x4D},
    .answer_ink = {0x13, 0x24, 0x2B},
    .ok = {0x5B, 0xB9, 0x83},
    .warning = {0xE3, 0xA0, 0x33},
    .stop = {0xE8, 0x6E, 0x62},
    .here = {0xFF, 0xD8, 0x4D},
    .on_fill = {0x13, 0x24, 0x2B},
    .well = {0x26, 0x2B, 0x2D},
    .scene = {0x24, 0x29, 0x2B},
    .body = {0xC6, 0xD2, 0xD6},
    .land = {0x35, 0x4F, 0x5A},
};

// Nothing here is brighter than the words: (226, 87, 63). The shapes of findings tell what colours cannot.
const Colours kLamp = {
    .paper = {12, 5, 4},
    .bar = {20, 8, 7},
    .column = {16, 6, 5},
    .card = {26, 10, 8},
    .ink = {226, 87, 63},
    .muted = {166, 62, 46},
    .line = {58, 21, 18},
    .field = {194, 74, 54},
    .field_fill = {74, 19, 13},
    .film = {194, 74, 54},
    .film_fill = {90, 26, 18},
    .answer = {58, 14, 10},
    .answer_ink = {226, 87, 63},
    .ok = {226, 87, 63},
    .warning = {226, 87, 63},
    .stop = {226, 87, 63},
    .here = {226, 87, 63},
    .on_fill = {226, 87, 63},
    .well = {16, 6, 5},
    .scene = {29, 11, 9},
    .body = {138, 42, 28},
    .land = {44, 13, 10},
};

/// Sharpened for eyes that need it.
Colours sharp(Lighting lighting) {
  if (lighting == Lighting::Day) {
    Colours c = kDay;
    c.paper = c.bar = c.column = c.card = c.well = Qt::white;
    c.ink = c.answer_ink = c.here = Qt::black;
    c.line = {0x8A, 0x8A, 0x8A};  // words in ink stand on areas of it
    c.muted = {0x2A, 0x2A, 0x2A};
    c.field = {0x00, 0x4A, 0x52};
    c.film = c.film_fill = {0x66, 0x10, 0x4A};
    c.ok = {0x0B, 0x56, 0x2C};
    c.warning = {0x7A, 0x44, 0x00};
    c.stop = {0x93, 0x0E, 0x0E};
    return c;
  }
  if (lighting == Lighting::Studio) {
    Colours c = kStudio;
    c.paper = c.bar = c.column = c.card = c.well = Qt::black;
    c.ink = Qt::white;
    c.line = {0x70, 0x70, 0x70};
    c.muted = {0xE0, 0xE0, 0xE0};
    c.answer_ink = c.on_fill = Qt::black;
    c.field = {0x8A, 0xF0, 0xEE};
    c.field_fill = {0x5C, 0xC3, 0xC4};
    c.film = {0xFF, 0xC2, 0xE6};
    c.film_fill = {0xE0, 0x9B, 0xC9};
    c.ok = {0x7D, 0xF0, 0xAC};
    c.warning = {0xFF, 0xC4, 0x5C};
    c.stop = {0xFF, 0x9A, 0x90};
    return c;
  }
  Colours c = kLamp;
  c.paper = c.bar = c.column = c.card = c.well = Qt::black;
  c.muted = c.field = c.film = c.ink;
  c.line = {166, 62, 46};
  return c;
}

bool high_now = false;

double base_points() {
  return std::max(7.0, QApplication::font().pointSizeF() > 0 ? QApplication::font().pointSizeF() : 9.0);
}

}  // namespace

const Colours& colours(Lighting lighting) {
  static const Colours day = sharp(Lighting::Day), studio = sharp(Lighting::Studio),
                       lamp = sharp(Lighting::Lamp);
  if (high_now) return lighting == Lighting::Day ? day : lighting == Lighting::Studio ? studio : lamp;
  return lighting == Lighting::Day ? kDay : lighting == Lighting::Studio ? kStudio : kLamp;
}
const Colours& colours() {
  return colours(lighting_now);
}
void set_high_contrast(bool high) {
  high_now = high;
}
bool high_contrast() {
  return high_now;
}
Lighting current_lighting() {
  return lighting_now;
}

void set_lighting(Lighting lighting) {
  lighting_now = lighting;
  const Colours& c = colours();
  QPalette p;
  p.setColor(QPalette::Window, c.paper);
  p.setColor(QPalette::WindowText, c.ink);
  p.setColor(QPalette::Base, c.card);
  p.setColor(QPalette::AlternateBase, c.column);
  p.setColor(QPalette::Text, c.ink);
  p.setColor(QPalette::Button, c.bar);
  p.setColor(QPalette::ButtonText, c.ink);
  p.setColor(QPalette::Highlight, c.field);
  p.setColor(QPalette::HighlightedText, lighting == Lighting::Lamp ? c.paper : c.on_fill);
  p.setColor(QPalette::ToolTipBase, c.card);
  p.setColor(QPalette::ToolTipText, c.ink);
  p.setColor(QPalette::PlaceholderText, c.muted);
  QApplication::setPalette(p);
}

// A family the system has already is left alone: of two copies Qt 6.4 takes the faces of one for those of the
// other.
void load_fonts() {
  const QStringList there = QFontDatabase::families();
  const auto load = [&](const char* family, std::initializer_list<const char*> files) {
    if (there.contains(family)) return;
    for (const char* file : files) QFontDatabase::addApplicationFont(QString(":/fonts/") + file);
  };
  load("Manrope", {"Manrope-Regular.ttf", "Manrope-Medium.ttf", "Manrope-SemiBold.ttf", "Manrope-Bold.ttf"});
  load("B612", {"B612-Regular.otf", "B612-Bold.otf"});
}

// Sizes are given for a system font of 10 points and grow with it.
double type_scale() {
  return std::max(1.0, base_points() / 10);
}

QFont word_font(double points, QFont::Weight weight) {
  QFont f("Manrope");
  f.setPointSizeF(points * type_scale());
  f.setWeight(weight);
  return f;
}

void draw_fitted(QPainter& painter, const QRectF& place, int flags, const QString& words) {
  constexpr int kNarrowest = 75;  // per cent
  const QFont font = painter.font();
  const double wide = QFontMetricsF(font).horizontalAdvance(words);
  QString shown = words;
  if (wide > place.width()) {
    QFont narrow = font;
    narrow.setStretch(std::max(kNarrowest, static_cast<int>(100 * place.width() / wide)));
    painter.setFont(narrow);
    shown = QFontMetricsF(narrow).elidedText(words, Qt::ElideRight, place.width());
  }
  painter.drawText(place, flags, shown);
  painter.setFont(font);
}

QFont figure_font(double points, bool bold) {
  QFont f("B612");
  f.setPointSizeF(points * type_scale());
  f.setBold(bold);
  return f;
}

namespace {

/// As bright as the lamp's light allows, and red.
QRgb lamp_of(QRgb c) {
  const int grey = qGray(c);
  return qRgba(12 + grey * 150 / 255, 5 + grey * 52 / 255, 4 + grey * 36 / 255, qAlpha(c));
}

}  // namespace

QImage shown_picture(const QImage& picture) {
  if (lighting_now != Lighting::Lamp || picture.isNull()) return picture;
  QImage red =
      picture.convertToFormat(picture.hasAlphaChannel() ? QImage::Format_ARGB32 : QImage::Format_RGB32);
  for (int y = 0; y < red.height(); ++y) {
    auto* line = reinterpret_cast<QRgb*>(red.scanLine(y));
    for (int x = 0; x < red.width(); ++x) line[x] = lamp_of(line[x]);
  }
  return red;
}

QColor sky_tint(double altitude) {
  if (lighting_now == Lighting::Lamp) {
    const int k = static_cast<int>(std::clamp((altitude + 18) / 32, 0.0, 1.0) * 60);
    return {30 + k, 9 + k * 17 / 60, 7 + k * 11 / 60};
  }
  const auto rgb = sky::tint(altitude);
  return {rgb[0], rgb[1], rgb[2]};
}

}  // namespace askcount::app
