// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/canvas.h"

#include <cairo.h>
#include <pango/pangocairo.h>

#include <algorithm>

#include "base/error.h"
#include "image/cairo_png.h"
#include "image/fonts.h"

namespace askcount::image {
namespace {

constexpr double kWordRim = 0.22;  // of the letters' size

struct Box {
  double x, y, wide, high;
  bool meets(const Box& o) const {
    return x < o.x + o.wide && o.x < x + wide && y < o.y + o.high && o.y < y + high;
  }
};

}  // namespace

struct Canvas::Parts {
  int width, height;
  cairo_surface_t* surface;
  cairo_t* cairo;
  std::vector<Box> written;

  Parts(int w, int h)
      : width(w),
        height(h),
        surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24, w, h)),
        cairo(cairo_create(surface)) {}
  ~Parts() {
    cairo_destroy(cairo);
    cairo_surface_destroy(surface);
  }
  Parts(const Parts&) = delete;
  void ink(const Ink& i) const { cairo_set_source_rgba(cairo, i.r, i.g, i.b, i.a); }
};

Canvas::Canvas(int width, int height, const std::uint8_t* rgb)
    : parts_(std::make_unique<Parts>(width, height)) {
  know_fonts();
  if (cairo_status(parts_->cairo) != CAIRO_STATUS_SUCCESS)
    throw failed("There is no room for a picture of that size.");
  cairo_surface_flush(parts_->surface);
  unsigned char* to = cairo_image_surface_get_data(parts_->surface);
  const int stride = cairo_image_surface_get_stride(parts_->surface);
  for (int y = 0; y < height; ++y) {
    auto* row = reinterpret_cast<std::uint32_t*>(to + static_cast<std::ptrdiff_t>(y) * stride);
    for (int x = 0; x < width; ++x, rgb += 3)
      row[x] = static_cast<std::uint32_t>(rgb[0]) << 16 | static_cast<std::uint32_t>(rgb[1]) << 8 | rgb[2];
  }
  cairo_surface_mark_dirty(parts_->surface);
}

Canvas::~Canvas() = default;

int Canvas::width() const {
  return parts_->width;
}
int Canvas::height() const {
  return parts_->height;
}

void Canvas::line(const std::vector<Spot>& through, const Ink& ink, double wide, Style style, bool closed) {
  if (through.size() < 2) return;
  cairo_t* c = parts_->cairo;
  const double dash[] = {style == Style::Dotted ? wide : 4 * wide,
                         style == Style::Dotted ? 2.2 * wide : 2.5 * wide};
  cairo_set_dash(c, dash, style == Style::Solid ? 0 : 2, 0);
  cairo_set_line_join(c, CAIRO_LINE_JOIN_ROUND);
  cairo_set_line_width(c, wide);
  for (const Spot& s : through) cairo_line_to(c, s.x, s.y);
  if (closed) cairo_close_path(c);
  parts_->ink(ink);
  cairo_stroke(c);
}

void Canvas::dot(const Spot& at, double radius, const Ink& ink) {
  cairo_t* c = parts_->cairo;
  cairo_new_sub_path(c);
  cairo_arc(c, at.x, at.y, radius, 0, 2 * 3.14159265358979);
  parts_->ink(ink);
  cairo_fill(c);
}

bool Canvas::words(const Spot& at, const std::string& text, double pixels, const Ink& ink, bool bold) {
  cairo_t* c = parts_->cairo;
  PangoLayout* layout = pango_cairo_create_layout(c);
  PangoFontDescription* font = pango_font_description_from_string(bold ? "Manrope Bold" : "Manrope Medium");
  pango_font_description_set_absolute_size(font, pixels * PANGO_SCALE);
  pango_layout_set_font_description(layout, font);
  pango_font_description_free(font);
  pango_layout_set_text(layout, text.c_str(), static_cast<int>(text.size()));
  int w = 0, h = 0;
  pango_layout_get_pixel_size(layout, &w, &h);
  const double base = static_cast<double>(pango_layout_get_baseline(layout)) / PANGO_SCALE;
  Box box{at.x, at.y - base, static_cast<double>(w), static_cast<double>(h)};
  box.x = std::clamp(box.x, 2.0, std::max(2.0, parts_->width - box.wide - 2));
  box.y = std::clamp(box.y, 2.0, std::max(2.0, parts_->height - box.high - 2));
  const bool free = std::none_of(parts_->written.begin(), parts_->written.end(),
                                 [&](const Box& b) { return b.meets(box); });
  if (free) {
    cairo_set_dash(c, nullptr, 0, 0);
    cairo_move_to(c, box.x, box.y);
    pango_cairo_layout_path(c, layout);
    cairo_set_line_join(c, CAIRO_LINE_JOIN_ROUND);
    cairo_set_line_width(c, kWordRim * pixels);
    parts_->ink({0.06, 0.07, 0.09, 0.75});
    cairo_stroke_preserve(c);
    parts_->ink(ink);
    cairo_fill(c);
    parts_->written.push_back(box);
  }
  g_object_unref(layout);
  return free;
}

std::string Canvas::png() const {
  return png_bytes(parts_->surface);
}

void Canvas::save(const std::filesystem::path& file, const Guard& guard) const {
  write_png(parts_->surface, file, guard);
}

}  // namespace askcount::image
