#include "app/look/look.h"

#include <algorithm>
#include <array>
#include <QApplication>
#include <QFontDatabase>
#include <QPalette>

namespace askcount::app {
namespace {

Light light_now = Light::Day;

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
    .film = {0xDE, 0x97, 0xC6},
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
    .muted = {156, 58, 43},
    .line = {58, 21, 18},
    .field = {194, 74, 54},
    .field_fill = {74, 19, 13},
    .film = {194, 74, 54},
    .film_fill = {90, 26, 18},
    .answer = {74, 19, 13},
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

double base_points() {
  return std::max(7.0, QApplication::font().pointSizeF() > 0 ? QApplication::font().pointSizeF() : 9.0);
}

}  // namespace

const Colours& colours(Light light) {
  return light == Light::Day ? kDay : light == Light::Studio ? kStudio : kLamp;
}
const Colours& colours() {
  return colours(light_now);
}
Light current_light() {
  return light_now;
}

void set_light(Light light) {
  light_now = light;
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
  p.setColor(QPalette::HighlightedText, light == Light::Lamp ? c.paper : c.on_fill);
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
QFont words(double points, QFont::Weight weight) {
  QFont f("Manrope");
  f.setPointSizeF(points * std::max(1.0, base_points() / 10));
  f.setWeight(weight);
  return f;
}

QFont figures(double points, bool bold) {
  QFont f("B612");
  f.setPointSizeF(points * std::max(1.0, base_points() / 10));
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
  if (light_now != Light::Lamp || picture.isNull()) return picture;
  QImage red =
      picture.convertToFormat(picture.hasAlphaChannel() ? QImage::Format_ARGB32 : QImage::Format_RGB32);
  for (int y = 0; y < red.height(); ++y) {
    auto* line = reinterpret_cast<QRgb*>(red.scanLine(y));
    for (int x = 0; x < red.width(); ++x) line[x] = lamp_of(line[x]);
  }
  return red;
}

QColor sky_tint(double altitude) {
  if (light_now == Light::Lamp) {
    const int k = static_cast<int>(std::clamp((altitude + 18) / 32, 0.0, 1.0) * 60);
    return {30 + k, 9 + k * 17 / 60, 7 + k * 11 / 60};
  }
  struct Stop {
    double altitude;
    QColor colour;
  };
  static const std::array<Stop, 7> stops = {{{-18, {0x1B, 0x22, 0x3F}},
                                             {-9, {0x3F, 0x44, 0x72}},
                                             {-4, {0x8B, 0x6F, 0x8C}},
                                             {-0.8, {0xD0, 0x86, 0x6C}},
                                             {2, {0xE8, 0xBE, 0x86}},
                                             {6, {0xD3, 0xCF, 0xB8}},
                                             {14, {0xB9, 0xD4, 0xDE}}}};
  if (altitude <= stops.front().altitude) return stops.front().colour;
  for (size_t i = 1; i < stops.size(); ++i)
    if (altitude < stops[i].altitude) {
      const double t = (altitude - stops[i - 1].altitude) / (stops[i].altitude - stops[i - 1].altitude);
      const auto mix = [t](int a, int b) { return static_cast<int>(a + (b - a) * t); };
      const QColor &a = stops[i - 1].colour, &b = stops[i].colour;
      return {mix(a.red(), b.red()), mix(a.green(), b.green()), mix(a.blue(), b.blue())};
    }
  return stops.back().colour;
}

}  // namespace askcount::app
